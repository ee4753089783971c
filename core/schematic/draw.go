package schematic

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/wiring"
)

// Sizes of a sheet, in drawing units.
const (
	margin   = 12.0
	titleAt  = 20.0
	topAt    = 34.0
	cell     = 92.0  // width of a column
	lead     = 26.0  // of it on either side of a symbol
	pitch    = 26.0  // of rows in a band
	headroom = 38.0  // above a band, and for each line of words
	track    = 9.0   // between upright wires
	least    = 520.0 // width of a sheet
)

// canvas is a sheet while it is drawn.
type canvas struct {
	wiring.Drawing
	p      *plan
	left   []float64 // of each column's cell
	tracks map[int]float64
	rowAt  []float64
}

// draw draws a sheet that is placed.
func (p *plan) draw() wiring.Drawing {
	d := &canvas{p: p, tracks: map[int]float64{}}
	title := map[Sheet]string{Power: "Power", Control: "Control"}[p.sheet]
	d.Title = title + ": " + p.c.Title
	d.measure()
	d.Text("label", "start", margin, titleAt, title)
	numbered := map[int]bool{}
	for _, e := range p.elements {
		d.element(e)
		if p.sheet == Control && !numbered[e.row] {
			numbered[e.row] = true
			d.Text("number", "start", margin, d.rowAt[e.row]+4, strconv.Itoa(p.band(e)))
		}
	}
	for net := range p.nets {
		d.net(net)
	}
	if list := p.contacts(); list != nil {
		d.Paragraph("small", margin, "Contacts of "+strings.Join(list, " · ")+".")
	}
	d.Paragraph("caution", margin, p.caution())
	return d.Drawing
}

// caution is what stands below every sheet, of what is in the circuit.
func (p *plan) caution() string {
	says := "Isolate, lock, prove dead"
	has := func(is func(*circuit.Part) bool) bool {
		return slices.ContainsFunc(p.c.Parts, func(x circuit.Part) bool { return is(&x) })
	}
	if has(func(x *circuit.Part) bool { return x.Kind == circuit.Capacitor }) {
		says += ", discharge every capacitor before a cover comes off"
	}
	if has(func(x *circuit.Part) bool { return x.Kind == circuit.Drive }) {
		says += ", and wait until the drive’s bus is down"
	}
	if slices.ContainsFunc(p.c.Wires, func(w circuit.Wire) bool { return w.Class == circuit.Made }) {
		says += ". The made leg is live whatever a meter says of it"
	}
	return says + ". Local code and a licensed electrician have the last word."
}

// contacts say where those of each coil are, and what of them is spare.
func (p *plan) contacts() (list []string) {
	for _, e := range p.elements {
		if e.draws != drawCoil {
			continue
		}
		var at, spare []string
		for _, c := range e.part.Contacts() {
			marks := c.From + "–" + c.To
			switch row := p.contactRow(e.part, c); {
			case c.Main:
				at = append(at, marks+" power")
			case row > 0:
				at = append(at, fmt.Sprintf("%s row %d", marks, row))
			default:
				spare = append(spare, marks)
			}
		}
		if spare != nil {
			at = append(at, "spare "+strings.Join(spare, " "))
		}
		if at != nil {
			list = append(list, e.part.ID+": "+strings.Join(at, ", "))
		}
	}
	return list
}

// contactRow is the row, from 1, in which a contact is drawn; 0 for one that is not.
func (p *plan) contactRow(part *circuit.Part, c circuit.Contact) int {
	for _, e := range p.elements {
		if e.part == part && e.draws == drawContact && e.contact == c {
			return p.band(e)
		}
	}
	return 0
}

// band is the number of the band that an element stands in, from 1.
func (p *plan) band(of *element) (n int) {
	seen := map[int]bool{}
	for _, e := range p.elements {
		if e.row <= of.row && !seen[e.row] {
			seen[e.row] = true
			n++
		}
	}
	return n
}

// measure finds the place of columns, channels and rows.
func (d *canvas) measure() {
	p := d.p
	d.rowAt = make([]float64, p.rows)
	begins := map[int]int{} // lines of words above a row that a band begins with
	for _, e := range p.elements {
		begins[e.row] = max(begins[e.row], len(e.label))
	}
	y := topAt
	for row := range d.rowAt {
		if lines, first := begins[row]; first {
			y += headroom + lineHigh*float64(lines)
		} else {
			y += pitch
		}
		d.rowAt[row] = y
	}
	d.Height = y + 30
	x := margin + 14
	for channel := 0; channel <= p.columns; channel++ {
		x = d.channel(channel, x)
		if channel < p.columns {
			d.left = append(d.left, x)
			x += cell
		}
	}
	d.Width = max(x+margin, least)
}

