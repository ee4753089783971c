package driven

import (
	"fmt"
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
)

// Wire is its circuit: a drive behind isolator and breaker, its commands at its own low volts, and what takes
// its output at an emergency: its enable, its safe-torque-off inputs, or a contactor before it.
func (w *Way) Wire(q *feed.Question, how circuit.Choices) circuit.Circuit {
	o := w.Outline(q)
	if o == nil {
		return circuit.Circuit{}
	}
	d, breaker := feed.Draft(q, w, o, how)
	lines := d.Feed(breaker)
	if d.How.Safe == circuit.SafeContactor {
		lines = w.lineContactor(d, lines)
	}
	a, com := w.drive(d, q, o, lines)
	enable := d.How.Safe == circuit.SafeEnable
	chain := com
	if enable {
		chain = w.emergency(d, chain, circuit.LowVoltage)
	}
	chain = w.motors(d, q, a, d.Interlocks(circuit.LowVoltage, chain))
	d.Wire(circuit.LowVoltage, chain, a+":enable")
	if d.How.Safe == circuit.SafeTorqueOff {
		w.torqueOff(d, a, com)
	}
	w.commands(d, a, com)
	w.speed(d, a, com)
	w.tells(d, a)
	own := d.Done()
	linked(&own, a, q.Profile)
	return own
}

// linked says what is done with the bridges that a drive of a profile has, by what is wired to it.
func linked(c *circuit.Circuit, a string, p drive.Profile) {
	nets := c.Nets()
	wired := func(terminal string) bool {
		return slices.ContainsFunc(nets, func(n circuit.Net) bool { return n.Has(a + ":" + terminal) })
	}
	part := c.Part(a)
	for _, l := range p.Links {
		part.Links = append(part.Links, circuit.Link{Between: l.Between, Do: l.Do(wired), Says: l.Says})
	}
}

// Volts of a drive's own supply, and ohms of what turns its speed (shop practice; within what inputs for 10 V want).
const (
	driveVolts    = 24
	potentiometer = 5000
	busTimes      = 1.5 * 1.1 // of a drive's output amps: what it takes from a bus, and the room of its fuses
)

// speed wires what turns the speed: a potentiometer, or a switch for two fixed speeds beside the usual one.
func (w *Way) speed(d *circuit.Draft, a, com string) {
	switch d.How.Speed {
	case circuit.ByPotentiometer:
		r := d.Add("R", circuit.Part{Kind: circuit.Potentiometer, Name: "speed", Ohms: potentiometer}, "1 2 3")
		for i, t := range []string{":acom", ":ai1", ":10v"} {
			d.Wire(circuit.LowVoltage, a+t, fmt.Sprintf("%s:%d", r, i+1))
		}
	case circuit.ByPresets:
		s := d.Add("S", circuit.Part{Kind: circuit.Selector, Name: "fixed speeds", Function: "preset"}, "13 14 23 24")
		for i, t := range []string{":di3", ":di4"} {
			d.Wire(circuit.LowVoltage, com, fmt.Sprintf("%s:%d3", s, i+1))
			d.Wire(circuit.LowVoltage, fmt.Sprintf("%s:%d4", s, i+1), a+t)
		}
	}
}

// tells wires what the drive's relay moves as it runs: a lamp, and a relay whose break contacts keep other machines
// apart.
func (w *Way) tells(d *circuit.Draft, a string) {
	part := func(id, from, to string) {
		d.Wire(circuit.LowVoltage, a+":r2", id+":"+from)
		d.Wire(circuit.LowVoltage, id+":"+to, a+":0v")
	}
	if !d.How.Lamp && len(d.How.Apart) == 0 {
		return
	}
	d.Wire(circuit.LowVoltage, a+":24v", a+":r1")
	if d.How.Lamp {
		part(d.Add("H", circuit.Part{Kind: circuit.Lamp, Name: "runs", CoilVolts: driveVolts}, "X1 X2"), "X1", "X2")
	}
	if len(d.How.Apart) > 0 {
		part(d.Add("K", circuit.Part{Kind: circuit.Relay, Name: "runs", CoilVolts: driveVolts}, "A1 A2 "+d.Own(2)),
			"A1", "A2")
	}
}

