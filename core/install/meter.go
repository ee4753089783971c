package install

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
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
		case circuit.Potentiometer:
			add(p, "1", "3", "the potentiometer "+p.ID, p.Ohms)
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
