package feed

import (
	"strings"

	"brackmoor/core/machine"
	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// Three are figures at idle, at the load meant, and at full output; nil where a way has
// none.
type Three struct {
	Idle *float64 `json:"idle"`
	Load *float64 `json:"load"`
	Full *float64 `json:"full"`
}

// Amps are those of the supply.
type Amps struct {
	Three
	Starting *float64 `json:"starting"`
}

// Size is something that a way takes, under a plain name.
type Size struct {
	Name  string  `json:"name"`
	Title string  `json:"title"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// Outline is what a way comes to beside the others. Usable is shaft power in watts with no
// winding past plate amps, nil for none.
type Outline struct {
	Title       string // where it goes by another than the way's own
	Starts      bool
	Refused     string // why it is not to be had at all, in a sentence's middle
	Margin      *float64
	Seconds     *float64
	UsableWatts *[2]float64
	Duty        *machine.Usable
	Hottest     Three
	SupplyAmps  Amps
	Unbalance   Three
	Volts       [3]network.Lines // idle, at the load, at full output
	Sizes       []Size
	Code        supply.Carry // what a code has its conductors carry at least
	MostBreaker float64      // in amps, for a start that trips a smaller, by a code; 0 where it has none
	Parts       float64      // in the shop's money
	LossWatts   *float64
	Unsolved    []string
	Schools     []string // who sees it otherwise
	Verdicts    []rule.Verdict

	// Where torque, time and amps come from, for their workings; empty for the machine
	// model. Ramp says that the time is a setting.
	TorqueBy, AmpsBy string
	Ramp             bool
}

// Put keeps a size that there is.
func (o *Outline) Put(name, title string, value float64, unit string) {
	if value > 0 {
		o.Sizes = append(o.Sizes, Size{name, title, value, unit})
	}
}

// Keep keeps a size, nothing too.
func (o *Outline) Keep(name, title string, value float64, unit string) {
	o.Sizes = append(o.Sizes, Size{name, title, value, unit})
}

// Against is a reason against a way, by a weight of the Rulebook, and in words.
type Against struct {
	Weight string
	Says   string
}

// Refusal is the title of the last stop of an outline that does not start, among the rules
// whose ids begin so: what is told of a way that cannot be had. Empty for one that starts.
func Refusal(o *Outline, prefix string) (why string) {
	if o.Starts {
		return ""
	}
	for _, v := range o.Verdicts {
		if v.Severity == rule.Stop && strings.HasPrefix(v.Rule, prefix) {
			why = rule.InSentence(v.Title)
		}
	}
	return why
}
