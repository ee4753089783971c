// Package waveform steps a network through time: motors by their flux linkages in
// the stationary frame, capacitors, impedances and the supply, with switches that
// open at current zeros.
//
// The motor is that of Krause, Analysis of Electric Machinery, chapter 4, in the
// stationary frame, with one or two cages, a magnetising curve, core loss across the
// magnetising branch, and leakage that falls with current. Everything is stepped
// implicitly (an L-stable method of order four: Kennedy and Carpenter, Applied Numerical
// Mathematics 44, 2003), so that stiff parts, core loss above all, need no small steps. A motor
// is then, at each stage, one complex admittance and a source.
package waveform

import (
	"errors"
	"math"

	"brackmoor/core/halt"
	"brackmoor/core/network"
)

// Motor is a motor of a network with how it begins. InitialRPM is positive in the
// abc sense. Closed nil means closed.
type Motor struct {
	network.Motor
	InitialRPM float64 `json:"initial_rpm"`
	Closed     *bool   `json:"closed"`
}

// Capacitor is a capacitor with how it begins; its volts are nothing.
type Capacitor struct {
	network.Capacitor
	Closed *bool `json:"closed"`
}

// Impedance is a plain load with how it begins.
type Impedance struct {
	network.Impedance
	Closed *bool `json:"closed"`
}

// Supply is the source, v_ab = √2·volts·sin(2πf·t + phase).
type Supply struct {
	network.Supply
	PhaseDegrees float64 `json:"phase_degrees"`
}

// Event switches an element, or "supply", at a time.
type Event struct {
	AtSeconds float64 `json:"at_s"`
	Switch    string  `json:"switch"`
	To        string  `json:"to"`
}

// The ways of an event.
const (
	Open   = "open"
	Closed = "closed"
)

// SupplyID is the id under which events speak of the source.
const SupplyID = "supply"

// Case is a network to be stepped. SampleSeconds zero asks for no series.
type Case struct {
	Supply          Supply               `json:"supply"`
	Motors          []Motor              `json:"motors"`
	Capacitors      []Capacitor          `json:"capacitors"`
	Loads           []Impedance          `json:"loads"`
	ThreePhaseLoads []network.ThreePhase `json:"three_phase_loads"`
	DurationSeconds float64              `json:"duration_s"`
	SampleSeconds   float64              `json:"sample_s"`
	Events          []Event              `json:"events"`
	// Tolerance is the error allowed in a step, as a share of the largest of each kind;
	// zero means the usual one.
	Tolerance float64   `json:"-"`
	Stop      halt.Sign `json:"-"`
}

// MotorResult is what came of a motor. Times are counted from its last connection,
// nil if never; so are the peaks of its amps. PeakTorqueNm is the largest magnitude
// of all.
type MotorResult struct {
	ID           string       `json:"id"`
	TimeTo90     *float64     `json:"time_to_90_percent_s"`
	TimeTo95     *float64     `json:"time_to_95_percent_s"`
	PeakTorqueNm float64      `json:"peak_torque_nm"`
	PeakLineAmps network.Legs `json:"peak_line_amps"`
	FinalRPM     float64      `json:"final_rpm"`
}

// CapacitorResult is what a capacitor saw.
type CapacitorResult struct {
	ID         string  `json:"id"`
	PeakVolts  float64 `json:"peak_volts"`
	FinalVolts float64 `json:"final_volts"`
}

// MotorSeries is a motor over time.
type MotorSeries struct {
	RPM      []float64 `json:"rpm"`
	TorqueNm []float64 `json:"torque_nm"`
	Amps     Three     `json:"amps"`
}

// Three holds a series for each line.
type Three struct {
	A []float64 `json:"a"`
	B []float64 `json:"b"`
	C []float64 `json:"c"`
}

// Pairs holds a series for each pair of lines.
type Pairs struct {
	AB []float64 `json:"ab"`
	BC []float64 `json:"bc"`
	CA []float64 `json:"ca"`
}

// Series are samples at even times.
type Series struct {
	Seconds []float64               `json:"t_s"`
	Volts   Pairs                   `json:"volts"`
	Motors  map[string]*MotorSeries `json:"motors"`
}

// Result is a network stepped through its time. VoltsRMS is over the last whole
// cycle.
type Result struct {
	Motors     []MotorResult     `json:"motors"`
	Capacitors []CapacitorResult `json:"capacitors"`
	VoltsRMS   network.Lines     `json:"volts_rms"`
	Series     *Series           `json:"series,omitempty"`
	Steps      int               `json:"-"`
	Openings   []Opening         `json:"-"`
}

// Opening is a contact that opened at a current zero: the element, its line (0, 1, 2)
// and when.
type Opening struct {
	ID        string
	Line      int
	AtSeconds float64
}

// ErrBudget says that a case takes more steps than are spent on one.
var ErrBudget = errors.New("the step budget is spent before the end of the time asked for")

// Plain is the same case without a supply transformer and three-phase loads: the source
// as it is seen past its transformer, the loads as three impedances without a name.
func (c Case) Plain() Case {
	loads := append([]Impedance{}, c.Loads...)
	omega := 2 * math.Pi * c.Supply.Hertz
	across := func(p network.Pair, ohm, reactance float64) {
		loads = append(
			loads,
			Impedance{Impedance: network.Impedance{Between: p, ResistanceOhm: ohm, ReactanceOhm: reactance}},
		)
	}
	if t := c.Supply.Transformer; t != nil {
		square := t.Ratio * t.Ratio
		c.Supply.Volts *= t.Ratio
		c.Supply.ResistanceOhm, c.Supply.ReactanceOhm = c.Supply.ResistanceOhm*square+t.ResistanceOhm,
			c.Supply.ReactanceOhm*square+t.ReactanceOhm
		if t.CoreOhm > 0 {
			across(network.AB, t.CoreOhm*square, 0)
		}
		if t.MagnetisingOhm > 0 {
			// The winding's own resistance lets the offset of switching on decay.
			across(network.AB, max(t.ResistanceOhm, omega*square*1e-6), t.MagnetisingOhm*square)
		}
		c.Supply.Transformer = nil
	}
	for _, l := range c.ThreePhaseLoads {
		times := 3.0
		if l.Connection == network.Delta {
			times = 1
		}
		for _, p := range []network.Pair{network.AB, network.BC, network.AC} {
			across(p, l.ResistanceOhm*times, l.ReactanceOhm*times)
		}
	}
	c.Loads, c.ThreePhaseLoads = loads, nil
	return c
}
