// Package banked is what ways of capacitors on the motor alone have in common: a run
// capacitor, with a start capacitor, or the same in a box with three terminals. Each of
// them is this family with other parts left out.
package banked

import (
	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Way is one way of the family.
type Way struct {
	About feed.Info
	// Rig puts the motor as this way has it into the input; nil leaves it.
	Rig func(in capacitor.Input) capacitor.Input
	// Outlined is the answer for a comparison, where that is not the whole one.
	Outlined func(w *Way, q *feed.Question) capacitor.Answer
	// Boxed says that the capacitors are in a box with three terminals for the motor, NoRun
	// and NoStart that no such capacitor is to be chosen.
	Boxed, NoRun, NoStart bool
	// Parts is what it costs, in the shop's money.
	Parts func(q *feed.Question, l *capacitor.Live) float64
	// Stops are those of this way alone.
	Stops func(q *feed.Question) []rule.Verdict
	// Extra adds to the outline what this way alone takes.
	Extra func(q *feed.Question, o *feed.Outline)
	// Notes are what must be known of this box beside what all boxes have, given how far it
	// turns.
	Notes     func(q *feed.Question, l *capacitor.Live, turns feed.Note) []feed.Note
	Unsolved  []string
	BaseHours float64
}

// Info is what is known of it without a machine.
func (w *Way) Info() feed.Info { return w.About }

// input is the motor as this way has it, worked out once for a question, as long as somebody
// waits.
func (w *Way) input(q *feed.Question) capacitor.Input {
	in := feed.Shared(q, "rigged "+w.About.Name, func() capacitor.Input {
		bank := q.For(w).Bank
		in := capacitor.Input{
			Machine: q.Stepped(), RunMicrofarad: bank.RunMicrofarad, StartMicrofarad: bank.StartMicrofarad,
			TowardsB: bank.Reversed, Figures: q.Figures,
		}
		if w.Rig == nil {
			return in
		}
		return w.Rig(in)
	})
	in.Stop = q.Stop
	return in
}

// Solved is the whole answer, worked out once for a question.
func (w *Way) Solved(q *feed.Question) *capacitor.Answer {
	return feed.Shared(q, "banked "+w.About.Name, func() *capacitor.Answer {
		a := capacitor.Solve(w.input(q))
		return &a
	})
}

// Tried is the motor on capacitors and at a load that are all given.
func (w *Way) Tried(q *feed.Question, run, start, share float64) capacitor.Answer {
	return capacitor.Try(w.input(q), run, start, share)
}

// verdicts are those of the answer and of the way.
func (w *Way) verdicts(q *feed.Question, l *capacitor.Live) []rule.Verdict {
	if w.Stops == nil {
		return l.Verdicts
	}
	own := w.Stops(q)
	if len(own) == 0 {
		return l.Verdicts
	}
	return rule.Sorted(append(append([]rule.Verdict{}, own...), l.Verdicts...))
}

// Outline is what it comes to beside the other ways.
func (w *Way) Outline(q *feed.Question) *feed.Outline {
	var a *capacitor.Answer
	if w.Outlined != nil {
		outlined := w.Outlined(w, q)
		a = &outlined
	} else {
		a = w.Solved(q)
	}
	l := &a.Live
	o := &feed.Outline{
		Starts: l.OverBreakaway >= rule.Limit("capacitor.no-start", "least_margin") && l.RunUp.Seconds != nil,
		Margin: &l.OverBreakaway, Seconds: l.RunUp.Seconds, Duty: l.Session.Usable,
		Verdicts: w.verdicts(q, l), Unsolved: w.Unsolved, Parts: w.Parts(q, l),
	}
	if u := l.Usable; u != nil {
		o.UsableWatts = &[2]float64{u.LowWatts, u.HighWatts}
	}
	for i, at := range []struct {
		state                *capacitor.State
		hottest, amps, apart **float64
	}{
		{&l.Idle, &o.Hottest.Idle, &o.SupplyAmps.Idle, &o.Unbalance.Idle},
		{&l.Load, &o.Hottest.Load, &o.SupplyAmps.Load, &o.Unbalance.Load},
		{&l.Full, &o.Hottest.Full, &o.SupplyAmps.Full, &o.Unbalance.Full},
	} {
		if at.state.Motor == network.Running {
			*at.hottest, *at.amps = &at.state.HottestPercent, &at.state.SupplyAmps
			*at.apart, o.Volts[i] = &at.state.UnbalancePercent, at.state.Volts
		}
	}
	o.SupplyAmps.Starting = &l.Standing.SupplyAmps
	if l.Load.Motor == network.Running {
		o.LossWatts = new(l.Load.SupplyWatts - l.Load.ShaftWatts)
	}
	o.Put("run_microfarad", "run capacitor", l.RunMicrofarad, "µF")
	o.Put("start_microfarad", "start capacitor", l.StartMicrofarad, "µF")
	o.Put("cut_out_rpm", "start out at", l.CutOutRPM, "rpm")
	o.Put("overload_amps", "overload", a.Overload.Amps, "A")
	if l.RunMicrofarad > 0 {
		o.Put("run_capacitor_volts", "run capacitor's rating", a.RunVolts.Rated, "V ac")
	}
	if l.StartMicrofarad > 0 {
		o.Put("start_capacitor_volts", "start capacitor's rating", a.StartVolts.Rated, "V ac")
	}
	feed.Transformed(q, o)
	if w.Boxed {
		o.Code = q.Code().Converter(q.Watts(), q.Supply.Volts)
	}
	if w.Extra != nil {
		w.Extra(q, o)
	}
	return o
}

// Weigh has the transformer that it may stand behind against it.
func (w *Way) Weigh(q *feed.Question, _ *feed.Outline) []feed.Against {
	return feed.AgainstTransformer(q)
}

// Hours of wiring: every further motor wants its own leads.
func (w *Way) Hours(c feed.Controls) float64 { return w.BaseHours + 0.5*float64(c.Motors-1) }

// Cautions are those of capacitors.
func (w *Way) Cautions() []string {
	list := []string{"capacitor.charged", "always.made-leg", "always.made-leg-to-earth", "always.overload",
		"capacitor.kind", "always.old-gear"}
	if !w.NoStart {
		list = append(list, "capacitor.welded-start")
	}
	if w.Boxed {
		list = append(list, "always.control-transformer")
	}
	return list
}

// Reversal is by the capacitors' lead, or behind the box.
func (w *Way) Reversal() string {
	if w.Boxed {
		return "exchange two of the motor's leads behind the converter, never the made leg alone at a control"
	}
	return "move the capacitors' lead from one supply line to the other; exchanging the supply lines changes nothing"
}

// Unsolved are what capacitors on the motor leave unsolved.
var Unsolved = []string{"the legs are balanced at one load only", "each motor wants a bank of its own"}
