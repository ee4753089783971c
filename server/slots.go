package server

import (
	"brackmoor/core/halt"
	"context"
	"errors"
	"net/http"
	"runtime"

	"github.com/danielgtaylor/huma/v2"
)

// slots bound how much costly work is done at once, and how much waits for it: beyond that it is
// better said than left waiting.
type slots struct{ free, queue chan struct{} }

// waiters is how many may wait for each slot.
const waiters = 16

// errFull says that too many wait already.
var errFull = errors.New("too many wait for what is being worked out")

func newSlots() slots {
	n := max(2, runtime.GOMAXPROCS(0))
	return slots{make(chan struct{}, n), make(chan struct{}, n*(1+waiters))}
}

// do works in one of the slots, once one is free. Whoever leaves is out of the queue.
func (s slots) do(ctx context.Context, work func()) error {
	select {
	case s.queue <- struct{}{}:
		defer func() { <-s.queue }()
	default:
		return errFull
	}
	select {
	case s.free <- struct{}{}:
		defer func() { <-s.free }()
	case <-ctx.Done():
		return ctx.Err()
	}
	work()
	return ctx.Err()
}

// slotted makes a value in one of the slots.
func slotted[V any](s slots, make func(stop halt.Sign) V) func(context.Context) (V, error) {
	return func(ctx context.Context) (value V, err error) {
		err = s.do(ctx, func() { value = make(ctx.Done()) })
		return value, err
	}
}

// tooMuch is errFull for whoever asked.
func tooMuch() error {
	return huma.ErrorWithHeaders(
		huma.Error503ServiceUnavailable("Too much is being worked out at once. Ask again in a few seconds."),
		http.Header{"Retry-After": {"3"}},
	)
}
