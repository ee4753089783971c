package startup

import (
	"math"

	"brackmoor/core/network"
)

// waiting says whether a timer still has a capacitor to take out.
func (r *run) waiting(at float64) bool {
	for i, p := range r.c.Capacitors {
		if r.in[i] && p.Out != nil && p.Out.By == BySeconds && p.Out.At > at {
			return true
		}
	}
	return false
}

// due is the next time at which a step must end.
func (r *run) due(at, end float64) float64 {
	for i, p := range r.c.Capacitors {
		if r.in[i] && p.Out != nil && p.Out.By == BySeconds && p.Out.At > at {
			end = math.Min(end, p.Out.At)
		}
	}
	return end
}

// across is the volts of a pair.
func across(l network.Lines, p network.Pair) float64 {
	switch p {
	case network.AB:
		return l.AB
	case network.BC:
		return l.BC
	}
	return l.CA
}

// sharp is how near a step must end to where a capacitor leaves or comes back, of the speed
// or volts at which it does.
const sharp = 1e-4

// crossed is the share of a step after which a capacitor leaves by speed or volts, or comes
// back, where that lies well inside the step; 1 for none. The solver stands at the step's end.
func (r *run) crossed(omega, next []float64) float64 {
	share := 1.0
	for i, p := range r.c.Capacitors {
		if p.Out == nil || p.Out.By == BySeconds {
			continue
		}
		at, from, to := p.Out.At, r.sees[i], 0.0
		if p.Out.By == ByVolts {
			to = across(r.solver.Lines(), p.Between)
			if !r.in[i] {
				at = p.Out.BackAt
			}
		} else {
			from, to = math.Abs(r.speedOf(p.Out.Motor, omega)), math.Abs(r.speedOf(p.Out.Motor, next))
		}
		rises := r.in[i]
		if at <= 0 || !rises && p.Out.By != ByVolts || (from < at) != rises || (to < at) == rises ||
			math.Abs(to-at) <= sharp*at {
			continue
		}
		share = math.Min(share, math.Max(0.05, (at-from)/(to-from)))
	}
	return share
}

// look keeps what relays see at a moment.
func (r *run) look() {
	for i, p := range r.c.Capacitors {
		r.sees[i] = across(r.solver.Lines(), p.Between)
	}
}

// leave takes out, or in again, the capacitors whose time has come.
func (r *run) leave(at float64, omega []float64) (moved bool) {
	for i, p := range r.c.Capacitors {
		if p.Out == nil {
			continue
		}
		volts := across(r.solver.Lines(), p.Between)
		o := &r.result.Capacitors[i]
		wants := r.in[i]
		switch {
		case r.in[i]:
			switch p.Out.By {
			case BySeconds:
				wants = at < p.Out.At-1e-9
			case ByVolts:
				wants = volts < p.Out.At
			default:
				wants = math.Abs(r.speedOf(p.Out.Motor, omega)) < p.Out.At
			}
		case p.Out.By == ByVolts && p.Out.BackAt > 0 && o.Again < mostAgain:
			wants = volts < p.Out.BackAt
		}
		if wants == r.in[i] {
			continue
		}
		r.in[i], moved = wants, true
		r.solver.Switch(p.Capacitor, wants)
		if wants {
			o.Again++
			o.OutSeconds = nil
		} else {
			o.OutSeconds = new(at)
		}
	}
	return moved
}

// speedOf is a motor's speed in rpm, the first's where none is named.
func (r *run) speedOf(id string, omega []float64) float64 {
	for i, m := range r.c.Motors {
		if m.ID == id || id == "" {
			return omega[i] * 30 / math.Pi
		}
	}
	return 0
}
