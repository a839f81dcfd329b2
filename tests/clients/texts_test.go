package PACKAGE_test

import (
	"errors"
	"strings"
	"testing"

	"PACKAGE.example/PACKAGE"
)

const site = "https://port-varrow.example/"

func isSign(text string) bool {
	_, err := PACKAGE.NewMarkCall(text, site, PACKAGE.MarkCallOptions{})
	return isKept(err)
}

func isName(text string) bool {
	_, err := PACKAGE.NewFixed(text)
	return isKept(err)
}

func isKept(err error) bool {
	var broken *PACKAGE.LimitError
	return !errors.As(err, &broken) || broken.Limit != "pattern"
}

func TestWhatIsNoUTF8IsRefusedOrTakenForOneCharacter(t *testing.T) {
	for _, text := range []string{"A\xff", "A\xc3", "A\xe2\x82", "A\xf0\x9f\x9b", "A\x80\x80"} {
		if isSign(text+"BC") || !isName(text) {
			t.Errorf("%q", text)
		}
	}
	if isName("\xff") {
		t.Error("it is no letter")
	}
}

func TestEachCharacterCountsOnce(t *testing.T) {
	for text, want := range map[string]bool{"ABC": true, "ABC\n": false, "ABC\x00": false, "\uff21\uff22\uff23": false} {
		if isSign(text) != want {
			t.Errorf("%q: got %v", text, !want)
		}
	}
	if !isName("\u00c4" + strings.Repeat("\U0001f6df", 20)) {
		t.Error("21 characters")
	}
}

func TestLongTextIsLookedAtOnce(t *testing.T) {
	if isName("A" + strings.Repeat("a", 10_000_000) + "\n") {
		t.Error("it ends a line")
	}
}
