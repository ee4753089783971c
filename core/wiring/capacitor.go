package wiring

// CapacitorMotor is what the drawing of a motor on run and start capacitors
// shows. Line is the supply line, "a" or "b", on which the capacitors hang.
// Texts are as printed; an empty Run or Start leaves that branch out.
type CapacitorMotor struct {
	Supply, Line      string
	Run, RunBleed     string
	Start, StartBleed string
	CutOut            string
	Overload          string
	Motor, Plate      string
	Stops             []string // what must not be passed, in words
}

// CapacitorCircuit draws isolator, contactor, capacitors with their bleeds,
// start contact, overload and motor leads.
func CapacitorCircuit(m CapacitorMotor) Drawing {
	const a, c, b = 84.0, 190.0, 296.0
	const runX, startX = 326.0, 512.0
	d := Drawing{Width: 860, Height: 376, Title: "Circuit of the motor on its capacitors"}
	supplyY := map[string]float64{"a": a, "b": b}[m.Line]
	top, bottom := min(supplyY, c), max(supplyY, c)
	branch := "wire-" + m.Line
	above, below := branch, "wire-c"
	if m.Line == "b" {
		above, below = below, above
	}

	d.text("label", "start", 12, 24, m.Supply)
	for _, l := range []struct {
		class, name string
		y           float64
	}{{"wire-a", "a", a}, {"wire-b", "b", b}} {
		d.text("label", "middle", 20, l.y+5, l.name)
		d.line(l.class, 34, l.y, 84, l.y)
		d.contact(l.class, 84, 116, l.y)
		d.line(l.class, 116, l.y, 196, l.y)
		d.contact(l.class, 196, 228, l.y)
		d.line(l.class, 228, l.y, 610, l.y)
	}
	d.line("link", 100, a-8, 100, b-8)
	d.line("link", 212, a-8, 212, b-8)
	d.text("label", "middle", 100, b+28, "Isolator")
	d.text("small", "middle", 100, b+43, "lockable")
	d.text("label", "middle", 212, b+28, "Contactor")
	d.text("small", "middle", 212, b+43, "drops out on loss of volts")

	d.line("wire-c", 300, c, 610, c)
	d.text("label", "middle", 286, c+5, "c")
	d.text("caution", "start", 236, c-16, "made leg:")
	d.text("caution", "start", 236, c-3, "live")

	if m.Run != "" {
		d.can(above, below, runX, top, bottom)
		d.circle("dot-"+m.Line, runX, supplyY, 4)
		d.circle("dot-c", runX, c, 4)
	}
	if m.Start != "" {
		x := startX
		// The start contact stands on the side of the supply line.
		if m.Line == "a" {
			d.line(branch, x, a, x, a+10)
			d.circle("part", x, a+12, 3)
			d.line("part", x, a+12, x+13, a+32)
			d.circle("part", x, a+34, 3)
			d.can(branch, "wire-c", x, a+36, c)
		} else {
			d.line(branch, x, b, x, b-10)
			d.circle("part", x, b-12, 3)
			d.line("part", x, b-12, x+13, b-32)
			d.circle("part", x, b-34, 3)
			d.can("wire-c", branch, x, c, b-36)
		}
		d.circle("dot-"+m.Line, x, supplyY, 4)
		d.circle("dot-c", x, c, 4)
	}
	labels := top - 14
	step := -15.0
	if m.Line == "b" {
		labels, step = bottom+20, 15
	}
	stack := func(x float64, texts ...string) {
		y := labels
		if step < 0 {
			y += step * float64(len(texts)-1)
		}
		for i, t := range texts {
			class := "small"
			if i == 0 {
				class = "label"
			}
			d.text(class, "middle", x, y, t)
			y += 15
		}
	}
	if m.Run != "" {
		stack(runX+12, m.Run, m.RunBleed)
	}
	if m.Start != "" {
		stack(startX+12, m.Start, m.StartBleed, m.CutOut)
	}

	for _, y := range []float64{a, c, b} {
		d.rect("part", 610, y-11, 44, 22)
		d.line("part", 618, y, 624, y, 624, y-6, 640, y-6, 640, y, 646, y)
	}
	d.line("link", 632, a+11, 632, c-11)
	d.line("link", 632, c+11, 632, b-11)
	d.text("label", "middle", 632, b+28, "Overload")
	d.text("small", "middle", 632, b+43, m.Overload)

	d.line("wire-a", 654, a, 700, a, 743, c-34)
	d.line("wire-c", 654, c, 728, c)
	d.line("wire-b", 654, b, 700, b, 743, c+34)
	d.circle("machine", 772, c, 44)
	d.text("label", "middle", 772, c-2, "M 3~")
	d.text("small", "middle", 772, c+14, m.Motor)
	d.text("label", "start", 706, a-6, "U · T1")
	d.text("label", "end", 716, c-7, "W · T3")
	d.text("label", "start", 706, b+18, "V · T2")
	d.text("small", "start", 766, c+62, m.Plate)
	d.line("earth", 772, c+74, 772, c+100)
	for i, w := range []float64{16, 10, 4} {
		y := c + 100 + 5*float64(i)
		d.line("earth", 772-w, y, 772+w, y)
	}
	d.text("small", "start", 794, c+108, "bond")
	d.paragraph("caution", 12, "Isolate, lock, prove dead, discharge every capacitor. Local code has the last word.")
	d.stops(12, m.Stops)
	return d
}
