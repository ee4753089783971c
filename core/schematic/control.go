package schematic

import (
	"slices"

	"brackmoor/core/circuit"
)

// controlElements are those of the control sheet: contacts from the side that feeds, coils and lamps at its end, and
// what stands before them.
func (p *plan) controlElements() {
	far := p.distances()
	var coms []*element
	for i := range p.c.Parts {
		part := &p.c.Parts[i]
		switch part.Kind {
		case circuit.ControlTransformer:
			e := &element{part: part, draws: drawBox, label: titled(part), left: p.pins(part, "H1", "H2")}
			e.right = p.pins(part, "X1", "X2")
			p.add(e)
			continue
		case circuit.Drive:
			own := &element{part: part, draws: drawBox, label: titled(part), end: true}
			for _, t := range part.Terminals {
				net, ok := p.joined(part, t)
				switch {
				case !ok || p.shows(part, t) != Control:
				case t == "com" || t == "24v":
					coms = append(coms, &element{
						part: part, draws: drawReference, label: named(p.c.Marked(part.ID+":"+t), "gives the volts"),
						right: []pin{{net, t, 0}},
					})
				default:
					own.left = append(own.left, pin{net, t, len(own.left)})
				}
			}
			p.add(own)
			continue
		case circuit.Potentiometer:
			p.add(&element{part: part, draws: drawBox, label: titled(part), right: p.pins(part, "3", "2", "1")})
			continue
		case circuit.SafetyRelay:
			own := &element{part: part, draws: drawBox, label: titled(part), end: true}
			own.left = p.pins(part, "A1", "A2", "S11", "S12", "S21", "S22", "S33", "S34")
			p.add(own)
			p.contactsOf(part, far)
			continue
		case circuit.Receptacle, circuit.Strip:
			if p.shows(part, "") == Control {
				p.add(&element{part: part, draws: drawBox, label: titled(part), left: p.pins(part, part.Terminals...)})
			}
			continue
		}
		p.contactsOf(part, far)
		if from, to, ok := part.Coil(); ok && p.shows(part, from) == Control {
			x, y := p.pinAt(part, from, 0), p.pinAt(part, to, 0)
			if len(x) > 0 && len(y) > 0 && far.back[x[0].net] && !far.back[y[0].net] {
				x, y = y, x
			}
			draws := drawCoil
			if part.Kind == circuit.Lamp {
				draws = drawLamp
			}
			p.add(&element{part: part, draws: draws, label: titled(part), left: x, right: y, end: true})
		}
	}
	feeds := func(net int) bool { return !p.ends(net) }
	p.references(Power, feeds)
	p.elements = append(coms, p.elements...)
	slices.SortStableFunc(p.elements, func(a, b *element) int { return begins(a) - begins(b) })
}

// contactsOf adds those of a part that stand on the sheet, each fed from the left.
func (p *plan) contactsOf(part *circuit.Part, far *distance) {
	for _, c := range part.Contacts() {
		if p.shows(part, c.From) != Control {
			continue
		}
		from, to := p.pinAt(part, c.From, 0), p.pinAt(part, c.To, 0)
		if len(from) > 0 && len(to) > 0 && far.after(from[0].net, to[0].net) {
			from, to = to, from
		}
		p.add(&element{part: part, draws: drawContact, contact: c, label: contactTitle(part), left: from, right: to})
	}
}

// begins orders what feeds a sheet before the rest.
func begins(e *element) int {
	if e.draws == drawReference && len(e.right) > 0 {
		return 0
	}
	return 1
}

// ends says whether a net is one to which coils go back, or the protective conductor.
func (p *plan) ends(net int) bool {
	if p.nets[net].Has("PE") {
		return true
	}
	return slices.ContainsFunc(p.elements, func(e *element) bool {
		return e.end && slices.ContainsFunc(e.right, func(x pin) bool { return x.net == net })
	})
}

// distance is how far nets are from what feeds them, in contacts, and which are on the side that goes back.
type distance struct {
	far  []int
	back []bool
}

// after says whether a contact is drawn from the second of its nets to the first: what feeds stands left.
func (d *distance) after(a, b int) bool {
	if d.back[a] && d.back[b] && d.far[a] > 0 && d.far[b] > 0 {
		return d.far[a] < d.far[b]
	}
	return d.far[a] > d.far[b]
}

// distances goes out from the supply, the secondary sides of transformers and what drives give.
func (p *plan) distances() *distance {
	d := &distance{make([]int, len(p.nets)), make([]bool, len(p.nets))}
	const none = 1 << 20
	for i := range d.far {
		d.far[i] = none
	}
	var queue []int
	reach := func(net, far int, back bool) {
		if d.far[net] == none {
			d.far[net], d.back[net] = far, back
			queue = append(queue, net)
		}
	}
	begin := func(end string, back bool) {
		if net, ok := p.netOf[end]; ok {
			reach(net, 0, back)
		}
	}
	for _, s := range []string{"L1", "L"} {
		begin(s, false)
	}
	for _, s := range []string{"L2", "N", "PE"} {
		begin(s, true)
	}
	for i := range p.c.Parts {
		part := &p.c.Parts[i]
		switch part.Kind {
		case circuit.ControlTransformer:
			begin(part.ID+":X1", false)
			begin(part.ID+":X2", true)
		case circuit.Drive:
			begin(part.ID+":com", false)
			begin(part.ID+":24v", false)
			begin(part.ID+":0v", true)
		case circuit.SafetyRelay: // each channel and the reset go out from one terminal and come back to another
			for _, mark := range []string{":S11", ":S21", ":S33"} {
				begin(part.ID+mark, false)
			}
		}
	}
	for len(queue) > 0 {
		net := queue[0]
		queue = queue[1:]
		for i := range p.c.Parts {
			part := &p.c.Parts[i]
			for _, c := range part.Contacts() {
				a, okA := p.joined(part, c.From)
				b, okB := p.joined(part, c.To)
				if !okA || !okB || a != net && b != net {
					continue
				}
				step := 1
				if c.Main && part.Kind != circuit.Fuse {
					step = 0 // a pole of the power sheet
				}
				reach(a+b-net, d.far[net]+step, d.back[net])
			}
		}
	}
	return d
}
