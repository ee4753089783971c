package install

import (
	"math"
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/wiring"
)

// Where a part stands.
type stands string

// The places.
const (
	inBox  stands = "in the box"
	onDoor stands = "on its door"
	apart  stands = "at the machine"
)

// size is a usual size of a kind on a rail, in mm, and what it gives off, in watts.
type size struct{ wide, high, deep, watts float64 }

// standing is where parts of a kind stand, and their size there (shop practice; catalogues differ by some mm).
func standing(p *circuit.Part) (where stands, s size) {
	poles := 0.0
	for _, c := range p.Contacts() {
		if c.Main {
			poles++
		}
	}
	amps := math.Max(p.Amps, 10)
	switch p.Kind {
	case circuit.Isolator:
		return inBox, size{18*poles + 18, 80, 70, 1}
	case circuit.Breaker:
		return inBox, size{18 * math.Max(poles, 1), 85, 70, 2 * poles}
	case circuit.Fuse:
		return inBox, size{18, 80, 65, 1.5}
	case circuit.Contactor:
		return inBox, size{45 + 10*math.Floor(amps/32), 85 + 20*math.Floor(amps/32), 95, 3 + 0.05*amps*poles}
	case circuit.Overload:
		return inBox, size{45 + 10*math.Floor(amps/32), 75, 90, 2 * poles}
	case circuit.Relay, circuit.PotentialRelay:
		return inBox, size{38, 80, 75, 2}
	case circuit.SafetyRelay:
		return inBox, size{22.5, 100, 115, 3}
	case circuit.Timer:
		return inBox, size{22.5, 90, 100, 1.5}
	case circuit.ControlTransformer:
		return inBox, size{90, 100, 90, 8}
	case circuit.Transformer, circuit.StartBox:
		return apart, size{}
	case circuit.Capacitor:
		return inBox, size{60 * float64(max(len(p.Cans), 1)), 120, 60, 3 * float64(max(len(p.Cans), 1))}
	case circuit.Bleed:
		return inBox, size{20, 50, 20, 0} // with its can
	case circuit.Drive:
		watts := 0.03 * math.Sqrt(3) * 230 * amps // three percent of what it passes
		return inBox, size{90 + 2*amps, 180 + 3*amps, 160, watts}
	case circuit.Strip:
		return inBox, size{6 * float64(len(p.Terminals)), 45, 50, 0}
	case circuit.Lamp, circuit.PushButton, circuit.EmergencyStop, circuit.Selector, circuit.Potentiometer:
		return onDoor, size{40, 50, 60, 0.5}
	}
	return apart, size{}
}

// spot is where a part stands in its box, in mm from the upper left corner of its plate.
type spot struct {
	part *circuit.Part
	size
	x, y float64
}

// box is the parts in rows on their rails, with a duct above each, and those on the door.
type box struct {
	spots, door []spot
	wide, high  float64 // of the plate
	deep        float64
	ducts       []float64 // the upper edges of those above each row, and below the last
	where       map[string]stands
}

// Sizes of a box's inside, in mm: of a duct, of the air around it, of a row at most, and of what heats around itself.
const (
	duct     = 30.0
	air      = 15.0
	rowMost  = 330.0
	breathes = 100.0 // above and below a drive
	door     = 60.0  // a row of buttons
)

// boxOf puts parts into rows, in the order in which power goes through them: what feeds stands above, capacitors and
// what is hot lowest but one and highest.
func boxOf(c *circuit.Circuit) box {
	b := box{where: map[string]stands{}}
	var list []spot
	for i := range c.Parts {
		p := &c.Parts[i]
		where, s := standing(p)
		b.where[p.ID] = where
		switch {
		case where == onDoor:
			b.door = append(b.door, spot{part: p, size: s})
		case where == inBox && p.Kind != circuit.Bleed:
			list = append(list, spot{part: p, size: s})
		}
	}
	slices.SortStableFunc(list, func(a, b spot) int { return shelfOf(a.part) - shelfOf(b.part) })
	x, y, high, last := 0.0, 0.0, 0.0, -1 // y is that of the duct above the row
	row := func() {
		b.ducts = append(b.ducts, y)
		x, high = 0, 0
	}
	row()
	for i := range list {
		s := &list[i]
		shelf, around := shelfOf(s.part), air
		own := shelf != last && (alone(shelf) || alone(last)) // what is hot and what may burst stand by themselves
		if s.part.Kind == circuit.Drive {
			around = breathes
		}
		if x > 0 && (x+s.wide > rowMost || own) {
			y += duct + high
			row()
		}
		last = shelf
		s.x, s.y = x, y+duct+around
		x += s.wide
		high = math.Max(high, s.high+2*around)
		b.wide, b.deep = math.Max(b.wide, x), math.Max(b.deep, s.deep)
	}
	y += duct + high
	row()
	b.high = y + duct
	for i := range b.door {
		b.door[i].x = door * float64(i)
	}
	b.spots = list
	return b
}

// alone says whether what stands on a shelf shares its row with nothing else.
func alone(shelf int) bool { return shelf == drives || shelf == cans }

// The shelves that nothing else shares.
const (
	drives = 0
	cans   = 4
)

// shelfOf orders kinds from above to below: heat above, capacitors below what they could wet or burn.
func shelfOf(p *circuit.Part) int {
	switch p.Kind {
	case circuit.Drive:
		return drives
	case circuit.Isolator, circuit.Breaker, circuit.Fuse:
		return 1
	case circuit.Contactor, circuit.Overload:
		return 2
	case circuit.Capacitor:
		return cans
	}
	return 3
}

// middle is that of a part's place on the plate; ok is false for one that is not in the box.
func (b *box) middle(id string) (x, y float64, ok bool) {
	for _, s := range b.spots {
		if s.part.ID == id {
			return s.x + s.wide/2, s.y + s.high/2, true
		}
	}
	return 0, 0, false
}

// Cabinet draws the box to scale, a unit a millimetre: parts on their rails, ducts between them, and what is on the
// door below.
func Cabinet(c *circuit.Circuit, at Site) wiring.Drawing {
	at.Choices = at.Filled()
	b := boxOf(c)
	e := enclosure(c, at, b)
	const margin, head = 20.0, 40.0
	doors := 0.0
	if len(b.door) > 0 {
		doors = door + 60
	}
	wide := math.Max(e.WidthMM, door*float64(len(b.door)))
	d := wiring.Drawing{
		Width: wide + 2*margin, Height: head + e.HeightMM + doors + 2*margin, Title: "The box, to scale: " + c.Title,
	}
	d.Text("label", "start", margin, 24, e.Words)
	d.Rect("box", margin, head, e.WidthMM, e.HeightMM)
	left, top := margin+(e.WidthMM-b.wide)/2, head+(e.HeightMM-b.high)/2
	for _, y := range b.ducts {
		d.Rect("duct", left, top+y, b.wide, duct)
	}
	for _, s := range b.spots {
		d.Rect("part", left+s.x, top+s.y, s.wide, s.high)
		d.Text("label", "middle", left+s.x+s.wide/2, top+s.y+s.high/2+4, s.part.ID)
	}
	for _, s := range b.door {
		y := head + e.HeightMM + 40
		d.Circle("part", margin+s.x+door/2, y, 15)
		d.Text("small", "middle", margin+s.x+door/2, y+32, s.part.ID)
	}
	if len(b.door) > 0 {
		d.Text("small", "start", margin, head+e.HeightMM+18, "On its door")
	}
	return d
}
