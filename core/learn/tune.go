package learn

import (
	"math"
	"slices"

	"brackmoor/core/network"
)

// Can is a size of capacitor that is on the shelf, and how many of it there are.
type Can struct {
	Microfarad float64 `json:"microfarad"`
	Count      int     `json:"count"`
}

// Limits are what a tuned converter keeps: the legs apart in percent, the made leg in volts, and the idler's hottest
// line in percent of its plate; 0 for none.
type Limits struct {
	Unbalance float64 `json:"unbalance_percent"`
	MadeVolts float64 `json:"made_leg_volts"`
	Idler     float64 `json:"idler_percent"`
}

// Swap is what is done on one pair, in cans by their marks.
type Swap struct {
	Add    []float64 `json:"add" nullable:"false"`
	Remove []float64 `json:"remove" nullable:"false"`
}

// Change is what is done on both pairs.
type Change struct {
	AC Swap `json:"ac"`
	BC Swap `json:"bc"`
}

// How much better a change must be to be worth the work, in percent of unbalance for each can, and for all of it.
const (
	perCan = 0.03
	worth  = 0.1
)

// Tuned is a case with what to do next.
type Tuned struct {
	Now     []Expected
	Change  *Change
	After   Bank
	Expect  []Expected
	Good    bool // what was read last already meets the limits
	Reaches bool // the shelf can, by the model
}

// tuning is a search for the next change.
type tuning struct {
	l      *Learned
	limits Limits
	states []State
}

// Tune looks for the change that makes the worst state that matters best, within the limits, by what was learned: every
// pair of moves is ranked by a coarse picture of the model and the best of them are solved.
func (l *Learned) Tune(shelf []Can, in Cans, limits Limits, matters []State) Tuned {
	t := tuning{l: l, limits: limits, states: matters}
	now := l.present()
	out := Tuned{After: now, Now: t.expect(now), Good: t.good(now)}
	here := t.cost(now)
	out.Reaches = here.within
	if out.Good {
		out.Expect = out.Now
		return out
	}
	best, to, found := here.worst-worth, now, false
	for _, p := range t.ranked(shelf, in, now) {
		at := Bank{now.AC + p.ac, now.BC + p.bc}
		c := t.cost(at)
		out.Reaches = out.Reaches || c.within
		if total := c.worst + perCan*float64(p.a.cans+p.b.cans); total < best {
			best, to, found = total, at, true
			out.Change = &Change{p.a.swap, p.b.swap}
		}
	}
	if found {
		out.After = to
	}
	out.Expect = t.expect(out.After)
	return out
}

// present is the bank that was in circuit at the last reading.
func (l *Learned) present() (b Bank) {
	if n := len(l.m.c.Readings); n > 0 {
		b = l.m.c.Readings[n-1].Bank
	}
	return b
}

func (t *tuning) expect(b Bank) (list []Expected) {
	list = []Expected{}
	for i := range t.states {
		if e, ok := t.l.Foretell(&t.states[i], b); ok {
			list = append(list, e)
		}
	}
	return list
}

// standing is how a bank does: the worst state by its weight, with what passes a limit on top, and whether all states
// keep within the limits.
type standing struct {
	worst  float64
	within bool
}

// What a limit that is passed costs, in percent of unbalance for each percent of it.
const beyond = 3

// judge is how a state does.
func (t *tuning) judge(s *State, volts network.Lines, idler float64, runs bool) (cost float64, within bool) {
	within = true
	if !s.Guarded {
		weight := s.Weight
		if weight == 0 {
			weight = 1
		}
		apart := volts.Unbalance()
		cost, within = weight*apart, t.limits.Unbalance == 0 || apart <= t.limits.Unbalance
	}
	for _, x := range []struct{ is, most float64 }{
		{max(volts.BC, volts.CA), t.limits.MadeVolts}, {idler, t.limits.Idler},
	} {
		if x.most > 0 && x.is > x.most {
			cost, within = cost+beyond*100*(x.is/x.most-1), false
		}
	}
	if !runs {
		cost, within = cost+nowhere, false
	}
	return cost, within
}

// cost is how a bank does, by the model.
func (t *tuning) cost(b Bank) (c standing) {
	c.within = true
	for i := range t.states {
		v, ok := t.l.m.solve(&t.states[i], b, -1)
		if !ok {
			return standing{math.Inf(1), false}
		}
		cost, within := t.judge(&t.states[i], v.volts, t.l.percent(&v), v.runs)
		c.worst, c.within = math.Max(c.worst, cost), c.within && within
	}
	return c
}

// good says whether what was read at a bank meets the limits in all states that matter; a state that was not read there
// counts by the model.
func (t *tuning) good(b Bank) bool {
	for i := range t.states {
		s := &t.states[i]
		v, ok := t.l.m.solve(s, b, -1)
		if !ok {
			return false
		}
		idler := t.l.percent(&v)
		if k := t.l.last(s, b); k >= 0 {
			t.l.read(k, &v)
		}
		if _, within := t.judge(s, v.volts, idler, v.runs); !within {
			return false
		}
	}
	return true
}

// last is the latest reading of a state with a bank, −1 for none.
func (l *Learned) last(s *State, b Bank) int {
	for k := len(l.m.c.Readings) - 1; k >= 0; k-- {
		if r := &l.m.c.Readings[k]; r.Bank == b && same(&r.State, s) {
			return k
		}
	}
	return -1
}

// same says whether two states are: the same machines on, at about the same load where both are known.
func same(a, b *State) bool {
	if len(a.On) != len(b.On) || a.Volts != b.Volts {
		return false
	}
	for _, id := range a.On {
		if !slices.Contains(b.On, id) {
			return false
		}
		if x, y := a.Share[id], b.Share[id]; x != nil && y != nil && math.Abs(*x-*y) > 0.1 {
			return false
		}
	}
	return true
}

// read puts the volts that a reading has, and that are not misread, in the place of those of the model.
func (l *Learned) read(reading int, v *seen) {
	for k := range l.m.c.Readings[reading].Figures {
		f := &l.m.c.Readings[reading].Figures[k]
		if l.without[spot{reading, k}] || !f.Place.Volts() {
			continue
		}
		switch f.Place.At {
		case "ab":
			v.volts.AB = f.Value
		case "bc":
			v.volts.BC = f.Value
		case "ca":
			v.volts.CA = f.Value
		}
	}
}
