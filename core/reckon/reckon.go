// Package reckon works the sums of a motor any way round: from any figures that are enough, all the others, each with
// the sum that it came from.
package reckon

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Quantity is one that is reckoned with: its name, what it is called, its unit, and the least and most that it may be.
type Quantity struct {
	Name  string  `json:"name"`
	Title string  `json:"title"`
	Unit  string  `json:"unit"`
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
}

// Quantities are those that there are.
var Quantities = []Quantity{
	{"volts", "Volts between lines", "V", 1, 50_000},
	{"amps", "Amps of a line", "A", 0.001, 100_000},
	{"power_factor", "Power factor", "", 0.01, 1},
	{"efficiency", "Efficiency", "%", 1, 100},
	{"va", "Apparent power", "VA", 0.001, 1e9},
	{"input", "Power taken", "W", 0.001, 1e9},
	{"output", "Output of the shaft", "W", 0.001, 1e9},
	{"horsepower", "Output of the shaft", "hp", 1e-6, 1e6},
	{"rpm", "Speed", "rpm", 1, 100_000},
	{"torque", "Torque", "N·m", 1e-6, 1e7},
	{"pounds", "Torque", "lb·ft", 1e-6, 1e7},
	{"hertz", "Frequency", "Hz", 1, 1000},
	{"poles", "Poles", "", 2, 48},
	{"synchronous", "Synchronous speed", "rpm", 1, 100_000},
	{"slip", "Slip", "%", 0.01, 99},
	{"vars", "Reactive power", "var", 0.001, 1e9},
}

// Known is a figure: as it was given, or reckoned by a sum.
type Known struct {
	Quantity
	Value float64 `json:"value"`
	Given bool    `json:"given"`
	Sum   string  `json:"sum"` // in letters and in figures, "" for one that was given
}

// Answer is all figures that are known, in their order, and where those that were given contradict one another.
type Answer struct {
	Known   []Known  `json:"known" nullable:"false"`
	Against []string `json:"against" nullable:"false"`
}

// relation is one figure as it follows from others, in letters and as a sum.
type relation struct {
	of   string
	from []string
	sum  string
	work func(v map[string]float64) float64
}

// phaseFactor is √3 of three lines, and 1 of one phase.
func phaseFactor(phases int) float64 {
	if phases == 3 {
		return math.Sqrt(3)
	}
	return 1
}

// product is what a figure is of a factor and others multiplied, and each of the others the other way round.
func product(of string, letters string, times float64, factors ...string) (list []relation) {
	list = append(list, relation{of, factors, letters, func(v map[string]float64) float64 {
		result := times
		for _, f := range factors {
			result *= v[f]
		}
		return result
	}})
	for i, wanted := range factors {
		var others []string
		for k, f := range factors {
			if k != i {
				others = append(others, f)
			}
		}
		list = append(
			list,
			relation{wanted, append([]string{of}, others...), letters, func(v map[string]float64) float64 {
				result := v[of] / times
				for _, f := range others {
					result /= v[f]
				}
				return result
			}},
		)
	}
	return list
}

// relations are the sums of a motor (definitions of power, power factor, efficiency, torque and slip; 746 W is a
// horsepower as NEMA MG 1 has it, 745.7 exactly).
func relations(phases int) (list []relation) {
	root := map[bool]string{true: "√3 · ", false: ""}[phases == 3]
	add := func(more []relation) { list = append(list, more...) }
	add(product("va", "VA = "+root+"V · A", phaseFactor(phases), "volts", "amps"))
	add(product("input", "W = VA · pf", 1, "va", "power_factor"))
	add(product("output", "W out = W in · eff / 100", 0.01, "input", "efficiency"))
	add(product("output", "W = 745.7 · hp", quantity.WattsPerHorsepower, "horsepower"))
	add(product("output", "W = N·m · rpm · π / 30", math.Pi/30, "torque", "rpm"))
	add(product("torque", "N·m = 1.3558 · lb·ft", 1.3558179483, "pounds"))
	list = append(
		list,
		relation{
			"synchronous",
			[]string{"hertz", "poles"},
			"rpm = 120 · Hz / poles",
			func(v map[string]float64) float64 {
				return 120 * v["hertz"] / v["poles"]
			},
		},
		relation{
			"hertz",
			[]string{"synchronous", "poles"},
			"Hz = rpm · poles / 120",
			func(v map[string]float64) float64 {
				return v["synchronous"] * v["poles"] / 120
			},
		},
		relation{"poles", []string{"hertz", "rpm"}, "poles = 120 · Hz / rpm, to the next even number below",
			func(v map[string]float64) float64 { return 2 * math.Max(1, math.Floor(60*v["hertz"]/v["rpm"])) }},
		relation{"rpm", []string{"synchronous", "slip"}, "rpm = synchronous · (1 − slip / 100)",
			func(v map[string]float64) float64 { return v["synchronous"] * (1 - v["slip"]/100) }},
		relation{"slip", []string{"synchronous", "rpm"}, "slip = (synchronous − rpm) / synchronous",
			func(v map[string]float64) float64 { return 100 * (1 - v["rpm"]/v["synchronous"]) }},
		relation{"vars", []string{"va", "input"}, "var = √(VA² − W²)", func(v map[string]float64) float64 {
			return math.Sqrt(math.Max(0, v["va"]*v["va"]-v["input"]*v["input"]))
		}},
		relation{"va", []string{"vars", "input"}, "VA = √(W² + var²)", func(v map[string]float64) float64 {
			return math.Hypot(v["vars"], v["input"])
		}},
	)
	return list
}

