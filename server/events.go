package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"brackmoor/store"
)

const (
	// heartbeat keeps the way open through whatever closes what is silent.
	heartbeat = 20 * time.Second
	// lookEvery is how often it is looked whether the database is still where it was.
	lookEvery = 500 * time.Millisecond
	// mostWindows is how many windows may listen at a time, mostMissed how many events one
	// that comes again is told; beyond that it is told to read everything anew.
	mostWindows = 200
	mostMissed  = 500
)

// goneSays is told of a database that is not where it was.
const goneSays = "The database was taken away or replaced while it was served. Nothing is kept any more: stop " +
	"Brackmoor, put the file back or restore a backup, and start it again."

// present refuses what is asked of a database that is not where it was any more: what is read
// there is nobody's, and what is written is lost.
func (s *service) present(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if err := s.Store.Here(); err != nil {
			writeProblem(w, http.StatusServiceUnavailable, goneSays)
			return
		}
		next.ServeHTTP(w, r)
	})
}

// windowHeader names the window that asks, so that it can tell its own changes from those
// of others.
const windowHeader = "X-Window"

// mostWindow bounds that name.
const mostWindow = 40

// actor puts the window that asks into what is done for it.
func actor(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if window := r.Header.Get(windowHeader); window != "" && len(window) <= mostWindow {
			r = r.WithContext(store.WithActor(r.Context(), window))
		}
		next.ServeHTTP(w, r)
	})
}

type closingKey struct{}

// closing is closed when the server is about to stop.
func closing(ctx context.Context) <-chan struct{} {
	c, _ := ctx.Value(closingKey{}).(<-chan struct{})
	return c
}

// events streams what changes, as server-sent events: those after the last one that the
// caller has seen, then each as it is committed, for as long as the caller is known. It outlives
// the write timeout.
func (s *service) events(w http.ResponseWriter, r *http.Request, known func(*http.Request) bool) {
	if s.windows.Add(1) > mostWindows {
		s.windows.Add(-1)
		w.Header().Set("Retry-After", "30")
		writeProblem(w, http.StatusServiceUnavailable, "Too many windows are open on this server.")
		return
	}
	defer s.windows.Add(-1)
	control := http.NewResponseController(w)
	if err := errors.Join(control.SetWriteDeadline(time.Time{}), control.SetReadDeadline(time.Time{})); err != nil {
		s.Log.Warn("events keep the timeouts", "error", err)
	}
	heard, stop := s.Store.Listen()
	defer stop()
	header := w.Header()
	header.Set("Content-Type", "text/event-stream")
	header.Set("X-Accel-Buffering", "no")
	last, err := strconv.ParseInt(r.Header.Get("Last-Event-ID"), 10, 64)
	missed := []store.Event{}
	if err == nil && last > 0 {
		if missed, err = s.Store.Since(r.Context(), last, mostMissed+1); err != nil {
			refuse(w, s.fault(r.Context(), err))
			return
		}
	}
	if _, err := fmt.Fprint(w, ": listening\n\n"); err != nil {
		return
	}
	if len(missed) > mostMissed {
		if _, err := fmt.Fprint(w, "event: all\ndata: {}\n\n"); err != nil {
			return
		}
		missed = missed[mostMissed:]
	}
	for _, e := range missed {
		if !tell(w, e) {
			return
		}
		last = e.ID
	}
	tick, look := time.NewTicker(heartbeat), time.NewTicker(lookEvery)
	defer tick.Stop()
	defer look.Stop()
	told := ""
	for control.Flush() == nil {
		select {
		case <-r.Context().Done():
			return
		case <-closing(r.Context()):
			return
		case <-tick.C:
			if _, err := fmt.Fprint(w, ": still here\n\n"); err != nil {
				return
			}
		case <-look.C:
			trouble := ""
			if s.Store.Here() != nil {
				trouble = goneSays
			}
			if trouble == told {
				continue
			}
			told = trouble
			data, _ := json.Marshal(trouble) // a text cannot fail
			if _, err := fmt.Fprintf(w, "event: trouble\ndata: %s\n\n", data); err != nil {
				return
			}
		case e, open := <-heard:
			if !open || !known(r) || e.ID > last && !tell(w, e) {
				return
			}
		}
	}
}

// tell writes an event.
func tell(w http.ResponseWriter, e store.Event) bool {
	data, err := json.Marshal(e)
	if err == nil {
		_, err = fmt.Fprintf(w, "id: %d\nevent: change\ndata: %s\n\n", e.ID, data)
	}
	return err == nil
}
