package wiring

// Fed is what every circuit has before its own parts: the supply in words, whether its line b
// is a neutral, how many guards and interlocks the machine has, and what must not be passed.
type Fed struct {
	Supply  string
	Step    string // an autotransformer ahead of it, "" for none
	Neutral bool
	Guards  int
	Stops   []string
}

// incoming draws the supply's two lines at heights a and b from the left, through an isolator,
// a two-pole breaker and, where one is named, a contactor that drops out, to x 228.
func (d *Drawing) incoming(f Fed, a, b float64, contactor string) {
	d.text("label", "start", 12, 24, f.Supply)
	for _, l := range []struct {
		class, name string
		y           float64
	}{{"wire-a", "a", a}, {"wire-b", "b", b}} {
		d.text("label", "middle", 20, l.y+5, l.name)
		d.line(l.class, 34, l.y, 72, l.y)
		d.contact(l.class, 72, 100, l.y)
		d.line(l.class, 100, l.y, 136, l.y)
		d.rect("part", 136, l.y-9, 34, 18)
		d.line("part", 140, l.y+5, 166, l.y-5)
		d.line(l.class, 170, l.y, 196, l.y)
		if contactor != "" {
			d.contact(l.class, 196, 228, l.y)
		} else {
			d.line(l.class, 196, l.y, 228, l.y)
		}
	}
	if f.Step != "" {
		d.rect("machine", 176, a-12, 14, b-a+24)
		d.text("label", "end", 172, (a+b)/2+5, "T1")
		d.text("small", "start", 12, 42, f.Step)
	}
	d.line("link", 86, a-8, 86, b-8)
	d.line("link", 153, a+9, 153, b-9)
	d.text("label", "middle", 78, b+28, "Isolator")
	d.text("small", "middle", 78, b+43, "lockable")
	d.text("label", "middle", 153, a-18, "2-pole breaker")
	if contactor != "" {
		d.line("link", 212, a-8, 212, b-8)
		d.text("label", "middle", 204, b+28, "Contactor "+contactor)
		d.text("small", "middle", 204, b+43, "drops out on loss of volts")
	}
}

// protected draws an overload relay at x 610 on the lines at heights a, c and b, and the
// motor behind it.
func (d *Drawing) protected(a, c, b float64, overload, motor, plate string) {
	for _, y := range []float64{a, c, b} {
		d.overload(610, y)
	}
	d.line("link", 632, a+11, 632, c-11)
	d.line("link", 632, c+11, 632, b-11)
	d.text("label", "middle", 632, b+28, "Overload")
	d.text("small", "middle", 632, b+43, overload)
	d.motor(654, a, c, b, [3]string{"wire-a", "wire-c", "wire-b"}, motor, plate)
}

// overload draws one pole of an overload relay, 44 wide.
func (d *Drawing) overload(x, y float64) {
	d.rect("part", x, y-11, 44, 22)
	d.line("part", x+8, y, x+14, y, x+14, y-6, x+30, y-6, x+30, y, x+36, y)
}

// motor draws a three-phase motor at the right, its three lines coming from x, each of a
// class.
func (d *Drawing) motor(x, a, c, b float64, lines [3]string, motor, plate string) {
	d.line(lines[0], x, a, 700, a, 743, c-34)
	d.line(lines[1], x, c, 728, c)
	d.line(lines[2], x, b, 700, b, 743, c+34)
	d.circle("machine", 772, c, 44)
	d.text("label", "middle", 772, c-2, "M 3~")
	d.text("small", "middle", 772, c+14, motor)
	d.text("label", "start", 706, a-6, "U · T1")
	d.text("label", "end", 716, c-7, "W · T3")
	d.text("label", "start", 706, b+18, "V · T2")
	d.text("small", "start", 766, c+62, plate)
}

// bonded is a frame that the protective conductor goes to: from where it leaves, down or up to
// the conductor.
type bonded struct{ x, y float64 }

// protective draws the protective conductor at a height from the supply to the enclosure and
// to every frame.
func (d *Drawing) protective(y float64, frames ...bonded) {
	last := 118.0
	for _, f := range frames {
		last = max(last, f.x)
		d.line("earth", f.x, f.y, f.x, y)
		d.circle("earth", f.x, y, 2.5)
	}
	d.line("earth", 34, y, last, y)
	d.text("label", "middle", 18, y+5, "PE")
	d.circle("earth", 118, y, 2.5)
	d.text("small", "start", 44, y+17, "from the supply, to enclosure and every frame")
}

// motorFrame is where a three-phase motor's frame is bonded.
func motorFrame(c float64) bonded { return bonded{754, c + 40} }

// closing writes the caution of every drawing and its stops below it.
func (d *Drawing) closing(caution string, stops []string) {
	d.paragraph("caution", 12, caution)
	d.stops(12, stops)
}