// disagrees is from which share on two ways to one figure contradict each other: more than rounding of plates.
const disagrees = 0.02

// Check says what is wrong with figures that are given on so many phases.
func Check(phases int, given map[string]float64) (problems rule.Problems) {
	if phases != 1 && phases != 3 {
		problems.Say("phases", "a motor has one phase or three")
	}
	for name, value := range given {
		q := named(name)
		switch {
		case q == nil:
			problems.Say("given."+name, "there is no quantity %q", name)
		case !(value >= q.Least && value <= q.Most):
			problems.Say("given."+name, "%s lies between %s and %s %s", q.Title, quantity.Figures(q.Least, 3),
				quantity.Figures(q.Most, 3), q.Unit)
		}
	}
	return problems
}

func named(name string) *Quantity {
	for i := range Quantities {
		if Quantities[i].Name == name {
			return &Quantities[i]
		}
	}
	return nil
}

// Work reckons all that follows from what is given, which Check finds nothing wrong with.
func Work(phases int, given map[string]float64) Answer {
	v, sums := map[string]float64{}, map[string]string{}
	for name, value := range given {
		v[name] = value
	}
	a := Answer{Known: []Known{}, Against: []string{}}
	list := relations(phases)
	for again := true; again; {
		again = false
		for i := range list {
			r := &list[i]
			if _, there := v[r.of]; there || !r.known(v) {
				continue
			}
			value := r.work(v)
			if q := named(r.of); value < q.Least || value > q.Most || math.IsNaN(value) {
				continue // such as a power factor over one, of figures that do not belong together
			}
			v[r.of], sums[r.of], again = value, r.words(v, value), true
		}
	}
	for i := range list {
		r := &list[i]
		is, there := v[r.of]
		if !there || !r.known(v) || r.of == "poles" {
			continue
		}
		if by := r.work(
			v,
		); math.Abs(by-is) > disagrees*math.Max(math.Abs(is), math.Abs(by)) &&
			i == first(list, r.sum) {
			q := named(r.of)
			a.Against = append(a.Against, fmt.Sprintf("%s: %s %s is there, and %s comes to %s.", q.Title,
				quantity.Figures(is, 4), q.Unit, r.sum, quantity.Figures(by, 4)))
		}
	}
	for _, q := range Quantities {
		if value, ok := v[q.Name]; ok {
			_, was := given[q.Name]
			a.Known = append(a.Known, Known{q, value, was, sums[q.Name]})
		}
	}
	return a
}

// first is the first relation of a sum: a contradiction is told once.
func first(list []relation, sum string) int {
	for i := range list {
		if list[i].sum == sum {
			return i
		}
	}
	return -1
}

func (r *relation) known(v map[string]float64) bool {
	for _, name := range r.from {
		if _, ok := v[name]; !ok {
			return false
		}
	}
	return true
}

// words are a relation in letters, with the figures that went in and what came out.
func (r *relation) words(v map[string]float64, value float64) string {
	text := r.sum
	for i, name := range r.from {
		sep := ", "
		if i == 0 {
			sep = "; with "
		}
		q := named(name)
		text += sep + quantity.Figures(v[name], 4)
		if q.Unit != "" {
			text += " " + q.Unit
		}
	}
	q := named(r.of)
	text += " it is " + quantity.Figures(value, 4)
	if q.Unit != "" {
		text += " " + q.Unit
	}
	return text
}
