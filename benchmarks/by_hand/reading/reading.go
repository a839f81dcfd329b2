// Command reading reads the file both ways: by the generated package, and by encoding/json into structs, with checks by hand.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strconv"
	"time"
	"unicode/utf8"

	"logbook.example/logbook"
)

// A tag of a struct cannot hold the name of the longitude.
type position map[string]float64

type mark struct {
	Type       string   `json:"type"`
	Station    *int64   `json:"station"`
	Position   position `json:"position"`
	Side       *string  `json:"side"`
	Remarks    *string  `json:"toString"`
	Reflective *bool    `json:"reflective"`
	Password   *string  `json:"password"`
	Draught    *float64 `json:"draught"`
}

var errWrong = errors.New("wrong")

func (m *mark) check() error {
	isBuoy := m.Type == "B-1" || m.Type == "buoy"
	switch {
	case !isBuoy && m.Type != "BCN", !isBuoy && m.Draught != nil:
		return errWrong
	case m.Station == nil || *m.Station < 1 || *m.Station > 9999:
		return errWrong
	case len(m.Position) != 2 || !within(m.Position, "lat", 90) || !within(m.Position, "lon (°)", 180):
		return errWrong
	case m.Side != nil && !slices.Contains([]string{"P", "S (to starboard)", "middle"}, *m.Side):
		return errWrong
	case m.Remarks != nil && utf8.RuneCountInString(*m.Remarks) > 20:
		return errWrong
	case m.Password != nil && utf8.RuneCountInString(*m.Password) < 3:
		return errWrong
	case m.Draught != nil && *m.Draught <= 0:
		return errWrong
	}
	return nil
}

func within(place position, name string, most float64) bool {
	value, ok := place[name]
	return ok && value >= -most && value <= most
}

func byHand(text []byte) int {
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.DisallowUnknownFields()
	var marks []*mark
	must(decoder.Decode(&marks))
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		panic(err)
	}
	for _, each := range marks {
		must(each.check())
	}
	return len(marks)
}

func generated(text []byte) int {
	record, err := logbook.ParseRecord(text)
	must(err)
	marks, problems := logbook.CreateAll(record, logbook.ReadMark)
	if len(problems) > 0 {
		panic(problems[0])
	}
	return len(marks)
}

func must(err error) {
	if err != nil {
		panic(err)
	}
}

func main() {
	text, err := os.ReadFile(os.Args[1])
	must(err)
	count, err := strconv.Atoi(os.Args[2])
	must(err)
	var own, hand, ratios []float64
	for round := range 60 {
		a, b := milliseconds(generated, text, count), milliseconds(byHand, text, count)
		if round >= 10 {
			own, hand, ratios = append(own, a), append(hand, b), append(ratios, a/b)
		}
	}
	fmt.Println(median(own), median(hand), median(ratios))
}

func milliseconds(job func([]byte) int, text []byte, count int) float64 {
	start := time.Now()
	if job(text) != count {
		panic("some are missing")
	}
	return float64(time.Since(start).Microseconds()) / 1000
}

func median(all []float64) float64 {
	slices.Sort(all)
	return all[len(all)/2]
}
