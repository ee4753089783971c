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

// Unbalance is the largest deviation of the three from their mean, in percent of it (NEMA
// MG 1, 12.45).
func (l Lines) Unbalance() float64 {
	mean := (l.AB + l.BC + l.CA) / 3
	return 100 * max(math.Abs(l.AB-mean), math.Abs(l.BC-mean), math.Abs(l.CA-mean)) / mean
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
	Amps        float64    `json:"amps"`
	Watts       float64    `json:"watts"`
	PowerFactor float64    `json:"power_factor"`
	Current     complex128 `json:"-"` // phasor, against the source's volts; of circuits
}

// The states of a motor.
const (
	Running  = "running"  // stable at 90 percent of synchronous speed or more
	Crawling = "crawling" // stable below
	Stalled  = "stalled"  // nothing carries the load: it stands
)

// CrawlSlip is the slip past which a motor that is stable crawls.
const CrawlSlip = 0.1

// MotorResult is one motor. RPM and TorqueNm (air gap) are positive in the abc
// sense; ShaftWatts is after friction. PowerFactor is the effective one.
// WindingAmps of a delta motor are its branches ab, bc, ca; of a wye motor its
// lines.
type MotorResult struct {
	ID          string     `json:"id"`
	Circuit     string     `json:"circuit,omitempty"`
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
	Circuit string  `json:"circuit,omitempty"`
	Between Pair    `json:"between"`
	Amps    float64 `json:"amps"`
	Volts   float64 `json:"volts"`
	Vars    float64 `json:"vars"`
}

// ImpedanceResult is one plain load.
type ImpedanceResult struct {
	ID      string  `json:"id"`
	Circuit string  `json:"circuit,omitempty"`
	Amps    float64 `json:"amps"`
	Watts   float64 `json:"watts"`
	Angle   float64 `json:"-"` // by which amps lag its volts, in radians
}

// ThreePhaseResult is one three-phase load that is no motor.
type ThreePhaseResult struct {
	ID       string  `json:"id"`
	Circuit  string  `json:"circuit,omitempty"`
	LineAmps Legs    `json:"line_amps"`
	Watts    float64 `json:"watts"`
}

// RectifierResult is one constant-power load. Amps are rms with the harmonics,
// FundamentalAmps without.
type RectifierResult struct {
	ID              string  `json:"id"`
	Circuit         string  `json:"circuit,omitempty"`
	Amps            float64 `json:"amps"`
	FundamentalAmps float64 `json:"fundamental_amps"`
	Watts           float64 `json:"watts"`
}

// Result is a solved network. Degrees are relative to the source's volts ab.
// UnbalancePercent is NEMA MG 1's: the largest deviation of the three
// line-to-line volts from their mean, over the mean. Sequence is "abc" when
// |V1| ≥ |V2|. PowerBalanceWatts is source watts less every loss and shaft.
// EarthVolts stands where the supply's earthing is given and there is one.
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

	EarthVolts        *Legs               `json:"earth_volts,omitempty"`
	ThreePhaseLoads   []ThreePhaseResult  `json:"three_phase_loads,omitempty"`
	Rectifiers        []RectifierResult   `json:"rectifiers,omitempty"`
	Transformers      []TransformerResult `json:"transformers,omitempty"`
	SupplyTransformer *TransformerResult  `json:"supply_transformer,omitempty"`
}

