package supply

import (
	"fmt"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// conductor is a copper conductor by its size with the amps that it carries.
type conductor struct {
	size string
	amps float64
}

// Copper conductors: on 60 Hz by the 60 °C column of NEC table 310.16, which terminals up to
// 100 A are for (110.14(C)), none past the small-conductor rule of 240.4(D) (US, 2023); on 50 Hz
// two loaded ones in conduit on a wall, method B1, PVC, by IEC 60364-5-52, table B.52.2.
var conductors = map[bool][]conductor{
	true: {{"14 AWG", 15}, {"12 AWG", 20}, {"10 AWG", 30}, {"8 AWG", 40}, {"6 AWG", 55}, {"4 AWG", 70}, {"3 AWG", 85},
		{"2 AWG", 95}, {"1 AWG", 110}, {"1/0 AWG", 125}, {"2/0 AWG", 145}, {"3/0 AWG", 165}, {"4/0 AWG", 195}},
	false: {{"1.5 mm²", 17.5}, {"2.5 mm²", 24}, {"4 mm²", 32}, {"6 mm²", 41}, {"10 mm²", 57}, {"16 mm²", 76},
		{"25 mm²", 101}, {"35 mm²", 125}, {"50 mm²", 151}, {"70 mm²", 192}, {"95 mm²", 232}},
}

// Conductor is the least copper conductor that carries amps, laid and warm as its table has it,
// "" where none does.
func Conductor(amps, hertz float64) string {
	for _, c := range conductors[quantity.SixtyHertz(hertz)] {
		if c.amps >= amps {
			return c.size
		}
	}
	return ""
}

// ConductorTables are the tables, to be read.
func ConductorTables() (list []rule.Table) {
	for _, sixty := range []bool{true, false} {
		t := rule.Table{Title: "Copper conductors, 60 °C", Source: "NEC 310.16, 110.14(C), 240.4(D) (US, 2023)",
			Head: []string{"Size", "A"}, Rows: [][]string{}}
		if !sixty {
			t.Title, t.Source = "Copper conductors, method B1", "IEC 60364-5-52, table B.52.2: two loaded, PVC, 30 °C"
		}
		for _, c := range conductors[sixty] {
			t.Rows = append(t.Rows, []string{c.size, fmt.Sprintf("%g", c.amps)})
		}
		list = append(list, t)
	}
	return list
}
