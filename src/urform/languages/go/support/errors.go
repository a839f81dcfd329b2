// DOC
package PACKAGE

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// CreationError is what all errors of this package are: errors.As finds any of them.
type CreationError interface {
	error
	// CreationOwner returns the product, family or choice that was asked for or that declares the limit.
	CreationOwner() string
}

// MissingError reports required fields that were not given.
type MissingError struct {
	Owner  string
	Fields []string // in the order of the declaration
}

func (e *MissingError) Error() string {
	return fmt.Sprintf("%s: missing %s", e.Owner, strings.Join(e.Fields, ", "))
}

// CreationOwner returns Owner.
func (e *MissingError) CreationOwner() string { return e.Owner }

// LimitError reports a value outside a declared limit.
type LimitError struct {
	Owner, Field string
	Limit        string // the limit's name, such as "min"
	Bound        any    // the limit's value, nil where it has none
	Value        any    // what was found: the value, the length of a collection, or what stands twice in it; nil where it is a secret
}

func (e *LimitError) Error() string {
	part, name, inside := strings.Cut(e.Limit, ".")
	path := e.Owner + "." + e.Field
	if inside {
		path = map[string]string{"each": "an element of ", "key": "a key of "}[part] + path
	} else {
		name = part
	}
	words := wanted
	if isInTime(e.Bound) {
		words = wantedInTime
	}
	allowed := strings.ReplaceAll(words[name], "{}", shownBound(e.Bound))
	if allowed == "" {
		allowed = fmt.Sprintf("%v is its %s", e.Bound, name)
	}
	if e.Value == nil {
		return path + ": " + allowed
	}
	if length, ok := e.Value.(int64); ok && strings.HasSuffix(name, "_length") {
		return fmt.Sprintf("%s has the length %d; %s", path, length, strings.TrimPrefix(allowed, "a length of "))
	}
	if name == "unique" {
		return path + " has " + shownValue(e.Value) + " twice; " + allowed
	}
	return path + " is " + shownValue(e.Value) + "; " + allowed
}

// CreationOwner returns Owner.
func (e *LimitError) CreationOwner() string { return e.Owner }

// UnknownKeyError reports a key that names nothing.
type UnknownKeyError struct {
	Owner, Key string
	Known      []string // sorted
}

func (e *UnknownKeyError) Error() string {
	return fmt.Sprintf("%s: unknown key %q, known: %s", e.Owner, e.Key, strings.Join(e.Known, ", "))
}

// CreationOwner returns Owner.
func (e *UnknownKeyError) CreationOwner() string { return e.Owner }

// DuplicateKeyError reports a key that is taken.
type DuplicateKeyError struct {
	Owner, Key string
}

func (e *DuplicateKeyError) Error() string {
	return fmt.Sprintf("%s: key %q is taken", e.Owner, e.Key)
}

// CreationOwner returns Owner.
func (e *DuplicateKeyError) CreationOwner() string { return e.Owner }

// RefusedError reports values for which no product is made.
type RefusedError struct {
	Owner, Reason string
}

func (e *RefusedError) Error() string {
	return fmt.Sprintf("%s: refused, %s", e.Owner, e.Reason)
}

// CreationOwner returns Owner.
func (e *RefusedError) CreationOwner() string { return e.Owner }

var wanted = map[string]string{
	"min":        "at least {} is allowed",
	"max":        "at most {} is allowed",
	"above":      "more than {} is wanted",
	"below":      "less than {} is wanted",
	"finite":     "a finite number is wanted",
	"choice":     "a declared word is wanted",
	"not_blank":  "a text that is not blank is wanted",
	"min_length": "a length of at least {} is allowed",
	"max_length": "a length of at most {} is allowed",
	"one_of":     "one of {} is wanted",
	"pattern":    "a text that matches {} is wanted",
	"uri":        "a URI is wanted",
	"date":       "a date is wanted",
	"time":       "a time of day is wanted",
	"instant":    "an instant is wanted",
	"duration":   "a duration is wanted",
	"decimal":    "a decimal number is wanted",
	"unique":     "each element is allowed once",
}

func isInTime(bound any) bool {
	switch bound.(type) {
	case interface{ Year() int }, interface{ Hour() int }:
		return true
	}
	return false
}

var wantedInTime = map[string]string{
	"min":   "{} or later is allowed",
	"max":   "{} or earlier is allowed",
	"above": "later than {} is wanted",
	"below": "earlier than {} is wanted",
}

func shownBound(bound any) string {
	var words []string
	switch all := bound.(type) {
	case []string:
		for _, word := range all {
			words = append(words, shownValue(word))
		}
	case []int64:
		for _, word := range all {
			words = append(words, shownValue(word))
		}
	default:
		words = []string{shownValue(bound)}
	}
	return strings.Join(words, ", ")
}

const mostShown = 80

// shownValue returns a text in quotes, cut, its controls escaped; or a number.
func shownValue(value any) string {
	switch value := value.(type) {
	case string:
		shown := []rune(value)
		more := ""
		if len(shown) > mostShown {
			shown, more = shown[:mostShown], "…"
		}
		var b strings.Builder
		for _, r := range shown {
			b.WriteString(escaped(r))
		}
		return `"` + b.String() + more + `"`
	case float64:
		return shownReal(value)
	case interface{ Format(layout string) string }: // a time
		return shownValue(value.Format("2006-01-02T15:04:05.999999999Z07:00"))
	case interface{ Nanoseconds() int64 }: // a length of time
		return shownValue(durationText(value.Nanoseconds()))
	case fmt.Stringer: // a date, a time of day or a decimal number
		return shownValue(value.String())
	}
	return fmt.Sprint(value)
}

// durationText returns a length of time as ISO 8601 has it: hours, minutes and seconds, those that are not zero.
func durationText(nanoseconds int64) string {
	text, rest := "PT", uint64(nanoseconds)
	if nanoseconds < 0 {
		text, rest = "-PT", -rest
	}
	minutes, rest := rest/60000000000, rest%60000000000
	if minutes >= 60 {
		text += fmt.Sprintf("%dH", minutes/60)
	}
	if minutes%60 != 0 {
		text += fmt.Sprintf("%dM", minutes%60)
	}
	if rest != 0 || minutes == 0 {
		seconds := fmt.Sprintf("%d.%09d", rest/1000000000, rest%1000000000)
		text += strings.TrimRight(strings.TrimRight(seconds, "0"), ".") + "S"
	}
	return text
}

func escaped(r rune) string {
	switch {
	case r == '\n':
		return `\n`
	case r == '\r':
		return `\r`
	case r == '\t':
		return `\t`
	case r == '"' || r == '\\':
		return `\` + string(r)
	case r < ' ' || r >= 0x7f && r <= 0x9f:
		return fmt.Sprintf(`\u%04x`, r)
	}
	return string(r)
}

// shownReal returns the fewest digits that read back as this number, laid out as in ECMAScript, with .0 if it is whole.
func shownReal(number float64) string {
	switch {
	case math.IsNaN(number):
		return "NaN"
	case math.IsInf(number, 1):
		return "Infinity"
	case math.IsInf(number, -1):
		return "-Infinity"
	case number == 0:
		return "0.0"
	}
	size := math.Abs(number)
	if size >= 1e-6 && size < 1e21 {
		shown := strconv.FormatFloat(number, 'f', -1, 64)
		if !strings.Contains(shown, ".") {
			shown += ".0"
		}
		return shown
	}
	digits, exponent, _ := strings.Cut(strconv.FormatFloat(number, 'e', -1, 64), "e")
	return digits + "e" + exponent[:1] + strings.TrimLeft(exponent[1:], "0")
}
