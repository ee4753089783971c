package winding

import (
	"math"
	"slices"

	"brackmoor/core/rule"
)

// Joint is a point at which leads come together: the marks there, and the line
// that feeds it, "" for a star point or a joint between coils in series.
type Joint struct {
	Marks []string `json:"marks" nullable:"false"`
	Line  string   `json:"line"`
}

// Connection is one way to join the leads of a kind.
type Connection struct {
	Name   string  `json:"name"`
	Joints []Joint `json:"joints" nullable:"false"`
	Delta  bool    `json:"delta"` // windings lie between lines
	series int     // coils in series in a leg
	paths  int     // in parallel
}

// perCoil is the line volts over the volts of one coil.
func (c Connection) perCoil() float64 {
	if c.Delta {
		return float64(c.series)
	}
	return math.Sqrt(3) * float64(c.series)
}

// StatorOhm is the wye-equivalent resistance in ohms at the terminals for coils of
// the given ohms.
func (c Connection) StatorOhm(coil float64) float64 {
	ohms := coil * float64(c.series) / float64(c.paths)
	if c.Delta {
		ohms /= 3
	}
	return ohms
}

// Lines are the supply lines in the order in which the first three marks take them:
// line a, line b, and the made leg.
var Lines = [3]string{"a", "b", "c"}

func fed(first, second, third []string, loose ...[]string) []Joint {
	joints := []Joint{{first, Lines[0]}, {second, Lines[1]}, {third, Lines[2]}}
	for _, marks := range loose {
		joints = append(joints, Joint{marks, ""})
	}
	return joints
}

type marks = []string

// connections are the ways of joining each kind (NEMA MG 1, 2.61 to 2.66;
// IEC 60034-8).
var connections = map[Kind][]Connection{
	ThreeLead: {{Name: "three leads", Joints: fed(marks{"T1"}, marks{"T2"}, marks{"T3"}), series: 1, paths: 1}},
	StarOut:   {{Name: "wye", Joints: fed(marks{"T1"}, marks{"T2"}, marks{"T3"}, marks{"T0"}), series: 1, paths: 1}},
	SixLead: {
		{Name: "wye", Joints: fed(marks{"T1"}, marks{"T2"}, marks{"T3"}, marks{"T4", "T5", "T6"}), series: 1, paths: 1},
		{
			Name:   "delta",
			Joints: fed(marks{"T1", "T6"}, marks{"T2", "T4"}, marks{"T3", "T5"}),
			Delta:  true,
			series: 1,
			paths:  1,
		},
	},
	NineWye: {
		{
			Name:   "series",
			Joints: fed(marks{"T1"}, marks{"T2"}, marks{"T3"}, marks{"T4", "T7"}, marks{"T5", "T8"}, marks{"T6", "T9"}),
			series: 2,
			paths:  1,
		},
		{
			Name:   "parallel",
			Joints: fed(marks{"T1", "T7"}, marks{"T2", "T8"}, marks{"T3", "T9"}, marks{"T4", "T5", "T6"}),
			series: 1,
			paths:  2,
		},
	},
	NineDelta: {
		{
			Name:   "series",
			Joints: fed(marks{"T1"}, marks{"T2"}, marks{"T3"}, marks{"T4", "T7"}, marks{"T5", "T8"}, marks{"T6", "T9"}),
			Delta:  true,
			series: 2,
			paths:  1,
		},
		{
			Name:   "parallel",
			Joints: fed(marks{"T1", "T6", "T7"}, marks{"T2", "T4", "T8"}, marks{"T3", "T5", "T9"}),
			Delta:  true,
			series: 1,
			paths:  2,
		},
	},
	TwelveLead: {
		{
			Name: "series wye",
			Joints: fed(
				marks{"T1"},
				marks{"T2"},
				marks{"T3"},
				marks{"T4", "T7"},
				marks{"T5", "T8"},
				marks{"T6", "T9"},
				marks{"T10", "T11", "T12"},
			),
			series: 2,
			paths:  1,
		},
		{
			Name: "series delta",
			Joints: fed(
				marks{"T1", "T12"},
				marks{"T2", "T10"},
				marks{"T3", "T11"},
				marks{"T4", "T7"},
				marks{"T5", "T8"},
				marks{"T6", "T9"},
			),
			Delta:  true,
			series: 2,
			paths:  1,
		},
		{
			Name: "parallel wye",
			Joints: fed(
				marks{"T1", "T7"},
				marks{"T2", "T8"},
				marks{"T3", "T9"},
				marks{"T4", "T5", "T6"},
				marks{"T10", "T11", "T12"},
			),
			series: 1,
			paths:  2,
		},
		{
			Name:   "parallel delta",
			Joints: fed(marks{"T1", "T6", "T7", "T12"}, marks{"T2", "T4", "T8", "T10"}, marks{"T3", "T5", "T9", "T11"}),
			Delta:  true,
			series: 1,
			paths:  2,
		},
	},
}

