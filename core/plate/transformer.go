package plate

import (
	"math"

	"brackmoor/core/rule"
)

// Step is a transformer that brings a supply's volts to a motor's: from and to in volts,
// the least volt-amperes with two windings, and those an autotransformer of that
// throughput needs of its own. It changes volts only; by itself it makes no third phase.
type Step struct {
	FromVolts float64 `json:"from_volts"`
	ToVolts   float64 `json:"to_volts"`
	VA        float64 `json:"va"`
	AutoVA    float64 `json:"auto_va"`
}

// spareVA is over the motor's own volt-amperes, for unbalance and so that a start, at six times
// them for seconds, is three times what it is rated for: shop practice.
const spareVA = 2.0

// TransformerFor is the transformer that gives a motor its rated volts per hertz on a
// supply, nil where the supply does by itself within the limits of MG 1 and IEC 60034-1.
func TransformerFor(f Filled, s Supply) *Step {
	if FluxSuits(FluxPercent(f, s)) {
		return nil
	}
	wanted := f.Volts.Value * s.Hertz / f.Hertz.Value
	t := Step{FromVolts: s.Volts, ToVolts: wanted, VA: spareVA * math.Sqrt(3) * f.Volts.Value * f.Amps.Value}
	t.AutoVA = t.VA * math.Abs(1-math.Min(wanted, s.Volts)/math.Max(wanted, s.Volts))
	return &t
}

// FluxSuits says whether a flux in percent of rated lies within the bounds that need no
// remedy.
func FluxSuits(percent float64) bool {
	return percent >= rule.Limit("supply.under-flux", "least_percent") &&
		percent <= rule.Limit("supply.over-flux", "most_percent")
}
