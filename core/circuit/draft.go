package circuit

import (
	"math"
	"strconv"
	"strings"
)

// Draft is a circuit while it is made. Sizes and colours of its wires go by their class.
type Draft struct {
	Circuit
	How    Choices
	Carry  func(size string) (amps float64) // of power wires, nil for what tables say
	counts map[string]int
	sizes  map[Class]string
}

// NewDraft begins a circuit on a supply of volts. Power is the size of its power wires, "" where that
// is not known.
func NewDraft(region, title string, volts float64, how Choices, power string) *Draft {
	d := &Draft{
		Circuit: Circuit{Format: Format, Region: region, Title: title, Volts: volts}, How: how.Filled(),
		counts: map[string]int{}, sizes: map[Class]string{Power: power, Made: power, Protective: power},
	}
	names, control := []string{"L1", "L2", "PE"}, "16 AWG" // NFPA 79, 12.6
	if region == UK {
		names, control = []string{"L", "N", "PE"}, "1 mm²" // IEC 60204-1, table 5
	}
	for _, n := range names {
		d.Sources = append(d.Sources, Source{n})
	}
	d.sizes[Control], d.sizes[LowVoltage] = control, control
	return d
}

// Sized sizes the power wires that are put in from now on, and gives the size before; "" leaves them.
func (d *Draft) Sized(size string) (before string) {
	before = d.sizes[Power]
	if size != "" {
		d.sizes[Power], d.sizes[Made] = size, size
	}
	return before
}

// Lines are the ends of two lines, the second of them a neutral in the UK.
type Lines struct{ A, B string }

// Lines are those of the supply.
func (d *Draft) Lines() Lines {
	if d.Region == UK {
		return Lines{"L", "N"}
	}
	return Lines{"L1", "L2"}
}

// colours are those of wires: NFPA 79, 13.2 and IEC 60204-1, 13.2; the made leg is marked at both ends.
var colours = map[string]map[Class]string{
	US: {Power: "black", Made: "black, marked violet", Control: "red", LowVoltage: "blue", Protective: "green"},
	UK: {Power: "black", Made: "black, marked violet", Control: "red", LowVoltage: "blue",
		Protective: "green-yellow"},
}

// neutral is the colour of a neutral where one of the lines is one.
const neutral = "light blue"

// Add puts a part in, under the next number of its letter, with terminals parted by blanks, and gives
// its id.
func (d *Draft) Add(letter string, p Part, terminals string) string {
	d.counts[letter]++
	p.ID, p.Terminals = letter+strconv.Itoa(d.counts[letter]), strings.Fields(terminals)
	d.Parts = append(d.Parts, p)
	return p.ID
}

// Wire joins ends one after the other by wires of a class.
func (d *Draft) Wire(class Class, ends ...string) {
	for i := 1; i < len(ends); i++ {
		w := Wire{
			Number: strconv.Itoa(len(d.Wires) + 1), From: ends[i-1], To: ends[i], Class: class, Size: d.sizes[class],
			Colour: colours[d.Region][class],
		}
		if d.Carry != nil && (class == Power || class == Made) {
			w.Amps = d.Carry(w.Size)
		}
		d.Wires = append(d.Wires, w)
	}
}

// Feed is an isolator and a breaker in both lines, and the ends behind them.
func (d *Draft) Feed(amps float64) Lines {
	from := d.Lines()
	q := d.Add("Q", Part{Kind: Isolator, Name: "isolator"}, "1 2 3 4")
	b := d.Add("Q", Part{Kind: Breaker, Name: "breaker", Amps: amps}, "1 2 3 4")
	d.Wire(Power, from.A, q+":1")
	d.Wire(Power, from.B, q+":3")
	d.Wire(Power, q+":2", b+":1")
	d.Wire(Power, q+":4", b+":3")
	return Lines{b + ":2", b + ":4"}
}

// Step puts a transformer into lines, its case bonded; the ends behind it.
func (d *Draft) Step(name string, lines Lines) Lines {
	t := d.Add("T", Part{Kind: Transformer, Name: name}, "1 2 3 4 PE")
	d.Wire(Power, lines.A, t+":1")
	d.Wire(Power, lines.B, t+":3")
	d.Wire(Protective, "PE", t+":PE")
	return Lines{t + ":2", t + ":4"}
}

// Coils is the supply of coils: its hot end, the end that goes back, and its volts.
type Coils struct {
	Hot, Back string
	Volts     float64
}

