// Package static feeds a motor from a static converter: it starts on three legs and runs
// on two.
package static

import (
	"fmt"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/feed/banked"
	"brackmoor/core/rule"
)

// Way is the way itself.
var Way = &banked.Way{
	About: feed.Info{Name: "static", Title: "Static converter", Family: "box", Order: 2, OwnBank: true},
	Boxed: true,
	NoRun: true,
	Rig: func(in capacitor.Input) capacitor.Input {
		in.RunMicrofarad = new(0.0)
		return in
	},
	Parts: func(q *feed.Question, _ *capacitor.Live) float64 { return q.Prices.StaticBox },
	Stops: func(q *feed.Question) []rule.Verdict {
		if hard := banked.HardOnAStarter(q.Load); hard != nil {
			return []rule.Verdict{*hard}
		}
		return nil
	},
	Extra: func(q *feed.Question, o *feed.Outline) {
		if o.UsableWatts == nil || o.UsableWatts[1] < saidToLeave*q.Watts() {
			left := "none"
			if o.UsableWatts != nil {
				left = fmt.Sprintf("%.0f percent", 100*o.UsableWatts[1]/q.Watts())
			}
			o.Schools = append(o.Schools, fmt.Sprintf(
				"A static converter is said to leave two thirds of the output; the model finds %s within plate amps, "+
					"and %s in its duty by heat: short cuts and light starts are how such boxes last.",
				left,
				o.Duty.Words(q.Supply.Hertz),
			))
		}
	},
	Notes: func(_ *feed.Question, l *capacitor.Live, turns feed.Note) []feed.Note {
		if l.StartMicrofarad > 0 {
			turns.Says += fmt.Sprintf(
				"; slowed below about %.0f rpm its relay falls back and the start capacitors come "+
					"in again, under load, over and over: switch off",
				l.CutOutRPM,
			)
		}
		return []feed.Note{turns, {
			Title: "May it stay in circuit", Value: "yes, its start out",
			Says: "once up, the start capacitors must be out; a box whose relay chatters or stays in is disconnected " +
				"before anything burns",
		}}
	},
	Unsolved: []string{
		"it runs on two legs: much of its output is gone",
		"the third leg is left with what the motor makes of it",
		"starting again under load brings the start box back in",
	},
	BaseHours: 2,
}

// saidToLeave is the share of output under which the school is quoted beside the model.
const saidToLeave = 0.6

func init() { feed.Register(Way) }
