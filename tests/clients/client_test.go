package PACKAGE

import (
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"
)

func harbourPosition(t *testing.T) *Position {
	t.Helper()
	position, err := NewPosition(54.2, 9.1)
	if err != nil {
		t.Fatal(err)
	}
	return position
}

// A plug-in registers a kind of its own that makes a declared variant, preset.
func TestClientPlugsAKindIn(t *testing.T) {
	registry, other := NewMarkRegistry(), NewMarkRegistry()
	err := registry.Register("port_buoy", func(station int64, position *Position, opts MarkOptions) (Mark, error) {
		return NewBuoy(station, position, BuoyOptions{MarkOptions: MarkOptions{Side: SidePort}})
	})
	if err != nil {
		t.Fatal(err)
	}
	mark, err := registry.Make("port_buoy", 3, harbourPosition(t), MarkOptions{})
	if err != nil {
		t.Fatal(err)
	}
	if side, ok := mark.Side(); !ok || side != SidePort || mark.Key() != BuoyKey {
		t.Errorf("got %v", mark)
	}
	_, err = other.Make("port_buoy", 3, harbourPosition(t), MarkOptions{})
	var unknown *UnknownKeyError
	if !errors.As(err, &unknown) || unknown.Key != "port_buoy" || !slices.Equal(unknown.Known, []string{"beacon", "buoy"}) {
		t.Errorf("got %v", err)
	}
}

// Whoever changes a clone prints both and compares.
func TestClientChangesAClone(t *testing.T) {
	plan, err := NewRefitPlanBuilderSpringRefit().Title("Basin 4").AddLeg(Must(t, "Inspect")).AddTag("steel").Build()
	if err != nil {
		t.Fatal(err)
	}
	before := plan.String()
	clone := plan.Clone()
	if clone == plan || !clone.Equal(plan) {
		t.Errorf("%v is no clone of %v", clone, plan)
	}
	if err := clone.Legs()[0].SetLabel("Paint"); err != nil {
		t.Fatal(err)
	}
	clone.SetTags([]string{"wood"})
	if plan.String() != before || clone.String() == before {
		t.Errorf("the original was %s and is %s", before, plan)
	}
}

// Whoever changes one leg after the other leaves the clone alone, and a place that is none.
func TestClientChangesOneLegAfterTheOther(t *testing.T) {
	plan, err := NewRefitPlan("Basin 4", []*Leg{Must(t, "Inspect")}, RefitPlanOptions{Tags: []string{"steel"}})
	if err != nil {
		t.Fatal(err)
	}
	plan.AddTag("lost")
	plan.RemoveTag(1)
	clone, inspect := plan.Clone(), plan.LegsAt(0)
	plan.AddTag("spring")
	clone.AddTag("autumn")
	clone.PutTag(0, "wood")
	if got := fmt.Sprint(plan.Tags(), clone.Tags()); got != "[steel spring] [wood autumn]" {
		t.Errorf("the tags are %s", got)
	}
	if err := plan.AddLeg(Must(t, "Paint")); err != nil || plan.LegsAt(0) != inspect {
		t.Errorf("another leg is the first, or %v", err)
	}
	for _, beyond := range []int{2, -1} {
		for _, change := range []func(){func() { plan.PutTag(beyond, "lost") }, func() { plan.RemoveTag(beyond) }} {
			func() {
				defer func() {
					if recover() == nil {
						t.Errorf("there is a place %d", beyond)
					}
				}()
				change()
			}()
		}
	}
	var broken *LimitError
	if err := errors.Join(plan.RemoveLeg(0), plan.RemoveLeg(0)); !errors.As(err, &broken) || broken.Limit != "min_length" {
		t.Errorf("removing the last leg gives %v", err)
	}
	if got := fmt.Sprintf("%v %d %s", plan.Tags(), plan.LegsLen(), plan.LegsAt(0).Label()); got != "[steel spring] 1 Paint" {
		t.Errorf("the plan is %s", got)
	}
}

func Must(t *testing.T, label string) *Leg {
	t.Helper()
	leg, err := NewLeg(label, LegOptions{})
	if err != nil {
		t.Fatal(err)
	}
	return leg
}

