package diagnose

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
	{"line-open", "A line of the supply is open on its way: a fuse, a contact, a lug, a lead.",
		"Isolate; look for it from the supply on with an ohmmeter.", 1.5, func(w *world) bool {
			if w.idler != nil {
				w.machine.open = 0
				return true
			}
			w.dead = true
			return true
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
			w.share, w.overloaded = 1.35, true
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
	{"idler-not-up", "The idler stands, or is not on: there is no made leg to start from.",
		"Off at once. Start the idler first and wait until it is up; then why it did not: its start part, a line.", 1.2,
		func(w *world) bool {
			w.standing = true
			return w.idler != nil
		}},
}
