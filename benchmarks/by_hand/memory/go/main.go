// Command lanterns makes lanterns whose rhythms are shared by a pool, or their own: lanterns shared|own COUNT.
package main

import (
	"fmt"
	"os"
	"runtime"
	"strconv"

	"harbour.example/fairway"
)

func must[T any](value T, err error) T {
	if err != nil {
		panic(err)
	}
	return value
}

func main() {
	pulses := make([]int64, 256)
	for i := range pulses {
		pulses[i] = int64(i % 100)
	}
	position := must(fairway.NewPosition(54.5, 10.25))
	maker := func(code string, periodMs int64) (*fairway.LightRhythm, error) {
		return fairway.NewLightRhythm(code, periodMs, fairway.LightRhythmOptions{Pulses: pulses})
	}
	get := maker
	if os.Args[1] == "shared" {
		get = fairway.NewLightRhythmPool(maker).Get
	}
	lanterns := make([]*fairway.Lantern, must(strconv.Atoi(os.Args[2])))
	for i := range lanterns {
		rhythm := must(get(fmt.Sprint("Fl ", i%50), 4000))
		lanterns[i] = must(fairway.NewLantern(rhythm, position))
	}
	runtime.KeepAlive(lanterns)
}
