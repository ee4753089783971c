package prove

import (
	"fmt"
	"math"
	"math/cmplx"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Sequence is what a step of the first run looks for that tells the sequence of the lines, beside the states.
const Sequence = "sequence"

// The two lamps and the capacitor that tell a sequence: equal lamps, and a capacitor of about their ohms.
const (
	lampWatts = 25
	lampVolts = 240
	lampOhm   = float64(lampVolts * lampVolts / lampWatts)
	mostLamps = 4 // in a row
)

// lamps are the volts on two equal lamps of so many ohms from lines b and c to a star point, with a capacitor from
// line a to it: on lines in the order a, b, c the lamp on b is the bright one (Fitzgerald, Electric Machinery, on
// unbalanced wye loads).
func lamps(v network.Lines, hertz, microfarad, ohm float64) (b, c float64) {
	// The triangle of the lines, a at the origin of the drawing and b on its axis, in the order a, b, c.
	va, vb := complex(v.AB, 0), complex128(0)
	x := (v.AB*v.AB + v.BC*v.BC - v.CA*v.CA) / (2 * v.AB)
	vc := complex(x, math.Sqrt(math.Max(0, v.BC*v.BC-x*x)))
	lamp, can := complex(1/ohm, 0), complex(0, 2*math.Pi*hertz*microfarad*1e-6)
	star := (va*can + (vb+vc)*lamp) / (can + 2*lamp)
	return cmplx.Abs(vb - star), cmplx.Abs(vc - star)
}

// lampMicrofarad is the standard capacitor that has about so many ohms.
func lampMicrofarad(hertz, ohm float64) float64 {
	wanted := 1e6 / (2 * math.Pi * hertz * ohm)
	best := 1.0
	for _, c := range []float64{0.33, 0.47, 0.68, 1, 1.5, 2.2} {
		if math.Abs(math.Log(c/wanted)) < math.Abs(math.Log(best/wanted)) {
			best = c
		}
	}
	return best
}

// sequence is how the order of the lines is told at volts, by what there is in a shop.
func (p *proof) sequence() []rule.Row {
	if p.c.Idler == nil || p.learned == nil {
		return []rule.Row{}
	}
	s, _ := p.state(Alone, nil)
	e, ok := p.learned.Foretell(&s, p.bank)
	if !ok {
		return []rule.Row{}
	}
	// As many lamps one behind the other as bear the bright volts: on 400 V a single one would burst.
	hertz, row := p.q.Supply.Hertz, 1.0
	var microfarad, bright, dim float64
	for ; row <= mostLamps; row++ {
		microfarad = lampMicrofarad(hertz, row*lampOhm)
		if bright, dim = lamps(e.Volts, hertz, microfarad, row*lampOhm); bright <= row*lampVolts {
			break
		}
	}
	each := "lamp"
	if row > 1 {
		each = fmt.Sprintf("%.0f lamps in a row", row)
	}
	l := p.q.Lines()
	return []rule.Row{
		{Label: "Rotation meter", Value: fmt.Sprintf("its leads on %s, %s, %s", l.A, l.B, l.Made),
			Remark: "it turns the way that is written on the panel, at every outlet of it"},
		{Label: "Two-lead meter", Value: fmt.Sprintf("first %s, then %s", l.A, l.B),
			Remark: "within the seconds that it allows between the two; the made leg last"},
		{
			Label: fmt.Sprintf("%.0f lamps of %d W %d V, %s µF for %.0f V ac", 2*row, lampWatts, lampVolts,
				quantity.Figures(microfarad, 2), math.Ceil(1.5*e.Volts.AB/50)*50),
			Value: fmt.Sprintf(
				"can on %s; %s on %s %.0f V, bright; on %s %.0f V, dim",
				l.A,
				each,
				l.B,
				bright,
				l.Made,
				dim,
			),
			Remark: fmt.Sprintf(
				"is %s, %s, %s; the other way about is the other sequence. Fused, boxed, hands off",
				l.A,
				l.B,
				l.Made,
			),
		},
		{Label: "The motor itself", Value: "a moment’s start, nothing on it", Remark: "what turns right is right"},
	}
}
