package PACKAGE_test

import (
	"errors"
	"testing"

	"PACKAGE.example/PACKAGE"
)

var pier = map[string]any{
	"name": "pier", "periodMs": 4, "sectors": []any{map[string]any{"from_degrees": 10.0}},
}

func TestKeyTakesARecordOfTheFieldsOfItsKind(t *testing.T) {
	made, err := PACKAGE.NewMark("T1", pier)
	if err != nil {
		t.Fatal(err)
	}
	light, ok := made.(*PACKAGE.Light)
	if !ok || light.Period() != 4 || light.Sectors()[0].FromDegrees() != 10 {
		t.Errorf("got %v", made)
	}
}

func TestEverythingThatIsWrongIsTold(t *testing.T) {
	_, err := PACKAGE.NewMark("light", map[string]any{"name": "far too long", "draught": 1})
	var wrong *PACKAGE.RecordError
	if !errors.As(err, &wrong) || len(wrong.Problems) != 4 {
		t.Errorf("got %v", err)
	}
	var unknown *PACKAGE.UnknownKeyError
	if _, err := PACKAGE.NewMark("lihgt", pier); !errors.As(err, &unknown) {
		t.Errorf("got %v", err)
	}
}

func TestRegistryTakesKindsWithFieldsOfTheirOwn(t *testing.T) {
	registry := PACKAGE.NewTideRegistry()
	spring := func(record any) (PACKAGE.Tide, error) {
		fields, _ := record.(map[string]any)
		station, _ := fields["station"].(string)
		rise, _ := fields["rise"].(float64)
		return PACKAGE.NewHigh(station, rise)
	}
	if err := registry.Register("spring", spring); err != nil {
		t.Fatal(err)
	}
	record := map[string]any{"type": "spring", "station": "Quay", "rise": 5.5}
	made, err := PACKAGE.ReadTideWith(registry, record)
	if err != nil || made.(*PACKAGE.High).Metres() != 5.5 {
		t.Errorf("got %v, %v", made, err)
	}
	_, err = registry.Make("high", map[string]any{"metres": -1})
	var wrong *PACKAGE.RecordError
	if !errors.As(err, &wrong) || len(wrong.Problems) != 2 {
		t.Errorf("got %v", err)
	}
	_, err = PACKAGE.ReadTideWith(registry, map[string]any{"type": "spring", "station": "Quay", "rise": -1.0})
	if !errors.As(err, &wrong) || wrong.Problems[0].Path != "metres" {
		t.Errorf("got %v", err)
	}
}
