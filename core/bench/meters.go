package bench

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/network"
)

// Meter is an instrument: what it is, its class in percent of what it shows, and its last digit.
type Meter struct {
	Name         string   `json:"name"`
	Title        string   `json:"title"`
	Unit         string   `json:"unit"`
	ClassPercent float64  `json:"class_percent"`
	Digit        float64  `json:"digit"`
	Most         float64  `json:"most"`                // that it shows; 0 for no figure
	Lies         bool     `json:"lies"`                // it may lie on a live circuit, and is read again and again
	On           []string `json:"on" nullable:"false"` // what it is put on: pairs, lines, motors or cans
}

// What a meter is put on.
const (
	OnPairs  = "pairs"
	OnLines  = "lines"
	OnMotors = "motors"
	OnCans   = "cans"
)

// Meters that lie on the bench (classes as of usual shop meters).
var Meters = []Meter{
	{"volts", "Voltmeter", "V", 1, 0.1, 600, true, []string{OnPairs, OnCans}},
	{"amps", "Clamp", "A", 2, 0.01, 100, true, []string{OnLines}},
	{"ohms", "Ohmmeter", "Ω", 0.8, 0.01, 2000, false, []string{OnMotors}},
	{"insulation", "Insulation tester", "MΩ", 5, 0.01, 1000, false, []string{OnMotors}},
	{"rpm", "Tachometer", "rpm", 0.1, 1, 9999, true, []string{OnMotors}},
	{"celsius", "Thermometer on the frame", "°C", 1, 0.5, 250, true, []string{OnMotors}},
	{"can", "Capacitance meter", "µF", 2, 0.1, 500, false, []string{OnCans}},
	{"sequence", "Rotation meter", "", 0, 0, 0, true, []string{OnMotors}},
	{"two-lead", "Two-lead sequence meter", "ms", 1, 0.1, 30, true, []string{OnMotors}},
}

// evenSeconds is the time constant of what volts and amps are shown by, gainShare how much of its class a meter is off
// by the same way each time; the rest changes from reading to reading.
const (
	evenSeconds = 0.25
	gainShare   = 0.6
)

// meter is one of them with what it is off by.
type meter struct {
	Meter
	gain float64
	draw func() float64
}

// show is what it shows for a value: off within its class, to its last digit.
func (m *meter) show(value float64) float64 {
	noise := (1 - gainShare) * m.ClassPercent / 100 * (2*m.draw() - 1)
	return math.Round(value*(1+m.gain+noise)/m.Digit) * m.Digit
}

// figure is what it shows for a value, or that it is past its range.
func (m *meter) figure(v float64) Shown {
	if v > m.Most {
		return Shown{Word: "over", Says: fmt.Sprintf("More than its %g %s.", m.Most, m.Unit)}
	}
	return Shown{Value: new(m.show(v))}
}

// Shown is what an instrument shows: a figure, or a word, and what is to be said of it.
type Shown struct {
	Value *float64 `json:"value"`
	Word  string   `json:"word"`
	Says  string   `json:"says" told:"figures"`
}

// Read puts an instrument somewhere and reads it. Places are ab, bc and ca for volts, ae, be and ce for those to
// earth; a motor and a line, or two, such
// as machine.a or machine.ab, for the clamp; a motor and a pair for ohms; a motor for insulation, tachometer,
// thermometer and rotation; supply.a for the clamp; a can by its id for volts and microfarads.
func (b *Bench) Read(name, at string) Shown {
	m := b.meters[name]
	if m == nil {
		return Shown{Says: "There is no such instrument."}
	}
	figure := m.figure
	of, lines, _ := strings.Cut(at, ".")
	if at == "supply.a" && name == "amps" {
		return figure(b.shown[slices.Index(b.Signals(), supplyAmps)])
	}
	standing := b.motor(of)
	can := b.loose(at)
	switch {
	case name == "volts" && can != nil:
		if can.pair == "" {
			return figure(b.can(can.ID, b.w.Read()))
		}
		return figure(b.shown[slices.Index(b.Signals(), "can."+can.ID)])
	case name == "volts" && slices.Contains(earths, "volts."+at) && !b.on[Supply]:
		return Shown{
			Word: "floats",
			Says: "With the supply open nothing ties the lines to earth: it proves nothing dead.",
		}
	case name == "volts" && slices.Contains(b.Signals(), "volts."+at):
		return figure(b.shown[slices.Index(b.Signals(), "volts."+at)])
	case name == "can" && can != nil:
		return b.microfarads(m, can)
	case standing == nil:
		return Shown{Says: "The instrument does not go there."}
	case name == "amps":
		return b.clamp(m, standing, lines)
	case name == "ohms" || name == "insulation":
		if b.on[Supply] && b.on[of] || math.Abs(b.rpm(of)) > turning {
			return Shown{
				Value: new(m.show(37.5 * (1 + m.draw()))),
				Says: b.mistake("%s on a circuit that is under volts, or turns: what it shows is nonsense, and it may "+
					"have had its last reading.", m.Title),
			}
		}
		if name == "insulation" {
			return figure(standing.Megohms)
		}
		return figure(b.ohms(standing))
	case name == "rpm":
		return figure(math.Abs(b.rpm(of)))
	case name == "celsius":
		return figure(standing.celsius.Frame)
	case name == "sequence":
		return b.sequence()
	case name == "two-lead":
		return b.twoLead(m)
	}
	return Shown{Says: "The instrument does not go there."}
}

