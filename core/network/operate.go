package network

import (
	"math"

	"brackmoor/core/search"
)

// Operate finds the slips of all loaded motors together, each on its stable
// branch at the highest speed, motors that cannot carry their load standing
// still with the others solved around them. Fixed slips stay.
func (s *Solver) Operate() error {
	s.work = 0
	var loose []int
	for i := range s.machines {
		if m := &s.machines[i]; m.Slip == nil {
			loose = append(loose, i)
			m.stalled = false
			m.slip = m.firstSlip(m.nominal)
		}
	}
	if len(loose) == 0 {
		return s.Saturate()
	}
	ok, err := s.newton(loose)
	if err != nil || ok {
		return err
	}
	return s.sweep(loose)
}

// Follow finds what Operate does, from where the motors turn now: quickly, where little has
// changed since. Where they do not settle from there all is looked for anew.
func (s *Solver) Follow() error {
	s.work = 0
	var loose []int
	for i := range s.machines {
		m := &s.machines[i]
		if m.Slip != nil {
			continue
		}
		if m.stalled || m.slip <= 0 || m.slip > CrawlSlip {
			return s.Operate()
		}
		loose = append(loose, i)
	}
	if ok, err := s.newton(loose); ok && err == nil {
		return nil
	}
	return s.Operate()
}

// firstSlip is the slip at which the forward field alone, behind no stator
// ohms, would carry the load: a start for the search.
func (m *machine) firstSlip(volts float64) float64 {
	var conductance float64
	for _, g := range m.Circuit.Cages {
		conductance += 1 / g.ROhm
	}
	watts := m.FrictionCoefficient() * m.synchronous * m.synchronous
	if m.Load != nil {
		if m.Load.Kind == "power" {
			watts += m.Load.Watts
		} else {
			n := m.synchronous * 30 / math.Pi
			watts += m.Load.NewtonMetre * math.Pow(n/m.Load.AtRPM, float64(m.Load.Exponent)) * m.synchronous
		}
	}
	return math.Min(math.Max(1.3*watts/(volts*volts*conductance), 1e-5), 0.05)
}

// residual is the net torque of a motor at the present state, as a share of
// its scale.
func (m *machine) residual() float64 { return m.net() / m.torqueScale }

// newton solves all slips together, by a Jacobian from differences once and
// Broyden's update after it. It says no when it leaves the running range, does
// not settle, or ends on an unstable point.
func (s *Solver) newton(loose []int) (bool, error) {
	n := len(loose)
	b := newBroyden(n)
	evaluate := func(f []float64) error {
		for k, i := range loose {
			s.machines[i].slip = b.x[k]
		}
		if err := s.Saturate(); err != nil {
			return err
		}
		for k, i := range loose {
			f[k] = s.machines[i].residual()
		}
		return nil
	}
	for k, i := range loose {
		b.x[k] = s.machines[i].slip
	}
	jacobian := make([]float64, n*n)
	probe := make([]float64, n)
	differences := func() error {
		for k := range loose {
			x := b.x[k]
			h := 1e-4 * (x + 1e-4)
			b.x[k] = x + h
			if err := evaluate(probe); err != nil {
				return err
			}
			b.x[k] = x
			for r := range probe {
				jacobian[r*n+k] = (probe[r] - b.f[r]) / h
			}
		}
		return nil
	}
	const tolerance = 1e-12
	if err := evaluate(b.f); err != nil {
		return false, err
	}
	for round := 0; round < 3; round++ {
		if err := differences(); err != nil {
			return false, err
		}
		if !b.invert(jacobian) {
			return false, nil
		}
		b.moved = false
		last := norm(b.f)
		for range 12 {
			if norm(b.f) < tolerance {
				return s.accept(loose, b, evaluate, differences, jacobian)
			}
			b.step()
			for k := range b.x {
				if b.x[k] < 0 {
					b.x[k], b.moved = 0, false
				}
				if !(b.x[k] < 0.2) {
					return false, nil
				}
			}
			if err := evaluate(b.f); err != nil {
				return false, err
			}
			if norm(b.f) > 2*last {
				break
			}
			last = norm(b.f)
		}
		if norm(b.f) < tolerance {
			return s.accept(loose, b, evaluate, differences, jacobian)
		}
	}
	return false, nil
}

