package capacitor

import (
	"fmt"
	"math"

	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// School is one way in which practitioners size a capacitor, with what it
// gives here. Applies false means that it was not made for this case; Why then
// says so.
type School struct {
	Name       string       `json:"name"`
	Title      string       `json:"title"`
	Microfarad float64      `json:"microfarad"`
	Applies    bool         `json:"applies"`
	Why        string       `json:"why" told:"figures"`
	Source     string       `json:"source"`
	Working    rule.Working `json:"working"`
}

// ModelStart is the name of the model's own start capacitor among the schools'.
const ModelStart = "model-start"

const (
	schoolWatts  = 180.0 // below it no school was made
	baseVolts    = 230.0
	baseHertz    = 50.0
	perKilowatt  = 70.0 // µF at 230 V 50 Hz, delta
	perHorse     = 20.0 // µF, star below plate volts, taken at 230 V 50 Hz
	startPerHorL = 50.0
	startPerHorH = 100.0
)

// starFlux is the percent of rated flux below which a motor counts as star on
// low volts.
var starFlux = rule.Limit("supply.third-of-torque", "most_flux_percent")

// scale is how a rule made at 230 V 50 Hz goes to this supply: capacitance for
// the same motor goes as P/(V²·f).
func (in Input) scale() float64 {
	v := baseVolts / in.Supply.Volts
	return v * v * baseHertz / in.Supply.Hertz
}

func (in Input) output() rule.Term { return in.Plate.Output.Term("output", "W") }

func (in Input) supplyTerms() []rule.Term {
	return []rule.Term{{Name: "supply", Value: in.Supply.Volts, Unit: "V", Origin: rule.Stated, Source: "shop"},
		{Name: "frequency", Value: in.Supply.Hertz, Unit: "Hz", Origin: rule.Stated, Source: "shop"}}
}

// runSchools are the schools' run capacitors, in the order they are shown.
func (in Input) runSchools() []School {
	watts := in.Plate.Output.Value
	star := in.FluxPercent() <= starFlux
	small := watts < schoolWatts
	tooSmall := fmt.Sprintf("made for motors from %.0f W up", schoolWatts)

	kilowatt := School{
		Name:       "per-kilowatt",
		Title:      "70 µF a kilowatt",
		Source:     "DIN 48501 (withdrawn); " + rule.Get("capacitor.large").Source,
		Microfarad: perKilowatt * watts / 1000 * in.scale(),
		Applies:    !star && !small,
	}
	kilowatt.Working = in.schoolWorking(kilowatt, "C = 70 µF/kW · P · (230/V)² · (50/f)")
	if star {
		kilowatt.Why = "for full plate volts"
	}

	horse := School{Name: "per-horsepower-star", Title: "20 µF a hp, star on low volts", Source: "shop practice",
		Microfarad: perHorse * watts / quantity.WattsPerHorsepower * in.scale(), Applies: star && !small}
	horse.Working = in.schoolWorking(horse, "C = 20 µF/hp · P · (230/V)² · (50/f)")
	if !star {
		horse.Why = "joined for the supply's volts"
	}

	table := in.tableSchool()
	table.Applies = !star && !small
	if star {
		table.Why = "for full plate volts"
	}
	schools := []School{kilowatt, horse, table}
	if small {
		for i := range schools {
			schools[i].Why = tooSmall
		}
		schools = append(schools, in.ampsSchool())
	}
	return schools
}

func (in Input) schoolWorking(s School, formula string) rule.Working {
	return rule.Working{
		Figure: "school." + s.Name,
		Title:  s.Title,
		Shown:  quantity.Figures(s.Microfarad, 3) + " µF",
		Steps: []rule.Step{
			{
				Formula: formula,
				Terms:   append([]rule.Term{in.output()}, in.supplyTerms()...),
				Result:  s.Microfarad,
				Unit:    "µF",
				Source:  s.Source,
			},
		},
		Rules: []string{},
	}
}

// tableSchool is the value by output and load: the capacitor that supplies the
// made leg at the usual power factor of that output and load, the second
// capacitor that perfect balance would want being left out (Alger, Induction
// Machines, unbalanced operation); |Y| = S/V².
func (in Input) tableSchool() School {
	watts, poles := in.Plate.Output.Value, int(in.Plate.Poles.Value)
	share := in.Share()
	powerFactor, efficiency := plate.Usual(watts, poles)
	// Reactive power stays near its full-load value, so the power factor falls with load.
	full := watts / efficiency
	reactive := full * math.Tan(math.Acos(powerFactor)) * (0.75 + 0.25*share)
	active := full * (0.08 + 0.92*share)
	apparent := math.Hypot(active, reactive)
	phi := math.Atan2(reactive, active)
	microfarad, _ := network.BalancingMicrofarads(apparent/(in.Supply.Volts*in.Supply.Volts), phi, in.Supply.Hertz)
	s := School{Name: "table", Title: "Table by output and load", Microfarad: microfarad,
		Source: "balance condition on usual power factors; Alger, Induction Machines"}
	s.Working = rule.Working{
		Figure: "school.table",
		Title:  s.Title,
		Shown:  quantity.Figures(s.Microfarad, 3) + " µF",
		Rules:  []string{},
		Steps: []rule.Step{
			{
				Formula: "S = √(P² + Q²), P = P₁·(0.08 + 0.92·load), Q = Q₁·(0.75 + 0.25·load)",
				Result:  apparent,
				Unit:    "VA",
				Source:  "shop practice",
				Terms: []rule.Term{
					in.output(),
					{Name: "load", Value: share, Unit: "", Origin: rule.Assumed, Source: "kind of machine"},
					{
						Name:   "usual power factor",
						Value:  powerFactor,
						Origin: rule.Assumed,
						Source: "by output and poles",
					},
					{
						Name:   "usual efficiency",
						Value:  efficiency,
						Origin: rule.Assumed,
						Source: "by output and poles",
					},
				},
			},
			{
				Formula: "C = (2/3)·S/(V²·ω)·sin(120° − φ)",
				Terms:   in.supplyTerms(),
				Result:  s.Microfarad,
				Unit:    "µF",
				Source:  s.Source,
			},
		},
	}
	return s
}

// ampsSchool goes by plate amps where the motor is below every school's range:
// the one capacitor that balances a motor of power factor one half.
func (in Input) ampsSchool() School {
	omega := 2 * math.Pi * in.Supply.Hertz
	s := School{
		Name:       "plate-amps",
		Title:      "By plate amps",
		Applies:    true,
		Source:     "balance at power factor ½: C = I/(ω·V)",
		Microfarad: 1e6 * in.Plate.Amps.Value / (omega * in.Supply.Volts),
	}
	s.Working = in.schoolWorking(s, "C = I/(2π·f·V)")
	s.Working.Steps[0].Terms = append([]rule.Term{in.Plate.Amps.Term("plate amps", "A")}, in.supplyTerms()...)
	return s
}

// startSchools are the schools' start capacitors for a run capacitor.
func (in Input) startSchools(run float64) []School {
	hp := in.Plate.Output.Value / quantity.WattsPerHorsepower
	v := 240 / in.Supply.Volts
	scale := v * v * 60 / in.Supply.Hertz
	one := func(name, title string, value float64, formula string, terms ...rule.Term) School {
		s := School{Name: name, Title: title, Microfarad: value, Applies: true, Source: "shop practice"}
		s.Working = rule.Working{
			Figure: "school." + name,
			Title:  title,
			Shown:  quantity.Figures(value, 3) + " µF",
			Rules:  []string{},
			Steps:  []rule.Step{{Formula: formula, Terms: terms, Result: value, Unit: "µF", Source: s.Source}},
		}
		return s
	}
	runTerm := rule.Term{Name: "run capacitor", Value: run, Unit: "µF", Origin: rule.Computed}
	schools := []School{
		one("start-twice", "Twice the run capacitor", 2*run, "C = 2·C run", runTerm),
		one("start-thrice", "Three times the run capacitor", 3*run, "C = 3·C run", runTerm),
		one(
			"start-50-hp",
			"50 µF a horsepower",
			startPerHorL*hp*scale,
			"C = 50 µF/hp · P · (240/V)² · (60/f)",
			in.output(),
		),
		one(
			"start-100-hp",
			"100 µF a horsepower",
			startPerHorH*hp*scale,
			"C = 100 µF/hp · P · (240/V)² · (60/f)",
			in.output(),
		),
	}
	for i := range schools {
		switch {
		case i < 2 && run == 0:
			schools[i].Applies, schools[i].Why = false, "there is no run capacitor"
		case i >= 2 && in.Plate.Output.Value < schoolWatts:
			schools[i].Applies, schools[i].Why = false, fmt.Sprintf("made for motors from %.0f W up", schoolWatts)
		}
	}
	return schools
}

// Share is what a school says is left of plate output, beside the model.
type Share struct {
	Title string  `json:"title"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

// outputSchools are the shares of plate output that practitioners count on.
var outputSchools = []Share{
	{"Two thirds", 2.0 / 3, 2.0 / 3},
	{"Three quarters to four fifths", 0.75, 0.80},
	{"Half or less", 0, 0.5},
}
