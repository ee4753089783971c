package server

import (
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A value is made once however many ask for it at a time, while another is being made too,
// and anew once it was pushed out.
func TestMemoryMakesOnce(t *testing.T) {
	m := remember[int, int](2)
	var made atomic.Int64
	square := func(n int) int { return m.get(n, func() int { made.Add(1); return n * n }) }
	hold, held := make(chan bool), make(chan bool)
	go m.get(9, func() int { close(held); <-hold; return 81 })
	<-held
	var wait sync.WaitGroup
	for range 50 {
		wait.Go(func() { assert.Equal(t, 16, square(4)) })
	}
	wait.Wait()
	close(hold)
	assert.EqualValues(t, 1, made.Load())
	square(5)
	square(6)
	assert.Equal(t, 16, square(4))
	assert.EqualValues(t, 4, made.Load())
}
