package startup

import (
	"math"

	"brackmoor/core/network"
)

// take records a moment, h seconds after the last.
func (r *run) take(at float64, omega []float64, h float64) {
	p := Point{Seconds: at, Volts: r.solver.Lines(), SupplyAmps: r.solver.SupplyAmps(), Drawn: r.solver.Drawn()}
	out := &r.result
	if len(out.Points) == 0 {
		out.LowestVolts = p.Volts
	} else {
		l := &out.LowestVolts
		l.AB, l.BC, l.CA = math.Min(l.AB, p.Volts.AB), math.Min(l.BC, p.Volts.BC), math.Min(l.CA, p.Volts.CA)
	}
	out.PeakSupplyAmps = math.Max(out.PeakSupplyAmps, p.SupplyAmps)
	for i := range omega {
		m := r.solver.Moment(i)
		o := &out.Motors[i]
		rpm := omega[i] * 30 / math.Pi
		for _, t := range []struct {
			to    **float64
			share float64
		}{{&o.TimeTo90, underSpeed}, {&o.TimeTo95, 0.95}} {
			if *t.to == nil && math.Abs(omega[i]) >= t.share*r.synchronous[i] {
				*t.to = new(r.crossing(at, h, i, rpm, t.share))
			}
		}
		o.LowestRPM = math.Min(o.LowestRPM, math.Abs(rpm))
		o.PeakLineAmps = math.Max(o.PeakLineAmps, m.LineAmps.Max())
		if last := len(out.Points) - 1; last >= 0 {
			before := out.Points[last].Motors[i].WindingAmps
			for k, amps := range m.WindingAmps {
				o.WindingAmps2Seconds[k] += h * (amps*amps + before[k]*before[k]) / 2
			}
		}
		o.CopperJoules += h * (m.CopperWatts + r.copper[i]) / 2
		r.copper[i] = m.CopperWatts
		p.Motors = append(
			p.Motors,
			MotorPoint{RPM: rpm, TorqueNm: m.TorqueNm, LoadNm: r.opposing(i, omega[i]), WindingAmps: m.WindingAmps},
		)
	}
	out.Points = append(out.Points, p)
}

// crossing is when, in the step that ends now, a motor passed a share of its
// synchronous speed.
func (r *run) crossing(at, h float64, i int, rpm, share float64) float64 {
	last := len(r.result.Points) - 1
	if last < 0 {
		return at
	}
	before, wanted := math.Abs(r.result.Points[last].Motors[i].RPM), share*r.synchronous[i]*30/math.Pi
	if gained := math.Abs(rpm) - before; gained > 0 {
		return at - h*(math.Abs(rpm)-wanted)/gained
	}
	return at
}

// finish judges where each motor ended.
func (r *run) finish(at float64, omega, slope []float64) {
	r.result.Seconds = at
	for i := range omega {
		o := &r.result.Motors[i]
		o.FinalRPM = omega[i] * 30 / math.Pi
		share := math.Abs(omega[i]) / r.synchronous[i]
		switch {
		case share >= underSpeed:
			o.State = network.Running
		case r.moves(i, slope[i]):
			o.State = Rising
		case share < 0.01:
			o.State = network.Stalled
		default:
			o.State = network.Crawling
		}
	}
}
