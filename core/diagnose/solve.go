package diagnose

import (
	"math"
	"math/cmplx"

	"brackmoor/core/motor"
	"brackmoor/core/winding"
)

// turning is a motor winding by winding, so that one may be joined by its wrong end, or a lead be open.
type turning struct {
	circuit  motor.Circuit // wye equivalent, at rated hertz
	poles    int
	hertz    float64 // of the plate
	friction float64 // watts at synchronous speed
	delta    bool
	reversed bool       // the third winding
	halved   bool       // of it one of two parallel halves is not joined
	opened   bool       // it is open
	lug      [3]float64 // ohms of a bad joint in each lead
	open     int        // the lead that is open, 0 to 2; −1 for none
	backward bool       // two leads are exchanged
	off      bool       // its contactor is open
	slip     float64
}

// admittance is a machine at its slip between its terminals, with what it takes to read amps and torque out of a
// solution: its branches of both fields and its windings.
type admittance struct {
	terminal          [3][3]complex128
	winding           [3][3]complex128
	ends              [3]complex128
	beside            complex128 // what the third winding has in series
	forward, backward motor.Branch
	times             float64
}

var turn = cmplx.Rect(1, 2*math.Pi/3)

// at is the machine's admittance on a supply of so many hertz, its iron at xm ohms and its leakage at a share.
func (m *turning) at(hertz, xm, leakage float64) (y admittance) {
	ratio := hertz / m.hertz
	y.times = 1
	if m.delta {
		y.times = 3
	}
	y.forward = m.circuit.At(m.slip, ratio, xm*ratio, leakage)
	y.backward = m.circuit.At(2-m.slip, ratio, xm*ratio, leakage)
	times := complex(y.times, 0)
	own := [3]complex128{
		1 / (times * complex(m.circuit.R1Ohm, winding.ZeroShare*m.circuit.X1Ohm*leakage*ratio)),
		y.forward.Admittance / times, y.backward.Admittance / times,
	}
	y.ends = [3]complex128{1, 1, 1}
	if m.reversed {
		y.ends[2] = -1
	}
	// A winding's amps by all volts: the sequences' admittances put back into windings.
	powers := [3]complex128{1, turn, turn * turn}
	for i := range 3 {
		for k := range 3 {
			shift := (i - k + 3) % 3
			y.winding[i][k] = (own[0] + own[1]*cmplx.Conj(powers[shift]) + own[2]*powers[shift]) / 3 *
				y.ends[i] * y.ends[k]
		}
	}
	y.beside = m.partial(m.circuit.X1Ohm*leakage*ratio, y.times)
	inSeries(&y.winding, 2, y.beside)
	y.joined(m.delta)
	for i, ohms := range m.lug {
		inSeries(&y.terminal, i, complex(ohms, 0))
	}
	return y
}

// joined puts windings in delta or star between the terminals.
func (y *admittance) joined(delta bool) {
	if delta {
		for i := range 3 { // winding i lies from terminal i to the next
			for k := range 3 {
				y.terminal[i][k] += y.winding[i][k]
				y.terminal[(i+1)%3][k] -= y.winding[i][k]
				y.terminal[i][(k+1)%3] -= y.winding[i][k]
				y.terminal[(i+1)%3][(k+1)%3] += y.winding[i][k]
			}
		}
		return
	}
	var row, column [3]complex128
	all := complex128(0)
	for i := range 3 {
		for k := range 3 {
			row[i] += y.winding[i][k]
			column[k] += y.winding[i][k]
			all += y.winding[i][k]
		}
	}
	for i := range 3 {
		for k := range 3 {
			y.terminal[i][k] = y.winding[i][k] - row[i]*column[k]/all
		}
	}
}

// ampsOf is a matrix of admittances times volts.
func ampsOf(y *[3][3]complex128, v [3]complex128) (amps [3]complex128) {
	for i := range 3 {
		for k := range 3 {
			amps[i] += y[i][k] * v[k]
		}
	}
	return amps
}

// across is the volts and amps of the windings by the volts of their terminals, each from its start.
func (y *admittance) across(delta bool, v [3]complex128) (w, amps [3]complex128) {
	if delta {
		for i := range 3 {
			w[i] = v[i] - v[(i+1)%3]
		}
	} else {
		var into, all complex128
		for i := range 3 {
			for k := range 3 {
				into += y.winding[i][k] * v[k]
				all += y.winding[i][k]
			}
		}
		for i := range 3 {
			w[i] = v[i] - into/all
		}
	}
	amps = ampsOf(&y.winding, w)
	for i, end := range y.ends {
		w[i], amps[i] = w[i]*end, amps[i]*end
	}
	return w, amps
}

// fields are the forward and backward sequence of three windings.
func fields(w [3]complex128) (forward, backward complex128) {
	return (w[0] + turn*w[1] + turn*turn*w[2]) / 3, (w[0] + turn*turn*w[1] + turn*w[2]) / 3
}

// seen is what stands at a machine: its line amps, its windings' amps, and its torque in N·m the way that its leads
// mean.
type seen struct {
	lines, windings [3]float64
	torque          float64
}

// rig is a supply of one phase with what hangs on it: lines a and b and the made leg c.
type rig struct {
	volts, hertz float64
	ohms         complex128 // of the supply
	dead         bool       // a line of the supply is open, the first or the second
	second       bool
	ac, bc       float64 // microfarads
	machines     []*turning
}

// state is a rig solved: the volts of its pairs, the amps of its supply, and its machines.
type state struct {
	ab, bc, ca float64
	supply     float64
	machines   []seen
}

