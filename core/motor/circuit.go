// Package motor describes one three-phase induction motor by its equivalent
// circuit, and fits that circuit from a nameplate.
//
// The circuit is the wye equivalent of Fitzgerald, Electric Machinery, and
// Krause, Analysis of Electric Machinery: stator resistance and leakage,
// behind them the magnetising branch with the core loss across it, and one or
// two rotor cages in parallel. Two cages hold the rated point, the
// locked-rotor current and the locked-rotor torque at once; the backward field
// of an unbalanced supply sees the rotor near locked rotor, so its heat and
// drag depend on the second cage.
package motor

import "math"

// Cage is one rotor cage, referred to the stator, in ohms at rated hertz.
type Cage struct {
	ROhm float64 `json:"r_ohm"`
	XOhm float64 `json:"x_ohm"`
}

// CurvePoint is a point of the magnetising curve: air-gap phase volts rms at
// rated hertz, and the magnetising amps rms that they take.
type CurvePoint struct {
	AirgapVolts float64 `json:"airgap_volts"`
	Amps        float64 `json:"amps"`
}

// LeakageSaturation lets every leakage reactance fall with current: it is
// multiplied by Floor + (1 − Floor)·min(1, OnsetAmps/I), I being the root mean
// square of the three line amps. The zero value means constant leakage.
type LeakageSaturation struct {
	OnsetAmps float64 `json:"onset_amps"`
	Floor     float64 `json:"floor"`
}

// Circuit is the wye-equivalent circuit of a motor, ohms per phase at its
// rated hertz as seen at its terminals. RcOhm zero means no core loss. An
// empty Curve means a linear magnetising branch of XmOhm.
type Circuit struct {
	R1Ohm   float64           `json:"r1_ohm"`
	X1Ohm   float64           `json:"x1_ohm"`
	XmOhm   float64           `json:"xm_ohm"`
	RcOhm   float64           `json:"rc_ohm"`
	Cages   []Cage            `json:"cages"`
	Curve   []CurvePoint      `json:"magnetising_curve,omitempty"`
	Leakage LeakageSaturation `json:"leakage_saturation,omitzero"`
}

// Scaled returns the circuit of the same motor with all ohms multiplied by k,
// as when its coils go from parallel to series (k = 4) or from delta to wye
// (k = 3). Curve and leakage onset follow: volts by √k, amps by 1/√k.
func (c Circuit) Scaled(k float64) Circuit {
	root := math.Sqrt(k)
	c.R1Ohm, c.X1Ohm, c.XmOhm, c.RcOhm = c.R1Ohm*k, c.X1Ohm*k, c.XmOhm*k, c.RcOhm*k
	cages := make([]Cage, len(c.Cages))
	for i, g := range c.Cages {
		cages[i] = Cage{g.ROhm * k, g.XOhm * k}
	}
	curve := make([]CurvePoint, len(c.Curve))
	for i, p := range c.Curve {
		curve[i] = CurvePoint{p.AirgapVolts * root, p.Amps / root}
	}
	c.Cages, c.Curve = cages, curve
	c.Leakage.OnsetAmps /= root
	return c
}

// Sized returns the circuit of a motor that is size times as large, for the same volts
// and alike per unit: ohms divided by it, amps multiplied.
func (c Circuit) Sized(size float64) Circuit {
	c.R1Ohm, c.X1Ohm, c.XmOhm, c.RcOhm = c.R1Ohm/size, c.X1Ohm/size, c.XmOhm/size, c.RcOhm/size
	cages, curve := make([]Cage, len(c.Cages)), make([]CurvePoint, len(c.Curve))
	for i, g := range c.Cages {
		cages[i] = Cage{g.ROhm / size, g.XOhm / size}
	}
	for i, p := range c.Curve {
		curve[i] = CurvePoint{p.AirgapVolts, p.Amps * size}
	}
	c.Cages, c.Curve = cages, curve
	c.Leakage.OnsetAmps *= size
	return c
}

// LeakageFactor is the share of every leakage reactance that is left at the
// given rms line amps.
func (c *Circuit) LeakageFactor(amps float64) float64 {
	k := c.Leakage.Floor
	if c.Leakage.OnsetAmps <= 0 || amps <= c.Leakage.OnsetAmps {
		return 1
	}
	return k + (1-k)*c.Leakage.OnsetAmps/amps
}

// MagnetisingOhms is the chord reactance of the magnetising branch, at rated
// hertz, for air-gap phase volts referred to rated hertz.
func (c *Circuit) MagnetisingOhms(volts float64) float64 {
	n := len(c.Curve)
	if n == 0 || volts <= c.Curve[0].AirgapVolts {
		return c.XmOhm
	}
	if n == 1 {
		// One point only: its own chord is the slope that goes on.
		return c.XmOhm
	}
	i := 1
	for i < n-1 && volts > c.Curve[i].AirgapVolts {
		i++
	}
	p, q := c.Curve[i-1], c.Curve[i]
	amps := p.Amps + (volts-p.AirgapVolts)*(q.Amps-p.Amps)/(q.AirgapVolts-p.AirgapVolts)
	return volts / amps
}

// Branch is what one sequence of the motor looks like at one slip.
type Branch struct {
	Admittance  complex128 // siemens per phase at the terminals
	EMFPerVolt  complex128 // air-gap volts per terminal volt
	Conductance float64    // siemens: watts across the gap per phase and air-gap volt squared
}

func reciprocal(z complex128) complex128 {
	d := real(z)*real(z) + imag(z)*imag(z)
	return complex(real(z)/d, -imag(z)/d)
}

// At computes a sequence branch at a slip. ratio is supply hertz over rated
// hertz; xm the chord magnetising reactance in ohms at supply hertz; leakage
// the factor of LeakageFactor. Any slip is allowed, zero included.
func (c *Circuit) At(slip, ratio, xm, leakage float64) Branch {
	gap := complex(0, -1/xm)
	if c.RcOhm > 0 {
		gap += complex(1/c.RcOhm, 0)
	}
	var conductance float64
	for _, g := range c.Cages {
		x := slip * g.XOhm * leakage * ratio
		d := g.ROhm*g.ROhm + x*x
		conductance += slip * g.ROhm / d
		gap += complex(slip*g.ROhm/d, -slip*x/d)
	}
	inner := reciprocal(gap)
	admittance := reciprocal(complex(c.R1Ohm, c.X1Ohm*leakage*ratio) + inner)
	return Branch{Admittance: admittance, EMFPerVolt: inner * admittance, Conductance: conductance}
}