// One error tells everything that a caller forgot, and the builder can go on.
func TestClientForgets(t *testing.T) {
	builder := NewRefitPlanBuilder()
	_, err := builder.Build()
	var missing *MissingError
	if !errors.As(err, &missing) || !slices.Equal(missing.Fields, []string{"title", "legs"}) {
		t.Fatalf("got %v", err)
	}
	first, err := builder.Title("Basin 4").AddLeg(Must(t, "Inspect")).Build()
	if err != nil {
		t.Fatal(err)
	}
	second, err := builder.Title("Basin 5").Build()
	if err != nil || first.Title() != "Basin 4" || second.Title() != "Basin 5" {
		t.Errorf("got %v, %v and %v", first, second, err)
	}
}

// A hundred lanterns ask from many goroutines: one construction, ninety-nine times reused.
func TestPoolMakesOnce(t *testing.T) {
	var p pool[string, int]
	var made sync.Map
	var wait sync.WaitGroup
	gate := make(chan struct{})
	for range 100 {
		wait.Go(func() {
			<-gate
			got := p.hit("Fl 4s")
			if got == nil {
				got, _ = p.miss("LightRhythm", "Fl 4s", func() (*int, error) {
					time.Sleep(time.Millisecond)
					return new(int), nil
				})
			}
			made.Store(got, true)
		})
	}
	close(gate)
	wait.Wait()
	different := 0
	made.Range(func(_, _ any) bool { different++; return true })
	if different != 1 || p.made.Load() != 1 || p.reused.Load() != 99 {
		t.Errorf("%d different, made %d, reused %d", different, p.made.Load(), p.reused.Load())
	}
}

func TestPoolMakerThatFails(t *testing.T) {
	var p pool[string, int]
	failure := errors.New("no lamp")
	if got, err := p.miss("LightRhythm", "a", func() (*int, error) { return new(int), failure }); got != nil || err != failure {
		t.Errorf("got %v, %v", got, err)
	}
	func() {
		defer func() {
			if said := recover(); said != "blown" {
				t.Errorf("recovered %v", said)
			}
		}()
		_, _ = p.miss("LightRhythm", "a", func() (*int, error) { panic("blown") })
	}()
	got, err := p.miss("LightRhythm", "a", func() (*int, error) { return Some(4), nil })
	if err != nil || *got != 4 || p.hit("a") != got || p.made.Load() != 1 {
		t.Errorf("got %v, %v, made %d", got, err, p.made.Load())
	}
}

// A panic while others wait leaves none of them waiting.
func TestPoolWaitersOutliveAPanic(t *testing.T) {
	var p pool[string, int]
	started, release, waited := make(chan struct{}), make(chan struct{}), make(chan error, 1)
	go func() {
		defer func() { _ = recover() }()
		_, _ = p.miss("LightRhythm", "a", func() (*int, error) { close(started); <-release; panic("blown") })
	}()
	<-started
	go func() {
		_, err := p.miss("LightRhythm", "a", func() (*int, error) { return new(int), nil })
		waited <- err
	}()
	for under := false; !under; runtime.Gosched() {
		p.mu.Lock()
		under = p.calls["a"] != nil
		p.mu.Unlock()
	}
	time.Sleep(5 * time.Millisecond)
	close(release)
	select {
	case err := <-waited:
		if err != nil && !strings.Contains(err.Error(), "panicked") {
			t.Error(err)
		}
	case <-time.After(10 * time.Second):
		t.Fatal("still waiting")
	}
}

func TestKeyMadeMeanwhileWaitsForNobody(t *testing.T) {
	var p pool[string, int]
	_, err := p.miss("LightRhythm", "a", func() (*int, error) { return p.miss("LightRhythm", "b", func() (*int, error) { return Some(2), nil }) })
	if err != nil || p.made.Load() != 2 {
		t.Errorf("%v, made %d", err, p.made.Load())
	}
}

