package motor

// Turned is by how much a real motor differs from the circuit of its plate, as readings tell it: factors on what the
// plate gives, 1 where nothing else is known.
type Turned struct {
	Magnetising float64 `json:"magnetising"` // of the magnetising reactance
	Saturation  float64 `json:"saturation"`  // of the amps past the curve's straight line
	Leakage     float64 `json:"leakage"`
	Stator      float64 `json:"stator"` // of the resistances
	Rotor       float64 `json:"rotor"`
	Losses      float64 `json:"losses"` // of friction and of the core
}

// Same is a motor that is as its plate says.
var Same = Turned{1, 1, 1, 1, 1, 1}

// Turn is a circuit and its friction in watts with what was learned of them. One that is as its plate says comes back
// to the last digit.
func (t Turned) Turn(c Circuit, friction float64) (Circuit, float64) {
	if t == Same {
		return c, friction
	}
	xm := c.XmOhm
	c.XmOhm *= t.Magnetising
	curve := make([]CurvePoint, len(c.Curve))
	for i, p := range c.Curve {
		over := p.Amps*xm/p.AirgapVolts - 1 // past its straight line
		curve[i] = CurvePoint{p.AirgapVolts, p.AirgapVolts / c.XmOhm * (1 + over*t.Saturation)}
	}
	c.X1Ohm *= t.Leakage
	c.R1Ohm *= t.Stator
	cages := make([]Cage, len(c.Cages))
	for i, g := range c.Cages {
		cages[i] = Cage{g.ROhm * t.Rotor, g.XOhm * t.Leakage}
	}
	c.Curve, c.Cages = curve, cages
	c.RcOhm /= t.Losses
	return c, friction * t.Losses
}
