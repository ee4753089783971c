package compare

import (
	"fmt"

	"brackmoor/core/feed"
	"brackmoor/core/rule"
)

// costing is the arithmetic behind a route's cost, the only figure that wishes change.
func costing(q *feed.Question, r *Route) rule.Working {
	p, lost := q.Prices, r.outline.LossWatts
	source := "the shop's own prices"
	if p == feed.SamplePrices {
		source = "sample prices"
	}
	shop := func(name string, value float64, unit string) rule.Term {
		return rule.Term{Name: name, Value: value, Unit: unit, Origin: rule.Assumed, Source: source}
	}
	steps := []rule.Step{
		{Formula: "parts", Terms: []rule.Term{}, Result: r.Cost.Parts, Unit: "", Source: source},
		{
			Formula: "hours · price of an hour",
			Terms: []rule.Term{
				{
					Name:   "hours",
					Value:  r.Cost.Hours,
					Unit:   "h",
					Origin: rule.Assumed,
					Source: "shop practice, by the controls there are",
				},
				shop("an hour", p.Hour, ""),
			},
			Result: r.Cost.Hours * p.Hour,
			Unit:   "",
			Source: source,
		},
	}
	terms := []rule.Term{shop("years", p.Years, "")}
	if lost != nil {
		energy := *lost / 1000 * q.Matters.HoursPerDay * p.DaysPerYear * p.Tariff
		steps = append(
			steps,
			rule.Step{Formula: "lost watts · hours a day · days a year · tariff", Terms: []rule.Term{
				{Name: "lost at the load", Value: *lost, Unit: "W", Origin: rule.Computed, Source: model},
				{
					Name:   "hours a day",
					Value:  q.Matters.HoursPerDay,
					Unit:   "h",
					Origin: rule.Stated,
					Source: "what matters",
				},
				shop("days", p.DaysPerYear, ""),
				shop("tariff", p.Tariff, "a kWh"),
			}, Result: energy, Unit: "", Source: "definition of the kilowatt-hour"},
		)
	}
	steps = append(
		steps,
		rule.Step{
			Formula: "(parts + wiring) / years + energy",
			Terms:   terms,
			Result:  r.Cost.PerYear,
			Unit:    "a year",
			Source:  "shop practice",
		},
	)
	return rule.Working{
		Figure: r.figure("cost"),
		Title:  r.Title + ": cost",
		Shown:  fmt.Sprintf("%.0f a year", r.Cost.PerYear),
		Rules:  []string{},
		Steps:  steps,
	}
}