// accept checks that a point found is stable: net torque rises with slip for
// each motor alone and for all together.
func (s *Solver) accept(
	loose []int,
	b *broyden,
	evaluate func([]float64) error,
	differences func() error,
	jacobian []float64,
) (bool, error) {
	for _, i := range loose {
		if s.machines[i].slip > CrawlSlip {
			return false, nil
		}
	}
	if err := differences(); err != nil {
		return false, err
	}
	n := len(loose)
	for k := range n {
		if jacobian[k*n+k] <= 0 {
			return false, nil
		}
	}
	if determinant(jacobian, n) <= 0 {
		return false, nil
	}
	return true, evaluate(b.f)
}

func norm(f []float64) float64 {
	worst := 0.0
	for _, v := range f {
		if !(math.Abs(v) <= worst) {
			worst = math.Abs(v)
		}
	}
	return worst
}

// sweep is the safe way: each motor in turn is brought to its highest stable
// speed with the others held, until none moves or all slips together settle
// from there. A motor that finds none stands still for good: the others only
// ever pull the made leg further down.
func (s *Solver) sweep(loose []int) error {
	for _, i := range loose {
		s.machines[i].slip = 1e-3
	}
	for range 200 {
		moved, turning := 0.0, loose[:0:0]
		for _, i := range loose {
			m := &s.machines[i]
			if m.stalled {
				continue
			}
			before := m.slip
			slip, ok, err := s.highest(i)
			if err != nil {
				return err
			}
			if m.slip = slip; !ok {
				m.stalled, m.slip = true, 1
			} else {
				turning = append(turning, i)
			}
			moved = math.Max(moved, math.Abs(m.slip-before))
		}
		if moved < 1e-10 {
			return s.Saturate()
		}
		if done, err := s.together(turning); done || err != nil {
			return err
		}
	}
	return ErrNoConvergence
}

// together tries all turning motors at once from where they are, and leaves
// them there when that does not settle.
func (s *Solver) together(turning []int) (bool, error) {
	kept := make([]float64, len(turning))
	for k, i := range turning {
		kept[k] = s.machines[i].slip
	}
	if len(turning) == 0 {
		return false, nil
	}
	done, err := s.newton(turning)
	if !done {
		for k, i := range turning {
			s.machines[i].slip = kept[k]
		}
	}
	return done, err
}

// highest looks, from the slip that motor i has, for the smallest one at which
// it holds its load: net torque not above zero just faster, above zero just
// slower.
func (s *Solver) highest(i int) (slip float64, ok bool, err error) {
	m := &s.machines[i]
	at := func(slip float64) float64 {
		m.slip = slip
		if err == nil {
			err = s.Saturate()
		}
		return m.residual()
	}
	const ratio = 1.2
	fast := m.slip
	top, topSlip := at(fast), fast
	if top > 0 {
		return root(at, 0, at(0), fast, top), true, err
	}
	last := top
	for fast < 1 && err == nil {
		slow := math.Min(fast*ratio, 1)
		value := at(slow)
		if value > 0 {
			return root(at, fast, last, slow, value), true, err
		}
		if value > top {
			top, topSlip = value, slow
		}
		fast, last = slow, value
	}
	if err != nil {
		return 0, false, err
	}
	// The load may just touch the torque curve between two points looked at.
	foot := topSlip / ratio
	peak, above := 0.0, 0.0
	search.Section(foot, math.Min(topSlip*ratio, 1), 20, func(l, h float64) bool {
		if above > 0 {
			return true // found already
		}
		left, right := at(l), at(h)
		if peak, above = l, left; right > left {
			peak, above = h, right
		}
		return left > right
	})
	if above > 0 {
		return root(at, foot, at(foot), peak, above), true, err
	}
	return 0, false, err
}

// root finds the slip between a faster one with net torque not above zero and
// a slower one with it above, by false position that halves the end which
// stays (Illinois; Dahlquist and Björck, Numerical Methods, section 6.4).
func root(at func(float64) float64, fast, below, slow, above float64) float64 {
	kept := 0
	for range 100 {
		slip := slow - above*(slow-fast)/(above-below)
		if !(slip > fast && slip < slow) {
			slip = (fast + slow) / 2
		}
		value := at(slip)
		if math.Abs(value) < 1e-14 || slow-fast < 1e-14 {
			return slip
		}
		if value > 0 {
			slow, above = slip, value
			if kept > 0 {
				below /= 2
			}
			kept = 1
		} else {
			fast, below = slip, value
			if kept < 0 {
				above /= 2
			}
			kept = -1
		}
	}
	return (fast + slow) / 2
}
