package bench

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/network"
	"brackmoor/core/waveform"
)

// Doing is something that is done to a rig: what, to which part, and by how much.
type Doing struct {
	What string  `json:"what"`
	Of   string  `json:"of,omitempty"`
	To   string  `json:"to,omitempty"`
	By   float64 `json:"by,omitempty"`
}

// What can be done.
const (
	Close     = "close"     // a switch
	Open      = "open"      // a switch
	Clip      = "clip"      // a can, to a pair of lines
	Unclip    = "unclip"    // a can
	Discharge = "discharge" // a can, through a resistor
	Touch     = "touch"     // a can's terminals
	Brake     = "brake"     // a shaft, by a share of rated torque
	Spin      = "spin"      // a shaft by hand, or by a pony, in rpm
	Exchange  = "exchange"  // two of a motor's leads
	Turn      = "turn"      // the variable transformer, in percent
	Pass      = "pass"      // minutes, for heat
)

// Thresholds of what hurts.
const (
	deadly   = 50.0  // V across a can or a pair, that nobody touches (IEC 60364-4-41)
	upShare  = 0.9   // of its speed, from which on an idler is up
	longPass = 240.0 // minutes at a time
)

// Do does something, and says what came of it, "" where it is just done. It is logged, so that a session can be done
// again.
func (b *Bench) Do(d Doing) string {
	b.Log = append(b.Log, Done{b.samples, d})
	m := b.motor(d.Of)
	can := b.loose(d.Of)
	switch {
	case d.What == Close || d.What == Open:
		if d.Of != Supply && m == nil {
			return "There is no such switch."
		}
		return b.throw(d.Of, d.What == Close)
	case d.What == Turn:
		return b.turn(d.By)
	case d.What == Pass:
		b.Forward(math.Min(math.Max(d.By, 0), longPass))
		return ""
	case (d.What == Brake || d.What == Spin || d.What == Exchange) && m == nil:
		return "There is no such shaft."
	case d.What == Exchange:
		return b.exchange(m)
	case d.What == Brake:
		return b.brake(m, d.By)
	case d.What == Spin:
		return b.spin(m, d.By)
	case can == nil:
		return "There is no such can."
	}
	return b.handle(can, d)
}

// motor is one that stands there by its name, nil for none.
func (b *Bench) motor(id string) *standing {
	for _, m := range b.motors {
		if m.id == id {
			return m
		}
	}
	return nil
}

func (b *Bench) loose(id string) *loose {
	for _, c := range b.cans {
		if c.ID == id {
			return c
		}
	}
	return nil
}

// rpm is how fast a motor turns.
func (b *Bench) rpm(id string) float64 {
	for _, m := range b.w.Read().Motors {
		if m.ID == id {
			return m.RPM
		}
	}
	return 0
}

// throw opens or closes a switch.
func (b *Bench) throw(id string, on bool) (says string) {
	switch {
	case on == b.on[id]:
		return ""
	case on && id == Machine && b.c.Idler != nil && b.on[Supply] && !b.up():
		says = b.mistake("The machine was switched on before its idler was up: it has two lines and hums.")
	case !on && (id == Supply || id == Idler) && b.c.Idler != nil && b.on[Machine] && b.on[Supply]:
		says = b.mistake("The converter was switched off under a machine that still runs.")
	}
	to := waveform.Open
	if on {
		to = waveform.Closed
	}
	b.on[id] = on
	if id == Supply {
		b.source()
	}
	b.w.Switch(id, to)
	return says
}

// up says whether the idler is up to its speed.
func (b *Bench) up() bool { return math.Abs(b.rpm(Idler)) >= upShare*b.motor(Idler).RatedRPM }

// source gives the supply the volts that the transformer is turned to.
func (b *Bench) source() { b.w.Drive(b.percent/100*b.c.Supply.Volts, b.c.Supply.Hertz) }

