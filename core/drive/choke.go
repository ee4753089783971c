package drive

import (
	"math"

	"brackmoor/core/rectifier"
)

// Choke is a choke in the dc link and what it does to the line: input amps at the load
// without and with it, their peaks, and the ripple of the bus.
type Choke struct {
	MilliHenry float64 `json:"millihenry"`
	Ohm        float64 `json:"ohm"`
	Bare       Line    `json:"bare"`
	With       Line    `json:"with"`
}

// Line is what a front end takes from the line.
type Line struct {
	Amps   float64 `json:"amps"`
	Peak   float64 `json:"peak_amps"`
	THD    float64 `json:"thd_percent"`
	Ripple float64 `json:"ripple_pp_volts"`
}

// chokeShare is a choke's reactance at twice the line's frequency, over the ohms of the
// load on the bus: a usual one (shop practice).
const chokeShare = 0.2

// ChokeFor is the choke in millihenry and its ohms for watts on a bus.
func (in Input) ChokeFor(watts float64) (milliHenry, ohm float64) {
	bus := 0.9 * in.most()
	ohms := bus * bus / watts
	return 1000 * chokeShare * ohms / (2 * math.Pi * 2 * in.Supply.Hertz), 0.01 * ohms
}

// choke works a front end out without and with a choke.
func (in Input) choke(c rectifier.Case) (k Choke, err error) {
	k.MilliHenry, k.Ohm = in.ChokeFor(in.Plate.Output.Value)
	for _, side := range []struct {
		to              *Line
		milliHenry, ohm float64
	}{{&k.Bare, 0, 0}, {&k.With, k.MilliHenry, k.Ohm}} {
		c.Bridge.DCChokeMH, c.Bridge.DCChokeOhm = side.milliHenry, side.ohm
		r, err := rectifier.Solve(c)
		if err != nil {
			return k, err
		}
		*side.to = Line{r.InputRMSAmps, r.InputPeakAmps, r.InputTHDPercent, r.RipplePPVolts}
	}
	return k, nil
}
