package wiring

// incoming draws the supply's two lines at heights a and b from the left, through an
// isolator and, where asked for, a contactor that drops out, to x 228.
func (d *Drawing) incoming(supply string, a, b float64, contactor bool) {
	d.text("label", "start", 12, 24, supply)
	for _, l := range []struct {
		class, name string
		y           float64
	}{{"wire-a", "a", a}, {"wire-b", "b", b}} {
		d.text("label", "middle", 20, l.y+5, l.name)
		d.line(l.class, 34, l.y, 84, l.y)
		d.contact(l.class, 84, 116, l.y)
		if contactor {
			d.line(l.class, 116, l.y, 196, l.y)
			d.contact(l.class, 196, 228, l.y)
		} else {
			d.line(l.class, 116, l.y, 228, l.y)
		}
	}
	d.line("link", 100, a-8, 100, b-8)
	d.text("label", "middle", 100, b+28, "Isolator")
	d.text("small", "middle", 100, b+43, "lockable")
	if contactor {
		d.line("link", 212, a-8, 212, b-8)
		d.text("label", "middle", 212, b+28, "Contactor")
		d.text("small", "middle", 212, b+43, "drops out on loss of volts")
	}
}

// protected draws an overload relay at x 610 on the lines at heights a, c and b, and the
// motor behind it.
func (d *Drawing) protected(a, c, b float64, overload, motor, plate string) {
	for _, y := range []float64{a, c, b} {
		d.rect("part", 610, y-11, 44, 22)
		d.line("part", 618, y, 624, y, 624, y-6, 640, y-6, 640, y, 646, y)
	}
	d.line("link", 632, a+11, 632, c-11)
	d.line("link", 632, c+11, 632, b-11)
	d.text("label", "middle", 632, b+28, "Overload")
	d.text("small", "middle", 632, b+43, overload)
	d.motor(654, a, c, b, [3]string{"wire-a", "wire-c", "wire-b"}, motor, plate)
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
	d.bond(772, c)
}

// bond draws the bond of a machine whose middle is at x and y.
func (d *Drawing) bond(x, y float64) {
	d.line("earth", x, y+74, x, y+100)
	for i, w := range []float64{16, 10, 4} {
		at := y + 100 + 5*float64(i)
		d.line("earth", x-w, at, x+w, at)
	}
	d.text("small", "start", x+22, y+108, "bond")
}

// closing writes the caution of every drawing and its stops below it.
func (d *Drawing) closing(caution string, stops []string) {
	d.paragraph("caution", 12, caution)
	d.stops(12, stops)
}
