// Package route sets the ways of feeding one three-phase machine from one phase side by
// side: whether each starts it, what output is left, how hot the hottest winding runs,
// what it draws and costs, what it leaves unsolved; and says which it would take, and
// why.
package route

import (
	"math"
	"slices"
	"sync"

	"brackmoor/core/capacitor"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// UsualHours is how long a day a machine runs where nothing is said.
const UsualHours = 3.0

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
	HoursPerDay    float64 `json:"hours_per_day" minimum:"0" maximum:"24"` // 0 counts as UsualHours
}

// Controls is what a machine has for controls, for the hours that rewiring takes.
type Controls struct {
	Switch     string `json:"switch" enum:",two-wire,three-wire,drum"` // one of drive.Switches; "" where nobody looked
	Brake      bool   `json:"brake"`
	Reversing  bool   `json:"reversing"`
	Interlocks int    `json:"interlocks" minimum:"0" maximum:"20"`
	Motors     int    `json:"motors" minimum:"0" maximum:"10"` // 0 counts as one
}

// Matters is all that is noted of a machine for the choice of its route. CircuitAmps is
// the breaker it is to hang on, 0 where that is not known; MakerPermits is "yes", "no" or
// "" for what the maker of the drive at hand says of one phase. LeastHertz is the least
// that the machine's maker lets its motor run at, 0 where that is not known.
type Matters struct {
	Wishes
	Controls     Controls `json:"controls"`
	CircuitAmps  float64  `json:"circuit_amps" minimum:"0" maximum:"600"`
	MakerPermits string   `json:"maker_permits" enum:",yes,no"`
	LeastHertz   float64  `json:"least_hertz" minimum:"0" maximum:"100"`
	// Of the spindle, as typed: its steps, the tool's diameter, the material's name.
	Steps    string `json:"steps" maxLength:"160"`
	Tool     string `json:"tool" maxLength:"40"`
	Material string `json:"material" maxLength:"40"`
}

// Into puts what matters into a question.
func (m Matters) Into(in Input) Input {
	in.Wishes, in.Controls = m.Wishes, m.Controls
	if m.CircuitAmps > 0 {
		in.MainAmps = m.CircuitAmps
	}
	switch m.MakerPermits {
	case "yes":
		in.OnePhaseAllowed = new(true)
	case "no":
		in.OnePhaseAllowed = new(false)
	}
	return in
}

// Input is one machine, its supply, and what matters.
type Input struct {
	Capacitor capacitor.Input // plate, circuit, supply, load, shaft, heat
	MainAmps  float64         // of the supply's own breaker or of the circuit; 0 where it is not known
	Wishes    Wishes
	Controls  Controls
	Prices    Prices
	Way       Way
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
	Workings    []rule.Working     `json:"workings" nullable:"false"`

	lossWatts *float64         // lost and idled away at the load
	volts     [3]network.Lines // idle, at the load, at full output
	steady    []rule.Working   // of the figures that no wish changes
}

// Answer is all routes, the best first.
type Answer struct {
	Recommended string   `json:"recommended"` // "" where none fits
	Reasons     []string `json:"reasons" nullable:"false"`
	Otherwise   []string `json:"otherwise" nullable:"false"` // what would change it
	Schools     []string `json:"schools" nullable:"false"`   // who sees it otherwise
	Notes       []string `json:"notes" nullable:"false"`     // what holds for all of them
	Routes      []Route  `json:"routes" nullable:"false"`
}

// Compare works every route out and ranks them.
func Compare(in Input) Answer { return Rank(in, Work(in)) }

// Work works every route out, whatever is wished: the costly part.
func Work(in Input) []Route {
	in = in.filled()
	makers := []func(Input) []Route{onCapacitors, onStatic, onPhaseBox, onRotary, onDrives, bySinglePhase}
	made := make([][]Route, len(makers))
	var wait sync.WaitGroup
	for i, make := range makers {
		wait.Go(func() { made[i] = make(in) })
	}
	wait.Wait()
	routes := slices.Concat(made...)
	for i := range routes {
		in.feed(&routes[i])
		routes[i].steady = in.stated(&routes[i])
	}
	return routes
}

// feed sizes breaker and conductors by the amps at full output, or at the load where full
// output is not to be had; by a code's table where its amps are more.
func (in Input) feed(r *Route) {
	amps := r.SupplyAmps.Full
	if amps == nil {
		amps = r.SupplyAmps.Load
	}
	if amps == nil {
		return
	}
	most := math.Max(*amps, r.Sizes["table_amps"])
	r.Sizes["conductor_amps"] = supply.Spare * most
	if rating, ok := supply.Breaker(most, in.Capacitor.Supply.Hertz); ok {
		r.Sizes["breaker_amps"] = rating
	}
}

// Rank judges routes that Work has worked out by what is wished, the best first.
func Rank(in Input, worked []Route) Answer {
	in = in.filled()
	a := Answer{Routes: slices.Clone(worked)}
	for i := range a.Routes {
		in.finish(&a.Routes[i])
	}
	in.rank(&a)
	return a
}

// usualAirC is the air around a motor where nothing is said: what plates are made for.
const usualAirC = 40

// filled takes sample prices and a plain machine where nothing is said.
func (in Input) filled() Input {
	if in.Prices == (Prices{}) {
		in.Prices = SamplePrices
	}
	in.Controls.Motors = max(in.Controls.Motors, 1)
	if in.Capacitor.Thermal.LimitC == 0 {
		in.Capacitor.Thermal = motor.ThermalOf(in.watts(), "", 0, usualAirC)
	}
	if in.Wishes.HoursPerDay == 0 {
		in.Wishes.HoursPerDay = UsualHours
	}
	return in
}