// solve finds the volts of a rig whose machines turn as they do. Iron and leakage settle by steps towards what they
// should be, as far as they come.
func (r *rig) solve() state {
	s := state{machines: make([]seen, len(r.machines))}
	if r.dead {
		return s
	}
	xm, leakage := make([]float64, len(r.machines)), make([]float64, len(r.machines))
	for i, m := range r.machines {
		xm[i], leakage[i] = m.circuit.XmOhm, 1
	}
	const rounds, near = 40, 1e-4
	for range rounds {
		off := r.once(&s, xm, leakage)
		if off < near {
			break
		}
	}
	return s
}

// nodes are the terminals of a machine among those of the rig: a, c and then leads that are open; b is the reference.
func (m *turning) nodes(next *int) (at [3]int) {
	at = [3]int{nodeA, nodeB, nodeC}
	if m.backward {
		at[0], at[1] = at[1], at[0]
	}
	for i := range at {
		if m.off || m.open == i {
			at[i] = *next
			*next++
		}
	}
	return at
}

const (
	nodeB = -1
	nodeA = 0
	nodeC = 1
)

// once solves a rig at its iron and leakage, and steps them; off is how far they were.
func (r *rig) once(s *state, xm, leakage []float64) (off float64) {
	n := 2
	at := make([][3]int, len(r.machines))
	for i, m := range r.machines {
		at[i] = m.nodes(&n)
	}
	y, into := make([][]complex128, n), make([]complex128, n)
	for i := range y {
		y[i] = make([]complex128, n)
		y[i][i] = leak
	}
	add := func(i, k int, g complex128) {
		if i >= 0 && k >= 0 {
			y[i][k] += g
		}
	}
	add(nodeA, nodeA, 1/r.ohms)
	into[nodeA] = complex(r.volts, 0) / r.ohms
	omega := 2e-6 * math.Pi * r.hertz
	ca := complex(0, omega*r.ac)
	add(nodeA, nodeA, ca)
	add(nodeC, nodeC, ca)
	add(nodeA, nodeC, -ca)
	add(nodeC, nodeA, -ca)
	add(nodeC, nodeC, complex(0, omega*r.bc))
	own := make([]admittance, len(r.machines))
	for i, m := range r.machines {
		own[i] = m.at(r.hertz, xm[i], leakage[i])
		for k := range 3 {
			for l := range 3 {
				add(at[i][k], at[i][l], own[i].terminal[k][l])
			}
		}
	}
	v := eliminate(y, into)
	volt := func(i int) complex128 {
		if i < 0 {
			return 0
		}
		return v[i]
	}
	s.ab, s.bc, s.ca = cmplx.Abs(v[nodeA]), cmplx.Abs(v[nodeC]), cmplx.Abs(v[nodeC]-v[nodeA])
	s.supply = cmplx.Abs((complex(r.volts, 0) - v[nodeA]) / r.ohms)
	for i, m := range r.machines {
		var t [3]complex128
		for k := range 3 {
			t[k] = volt(at[i][k])
		}
		a := &own[i]
		lines := ampsOf(&a.terminal, t)
		squares := 0.0
		for k, amps := range lines {
			s.machines[i].lines[k] = cmplx.Abs(amps)
			squares += real(amps)*real(amps) + imag(amps)*imag(amps)
			t[k] -= complex(m.lug[k], 0) * amps
		}
		w, windings := a.across(m.delta, t)
		for k, amps := range windings {
			s.machines[i].windings[k] = cmplx.Abs(amps)
		}
		w[2] -= a.beside * windings[2]
		f, b := fields(w)
		ef, eb := cmplx.Abs(f*a.forward.EMFPerVolt), cmplx.Abs(b*a.backward.EMFPerVolt)
		synchronous := 4 * math.Pi * r.hertz / float64(m.poles)
		s.machines[i].torque = 3 / a.times * (ef*ef*a.forward.Conductance - eb*eb*a.backward.Conductance) / synchronous
		gap := math.Hypot(ef, eb) / math.Sqrt(a.times) * m.hertz / r.hertz
		nextXm, nextLeakage := m.circuit.MagnetisingOhms(gap), m.circuit.LeakageFactor(math.Sqrt(squares/3))
		off = max(off, math.Abs(nextXm/xm[i]-1), math.Abs(nextLeakage/leakage[i]-1))
		xm[i], leakage[i] = (xm[i]+nextXm)/2, (leakage[i]+nextLeakage)/2
	}
	return off
}

// leak is what every node has to the reference, in siemens, so that one that hangs on nothing has volts at all.
const leak = 1e-7

// eliminate solves a system of equations by Gauss's elimination with pivots; it is as small as a rig.
func eliminate(y [][]complex128, into []complex128) []complex128 {
	n := len(into)
	for i := range n {
		pivot := i
		for k := i + 1; k < n; k++ {
			if cmplx.Abs(y[k][i]) > cmplx.Abs(y[pivot][i]) {
				pivot = k
			}
		}
		y[i], y[pivot] = y[pivot], y[i]
		into[i], into[pivot] = into[pivot], into[i]
		for k := i + 1; k < n; k++ {
			by := y[k][i] / y[i][i]
			for l := i; l < n; l++ {
				y[k][l] -= by * y[i][l]
			}
			into[k] -= by * into[i]
		}
	}
	for i := n - 1; i >= 0; i-- {
		for l := i + 1; l < n; l++ {
			into[i] -= y[i][l] * into[l]
		}
		into[i] /= y[i][i]
	}
	return into
}
