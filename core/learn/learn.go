// Package learn fits what was read on running machines to the model behind them: to the real magnetising curve,
// leakage, resistances and losses of each motor, to the ohms and volts of the supply, and to the microfarads that are
// in circuit. What the plate says is the prior; the fit is regularised least squares with weights that let go of what
// does not belong (Student's t, by iterated weights; Gelman and others, Bayesian Data Analysis, 17). Readings that
// fit nothing are named before they bend it. The fitted model foretells the next reading, with a band, and names the
// next change.
package learn

import (
	"math"
	"slices"

	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Motor is a motor as its plate gives it: for the network, without load, and its plate's output and line amps.
type Motor struct {
	ID      string
	Network network.Motor
	Watts   float64
	Amps    float64
}

// Bank is the balance capacitors in microfarads by their marks, from either line to the made leg.
type Bank struct {
	AC float64 `json:"ac_microfarad"`
	BC float64 `json:"bc_microfarad"`
}

// State is which machines run beside the idler, at which share of plate output; one that has no share is of unknown
// load. Weight is how much it matters, 0 for one.
type State struct {
	On     []string            `json:"on" nullable:"false"`
	Share  map[string]*float64 `json:"load_share,omitempty"`
	Weight float64             `json:"weight,omitempty"`
	// Volts is how much of the supply's volts there is, through a variable transformer, in percent; 0 for all.
	Volts float64 `json:"volts_percent,omitempty"`
	// Second is what comes in beside the bank in this state, with the load.
	Second Bank `json:"-"`
	// Guarded is a state whose legs need not be even, but which keeps within the limits of volts and amps.
	Guarded bool `json:"-"`
}

// reduced says whether the iron of motors is not saturated in a state, for want of volts.
func (s *State) reduced() bool {
	return s.Volts > 0 && s.Volts < rule.Limit("learn.reduced", "least_percent")
}

// Place is where a figure was read: volts of a pair, amps of a line of a motor, or amps of the supply.
type Place struct {
	Of string // a motor's id, "supply", or empty for volts
	At string // ab, bc, ca; a, b, c; empty for the supply
}

// Supply is the place of the supply's amps.
const Supply = "supply"

// String is the place as files have it.
func (p Place) String() string {
	switch p.Of {
	case "":
		return "volts." + p.At
	case Supply:
		return "amps.supply"
	}
	return "amps." + p.Of + "." + p.At
}

// Volts says whether it is one of volts.
func (p Place) Volts() bool { return p.Of == "" }

// Figure is one that was read, and its standard deviation by the meter, 0 for a usual one.
type Figure struct {
	Place Place
	Value float64
	Sigma float64
}

// Reading is what was read in a state with capacitors.
type Reading struct {
	State
	Bank
	Figures []Figure
}

// Case is what there is: a supply, an idler or none, machines, and what was read. Without an idler the capacitors hang
// on the one machine.
type Case struct {
	Supply   network.Supply
	Idler    *Motor
	Machines []Motor
	Readings []Reading
}

// motors are those that turn in a state, the idler first.
func (c *Case) motors(s *State) (list []*Motor) {
	if c.Idler != nil {
		list = append(list, c.Idler)
	}
	for i := range c.Machines {
		if c.Idler == nil || slices.Contains(s.On, c.Machines[i].ID) {
			list = append(list, &c.Machines[i])
		}
	}
	return list
}

// A usual meter's standard deviation: one percent of what it reads, and no less than its last digits.
const (
	meterShare = 0.01
	leastVolts = 0.3
	leastAmps  = 0.05
	// modelShare is how far the model itself is off, as a share, where everything else is known.
	modelShare = 0.004
)

// sigma is how far a figure may be off, by the meter and by the model.
func (f *Figure) sigma() float64 {
	meter := f.Sigma
	if meter == 0 {
		least := leastAmps
		if f.Place.Volts() {
			least = leastVolts
		}
		meter = math.Max(meterShare*math.Abs(f.Value), least)
	}
	return math.Hypot(meter, modelShare*math.Abs(f.Value))
}