// span is the rows between which a net stands upright in its channel.
func (p *plan) span(net int) (top, bottom int, any bool) {
	for _, e := range p.elements {
		for _, x := range append(append([]pin{}, e.left...), e.right...) {
			if x.net != net {
				continue
			}
			row := e.row + x.row
			if !any {
				top, bottom, any = row, row, true
			}
			top, bottom = min(top, row), max(bottom, row)
		}
	}
	return top, bottom, any
}

// channel gives the nets of a channel their tracks, from x on; x where it ends. Nets share a track where they stand
// in other rows.
func (d *canvas) channel(channel int, x float64) float64 {
	type upright struct{ net, top, bottom int }
	var list []upright
	for net := range d.p.nets {
		if top, bottom, any := d.p.span(net); any && d.p.level[net] == channel {
			list = append(list, upright{net, top, bottom})
		}
	}
	slices.SortStableFunc(list, func(a, b upright) int { return a.top - b.top })
	var ends []int // last row of each track
	for _, u := range list {
		at := slices.IndexFunc(ends, func(last int) bool { return last < u.top })
		if at < 0 {
			at = len(ends)
			ends = append(ends, 0)
		}
		ends[at] = u.bottom
		d.tracks[u.net] = x + track*float64(at)
	}
	return x + track*float64(max(len(ends)-1, 0)) + 2
}

// pinX is where a pin leaves its column.
func (d *canvas) pinX(e *element, right bool) float64 {
	if right {
		return d.left[e.col] + cell
	}
	return d.left[e.col]
}

// net draws what joins the pins of a net: level to its channel, upright in it, with a dot where wires part.
func (d *canvas) net(net int) {
	x, class := d.tracks[net], d.p.class(net)
	live := d.p.live(net)
	levels := map[int][2]bool{} // by rows: wires that come from the left and from the right
	for _, e := range d.p.elements {
		for side, pins := range [][]pin{e.left, e.right} {
			for _, pin := range pins {
				if pin.net != net {
					continue
				}
				row := e.row + pin.row
				if from := d.pinX(e, side == 1); from != x {
					d.wire(class, live, from, d.rowAt[row], x, d.rowAt[row])
				}
				sides := levels[row]
				sides[1-side] = true
				levels[row] = sides
			}
		}
	}
	top, bottom, stands := d.p.span(net)
	if !stands || top == bottom {
		return
	}
	d.wire(class, live, x, d.rowAt[top], x, d.rowAt[bottom])
	for row := top; row <= bottom; row++ {
		sides, any := levels[row]
		if !any {
			continue
		}
		if row != top && row != bottom || sides[0] && sides[1] {
			d.Circle("dot-"+class, x, d.rowAt[row], 3)
		}
	}
}

func (d *canvas) wire(class string, live bool, xy ...float64) {
	d.Line("wire-"+class, xy...)
	d.Items[len(d.Items)-1].Live = live
}

// class is how the wires of a net are drawn: by the line of the supply that they carry, or by what they are for.
func (p *plan) class(net int) string {
	far := map[circuit.Class]bool{}
	for _, w := range p.nets[net].Wires {
		far[p.c.Wires[w].Class] = true
	}
	switch {
	case far[circuit.Made]:
		return "c"
	case far[circuit.Protective] && (p.sheet == Power || !far[circuit.Control]):
		return "e"
	case far[circuit.LowVoltage]:
		return "l"
	case far[circuit.Power]:
		return p.line(net)
	}
	return "k"
}

// line is that of the supply that reaches a net by poles, "d" for none.
func (p *plan) line(net int) string {
	reached := map[int]bool{net: true}
	queue := []int{net}
	for len(queue) > 0 {
		at := queue[0]
		queue = queue[1:]
		for _, end := range p.nets[at].Ends {
			switch end {
			case "L1", "L":
				return "a"
			case "L2", "N":
				return "b"
			}
		}
		for i := range p.c.Parts {
			for _, c := range p.c.Parts[i].Contacts() {
				a, okA := p.joined(&p.c.Parts[i], c.From)
				b, okB := p.joined(&p.c.Parts[i], c.To)
				if !c.Main || !okA || !okB || a != at && b != at || reached[a+b-at] {
					continue
				}
				reached[a+b-at] = true
				queue = append(queue, a+b-at)
			}
		}
	}
	return "d"
}

// live says whether a net has volts in the stance that is drawn.
func (p *plan) live(net int) bool {
	return p.at != nil && slices.ContainsFunc(p.nets[net].Ends, func(end string) bool { return p.at.Live[end] })
}

// numbers are those of the wires at a terminal, as many as there is room for.
func (p *plan) numbers(end string) string {
	var list []string
	for _, w := range p.c.Wires {
		if w.From == end || w.To == end {
			list = append(list, w.Number)
		}
	}
	const room = 6
	all := strings.Join(list, "·")
	if len([]rune(all)) > room {
		all = fmt.Sprintf("%s +%d", list[0], len(list)-1)
	}
	return all
}
