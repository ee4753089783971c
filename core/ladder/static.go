package ladder

import (
	"slices"

	"brackmoor/core/circuit"
)

// static finds what is wrong with a circuit however its contacts stand.
func (p *plan) static(f *found) {
	p.staticWires(f)
	p.staticNeutral(f)
	p.staticProtection(f)
	p.staticBonds(f)
	p.staticBleeds(f)
	p.staticDrives(f)
	p.staticSlash(f)
	p.staticSizes(f)
}

// closedBut joins nodes by all contacts, but those that are left open.
func (p *plan) closedBut(open func(c *contact) bool) *looked {
	x := &looked{join: newJoin(p.nodes), mask: make([]uint64, p.nodes)}
	for i := range p.contacts {
		if c := &p.contacts[i]; c.a >= 0 && c.b >= 0 && !open(c) {
			x.join.unite(c.a, c.b)
		}
	}
	for _, r := range p.roots {
		x.mask[x.join.find(r.node)] |= 1 << r.of
	}
	return x
}

func (p *plan) kindOf(c *contact) circuit.Kind { return p.c.Parts[c.part].Kind }

// live says whether any of some nodes is at a live conductor of the supply.
func (p *plan) live(x *looked, nodes []int) bool {
	return slices.ContainsFunc(nodes, func(n int) bool { return x.at(n)&(1<<line1|1<<line2) != 0 })
}

// guards says whether some lines have no way to the supply but by a part's poles.
func (p *plan) guards(part int, lines []int) bool {
	all := p.closedBut(func(*contact) bool { return false })
	without := p.closedBut(func(c *contact) bool { return c.part == part && c.main })
	return p.live(all, lines) && !p.live(without, lines)
}

// staticWires finds wires that end nowhere.
func (p *plan) staticWires(f *found) {
	uses := map[string]int{}
	for _, w := range p.c.Wires {
		uses[w.From]++
		uses[w.To]++
	}
	for _, w := range p.c.Wires {
		for _, end := range []string{w.From, w.To} {
			part := p.partOf(end)
			switch {
			case !p.c.Ends(end):
				f.say("wire.dangling", nil, nil, "Wire %s ends at %q, which is no terminal here.", w.Number, end)
			case w.From == w.To:
				f.say("wire.dangling", nil, nil, "Wire %s ends where it begins.", w.Number)
			case part >= 0 && p.c.Parts[part].Kind == circuit.Strip && uses[end] < 2:
				f.say(
					"wire.dangling",
					[]int{part},
					nil,
					"Wire %s ends at %s, from where nothing goes on.",
					w.Number,
					end,
				)
			}
		}
	}
}

// partOf is the part of a terminal's name, -1 for a source or for none.
func (p *plan) partOf(end string) int {
	for id, i := range p.index {
		if len(end) > len(id) && end[:len(id)] == id && end[len(id)] == ':' {
			return i
		}
	}
	return -1
}

// staticNeutral finds a neutral that is fused, or switched without its lines, and a protective conductor
// that anything opens.
func (p *plan) staticNeutral(f *found) {
	for i := range p.c.Parts {
		part := &p.c.Parts[i]
		x := p.closedBut(func(c *contact) bool { return c.part == i })
		lines, neutrals, earths := 0, 0, 0
		for k := range p.contacts {
			c := &p.contacts[k]
			if c.part != i || c.a < 0 || c.b < 0 {
				continue
			}
			mask := x.at(c.a) | x.at(c.b)
			switch {
			case mask>>earth&1 == 1 && mask>>firstOwn == 0:
				earths++
			case c.main && mask>>neutral&1 == 1:
				neutrals++
			case c.main && mask&(1<<line1|1<<line2) != 0:
				lines++
			}
		}
		if earths > 0 {
			f.say("wire.no-bond", []int{i}, nil, "%s opens a protective conductor.", p.name(i))
		}
		if neutrals > 0 && (part.Kind == circuit.Fuse || lines == 0) {
			f.say(
				"wire.neutral-fused",
				[]int{i},
				nil,
				"%s stands in the neutral alone: it opens that and leaves the line live.",
				p.name(i),
			)
		}
	}
}

// loads are what takes power: motors and drives by the nodes of their lines.
func (p *plan) loads() (list []turning) {
	list = append(list, p.motors...)
	for _, d := range p.drives {
		list = append(list, turning{part: d.part, lines: d.lines})
	}
	return list
}

