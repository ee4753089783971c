package schematic

import (
	"math"
	"slices"

	"brackmoor/core/circuit"
)

// symbol is what is drawn of an element. Symbols are those of IEC 60617 and, in the US, of NEMA ICS 19.
type symbol string

// The symbols.
const (
	drawSource        symbol = "source"
	drawReference     symbol = "reference"
	drawPoles         symbol = "poles"
	drawContact       symbol = "contact"
	drawCoil          symbol = "coil"
	drawLamp          symbol = "lamp"
	drawMotor         symbol = "motor"
	drawCapacitor     symbol = "capacitor"
	drawBledCapacitor symbol = "bled capacitor"
	drawResistor      symbol = "resistor"
	drawBox           symbol = "box"
)

// body is where the symbol of an element stands: between its leads, from its first row to its last.
type body struct {
	d              *canvas
	e              *element
	left, right, x float64 // x is its middle
	top, bottom    float64
}

// element draws one with its words, marks and wire numbers.
func (d *canvas) element(e *element) {
	x := d.left[e.col]
	b := &body{d, e, x + lead, x + cell - lead, x + cell/2, d.rowAt[e.row], d.rowAt[e.row+e.rows()-1]}
	from := len(d.Items)
	words := e.label
	for i, line := range words {
		class := "label"
		if i > 0 {
			class = "small"
		}
		d.Text(class, "middle", b.x, b.top-under-lineHigh*float64(len(words)-1-i), line)
	}
	switch e.draws {
	case drawSource:
		b.sources()
	case drawReference:
		b.reference()
	case drawPoles:
		b.poles()
	case drawContact:
		b.contact(e.contact, b.top, d.p.closed(e.part, e.contact))
	case drawCoil:
		b.coil()
	case drawLamp:
		b.lamp()
	case drawMotor:
		b.motor()
	case drawCapacitor, drawBledCapacitor:
		b.capacitor(e.draws == drawBledCapacitor)
	case drawResistor:
		b.resistor()
	default:
		b.box()
	}
	for side, pins := range [][]pin{e.left, e.right} {
		for _, p := range pins {
			d.marks(e, p, side == 1)
		}
	}
	if e.part != nil {
		for i := from; i < len(d.Items); i++ {
			d.Items[i].Of = e.part.ID
		}
	}
}

// Words above a row stand so far over it, and one over the other.
const (
	under    = 21.0
	lineHigh = 12.0
)

// marks are the mark of a terminal above its lead, and the numbers of its wires below.
func (d *canvas) marks(e *element, p pin, right bool) {
	if p.mark == "" || e.part == nil {
		return
	}
	x, anchor, y := d.left[e.col]+3, "start", d.rowAt[e.row+p.row]
	if right {
		x, anchor = d.left[e.col]+cell-3, "end"
	}
	d.Text("mark", anchor, x, y-4, d.p.c.Mark(e.part, p.mark))
	d.Text("number", anchor, x, y+11, d.p.numbers(e.part.ID+":"+p.mark))
}

// row is where a pin is.
func (b *body) row(p pin) float64 { return b.d.rowAt[b.e.row+p.row] }

// leads draws those from the edge of the column to the symbol.
func (b *body) leads() {
	for _, p := range b.e.left {
		b.wire(p.net, b.d.left[b.e.col], b.row(p), b.left, b.row(p))
	}
	for _, p := range b.e.right {
		b.wire(p.net, b.right, b.row(p), b.d.left[b.e.col]+cell, b.row(p))
	}
}

func (b *body) wire(net int, xy ...float64) { b.d.wire(b.d.p.class(net), b.d.p.live(net), xy...) }

// part draws a line of a symbol.
func (b *body) part(xy ...float64) { b.d.Line("part", xy...) }

func (b *body) sources() {
	for _, p := range b.e.right {
		b.d.Text("label", "end", b.x-8, b.row(p)+5, p.mark)
		b.d.Circle("part", b.x, b.row(p), 3.5)
		b.wire(p.net, b.x+3.5, b.row(p), b.d.left[b.e.col]+cell, b.row(p))
	}
}

// reference is an arrow to, or from, another sheet.
func (b *body) reference() {
	y := b.top
	if len(b.e.right) > 0 {
		b.part(b.x-10, y-6, b.x, y, b.x-10, y+6)
		b.wire(b.e.right[0].net, b.x, y, b.d.left[b.e.col]+cell, y)
		return
	}
	b.wire(b.e.left[0].net, b.d.left[b.e.col], y, b.x, y)
	b.part(b.x, y-6, b.x+10, y, b.x, y+6)
}

