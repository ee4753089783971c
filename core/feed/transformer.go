package feed

import (
	"fmt"
	"slices"

	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// fluxRules are what is said of the supply's volts, which a transformer sees to.
var fluxRules = []string{"supply.third-of-torque", "supply.under-flux", "supply.over-flux", "supply.far-over-flux"}

// Transformed keeps the transformer that a way stands behind, with its money, where there is
// one.
func Transformed(q *Question, o *Outline) {
	t := q.Stepped().Step
	if t == nil {
		return
	}
	o.Put("transformer_va", "autotransformer", t.VA, "VA")
	o.Put("transformer_ratio", "its ratio", t.Ratio(), "")
	o.Parts += q.Prices.TransformerPerKVA * t.OwnVA / 1000
	o.Unsolved = append(slices.Clone(o.Unsolved), "a transformer stands ahead of it, warm and humming while it is on")
}

// AgainstTransformer is what speaks against a way that stands behind a transformer.
func AgainstTransformer(q *Question) []Against {
	if q.Stepped().Step == nil {
		return nil
	}
	return []Against{{Weight: "transformer", Says: "a transformer must be found and stand ahead of it"}}
}

// Behind says what stands before a way across the lines of a supply whose volts do not suit the
// motor, and what must be minded of it.
func Behind(t *machine.Transformer, hertz float64) rule.Verdict {
	return rule.Speak(
		"route.transformer",
		rule.Numbers{"ratio": t.Ratio(), "volt_amperes": t.VA, "own_volt_amperes": t.OwnVA},
		fmt.Sprintf(
			"Or join it for the supply's volts, where its leads or its star point let it. Else taps of 5 percent "+
				"either way, fused on both sides, its inrush of ten times and more let through; capacitors, contactor "+
				"and overload for %.0f V.",
			t.ToVolts,
		),
		"All of it stands behind an autotransformer from %.0f to %.0f V at %s Hz, %s kVA passed on, %s kVA of its own.",
		t.FromVolts,
		t.ToVolts,
		quantity.Figures(hertz, 2),
		quantity.Figures(t.VA/1000, 3),
		quantity.Figures(t.OwnVA/1000, 2),
	)
}

// TransformerRow is the transformer among a way's figures.
func TransformerRow(t *machine.Transformer) rule.Row {
	return rule.Row{
		Label: "Autotransformer",
		Value: fmt.Sprintf("%.0f to %.0f V", t.FromVolts, t.ToVolts),
		Remark: fmt.Sprintf(
			"single-phase, ahead of it: ratio %s, %s kVA passed on, %s kVA of its own, taps of 5 percent; "+
				"figures here are with it. It makes no third leg",
			quantity.Figures(t.Ratio(), 3),
			quantity.Figures(t.VA/1000, 3),
			quantity.Figures(t.OwnVA/1000, 2),
		),
		Assumed: true,
	}
}
