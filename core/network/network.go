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
}

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
// FrictionWatts is at synchronous speed, its torque proportional to speed.
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
}

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

// Case is a whole network to be solved.
type Case struct {
	Supply     Supply      `json:"supply"`
	Motors     []Motor     `json:"motors"`
	Capacitors []Capacitor `json:"capacitors"`
	Loads      []Impedance `json:"loads"`
}

// The operator a = 1∠120° and its square.
var (
	alpha  = complex(-0.5, math.Sqrt(3)/2)
	alpha2 = complex(-0.5, -math.Sqrt(3)/2)
)
