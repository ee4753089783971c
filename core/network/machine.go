package network

import (
	"math"

	"brackmoor/core/motor"
)

// machine is one motor made ready for solving, with its present state.
type machine struct {
	*Motor
	ratio       float64 // supply hertz over rated hertz
	synchronous float64 // rad/s of the shaft
	torqueScale float64 // N·m, a size to judge residuals by
	nominal     float64 // volts of the lines it hangs on
	bank        int     // its transformer, −1 for none
	slip        float64
	stalled     bool

	xm, leakage       float64 // present magnetising ohms and leakage factor
	forward, backward motor.Branch
	y1, y2            complex128 // terminal sequence admittances, abc sense
	v1, v2            complex128 // terminal sequence volts, abc sense
}

// fields returns the sequence volts against the motor's own sense of turning.
func (m *machine) fields() (forward, backward complex128) {
	if m.Direction == "acb" {
		return m.v2, m.v1
	}
	return m.v1, m.v2
}

// gap returns the squared air-gap volts of the two fields.
func (m *machine) gap() (forward, backward float64) {
	f, b := m.fields()
	return square(f * m.forward.EMFPerVolt), square(b * m.backward.EMFPerVolt)
}

// airgapVolts is √(E1² + E2²), the volts at which the magnetising curve is read.
func (m *machine) airgapVolts() float64 {
	f, b := m.gap()
	return math.Sqrt(f + b)
}

// lineAmps is the root mean square of the three line currents.
func (m *machine) lineAmps() float64 {
	f, b := m.fields()
	return math.Sqrt(square(f*m.forward.Admittance) + square(b*m.backward.Admittance))
}

// torque is the air-gap torque in the sense of turning, N·m.
func (m *machine) torque() float64 {
	f, b := m.gap()
	return 3 / m.synchronous * (f*m.forward.Conductance - b*m.backward.Conductance)
}

// net is the torque left to speed the shaft up, N·m: air gap less friction and
// load, in the sense of turning.
func (m *machine) net() float64 {
	speed := 1 - m.slip
	net := m.torque() - m.FrictionCoefficient()*speed*m.synchronous
	switch l := m.Load; {
	case l == nil:
	case l.Kind == "power":
		if l.Watts > 0 {
			net -= l.Watts / (m.synchronous * math.Max(speed, 1e-9))
		}
	default:
		n := speed * m.synchronous * 30 / math.Pi / l.AtRPM
		net -= l.NewtonMetre * math.Pow(math.Max(n, 0), float64(l.Exponent))
	}
	return net
}

// Motor is motor i as it was last solved.
func (s *Solver) Motor(i int) MotorResult {
	r, _ := s.machines[i].result()
	return r
}

// Moment is a motor at the present: air-gap torque in the abc sense, line and winding
// amps, and the watts in its copper, stator and rotor.
type Moment struct {
	TorqueNm    float64
	LineAmps    Legs
	WindingAmps [3]float64
	CopperWatts float64
}

// Moment reads a motor out of the present solution.
func (s *Solver) Moment(i int) Moment {
	m := &s.machines[i]
	i1, i2 := m.v1*m.y1, m.v2*m.y2
	forward, backward := m.gap()
	across := 3 * (forward*m.forward.Conductance + backward*m.backward.Conductance)
	torque := m.torque()
	return Moment{TorqueNm: m.sign() * torque, LineAmps: legs(lines(i1, i2)), WindingAmps: m.windings(i1, i2),
		CopperWatts: 3*(square(i1)+square(i2))*m.Circuit.R1Ohm + across - torque*m.synchronous*(1-m.slip)}
}
