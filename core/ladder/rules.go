package ladder

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/rule"
)

// Violation is a rule that a circuit breaks: which parts, the shortest way there in words, and what was
// broken for it, nil for nothing.
type Violation struct {
	Rule     string        `json:"rule"`
	Severity rule.Severity `json:"severity"`
	Parts    []string      `json:"parts" nullable:"false"`
	Says     string        `json:"says" told:"figures"`
	Trace    []string      `json:"trace" nullable:"false"`
	Fault    *string       `json:"fault"`
}

// under says whether a rule must hold with such a thing broken, too. What nothing guards against in an
// ordinary circuit is left out: a motor that runs on with its contactor welded, which the isolator stops, or
// an idler that hums because what starts it is broken, which no timer sees.
var under = map[string][]faultKind{
	"wire.short":                  {welded, coilOpen, wireOff, lineLost},
	"wire.both-directions":        {welded, coilOpen, wireOff, lineLost},
	"wire.load-before-converter":  {welded},
	"wire.load-left-in":           {coilOpen, wireOff, lineLost},
	"wire.restarts":               {coilOpen, wireOff, lineLost},
	"wire.stop-does-not-drop":     {coilOpen, stuck, wireOff, lineLost},
	"wire.overload-does-not-drop": {coilOpen, stuck, wireOff, lineLost},
	"wire.interlock":              {coilOpen, stuck, wireOff, lineLost},
	"wire.start-capacitor-stays":  {welded},
	"wire.pony-with-idler":        {coilOpen, wireOff},
}

// found gathers what a search finds, each once for its parts.
type found struct {
	p    *plan
	list []Violation
	seen map[string]bool
}

