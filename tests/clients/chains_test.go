package PACKAGE

import (
	"slices"
	"testing"
)

const chainDepth = 20_000

// outward makes a chain from its outer end: nothing is copied twice, where one from the inner end is copied once a level.
func outward(t *testing.T) *Link {
	t.Helper()
	first, err := NewLink("first", LinkOptions{})
	last := first
	for range chainDepth {
		next, failed := NewLink("next", LinkOptions{})
		if failed != nil {
			err = failed
		}
		last.SetNext(next)
		last, _ = last.Next()
	}
	if err != nil {
		t.Fatal(err)
	}
	return first
}

func TestChainsAreMadeOutwardAndCloned(t *testing.T) {
	chain := outward(t)
	clone := chain.Clone()
	if !clone.Equal(chain) {
		t.Fatal("a clone has the same content")
	}
	last := clone
	for next, ok := last.Next(); ok; next, ok = last.Next() {
		last = next
	}
	last.SetLabel("last")
	if clone.Equal(chain) {
		t.Fatal("a change to the end of a clone reached its original")
	}
}

func TestElementsAreReadOneByOne(t *testing.T) {
	ledger := NewLedger(
		[][]int64{{1, 2}, {3}},
		map[string][]string{"north": {"a", "b"}},
		LedgerOptions{Names: []string{"b", "a", "b"}, Depths: map[string]int64{"pier": 4}},
	)
	if ledger.RowsLen() != 2 || ledger.NotesLen() != 1 || ledger.NamesLen_() != 2 || ledger.DepthsLen() != 1 {
		t.Fatal("not all are counted")
	}
	if depth, ok := ledger.DepthsAt("pier"); depth != 4 || !ok {
		t.Fatalf("got %d, %t", depth, ok)
	}
	if depth, ok := ledger.DepthsAt("quay"); depth != 0 || ok {
		t.Fatalf("got %d, %t", depth, ok)
	}
	if !ledger.NamesHas("a") || ledger.NamesHas("c") {
		t.Fatal("a is among the names, and c is not")
	}
	ledger.RowsAt(0)[0] = 9
	notes, _ := ledger.NotesAt("north")
	notes[0] = "z"
	if !slices.Equal(ledger.RowsAt(0), []int64{1, 2}) {
		t.Fatal("a row that was handed out reaches the ledger")
	}
	if notes, ok := ledger.NotesAt("north"); !ok || !slices.Equal(notes, []string{"a", "b"}) {
		t.Fatal("notes that were handed out reach the ledger")
	}
	if _, ok := ledger.NotesAt("south"); ok {
		t.Fatal("there are no notes of the south")
	}
}

func TestElementsBeyondTheLastPanic(t *testing.T) {
	defer func() {
		if recover() == nil {
			t.Fatal("there is no third row")
		}
	}()
	NewLedger([][]int64{{1}}, nil, LedgerOptions{}).RowsAt(2)
}

// asking is a kind whose clone reads the store that it is kept in.
type asking struct {
	Line
	store *LineExemplars
}

func (a asking) Clone() Line {
	return asking{NewCable(a.store.Names()[0], LineOptions{}), a.store}
}

func TestAStoreIsNotLockedWhileItClones(t *testing.T) {
	store := NewLineExemplars()
	if err := store.Add("asking", asking{NewCable("first", LineOptions{}), store}); err != nil {
		t.Fatal(err)
	}
	line, err := store.Get("asking")
	if err != nil || line.Label() != "asking" {
		t.Fatal("a clone knows every name", line, err)
	}
}
