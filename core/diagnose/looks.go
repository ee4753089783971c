package diagnose

import "math"

// Look is something to look at, by hand, eye or meter: what it is called, what is done, whether the machine must be
// live for it, and what may be found.
type Look struct {
	ID    string  `json:"id"`
	Says  string  `json:"says"`
	Live  bool    `json:"live"`
	Found []Found `json:"found" nullable:"false"`
	cost  float64 // in minutes
	// of is what is found in a world, of the ids of Found; "" where it is not to be looked at there.
	of func(w *world, p *picture) string
}

// Found is something that a look may come to.
type Found struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

var (
	asMarked   = Found{"as-marked", "as it is marked, within a tenth"}
	less       = Found{"less", "clearly less"}
	more       = Found{"more", "clearly more than is meant"}
	none       = Found{"none", "nothing, open"}
	closedPath = Found{"closed", "closed"}
	good       = Found{"good", "as it should"}
)

// measured is a capacitor's microfarads against what is meant.
func measured(is, meant float64) string {
	switch {
	case meant == 0:
		return ""
	case is < 0.2*meant:
		return none.ID
	case is < 0.8*meant:
		return less.ID
	case is > 1.25*meant:
		return more.ID
	}
	return asMarked.ID
}

// Looks are those that are known, with what each finds; what is dead comes first.
var Looks = []Look{
	{
		"ohms-through-lines",
		"Isolated: from the supply’s terminals to the machine’s leads, contacts held in, all three.",
		false,
		[]Found{closedPath, {"line-open", "a line is open"}, {"made-open", "the made leg is open"}},
		8,
		func(w *world, _ *picture) string {
			switch {
			case w.dead || w.machine.open == 0:
				return "line-open"
			case w.machine.open == 2:
				return "made-open"
			}
			return closedPath.ID
		},
	},
	{"measure-run-capacitor", "Isolated and discharged: measure the run capacitor off its leads.", false,
		[]Found{asMarked, less, more, none}, 6, func(w *world, _ *picture) string {
			if w.idler != nil {
				return ""
			}
			return measured(w.run, w.meant.run)
		}},
	{"measure-start-capacitor", "Isolated and discharged: measure the start capacitor off its leads.", false,
		[]Found{asMarked, less, none}, 6, func(w *world, _ *picture) string {
			if w.idler != nil {
				return ""
			}
			return measured(w.start, w.meant.start)
		}},
	{"start-contact", "Isolated and discharged: is the start capacitor’s contact open at rest?", false,
		[]Found{good, {"welded", "closed: welded, or held"}}, 6, func(w *world, _ *picture) string {
			if w.idler != nil || w.meant.start == 0 {
				return ""
			}
			if w.stuck {
				return "welded"
			}
			return good.ID
		}},
	{"measure-balance-capacitors", "Isolated and discharged: measure the balance capacitors off their leads.", false,
		[]Found{asMarked, none}, 8, func(w *world, _ *picture) string {
			if w.idler == nil || w.meant.ac == 0 {
				return ""
			}
			return measured(w.ac, w.meant.ac)
		}},
	{
		"look-at-links",
		"Isolated: open the terminal box and read how leads or links are joined, against the plate.",
		false,
		[]Found{good, {"high-volts", "for the higher volts"}, {"star", "in star where delta is meant"}},
		5,
		func(w *world, _ *picture) string {
			switch ratio := w.machine.circuit.R1Ohm / w.meant.r1; {
			case ratio > 3.5:
				return "high-volts"
			case ratio > 2.5:
				return "star"
			}
			return good.ID
		},
	},
	{"kick-test", "Isolated: the kick test of the Leads step on all three windings.", false,
		[]Found{good, {"reversed", "one kicks the other way"}}, 20, func(w *world, _ *picture) string {
			if w.machine.reversed {
				return "reversed"
			}
			return good.ID
		}},
	{"trace-capacitor-lead", "Isolated and discharged: to which line does the capacitors’ lead go?", false,
		[]Found{good, {"other-line", "to the other line"}}, 4, func(w *world, _ *picture) string {
			if w.idler != nil {
				return ""
			}
			if w.on != w.meant.on {
				return "other-line"
			}
			return good.ID
		}},
	{"turn-by-hand", "Isolated: turn the shaft by hand, belt on, then off.", false,
		[]Found{good, {"binds", "heavy, or it binds"}}, 4, func(w *world, _ *picture) string {
			if w.drag > 0.1 {
				return "binds"
			}
			return good.ID
		}},
	{"look-at-work", "At a standstill: tool, gearbox, cut: is it more than it was bought for?", false,
		[]Found{good, {"heavy", "dull, tight, or far too deep"}}, 3, func(w *world, _ *picture) string {
			if w.overloaded {
				return "heavy"
			}
			return good.ID
		}},
	{"follow-leads", "Isolated: follow the leads from the box to the motor by their marks.", false,
		[]Found{good, {"exchanged", "two are exchanged"}}, 6, func(w *world, _ *picture) string {
			if w.machine.backward {
				return "exchanged"
			}
			return good.ID
		}},
	{"watch-idler", "Look, do not touch: does the idler turn, and is it up?", true,
		[]Found{good, {"stands", "it stands or creeps"}}, 2, func(w *world, _ *picture) string {
			if w.idler == nil {
				return ""
			}
			if w.standing {
				return "stands"
			}
			return good.ID
		}},
	{"volts-at-supply", "Live, one hand, covers on: volts between the lines standing, and while it starts.", true,
		[]Found{good, {"low", "low, or they fall by more than a tenth"}, {"dead", "nothing"}}, 5,
		func(w *world, p *picture) string {
			switch {
			case w.dead:
				return "dead"
			case w.volts < 0.95*w.meant.volts || p.drop > 0.1:
				return "low"
			}
			return good.ID
		}},
	{"amps-idle", "Live, by a clamp: amps of all three lines with nothing to do, against those foretold.", true,
		[]Found{good, {"low", "far under, all of them"}, {"apart", "one far over or far under the others"},
			{"none", "it does not run"}}, 6,
		func(w *world, p *picture) string {
			if p.idle == nil {
				return none.ID
			}
			l := p.idle.machines[0].lines
			switch mean := (l[0] + l[1] + l[2]) / 3; {
			case mean < 0.5*w.meant.idle:
				return "low"
			case math.Abs(p.apart()-w.meant.apart) > 0.35:
				return "apart"
			}
			return good.ID
		}},
}

// sureOfLook is how often a look finds what is there; what else may be found shares the rest.
const sureOfLook = 0.95

// finds is how likely a look finds something in a world; ok is false where it cannot be looked at.
func (l *Look) finds(found string, p *picture) (like float64, ok bool) {
	is := l.of(p.world, p)
	if is == "" {
		return 1, false
	}
	if is == found {
		return sureOfLook, true
	}
	return (1 - sureOfLook) / float64(len(l.Found)-1), true
}
