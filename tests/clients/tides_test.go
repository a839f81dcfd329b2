package PACKAGE_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"testing"
	"time"

	"PACKAGE.example/PACKAGE"
)

func tideOf(turns PACKAGE.TimeOfDay, runs time.Duration, rises PACKAGE.Decimal) (*PACKAGE.Tide, error) {
	return PACKAGE.NewTide(turns, runs, rises, PACKAGE.TideOptions{})
}

func readTide(turns, runs, rises string) (*PACKAGE.Tide, error) {
	var tide PACKAGE.Tide
	err := json.Unmarshal([]byte(fmt.Sprintf(`{"turns":%q,"runs":%q,"rises":%q}`, turns, runs, rises)), &tide)
	return &tide, err
}

func TestZeroValuesAreValues(t *testing.T) {
	var (
		midnight PACKAGE.TimeOfDay
		nothing  PACKAGE.Decimal
	)
	tide, err := tideOf(midnight, 0, nothing)
	if err != nil {
		t.Fatal(err)
	}
	read, err := readTide("00:00:00", "PT0S", "-0.00")
	if err != nil || !read.Equal(tide) || read.Rises() != nothing || nothing.String() != "0" || nothing.Sign() != 0 {
		t.Errorf("%v, %v", read, err)
	}
}

func TestLengthsEndAtAHundredThousandDays(t *testing.T) {
	most := 100_000 * 24 * time.Hour
	for _, length := range []time.Duration{most, -most, time.Microsecond, -time.Microsecond} {
		tide, err := tideOf(PACKAGE.TimeOfDay{}, length, PACKAGE.Decimal{})
		if err != nil {
			t.Fatal(err)
		}
		text, _ := json.Marshal(tide)
		var again PACKAGE.Tide
		if err := json.Unmarshal(text, &again); err != nil || again.Runs() != length {
			t.Errorf("%s: %v, %v", text, again.Runs(), err)
		}
	}
	for _, length := range []time.Duration{most + 1000, -most - 1000, 1, math.MaxInt64, math.MinInt64} {
		if _, err := tideOf(PACKAGE.TimeOfDay{}, length, PACKAGE.Decimal{}); err == nil || len(err.Error()) > 200 {
			t.Errorf("%v: %v", length, err)
		}
	}
}

func TestDecimalsHaveTheOrderOfNumbers(t *testing.T) {
	inOrder := []string{"-99999999999999999999.999999999999999999", "-10", "-9.5", "-0.000000000000000001", "0", "0.1", "0.25", "9", "10.000000000000000001", "10.1"}
	var numbers []PACKAGE.Decimal
	for _, text := range inOrder {
		number, err := PACKAGE.ParseDecimal(text)
		if err != nil || number.String() != text || number.Rat().Sign() != number.Sign() {
			t.Errorf("%s: %v, %v", text, number, err)
		}
		numbers = append(numbers, number)
	}
	if !slices.IsSortedFunc(numbers, PACKAGE.Decimal.Compare) {
		t.Error(numbers)
	}
	for i, one := range numbers {
		for j, other := range numbers {
			if order := one.Compare(other); (order < 0) != (i < j) || (order == 0) != (one == other) {
				t.Errorf("%v, %v: %d", one, other, order)
			}
		}
	}
	if one, _ := PACKAGE.ParseDecimal("1.50"); one.String() != "1.5" || one.Rat().FloatString(2) != "1.50" {
		t.Error(one)
	}
}

func TestTimesAreThoseOfADay(t *testing.T) {
	last, err := PACKAGE.NewTimeOfDay(23, 59, 59, 999999)
	if err != nil || last.String() != "23:59:59.999999" || last.Hour() != 23 || last.Minute() != 59 || last.Second() != 59 || last.Microsecond() != 999999 {
		t.Error(last, err)
	}
	for _, parts := range [][4]int{{24, 0, 0, 0}, {0, 60, 0, 0}, {0, 0, 60, 0}, {0, 0, 0, 1000000}, {-1, 0, 0, 0}, {0, 0, 0, -1}} {
		if at, err := PACKAGE.NewTimeOfDay(parts[0], parts[1], parts[2], parts[3]); err == nil {
			t.Error(at)
		}
	}
	if at := PACKAGE.TimeOfDayOf(time.Date(2026, 12, 1, 6, 30, 0, 999, time.UTC)); at.String() != "06:30:00" || at.Compare(last) >= 0 {
		t.Error(at)
	}
}

func TestTextsOfThemAreReadInOneForm(t *testing.T) {
	for _, text := range []string{"6:00:00", "06:00", "06:00:00,5", "24:00:00", "06:00:00.", "06:00:00.1234567", "06:00:00Z", "", "6:00:00.5"} {
		if tide, err := readTide(text, "PT1H", "1"); err == nil {
			t.Errorf("%s: %v", text, tide)
		}
	}
	for _, text := range []string{"", "P", "PT", "-P", "P1DT", "PT1.5H", "PT.5S", "1h", "P1M", "PT1M1H", "P100001D", "PT9999999999S", "PT1H\n"} {
		if tide, err := readTide("06:00:00", text, "1"); err == nil {
			t.Errorf("%s: %v", text, tide)
		}
	}
	for _, text := range []string{"", "-", ".", "1.", ".5", "01", "+1", "1e3", "NaN", "1/3", "0x1", "1_0", "１", "1.1234567890123456789"} {
		if tide, err := readTide("06:00:00", "PT1H", text); err == nil {
			t.Errorf("%s: %v", text, tide)
		}
	}
	first, _ := readTide("06:00:00", "PT1H30M", "1")
	for _, text := range []string{"PT90M", "PT5400S", "PT5400.000000S", "PT1H1800S"} {
		if tide, err := readTide("06:00:00.000", text, "1.00"); err != nil || !tide.Equal(first) {
			t.Errorf("%s: %v, %v", text, tide, err)
		}
	}
}
