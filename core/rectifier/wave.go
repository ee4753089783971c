package rectifier

import "math"

// wave is a source's sine of a frequency. A cycle is always stepped at the same instants, whose
// sines are worked out once.
type wave struct{ omega, steps float64 }

func newWave(hertz float64) wave {
	return wave{omega: 2 * math.Pi * hertz, steps: hertz * stepsPerCycle}
}

// instants are the sines at the steps of a cycle and at the inner stage of each.
var instants = func() (t [2][stepsPerCycle]float64) {
	for i := range stepsPerCycle {
		for k, within := range []float64{0, gamma} {
			t[k][i] = math.Sin(2 * math.Pi * (float64(i) + within) / stepsPerCycle)
		}
	}
	return t
}()

// sine is that at a time in seconds, not below zero, of the line so many thirds of a cycle
// behind.
func (w wave) sine(at float64, thirds int) float64 {
	const same = 1e-7 // of a step
	place := at*w.steps + float64((3-thirds)*stepsPerCycle/3)
	whole := int(place)
	within := place - float64(whole)
	switch {
	case within < same:
		return instants[0][whole%stepsPerCycle]
	case within > 1-same:
		return instants[0][(whole+1)%stepsPerCycle]
	case math.Abs(within-gamma) < same:
		return instants[1][whole%stepsPerCycle]
	}
	return math.Sin(w.omega*at - float64(thirds)*2*math.Pi/3)
}
