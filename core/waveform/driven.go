package waveform

import (
	"math"

	"brackmoor/core/network"
)

// driven is a source whose volts and frequency are changed while it runs: its angle is turned on from since.
type driven struct {
	volts, omega float64 // rms, line to line; radians a second
	turned       float64 // radians at since
	since        float64 // seconds
}

// angle is the source's at a time not before since.
func (d *driven) angle(at float64) float64 { return d.turned + d.omega*(at-d.since) }

// Drive gives the source other volts, rms, line to line, and another frequency in hertz from now on, as the output of
// an inverter has them: its angle goes on from where it is. A frequency below zero turns the other way round, one of
// zero holds direct volts.
func (w *Stepper) Drive(volts, hertz float64) {
	w.begin()
	d := &w.circuit.drive
	d.turned = math.Mod(d.angle(w.time), 2*math.Pi)
	d.since, d.volts, d.omega = w.time, volts, 2*math.Pi*hertz
	w.settle(w.tiny)
	w.remember()
}

// Load puts another load on a motor's shaft, nil for none, and says whether there is such a motor.
func (w *Stepper) Load(id string, load *network.Load) (known bool) {
	w.begin()
	for _, m := range w.machines {
		if m.ID == id {
			m.Motor.Load, known = load, true
		}
	}
	w.settle(w.tiny)
	w.remember()
	return known
}

// Move puts a capacitor that is open across another pair of lines; it keeps its charge. It says whether it did.
func (w *Stepper) Move(id string, pair network.Pair) (moved bool) {
	w.begin()
	to, ok := ends[pair]
	for _, p := range w.plains {
		if p.id == id && ok && !p.closed && p.farad > 0 {
			p.from, p.to, moved = to[0], to[1], true
		}
	}
	return moved
}

// Charge gives a capacitor that is open so many volts, and says whether it did.
func (w *Stepper) Charge(id string, volts float64) (done bool) {
	w.begin()
	for i, p := range w.plains {
		if p.id == id && !p.closed && p.farad > 0 {
			w.y[motorStates*len(w.machines)+i], done = volts, true
		}
	}
	return done
}

// Turn gives a shaft another speed in rpm, as a hand or a pony does, and says whether there is such a motor.
func (w *Stepper) Turn(id string, rpm float64) (known bool) {
	w.begin()
	for i, m := range w.machines {
		if m.ID == id {
			w.y[motorStates*i+speed], known = rpm*math.Pi/30, true
		}
	}
	w.settle(w.tiny)
	w.remember()
	return known
}

// Capacitors are those of its case, as they are.
func (w *Stepper) Capacitors() []Capacitor { return w.c.Capacitors }

// Exchange puts two of a motor's leads on one another's lines, 0 to 2, and says whether there is such a motor. From
// then on its amps are read by the lines that its leads are on, and its speed is still that of its own sense.
func (w *Stepper) Exchange(id string, one, other int) (known bool) {
	w.begin()
	for _, m := range w.machines {
		if m.ID == id {
			m.lines[one], m.lines[other] = m.lines[other], m.lines[one]
			known = true
		}
	}
	w.settle(w.tiny)
	w.remember()
	return known
}
