// Package winding finds out what the leads of a three-phase motor are: which
// belong together, where they start and finish, how they can be joined and for
// what volts, from readings with a meter and a battery.
//
// Leads are counted in the order they are given; marks are the T numbers of
// NEMA MG 1, part 2, and translate to those of IEC 60034-8. Resistances are in
// ohms, insulation in megohms.
package winding

import "slices"

// Kind is how the windings of a motor are brought out.
type Kind string

// The kinds that are known.
const (
	ThreeLead   Kind = "three-lead"
	StarOut     Kind = "star point out"
	SixLead     Kind = "six-lead"
	NineWye     Kind = "nine-lead wye"
	NineDelta   Kind = "nine-lead delta"
	TwelveLead  Kind = "twelve-lead"
	UnknownKind Kind = "unknown"
)

// Counts are the numbers of leads that a motor can have.
var Counts = []int{3, 4, 6, 9, 12}

// inner is the mark of a star point inside the motor, which no lead reaches.
const inner = "inner"

// coil is one winding, or half of one, from its start to its finish. Leg 0, 1
// and 2 lie 120 electrical degrees apart.
type coil struct {
	start, finish string
	leg           int
}

// template is a kind's windings by their marks. A three-lead motor may be wye
// inside or delta; it is drawn wye.
type template struct {
	kind  Kind
	marks []string
	coils []coil
}

var templates = map[Kind]template{
	ThreeLead: {ThreeLead, []string{"T1", "T2", "T3"}, []coil{{"T1", inner, 0}, {"T2", inner, 1}, {"T3", inner, 2}}},
	StarOut:   {StarOut, []string{"T1", "T2", "T3", "T0"}, []coil{{"T1", "T0", 0}, {"T2", "T0", 1}, {"T3", "T0", 2}}},
	SixLead: {
		SixLead,
		[]string{"T1", "T2", "T3", "T4", "T5", "T6"},
		[]coil{{"T1", "T4", 0}, {"T2", "T5", 1}, {"T3", "T6", 2}},
	},
	NineWye: {
		NineWye,
		[]string{"T1", "T2", "T3", "T4", "T5", "T6", "T7", "T8", "T9"},
		[]coil{
			{"T1", "T4", 0},
			{"T2", "T5", 1},
			{"T3", "T6", 2},
			{"T7", inner, 0},
			{"T8", inner, 1},
			{"T9", inner, 2},
		},
	},
	NineDelta: {NineDelta, []string{"T1", "T2", "T3", "T4", "T5", "T6", "T7", "T8", "T9"},
		[]coil{{"T1", "T4", 0}, {"T2", "T5", 1}, {"T3", "T6", 2}, {"T7", "T2", 0}, {"T8", "T3", 1}, {"T9", "T1", 2}}},
	TwelveLead: {
		TwelveLead,
		[]string{"T1", "T2", "T3", "T4", "T5", "T6", "T7", "T8", "T9", "T10", "T11", "T12"},
		[]coil{
			{"T1", "T4", 0},
			{"T2", "T5", 1},
			{"T3", "T6", 2},
			{"T7", "T10", 0},
			{"T8", "T11", 1},
			{"T9", "T12", 2},
		},
	},
}

// route is what lies between two leads: the axis of the ampere-turns that a current
// from one to the other makes, by leg, and the number of coils.
type route struct {
	axis  [3]float64
	coils int
}

// routes are those of each kind, by the marks of both ends; ends that no coils
// join are absent.
var routes = func() map[Kind]map[[2]string]route {
	all := map[Kind]map[[2]string]route{}
	for kind, t := range templates {
		all[kind] = map[[2]string]route{}
		for _, from := range t.marks {
			t.walk(from, route{}, nil, func(to string, r route) { all[kind][[2]string{from, to}] = r })
		}
	}
	return all
}()

// walk visits every end that coils not yet used lead to.
func (t template) walk(at string, so route, used []int, visit func(to string, r route)) {
	if at != inner {
		visit(at, so)
	}
	for i, c := range t.coils {
		next, sense := c.finish, 1.0
		if c.finish == at {
			next, sense = c.start, -1
		} else if c.start != at {
			continue
		}
		if !slices.Contains(used, i) {
			on := so
			on.axis[c.leg] += sense
			on.coils++
			t.walk(next, on, append(slices.Clone(used), i), visit)
		}
	}
}

// path is the route between two marks; ok is false when nothing joins them.
func (t template) path(from, to string) (axis [3]float64, coils int, ok bool) {
	r, ok := routes[t.kind][[2]string{from, to}]
	return r.axis, r.coils, ok
}

// induced is the volts across one axis from a current rising in another, in
// volts of one coil on its own axis: legs at 120° share half their flux, and
// against each other.
func induced(driven, sensed [3]float64) float64 {
	sum := 0.0
	for i, d := range driven {
		for j, s := range sensed {
			if i == j {
				sum += d * s
			} else {
				sum -= d * s / 2
			}
		}
	}
	return sum
}
