package install

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
)

// Check is a step before the first power: between which ends, what is held or tripped meanwhile, and what the meter
// must say.
type Check struct {
	Key   string `json:"key"`
	Group string `json:"group"`
	From  string `json:"from"`
	To    string `json:"to"`
	While string `json:"while"` // what is held, pressed or tripped; empty for nothing
	Says  string `json:"says"`  // what the meter must say
	Not   string `json:"not"`   // what it means where it says otherwise
}

// The groups of checks, in their order.
const (
	dead      = "Dead, and discharged"
	bonds     = "Protective conductor"
	stopsOpen = "Control: stops open it"
	coils     = "Coils and windings"
	parted    = "Apart from one another"
	insulated = "Insulation"
)

// meter is a circuit without volts, as an ohmmeter sees it: contacts as they rest but those that are held, and what
// stands between terminals.
type meter struct {
	c    *circuit.Circuit
	at   Site
	held map[string]bool // parts whose contacts stand the other way
	join map[string]string
}

// meterOf makes one with parts held. Isolators are closed where their poles are to be measured through; the supply is
// off ahead of them.
func meterOf(c *circuit.Circuit, at Site, held ...string) *meter {
	m := &meter{c: c, at: at, held: map[string]bool{}, join: map[string]string{}}
	for _, id := range held {
		m.held[id] = true
	}
	for _, w := range c.Wires {
		m.unite(w.From, w.To)
	}
	for i := range c.Parts {
		p := &c.Parts[i]
		for _, k := range p.Contacts() {
			if m.closed(p, k) {
				m.unite(p.ID+":"+k.From, p.ID+":"+k.To)
			}
		}
	}
	return m
}

// closed says whether a contact is, without volts: switches of the power path are on, contactors out.
func (m *meter) closed(p *circuit.Part, k circuit.Contact) bool {
	switch p.Kind {
	case circuit.Isolator, circuit.Breaker, circuit.Fuse:
		return k.Main || !k.Closed
	case circuit.Overload:
		return k.Main || k.Closed != m.held[p.ID]
	}
	return k.Closed != m.held[p.ID]
}

func (m *meter) find(end string) string {
	for {
		up, ok := m.join[end]
		if !ok || up == end {
			return end
		}
		end = up
	}
}

func (m *meter) unite(a, b string) {
	if a, b = m.find(a), m.find(b); a != b {
		m.join[b] = a
	}
}

// through is a way with ohms between two terminals of a part, in words, with its ohms, 0 where they are not known.
type through struct {
	from, to string
	says     string
	ohms     float64
}

// ways are those of all parts: coils, windings, bleeds, transformers.
func (m *meter) ways() (list []through) {
	add := func(p *circuit.Part, from, to, says string, ohms float64) {
		if p.Has(from) && p.Has(to) {
			list = append(list, through{p.ID + ":" + from, p.ID + ":" + to, says, ohms})
		}
	}
	for i := range m.c.Parts {
		p := &m.c.Parts[i]
		switch p.Kind {
		case circuit.Contactor, circuit.Relay, circuit.Timer, circuit.PotentialRelay, circuit.Lamp:
			from, to, _ := p.Coil()
			what := "the coil of "
			if p.Kind == circuit.Lamp {
				what = "the lamp "
			}
			add(p, from, to, what+p.ID, 0)
		case circuit.Motor:
			ohms := 0.0
			if p.Role == circuit.Machine {
				ohms = m.at.WindingOhms
			}
			for _, pair := range [][2]string{{"U", "V"}, {"V", "W"}, {"W", "U"}} {
				add(p, pair[0], pair[1], "a winding of "+p.ID, ohms)
			}
		case circuit.SinglePhaseMotor:
			add(p, "1", "2", "a winding of "+p.ID, 0)
		case circuit.Bleed:
			add(p, "1", "2", "the bleed "+p.ID, m.bleed(p))
		case circuit.BrakeResistor:
			add(p, "1", "2", "the resistor "+p.ID, p.Ohms)
		case circuit.ControlTransformer:
			add(p, "H1", "H2", "the primary of "+p.ID, 0)
			add(p, "X1", "X2", "the secondary of "+p.ID, 0)
		}
	}
	return list
}

// bleed is what the resistors of a bleed are together, one at each can of its capacitor.
func (m *meter) bleed(r *circuit.Part) float64 { return r.Ohms / float64(m.cans(r)) }

// cans are how many a bleed discharges.
func (m *meter) cans(r *circuit.Part) (cans int) {
	cans = 1
	for i := range m.c.Parts {
		p := &m.c.Parts[i]
		if p.Kind == circuit.Capacitor && (m.find(p.ID+":1") == m.find(r.ID+":1") &&
			m.find(p.ID+":2") == m.find(r.ID+":2") || m.find(p.ID+":1") == m.find(r.ID+":2") &&
			m.find(p.ID+":2") == m.find(r.ID+":1")) {
			cans = max(len(p.Cans), 1)
		}
	}
	return cans
}

// Reading is what an ohmmeter says between two ends: closed, or by way of parts in their order, or open.
type reading struct {
	closed bool
	by     []through
}

// between finds it: the way that passes through fewest parts.
func (m *meter) between(a, b string) reading {
	from, to := m.find(a), m.find(b)
	if from == to {
		return reading{closed: true}
	}
	type step struct {
		node string
		by   []through
	}
	seen := map[string]bool{from: true}
	queue := []step{{node: from}}
	ways := m.ways()
	for len(queue) > 0 {
		at := queue[0]
		queue = queue[1:]
		for _, w := range ways {
			x, y := m.find(w.from), m.find(w.to)
			if y == at.node {
				x, y = y, x
			}
			if x != at.node || seen[y] {
				continue
			}
			by := append(slices.Clone(at.by), w)
			if y == to {
				return reading{by: by}
			}
			seen[y] = true
			queue = append(queue, step{y, by})
		}
	}
	return reading{}
}

// words are a reading as the meter shows it.
func (r reading) words() string {
	switch {
	case r.closed:
		return "under 1 Ω"
	case len(r.by) == 0:
		return "open, over 1 MΩ"
	}
	var list []string
	sum, known := 0.0, true
	for _, w := range r.by {
		list = append(list, w.says)
		sum, known = sum+w.ohms, known && w.ohms > 0
	}
	by := strings.Join(list, " and ")
	if !known {
		return "some ohms, " + by + "; neither open nor under 1 Ω"
	}
	if sum >= 1000 {
		return fmt.Sprintf("about %s kΩ, %s", quantity.Figures(sum/1000, 3), by)
	}
	return fmt.Sprintf("about %s Ω, %s", quantity.Figures(sum, 3), by)
}

// checks are those before a circuit has its first power.
func checks(c *circuit.Circuit, at Site) []Check {
	l := &list{c: c, at: at}
	l.dead()
	l.bonds()
	l.coils()
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

// chain is a way by contacts alone from one end to another, in which hands and overloads open it.
func (l *list) stops() {
	for i := range l.c.Parts {
		p := &l.c.Parts[i]
		verb := map[circuit.Kind]string{
			circuit.EmergencyStop: "strike ", circuit.GuardSwitch: "open ", circuit.Overload: "trip ",
			circuit.PushButton: "press ", circuit.Selector: "turn ",
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
