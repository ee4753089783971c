package diagnose

import (
	"math"
	"slices"
)

// cause is one thing that may be wrong: how often it is among others, what it does to a sound world, and its cure.
type cause struct {
	ID   string
	says string
	cure string
	// often is how many times as often as the others it is met, by shop practice.
	often float64
	// alter makes it so; nil for a cause that this way cannot have. It may be called on a sound world alone.
	alter func(w *world) bool
}

// causes are those that are known. What each does is done to the machine or its circuit, and all that it shows is
// solved.
var causes = []cause{
	{
		"nothing-wrong",
		"All is as it should be; what is seen is how this way is.",
		"Leave it as it is; lighten the load, or " +
			"take another way, where it does not do.",
		1,
		func(*world) bool { return true },
	},
	{"winding-reversed", "One winding is joined by its wrong end: the field limps, amps are far apart and high.",
		"Isolate, find its ends by the kick test of the Leads step, and exchange them.", 1, func(w *world) bool {
			w.machine.reversed = true
			return true
		}},
	{"joined-for-high-volts", "It is joined for twice the volts: a quarter of its torque and amps.",
		"Isolate, move the links to the low volts as the Leads step shows.", 1.5, func(w *world) bool {
			w.machine.circuit = w.machine.circuit.Scaled(4)
			return true
		}},
	{
		"star-below-volts",
		"It is joined in star where its plate wants delta for these volts: a third of its torque and amps.",
		"Isolate, put the links for delta.",
		1.5,
		func(w *world) bool {
			if !w.machine.delta {
				return false
			}
			w.machine.circuit, w.machine.delta = w.machine.circuit.Scaled(3), false
			return true
		},
	},
	{"run-capacitor-open", "The run capacitor is open or not joined: two lines alone, and no torque of its own.",
		"Isolate, discharge, measure; a new one of its microfarads and volts.", 1.5, func(w *world) bool {
			w.run = 0
			return w.idler == nil
		}},
	{"run-capacitor-weak", "The run capacitor has lost much of what is printed on it.",
		"Isolate, discharge, measure; a new one.", 1.5, func(w *world) bool {
			w.run *= 0.55
			return w.idler == nil
		}},
	{
		"run-capacitor-too-large",
		"The run capacitor is too large: the made leg is high and one winding hot with nothing to do.",
		"Isolate, discharge, take cans off until idle legs and windings are within limits.",
		1,
		func(w *world) bool {
			w.run *= 1.8
			return w.idler == nil
		},
	},
	{"start-capacitor-open", "The start capacitor is open, or its contact does not close.",
		"Isolate, discharge, measure it and its contact; a new one.", 1.5, func(w *world) bool {
			had := w.start
			w.start = 0
			return w.idler == nil && had > 0
		}},
	{
		"start-capacitor-stuck-in",
		"The start capacitor stays in: its contact is welded, or its relay does not let go.",
		"Off at once. Isolate, discharge, a new contact or relay; the can has been hot and is suspect.",
		1,
		func(w *world) bool {
			w.stuck = true
			return w.idler == nil && w.start > 0
		},
	},
	{"line-open", "The first line of the supply is open on its way: a fuse, a contact, a lug, a lead.",
		"Isolate; look for it from the supply on with an ohmmeter.", 1.5, func(w *world) bool {
			return w.lose(0)
		}},
	{"second-line-open", "The second line of the supply is open on its way: a fuse, a contact, a lug, a lead.",
		"Isolate; look for it from the supply on with an ohmmeter.", 1.5, func(w *world) bool {
			return w.lose(1)
		}},
	{"made-leg-open", "The made leg does not come to the machine: a lug, a contact, a lead.",
		"Isolate; look for it from the capacitors or the idler on with an ohmmeter.", 1, func(w *world) bool {
			w.machine.open = 2
			return true
		}},
	{"wrong-direction", "It is right but for its sense: two leads are exchanged.",
		"Isolate, exchange the two leads that the way allows.", 1, func(w *world) bool {
			w.machine.backward = true
			return true
		}},
	{"capacitor-on-wrong-pair", "The capacitors hang on the other line: it turns the other way, else it is alike.",
		"Isolate, discharge, move their lead to the other line.", 0.7, func(w *world) bool {
			w.on = map[string]string{"ac": "bc", "bc": "ac"}[w.on]
			return w.idler == nil
		}},
	{"supply-low", "The supply is low or weak: a long thin run, a loose lug, a dimmed neighbourhood.",
		"Read it standing and loaded; a thicker run, tight lugs, or the utility.", 1, func(w *world) bool {
			w.volts *= 0.9
			w.ohms *= 3
			return true
		}},
	{"overloaded", "It has more to do than its plate says: a dull tool, a tight gearbox, a cut too deep.",
		"Lighten it; sharpen; and see what it takes with the belt off.", 1.5, func(w *world) bool {
			w.share, w.overloaded = 1+w.share, true
			w.breakaway *= 1.5
			return true
		}},
	{"bearing-drag", "Something drags in the machine: a bearing, a belt, a brake, set grease.",
		"Isolate, turn it by hand with the belt off and on; mend what binds.", 1, func(w *world) bool {
			w.drag = 0.35
			return true
		}},
	{
		"balance-capacitor-open",
		"The balance capacitors from the first line are open: the made leg is low and loads lower it more.",
		"Isolate, discharge, measure each can; new ones.",
		1.2,
		func(w *world) bool {
			had := w.ac
			w.ac = 0
			return w.idler != nil && had > 0
		},
	},
	{"balance-capacitor-weak", "The balance capacitors from the first line have lost much of what is printed on them.",
		"Isolate, discharge, measure each can; new ones.", 1.2, func(w *world) bool {
			had := w.ac
			w.ac *= 0.55
			return w.idler != nil && had > 0
		}},
	{"balance-capacitor-too-large", "The balance capacitors from the first line are too large: the made leg is high.",
		"Isolate, discharge, take cans off until idle legs are within limits.", 0.8, func(w *world) bool {
			had := w.ac
			w.ac *= 1.8
			return w.idler != nil && had > 0
		}},
	{"balance-capacitors-exchanged", "The balance capacitors hang on each other's lines.",
		"Isolate, discharge, exchange their leads at the lines.", 0.6, func(w *world) bool {
			const alike = 0.2
			apart := math.Abs(w.ac-w.bc) > alike*(w.ac+w.bc)
			w.ac, w.bc = w.bc, w.ac
			return w.idler != nil && apart
		}},
	{"idler-not-up", "The idler is on and stands: its start part is open, or it was joined too early.",
		"Off at once. Isolate, discharge, measure its start part; start the idler first and wait until it is up.", 1.2,
		func(w *world) bool {
			w.standing = true
			return w.idler != nil
		}},
	{"idler-not-on", "The idler is not on: there is no made leg to start from.",
		"Off at once. Then the idler's switch, breaker and contactor; start it first.", 1, func(w *world) bool {
			if w.idler == nil {
				return false
			}
			w.standing, w.away = true, true
			w.machines, w.ac, w.bc = w.machines[:1], 0, 0
			return true
		}},
	{"link-missing", "A link is missing: one winding has only one of its two halves, and it is overloaded.",
		"Isolate, put the link as the Leads step shows, and measure all three pairs.", 1, func(w *world) bool {
			w.machine.halved = true
			return true
		}},
	{"winding-open", "A winding is open inside: the other two carry all.",
		"Isolate; ohms of each winding at its own ends. Burnt inside it is for a rewinder.", 0.8,
		func(w *world) bool {
			w.machine.opened = true
			return true
		}},
	{"rotor-bars", "Bars of its rotor are broken: less torque, more slip, and amps that sway under load.",
		"It will not mend: a rewinder, or another motor. Until then lighten its starts.", 0.6, func(w *world) bool {
			const more = 1.7
			cages := slices.Clone(w.machine.circuit.Cages)
			for i := range cages {
				cages[i].ROhm *= more
			}
			w.machine.circuit.Cages, w.broken = cages, true
			return true
		}},
	{"joint-bad", "A joint in the first line's way is bad: a burnt contact, a loose lug. It heats as it carries.",
		"Isolate and prove dead; tighten, or cut back to bright metal and a new lug; a burnt contact is replaced.", 1.2,
		func(w *world) bool {
			const lost = 0.06 // of its volts at plate amps
			w.machine.lug[0] = lost * w.meant.volts / w.amps
			return true
		}},
	{"relay-worn", "The start relay is worn, or its wire is loose: it falls near to where it pulls, or by itself.",
		"Isolate, discharge; a new relay of the same volts. Its contacts and the start capacitor have suffered.", 1,
		func(w *world) bool {
			w.relay.falls = wornFalls * w.relay.pulls
			return w.relay.pulls > 0
		}},
	{"relay-pulls-early", "The start relay is for lower volts, or set too low: it pulls at standstill.",
		"Isolate, discharge; a relay that pulls at the volts that the Size step gives.", 0.8, func(w *world) bool {
			const half = 0.5
			w.relay.pulls, w.relay.falls = half*w.relay.pulls, half*w.relay.falls
			return w.idler == nil && w.relay.pulls > 0
		}},
	{"no-discharge-resistors", "The capacitors have no discharge resistors: they keep their charge for hours.",
		"Isolate, discharge, measure; a resistor across each as the Size step gives.", 0.8, func(w *world) bool {
			w.bare = true
			return w.run+w.start+w.ac+w.bc > 0
		}},
	{"contactor-welded", "The contactor's contacts are welded: it does not let go, and stop does nothing.",
		"Off ahead of it, lock, prove dead. A new contactor; then why: chatter, a short, or too small.", 0.8,
		func(w *world) bool {
			w.welded = true
			return true
		}},
	{"coil-on-made-leg", "The contactor's coil lies at the made leg, which sags as the machine starts.",
		"Isolate; the coil between the two lines of the supply, never at the made leg.", 1, func(w *world) bool {
			w.coilOnMade = true
			return true
		}},
	{"control-loose", "The contactor itself lets go: a loose control wire, dirt on its magnet, a weak coil.",
		"Isolate; tighten its control wires, clean its magnet's faces, or a new one.", 1, func(w *world) bool {
			w.loose = true
			return true
		}},
	{"control-open", "Its contactor does not pull in: a control fuse, a stop, an overload relay that has tripped.",
		"Isolate; the control fuse, the overload relay's reset, the stop and the coil, by an ohmmeter one by one.", 1.2,
		func(w *world) bool {
			w.machine.off = true
			return true
		}},
	{"overload-set-low", "The overload relay is set under the plate's amps.",
		"Isolate; set it as the plate and the Wire step say, never higher to keep it from tripping.", 1,
		func(w *world) bool {
			const under = 0.5
			w.trips *= under
			return true
		}},
	{"cooling-blocked", "It is not cooled: its fan is gone, its vents are clogged, or it stands in warm air.",
		"Isolate; fan, cowl and vents; let it breathe.", 1, func(w *world) bool {
			const left = 0.4
			w.cooling = left
			return true
		}},
	{"insulation-damp", "Its insulation leaks to the frame: damp, dirt, or a wire that rubs.",
		"Off and locked. Insulation of each lead to the frame; dry it, mend it, and see that its frame is bonded.", 0.8,
		func(w *world) bool {
			w.leaks = true
			return true
		}},
}

// lose opens a line of the supply, 0 or 1: ahead of everything, or with a converter on the way to the machine.
func (w *world) lose(line int) bool {
	if w.idler != nil {
		w.machine.open = line
		return true
	}
	w.dead, w.second = true, line == 1
	return true
}
