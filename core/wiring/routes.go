package wiring

// IdlerMotor is what the drawing of a machine behind a rotary converter shows. Texts are
// as printed; an empty one leaves its part out.
type IdlerMotor struct {
	Fed
	Idler                string
	BalanceAC, BalanceBC string
	SecondAC, SecondBC   string // a bank that comes in with the load
	Start, CutOut        string
	Overload             string
	Motor, Plate         string
}

// IdlerCircuit draws the idler with its capacitors between the supply and the machine,
// whose own contactor closes only when the idler is up.
func IdlerCircuit(m IdlerMotor) Drawing {
	const a, c, b = 84.0, 190.0, 296.0
	d := Drawing{Width: 860, Title: "Circuit of the machine behind a rotary converter"}
	d.incoming(m.Fed, a, b, "K1")
	d.line("wire-a", 228, a, 548, a)
	d.line("wire-b", 228, b, 548, b)
	d.line("wire-c", 284, c, 548, c)
	d.text("label", "middle", 270, c+5, "c")
	d.text("caution", "end", 258, c-3, "made leg:")
	d.text("caution", "end", 258, c+12, "live")
	dots := func(x, y float64, line string) {
		d.circle("dot-"+line, x, y, 4)
		d.circle("dot-c", x, c, 4)
	}
	if m.BalanceAC != "" {
		d.can("wire-a", "wire-c", 320, a, c)
		dots(320, a, "a")
		d.text("small", "middle", 332, a-10, m.BalanceAC)
	}
	if m.BalanceBC != "" {
		d.can("wire-c", "wire-b", 320, c, b)
		dots(320, b, "b")
		d.text("small", "middle", 332, b+20, m.BalanceBC)
	}
	// switched is a can between a line and c that a contact takes out, at the line's side.
	switched := func(x, line, towards float64, name string) {
		d.line("wire-"+name, x, line, x, line+10*towards)
		d.circle("part", x, line+12*towards, 3)
		d.line("part", x, line+12*towards, x+13, line+32*towards)
		d.circle("part", x, line+34*towards, 3)
		if towards > 0 {
			d.can("wire-"+name, "wire-c", x, line+36, c)
		} else {
			d.can("wire-c", "wire-"+name, x, c, line-36)
		}
		dots(x, line, name)
	}
	if m.Start != "" {
		const x = 452.0
		switched(x, a, 1, "a")
		d.text("label", "middle", x+12, a-25, m.Start)
		d.text("small", "middle", x+12, a-10, m.CutOut)
	}
	const second = 508.0
	if m.SecondAC != "" {
		switched(second, a, 1, "a")
		d.text("small", "end", second-8, c+18, "with the load:")
		d.text("small", "end", second-8, c+33, m.SecondAC)
	}
	if m.SecondBC != "" {
		switched(second, b, -1, "b")
		d.text("small", "end", second-8, b-24, "with the load:")
		d.text("small", "end", second-8, b-9, m.SecondBC)
	}
	// The idler hangs below the three lines.
	const idler, low = 420.0, 420.0
	for _, x := range []float64{386, 420, 454} {
		d.rect("part", x-8, b+30, 16, 26)
	}
	d.text("small", "end", 372, b+42, "its own overload,")
	d.text("small", "end", 372, b+57, "set to its plate")
	d.line("wire-a", 386, a, 386, low-34)
	d.circle("dot-a", 386, a, 4)
	d.line("wire-c", 420, c, 420, low-44)
	d.circle("dot-c", 420, c, 4)
	d.line("wire-b", 454, b, 454, low-28)
	d.circle("dot-b", 454, b, 4)
	d.circle("machine", idler, low, 44)
	d.text("label", "middle", idler, low-2, "Idler")
	d.text("small", "middle", idler, low+14, m.Idler)
	d.text("small", "start", idler+60, low+2, "nothing on its shaft,")
	d.text("small", "start", idler+60, low+17, "shaft guarded")
	for _, l := range []struct {
		class string
		y     float64
	}{{"wire-a", a}, {"wire-c", c}, {"wire-b", b}} {
		d.contact(l.class, 548, 580, l.y)
		d.line(l.class, 580, l.y, 610, l.y)
	}
	d.line("link", 564, a-8, 564, b+56)
	d.text("label", "middle", 606, b+66, "Machine’s contactor K2")
	d.text("small", "middle", 606, b+81, "closes only when the idler is up; coil on a and b")
	d.protected(a, c, b, m.Overload, m.Motor, m.Plate)
	d.protective(low+64, bonded{idler, low + 44}, bonded{754, c + 40})
	d.Height = d.control(m.Fed, low+112, []contactor{
		{"K1", append([]controlContact{emergencyStop(), opening("Idler’s overload", "trips")},
			starting("Idler off", "Idler on")...)},
		{"K2", append(append(append([]controlContact{{name: "K1 and idler up", under: "timer or relay"}},
			m.guards()...), opening("Overload 95–96", "trips")), starting("Stop", "Start")...)},
	})
	d.closing(
		"Isolate, lock, prove dead, discharge every capacitor. The idler’s terminals may stay live while it spins "+
			"down. The made leg feeds no coil, no control and no single-phase load. Local code has the last word.",
		m.Stops,
	)
	return d
}

