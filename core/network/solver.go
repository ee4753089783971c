package network

import (
	"errors"
	"math"
	"math/cmplx"
)

// ErrResonance says that the elements on the made leg resonate without any
// resistance, so that its volts have no bound.
var ErrResonance = errors.New("the made leg resonates without losses: its volts have no bound")

// ErrNoConvergence says that saturation found no settled state within its step
// budget.
var ErrNoConvergence = errors.New("the step budget was spent before everything settled")

// bank is a three-phase transformer with what hangs on it.
type bank struct {
	*Transformer
	fixed  complex128 // admittance of the plain loads behind it
	y1, y2 complex128 // of all that is behind it
	v1, v2 complex128 // sequence volts of its secondary lines
}

// constant is a rectifier load: the volts across its pair are an unknown.
type constant struct {
	*Rectifier
	power   complex128 // conjugate of its volt-amperes
	nominal float64
	now     complex128 // admittance at present
}

// Solver holds a case and its working memory. At fixed slips Step allocates
// nothing. A Solver is not safe for use by two goroutines.
type Solver struct {
	supply   Supply
	machines []machine
	banks    []bank
	constant []constant
	balanced complex128    // admittance of three-phase loads on the lines, and of idle transformers
	bare     [3]complex128 // of the pairs, without capacitors
	pairs    [3]complex128 // admittance across ab, bc, ac
	series   complex128    // source ohms
	y1, y2   complex128    // of all that is alike in the three lines
	v1, v2   complex128    // sequence volts of the lines
	source   [3]complex128 // node volts of the source behind its ohms, b as reference on one phase
	volts    [3]complex128 // solved node volts
	legless  bool          // nothing connects to the made leg: there is none
	sat      *broyden      // saturation unknowns: air-gap volts and line amps of each saturating motor
	satIndex []int
	work     int // motors solved so far, against the budget
}

// budget is how many motors may be solved once in finding one operating point;
// it is spent in a few seconds.
const budget = 20_000_000

// New makes a solver of a case that Validate finds nothing wrong with.
func New(c Case) *Solver {
	s := &Solver{supply: c.Supply, machines: make([]machine, len(c.Motors))}
	omega := 2 * math.Pi * c.Supply.Hertz
	s.series = complex(c.Supply.ResistanceOhm, c.Supply.ReactanceOhm)
	nominal := c.Supply.Volts
	if t := c.Supply.Transformer; t != nil {
		nominal *= t.Ratio
		square := complex(t.Ratio*t.Ratio, 0)
		s.series = s.series*square + t.ohms()
		s.pairs[index(AB)] += t.idle() / square
	}
	v := complex(nominal, 0)
	if c.Supply.Phases == 3 {
		a := v / complex(math.Sqrt(3), 0) * complex(math.Cos(math.Pi/6), -math.Sin(math.Pi/6))
		s.source = [3]complex128{a, a * alpha2, a * alpha}
	} else {
		s.source = [3]complex128{v, 0, 0}
	}
	s.bare = s.pairs
	for _, p := range c.Capacitors {
		s.pairs[index(p.Between)] += p.admittance(omega)
	}
	for _, p := range c.Loads {
		s.pairs[index(p.Between)] += p.admittance()
		s.bare[index(p.Between)] += p.admittance()
	}
	behind := map[string]int{}
	for i := range c.Transformers {
		behind[c.Transformers[i].ID] = i
		s.banks = append(s.banks, bank{Transformer: &c.Transformers[i]})
	}
	for i := range c.ThreePhaseLoads {
		p := &c.ThreePhaseLoads[i]
		if k, ok := behind[p.Behind]; ok {
			s.banks[k].fixed += p.admittance()
		} else {
			s.balanced += p.admittance()
		}
	}
	for i := range c.Rectifiers {
		s.constant = append(s.constant, newConstant(&c.Rectifiers[i], nominal))
	}
	for i := range c.Motors {
		m := &s.machines[i]
		m.Motor = &c.Motors[i]
		m.nominal, m.bank = nominal, -1
		if k, ok := behind[m.Behind]; ok {
			m.nominal, m.bank = nominal*s.banks[k].Ratio, k
		}
		m.ratio = c.Supply.Hertz / m.RatedHertz
		m.synchronous = omega * 2 / float64(m.Poles)
		m.xm, m.leakage = m.Circuit.XmOhm*m.ratio, 1
		x := m.Circuit.X1Ohm
		for _, g := range m.Circuit.Cages {
			x += g.XOhm + g.ROhm
		}
		m.torqueScale = m.nominal * m.nominal / ((m.Circuit.R1Ohm + x) * m.synchronous)
		if len(m.Circuit.Curve) > 1 || m.Circuit.Leakage.OnsetAmps > 0 {
			s.satIndex = append(s.satIndex, i)
		}
		if m.Slip != nil {
			m.slip = *m.Slip
		}
	}
	s.sat = newBroyden(2*len(s.satIndex) + len(s.constant))
	return s
}