// staticProtection finds loads without isolator, breaker or overload before them, and control wires
// without a fuse.
func (p *plan) staticProtection(f *found) {
	all := p.closedBut(func(*contact) bool { return false })
	without := func(kinds ...circuit.Kind) *looked {
		return p.closedBut(func(c *contact) bool { return slices.Contains(kinds, p.kindOf(c)) })
	}
	isolated, protected := without(circuit.Isolator), without(circuit.Fuse, circuit.Breaker)
	overloads := without(circuit.Overload)
	for _, m := range p.loads() {
		if !p.live(all, m.lines) {
			continue // it hangs on what another makes
		}
		part := &p.c.Parts[m.part]
		if p.live(isolated, m.lines) {
			f.say("wire.no-isolator", []int{m.part}, nil, "No isolator opens every line to %s.", p.name(m.part))
		}
		if p.live(protected, m.lines) {
			f.say(
				"wire.no-protection",
				[]int{m.part},
				nil,
				"No breaker or fuse stands in every line to %s.",
				p.name(m.part),
			)
		}
		// A pony motor works for seconds: its breaker may be its protection (NEC 430.33).
		if part.Kind != circuit.Drive && part.Role != circuit.Pony && p.live(overloads, m.lines) {
			f.say("wire.no-overload", []int{m.part}, nil, "No overload stands in every line to %s.", p.name(m.part))
		}
	}
	for _, c := range p.coils {
		if p.live(protected, []int{c.a}) && p.live(protected, []int{c.b}) || p.live(protected, []int{c.a, c.b}) &&
			p.c.Region == circuit.UK {
			f.say(
				"wire.no-protection",
				[]int{c.part},
				nil,
				"No breaker or fuse stands before the coil of %s.",
				p.name(c.part),
			)
		}
	}
}

// staticBonds finds exposed parts that are not joined to the protective conductor by wires alone.
func (p *plan) staticBonds(f *found) {
	bonded := map[int]bool{}
	for _, r := range p.roots {
		if r.of == earth {
			bonded[r.node] = true
		}
	}
	for i := range p.c.Parts {
		if part := &p.c.Parts[i]; part.Exposed() && !bonded[p.node(i, "PE")] {
			f.say("wire.no-bond", []int{i}, nil, "The case of %s is not joined to the protective conductor.", p.name(i))
		}
	}
}

// staticBleeds finds capacitors that nothing discharges which stays joined to them.
func (p *plan) staticBleeds(f *found) {
	for i := range p.c.Parts {
		if p.c.Parts[i].Kind != circuit.Capacitor {
			continue
		}
		a, b := p.node(i, "1"), p.node(i, "2")
		bled := slices.ContainsFunc(p.c.Parts, func(r circuit.Part) bool {
			if r.Kind != circuit.Bleed {
				return false
			}
			k := p.index[r.ID]
			from, to := p.node(k, "1"), p.node(k, "2")
			return from == a && to == b || from == b && to == a
		})
		if !bled {
			f.say("wire.no-bleed", []int{i}, nil, "Nothing discharges %s that stays joined to it.", p.name(i))
		}
	}
}

// staticDrives finds contacts between a drive and its motor, but those of an isolator whose early-break
// contact stands in the drive's enable.
func (p *plan) staticDrives(f *found) {
	wired := p.closedBut(func(*contact) bool { return true })
	for _, d := range p.drives {
		part := &p.c.Parts[d.part]
		var outputs []int
		for _, t := range []string{"U", "V", "W"} {
			if part.Has(t) {
				outputs = append(outputs, p.node(d.part, t))
			}
		}
		for i := range p.contacts {
			c := &p.contacts[i]
			if !c.main || c.a < 0 || c.b < 0 || p.kindOf(c) == circuit.Overload {
				continue
			}
			if !slices.ContainsFunc(
				outputs,
				func(n int) bool { return wired.together(n, c.a) || wired.together(n, c.b) },
			) {
				continue
			}
			if p.kindOf(c) == circuit.Isolator && p.breaksEnable(c.part, d) {
				continue
			}
			f.say("wire.switched-behind-drive", []int{c.part, d.part}, nil,
				"%s stands between %s and its motor: opened or closed under power it kills the drive.", p.name(c.part),
				p.name(d.part))
		}
	}
}

// breaksEnable says whether an auxiliary contact of a part stands in a drive's enable.
func (p *plan) breaksEnable(part int, d driven) bool {
	without := p.closedBut(func(c *contact) bool { return c.part == part && !c.main })
	all := p.closedBut(func(*contact) bool { return false })
	return slices.ContainsFunc(d.enables, func(n int) bool {
		return d.com >= 0 && all.together(n, d.com) && !without.together(n, d.com)
	})
}

// staticSlash finds breakers rated 120/240 V on a made leg.
func (p *plan) staticSlash(f *found) {
	all := p.closedBut(func(*contact) bool { return false })
	for i := range p.contacts {
		c := &p.contacts[i]
		if !p.c.Parts[c.part].Slash || c.a < 0 {
			continue
		}
		for _, m := range p.motors {
			if m.of == none {
				continue
			}
			for _, line := range m.lines {
				if all.together(line, c.a) && all.at(line)&(1<<line1|1<<line2|1<<neutral) == 0 {
					f.say("wire.slash", []int{c.part}, nil,
						"%s is rated 120/240 V; the made leg stands near 208 V to earth.", p.name(c.part))
				}
			}
		}
	}
}
