package PACKAGE_test

import (
	"errors"
	"fmt"
	"slices"
	"testing"

	"harbour.example/PACKAGE"
	"harbour.example/PACKAGE/PACKAGEtest"
)

// lightship is a kind that nobody declared: it has what all marks have, keeps their limits, and has a crew.
type lightship struct {
	PACKAGE.MarkFields
	crew int
}

func newLightship(station int64, position *PACKAGE.Position, opts PACKAGE.MarkOptions) (PACKAGE.Mark, error) {
	base, err := PACKAGE.NewMarkFields(station, position, opts, true)
	if err != nil {
		return nil, err
	}
	return &lightship{MarkFields: base, crew: 7}, nil
}

func (*lightship) Key() string { return "lightship" }

func (l *lightship) ChartLabel() string { return fmt.Sprintf("lightship with %d aboard", l.crew) }

func (*lightship) RangeFrom(eyeHeight float64) float64 { return eyeHeight + 12 }

func (l *lightship) Equal(other PACKAGE.Mark) bool {
	that, ok := other.(*lightship)
	return ok && that.crew == l.crew && that.EqualFields(&l.MarkFields)
}

func TestKindOfAnotherPackage(t *testing.T) {
	position, err := PACKAGE.NewPosition(54.2, 9.1)
	if err != nil {
		t.Fatal(err)
	}
	registry := PACKAGE.NewMarkRegistry()
	if err := registry.Register("lightship", newLightship); err != nil {
		t.Fatal(err)
	}
	mark, err := registry.Make("lightship", 3, position, PACKAGE.MarkOptions{Remarks: PACKAGE.Some("dry dock in June")})
	if err != nil {
		t.Fatal(err)
	}
	remarks, _ := mark.Remarks()
	got := []any{mark.Station(), mark.Position() == position, remarks, mark.Reflective(), mark.ChartLabel()}
	if want := []any{int64(3), true, "dry dock in June", true, "lightship with 7 aboard"}; !slices.Equal(got, want) {
		t.Errorf("got %v", got)
	}
	twin, _ := newLightship(3, position, PACKAGE.MarkOptions{Remarks: PACKAGE.Some("dry dock in June")})
	other, _ := newLightship(4, position, PACKAGE.MarkOptions{Remarks: PACKAGE.Some("dry dock in June")})
	if !mark.Equal(twin) || mark.Equal(other) {
		t.Error("kinds of another package are compared by all that they have")
	}
}

func TestKindOfAnotherPackageKeepsLimits(t *testing.T) {
	position, err := PACKAGE.NewPosition(54.2, 9.1)
	if err != nil {
		t.Fatal(err)
	}
	_, err = newLightship(0, position, PACKAGE.MarkOptions{})
	var limit *PACKAGE.LimitError
	if !errors.As(err, &limit) || limit.Field != "station" || limit.Limit != "min" {
		t.Errorf("got %v", err)
	}
	_, err = newLightship(3, nil, PACKAGE.MarkOptions{})
	var missing *PACKAGE.MissingError
	if !errors.As(err, &missing) || !slices.Equal(missing.Fields, []string{"position"}) {
		t.Errorf("got %v", err)
	}
}

// sprung is a mooring that changes: its fields are copied by themselves.
type sprung struct {
	PACKAGE.MooringFields
}

func (*sprung) Key() string { return "sprung" }

func (*sprung) Describe() string { return "on a spring" }

func (s *sprung) Equal(other PACKAGE.Mooring) bool {
	that, ok := other.(*sprung)
	return ok && that.EqualFields(&s.MooringFields)
}

func (s *sprung) Clone() PACKAGE.Mooring { return &sprung{MooringFields: s.CloneFields()} }

func TestCloneOfAKindOfAnotherPackage(t *testing.T) {
	base, err := PACKAGE.NewMooringFields(PACKAGE.MooringOptions{})
	if err != nil {
		t.Fatal(err)
	}
	var mooring PACKAGE.Mooring = &sprung{MooringFields: base}
	clone := mooring.Clone()
	if err := clone.SetSlack(4); err != nil || clone.SetSlack(-1) == nil {
		t.Errorf("got %v", err)
	}
	if clone.Slack() != 4 || mooring.Slack() != 1 || mooring.Equal(clone) {
		t.Errorf("the original has %v, its clone %v", mooring.Slack(), clone.Slack())
	}
}

func TestClientTakesAStandIn(t *testing.T) {
	stand := &PACKAGEtest.StandInOutfit{}
	var outfit PACKAGE.Outfit = stand
	hull, err := outfit.Hull(PACKAGE.HullOptions{})
	if err != nil || hull.Key() == PACKAGE.SteelHullKey || len(outfit.Moorings()) == 0 {
		t.Errorf("got %v, %v", hull, err)
	}
	if !slices.Equal(stand.Asked(), []string{"hull", "moorings"}) {
		t.Errorf("asked %q", stand.Asked())
	}
}

func TestLoaderThatFailsIsAskedAgain(t *testing.T) {
	position, err := PACKAGE.NewPosition(54.2, 9.1)
	if err != nil {
		t.Fatal(err)
	}
	registry := PACKAGE.NewMarkRegistry()
	locked, asked := errors.New("the plug-in is locked"), 0
	load := func() (PACKAGE.MarkMaker, error) {
		asked++
		switch asked {
		case 1:
			return nil, locked
		case 2:
			panic("the plug-in is broken")
		}
		return newLightship, nil
	}
	if err := registry.RegisterLoader("lightship", load); err != nil {
		t.Fatal(err)
	}
	if _, err := registry.Make("lightship", 3, position, PACKAGE.MarkOptions{}); !errors.Is(err, locked) {
		t.Errorf("got %v", err)
	}
	func() {
		defer func() {
			if recover() == nil {
				t.Error("the panic of a loader is swallowed")
			}
		}()
		_, _ = registry.Make("lightship", 3, position, PACKAGE.MarkOptions{})
	}()
	mark, err := registry.Make("lightship", 3, position, PACKAGE.MarkOptions{})
	if err != nil || mark.Key() != "lightship" || asked != 3 {
		t.Errorf("got %v, %v after %d calls", mark, err, asked)
	}
	var missing *PACKAGE.MissingError
	if err := registry.RegisterLoader("none", nil); !errors.As(err, &missing) {
		t.Errorf("got %v", err)
	}
	var taken *PACKAGE.DuplicateKeyError
	if err := registry.RegisterLoader("buoy", load); !errors.As(err, &taken) {
		t.Errorf("got %v", err)
	}
}
