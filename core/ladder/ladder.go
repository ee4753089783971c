// Package ladder runs a circuit before it is built: contacts, coils and timers are evaluated until
// they settle, with idlers and pony motors behind them that come up and run down; every state that
// hands, time and the supply can bring it to is looked at, also with one thing broken, and held to rules.
//
// Motors, coils and capacitors are ends of a circuit and no way through it: a current that finds its way
// back through a coil or a winding is not seen.
package ladder

import (
	"fmt"
	"strings"

	"brackmoor/core/circuit"
)

// plan is a circuit made ready: every terminal a node, terminals that wires join one node.
type plan struct {
	c        *circuit.Circuit
	fault    fault
	at       map[string]int // nodes by the names of terminals and sources
	nodes    int
	contacts []contact
	coils    []coil
	roots    []root
	index    map[string]int // parts by their ids
	hand     []hand
	motors   []turning
	drives   []driven
	caps     []cap
	guarded  map[int][]bool // by overloads: the motors that have no way to the supply but by its poles
	ms       []int32        // times of parts
	coasts   int32
	owned    []owned // the potentials that parts have of their own, from firstOwn on
}

// owned is a potential of a part's own: a side of a transformer, the made leg of an idler, a drive's.
type owned struct {
	part int
	side string
}

// own makes a potential of a part's own.
func (p *plan) own(part int, side string) potential {
	p.owned = append(p.owned, owned{part, side})
	return firstOwn + potential(len(p.owned)-1)
}

// contact joins two nodes while it is closed.
type contact struct {
	a, b    int
	part    int
	closed  bool // at rest
	main    bool
	delayed bool
	mark    string // group of an auxiliary contact, "1" of 13-14
}

// coil moves a part's contacts while it has volts.
type coil struct{ part, a, b int }

// root is a node that has a potential of its own.
type root struct {
	node int
	of   potential
}

// potential is what a node may be at: a conductor of the supply, a side of a transformer or of a
// drive's own supply, or the made leg of an idler.
type potential int

// The potentials that any circuit has; those of parts follow them.
const (
	none potential = iota
	line1
	line2
	neutral
	earth
	firstOwn
)

// hand is what a hand moves: a button, a switch, a latched stop.
type hand struct {
	part      int
	positions int // of a selector, beside its rest
}

// turning is a motor with the nodes of its lines.
type turning struct {
	part  int
	lines []int
	of    potential // its made leg, of an idler
}

// driven is a drive.
type driven struct {
	part     int
	lines    []int
	com      int
	commands []command
	enables  []int
}

type command struct {
	node int
	does string
}

// cap is a start capacitor or a packaged start box.
type cap struct {
	part  int
	nodes []int
}

// newPlan makes a circuit ready, with something broken or nothing, its times as they are or in their order.
func newPlan(c *circuit.Circuit, f fault, exact bool) *plan {
	p := &plan{c: c, fault: f, at: map[string]int{}, index: map[string]int{}}
	names := []string{}
	name := func(n string) {
		if _, ok := p.at[n]; !ok {
			p.at[n] = len(names)
			names = append(names, n)
		}
	}
	for _, s := range c.Sources {
		name(s.ID)
	}
	for i := range c.Parts {
		p.index[c.Parts[i].ID] = i
		for _, t := range c.Parts[i].Terminals {
			name(c.Parts[i].ID + ":" + t)
		}
	}
	join := newJoin(len(names))
	for i, w := range c.Wires {
		a, okA := p.at[w.From]
		b, okB := p.at[w.To]
		if okA && okB && !(f.kind == wireOff && f.of == i) {
			join.unite(a, b)
		}
	}
	ids := map[int]int{}
	for _, n := range names { // in the order of the circuit, so that the same circuit is the same plan
		r := join.find(p.at[n])
		if _, ok := ids[r]; !ok {
			ids[r] = p.nodes
			p.nodes++
		}
		p.at[n] = ids[r]
	}
	p.gather()
	p.timed(exact)
	p.guarded = map[int][]bool{}
	for i := range c.Parts {
		if c.Parts[i].Kind == circuit.Overload {
			for _, m := range p.motors {
				p.guarded[i] = append(p.guarded[i], p.guards(i, m.lines))
			}
		}
	}
	return p
}

// node is that of a part's terminal; -1 where it has none.
func (p *plan) node(part int, terminal string) int {
	if n, ok := p.at[p.c.Parts[part].ID+":"+terminal]; ok {
		return n
	}
	return -1
}

