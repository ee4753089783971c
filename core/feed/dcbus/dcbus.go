// Package dcbus feeds drives from a rectifier with a choke, by their direct-current bus.
package dcbus

import (
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/feed/driven"
)

// Way is the way itself.
var Way = &driven.Way{
	About: feed.Info{
		Name:       "dc-bus",
		Title:      "DC bus with a reactor",
		Family:     "drive",
		Order:      7,
		TurnsSpeed: true,
		OwnVolts:   true,
		Balanced:   true,
	},
	Of:         drive.Bus,
	Permit:     true,
	NotDoubled: true,
	Outlined: func(q *feed.Question, a *drive.Answer, outline driven.Outliner) *feed.Outline {
		o, front, added := outline(a.OnePhaseWatts)
		o.Parts = driven.Cost(q, a.OnePhaseWatts, 1) + 2*q.Prices.Reactor + q.Prices.StartPerMicrofarad*added
		if front.DCChokeMH > 0 {
			o.Keep("choke_millihenry", "choke", front.DCChokeMH, "mH")
		}
		if added > 0 {
			o.Keep("added_bus_microfarad", "capacitance added to its bus", added, "µF")
		}
		if front.DCChokeMH == 0 && front.LineReactorOhm == 0 {
			o.Unsolved = append(o.Unsolved, "no usual choke and capacitance keep its bus steady up to a start")
		}
		o.Unsolved = append(o.Unsolved, "the drives must take direct current at their bus, by their maker's word")
		return o
	},
	Against: func(*feed.Outline) []feed.Against {
		return []feed.Against{{Weight: "bus", Says: "a bus of its own is seldom worth it for one drive"}}
	},
	BaseHours: 5,
}

func init() { feed.Register(Way) }