// poles are those of a switch, a breaker, a contactor, an overload or a fuse, joined by a link.
func (b *body) poles() {
	b.leads()
	kind, drawn := b.e.part.Kind, map[int]bool{}
	for _, p := range append(slices.Clone(b.e.left), b.e.right...) {
		if drawn[p.row] {
			continue
		}
		drawn[p.row] = true
		y := b.row(p)
		switch kind {
		case circuit.Overload:
			b.d.Rect("part", b.left, y-9, b.right-b.left, 18)
			b.part(b.left+8, y, b.left+16, y, b.left+16, y-5, b.right-16, y-5, b.right-16, y, b.right-8, y)
		case circuit.Fuse:
			b.fuse(y)
		default:
			c := circuit.Contact{From: p.mark, Main: true}
			b.contact(c, y, b.d.p.closed(b.e.part, c))
			if kind == circuit.Breaker {
				b.part(b.right-14, y-14, b.right-6, y-6)
				b.part(b.right-14, y-6, b.right-6, y-14)
			}
		}
	}
	if b.bottom > b.top {
		b.d.Line("link", b.x, b.top, b.x, b.bottom)
	}
}

func (b *body) fuse(y float64) {
	b.d.Rect("part", b.left+4, y-6, b.right-b.left-8, 12)
	b.part(b.left, y, b.right, y)
}

// contact draws one in a row: as it rests, and thick where it conducts while the circuit is run. What moves it stands
// above it.
func (b *body) contact(c circuit.Contact, y float64, conducts bool) {
	if !c.Main {
		b.leads()
	}
	from := len(b.d.Items)
	switch {
	case b.e.part.Kind == circuit.Fuse:
		b.fuse(y)
	case b.d.p.c.Region == circuit.US:
		b.plates(c, y)
	default:
		b.blade(c, y)
	}
	for i := from; i < len(b.d.Items); i++ {
		b.d.Items[i].Live = conducts
	}
	b.moves(c, y)
}

// blade is a contact by IEC 60617: one that opens has its blade on a stop.
func (b *body) blade(c circuit.Contact, y float64) {
	left, right := b.left+4, b.right-4
	b.part(b.left, y, left, y)
	b.part(right, y, b.right, y)
	if c.Closed {
		b.part(left, y, right+3, y-8)
		b.part(right, y, right, y-11)
		return
	}
	b.part(left, y, right-3, y-12)
}

// plates are a contact by NEMA: two of them, and a stroke across one that opens. Contacts of hands are two circles and
// a bridge.
func (b *body) plates(c circuit.Contact, y float64) {
	switch kind := b.e.part.Kind; {
	case kind == circuit.Isolator, kind == circuit.Breaker:
		b.blade(circuit.Contact{}, y)
		return
	case hand[kind]:
		left, right, bridge := b.left+6, b.right-6, y-8.0
		b.part(b.left, y, left-3, y)
		b.part(right+3, y, b.right, y)
		b.d.Circle("part", left, y, 3)
		b.d.Circle("part", right, y, 3)
		if c.Closed {
			bridge = y + 4
		}
		b.part(left-5, bridge, right+5, bridge)
		b.part(b.x, bridge, b.x, y-12)
		return
	}
	left, right := b.x-6, b.x+6
	b.part(b.left, y, left, y)
	b.part(right, y, b.right, y)
	b.part(left, y-9, left, y+9)
	b.part(right, y-9, right, y+9)
	if c.Closed {
		b.part(left-6, y+9, right+6, y-9)
	}
}

// hand are the kinds that hands move.
var hand = map[circuit.Kind]bool{
	circuit.PushButton: true, circuit.EmergencyStop: true, circuit.Selector: true, circuit.GuardSwitch: true,
}

// moves shows what moves a contact, above it.
func (b *body) moves(c circuit.Contact, y float64) {
	top := y - 13
	switch b.e.part.Kind {
	case circuit.PushButton:
		b.part(b.x-8, top, b.x+8, top)
	case circuit.EmergencyStop:
		b.part(b.x-9, top+1, b.x-6, top-4, b.x+6, top-4, b.x+9, top+1, b.x-9, top+1)
	case circuit.Selector:
		b.part(b.x-6, top, b.x, top-4, b.x+6, top)
	case circuit.GuardSwitch:
		b.part(b.x-7, top-4, b.x-7, top, b.x+7, top, b.x+7, top-4)
	case circuit.Overload:
		b.d.Rect("part", b.x-6, top-5, 10, 6)
	case circuit.Timer:
		if c.Delayed {
			b.part(b.x-9, top-1, b.x-5, top-4, b.x, top-5, b.x+5, top-4, b.x+9, top-1)
		}
	}
}