// DriveMotor is what the drawing of a motor on a drive shows. Bus is the choke of a dc
// bus, "" where the drive rectifies by itself. Inputs are the machine's controls and the
// low-voltage inputs they go to.
type DriveMotor struct {
	Fed
	Drive, Bus   string
	Inputs       []DriveInput
	Motor, Plate string
}

// DriveInput is one of the machine's controls and the input that it goes to; one that stops
// opens.
type DriveInput struct {
	Has, Input string
	Opens      bool
}

// DriveCircuit draws isolator, breaker, drive, motor and protective conductor, and the controls on its low-voltage
// inputs.
func DriveCircuit(m DriveMotor) Drawing {
	const a, c, b = 84.0, 140.0, 196.0
	const left, right = 380.0, 560.0
	d := Drawing{Width: 860, Height: 300, Title: "Circuit of the motor on a drive"}
	d.incoming(m.Fed, a, b, "")
	for _, l := range []struct {
		class string
		y     float64
	}{{"wire-a", a}, {"wire-b", b}} {
		to := left
		if m.Bus != "" {
			to = 250
			d.line("part", 334, l.y, left, l.y)
		}
		d.line(l.class, 228, l.y, to, l.y)
	}
	if m.Bus != "" {
		d.rect("part", 250, a-16, 84, b-a+32)
		d.text("label", "middle", 292, c-8, "Rectifier")
		d.text("small", "middle", 292, c+8, "and choke")
		d.text("small", "middle", 292, c+24, m.Bus)
		d.text("small", "middle", 357, a-8, "dc +")
		d.text("small", "middle", 357, b+16, "dc −")
	}
	d.rect("part", left, a-30, right-left, b-a+60)
	d.text("label", "middle", (left+right)/2, c-8, "Drive")
	d.text("small", "middle", (left+right)/2, c+9, m.Drive)
	d.text("caution", "middle", (left+right)/2, c+26, "bus charged after switch-off")
	for _, y := range []float64{a, c, b} {
		d.line("part", right, y, 654, y)
	}
	d.text("caution", "middle", 632, a-12, "nothing switches here")
	d.motor(654, a, c, b, [3]string{"part", "part", "part"}, m.Motor, m.Plate)
	d.protective(b+64, bonded{right - 16, b + 30}, motorFrame(c))
	y := b + 134
	for i, in := range m.Inputs {
		d.text("small", "start", 120, y+4, in.Has)
		if in.Opens {
			d.opens(300, 332, y)
		} else {
			d.contact("part", 300, 332, y)
		}
		d.line("link", 332, y, left+20, y)
		if i > 0 && m.Inputs[i-1].Input == in.Input {
			d.text("small", "start", left+28, y+5, "in series with it")
		} else {
			d.text("label", "start", left+28, y+5, in.Input)
		}
		y += 24
	}
	if len(m.Inputs) > 0 {
		d.line("link", left+10, b+30, left+10, y-10)
		d.text("label", "start", 120, b+112, "Low-voltage inputs, apart from mains")
	}
	d.Height = max(d.Height, y+8)
	d.closing(
		"Isolate, lock, prove dead; wait until the bus is discharged, and measure it. No contactor is operated "+
			"between drive and motor. Local code has the last word.",
		m.Stops,
	)
	return d
}

// SinglePhaseMotor is what the drawing of a single-phase motor in the machine's place
// shows.
type SinglePhaseMotor struct {
	Fed
	Overload, Motor, Plate string
}

// SinglePhaseCircuit draws isolator, breaker, contactor, overload and motor on two lines, with
// the control circuit.
func SinglePhaseCircuit(m SinglePhaseMotor) Drawing {
	const a, b = 84.0, 196.0
	const middle = (a + b) / 2
	d := Drawing{Width: 860, Title: "Circuit of a single-phase motor"}
	d.incoming(m.Fed, a, b, "K1")
	for _, l := range []struct {
		class string
		y     float64
	}{{"wire-a", a}, {"wire-b", b}} {
		d.line(l.class, 228, l.y, 430, l.y)
		d.overload(430, l.y)
	}
	d.line("link", 452, a+11, 452, b-11)
	d.text("label", "middle", 452, b+28, "Overload")
	d.text("small", "middle", 452, b+43, m.Overload)
	d.line("wire-a", 474, a, 640, a, 640, middle-40)
	d.line("wire-b", 474, b, 640, b, 640, middle+40)
	d.circle("machine", 640, middle, 44)
	d.text("label", "middle", 640, middle-2, "M 1~")
	d.text("small", "middle", 640, middle+14, m.Motor)
	d.text("small", "start", 700, middle+4, m.Plate)
	d.protective(b+64, bonded{668, middle + 34})
	d.Height = d.control(m.Fed, b+112, []contactor{{"K1", append(append(m.stopsAll(),
		opening("Overload 95–96", "trips")), starting("Stop", "Start")...)}})
	d.closing("Isolate, lock, prove dead, discharge every capacitor. Local code has the last word.", m.Stops)
	return d
}
