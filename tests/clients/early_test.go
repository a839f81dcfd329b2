package PACKAGE

import (
	"errors"
	"reflect"
	"testing"
)

func earlyLeg(t *testing.T, mark string) *Leg {
	t.Helper()
	leg, err := NewLeg(mark, 2)
	if err != nil {
		t.Fatal(err)
	}
	return leg
}

// The compiler cannot follow what a builder was given: it is told as it builds.
func TestEarlyWhatIsMissingIsToldByTheBuild(t *testing.T) {
	builder := NewRefitPlanBuilder().Crew(3)
	_, err := builder.Build()
	var missing *MissingError
	if !errors.As(err, &missing) || !reflect.DeepEqual(missing.Fields, []string{"berth", "legs"}) {
		t.Fatalf("got %v", err)
	}
	plan, err := builder.Berth("north").AddLeg(earlyLeg(t, "bar")).Build()
	if err != nil || plan.Crew() != 3 {
		t.Fatalf("got %v, %v", plan, err)
	}
}

func TestEarlyAPresetIsFilledUp(t *testing.T) {
	plan, err := NewRefitPlanBuilderSpring().Berth("north").Legs(earlyLeg(t, "bar")).Build()
	if err != nil || plan.Crew() != 3 || plan.Berth() != "north" {
		t.Fatalf("got %v, %v", plan, err)
	}
}
