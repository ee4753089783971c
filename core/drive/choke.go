package drive

import (
	"errors"
	"math"

	"brackmoor/core/rectifier"
)

// Reactor is what is put in the line of a drive or in its dc link.
type Reactor string

// The reactors there are.
const (
	NoReactor   Reactor = ""
	LineReactor Reactor = "line"
	DCChoke     Reactor = "choke"
)

// reactorShare is a usual line reactor: its reactance over the ohms that the drive is on its
// line at its rating.
const reactorShare = 0.03

// reactorOhm is a usual line reactor for a drive of a rating, in each of its lines.
func (in Input) reactorOhm(rating float64) float64 {
	return reactorShare * in.Supply.Volts * in.Supply.Volts / in.input(rating)
}

// Choke is a choke in the dc link, or what does as much in the line, and what it does there:
// input amps at the load without and with it, their peaks, and the ripple of the bus.
type Choke struct {
	MilliHenry float64 `json:"millihenry"`
	InLine     bool    `json:"in_line"`          // half of it in each line, none in the dc link
	Added      float64 `json:"added_microfarad"` // to the bus, beside the drive's own
	Bare       Line    `json:"bare"`
	With       Line    `json:"with"`

	front rectifier.Front
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

// load is the ohms on the bus of the motor at its output.
func (in Input) load() float64 {
	bus := 0.9 * in.most()
	return bus * bus / in.Plate.Output.Value
}

// choked puts a choke of a share of the load's ohms into a front end, or half of it into each
// of its lines.
func (in Input) choked(f rectifier.Front, share float64) rectifier.Front {
	ohm := share * in.load() / 2 // at the line's hertz
	if in.Reactor == LineReactor {
		f.LineReactorOhm = ohm / 2
		return f
	}
	f.DCChokeMH, f.DCChokeOhm = 1000*ohm/(2*math.Pi*in.Supply.Hertz), 0.01*in.load()
	return f
}

// Choked is the front end of a drive of a rating with a choke for the motor's output: the
// usual one, or a smaller one where the bus of that rating swings against the usual one
// under a load of constant power; without any where it swings against all.
func (in Input) Choked(rating float64) (rectifier.Front, error) {
	in.Reactor = DCChoke
	bare := in.Front(rating)
	for share := chokeShare; share > chokeShare/(1<<mostHalvings); share /= 2 {
		f := in.choked(bare, share)
		switch _, err := in.Takes(f, in.Share()*in.Plate.Output.Value); {
		case err == nil:
			return f, nil
		case !errors.Is(err, rectifier.ErrSwing) && !errors.Is(err, rectifier.ErrBudget):
			return f, err
		}
	}
	return bare, nil
}

// StartTimes is the most that a drive gives of rated torque for a start, with its usual
// current limit.
const StartTimes = 1.5

// What is tried of a bus for drives: capacitance added to the drive's own, in times of it,
// and chokes by their share of the load's ohms. A larger choke takes more of the volts.
var (
	addedTimes = []float64{1, 2, 3, 4, 6, 8}
	busShares  = []float64{0.05, 0.1}
)

// Bus is the front end of a dc bus for a drive of a rating: a choke, and the least
// capacitance in microfarads beside the drive's own with which the bus is steady up to what a
// start takes and its ripple at full output is borne. Without a choke, and nothing added,
// where none does.
func (in Input) Bus(rating float64) (front rectifier.Front, added float64) {
	own := in.Front(rating)
	for _, times := range addedTimes {
		for _, share := range busShares {
			f := in.choked(own, share)
			f.BusMicrofarad *= 1 + times
			f.BusESROhm /= 1 + times
			if in.steady(f) {
				return f, times * own.BusMicrofarad
			}
		}
	}
	return own, 0
}

// Given is the front end of a dc bus for drives of a rating as somebody has it: its capacitance in
// all, or the drives' own for 0, and the choke in its link, or none.
func (in Input) Given(rating, microfarad, chokeMH float64) rectifier.Front {
	f := in.Front(rating)
	if microfarad > 0 {
		f = withCans(f, microfarad, in.Supply.Hertz)
	}
	if chokeMH > 0 {
		f.DCChokeMH, f.DCChokeOhm = chokeMH, 0.01*in.load()
	}
	return f
}

// Rating is that of the standard drive for the motor.
func (in Input) Rating() float64 {
	rating, _ := in.Next(in.Plate.Output.Value, in.Plate.Amps.Value)
	return rating
}

// steady says whether a bus finds a periodic state at full output, with a ripple that is
// borne, and at a start.
func (in Input) steady(f rectifier.Front) bool {
	for _, times := range []float64{1, StartTimes} {
		r, err := in.Takes(f, times*in.Plate.Output.Value)
		if err != nil || times == 1 && r.RipplePPVolts > rectifier.BorneRipple*r.BusMeanVolts {
			return false
		}
	}
	return true
}

// choke works a front end out without and with a choke, that of a bus with what is added to
// it.
func (in Input) choke(c rectifier.Case, rating float64) (k Choke, err error) {
	var with rectifier.Front
	if in.Kind == Bus {
		with, k.Added = in.Bus(rating)
	} else if with, err = in.Choked(rating); err != nil {
		return k, err
	}
	k.front, k.MilliHenry = with, with.DCChokeMH
	if in.Kind == Bus && in.Reactor == LineReactor {
		k.InLine, k.MilliHenry = true, 2*1000*with.LineReactorOhm/(2*math.Pi*in.Supply.Hertz)
	}
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
