package PACKAGE

import (
	"runtime"
	"sync"
	"weak"
)

// weakPool holds one value a key for as long as something else does. A hit locks nothing.
type weakPool[K comparable, T any] struct {
	makings[K, T]
	held sync.Map // weak.Pointer[T] by K
}

func (p *weakPool[K, T]) find(key K) *T {
	held, _ := p.held.Load(key)
	pointer, _ := held.(weak.Pointer[T])
	return pointer.Value()
}

// hit returns what is held, and nil when nothing is.
func (p *weakPool[K, T]) hit(key K) *T {  // «#hit#»
	held := p.find(key)
	if held != nil {
		p.reused.Add(1)  // «#count_reused#»
	}
	return held
}

func (p *weakPool[K, T]) miss(owner string, key K, maker func() (*T, error)) (*T, error) {
	return p.one(owner, key, func() *T { return p.find(key) }, maker, func(made *T) {
		pointer := weak.Make(made)
		p.held.Store(key, pointer)
		runtime.AddCleanup(made, func(key K) { p.held.CompareAndDelete(key, pointer) }, key)
	})
}
