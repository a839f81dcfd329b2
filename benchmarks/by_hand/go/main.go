package main

import (
	"fmt"
	"slices"
	"sync"
	"time"

	"harbour.example/fairway"
)

const rounds = 21

var kept any // keeps the compiler from leaving work out

func timed(n int, job func()) float64 {
	started := time.Now()
	for range n {
		job()
	}
	return float64(time.Since(started).Nanoseconds()) / float64(n)
}

// compare prints the median ratio of one to the other, measured in turn, and the nanoseconds of one.
func compare(name string, n int, one, other func()) {
	timed(n, one)
	timed(n, other)
	ratios, times := make([]float64, rounds), make([]float64, rounds)
	for i := range rounds {
		times[i] = timed(n, one)
		ratios[i] = times[i] / timed(n, other)
	}
	slices.Sort(ratios)
	slices.Sort(times)
	fmt.Printf("%s %.3f %.0f\n", name, ratios[rounds/2], times[rounds/2])
}

func must[T any](value T, err error) T {
	if err != nil {
		panic(err)
	}
	return value
}

func main() {
	remarks := "none"
	ours, theirs := must(fairway.NewPosition(54.5, 10.25)), must(newPosition(54.5, 10.25))
	registry, byHand := fairway.NewMarkRegistry(), newMarkRegistry()
	compare("factory", 200_000,
		func() { kept = must(registry.Make("buoy", 17, ours, fairway.MarkOptions{Remarks: &remarks})) },
		func() { kept = must(byHand.Make("buoy", 17, theirs, markOptions{Remarks: &remarks})) })

	inspect := must(fairway.NewLeg("Inspect", fairway.LegOptions{}))
	own := must(newLeg("Inspect", 0))
	labels, at, hours := [4]string{"lantern", "mooring", "paint", "topmark"}, 0, 1.0
	compare("position", 500_000,
		func() { at++; kept = must(fairway.NewPosition(float64(at%90), 10.25)) },
		func() { at++; kept = must(newPosition(float64(at%90), 10.25)) })
	compare("leg", 500_000,
		func() { at++; kept = must(fairway.NewLeg(labels[at&3], fairway.LegOptions{Hours: &hours})) },
		func() { at++; kept = must(newLeg(labels[at&3], hours)) })
	changed, ownChanged := must(fairway.NewLeg("Inspect", fairway.LegOptions{})), must(newLeg("Inspect", 0))
	compare("setter", 500_000,
		func() { at++; kept = changed.SetLabel(labels[at&3]) },
		func() { at++; kept = ownChanged.setLabel(labels[at&3]) })
	compare("builder", 100_000,
		func() {
			b := fairway.NewRefitPlanBuilder().Title("Winter").Crew(3).Tags("ice", "north")
			kept = must(b.AddLeg(inspect).AddLeg(inspect).AddLeg(inspect).Build())
		},
		func() {
			b := (&refitPlanBuilder{}).Title("Winter").Crew(3).Tags("ice", "north")
			kept = must(b.AddLeg(own).AddLeg(own).AddLeg(own).Build())
		})

	legs, ownLegs := make([]*fairway.Leg, 50), make([]*leg, 50)
	for i := range legs {
		legs[i], ownLegs[i] = inspect, own
	}
	plan := must(fairway.NewRefitPlan("Winter", legs, fairway.RefitPlanOptions{}))
	ownPlan := must(newRefitPlan("Winter", ownLegs, refitPlanOptions{}))
	compare("clone", 20_000, func() { kept = plan.Clone() }, func() { kept = ownPlan.Clone() })

	pool := fairway.NewLightRhythmPool(nil)
	must(pool.Get("Fl", 4000))
	type key struct {
		code   string
		period int64
	}
	var held sync.Map
	held.Store(key{"Fl", 4000}, must(pool.Get("Fl", 4000)))
	compare("pool", 500_000,
		func() { kept = must(pool.Get("Fl", 4000)) },
		func() {
			value, _ := held.Load(key{"Fl", 4000})
			kept = value.(*fairway.LightRhythm)
		})
}
