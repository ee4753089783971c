package rectifier

import "math"

// conduction of a bridge leg.
type leg int

const (
	off leg = iota
	up
	down
	both // while a choke's amps pass through the leg itself
)

// bridge is a diode bridge on two lines or three, its source floating.
type bridge struct {
	lines      int
	peak       float64
	wave       wave
	ohm, henry float64 // in each line
	chokeOhm   float64
	chokeHenry float64
	farad, esr float64
	watts      float64
	legs       [3]leg
	upper      [3]float64 // amps of the upper diodes at the last stage
	volts      float64    // of the bus at the last stage
	drawn      float64    // amps of the load at the last stage
}

func newBridge(c Case) *bridge {
	omega := 2 * math.Pi * c.Supply.Hertz
	b := &bridge{
		lines:      2,
		peak:       math.Sqrt2 * c.Supply.Volts,
		wave:       newWave(c.Supply.Hertz),
		ohm:        c.Supply.LineResistanceOhm,
		henry:      (c.Supply.LineReactanceOhm + c.Bridge.LineReactorOhm) / omega,
		chokeOhm:   c.Bridge.DCChokeOhm,
		chokeHenry: c.Bridge.DCChokeMH / 1000,
		farad:      c.Bridge.BusMicrofarad * 1e-6,
		esr:        c.Bridge.BusESROhm,
		watts:      c.LoadWatts,
	}
	if c.Bridge.Phases == 3 {
		b.lines, b.peak = 3, b.peak/math.Sqrt(3)
	}
	return b
}

// source is the volts behind a line.
func (b *bridge) source(k int, at float64) float64 {
	if b.lines == 2 {
		if k == 1 {
			return 0
		}
		return b.peak * b.wave.sine(at, 0)
	}
	return b.peak * b.wave.sine(at, k)
}

func (b *bridge) stage(base state, at, tau float64) state {
	// The capacitor and its load, whose amps go along the tangent at the volts before: volts
	// of the bus are rise + amps·lift.
	before, touch := base.bus[0], base.bus[0]
	if b.esr > 0 && b.volts > 0 {
		touch = b.volts
	}
	source := tau/b.farad + b.esr
	spread := 1 / (1 - source*b.watts/(touch*touch))
	rise := spread * (before - source*2*b.watts/touch)
	lift := spread * source
	// Volts behind the bridge are push + amps·drag.
	drag := b.chokeOhm + b.chokeHenry/tau + lift
	push := rise - b.chokeHenry/tau*base.choke
	impedance := b.ohm + b.henry/tau
	var driving [3]float64
	for k := range b.lines {
		driving[k] = b.source(k, at) + b.henry/tau*base.line[k]
	}
	var node [3]float64
	var amps [3]float64
	var behind, neutral float64
	for range 24 {
		neutral, behind = b.balance(driving, impedance, push, drag)
		worst, turned, over := -1, off, 1e-9*b.peak
		wish := func(k int, to leg, by float64) {
			if by > over {
				worst, turned, over = k, to, by
			}
		}
		for k := range b.lines {
			amps[k], node[k], b.upper[k] = 0, driving[k]+neutral, 0
			switch b.legs[k] {
			case up:
				amps[k] = (driving[k] + neutral - behind - dropVolts) / (impedance + dropOhm)
				node[k], b.upper[k] = behind+dropVolts+dropOhm*amps[k], amps[k]
				wish(k, off, -amps[k]*(impedance+dropOhm))
				wish(k, both, -dropVolts-node[k])
			case down:
				amps[k] = (driving[k] + neutral + dropVolts) / (impedance + dropOhm)
				node[k] = -dropVolts + dropOhm*amps[k]
				wish(k, off, amps[k]*(impedance+dropOhm))
				wish(k, both, node[k]-behind-dropVolts)
			case both:
				amps[k] = (driving[k] + neutral - behind/2) / (impedance + dropOhm/2)
				node[k] = (dropOhm*amps[k] + behind) / 2
				b.upper[k] = (node[k] - behind - dropVolts) / dropOhm
				wish(k, down, -b.upper[k]*dropOhm)
				wish(k, up, -(b.upper[k]-amps[k])*dropOhm)
			default:
				wish(k, up, node[k]-behind-dropVolts)
				wish(k, down, -dropVolts-node[k])
			}
		}
		if worst < 0 {
			break
		}
		b.legs[worst] = turned
	}
	s := state{line: amps}
	for k := range b.lines {
		s.choke += b.upper[k]
	}
	b.volts = rise + lift*s.choke
	s.bus[0] = before + (b.volts-before)*tau/b.farad/source
	b.drawn = b.watts / b.volts
	return s
}

