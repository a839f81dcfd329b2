package PACKAGE

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"
)

// RecordProblem is one thing that is wrong with a record: where, and what.
type RecordProblem struct {
	Path         string
	Text         string
	Owner, Field string
	Limit        string // a limit's name, or missing, type, range, kind, unknown, twice, refused, depth, text
	Bound        any    // the limit's value, nil where it has none
	Value        any    // what was found; nil where it is a secret
	Record       int    // its place in a list, counted from 0, or -1
}

// String returns the path and what is wrong there.
func (p RecordProblem) String() string {
	if p.Path == "" {
		return p.Text
	}
	return p.Path + ": " + p.Text
}

// RecordError reports everything that is wrong with a record, of which no product is made.
type RecordError struct {
	Owner    string
	Problems []RecordProblem
}

func (e *RecordError) Error() string {
	var b strings.Builder
	b.WriteString(e.Owner + ": not made of this record")
	for _, problem := range e.Problems {
		b.WriteString("\n  " + problem.String())
	}
	return b.String()
}

// CreationOwner returns Owner.
func (e *RecordError) CreationOwner() string { return e.Owner }

// recordLevels is how deep a record may be, and recordFarthest how long a name for which another is suggested.
const recordLevels, recordFarthest = 200, 80

// recordExact is the first whole number that has neighbours of the same real.
const recordExact = 1 << 53

// recordLimit is a limit that is checked, by its name.
type recordLimit struct {
	name  string
	bound any
}

// recordPlace is a place in a record, with the way to it.
type recordPlace struct {
	up   *recordPlace
	step string
	at   int // of an element, where there is no step
}

func (p *recordPlace) path() string {
	if p.up == nil { // the record itself
		return ""
	}
	step := p.step
	if step == "" {
		step = "[" + strconv.Itoa(p.at) + "]"
	}
	return p.up.path() + step  // «#step#»
}

func recordStep(name string) string {
	for i, r := range name {
		letter := r == '_' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z'
		if !letter && (i == 0 || r < '0' || r > '9') {
			return "[" + shownValue(name) + "]"
		}
	}
	if name == "" {
		return `[""]`
	}
	return "." + name
}

// recordReading has the problems of one record.
type recordReading struct{ problems []RecordProblem }

func (r *recordReading) tell(at *recordPlace, problem RecordProblem) {
	problem.Path = strings.TrimPrefix(at.path()+problem.Path, ".")
	problem.Record = -1
	r.problems = append(r.problems, problem)  // «#tell#»
}

// recordValue is a value in a record, and the field that it is for; is tells whether there is one.
type recordValue struct {
	reading      *recordReading
	at           recordPlace
	level        int
	owner, field string
	within       string
	secret       bool
	value        any
	is           bool
}

// recordHidden returns a value that no message tells.
func recordHidden(v recordValue) recordValue {
	v.secret = true
	return v
}

func (v recordValue) named() string {
	part := map[string]string{"each.": "an element of ", "key.": "a key of "}[v.within]
	if v.field == "" {
		return part + v.owner
	}
	return part + v.owner + "." + v.field
}

// unfit tells that a value is of another type.
func (v recordValue) unfit(limit, wanted string) {
	said, value := v.named()+" is "+shownNode(v.value)+"; "+wanted, v.value
	if v.secret {
		said, value = v.named()+": "+wanted, nil
	}
	v.tell(RecordProblem{Text: said, Limit: v.within + limit, Value: value})
}

func (v recordValue) tell(problem RecordProblem) {
	problem.Owner, problem.Field = v.owner, v.field
	v.reading.tell(&v.at, problem)
}

func (v recordValue) tellMissing() {
	v.tell(RecordProblem{Text: v.named() + " is missing", Limit: v.within + "missing"})
}

// keeps reports whether no limit is broken, and tells the first that is.
func (v recordValue) keeps(limits []recordLimit, found any, breaks func(recordLimit) bool) bool {
	for _, limit := range limits {
		if !breaks(limit) {
			continue
		}
		if v.secret && !strings.HasSuffix(limit.name, "_length") || v.secret && reflect.TypeOf(found).Kind() == reflect.String {
			found = nil
		}
		name, bound := v.within+limit.name, limit.bound
		switch own := bound.(type) {
		case recordForm:
			bound = own.bound
		case recordUnlessEmpty:
			bound = int64(own)
		}
		err := &LimitError{Owner: v.owner, Field: v.field, Limit: name, Bound: bound, Value: found}
		v.tell(RecordProblem{Text: err.Error(), Limit: name, Bound: bound, Value: found})
		return false
	}
	return true
}

