package ladder

import (
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/rule"
)

// Check is what was found in a circuit: how many states it has, sound and with each single fault, and
// which rules they break, the gravest first. Whole is false where there were too many to look at all.
type Check struct {
	States     int         `json:"states"`
	Whole      bool        `json:"whole"`
	Violations []Violation `json:"violations" nullable:"false"`
}

// mostStates is how many states of a circuit are looked at, mostOfAFault of one with a fault, and mostInAll
// with all faults together.
const (
	mostStates   = 40_000
	mostOfAFault = 6_000
	mostInAll    = 150_000
)

// Search looks at every state that a circuit can be brought to, and then at those with one thing
// broken.
func Search(c *circuit.Circuit) Check {
	out := Check{Violations: []Violation{}}
	p := newPlan(c, fault{}, false)
	f := &found{p: p, seen: map[string]bool{}}
	p.static(f)
	out.States, out.Whole = p.search(f, mostStates)
	out.Violations = append(out.Violations, f.list...)
	sound := f.seen
	for _, broken := range faults(c) {
		if out.States > mostInAll {
			out.Whole = false
			break
		}
		p := newPlan(c, broken, false)
		f := &found{p: p, seen: map[string]bool{}}
		for key := range sound { // what happens without it needs no fault
			f.seen[key] = true
		}
		states, whole := p.search(f, mostOfAFault)
		out.States, out.Whole = out.States+states, out.Whole && whole
		out.Violations = append(out.Violations, f.list...)
	}
	slices.SortStableFunc(out.Violations, func(a, b Violation) int { return weight(a) - weight(b) })
	return out
}

func weight(v Violation) int {
	w := 2 * slices.Index([]rule.Severity{rule.Stop, rule.Caution, rule.Note}, v.Severity)
	if v.Fault != nil {
		w++
	}
	return w
}

// way is how a state was come to.
type way struct {
	from  int
	words []string
}

// search goes through the states by breadth, so that the first way to one is a shortest.
func (p *plan) search(f *found, most int) (states int, whole bool) {
	first := p.first()
	var ways []way
	trace := func(at int) func() []string {
		return func() (words []string) {
			words = []string{}
			for ; at >= 0; at = ways[at].from {
				words = append(append([]string{}, ways[at].words...), words...)
			}
			return words
		}
	}
	known := map[string]bool{}
	queue := []*state{}
	arrive := func(s *state, from int, words []string) {
		at := len(ways)
		x, moved, restless := p.settle(s, func(x *looked, moved []string) {
			p.passing(f, s, x, func() []string {
				return slices.Concat(trace(from)(), words, moved)
			})
		})
		key := s.key()
		if known[key] && !restless {
			return
		}
		known[key] = true
		ways = append(ways, way{from, append(slices.Clone(words), moved...)})
		if restless {
			queue = append(queue, nil)
			f.say("wire.chatters", nil, trace(at), "Its relays find no rest: each one’s move brings on the next.")
			return
		}
		p.judge(f, s, x, trace(at))
		p.remember(s, x)
		if after := s.key(); after != key {
			if known[after] {
				queue = append(queue, nil)
				return
			}
			known[after] = true
		}
		queue = append(queue, s)
	}
	arrive(first, -1, nil)
	for at := 0; at < len(queue); at++ {
		if queue[at] == nil {
			continue
		}
		if len(known) > most {
			return len(known), false
		}
		for _, e := range p.events(queue[at]) {
			to, words := p.happen(queue[at], e)
			arrive(to, at, words)
		}
	}
	return len(known), true
}

// remember notes what was dropped, and what somebody has started again since.
func (p *plan) remember(s *state, x *looked) {
	if !p.out(s) && p.wanted(s) {
		clear(s.dead)
	}
	for i, on := range p.runs(s, x) {
		s.dead[i] = s.dead[i] || !on && p.dropped(s, i)
	}
}

// stops says whether a thing that a hand moves stops a part, while it is out of its rest.
func (p *plan) stops(h hand, part int) bool {
	own := &p.c.Parts[h.part]
	switch own.Kind {
	case circuit.Interlock:
		if own.Function == circuit.Starting {
			return false
		}
	case circuit.EmergencyStop, circuit.GuardSwitch:
	default:
		if own.Function != "stop" {
			return false
		}
	}
	return len(own.Stops) == 0 || slices.Contains(own.Stops, p.c.Parts[part].ID)
}

// holds says whether a thing that stops does: it is out of its rest, and so is the whole set of an interlock, whose
// machines may run beside this one but for all at once.
func (p *plan) holds(s *state, k int) bool {
	own := &p.c.Parts[p.hand[k].part]
	if own.Kind != circuit.Interlock {
		return s.hands[k] > 0
	}
	for i, h := range p.hand {
		other := &p.c.Parts[h.part]
		if other.Kind == circuit.Interlock && other.Function == own.Function && s.hands[i] == 0 {
			return false
		}
	}
	return true
}

// out says whether anything that stops something is out of its rest.
func (p *plan) out(s *state) bool {
	for i := range p.motors {
		if p.dropped(s, i) {
			return true
		}
	}
	for i := range p.drives {
		if p.dropped(s, len(p.motors)+i) {
			return true
		}
	}
	return false
}

// dropped says whether something is out of its rest that drops a motor or drive, by its place in runs, so
// that it is not to come back by itself.
func (p *plan) dropped(s *state, i int) bool {
	if !s.supply {
		return true
	}
	part := p.partAt(i)
	for k := range p.hand {
		if p.holds(s, k) && p.stops(p.hand[k], part) {
			return true
		}
	}
	for o, tripped := range s.tripped {
		if tripped && i < len(p.motors) && p.guarded[o][i] {
			return true
		}
	}
	return false
}
