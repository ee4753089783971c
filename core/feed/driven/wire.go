package driven

import (
	"fmt"

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
	chain = w.motors(d, q, a, chain)
	d.Wire(circuit.LowVoltage, chain, a+":enable")
	if d.How.Safe == circuit.SafeTorqueOff {
		w.torqueOff(d, a, com)
	}
	w.commands(d, a, com)
	return d.Done()
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
	if s, ok := w.protect(d); ok {
		d.Wire(circuit.LowVoltage, com, s+":11")
		d.Wire(circuit.LowVoltage, com, s+":21")
		first, second = s+":12", s+":22"
	}
	d.Wire(circuit.LowVoltage, first, a+":sto1")
	d.Wire(circuit.LowVoltage, second, a+":sto2")
}

// lineContactor is a contactor before the drive, which an emergency stop drops and a button of its own brings
// in again; it does not start and stop the machine. Without an emergency stop a button drops it.
func (w *Way) lineContactor(d *circuit.Draft, lines circuit.Lines) circuit.Lines {
	coils := d.Coils(lines)
	k := d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: "supply of the drive", CoilVolts: coils.Volts},
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

// drive is the drive, on the lines or on a dc bus of a front end.
func (w *Way) drive(d *circuit.Draft, q *feed.Question, o *feed.Outline, lines circuit.Lines) (a, com string) {
	own := circuit.Part{
		Kind:   circuit.Drive,
		Name:   w.About.Title,
		Amps:   o.Value("drive_output_amps"),
		Inputs: inputs(d.How),
	}
	terminals := "U V W PE com di1 di2 enable"
	if d.How.Safe == circuit.SafeTorqueOff {
		terminals += " sto1 sto2"
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
			f := d.Add("F", circuit.Part{Kind: circuit.Fuse, Name: "fuse for direct current"}, "1 2")
			d.Wire(circuit.Power, front+pole, f+":1")
			d.Wire(circuit.Power, f+":2", a+pole)
		}
	}
	d.Wire(circuit.Protective, "PE", a+":PE")
	return a, a + ":com"
}

// inputs are those of the drive's inputs that its command uses.
func inputs(how circuit.Choices) []circuit.Command {
	switch how.Command {
	case circuit.Drum:
		return []circuit.Command{{Terminal: "di1", Does: "forward"}, {Terminal: "di2", Does: "reverse"}}
	case circuit.TwoWire:
		return []circuit.Command{{Terminal: "di1", Does: "forward"}}
	}
	return []circuit.Command{{Terminal: "di1", Does: "run"}, {Terminal: "di2", Does: "stop"}}
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

// motors are those on the drive's output, with an overload each where there are several, whose contacts stand in
// the enable; the end of that line. A brake resistor's thermal contact stands there too.
func (w *Way) motors(d *circuit.Draft, q *feed.Question, a, enable string) string {
	pass := func(from, to string) {
		d.Wire(circuit.LowVoltage, enable, from)
		enable = to
	}
	several := len(q.Motors) > 1 && !q.Choice.OneEach
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
			for _, t := range []string{":U", ":V", ":W"} {
				d.Wire(circuit.Power, a+t, m+t)
			}
			continue
		}
		f := d.Add("F", circuit.Part{
			Kind: circuit.Overload, Name: fmt.Sprintf("overload of %s", name), Amps: q.Motors[i].Amps,
		}, "1 2 3 4 5 6 95 96")
		for k, t := range []string{":U", ":V", ":W"} {
			d.Wire(circuit.Power, a+t, fmt.Sprintf("%s:%d", f, 2*k+1))
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
