package rectifier

import "math"

// doubler charges one can in each half cycle; its load lies across both.
type doubler struct {
	peak       float64
	wave       wave
	ohm, henry float64 // of the loop
	farad, esr float64 // of each can
	watts      float64
	conducts   leg
	volts      float64 // of the bus at the last stage
	drawn      float64 // amps of the load at the last stage
}

func newDoubler(c Case) *doubler {
	omega := 2 * math.Pi * c.Supply.Hertz
	return &doubler{
		peak:  math.Sqrt2 * c.Supply.Volts,
		wave:  newWave(c.Supply.Hertz),
		ohm:   2 * c.Supply.LineResistanceOhm,
		henry: 2 * (c.Supply.LineReactanceOhm + c.Bridge.LineReactorOhm) / omega,
		farad: c.Bridge.BusMicrofarad * 1e-6,
		esr:   c.Bridge.BusESROhm,
		watts: c.LoadWatts,
	}
}

func (d *doubler) stage(base state, at, tau float64) state {
	before := base.bus[0] + base.bus[1]
	touch := before
	if d.esr > 0 && d.volts > 0 {
		touch = d.volts
	}
	// The load's amps along the tangent at the volts before.
	load := func(volts float64) float64 { return d.watts / touch * (2 - volts/touch) }
	lift := tau/d.farad + d.esr
	impedance := d.ohm + d.henry/tau + dropOhm
	driving := d.peak*d.wave.sine(at, 0) + d.henry/tau*base.line[0]
	s := state{bus: base.bus}
	var outside [2]float64 // volts of each can with its ohms
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
		for k, into := range [2]float64{math.Max(amps, 0) - drawn, math.Max(-amps, 0) - drawn} {
			outside[k] = base.bus[k] + lift*into
			s.bus[k] = base.bus[k] + tau/d.farad*into
		}
		next := d.conducts
		switch {
		case d.conducts == up && amps < 0, d.conducts == down && amps > 0:
			next = off
		case d.conducts == off && driving > outside[0]+dropVolts:
			next = up
		case d.conducts == off && driving < -outside[1]-dropVolts:
			next = down
		}
		again := load(outside[0] + outside[1])
		if next == d.conducts && math.Abs(again-drawn) < 1e-9*(1+again) {
			break
		}
		d.conducts, drawn = next, again
	}
	d.volts, d.drawn = outside[0]+outside[1], drawn
	return s
}

func (d *doubler) read(s state, at float64) sample {
	charging := [2]float64{math.Max(s.line[0], 0), math.Max(-s.line[0], 0)}
	return sample{
		bus:       d.volts,
		input:     s.line[0],
		power:     d.peak * d.wave.sine(at, 0) * s.line[0],
		capacitor: charging[0] - d.drawn,
		diodes:    charging,
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

// coast is left to the stages: of a doubler's two cans one or the other is mostly being filled.
func (d *doubler) coast(s state, _, _ float64) (next state, ok bool) { return s, false }
