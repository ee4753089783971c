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