// clamp is the amps of a line, or of two that it is put round together.
func (b *Bench) clamp(m *meter, of *standing, lines string) Shown {
	var at []int
	for _, l := range lines {
		if k := strings.IndexRune("abc", l); k >= 0 {
			at = append(at, slices.Index(b.Signals(), "amps."+of.id+".a")+k)
		}
	}
	switch len(at) {
	case 1:
		return m.figure(b.shown[at[0]])
	case 2:
		s := m.figure(b.together(at))
		s.Says = cmp.Or(s.Says, "Round two lines it shows what they have together: the third's amps.")
		return s
	case 3:
		s := m.figure(b.together(at))
		s.Says = cmp.Or(s.Says, "Round all three it shows what leaks to the frame, and else nothing.")
		return s
	}
	return Shown{Says: "The clamp goes round a line."}
}

// together is the root mean square over the last cycle of what some signals add up to.
func (b *Bench) together(signals []int) float64 {
	return math.Sqrt(b.mean(func(at int) float64 {
		v := 0.0
		for _, i := range signals {
			v += b.ring[i][at]
		}
		return v * v
	}))
}

// ohms are those between two lines of a motor that stands, as warm as it is.
func (b *Bench) ohms(of *standing) float64 {
	const zero = 234.5 // °C below nothing, of copper (IEC 60034-1)
	hot := of.Thermal.AmbientC + of.Thermal.WindingRiseK
	return 2 * of.Network.Circuit.R1Ohm * (zero + of.celsius.Hottest()) / (zero + hot)
}

// microfarads are what is in a loose can.
func (b *Bench) microfarads(m *meter, c *loose) Shown {
	if c.pair != "" {
		return Shown{Says: "It is clipped in: it would measure everything beside it too."}
	}
	if volts := math.Abs(b.can(c.ID, b.w.Read())); volts > deadly/2 {
		return Shown{Says: b.mistake("The capacitance meter was put on a can with %.0f V in it.", volts)}
	}
	for _, p := range b.w.Capacitors() {
		if p.ID == c.ID {
			return Shown{Value: new(m.show(p.Microfarad))}
		}
	}
	return Shown{}
}

// sequence is the order of the lines by the last cycle: which of b–c and c–a follows a–b.
func (b *Bench) sequence() Shown {
	const little = 0.3 // of the lines' volts, below which a rotation meter does not tell
	if b.rms(1) < little*b.rms(0) || b.rms(2) < little*b.rms(0) || !b.live(network.AB) {
		return Shown{Word: "dark", Says: "It wants volts on all three lines."}
	}
	// Where b–c follows a–b, its difference to c–a a quarter of a cycle ago stands against a–b.
	size := PerCycle * keptCycles
	sense := b.mean(func(at int) float64 {
		before := (at - PerCycle/4 + size) % size
		return b.ring[0][at] * (b.ring[1][before] - b.ring[2][before])
	})
	if sense < 0 {
		return Shown{Word: "a b c"}
	}
	return Shown{Word: "a c b"}
}