// say keeps that a rule is broken by parts.
func (f *found) say(id string, parts []int, trace func() []string, format string, args ...any) {
	if f.p.fault.kind != sound && !slices.Contains(under[id], f.p.fault.kind) {
		return
	}
	names := []string{}
	for _, i := range parts {
		if name := f.p.c.Parts[i].ID; !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	key := id + " " + strings.Join(names, " ")
	if f.seen[key] {
		return
	}
	f.seen[key] = true
	v := Violation{
		Rule: id, Severity: rule.Get(id).Severity, Parts: names, Says: fmt.Sprintf(format, args...), Trace: []string{},
	}
	if trace != nil {
		v.Trace = trace()
	}
	if f.p.fault.kind != sound {
		v.Fault = new(f.p.words(f.p.fault))
		if id != "wire.short" && id != "wire.both-directions" {
			v.Severity = rule.Caution
		}
	}
	f.list = append(f.list, v)
}

// passing holds what a circuit passes through on its way to rest to the rules that know no moment of grace.
func (p *plan) passing(f *found, s *state, x *looked, trace func() []string) {
	p.judgeShorts(f, x, trace)
	p.judgeDirections(f, s, trace)
}

// judge holds a settled state to the rules.
func (p *plan) judge(f *found, s *state, x *looked, trace func() []string) {
	_, moving := p.due(s)
	p.judgeCoils(f, x, trace)
	p.judgeLoads(f, s, x, trace)
	p.judgeStarts(f, s, x, !moving, trace)
	p.judgeStops(f, s, x, trace)
}

// judgeShorts finds two potentials on one node. A side of a transformer or of a drive's own supply may
// be earthed.
func (p *plan) judgeShorts(f *found, x *looked, trace func() []string) {
	for n := range p.nodes {
		if x.join.find(n) != n {
			continue
		}
		mask := x.mask[n]
		if mask>>firstOwn != 0 && mask>>firstOwn&(mask>>firstOwn-1) == 0 {
			mask &^= 1 << earth
		}
		if mask&(mask-1) == 0 {
			continue
		}
		names := []string{}
		for of := line1; of < firstOwn+potential(len(p.owned)); of++ {
			if mask>>of&1 == 1 {
				names = append(names, p.potentialName(of))
			}
		}
		f.say("wire.short", p.shorting(x, n), trace, "%s are bridged.", strings.Join(names, " and "))
	}
}

// shorting are the parts with closed contacts on a node, which bridge it.
func (p *plan) shorting(x *looked, node int) (parts []int) {
	for i := range p.contacts {
		c := &p.contacts[i]
		switch p.c.Parts[c.part].Kind {
		case circuit.Contactor, circuit.Relay, circuit.Timer, circuit.Selector, circuit.PushButton:
			if c.a >= 0 && c.b >= 0 && x.join.find(c.a) == node && x.join.find(c.b) == node && c.a != c.b {
				parts = append(parts, c.part)
			}
		}
	}
	return parts
}

func (p *plan) potentialName(of potential) string {
	if of >= firstOwn {
		o := p.owned[of-firstOwn]
		if o.side == "made" {
			return "the made leg of " + p.c.Parts[o.part].ID
		}
		return p.c.Parts[o.part].ID + ":" + o.side
	}
	if of == line1 && p.c.Region == circuit.UK {
		return "L"
	}
	return map[potential]string{line1: "L1", line2: "L2", neutral: "N", earth: "PE"}[of]
}

// judgeCoils holds coils and lamps to their volts, and keeps them off a made leg.
func (p *plan) judgeCoils(f *found, x *looked, trace func() []string) {
	for _, c := range p.coils {
		part := &p.c.Parts[c.part]
		if part.Kind == circuit.PotentialRelay {
			continue
		}
		for _, m := range p.motors {
			if m.of != none && (x.at(c.a)>>m.of&1 == 1 || x.at(c.b)>>m.of&1 == 1) {
				f.say(
					"wire.coil-on-made-leg",
					[]int{c.part},
					trace,
					"%s hangs on the made leg: it sags at every start, and stands off when the idler stops.",
					p.name(c.part),
				)
			}
		}
		const least, most = 0.85, 1.1 // IEC 60947-4-1, 8.2.1.2
		if got := p.between(x, c.a, c.b); got > 0 && part.CoilVolts > 0 &&
			(got < least*part.CoilVolts || got > most*part.CoilVolts) {
			f.say("wire.coil-volts", []int{c.part}, trace, "%s is for %.0f V and gets %.0f.", p.name(c.part),
				part.CoilVolts, got)
		}
	}
}

// hangs says whether a motor's lines are one with an idler's, two of them at least.
func hangs(x *looked, machine, idler *turning) bool {
	met := 0
	for _, a := range machine.lines {
		for _, b := range idler.lines {
			if x.together(a, b) {
				met++
				break
			}
		}
	}
	return met >= 2
}

// judgeLoads keeps loads off a converter that is not up, and drops them with it.
func (p *plan) judgeLoads(f *found, s *state, x *looked, trace func() []string) {
	for i := range p.motors {
		idler := &p.motors[i]
		if idler.of == none {
			continue
		}
		for k := range p.hand {
			if p.keepsOff(k) && s.hands[k] > 0 && x.motors[i] && s.rises[i] == p.ms[idler.part] &&
				s.turns[i] == rising {
				other := p.hand[k].part
				f.say("wire.load-before-converter", []int{other, idler.part}, trace,
					"%s begins with another machine on its lines: %s.", p.name(idler.part), p.c.Parts[other].Name)
			}
		}
		for k := range p.motors {
			m := &p.motors[k]
			if p.c.Parts[m.part].Role != circuit.Machine && p.c.Parts[m.part].Role != "" || !hangs(x, m, idler) {
				continue
			}
			switch {
			case x.motors[i] && s.turns[i] != upToSpeed:
				f.say(
					"wire.load-before-converter",
					[]int{m.part, idler.part},
					trace,
					"%s is on the lines while %s is not up: it hums on two of them.",
					p.name(m.part),
					p.name(idler.part),
				)
			case !x.motors[i]:
				f.say("wire.load-left-in", []int{m.part, idler.part}, trace,
					"%s has dropped and %s is still switched in: it comes on with it at the next start.",
					p.name(idler.part), p.name(m.part))
			}
		}
	}
}

// judgeStarts looks at what starts an idler or a motor: it leaves, and stays out; and at directions.
func (p *plan) judgeStarts(f *found, s *state, x *looked, rests bool, trace func() []string) {
	for _, c := range p.caps {
		for i := range p.motors {
			m := &p.motors[i]
			if !c.across(x, m.lines) || !x.motors[i] || s.turns[i] != upToSpeed || !rests || p.wanted(s) {
				continue
			}
			if p.c.Parts[c.part].Kind == circuit.StartBox {
				f.say("wire.start-box-returns", []int{c.part}, trace,
					"%s is in the circuit while %s runs: it comes in again when a load slows it.", p.name(c.part),
					p.name(m.part))
				continue
			}
			f.say("wire.start-capacitor-stays", []int{c.part}, trace,
				"%s stays in with %s up: it is made for seconds and bursts.", p.name(c.part), p.name(m.part))
		}
	}
	for i, m := range p.motors {
		if m.of != none && x.motors[i] && s.turns[i] == standing && rests && !p.starts(s, x, i) {
			f.say("wire.idler-hums", []int{m.part}, trace,
				"%s stands humming on two lines: what starts it has left, or never came in.", p.name(m.part))
		}
		pony := &p.c.Parts[m.part]
		if pony.Role != circuit.Pony || pony.WithIdler || !x.motors[i] {
			continue
		}
		for k, other := range p.motors {
			if other.of != none && x.motors[k] {
				f.say("wire.pony-with-idler", []int{m.part, other.part}, trace,
					"%s still drives while %s is on the lines.", p.name(m.part), p.name(other.part))
			}
		}
	}
}

// judgeDirections finds contactors of both directions that are in together.
func (p *plan) judgeDirections(f *found, s *state, trace func() []string) {
	for i, a := range p.coils {
		for k, b := range p.coils[:i] {
			one, two := &p.c.Parts[a.part], &p.c.Parts[b.part]
			opposed := one.Function == "forward" && two.Function == "reverse" ||
				one.Function == "reverse" && two.Function == "forward"
			if opposed && p.in(s, i) && p.in(s, k) {
				f.say("wire.both-directions", []int{b.part, a.part}, trace, "%s and %s are in together.",
					p.name(b.part), p.name(a.part))
			}
		}
	}
}

// wanted says whether a start button is held.
func (p *plan) wanted(s *state) bool {
	for i, h := range p.hand {
		if part := &p.c.Parts[h.part]; part.Kind == circuit.PushButton && starts(part) && s.hands[i] > 0 {
			return true
		}
	}
	return false
}

// in says whether a part's armature is in, by its coil or because it is welded.
func (p *plan) in(s *state, i int) bool {
	return s.in[i] || p.fault.kind == welded && p.fault.of == p.coils[i].part
}

// runs are the motors and then the drives that turn in a state, without what is started by hand.
func (p *plan) runs(s *state, x *looked) []bool {
	list := append([]bool{}, x.motors...)
	for i := range p.drives {
		list = append(list, s.drives[i] != still)
	}
	return list
}

// partAt is the part of such a place of runs.
func (p *plan) partAt(i int) int {
	if i < len(p.motors) {
		return p.motors[i].part
	}
	return p.drives[i-len(p.motors)].part
}

// judgeStops holds what stops to what it must stop, and sees that nothing starts again by itself.
func (p *plan) judgeStops(f *found, s *state, x *looked, trace func() []string) {
	runs := p.runs(s, x)
	for i, on := range runs {
		if on && s.dead[i] && !p.wanted(s) {
			f.say("wire.restarts", []int{p.partAt(i)}, trace, "%s comes on and nobody has pressed start.",
				p.name(p.partAt(i)))
		}
	}
	for i, h := range p.hand {
		for k, on := range runs {
			if !p.holds(s, i) || !on || !p.stops(h, p.partAt(k)) {
				continue
			}
			if p.c.Parts[h.part].Kind == circuit.Interlock {
				f.say("wire.interlock", []int{h.part, p.partAt(k)}, trace, "%s runs beside %s.",
					p.c.Parts[p.partAt(k)].ID, p.c.Parts[h.part].Name)
				continue
			}
			f.say("wire.stop-does-not-drop", []int{h.part, p.partAt(k)}, trace, "%s is out and %s runs on.",
				p.name(h.part), p.c.Parts[p.partAt(k)].ID)
		}
	}
	for o, tripped := range s.tripped {
		if !tripped {
			continue
		}
		for k, m := range p.motors {
			if x.motors[k] && p.guarded[o][k] {
				f.say("wire.overload-does-not-drop", []int{o, m.part}, trace, "%s has tripped and %s runs on.",
					p.name(o), p.name(m.part))
			}
		}
	}
}