// ends are the nodes of each pair, by its index.
var ends = [3][2]int{{0, 1}, {1, 2}, {0, 2}}

func index(p Pair) int {
	switch p {
	case AB:
		return 0
	case BC:
		return 1
	}
	return 2
}

// lockOut is the share of nominal volts under which a rectifier load is constant power
// no more.
const lockOut = 0.5

func newConstant(r *Rectifier, nominal float64) constant {
	c := constant{Rectifier: r, nominal: nominal}
	factor := r.DisplacementFactor
	if factor == 0 {
		factor = UsualDisplacement
	}
	c.power = complex(r.Watts, -r.Watts*math.Sqrt(1-factor*factor)/factor)
	c.at(nominal)
	return c
}

// at sets the admittance for the volts across the pair.
func (c *constant) at(volts float64) {
	volts = math.Max(volts, lockOut*c.nominal)
	c.now = c.power / complex(volts*volts, 0)
}

func (p *Capacitor) admittance(omega float64) complex128 {
	if p.Microfarad == 0 {
		return 0
	}
	return 1 / complex(p.ESROhm, -1e6/(omega*p.Microfarad))
}

func (p *Impedance) admittance() complex128 {
	return 1 / complex(p.ResistanceOhm, p.ReactanceOhm)
}

// Step solves the node volts at the present slips and the present saturation
// state, once and directly.
func (s *Solver) Step() error {
	y1, y2 := s.balanced, s.balanced
	for i := range s.banks {
		b := &s.banks[i]
		b.y1, b.y2 = b.fixed, b.fixed
	}
	for i := range s.machines {
		m := &s.machines[i]
		m.forward = m.Circuit.At(m.slip, m.ratio, m.xm, m.leakage)
		m.backward = m.Circuit.At(2-m.slip, m.ratio, m.xm, m.leakage)
		m.y1, m.y2 = m.forward.Admittance, m.backward.Admittance
		if m.Direction == "acb" {
			m.y1, m.y2 = m.y2, m.y1
		}
		line1, line2 := m.y1, m.y2
		if z := m.Conductor.ohms(); z != 0 {
			line1, line2 = line1/(1+z*line1), line2/(1+z*line2)
		}
		if m.bank >= 0 {
			b := &s.banks[m.bank]
			b.y1, b.y2 = b.y1+line1, b.y2+line2
		} else {
			y1, y2 = y1+line1, y2+line2
		}
	}
	for i := range s.banks {
		b := &s.banks[i]
		z, square := b.ohms(), complex(b.Ratio*b.Ratio, 0)
		y1 += square*b.y1/(1+z*b.y1) + b.idle()
		y2 += square*b.y2/(1+z*b.y2) + b.idle()
	}
	if err := s.nodes(y1, y2); err != nil {
		return err
	}
	va, vb, vc := s.volts[0], s.volts[1], s.volts[2]
	s.y1, s.y2 = y1, y2
	s.v1 = (va + alpha*vb + alpha2*vc) / 3
	s.v2 = (va + alpha2*vb + alpha*vc) / 3
	for i := range s.banks {
		b := &s.banks[i]
		z, ratio := b.ohms(), complex(b.Ratio, 0)
		b.v1, b.v2 = ratio*s.v1/(1+z*b.y1), ratio*s.v2/(1+z*b.y2)
	}
	for i := range s.machines {
		m := &s.machines[i]
		m.v1, m.v2 = s.v1, s.v2
		if m.bank >= 0 {
			m.v1, m.v2 = s.banks[m.bank].v1, s.banks[m.bank].v2
		}
		if z := m.Conductor.ohms(); z != 0 {
			m.v1, m.v2 = m.v1/(1+z*m.y1), m.v2/(1+z*m.y2)
		}
	}
	return nil
}