func TestWeakPoolLetsGo(t *testing.T) {
	var p weakPool[string, [64]byte]
	held, _ := p.miss("LightRhythm", "a", func() (*[64]byte, error) { return new([64]byte), nil })
	runtime.GC()
	if p.hit("a") != held {
		t.Error("what is held was let go")
	}
	runtime.KeepAlive(held)
	held = nil
	for range 100 {
		runtime.GC()
		left := 0
		p.held.Range(func(_, _ any) bool { left++; return true })
		if left == 0 {
			return
		}
		time.Sleep(time.Millisecond)
	}
	t.Error("nothing was let go")
}

func TestBuildersKeepWhatBuildsRefuse(t *testing.T) {
	double := func(v *int) *int { return Some(*v * 2) }
	if kept(nil, double) != nil || *kept(Some(2), double) != 4 {
		t.Error("kept")
	}
	all := keptAll([]*int{Some(1), nil}, double)
	if len(all) != 2 || *all[0] != 2 || all[1] != nil || keptAll(nil, double) == nil {
		t.Errorf("got %v", all)
	}
	values := keptValues(map[string]*int{"a": nil, "b": Some(3)}, double)
	if values["a"] != nil || *values["b"] != 6 {
		t.Errorf("got %v", values)
	}
	given := []int{1}
	own := owned(given)
	own[0] = 2
	if given[0] != 1 || owned[int](nil) == nil || ownedMap[string, int](nil) == nil {
		t.Error("shared, or nil")
	}
}

func TestClientAMakerThatAsksForItsOwnKeyIsRefused(t *testing.T) {
	var first, second *LightRhythmPool
	first = NewLightRhythmPool(func(code string, periodMs int64) (*LightRhythm, error) {
		return second.Get(code, periodMs)
	})
	second = NewLightRhythmPool(func(code string, periodMs int64) (*LightRhythm, error) {
		return first.Get(code, periodMs)
	})
	_, err := first.Get("Fl", 4000)
	var refused *RefusedError
	if !errors.As(err, &refused) || refused.Reason != "its maker asks for the key that it makes" {
		t.Errorf("got %v", err)
	}
}

func TestClientNilsAreRefused(t *testing.T) {
	registry := NewMarkRegistry()
	var missing *MissingError
	if err := registry.Register("raft", nil); !errors.As(err, &missing) {
		t.Errorf("got %v", err)
	}
	giving := func(int64, *Position, MarkOptions) (Mark, error) { return nil, nil }
	if err := registry.Register("raft", giving); err != nil {
		t.Fatal(err)
	}
	var refused *RefusedError
	if _, err := registry.Make("raft", 3, harbourPosition(t), MarkOptions{}); !errors.As(err, &refused) {
		t.Errorf("got %v", err)
	}
}

func TestClientNothingIsEqualToNothingOnly(t *testing.T) {
	buoy, err := NewBuoy(3, harbourPosition(t), BuoyOptions{})
	if err != nil {
		t.Fatal(err)
	}
	if buoy.Equal((*Buoy)(nil)) || (*Buoy)(nil).Equal(buoy) || !(*Buoy)(nil).Equal((*Buoy)(nil)) {
		t.Error("a nil buoy was taken for another")
	}
}

func TestClientAnyErrorOfCreation(t *testing.T) {
	_, err := NewLeg("", LegOptions{Hours: Real(2)})
	var failed CreationError
	if !errors.As(fmt.Errorf("reading a plan: %w", err), &failed) || failed.CreationOwner() != "Leg" {
		t.Errorf("got %v", err)
	}
	plan, err := NewRefitPlan("Basin 4", []*Leg{mustLeg(t)}, RefitPlanOptions{Crew: Int(3)})
	if err != nil || plan.Crew() != 3 {
		t.Errorf("got %v, %v", plan, err)
	}
}

func mustLeg(t *testing.T) *Leg {
	t.Helper()
	leg, err := NewLeg("Inspect", LegOptions{})
	if err != nil {
		t.Fatal(err)
	}
	return leg
}

func TestClientReadsWordsFromWhatAFileHolds(t *testing.T) {
	if side, err := ParseSide("port"); err != nil || side != SidePort {
		t.Errorf("got %v, %v", side, err)
	}
	if side, err := ParseSide("larboard"); err == nil {
		t.Errorf("got %v", side)
	}
	if sides := EverySide(); len(sides) != 2 {
		t.Errorf("got %v", sides)
	}
}