// recordForm is the bound of a limit on the form of texts, and what reports whether a text has it.
type recordForm struct {
	bound   any
	accepts func(string) bool
}

// recordUnlessEmpty is a least length of collections that are not empty.
type recordUnlessEmpty int64

// recordText returns a text within its limits.
func recordText(v recordValue, limits ...recordLimit) (string, bool) {
	if !v.is {
		return "", false
	}
	text, ok := v.value.(string)
	if !ok {
		v.unfit("type", "a text is wanted")
		return "", false
	}
	return text, v.keeps(limits, text, func(limit recordLimit) bool {
		switch bound := limit.bound.(type) {
		case int64:
			return brokenLength(limit.name, int64(utf8.RuneCountInString(text)), bound)
		case []string:
			return !slices.Contains(bound, text)
		case recordForm:
			return !bound.accepts(text)
		}
		return strings.Trim(text, " \t\n\v\f\r") == "" // not_blank
	})
}

// recordOrdered returns what a text tells, within its limits.
func recordOrdered[T any](v recordValue, kind, wanted string, parse func(string) (T, error), compare func(a, b T) int, limits []recordLimit) (T, bool) {
	var none T
	if !v.is {
		return none, false
	}
	text, ok := v.value.(string)
	if !ok {
		v.unfit("type", wanted)
		return none, false
	}
	told, err := parse(text)
	if err != nil {
		v.unfit(kind, wanted)
		return none, false
	}
	return told, v.keeps(limits, told, func(limit recordLimit) bool {
		bound, _ := limit.bound.(T)
		order := compare(told, bound)
		return limit.name == "min" && order < 0 || limit.name == "above" && order <= 0 ||
			limit.name == "max" && order > 0 || limit.name == "below" && order >= 0
	})
}

// recordDate returns a date within its limits.
func recordDate(v recordValue, limits ...recordLimit) (CalendarDate, bool) {
	parse := ParseCalendarDate  // «#date#»
	return recordOrdered(v, "date", "a date is wanted", parse, CalendarDate.Compare, limits)
}

// recordTimeOfDay returns a time of day within its limits.
func recordTimeOfDay(v recordValue, limits ...recordLimit) (TimeOfDay, bool) {
	parse := ParseTimeOfDay  // «#time#»
	return recordOrdered(v, "time", "a time of day is wanted", parse, TimeOfDay.Compare, limits)
}

// recordDecimal returns a decimal number within its limits.
func recordDecimal(v recordValue, limits ...recordLimit) (Decimal, bool) {
	parse := ParseDecimal  // «#decimal#»
	return recordOrdered(v, "decimal", "a decimal number is wanted", parse, Decimal.Compare, limits)
}

// recordDuration returns a length of time within its limits.
func recordDuration(v recordValue, limits ...recordLimit) (time.Duration, bool) {
	parse := recordTimeOfUnits  // «#duration#»
	return recordOrdered(v, "duration", "a duration is wanted", parse, cmp.Compare[time.Duration], limits)
}

var recordUnits = regexp.MustCompile(`^(-?)P(?:([0-9]{1,5})W|(?:([0-9]{1,6})D)?(?:T(?:([0-9]{1,7})H)?(?:([0-9]{1,9})M)?(?:([0-9]{1,10})(?:\.([0-9]{1,6}))?S)?)?)$`)

// recordTimeOfUnits reads a length of time as ISO 8601 has it: weeks, or days, hours, minutes and seconds.
func recordTimeOfUnits(text string) (time.Duration, error) {
	parts := recordUnits.FindStringSubmatch(text)
	if parts == nil || strings.HasSuffix(text, "P") || strings.HasSuffix(text, "T") {
		return 0, fmt.Errorf("%q is no duration", text)
	}
	counts := make([]int64, len(parts))
	for i, part := range parts[2:7] {
		counts[i], _ = strconv.ParseInt("0"+part, 10, 64)
	}
	micros, _ := strconv.ParseInt((parts[7] + "000000")[:6], 10, 64)
	seconds := (((counts[0]*7+counts[1])*24+counts[2])*60+counts[3])*60 + counts[4]
	if seconds > 100000*24*60*60 {
		return 0, fmt.Errorf("%q is too long", text)
	}
	length := time.Duration(seconds)*time.Second + time.Duration(micros)*time.Microsecond
	if parts[1] == "-" {
		length = -length
	}
	if !isDuration(length) {
		return 0, fmt.Errorf("%q is too long", text)
	}
	return length, nil
}

