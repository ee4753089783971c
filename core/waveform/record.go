package waveform

import (
	"math"

	"brackmoor/core/network"
)

// peaks are those of a motor's torque and line amps.
type peaks struct{ torque, a, b, c peak }

// recorder keeps what is asked of a run.
type recorder struct {
	n          *circuit
	motors     []MotorResult
	joined     []float64 // when each motor was last connected
	capacitors []CapacitorResult
	peaks      []peaks // of the motors
	charges    []peak  // of the capacitors
	series     *Series
	sample     float64
	taken      int
	cycleFrom  float64 // start of the last whole cycle
	square     [3]float64
	last       [3]float64
	lastTime   float64
}

func newRecorder(n *circuit) *recorder {
	r := &recorder{n: n, sample: n.c.SampleSeconds, joined: make([]float64, len(n.machines))}
	r.cycleFrom = max(0, n.c.DurationSeconds-1/n.c.Supply.Hertz)
	for _, m := range n.machines {
		r.motors = append(r.motors, MotorResult{ID: m.ID})
		r.peaks = append(r.peaks, peaks{})
	}
	for _, p := range n.c.Capacitors {
		r.capacitors = append(r.capacitors, CapacitorResult{ID: p.ID})
		r.charges = append(r.charges, peak{})
	}
	if r.sample > 0 {
		r.series = &Series{
			Seconds: []float64{},
			Volts:   Pairs{[]float64{}, []float64{}, []float64{}},
			Motors:  map[string]*MotorSeries{},
		}
		for _, m := range n.machines {
			r.series.Motors[m.ID] = &MotorSeries{
				RPM:      []float64{},
				TorqueNm: []float64{},
				Amps:     Three{[]float64{}, []float64{}, []float64{}},
			}
		}
	}
	return r
}

// next is when a step must end: the next sample, or the start of the last cycle.
func (r *recorder) next() float64 {
	next := math.Inf(1)
	if r.sample > 0 {
		next = float64(r.taken) * r.sample
	}
	if r.lastTime < r.cycleFrom {
		next = min(next, r.cycleFrom)
	}
	return next
}

// connected starts a motor's times and peaks anew when it is connected.
func (r *recorder) connected(n *circuit, e Event, at float64) {
	for i, m := range n.machines {
		if e.To == Closed && (e.Switch == m.ID || e.Switch == SupplyID && m.closed[0]) {
			r.joined[i] = at
			r.motors[i] = MotorResult{ID: m.ID}
			r.peaks[i] = peaks{torque: r.peaks[i].torque}
		}
	}
}

// take looks at the present.
func (r *recorder) take(s *stepper, at float64) {
	pairs := s.pairs()
	for i, m := range s.machines {
		o := &r.motors[i]
		omega := s.y[motorStates*i+speed]
		since := at - r.joined[i]
		if m.closed[0] || m.closed[1] || m.closed[2] {
			for _, t := range []struct {
				to    **float64
				share float64
			}{{&o.TimeTo90, 0.9}, {&o.TimeTo95, 0.95}} {
				if *t.to == nil && math.Abs(omega) >= t.share*m.synchronous {
					*t.to = new(since)
				}
			}
		}
		a := m.lineAmps()
		p := &r.peaks[i]
		p.torque.see(at, m.torque, s.jumps)
		p.a.see(at, a.A, s.jumps)
		p.b.see(at, a.B, s.jumps)
		p.c.see(at, a.C, s.jumps)
		o.PeakTorqueNm, o.PeakLineAmps = p.torque.most, network.Legs{A: p.a.most, B: p.b.most, C: p.c.most}
		o.FinalRPM = s.rpm(i)
	}
	for i := range r.capacitors {
		volts := s.charge(i)
		r.charges[i].see(at, volts, s.jumps)
		r.capacitors[i].PeakVolts, r.capacitors[i].FinalVolts = r.charges[i].most, volts
	}
	if at > r.cycleFrom {
		// The trapezoidal rule: over a whole cycle of even steps it is of every order.
		span := at - max(r.lastTime, r.cycleFrom)
		for k := range 3 {
			r.square[k] += span * (pairs[k]*pairs[k] + r.last[k]*r.last[k]) / 2
		}
	}
	r.last, r.lastTime = pairs, at
	if r.series == nil || at < float64(r.taken)*r.sample*(1-1e-9) {
		return
	}
	x := r.series
	// The next sample lies ahead, whatever a step over a switching has passed.
	r.taken = max(r.taken, int(at/r.sample*(1+1e-9))) + 1
	x.Seconds = append(x.Seconds, at)
	v := &x.Volts
	v.AB, v.BC, v.CA = append(v.AB, pairs[0]), append(v.BC, pairs[1]), append(v.CA, pairs[2])
	for i, m := range s.machines {
		o, a := x.Motors[m.ID], m.lineAmps()
		o.RPM, o.TorqueNm = append(o.RPM, s.rpm(i)), append(o.TorqueNm, m.torque)
		o.Amps.A, o.Amps.B, o.Amps.C = append(o.Amps.A, a.A), append(o.Amps.B, a.B), append(o.Amps.C, a.C)
	}
}

func (r *recorder) result(s *stepper) Result {
	span := r.lastTime - r.cycleFrom
	rms := func(k int) float64 {
		if span <= 0 {
			return math.Abs(r.last[k]) // a time too short to step
		}
		return math.Sqrt(r.square[k] / span)
	}
	out := Result{
		Motors:     r.motors,
		Capacitors: r.capacitors,
		VoltsRMS:   network.Lines{AB: rms(0), BC: rms(1), CA: rms(2)},
		Series:     r.series,
	}
	if out.Motors == nil {
		out.Motors = []MotorResult{}
	}
	if out.Capacitors == nil {
		out.Capacitors = []CapacitorResult{}
	}
	return out
}
