package server

import (
	"context"
	"fmt"
	"runtime/debug"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
)

// memory remembers what a pure function gave, since a motor is asked about far more often
// than it changes: the latest so many, each made once however many ask at a time. What nobody
// waits for any more is told to stop.
type memory[K comparable, V any] struct {
	mu    sync.Mutex
	known *lru.Cache[K, *work[V]]
}

// work is a value that is made, or being made for so many askers. Its fault is what it panicked
// with, which each of them hears.
type work[V any] struct {
	done   chan struct{}
	stop   context.CancelFunc
	askers int
	value  V
	err    error
	fault  any
}

func remember[K comparable, V any](most int) *memory[K, V] {
	known, err := lru.New[K, *work[V]](most)
	if err != nil {
		panic(err) // a size above zero has no other fault
	}
	return &memory[K, V]{known: known}
}

// get returns what is known of a key, or makes it. An error is none of the value: nothing is
// remembered then. Whoever no longer waits has the error of ctx; when nobody does, that under
// which maker works ends.
func (m *memory[K, V]) get(
	ctx context.Context,
	key K,
	maker func(context.Context) (V, error),
) (value V, err error) {
	m.mu.Lock()
	w, ok := m.known.Get(key)
	if !ok {
		w = m.begin(ctx, key, maker)
	}
	w.askers++
	m.mu.Unlock()
	select {
	case <-w.done:
	case <-ctx.Done():
		err = ctx.Err()
	}
	m.mu.Lock()
	w.askers--
	if err != nil && w.askers == 0 {
		w.stop()
		m.forget(key, w)
	}
	m.mu.Unlock()
	switch {
	case err != nil:
		return value, err
	case w.fault != nil:
		panic(w.fault)
	}
	return w.value, w.err
}

// begin starts to make a value under the lock. It goes on when the first asker leaves, as long as
// there are others.
func (m *memory[K, V]) begin(ctx context.Context, key K, maker func(context.Context) (V, error)) *work[V] {
	ctx, stop := context.WithCancel(context.WithoutCancel(ctx))
	w := &work[V]{done: make(chan struct{}), stop: stop}
	m.known.Add(key, w)
	go func() {
		defer close(w.done)
		defer stop()
		defer func() {
			if fault := recover(); fault != nil {
				w.fault = fmt.Sprintf("%v\n%s", fault, debug.Stack())
			}
			if w.fault != nil || w.err != nil {
				m.mu.Lock()
				m.forget(key, w)
				m.mu.Unlock()
			}
		}()
		w.value, w.err = maker(ctx)
	}()
	return w
}

// forget lets go of a value, if it is the one that is known. The lock is held.
func (m *memory[K, V]) forget(key K, w *work[V]) {
	if is, ok := m.known.Peek(key); ok && is == w {
		m.known.Remove(key)
	}
}

// has says whether a value is known already, or being made.
func (m *memory[K, V]) has(key K) bool { return m.known.Contains(key) }