// recordTextOfDuration returns what is written of a length of time.
func recordTextOfDuration(length time.Duration) string { return durationText(length.Nanoseconds()) }

// recordGivenDuration returns what is written of a length of time that may be absent.
func recordGivenDuration(length *time.Duration) any {
	if length == nil {
		return nil
	}
	return recordTextOfDuration(*length)
}

// recordInstant returns an instant within its limits, in UTC.
func recordInstant(v recordValue, limits ...recordLimit) (time.Time, bool) {
	parse := recordTime  // «#instant#»
	return recordOrdered(v, "instant", "an instant is wanted", parse, time.Time.Compare, limits)
}

// recordTime reads a time as RFC 3339 has it, with six digits of a second at most, and returns it in UTC.
func recordTime(text string) (time.Time, error) {
	at, err := time.Parse(time.RFC3339, strings.ToUpper(text))
	if err != nil {
		return time.Time{}, err
	}
	clock, zone := text[:len(text)-1], "Z" // the package reads hours of one digit, commas, and offsets of any size
	if !strings.HasSuffix(strings.ToUpper(text), "Z") {
		clock, zone = text[:len(text)-6], text[len(text)-5:]
	}
	isOffset := zone == "Z" || zone[:2] <= "23" && zone[3:] <= "59"
	isClock := len(clock) == 19 || len(clock) > 20 && len(clock) <= 26 && clock[19] == '.'
	if !isOffset || !isClock || !isInstant(at) {
		return time.Time{}, fmt.Errorf("%q is no instant", text)
	}
	return at.UTC(), nil
}

// recordTextOfTime returns what is written of an instant.
func recordTextOfTime(at time.Time) string { return at.UTC().Format(time.RFC3339Nano) }

// recordGivenTime returns what is written of an instant that may be absent.
func recordGivenTime(at *time.Time) any {
	if at == nil {
		return nil
	}
	return recordTextOfTime(*at)
}

// recordUUID returns a UUID.
func recordUUID(v recordValue, _ ...recordLimit) (UUID, bool) {
	if !v.is {
		return UUID{}, false
	}
	text, ok := v.value.(string)
	if !ok {
		v.unfit("type", "a UUID is wanted")
		return UUID{}, false
	}
	uuid, err := ParseUUID(text)  // «#uuid#»
	if err != nil {
		v.unfit("uuid", "a UUID is wanted")
	}
	return uuid, err == nil
}

// recordTold returns what is written of a date or the like that may be absent.
func recordTold[T fmt.Stringer](told *T) any {
	if told == nil {
		return nil
	}
	return (*told).String()
}

func brokenLength(name string, length, bound int64) bool {
	return name == "min_length" && length < bound || name == "max_length" && length > bound
}

// recordInteger returns a whole number within its limits: 5, and 5.0, which JSON does not tell apart.
func recordInteger(v recordValue, limits ...recordLimit) (int64, bool) {
	if !v.is {
		return 0, false
	}
	number, fault := wholeNumber(v.value)
	if fault != "" {
		v.unfit(fault, map[string]string{
			"type":  "an integer is wanted",
			"range": "an integer of 64 bits is wanted",
		}[fault])
		return 0, false
	}
	return number, v.keeps(limits, number, func(limit recordLimit) bool {
		switch bound := limit.bound.(type) {
		case int64:
			return brokenBound(limit.name, number, bound)
		case []int64:
			return !slices.Contains(bound, number)
		}
		return false
	})
}

// wholeNumber returns the number, or why it is none: its type or its range.
func wholeNumber(value any) (number int64, fault string) {
	switch value := value.(type) {
	case int64:
		return value, ""
	case int:
		return int64(value), ""
	case json.Number:
		number, err := strconv.ParseInt(string(value), 10, 64)
		if err == nil {
			return number, ""
		}
		if errors.Is(err, strconv.ErrRange) {
			return 0, "range"
		}
		real, err := strconv.ParseFloat(string(value), 64)
		if err != nil {
			return 0, "type"
		}
		return wholeNumber(real)
	case float64:
		if value == math.Trunc(value) && math.Abs(value) < recordExact {
			return int64(value), ""
		}
	}
	return 0, "type"
}

