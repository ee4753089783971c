package drive

import (
	"math"
	"slices"

	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
)

// Input is a machine that a drive is sized for, and of which kind.
type Input struct {
	machine.Machine
	Kind Kind
	// BusMicrofarad is the capacitance of the drive at hand, nil where a usual one is taken.
	BusMicrofarad *float64
	// Reactor is what stands in its line or its dc link.
	Reactor Reactor
}

// Kind is the drive whose front end is looked at.
type Kind string

// The kinds of drive: built for one phase, a larger one built for three, and drives on a
// bus that a rectifier with a choke feeds. The zero Kind is all of them sized for a
// comparison, no front end worked out at a load.
const (
	OnePhase Kind = "one-phase"
	Three    Kind = "three-phase"
	Bus      Kind = "bus"
)

// Ratings are the standard outputs of small drives in watts (IEC 60072 preferred
// outputs).
var Ratings = []float64{370, 550, 750, 1100, 1500, 2200, 3000, 4000, 5500, 7500, 11000, 15000, 18500, 22000, 30000}

// horses are the ratings by which the same drives are sold in horsepower.
var horses = []string{"½", "¾", "1", "1½", "2", "3", "4", "5", "7½", "10", "15", "20", "25", "30", "40"}

// Rated words a standard drive by both its outputs, as its label does.
func Rated(rating float64) string {
	words := quantity.Figures(rating/1000, 3) + " kW"
	if horse := Horse(rating); horse != "" {
		words += ", " + horse
	}
	return words
}

// Horse words a standard drive in horsepower, "" where it is none.
func Horse(rating float64) string {
	if at := slices.Index(Ratings, rating); at >= 0 {
		return horses[at] + " hp"
	}
	return ""
}

// ratedAmps are the output amps of standard drives for 200 to 240 V in the order of Ratings:
// those of a motor of that output on 200 V, which they are made for (NEC 430.250, 200 V, US,
// 2023; 3 kW lies between).
var ratedAmps = []float64{2.5, 3.7, 4.8, 6.9, 7.8, 11, 14.2, 17.5, 25.3, 32.2, 48.3, 62.1, 78.2, 92, 120}

// nearly is what a drive may fall short of a motor by: 3 hp is sold as 2.2 kW.
const nearly = 0.98

// RatedAmps are the output amps of a standard drive of a rating in watts on the volts that it
// gives its motor, 0 for a rating that is none.
func RatedAmps(rating, volts float64) float64 {
	at := slices.Index(Ratings, rating)
	if at < 0 {
		return 0
	}
	if volts > highVolts { // the same volt-amperes
		return ratedAmps[at] * tableVolts / volts
	}
	return ratedAmps[at]
}

// Volts of the table's motors, and above which drives are of another class.
const (
	tableVolts = 200.0
	highVolts  = 300.0
)

// Next is the standard rating that covers watts, and amps at the motor; the largest where
// none does, with ok false.
func (in Input) Next(watts, amps float64) (rating float64, ok bool) {
	for _, r := range Ratings {
		if r >= nearly*watts && RatedAmps(r, in.most()) >= nearly*amps {
			return r, true
		}
	}
	return Ratings[len(Ratings)-1], false
}

// What a usual small drive is made of, where its maker's figures are not known: shop
// practice, between published values of drives for 200 to 240 V.
const (
	busPerKilowatt      = 330.0 // µF at usualBusVolts, of drives for three phases
	onePhasePerKilowatt = 660.0 // of those built for one
	usualBusVolts       = 325.0
	doublerCans         = 4.0 // each of a doubler's cans over the bus of a bridge for three
	tripOver            = 1.1 // over the bus at least, on higher supplies
)

// TripVolts are those of the bus at which a usual drive for 200 to 240 V trips, whatever its supply (shop practice).
const TripVolts = 400.0

// PrechargeOhm is what the bus of a usual drive is charged through (shop practice).
const PrechargeOhm = 47.0

// Losses is the share of what goes through a usual drive that it loses (shop practice).
const Losses = 0.04

