package PACKAGE_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"PACKAGE.example/PACKAGE"
)

var instantsDay, _ = PACKAGE.NewCalendarDate(2026, time.December, 1)

func tideAt(at time.Time) (*PACKAGE.Tide, error) {
	return PACKAGE.NewTide(at, 1, instantsDay, PACKAGE.TideOptions{})
}

func TestAnInstantIsTheSameInEveryLocation(t *testing.T) {
	noon := time.Date(2026, time.December, 1, 12, 0, 0, 0, time.UTC)
	first, _ := tideAt(noon)
	for _, location := range []*time.Location{time.UTC, time.Local, time.FixedZone("", 0), time.FixedZone("far", 14*60*60)} {
		other, err := tideAt(noon.In(location))
		if err != nil || !other.Equal(first) || other.Turned() != noon {
			t.Errorf("%v: %v, %v", location, other, err)
		}
	}
	now := time.Now().Truncate(time.Microsecond)
	tide, err := tideAt(now)
	if err != nil || strings.Contains(tide.Turned().String(), "m=") || !tide.Turned().Equal(now) {
		t.Errorf("%v, %v", tide, err)
	}
}

func TestWhatIsFinerOrFartherIsRefused(t *testing.T) {
	first := time.Date(1, time.January, 1, 0, 0, 0, 0, time.UTC)
	last := time.Date(9999, time.December, 31, 23, 59, 59, 999999000, time.UTC)
	for _, at := range []time.Time{first.Add(-time.Microsecond), last.Add(time.Microsecond), first.Add(1), time.Unix(1<<60, 0)} {
		if tide, err := tideAt(at); err == nil || !strings.Contains(err.Error(), "an instant is wanted") {
			t.Errorf("%v, %v", tide, err)
		}
	}
	for _, at := range []time.Time{{}, first, last} {
		if _, err := tideAt(at); err != nil {
			t.Error(err)
		}
	}
	closed := last.Add(time.Nanosecond)
	if _, err := PACKAGE.NewRepair(last, PACKAGE.RepairOptions{Closed: &closed}); err == nil {
		t.Error("a repair that was closed too late")
	}
}

func TestOptionsAreNotKept(t *testing.T) {
	closed := time.Date(2026, time.December, 1, 12, 0, 0, 0, time.FixedZone("", 3600))
	repair, err := PACKAGE.NewRepair(closed, PACKAGE.RepairOptions{Closed: &closed})
	if err != nil {
		t.Fatal(err)
	}
	closed = closed.AddDate(1, 0, 0)
	if held, there := repair.Closed(); !there || held.Year() != 2026 || held.Location() != time.UTC {
		t.Errorf("%v", held)
	}
}

func TestTextsOfInstantsAreReadInOneForm(t *testing.T) {
	read := func(text string) (*PACKAGE.Tide, error) {
		var tide PACKAGE.Tide
		err := json.Unmarshal([]byte(fmt.Sprintf(`{"turned":%q,"metres":1,"day":"2026-12-01"}`, text)), &tide)
		return &tide, err
	}
	for _, text := range []string{"2026-12-01T1:00:00Z", "2026-12-01T12:00:00,5Z", "2026-12-01T12:00:00+24:00", "2026-12-01T12:00:00.Z",
		"0001-01-01T00:00:00+00:01", "9999-12-31T23:59:59-00:01", "2026-12-01T12:00:00.1234567Z", "Z", "", "2026-12-01T12:00:00+1:000"} {
		if tide, err := read(text); err == nil {
			t.Errorf("%s: %v", text, tide)
		}
	}
	noon := time.Date(2026, time.December, 1, 12, 0, 0, 0, time.UTC)
	for _, text := range []string{"2026-12-01t12:00:00z", "2026-12-01T12:00:00.000-00:00", "2026-12-02T11:59:00+23:59"} {
		if tide, err := read(text); err != nil || tide.Turned() != noon {
			t.Errorf("%s: %v, %v", text, tide, err)
		}
	}
}
