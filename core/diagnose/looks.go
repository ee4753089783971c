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

// either is what is wrong where it is, and good else.
func either(wrong bool, id string) string {
	if wrong {
		return id
	}
	return good.ID
}

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
		[]Found{
			closedPath, {"line-open", "the first line is open"}, {"second-open", "the second line is open"},
			{"made-open", "the made leg is open"},
		},
		8,
		func(w *world, _ *picture) string {
			switch {
			case w.dead && w.second || w.machine.open == 1:
				return "second-open"
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
			return either(w.stuck, "welded")
		}},
	{"measure-balance-capacitors", "Isolated and discharged: the balance capacitors at the first line, measured off " +
		"their leads and added up.", false, []Found{asMarked, less, more, none}, 8, func(w *world, _ *picture) string {
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
			return either(w.machine.reversed, "reversed")
		}},
	{"trace-capacitor-lead", "Isolated and discharged: to which line does the capacitors’ lead go?", false,
		[]Found{good, {"other-line", "to the other line"}}, 4, func(w *world, _ *picture) string {
			if w.idler != nil {
				return ""
			}
			return either(w.on != w.meant.on, "other-line")
		}},
	{"turn-by-hand", "Isolated: turn the shaft by hand, belt on, then off.", false,
		[]Found{good, {"binds", "heavy, or it binds"}}, 4, func(w *world, _ *picture) string {
			return either(w.drag > 0.1, "binds")
		}},
	{"look-at-work", "At a standstill: tool, gearbox, cut: is it more than it was bought for?", false,
		[]Found{good, {"heavy", "dull, tight, or far too deep"}}, 3, func(w *world, _ *picture) string {
			return either(w.overloaded, "heavy")
		}},
	{"follow-leads", "Isolated: follow the leads from the box to the motor by their marks.", false,
		[]Found{good, {"exchanged", "two are exchanged"}}, 6, func(w *world, _ *picture) string {
			return either(w.machine.backward, "exchanged")
		}},
	{"ohms-of-pairs", "Isolated, at the motor's own leads: ohms of all three pairs, against those meant.", false,
		[]Found{good, {"uneven", "one pair is clearly more"}, {"high", "all are far more"}, {"open", "a pair is open"}},
		6, func(w *world, _ *picture) string {
			pairs := w.machine.atMotor()
			low, high := min(pairs[0], pairs[1], pairs[2]), highest(pairs)
			switch {
			case high >= openOhms:
				return "open"
			case high > 1.15*low:
				return "uneven"
			case low > 1.5*w.meant.pairs[0]:
				return "high"
			}
			return good.ID
		}},
	{"look-at-joints", "Isolated, proved dead: each lug, contact and plug on the way: bright, tight, not brown?", false,
		[]Found{good, {"burnt", "one is loose, brown or pitted"}}, 6, func(w *world, _ *picture) string {
			return either(highest(w.machine.lug) > 0, "burnt")
		}},
	{"read-relay", "Isolated: the start relay's marks against the volts that the Size step gives; then its contacts.",
		false, []Found{good, {"low", "for lower volts"}, {"worn", "pitted, sluggish, or its spring is weak"}}, 6,
		func(w *world, _ *picture) string {
			switch {
			case w.meant.relay.pulls == 0:
				return ""
			case w.relay.pulls < 0.8*w.meant.relay.pulls:
				return "low"
			case w.relay.falls > 0.8*w.relay.pulls:
				return "worn"
			}
			return good.ID
		}},
	{
		"discharge-resistors",
		"Isolated, discharged, proved dead: ohms across each capacitor’s discharge resistor.",
		false,
		[]Found{closedPath, none},
		5,
		func(w *world, _ *picture) string {
			if w.meant.run+w.meant.start+w.meant.ac+w.meant.bc == 0 {
				return ""
			}
			if w.bare {
				return none.ID
			}
			return closedPath.ID
		},
	},
	{"contactor-at-rest", "Isolated ahead of it: ohms across each contact of the contactor, let go.", false,
		[]Found{good, {"welded", "one or more stay closed"}}, 4, func(w *world, _ *picture) string {
			return either(w.welded, "welded")
		}},
	{"follow-coil", "Isolated: between which wires does the contactor’s coil lie, and are they and its magnet sound?",
		false, []Found{good, {"made", "one goes to the made leg"}, {"loose", "loose, dirty or weak"}}, 5,
		func(w *world, _ *picture) string {
			if w.loose {
				return "loose"
			}
			return either(w.coilOnMade, "made")
		}},
	{
		"control-circuit",
		"Isolated: ohms through the control circuit, start held: fuse, stops, overload’s contact, coil.",
		false,
		[]Found{closedPath, {"open", "open somewhere"}},
		6,
		func(w *world, _ *picture) string {
			if w.machine.off {
				return "open"
			}
			return closedPath.ID
		},
	},
	{"read-overload", "Isolated: the overload relay’s setting, against the plate’s amps.", false,
		[]Found{good, {"under", "clearly under"}}, 2, func(w *world, _ *picture) string {
			return either(w.trips < tripsAt, "under")
		}},
	{"look-at-fan", "Isolated: fan, cowl and vents: whole, clear, and free air?", false,
		[]Found{good, {"blocked", "broken, clogged or shut in"}}, 3, func(w *world, _ *picture) string {
			return either(w.cooling < 1, "blocked")
		}},
	{"test-insulation", "Isolated, leads off: insulation of the windings to the frame by an insulation tester.", false,
		[]Found{good, {"leaks", "under a megohm"}}, 10, func(w *world, _ *picture) string {
			return either(w.leaks, "leaks")
		}},
	{"trace-balance-leads", "Isolated and discharged: do the larger balance capacitors go to the line that is meant?",
		false, []Found{good, {"exchanged", "to the other line"}}, 5, func(w *world, _ *picture) string {
			if w.idler == nil || w.meant.ac == w.meant.bc || w.ac == 0 {
				return ""
			}
			return either((w.ac > w.bc) != (w.meant.ac > w.meant.bc), "exchanged")
		}},
	{"idler-switch", "Look, do not touch: is the idler’s own switch or contactor in?", false,
		[]Found{good, {"out", "it is out, or its breaker is"}}, 1, func(w *world, _ *picture) string {
			if w.idler == nil {
				return ""
			}
			return either(w.away, "out")
		}},
	{"watch-idler", "Look, do not touch: does the idler turn, and is it up?", true,
		[]Found{good, {"stands", "it stands or creeps"}}, 2, func(w *world, _ *picture) string {
			if w.idler == nil {
				return ""
			}
			return either(w.standing, "stands")
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
	{"watch-clamp", "Live, by a clamp, loaded: does one line’s reading sway a few times in ten seconds?", true,
		[]Found{good, {"sways", "it sways"}, {"none", "it does not run"}}, 6, func(w *world, p *picture) string {
			switch {
			case p.loaded == nil:
				return none.ID
			case w.broken:
				return "sways"
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
