package network

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/motor"
	"brackmoor/core/rule"
)

// validation gathers what is wrong with a case.
type validation struct {
	rule.Problems
	seen         map[string]string // places of the ids so far
	transformers map[string]bool
	onC          bool // something ties the made leg down
}

// Validate says what is wrong with a case, by JSON paths; a case without problems can be
// solved. Every number must be finite and of its sign, every id stand once, and something
// must connect to the made leg.
func (c Case) Validate() rule.Problems {
	v := validation{seen: map[string]string{"supply": "$.supply"}}
	v.supply(c.Supply)
	v.elements("$", c)
	if !v.onC && v.Problems == nil {
		v.Say("$", "nothing connects to the made leg c, so its volts are not defined")
	}
	return v.Problems
}

// elements are what hangs on one set of lines, which stands at a path.
func (v *validation) elements(under string, c Case) {
	v.transformers = map[string]bool{}
	for i, t := range c.Transformers {
		at := fmt.Sprintf("%s.transformers[%d]", under, i)
		v.once(at, t.ID)
		v.winding(at, &t.Winding)
		v.transformers[t.ID] = true
	}
	for i, p := range c.ThreePhaseLoads {
		at := fmt.Sprintf("%s.three_phase_loads[%d]", under, i)
		v.once(at, p.ID)
		v.behind(at, p.Behind)
		v.ohms(at, p.ResistanceOhm, p.ReactanceOhm)
		v.onC = true
	}
	for i, p := range c.Rectifiers {
		v.rectifier(fmt.Sprintf("%s.rectifiers[%d]", under, i), p)
	}
	for i := range c.Motors {
		v.motor(fmt.Sprintf("%s.motors[%d]", under, i), &c.Motors[i])
	}
	for i, p := range c.Capacitors {
		at := fmt.Sprintf("%s.capacitors[%d]", under, i)
		v.once(at, p.ID)
		v.between(at, p.Between, p.Microfarad > 0)
		v.NotNegative(at+".microfarad", p.Microfarad)
		v.NotNegative(at+".esr_ohm", p.ESROhm)
	}
	for i, p := range c.Loads {
		at := fmt.Sprintf("%s.loads[%d]", under, i)
		v.once(at, p.ID)
		v.between(at, p.Between, true)
		v.ohms(at, p.ResistanceOhm, p.ReactanceOhm)
	}
}

func (v *validation) supply(s Supply) {
	v.Positive("$.supply.volts", s.Volts)
	v.Positive("$.supply.hertz", s.Hertz)
	v.NotNegative("$.supply.resistance_ohm", s.ResistanceOhm)
	v.NotNegative("$.supply.reactance_ohm", s.ReactanceOhm)
	if !slices.Contains([]int{0, 1, 3}, s.Phases) {
		v.Say("$.supply.phases", "must be 1 or 3")
	}
	v.onC = s.Phases == 3
	if t := s.Transformer; t != nil {
		if s.Phases == 3 {
			v.Say("$.supply.transformer", "is for a one-phase supply; the ohms of a three-phase one are its own")
		}
		v.winding("$.supply.transformer", t)
	}
	switch {
	case s.Earthing == EarthMid && s.Phases == 3:
		v.Say("$.supply.earthing", "three lines have no middle: take star")
	case s.Earthing == EarthStar && s.Phases != 3:
		v.Say("$.supply.earthing", "one phase has no star point: take mid")
	}
}

func (v *validation) once(at, id string) {
	if first, taken := v.seen[id]; taken {
		v.Say(at+".id", "%q is taken by %s", id, first)
		return
	}
	v.seen[id] = at
}

func (v *validation) behind(at, id string) {
	if id != "" && !v.transformers[id] {
		v.Say(at+".behind", "%q names no transformer", id)
	}
}

func (v *validation) between(at string, p Pair, conducts bool) {
	if !slices.Contains([]Pair{AB, BC, AC}, p) {
		v.Say(at+".between", "must be ab, ac or bc")
	}
	v.onC = v.onC || conducts && p != AB
}

// leastOhm is what is told from a short circuit.
const leastOhm = 1e-6

func (v *validation) ohms(at string, resistance, reactance float64) {
	v.NotNegative(at+".resistance_ohm", resistance)
	v.NotNegative(at+".reactance_ohm", reactance)
	if resistance < leastOhm && reactance < leastOhm {
		v.Say(at, "resistance_ohm and reactance_ohm cannot both be zero: that is a short circuit")
	}
}