// protect is the emergency stop or the guard that was chosen; ok is false where neither was.
func (w *Way) protect(d *circuit.Draft) (id string, ok bool) {
	switch d.How.Stop {
	case circuit.StopButton:
		return "", false
	case circuit.StopGuard:
		return d.Add("S", circuit.Part{Kind: circuit.GuardSwitch, Name: "guard"}, "11 12 21 22"), true
	}
	return d.Add("S", circuit.Part{Kind: circuit.EmergencyStop, Name: "emergency stop"}, "11 12 21 22"), true
}

// emergency puts it into a line of a class, if one was chosen; the end behind it.
func (w *Way) emergency(d *circuit.Draft, from string, class circuit.Class) string {
	s, ok := w.protect(d)
	if !ok {
		return from
	}
	d.Wire(class, from, s+":11")
	return s + ":12"
}

// torqueOff wires both inputs of safe torque off, a channel each through the emergency stop or guard; without
// one they are bridged, or the drive never runs.
func (w *Way) torqueOff(d *circuit.Draft, a, com string) {
	first, second := com, com
	s, ok := w.protect(d)
	switch {
	case ok && d.How.Relay:
		k := d.SafetyRelay(circuit.Coils{Hot: a + ":24v", Back: a + ":0v", Volts: driveVolts}, circuit.LowVoltage, s)
		d.Wire(circuit.LowVoltage, com, k+":13")
		d.Wire(circuit.LowVoltage, com, k+":23")
		first, second = k+":14", k+":24"
	case ok:
		d.Wire(circuit.LowVoltage, com, s+":11")
		d.Wire(circuit.LowVoltage, com, s+":21")
		first, second = s+":12", s+":22"
	}
	d.Wire(circuit.LowVoltage, first, a+":sto1")
	d.Wire(circuit.LowVoltage, second, a+":sto2")
}

// lineContactor is a contactor before the drive, which an emergency stop drops and a button of its own brings in
// again; it does not start and stop the machine. Without an emergency stop a button drops it. A safety relay has two
// of them, one behind the other.
func (w *Way) lineContactor(d *circuit.Draft, lines circuit.Lines) circuit.Lines {
	coils := d.Coils(lines)
	if d.How.Relay {
		return w.twoContactors(d, lines, coils)
	}
	k := d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: supplyOf, CoilVolts: coils.Volts},
		"1 2 3 4 A1 A2 13 14")
	d.Wire(circuit.Power, lines.A, k+":1")
	d.Wire(circuit.Power, lines.B, k+":3")
	from := w.emergency(d, coils.Hot, circuit.Control)
	if d.How.Stop == circuit.StopButton {
		off := d.Add("S", circuit.Part{Kind: circuit.PushButton, Name: "supply off", Function: "stop"}, "11 12")
		d.Wire(circuit.Control, from, off+":11")
		from = off + ":12"
	}
	d.Wire(circuit.Control, from, k+":13")
	ready := d.Add("S", circuit.Part{Kind: circuit.PushButton, Name: "supply on", Function: "start"}, "13 14")
	d.Wire(circuit.Control, from, ready+":13")
	d.Wire(circuit.Control, ready+":14", k+":A1")
	d.Wire(circuit.Control, k+":14", k+":A1")
	d.Wire(circuit.Control, k+":A2", coils.Back)
	return circuit.Lines{A: k + ":2", B: k + ":4"}
}

const supplyOf = "supply of the drive"

// twoContactors stand one behind the other before the drive, each in a channel of a safety relay that is not reset
// while one of them has stayed in.
func (w *Way) twoContactors(d *circuit.Draft, lines circuit.Lines, coils circuit.Coils) circuit.Lines {
	s, _ := w.protect(d)
	var both []string
	for range 2 {
		k := d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: supplyOf, CoilVolts: coils.Volts},
			"1 2 3 4 A1 A2 21 22")
		d.Wire(circuit.Power, lines.A, k+":1")
		d.Wire(circuit.Power, lines.B, k+":3")
		lines = circuit.Lines{A: k + ":2", B: k + ":4"}
		both = append(both, k)
	}
	r := d.SafetyRelay(coils, circuit.Control, s, both...)
	for i, k := range both {
		d.Wire(circuit.Control, coils.Hot, fmt.Sprintf("%s:%d3", r, i+1))
		d.Wire(circuit.Control, fmt.Sprintf("%s:%d4", r, i+1), k+":A1")
		d.Wire(circuit.Control, k+":A2", coils.Back)
	}
	return lines
}

