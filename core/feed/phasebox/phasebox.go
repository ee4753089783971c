// Package phasebox feeds a motor from a box of switched capacitors that is set for its
// load.
package phasebox

import (
	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/feed/banked"
	"brackmoor/core/quantity"
)

// Way is the way itself. What nobody chose of it is set for full output.
var Way = &banked.Way{
	About: feed.Info{Name: "phase-box", Title: "Phase-shifting box", Family: "box", Order: 3, OwnBank: true},
	Boxed: true,
	Rig: func(in capacitor.Input) capacitor.Input {
		if in.RunMicrofarad == nil {
			full := in
			full.LoadShare, full.Load.Idles, full.RunMicrofarad, full.StartMicrofarad = new(1.0), false, nil, nil
			in.RunMicrofarad = new(capacitor.Solve(full).ModelRun)
		}
		return in
	},
	Parts: func(q *feed.Question, _ *capacitor.Live) float64 { return q.Prices.PhaseBox },
	Extra: func(q *feed.Question, o *feed.Outline) {
		o.Keep("box_amps", "box for", q.Plate.Amps.Value, "A")
	},
	Notes: func(q *feed.Question, _ *capacitor.Live, turns feed.Note) []feed.Note {
		return []feed.Note{turns, {
			Title: "May it stay in circuit", Value: "yes",
			Says: "its run capacitors stay in; they are set for load, so it must not be left idling where the idle " +
				"line below is not accepted",
		}, {
			Title: "Rated range must hold", Value: quantity.Figures(q.Plate.Amps.Value, 3) + " A",
			Says: "the motor’s plate amps, as joined",
		}}
	},
	Unsolved: []string{
		"set for load it is far out of balance idle", "its rated range must hold the motor's plate amps",
	},
	BaseHours: 2,
}

func init() { feed.Register(Way) }
