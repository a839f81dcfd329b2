package PACKAGE

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"time"
)

// Some returns a pointer to v, for the optional fields of an options struct.
func Some[T any](v T) *T { return &v }

// Int returns a pointer to v; a constant needs no conversion.
func Int(v int64) *int64 { return &v }

// Real returns a pointer to v; a constant needs no conversion.
func Real(v float64) *float64 { return &v }

// given tells whether a field that may not be nil is there.
type given struct {
	field string
	is    bool
}

// missing returns one error for all the fields that are not there.
func missing(owner string, fields ...given) error {
	var names []string
	for _, f := range fields {
		if !f.is {
			names = append(names, f.field)
		}
	}
	if names == nil {
		return nil
	}
	return &MissingError{Owner: owner, Fields: names}
}

func orElse[T any](p *T, fallback T) T {
	if p == nil {
		return fallback
	}
	return *p
}

func firstOf[T comparable](v, fallback T) T {
	var none T
	if v == none {
		return fallback
	}
	return v
}

func copyOf[T any](p *T) *T {
	if p == nil {
		return nil
	}
	return Some(*p)
}

func zeroedCopy(p *float64) *float64 {
	if p == nil {
		return nil
	}
	return Some(zeroed(*p))
}

func utcCopy(p *time.Time) *time.Time {
	if p == nil {
		return nil
	}
	return Some(p.UTC())
}

// found is for lookups that may find nothing.
func found[T any](value T, err error) (T, bool, error) { return value, err == nil, err }

func deref[T any](p *T) (value T, ok bool) {
	if p == nil {
		return value, false
	}
	return *p, true
}

// orNone returns what p points to, and for printing "none" when that is nothing.
func orNone[T any](p *T) any {
	if p == nil {
		return "none"
	}
	return *p
}

func samePtr[T comparable](a, b *T) bool {
	return a == b || a != nil && b != nil && *a == *b
}

// same compares two products, either of which may be nil.
func same[T interface {
	comparable
	Equal(T) bool
}](a, b T) bool {
	var none T
	if a == none || b == none {
		return a == b
	}
	return a.Equal(b)
}

// sameKind compares two products of one kind, either of which may be nil.
func sameKind[T any](a, b *T, equal func(a, b *T) bool) bool {
	if a == nil || b == nil {
		return a == b
	}
	return equal(a, b)
}

func finite(v float64) bool { return !math.IsNaN(v) && !math.IsInf(v, 0) }

// isInstant reports whether a time is one in whole microseconds, of the years 1 to 9999 in UTC.
func isInstant(at time.Time) bool {
	year := at.UTC().Year()
	return at.Nanosecond()%1000 == 0 && year >= 1 && year <= 9999
}

// isDuration reports whether a length of time is one in whole microseconds, of at most 100,000 days.
func isDuration(length time.Duration) bool {
	const longest = 100000 * 24 * time.Hour
	return length%time.Microsecond == 0 && -longest <= length && length <= longest
}

// lasting returns a length of time by its units.
func lasting(hours, minutes, seconds, microseconds time.Duration) time.Duration {
	return hours*time.Hour + minutes*time.Minute + seconds*time.Second + microseconds*time.Microsecond
}

// zeroed returns v, and 0.0 for -0.0.
func zeroed(v float64) float64 { return v + 0 }

func blank(s string) bool { return strings.Trim(s, " \t\n\v\f\r") == "" }

// mapped returns a slice of what f makes of each value.
func mapped[T any](values []T, f func(T) T) []T {
	own := make([]T, len(values))
	for i, value := range values {
		own[i] = f(value)
	}
	return own
}

// mappedValues returns a map of what f makes of each value.
func mappedValues[K comparable, T any](values map[K]T, f func(T) T) map[K]T {
	own := make(map[K]T, len(values))
	for key, value := range values {
		own[key] = f(value)
	}
	return own
}

// itself is for mapped, where the values are held as they are.
func itself[T any](value T) T { return value }

// sortedSet returns the values, sorted, each once.
func sortedSet[T cmp.Ordered](values []T) []T {
	own := slices.Clone(values)
	slices.Sort(own)
	return slices.Compact(own)
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for key := range m {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	return keys
}

// repeated returns the place of the first value that stood before it already, or -1.
func repeated[T comparable](values []T) int {
	before := make(map[T]struct{}, len(values))
	for i, value := range values {
		if _, there := before[value]; there {
			return i
		}
		before[value] = struct{}{}
	}
	return -1
}

// distinct returns how many different values there are.
func distinct[T cmp.Ordered](values []T) int { return len(sortedSet(values)) }
