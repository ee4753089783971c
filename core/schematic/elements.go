package schematic

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
)

// shows says on which sheet a terminal of a part is drawn.
func (p *plan) shows(part *circuit.Part, mark string) Sheet {
	switch part.Kind {
	case circuit.Motor, circuit.SinglePhaseMotor, circuit.Capacitor, circuit.Bleed, circuit.StartBox,
		circuit.PotentialRelay:
		return Power
	case circuit.Drive:
		if slices.Contains(drivePower, mark) {
			return Power
		}
	case circuit.BrakeResistor:
		if mark != "95" && mark != "96" {
			return Power
		}
	case circuit.Isolator, circuit.Breaker, circuit.Contactor, circuit.Overload, circuit.Transformer:
		if len(mark) == 1 || mark == "PE" {
			return Power
		}
	case circuit.Fuse, circuit.Receptacle, circuit.Strip:
		for _, w := range p.c.Wires {
			if (w.Class == circuit.Power || w.Class == circuit.Made) &&
				(part.Owns(w.From) || part.Owns(w.To)) {
				return Power
			}
		}
	}
	return Control
}

// drivePower are the terminals of a drive that carry power.
var drivePower = []string{"L1", "L2", "dc+", "dc-", "U", "V", "W", "PE"}

// elsewhere are the ends of a net that the sheet does not draw, but sources.
func (p *plan) elsewhere(net int) (ends []string) {
	for _, end := range p.nets[net].Ends {
		id, mark, of := strings.Cut(end, ":")
		if part := p.c.Part(id); of && part != nil && p.shows(part, mark) != p.sheet {
			ends = append(ends, end)
		}
	}
	return ends
}

// add puts an element in, where anything is joined to it.
func (p *plan) add(e *element) {
	if len(e.left)+len(e.right) > 0 {
		p.elements = append(p.elements, e)
	}
}

// pinAt is that of a terminal in a row; none for one that nothing is joined to.
func (p *plan) pinAt(part *circuit.Part, mark string, row int) []pin {
	if net, ok := p.joined(part, mark); ok {
		return []pin{{net, mark, row}}
	}
	return nil
}

// titled is what stands above a part: its id with its rating, and its name.
func titled(part *circuit.Part) []string {
	id := part.ID
	switch {
	case part.Kind == circuit.Capacitor:
		name := part.Made()
		if part.Volts > 0 {
			name = strings.TrimSpace(fmt.Sprintf("%s %.0f V", name, part.Volts))
		}
		return named(fmt.Sprintf("%s %s µF", part.ID, quantity.Figures(part.Microfarad, 3)), name)
	case part.Kind == circuit.Timer && part.Seconds > 0:
		id += fmt.Sprintf(" %s s", quantity.Figures(part.Seconds, 2))
	case part.Kind == circuit.ControlTransformer && part.Secondary > 0:
		id += fmt.Sprintf(" %.0f V", part.Secondary)
		if part.VA > 0 {
			return named(id, quantity.Figures(part.VA, 3)+" VA")
		}
	case part.Amps > 0:
		id += fmt.Sprintf(" %s A", quantity.Figures(part.Amps, 3))
	}
	return named(id, part.Name)
}

// contactTitle is what stands above a contact: the ratings stand at its coil or poles.
func contactTitle(part *circuit.Part) []string {
	if part.Kind == circuit.Timer || part.Kind == circuit.Fuse {
		return titled(part)
	}
	return named(part.ID, part.Name)
}

// named is an id with a name on as many lines as it takes, two at most.
func named(id, name string) []string {
	const most = 14
	lines := []string{id}
	line := ""
	for _, word := range strings.Fields(name) {
		if line != "" && len([]rune(line+" "+word)) > most {
			lines = append(lines, line)
			line = ""
		}
		line = strings.TrimSpace(line + " " + word)
	}
	if line != "" {
		lines = append(lines, line)
	}
	if len(lines) > 3 {
		lines = append(lines[:3:3], "")[:3]
		lines[2] += " …"
	}
	for i, l := range lines {
		if r := []rune(l); len(r) > most {
			lines[i] = string(r[:most-1]) + "…"
		}
	}
	return lines
}

