package PACKAGE

import (
	"cmp"
	"fmt"
	"strings"
	"time"
)

// TimeOfDay is a time of day in microseconds, in no location; the zero value is midnight.
type TimeOfDay struct{ micros int64 }

// NewTimeOfDay returns a time of day; it is an error if there is none.
func NewTimeOfDay(hour, minute, second, microsecond int) (TimeOfDay, error) {
	if hour < 0 || hour > 23 || minute < 0 || minute > 59 || second < 0 || second > 59 || microsecond < 0 || microsecond > 999999 {
		return TimeOfDay{}, fmt.Errorf("there is no time %02d:%02d:%02d.%06d", hour, minute, second, microsecond)
	}
	return clockAt(hour, minute, second, microsecond), nil
}

// clockAt returns what is known for a time of day.
func clockAt(hour, minute, second, microsecond int) TimeOfDay {
	return TimeOfDay{int64((hour*60+minute)*60+second)*1000000 + int64(microsecond)}
}

// ParseTimeOfDay reads a time such as 06:30:00 or 06:30:00.25, and no other form.
func ParseTimeOfDay(text string) (TimeOfDay, error) {
	at, err := time.Parse(time.TimeOnly, text)
	if err != nil || len(text) < 8 || text[2] != ':' || len(text) > 15 || len(text) > 8 && (text[8] != '.' || len(text) < 10) {
		return TimeOfDay{}, fmt.Errorf("%q is no time of day", text)
	}
	return TimeOfDayOf(at), nil
}

// TimeOfDayOf returns what the clock shows at a point in time, where that is, in whole microseconds.
func TimeOfDayOf(at time.Time) TimeOfDay {
	return clockAt(at.Hour(), at.Minute(), at.Second(), at.Nanosecond()/1000)
}

// Hour returns the hour.
func (t TimeOfDay) Hour() int { return int(t.micros / 3600000000) }

// Minute returns the minute of the hour.
func (t TimeOfDay) Minute() int { return int(t.micros / 60000000 % 60) }

// Second returns the second of the minute.
func (t TimeOfDay) Second() int { return int(t.micros / 1000000 % 60) }

// Microsecond returns the microsecond of the second.
func (t TimeOfDay) Microsecond() int { return int(t.micros % 1000000) }

// Compare returns a negative number for an earlier time than the other, a positive one for a later time, and else 0.
func (t TimeOfDay) Compare(other TimeOfDay) int { return cmp.Compare(t.micros, other.micros) }

// String returns the time as ParseTimeOfDay reads it, without zeros at the end of a fraction.
func (t TimeOfDay) String() string {
	text := fmt.Sprintf("%02d:%02d:%02d", t.Hour(), t.Minute(), t.Second())
	if t.Microsecond() != 0 {
		text += strings.TrimRight(fmt.Sprintf(".%06d", t.Microsecond()), "0")
	}
	return text
}
