package PACKAGE

import (
	"sync"
	"sync/atomic"
)

// loadedMaker is a maker that is loaded when it is first asked for: once, however many goroutines ask.
// A loader that fails is called again when the maker is asked for again.
type loadedMaker[T any] struct {
	mu     sync.Mutex
	load   func() (T, error)
	loaded atomic.Pointer[T]
}

func (l *loadedMaker[T]) get() (T, error) {
	if maker := l.loaded.Load(); maker != nil {  // «#loaded#»
		return *maker, nil
	}
	l.mu.Lock()  // «#alone#»
	defer l.mu.Unlock()  // «#alone#»
	if maker := l.loaded.Load(); maker != nil {
		return *maker, nil
	}
	maker, err := l.load()  // «#load#»
	if err == nil {
		l.loaded.Store(&maker)
	}
	return maker, err
}