// Solve finds the operating point of a case that Validate finds nothing wrong with.
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
	if s.legless {
		r.Volts, r.Degrees = Lines{AB: r.Volts.AB}, Lines{AB: r.Degrees.AB}
	}
	r.UnbalancePercent = r.Volts.Unbalance()
	v1 := cmplx.Abs(va+alpha*vb+alpha2*vc) / 3
	v2 := cmplx.Abs(va+alpha2*vb+alpha*vc) / 3
	r.NegativeSequencePercent = 100 * v2 / math.Max(v1, 1e-12*v2)
	if v2 > v1*(1+1e-12) {
		r.Sequence = "acb"
	}
	if s.legless {
		r.UnbalancePercent, r.NegativeSequencePercent, r.Sequence = 0, 0, ""
	}
	used := 0.0
	for i := range s.machines {
		result, watts := s.machines[i].result()
		r.Motors = append(r.Motors, result)
		used += watts
	}
	into := lines(s.v1*s.y1, s.v2*s.y2) // currents drawn from the nodes
	draw := func(p Pair, y complex128) (volts, amps complex128) {
		volts = s.across(p)
		amps = volts * y
		e := ends[index(p)]
		into[e[0]] += amps
		into[e[1]] -= amps
		return volts, amps
	}
	omega := 2 * math.Pi * s.supply.Hertz
	for _, p := range c.Capacitors {
		volts, amps := draw(p.Between, p.admittance(omega))
		used += square(amps) * p.ESROhm
		r.Capacitors = append(r.Capacitors, CapacitorResult{ID: p.ID, Between: p.Between, Amps: cmplx.Abs(amps),
			Volts: cmplx.Abs(volts), Vars: imag(volts * cmplx.Conj(amps))})
	}
	for _, p := range c.Loads {
		_, amps := draw(p.Between, p.admittance())
		watts := square(amps) * p.ResistanceOhm
		used += watts
		r.Loads = append(r.Loads, ImpedanceResult{
			ID: p.ID, Amps: cmplx.Abs(amps), Watts: watts, Angle: math.Atan2(p.ReactanceOhm, p.ResistanceOhm),
		})
	}
	for i := range s.constant {
		p := &s.constant[i]
		volts, amps := draw(p.Between, p.now)
		watts := square(volts) * real(p.now)
		used += watts
		factor := p.TruePowerFactor
		if factor == 0 {
			factor = UsualTrue
		}
		o := RectifierResult{ID: p.ID, FundamentalAmps: cmplx.Abs(amps), Watts: watts}
		if size := cmplx.Abs(volts); size > 0 {
			o.Amps = math.Max(watts/(size*factor), o.FundamentalAmps)
		}
		r.Rectifiers = append(r.Rectifiers, o)
	}
	for i := range c.ThreePhaseLoads {
		p := &c.ThreePhaseLoads[i]
		v1, v2 := s.v1, s.v2
		for k := range s.banks {
			if s.banks[k].ID == p.Behind {
				v1, v2 = s.banks[k].v1, s.banks[k].v2
			}
		}
		y := p.admittance()
		watts := 3 * (square(v1) + square(v2)) * real(y)
		used += watts
		r.ThreePhaseLoads = append(
			r.ThreePhaseLoads,
			ThreePhaseResult{ID: p.ID, LineAmps: legs(lines(v1*y, v2*y)), Watts: watts},
		)
	}
	for i := range s.banks {
		o, watts := s.banks[i].result(s)
		used += watts
		r.Transformers = append(r.Transformers, o)
	}
	if t := s.supply.Transformer; t != nil {
		_, idle := draw(AB, t.idle()/complex(t.Ratio*t.Ratio, 0))
		used += real(ab * cmplx.Conj(idle))
	}
	if r.EarthVolts = s.earth(); s.legless && r.EarthVolts != nil {
		r.EarthVolts.C = 0
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
		if t := s.supply.Transformer; t != nil {
			r.Supply.Amps *= t.Ratio
			o := TransformerResult{
				PrimaryAmps:    Legs{A: r.Supply.Amps, B: r.Supply.Amps},
				SecondaryVolts: r.Volts,
				Watts:          square(amps)*t.ResistanceOhm + square(s.across(AB))*real(t.idle())/(t.Ratio*t.Ratio),
			}
			o.load(t, s.supply.Volts*r.Supply.Amps)
			o.InrushPeakAmps = t.Inrush(s.supply)
			r.SupplyTransformer = &o
		}
		if apparent := s.supply.Volts * r.Supply.Amps; apparent > 0 {
			r.Supply.PowerFactor = math.Max(real(power), 0) / apparent
		}
		return square(amps) * real(s.series)
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

// lines are the three line currents of two sequence currents.
func lines(i1, i2 complex128) [3]complex128 {
	return [3]complex128{i1 + i2, alpha2*i1 + alpha*i2, alpha*i1 + alpha2*i2}
}

func legs(amps [3]complex128) Legs {
	return Legs{cmplx.Abs(amps[0]), cmplx.Abs(amps[1]), cmplx.Abs(amps[2])}
}

// earth is the volts of each line to earth, nil where none is earthed. On one phase the
// supply's ohms lie half in each line.
func (s *Solver) earth() *Legs {
	var ground complex128
	switch s.supply.Earthing {
	case EarthA:
		ground = s.volts[0]
	case EarthB:
		ground = s.volts[1]
	case EarthMid:
		ground = (s.volts[0] + s.volts[1]) / 2
	case EarthStar: // the source's neutral is what the node volts are counted from
	default:
		return nil
	}
	l := legs([3]complex128{s.volts[0] - ground, s.volts[1] - ground, s.volts[2] - ground})
	return &l
}

// windings are the amps of the three windings for two sequence currents.
func (m *machine) windings(i1, i2 complex128) [3]float64 {
	if m.Connection == Delta {
		third := complex(1/math.Sqrt(3), 0)
		i1, i2 = i1*third*cmplx.Rect(1, math.Pi/6), i2*third*cmplx.Rect(1, -math.Pi/6)
	}
	l := legs(lines(i1, i2))
	return [3]float64{l.A, l.B, l.C}
}

// result reads one motor out: its figures, and the watts that it and its conductors
// turn into losses and shaft work.
func (m *machine) result() (MotorResult, float64) {
	i1, i2 := m.v1*m.y1, m.v2*m.y2
	speed := 1 - m.slip
	omega := m.synchronous * speed
	friction := m.FrictionCoefficient() * omega * omega
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
		LineAmps:    legs(lines(i1, i2)),
		CopperWatts: stator + rotor, AirgapVolts: math.Sqrt(forward + backward),
	}
	r.WindingAmps = m.windings(i1, i2)
	ve := math.Sqrt(square(m.v1) + square(m.v2)) // √((Vab² + Vbc² + Vca²)/9) of its own terminals
	ie := math.Sqrt(square(i1) + square(i2))
	if ve*ie > 0 {
		r.PowerFactor = math.Max(input, 0) / (3 * ve * ie)
	}
	conductor := 3 * (square(i1) + square(i2)) * m.Conductor.ResistanceOhm
	return r, conductor + stator + rotor + core + friction + r.ShaftWatts
}

func (m *machine) state() string {
	switch {
	case m.slip <= CrawlSlip:
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

// WindingAmps are the amps of the three windings of a motor by those of its lines, read by a clamp: those of a star are
// its lines', those of a delta follow from the triangle that the three lines' phasors close (no neutral). ok is false
// where they close none: one of them was misread.
func WindingAmps(delta bool, l Legs) (windings [3]float64, ok bool) {
	const slack = 1.05 // of meters
	if l.A > slack*(l.B+l.C) || l.B > slack*(l.A+l.C) || l.C > slack*(l.A+l.B) {
		return windings, false
	}
	m := machine{Motor: &Motor{}}
	if delta {
		m.Connection = Delta
	}
	a := complex(l.A, 0)
	turn := 0.0
	if l.A > 0 && l.B > 0 {
		turn = math.Acos(math.Max(-1, math.Min(1, (l.C*l.C-l.A*l.A-l.B*l.B)/(2*l.A*l.B))))
	}
	b := cmplx.Rect(l.B, -turn) // the way round in which the forward field is the larger
	c := -a - b
	return m.windings((a+alpha*b+alpha2*c)/3, (a+alpha2*b+alpha*c)/3), true
}
