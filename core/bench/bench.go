// Package bench is a rig in time: a motor that is not as its plate says, an idler beside it or not, switches, loose
// capacitors that keep their charge, a brake, and meters that have classes and are slow. What is done to it is done as
// at a real one, and what would have hurt somebody is counted. It knows no clock: whoever has one steps it, and the
// same doings at the same steps give the same figures to the bit.
//
// The network is that of core/waveform, the heat that of core/motor. A meter's volts and amps are the root mean square
// of the last whole cycle, as a meter of true rms has them, evened out by its own time constant.
package bench

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/waveform"
)

// Motor is one that stands there: its circuit as it really is, and its plate.
type Motor struct {
	Network   network.Motor
	RatedAmps float64
	RatedNm   float64
	RatedRPM  float64
	Losses    float64 // watts at plate load
	Megohms   float64 // of its windings to its frame
	Thermal   motor.Thermal
}

// Can is a loose capacitor.
type Can struct {
	ID         string  `json:"id"`
	Microfarad float64 `json:"microfarad"` // as written on it
	Left       float64 `json:"-"`          // the share of it that is left, 0 for all
}

// Case is a rig. Idler is nil where the machine stands alone. Draw gives numbers from 0 up to
// 1, of which meters and cans are a little off what is written on them; nil for none.
type Case struct {
	Supply  network.Supply
	Idler   *Motor
	Machine Motor
	Cans    []Can
	Draw    func() float64
}

// Names of what is switched.
const (
	Supply  = "supply"
	Idler   = "idler"
	Machine = "machine"
)

// PerCycle are the samples of a cycle, keptCycles how many cycles of them are kept for the scope.
const (
	PerCycle   = 64
	keptCycles = 12
)

// Bench is a rig under way. It is not safe for use by more than one goroutine.
type Bench struct {
	c        Case
	w        *waveform.Stepper
	motors   []*standing
	cans     []*loose
	on       map[string]bool
	percent  float64 // of the supply's volts, by a variable transformer
	samples  int     // taken
	ring     [][]float64
	shown    []float64 // what meters show of each signal, evened out
	meters   map[string]*meter
	Mistakes []Mistake
	Log      []Done
}

// standing is a motor as it stands.
type standing struct {
	Motor
	id      string
	brake   float64 // share of rated torque
	crossed bool    // two of its leads are exchanged
	celsius motor.Temperatures
	heating motor.Heating // of the last cycle
	watts   float64       // of its shaft in the gap, gathered over the cycle under way
}

// loose is a can: where it is clipped, "" for nowhere, and what is really in it.
type loose struct {
	Can
	pair network.Pair
}

// Mistake is something that would have hurt somebody, or something.
type Mistake struct {
	Seconds float64 `json:"seconds"`
	Says    string  `json:"says" told:"figures"`
}

// Done is something that was done, after so many samples: a session that is done again gives the same figures.
type Done struct {
	Sample int `json:"sample"`
	Doing
}

// Signals of the scope: volts of pairs, of lines to earth where the supply is earthed, amps of lines, and the volts of
// each can behind them.
var (
	pairs  = []string{"volts.ab", "volts.bc", "volts.ca"}
	earths = []string{"volts.ae", "volts.be", "volts.ce"}
)