// drive is the drive, on the lines or on a dc bus of a front end.
func (w *Way) drive(d *circuit.Draft, q *feed.Question, o *feed.Outline, lines circuit.Lines) (a, com string) {
	own := circuit.Part{
		Kind:   circuit.Drive,
		Name:   w.About.Title,
		Amps:   o.Value("drive_output_amps"),
		Watts:  o.Value("drive_watts"),
		OnHand: w.onHand(q, o.Value("drive_watts")).IDs(),
		Inputs: inputs(d.How),
	}
	terminals := "U V W PE com di1 di2 enable"
	for _, t := range []struct {
		wanted bool
		more   string
	}{
		{d.How.Safe == circuit.SafeTorqueOff, " sto1 sto2"},
		{d.How.Speed == circuit.ByPotentiometer, " 10v ai1 acom"},
		{d.How.Speed == circuit.ByPresets, " di3 di4"},
		{d.How.Lamp || len(d.How.Apart) > 0, " r1 r2"},
		{d.How.Lamp || len(d.How.Apart) > 0 || d.How.Relay && d.How.Safe == circuit.SafeTorqueOff, " 24v 0v"},
	} {
		if t.wanted {
			terminals += t.more
		}
	}
	if d.How.Brake || w.Of == drive.Bus {
		terminals += " dc+ dc-"
	}
	if w.Of != drive.Bus {
		a = d.Add("A", own, "L1 L2 "+terminals)
		d.Wire(circuit.Power, lines.A, a+":L1")
		d.Wire(circuit.Power, lines.B, a+":L2")
	} else {
		front := d.Add(
			"A",
			circuit.Part{Kind: circuit.Drive, Name: "front end with precharge and choke"},
			"L1 L2 dc+ dc- PE",
		)
		d.Wire(circuit.Power, lines.A, front+":L1")
		d.Wire(circuit.Power, lines.B, front+":L2")
		d.Wire(circuit.Protective, "PE", front+":PE")
		own.Name = "drive on the bus"
		a = d.Add("A", own, terminals)
		for _, pole := range []string{":dc+", ":dc-"} {
			f := d.Add("F", circuit.Part{
				Kind: circuit.Fuse, Name: "fuse for direct current",
				Amps: circuit.PowerFuse(d.Region, busTimes*own.Amps),
			}, "1 2")
			d.Wire(circuit.Power, front+pole, f+":1")
			d.Wire(circuit.Power, f+":2", a+pole)
		}
	}
	d.Wire(circuit.Protective, "PE", a+":PE")
	part := d.Part(a)
	for _, t := range part.Terminals {
		if mark := q.Profile.Terminals[t]; mark != "" && mark != t {
			if part.Marks == nil {
				part.Marks = map[string]string{}
			}
			part.Marks[t] = mark
		}
	}
	return a, a + ":com"
}

// inputs are those of the drive's inputs that its command uses.
func inputs(how circuit.Choices) (list []circuit.Command) {
	switch how.Command {
	case circuit.Drum:
		list = []circuit.Command{{Terminal: "di1", Does: "forward"}, {Terminal: "di2", Does: "reverse"}}
	case circuit.TwoWire:
		list = []circuit.Command{{Terminal: "di1", Does: "forward"}}
	default:
		list = []circuit.Command{{Terminal: "di1", Does: "run"}, {Terminal: "di2", Does: "stop"}}
	}
	if how.Speed == circuit.ByPresets {
		list = append(list, circuit.Command{Terminal: "di3", Does: "preset"},
			circuit.Command{Terminal: "di4", Does: "preset"})
	}
	return list
}

