package waveform

import (
	"math"
	"sort"
)

// The method's coefficients: ARK4(3)6L[2]SA, implicit part (Kennedy and Carpenter,
// Applied Numerical Mathematics 44, 2003). Its first stage is the slope at which the last
// step ended and its last stage is the step, of order four; embedded is one of order three.
const gamma = 0.25

var (
	nodes = [...]float64{0, 1.0 / 2, 83.0 / 250, 31.0 / 50, 17.0 / 20, 1}
	// weights of the slopes before each stage; its own is gamma.
	weights = [...][]float64{
		nil,
		{1.0 / 4},
		{8611.0 / 62500, -1743.0 / 31250},
		{5012029.0 / 34652500, -654441.0 / 2922500, 174375.0 / 388108},
		{15267082809.0 / 155376265600, -71443401.0 / 120774400, 730878875.0 / 902184768, 2285395.0 / 8070912},
		{82889.0 / 524892, 0, 15625.0 / 83664, 69875.0 / 102672, -2260.0 / 8211},
	}
	embedded = [...]float64{
		4586570599.0 / 29645900160, 0, 178811875.0 / 945068544, 814220225.0 / 1159782912, -3700637.0 / 11593932,
		61727.0 / 225920,
	}
	// doubt is the step less the embedded one, by slopes.
	doubt = func() (d [len(nodes)]float64) {
		copy(d[:], weights[len(nodes)-1])
		d[len(nodes)-1] = gamma
		for k := range d {
			d[k] -= embedded[k]
		}
		return d
	}()
)

// embeddedOrder is the order of the error of one step of the embedded method.
const embeddedOrder = 4

const (
	// tolerance is the error allowed in a step, of the largest of each kind.
	tolerance = 2e-5
	// measured is how many steps the last cycle is given, over which volts are measured.
	measured = 72
	// mostWork bounds a case: steps, each counted once and once more for every motor.
	mostWork = 600_000
)

// stepper advances a circuit.
type stepper struct {
	*circuit
	y, next, base []float64
	slopes        [len(nodes)][]float64 // of the stages; the first is that at y
	scale         []float64             // the size of each state
	fine          []float64             // one over it
	time          float64
	tolerance     float64
	steps, jumps  int // those taken, and how often something was switched
}

func newStepper(n *circuit, tol float64) *stepper {
	y := n.start()
	s := &stepper{circuit: n, y: y, tolerance: tol}
	for _, to := range []*[]float64{&s.next, &s.base, &s.scale} {
		*to = make([]float64, len(y))
	}
	for k := range s.slopes {
		s.slopes[k] = make([]float64, len(y))
	}
	n.close = tol / closer
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
	copy(s.next, s.y)
	for k := 1; k < len(nodes); k++ {
		copy(s.base, s.y)
		for j, w := range weights[k] {
			add(s.base, h*w, s.slopes[j])
		}
		s.stage(s.base, s.next, s.time+nodes[k]*h, tau)
		s.slope(k, tau)
	}
	clear(s.base)
	for k, w := range doubt {
		add(s.base, w, s.slopes[k])
	}
	worst := 0.0
	for i, off := range s.base {
		worst = max(worst, math.Abs(off)*s.fine[i])
	}
	return h * worst / s.tolerance
}

// slope notes that of a stage solved from base.
func (s *stepper) slope(k int, tau float64) {
	slope, next, each := s.slopes[k], s.next, 1/tau
	for i, base := range s.base {
		slope[i] = (next[i] - base) * each
	}
}

// add adds a multiple of a vector to another.
func add(to []float64, times float64, v []float64) {
	for i, x := range v {
		to[i] += times * x
	}
}

// accept makes the step that was tried the present, and its end's slope that of the next.
func (s *stepper) accept(h float64) {
	s.y, s.next = s.next, s.y
	last := len(nodes) - 1
	s.slopes[0], s.slopes[last] = s.slopes[last], s.slopes[0]
	s.time += h
}

// settle takes two short implicit steps without an error: the first swallows what jumps
// when something is switched, charge that capacitors share or volts that a source forces;
// the second gives the slope from which to go on.
func (s *stepper) settle(h float64) {
	for range 2 {
		copy(s.next, s.y)
		copy(s.base, s.y)
		s.stage(s.base, s.next, s.time+h, h)
		s.slope(0, h)
		s.y, s.next = s.next, s.y
		s.time += h
	}
	s.steps++
	s.jumps++
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
			limit = w.period / measured // the last cycle is measured
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
