package rectifier

import "math"

// Charging is a bus that is switched on empty. PeakAmps is the highest of the input, the
// contact closing at the worst instant; the seconds are to 95 percent of the bus's
// settled volts, nil when that takes more than Most; ResistorJoules is what a precharge
// resistor takes at each start.
type Charging struct {
	PeakAmps       float64  `json:"peak_amps"`
	Seconds        *float64 `json:"seconds_to_95_percent"`
	ResistorJoules float64  `json:"resistor_joules"`
}

// MostCharging bounds the seconds that a charging bus is followed.
const MostCharging = 5.0

// Precharge closes the line on an empty bus with nothing drawn from it, through a
// resistor of ohm behind the bridge (a doubler's stands in its line), 0 for none. It breaks off
// once nobody waits.
func Precharge(c Case, ohm float64) Charging {
	c.LoadWatts = 0
	if c.Bridge.Topology == Doubler {
		c.Supply.LineResistanceOhm += ohm / 2
	} else {
		c.Bridge.DCChokeOhm += ohm
	}
	peak, period := math.Sqrt2*c.Supply.Volts, 1/c.Supply.Hertz
	settled := peak
	if c.Bridge.Topology == Doubler {
		settled = 2 * peak
	}
	const steps, instants = 600, 6 // in a cycle
	h := period / steps
	var out Charging
	for k := range instants {
		var front circuit
		if c.Bridge.Topology == Doubler {
			front = newDoubler(c)
		} else {
			front = newBridge(c)
		}
		begin := period / 2 * float64(k) / instants
		s := state{bus: [2]float64{1e-6 * peak, 0}}
		if c.Bridge.Topology == Doubler {
			s.bus[1] = s.bus[0]
		}
		joules := 0.0
		var reached *float64
		for i := 0; float64(i)*h < MostCharging; i++ {
			if i%steps == 0 && c.Stop.Err() != nil {
				return out
			}
			at := begin + float64(i)*h
			s = step(front, s, at, h)
			m := front.read(s, at+h)
			amps := m.capacitor // nothing else is drawn
			if c.Bridge.Topology == Doubler {
				amps = m.input
			}
			joules += h * ohm * amps * amps
			out.PeakAmps = math.Max(out.PeakAmps, math.Abs(m.input))
			if m.bus >= 0.95*settled {
				reached = new(float64(i+1) * h)
				break
			}
			if k > 0 && i > 2*steps {
				break // only its first peaks are asked of other instants
			}
		}
		if k == 0 {
			out.Seconds, out.ResistorJoules = reached, joules
		}
	}
	return out
}
