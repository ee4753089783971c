package diagnose

import (
	"math"
	"math/rand/v2"
	"slices"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// CauseIDs are those of all causes.
func CauseIDs() (list []string) {
	for _, c := range causes {
		list = append(list, c.ID)
	}
	return list
}

// Hidden is a machine that is not as its plate says, with one thing wrong, and what it shows.
type Hidden struct {
	p     *picture
	sound bool // nothing is wrong
}

// Hide makes one up of a case; ok is false where the cause cannot be on this way.
func Hide(c *Case, id string, rng *rand.Rand) (h Hidden, ok bool) {
	off := func(share float64) float64 { return math.Exp(share * rng.NormFloat64()) }
	real := *c
	real.Motor = really(c.Motor, off)
	if c.Idler != nil {
		idler := really(*c.Idler, off)
		real.Idler = &idler
	}
	real.Supply.Volts *= off(0.012)
	real.Supply.ResistanceOhm *= off(0.3)
	real.Supply.ReactanceOhm *= off(0.3)
	real.Run, real.Start, real.AC, real.BC = c.Run*off(0.04), c.Start*off(0.08), c.AC*off(0.04), c.BC*off(0.04)
	real.Breakaway *= off(0.15)
	w := real.world()
	w.meant = c.world().meant
	w.share = 0.3 + 0.6*rng.Float64()
	for i := range causes {
		if causes[i].ID == id && causes[i].alter(w) {
			p := w.show()
			return Hidden{&p, i == 0}, true
		}
	}
	return h, false
}

// really is a motor as it really is, each part of its circuit off by its own.
func really(m network.Motor, off func(float64) float64) network.Motor {
	c := &m.Circuit
	c.R1Ohm *= off(0.08)
	c.XmOhm *= off(0.1)
	x := off(0.1)
	c.X1Ohm *= x
	cages := []motor.Cage{}
	r := off(0.1)
	for _, g := range c.Cages {
		cages = append(cages, motor.Cage{ROhm: g.ROhm * r * off(0.05), XOhm: g.XOhm * x * off(0.05)})
	}
	c.Cages = cages
	curve := []motor.CurvePoint{}
	bend := off(0.25)
	for _, p := range m.Circuit.Curve {
		straight := p.AirgapVolts / c.XmOhm
		curve = append(curve, motor.CurvePoint{
			AirgapVolts: p.AirgapVolts, Amps: straight * (1 + (max(p.Amps/straight, 1)-1)*bend),
		})
	}
	c.Curve = curve
	m.FrictionWatts *= off(0.3)
	return m
}

// Says is what somebody says of it who tells so much of what is there, and now and then what is not. Nobody asks who
// sees nothing: something is seen, and of a fault something that a sound machine would not show; ok is false where it
// shows nothing of the kind.
func (h Hidden) Says(c *Case, share float64, rng *rand.Rand) (said []string, ok bool) {
	sound := c.world()
	sound.share = h.p.world.share
	usual := sound.show()
	strange := func(s Symptom) bool { return s.shows(h.p) && (h.sound || !s.shows(&usual)) }
	if !slices.ContainsFunc(Symptoms, strange) {
		return nil, false
	}
	for !ok {
		said = nil
		for _, s := range Symptoms {
			often := 0.03
			if s.shows(h.p) {
				often = share
			}
			if rng.Float64() < often {
				said = append(said, s.ID)
				ok = ok || strange(s)
			}
		}
	}
	return said, true
}

// Reads is what a meter of 1.5 percent reads on it in a state; ok is false where it does not come to that.
func (h Hidden) Reads(at string, rng *rand.Rand) (r Reading, ok bool) {
	s := map[string]*state{Standing: &h.p.locked, Idle: h.p.idle, Running: h.p.loaded}[at]
	if s == nil {
		return r, false
	}
	read := func(v float64) float64 { return v * (1 + 0.015*rng.NormFloat64()) }
	l := s.machines[0].lines
	return Reading{
		State:   at,
		Volts:   map[string]float64{"ab": read(s.ab), "bc": read(s.bc), "ca": read(s.ca)},
		Machine: map[string]float64{"a": read(l[0]), "b": read(l[1]), "c": read(l[2])},
	}, true
}

// Finds is what a look finds on it, one in thirty wrong.
func (h Hidden) Finds(look string, rng *rand.Rand) string {
	l := lookOf(look)
	found := l.of(h.p.world, h.p)
	if found == "" || rng.Float64() < 1.0/30 {
		found = l.Found[rng.IntN(len(l.Found))].ID
	}
	return found
}

// Solved is what all causes of a case show, solved once for many that are asked of it.
type Solved struct{ list []shown }

// Solve solves it.
func Solve(c *Case) Solved { return Solved{c.shown()} }

// Answer is as Diagnose of a case with the same machine, and without a load of its own.
func (s Solved) Answer(c *Case) Answer { return c.answer(s.list) }

// Bits are what every look would tell of the case that was answered last, by its id, those that are live apart.
func (s Solved) Bits() (dead, live map[string]float64) {
	dead, live = map[string]float64{}, map[string]float64{}
	for i := range Looks {
		gain, ok := Looks[i].gain(s.list)
		if !ok {
			continue
		}
		if Looks[i].Live {
			live[Looks[i].ID] = gain
		} else {
			dead[Looks[i].ID] = gain
		}
	}
	return dead, live
}

// Sound is a case's machine solved by this package: running loaded on its capacitors or converter.
func Sound(c *Case, share float64) (ab, bc, ca float64, lines [3]float64, slip float64, ok bool) {
	w := c.world()
	w.share = share
	p := w.show()
	if p.loaded == nil {
		return 0, 0, 0, lines, 0, false
	}
	return p.loaded.ab, p.loaded.bc, p.loaded.ca, p.loaded.machines[0].lines, p.slip, true
}

// Windings is a motor of three balanced lines' amps and torque by this package's windings, one of them reversed or
// none.
func Windings(m network.Motor, volts, slip float64, reversed bool) (lines [3]float64, torque float64) {
	own := machineOf(&m)
	own.reversed, own.slip = reversed, slip
	xm, leakage := own.circuit.XmOhm, 1.0
	for range 60 {
		y := own.at(m.RatedHertz, xm, leakage)
		phase := complex(volts/math.Sqrt(3), 0)
		v := [3]complex128{phase, phase * turn * turn, phase * turn}
		w, _ := y.across(own.delta, v)
		squares := 0.0
		for k := range 3 {
			var line complex128
			for l := range 3 {
				line += y.terminal[k][l] * v[l]
			}
			lines[k] = math.Hypot(real(line), imag(line))
			squares += lines[k] * lines[k]
		}
		f, b := fields(w)
		ef, eb := f*y.forward.EMFPerVolt, b*y.backward.EMFPerVolt
		e1, e2 := math.Hypot(real(ef), imag(ef)), math.Hypot(real(eb), imag(eb))
		synchronous := 4 * math.Pi * m.RatedHertz / float64(m.Poles)
		torque = 3 / y.times * (e1*e1*y.forward.Conductance - e2*e2*y.backward.Conductance) / synchronous
		xm = (xm + own.circuit.MagnetisingOhms(math.Hypot(e1, e2)/math.Sqrt(y.times))) / 2
		leakage = (leakage + own.circuit.LeakageFactor(math.Sqrt(squares/3))) / 2
	}
	return lines, torque
}

// Excites says whether a sound case's capacitors keep its volts up with the supply gone.
func Excites(c *Case) bool { return c.world().excites() }

// Broken is how a case's machine stands switched on, broken in one way and in another that is the same seen from
// outside: a lead parted by a joint that is open, and in star also a winding.
func Broken(c *Case) (cut, joint, winding map[string]float64) {
	seen := func(alter func(m *turning)) map[string]float64 {
		w := c.world()
		alter(w.machine)
		s := w.show().locked
		at := map[string]float64{"ab": s.ab, "bc": s.bc, "ca": s.ca, "torque": s.machines[0].torque}
		at["a"], at["b"], at["c"] = s.machines[0].lines[0], s.machines[0].lines[1], s.machines[0].lines[2]
		return at
	}
	cut = seen(func(m *turning) { m.open = 2 })
	joint = seen(func(m *turning) { m.lug[2] = nowhere })
	if c.Motor.Connection != network.Delta {
		winding = seen(func(m *turning) { m.opened = true })
	}
	return cut, joint, winding
}

// Pairs are the ohms between the leads of a case's machine: sound, with half a winding, and with one open.
func Pairs(c *Case) (sound, halved, opened [3]float64) {
	m := machineOf(&c.Motor)
	sound = m.pairs()
	m.halved = true
	halved = m.pairs()
	m.opened = true
	return sound, halved, m.pairs()
}

// Unexplained are the signs of a case that none of its causes shows.
func (s Solved) Unexplained(c *Case) (list []string) {
	for _, sign := range c.Sayable() {
		if !slices.ContainsFunc(s.list, func(x shown) bool {
			return slices.ContainsFunc(x.pictures, func(p picture) bool { return sign.shows(&p) })
		}) {
			list = append(list, sign.ID)
		}
	}
	return list
}