func brokenBound[N int64 | float64](name string, number, bound N) bool {
	switch name {
	case "min":
		return number < bound
	case "max":
		return number > bound
	case "above":
		return number <= bound
	case "below":
		return number >= bound
	}
	return false
}

// recordReal returns a finite number within its limits.
func recordReal(v recordValue, limits ...recordLimit) (float64, bool) {
	if !v.is {
		return 0, false
	}
	number, ok := realNumber(v.value)
	if !ok {
		v.unfit("type", "a number is wanted")
		return 0, false
	}
	return number, v.keeps(limits, number, func(limit recordLimit) bool {
		if bound, ok := limit.bound.(float64); ok {
			return brokenBound(limit.name, number, bound)
		}
		return math.IsNaN(number) || math.IsInf(number, 0)
	})
}

func realNumber(value any) (float64, bool) {
	switch value := value.(type) {
	case json.Number:
		number, err := strconv.ParseFloat(string(value), 64)
		return number, err == nil || errors.Is(err, strconv.ErrRange)
	case float64:
		return value, true
	case int64:
		return float64(value), true
	case int:
		return float64(value), true
	}
	return 0, false
}

// recordTruth returns true or false.
func recordTruth(v recordValue) (bool, bool) {
	if !v.is {
		return false, false
	}
	truth, ok := v.value.(bool)
	if !ok {
		v.unfit("type", "true or false is wanted")
	}
	return truth, ok
}

// recordWord returns a word of a choice by its name in records.
func recordWord[C any](v recordValue, names []string, words []C) (word C, ok bool) {
	if !v.is {
		return word, false
	}
	name, isText := v.value.(string)
	at := slices.Index(names, name)
	if !isText || at < 0 {
		v.unfit("choice", recordOneOf(names))
		return word, false
	}
	return words[at], true
}

func recordOneOf(names []string) string {
	return "one of " + shownBound(names) + " is wanted"
}

// tooDeep reports whether there are more levels than any record should have.
func (v recordValue) tooDeep() bool {
	if v.level < recordLevels {
		return false
	}
	said := "this is more than " + strconv.Itoa(recordLevels) + " levels deep"
	v.tell(RecordProblem{Text: said, Limit: "depth", Bound: int64(recordLevels)})
	return true
}

// element returns what stands in a list, or under a key.
func (v recordValue) element(step string, at int, value any) recordValue {
	up := v.at
	v.at = recordPlace{up: &up, step: step, at: at}
	v.level, v.within, v.value, v.is = v.level+1, "each.", value, value != nil
	if !v.is {
		v.tellMissing()
	}
	return v
}

// recordList returns the elements of a list.
func recordList[T any](v recordValue, read func(recordValue) (T, bool), limits ...recordLimit) ([]T, bool) {
	if !v.is {
		return nil, false
	}
	values, ok := v.value.([]any)
	if !ok {
		v.unfit("type", "a list is wanted")
		return nil, false
	}
	if v.tooDeep() {
		return nil, false
	}
	before := len(v.reading.problems)
	held := make([]T, 0, len(values))
	for i, value := range values {
		one, _ := read(v.element("", i, value))
		held = append(held, one)
	}
	return held, len(v.reading.problems) == before && recordSize(v, limits, len(held))
}

// recordDistinct returns the elements of a list in which none stands twice.
func recordDistinct[T comparable](v recordValue, read func(recordValue) (T, bool), limits ...recordLimit) ([]T, bool) {
	held, ok := recordList(v, read, limits...)
	at := repeated(held)
	if !ok || at < 0 {
		return held, ok
	}
	var found any = held[at]
	if text := reflect.ValueOf(found); text.Kind() == reflect.String { // the word of a choice too
		found = text.String()
	}
	return held, v.keeps([]recordLimit{{name: "unique"}}, found, func(recordLimit) bool { return true })
}

// recordSet returns the elements of a list, of which some may be the same.
func recordSet[T comparable](v recordValue, read func(recordValue) (T, bool), limits ...recordLimit) ([]T, bool) {
	held, ok := recordList(v, read)
	if !ok {
		return nil, false
	}
	distinct := map[T]bool{}
	for _, one := range held {
		distinct[one] = true
	}
	return held, recordSize(v, limits, len(distinct))
}

