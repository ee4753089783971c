// Package derated feeds a motor from a larger drive that is built for three phases.
package derated

import (
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/feed/driven"
	"brackmoor/core/rule"
)

// Way is the way itself.
var Way = &driven.Way{
	About: feed.Info{
		Name:       "drive-derated",
		Title:      "Larger three-phase drive",
		Family:     "drive",
		Order:      6,
		TurnsSpeed: true,
		OwnVolts:   true,
		Balanced:   true,
	},
	Of:         drive.Three,
	Permit:     true,
	Said:       true,
	NotDoubled: true,
	Outlined: func(q *feed.Question, a *drive.Answer, outline driven.Outliner) *feed.Outline {
		o, front, _ := outline(a.ThreeWatts)
		o.Parts = driven.Cost(q, a.ThreeWatts, 1)
		if front.LineReactorOhm > 0 || front.DCChokeMH > 0 {
			o.Parts += q.Prices.Reactor
		}
		o.Verdicts = rule.Once(a.Verdicts, o.Verdicts)
		o.Starts = o.Starts && a.Covered
		left := 100 * a.Left.Share
		o.Keep("left_percent", "left on one phase", left, "%")
		return o
	},
	BaseHours: 3.5,
}

func init() { feed.Register(Way) }
