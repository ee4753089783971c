package capacitor

import (
	"fmt"
	"math"

	"brackmoor/core/load"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

const model = "machine model: equivalent circuit with two cages in a network of two lines and a made leg"

func computed(name string, value float64, unit string) rule.Term {
	return rule.Term{Name: name, Value: value, Unit: unit, Origin: rule.Computed, Source: model}
}

func chosen(name string, value float64, unit string) rule.Term {
	return rule.Term{Name: name, Value: value, Unit: unit, Origin: rule.Stated, Source: "chosen"}
}

func (r *rig) loadTerm(share float64) rule.Term {
	origin, source := rule.Assumed, load.Source+": "+r.in.Load.Title
	if r.in.LoadShare != nil {
		origin, source = rule.Stated, "chosen"
	}
	return rule.Term{Name: "load", Value: 100 * share, Unit: "%", Origin: origin, Source: source}
}

// circuitTerms are the plate figures on which the circuit, and so every figure
// of the model, rests.
func (r *rig) circuitTerms() []rule.Term {
	p := r.in.Plate
	return []rule.Term{p.Output.Term("output", "W"), p.Volts.Term("plate volts", "V"), p.Amps.Term("plate amps", "A"),
		p.RPM.Term("rpm", "rpm"), p.PowerFactor.Term("power factor", ""), p.Efficiency.Term("efficiency", ""),
		{Name: "winding amps", Value: r.windings, Unit: "A", Origin: p.ConnectionBy, Source: "joined " + p.Connection}}
}

func byHand(microfarad float64) rule.Step {
	return rule.Step{
		Formula: "chosen by hand in its place",
		Terms:   []rule.Term{},
		Result:  microfarad,
		Unit:    "µF",
		Source:  "chosen",
	}
}

// workings are the arithmetic behind the headline figures.
func (r *rig) workings(a *Answer, target float64) []rule.Working {
	list := []rule.Working{
		r.runWorking(a, target), r.startWorking(a), r.ampsWorking(), r.fluxWorking(a), r.overBreakawayWorking(a),
	}
	if a.Live.CutOutRPM > 0 {
		list = append(list, cutOutWorking(a))
	}
	list = append(list, r.usableWorking(a), r.voltsWorking(a), r.directionWorking(a))
	list = append(list, r.startWorkings(&a.Live)...)
	for i, b := range a.RunBleeds {
		title := fmt.Sprintf("Bleed on the %s µF run capacitor", quantity.Figures(a.RunParts.Parts[i], 3))
		list = append(list, bleedWorking(fmt.Sprintf("bleed.run.%d", i), title, b))
	}
	for i, b := range a.StartBleeds {
		part := a.StartParts[i]
		title := fmt.Sprintf("Bleed on the %.0f–%.0f µF start capacitor", part.Low, part.High)
		list = append(list, bleedWorking(fmt.Sprintf("bleed.start.%d", i), title, b))
	}
	return append(list, r.overloadWorking(a), r.feedWorking(a))
}

// candidateSteps are what the model says of a candidate: volts, amps in percent
// of the plate's, and the capacitor, at idle, at the load and at full output,
// and its torque at standstill.
func (r *rig) candidateSteps(c Candidate) []rule.Step {
	lines := r.lines()
	names, pairs := lines.Windings(r.in.Plate.Delta), lines.Pairs()
	var steps []rule.Step
	for _, at := range []struct {
		title string
		state State
	}{{"idle", c.Idle}, {fmt.Sprintf("%.0f %% load", 100*c.Load.LoadShare), c.Load}, {"full output", c.Full}} {
		s := at.state
		terms := []rule.Term{
			computed("volts "+pairs[0], s.Volts.AB, "V"),
			computed("volts "+pairs[1], s.Volts.BC, "V"),
			computed("volts "+pairs[2], s.Volts.CA, "V"),
			computed("line "+lines.A, s.LinePercent.A, "% of plate amps"),
			computed("line "+lines.B, s.LinePercent.B, "% of plate amps"),
			computed(lines.Word("c"), s.LinePercent.C, "% of plate amps"),
		}
		for i, percent := range s.WindingPercent {
			terms = append(terms, computed("winding "+names[i], percent, "% of its rated amps"))
		}
		terms = append(terms, computed("capacitor", s.CapacitorVolts, "V"), computed("capacitor", s.CapacitorAmps, "A"))
		for i := range terms {
			terms[i].Source = ""
		}
		steps = append(
			steps,
			rule.Step{
				Formula: "at " + at.title + " the motor is " + s.Motor + "; its hottest winding",
				Terms:   terms,
				Result:  s.HottestPercent,
				Unit:    "%",
				Source:  model,
			},
		)
	}
	breakaway := r.in.Load.BreakawayShare
	return append(
		steps,
		rule.Step{
			Formula: "torque at standstill on this capacitor alone, over the load's breakaway torque",
			Terms: []rule.Term{
				computed("torque", 100*c.Start, "% of rated"),
				{
					Name:   "breakaway",
					Value:  100 * breakaway,
					Unit:   "% of rated",
					Origin: rule.Assumed,
					Source: load.Source,
				},
			},
			Result: c.Start / breakaway,
			Unit:   "×",
			Source: model,
		},
	)
}

// ampsWorking goes from output to input to amps, so that nobody takes output
// for input.
func (r *rig) ampsWorking() rule.Working {
	p := r.in.Plate
	input := p.Output.Value / p.Efficiency.Value
	apparent := input / p.PowerFactor.Value
	return rule.Working{
		Figure: "plate-amps",
		Title:  "From output to plate amps",
		Shown:  quantity.Figures(p.Amps.Value, 3) + " A",
		Rules:  []string{"plate.amps-against-output"},
		Steps: []rule.Step{
			{
				Formula: "input = output / efficiency",
				Terms:   []rule.Term{p.Output.Term("output", "W"), p.Efficiency.Term("efficiency", "")},
				Result:  input,
				Unit:    "W",
				Source:  "definition of efficiency",
			},
			{
				Formula: "apparent power = input / power factor",
				Terms:   []rule.Term{p.PowerFactor.Term("power factor", "")},
				Result:  apparent,
				Unit:    "VA",
				Source:  "definition of power factor",
			},
			{
				Formula: "amps = apparent power / (√3 · volts)",
				Terms:   []rule.Term{p.Volts.Term("plate volts", "V")},
				Result:  apparent / (math.Sqrt(3) * p.Volts.Value),
				Unit:    "A",
				Source:  "three-phase power",
			},
		},
	}
}

func (r *rig) fluxWorking(a *Answer) rule.Working {
	p := r.in.Plate
	return rule.Working{
		Figure: "flux",
		Title:  "Flux on this supply",
		Shown:  fmt.Sprintf("%.0f %%", a.FluxPercent),
		Rules:  []string{"supply.over-flux", "supply.under-flux"},
		Steps: []rule.Step{
			{
				Formula: "flux = (supply V / supply Hz) / (plate V / plate Hz)",
				Terms: append(
					r.in.supplyTerms(),
					p.Volts.Term("plate volts", "V"),
					p.Hertz.Term("plate hertz", "Hz"),
				),
				Result: a.FluxPercent,
				Unit:   "%",
				Source: "flux goes as volts per hertz, Fitzgerald, Electric Machinery",
			},
		},
	}
}

func (r *rig) overloadWorking(a *Answer) rule.Working {
	o, p := a.Overload, r.in.Plate
	return rule.Working{
		Figure: "overload",
		Title:  "Overload setting",
		Shown:  quantity.Figures(o.Amps, 3) + " A",
		Rules:  []string{"always.overload"},
		Steps: []rule.Step{
			{
				Formula: "plate amps, or the line amps at which the hottest winding reaches plate amps, " +
					"whichever is less",
				Terms: []rule.Term{p.Amps.Term("plate amps", "A"),
					computed("limit: "+o.LimitedBy, o.Amps, "A")},
				Result: o.Amps,
				Unit:   "A",
				Source: model,
			},
			{
				Formula: "ceiling: plate amps · code percent",
				Terms: []rule.Term{
					p.Amps.Term("plate amps", "A"),
					{
						Name:   "code percent",
						Value:  o.Percent,
						Unit:   "%",
						Origin: p.ServiceFactor.Origin,
						Source: o.By,
					},
				},
				Result: o.MostAmps,
				Unit:   "A",
				Source: o.By,
			},
		},
	}
}

func (r *rig) feedWorking(a *Answer) rule.Working {
	return rule.Working{
		Figure: "feed",
		Title:  "Amps from the supply",
		Shown:  fmt.Sprintf("%s A", quantity.Figures(a.Feed.LoadAmps, 3)),
		Rules:  []string{"always.feed"},
		Steps: []rule.Step{
			{
				Formula: "supply amps at idle",
				Terms:   r.circuitTerms(),
				Result:  a.Feed.IdleAmps,
				Unit:    "A",
				Source:  model,
			},
			{
				Formula: "supply amps at the load",
				Terms:   []rule.Term{r.loadTerm(a.Live.LoadShare)},
				Result:  a.Feed.LoadAmps,
				Unit:    "A",
				Source:  model,
			},
			{
				Formula: "supply amps at full plate output",
				Terms:   []rule.Term{},
				Result:  a.Feed.FullAmps,
				Unit:    "A",
				Source:  model,
			},
			{
				Formula: "supply amps at standstill, start capacitor in",
				Terms:   []rule.Term{},
				Result:  a.Feed.StartingAmps,
				Unit:    "A",
				Source:  model,
			},
		},
	}
}