// New is a rig with everything off, cold and discharged.
func New(c Case) *Bench {
	draw := c.Draw
	if draw == nil {
		draw = func() float64 { return 0.5 }
	}
	b := &Bench{c: c, on: map[string]bool{}, percent: 100, meters: map[string]*meter{}}
	w := waveform.Case{Supply: waveform.Supply{Supply: c.Supply}}
	w.Supply.Phases = 1
	add := func(id string, m Motor) {
		m.Network.ID, m.Network.Load = id, nil
		b.motors = append(b.motors, &standing{Motor: m, id: id, celsius: m.Thermal.Cold()})
		w.Motors = append(w.Motors, waveform.Motor{Motor: m.Network, Closed: new(false)})
	}
	if c.Idler != nil {
		add(Idler, *c.Idler)
	}
	add(Machine, c.Machine)
	for _, can := range c.Cans {
		b.cans = append(b.cans, &loose{Can: can})
		really := can.Microfarad * (1 + canOff*(2*draw()-1)) * cmp.Or(can.Left, 1)
		w.Capacitors = append(w.Capacitors, waveform.Capacitor{
			Capacitor: network.Capacitor{ID: can.ID, Between: network.AC, Microfarad: really, ESROhm: canOhm},
			Closed:    new(false),
		})
	}
	for _, kind := range Meters {
		b.meters[kind.Name] = &meter{
			Meter: kind,
			gain:  kind.ClassPercent / 100 * gainShare * (2*draw() - 1),
			draw:  draw,
		}
	}
	b.w = waveform.Begin(w)
	b.w.Drive(0, c.Supply.Hertz)
	b.w.Switch(waveform.SupplyID, waveform.Open)
	b.ring = make([][]float64, len(b.Signals()))
	for i := range b.ring {
		b.ring[i] = make([]float64, PerCycle*keptCycles)
	}
	b.shown = make([]float64, len(b.ring))
	return b
}

// Of cans: how far one is off what is written on it, and its ohms when it is clipped.
const (
	canOff = 0.04
	canOhm = 0.05
)

// Signals are the names of what the scope can show.
func (b *Bench) Signals() []string {
	list := slices.Clone(pairs)
	if b.Earthed() {
		list = append(list, earths...)
	}
	list = append(list, supplyAmps)
	for _, m := range b.motors {
		for _, line := range []string{"a", "b", "c"} {
			list = append(list, "amps."+m.id+"."+line)
		}
	}
	for _, can := range b.cans {
		list = append(list, "can."+can.ID)
	}
	return list
}

// supplyAmps is the signal of the supply's line.
const supplyAmps = "amps.supply.a"

// Earthed says whether the supply has a place that is earthed, so that its lines have volts to earth.
func (b *Bench) Earthed() bool {
	at := b.c.Supply.Earthing
	return at == network.EarthA || at == network.EarthB || at == network.EarthMid
}

// toEarth is by how much line b stands above earth for the volts from a to b.
func (b *Bench) toEarth(ab float64) float64 {
	switch b.c.Supply.Earthing {
	case network.EarthA:
		return -ab
	case network.EarthMid:
		return -ab / 2
	}
	return 0
}

// Seconds is how long it has run.
func (b *Bench) Seconds() float64 { return float64(b.samples) * b.tick() }

// tick is the time between samples.
func (b *Bench) tick() float64 { return 1 / b.c.Supply.Hertz / PerCycle }

// Advance goes on by so many seconds, to the nearest sample.
func (b *Bench) Advance(seconds float64) error {
	for range int(math.Round(seconds / b.tick())) {
		b.samples++
		if err := b.w.Advance(float64(b.samples) * b.tick()); err != nil {
			return err
		}
		b.sample()
	}
	return nil
}

// sample notes every signal, and at the end of a cycle what meters show of it.
func (b *Bench) sample() {
	r := b.w.Read()
	at := b.samples % (PerCycle * keptCycles)
	i := 0
	note := func(v float64) {
		b.ring[i][at] = v
		i++
	}
	note(r.Volts.AB)
	note(r.Volts.BC)
	note(r.Volts.CA)
	if b.Earthed() {
		low := b.toEarth(r.Volts.AB)
		for _, above := range []float64{r.Volts.AB, 0, -r.Volts.BC} { // line b
			if !b.on[Supply] {
				above, low = 0, 0
			}
			note(low + above)
		}
	}
	note(r.Supply)
	for k, m := range r.Motors {
		note(m.Amps.A)
		note(m.Amps.B)
		note(m.Amps.C)
		b.motors[k].watts += m.TorqueNm * m.RPM * math.Pi / 30 / PerCycle
	}
	for _, c := range r.Capacitors {
		note(c.Volts)
	}
	if b.samples%PerCycle != 0 {
		return
	}
	for k := range b.shown {
		share := 1 - math.Exp(-1/b.c.Supply.Hertz/evenSeconds)
		b.shown[k] += share * (b.rms(k) - b.shown[k])
	}
	b.heat(r)
	for _, can := range b.cans { // what leaks through its own film
		if can.pair == "" {
			volts := b.can(can.ID, r)
			b.w.Charge(can.ID, volts*math.Exp(-1/b.c.Supply.Hertz/leakSeconds))
		}
	}
}

