// Package route sets the ways of feeding one three-phase machine from one phase side by
// side: whether each starts it, what output is left, how hot the hottest winding runs,
// what it draws and costs, what it leaves unsolved; and says which it would take, and
// why.
package route

import (
	"sync"

	"brackmoor/core/capacitor"
	"brackmoor/core/rule"
)

// Names of the routes.
const (
	RunCapacitor      = "run-capacitor"
	StartRunCapacitor = "start-run-capacitor"
	Static            = "static"
	PhaseBox          = "phase-box"
	Rotary            = "rotary"
	DriveSinglePhase  = "drive-single-phase"
	DriveDerated      = "drive-derated"
	DCBus             = "dc-bus"
	SinglePhaseMotor  = "single-phase-motor"
)

// Wishes are what matters to the owner.
type Wishes struct {
	FullOutput     bool    `json:"full_output"`
	HardStart      bool    `json:"hard_start"`
	Speed          bool    `json:"speed"`       // to be turned while it runs
	Electronics    bool    `json:"electronics"` // aboard, that want balanced volts
	More           bool    `json:"more"`        // machines to come
	Quiet          bool    `json:"quiet"`
	Cheap          bool    `json:"cheap"`
	KeepSwitchgear bool    `json:"keep_switchgear"`
	HoursPerDay    float64 `json:"hours_per_day" minimum:"0" maximum:"24"`
}

// Controls is what a machine has for controls, for the hours that rewiring takes.
type Controls struct {
	Reversing  bool `json:"reversing"`
	Interlocks int  `json:"interlocks" minimum:"0" maximum:"20"`
	Motors     int  `json:"motors" minimum:"1" maximum:"10"`
}

// Input is one machine, its supply, and what matters.
type Input struct {
	Capacitor capacitor.Input // plate, circuit, supply, load, shaft, heat
	MainAmps  float64         // of the supply's own breaker or of the circuit; 0 where it is not known
	Wishes    Wishes
	Controls  Controls
	Prices    Prices
	// OnePhaseAllowed is what the maker of the drive at hand says, nil where that is not
	// known.
	OnePhaseAllowed *bool
}

// Three are figures at idle, at the load meant, and at full output; nil where a route
// has none.
type Three struct {
	Idle *float64 `json:"idle"`
	Load *float64 `json:"load"`
	Full *float64 `json:"full"`
}

// Amps are those of the supply.
type Amps struct {
	Three
	Starting *float64 `json:"starting"`
}

// Cost is in the shop's money. PerYear is energy lost and idled away, with parts and
// hours spread over some years.
type Cost struct {
	Parts   float64 `json:"parts"`
	Hours   float64 `json:"hours"` // of wiring
	PerYear float64 `json:"per_year"`
}

// Route is one way of feeding the machine.
type Route struct {
	Name        string             `json:"route"`
	Title       string             `json:"title"`
	Starts      bool               `json:"starts"`
	Margin      *float64           `json:"start_margin"`
	Seconds     *float64           `json:"start_seconds"`
	UsableWatts *[2]float64        `json:"usable_watts"`
	DutyWatts   *float64           `json:"usable_for_duty_watts"`
	Hottest     Three              `json:"hottest_winding_percent"`
	SupplyAmps  Amps               `json:"supply_amps"`
	Unbalance   Three              `json:"unbalance_percent"`
	Sizes       map[string]float64 `json:"sizes"`
	Cost        Cost               `json:"cost"`
	Unsolved    []string           `json:"unsolved" nullable:"false"`
	Reversal    string             `json:"reversal"`
	Verdicts    []rule.Verdict     `json:"verdicts" nullable:"false"`
	Score       float64            `json:"score"` // less is better
	Fits        bool               `json:"fits"`  // nothing stops it and it does what is wished
	Why         []string           `json:"why" nullable:"false"`

	lossWatts *float64 // lost and idled away at the load
	idleWatts *float64
}

// Answer is all routes, the best first.
type Answer struct {
	Recommended string   `json:"recommended"` // "" where none fits
	Reasons     []string `json:"reasons" nullable:"false"`
	Otherwise   []string `json:"otherwise" nullable:"false"` // what would change it
	Schools     []string `json:"schools" nullable:"false"`   // who sees it otherwise
	Routes      []Route  `json:"routes" nullable:"false"`
}

// Compare works every route out and ranks them.
func Compare(in Input) Answer {
	if in.Prices == (Prices{}) {
		in.Prices = SamplePrices
	}
	if in.Controls.Motors == 0 {
		in.Controls.Motors = 1
	}
	makers := []func(Input) []Route{onCapacitors, onStatic, onPhaseBox, onRotary, onDrives, bySinglePhase}
	made := make([][]Route, len(makers))
	var wait sync.WaitGroup
	for i, make := range makers {
		wait.Go(func() { made[i] = make(in) })
	}
	wait.Wait()
	var a Answer
	for _, list := range made {
		a.Routes = append(a.Routes, list...)
	}
	for i := range a.Routes {
		in.finish(&a.Routes[i])
	}
	in.rank(&a)
	return a
}
