// Package runcap feeds a motor on a run capacitor alone.
package runcap

import (
	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/feed/banked"
	"brackmoor/core/feed/startrun"
)

// Way is the way itself. Beside the other ways it is the run capacitor of run and start
// capacitors, with nothing to start it.
var Way = &banked.Way{
	About:   feed.Info{Name: "run-capacitor", Title: "Run capacitor", Family: "capacitors", Order: 1},
	NoStart: true,
	Rig: func(in capacitor.Input) capacitor.Input {
		in.StartMicrofarad = new(0.0)
		return in
	},
	Outlined: func(w *banked.Way, q *feed.Question) capacitor.Answer {
		return w.Tried(q, startrun.Way.Solved(q).Live.RunMicrofarad, 0, q.Share())
	},
	Parts: func(q *feed.Question, l *capacitor.Live) float64 {
		return q.Prices.RunPerMicrofarad * l.RunMicrofarad
	},
	Unsolved:  banked.Unsolved,
	BaseHours: 2,
}

func init() { feed.Register(Way) }
