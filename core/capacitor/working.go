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

func (r *rig) runWorking(a *Answer, target float64) rule.Working {
	share := r.in.Share()
	w := rule.Working{Figure: "run", Title: "Run capacitor", Shown: quantity.Figures(a.Live.RunMicrofarad, 3) + " µF",
		Rules: []string{"capacitor.winding-at-load", "capacitor.winding-at-idle", "capacitor.kind"}}
	idle := "no winding past plate amps at idle"
	if !a.ModelKept {
		idle = "no value keeps every winding within plate amps at idle, so the worse of idle and load is made least"
	}
	w.Steps = []rule.Step{
		{Formula: "least hottest winding at the load; " + idle, Terms: append(
			r.circuitTerms(),
			r.loadTerm(share),
			rule.Term{
				Name:   "supply",
				Value:  r.in.Supply.Volts,
				Unit:   "V",
				Origin: rule.Stated,
				Source: "shop",
			},
		), Result: target, Unit: "µF", Source: model},
		{
			Formula: "nearest of at most three standard values in parallel",
			Terms:   []rule.Term{computed("wanted", target, "µF")},
			Result:  a.ModelRun,
			Unit:    "µF",
			Source:  "IEC 60252-1 and trade series",
		},
	}
	if r.in.RunMicrofarad != nil {
		w.Steps = append(w.Steps, byHand(*r.in.RunMicrofarad))
	}
	return w
}

