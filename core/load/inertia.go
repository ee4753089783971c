package load

import (
	"errors"
	"math"
)

// Referred is an inertia in kg·m² as the motor feels it through belts or gears, when it
// turns at itsRPM while the motor turns at motorRPM: the energy is the same.
func Referred(kgm2, itsRPM, motorRPM float64) float64 {
	ratio := itsRPM / motorRPM
	return kgm2 * ratio * ratio
}

// CoastDown is a stop by stopwatch, the power off: from one speed to another, nothing
// but drag slowing it. Drag is DragWatts at FromRPM, its torque of the load's exponent:
// 0 constant, as of bearings, belts and seals; 1 with speed; 2 as of a fan.
type CoastDown struct {
	FromRPM, ToRPM float64
	Seconds        float64
	DragWatts      float64
	Exponent       int
}

// Errors of a coast-down that tells nothing.
var (
	ErrNoTime = errors.New("a coast-down takes a time above zero seconds")
	ErrSpeeds = errors.New("a coast-down goes from a speed above zero to a lower one")
	ErrNoDrag = errors.New("without the watts that drag takes at speed, a time tells no inertia")
	ErrNoStop = errors.New(
		"drag that falls with speed never quite stops it: time it down to a speed above zero, half the first, say",
	)
	ErrUnknown = errors.New("drag goes with speed to the power 0, 1 or 2")
)

// Inertia is the whole inertia on the shaft, in kg·m², that takes the time with the
// drag: from J·dω/dt = −T₀·(ω/ω₀)^k.
func (c CoastDown) Inertia() (float64, error) {
	from, to := c.FromRPM*math.Pi/30, c.ToRPM*math.Pi/30
	switch {
	case !(c.Seconds > 0):
		return 0, ErrNoTime
	case !(from > 0) || to < 0 || to >= from:
		return 0, ErrSpeeds
	case !(c.DragWatts > 0):
		return 0, ErrNoDrag
	case c.Exponent < 0 || c.Exponent > 2:
		return 0, ErrUnknown
	case c.Exponent > 0 && to == 0:
		return 0, ErrNoStop
	}
	torque := c.DragWatts / from
	var swept float64 // ∫ dω/(ω/ω₀)^k
	switch c.Exponent {
	case 0:
		swept = from - to
	case 1:
		swept = from * math.Log(from/to)
	default:
		swept = from * from * (1/to - 1/from)
	}
	return torque * c.Seconds / swept, nil
}
