package network

import (
	"math"
	"math/cmplx"
)

// Lines holds a figure for each line-to-line pair.
type Lines struct {
	AB float64 `json:"ab"`
	BC float64 `json:"bc"`
	CA float64 `json:"ca"`
}

// Legs holds a figure for each line.
type Legs struct {
	A float64 `json:"a"`
	B float64 `json:"b"`
	C float64 `json:"c"`
}

// Max is the largest of the three.
func (l Legs) Max() float64 { return max(l.A, l.B, l.C) }

// SupplyResult is at the source, before its ohms. On three lines Amps is the
// largest of the three.
type SupplyResult struct {
	Amps        float64 `json:"amps"`
	Watts       float64 `json:"watts"`
	PowerFactor float64 `json:"power_factor"`
}

// The states of a motor.
const (
	Running  = "running"  // stable at 90 percent of synchronous speed or more
	Crawling = "crawling" // stable below
	Stalled  = "stalled"  // nothing carries the load: it stands
)

// MotorResult is one motor. RPM and TorqueNm (air gap) are positive in the abc
// sense; ShaftWatts is after friction. PowerFactor is the effective one.
// WindingAmps of a delta motor are its branches ab, bc, ca; of a wye motor its
// lines.
type MotorResult struct {
	ID          string     `json:"id"`
	State       string     `json:"state"`
	Slip        float64    `json:"slip"`
	RPM         float64    `json:"rpm"`
	TorqueNm    float64    `json:"torque_nm"`
	ShaftWatts  float64    `json:"shaft_watts"`
	InputWatts  float64    `json:"input_watts"`
	PowerFactor float64    `json:"power_factor"`
	LineAmps    Legs       `json:"line_amps"`
	WindingAmps [3]float64 `json:"winding_amps"`
	CopperWatts float64    `json:"-"` // stator and rotor
	AirgapVolts float64    `json:"-"`
}

// CapacitorResult is one capacitor; Vars are negative.
type CapacitorResult struct {
	ID      string  `json:"id"`
	Between Pair    `json:"between"`
	Amps    float64 `json:"amps"`
	Volts   float64 `json:"volts"`
	Vars    float64 `json:"vars"`
}

// ImpedanceResult is one plain load.
type ImpedanceResult struct {
	ID    string  `json:"id"`
	Amps  float64 `json:"amps"`
	Watts float64 `json:"watts"`
}

// Result is a solved network. Degrees are relative to the source's volts ab.
// UnbalancePercent is NEMA MG 1's: the largest deviation of the three
// line-to-line volts from their mean, over the mean. Sequence is "abc" when
// |V1| ≥ |V2|. PowerBalanceWatts is source watts less every loss and shaft.
type Result struct {
	Volts                   Lines             `json:"volts"`
	Degrees                 Lines             `json:"degrees"`
	UnbalancePercent        float64           `json:"unbalance_percent"`
	NegativeSequencePercent float64           `json:"negative_sequence_percent"`
	Sequence                string            `json:"sequence"`
	Supply                  SupplyResult      `json:"supply"`
	Motors                  []MotorResult     `json:"motors"`
	Capacitors              []CapacitorResult `json:"capacitors"`
	Loads                   []ImpedanceResult `json:"loads"`
	PowerBalanceWatts       float64           `json:"power_balance_watts"`
}

// Solve finds the operating point of a case that has passed Validate.
func Solve(c Case) (Result, error) {
	s := New(c)
	if err := s.Operate(); err != nil {
		return Result{}, err
	}
	return s.Result(c), nil
}

// Result reads the present solution out.
func (s *Solver) Result(c Case) Result {
	va, vb, vc := s.volts[0], s.volts[1], s.volts[2]
	ab, bc, ca := va-vb, vb-vc, vc-va
	r := Result{
		Volts:   Lines{cmplx.Abs(ab), cmplx.Abs(bc), cmplx.Abs(ca)},
		Degrees: Lines{degrees(ab), degrees(bc), degrees(ca)},
		Motors:  make([]MotorResult, 0, len(s.machines)), Capacitors: []CapacitorResult{}, Loads: []ImpedanceResult{},
		Sequence: "abc",
	}
	mean := (r.Volts.AB + r.Volts.BC + r.Volts.CA) / 3
	r.UnbalancePercent = 100 * max(math.Abs(r.Volts.AB-mean), math.Abs(r.Volts.BC-mean), math.Abs(r.Volts.CA-mean)) / mean
	v1 := cmplx.Abs(va+alpha*vb+alpha2*vc) / 3
	v2 := cmplx.Abs(va+alpha2*vb+alpha*vc) / 3
	r.NegativeSequencePercent = 100 * v2 / math.Max(v1, 1e-12*v2)
	if v2 > v1*(1+1e-12) {
		r.Sequence = "acb"
	}
	var into [3]complex128 // currents drawn from the nodes
	used := 0.0
	for i := range s.machines {
		m := &s.machines[i]
		result, lines, watts := m.result(r.Volts)
		r.Motors = append(r.Motors, result)
		used += watts
		for k := range into {
			into[k] += lines[k]
		}
	}
	across := func(p Pair, y complex128) (volts, amps complex128) {
		switch p {
		case AB:
			volts = ab
		case BC:
			volts = bc
		default:
			volts = -ca
		}
		amps = volts * y
		from, to := 0, 2
		switch p {
		case AB:
			to = 1
		case BC:
			from = 1
		}
		into[from] += amps
		into[to] -= amps
		return volts, amps
	}
	omega := 2 * math.Pi * s.supply.Hertz
	for _, p := range c.Capacitors {
		volts, amps := across(p.Between, p.admittance(omega))
		used += square(amps) * p.ESROhm
		r.Capacitors = append(r.Capacitors, CapacitorResult{ID: p.ID, Between: p.Between, Amps: cmplx.Abs(amps),
			Volts: cmplx.Abs(volts), Vars: imag(volts * cmplx.Conj(amps))})
	}
	for _, p := range c.Loads {
		_, amps := across(p.Between, p.admittance())
		watts := square(amps) * p.ResistanceOhm
		used += watts
		r.Loads = append(r.Loads, ImpedanceResult{ID: p.ID, Amps: cmplx.Abs(amps), Watts: watts})
	}
	lost := s.fromSource(into, &r)
	r.PowerBalanceWatts = r.Supply.Watts - lost - used
	return r
}

