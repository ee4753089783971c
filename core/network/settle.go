package network

import (
	"fmt"
	"math"
	"math/cmplx"
)

// apply sets the saturation of the motors from air-gap volts and line amps.
func (s *Solver) apply(x []float64) {
	for k, i := range s.satIndex {
		m := &s.machines[i]
		m.xm = m.Circuit.MagnetisingOhms(x[2*k]/m.ratio) * m.ratio
		m.leakage = m.Circuit.LeakageFactor(x[2*k+1])
	}
	for k := range s.constant {
		s.constant[k].at(x[2*len(s.satIndex)+k])
	}
}

func (s *Solver) read(x []float64) {
	for k, i := range s.satIndex {
		x[2*k], x[2*k+1] = s.machines[i].airgapVolts(), s.machines[i].lineAmps()
	}
	for k := range s.constant {
		x[2*len(s.satIndex)+k] = cmplx.Abs(s.across(s.constant[k].Between))
	}
}

// Saturate solves the network at the present slips with every motor's
// saturation settled: the volts and amps that set it are those that follow
// from it.
func (s *Solver) Saturate() error {
	if err := s.Step(); err != nil || s.sat.n == 0 {
		return err
	}
	b := s.sat
	if s.work > budget {
		return ErrNoConvergence
	}
	s.read(b.x)
	if ok, err := s.quick(b); ok || err != nil {
		return err
	}
	return s.patient(b)
}

const settled = 1e-11

func (s *Solver) quick(b *broyden) (bool, error) {
	b.reset()
	for range 40 {
		s.work += len(s.machines) + b.n*b.n/16 // the update costs the square of the unknowns
		s.apply(b.x)
		if err := s.Step(); err != nil {
			return false, err
		}
		s.read(b.f)
		worst := 0.0
		for i := range b.f {
			b.f[i] -= b.x[i]
			worst = math.Max(worst, math.Abs(b.f[i])/math.Max(b.x[i], 1e-9))
		}
		if worst < settled {
			return true, nil
		}
		b.step()
		for i := range b.x {
			if !(b.x[i] > 0) || math.IsInf(b.x[i], 0) {
				return false, nil
			}
		}
	}
	return false, nil
}

// patient is the damped fixed-point iteration for states that the quick one
// loses, as near a jump of the magnetising curve.
func (s *Solver) patient(b *broyden) error {
	for _, damping := range []float64{0.5, 0.2, 0.05} {
		for _, i := range s.satIndex {
			m := &s.machines[i]
			m.xm, m.leakage = m.Circuit.XmOhm*m.ratio, 1
		}
		for i := range s.constant {
			s.constant[i].at(s.constant[i].nominal)
		}
		if err := s.Step(); err != nil {
			return err
		}
		s.read(b.x)
		for range 4000 {
			s.work += len(s.machines)
			s.apply(b.x)
			if err := s.Step(); err != nil {
				return err
			}
			s.read(b.f)
			worst := 0.0
			for i := range b.x {
				worst = math.Max(worst, math.Abs(b.f[i]-b.x[i])/math.Max(b.x[i], 1e-9))
				b.x[i] += damping * (b.f[i] - b.x[i])
			}
			if worst < settled {
				return nil
			}
		}
	}
	return fmt.Errorf("saturation: %w", ErrNoConvergence)
}

// Hold solves the network at given slips, one for each motor in order, its saturation
// settled. A slip may lie outside 0 to 2. All calls together have one work budget.
func (s *Solver) Hold(slips []float64) error {
	for i, slip := range slips {
		s.machines[i].slip = slip
	}
	return s.Saturate()
}
