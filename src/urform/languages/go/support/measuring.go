package main

import (
	"encoding/json"
	"fmt"
	"os"
	"runtime"
	"strconv"
	"time"
)

const batches = 9

// kept is what keeps the compiler from leaving out what nobody uses.
var kept any

// measure prints what making one takes, or what many weigh, as one line of JSON: time SECONDS, or memory NAME COUNT.
func measure(name string, makers ...func() any) {
	if os.Args[1] == "time" {
		seconds, err := strconv.ParseFloat(os.Args[2], 64)
		check(err)
		tell(map[string]any{"name": name, "seconds": timed(makers[0], seconds)})
	} else if name == os.Args[2] {
		count, err := strconv.Atoi(os.Args[3])
		check(err)
		tell(map[string]any{"name": name, "bytes": weighed(makers, count)})
	}
}

func tell(told map[string]any) {
	text, err := json.Marshal(told)
	check(err)
	fmt.Println(string(text))
}

// timed returns seconds for one, batch by batch; each batch takes so many seconds, or so.
func timed(make_ func() any, seconds float64) []float64 {
	count, taken := 1, batch(make_, 1)
	for taken < seconds/4 {
		count *= 2
		taken = batch(make_, count)
	}
	count = max(1, int(float64(count)*seconds/taken))
	found := make([]float64, batches)
	for number := range found {
		found[number] = batch(make_, count) / float64(count)
	}
	return found
}

func batch(make_ func() any, count int) float64 {
	runtime.GC()
	started := time.Now()
	for number := 0; number < count; number++ {
		kept = make_()
	}
	return max(time.Since(started).Seconds(), 1e-9)
}

// weighed returns the bytes that so many products take, with the slice that holds them.
func weighed(makers []func() any, count int) uint64 {
	for _, make_ := range makers {
		kept = make_()
	}
	before := heap()
	held := make([]any, 0, count)
	for number := 0; number < count; number++ {
		held = append(held, makers[number%len(makers)]())
	}
	after := heap()
	kept = held
	return after - min(before, after)
}

func heap() uint64 {
	runtime.GC()
	runtime.GC()
	var told runtime.MemStats
	runtime.ReadMemStats(&told)
	return told.HeapAlloc
}

// mapRead reads the language's own map by a key that it has.
func mapRead() {
	held := map[string]*int{"north": new(int)}
	measure("map read", func() any { return held["north"] })
}

// repeated returns a slice of n times the value.
func repeated[T any](value T, n int) []T {
	values := make([]T, n)
	for at := range values {
		values[at] = value
	}
	return values
}

func check(err error) {
	if err != nil {
		panic(err)
	}
}

// unfailing is for values that keep their limits.
func unfailing[T any](value T, err error) T {
	check(err)
	return value
}

// anyOf returns a value of the map.
func anyOf[K comparable, T any](m map[K]T) (value T) {
	for _, value = range m {
		return value
	}
	return value
}