// fromSource fills the supply's part of the result and returns the watts lost
// in the source's own ohms.
func (s *Solver) fromSource(into [3]complex128, r *Result) (lost float64) {
	if s.supply.Phases != 3 {
		amps := into[0]
		power := s.source[0] * cmplx.Conj(amps)
		r.Supply = SupplyResult{Amps: cmplx.Abs(amps), Watts: real(power)}
		if apparent := s.supply.Volts * r.Supply.Amps; apparent > 0 {
			r.Supply.PowerFactor = math.Max(real(power), 0) / apparent
		}
		return square(amps) * s.supply.ResistanceOhm
	}
	var squares, largest float64
	for k, amps := range into {
		r.Supply.Watts += real(s.source[k] * cmplx.Conj(amps))
		squares += square(amps)
		largest = math.Max(largest, cmplx.Abs(amps))
		lost += square(amps) * s.supply.ResistanceOhm
	}
	r.Supply.Amps = largest
	if apparent := s.supply.Volts * math.Sqrt(squares); apparent > 0 {
		r.Supply.PowerFactor = math.Max(r.Supply.Watts, 0) / apparent
	}
	return lost
}

// result reads one motor out: its figures, its line currents, and the watts it
// turns into losses and shaft work.
func (m *machine) result(volts Lines) (MotorResult, [3]complex128, float64) {
	y1, y2 := m.forward.Admittance, m.backward.Admittance
	if m.Direction == "acb" {
		y1, y2 = y2, y1
	}
	i1, i2 := m.v1*y1, m.v2*y2
	lines := [3]complex128{i1 + i2, alpha2*i1 + alpha*i2, alpha*i1 + alpha2*i2}
	speed := 1 - m.slip
	friction := m.FrictionWatts * speed * speed
	torque := m.torque()
	forward, backward := m.gap()
	across := 3 * (forward*m.forward.Conductance + backward*m.backward.Conductance)
	mechanical := torque * m.synchronous * speed
	stator := 3 * (square(i1) + square(i2)) * m.Circuit.R1Ohm
	core := 0.0
	if m.Circuit.RcOhm > 0 {
		core = 3 * (forward + backward) / m.Circuit.RcOhm
	}
	rotor := across - mechanical
	input := 3 * (real(m.v1*cmplx.Conj(i1)) + real(m.v2*cmplx.Conj(i2)))
	r := MotorResult{
		ID: m.ID, State: m.state(), Slip: m.slip,
		RPM:      m.sign() * speed * m.synchronous * 30 / math.Pi,
		TorqueNm: m.sign() * torque, ShaftWatts: mechanical - friction, InputWatts: input,
		LineAmps:    Legs{cmplx.Abs(lines[0]), cmplx.Abs(lines[1]), cmplx.Abs(lines[2])},
		CopperWatts: stator + rotor, AirgapVolts: math.Sqrt(forward + backward),
	}
	r.WindingAmps = [3]float64{r.LineAmps.A, r.LineAmps.B, r.LineAmps.C}
	if m.Connection == Delta {
		third := complex(1/math.Sqrt(3), 0)
		b1 := i1 * third * cmplx.Rect(1, math.Pi/6)
		b2 := i2 * third * cmplx.Rect(1, -math.Pi/6)
		r.WindingAmps = [3]float64{cmplx.Abs(b1 + b2), cmplx.Abs(alpha2*b1 + alpha*b2), cmplx.Abs(alpha*b1 + alpha2*b2)}
	}
	ve := math.Sqrt((volts.AB*volts.AB + volts.BC*volts.BC + volts.CA*volts.CA) / 9)
	ie := math.Sqrt(square(i1) + square(i2))
	if ve*ie > 0 {
		r.PowerFactor = math.Max(input, 0) / (3 * ve * ie)
	}
	return r, lines, stator + rotor + core + friction + r.ShaftWatts
}

func (m *machine) state() string {
	switch {
	case m.slip <= 0.1:
		return Running
	case m.slip == 1 || m.stalled:
		return Stalled
	}
	return Crawling
}

func degrees(z complex128) float64 {
	d := cmplx.Phase(z) * 180 / math.Pi
	if d == 0 {
		return 0 // never a minus sign before nothing
	}
	return d
}
