package motor_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
)

var single = motor.Circuit{R1Ohm: 0.294, X1Ohm: 0.503, XmOhm: 13.25, Cages: []motor.Cage{{ROhm: 0.144, XOhm: 0.209}}}

// The worked six-pole motor of Fitzgerald, Electric Machinery, section 6.4: a
// 220 V, 60 Hz, wye machine at 2 percent slip takes 18.8 A at power factor
// 0.845, with 5740 W across the gap.
func TestTextbookMotor(t *testing.T) {
	b := motor.Balanced{Volts: 220, Hertz: 60, Poles: 6}
	p := b.At(&single, 0.02)
	assert.InDelta(t, 18.8, p.LineAmps, 0.05)
	assert.InDelta(t, 0.845, p.PowerFactor, 0.001)
	assert.InDelta(t, 1200, motor.SynchronousRPM(60, 6), 1e-12)
	// Air-gap watts 5740 by the book's rounding, less the rotor's 2 percent.
	assert.InDelta(t, 5740, p.TorqueNm*1200*math.Pi/30, 30)
	assert.InDelta(t, 0.98*5740, p.ShaftWatts, 30)
}

// The Thévenin form gives the breakdown torque and its slip in closed form.
func TestBreakdownAgreesWithTheClosedForm(t *testing.T) {
	b := motor.Balanced{Volts: 220, Hertz: 60, Poles: 6}
	z := complex(single.R1Ohm, single.X1Ohm)
	share := complex(0, single.XmOhm) / (z + complex(0, single.XmOhm))
	volts := 220 / math.Sqrt(3) * math.Hypot(real(share), imag(share))
	thevenin := z * share
	root := math.Hypot(real(thevenin), imag(thevenin)+single.Cages[0].XOhm)
	want := 3 * volts * volts / (2 * (real(thevenin) + root)) / (1200 * math.Pi / 30)
	got := b.Breakdown(&single, 0.01)
	assert.InEpsilon(t, want, got.TorqueNm, 2e-3)
	assert.InEpsilon(t, single.Cages[0].ROhm/root, got.Slip, 0.05)
}

func TestScaledCircuitIsTheSameMotor(t *testing.T) {
	c := single
	c.RcOhm = 200
	c.Curve = motor.TypicalCurve(c, 220)
	c.Leakage = motor.LeakageSaturation{OnsetAmps: 40, Floor: 0.6}
	k := 3.0
	s := c.Scaled(k)
	one := motor.Balanced{Volts: 220, Hertz: 60, Poles: 6}.At(&c, 0.3)
	other := motor.Balanced{Volts: 220 * math.Sqrt(k), Hertz: 60, Poles: 6}.At(&s, 0.3)
	assert.InEpsilon(t, one.TorqueNm, other.TorqueNm, 1e-9)
	assert.InEpsilon(t, one.LineAmps/math.Sqrt(k), other.LineAmps, 1e-9)
	assert.InEpsilon(t, c.MagnetisingOhms(150)*k, s.MagnetisingOhms(150*math.Sqrt(k)), 1e-9)
	assert.Equal(t, 0.144, single.Cages[0].ROhm, "the circuit given stays as it was")
}

// No-load amps grow 1.3 times at 110 percent volts, 1.8 at 120, 2.6 at 130.
func TestTypicalCurve(t *testing.T) {
	c := motor.Circuit{XmOhm: 20}
	c.Curve = motor.TypicalCurve(c, 240)
	knee := 240 / math.Sqrt(3)
	for over, amps := range map[float64]float64{0.5: 0.5, 1: 1, 1.1: 1.3, 1.2: 1.8, 1.3: 2.6, 1.4: 3.4} {
		assert.InEpsilon(t, amps*knee/20, over*knee/c.MagnetisingOhms(over*knee), 1e-9, "%v", over)
	}
	assert.Equal(t, 20.0, motor.Circuit{XmOhm: 20}.Scaled(1).XmOhm)
	linear := motor.Circuit{XmOhm: 20}
	assert.Equal(t, 20.0, linear.MagnetisingOhms(1e4))
}

func TestLeakageFactor(t *testing.T) {
	c := motor.Circuit{Leakage: motor.LeakageSaturation{OnsetAmps: 10, Floor: 0.6}}
	for amps, want := range map[float64]float64{0: 1, 10: 1, 20: 0.8, 40: 0.7, 1e9: 0.6} {
		assert.InDelta(t, want, c.LeakageFactor(amps), 1e-6)
	}
	assert.Equal(t, 1.0, (&motor.Circuit{}).LeakageFactor(1e9))
}

