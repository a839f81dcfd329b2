package PACKAGE

import (
	"cmp"
	"fmt"
	"time"
)

// CalendarDate is a day of the Gregorian calendar, which is taken to have held always, in the years 1 to 9999. The zero
// value is no day.
type CalendarDate struct {
	year       int16
	month, day int8
}

// NewCalendarDate returns a day; it is an error if there is none.
func NewCalendarDate(year int, month time.Month, day int) (CalendarDate, error) {
	at := time.Date(year, month, day, 0, 0, 0, 0, time.UTC)
	if year < 1 || year > 9999 || at.Year() != year || at.Month() != month || at.Day() != day {
		return CalendarDate{}, fmt.Errorf("there is no day %d-%02d-%02d", year, month, day)
	}
	return CalendarDate{int16(year), int8(month), int8(day)}, nil
}

// ParseCalendarDate reads a day such as 2026-12-01, and no other form.
func ParseCalendarDate(text string) (CalendarDate, error) {
	at, err := time.Parse(time.DateOnly, text)
	if err != nil || at.Year() < 1 {
		return CalendarDate{}, fmt.Errorf("%q is no date", text)
	}
	return CalendarDateOf(at), nil
}

// CalendarDateOf returns the day of a point in time, where that is; the zero value for other years.
func CalendarDateOf(at time.Time) CalendarDate {
	date, _ := NewCalendarDate(at.Year(), at.Month(), at.Day())
	return date
}

// Year returns the year.
func (d CalendarDate) Year() int { return int(d.year) }

// Month returns the month.
func (d CalendarDate) Month() time.Month { return time.Month(d.month) }

// Day returns the day of the month.
func (d CalendarDate) Day() int { return int(d.day) }

// IsZero reports whether it is no day.
func (d CalendarDate) IsZero() bool { return d == CalendarDate{} }

// In returns the time at which the day begins in a location.
func (d CalendarDate) In(location *time.Location) time.Time {
	return time.Date(d.Year(), d.Month(), d.Day(), 0, 0, 0, 0, location)
}

// Compare returns a negative number for an earlier day than the other, a positive one for a later day, and else 0.
func (d CalendarDate) Compare(other CalendarDate) int {
	return cmp.Or(cmp.Compare(d.year, other.year), cmp.Compare(d.month, other.month), cmp.Compare(d.day, other.day))
}

// String returns the day as ParseCalendarDate reads it.
func (d CalendarDate) String() string { return fmt.Sprintf("%04d-%02d-%02d", d.year, d.month, d.day) }