// Coils feeds coils from lines: from both by fuses where both are live, from the line alone where the
// other is a neutral, or from a transformer with one side earthed.
func (d *Draft) Coils(from Lines) Coils {
	fused := func(end string) string {
		f := d.Add("F", Part{Kind: Fuse, Name: controlFuse}, "1 2")
		d.Wire(Control, end, f+":1")
		return f + ":2"
	}
	hot, back := fused(from.A), from.B
	if d.Region == US {
		back = fused(from.B)
	}
	if d.How.Control == 0 {
		return Coils{hot, back, d.SupplyVolts()}
	}
	t := d.Add(
		"T",
		Part{Kind: ControlTransformer, Name: "control transformer", Secondary: d.How.Control},
		"H1 H2 X1 X2",
	)
	d.Wire(Control, hot, t+":H1")
	d.Wire(Control, back, t+":H2")
	d.Wire(Protective, "PE", t+":X2")
	return Coils{fused(t + ":X1"), t + ":X2", d.How.Control}
}

// Stops are the emergency stop or guard and the stop buttons of all stations one after the other, from a
// hot end on; the end behind them. Of are the motors and drives that they stop, none for all.
func (d *Draft) Stops(hot string, all bool, of ...string) (end string) {
	end = hot
	pass := func(id string) {
		d.Wire(Control, end, id+":11")
		end = id + ":12"
	}
	if all {
		switch d.How.Stop {
		case StopEmergency:
			pass(d.Add("S", Part{Kind: EmergencyStop, Name: "emergency stop"}, "11 12 21 22"))
		case StopGuard:
			pass(d.Add("S", Part{Kind: GuardSwitch, Name: "guard"}, "11 12"))
		}
	}
	for range d.How.Stations {
		pass(d.Add("S", Part{Kind: PushButton, Function: "stop", Name: "stop", Stops: of}, "11 12"))
	}
	return end
}

// Starts are the start buttons of all stations beside the contact that holds, from an end behind the
// stops to what they start; more is a second contact of each button, for what runs while it is held.
func (d *Draft) Starts(from, to, hold string, more bool) (buttons []string) {
	terminals := "13 14"
	if more {
		terminals = "13 14 23 24"
	}
	for range d.How.Stations {
		s := d.Add("S", Part{Kind: PushButton, Function: "start", Name: "start"}, terminals)
		d.Wire(Control, from, s+":13")
		d.Wire(Control, s+":14", to)
		buttons = append(buttons, s)
	}
	if hold != "" {
		d.Wire(Control, from, hold+":13")
		d.Wire(Control, hold+":14", to)
	}
	return buttons
}

// Lamp is a lamp across a coil, where one is wished.
func (d *Draft) Lamp(coil string, volts float64) {
	if !d.How.Lamp {
		return
	}
	h := d.Add("H", Part{Kind: Lamp, Name: "runs", CoilVolts: volts}, "X1 X2")
	d.Wire(Control, coil+":A1", h+":X1")
	d.Wire(Control, coil+":A2", h+":X2")
}

// Motor is a motor with its case bonded.
func (d *Draft) Motor(role, name string) string {
	m := d.Add("M", Part{Kind: Motor, Role: role, Name: name}, "U V W PE")
	d.Wire(Protective, "PE", m+":PE")
	return m
}

// Done is the circuit, its wires from terminal to terminal with no bunch at any, and its neutral coloured as one as
// far as wires and the poles of its parts carry it.
func (d *Draft) Done() Circuit {
	d.Wires = d.chained()
	d.sizeControl()
	d.round()
	reached := map[string]bool{"N": true}
	for grows := d.Region == UK; grows; {
		grows = false
		join := func(a, b string) {
			if reached[a] != reached[b] {
				reached[a], reached[b], grows = true, true, true
			}
		}
		for _, w := range d.Wires {
			join(w.From, w.To)
		}
		for i := range d.Parts {
			for _, c := range d.Parts[i].Contacts() {
				if c.Main {
					join(d.Parts[i].ID+":"+c.From, d.Parts[i].ID+":"+c.To)
				}
			}
		}
	}
	for i := range d.Wires {
		if d.Region == UK && reached[d.Wires[i].From] {
			d.Wires[i].Colour = neutral
		}
	}
	return d.Circuit
}

// round leaves what was computed to hundredths of amps and seconds and tenths of a volt.
func (d *Draft) round() {
	for i := range d.Parts {
		p := &d.Parts[i]
		p.Amps, p.Seconds = math.Round(100*p.Amps)/100, math.Round(100*p.Seconds)/100
		if v := p.MadeVolts; v != nil {
			for _, volts := range []*float64{&v.Standing, &v.CutOut, &v.Running} {
				*volts = math.Round(10**volts) / 10
			}
		}
	}
}