// gather reads the parts.
func (p *plan) gather() {
	for _, s := range p.c.Sources {
		of := map[string]potential{"L1": line1, "L": line1, "L2": line2, "N": neutral, "PE": earth}[s.ID]
		if of != none {
			p.roots = append(p.roots, root{p.at[s.ID], of})
		}
	}
	for i := range p.c.Parts {
		part := &p.c.Parts[i]
		for _, c := range part.Contacts() {
			mark := c.From
			if len(mark) == 2 {
				mark = mark[:1]
			}
			p.contacts = append(p.contacts, contact{
				p.node(i, c.From), p.node(i, c.To), i, c.Closed, c.Main, c.Delayed, mark,
			})
		}
		if from, to, ok := part.Coil(); ok && part.Has(from) && part.Has(to) {
			p.coils = append(p.coils, coil{i, p.node(i, from), p.node(i, to)})
		}
		switch part.Kind {
		case circuit.PushButton, circuit.EmergencyStop, circuit.GuardSwitch, circuit.Interlock:
			p.hand = append(p.hand, hand{i, 1})
		case circuit.Selector:
			most := 1
			for _, t := range part.Terminals {
				most = max(most, int(t[0]-'0'))
			}
			p.hand = append(p.hand, hand{i, most})
		case circuit.ControlTransformer:
			for _, side := range []string{"X1", "X2"} {
				if part.Has(side) {
					p.roots = append(p.roots, root{p.node(i, side), p.own(i, side)})
				}
			}
		case circuit.Motor, circuit.SinglePhaseMotor:
			t := turning{part: i}
			for _, line := range part.Lines() {
				if part.Has(line) {
					t.lines = append(t.lines, p.node(i, line))
				}
			}
			if part.Role == circuit.Idler {
				t.of = p.own(i, "made")
			}
			p.motors = append(p.motors, t)
		case circuit.Drive:
			p.drives = append(p.drives, p.drive(i))
		case circuit.Capacitor:
			if part.Duty == "start" {
				p.caps = append(p.caps, cap{i, []int{p.node(i, "1"), p.node(i, "2")}})
			}
		case circuit.StartBox:
			p.caps = append(p.caps, cap{i, []int{p.node(i, "1"), p.node(i, "2"), p.node(i, "3")}})
		}
	}
}

// drive reads a drive: its inputs are at its own potential, by com or by what it gives for it.
func (p *plan) drive(i int) driven {
	part := &p.c.Parts[i]
	d := driven{part: i, com: -1}
	for _, line := range part.Lines() {
		if part.Has(line) {
			d.lines = append(d.lines, p.node(i, line))
		}
	}
	if part.Has("L1") && part.Has("dc+") && !part.Has("U") { // a front end makes a bus for others
		for _, pole := range []string{"dc+", "dc-"} {
			p.roots = append(p.roots, root{p.node(i, pole), p.own(i, pole)})
		}
	}
	if part.Has("com") {
		d.com = p.node(i, "com")
	}
	for _, side := range []string{"com", "24v", "0v"} {
		if part.Has(side) {
			p.roots = append(p.roots, root{p.node(i, side), p.own(i, side)})
		}
	}
	for _, x := range part.Inputs {
		if n := p.node(i, x.Terminal); n >= 0 {
			if x.Does == "enable" {
				d.enables = append(d.enables, n)
			} else {
				d.commands = append(d.commands, command{n, x.Does})
			}
		}
	}
	for _, t := range part.Terminals {
		if t == "enable" || strings.HasPrefix(t, "sto") {
			d.enables = append(d.enables, p.node(i, t))
		}
	}
	return d
}

// join is a union of nodes, by ranks of none: circuits are small.
type join []int

func newJoin(n int) join {
	j := make(join, n)
	for i := range j {
		j[i] = i
	}
	return j
}

func (j join) find(i int) int {
	for j[i] != i {
		j[i] = j[j[i]]
		i = j[i]
	}
	return i
}

func (j join) unite(a, b int) {
	if a, b = j.find(a), j.find(b); a != b {
		j[b] = a
	}
}

// name is a part by its id, with its name where it has one.
func (p *plan) name(part int) string {
	own := &p.c.Parts[part]
	if own.Name == "" {
		return own.ID
	}
	return fmt.Sprintf("%s, %s", own.ID, own.Name)
}
