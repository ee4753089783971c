// Package schematic lays a circuit out: a sheet of its power and one of its control, each made of the circuit's own
// parts and wires, so that a drawing cannot say anything else than the wire list.
//
// Parts stand in columns, by how far they are from the supply, and in bands, one below the other; what joins them runs
// level in the rows of a band and upright in the channels between columns. Words stand above the row that they belong
// to and within a column, where no wire goes.
package schematic

import (
	"brackmoor/core/circuit"
	"brackmoor/core/wiring"
)

// Sheet is what a drawing shows of a circuit.
type Sheet string

// The sheets.
const (
	Power   Sheet = "power"
	Control Sheet = "control"
)

// Sheets are those that there are.
var Sheets = []Sheet{Power, Control}

// Stance is how a circuit stands while it is run: which contacts are closed, by PART:TERMINAL of both ends, which
// coils are in and which motors and drives turn, by their parts, and which terminals have volts.
type Stance struct {
	Closed, In, Live map[string]bool
}

// pin is where something is joined: to a net, in a row of its own, with the mark of its terminal.
type pin struct {
	net  int
	mark string
	row  int
}

// element is what is drawn of a part in one place. Its left pins are fed, its right ones feed on.
type element struct {
	part        *circuit.Part // nil for a reference to elsewhere
	draws       symbol
	left, right []pin
	contact     circuit.Contact // of one that is a contact
	label       []string        // above it
	end         bool            // it stands in the last column

	col, row int // the row is that of its first pin
}

// rows is how many rows it takes.
func (e *element) rows() (n int) {
	for _, p := range append(append([]pin{}, e.left...), e.right...) {
		n = max(n, p.row+1)
	}
	return n
}

// plan is a sheet while it is laid out.
type plan struct {
	c        *circuit.Circuit
	sheet    Sheet
	at       *Stance
	nets     []circuit.Net
	netOf    map[string]int
	elements []*element
	level    []int // channel of each net
	columns  int
	rows     int
}

// Draw lays a sheet of a circuit out, as it rests, or as it stands while it is run.
func Draw(c *circuit.Circuit, sheet Sheet, at *Stance) wiring.Drawing {
	p := newPlan(c, sheet, at)
	p.place()
	return p.draw()
}

func newPlan(c *circuit.Circuit, sheet Sheet, at *Stance) *plan {
	p := &plan{c: c, sheet: sheet, at: at, nets: c.Nets(), netOf: map[string]int{}}
	for i, n := range p.nets {
		for _, end := range n.Ends {
			p.netOf[end] = i
		}
	}
	p.level = make([]int, len(p.nets))
	switch sheet {
	case Power:
		p.powerElements()
	default:
		p.controlElements()
	}
	return p
}

// joined gives the net of a terminal; ok is false for one that nothing is joined to.
func (p *plan) joined(part *circuit.Part, mark string) (net int, ok bool) {
	net, ok = p.netOf[part.ID+":"+mark]
	return net, ok
}

// pins are those of terminals that something is joined to, in rows one below the other.
func (p *plan) pins(part *circuit.Part, marks ...string) (list []pin) {
	for _, mark := range marks {
		if net, ok := p.joined(part, mark); ok && part.Has(mark) {
			list = append(list, pin{net, mark, len(list)})
		}
	}
	return list
}
