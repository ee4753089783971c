package waveform

import (
	"math"
	"math/cmplx"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// Places of a motor's states: flux linkages of stator, magnetising branch and cages
// as space vectors of phase amplitude, and the shaft's speed.
const (
	fluxStator = 2 * iota
	fluxGap
	fluxCage
	fluxCage2
	speed
	motorStates = speed + 1
)

// The operator of 120 degrees, and its square.
var (
	turn  = cmplx.Rect(1, 2*math.Pi/3)
	turn2 = cmplx.Rect(1, -2*math.Pi/3)
)

// machine is a motor ready to be stepped.
type machine struct {
	Motor
	stator, core    float64 // ohms; core 0 for no core loss
	leakage         float64 // henry
	wire            float64 // henry of its conductors, which do not saturate
	cageOhm, cage   []float64
	pairs           float64 // of poles
	omega0          float64 // electrical, at rated hertz
	synchronous     float64 // mechanical, at the supply's
	friction        float64 // N·m for each rad/s
	closed, opening [3]bool // lines; those that wait for a current zero
	lines           [3]int  // that its leads are on

	// Of the stage under way.
	inverse iterated // amps of the magnetising branch for each volt-second
	share   iterated // of leakage that saturation leaves
	amps    complex128
	torque  float64
	gain    float64 // of speed, rad/s²
	at      stage
}

// straight are leads that are on their own lines.
var straight = [3]int{0, 1, 2}

// whole says whether a motor is on the lines as they are, none of them open, so that it is alike in every direction
// with all others that are.
func (m *machine) whole() bool { return m.closed == joined && m.lines == straight }

// on are the volts of the lines that its leads are on.
func (m *machine) on(volts [3]float64) (u [3]float64) {
	for lead, line := range m.lines {
		u[lead] = volts[line]
	}
	return u
}

// stage holds what a stage makes of a motor: amps = source + admittance·volts.
type stage struct {
	admittance, source complex128
	gap, gapVolts      complex128 // flux of the gap = gap + gapVolts·volts
	cage               [2]complex128
}

func newMachine(m Motor, s Supply) *machine {
	omega0 := 2 * math.Pi * m.RatedHertz
	henry := func(ohm float64) float64 { return max(ohm/omega0, 1e-8) }
	k := &machine{
		Motor:       m,
		stator:      m.Circuit.R1Ohm + m.Conductor.ResistanceOhm,
		core:        m.Circuit.RcOhm,
		leakage:     henry(m.Circuit.X1Ohm),
		wire:        m.Conductor.ReactanceOhm / (2 * math.Pi * s.Hertz),
		pairs:       float64(m.Poles) / 2,
		omega0:      omega0,
		synchronous: motor.SynchronousRPM(s.Hertz, m.Poles) * math.Pi / 30,
		inverse:     iterated{at: omega0 / m.Circuit.XmOhm},
		lines:       straight,
		share:       iterated{at: 1},
	}
	k.friction = m.FrictionCoefficient()
	for _, g := range m.Circuit.Cages {
		k.cageOhm, k.cage = append(k.cageOhm, g.ROhm), append(k.cage, henry(g.XOhm))
	}
	return k
}

// series is the inductance between the lines and the gap, in henry.
func (m *machine) series() float64 { return m.leakage*m.share.at + m.wire }

func vector(y []float64, at int) complex128 { return complex(y[at], y[at+1]) }

func put(y []float64, at int, v complex128) { y[at], y[at+1] = real(v), imag(v) }

// prepare makes the stage's admittance from its base states, for the speed in y.
func (m *machine) prepare(base, y []float64, tau float64) {
	q := complex(1, -tau*m.pairs*y[speed])
	lead := 1 / (m.series() + tau*m.stator)
	sum := complex(m.inverse.at+lead, 0)
	source := times(lead, vector(base, fluxStator))
	if m.core > 0 {
		light := 1 / (tau * m.core)
		sum += complex(light, 0)
		source += times(light, vector(base, fluxGap))
	}
	for i, henry := range m.cage {
		d := inverted(times(henry*m.share.at, q) + complex(tau*m.cageOhm[i], 0))
		m.at.cage[i] = d
		sum += q * d
		source += vector(base, fluxCage+2*i) * d
	}
	whole := inverted(sum)
	m.at.gap, m.at.gapVolts = source*whole, times(tau*lead, whole)
	m.at.admittance = times(lead, complex(tau, 0)-m.at.gapVolts)
	m.at.source = times(lead, vector(base, fluxStator)-m.at.gap)
}

// times is a real multiple, and inverted the reciprocal, of a complex number, without
// the care for infinities that the language takes.
func times(a float64, z complex128) complex128 { return complex(a*real(z), a*imag(z)) }

func inverted(z complex128) complex128 {
	d := 1 / (real(z)*real(z) + imag(z)*imag(z))
	return complex(real(z)*d, -imag(z)*d)
}

// finish takes the stage's volts, as a space vector, and sets the states; it returns
// by how much the iterated figures still move, relatively.
func (m *machine) finish(base, y []float64, tau float64, volts complex128) float64 {
	m.amps = m.at.source + m.at.admittance*volts
	gap := m.at.gap + m.at.gapVolts*volts
	put(y, fluxGap, gap)
	put(y, fluxStator, times(m.series(), m.amps)+gap)
	q := complex(1, -tau*m.pairs*y[speed])
	var rotor complex128
	for i, henry := range m.cage {
		amps := (vector(base, fluxCage+2*i) - q*gap) * m.at.cage[i]
		put(y, fluxCage+2*i, times(henry*m.share.at, amps)+gap)
		rotor += amps
	}
	m.torque = -1.5 * m.pairs * imag(cmplx.Conj(gap)*rotor)
	before, moved := y[speed], 0.0
	y[speed] = m.spin(base[speed], before, tau)
	m.gain = (y[speed] - base[speed]) / tau
	// A shaft is off by so many radians of the field, the share of a flux that turns with it.
	moved += tau * m.pairs * math.Abs(y[speed]-before)
	if len(m.Circuit.Curve) > 1 {
		moved += m.inverse.to(m.omega0 / m.Circuit.MagnetisingOhms(cmplx.Abs(gap)*m.omega0/math.Sqrt2))
	}
	if m.Circuit.Leakage.OnsetAmps > 0 {
		moved += m.share.to(m.Circuit.LeakageFactor(cmplx.Abs(m.amps) / math.Sqrt2))
	}
	return moved
}

// iterated is a figure x that must equal a function f of itself. The chord's slope of f is
// kept from stage to stage, for it changes little.
type iterated struct {
	at, slope float64
	was, got  float64 // the last x and its f(x)
}

// to takes f(x) for the x it is at, moves to where the chord meets x, and returns how far
// x was off, relatively.
func (x *iterated) to(f float64) (off float64) {
	off = math.Abs(f/x.at - 1)
	if by := x.at - x.was; math.Abs(by) > 1e-9*x.at {
		// A chord as steep as the line it is to meet is that of a kink, or of two stages.
		if slope := (f - x.got) / by; slope < 0.95 {
			x.slope = slope
		}
	}
	x.was, x.got = x.at, f
	if next := x.at + (f-x.at)/(1-x.slope); next > 0 {
		x.at = next
	} else {
		x.at = f
	}
	return off
}

// opposing is the load's torque in N·m at a speed, without its sign.
func (m *machine) opposing(omega float64) float64 {
	if m.Load == nil {
		return 0
	}
	omega = math.Abs(omega)
	if m.Load.Kind == "power" {
		return m.Load.Watts / max(omega, 0.9*m.synchronous)
	}
	return m.Load.NewtonMetre * math.Pow(omega*30/math.Pi/m.Load.AtRPM, float64(m.Load.Exponent))
}

// spin is the shaft's speed after a stage. A load holds a shaft still until the
// motor's torque is more than its own, and never drives it.
func (m *machine) spin(before, now, tau float64) float64 {
	sense := math.Copysign(1, before)
	if before == 0 {
		sense = math.Copysign(1, m.torque)
	}
	load := m.opposing(now)
	after := (before + tau/m.InertiaKgm2*(m.torque-sense*load)) / (1 + tau*m.friction/m.InertiaKgm2)
	if after*sense < 0 {
		// It came to rest: on it goes the other way only if the motor drives it.
		if math.Abs(m.torque) <= load || m.torque*sense > 0 {
			return 0
		}
	}
	return after
}

// lineAmps are the instantaneous amps of the lines.
func (m *machine) lineAmps() network.Legs {
	return network.Legs{A: real(m.amps), B: real(m.amps * turn2), C: real(m.amps * turn)}
}

// byLine are its instantaneous amps by the lines that its leads are on.
func (m *machine) byLine() network.Legs {
	leads := m.lineAmps()
	var amps [3]float64
	for lead, a := range [3]float64{leads.A, leads.B, leads.C} {
		amps[m.lines[lead]] = a
	}
	return network.Legs{A: amps[0], B: amps[1], C: amps[2]}
}

// space is the space vector of three volts.
func space(u [3]float64) complex128 {
	return complex((2*u[0]-u[1]-u[2])/3, (u[1]-u[2])/math.Sqrt(3))
}

// terminal is a stage's conductance matrix in phase quantities, and its sources. An
// admittance g + jb that is alike in every direction makes a matrix of three figures:
// two thirds of g, and of g and b seen 120 degrees on and back.
func (s *stage) terminal() (g [3][3]float64, j [3]float64) {
	const half, root = 0.5, 0.8660254037844386
	re, im := real(s.admittance)*2/3, imag(s.admittance)*2/3
	on, back := -half*re-root*im, -half*re+root*im
	g = [3][3]float64{{re, on, back}, {back, re, on}, {on, back, re}}
	x, y := real(s.source), imag(s.source)
	return g, [3]float64{x, -half*x + root*y, -half*x - root*y}
}

// floating takes the lines that are open out of a motor's matrix, by the volts at
// which no current flows in them; ok is false when none flows at all.
func (m *machine) floating(g *[3][3]float64, j *[3]float64) (open int, ok bool) {
	open, count := -1, 0
	for k, closed := range m.closed {
		if !closed {
			open, count = k, count+1
		}
	}
	switch count {
	case 0:
		return -1, true
	case 1:
		for r := range 3 {
			if r == open {
				continue
			}
			share := g[r][open] / g[open][open]
			for c := range 3 {
				g[r][c] -= share * g[open][c]
			}
			j[r] -= share * j[open]
		}
		return open, true
	}
	return -1, false
}
