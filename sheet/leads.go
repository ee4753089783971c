package sheet

import (
	"fmt"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/winding"
)

// withoutStops leaves out the stops, which stand beside the plate already.
func withoutStops(list []rule.Verdict) (rest []rule.Verdict) {
	for _, v := range list {
		if v.Severity != rule.Stop {
			rest = append(rest, v)
		}
	}
	return rest
}

// leadsSection lists what was found of the leads, and the readings it rests on.
func leadsSection(st study.Study, motor shop.Motor) rule.Section {
	v := st.Leads(motor)
	s := rule.Section{
		Title: "Leads",
		Rows:  []rule.Row{{Label: "Windings", Value: string(v.Winding), Remark: join(v.Groups)}},
	}
	add := func(label, value, remark string) {
		s.Rows = append(s.Rows, rule.Row{Label: label, Value: value, Remark: remark})
	}
	var marks []string
	for _, m := range v.Marks {
		if m.NEMA != "" {
			marks = append(marks, m.Lead+" is "+m.IEC+" · "+m.NEMA)
		}
	}
	if len(marks) > 0 {
		known := "starts and finishes known"
		if !v.Connectable {
			known = "not to be joined yet"
		}
		add("Marks", known, strings.Join(marks, "; "))
	}
	if v.CoilOhm > 0 {
		ohms := quantity.Figures(v.CoilOhm, 3) + " Ω a winding at 20 °C"
		if v.DeltaOhm > 0 {
			ohms = quantity.Figures(v.CoilOhm, 3) + " Ω if wye, " + quantity.Figures(v.DeltaOhm, 3) + " Ω if delta"
		}
		add("Resistance", ohms, "unequal by "+quantity.Fixed(v.Unequal, 1)+" %")
	}
	if v.StatorOhm > 0 {
		add(
			"Stator, as the model has it",
			quantity.Figures(v.StatorOhm, 3)+" Ω",
			"measured; hot, a phase of the wye at the terminals",
		)
	}
	for _, c := range v.Changes {
		add(c.What, c.From+" → "+c.To, c.Do)
	}
	for _, item := range winding.Conditions {
		state := map[string]string{"good": "good", "bad": "NOT GOOD"}[motor.Leads.Condition[item.Name]]
		if state == "" {
			state = "not looked at"
		}
		add("Condition: "+item.Name, state, item.Says)
	}
	var readings []string
	for _, e := range motor.Leads.Readings {
		if text := strings.TrimSpace(e.Text); text != "" {
			readings = append(readings, e.A+"–"+e.B+" "+text)
		}
	}
	for _, k := range motor.Leads.Polarity {
		readings = append(readings, k.Driven[0]+"–"+k.Driven[1]+" on "+k.Sensed[0]+"–"+k.Sensed[1]+": "+k.Text)
	}
	if len(readings) > 0 {
		add("Readings", "", strings.Join(readings, "; "))
	}
	return s
}

func join(groups [][]string) string {
	var parts []string
	for _, g := range groups {
		parts = append(parts, strings.Join(g, "–"))
	}
	return strings.Join(parts, ", ")
}

// LeadsHeadline is the Leads step in a handful of figures.
func LeadsHeadline(v *study.LeadsView) []rule.Row {
	rows := []rule.Row{
		{Label: "Windings", Value: string(v.Winding), Remark: "count the leads, then measure between them"},
	}
	if len(v.Marks) > 0 {
		rows[0].Remark = fmt.Sprintf("%d leads, %d readings of at most %d", len(v.Marks), v.Asked, v.Bound)
		if v.Next != nil {
			rows[0].Value = "unsettled"
		}
	}
	ends := rule.Row{Label: "Ends", Value: "unknown", Remark: "starts and finishes come after the windings"}
	switch {
	case v.Connectable:
		ends.Value, ends.Remark = "known", "every lead has its mark"
	case v.NextPolarity != nil:
		ends.Remark = fmt.Sprintf("at most %d polarity readings", v.PolarityBound)
	case v.Next == nil && len(v.Marks) > 0:
		ends.Remark = "a stop is in the way"
	}
	ohms := rule.Row{Label: "A winding at 20 °C", Value: "–", Remark: "not measured"}
	if v.CoilOhm > 0 {
		ohms.Value, ohms.Remark = quantity.Figures(v.CoilOhm, 3)+" Ω", "unequal by "+quantity.Fixed(v.Unequal, 1)+" %"
		if v.DeltaOhm > 0 {
			ohms.Remark = "if wye; " + quantity.Figures(v.DeltaOhm, 3) + " Ω if delta; " + ohms.Remark
		}
	}
	join := rule.Row{Label: "Join", Value: "–", Remark: "the plate's volts and the leads decide"}
	for _, w := range v.Ways {
		if w.Chosen {
			join.Value, join.Remark = w.Name, fmt.Sprintf(
				"for %s V: %.0f %% of rated flux here",
				quantity.Figures(w.Volts, 4),
				w.FluxPercent,
			)
		}
	}
	condition := rule.Row{Label: "Condition", Value: "open", Remark: "look before anything is joined"}
	if v.Good {
		condition.Value, condition.Remark = "good", "all looked at"
	}
	for _, verdict := range v.Verdicts {
		if verdict.Rule == "leads.condition" {
			condition.Value, condition.Remark = "stop", verdict.Says
		}
	}
	return append(rows, ends, ohms, join, condition)
}
