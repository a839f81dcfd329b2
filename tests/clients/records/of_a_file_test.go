package PACKAGE

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// file returns the bytes of a file of data.
func file(t *testing.T, name string) []byte {
	t.Helper()
	text, err := os.ReadFile(filepath.Join("DATA_FOLDER", name))
	if err != nil {
		t.Fatal(err)
	}
	return text
}

func linesOf(t *testing.T, name string) []string {
	t.Helper()
	return strings.Split(strings.TrimSuffix(string(file(t, name)), "\n"), "\n")
}

func texts(marks []Mark) []string {
	all := make([]string, 0, len(marks))
	for _, mark := range marks {
		all = append(all, string(TextOfMark(mark)))
	}
	return all
}

func TestAFileIsMadeIntoProducts(t *testing.T) {
	records, err := ParseRecord(file(t, "records.json"))
	if err != nil {
		t.Fatal(err)
	}
	marks, problems := CreateAll(records, ReadMark)
	told := make([]string, 0, len(problems))
	for _, problem := range problems {
		told = append(told, problem.String())
	}
	if want := linesOf(t, "problems.txt"); !slices.Equal(told, want) {
		t.Errorf("told %q", told)
	}
	if want := linesOf(t, "written.txt"); !slices.Equal(texts(marks), want) {
		t.Errorf("wrote %q", texts(marks))
	}
}

func TestWhatIsWrittenIsReadByEveryOther(t *testing.T) {
	written := linesOf(t, "written.txt")
	marks := make([]Mark, 0, len(written))
	for _, line := range written {
		var record MarkRecord
		if err := json.Unmarshal([]byte(line), &record); err != nil {
			t.Fatal(err)
		}
		marks = append(marks, record.Mark)
	}
	if !slices.Equal(texts(marks), written) {
		t.Errorf("wrote %q", texts(marks))
	}
}

func TestMarksAreFieldsOfOnesOwn(t *testing.T) {
	var round struct{ Marks []MarkRecord }
	text := `{"marks":[{"type":"BCN","station":3,"position":{"lat":54.5,"lon (°)":8.25}}]}`
	if err := json.Unmarshal([]byte(text), &round); err != nil {
		t.Fatal(err)
	}
	if again, err := json.Marshal(round.Marks); err != nil || `{"marks":`+string(again)+"}" != text {
		t.Errorf("got %s, %v", again, err)
	}
}

type raft struct{ MarkFields }

func (*raft) Key() string        { return "raft" }
func (*raft) ChartLabel() string { return "raft" }
func (r *raft) Equal(other Mark) bool {
	that, ok := other.(*raft)
	return ok && that.EqualFields(&r.MarkFields)
}

func TestAKindOfOnesOwnIsWrittenWithWhatAllKindsHave(t *testing.T) {
	position, err := NewPosition(54.5, 8.25)
	if err != nil {
		t.Fatal(err)
	}
	fields, err := NewMarkFields(3, position, MarkOptions{Remarks: Some("two, tied")}, true)
	if err != nil {
		t.Fatal(err)
	}
	want := `{"type":"raft","station":3,"position":{"lat":54.5,"lon (°)":8.25},"toString":"two, tied"}`
	if text := string(TextOfMark(&raft{fields})); text != want {
		t.Errorf("wrote %s", text)
	}
}

func TestDepthIsBounded(t *testing.T) {
	record, err := ParseRecord(file(t, "deep.json"))
	if err != nil {
		t.Fatal(err)
	}
	_, err = ReadPlan(record)
	var told *RecordError
	if !errors.As(err, &told) {
		t.Fatalf("got %v", err)
	}
	for _, problem := range told.Problems {
		if problem.Limit != "depth" {
			t.Errorf("told %v", problem)
		}
	}
	if _, err := ParseRecord(bytes.Repeat([]byte("["), 100_000)); !errors.As(err, &told) {
		t.Errorf("got %v", err)
	}
}

func TestWhatReadersLetThroughIsTold(t *testing.T) {
	for _, text := range []string{
		`{"label": "out", "hours": NaN}`,
		`{"label": "out", "hours": 1e400}`,
		`{"label": "out"} more`,
		`{"label": "out", "LABEL": "out"}`,
		`{"label": "out", "hours": null, "label": "out"}`,
		"{\"label\": \"\xff\"}",
		`{"label": "out"`,
		``,
		`null`,
		`[]`,
	} {
		record, err := ParseRecord([]byte(text))
		if err == nil {
			_, err = ReadLeg(record)
		}
		var told *RecordError
		if !errors.As(err, &told) || len(told.Problems) == 0 {
			t.Errorf("%s: got %v", text, err)
		}
		var leg Leg
		if err := json.Unmarshal([]byte(text), &leg); err == nil && text != "null" {
			t.Errorf("%s: made %v", text, leg)
		}
	}
}
