package spice

import (
	"fmt"
	"math"

	"brackmoor/core/waveform"
)

// switches writes contacts and when they move.
type switches struct {
	w        *writer
	c        waveform.Case
	openings []waveform.Opening
	model    bool
	count    int
}

// contact puts one between two nodes where anything is ever switched, and returns the
// node behind it.
func (s *switches) contact(id string, line int, closed bool, from, to string) string {
	times := fmt.Sprintf("0 %d", map[bool]int{true: 1, false: 0}[closed])
	state, moves := closed, !closed
	move := func(at float64, closes bool) {
		if closes == state {
			return
		}
		was, is := map[bool]int{true: 1, false: 0}[state], map[bool]int{true: 1, false: 0}[closes]
		times += fmt.Sprintf(" %.9g %d %.9g %d", at, was, at+1e-6, is)
		state, moves = closes, true
	}
	// Openings and closings in their order.
	opened := 0
	mine := []waveform.Opening{}
	for _, o := range s.openings {
		if o.ID == id && o.Line == line {
			mine = append(mine, o)
		}
	}
	for _, e := range s.c.Events {
		if e.Switch != id {
			continue
		}
		if e.To == waveform.Closed {
			move(math.Max(e.AtSeconds, 1e-6), true)
		} else if opened < len(mine) {
			move(mine[opened].AtSeconds, false)
			opened++
		}
	}
	if !moves {
		if id == waveform.SupplyID {
			s.w.line("Rjoin%s %s %s 1e-6", to, from, to)
			return to
		}
		return from
	}
	if !s.model {
		s.w.line(".model contact sw(vt=0.5 vh=0 ron=1e-3 roff=1e5)")
		s.model = true
	}
	s.count++
	s.w.line("S%d %s %s drive%d 0 contact", s.count, from, to, s.count)
	s.w.line("Vdrive%d drive%d 0 PWL(%s)", s.count, s.count, times)
	return to
}