func (r *rig) startWorking(a *Answer) rule.Working {
	l := &a.Live
	w := rule.Working{Figure: "start", Title: "Start capacitor", Shown: quantity.Figures(l.StartMicrofarad, 3) + " µF",
		Rules: []string{"capacitor.no-start", "capacitor.hard-start"},
		Steps: []rule.Step{
			{
				Formula: "least C start with T standstill ≥ margin · T breakaway, else the C of most torque",
				Terms: append(
					r.circuitTerms(),
					rule.Term{
						Name:   "breakaway",
						Value:  100 * r.in.Load.BreakawayShare,
						Unit:   "% of rated torque",
						Origin: rule.Assumed,
						Source: load.Source + ": " + r.in.Load.Title,
					},
					rule.Term{
						Name:   "margin",
						Value:  startMargin,
						Origin: rule.Stated,
						Source: "rule capacitor.hard-start",
					},
					computed("run capacitor", l.RunMicrofarad, "µF"),
					rule.Term{
						Name:   "class factor",
						Value:  r.torqueFactor,
						Origin: rule.Assumed,
						Source: "torque brought down to the class minimum, " + r.in.Plate.Class,
					},
				),
				Result: a.ModelStart,
				Unit:   "µF",
				Source: model,
			},
			{
				Formula: "standard start capacitors by their lower mark",
				Terms:   []rule.Term{computed("parts", float64(len(a.StartParts)), "")},
				Result:  lowSum(a.StartParts),
				Unit:    "µF",
				Source:  "trade series",
			},
		}}
	if r.in.StartMicrofarad != nil {
		w.Steps = append(w.Steps, byHand(*r.in.StartMicrofarad))
	}
	return w
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

// workings are the arithmetic behind the headline figures.
func (r *rig) workings(a *Answer, target float64) []rule.Working {
	l, p := &a.Live, r.in.Plate
	list := []rule.Working{r.runWorking(a, target), r.startWorking(a), r.ampsWorking(), r.fluxWorking(a)}
	breakaway := rule.Term{
		Name:   "breakaway",
		Value:  100 * r.in.Load.BreakawayShare,
		Unit:   "%",
		Origin: rule.Assumed,
		Source: load.Source,
	}
	list = append(
		list,
		rule.Working{
			Figure: "starts",
			Title:  "Starts with",
			Shown:  fmt.Sprintf("%.1f ×", l.OverBreakaway),
			Rules:  []string{"capacitor.no-start", "capacitor.hard-start"},
			Steps: []rule.Step{
				{
					Formula: "torque at standstill with run and start capacitor, over rated torque",
					Terms: []rule.Term{
						chosen("run", l.RunMicrofarad, "µF"),
						chosen("start", l.StartMicrofarad, "µF"),
						computed(
							"circuit's torque",
							l.Standing.TorqueNm,
							"N·m",
						),
						{
							Name:   "rated torque",
							Value:  a.RatedNm,
							Unit:   "N·m",
							Origin: rule.Derived,
							Source: "output over rated speed",
						},
						{
							Name:   "class factor",
							Value:  a.TorqueCaution,
							Origin: rule.Assumed,
							Source: p.Class,
						},
					},
					Result: 100 * l.StandingShare,
					Unit:   "%",
					Source: model,
				},
				{
					Formula: "over the load's breakaway torque",
					Terms:   []rule.Term{breakaway},
					Result:  l.OverBreakaway,
					Unit:    "×",
					Source:  load.Source,
				},
			},
		},
	)
	if l.CutOutRPM > 0 {
		list = append(
			list,
			rule.Working{
				Figure: "cut-out",
				Title:  "Start capacitor out at",
				Shown:  fmt.Sprintf("%.0f rpm", l.CutOutRPM),
				Rules:  []string{"capacitor.start-pull-back"},
				Steps: []rule.Step{
					{
						Formula: "where the torque with it no longer exceeds that without it, at most 80 % of " +
							"synchronous speed",
						Terms: []rule.Term{
							computed("synchronous speed", a.SynchronousRPM, "rpm"),
							computed("share of it", l.CutOutRPM/a.SynchronousRPM, ""),
						},
						Result: l.CutOutRPM,
						Unit:   "rpm",
						Source: model + "; 75–80 %: shop practice",
					},
				},
			},
		)
	}
	list = append(list, r.usableWorking(a), r.voltsWorking(a), r.directionWorking(a))
	list = append(list, r.startWorkings(l)...)
	for i, b := range a.RunBleeds {
		list = append(
			list,
			bleedWorking(
				fmt.Sprintf("bleed.run.%d", i),
				fmt.Sprintf("Bleed on the %s µF run capacitor", quantity.Figures(a.RunParts.Parts[i], 3)),
				b,
			),
		)
	}
	for i, b := range a.StartBleeds {
		list = append(
			list,
			bleedWorking(
				fmt.Sprintf("bleed.start.%d", i),
				fmt.Sprintf("Bleed on the %.0f–%.0f µF start capacitor", a.StartParts[i].Low, a.StartParts[i].High),
				b,
			),
		)
	}
	o := a.Overload
	list = append(
		list,
		rule.Working{
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
		},
	)
	list = append(
		list,
		rule.Working{
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
					Terms:   []rule.Term{r.loadTerm(l.LoadShare)},
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
		},
	)
	return list
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

func (r *rig) usableWorking(a *Answer) rule.Working {
	l, p := &a.Live, r.in.Plate
	w := rule.Working{
		Figure: "usable",
		Title:  "Usable output",
		Shown:  "none",
		Rules:  []string{"capacitor.winding-at-full", "capacitor.no-usable-output"},
	}
	terms := append(r.circuitTerms(), chosen("run", l.RunMicrofarad, "µF"))
	low, high := 0.0, 0.0
	if l.Usable != nil {
		low, high = l.Usable.LowWatts, l.Usable.HighWatts
		w.Shown = r.power(high)
	}
	bare := 0.0
	if a.UsableBare != nil {
		bare = a.UsableBare.HighWatts
	}
	w.Steps = []rule.Step{
		{
			Formula: "least shaft power with every winding at or below plate amps",
			Terms:   terms,
			Result:  low,
			Unit:    "W",
			Source:  model,
		},
		{
			Formula: "most shaft power with every winding at or below plate amps, not above plate output",
			Terms:   []rule.Term{},
			Result:  high,
			Unit:    "W",
			Source:  model,
		},
		{
			Formula: "share of plate output",
			Terms:   []rule.Term{p.Output.Term("output", "W")},
			Result:  100 * high / p.Output.Value,
			Unit:    "%",
			Source:  model,
		},
		{
			Formula: "the same on two bare legs, without a run capacitor",
			Terms:   []rule.Term{},
			Result:  bare,
			Unit:    "W",
			Source:  model,
		},
	}
	return w
}

func (r *rig) voltsWorking(a *Answer) rule.Working {
	l, v := &a.Live, a.RunVolts
	return rule.Working{
		Figure: "capacitor-volts",
		Title:  "Capacitor volts",
		Shown:  fmt.Sprintf("%.0f V", v.Sees),
		Rules:  []string{"capacitor.volts"},
		Steps: []rule.Step{
			{
				Formula: "highest rms of idle, load and full load, and never less than the supply",
				Terms: []rule.Term{
					computed("idle", l.Idle.CapacitorVolts, "V"),
					computed("load", l.Load.CapacitorVolts, "V"),
					computed("full", l.Full.CapacitorVolts, "V"),
				},
				Result: v.Sees,
				Unit:   "V",
				Source: model,
			},
			{
				Formula: "needed = highest · supply tolerance · margin",
				Terms: []rule.Term{
					{Name: "supply tolerance", Value: supplyHigh, Origin: rule.Stated, Source: "rule capacitor.volts"},
					{
						Name:   "margin",
						Value:  ratingMargin,
						Origin: rule.Stated,
						Source: "rule capacitor.volts",
					},
				},
				Result: v.Needed,
				Unit:   "V",
				Source: "IEC 60252-1; margin: shop practice",
			},
			{
				Formula: "next standard rating",
				Terms: []rule.Term{
					{
						Name:   "school: twice the supply",
						Value:  v.Twice,
						Unit:   "V",
						Origin: rule.Derived,
						Source: "shop practice",
					},
				},
				Result: v.Rated,
				Unit:   "V",
				Source: "trade series",
			},
		},
	}
}

func bleedWorking(figure, title string, b Bleed) rule.Working {
	return rule.Working{
		Figure: figure,
		Title:  title,
		Shown:  quantity.Figures(b.Ohms/1000, 3) + " kΩ",
		Rules:  []string{"capacitor.charged"},
		Steps: []rule.Step{
			{
				Formula: "V₀ = √2 · highest rms, with the supply 10 % high",
				Terms:   []rule.Term{},
				Result:  b.PeakVolts,
				Unit:    "V",
				Source:  model,
			},
			{
				Formula: "R = t / (C · ln(V₀ / V safe)), next standard value below",
				Terms: []rule.Term{
					{Name: "t", Value: bleedSeconds, Unit: "s", Origin: rule.Stated, Source: "IEC 60204-1"},
					{
						Name:   "C at its upper tolerance",
						Value:  b.Microfarad,
						Unit:   "µF",
						Origin: rule.Derived,
						Source: "tolerance of the part",
					},
					{
						Name:   "V safe",
						Value:  b.SafeVolts,
						Unit:   "V",
						Origin: rule.Stated,
						Source: "NEC 460.6 (US, 2023)",
					},
				},
				Result: b.Ohms,
				Unit:   "Ω",
				Source: "discharge of a capacitor, V = V₀·e^(−t/RC)",
			},
			{
				Formula: "seconds to the safe volts with it",
				Terms:   []rule.Term{},
				Result:  b.Seconds,
				Unit:    "s",
				Source:  "discharge of a capacitor",
			},
			{
				Formula: "watts in it while the capacitor is in circuit",
				Terms:   []rule.Term{},
				Result:  b.Dissipation,
				Unit:    "W",
				Source:  "V²/R",
			},
		},
	}
}

func (r *rig) directionWorking(a *Answer) rule.Working {
	d := a.Direction
	return rule.Working{
		Figure: "direction",
		Title:  "Which way it turns",
		Shown:  d.Line + ": " + d.Sense,
		Rules:  []string{"always.reversal-stop"},
		Steps: []rule.Step{
			{
				Formula: "torque at standstill with the capacitors on " +
					"line " + d.Line + ", positive in the sense " + d.Sense,
				Terms: []rule.Term{
					chosen("run", a.Live.RunMicrofarad, "µF"),
					chosen("start", a.Live.StartMicrofarad, "µF"),
				},
				Result: a.Live.Standing.TorqueNm,
				Unit:   "N·m",
				Source: model,
			},
		},
	}
}
