// Package startrun feeds a motor on a run and a start capacitor.
package startrun

import (
	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/feed/banked"
)

// Name of the way.
const Name = "start-run-capacitor"

// Way is the way itself.
var Way = &banked.Way{
	About: feed.Info{Name: Name, Title: "Run and start capacitors", Family: "capacitors", Order: 0},
	Parts: func(q *feed.Question, l *capacitor.Live) float64 {
		p := q.Prices
		return p.RunPerMicrofarad*l.RunMicrofarad + p.StartPerMicrofarad*l.StartMicrofarad + p.StartRelay
	},
	Unsolved:  banked.Unsolved,
	BaseHours: 3,
}

func init() { feed.Register(Way) }
