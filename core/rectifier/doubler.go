package rectifier

import "math"

// doubler charges one can in each half cycle; its load lies across both.
type doubler struct {
	peak, omega float64
	ohm, henry  float64 // of the loop
	farad       float64 // of each can
	watts       float64
	conducts    leg
	drawn       float64
}

func newDoubler(c Case) *doubler {
	omega := 2 * math.Pi * c.Supply.Hertz
	return &doubler{
		peak:  math.Sqrt2 * c.Supply.Volts,
		omega: omega,
		ohm:   2 * c.Supply.LineResistanceOhm,
		henry: 2 * (c.Supply.LineReactanceOhm + c.Bridge.LineReactorOhm) / omega,
		farad: c.Bridge.BusMicrofarad * 1e-6,
		watts: c.LoadWatts,
	}
}

func (d *doubler) stage(base state, at, tau float64) state {
	before := base.bus[0] + base.bus[1]
	// The load's amps along the tangent at the base's volts.
	load := func(volts float64) float64 { return d.watts / before * (2 - volts/before) }
	lift := tau / d.farad
	impedance := d.ohm + d.henry/tau + dropOhm
	driving := d.peak*math.Sin(d.omega*at) + d.henry/tau*base.line[0]
	s := state{bus: base.bus}
	drawn := load(before)
	for range 8 {
		amps := 0.0
		switch d.conducts {
		case up:
			amps = (driving - dropVolts - base.bus[0] + lift*drawn) / (impedance + lift)
		case down:
			amps = (driving + dropVolts + base.bus[1] - lift*drawn) / (impedance + lift)
		}
		s.line[0] = amps
		s.bus[0] = base.bus[0] + lift*(math.Max(amps, 0)-drawn)
		s.bus[1] = base.bus[1] + lift*(math.Max(-amps, 0)-drawn)
		next := d.conducts
		switch {
		case d.conducts == up && amps < 0, d.conducts == down && amps > 0:
			next = off
		case d.conducts == off && driving > s.bus[0]+dropVolts:
			next = up
		case d.conducts == off && driving < -s.bus[1]-dropVolts:
			next = down
		}
		again := load(s.bus[0] + s.bus[1])
		if next == d.conducts && math.Abs(again-drawn) < 1e-9*(1+again) {
			break
		}
		d.conducts, drawn = next, again
	}
	d.drawn = drawn
	return s
}

func (d *doubler) read(s state, at float64) sample {
	charging := math.Max(s.line[0], 0)
	return sample{
		bus:       s.bus[0] + s.bus[1],
		input:     s.line[0],
		power:     d.peak * math.Sin(d.omega*at) * s.line[0],
		capacitor: charging - d.drawn,
		diode:     charging,
	}
}

func (d *doubler) repeats() int { return 2 }

// turned lets the cans change places.
func (d *doubler) turned(s state) state {
	s.line[0] = -s.line[0]
	s.bus[0], s.bus[1] = s.bus[1], s.bus[0]
	d.conducts = d.conducts.opposite()
	return s
}
