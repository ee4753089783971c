package rectifier

import "math"

// Running is a bridge under way in time, from an empty bus: what it feeds, and what feeds it, may change at every
// advance. The same calls give the same figures to the bit.
type Running struct {
	b     *bridge
	s     state
	choke float64 // ohms of its own
	at    float64
	begun float64 // where the cycle under way began
	now   cycle
	Seen  Seen    // of the last whole cycle
	low   float64 // volts of the bus below which a load draws as a resistor does
}

// Seen is what meters tell of a cycle.
type Seen struct {
	MeanVolts, LeastVolts, MostVolts float64
	InputAmps, PeakAmps              float64
}

// cycle gathers what is seen of one.
type cycle struct {
	steps                       int
	volts, least, most, squares float64
	peak                        float64
}

// lowShare is of the bus's usual volts those below which a load draws no constant power any more.
const lowShare = 0.3

// runningSteps are the steps of a cycle while it runs.
const runningSteps = 240

// Run makes a bridge under way of a case, whose watts are for Advance.
func Run(c Case) *Running {
	c.LoadWatts = 0
	r := &Running{b: newBridge(c), choke: c.Bridge.DCChokeOhm}
	r.s.bus[0] = 1e-6 * r.b.peak
	r.b.volts, r.low = r.s.bus[0], lowShare*math.Sqrt2*c.Supply.Volts
	return r
}

// Volts are those of the bus now.
func (r *Running) Volts() float64 { return r.b.volts }

// Through puts a resistor of so many ohms behind the bridge, as a precharge does; 0 takes it out.
func (r *Running) Through(ohm float64) { r.b.chokeOhm = r.choke + ohm }

// Feed gives it another source: 3 lines, 2, or none, at so many volts rms between them.
func (r *Running) Feed(lines int, volts float64) {
	r.b.peak, r.b.lines = math.Sqrt2*volts, lines
	switch lines {
	case 3:
		r.b.peak /= math.Sqrt(3)
	case 0:
		r.b.lines, r.b.peak = 2, 0
	}
	r.b.legs, r.s.line, r.s.choke = [3]leg{}, [3]float64{}, 0
}

// Advance goes on by so many seconds, the load taking watts of the bus, or giving them where they are below zero.
func (r *Running) Advance(seconds, watts float64) {
	period := 2 * math.Pi / r.b.wave.omega
	steps := int(math.Ceil(seconds / period * runningSteps))
	h := seconds / float64(steps)
	for range steps {
		share := math.Min(1, r.s.bus[0]/r.low)
		r.b.watts = watts * share * share
		r.s = step(r.b, r.s, r.at, h)
		r.at += h
		m := r.b.read(r.s, r.at)
		if r.now.steps == 0 {
			r.now.least, r.now.most = m.bus, m.bus
		}
		r.now.steps++
		r.now.volts += m.bus
		r.now.squares += m.input * m.input
		r.now.peak = math.Max(r.now.peak, math.Abs(m.input))
		r.now.least, r.now.most = math.Min(r.now.least, m.bus), math.Max(r.now.most, m.bus)
		if r.at-r.begun >= period*(1-1e-9) {
			n := float64(r.now.steps)
			r.Seen = Seen{
				r.now.volts / n, r.now.least, r.now.most, math.Sqrt(r.now.squares / n), r.now.peak,
			}
			r.begun, r.now = r.at, cycle{}
		}
	}
}