func recordSize(v recordValue, limits []recordLimit, size int) bool {
	length := int64(size)
	return v.keeps(limits, length, func(limit recordLimit) bool {
		if least, ok := limit.bound.(recordUnlessEmpty); ok {
			return length > 0 && length < int64(least)
		}
		bound, _ := limit.bound.(int64)
		return brokenLength(limit.name, length, bound)
	})
}

// recordMap returns the entries of an object whose names are keys.
func recordMap[K comparable, T any](
	v recordValue, numbered bool, key func(recordValue) (K, bool), read func(recordValue) (T, bool), limits ...recordLimit,
) (map[K]T, bool) {
	if !v.is {
		return nil, false
	}
	values, ok := v.value.(map[string]any)
	if !ok {
		v.unfit("type", "a record is wanted")
		return nil, false
	}
	if v.tooDeep() {
		return nil, false
	}
	before := len(v.reading.problems)
	held := make(map[K]T, len(values))
	for _, name := range sortedKeys(values) {
		step, named := "["+shownValue(name)+"]", any(name)
		if numbered && canonical(name) {
			step, named = "["+name+"]", json.Number(name)
		}
		up := v.at
		of := v
		of.at = recordPlace{up: &up, step: step}
		of.within, of.value = "key.", named
		k, _ := key(of)
		one, _ := read(v.element(step, 0, values[name]))
		held[k] = one
	}
	return held, len(v.reading.problems) == before && recordSize(v, limits, len(held))
}

// canonical reports whether a name is a whole number as it is written.
func canonical(name string) bool {
	number, err := strconv.ParseInt(name, 10, 64)
	return err == nil && strconv.FormatInt(number, 10) == name
}

// recordObject is an object that is read as one product.
type recordObject struct {
	recordValue
	values map[string]any
	before int
}

// object returns what a product is read of. A kind is empty where there is none.
func (v recordValue) object(owner, kindName string, kinds ...string) (recordObject, bool) {
	if !v.is {
		return recordObject{}, false
	}
	values, ok := v.value.(map[string]any)
	if !ok {
		v.unfit("type", "a record is wanted")
		return recordObject{}, false
	}
	v.owner, v.field, v.within, v.secret = owner, "", "", false
	if v.tooDeep() {
		return recordObject{}, false
	}
	o := recordObject{v, values, len(v.reading.problems)}
	if kind := values[kindName]; kindName != "" && kind != nil {
		if name, ok := kind.(string); !ok || !slices.Contains(kinds, name) {
			o.unknownKind(kindName, kind, kinds)
		}
	}
	return o, true
}

func (v recordValue) unknownKind(name string, kind any, kinds []string) {
	said, limit := v.owner+"."+name+" is missing", "missing"
	if kind != nil {
		said, limit = v.owner+"."+name+" is "+shownNode(kind)+"; "+recordOneOf(kinds), "kind"
	}
	v.reading.tell(&v.at, RecordProblem{
		Path: recordStep(name), Text: said, Owner: v.owner, Field: name, Limit: limit, Value: kind,
	})
}

// noKind is none that a record can tell: kinds have no control characters.
const noKind = "\x00"

// recordKindOf returns the kind that a record tells, if it is one of those; "" where it tells none, and needs none.
func recordKindOf(v recordValue, owner, name string, needed bool, kinds ...string) string {
	if !v.is {
		return noKind
	}
	values, ok := v.value.(map[string]any)
	if !ok {
		v.unfit("type", "a record is wanted")
		return noKind
	}
	v.owner = owner
	kind, ok := values[name].(string)
	if ok && slices.Contains(kinds, kind) {
		return kind
	}
	if values[name] == nil && !needed {
		return ""
	}
	v.unknownKind(name, values[name], kinds)  // «#kind#»
	return noKind
}

func (o recordObject) field(name, owner, field string) recordValue {
	value := o.values[name]
	return recordValue{
		o.reading, recordPlace{&o.at, recordStep(name), 0}, o.level + 1, owner, field, "", false, value, value != nil,
	}
}

// required returns the value of a field that has to be there.
func (o recordObject) required(name, owner, field string) recordValue {
	v := o.field(name, owner, field)
	if !v.is {
		v.tellMissing()
	}
	return v
}

// refuseOthers tells the names that are none of these.
func (o recordObject) refuseOthers(known ...string) {
	for _, name := range sortedKeys(o.values) {
		if slices.Contains(known, name) {
			continue
		}
		said := o.owner + " has no such field"
		if meant := nearest(name, known); meant != "" {
			said += "; did you mean " + shownValue(meant) + "?"
		}
		o.reading.tell(&o.at, RecordProblem{
			Path: recordStep(name), Text: said, Owner: o.owner, Field: name, Limit: "unknown",
		})
	}
}

