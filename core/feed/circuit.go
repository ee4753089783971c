package feed

import (
	"fmt"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// Circuit is what a way is fed by, sized: amps at full output, or at the load where full output is
// not to be had, and at a start, 0 where that is not known; what its conductors carry, by a code's
// own rule where By is not empty; its breaker with the quickest trip that a start does not set
// off, 0 where no standard one is large enough.
type Circuit struct {
	Amps, Starting, Carry float64
	By                    string
	Breaker               float64
	Curve                 string
	Most                  float64 // of a breaker, for a start that trips that one, by a code; 0 for none
	Run                   supply.Run
	Sized                 bool // there is such a conductor
}

// CircuitOf sizes the circuit of a way; ok is false for one whose amps are not known.
func CircuitOf(q *Question, o *Outline) (c Circuit, ok bool) {
	amps := o.SupplyAmps.Full
	if amps == nil {
		amps = o.SupplyAmps.Load
	}
	if amps == nil {
		return c, false
	}
	c.Amps, c.Most = *amps, o.MostBreaker
	if o.SupplyAmps.Starting != nil {
		c.Starting = *o.SupplyAmps.Starting
	}
	hertz := q.Supply.Hertz
	carry, rating, found := q.Code().Feed(c.Amps, o.Code)
	if c.Carry = carry; o.Code.Amps > 0 && carry == o.Code.Amps {
		c.By = o.Code.By
	}
	if found {
		c.Breaker = rating
		if c.Starting > 0 {
			c.Curve = supply.Curve(rating, c.Starting, hertz)
		}
	}
	c.Run, c.Sized = q.Code().Over(q.Matters.RunMetre, carry, q.Supply.Volts, [2]float64{c.Amps, c.Starting},
		[2]float64{rule.Limit(longRun, "most_running_percent"), rule.Limit(longRun, "most_starting_percent")})
	return c, true
}

const longRun = "route.long-run"

// Copper words the conductor, "" where there is none.
func (c Circuit) Copper() string {
	switch {
	case !c.Sized:
		return ""
	case c.Run.By != "":
		return fmt.Sprintf("%s copper, raised from %s by its run", c.Run.Size, c.Run.By)
	}
	return c.Run.Size + " copper"
}

// Verdicts are those of its run.
func (c Circuit) Verdicts() []rule.Verdict {
	if !c.Sized || !c.Run.Poor {
		return nil
	}
	return []rule.Verdict{rule.Speak(longRun,
		rule.Numbers{"running_percent": c.Run.Running, "starting_percent": c.Run.Starting},
		"A panel nearer to the machine, higher volts on the run, or a start that draws less.",
		"Over its run %s lose %.1f percent of the volts running and %.0f at a start.", c.Copper(), c.Run.Running,
		c.Run.Starting)}
}

// Section is the circuit on paper.
func (c Circuit) Section(q *Question) rule.Section {
	s := rule.Section{Title: "Its circuit", Rows: []rule.Row{}}
	add := func(label, value, remark string) {
		s.Rows = append(s.Rows, rule.Row{Label: label, Value: value, Remark: remark})
	}
	if c.Breaker > 0 {
		remark := "two-pole"
		switch {
		case c.Most > 0:
			remark += fmt.Sprintf("; one that a start trips may be up to %.0f A: NEC 430.52 (US, 2023)", c.Most)
		case c.Curve != "":
			remark += ", curve " + c.Curve + ", which its start does not trip: IEC 60898-1"
		case c.Starting > 0:
			remark += "; it must let a start of " + Figure(c.Starting, 2, "A") + " pass"
		}
		add("Breaker", Figure(c.Breaker, 3, "A"), remark)
	}
	if c.Sized {
		remark := "for " + Figure(c.Carry, 3, "A")
		if c.By != "" {
			remark += ", " + c.By
		}
		add("Conductors", c.Copper(), remark+"; laid and warm as their table has it, which the Rulebook shows")
	}
	if metres := q.Matters.RunMetre; metres > 0 && c.Sized {
		lost := fmt.Sprintf("%.1f\u00a0%% running", c.Run.Running)
		if c.Starting > 0 {
			lost += fmt.Sprintf(", %.1f\u00a0%% at a start", c.Run.Starting)
		}
		add("Lost on "+quantity.Run(metres, q.Supply.Hertz), lost, "of the supply’s volts, by the ohms of both lines")
	}
	add("Isolator", "lockable", "in sight of the machine; it opens both lines")
	return s
}

// CircuitLimit is the limit of route.circuit at a frequency: what share of its breaker a circuit carries for hours.
func CircuitLimit(hertz float64) string {
	if quantity.SixtyHertz(hertz) {
		return "most_percent"
	}
	return "most_percent_iec"
}
