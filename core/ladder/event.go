package ladder

import (
	"fmt"

	"brackmoor/core/circuit"
)

// kind is what happens to a circuit.
type kind uint8

const (
	time  kind = iota // the next of what is under way comes about
	move              // a hand puts something into a position
	trip              // an overload opens
	reset             // and is reset
	lose              // the supply's volts go
	back              // and come back
)

// event is something that happens: of is the thing that a hand moves, or a part.
type event struct {
	kind kind
	of   int
	to   uint8
}

// fault is one thing that is broken all along.
type fault struct {
	kind faultKind
	of   int // part, or wire
}

type faultKind uint8

const (
	sound    faultKind = iota
	welded             // a contactor's poles, and its armature with them; a start contact
	coilOpen           // it never pulls in
	stuck              // a start button stays pressed
	wireOff            // a wire of control has come off
	lineLost           // one line of the supply is missing
)

// faults are those that are looked at, one by one.
func faults(c *circuit.Circuit) (list []fault) {
	for i := range c.Parts {
		switch p := &c.Parts[i]; p.Kind {
		case circuit.Contactor, circuit.Relay, circuit.PotentialRelay:
			list = append(list, fault{welded, i}, fault{coilOpen, i})
		case circuit.CentrifugalSwitch:
			list = append(list, fault{welded, i})
		case circuit.Timer:
			list = append(list, fault{coilOpen, i})
		case circuit.PushButton:
			if p.Function == "start" || p.Function == "reset" {
				list = append(list, fault{stuck, i})
			}
		}
	}
	for i, w := range c.Wires {
		if w.Class == circuit.Control || w.Class == circuit.LowVoltage {
			list = append(list, fault{wireOff, i})
		}
	}
	return append(list, fault{lineLost, 0})
}

// words are a fault in a few of them.
func (p *plan) words(f fault) string {
	switch f.kind {
	case welded:
		return p.c.Parts[f.of].ID + " welded"
	case coilOpen:
		return p.c.Parts[f.of].ID + ", its coil open"
	case stuck:
		return p.c.Parts[f.of].ID + " stuck pressed"
	case wireOff:
		return "wire " + p.c.Wires[f.of].Number + " off"
	case lineLost:
		return "one line lost"
	}
	return ""
}

// events are what can happen in a state. No more than two things are out of their rest at a time, of
// hands, overloads and the supply; more hands at once are not looked at.
func (p *plan) events(s *state) (list []event) {
	out := 0
	for _, h := range s.hands {
		if h > 0 {
			out++
		}
	}
	for _, t := range s.tripped {
		if t {
			out++
		}
	}
	if !s.supply {
		out++
	}
	const most = 2
	_, moving := p.due(s)
	if moving {
		list = append(list, event{kind: time})
	}
	for i, h := range p.hand {
		if s.hands[i] > 0 {
			list = append(list, event{move, i, 0})
		} else if p.keepsOff(i) && (p.fault.kind != sound || !s.supply || moving) {
			continue // one that is still in as the converter starts is a fault of its own
		}
		for to := 1; to <= h.positions && (out < most || s.hands[i] > 0); to++ {
			if int(s.hands[i]) != to {
				list = append(list, event{move, i, uint8(to)})
			}
		}
	}
	for i := range p.c.Parts {
		if p.c.Parts[i].Kind != circuit.Overload {
			continue
		}
		if s.tripped[i] {
			list = append(list, event{kind: reset, of: i})
		} else if out < most {
			list = append(list, event{kind: trip, of: i})
		}
	}
	switch {
	case !s.supply:
		list = append(list, event{kind: back})
	case out < most:
		list = append(list, event{kind: lose})
	}
	return list
}

// due is the shortest time that is under way in a state, -1 for none.
func (p *plan) due(s *state) (ms int32, any bool) {
	ms = -1
	for _, list := range [][]int32{s.left, s.rises} {
		for _, t := range list {
			if t >= 0 && (ms < 0 || t < ms) {
				ms = t
			}
		}
	}
	return ms, ms >= 0
}

// happen is the state after an event, and the event in words.
func (p *plan) happen(s *state, e event) (to *state, words []string) {
	to = s.clone()
	switch e.kind {
	case time:
		return to, p.pass(to)
	case move:
		h := p.hand[e.of]
		part := &p.c.Parts[h.part]
		to.hands[e.of] = e.to
		words = []string{p.moved(part, int(e.to), p.name(h.part))}
		if e.to > 0 && starts(part) {
			clear(to.dead) // somebody wants it
		}
	case trip, reset:
		to.tripped[e.of] = e.kind == trip
		words = []string{p.name(e.of) + " " + pick(e.kind == trip, "trips", "is reset")}
	case lose, back:
		to.supply = e.kind == back
		for i := range p.hand {
			if p.keepsOff(i) {
				to.hands[i] = 0 // their contactors drop with it
			}
		}
		words = []string{pick(to.supply, "the volts come back", "the volts are lost")}
	}
	return to, words
}

// keepsOff says whether a hand moves other machines, which only keep things from starting.
func (p *plan) keepsOff(hand int) bool {
	part := &p.c.Parts[p.hand[hand].part]
	return part.Kind == circuit.Interlock && part.Function == circuit.Starting
}

// starts says whether somebody who moves a part out of its rest wants something to run.
func starts(part *circuit.Part) bool {
	switch part.Kind {
	case circuit.Selector:
		return part.Function != "preset"
	case circuit.PushButton:
		return part.Function != "stop" && part.Function != "reset"
	}
	return false
}

func (p *plan) moved(part *circuit.Part, to int, name string) string {
	switch part.Kind {
	case circuit.EmergencyStop:
		return pick(to > 0, "strike ", "release ") + name
	case circuit.GuardSwitch:
		return pick(to > 0, "open ", "shut ") + name
	case circuit.Interlock:
		if part.Function == circuit.Starting {
			return pick(to > 0, "switched in: ", "switched off: ") + part.Name
		}
		return part.Name + pick(to > 0, " runs", " has stopped")
	case circuit.Selector:
		return fmt.Sprintf("turn %s to %d", name, to)
	}
	return pick(to > 0, "press ", "let go of ") + name
}

// pass lets the shortest time that is under way pass.
func (p *plan) pass(s *state) (words []string) {
	ms, _ := p.due(s)
	for i := range s.left {
		if s.left[i] < 0 {
			continue
		}
		if s.left[i] -= ms; s.left[i] > 0 {
			continue
		}
		s.left[i] = -1
		off := p.c.Parts[p.coils[i].part].Delay == "off"
		s.done[i] = !off
		words = append(words, p.name(p.coils[i].part)+" has run out")
	}
	for i := range s.rises {
		if s.rises[i] < 0 {
			continue
		}
		if s.rises[i] -= ms; s.rises[i] > 0 {
			continue
		}
		s.rises[i] = -1
		name := p.name(p.motors[i].part)
		if s.turns[i] != rising {
			s.spun[i] = false
			words = append(words, name+" stands")
			continue
		}
		s.turns[i] = upToSpeed
		words = append(words, name+" is up")
		if p.c.Parts[p.motors[i].part].Role == circuit.Pony {
			for k, m := range p.motors {
				if p.c.Parts[m.part].Role == circuit.Idler {
					s.spun[k] = true
				}
			}
		}
	}
	return words
}
