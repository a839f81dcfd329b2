// Command byhand measures the generated Go beside what a careful author writes by hand for the same jobs.
// It prints one line a job: name, ratio, nanoseconds. `generated.py` runs it in a module of its own.
package main

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"
	"unicode/utf8"
)

type limitError struct {
	Owner, Field, Limit string
	Bound               any
}

func (e *limitError) Error() string { return fmt.Sprint(e.Owner, ".", e.Field, " breaks ", e.Limit) }

type position struct{ latitude, longitude float64 }

func finite(value float64) bool { return !math.IsNaN(value) && !math.IsInf(value, 0) }

func newPosition(latitude, longitude float64) (*position, error) {
	switch {
	case !finite(latitude):
		return nil, &limitError{"Position", "latitude", "finite", nil}
	case latitude < -90:
		return nil, &limitError{"Position", "latitude", "min", -90.0}
	case latitude > 90:
		return nil, &limitError{"Position", "latitude", "max", 90.0}
	case !finite(longitude):
		return nil, &limitError{"Position", "longitude", "finite", nil}
	case longitude < -180:
		return nil, &limitError{"Position", "longitude", "min", -180.0}
	case longitude > 180:
		return nil, &limitError{"Position", "longitude", "max", 180.0}
	}
	return &position{latitude + 0, longitude + 0}, nil
}

type mark interface{ Station() int64 }

type markOptions struct {
	Side       string
	Remarks    *string
	Reflective *bool
}

type markFields struct {
	station    int64
	position   *position
	side       string
	remarks    *string
	reflective bool
}

func (m *markFields) Station() int64 { return m.station }

func newMark(station int64, position *position, opts markOptions, reflective bool) (markFields, error) {
	if opts.Reflective != nil {
		reflective = *opts.Reflective
	}
	switch {
	case station < 1:
		return markFields{}, &limitError{"Mark", "station", "min", 1}
	case station > 9999:
		return markFields{}, &limitError{"Mark", "station", "max", 9999}
	case opts.Side != "" && opts.Side != "port" && opts.Side != "starboard":
		return markFields{}, &limitError{"Mark", "side", "choice", nil}
	case opts.Remarks != nil && utf8.RuneCountInString(*opts.Remarks) > 200:
		return markFields{}, &limitError{"Mark", "remarks", "max_length", 200}
	}
	remarks := opts.Remarks
	if remarks != nil {
		own := *remarks
		remarks = &own
	}
	return markFields{station, position, opts.Side, remarks, reflective}, nil
}

type buoy struct {
	markFields
	draught float64
}

type buoyOptions struct {
	markOptions
	Draught *float64
}

func newBuoy(station int64, position *position, opts buoyOptions) (*buoy, error) {
	if position == nil {
		return nil, errors.New("position is missing")
	}
	base, err := newMark(station, position, opts.markOptions, true)
	if err != nil {
		return nil, err
	}
	draught := 1.5
	if opts.Draught != nil {
		draught = *opts.Draught
	}
	if math.IsNaN(draught) || math.IsInf(draught, 0) || draught <= 0 {
		return nil, &limitError{"Buoy", "draught", "above", 0.0}
	}
	return &buoy{base, draught}, nil
}

type markMaker func(station int64, position *position, opts markOptions) (mark, error)

type markRegistry struct {
	mu     sync.RWMutex
	makers map[string]markMaker
}

func newMarkRegistry() *markRegistry {
	return &markRegistry{makers: map[string]markMaker{
		"buoy": func(station int64, position *position, opts markOptions) (mark, error) {
			made, err := newBuoy(station, position, buoyOptions{markOptions: opts})
			if err != nil {
				return nil, err
			}
			return made, nil
		},
	}}
}

func (r *markRegistry) Make(key string, station int64, position *position, opts markOptions) (mark, error) {
	r.mu.RLock()
	maker, found := r.makers[key]
	r.mu.RUnlock()
	if !found {
		return nil, errors.New("unknown key " + key)
	}
	return maker(station, position, opts)
}

