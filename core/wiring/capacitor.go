package wiring

// CapacitorMotor is what the drawing of a motor on run and start capacitors
// shows. Line is the supply line, "a" or "b", on which the capacitors hang.
// Texts are as printed; an empty Run or Start leaves that branch out.
type CapacitorMotor struct {
	Fed
	Line              string
	Run, RunBleed     string
	Start, StartBleed string
	CutOut            string
	Overload          string
	Motor, Plate      string
}

// CapacitorCircuit draws isolator, breaker, contactor, capacitors with their bleeds,
// start contact, overload, motor leads and protective conductor, and the control circuit.
func CapacitorCircuit(m CapacitorMotor) Drawing {
	const a, c, b = 84.0, 190.0, 296.0
	const runX, startX = 326.0, 512.0
	d := Drawing{Width: 860, Title: "Circuit of the motor on its capacitors"}
	supplyY := map[string]float64{"a": a, "b": b}[m.Line]
	top, bottom := min(supplyY, c), max(supplyY, c)
	branch := "wire-" + m.Line
	above, below := branch, "wire-c"
	if m.Line == "b" {
		above, below = below, above
	}

	d.incoming(m.Fed, a, b, "K1")
	d.line("wire-a", 228, a, 610, a)
	d.line("wire-b", 228, b, 610, b)

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

	d.protected(a, c, b, m.Overload, m.Motor, m.Plate)
	d.protective(b+64, motorFrame(c))
	d.Height = d.control(m.Fed, b+112, []contactor{{"K1", append(append(m.stopsAll(),
		opening("Overload 95–96", "trips")), starting("Stop", "Start")...)}})
	d.closing("Isolate, lock, prove dead, discharge every capacitor. Local code has the last word.", m.Stops)
	return d
}
