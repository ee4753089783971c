// Package network solves two supply lines a and b and a made leg c, with any
// number of three-phase motors, capacitors and plain impedances on them.
//
// Every route of feeding a three-phase motor from one phase is this network
// with other elements switched in. Phasors are rms; positive sequence is
// a→b→c. A motor's terminal admittance is A·diag(0, Y1, Y2)·A⁻¹ by symmetrical
// components (Krause, Analysis of Electric Machinery; Alger, Induction
// Machines), so all motors add up to two sequence admittances.
package network

import (
	"math"

	"brackmoor/core/motor"
)

// Supply is one phase (a source between a and b, the ohms the whole loop's) or
// three balanced lines (volts line to line, the ohms in each line). Phases
// zero means one. Zero ohms is a stiff source.
type Supply struct {
	Phases        int     `json:"phases"`
	Volts         float64 `json:"volts"`
	Hertz         float64 `json:"hertz"`
	ResistanceOhm float64 `json:"resistance_ohm"`
	ReactanceOhm  float64 `json:"reactance_ohm"`
	// Earthing is where the supply is earthed; empty when that is not asked.
	Earthing string `json:"earthing"`
	// Transformer stands between a one-phase source and the lines a and b, its ohms
	// those of the whole loop.
	Transformer *Winding `json:"transformer"`
}

// Places where a supply is earthed: one of its lines, the middle of a one-phase
// supply, the star point of three lines, or nowhere.
const (
	EarthA    = "a"
	EarthB    = "b"
	EarthMid  = "mid"
	EarthStar = "star"
	EarthNone = "none"
)

// Load is what a shaft drives: constant power in watts (Kind "power"), or
// torque NewtonMetre·(n/AtRPM)^Exponent (Kind "torque"). Loads are passive:
// they never drive a standing shaft.
type Load struct {
	Kind        string  `json:"kind"`
	Watts       float64 `json:"watts"`
	NewtonMetre float64 `json:"newton_metre"`
	AtRPM       float64 `json:"at_rpm"`
	Exponent    int     `json:"exponent"`
}

// Motor is one motor on the network. Exactly one of Slip and Load is given: a
// fixed slip, or a load for which the slip is found. Direction is the sense in
// which it turns, "abc" (or empty) or "acb"; slip is counted against it.
// FrictionWatts is at the synchronous speed of RatedHertz, its torque proportional to
// speed, so that it is the same shaft on every supply.
type Motor struct {
	ID            string        `json:"id"`
	Poles         int           `json:"poles"`
	RatedHertz    float64       `json:"rated_hertz"`
	Connection    string        `json:"connection"`
	Direction     string        `json:"direction"`
	FrictionWatts float64       `json:"friction_watts"`
	InertiaKgm2   float64       `json:"inertia_kgm2"`
	Circuit       motor.Circuit `json:"circuit"`
	Slip          *float64      `json:"slip"`
	Load          *Load         `json:"load"`
	Conductor     Conductor     `json:"conductor"` // in each of its three lines
	Behind        string        `json:"behind"`    // the transformer it hangs on, or empty
}

// SynchronousRadians is the synchronous speed in rad/s on a supply of so many hertz.
func (m *Motor) SynchronousRadians(hertz float64) float64 {
	return 4 * math.Pi * hertz / float64(m.Poles)
}

// FrictionCoefficient is the friction torque in N·m for each rad/s of the shaft.
func (m *Motor) FrictionCoefficient() float64 {
	rated := m.SynchronousRadians(m.RatedHertz)
	return m.FrictionWatts / (rated * rated)
}

// Conductor is a run of wire: ohms in each line, at supply hertz.
type Conductor struct {
	ResistanceOhm float64 `json:"resistance_ohm"`
	ReactanceOhm  float64 `json:"reactance_ohm"`
}

func (c Conductor) ohms() complex128 { return complex(c.ResistanceOhm, c.ReactanceOhm) }

// Delta is the connection value of a motor whose windings lie between lines.
const Delta = "delta"

func (m *Motor) sign() float64 {
	if m.Direction == "acb" {
		return -1
	}
	return 1
}

// Pair names two of the three nodes.
type Pair string

// The three pairs of nodes.
const (
	AB Pair = "ab"
	BC Pair = "bc"
	AC Pair = "ac"
)

// Capacitor lies across a pair, with an equivalent series resistance.
type Capacitor struct {
	ID         string  `json:"id"`
	Between    Pair    `json:"between"`
	Microfarad float64 `json:"microfarad"`
	ESROhm     float64 `json:"esr_ohm"`
}

// Impedance is a plain series resistance and reactance across a pair, ohms at
// supply hertz.
type Impedance struct {
	ID            string  `json:"id"`
	Between       Pair    `json:"between"`
	ResistanceOhm float64 `json:"resistance_ohm"`
	ReactanceOhm  float64 `json:"reactance_ohm"`
}

// ThreePhase is a balanced load that is no motor: ohms of each leg at supply hertz,
// joined in wye (without a neutral) or delta.
type ThreePhase struct {
	ID            string  `json:"id"`
	Connection    string  `json:"connection"`
	ResistanceOhm float64 `json:"resistance_ohm"`
	ReactanceOhm  float64 `json:"reactance_ohm"`
	Behind        string  `json:"behind"`
}

func (p *ThreePhase) admittance() complex128 {
	y := 1 / complex(p.ResistanceOhm, p.ReactanceOhm)
	if p.Connection == Delta {
		return 3 * y
	}
	return y
}

// Rectifier is a constant-power load behind a diode bridge on a pair: a drive, a
// charger. Its fundamental current lags by DisplacementFactor; the harmonics beside it
// carry no watts and are counted in the rms amps by TruePowerFactor alone. Below half
// of the pair's nominal volts it stops being constant power, as drives lock out: it is
// then the impedance that it was there.
type Rectifier struct {
	ID                 string  `json:"id"`
	Between            Pair    `json:"between"`
	Watts              float64 `json:"watts"`
	DisplacementFactor float64 `json:"displacement_factor"`
	TruePowerFactor    float64 `json:"true_power_factor"`
}

// Usual factors of a bridge without a choke, where none are given.
const (
	UsualDisplacement = 0.95
	UsualTrue         = 0.65
)

// Case is a whole network to be solved.
type Case struct {
	Supply          Supply        `json:"supply"`
	Motors          []Motor       `json:"motors"`
	Capacitors      []Capacitor   `json:"capacitors"`
	Loads           []Impedance   `json:"loads"`
	ThreePhaseLoads []ThreePhase  `json:"three_phase_loads"`
	Rectifiers      []Rectifier   `json:"rectifiers"`
	Transformers    []Transformer `json:"transformers"`
}

// The operator a = 1∠120° and its square.
var (
	alpha  = complex(-0.5, math.Sqrt(3)/2)
	alpha2 = complex(-0.5, -math.Sqrt(3)/2)
)