func (v *validation) winding(at string, w *Winding) {
	v.Positive(at+".ratio", w.Ratio)
	for _, p := range []struct {
		name  string
		value float64
	}{
		{"resistance_ohm", w.ResistanceOhm}, {"reactance_ohm", w.ReactanceOhm}, {"core_ohm", w.CoreOhm},
		{"magnetising_ohm", w.MagnetisingOhm}, {"knee_percent", w.KneePercent}, {"air_core_ohm", w.AirCoreOhm},
		{"rated_va", w.RatedVA},
	} {
		v.NotNegative(at+"."+p.name, p.value)
	}
}

func (v *validation) rectifier(at string, p Rectifier) {
	v.once(at, p.ID)
	v.between(at, p.Between, false)
	v.NotNegative(at+".watts", p.Watts)
	v.NotNegative(at+".displacement_factor", p.DisplacementFactor)
	v.NotNegative(at+".true_power_factor", p.TruePowerFactor)
	if p.DisplacementFactor > 1 {
		v.Say(at+".displacement_factor", "cannot be above 1")
	}
	if p.DisplacementFactor > 0 && p.TruePowerFactor > p.DisplacementFactor {
		v.Say(at+".true_power_factor", "cannot be above displacement_factor")
	}
}

func (v *validation) motor(at string, m *Motor) {
	v.once(at, m.ID)
	v.behind(at, m.Behind)
	v.onC = true
	if m.Poles < 2 || m.Poles%2 != 0 {
		v.Say(at+".poles", "must be an even number of 2 or more")
	}
	v.Positive(at+".rated_hertz", m.RatedHertz)
	v.NotNegative(at+".friction_watts", m.FrictionWatts)
	v.NotNegative(at+".conductor.resistance_ohm", m.Conductor.ResistanceOhm)
	v.NotNegative(at+".conductor.reactance_ohm", m.Conductor.ReactanceOhm)
	if (m.Slip == nil) == (m.Load == nil) {
		v.Say(at, "needs either slip or load, and not both")
	}
	if m.Slip != nil && (!(*m.Slip >= 0) || *m.Slip > 2) {
		v.Say(at+".slip", "must lie between 0 and 2")
	}
	if l := m.Load; l != nil {
		v.load(at+".load", *l)
	}
	v.circuit(at+".circuit", &m.Circuit)
}

func (v *validation) load(at string, l Load) {
	if l.Kind == "power" {
		v.NotNegative(at+".watts", l.Watts)
		return
	}
	v.NotNegative(at+".newton_metre", l.NewtonMetre)
	v.Positive(at+".at_rpm", l.AtRPM)
	if l.Exponent < 0 || l.Exponent > 2 {
		v.Say(at+".exponent", "must be 0, 1 or 2")
	}
}

func (v *validation) circuit(at string, c *motor.Circuit) {
	v.NotNegative(at+".r1_ohm", c.R1Ohm)
	v.NotNegative(at+".x1_ohm", c.X1Ohm)
	v.Positive(at+".xm_ohm", c.XmOhm)
	v.NotNegative(at+".rc_ohm", c.RcOhm)
	if len(c.Cages) < 1 || len(c.Cages) > 2 {
		v.Say(at+".cages", "must be one or two")
	}
	for i, g := range c.Cages {
		v.Positive(fmt.Sprintf("%s.cages[%d].r_ohm", at, i), g.ROhm)
		v.NotNegative(fmt.Sprintf("%s.cages[%d].x_ohm", at, i), g.XOhm)
	}
	v.NotNegative(at+".leakage_saturation.onset_amps", c.Leakage.OnsetAmps)
	v.NotNegative(at+".leakage_saturation.floor", c.Leakage.Floor)
	v.Problems = append(v.Problems, CurveProblems(at+".magnetising_curve", c)...)
}

// onTheLine is how far the first point of a magnetising curve may lie off its straight
// part, as a share.
const onTheLine = 0.001

// CurveProblems says what is wrong with a circuit's magnetising curve, which stands at a
// JSON path.
func CurveProblems(at string, c *motor.Circuit) (problems rule.Problems) {
	for i, p := range c.Curve {
		place := fmt.Sprintf("%s[%d]", at, i)
		problems.Positive(place+".airgap_volts", p.AirgapVolts)
		problems.Positive(place+".amps", p.Amps)
		if i == 0 {
			if amps := p.AirgapVolts / c.XmOhm; math.Abs(p.Amps/amps-1) > onTheLine {
				problems.Say(place, "must lie on xm_ohm within 0.1 percent: %.6g V over %.6g ohm is %.6g A, not %.6g",
					p.AirgapVolts, c.XmOhm, amps, p.Amps)
			}
			continue
		}
		if before := c.Curve[i-1]; p.AirgapVolts <= before.AirgapVolts || p.Amps <= before.Amps {
			problems.Say(place, "both volts and amps must rise from point to point")
		}
	}
	return problems
}
