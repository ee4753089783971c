package waveform

import (
	"math"
	"sort"
)

// The coefficients of Alexander's method of order three. Its last stage is the step;
// the first two make one of order two, and the difference is the error.
const (
	gamma   = 0.4358665215084590
	middle  = (1 - gamma) / 2 // a21
	weight1 = -(6*gamma*gamma - 16*gamma + 1) / 4
	weight2 = (6*gamma*gamma - 20*gamma + 5) / 4
	second2 = (0.5 - gamma) / ((1+gamma)/2 - gamma)
	second1 = 1 - second2
)

const (
	// tolerance is the error allowed in a step, of the largest of each kind.
	tolerance = 4e-5
	// mostWork bounds a case: steps, each counted once and once more for every motor.
	mostWork = 3_000_000
)

// stepper advances a circuit.
type stepper struct {
	*circuit
	y, next, k1, k2, base []float64
	scale                 []float64 // the size of each state
	fine                  []float64 // one over it
	time                  float64
	tolerance             float64
	steps                 int
}

func newStepper(n *circuit, tol float64) *stepper {
	y := n.start()
	s := &stepper{circuit: n, y: y, tolerance: tol}
	for _, to := range []*[]float64{&s.next, &s.k1, &s.k2, &s.base, &s.scale} {
		*to = make([]float64, len(y))
	}
	s.scales()
	for _, size := range s.scale {
		s.fine = append(s.fine, 1/size)
	}
	return s
}

// scales sets the sizes by which errors are judged: those of rated running, and
// without end for what is no state but follows from the others.
func (s *stepper) scales() {
	peak := math.Sqrt2 * s.c.Supply.Volts
	for i, m := range s.machines {
		flux := peak / math.Sqrt(3) / s.omega
		for k := range speed {
			s.scale[motorStates*i+k] = flux
		}
		if m.core == 0 {
			s.scale[motorStates*i+fluxGap], s.scale[motorStates*i+fluxGap+1] = math.Inf(1), math.Inf(1)
		}
		s.scale[motorStates*i+speed] = m.synchronous
	}
	for i, p := range s.plains {
		at := motorStates*len(s.machines) + i
		s.scale[at] = peak
		if p.farad == 0 {
			s.scale[at] = peak / math.Hypot(p.ohm, p.henry*s.omega)
			if p.henry == 0 {
				s.scale[at] = math.Inf(1)
			}
		}
	}
	amps := 1.0
	for _, m := range s.machines {
		amps += peak / (m.omega0 * 2 * (m.leakage + 1e-6))
	}
	for k := range 3 {
		s.scale[s.sourceAt()+k] = amps
		if s.henry == 0 {
			s.scale[s.sourceAt()+k] = math.Inf(1)
		}
	}
}

// try takes a step of h seconds from y into next and returns its error, relative to
// the tolerance.
func (s *stepper) try(h float64) float64 {
	tau := gamma * h
	y, next := s.y, s.next
	copy(next, y)
	s.stage(y, next, s.time+tau, tau)
	for i := range y {
		s.k1[i] = (next[i] - y[i]) / tau
		s.base[i] = y[i] + h*middle*s.k1[i]
	}
	s.stage(s.base, next, s.time+(1+gamma)/2*h, tau)
	for i := range y {
		s.k2[i] = (next[i] - s.base[i]) / tau
		s.base[i] = y[i] + h*(weight1*s.k1[i]+weight2*s.k2[i])
	}
	s.stage(s.base, next, s.time+h, tau)
	worst := 0.0
	for i := range y {
		low := y[i] + h*(second1*s.k1[i]+second2*s.k2[i])
		worst = max(worst, math.Abs(next[i]-low)*s.fine[i])
	}
	return worst / s.tolerance
}

// settle takes one short implicit step without an error, which swallows what jumps
// when something is switched: charge that capacitors share, volts that a source
// forces.
func (s *stepper) settle(h float64) {
	copy(s.next, s.y)
	s.stage(s.y, s.next, s.time+h, h)
	s.y, s.next = s.next, s.y
	s.time += h
	s.steps++
}

// Solve steps a case to its end: a Stepper on which its events are switched and which is
// read at every step.
func Solve(c Case) (Result, error) { return solve(c, nil) }

