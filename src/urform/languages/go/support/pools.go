package PACKAGE

import (
	"errors"
	"sync"
	"sync/atomic"
)

var errMakerPanicked = errors.New("the maker of a pool panicked")

// call is a construction that is under way.
type call[T any] struct {
	done chan struct{} // closed when made and err are final
	made *T
	err  error
}

// makings lets one construction a key go on at a time, and counts.
type makings[K comparable, T any] struct {
	mu           sync.Mutex
	calls        map[K]*call[T]
	made, reused atomic.Int64
}

// one returns what is found, what is under way, or what it makes and keeps. When a making fails, all who
// wait for it get that error, and the next to ask tries again.
func (m *makings[K, T]) one(key K, find func() *T, maker func() (*T, error), keep func(*T)) (*T, error) {
	m.mu.Lock()
	if held := find(); held != nil {
		m.mu.Unlock()
		m.reused.Add(1)
		return held, nil
	}
	if under, found := m.calls[key]; found {
		m.mu.Unlock()
		<-under.done
		if under.err == nil {
			m.reused.Add(1)
		}
		return under.made, under.err
	}
	if m.calls == nil {
		m.calls = map[K]*call[T]{}
	}
	own := &call[T]{done: make(chan struct{}), err: errMakerPanicked}
	m.calls[key] = own
	m.mu.Unlock()

	defer func() { // also when the maker panics
		m.mu.Lock()
		defer m.mu.Unlock()
		delete(m.calls, key)
		if own.err == nil {
			keep(own.made)
			m.made.Add(1)
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
func (p *pool[K, T]) hit(key K) *T {
	held := p.find(key)
	if held != nil {
		p.reused.Add(1)
	}
	return held
}

func (p *pool[K, T]) miss(key K, maker func() (*T, error)) (*T, error) {
	return p.one(key, func() *T { return p.find(key) }, maker, func(made *T) { p.held.Store(key, made) })
}
