package prove

import (
	"math"
	"slices"
	"strings"

	"brackmoor/core/feed"
)

// columns are the places that stand in the page's columns: volts and amps of lines, or, behind a drive, what a meter
// and its display tell.
func (p *proof) columns(all []Place) (list []Place) {
	names := []string{
		"volts.ab", "volts.bc", "volts.ca", "amps.machine.a", "amps.machine.b", "amps.machine.c", "amps.supply",
	}
	switch {
	case p.driven():
		names = []string{
			"amps.machine.a", "amps.machine.b", "amps.machine.c", "hertz", "bus", "amps.supply", "watts",
		}
	case p.way.Info().OwnVolts: // another motor, of one phase
		names = []string{"volts.ab", "amps.supply", "watts", "rpm", "up", "frame", "room"}
	}
	for _, name := range names {
		list = append(list, all[slices.IndexFunc(all, func(x Place) bool { return x.Name == name })])
	}
	return list
}

// driven says whether a drive stands before the motor.
func (p *proof) driven() bool {
	_, ok := p.way.(feed.Driven)
	return ok
}

// How far what a drive does may be off its outline, as shares: its motor's amps by what plates leave open, those of its
// line by the source and its cans, its bus by the supply’s volts of the day.
const (
	offAmps   = 0.08
	offSupply = 0.12
	offBus    = 0.03
	offHertz  = 0.3 // in hertz: the last digits of a display
)

// behind is what is foretold at a place behind a drive in a state at its usual load, and one standard deviation.
func (p *proof) behind(state, place string) (value, sigma float64, ok bool) {
	o := p.outline()
	if o == nil {
		return 0, 0, false
	}
	of := map[string][2]*float64{
		Idle: {o.Hottest.Idle, o.SupplyAmps.Idle}, Part: {o.Hottest.Load, o.SupplyAmps.Load},
		Full: {o.Hottest.Full, o.SupplyAmps.Full},
	}[state]
	switch {
	case strings.HasPrefix(place, "amps."+machineID) && of[0] != nil:
		value = *of[0] / 100 * p.q.Plate.Amps.Value
		return value, math.Max(offAmps*value, 0.1), true
	case place == "amps.supply" && of[1] != nil:
		return *of[1], math.Max(offSupply**of[1], 0.2), true
	case place == "hertz" && steady(state):
		return p.q.Plate.Hertz.Value, offHertz, true
	case place == "bus" && state == Standing && p.q.Supply.Volts > halfVolts:
		value = math.Sqrt2 * p.q.Supply.Volts
		return value, offBus * value, true
	}
	return 0, 0, false
}

// halfVolts is up to where a drive doubles its line for its bus.
const halfVolts = 150

// outline is what the way comes to, worked out once.
func (p *proof) outline() *feed.Outline {
	if p.outlined == nil {
		p.outlined = new(p.way.Outline(p.q))
	}
	return *p.outlined
}
