package watch

import "testing"

func TestARoundBeginsWithWhatWasSeen(t *testing.T) {
	round, err := Begin("first", "buoy", 7)
	if err != nil {
		t.Fatal(err)
	}
	if seen := round.Seen(); len(seen) != 1 || seen[0] != "buoy 7" {
		t.Errorf("seen: %v", seen)
	}
}