// powerElements are those of the power sheet: the supply, poles from line side to load side, and what they feed.
func (p *plan) powerElements() {
	supply := &element{draws: drawSource, label: []string{"Supply"}}
	for _, s := range p.c.Sources {
		if net, ok := p.netOf[s.ID]; ok {
			supply.right = append(supply.right, pin{net, s.ID, len(supply.right)})
		}
	}
	p.add(supply)
	bled := map[string]bool{} // bleeds that are drawn with their capacitor
	for i := range p.c.Parts {
		part := &p.c.Parts[i]
		e := &element{part: part, draws: drawBox, label: titled(part)}
		switch part.Kind {
		case circuit.Isolator, circuit.Breaker, circuit.Contactor, circuit.Overload, circuit.Fuse:
			if part.Kind == circuit.Fuse && p.shows(part, "1") != Power {
				continue
			}
			e.draws = drawPoles
			row := 0
			for _, c := range part.Contacts() {
				if !c.Main {
					continue
				}
				from, to := p.pinAt(part, c.From, row), p.pinAt(part, c.To, row)
				e.left, e.right = append(e.left, from...), append(e.right, to...)
				if len(from)+len(to) > 0 {
					row++
				}
			}
		case circuit.Transformer:
			e.left = p.pins(part, "1", "3", "PE")
			for row, mark := range []string{"2", "4"} {
				e.right = append(e.right, p.pinAt(part, mark, row)...)
			}
		case circuit.Motor, circuit.SinglePhaseMotor:
			e.draws, e.left = drawMotor, p.pins(part, append(part.Lines(), "PE")...)
		case circuit.Drive:
			in := append(part.Lines(), "PE")
			e.left = p.pins(part, in...)
			for _, mark := range []string{"U", "V", "W", "dc+", "dc-"} {
				if net, ok := p.joined(part, mark); ok && !slices.Contains(in, mark) {
					e.right = append(e.right, pin{net, mark, len(e.right)})
				}
			}
		case circuit.Capacitor:
			e.draws, e.left = drawCapacitor, p.pins(part, "1", "2")
			for k := range p.c.Parts {
				if r := &p.c.Parts[k]; r.Kind == circuit.Bleed && !bled[r.ID] && p.beside(part, r) {
					bled[r.ID] = true
					e.draws, e.label = drawBledCapacitor, append(titled(part), r.ID+" bleed")
					break
				}
			}
		case circuit.Bleed:
			if bled[part.ID] {
				continue
			}
			e.draws, e.left = drawResistor, p.pins(part, "1", "2")
		case circuit.BrakeResistor:
			e.draws, e.left = drawResistor, p.pins(part, "1", "2", "PE")
		case circuit.PotentialRelay:
			e.left = p.pins(part, "5", "1", "2")
		case circuit.StartBox:
			e.left = p.pins(part, "1", "2", "3")
		case circuit.Receptacle, circuit.Strip:
			if p.shows(part, "") == Power {
				e.left = p.pins(part, part.Terminals...)
			}
		default:
			continue
		}
		p.add(e)
	}
	p.references(Control, nil)
}

// beside says whether a bleed hangs across a capacitor.
func (p *plan) beside(part, bleed *circuit.Part) bool {
	ends := func(of *circuit.Part) (pair [2]int) {
		for i, mark := range []string{"1", "2"} {
			if net, ok := p.joined(of, mark); ok {
				pair[i] = net + 1
			}
		}
		slices.Sort(pair[:])
		return pair
	}
	return ends(part) == ends(bleed)
}

// references say where nets of the sheet go on: those that feed it begin its rows, the others end them.
func (p *plan) references(other Sheet, feeds func(net int) bool) {
	drawn := map[int]bool{}
	for _, e := range p.elements {
		for _, x := range append(append([]pin{}, e.left...), e.right...) {
			drawn[x.net] = true
		}
	}
	for net := range p.nets {
		ends := p.elsewhere(net)
		if p.sheet == Control {
			for _, s := range p.c.Sources {
				if p.nets[net].Has(s.ID) {
					ends = append([]string{s.ID}, ends...)
				}
			}
		}
		if !drawn[net] || len(ends) == 0 {
			continue
		}
		e := &element{draws: drawReference}
		if feeds != nil && feeds(net) {
			e.label = named(ends[0], "from "+string(other))
			e.right = []pin{{net, "", 0}}
		} else {
			e.label = named(ends[0], "in "+string(other))
			e.left = []pin{{net, "", 0}}
		}
		p.elements = append(p.elements, e)
	}
}

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
				case t == "com":
					coms = append(coms, &element{
						part: part, draws: drawReference, label: named(part.ID+":com", "gives the volts"),
						right: []pin{{net, t, 0}},
					})
				default:
					own.left = append(own.left, pin{net, t, len(own.left)})
				}
			}
			p.add(own)
			continue
		case circuit.Receptacle, circuit.Strip:
			if p.shows(part, "") == Control {
				p.add(&element{part: part, draws: drawBox, label: titled(part), left: p.pins(part, part.Terminals...)})
			}
			continue
		}
		for _, c := range part.Contacts() {
			if p.shows(part, c.From) != Control {
				continue
			}
			from, to := p.pinAt(part, c.From, 0), p.pinAt(part, c.To, 0)
			if len(from) > 0 && len(to) > 0 && far.after(from[0].net, to[0].net) {
				from, to = to, from
			}
			p.add(&element{part: part, draws: drawContact, contact: c, label: contactTitle(part), left: from,
				right: to})
		}
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