// sound reports whether nothing was wrong so far.
func (o recordObject) sound() bool { return len(o.reading.problems) == o.before }

// recordMade returns what a constructor made, or tells why it did not.
func recordMade[T any](o recordObject, made T, err error) (T, bool) {
	if err == nil {
		return made, true
	}
	var none T
	problem := RecordProblem{Text: err.Error(), Owner: o.owner, Limit: "refused"}
	if limit := (*LimitError)(nil); errors.As(err, &limit) {
		problem.Owner, problem.Field, problem.Limit = limit.Owner, limit.Field, limit.Limit
		problem.Path, problem.Bound, problem.Value = recordStep(limit.Field), limit.Bound, limit.Value
	}
	o.reading.tell(&o.at, problem)
	return none, false
}

// recordWithout returns a record without one of its names, for a maker that reads it.
func recordWithout(v recordValue, name string) map[string]any {
	rest, _ := v.value.(map[string]any)
	rest = maps.Clone(rest)
	delete(rest, name)
	return rest
}

// recordWhole returns what a maker made of a whole record, or tells all that it found wrong.
func recordWhole[T any](v recordValue, made T, err error) (T, bool) {
	var none T
	wrong := (*RecordError)(nil)
	if !errors.As(err, &wrong) {
		return recordMade(recordObject{recordValue: v}, made, err)
	}
	for _, problem := range wrong.Problems {
		v.reading.tell(&v.at, problem)
	}
	return none, false
}

// recordKind returns what a factory by values made, if it is of the kind that its record tells.
func recordKind[T any](o recordObject, made any, err error) (T, bool) {
	kind, ok := made.(T)
	if err == nil && !ok {
		err = &RefusedError{Owner: o.owner, Reason: "such values make another kind"}
	}
	return recordMade(o, kind, err)
}

// recordPointer returns a pointer to a value that there is.
func recordPointer[T any](value T, ok bool) *T {
	if !ok {
		return nil
	}
	return &value
}

// fromRecord returns the product of a record, or everything that is wrong with it.
func fromRecord[T any](owner string, record any, read func(recordValue) (T, bool)) (T, error) {
	reading := &recordReading{}
	v := recordValue{reading: reading, owner: owner, value: record, is: true}
	made, _ := read(v)
	if len(reading.problems) > 0 {
		var none T
		return none, &RecordError{Owner: owner, Problems: reading.problems}
	}
	return made, nil
}

// recordInto reads a product of a text into a place where there is none yet.
func recordInto[T any](into *T, owner string, text []byte, read func(any) (*T, error)) error {
	if bytes.Equal(text, []byte("null")) {
		return nil
	}
	if !reflect.ValueOf(into).Elem().IsZero() {
		return &RefusedError{Owner: owner, Reason: "a product is read into one that is made already"}
	}
	record, err := ParseRecord(text)
	if err != nil {
		return err
	}
	made, err := read(record)
	if err == nil {
		*into = *made
	}
	return err
}

// CreateAll returns the products that a list of records makes, and what is wrong with the others; nothing stops at the first.
func CreateAll[T any](records any, read func(record any) (T, error)) ([]T, []RecordProblem) {
	values, ok := records.([]any)
	if !ok {
		said := "the records are " + shownNode(records) + "; a list is wanted"
		return nil, []RecordProblem{{Text: said, Limit: "type", Value: records, Record: -1}}
	}
	made := make([]T, 0, len(values))
	var problems []RecordProblem
	for i, value := range values {
		one, err := read(value)
		if err == nil {
			made = append(made, one)
			continue
		}
		var wrong *RecordError
		if !errors.As(err, &wrong) {
			problems = append(problems, RecordProblem{Path: numbered(i, ""), Text: err.Error(), Limit: "refused", Record: i})
			continue
		}
		for _, problem := range wrong.Problems {
			problem.Path, problem.Record = numbered(i, problem.Path), i
			problems = append(problems, problem)
		}
	}
	return made, problems
}

func numbered(record int, path string) string {
	if path != "" && path[0] != '[' {
		path = "." + path
	}
	return "[" + strconv.Itoa(record) + "]" + path
}

