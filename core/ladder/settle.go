package ladder

import (
	"fmt"
	"slices"

	"brackmoor/core/circuit"
)

// mostMoves is how often relays may follow one another until they are at rest.
const mostMoves = 60

// settle lets contacts, coils and motors follow one another until they rest, and says what moved.
// Restless is a circuit that finds no rest. What it passes through is shown to passing.
func (p *plan) settle(s *state, passing func(*looked, []string)) (x *looked, moved []string, restless bool) {
	for range mostMoves {
		x = p.look(s)
		passing(x, moved)
		words := p.step(s, x)
		if words == nil {
			return x, moved, false
		}
		moved = append(moved, words...)
	}
	return x, moved, true
}

// step moves once all that the present volts move; nil where nothing does.
func (p *plan) step(s *state, x *looked) (words []string) {
	say := func(format string, args ...any) { words = append(words, fmt.Sprintf(format, args...)) }
	in := make([]bool, len(p.coils))
	for i, c := range p.coils {
		in[i] = p.pulls(s, x, i)
		if in[i] == s.in[i] {
			continue
		}
		switch p.c.Parts[c.part].Kind {
		case circuit.Lamp:
		case circuit.Timer:
			say("%s %s", p.name(c.part), pick(in[i], "begins to run", "has no volts"))
		default:
			say("%s %s", p.name(c.part), pick(in[i], "pulls in", "drops"))
		}
	}
	for i, c := range p.coils {
		switch p.c.Parts[c.part].Kind {
		case circuit.Timer:
			p.time(s, i, in[i])
		case circuit.SafetyRelay:
			if w := p.watch(s, x, i); w != "" {
				say("%s", w)
			}
		}
	}
	copy(s.in, in)
	for i := range p.motors {
		if m := p.turn(s, x, i); m != "" {
			say("%s", m)
		}
	}
	for i := range p.drives {
		if d := p.run(s, x, i); d != "" {
			say("%s", d)
		}
	}
	return words
}

func pick(yes bool, a, b string) string {
	if yes {
		return a
	}
	return b
}

// pulls says whether a coil has volts enough to pull its armature.
func (p *plan) pulls(s *state, x *looked, i int) bool {
	c := p.coils[i]
	part := &p.c.Parts[c.part]
	if p.fault.kind == coilOpen && p.fault.of == c.part {
		return false
	}
	if part.Kind == circuit.PotentialRelay {
		return p.sees(s, x, i)
	}
	if part.Kind == circuit.SafetyRelay && !p.channels(x, c.part) {
		return false
	}
	const enough = 0.6 // of its volts, or it does not pull in
	got := p.between(x, c.a, c.b)
	if !(got > 0 && got >= enough*part.CoilVolts) {
		return false
	}
	return part.Kind != circuit.SafetyRelay || s.in[i] || s.done[i] && p.reset(x, c.part)
}

// sees says whether a potential relay pulls, by the volts that stand at the made leg of the motor that it hangs on:
// what the model says of it, or simply once that is up.
func (p *plan) sees(s *state, x *looked, i int) bool {
	c := p.coils[i]
	relay := &p.c.Parts[c.part]
	for k, m := range p.motors {
		if !x.motors[k] || !slices.ContainsFunc(m.lines, func(n int) bool {
			return x.together(n, c.a) || x.together(n, c.b)
		}) {
			continue
		}
		made := p.c.Parts[m.part].MadeVolts
		switch up := s.turns[k] == upToSpeed; {
		case made == nil || relay.PickUpVolts == 0:
			return up
		case s.in[i] && up:
			return made.Running >= relay.DropOutVolts
		case up:
			return made.CutOut >= relay.PickUpVolts
		default:
			return made.Standing >= relay.PickUpVolts
		}
	}
	return false
}

// channels says whether both channels of a safety relay are closed, and reset whether its reset is.
func (p *plan) channels(x *looked, part int) bool {
	return p.bridged(x, part, "S11", "S12") && p.bridged(x, part, "S21", "S22")
}

func (p *plan) reset(x *looked, part int) bool { return p.bridged(x, part, "S33", "S34") }

// bridged says whether two terminals of a part are joined from outside.
func (p *plan) bridged(x *looked, part int, from, to string) bool {
	a, b := p.node(part, from), p.node(part, to)
	return a >= 0 && b >= 0 && x.together(a, b)
}