type leg struct {
	label string
	hours float64
}

func newLeg(label string, hours float64) (*leg, error) {
	made := &leg{}
	if err := made.setLabel(label); err != nil {
		return nil, err
	}
	switch {
	case !finite(hours):
		return nil, &limitError{"Leg", "hours", "finite", nil}
	case hours < 0:
		return nil, &limitError{"Leg", "hours", "min", 0.0}
	}
	made.hours = hours + 0
	return made, nil
}

func (l *leg) setLabel(label string) error {
	if blank(label) {
		return &limitError{"Leg", "label", "not_blank", nil}
	}
	l.label = label
	return nil
}

func (l *leg) clone() *leg {
	own := *l
	return &own
}

func cloneLegs(legs []*leg) []*leg {
	own := make([]*leg, len(legs))
	for i, l := range legs {
		own[i] = l.clone()
	}
	return own
}

type refitPlan struct {
	title  string
	legs   []*leg
	crew   int64
	tags   []string
	sheets []*string
	chart  *string
	serial *int64
}

func blank(s string) bool { return strings.Trim(s, " \t\n\v\f\r") == "" }

type refitPlanOptions struct {
	Crew   *int64
	Tags   []string
	Sheets []*string
	Chart  *string
	Serial *int64
}

func newRefitPlan(title string, legs []*leg, opts refitPlanOptions) (*refitPlan, error) {
	made := &refitPlan{title: title, crew: 2, chart: opts.Chart}
	if blank(title) {
		return nil, &limitError{"RefitPlan", "title", "not_blank", nil}
	}
	if len(legs) < 1 {
		return nil, &limitError{"RefitPlan", "legs", "min_length", 1}
	}
	for _, l := range legs {
		if l == nil {
			return nil, errors.New("legs is missing")
		}
	}
	if opts.Crew != nil {
		if *opts.Crew < 1 {
			return nil, &limitError{"RefitPlan", "crew", "min", 1}
		}
		made.crew = *opts.Crew
	}
	for _, sheet := range opts.Sheets {
		if sheet == nil {
			return nil, errors.New("sheets is missing")
		}
	}
	if opts.Serial != nil {
		if *opts.Serial < 1 {
			return nil, &limitError{"RefitPlan", "serial", "min", 1}
		}
		serial := *opts.Serial
		made.serial = &serial
	}
	made.legs, made.tags, made.sheets = cloneLegs(legs), slices.Clone(opts.Tags), slices.Clone(opts.Sheets)
	return made, nil
}

func (p *refitPlan) Clone() *refitPlan {
	own := *p
	own.legs = cloneLegs(p.legs)
	own.serial = nil
	return &own
}

type refitPlanBuilder struct {
	title *string
	legs  []*leg
	opts  refitPlanOptions
}

func (b *refitPlanBuilder) Title(title string) *refitPlanBuilder {
	b.title = &title
	return b
}

func (b *refitPlanBuilder) Crew(crew int64) *refitPlanBuilder {
	b.opts.Crew = &crew
	return b
}

func (b *refitPlanBuilder) Tags(tags ...string) *refitPlanBuilder {
	b.opts.Tags = slices.Clone(tags)
	return b
}

func (b *refitPlanBuilder) AddLeg(l *leg) *refitPlanBuilder {
	b.legs = append(b.legs, l.clone())
	return b
}

func (b *refitPlanBuilder) Build() (*refitPlan, error) {
	var missing []string
	if b.title == nil {
		missing = append(missing, "title")
	}
	if b.legs == nil {
		missing = append(missing, "legs")
	}
	if missing != nil {
		return nil, errors.New("missing " + strings.Join(missing, ", "))
	}
	return newRefitPlan(*b.title, b.legs, b.opts)
}
