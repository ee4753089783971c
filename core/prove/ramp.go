package prove

import (
	"fmt"
	"math"

	"brackmoor/core/learn"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Reduced is what a step of the first run reads at that brings an idler up at reduced volts, beside the states.
const Reduced = "reduced"

// ramp is an idler alone, without its capacitors, behind a variable transformer turned up in steps: what its two
// lines carry as it is foretold, and the amps at which to stop. It is spun up or started by its start part; one that
// does not turn takes the amps of a locked rotor, which are far past those.
func (p *proof) ramp() []rule.Row {
	list := []rule.Row{}
	if p.c.Idler == nil || p.learned == nil {
		return list
	}
	const stopTimes = 1.5 // of the highest that is foretold
	for _, percent := range []float64{25, 50, 75, 100} {
		s := learn.State{On: []string{}, Volts: percent}
		low, high := math.Inf(1), 0.0
		for _, line := range []string{"a", "b"} {
			value, sigma, ok := p.learned.Figure(&s, learn.Bank{}, learn.Place{Of: idlerID, At: line})
			if !ok {
				return list
			}
			low, high = math.Min(low, value-1.645*sigma), math.Max(high, value+1.645*sigma)
		}
		list = append(list, rule.Row{
			Label: fmt.Sprintf("%.0f %%, %.0f V", percent, percent/100*p.c.Supply.Volts),
			Value: quantity.Figures(math.Max(low, 0), 3) + "–" + quantity.Figures(high, 3) + " A",
			Remark: "stop at " + quantity.Figures(math.Max(high, math.Min(stopTimes*high, p.c.Idler.Amps)), 3) +
				" A",
		})
	}
	return list
}
