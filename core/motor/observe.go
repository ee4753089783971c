package motor

import "math"

// Candidate is a circuit that a fit looks at: its states at rated slip and at standstill,
// and the most torque it makes, on the balanced lines of the target.
type Candidate struct {
	Circuit            Circuit
	Lines              Balanced // with the candidate's own friction
	Rated, Locked, Top Point

	logs []float64 // natural logarithms of the parameters
}

// Side says on which side of its target a prediction costs something.
type Side int

// An observation is aimed at from both sides; a limit is only kept from one.
const (
	Both Side = iota
	AtLeast
	AtMost
)

// Observation is something known of a motor that its circuit is to give back: what a
// candidate predicts for it, the target, and the standard deviation of what was seen, all
// in one unit. Yields says that it gives way where it cannot be had together with the
// rated point, as figures of starting do.
type Observation struct {
	Name          string
	Predict       func(*Candidate) float64
	Target, Sigma float64
	Side          Side
	Yields        bool
}

// Residual is how many standard deviations a candidate is off.
func (o *Observation) residual(c *Candidate, trust float64) float64 {
	off := (o.Predict(c) - o.Target) / o.Sigma
	if o.Side == AtLeast && off > 0 || o.Side == AtMost && off < 0 {
		return 0
	}
	if o.Yields {
		return trust * off
	}
	return off
}

// Standard deviations: of the rated point, as a share of it; of starting figures, as
// natural logarithms, where the plate states them, where a class has usual ones, and of the
// class's limits.
const (
	sigmaRated   = 0.0004
	sigmaStated  = 0.02
	sigmaTypical = 0.15
	sigmaLimit   = 0.02
	sigmaFence   = 0.01
)

// observations are those of a goal, given what predicts it.
func (g Goal) observations(name string, predict func(*Candidate) float64) (list []Observation) {
	logarithm := func(c *Candidate) float64 { return math.Log(predict(c)) }
	see := func(target, sigma float64, side Side) {
		if target > 0 {
			list = append(list, Observation{name, logarithm, math.Log(target), sigma, side, true})
		}
	}
	if g.Stated > 0 {
		see(g.Stated, sigmaStated, Both)
		return list
	}
	see(g.Typical, sigmaTypical, Both)
	see(g.Least, sigmaLimit, AtLeast)
	see(g.Most, sigmaLimit, AtMost)
	return list
}

// observations are what the target tells, what is usual of each parameter, and the fences
// that keep them where they are plausible.
func (f *fitting) observations() (list []Observation) {
	t := f.t
	rated := func(name string, predict func(*Candidate) float64) {
		list = append(list, Observation{Name: name, Predict: predict, Target: 1, Sigma: sigmaRated})
	}
	rated("output", func(c *Candidate) float64 { return c.Rated.ShaftWatts / t.OutputWatts })
	rated("amps", func(c *Candidate) float64 { return c.Rated.LineAmps / t.Amps })
	rated("power factor", func(c *Candidate) float64 { return c.Rated.PowerFactor / t.PowerFactor })
	for _, s := range f.starting() {
		list = append(list, s.goal.observations(s.name, s.predict)...)
	}
	for i, b := range f.bounds {
		value := func(c *Candidate) float64 { return c.logs[i] }
		list = append(list,
			Observation{b.name + ", usual", value, math.Log(f.usual[i]), b.width, Both, false},
			// Nothing until two percent inside its bounds, then steep.
			Observation{b.name + ", least", value, math.Log(b.low) + 0.02, sigmaFence, AtLeast, false},
			Observation{b.name + ", most", value, math.Log(b.high) - 0.02, sigmaFence, AtMost, false},
		)
	}
	// The inner cage is the deeper one: lower resistance, higher leakage.
	return append(list, Observation{"inner cage over outer cage", func(c *Candidate) float64 {
		return math.Log(c.Circuit.Cages[0].ROhm / c.Circuit.Cages[1].ROhm)
	}, 0, 1.0 / 3, AtMost, false})
}

// starting are the starting figures with what a candidate predicts for them, in multiples
// of rated amps and rated torque.
func (f *fitting) starting() []struct {
	name    string
	goal    Goal
	predict func(*Candidate) float64
} {
	t := f.t
	return []struct {
		name    string
		goal    Goal
		predict func(*Candidate) float64
	}{
		{"locked-rotor amps", t.LockedRotorAmps, func(c *Candidate) float64 { return c.Locked.LineAmps / t.Amps }},
		{
			"locked-rotor torque",
			t.LockedRotorTorque,
			func(c *Candidate) float64 { return c.Locked.TorqueNm / f.ratedNm },
		},
		{"breakdown torque", t.Breakdown, func(c *Candidate) float64 { return c.Top.TorqueNm / f.ratedNm }},
	}
}
