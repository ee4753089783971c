package supply

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// conductor is a copper conductor by its size, with the amps that it carries and its ohms a
// kilometre, as warm as they make it.
type conductor struct {
	size       string
	amps, ohms float64
}

// conductors are what ways are fed by where nothing is said of how they are laid: on 60 Hz copper by
// the 60 °C column of NEC table 310.16, which terminals up to 100 A are for (110.14(C)), none past
// the small-conductor rule of 240.4(D) (US, 2023); on 50 Hz two loaded ones in conduit on a wall,
// method B1, PVC, by IEC 60364-5-52, table B.52.2.
var conductors = map[bool][]conductor{true: plainGauges(), false: plainSections()}

func plainGauges() (list []conductor) {
	for _, g := range gauges[:13] { // up to 4/0
		list = append(list, conductor{g.size, g.copper[0], g.ohm * kilometre})
	}
	return list
}

func plainSections() (list []conductor) {
	for _, s := range sections {
		list = append(list, conductor{s.size, s.pvc[2], warm * s.ohm})
	}
	return list
}

const (
	// kilometre is how many thousand feet there are in one.
	kilometre = 1000 / 304.8
	// warm is the ohms of copper at 70 °C over those at 20 °C (IEC 60228, annex A).
	warm = 1 + 0.00393*50
	// reactance is that of a conductor beside its return in ohms a kilometre (IEC 60364-5-52,
	// annex G).
	reactance = 0.08
)

// Run is a circuit's conductors as far as they go, copper, both lines: their size, and the share
// of the supply's volts in percent that is lost on them at the load and at a start. By is the
// size that carries the amps, where the run wants a larger one; Poor says that the largest does
// not keep within what may be lost either.
type Run struct {
	Size, By          string
	Running, Starting float64
	Poor              bool
}

// Over is the least conductor that carries amps over so many metres with no more volts lost than
// may be, in percent at the load's amps and at those of a start. Amps and ohms count by their
// size alone, which is never too little. There is none where no conductor carries the amps.
func Over(metres, carry, volts, hertz float64, amps, most [2]float64) (r Run, ok bool) {
	for _, c := range conductors[quantity.SixtyHertz(hertz)] {
		if c.amps < carry {
			continue
		}
		if !ok {
			r.By, ok = c.size, true
		}
		percent := 100 * 2 * metres / 1000 * math.Hypot(c.ohms, reactance) / volts
		r.Size, r.Running, r.Starting = c.size, percent*amps[0], percent*amps[1]
		if r.Poor = r.Running > most[0] || r.Starting > most[1]; !r.Poor {
			break
		}
	}
	if r.By == r.Size {
		r.By = ""
	}
	return r, ok
}

// ConductorTables are the tables, to be read.
func ConductorTables() (list []rule.Table) {
	for _, sixty := range []bool{true, false} {
		t := rule.Table{Title: "Copper conductors, 60 °C", Source: "NEC 310.16, 110.14(C), 240.4(D) (US, 2023)",
			Head: []string{"Size", "A", "Ω/km"}, Rows: [][]string{}}
		if !sixty {
			t.Title, t.Source = "Copper conductors, method B1", "IEC 60364-5-52, table B.52.2: two loaded, PVC, 30 °C"
		}
		for _, c := range conductors[sixty] {
			t.Rows = append(t.Rows, []string{c.size, fmt.Sprintf("%g", c.amps), quantity.Figures(c.ohms, 3)})
		}
		list = append(list, t)
	}
	return list
}