func TestRefusedTargets(t *testing.T) {
	good := motor.Target{Volts: 230, Hertz: 60, RPM: 1745, Amps: 9, OutputWatts: 2237, PowerFactor: 0.713, Poles: 4}
	_, err := motor.FitCircuit(good)
	require.NoError(t, err)
	for says, edit := range map[string]func(*motor.Target){
		"slip":                  func(g *motor.Target) { g.RPM = 1400 },
		"must all be known":     func(g *motor.Target) { g.Amps = 0 },
		"power factor of 1.10":  func(g *motor.Target) { g.PowerFactor = 1.1 },
		"an efficiency of":      func(g *motor.Target) { g.OutputWatts = 2600 },
		"too low":               func(g *motor.Target) { g.OutputWatts = 100 },
		"alone loses":           func(g *motor.Target) { g.RPM, g.OutputWatts = 1640, 2450 },
		"between 0 and 20":      func(g *motor.Target) { g.RPM = 1800 },
		"power factor of -0.70": func(g *motor.Target) { g.PowerFactor = -0.7 },
	} {
		target := good
		edit(&target)
		_, err := motor.FitCircuit(target)
		require.ErrorIs(t, err, motor.ErrTarget, says)
		assert.ErrorContains(t, err, says)
	}
}

func TestFitIsDeterministic(t *testing.T) {
	target := motor.Target{
		Volts:           230,
		Hertz:           60,
		RPM:             1745,
		Amps:            9,
		OutputWatts:     2237,
		PowerFactor:     0.713,
		Poles:           4,
		LockedRotorAmps: motor.Goal{Stated: 7},
	}
	one, err := motor.FitCircuit(target)
	require.NoError(t, err)
	two, err := motor.FitCircuit(target)
	require.NoError(t, err)
	assert.Equal(t, one, two)
}

// Whatever passes the checks gives a circuit of plausible, finite figures or a
// refusal in words.
func TestFitOfAnyTarget(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		watts := rapid.Float64Range(60, 30e3).Draw(t, "watts")
		poles := 2 * rapid.IntRange(1, 4).Draw(t, "pole pairs")
		efficiency, powerFactor := rapid.Float64Range(0.4, 0.97).
			Draw(t, "efficiency"),
			rapid.Float64Range(0.4, 0.95).
				Draw(t, "power factor")
		target := motor.Target{
			Volts:       400,
			Hertz:       50,
			Poles:       poles,
			OutputWatts: watts,
			PowerFactor: powerFactor,
			Amps:        watts / (math.Sqrt(3) * 400 * powerFactor * efficiency),
			RPM:         motor.SynchronousRPM(50, poles) * (1 - rapid.Float64Range(0.003, 0.15).Draw(t, "slip")),
		}
		fit, err := motor.FitCircuit(target)
		if err != nil {
			require.ErrorIs(t, err, motor.ErrTarget)
			return
		}
		for _, v := range []float64{fit.Circuit.R1Ohm, fit.Circuit.X1Ohm, fit.Circuit.XmOhm, fit.Circuit.RcOhm,
			fit.Circuit.Cages[0].ROhm, fit.Circuit.Cages[1].XOhm, fit.FrictionWatts} {
			assert.True(t, v > 0 && !math.IsInf(v, 0))
		}
		for _, p := range fit.Parameters {
			assert.True(t, p.Value > 0.5*p.Low && p.Value < 2*p.High, "%+v", p)
		}
	})
}

func BenchmarkFit(b *testing.B) {
	target := motor.Target{
		Volts:       230,
		Hertz:       60,
		RPM:         1745,
		Amps:        9,
		OutputWatts: 2237,
		PowerFactor: 0.713,
		Poles:       4,
		LockedRotorAmps: motor.Goal{
			Least:   6.7,
			Most:    7.5,
			Typical: 7.1,
		},
		LockedRotorTorque: motor.Goal{Least: 2.15, Typical: 2.4},
		Breakdown:         motor.Goal{Least: 2.5, Typical: 2.8},
	}
	for b.Loop() {
		if _, err := motor.FitCircuit(target); err != nil {
			b.Fatal(err)
		}
	}
}