// shownNode returns what was found, for a message.
func shownNode(value any) string {
	switch value := value.(type) {
	case nil:
		return "null"
	case map[string]any:
		return "a record"
	case []any:
		return "a list"
	case json.Number:
		if number, err := strconv.ParseFloat(string(value), 64); err == nil && strings.ContainsAny(string(value), ".eE") {
			return shownReal(number)
		}
		return string(value)
	}
	return shownValue(value)
}

// nearest returns the known name that is likely meant, or "": the same but for case, or the one that takes the fewest changes.
func nearest(name string, known []string) string {
	for _, each := range known {
		if strings.EqualFold(each, name) {
			return each
		}
	}
	letters := []rune(name)
	if len(letters) > recordFarthest {
		return ""
	}
	best, fewest := "", max(len(letters)/3, 1)+1
	for _, each := range known {
		if changes := distance(letters, []rune(each)); changes < fewest {
			best, fewest = each, changes
		}
	}
	return best
}

// distance returns how many letters have to be put in, dropped or replaced (Levenshtein).
func distance(one, other []rune) int {
	row := make([]int, len(other)+1)
	for j := range row {
		row[j] = j
	}
	for i, letter := range one {
		last := row[0]
		row[0] = i + 1
		for j, second := range other {
			changed := last
			if letter != second {
				changed++
			}
			last = row[j+1]
			row[j+1] = min(row[j+1]+1, row[j]+1, changed)
		}
	}
	return row[len(other)]
}

// ParseRecord returns the record of a JSON text (RFC 8259), or a *RecordError that tells where it is ill-formed, or which
// names stand twice.
func ParseRecord(text []byte) (any, error) {
	if !utf8.Valid(text) {
		return nil, illFormed("the text is no UTF-8")
	}
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.UseNumber()
	var record any
	err := decoder.Decode(&record)
	if err == nil {
		if _, more := decoder.Token(); !errors.Is(more, io.EOF) {
			err = errors.New("more follows after its end")
		}
	}
	if err != nil {
		return nil, illFormed(err.Error() + " (byte " + strconv.FormatInt(decoder.InputOffset(), 10) + ")")
	}
	if names := namesOf(record); bytes.Count(text, []byte{':'}) == names || namesIn(text) == names {  // «#doubled#»
		return record, nil
	}
	if twice := doubled(text); len(twice) > 0 {
		return nil, &RecordError{Owner: "JSON", Problems: twice}
	}
	return record, nil
}

// namesIn returns how many names stand in a text, with what looks like one within a string.
func namesIn(text []byte) int {
	count := 0
	for at := range text {
		if text[at] == ':' && bytes.HasSuffix(bytes.TrimRight(text[:at], " \t\n\r"), []byte{'"'}) {
			count++
		}
	}
	return count
}

// namesOf returns how many names there are in a tree: only where a text has more, some stand twice.
func namesOf(node any) int {
	count := 0
	switch node := node.(type) {
	case map[string]any:
		count = len(node)
		for _, inner := range node {
			count += namesOf(inner)
		}
	case []any:
		for _, inner := range node {
			count += namesOf(inner)
		}
	}
	return count
}

func illFormed(said string) error {
	problem := RecordProblem{Text: said, Owner: "JSON", Limit: "text", Record: -1}
	return &RecordError{Owner: "JSON", Problems: []RecordProblem{problem}}
}

// openValue is an object or list of a text, as it is gone through.
type openValue struct {
	isObject bool
	names    map[string]bool
	name     string
	at       int
}

// doubled returns the names that stand twice in an object of a text that is well-formed; the decoder takes the last of them.
func doubled(text []byte) []RecordProblem {
	var problems []RecordProblem
	var open []*openValue
	var last []byte
	for i := 0; i < len(text); i++ {
		switch text[i] {
		case '"':
			begin := i
			for i++; text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
			last = text[begin : i+1]
		case '{', '[':
			open = append(open, &openValue{isObject: text[i] == '{', names: map[string]bool{}})
		case '}', ']':
			open = open[:len(open)-1]
		case ',':
			open[len(open)-1].at++
		case ':':
			inner := open[len(open)-1]
			var name string
			_ = json.Unmarshal(last, &name) // it was read once
			inner.name = name
			if inner.names[name] {
				problems = append(problems, twice(open, name))
			}
			inner.names[name] = true
		}
	}
	return problems
}