// watch notes of a safety relay that its reset has been seen open with both channels closed: one that is stuck, or
// bridged, never brings it in again.
func (p *plan) watch(s *state, x *looked, i int) (words string) {
	c := p.coils[i]
	seen := p.channels(x, c.part) && p.between(x, c.a, c.b) > 0 && (s.done[i] || !p.reset(x, c.part))
	if seen == s.done[i] {
		return ""
	}
	s.done[i] = seen
	return p.name(c.part) + pick(seen, " may be reset", " wants a reset")
}

// time sets a timer going by its coil.
func (p *plan) time(s *state, i int, volts bool) {
	part := &p.c.Parts[p.coils[i].part]
	ms := p.ms[p.coils[i].part]
	if part.Delay == "off" {
		switch {
		case volts:
			s.done[i], s.left[i] = true, -1
		case s.in[i]:
			s.left[i] = ms
		}
		return
	}
	switch {
	case !volts:
		s.done[i], s.left[i] = false, -1
	case !s.in[i]:
		s.left[i] = ms
	}
}

// turn moves a motor by the volts on it, and says how.
func (p *plan) turn(s *state, x *looked, i int) string {
	m := p.motors[i]
	part := &p.c.Parts[m.part]
	switch on := x.motors[i]; {
	case on && s.turns[i] == standing && (part.Role != circuit.Idler || p.starts(s, x, i)):
		s.turns[i], s.rises[i] = rising, p.ms[m.part]
		if part.Role == circuit.Pony {
			p.catch(s)
		}
		return p.name(m.part) + " begins to turn"
	case on && s.turns[i] == rising && part.Role == circuit.Idler && !p.starts(s, x, i):
		s.turns[i], s.rises[i] = standing, -1
		return p.name(m.part) + " hums and stands: what starts it has left too soon"
	case !on && s.turns[i] != standing:
		s.turns[i], s.rises[i] = standing, -1
		if part.Role == circuit.Pony {
			p.coast(s)
		}
		return p.name(m.part) + " has no volts and runs down"
	}
	return ""
}

// coast lets idlers turn on for a while that a pony motor has spun.
func (p *plan) coast(s *state) {
	for i, m := range p.motors {
		if p.c.Parts[m.part].Role == circuit.Idler && s.spun[i] && s.turns[i] == standing {
			s.rises[i] = p.coasts
		}
	}
}

// catch keeps an idler from coming to rest that a pony motor drives again.
func (p *plan) catch(s *state) {
	for i, m := range p.motors {
		if p.c.Parts[m.part].Role == circuit.Idler && s.turns[i] == standing {
			s.rises[i] = -1
		}
	}
}

// starts says whether an idler on two lines comes up: by what starts it, by a pony motor that spun it,
// or by hand where its circuit has neither.
func (p *plan) starts(s *state, x *looked, i int) bool {
	if s.spun[i] {
		return true
	}
	helped := len(p.caps) > 0
	for _, c := range p.caps {
		if c.across(x, p.motors[i].lines) {
			return true
		}
	}
	for _, m := range p.motors {
		helped = helped || p.c.Parts[m.part].Role == circuit.Pony
	}
	return !helped
}

// run moves a drive by its commands, and says how. One that gets volts with a command closed waits for
// it to open first, since its restart after a loss is off.
func (p *plan) run(s *state, x *looked, i int) string {
	d := &p.drives[i]
	wanted, stops, pulse := uint8(still), false, false
	for _, c := range d.commands {
		closed := d.com >= 0 && x.together(c.node, d.com)
		switch c.does {
		case "forward", "run":
			if closed && wanted == still {
				wanted = forward
			}
		case "reverse":
			if closed {
				wanted = reverse
			}
		case "stop":
			pulse = true
			stops = stops || !closed
		}
	}
	was := s.drives[i]
	switch {
	case !x.enabled[i]:
		s.armed[i], s.drives[i] = false, still
	case wanted == still:
		s.armed[i] = true
		if !pulse || stops {
			s.drives[i] = still
		}
	case s.armed[i] && !stops:
		s.drives[i] = wanted
	case stops:
		s.drives[i], s.armed[i] = still, false
	}
	if s.drives[i] == was {
		return ""
	}
	return p.name(d.part) + " " + []string{"stops", "runs forward", "runs in reverse"}[s.drives[i]]
}

// across says whether a start part is joined to two of a motor's lines.
func (c *cap) across(x *looked, lines []int) bool {
	met := 0
	for _, n := range c.nodes {
		if slices.ContainsFunc(lines, func(line int) bool { return x.together(n, line) }) {
			met++
		}
	}
	return met >= 2
}