// commands wires them: start and stop buttons, a switch, or a drum of forward, off and reverse.
func (w *Way) commands(d *circuit.Draft, a, com string) {
	switch d.How.Command {
	case circuit.Drum, circuit.TwoWire:
		terminals := "13 14"
		if d.How.Command == circuit.Drum {
			terminals = "13 14 23 24"
		}
		s := d.Add("S", circuit.Part{Kind: circuit.Selector, Name: "run"}, terminals)
		d.Wire(circuit.LowVoltage, com, s+":13")
		d.Wire(circuit.LowVoltage, s+":14", a+":di1")
		if d.How.Command == circuit.Drum {
			d.Wire(circuit.LowVoltage, com, s+":23")
			d.Wire(circuit.LowVoltage, s+":24", a+":di2")
		}
	default:
		end := com
		for range d.How.Stations {
			s := d.Add("S", circuit.Part{Kind: circuit.PushButton, Function: "stop", Name: "stop"}, "11 12")
			d.Wire(circuit.LowVoltage, end, s+":11")
			end = s + ":12"
		}
		d.Wire(circuit.LowVoltage, end, a+":di2")
		for range d.How.Stations {
			s := d.Add("S", circuit.Part{Kind: circuit.PushButton, Function: "start", Name: "start"}, "13 14")
			d.Wire(circuit.LowVoltage, com, s+":13")
			d.Wire(circuit.LowVoltage, s+":14", a+":di1")
		}
	}
}

// isolated are the ends of the drive's output, behind an isolator where one is wished, whose contact that opens early
// stands in the enable.
func (w *Way) isolated(d *circuit.Draft, a string, enable *string) (ends []string) {
	ends = []string{a + ":U", a + ":V", a + ":W"}
	if !d.How.Between {
		return ends
	}
	q := d.Add("Q", circuit.Part{Kind: circuit.Isolator, Name: "motor’s isolator"},
		"1 2 3 4 5 6 13 14")
	for i := range ends {
		d.Wire(circuit.Power, ends[i], fmt.Sprintf("%s:%d", q, 2*i+1))
		ends[i] = fmt.Sprintf("%s:%d", q, 2*i+2)
	}
	d.Wire(circuit.LowVoltage, *enable, q+":13")
	*enable = q + ":14"
	return ends
}

// motors are those on the drive's output, with an overload each where there are several, whose contacts stand in
// the enable; the end of that line. A brake resistor's thermal contact stands there too.
func (w *Way) motors(d *circuit.Draft, q *feed.Question, a, enable string) string {
	pass := func(from, to string) {
		d.Wire(circuit.LowVoltage, enable, from)
		enable = to
	}
	several := len(q.Motors) > 1 && !q.Choice.OneEach
	var from []string
	count := 1
	if several {
		count = len(q.Motors)
	}
	for i := range count {
		name := q.Title
		if several && q.Motors[i].Name != "" {
			name = q.Motors[i].Name
		}
		m := d.Motor(circuit.Machine, name)
		if !several {
			from := w.isolated(d, a, &enable)
			for k, t := range []string{":U", ":V", ":W"} {
				d.Wire(circuit.Power, from[k], m+t)
			}
			continue
		}
		f := d.Add("F", circuit.Part{
			Kind: circuit.Overload, Name: fmt.Sprintf("overload of %s", name), Amps: q.Motors[i].Amps,
		}, "1 2 3 4 5 6 95 96")
		if i == 0 {
			from = w.isolated(d, a, &enable)
		}
		for k, t := range []string{":U", ":V", ":W"} {
			d.Wire(circuit.Power, from[k], fmt.Sprintf("%s:%d", f, 2*k+1))
			d.Wire(circuit.Power, fmt.Sprintf("%s:%d", f, 2*k+2), m+t)
		}
		pass(f+":95", f+":96")
	}
	if d.How.Brake {
		r := d.Add("R", circuit.Part{Kind: circuit.BrakeResistor, Name: "brake resistor"}, "1 2 95 96 PE")
		d.Wire(circuit.Protective, "PE", r+":PE")
		d.Wire(circuit.Power, a+":dc+", r+":1")
		d.Wire(circuit.Power, a+":dc-", r+":2")
		pass(r+":95", r+":96")
	}
	return enable
}
