package schematic

import (
	"slices"

	"brackmoor/core/circuit"
)

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
		case circuit.CentrifugalSwitch:
			e.draws, e.contact = drawContact, part.Contacts()[0]
			e.left, e.right = p.pinAt(part, "1", 0), p.pinAt(part, "2", 0)
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