// Front is the front end of a usual drive of a rating in watts, on volts and hertz, its bus
// of electrolytic cans. One that is built for one phase has more of them.
func Front(kind Kind, rating, volts, hertz float64) rectifier.Front {
	scale := usualBusVolts / (math.Sqrt2 * volts)
	f := rectifier.Front{Phases: 3, Topology: rectifier.Bridge, BusMicrofarad: busPerKilowatt}
	if kind == OnePhase {
		f.Phases, f.BusMicrofarad = 1, onePhasePerKilowatt
	}
	f.BusMicrofarad *= rating / 1000 * scale * scale
	return withCans(f, math.Max(1, math.Round(f.BusMicrofarad)), hertz)
}

// withCans is a front end with a capacitance on its bus, and its ohms.
func withCans(f rectifier.Front, microfarad, hertz float64) rectifier.Front {
	f.BusMicrofarad = microfarad
	f.BusESROhm = rectifier.ESR(rectifier.TanDeltaElectrolytic, microfarad, hertz)
	return f
}

// doublerVolts is the supply under which a drive doubles it: drives for 100 to 130 V.
const doublerVolts = 150.0

// doublesFor is how many times the supply's volts a motor's must be, at the supply's volts per
// hertz, for a drive that doubles them to be looked for.
const doublesFor = 1.5

// Doubles says whether a drive on this supply is one that doubles its volts: where they are too
// few for any other, or, of those built for one phase, for this motor.
func (in Input) Doubles() bool {
	wanted := in.Plate.Volts.Value * in.Supply.Hertz / in.Plate.Hertz.Value
	return in.Supply.Volts < doublerVolts || in.Kind == OnePhase && wanted > doublesFor*in.Supply.Volts
}

// most are the volts, line to line, that a drive gives its motor on this supply.
func (in Input) most() float64 {
	if in.Doubles() {
		return 2 * in.Supply.Volts
	}
	return in.Supply.Volts
}

// input is the dc watts that shaft watts take.
func (in Input) input(shaft float64) float64 {
	return shaft / in.Plate.Efficiency.Value / (1 - Losses)
}

// Front is the front end of a drive of a rating for this machine: its own cans where they are
// known, its reactor, and a doubler where the supply asks for one.
func (in Input) Front(rating float64) rectifier.Front {
	f := Front(in.Kind, rating, in.most(), in.Supply.Hertz)
	f.Phases = 1
	if in.Doubles() {
		// Each of its two cans is charged once a cycle only.
		f = Front(Three, rating, in.most(), in.Supply.Hertz)
		f.Phases, f.Topology = 1, rectifier.Doubler
		f.BusMicrofarad, f.BusESROhm = doublerCans*f.BusMicrofarad, f.BusESROhm/doublerCans
		return f
	}
	if in.BusMicrofarad != nil {
		f = withCans(f, *in.BusMicrofarad, in.Supply.Hertz)
	}
	if in.Reactor == LineReactor && in.Kind != Bus {
		f.LineReactorOhm = in.reactorOhm(rating)
	}
	return f
}

// Fed is the front end of a drive of a rating as this machine's is fed, with its reactor or
// on its bus, and what is added to a bus in microfarads.
func (in Input) Fed(rating float64) (f rectifier.Front, added float64, err error) {
	switch {
	case in.Kind == Bus:
		f, added = in.Bus(rating)
	case in.Reactor == DCChoke && !in.Doubles():
		f, err = in.Choked(rating)
	default:
		f = in.Front(rating)
	}
	return f, added, err
}

// on is a front end on this machine's supply, at watts into its bus.
func (in Input) on(f rectifier.Front, watts float64) rectifier.Case {
	s := in.Supply
	// The loop's ohms are those of two conductors.
	return rectifier.Case{
		Supply: rectifier.Supply{
			Volts:             s.Volts,
			Hertz:             s.Hertz,
			LineResistanceOhm: s.ResistanceOhm / 2,
			LineReactanceOhm:  s.ReactanceOhm / 2,
		},
		Bridge:    f,
		LoadWatts: watts,
		Stop:      in.Stop,
	}
}

// Takes is what a front end does at shaft watts.
func (in Input) Takes(front rectifier.Front, shaft float64) (rectifier.Result, error) {
	return rectifier.Solve(in.on(front, in.input(shaft)))
}
