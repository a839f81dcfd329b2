package PACKAGE_test

import (
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"PACKAGE.example/PACKAGE"
)

func TestEveryDayIsOneAndNoOtherIs(t *testing.T) {
	for _, year := range []int{-1, 0, 1, 4, 100, 400, 1582, 1900, 2000, 2023, 2024, 9999, 10000} {
		for month := 0; month < 14; month++ {
			for day := -1; day < 34; day++ {
				at := time.Date(year, time.Month(month), day, 0, 0, 0, 0, time.UTC)
				want := year >= 1 && year <= 9999 && int(at.Month()) == month && at.Day() == day
				date, err := PACKAGE.NewCalendarDate(year, time.Month(month), day)
				if (err == nil) != want {
					t.Errorf("%d-%d-%d: %v", year, month, day, err)
				}
				if want && (!date.In(time.UTC).Equal(at) || PACKAGE.CalendarDateOf(at) != date) {
					t.Errorf("%v is not %v", date, at)
				}
				text := fmt.Sprintf("%04d-%02d-%02d", year, month, day)
				if read, err := PACKAGE.ParseCalendarDate(text); (err == nil) != want || want && read.String() != text {
					t.Errorf("%s: %v, %v", text, read, err)
				}
			}
		}
	}
}

func TestDaysHaveTheirOrder(t *testing.T) {
	var before PACKAGE.CalendarDate
	for at := time.Date(1, 1, 1, 0, 0, 0, 0, time.UTC); at.Year() < 9999; at = at.AddDate(0, 0, 1+at.Year()) {
		day := PACKAGE.CalendarDateOf(at)
		if before.Compare(day) >= 0 || day.Compare(before) <= 0 || day.Compare(day) != 0 || day.IsZero() {
			t.Fatalf("%v, %v", before, day)
		}
		before = day
	}
	if !PACKAGE.CalendarDateOf(time.Date(10000, 1, 1, 0, 0, 0, 0, time.UTC)).IsZero() {
		t.Error("a day beyond the years of dates")
	}
}

func TestTheZeroValueIsNoDayAnywhere(t *testing.T) {
	if _, err := PACKAGE.NewTide(PACKAGE.CalendarDate{}, 1, PACKAGE.TideOptions{}); err == nil {
		t.Error("a tide of no day")
	}
	var none PACKAGE.CalendarDate
	if _, err := PACKAGE.NewRepair(PACKAGE.CalendarDateOf(time.Now()), PACKAGE.RepairOptions{Closed: &none}); err == nil {
		t.Error("a repair that was closed on no day")
	}
	for _, text := range []string{`{"day":"2026-12-01 ","metres":1}`, `{"day":20261201,"metres":1}`, `{"day":"","metres":1}`} {
		var tide PACKAGE.Tide
		if err := json.Unmarshal([]byte(text), &tide); err == nil {
			t.Errorf("%s is a tide", text)
		}
	}
}