// Connections lists the ways of joining a kind, those for the highest volts first.
func Connections(kind Kind) []Connection { return connections[kind] }

// Rated is one voltage of a plate with its connection as far as it says: wye,
// delta, series, parallel or "".
type Rated struct {
	Volts      float64
	Connection string
}

// Way is a connection with the line volts it is for.
type Way struct {
	Connection
	Volts  float64     `json:"volts"`
	Origin rule.Origin `json:"origin" enum:"stated,derived,assumed"`
	Source string      `json:"source"`
	Needs  string      `json:"needs"` // work to be done first
}

// says tells whether a plate's word can mean a connection.
func (c Connection) says(word string) bool {
	switch word {
	case "wye":
		return !c.Delta
	case "delta":
		return c.Delta
	case "series":
		return c.series == 2
	case "parallel":
		return c.paths == 2
	}
	return true
}

// Ways gives every connection of a kind its volts from the plate's. inside is wye
// or delta where that is known of a motor on which leads do not tell it. A plate
// that leaves it open is taken in the way that cannot overvolt a winding: the
// connection for the highest coil count on its volts.
func Ways(kind Kind, inside string, rated []Rated) []Way {
	var fits []float64 // volts of one coil that explain every rating
	all := connections[kind]
	if len(rated) == 0 || len(all) == 0 || kind == ThreeLead || kind == StarOut {
		return insideWays(kind, inside, rated)
	}
	// The highest volts are the firmest: 208 and 230 are one joint, and 230 its rating.
	top := slices.MaxFunc(rated, func(a, b Rated) int { return compare(a.Volts, b.Volts) })
	for _, first := range all {
		if !first.says(top.Connection) || inside != "" && first.Delta != (inside == "delta") && kind == TwelveLead {
			continue
		}
		coil := top.Volts / first.perCoil()
		explained := !slices.ContainsFunc(rated, func(r Rated) bool {
			return !slices.ContainsFunc(
				all,
				func(c Connection) bool { return c.says(r.Connection) && near(coil*c.perCoil(), r.Volts) },
			)
		})
		if explained {
			fits = append(fits, coil)
		}
	}
	if len(fits) == 0 {
		return nil
	}
	coil := slices.Min(fits)
	var ways []Way
	add := func(w Way) {
		if len(fits) > 1 {
			w.Origin, w.Source = rule.Assumed, "the plate leaves wye or delta open; taken so that no winding gets "+
				"too much"
		}
		ways = append(ways, w)
	}
	for _, c := range all {
		stated := false
		for _, r := range rated {
			if near(coil*c.perCoil(), r.Volts) {
				stated = true
				add(Way{Connection: c, Volts: r.Volts, Origin: rule.Stated, Source: "plate"})
			}
		}
		if !stated {
			add(
				Way{
					Connection: c,
					Volts:      math.Round(coil * c.perCoil()),
					Origin:     rule.Derived,
					Source:     "the plate's volts and the coils in series",
				},
			)
		}
	}
	return ways
}

// near allows for volts that are named roundly: 208 and 230 are one joint.
func near(a, b float64) bool { return math.Abs(a/b-1) < 0.11 }

// insideWays are those of a motor whose star or delta is made inside.
func insideWays(kind Kind, inside string, rated []Rated) (ways []Way) {
	if kind != ThreeLead && kind != StarOut {
		return nil
	}
	c := connections[kind][0]
	if kind == StarOut {
		inside = "wye"
	}
	if c.Delta = inside == "delta"; inside != "" {
		c.Name = inside
	}
	// The same windings the other way round: what lies inside must be opened first.
	other, needs := connections[SixLead][1], "break out the star point"
	if c.Delta {
		other, needs = connections[SixLead][0], "open the delta inside"
	}
	for _, r := range rated {
		w := Way{Connection: c, Volts: r.Volts, Origin: rule.Stated, Source: "plate"}
		if inside != "" && (r.Connection == "wye" || r.Connection == "delta") && r.Connection != inside {
			w.Connection, w.Needs = other, needs
		}
		ways = append(ways, w)
	}
	if len(rated) == 1 && inside == "wye" && ways[0].Needs == "" {
		ways = append(
			ways,
			Way{Connection: other, Volts: math.Round(rated[0].Volts / math.Sqrt(3)), Origin: rule.Derived,
				Source: "the same windings between lines", Needs: needs},
		)
	}
	return ways
}