// nodes solves the three node volts for the motors' total sequence admittances.
func (s *Solver) nodes(y1, y2 complex128) error {
	p0 := (y1 + y2) / 3
	p1 := (alpha*y1 + alpha2*y2) / 3
	p2 := (alpha2*y1 + alpha*y2) / 3
	pairs := s.pairs
	for i := range s.constant {
		pairs[index(s.constant[i].Between)] += s.constant[i].now
	}
	ab, bc, ac := pairs[0], pairs[1], pairs[2]
	y := [3][3]complex128{
		{p0 + ab + ac, p1 - ab, p2 - ac},
		{p2 - ab, p0 + ab + bc, p1 - bc},
		{p1 - ac, p2 - bc, p0 + bc + ac},
	}
	if s.supply.Phases == 3 {
		return s.threeLines(y)
	}
	size := absolute(p0) + absolute(bc) + absolute(ac)
	var share complex128
	if s.legless = size == 0; !s.legless {
		if absolute(y[2][2]) <= 1e-12*size {
			return ErrResonance
		}
		share = -y[2][0] / y[2][2]
	}
	input := y[0][0] + y[0][2]*share
	loop := 1 + s.series*input
	if absolute(loop) <= 1e-12*(1+absolute(s.series*input)) {
		return ErrResonance
	}
	a := s.source[0] / loop
	s.volts = [3]complex128{a, 0, a * share}
	return nil
}

// threeLines solves (1 + Z·Y)·V = E by elimination with row exchange.
func (s *Solver) threeLines(y [3][3]complex128) error {
	v := s.source
	if s.series == 0 {
		s.volts = v
		return nil
	}
	for i := range y {
		for j := range y[i] {
			y[i][j] *= s.series
		}
		y[i][i]++
	}
	for k := 0; k < 3; k++ {
		pivot := k
		for i := k + 1; i < 3; i++ {
			if absolute(y[i][k]) > absolute(y[pivot][k]) {
				pivot = i
			}
		}
		if absolute(y[pivot][k]) < 1e-12 {
			return ErrResonance
		}
		y[k], y[pivot], v[k], v[pivot] = y[pivot], y[k], v[pivot], v[k]
		for i := k + 1; i < 3; i++ {
			f := y[i][k] / y[k][k]
			for j := k; j < 3; j++ {
				y[i][j] -= f * y[k][j]
			}
			v[i] -= f * v[k]
		}
	}
	for k := 2; k >= 0; k-- {
		for j := k + 1; j < 3; j++ {
			v[k] -= y[k][j] * v[j]
		}
		v[k] /= y[k][k]
	}
	s.volts = v
	return nil
}

// absolute is a cheap size of a complex number, within √2 of its magnitude.
func absolute(z complex128) float64 { return math.Abs(real(z)) + math.Abs(imag(z)) }

func square(z complex128) float64 { return real(z)*real(z) + imag(z)*imag(z) }

// across is the volts across a pair.
func (s *Solver) across(p Pair) complex128 {
	e := ends[index(p)]
	return s.volts[e[0]] - s.volts[e[1]]
}

// Switch puts a capacitor in or takes it out.
func (s *Solver) Switch(p Capacitor, in bool) {
	y := p.admittance(2 * math.Pi * s.supply.Hertz)
	if !in {
		y = -y
	}
	s.pairs[index(p.Between)] += y
}

// Bank puts capacitors in the place of all that there were.
func (s *Solver) Bank(list ...Capacitor) {
	s.pairs = s.bare
	for i := range list {
		s.pairs[index(list[i].Between)] += list[i].admittance(2 * math.Pi * s.supply.Hertz)
	}
}

// Lines are the present volts of the three pairs.
func (s *Solver) Lines() Lines {
	return Lines{cmplx.Abs(s.across(AB)), cmplx.Abs(s.across(BC)), cmplx.Abs(s.across(AC))}
}

// SupplyAmps are those of the source, the largest of three lines.
func (s *Solver) SupplyAmps() float64 {
	if s.supply.Phases == 3 {
		return legs(s.into()).Max()
	}
	return cmplx.Abs(s.Drawn())
}

// Drawn is the phasor of what is taken from a one-phase source, against its own volts.
func (s *Solver) Drawn() complex128 {
	amps := s.into()[0]
	if t := s.supply.Transformer; t != nil {
		amps *= complex(t.Ratio, 0)
	}
	return amps
}

// into are the currents that flow into the three lines.
func (s *Solver) into() [3]complex128 {
	into := lines(s.v1*s.y1, s.v2*s.y2)
	for k, e := range ends {
		y := s.pairs[k]
		for i := range s.constant {
			if index(s.constant[i].Between) == k {
				y += s.constant[i].now
			}
		}
		amps := (s.volts[e[0]] - s.volts[e[1]]) * y
		into[e[0]] += amps
		into[e[1]] -= amps
	}
	return into
}

// Feed sets the volts of a one-phase source; what is solved next is solved at those.
func (s *Solver) Feed(volts float64) {
	s.supply.Volts = volts
	if t := s.supply.Transformer; t != nil {
		volts *= t.Ratio
	}
	s.source[0] = complex(volts, 0)
}