func (b *Bench) turn(percent float64) string {
	if percent < 0 || percent > 110 {
		return "The transformer turns from 0 to 110 percent."
	}
	b.percent = percent
	if b.on[Supply] {
		b.source()
	}
	return ""
}

func (b *Bench) brake(m *standing, share float64) string {
	if share < 0 || share > 2 {
		return "The brake holds up to twice the rated torque."
	}
	m.brake = share
	var load *network.Load
	if share > 0 {
		load = &network.Load{Kind: "torque", NewtonMetre: share * m.RatedNm, AtRPM: m.RatedRPM}
	}
	b.w.Load(m.id, load)
	return ""
}

func (b *Bench) spin(m *standing, rpm float64) string {
	if b.on[Supply] && b.on[m.id] {
		return b.mistake("A hand went to a shaft that is under volts.")
	}
	if math.Abs(rpm) > 1.1*m.RatedRPM {
		return "Neither hand nor pony turns it faster than that."
	}
	b.w.Turn(m.id, rpm)
	return ""
}

// exchange puts two leads of a motor on one another's lines.
func (b *Bench) exchange(m *standing) (says string) {
	switch {
	case b.on[Supply] && b.on[m.id]:
		says = b.mistake("Leads were exchanged under volts.")
	case math.Abs(b.rpm(m.id)) > turning:
		says = b.mistake("Leads were exchanged while the shaft still turned: it makes volts of its own on a capacitor.")
	}
	b.w.Exchange(m.id, 1, 2)
	m.crossed = !m.crossed
	return says
}

// live says whether a pair of lines is under volts.
func (b *Bench) live(pair network.Pair) bool {
	at := map[network.Pair]int{network.AB: 0, network.BC: 1, network.AC: 2}[pair]
	return b.rms(at) > deadly
}

// handle does something to a can.
func (b *Bench) handle(c *loose, d Doing) (says string) {
	volts := math.Abs(b.can(c.ID, b.w.Read()))
	hurt := func(did string) string {
		return b.mistake("%s with %.0f V in it: it is discharged first, and measured.", did, volts)
	}
	switch d.What {
	case Discharge:
		if c.pair != "" {
			return "It is clipped in: it is taken out first."
		}
		b.w.Charge(c.ID, 0)
		return fmt.Sprintf("%.0f V went through the resistor.", volts)
	case Touch:
		if c.pair != "" && b.live(c.pair) {
			return b.mistake("Terminals under volts were touched.")
		}
		if volts > deadly {
			return hurt("A can was touched")
		}
		return "Nothing: it is empty."
	case Clip:
		pair := network.Pair(d.To)
		if !slices.Contains([]network.Pair{network.AB, network.BC, network.AC}, pair) {
			return "A can is clipped to ab, bc or ac."
		}
		if c.pair != "" {
			return "It is clipped in already."
		}
		switch {
		case b.live(pair):
			says = b.mistake("A can was clipped to lines under volts: the spark is hundreds of amps.")
		case volts > deadly:
			says = hurt("A can was clipped in")
		}
		b.w.Move(c.ID, pair)
		b.w.Switch(c.ID, waveform.Closed)
		c.pair = pair
		return says
	case Unclip:
		if c.pair == "" {
			return ""
		}
		if b.live(c.pair) {
			says = b.mistake("A can was unclipped from lines under volts: it keeps what it had at that instant.")
		}
		b.w.Switch(c.ID, waveform.Open)
		c.pair = ""
		return says
	}
	return "Nobody knows how that is done."
}

// Replay does again what was done to a rig, sample by sample, and goes on to a time in seconds.
func Replay(c Case, log []Done, seconds float64) (*Bench, error) {
	b := New(c)
	for _, d := range log {
		if err := b.to(d.Sample); err != nil {
			return b, err
		}
		b.Do(d.Doing)
	}
	return b, b.to(int(math.Round(seconds / b.tick())))
}

func (b *Bench) to(sample int) error {
	if sample <= b.samples {
		return nil
	}
	return b.Advance(float64(sample-b.samples) * b.tick())
}
