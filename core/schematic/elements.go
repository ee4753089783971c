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
		circuit.PotentialRelay, circuit.CentrifugalSwitch:
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
