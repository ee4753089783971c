package ladder_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"brackmoor/core/circuit"
	"brackmoor/core/ladder"
)

// relays is a random circuit of buttons and relays alone: each wire joins two of its terminals.
func relays(t *rapid.T) circuit.Circuit {
	c := circuit.Circuit{Format: circuit.Format, Region: circuit.US, Sources: []circuit.Source{{ID: "L1"}, {ID: "L2"}}}
	ends := []string{"L1", "L2"}
	for i := range rapid.IntRange(1, 3).Draw(t, "buttons") {
		p := circuit.Part{ID: fmt.Sprint("S", i), Kind: circuit.PushButton, Terminals: []string{"11", "12", "13", "14"}}
		c.Parts = append(c.Parts, p)
	}
	for i := range rapid.IntRange(1, 4).Draw(t, "relays") {
		c.Parts = append(c.Parts, circuit.Part{ID: fmt.Sprint("K", i), Kind: circuit.Relay, CoilVolts: 240,
			Terminals: []string{"A1", "A2", "13", "14", "21", "22"}})
	}
	for _, p := range c.Parts {
		for _, terminal := range p.Terminals {
			ends = append(ends, p.ID+":"+terminal)
		}
	}
	for i := range rapid.IntRange(4, 2*len(ends)).Draw(t, "wires") {
		c.Wires = append(c.Wires, circuit.Wire{
			Number: fmt.Sprint(i + 1), Class: circuit.Control, From: rapid.SampledFrom(ends).Draw(t, "from"),
			To: rapid.SampledFrom(ends).Draw(t, "to"),
		})
	}
	return c
}

// plain is such a circuit evaluated by walking from terminal to terminal: what is pressed, and which
// relays are in.
type plain struct {
	c       circuit.Circuit
	pressed map[string]bool
	in      map[string]bool
	supply  bool
}

// reaches says whether a walk from a source by wires and closed contacts comes to a terminal.
func (p *plain) reaches(source, end string) bool {
	seen, queue := map[string]bool{source: true}, []string{source}
	for len(queue) > 0 {
		at := queue[0]
		queue = queue[1:]
		if at == end {
			return true
		}
		next := func(from, to string) {
			if from == at && !seen[to] {
				seen[to] = true
				queue = append(queue, to)
			}
		}
		for _, w := range p.c.Wires {
			next(w.From, w.To)
			next(w.To, w.From)
		}
		for _, part := range p.c.Parts {
			moved := p.pressed[part.ID] || p.in[part.ID]
			pairs := [][3]string{{"11", "12", "closed"}, {"21", "22", "closed"}, {"13", "14", "open"}}
			for _, pair := range pairs {
				if (pair[2] == "closed") != moved {
					next(part.ID+":"+pair[0], part.ID+":"+pair[1])
					next(part.ID+":"+pair[1], part.ID+":"+pair[0])
				}
			}
		}
	}
	return false
}

// rest moves relays together until none moves any more; false where that never comes.
func (p *plain) rest() bool {
	for range 60 {
		next := map[string]bool{}
		same := true
		for _, part := range p.c.Parts {
			if part.Kind != circuit.Relay {
				continue
			}
			a1, a2 := part.ID+":A1", part.ID+":A2"
			volts := p.reaches("L1", a1) && p.reaches("L2", a2) || p.reaches("L2", a1) && p.reaches("L1", a2)
			next[part.ID] = volts && p.supply && !p.reaches(a1, a2)
			same = same && next[part.ID] == p.in[part.ID]
		}
		if p.in = next; same {
			return true
		}
	}
	return false
}

func (p *plain) key() (key string) {
	for _, part := range p.c.Parts {
		key += fmt.Sprint(p.pressed[part.ID], p.in[part.ID], " ")
	}
	return key + fmt.Sprint(p.supply)
}

// reach counts the states that come of pressing, letting go, and losing the supply, no more than two of
// those at a time.
func reach(c circuit.Circuit) (states int, restless bool) {
	known := map[string]bool{}
	var queue []*plain
	arrive := func(p *plain) {
		rests := p.rest()
		restless = restless || !rests
		if rests && !known[p.key()] {
			known[p.key()] = true
			queue = append(queue, p)
		}
	}
	arrive(&plain{c: c, pressed: map[string]bool{}, in: map[string]bool{}, supply: true})
	for at := 0; at < len(queue); at++ {
		from := queue[at]
		out := 0
		for _, pressed := range from.pressed {
			if pressed {
				out++
			}
		}
		if !from.supply {
			out++
		}
		other := func(change func(*plain)) {
			to := &plain{c: c, pressed: map[string]bool{}, in: map[string]bool{}, supply: from.supply}
			for id, v := range from.pressed {
				to.pressed[id] = v
			}
			for id, v := range from.in {
				to.in[id] = v
			}
			change(to)
			arrive(to)
		}
		for _, part := range c.Parts {
			if part.Kind == circuit.PushButton && (from.pressed[part.ID] || out < 2) {
				other(func(p *plain) { p.pressed[part.ID] = !p.pressed[part.ID] })
			}
		}
		if !from.supply || out < 2 {
			other(func(p *plain) { p.supply = !p.supply })
		}
	}
	return len(known), restless
}

// Random circuits of relays come to as many states by a plain walk from terminal to terminal.
func TestLadderAgainstAPlainWalk(t *testing.T) {
	rested := 0
	rapid.Check(t, func(t *rapid.T) {
		c := relays(t)
		want, restless := reach(c)
		got, chatters := ladder.Reach(&c, true)
		assert.Equal(t, restless, chatters)
		if !restless {
			rested++
			assert.Equal(t, want, got)
		}
	})
	assert.Positive(t, rested)
}