// leakSeconds is in what time a loose can loses its charge by itself, to a third.
const leakSeconds = 300.0

// mean is that of something over the samples of the last cycle, by their places.
func (b *Bench) mean(of func(at int) float64) float64 {
	sum, size := 0.0, PerCycle*keptCycles
	for k := range PerCycle {
		sum += of((b.samples - k + size) % size)
	}
	return sum / PerCycle
}

// rms is that of a signal over the last cycle.
func (b *Bench) rms(signal int) float64 {
	return math.Sqrt(b.mean(func(at int) float64 { return b.ring[signal][at] * b.ring[signal][at] }))
}

// heat goes on by a cycle.
func (b *Bench) heat(r waveform.Reading) {
	minutes := 1 / b.c.Supply.Hertz / 60
	for i, m := range b.motors {
		m.heating = b.heatingOf(i, r.Motors[i].RPM)
		m.celsius = m.Thermal.On(m.heating, m.celsius, minutes)
	}
}

// heatingOf is what heats a motor over the last cycle: the squares of its windings' amps over their rated ones, and
// what it takes from its lines and does not give through its gap, with its friction, over its losses at plate load.
func (b *Bench) heatingOf(i int, rpm float64) motor.Heating {
	m := b.motors[i]
	first := slices.Index(b.Signals(), supplyAmps) + 1 + 3*i
	amps := func(line, at int) float64 { return b.ring[first+line][at] }
	h := motor.Heating{Turning: math.Abs(rpm) > turning}
	rated := m.RatedAmps
	if m.Network.Connection == network.Delta {
		rated /= math.Sqrt(3)
	}
	for k := range 3 {
		h.Windings[k] = b.mean(func(at int) float64 {
			v := amps(k, at)
			if m.Network.Connection == network.Delta { // a branch has a third of the difference of its lines
				v = (v - amps((k+1)%3, at)) / 3
			}
			return v * v
		}) / (rated * rated)
	}
	// Two meters: the third line's amps come back by the other two.
	taken := b.mean(func(at int) float64 { return b.ring[0][at]*amps(0, at) - b.ring[1][at]*amps(2, at) })
	omega := rpm * math.Pi / 30
	h.Losses = math.Max(0, taken-m.watts+m.Network.FrictionCoefficient()*omega*omega) / m.Losses
	m.watts = 0
	return h
}

// turning is the speed in rpm above which a shaft turns.
const turning = 5.0

// can is the volts of a loose one.
func (b *Bench) can(id string, r waveform.Reading) float64 {
	for _, c := range r.Capacitors {
		if c.ID == id {
			return c.Volts
		}
	}
	return 0
}

// Forward lets time pass for heat alone: the state goes on as it is, which has to be a steady one, for so many minutes.
func (b *Bench) Forward(minutes float64) {
	r := b.w.Read()
	for _, m := range b.motors {
		m.celsius = m.Thermal.On(m.heating, m.celsius, minutes)
	}
	for _, can := range b.cans {
		if can.pair == "" {
			b.w.Charge(can.ID, b.can(can.ID, r)*math.Exp(-60*minutes/leakSeconds))
		}
	}
}

// mistake counts one.
func (b *Bench) mistake(format string, args ...any) string {
	says := fmt.Sprintf(format, args...)
	b.Mistakes = append(b.Mistakes, Mistake{b.Seconds(), says})
	return says
}
