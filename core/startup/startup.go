// Package startup brings motors up to speed on a network: J·dω/dt is what the motor
// makes less what friction and load take, the network solved anew at every speed. It
// says how long a start takes, whether it hangs, what it heats, and when the start
// capacitor should leave. Motors that run already dip together with the made leg.
package startup

import (
	"errors"

	"brackmoor/core/load"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Motor is a motor of the network with its shaft. InertiaKgm2 is rotor and load
// together. InitialRPM is positive in the abc sense: one that was spun up by hand begins
// there. One that is Running begins at the speed it has with the others that run.
type Motor struct {
	network.Motor
	Shaft      *load.Curve `json:"load"`
	InitialRPM float64     `json:"initial_rpm"`
	Running    bool        `json:"running"`
}

// Out says when a capacitor leaves: By "speed" (rpm of a motor, either way), "seconds",
// or "volts" across its own pair, as a potential relay does. BackAt, for volts, is
// where it comes in again; 0 never.
type Out struct {
	By     string  `json:"by"`
	At     float64 `json:"at"`
	Motor  string  `json:"motor"`
	BackAt float64 `json:"back_at"`
}

// The ways for a capacitor to leave.
const (
	BySpeed   = "speed"
	BySeconds = "seconds"
	ByVolts   = "volts"
)

// Capacitor is a capacitor that may leave.
type Capacitor struct {
	network.Capacitor
	Out *Out `json:"out"`
}

// Case is a start. MostSeconds zero means DefaultSeconds.
type Case struct {
	Supply          network.Supply        `json:"supply"`
	Motors          []Motor               `json:"motors"`
	Capacitors      []Capacitor           `json:"capacitors"`
	Loads           []network.Impedance   `json:"loads"`
	ThreePhaseLoads []network.ThreePhase  `json:"three_phase_loads"`
	Rectifiers      []network.Rectifier   `json:"rectifiers"`
	Transformers    []network.Transformer `json:"transformers"`
	MostSeconds     float64               `json:"most_s"`
	Pony            *Pony                 `json:"pony"` // brings the first motor up before it is connected
	// Sags are the volts of a one-phase source over time, where something else pulls them down
	// meanwhile; between two of them they go straight, and before the first and after the last they
	// stay. None for those of the supply.
	Sags []Sag `json:"-"`
}

// Sag is a source's volts at a time from the start on.
type Sag struct{ Seconds, Volts float64 }

// DefaultSeconds is how long a start is followed where nothing is said.
const DefaultSeconds = 30

// MotorResult is what came of one motor. Seconds are nil if never; State is that of the
// end: network.Running, Crawling or Stalled, or Rising when the time was over first.
// LowestRPM is the least magnitude of its speed, and WindingAmps2Seconds ∫I²dt of its
// windings.
type MotorResult struct {
	ID                  string     `json:"id"`
	State               string     `json:"state"`
	TimeTo90            *float64   `json:"time_to_90_percent_s"`
	TimeTo95            *float64   `json:"time_to_95_percent_s"`
	FinalRPM            float64    `json:"final_rpm"`
	LowestRPM           float64    `json:"lowest_rpm"`
	PeakLineAmps        float64    `json:"peak_line_amps"`
	WindingAmps2Seconds [3]float64 `json:"winding_amps2_s" nullable:"false"`
	CopperJoules        float64    `json:"copper_joules"`
}

// Rising is the state of a motor whose speed still changes at the end.
const Rising = "rising"

// CapacitorResult is when a capacitor left, nil if it stayed, and how often it came in
// again.
type CapacitorResult struct {
	ID         string   `json:"id"`
	OutSeconds *float64 `json:"out_s"`
	Again      int      `json:"again"`
}

// Point is a moment of a start. Torques are air-gap torque and what opposes it.
type Point struct {
	Seconds    float64       `json:"t_s"`
	Volts      network.Lines `json:"volts"`
	SupplyAmps float64       `json:"supply_amps"`
	Drawn      complex128    `json:"-"` // those of a one-phase source as a phasor against its volts
	Motors     []MotorPoint  `json:"motors" nullable:"false"`
}

// MotorPoint is one motor at a moment.
type MotorPoint struct {
	RPM         float64    `json:"rpm"`
	TorqueNm    float64    `json:"torque_nm"`
	LoadNm      float64    `json:"load_nm"`
	WindingAmps [3]float64 `json:"winding_amps" nullable:"false"`
}

// Result is a start followed to its end. LowestVolts are those of each pair after the
// first instant.
type Result struct {
	Seconds        float64           `json:"seconds"`
	Motors         []MotorResult     `json:"motors" nullable:"false"`
	Capacitors     []CapacitorResult `json:"capacitors" nullable:"false"`
	LowestVolts    network.Lines     `json:"lowest_volts"`
	PeakSupplyAmps float64           `json:"peak_supply_amps"`
	Points         []Point           `json:"points" nullable:"false"`
	Pony           *PonyResult       `json:"pony,omitempty"`
	Spin           *Spin             `json:"spin,omitempty"`
	Verdicts       []rule.Verdict    `json:"verdicts" nullable:"false"`
}

// ErrBudget says that the time asked for takes more steps than are spent on one start.
var ErrBudget = errors.New("the step budget is spent before the start was over")