// coast lets the bus feed its load alone, while no line stands above it: most of the time, for
// a bus without a choke. Its volts go by the slopes at both ends of the step (Heun's method).
func (b *bridge) coast(s state, at, h float64) (next state, ok bool) {
	const none = 1e-9 // amps
	if s.choke > none || math.Abs(s.line[0])+math.Abs(s.line[1])+math.Abs(s.line[2]) > none || b.drawn == 0 {
		return s, false
	}
	// slope is that of the capacitor, its terminals below it by what its ohms take.
	slope := func(volts float64) (bus, perSecond float64) {
		bus = volts
		if b.esr > 0 {
			bus = (volts + math.Sqrt(volts*volts-4*b.esr*b.watts)) / 2
		}
		return bus, -b.watts / bus / b.farad
	}
	_, first := slope(s.bus[0])
	_, second := slope(s.bus[0] + h*first)
	s.bus[0] += h * (first + second) / 2
	bus, _ := slope(s.bus[0])
	// Conduction begins where a pair of lines passes the bus and two drops: looked for at both
	// stages, as the step that would be taken does.
	if room := bus + 2*dropVolts; !(b.span(at+gamma*h) < room && b.span(at+h) < room) {
		return s, false
	}
	b.volts, b.drawn, b.upper, b.legs = bus, b.watts/bus, [3]float64{}, [3]leg{}
	s.line, s.choke = [3]float64{}, 0
	return s, true
}

// span is the volts between the highest line and the lowest.
func (b *bridge) span(at float64) float64 {
	one := b.source(0, at)
	if b.lines == 2 {
		return math.Abs(one)
	}
	two, three := b.source(1, at), b.source(2, at)
	return max(one, two, three) - min(one, two, three)
}

// balance finds the volts of the source's neutral and behind the bridge, both
// against the bus's negative side, so that the lines' amps add to nothing and the
// upper diodes' to the choke's.
func (b *bridge) balance(driving [3]float64, impedance, push, drag float64) (neutral, behind float64) {
	// Two equations in (neutral, behind): rows are the sum of the lines and the sum
	// of the upper diodes less the choke.
	var m [2][2]float64
	var r [2]float64
	any := false
	for k := range b.lines {
		switch b.legs[k] {
		case up:
			g := 1 / (impedance + dropOhm)
			m[0][0], m[0][1], r[0] = m[0][0]+g, m[0][1]-g, r[0]-g*(driving[k]-dropVolts)
			m[1][0], m[1][1], r[1] = m[1][0]+g, m[1][1]-g, r[1]-g*(driving[k]-dropVolts)
			any = true
		case down:
			g := 1 / (impedance + dropOhm)
			m[0][0], r[0] = m[0][0]+g, r[0]-g*(driving[k]+dropVolts)
			any = true
		case both:
			g := 1 / (impedance + dropOhm/2)
			m[0][0], m[0][1], r[0] = m[0][0]+g, m[0][1]-g/2, r[0]-g*driving[k]
			// upper = (i·rd/2 − behind/2 − drop)/rd with i of this leg.
			m[1][0], m[1][1], r[1] = m[1][0]+g/2, m[1][1]-g/4-0.5/dropOhm, r[1]-g/2*driving[k]+dropVolts/dropOhm
			any = true
		}
	}
	if !any {
		// Nothing conducts: the bus stands by itself, and the neutral floats half way.
		high, low := math.Inf(-1), math.Inf(1)
		for k := range b.lines {
			high, low = math.Max(high, driving[k]), math.Min(low, driving[k])
		}
		return push/2 - (high+low)/2, push
	}
	m[1][1] -= 1 / drag
	r[1] -= push / drag
	determinant := m[0][0]*m[1][1] - m[0][1]*m[1][0]
	return (r[0]*m[1][1] - m[0][1]*r[1]) / determinant, (m[0][0]*r[1] - r[0]*m[1][0]) / determinant
}

func (b *bridge) read(s state, at float64) sample {
	m := sample{
		bus: b.volts, input: s.line[0], capacitor: s.choke - b.drawn, diodes: [2]float64{b.upper[0], b.upper[1]},
	}
	for k := range b.lines {
		m.power += b.source(k, at) * s.line[k]
	}
	return m
}

func (b *bridge) repeats() int {
	if b.lines == 2 {
		return 2
	}
	return 6
}

// turned puts each line's amps and leg, the other way round, where they were half a
// cycle ago, or on three lines a sixth.
func (b *bridge) turned(s state) state {
	was, legs := s.line, b.legs
	for k := range b.lines {
		to := (k + 1) % b.lines
		if b.lines == 2 {
			to = k
		}
		s.line[to] = -was[k]
		b.legs[to] = legs[k].opposite()
	}
	return s
}

func (l leg) opposite() leg {
	switch l {
	case up:
		return down
	case down:
		return up
	}
	return l
}
