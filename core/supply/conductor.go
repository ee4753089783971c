package supply

import (
	"math"
	"slices"

	"brackmoor/core/quantity"
)

// conductor is a copper conductor by its size, with the amps that it carries and its ohms a
// kilometre, as warm as they make it.
type conductor struct {
	size       string
	amps, ohms float64
}

// conductors are what ways are fed by where nothing is said of how they are laid: on 60 Hz copper by
// the 60 °C column of NEC table 310.16, which terminals up to 100 A are for (110.14(C)), none past
// the small-conductor rule of 240.4(D) (US, 2023); on 50 Hz two loaded ones in conduit on a wall,
// method B1, PVC, by IEC 60364-5-52, table B.52.2.
func (c Code) conductors() (list []conductor) {
	if quantity.SixtyHertz(c.hertz) {
		for _, g := range gauges[:13] { // up to 4/0
			amps, _ := c.gauge(g, Copper, 0)
			if most, _ := c.figure(smallUS, g.size, usMaterial[Copper], small[Copper][g.size]); most > 0 {
				amps = math.Min(amps, most)
			}
			list = append(list, conductor{g.size, amps, g.ohm * kilometre})
		}
		return list
	}
	usual := slices.Index(methods[:], usualMethod)
	for _, s := range sections {
		amps, _ := c.figure(pvcLaid, s.size, usualMethod, s.pvc[usual])
		list = append(list, conductor{s.size, amps, warm * s.ohm})
	}
	return list
}

// thin are wires of controls, which tables of circuits begin above: NFPA 79, table 12.5.1; IEC 60204-1, table 6, B1.
var thin = map[string]float64{"18 AWG": 7, "16 AWG": 10, "0.75 mm²": 8.6, "1 mm²": 10.3}

// OfSize is what copper of a size carries in amps where nothing is said of how it is laid, 0 for a size that is not
// in its code's tables.
func (c Code) OfSize(size string) (amps float64) {
	if amps, ok := thin[size]; ok {
		return amps
	}
	for _, k := range c.conductors() {
		if k.size == size {
			return k.amps
		}
	}
	return 0
}

const (
	// kilometre is how many thousand feet there are in one.
	kilometre = 1000 / 304.8
	// warm is the ohms of copper at 70 °C over those at 20 °C (IEC 60228, annex A).
	warm = 1 + 0.00393*50
	// reactance is that of a conductor beside its return in ohms a kilometre (IEC 60364-5-52,
	// annex G).
	reactance = 0.08
)

// Run is a circuit's conductors as far as they go, copper, both lines: their size, and the share
// of the supply's volts in percent that is lost on them at the load and at a start. By is the
// size that carries the amps, where the run wants a larger one; Poor says that the largest does
// not keep within what may be lost either.
type Run struct {
	Size, By          string
	Running, Starting float64
	Poor              bool
}

// Over is the least conductor that carries amps over so many metres with no more volts lost than
// may be, in percent at the load's amps and at those of a start. Amps and ohms count by their
// size alone, which is never too little. There is none where no conductor carries the amps.
func (c Code) Over(metres, carry, volts float64, amps, most [2]float64) (r Run, ok bool) {
	for _, c := range c.conductors() {
		if c.amps < carry {
			continue
		}
		if !ok {
			r.By, ok = c.size, true
		}
		percent := 100 * 2 * metres / 1000 * math.Hypot(c.ohms, reactance) / volts
		r.Size, r.Running, r.Starting = c.size, percent*amps[0], percent*amps[1]
		if r.Poor = r.Running > most[0] || r.Starting > most[1]; !r.Poor {
			break
		}
	}
	if r.By == r.Size {
		r.By = ""
	}
	return r, ok
}
