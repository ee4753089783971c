package startup

import (
	"math"
	"sort"
)

// hold solves the network at speeds in rad/s.
func (r *run) hold(omega []float64) error {
	for i := range omega {
		r.slips[i] = 1 - omega[i]/r.synchronous[i]
	}
	if r.c.Sags != nil {
		r.solver.Feed(r.c.SourceVolts(r.now))
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

// SourceVolts are those of the source at a time in seconds, between two of its sags, of which there
// is one at least.
func (c *Case) SourceVolts(at float64) float64 {
	after := sort.Search(len(c.Sags), func(i int) bool { return c.Sags[i].Seconds > at })
	switch after {
	case 0:
		return c.Sags[0].Volts
	case len(c.Sags):
		return c.Sags[after-1].Volts
	}
	from, to := c.Sags[after-1], c.Sags[after]
	return from.Volts + (to.Volts-from.Volts)*(at-from.Seconds)/(to.Seconds-from.Seconds)
}

// sagging says whether the source's volts still change after a time.
func (c *Case) sagging(at float64) bool { return len(c.Sags) > 0 && at < c.Sags[len(c.Sags)-1].Seconds }
