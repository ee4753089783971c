package diagnose

import "math"

// nowhere is what stands in the way where nothing is joined, in ohms.
const nowhere = 1e6

// open is what an ohmmeter says at least where nothing is joined.
const openOhms = 1e4

// inSeries puts ohms in series with an element of an admittance matrix: Sherman and Morrison's formula.
func inSeries(y *[3][3]complex128, at int, ohms complex128) {
	if ohms == 0 {
		return
	}
	by := ohms / (1 + ohms*y[at][at])
	was := *y
	for i := range 3 {
		for k := range 3 {
			y[i][k] -= by * was[i][at] * was[at][k]
		}
	}
}

// partial is what the third winding has in series beside its own: as much as itself again where one of its two
// halves, which lie beside one another, is not joined; all there is where none is. Times is 3 for a delta.
func (m *turning) partial(reactance, times float64) complex128 {
	switch {
	case m.opened:
		return nowhere
	case m.halved:
		return complex(times*m.circuit.R1Ohm, times*reactance)
	}
	return 0
}

// atMotor are the ohms that a meter reads between a motor's own leads, cold: ab, bc and ca.
func (m *turning) atMotor() (ohms [3]float64) {
	own := [3]float64{m.circuit.R1Ohm, m.circuit.R1Ohm, m.circuit.R1Ohm}
	if m.delta {
		for i := range own {
			own[i] *= 3
		}
	}
	switch {
	case m.opened:
		own[2] = nowhere
	case m.halved:
		own[2] *= 2
	}
	for i := range 3 {
		k := (i + 1) % 3
		if m.delta { // winding i lies from terminal i to the next
			rest := own[k] + own[(i+2)%3]
			ohms[i] = own[i] * rest / (own[i] + rest)
		} else {
			ohms[i] = own[i] + own[k]
		}
	}
	return ohms
}

// pairs are those at the far ends of its leads.
func (m *turning) pairs() (ohms [3]float64) {
	ohms = m.atMotor()
	for i := range 3 {
		k := (i + 1) % 3
		ohms[i] += m.lug[i] + m.lug[k]
		if m.open == i || m.open == k {
			ohms[i] = nowhere
		}
	}
	return ohms
}

// excites says whether capacitors keep a motor's volts up that spins on with nothing to do and the supply gone: they
// hold more than its magnetising amps (self-excited induction generator, Krause, Analysis of Electric Machinery). Two
// pairs' microfarads, unequal or not, are to the forward field as their sum in star: the backward one is nearly short.
func (w *world) excites() bool {
	omega := 2 * math.Pi * w.hertz
	held := omega * (w.ac + w.bc) / 1e6
	taken := 0.0
	for _, m := range w.machines {
		if m == w.idler || w.idler == nil {
			taken += m.hertz / w.hertz / (m.circuit.XmOhm + m.circuit.X1Ohm)
		}
	}
	return held > taken
}
