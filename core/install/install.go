// Package install is what somebody needs who builds a circuit: its wires with their lengths and ends, what an ohmmeter
// must say before the first power, parts to be had, where they stand in a box and how large that is, and labels.
package install

import (
	"brackmoor/core/circuit"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// Site is where a circuit is built, and what is known of what hangs on it.
type Site struct {
	Machine     string       // its name
	WindingOhms float64      // between two of its motor's terminals, 0 for not measured
	Stores      []stock.Item // what the shop has on hand
	MachineID   string       // for which some of it may be reserved
	Costs       []stock.Cost // what the shop pays for parts
	// Usual is what one of a part costs by the shop's prices of ways, 0 for not known; nil for none.
	Usual func(p *circuit.Part) (each float64)
	circuit.Choices
}

// What a key in a motor's ticks begins with.
const (
	Landed = "land " // a wire at both ends, and tight
	Pulled = "pull " // and pulled at
	Passed = "pass " // a check
)

// Work is all of it.
type Work struct {
	Wires     []Landing  `json:"wires" nullable:"false"`
	Checks    []Check    `json:"checks" nullable:"false"`
	Powering  []Step     `json:"powering" nullable:"false"`
	Volts     []Step     `json:"other_volts" nullable:"false"` // of a drive, to other input volts
	Parts     []Item     `json:"parts" nullable:"false"`
	Sum       Sum        `json:"sum"`
	Labels    []Label    `json:"labels" nullable:"false"`
	Enclosure Enclosure  `json:"enclosure"`
	Temporary []rule.Row `json:"temporary" nullable:"false"` // what a bench’s hook-up may leave out, and what never
}

// Of works a circuit out for a place.
func Of(c *circuit.Circuit, at Site) Work {
	at.Choices = at.Filled()
	box := boxOf(c)
	w := Work{Wires: landings(c, at, box), Checks: checks(c, at), Powering: powering(c),
		Volts: append([]Step{}, otherVolts(c)...), Labels: labels(c, at), Temporary: temporary()}
	w.Enclosure = enclosure(c, at, box)
	w.Parts = items(c, w, at.Usual)
	onHand(w.Parts, at, hertz(c))
	w.Sum = priced(w.Parts, at.Costs, hertz(c))
	return w
}
