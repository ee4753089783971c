package install

import (
	"slices"
	"strings"

	"brackmoor/core/circuit"
)

// Check is a step before the first power: between which ends, what is held or tripped meanwhile, and what the meter
// must say.
type Check struct {
	Key   string `json:"key"`
	Group string `json:"group"`
	From  string `json:"from"`
	To    string `json:"to"`
	While string `json:"while"`               // what is held, pressed or tripped; empty for nothing
	Says  string `json:"says" told:"figures"` // what the meter must say
	Not   string `json:"not" told:"figures"`  // what it means where it says otherwise
}

// The groups of checks, in their order.
const (
	dead      = "Dead, and discharged"
	bonds     = "Protective conductor"
	stopsOpen = "Control: stops open it"
	coils     = "Coils and windings"
	bridges   = "Links of the drive"
	parted    = "Apart from one another"
	insulated = "Insulation"
)

// checks are those before a circuit has its first power.
func checks(c *circuit.Circuit, at Site) []Check {
	l := &list{c: c, at: at}
	l.dead()
	l.bonds()
	l.coils()
	l.links()
	l.stops()
	l.parted()
	l.insulation()
	return l.checks
}

// list gathers checks.
type list struct {
	c      *circuit.Circuit
	at     Site
	checks []Check
}

func (l *list) say(group, from, to, while, says, not string) {
	l.checks = append(l.checks, Check{
		strings.Join([]string{group, from, to, while}, "|"), group, l.c.Marked(from), l.c.Marked(to), while, says, not,
	})
}

// of are the parts of some kinds.
func (l *list) of(kinds ...circuit.Kind) (list []*circuit.Part) {
	for i := range l.c.Parts {
		if slices.Contains(kinds, l.c.Parts[i].Kind) {
			list = append(list, &l.c.Parts[i])
		}
	}
	return list
}

// lines are the conductors of the supply.
func (l *list) lines() (lines []string) {
	for _, s := range l.c.Sources {
		if s.ID != "PE" {
			lines = append(lines, s.ID)
		}
	}
	return lines
}

func (l *list) dead() {
	l.say(dead, "", "", "", "Supply off ahead of the isolator, locked, and tagged.", "")
	for i, a := range l.lines() {
		for _, b := range append(l.lines()[i+1:], "PE") {
			l.say(dead, a, b, "", "0 V, by a meter proved before and after", "It is not dead: stop.")
		}
	}
	for _, p := range l.of(circuit.Capacitor) {
		l.say(
			dead,
			p.ID+":1",
			p.ID+":2",
			"",
			"0 V, by a meter, and then short it",
			"Wait for its bleed, measure again.",
		)
	}
	for _, p := range l.of(circuit.Drive) {
		if p.Has("dc+") {
			l.say(dead, p.ID+":dc+", p.ID+":dc-", "", "under 50 V, after the minutes of its label",
				"Its bus holds a charge: wait.")
		}
	}
}

func (l *list) bonds() {
	for i := range l.c.Parts {
		if p := &l.c.Parts[i]; p.Exposed() {
			l.say(bonds, "PE", p.ID+":PE", "", "under 0.5 Ω, its case by a probe on bare metal",
				"The conductor is loose or missing: nothing has power before it is.")
		}
	}
}

func (l *list) coils() {
	m := meterOf(l.c, l.at)
	for i := range l.c.Parts {
		p := &l.c.Parts[i]
		switch p.Kind {
		case circuit.Contactor, circuit.Relay, circuit.Timer, circuit.Lamp:
			from, to, _ := p.Coil()
			r := m.between(p.ID+":"+from, p.ID+":"+to)
			l.say(coils, p.ID+":"+from, p.ID+":"+to, "", r.words(), "Under 1 Ω it is shorted, open it has burnt.")
		case circuit.ControlTransformer:
			l.say(coils, p.ID+":H1", p.ID+":H2", "its fuses out", "some ohms, its primary",
				"More ohms than on X1 to X2; if not, it is joined the wrong way round.")
		case circuit.Motor, circuit.SinglePhaseMotor:
			lines := p.Lines()
			for k, a := range lines {
				for _, b := range lines[k+1:] {
					r := m.between(p.ID+":"+a, p.ID+":"+b)
					l.say(coils, p.ID+":"+a, p.ID+":"+b, "", r.words()+same(len(lines)),
						"Unlike the others: a joint, a link, or a winding.")
				}
			}
		case circuit.Bleed:
			r := reading{by: []through{{says: "the bleed " + p.ID, ohms: m.bleed(p)}}}
			l.say(
				coils,
				p.ID+":1",
				p.ID+":2",
				"one lead off; its capacitor counts: wait until the figure stands",
				r.words(),
				"Open, nothing discharges the capacitor.",
			)
		}
	}
}

