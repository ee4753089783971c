package floor

import (
	"slices"

	"brackmoor/core/site"
	"brackmoor/core/wiring"
)

// BoxKind is what a box of the drawing stands for.
type BoxKind string

// The kinds of box.
const (
	ServiceBox   BoxKind = "service"
	CircuitBox   BoxKind = "circuit"
	ConverterBox BoxKind = "converter"
	MachineBox   BoxKind = "machine"
	LoadBox      BoxKind = "load"
)

// Box is a box of the one-line drawing, in units of a screen's pixels. Parent is what it hangs on,
// empty for the service, and Depth how many boxes stand between it and that.
type Box struct {
	ID     string  `json:"id"`
	Kind   BoxKind `json:"kind" enum:"service,circuit,converter,machine,load"`
	Parent string  `json:"parent"`
	Side   string  `json:"side"` // of the change-over of its circuit, "" for neither
	Depth  int     `json:"depth"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	W      float64 `json:"w"`
	H      float64 `json:"h"`
}

// Wire is the line from a box to one that hangs on it: out of its right edge, along a spine, into
// the left edge of the other. Lines are those that it carries: a and b, the made leg c, the neutral n
// beside one line alone, or d for a pole of a dc bus.
type Wire struct {
	From  string         `json:"from"`
	To    string         `json:"to"`
	Lines []string       `json:"lines" nullable:"false"`
	Path  []wiring.Point `json:"path" nullable:"false"`
}

// Layout is the shop as a one-line drawing. No two boxes overlap and no two lines cross: whatever
// hangs on a box has a band of the height to itself.
type Layout struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Boxes  []Box   `json:"boxes" nullable:"false"`
	Wires  []Wire  `json:"wires" nullable:"false"`
}

// ServiceID is the name of the service among boxes.
const ServiceID = "service"

// Sizes of the drawing.
const (
	columnGap, rowGap = 22.0, 8.0
	motorHeight       = 26.0 // more for each further motor of a machine
)

var sizes = map[BoxKind][2]float64{
	ServiceBox: {100, 114}, CircuitBox: {136, 70}, ConverterBox: {168, 112}, MachineBox: {216, 64}, LoadBox: {216, 48},
}

// node is a box with what hangs on it.
type node struct {
	box      Box
	children []*node
	height   float64  // of its band
	lines    []string // that leave it; none for a and b
	alone    []string // that come to it, where they are not those that leave what it hangs on
}

// Layout lays the shop out.
func (f *Floor) Layout() Layout {
	root := f.tree()
	root.measure()
	depth := root.deepest()
	columns := make([]float64, depth+2) // where each column of what is no leaf begins
	x := 0.0
	for d := 0; d <= depth; d++ {
		columns[d] = x
		x += root.widest(d) + columnGap
	}
	columns[depth+1] = x
	l := Layout{Height: root.height, Boxes: []Box{}, Wires: []Wire{}}
	root.place(0, columns, &l)
	for _, b := range l.Boxes {
		l.Width = max(l.Width, b.X+b.W)
	}
	return l
}

// tree is the shop as nodes, in the order in which it is kept.
func (f *Floor) tree() *node {
	all := map[string]*node{}
	make := func(id string, kind BoxKind, side string) *node {
		n := &node{box: Box{ID: id, Kind: kind, Side: side, W: sizes[kind][0], H: sizes[kind][1]}}
		all[id] = n
		return n
	}
	root := make(ServiceID, ServiceBox, "")
	hang := func(n *node, on string) {
		parent := all[on]
		if parent == nil {
			parent = root
		}
		n.box.Parent, n.box.Depth = parent.box.ID, parent.box.Depth+1
		parent.children = append(parent.children, n)
	}
	for _, c := range f.order {
		n := make(c.ID, CircuitBox, "")
		if f.onePole(c) {
			n.lines = f.legLines(c)
			n.alone = n.lines
		}
		hang(n, c.From)
	}
	for _, c := range f.Shop.Site.Converters {
		n := make(c.ID, ConverterBox, c.Side)
		n.lines = []string{"a", "b", "c"}
		if c.Kind == site.BusKind {
			n.lines = []string{"d", "d"}
		}
		hang(n, c.On)
	}
	for i := range f.machines {
		m := &f.machines[i]
		place := f.Shop.Site.Place(m.id, m.id)
		n := make(m.id, MachineBox, place.Side)
		n.box.H += motorHeight * float64(max(0, len(m.motors)-1))
		hang(n, place.On)
	}
	for _, l := range f.Shop.Site.Loads {
		n := make(l.ID, LoadBox, l.Side)
		n.alone = legLine(f.leg(&l))
		hang(n, l.On)
	}
	for _, n := range all { // the sides of a change-over stand together
		slices.SortStableFunc(n.children, func(a, b *node) int { return sideOrder(a.box.Side) - sideOrder(b.box.Side) })
	}
	return root
}

// carries are the lines from what a node hangs on to it.
func (n *node) carries(from *node) []string {
	switch {
	case n.alone != nil:
		return n.alone
	case from.lines != nil:
		return from.lines
	}
	return []string{"a", "b"}
}

// legLine is one line and the neutral, none for what hangs between the two.
func legLine(line int, _ complex128) []string {
	switch line {
	case 1:
		return []string{"a", "n"}
	case 2:
		return []string{"b", "n"}
	}
	return nil
}

// legLines is the line of a circuit of one pole, that of the first load on it.
func (f *Floor) legLines(c *site.Circuit) []string {
	for i := range f.Shop.Site.Loads {
		if l := &f.Shop.Site.Loads[i]; l.On == c.ID {
			return legLine(f.leg(l))
		}
	}
	return legLine(1, 0)
}

func sideOrder(side string) int {
	switch side {
	case site.SideA:
		return 1
	case site.SideB:
		return 2
	}
	return 0
}

// leaf says whether a box stands in the last column.
func (n *node) leaf() bool { return n.box.Kind == MachineBox || n.box.Kind == LoadBox }

// measure finds the bands.
func (n *node) measure() {
	for i, c := range n.children {
		c.measure()
		if i > 0 {
			n.height += rowGap
		}
		n.height += c.height
	}
	n.height = max(n.height, n.box.H)
}

// deepest is the largest depth of what is no leaf.
func (n *node) deepest() (d int) {
	if n.leaf() {
		return 0
	}
	d = n.box.Depth
	for _, c := range n.children {
		d = max(d, c.deepest())
	}
	return d
}

// widest is the width of the column of a depth.
func (n *node) widest(depth int) (w float64) {
	if n.box.Depth == depth && !n.leaf() {
		return n.box.W
	}
	for _, c := range n.children {
		w = max(w, c.widest(depth))
	}
	return w
}

// place puts a node in its band, which begins at y, with what hangs on it, and draws the wires.
func (n *node) place(y float64, columns []float64, l *Layout) {
	n.box.X, n.box.Y = columns[len(columns)-1], y+(n.height-n.box.H)/2
	if !n.leaf() {
		n.box.X = columns[n.box.Depth]
	}
	l.Boxes = append(l.Boxes, n.box)
	inner := -rowGap
	for _, c := range n.children {
		inner += c.height + rowGap
	}
	at := y + (n.height-max(inner, 0))/2
	from := wiring.Point{X: n.box.X + n.box.W, Y: n.box.Y + n.box.H/2}
	spine := columns[len(columns)-1] - columnGap/2
	if !n.leaf() {
		spine = columns[n.box.Depth+1] - columnGap/2
	}
	for _, c := range n.children {
		c.place(at, columns, l)
		at += c.height + rowGap
		to := wiring.Point{X: c.box.X, Y: c.box.Y + c.box.H/2}
		l.Wires = append(l.Wires, Wire{
			From: n.box.ID, To: c.box.ID, Lines: c.carries(n),
			Path: []wiring.Point{from, {X: spine, Y: from.Y}, {X: spine, Y: to.Y}, to},
		})
	}
}
