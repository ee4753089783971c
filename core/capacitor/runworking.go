package capacitor

import (
	"fmt"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

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
