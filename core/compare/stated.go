package compare

import (
	"cmp"
	"fmt"

	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

const model = "machine model"

// stated is the arithmetic behind the figures of a route that no wish changes.
func stated(q *feed.Question, r *Route) []rule.Working {
	o := r.outline
	hertz, pairs := q.Supply.Hertz, q.Lines().Pairs()
	list := []rule.Working{}
	add := func(figure, title, shown, rules string, steps ...rule.Step) {
		list = append(
			list,
			rule.Working{
				Figure: r.figure(figure),
				Title:  r.Title + ": " + title,
				Shown:  shown,
				Rules:  []string{rules},
				Steps:  steps,
			},
		)
	}
	torqueBy, ampsBy := cmp.Or(o.TorqueBy, model), cmp.Or(o.AmpsBy, model)
	computed := func(name string, value float64, unit, source string) rule.Term {
		return rule.Term{Name: name, Value: value, Unit: unit, Origin: rule.Computed, Source: source}
	}
	breakaway := rule.Term{
		Name:   "breakaway",
		Value:  100 * q.Load.BreakawayShare,
		Unit:   "% of rated",
		Origin: rule.Assumed,
		Source: load.Source + ": " + q.Load.Title,
	}
	if r.Margin != nil {
		add(
			"start",
			"start",
			quantity.Figures(*r.Margin, 3),
			"route.hard-start",
			rule.Step{
				Formula: "torque at standstill over the load's breakaway torque",
				Terms: []rule.Term{
					computed("torque", 100**r.Margin*q.Load.BreakawayShare, "% of rated", torqueBy),
					breakaway,
				},
				Result: *r.Margin,
				Unit:   "×",
				Source: torqueBy,
			},
		)
	}
	if r.Seconds != nil {
		shaft := q.Shaft()
		step := rule.Step{
			Formula: "time to 90 % of synchronous speed, ∫ J/(T − T_load) dω",
			Terms: []rule.Term{
				{
					Name:   "rotor's inertia",
					Value:  shaft.RotorKgm2,
					Unit:   "kg·m²",
					Origin: rule.Assumed,
					Source: "by output and poles",
				},
				{
					Name:   "load's inertia",
					Value:  shaft.LoadKgm2,
					Unit:   "kg·m²",
					Origin: shaft.Origin,
					Source: shaft.Source,
				},
			},
			Result: *r.Seconds,
			Unit:   "s",
			Source: model,
		}
		if o.Ramp {
			step = rule.Step{
				Formula: "its usual ramp",
				Terms:   []rule.Term{},
				Result:  *r.Seconds,
				Unit:    "s",
				Source:  "shop practice",
			}
		}
		add("seconds", "time to speed", quantity.Figures(*r.Seconds, 2), "start.slow", step)
	}
	if r.UsableWatts != nil {
		add(
			"usable",
			"output left",
			quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], hertz),
			"capacitor.winding-at-full",
			rule.Step{
				Formula: "most shaft power, up to plate output, with no winding past plate amps",
				Terms:   []rule.Term{q.Plate.Output.Term("plate output", "W"), q.Plate.Amps.Term("plate amps", "A")},
				Result:  r.UsableWatts[1],
				Unit:    "W",
				Source:  model,
			},
		)
	}
	if r.Duty != nil {
		add(
			"duty",
			"output at its duty",
			r.Duty.Words(hertz),
			"heat.past-class",
			rule.Step{
				Formula: "most shaft power, up to a fifth over plate output, with the hottest winding within what " +
					"its insulation bears",
				Terms: []rule.Term{
					{Name: "on for", Value: q.Duty.OnMinutes, Unit: "min, 0 for all day", Origin: rule.Stated},
					{Name: "then off for", Value: q.Duty.OffMinutes, Unit: "min", Origin: rule.Stated},
					{
						Name:   "insulation bears",
						Value:  q.Thermal.LimitC,
						Unit:   "°C",
						Origin: rule.Assumed,
						Source: "IEC 60034-1, class " + q.Thermal.Class,
					},
				},
				Result: r.Duty.Watts,
				Unit:   "W",
				Source: "thermal model, two time constants, each a third either way; a rise that is assumed, a tenth",
			},
		)
	}
	shares := [3]float64{0, q.Share(), 1}
	each := func(figure, title, rules, unit string, t feed.Three, step func(i int, value float64) rule.Step) {
		var steps []rule.Step
		for i, value := range []*float64{t.Idle, t.Load, t.Full} {
			if value != nil {
				one := step(i, *value)
				one.Formula += ", at " + [3]string{"idle", fmt.Sprintf("%.0f %% load", 100*shares[1]), "full output"}[i]
				one.Result, one.Unit = *value, unit
				steps = append(steps, one)
			}
		}
		if steps != nil {
			add(figure, title, three(t), rules, steps...)
		}
	}
	rated := q.WindingAmps()
	each(
		"hottest",
		"hottest winding, idle · load · full",
		"capacitor.winding-at-load",
		"%",
		r.Hottest,
		func(_ int, percent float64) rule.Step {
			return rule.Step{
				Formula: "100 · amps in the hottest winding / its plate amps",
				Terms: []rule.Term{
					computed("hottest winding", percent/100*rated, "A", model),
					computed("plate amps of a winding", rated, "A", "plate amps, as joined"),
				},
				Source: model,
			}
		},
	)
	each(
		"apart",
		"legs apart, idle · load · full",
		"rotary.unbalance",
		"%",
		r.Unbalance,
		func(i int, _ float64) rule.Step {
			step := rule.Step{
				Formula: "largest deviation of the line-to-line volts from their mean, over the mean",
				Terms:   []rule.Term{},
				Source:  "NEMA MG 1, 14.36",
			}
			if v := o.Volts[i]; v != (network.Lines{}) {
				step.Terms = []rule.Term{
					computed(pairs[0], v.AB, "V", model),
					computed(pairs[1], v.BC, "V", model),
					computed(pairs[2], v.CA, "V", model),
				}
			}
			return step
		},
	)
	volts := rule.Term{
		Name:   "supply",
		Value:  q.Supply.Volts,
		Unit:   "V",
		Origin: rule.Stated,
		Source: "the shop's supply",
	}
	each(
		"amps",
		"supply amps, idle · load · full",
		"route.circuit",
		"A",
		r.SupplyAmps.Three,
		func(i int, _ float64) rule.Step {
			return rule.Step{
				Formula: "amps at the source",
				Terms: []rule.Term{
					computed("at the shaft", shares[i]*q.Watts(), "W", "share of plate output"),
					volts,
				},
				Source: ampsBy,
			}
		},
	)
	if amps := r.SupplyAmps.Starting; amps != nil {
		add(
			"starting",
			"starting amps",
			quantity.Figures(*amps, 3),
			"route.circuit",
			rule.Step{
				Formula: "most amps at the source while it starts",
				Terms:   []rule.Term{volts},
				Result:  *amps,
				Unit:    "A",
				Source:  ampsBy,
			},
		)
	}
	return list
}
