package drive

import (
	"errors"
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

// mostHalvings is how often a choke is halved that the bus swings against.
const mostHalvings = 4

// Choked is the front end of a drive of a rating with a choke for the motor's output: the
// usual one, or a smaller one where the bus of that rating swings against the usual one
// under a load of constant power; without any where it swings against all.
func (in Input) Choked(rating float64) (rectifier.Front, error) {
	c := in.front(rating, in.input(in.Share()*in.Plate.Output.Value))
	c.Bridge.Phases = 1
	bus := 0.9 * in.most()
	ohms := bus * bus / in.Plate.Output.Value
	c.Bridge.DCChokeMH, c.Bridge.DCChokeOhm = 1000*chokeShare*ohms/(2*math.Pi*2*in.Supply.Hertz), 0.01*ohms
	for range mostHalvings {
		_, err := rectifier.Solve(c)
		if err == nil {
			return c.Bridge, nil
		}
		if !errors.Is(err, rectifier.ErrSwing) && !errors.Is(err, rectifier.ErrBudget) {
			return c.Bridge, err
		}
		c.Bridge.DCChokeMH /= 2
	}
	c.Bridge.DCChokeMH, c.Bridge.DCChokeOhm = 0, 0
	return c.Bridge, nil
}

// choke works a front end out without and with a choke.
func (in Input) choke(c rectifier.Case, rating float64) (k Choke, err error) {
	with, err := in.Choked(rating)
	if err != nil {
		return k, err
	}
	k.MilliHenry, k.Ohm = with.DCChokeMH, with.DCChokeOhm
	for _, side := range []struct {
		to     *Line
		bridge rectifier.Front
	}{{&k.Bare, c.Bridge}, {&k.With, with}} {
		c.Bridge = side.bridge
		r, err := rectifier.Solve(c)
		if err != nil {
			return k, err
		}
		*side.to = Line{r.InputRMSAmps, r.InputPeakAmps, r.InputTHDPercent, r.RipplePPVolts}
	}
	return k, nil
}
