// Package watch is what the watch writes down.
package watch

import (
	"fmt"

	"harbour.example/station/internal/marks"
)

// Begin makes a round that has seen one mark.
func Begin(watch, kind string, station int64) (*marks.Round, error) {
	mark, err := marks.NewMarkRegistry().Make(kind, station, marks.MarkOptions{})
	if err != nil {
		return nil, err
	}
	return marks.NewRoundBuilder().Watch(watch).AddSighting(fmt.Sprint(mark.Key(), " ", mark.Station())).Build()
}
