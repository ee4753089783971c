package diagnose

import "math"

// The states that something is read in.
const (
	Off      = "off"
	Standing = "standing"
	Idle     = "idle"
	Running  = "running"
)

// How far a figure may be off where everything else is right, by the meter and by what plates leave open: a share,
// and so much besides; and how heavy the tails are.
const (
	voltsShare, voltsLeast = 0.03, 3.0
	ampsShare, ampsLeast   = 0.12, 0.25
	ohmsShare, ohmsLeast   = 0.15, 0.1
	tails                  = 4.0
	// together is how much a figure tells beside the others: what a plate leaves open puts many of them off at once.
	together = 0.5
	// strange is how likely a figure is of a state that a cause does not come to.
	strange = 1e-3
)

// near is how likely a figure is where another is foretold, of one that is foretold to the point (Student's t).
func near(is, foretold, share, least float64) float64 {
	sigma := math.Hypot(share*foretold, least)
	z := (is - foretold) / sigma
	return math.Pow(math.Pow(1+z*z/tails, -(tails+1)/2)*math.Hypot(share*is, least)/sigma, together)
}

// agrees is how likely a reading is of a picture.
func (r *Reading) agrees(p *picture) float64 {
	like := 1.0
	if len(r.Ohms) > 0 {
		like *= r.ohms(p.world.machine)
	}
	var s *state
	switch r.State {
	case Off:
		return like
	case Standing:
		s = &p.locked
	case Idle:
		s = p.idle
	case Running:
		s = p.at(r.Share)
	}
	if s == nil {
		return like * math.Pow(strange, float64(max(len(r.Volts)+len(r.Machine)+len(r.Idler), 1)))
	}
	for pair, is := range map[string]float64{"ab": s.ab, "bc": s.bc, "ca": s.ca} {
		if read, ok := r.Volts[pair]; ok {
			like *= near(read, is, voltsShare, voltsLeast)
		}
	}
	for i, line := range []string{"a", "b", "c"} {
		if read, ok := r.Machine[line]; ok {
			like *= near(read, s.machines[0].lines[i], ampsShare, ampsLeast)
		}
		if read, ok := r.Idler[line]; ok && len(s.machines) > 1 {
			like *= near(read, s.machines[1].lines[i], ampsShare, ampsLeast)
		}
	}
	if r.Supply != nil {
		like *= near(*r.Supply, s.supply, ampsShare, ampsLeast)
	}
	return like
}

// ohms is how likely it is that a meter reads these between a machine's leads.
func (r *Reading) ohms(m *turning) float64 {
	like := 1.0
	pairs := m.pairs()
	for i, pair := range []string{"ab", "bc", "ca"} {
		read, ok := r.Ohms[pair]
		if !ok {
			continue
		}
		switch is := pairs[i]; {
		case (is >= openOhms) != (read >= openOhms):
			like *= strange
		case is < openOhms:
			like *= near(read, is, ohmsShare, ohmsLeast)
		}
	}
	return like
}