func same(lines int) string {
	if lines > 2 {
		return ", all three within 2 %"
	}
	return ""
}

// doing is what is done with a link, and what happens where it is not.
var doing = map[string][2]string{
	"fit":    {"Fit it", "Left out, the drive does not run."},
	"remove": {"Take it out", "Left in, it bridges what is wired there: a stop that does nothing."},
	"leave":  {"Leave it as it came", "It belongs where it is."},
}

// links are the bridges between a drive's terminals: those to fit, and those to take out.
func (l *list) links() {
	for _, p := range l.of(circuit.Drive) {
		for _, link := range p.Links {
			says := doing[link.Do][0]
			if link.Says != "" {
				says += ": " + link.Says
			}
			at := func(mark string) string { return p.ID + ":" + mark }
			l.say(bridges, at(link.Between[0]), at(link.Between[1]), "", says, doing[link.Do][1])
		}
		if len(p.Links) == 0 && p.Has("com") {
			l.say(bridges, p.ID+":com", p.ID+":enable", "",
				"Its manual names the bridges that it ships with: out at what is wired here, in where nothing is",
				"A bridge left in makes a stop that does nothing. A profile chosen under Settings says which.")
		}
	}
}

// chain is a way by contacts alone from one end to another, in which hands and overloads open it.
func (l *list) stops() {
	for i := range l.c.Parts {
		p := &l.c.Parts[i]
		verb := map[circuit.Kind]string{
			circuit.EmergencyStop: "strike ", circuit.GuardSwitch: "open ", circuit.Overload: "trip ",
			circuit.PushButton: "press ", circuit.Selector: "turn ",
			circuit.Interlock: "with the other machine’s contactor pressed in, ",
		}[p.Kind]
		if verb == "" {
			continue
		}
		for _, k := range p.Contacts() {
			from, to := p.ID+":"+k.From, p.ID+":"+k.To
			if k.Main || !l.joined(from) || !l.joined(to) {
				continue
			}
			rest, moved := meterOf(l.c, l.at).between(from, to), meterOf(l.c, l.at, p.ID).between(from, to)
			group := stopsOpen
			l.say(group, from, to, "", rest.words(), "Turned round, or a wire at the wrong mark.")
			l.say(group, from, to, verb+p.ID, moved.words(), "It does not move the contact that it must.")
		}
	}
}

// joined says whether a wire ends there.
func (l *list) joined(end string) bool {
	return slices.ContainsFunc(l.c.Wires, func(w circuit.Wire) bool { return w.From == end || w.To == end })
}

// parted are the lines and the made leg against one another, with contactors out and pressed in by hand.
func (l *list) parted() {
	out := meterOf(l.c, l.at)
	lines := l.lines()
	if len(lines) == 2 {
		r := out.between(lines[0], lines[1])
		l.say(parted, lines[0], lines[1], "isolator closed, supply off", r.words(),
			"Under 1 Ω is a short between the lines: no power.")
	}
	for _, p := range l.of(circuit.Motor) {
		for _, a := range p.Lines() {
			l.say(
				parted,
				p.ID+":"+a,
				"PE",
				"",
				out.between(p.ID+":"+a, "PE").words(),
				"A winding or a lead touches the frame.",
			)
		}
	}
	for _, k := range l.of(circuit.Contactor) {
		for _, pole := range k.Contacts() {
			if from, to := k.ID+":"+pole.From, k.ID+":"+pole.To; pole.Main && l.joined(from) && l.joined(to) {
				l.say(parted, from, to, "", out.between(from, to).words(), "Under 1 Ω the pole is welded.")
				in := meterOf(l.c, l.at, k.ID)
				l.say(
					parted,
					from,
					to,
					"press "+k.ID+" in by hand",
					in.between(from, to).words(),
					"The pole does not make.",
				)
			}
		}
	}
}

// insulation is measured with what cannot bear it taken off.
func (l *list) insulation() {
	off := "what holds electronics off"
	if len(l.of(circuit.Drive)) > 0 {
		off = "the drive’s leads off: its test would kill it"
	}
	for _, p := range l.of(circuit.Motor, circuit.SinglePhaseMotor) {
		l.say(insulated, p.ID+":"+p.Lines()[0], "PE", off, "5 MΩ or more at 500 V dc, 1 MΩ at the very least",
			"Damp or worn: dry it out, measure again, look at its leads.")
	}
	for _, a := range l.lines() {
		l.say(insulated, a, "PE", off+"; supply off", "1 MΩ or more at 500 V dc: IEC 60204-1, 18.3",
			"A wire is nicked, or a lead touches the box.")
	}
}
