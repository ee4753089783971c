package ladder

import (
	"math"
	"slices"

	"brackmoor/core/circuit"
)

// state is a circuit at rest between two events. Times are in milliseconds.
type state struct {
	supply  bool
	hands   []uint8 // position of each thing that a hand moves, 0 at rest
	tripped []bool  // by parts
	in      []bool  // by coils
	done    []bool  // of timers, by coils: its delayed contacts have moved
	left    []int32 // of timers, by coils: until they move; -1 for not under way
	turns   []uint8 // of motors: standing, rising, up
	rises   []int32 // of motors: until they are up, or an idler that was spun stands; -1 for not under way
	spun    []bool  // of motors: brought up by a pony motor
	drives  []uint8 // running: not, forward, reverse
	armed   []bool  // of drives: it has seen its commands open since it has volts
	dead    []bool  // of motors and then drives: it was dropped, and nobody has pressed a start since
}

// What a motor does.
const (
	standing = iota
	rising
	upToSpeed
)

// What a drive does.
const (
	still = iota
	forward
	reverse
)

// first is a circuit with its supply on and nobody at it.
func (p *plan) first() *state {
	parts, coils, motors, drives := len(p.c.Parts), len(p.coils), len(p.motors), len(p.drives)
	s := &state{
		supply: true, hands: make([]uint8, len(p.hand)), tripped: make([]bool, parts), in: make([]bool, coils),
		done: make([]bool, coils), left: make([]int32, coils), turns: make([]uint8, motors),
		rises: make([]int32, motors), spun: make([]bool, motors), drives: make([]uint8, drives),
		armed: make([]bool, drives), dead: make([]bool, motors+drives),
	}
	for i := range s.left {
		s.left[i] = -1
	}
	for i := range s.rises {
		s.rises[i] = -1
	}
	for i := range s.dead {
		s.dead[i] = true
	}
	return s
}

func (s *state) clone() *state {
	c := *s
	c.hands, c.tripped = append([]uint8{}, s.hands...), append([]bool{}, s.tripped...)
	c.in, c.done = append([]bool{}, s.in...), append([]bool{}, s.done...)
	c.left, c.turns = append([]int32{}, s.left...), append([]uint8{}, s.turns...)
	c.rises, c.spun = append([]int32{}, s.rises...), append([]bool{}, s.spun...)
	c.drives, c.armed = append([]uint8{}, s.drives...), append([]bool{}, s.armed...)
	c.dead = append([]bool{}, s.dead...)
	return &c
}

// key tells states apart.
func (s *state) key() string {
	b := make([]byte, 0, 64)
	flag := func(list ...bool) {
		for _, v := range list {
			if v {
				b = append(b, 1)
			} else {
				b = append(b, 0)
			}
		}
	}
	number := func(list []int32) {
		for _, v := range list {
			b = append(b, byte(v), byte(v>>8), byte(v>>16))
		}
	}
	flag(s.supply)
	b = append(append(append(b, s.hands...), s.turns...), s.drives...)
	flag(s.tripped...)
	flag(s.in...)
	flag(s.done...)
	flag(s.spun...)
	flag(s.armed...)
	flag(s.dead...)
	number(s.left)
	number(s.rises)
	return string(b)
}

// looked is what a state is made of once its contacts are as they are: which nodes are one, and at which
// potentials, a bit each.
type looked struct {
	join    join
	mask    []uint64 // by the node that stands for those that are one
	live    uint64   // potentials that have volts
	motors  []bool   // that have volts on two lines at least
	drives  []bool   // that have volts
	enabled []bool   // of drives
}

func (x *looked) at(node int) uint64 { return x.mask[x.join.find(node)] }

// together says whether nodes are one.
func (x *looked) together(a, b int) bool { return x.join.find(a) == x.join.find(b) }

// closed says whether a contact is closed in a state.
func (p *plan) closed(c *contact, s *state) bool {
	part := &p.c.Parts[c.part]
	welded := p.fault.kind == welded && p.fault.of == c.part
	switch part.Kind {
	case circuit.Isolator, circuit.Breaker, circuit.Fuse:
		return c.main || !c.closed // they are switched on
	case circuit.Overload:
		return c.main || c.closed != s.tripped[c.part]
	case circuit.BrakeResistor:
		return c.closed
	case circuit.Drive:
		return s.drives[p.driveOf(c.part)] != still
	case circuit.CentrifugalSwitch:
		return welded || !p.isUp(part.Of, s)
	case circuit.PushButton, circuit.EmergencyStop, circuit.GuardSwitch, circuit.Selector, circuit.Interlock:
		position := p.position(c.part, s)
		if part.Kind == circuit.Selector {
			return c.closed != (position > 0 && c.mark == string(rune('0'+position)))
		}
		return c.closed != (position > 0)
	}
	i := p.coilOf(c.part)
	if i < 0 {
		return c.closed
	}
	moved := s.in[i]
	if part.Kind == circuit.Timer && c.delayed {
		moved = s.done[i]
	}
	if welded { // its armature stays in, and so its other contacts; a start contact stays closed
		if part.Kind == circuit.PotentialRelay {
			return c.closed
		}
		moved = true
	}
	return c.closed != moved
}

