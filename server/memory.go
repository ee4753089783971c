package server

import (
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
)

// memory remembers what a pure function gave, since a motor is asked about far more often
// than it changes: the latest so many, each made once however many ask at a time.
type memory[K comparable, V any] struct {
	mu    sync.Mutex
	known *lru.Cache[K, func() V]
}

func remember[K comparable, V any](most int) *memory[K, V] {
	known, err := lru.New[K, func() V](most)
	if err != nil {
		panic(err) // a size above zero has no other fault
	}
	return &memory[K, V]{known: known}
}

// get returns what is known of a key, or makes it.
func (m *memory[K, V]) get(key K, make func() V) V {
	m.mu.Lock()
	made, ok := m.known.Get(key)
	if !ok {
		made = sync.OnceValue(make)
		m.known.Add(key, made)
	}
	m.mu.Unlock()
	return made()
}
