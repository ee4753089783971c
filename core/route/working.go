package route

import (
	"fmt"

	"brackmoor/core/load"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

const model = "machine model"

// workings are the arithmetic behind a route's figures.
func (in Input) workings(r *Route) []rule.Working {
	p, w := in.Prices, in.Wishes
	id := func(figure string) string { return "route." + r.Name + "." + figure }
	source := "the shop's own prices"
	if p == SamplePrices {
		source = "sample prices"
	}
	shop := func(name string, value float64, unit string) rule.Term {
		return rule.Term{Name: name, Value: value, Unit: unit, Origin: rule.Assumed, Source: source}
	}
	list := []rule.Working{}
	if r.Margin != nil {
		list = append(list, rule.Working{Figure: id("start"), Title: r.Title + ": start", Shown: fmt.Sprintf("%.1f ×", *r.Margin), Rules: []string{"route.hard-start"},
			Steps: []rule.Step{{Formula: "torque at standstill over the load's breakaway torque", Terms: []rule.Term{
				{Name: "torque", Value: 100 * *r.Margin * in.Capacitor.Load.BreakawayShare, Unit: "% of rated", Origin: rule.Computed, Source: startSource(r.Name)},
				{Name: "breakaway", Value: 100 * in.Capacitor.Load.BreakawayShare, Unit: "% of rated", Origin: rule.Assumed, Source: load.Source + ": " + in.Capacitor.Load.Title}}, Result: *r.Margin, Unit: "×", Source: startSource(r.Name)}}})
	}
	if r.UsableWatts != nil {
		list = append(list, rule.Working{Figure: id("usable"), Title: r.Title + ": output left", Shown: quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], in.Capacitor.Supply.Hertz), Rules: []string{"capacitor.winding-at-full"},
			Steps: []rule.Step{{Formula: "most shaft power, up to plate output, with no winding past plate amps", Terms: []rule.Term{in.Capacitor.Plate.Output.Term("plate output", "W"), in.Capacitor.Plate.Amps.Term("plate amps", "A")},
				Result: r.UsableWatts[1], Unit: "W", Source: model}}})
	}
	steps := []rule.Step{
		{Formula: "parts", Terms: []rule.Term{}, Result: r.Cost.Parts, Unit: "", Source: source},
		{Formula: "hours · price of an hour", Terms: []rule.Term{{Name: "hours", Value: r.Cost.Hours, Unit: "h", Origin: rule.Assumed, Source: "shop practice, by the controls there are"}, shop("an hour", p.Hour, "")}, Result: r.Cost.Hours * p.Hour, Unit: "", Source: source},
	}
	terms := []rule.Term{shop("years", p.Years, "")}
	if r.lossWatts != nil {
		energy := *r.lossWatts / 1000 * w.HoursPerDay * p.DaysPerYear * p.Tariff
		steps = append(steps, rule.Step{Formula: "lost watts · hours a day · days a year · tariff", Terms: []rule.Term{{Name: "lost at the load", Value: *r.lossWatts, Unit: "W", Origin: rule.Computed, Source: model},
			{Name: "hours a day", Value: w.HoursPerDay, Unit: "h", Origin: rule.Stated, Source: "what matters"}, shop("days", p.DaysPerYear, ""), shop("tariff", p.Tariff, "a kWh")}, Result: energy, Unit: "", Source: "definition of the kilowatt-hour"})
	}
	steps = append(steps, rule.Step{Formula: "(parts + wiring) / years + energy", Terms: terms, Result: r.Cost.PerYear, Unit: "a year", Source: "shop practice"})
	return append(list, rule.Working{Figure: id("cost"), Title: r.Title + ": cost", Shown: fmt.Sprintf("%.0f a year", r.Cost.PerYear), Rules: []string{}, Steps: steps})
}

// startSource says where a route's starting torque comes from.
func startSource(name string) string {
	switch name {
	case DriveSinglePhase, DriveDerated, DCBus:
		return "usual current limit of drives, 150 % of rated torque"
	case SinglePhaseMotor:
		return "usual starting torque of capacitor-start motors"
	}
	return model
}