// position is where a hand has put a part.
func (p *plan) position(part int, s *state) int {
	if p.fault.kind == stuck && p.fault.of == part {
		return 1
	}
	for i, h := range p.hand {
		if h.part == part {
			return int(s.hands[i])
		}
	}
	return 0
}

// driveOf is the place of a drive among those of the circuit.
func (p *plan) driveOf(part int) int {
	return slices.IndexFunc(p.drives, func(d driven) bool { return d.part == part })
}

// isUp says whether a motor is up, by its part's id.
func (p *plan) isUp(id string, s *state) bool {
	for i, m := range p.motors {
		if p.c.Parts[m.part].ID == id {
			return s.turns[i] == upToSpeed
		}
	}
	return false
}

func (p *plan) coilOf(part int) int {
	for i, c := range p.coils {
		if c.part == part {
			return i
		}
	}
	return -1
}

// look finds the potentials of a state's nodes.
func (p *plan) look(s *state) *looked {
	x := &looked{
		join: newJoin(p.nodes), mask: make([]uint64, p.nodes), motors: make([]bool, len(p.motors)),
		drives: make([]bool, len(p.drives)), enabled: make([]bool, len(p.drives)),
	}
	for i := range p.contacts {
		if c := &p.contacts[i]; c.a >= 0 && c.b >= 0 && p.closed(c, s) {
			x.join.unite(c.a, c.b)
		}
	}
	for _, r := range p.roots {
		x.mask[x.join.find(r.node)] |= 1 << r.of
	}
	if s.supply {
		x.live = 1<<line1 | 1<<line2 | 1<<neutral | 1<<earth
		if p.fault.kind == lineLost {
			x.live &^= 1 << line2
			if p.c.Region == circuit.UK {
				x.live &^= 1 << line1
			}
		}
	}
	for range 3 { // transformers and idlers stand one behind the other at most so deep
		p.give(s, x)
	}
	for i, m := range p.motors {
		x.motors[i] = p.energised(x, m.lines)
	}
	for i := range p.drives {
		d := &p.drives[i]
		x.drives[i] = p.energised(x, d.lines)
		x.enabled[i] = x.drives[i]
		for _, n := range d.enables {
			x.enabled[i] = x.enabled[i] && d.com >= 0 && x.together(n, d.com)
		}
	}
	return x
}

// give makes live what parts give by themselves, as far as what feeds them is.
func (p *plan) give(s *state, x *looked) {
	for k, o := range p.owned {
		of := firstOwn + potential(k)
		switch o.side {
		case "X1", "X2":
			if p.between(x, p.node(o.part, "H1"), p.node(o.part, "H2")) > 0 {
				x.live |= 1 << of
			}
		case "com", "24v", "0v", "dc+", "dc-":
			for i := range p.drives {
				if p.drives[i].part == o.part && p.energised(x, p.drives[i].lines) {
					x.live |= 1 << of
				}
			}
		case "made":
			for i, m := range p.motors {
				if m.part != o.part || s.turns[i] != upToSpeed || !p.energised(x, m.lines) {
					continue
				}
				x.live |= 1 << of
				for _, n := range m.lines {
					if x.at(n)&(1<<line1|1<<line2|1<<neutral) == 0 {
						x.mask[x.join.find(n)] |= 1 << of
					}
				}
			}
		}
	}
}

// between are the volts between two nodes, the most of their potentials; 0 where one has none.
func (p *plan) between(x *looked, a, b int) (most float64) {
	if a < 0 || b < 0 {
		return 0
	}
	from, to := x.at(a)&x.live, x.at(b)&x.live
	if x.together(a, b) {
		return 0
	}
	for i := line1; i < firstOwn+potential(len(p.owned)); i++ {
		for k := line1; k < firstOwn+potential(len(p.owned)); k++ {
			if from>>i&1 == 1 && to>>k&1 == 1 {
				most = math.Max(most, p.volts(i, k))
			}
		}
	}
	return most
}

// volts are those between two potentials.
func (p *plan) volts(a, b potential) float64 {
	if a > b {
		a, b = b, a
	}
	v := p.c.SupplyVolts()
	toNeutral := v
	if p.c.Region == circuit.US {
		toNeutral = v / 2
	}
	switch {
	case a == b:
		return 0
	case a == line1 && b == line2:
		return v
	case a <= line2 && (b == neutral || b == earth):
		return toNeutral
	case a < firstOwn && b < firstOwn: // neutral to earth
		return 0
	case a < firstOwn:
		switch p.owned[b-firstOwn].side {
		case "made":
			if a > line2 {
				return v * math.Sqrt(3) / 2
			}
			return v
		}
		return 0 // a side of a transformer floats against the supply
	}
	from, to := p.owned[a-firstOwn], p.owned[b-firstOwn]
	switch part := &p.c.Parts[from.part]; {
	case from.part != to.part:
		return 0
	case part.Kind == circuit.ControlTransformer:
		return part.Secondary
	case from.side == "24v" && to.side == "0v":
		return 24
	case from.side == "dc+" && to.side == "dc-":
		return math.Sqrt2 * v
	}
	return 0
}

// energised says whether there are volts between any two of some nodes.
func (p *plan) energised(x *looked, nodes []int) bool {
	for i, a := range nodes {
		for _, b := range nodes[:i] {
			if p.between(x, a, b) > 0 {
				return true
			}
		}
	}
	return false
}
