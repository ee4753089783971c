package winding

import (
	"math"
	"math/cmplx"

	"brackmoor/core/motor"
)

// ZeroShare is the zero-sequence leakage of a stator over its positive-sequence
// leakage: with full-pitch windings the slots' share of it, which lies between a
// half and one. The lower end gives the higher amps. Alger, Induction Machines.
const ZeroShare = 0.6

// Trial is a motor on three balanced lines at one slip: amps in its windings and
// lines, as shares of rated line amps, and air-gap torque in N·m.
type Trial struct {
	WindingShare [3]float64 `json:"winding_share" nullable:"false"`
	LineShare    [3]float64 `json:"line_share" nullable:"false"`
	TorqueNm     float64    `json:"torque_nm"`
	InputWatts   float64    `json:"-"`
	CopperWatts  float64    `json:"-"`
	GapWatts     float64    `json:"-"` // across the air gap, both fields, core loss included
}

// Machine is what a trial is made on: a wye-equivalent circuit at rated hertz, the
// line volts, and whether its windings lie between lines.
type Machine struct {
	Circuit motor.Circuit
	Volts   float64
	Hertz   float64
	Poles   int
	Amps    float64 // rated line amps
	Delta   bool
}

// operators of symmetrical components.
var (
	turn  = cmplx.Rect(1, 2*math.Pi/3)
	turn2 = cmplx.Rect(1, -2*math.Pi/3)
)

// sequences splits three winding quantities into zero, positive and negative
// sequence; phases puts them together.
func sequences(p [3]complex128) [3]complex128 {
	return [3]complex128{
		(p[0] + p[1] + p[2]) / 3,
		(p[0] + turn*p[1] + turn2*p[2]) / 3,
		(p[0] + turn2*p[1] + turn*p[2]) / 3,
	}
}

func phases(s [3]complex128) [3]complex128 {
	return [3]complex128{s[0] + s[1] + s[2], s[0] + turn2*s[1] + turn*s[2], s[0] + turn*s[1] + turn2*s[2]}
}

// Try computes the motor winding by winding: each has its own volts and amps, the
// field its positive and negative sequence, and what is left, the zero sequence,
// meets the leakage alone. With reversed, the third winding is joined by its wrong
// end. Saturation of iron and leakage is a fixed point.
func (m Machine) Try(slip float64, reversed bool) Trial {
	c := m.Circuit
	ends := [3]complex128{1, 1, 1}
	if reversed {
		ends[2] = -1
	}
	// A winding between lines has three times the ohms of its wye equivalent, and
	// line volts across it.
	times, across := 1.0, m.Volts/math.Sqrt(3)
	if m.Delta {
		times, across = 3, m.Volts
	}
	lines := [3]complex128{complex(across, 0), complex(across, 0) * turn2, complex(across, 0) * turn}
	xm, leakage := c.XmOhm, 1.0
	var forward, backward motor.Branch
	var volts, amps [3]complex128 // of the windings, from start to finish
	for range 200 {
		forward, backward = c.At(slip, 1, xm, leakage), c.At(2-slip, 1, xm, leakage)
		zero := complex(times*c.R1Ohm, times*ZeroShare*c.X1Ohm*leakage)
		admittance := [3]complex128{
			1 / zero,
			forward.Admittance / complex(times, 0),
			backward.Admittance / complex(times, 0),
		}
		current := func(v [3]complex128) [3]complex128 {
			s := sequences(v)
			for i := range s {
				s[i] *= admittance[i]
			}
			return phases(s)
		}
		joined := func(v [3]complex128) [3]complex128 {
			for i := range v {
				v[i] *= ends[i]
			}
			return v
		}
		star := complex128(0)
		if !m.Delta {
			// The star point stands where the currents into it add to nothing.
			from, one := joined(current(joined(lines))), joined(current(joined([3]complex128{1, 1, 1})))
			star = (from[0] + from[1] + from[2]) / (one[0] + one[1] + one[2])
		}
		volts = joined([3]complex128{lines[0] - star, lines[1] - star, lines[2] - star})
		amps = current(volts)
		s := sequences(volts)
		gap := math.Hypot(cmplx.Abs(s[1]*forward.EMFPerVolt), cmplx.Abs(s[2]*backward.EMFPerVolt)) / math.Sqrt(times)
		mean := 0.0
		for _, i := range m.lineAmps(amps, ends) {
			mean += i * i / 3
		}
		nextXm, nextLeakage := c.MagnetisingOhms(gap), c.LeakageFactor(math.Sqrt(mean))
		if math.Abs(nextXm/xm-1) < 1e-10 && math.Abs(nextLeakage/leakage-1) < 1e-10 {
			break
		}
		xm, leakage = (xm+nextXm)/2, (leakage+nextLeakage)/2
	}
	s := sequences(volts)
	synchronous := motor.SynchronousRPM(m.Hertz, m.Poles) * math.Pi / 30
	emf := [2]float64{cmplx.Abs(s[1] * forward.EMFPerVolt), cmplx.Abs(s[2] * backward.EMFPerVolt)}
	watts := func(e, conductance float64) float64 { return 3 / times * e * e * conductance }
	t := Trial{TorqueNm: (watts(emf[0], forward.Conductance) - watts(emf[1], backward.Conductance)) / synchronous}
	t.GapWatts = watts(emf[0], forward.Conductance) + watts(emf[1], backward.Conductance)
	if c.RcOhm > 0 {
		t.GapWatts += watts(emf[0], 1/c.RcOhm) + watts(emf[1], 1/c.RcOhm)
	}
	rated := m.Amps / math.Sqrt(times)
	for i := range amps {
		t.InputWatts += real(volts[i] * cmplx.Conj(amps[i]))
		t.CopperWatts += times * c.R1Ohm * real(amps[i]*cmplx.Conj(amps[i]))
		t.WindingShare[i] = cmplx.Abs(amps[i]) / rated
	}
	for i, a := range m.lineAmps(amps, ends) {
		t.LineShare[i] = a / m.Amps
	}
	return t
}

// lineAmps are the amps in the lines, from those in the windings.
func (m Machine) lineAmps(amps, ends [3]complex128) (lines [3]float64) {
	for i := range lines {
		line := amps[i] * ends[i]
		if m.Delta {
			// Line a feeds the branch a–b and gets back that of c–a.
			last := (i + 2) % 3
			line -= amps[last] * ends[last]
		}
		lines[i] = cmplx.Abs(line)
	}
	return lines
}
