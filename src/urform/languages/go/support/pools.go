package PACKAGE

import (
	"errors"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"
)

var errMakerPanicked = errors.New("the maker of a pool panicked")

// call is a construction that is under way.
type call[T any] struct {
	done  chan struct{} // closed when made and err are final
	maker string        // the goroutine that makes it
	made  *T
	err   error
}

// makings lets one construction a key go on at a time, and counts.
type makings[K comparable, T any] struct {
	mu           sync.Mutex
	calls        map[K]*call[T]
	made, reused atomic.Int64
}

// one returns what is found, what is under way, or what it makes and keeps. When a making fails, all who
// wait for it get that error, and the next to ask tries again. A maker that asks for its own key is refused.
func (m *makings[K, T]) one(owner string, key K, find func() *T, maker func() (*T, error), keep func(*T)) (*T, error) {
	m.mu.Lock()
	if held := find(); held != nil {
		m.mu.Unlock()
		m.reused.Add(1)  // «#count_reused#»
		return held, nil
	}
	if under, found := m.calls[key]; found {  // «#guard#»
		m.mu.Unlock()
		if under.maker == goroutine() {
			return nil, &RefusedError{Owner: owner, Reason: "its maker asks for the key that it makes"}
		}
		<-under.done
		if under.err == nil {
			m.reused.Add(1)  // «#count_reused#»
		}
		return under.made, under.err
	}
	if m.calls == nil {
		m.calls = map[K]*call[T]{}
	}
	own := &call[T]{done: make(chan struct{}), maker: goroutine(), err: errMakerPanicked}
	m.calls[key] = own
	m.mu.Unlock()  // «#unlock#»

	defer func() { // also when the maker panics
		m.mu.Lock()  // «#lock_again#»
		defer m.mu.Unlock()
		delete(m.calls, key)
		if own.err == nil {  // «#made#»
			keep(own.made)  // «#keep#»
			m.made.Add(1)  // «#count_made#»
		}
		close(own.done)
	}()
	made, err := maker()
	if err == nil {
		own.made = made
	}
	own.err = err
	return own.made, own.err
}

// pool holds one value a key. A hit locks nothing.
type pool[K comparable, T any] struct {
	makings[K, T]
	held sync.Map // *T by K
}

func (p *pool[K, T]) find(key K) *T {
	held, _ := p.held.Load(key)
	value, _ := held.(*T)
	return value
}

// hit returns what is held, and nil when nothing is.
func (p *pool[K, T]) hit(key K) *T {  // «#hit#»
	held := p.find(key)
	if held != nil {
		p.reused.Add(1)  // «#count_reused#»
	}
	return held
}

func (p *pool[K, T]) miss(owner string, key K, maker func() (*T, error)) (*T, error) {
	return p.one(owner, key, func() *T { return p.find(key) }, maker, func(made *T) { p.held.Store(key, made) })
}

// goroutine tells goroutines apart, by the first line of what is said of their stacks. It takes a microsecond,
// which a miss can afford.
func goroutine() string {
	var stack [64]byte
	first, _, _ := strings.Cut(string(stack[:runtime.Stack(stack[:], false)]), "[")
	return first
}
