package startup

import (
	"math"
)

// hold solves the network at speeds in rad/s.
func (r *run) hold(omega []float64) error {
	for i := range omega {
		r.slips[i] = 1 - omega[i]/r.synchronous[i]
	}
	return r.solver.Hold(r.slips)
}

// opposing is what load takes of a motor at a speed, without friction and sign.
func (r *run) opposing(i int, omega float64) float64 {
	if r.c.Motors[i].Shaft == nil {
		return 0
	}
	return r.c.Motors[i].Shaft.At(omega * 30 / math.Pi)
}

// slope is the acceleration of each shaft.
func (r *run) slope(omega, slope []float64) error {
	if err := r.hold(omega); err != nil {
		return err
	}
	for i, m := range r.c.Motors {
		torque, against := r.solver.Moment(i).TorqueNm, r.opposing(i, omega[i])
		r.largest[i] = math.Max(r.largest[i], math.Abs(torque))
		sense := math.Copysign(1, omega[i])
		if math.Abs(omega[i]) < still*r.synchronous[i] {
			if math.Abs(torque) <= against {
				slope[i] = 0 // it does not break away
				continue
			}
			sense = math.Copysign(1, torque)
		}
		slope[i] = (torque - sense*against - r.friction[i]*omega[i]) / m.InertiaKgm2
	}
	return nil
}

// quiet says whether no speed changes any more.
func (r *run) quiet(slope []float64) bool {
	for i := range slope {
		if r.moves(i, slope[i]) {
			return false
		}
	}
	return true
}

// moves says whether a motor's speed still changes: neither is its torque spent, nor is
// the rest of its way, as the last step foretells it, within the tolerance.
func (r *run) moves(i int, slope float64) bool {
	spent := math.Abs(slope)*r.c.Motors[i].InertiaKgm2 <= calm*r.largest[i]
	there := r.rate[i] < 0 && math.Abs(slope) < -r.rate[i]*tolerance*r.synchronous[i]
	return !spent && !there
}