func solve(c Case, watch watcher) (Result, error) {
	w := Begin(c)
	w.watch, w.most = watch, w.budget()
	r := newRecorder(w.circuit)
	events := append([]Event{}, c.Events...)
	sort.SliceStable(events, func(i, k int) bool { return events[i].AtSeconds < events[k].AtSeconds })
	end := c.DurationSeconds
	turn := func(e Event, at float64) {
		w.Switch(e.Switch, e.To)
		r.connected(w.circuit, e, at)
		events = events[1:]
	}
	// A first instant at which nothing has moved yet is recorded, then what a source
	// forces at once is let in.
	first := events
	for k := 0; k < len(first) && first[k].AtSeconds <= 0; k++ {
		w.Switch(first[k].Switch, first[k].To)
	}
	w.begin()
	r.take(w.stepper, 0)
	for len(events) > 0 && events[0].AtSeconds <= 0 {
		r.connected(w.circuit, events[0], 0)
		events = events[1:]
	}
	for w.time < end-w.tiny {
		for len(events) > 0 && events[0].AtSeconds <= w.time+w.tiny/2 {
			turn(events[0], w.time)
			r.take(w.stepper, w.time)
		}
		limit := w.period / cycleSteps
		if w.time > end-1.1*w.period {
			limit = w.period / 200 // the last cycle is measured
		}
		to := end
		if len(events) > 0 {
			to = min(to, events[0].AtSeconds)
		}
		if wanted := r.next(); wanted > w.time+w.tiny {
			to = min(to, wanted)
		}
		if err := w.step(to, limit); err != nil {
			return Result{}, err
		}
		r.take(w.stepper, w.time)
	}
	result := r.result(w.stepper)
	result.Steps, result.Openings = w.steps, w.openings
	return result, nil
}

// apply switches an element, and says whether there is one. What opens waits for its
// current zeros.
func (n *circuit) apply(id, state string) (known bool) {
	to := state == Closed
	n.pending = n.pending || !to
	if id == SupplyID {
		known = true
		for k := range n.lines {
			if to {
				n.closed[k], n.opening[k] = true, false
			} else {
				n.opening[k] = n.closed[k]
			}
		}
	}
	for _, m := range n.machines {
		if m.ID != id {
			continue
		}
		known = true
		for k := range 3 {
			if to {
				m.closed[k], m.opening[k] = true, false
			} else {
				m.opening[k] = m.closed[k]
			}
		}
	}
	for _, p := range n.plains {
		if p.id != id {
			continue
		}
		known = true
		if to {
			p.closed, p.opening = p.farad > 0 || p.ohm > 0 || p.henry > 0, false
		} else {
			p.opening = p.closed
		}
	}
	return known
}

// carried is the amps that lines and two-poles had at the last step taken.
type carried struct {
	motors [][3]float64
	plains []float64
	source [3]float64
}

// remember notes the amps of the present.
func (n *circuit) remember() {
	if n.last.motors == nil {
		n.last.motors, n.last.plains = make([][3]float64, len(n.machines)), make([]float64, len(n.plains))
	}
	for i, m := range n.machines {
		a := m.lineAmps()
		n.last.motors[i] = [3]float64{a.A, a.B, a.C}
	}
	for i, p := range n.plains {
		n.last.plains[i] = p.amps
	}
	n.last.source = n.source
}

// waiting visits the contacts that wait to open: their amps at the last step and
// now, and how to open them.
func (n *circuit) waiting(visit func(id string, line int, before, now float64, open func(y []float64))) {
	for i, m := range n.machines {
		amps := m.lineAmps()
		for k, now := range [3]float64{amps.A, amps.B, amps.C} {
			if m.opening[k] {
				visit(m.ID, k, n.last.motors[i][k], now, func([]float64) { m.closed[k], m.opening[k] = false, false })
			}
		}
	}
	for i, p := range n.plains {
		if p.opening {
			visit(p.id, 0, n.last.plains[i], p.amps, func(y []float64) {
				p.closed, p.opening, p.amps = false, false, 0
				if p.farad == 0 {
					y[motorStates*len(n.machines)+i] = 0
				}
			})
		}
	}
	for k := range n.lines {
		if n.opening[k] {
			visit(SupplyID, k, n.last.source[k], n.source[k], func(y []float64) {
				n.closed[k], n.opening[k] = false, false
				y[n.sourceAt()+k] = 0
			})
		}
	}
}

// crossing says at which share of the step under way the first waiting contact comes
// to its current zero; 1 when none does.
func (n *circuit) crossing() (share float64) {
	share = 1
	if !n.pending {
		return share
	}
	n.waiting(func(_ string, _ int, before, now float64, _ func([]float64)) {
		if before*now < 0 {
			share = min(share, before/(before-now))
		}
	})
	return share
}

// release opens the contacts that have come to their zero, or so near that it was
// what the step was cut for, and says whether any did.
func (n *circuit) release(y []float64, at float64) (opened bool) {
	if !n.pending {
		return false
	}
	n.pending = false
	const near = 0.02
	n.waiting(func(id string, line int, before, now float64, open func([]float64)) {
		if before*now <= 0 || math.Abs(now) < near*math.Abs(before) {
			open(y)
			n.openings = append(n.openings, Opening{id, line, at})
			opened = true
		} else {
			n.pending = true
		}
	})
	return opened
}
