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

// Copper conductors: on 60 Hz by the 60 °C column of NEC table 310.16, which terminals up to
// 100 A are for (110.14(C)), none past the small-conductor rule of 240.4(D) (US, 2023); on 50 Hz
// two loaded ones in conduit on a wall, method B1, PVC, by IEC 60364-5-52, table B.52.2. Their ohms
// are those at 75 °C of NEC chapter 9, table 8, stranded, uncoated, and those at 20 °C of IEC 60228,
// class 2, by warm at 70 °C.
var conductors = map[bool][]conductor{
	true: {
		{"14 AWG", 15, 10.3}, {"12 AWG", 20, 6.50}, {"10 AWG", 30, 4.07}, {"8 AWG", 40, 2.551}, {"6 AWG", 55, 1.608},
		{"4 AWG", 70, 1.010}, {"3 AWG", 85, 0.802}, {"2 AWG", 95, 0.634}, {"1 AWG", 110, 0.505},
		{"1/0 AWG", 125, 0.399}, {"2/0 AWG", 145, 0.3170}, {"3/0 AWG", 165, 0.2512}, {"4/0 AWG", 195, 0.1996},
	},
	false: {
		{"1.5 mm²", 17.5, warm * 12.1}, {"2.5 mm²", 24, warm * 7.41}, {"4 mm²", 32, warm * 4.61},
		{"6 mm²", 41, warm * 3.08}, {"10 mm²", 57, warm * 1.83}, {"16 mm²", 76, warm * 1.15},
		{"25 mm²", 101, warm * 0.727}, {"35 mm²", 125, warm * 0.524}, {"50 mm²", 151, warm * 0.387},
		{"70 mm²", 192, warm * 0.268}, {"95 mm²", 232, warm * 0.193},
	},
}

const (
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
