// Package onephase feeds a motor from a drive that is built for one phase.
package onephase

import (
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/feed/driven"
	"brackmoor/core/rule"
)

// Way is the way itself.
var Way = &driven.Way{
	About: feed.Info{
		Name:       "drive-single-phase",
		Title:      "Drive built for one phase",
		Family:     "drive",
		Order:      5,
		TurnsSpeed: true,
		OwnVolts:   true,
		Balanced:   true,
	},
	Of: drive.OnePhase,
	Outlined: func(q *feed.Question, a *drive.Answer, outline driven.Outliner) *feed.Outline {
		o, _, _ := outline(a.OnePhaseWatts)
		o.Parts = driven.Cost(q, a.OnePhaseWatts, q.Prices.OnePhaseFactor)
		if a.Doubler {
			o.Title = "Drive that doubles the volts"
			o.Starts, o.Verdicts = o.Starts && a.Covered, rule.Once(a.Verdicts, o.Verdicts)
			return o
		}
		o.Verdicts = append(drive.BuiltForOne(a.OnePhaseWatts), o.Verdicts...)
		return o
	},
	Against: func(o *feed.Outline) []feed.Against {
		for _, v := range o.Verdicts {
			if v.Rule == "drive.one-phase-rare" {
				return []feed.Against{{Weight: "rare", Says: "few drives of its size are built for one phase"}}
			}
		}
		return nil
	},
	BaseHours: 3,
}

func init() { feed.Register(Way) }
