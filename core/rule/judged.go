package rule

import "brackmoor/core/quantity"

// Judged is a figure to be expected in a state of work beside the limit by which it is
// accepted there, of the rule named. A figure without a rule is only told.
type Judged struct {
	State    string  `json:"state"`
	Figure   string  `json:"figure"`
	Value    float64 `json:"value"`
	Limit    float64 `json:"limit"`
	Least    bool    `json:"least"` // the limit is the least that is accepted, not the most
	Unit     string  `json:"unit"`
	Accepted bool    `json:"accepted"`
	Rule     string  `json:"rule"`
}

// rounding is how far past its limit, as a share of it, a figure is still accepted: what
// plates and meters round.
const rounding = 0.005

// AtMost judges a figure by a rule's upper limit.
func AtMost(state, figure string, value float64, id, limit, unit string) Judged {
	most := Limit(id, limit)
	return Judged{
		State:    state,
		Figure:   figure,
		Value:    value,
		Limit:    most,
		Unit:     unit,
		Accepted: value <= most*(1+rounding),
		Rule:     id,
	}
}

// AtLeast judges a figure by a rule's lower limit.
func AtLeast(state, figure string, value float64, id, limit, unit string) Judged {
	least := Limit(id, limit)
	return Judged{
		State:    state,
		Figure:   figure,
		Value:    value,
		Limit:    least,
		Least:    true,
		Unit:     unit,
		Accepted: value >= least*(1-rounding),
		Rule:     id,
	}
}

// Words are what is expected and what is accepted, in print.
func (j Judged) Words() (expected, accepted string) {
	sign := "≤ "
	if j.Least {
		sign = "≥ "
	}
	return quantity.Figures(j.Value, 3) + " " + j.Unit, sign + quantity.Figures(j.Limit, 3) + " " + j.Unit
}
