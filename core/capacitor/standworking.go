package capacitor

import (
	"fmt"

	"brackmoor/core/load"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

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

func (r *rig) overBreakawayWorking(a *Answer) rule.Working {
	l := &a.Live
	breakaway := rule.Term{
		Name:   "breakaway",
		Value:  100 * r.in.Load.BreakawayShare,
		Unit:   "%",
		Origin: rule.Assumed,
		Source: load.Source,
	}
	return rule.Working{
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
						Source: r.in.Plate.Class,
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
	}
}

func cutOutWorking(a *Answer) rule.Working {
	l := &a.Live
	return rule.Working{
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
