package PACKAGE_test

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	IMPORT
)

// parsed returns what a decoder gives for a text.
func parsed(t *testing.T, text string) any {
	t.Helper()
	decoder := json.NewDecoder(strings.NewReader(text))
	decoder.UseNumber()
	var record any
	succeeds(t, decoder.Decode(&record))
	return record
}

// fromText reads a product of a text.
func fromText[T any](text string, read func(any) (T, error)) (made T, err error) {
	record, err := PACKAGE.ParseRecord([]byte(text))
	if err != nil {
		return made, err
	}
	return read(record)
}

// refusesRecord reports an error that does not tell just these problems.
func refusesRecord(t *testing.T, err error, problems ...string) {
	t.Helper()
	var refused *PACKAGE.RecordError
	if !errors.As(err, &refused) {
		t.Errorf("got error %v, want %q", err, problems)
		return
	}
	saysAll(t, refused.Problems, problems...)
}

// saysAll reports problems that are not just these.
func saysAll(t *testing.T, found []PACKAGE.RecordProblem, want ...string) {
	t.Helper()
	said := make([]string, 0, len(found))
	for _, each := range found {
		said = append(said, each.String())
	}
	is(t, "problems", said, want)
}
