package PACKAGE

import (
	"math"
	"slices"
	"testing"
)

func TestMissingNamesAllThatAreNotThere(t *testing.T) {
	err := missing("Buoy", given{"a", false}, given{"b", true}, given{"c", false})
	if err == nil || err.Error() != "Buoy: missing a, c" {
		t.Errorf("got %v", err)
	}
	if err := missing("Buoy", given{"b", true}); err != nil {
		t.Errorf("got %v, want none", err)
	}
}

func TestMessages(t *testing.T) {
	for want, err := range map[string]error{
		"Mark.station is 0; at least 1 is allowed":      &LimitError{Owner: "Mark", Field: "station", Limit: "min", Bound: int64(1), Value: int64(0)},
		"Leg.hours is 1e+21; less than 2.0 is wanted":   &LimitError{Owner: "Leg", Field: "hours", Limit: "below", Bound: 2.0, Value: 1e21},
		"Leg.label: a text that is not blank is wanted": &LimitError{Owner: "Leg", Field: "label", Limit: "not_blank"},
		`Mark: unknown key "a\"b", known: x, y`: &UnknownKeyError{Owner: "Mark", Key: `a"b`, Known: []string{"x", "y"}},
		`Mark: key "x" is taken`:                &DuplicateKeyError{Owner: "Mark", Key: "x"},
		"TideOffset: refused, too low":          &RefusedError{Owner: "TideOffset", Reason: "too low"},
	} {
		if err.Error() != want {
			t.Errorf("got %s, want %s", err, want)
		}
	}
}

func TestBlank(t *testing.T) {
	for text, want := range map[string]bool{"": true, " \t\n\v\f\r": true, "\u00a0": false, "\u0085": false, "\u2028": false} {
		if blank(text) != want {
			t.Errorf("%q: got %v", text, !want)
		}
	}
}

func TestNumbers(t *testing.T) {
	for _, v := range []float64{math.NaN(), math.Inf(1), math.Inf(-1)} {
		if finite(v) {
			t.Errorf("%v is finite", v)
		}
	}
	if math.Signbit(zeroed(math.Copysign(0, -1))) || math.Signbit(*zeroedCopy(Some(math.Copysign(0, -1)))) {
		t.Error("-0.0 is not held as 0.0")
	}
	if zeroedCopy(nil) != nil || copyOf[int](nil) != nil {
		t.Error("nil is not held as nil")
	}
}

func TestCollections(t *testing.T) {
	values := []string{"b", "\U0001F6DF", "a", "\uffff", "b"}
	if got := sortedSet(values); !slices.Equal(got, []string{"a", "b", "\uffff", "\U0001F6DF"}) || values[0] != "b" {
		t.Errorf("got %q from %q", got, values)
	}
	own := mapped(values, itself[string])
	own[0] = "changed"
	if values[0] != "b" {
		t.Error("the slice is shared")
	}
	if mappedValues(map[string]int(nil), itself[int]) == nil {
		t.Error("a nil map is held")
	}
}

func TestPointers(t *testing.T) {
	if orElse(nil, 3) != 3 || orElse(Some(0), 3) != 0 || firstOf("", "x") != "x" || firstOf("y", "x") != "y" {
		t.Error("a default wins, or loses, wrongly")
	}
	if !samePtr(Some(1), Some(1)) || samePtr(Some(1), nil) || !samePtr[int](nil, nil) || samePtr(nil, Some(1)) {
		t.Error("pointers are not compared by content")
	}
	if value, ok := deref[int](nil); ok || value != 0 {
		t.Error("nil has a value")
	}
}