func (b *body) coil() {
	b.leads()
	from := len(b.d.Items)
	if b.d.p.c.Region == circuit.US {
		b.d.Circle("part", b.x, b.top, 15)
		b.part(b.left, b.top, b.x-15, b.top)
		b.part(b.x+15, b.top, b.right, b.top)
	} else {
		b.d.Rect("part", b.x-18, b.top-11, 36, 22)
		b.part(b.left, b.top, b.x-18, b.top)
		b.part(b.x+18, b.top, b.right, b.top)
		if b.e.part.Kind == circuit.Timer {
			b.part(b.x-18, b.top-11, b.x-8, b.top+11)
			b.part(b.x-8, b.top-11, b.x-18, b.top+11)
		}
	}
	b.lit(from)
}

// lit marks what has been drawn since as in, or turning, as the circuit is run.
func (b *body) lit(from int) {
	if b.d.p.at == nil || !b.d.p.at.In[b.e.part.ID] {
		return
	}
	for i := from; i < len(b.d.Items); i++ {
		b.d.Items[i].Live = true
	}
}

func (b *body) lamp() {
	b.leads()
	from := len(b.d.Items)
	b.d.Circle("part", b.x, b.top, 12)
	b.part(b.x-8, b.top-8, b.x+8, b.top+8)
	b.part(b.x-8, b.top+8, b.x+8, b.top-8)
	b.part(b.left, b.top, b.x-12, b.top)
	b.part(b.x+12, b.top, b.right, b.top)
	b.lit(from)
}

// motor is a circle that its lines go into, its case bonded below.
func (b *body) motor() {
	var lines []pin
	for _, p := range b.e.left {
		if p.mark != "PE" {
			lines = append(lines, p)
		}
	}
	if len(lines) == 0 {
		b.box()
		return
	}
	middle := (b.row(lines[0]) + b.row(lines[len(lines)-1])) / 2
	x, r := b.right-2, 32.0
	for _, p := range b.e.left {
		if p.mark == "PE" {
			b.wire(p.net, b.d.left[b.e.col], b.row(p), x, b.row(p), x, middle+r)
			continue
		}
		off := b.row(p) - middle
		b.wire(p.net, b.d.left[b.e.col], b.row(p), x-math.Sqrt(max(r*r-off*off, 0)), b.row(p))
	}
	from := len(b.d.Items)
	b.d.Circle("machine", x, middle, r)
	name := "M 3~"
	if b.e.part.Kind == circuit.SinglePhaseMotor {
		name = "M 1~"
	}
	b.d.Text("label", "middle", x+3, middle+5, name)
	b.lit(from)
}

// capacitor stands between two rows, with its bleed beside it.
func (b *body) capacitor(bleeds bool) {
	if len(b.e.left) < 2 {
		b.box()
		return
	}
	middle := (b.top + b.bottom) / 2
	for i, p := range b.e.left[:2] {
		plate := middle + []float64{-3, 3}[i]
		b.wire(p.net, b.d.left[b.e.col], b.row(p), b.x-8, b.row(p), b.x-8, plate)
		b.part(b.x-20, plate, b.x+4, plate)
		if bleeds {
			b.wire(p.net, b.x-8, b.row(p), b.x+18, b.row(p), b.x+18, middle+[]float64{-8, 8}[i])
		}
	}
	if bleeds {
		b.d.Rect("part", b.x+14, middle-8, 8, 16)
	}
}

func (b *body) resistor() {
	if len(b.e.left) < 2 {
		b.box()
		return
	}
	middle := (b.top + b.row(b.e.left[1])) / 2
	for i, p := range b.e.left {
		if p.mark == "PE" {
			b.wire(p.net, b.d.left[b.e.col], b.row(p), b.x-14, b.row(p))
			b.part(b.x-14, b.row(p)-5, b.x-14, b.row(p)+5)
			continue
		}
		b.wire(p.net, b.d.left[b.e.col], b.row(p), b.x, b.row(p), b.x, middle+[]float64{-9, 9}[i])
	}
	b.d.Rect("part", b.x-5, middle-9, 10, 18)
}

// box is whatever has no symbol of its own.
func (b *body) box() {
	if len(b.e.right) == 0 { // room for long marks
		b.left, b.right = b.left+16, b.right+16
	}
	b.leads()
	from := len(b.d.Items)
	b.d.Rect("machine", b.left, b.top-13, b.right-b.left, b.bottom-b.top+26)
	b.lit(from)
	if b.e.part != nil && b.e.part.Kind == circuit.ControlTransformer {
		y := (b.top + b.bottom) / 2
		b.d.Circle("part", b.x-6, y, 9)
		b.d.Circle("part", b.x+6, y, 9)
	}
}

// closed says whether a contact conducts in the stance that is drawn.
func (p *plan) closed(part *circuit.Part, c circuit.Contact) bool {
	return p.at != nil && p.at.Closed[part.ID+":"+c.From]
}
