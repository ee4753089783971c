package server

import (
	"context"
	"errors"
	"runtime"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A value is made once however many ask for it at a time, while another is being made too,
// and anew once it was pushed out.
func TestMemoryMakesOnce(t *testing.T) {
	m := remember[int, int](2)
	var made atomic.Int64
	get := func(n int, make func() int) int {
		value, err := m.get(t.Context(), n, func(context.Context) (int, error) { return make(), nil })
		assert.NoError(t, err)
		return value
	}
	square := func(n int) int { return get(n, func() int { made.Add(1); return n * n }) }
	hold, held := make(chan bool), make(chan bool)
	var wait sync.WaitGroup
	wait.Go(func() { get(9, func() int { close(held); <-hold; return 81 }) })
	<-held
	var many sync.WaitGroup
	for range 50 {
		many.Go(func() { assert.Equal(t, 16, square(4)) })
	}
	many.Wait()
	close(hold)
	wait.Wait()
	assert.EqualValues(t, 1, made.Load())
	square(5)
	square(6)
	assert.Equal(t, 16, square(4))
	assert.EqualValues(t, 4, made.Load())
}

// What is being made goes on as long as one asker waits, and is told to stop once the last has
// left; what failed or was left is made anew.
func TestMemoryStopsWhatNobodyWaitsFor(t *testing.T) {
	m := remember[string, int](2)
	begun, finish, stopped := make(chan bool, 9), make(chan bool), make(chan bool)
	slow := func(ctx context.Context) (int, error) {
		begun <- true
		select {
		case <-finish:
			return 7, nil
		case <-ctx.Done():
			close(stopped)
			return 0, ctx.Err()
		}
	}
	one, leave := context.WithCancel(t.Context())
	two, also := context.WithCancel(t.Context())
	faults := make(chan error, 2)
	for _, ctx := range []context.Context{one, two} {
		go func() {
			_, err := m.get(ctx, "a", slow)
			faults <- err
		}()
	}
	<-begun
	for waiting := 0; waiting < 2; { // both are there
		m.mu.Lock()
		w, _ := m.known.Peek("a")
		waiting = w.askers
		m.mu.Unlock()
	}
	leave()
	require.ErrorIs(t, <-faults, context.Canceled)
	select {
	case <-stopped:
		t.Fatal("one still waits")
	default:
	}
	also()
	require.ErrorIs(t, <-faults, context.Canceled)
	<-stopped
	close(finish)
	value, err := m.get(t.Context(), "a", slow)
	require.NoError(t, err)
	assert.Equal(t, 7, value)

	for range 2 { // neither an error nor a panic is remembered
		_, err = m.get(t.Context(), "b", func(context.Context) (int, error) { return 0, errors.New("torn") })
		require.EqualError(t, err, "torn")
		assert.PanicsWithValue(t, true, func() {
			defer func() { panic(recover() != nil) }()
			_, _ = m.get(t.Context(), "c", func(context.Context) (int, error) { panic("oh") })
		})
	}
	assert.False(t, m.has("b") || m.has("c"))
}

// So many work and so many wait; who comes then is told so, and who leaves is out of the queue.
func TestSlotsAreBounded(t *testing.T) {
	s := newSlots()
	hold, began := make(chan bool), make(chan bool)
	var most, now atomic.Int64
	var wait sync.WaitGroup
	work := func() {
		most.Store(max(most.Load(), now.Add(1)))
		began <- true
		<-hold
		now.Add(-1)
	}
	gone, leave := context.WithCancel(t.Context())
	for range cap(s.free) {
		wait.Go(func() { assert.NoError(t, s.do(t.Context(), work)) })
		<-began
	}
	for range cap(s.queue) - cap(s.free) {
		wait.Go(func() { assert.ErrorIs(t, s.do(gone, func() { t.Error("it left") }), context.Canceled) })
	}
	for len(s.queue) < cap(s.queue) {
		runtime.Gosched()
	}
	assert.ErrorIs(t, s.do(t.Context(), work), errFull)
	leave()
	for len(s.queue) > cap(s.free) {
		runtime.Gosched()
	}
	close(hold)
	wait.Wait()
	assert.EqualValues(t, cap(s.free), most.Load())
	assert.Empty(t, s.queue)
}
