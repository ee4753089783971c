// Package derated feeds a motor from a larger drive that is built for three phases.
package derated

import (
	"fmt"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/feed/driven"
	"brackmoor/core/rectifier"
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
	Outlined: func(q *feed.Question, _ drive.Input, a *drive.Answer, outline driven.Outliner) *feed.Outline {
		o := outline(a.ThreeWatts, rectifier.Front{})
		o.Parts = driven.Cost(q, a.ThreeWatts, 1)
		o.Verdicts = a.Verdicts
		o.Starts = o.Starts && a.Covered
		left := 100 * a.Left.Share
		o.Keep("left_percent", "left on one phase", left, "%")
		if left < saidToDo {
			o.Schools = append(
				o.Schools,
				fmt.Sprintf("A three-phase drive of twice the size is often said to do on one "+
					"phase; its front end keeps %.0f percent.", left),
			)
		}
		return o
	},
	BaseHours: 3.5,
}

// saidToDo is the percent of a rating that the school counts on: under it, it is quoted
// beside the model.
const saidToDo = 50

func init() { feed.Register(Way) }
