package ladder

import (
	"math"
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// section is what wires join that no fuse, breaker or overload parts: what goes through each of its wires is at most
// what all that hangs on it takes.
type section struct {
	exits []exit
	loose bool // something takes power from it that no overload limits
}

// exit is a pole of a protective part to another section.
type exit struct {
	part, to int
	amps     float64 // infinite where they are not known
}

// sizing holds the sections of a circuit, by the roots of their nodes.
type sizing struct {
	p        *plan
	x        *looked
	sections map[int]*section
	guards   map[int]*looked // what is joined without a protective part's poles
	all      *looked
	code     supply.Code
}

// protects says whether a part keeps amps below what it is set to or made for.
func protects(part *circuit.Part) bool {
	return part.Kind == circuit.Fuse || part.Kind == circuit.Breaker || part.Kind == circuit.Overload
}

// staticSizes finds wires of supply and made leg that carry less than what protects them lets through.
func (p *plan) staticSizes(f *found) {
	z := p.sizing()
	for _, w := range p.c.Wires {
		node, known := p.at[w.From]
		carries := w.Amps
		if carries == 0 {
			carries = z.code.OfSize(w.Size)
		}
		if !known || carries == 0 || w.Class == circuit.LowVoltage || w.Class == circuit.Protective {
			continue
		}
		if part, amps := z.tooMuch(&w, node, carries); part >= 0 {
			f.say("wire.conductor", []int{part}, nil,
				"Wire %s, %s, carries %s A; %s lets %s A through, and nothing else keeps it below.", w.Number, w.Size,
				quantity.Figures(carries, 3), p.name(part), quantity.Figures(amps, 3))
		}
	}
}

// sizing finds the sections, with everything closed but what protects, and what would reverse.
func (p *plan) sizing() *sizing {
	back := func(c *contact) bool { return p.c.Parts[c.part].Function == "reverse" }
	parts := func(c *contact) bool { return c.main && protects(&p.c.Parts[c.part]) }
	hertz := 60.0
	if p.c.Region == circuit.UK {
		hertz = 50
	}
	z := &sizing{
		p: p, sections: map[int]*section{}, guards: map[int]*looked{}, code: supply.CodeOf(hertz, nil),
		x:   p.closedBut(func(c *contact) bool { return back(c) || parts(c) }),
		all: p.closedBut(back),
	}
	for i := range p.contacts {
		c := &p.contacts[i]
		if !parts(c) || c.a < 0 || c.b < 0 {
			continue
		}
		amps := p.c.Parts[c.part].Amps
		if amps == 0 {
			amps = math.Inf(1)
		}
		for _, ends := range [][2]int{{c.a, c.b}, {c.b, c.a}} {
			s := z.section(ends[0])
			s.exits = append(s.exits, exit{c.part, z.x.join.find(ends[1]), amps})
		}
		if z.guards[c.part] == nil {
			z.guards[c.part] = p.closedBut(func(k *contact) bool { return back(k) || k.main && k.part == c.part })
		}
	}
	for _, m := range p.loads() {
		for _, n := range m.lines {
			z.section(n).loose = true
		}
	}
	return z
}

func (z *sizing) section(node int) *section {
	root := z.x.join.find(node)
	if z.sections[root] == nil {
		z.sections[root] = &section{}
	}
	return z.sections[root]
}

// takes is the most that what hangs on a section draws through it, in amps, beside what comes in by some parts.
func (z *sizing) takes(root int, from []int, seen map[int]bool) (amps float64) {
	seen[root] = true
	s := z.sections[root]
	if s == nil {
		return 0
	}
	if s.loose {
		return math.Inf(1)
	}
	for _, e := range s.exits {
		if !slices.Contains(from, e.part) && !seen[e.to] {
			amps += min(e.amps, z.takes(e.to, append(slices.Clone(from), e.part), seen))
		}
	}
	return amps
}

// fed says whether a node is at a conductor of the supply, a neutral too.
func fed(x *looked, node int) bool { return x.at(node)&(1<<line1|1<<line2|1<<neutral) != 0 }

// tooMuch is the part that lets more through than a wire carries, and how many amps; -1 where none does.
func (z *sizing) tooMuch(w *circuit.Wire, node int, carries float64) (part int, amps float64) {
	limit := carries
	const small = 15                                    // amps of the thinnest that circuits are wired with
	if z.p.c.Region == circuit.US && carries >= small { // the next standard one (NEC 240.4(B))
		limit, _ = z.code.Next(carries)
	}
	root := z.x.join.find(node)
	switch {
	case w.Class != circuit.Control && !fed(z.all, node):
		if part, amps = z.driveTooMuch(node, limit); part >= 0 {
			return part, amps
		}
		return z.leastTooMuch(root, limit)
	case !fed(z.all, node), w.Class == circuit.Control && !z.p.live(z.all, []int{node}):
		return -1, 0 // what goes back from coils, or is a transformer's or a drive's
	}
	part, amps = -1, math.Inf(1)
	var before []int
	overload := math.Inf(1)
	for i, without := range z.guards {
		if fed(without, node) {
			continue
		}
		before = append(before, i)
		switch own := z.p.c.Parts[i].Amps; {
		case own == 0:
		case z.p.c.Parts[i].Kind == circuit.Overload:
			overload = min(overload, own)
		case own < amps:
			part, amps = i, own
		}
	}
	behind := min(overload, z.takes(root, before, map[int]bool{}))
	// A motor's breaker is at most four times its amps, and its wire carries 125 percent of them (NEC 430.52, 430.22).
	switch short := rule.Limit("wire.conductor", "short_factor"); {
	case part >= 0 && amps <= limit, behind <= carries && amps <= short*carries:
		return -1, 0
	case part < 0: // ahead of the first, which the shop's own circuit protects
		if behind <= limit || math.IsInf(behind, 1) {
			return -1, 0
		}
		return z.largest(root), behind
	case z.taps(w, limit) && amps <= rule.Limit("wire.conductor", "tap_factor")*carries:
		return -1, 0
	}
	return part, amps
}

// driveTooMuch is the drive whose output a node is, where that is too much.
func (z *sizing) driveTooMuch(node int, limit float64) (part int, amps float64) {
	for _, d := range z.p.drives {
		for _, t := range []string{"U", "V", "W"} {
			if n := z.p.node(d.part, t); n >= 0 && z.all.together(n, node) && z.p.c.Parts[d.part].Amps > limit {
				return d.part, z.p.c.Parts[d.part].Amps
			}
		}
	}
	return -1, 0
}

// leastTooMuch is the least of what parts a section of a made leg or a bus from others, where that is too much.
func (z *sizing) leastTooMuch(root int, limit float64) (part int, amps float64) {
	part, amps = -1, math.Inf(1)
	if s := z.sections[root]; s != nil {
		for _, e := range s.exits {
			if e.amps < amps {
				part, amps = e.part, e.amps
			}
		}
	}
	if amps <= limit {
		part = -1
	}
	return part, amps
}

// largest is the part with the most amps at a section, -1 where there is none.
func (z *sizing) largest(root int) (part int) {
	part, most := -1, 0.0
	for _, e := range z.sections[root].exits {
		if !math.IsInf(e.amps, 1) && e.amps > most {
			part, most = e.part, e.amps
		}
	}
	return part
}

// taps says whether a wire goes straight to a fuse that it can bear.
func (z *sizing) taps(w *circuit.Wire, limit float64) bool {
	return slices.ContainsFunc([]string{w.From, w.To}, func(end string) bool {
		i := z.p.partOf(end)
		return i >= 0 && z.p.c.Parts[i].Kind == circuit.Fuse && z.p.c.Parts[i].Amps > 0 && z.p.c.Parts[i].Amps <= limit
	})
}