func twice(open []*openValue, name string) RecordProblem {
	path := ""
	for _, each := range open {
		if each.isObject {
			path += recordStep(each.name)
		} else {
			path += "[" + strconv.Itoa(each.at) + "]"
		}
	}
	said := "this name stands there twice"
	return RecordProblem{Path: strings.TrimPrefix(path, "."), Text: said, Owner: "JSON", Field: name, Limit: "twice", Record: -1}
}

// recordMember is a name in a record that is written, and what stands under it.
type recordMember struct {
	name  string
	value any
}

// recordTree is an object that is written: its names in their order.
type recordTree []recordMember

// put puts what is written of a value under a name.
func (t *recordTree) put(name string, value any) {
	*t = append(*t, recordMember{name, value})
}

// recordUnless puts a value that is not the usual one.
func recordUnless(t *recordTree, name string, value, usual any) {
	if !reflect.DeepEqual(value, usual) {
		t.put(name, value)
	}
}

// recordGiven returns what a pointer points to, or nil.
func recordGiven[T any](value *T) any {
	if value == nil {
		return nil
	}
	return *value
}

// recordEach returns what is written of each element.
func recordEach[T any](values []T, write func(T) any) []any {
	written := make([]any, 0, len(values))
	for _, value := range values {
		written = append(written, write(value))
	}
	return written
}

// recordSorted returns what is written of each element of a set, in order.
func recordSorted[T any](values []T, write func(T) any) []any {
	written := recordEach(values, write)
	slices.SortFunc(written, inOrder)
	return written
}

// recordEntries returns what is written of a map, in the order of its keys.
func recordEntries[K comparable, T any](values map[K]T, key func(K) any, write func(T) any) recordTree {
	type entry struct{ key, value any }
	entries := make([]entry, 0, len(values))
	for k, value := range values {
		entries = append(entries, entry{key(k), write(value)})
	}
	slices.SortFunc(entries, func(a, b entry) int { return inOrder(a.key, b.key) })
	tree := make(recordTree, 0, len(entries))
	for _, each := range entries {
		name, isText := each.key.(string)
		if number, ok := each.key.(int64); ok && !isText {
			name = strconv.FormatInt(number, 10)
		}
		tree.put(name, each.value)
	}
	return tree
}

func inOrder(a, b any) int {
	if one, ok := a.(int64); ok {
		other, _ := b.(int64)
		switch {
		case one < other:
			return -1
		case one > other:
			return 1
		}
		return 0
	}
	one, _ := a.(string)
	other, _ := b.(string)
	return strings.Compare(one, other)
}

// asRecord returns what a decoder would give for a tree.
func (t recordTree) asRecord() map[string]any {
	record := make(map[string]any, len(t))
	for _, each := range t {
		record[each.name] = plainNode(each.value)
	}
	return record
}

func plainNode(node any) any {
	switch node := node.(type) {
	case recordTree:
		return node.asRecord()
	case []any:
		plain := make([]any, 0, len(node))
		for _, each := range node {
			plain = append(plain, plainNode(each))
		}
		return plain
	}
	return node
}

// appendNode appends the text of what is written: no blanks, names in their order, numbers as ECMAScript writes them.
func appendNode(text []byte, node any) []byte {
	switch node := node.(type) {
	case recordTree:
		text = append(text, '{')
		for i, each := range node {
			if i > 0 {
				text = append(text, ',')
			}
			text = append(appendString(text, each.name), ':')
			text = appendNode(text, each.value)
		}
		return append(text, '}')
	case []any:
		text = append(text, '[')
		for i, each := range node {
			if i > 0 {
				text = append(text, ',')
			}
			text = appendNode(text, each)
		}
		return append(text, ']')
	case string:
		return appendString(text, node)
	case int64:
		return strconv.AppendInt(text, node, 10)
	case float64:
		return append(text, strings.TrimSuffix(shownReal(node), ".0")...)
	case bool:
		return strconv.AppendBool(text, node)
	}
	return append(text, "null"...)
}

func appendString(text []byte, s string) []byte {
	const digits = "0123456789abcdef"
	short := map[rune]string{'\b': `\b`, '\f': `\f`, '\n': `\n`, '\r': `\r`, '\t': `\t`, '"': `\"`, '\\': `\\`}
	text = append(text, '"')
	for _, r := range s {
		switch {
		case short[r] != "":
			text = append(text, short[r]...)
		case r < ' ':
			text = append(text, '\\', 'u', '0', '0', digits[r>>4], digits[r&15])
		default:
			text = utf8.AppendRune(text, r)
		}
	}
	return append(text, '"')
}