// twoLead is what a meter with two leads tells of the order: by how much b–c rises after a–b. It tells it within a
// window about a third of a cycle either way; a leg that is far off its place falls out of it.
func (b *Bench) twoLead(m *meter) Shown {
	const window = 0.1 // of a cycle, either side
	if !b.live(network.AB) || !b.live(network.BC) {
		return Shown{Word: "dark", Says: "It wants volts on both its pairs."}
	}
	rise := func(signal int) float64 {
		size := PerCycle * keptCycles
		for k := range 2 * PerCycle {
			now, before := b.ring[signal][(b.samples-k+size)%size], b.ring[signal][(b.samples-k-1+size)%size]
			if before < 0 && now >= 0 {
				return float64(-k) + -before/(now-before) - 1
			}
		}
		return 0
	}
	after := math.Mod(rise(1)-rise(0)+4*PerCycle, PerCycle) / PerCycle
	s := Shown{Value: new(m.show(1000 * after / b.c.Supply.Hertz))}
	switch {
	case math.Abs(after-1.0/3) < window:
		s.Word = "a b c"
	case math.Abs(after-2.0/3) < window:
		s.Word = "a c b"
	default:
		s.Word, s.Says = "?", "Outside of its window: the leg is too far off its place for two leads to tell."
	}
	return s
}

// Picture is the rig as eyes see it. Winding is for the teacher.
type Picture struct {
	Seconds  float64         `json:"seconds"`
	On       map[string]bool `json:"on"`
	Percent  float64         `json:"percent"`
	Motors   []MotorPicture  `json:"motors" nullable:"false"`
	Cans     []CanPicture    `json:"cans" nullable:"false"`
	Mistakes []Mistake       `json:"mistakes" nullable:"false"`
}

// MotorPicture is a motor: whether it turns and which way, and how it sounds.
type MotorPicture struct {
	ID      string  `json:"id"`
	Turns   int     `json:"turns"` // 1, -1 or 0
	RPM     float64 `json:"rpm"`
	Hums    bool    `json:"hums"` // under volts, and standing
	Brake   float64 `json:"brake"`
	Winding float64 `json:"winding_celsius"` // for a teacher
	Burnt   bool    `json:"burnt"`
	Crossed bool    `json:"crossed"` // two of its leads are exchanged
}

// CanPicture is a can: where it is clipped, "" for nowhere.
type CanPicture struct {
	Can
	Pair string `json:"pair"`
}

// Picture looks at it.
func (b *Bench) Picture() Picture {
	p := Picture{
		Seconds: b.Seconds(), On: map[string]bool{}, Percent: b.percent, Motors: []MotorPicture{}, Cans: []CanPicture{},
		Mistakes: append([]Mistake{}, b.Mistakes...),
	}
	for k, v := range b.on {
		p.On[k] = v
	}
	r := b.w.Read()
	for i, m := range b.motors {
		rpm := r.Motors[i].RPM
		one := MotorPicture{
			ID: m.id, RPM: rpm, Brake: m.brake, Crossed: m.crossed, Winding: m.celsius.Hottest(),
			Burnt: m.celsius.Hottest() > m.Thermal.LimitC+burnt,
		}
		switch {
		case rpm > turning:
			one.Turns = 1
		case rpm < -turning:
			one.Turns = -1
		default:
			one.Hums = b.on[Supply] && b.on[m.id]
		}
		p.Motors = append(p.Motors, one)
	}
	for _, c := range b.cans {
		p.Cans = append(p.Cans, CanPicture{c.Can, string(c.pair)})
	}
	return p
}

// burnt is by how many kelvin past its limit a winding is gone.
const burnt = 60.0

// Trace is a signal over the last cycles, the newest last.
type Trace struct {
	Signal string    `json:"signal"`
	Values []float64 `json:"values" nullable:"false"`
}

// Traces are those of some signals; of one that there is not, none.
func (b *Bench) Traces(signals []string) (list []Trace) {
	list = []Trace{}
	all, size := b.Signals(), PerCycle*keptCycles
	for _, name := range signals {
		i := slices.Index(all, name)
		if i < 0 {
			continue
		}
		t := Trace{Signal: name}
		for k := range size {
			t.Values = append(t.Values, b.ring[i][(b.samples+1+k)%size])
		}
		list = append(list, t)
	}
	return list
}
