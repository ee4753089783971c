package network_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

func solved(t require.TestingT, c network.Case) network.Result {
	r, err := network.Solve(c)
	require.NoError(t, err)
	return r
}

func base(m ...network.Motor) network.Case {
	return network.Case{
		Supply:     network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.06, ReactanceOhm: 0.03},
		Motors:     m,
		Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 60}},
	}
}

// plainMotor has constant leakage, so that ohms in front of it may be counted to it.
func plainMotor(s float64) network.Motor {
	return network.Motor{
		ID:         "m",
		Poles:      4,
		RatedHertz: 60,
		Slip:       slip(s),
		Circuit: motor.Circuit{R1Ohm: 0.6, X1Ohm: 1.2, XmOhm: 30, RcOhm: 400,
			Cages: []motor.Cage{{ROhm: 0.6, XOhm: 1.5}, {ROhm: 1.9, XOhm: 0.9}}},
	}
}

// Ohms in a motor's lines are stator ohms, seen from the lines.
func TestConductorIsInSeriesWithTheStator(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		wired := plainMotor(rapid.Float64Range(0.01, 1.5).Draw(t, "slip"))
		wired.Conductor = network.Conductor{
			ResistanceOhm: rapid.Float64Range(0, 1).Draw(t, "r"),
			ReactanceOhm:  rapid.Float64Range(0, 1).Draw(t, "x"),
		}
		longer := wired
		longer.Conductor = network.Conductor{}
		longer.Circuit.R1Ohm += wired.Conductor.ResistanceOhm
		longer.Circuit.X1Ohm += wired.Conductor.ReactanceOhm
		a, b := solved(t, base(wired)), solved(t, base(longer))
		close(t, a.Motors[0].LineAmps, b.Motors[0].LineAmps, 1)
		assert.InEpsilon(t, a.Volts.CA, b.Volts.CA, 1e-9)
		assert.InDelta(t, a.Motors[0].TorqueNm, b.Motors[0].TorqueNm, 1e-9)
	})
}

// A motor behind an ideal transformer is that motor with its ohms over the square of
// the ratio, and its amps times the ratio.
func TestTransformerScalesWhatIsBehindIt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ratio := rapid.Float64Range(0.4, 3).Draw(t, "ratio")
		z := network.Conductor{
			ResistanceOhm: rapid.Float64Range(0, 0.5).Draw(t, "r"),
			ReactanceOhm:  rapid.Float64Range(0, 0.5).Draw(t, "x"),
		}
		m := plainMotor(rapid.Float64Range(0.01, 1).Draw(t, "slip"))
		behind := base(m)
		behind.Motors[0].Behind = "t"
		behind.Transformers = []network.Transformer{
			{
				ID:      "t",
				Winding: network.Winding{Ratio: ratio, ResistanceOhm: z.ResistanceOhm, ReactanceOhm: z.ReactanceOhm},
			},
		}
		direct := m
		direct.Conductor = network.Conductor{
			ResistanceOhm: z.ResistanceOhm / ratio / ratio,
			ReactanceOhm:  z.ReactanceOhm / ratio / ratio,
		}
		direct.Circuit = m.Circuit.Scaled(1 / ratio / ratio)
		a, b := solved(t, behind), solved(t, base(direct))
		close(t, b.Motors[0].LineAmps, a.Motors[0].LineAmps, ratio)
		close(t, b.Motors[0].LineAmps, a.Transformers[0].PrimaryAmps, 1)
		assert.InEpsilon(t, b.Volts.BC, a.Volts.BC, 1e-9)
		assert.InEpsilon(t, b.Motors[0].TorqueNm, a.Motors[0].TorqueNm, 1e-9)
	})
}

// Two like motors behind one transformer are one of half the ohms behind it: each sees
// the drop that the other makes.
func TestTwoMotorsShareATransformer(t *testing.T) {
	one, two := plainMotor(0.05), plainMotor(0.05)
	two.ID, one.Behind, two.Behind = "n", "t", "t"
	c := base(one, two)
	c.Transformers = []network.Transformer{
		{ID: "t", Winding: network.Winding{Ratio: 2, ResistanceOhm: 0.3, ReactanceOhm: 0.5, CoreOhm: 900}},
	}
	both := plainMotor(0.05)
	both.Behind, both.Circuit = "t", both.Circuit.Scaled(0.5)
	d := base(both)
	d.Transformers = c.Transformers
	a, b := solved(t, c), solved(t, d)
	assert.InEpsilon(t, b.Motors[0].TorqueNm, 2*a.Motors[0].TorqueNm, 1e-9)
	assert.InEpsilon(t, b.Transformers[0].SecondaryVolts.CA, a.Transformers[0].SecondaryVolts.CA, 1e-9)
	assert.Less(t, a.Transformers[0].SecondaryVolts.AB, 2*a.Volts.AB)
}

// A supply transformer is a source of other volts and ohms; what the meter at the
// source sees goes by the ratio.
func TestSupplyTransformer(t *testing.T) {
	c := base(plainMotor(0.05))
	c.Supply.Volts, c.Supply.ResistanceOhm, c.Supply.ReactanceOhm = 120, 0.02, 0.01
	c.Supply.Transformer = &network.Winding{Ratio: 2, ResistanceOhm: 0.1, ReactanceOhm: 0.2, RatedVA: 3000}
	d := base(plainMotor(0.05))
	d.Supply.ResistanceOhm, d.Supply.ReactanceOhm = 0.08+0.1, 0.04+0.2
	a, b := solved(t, c), solved(t, d)
	assert.InEpsilon(t, b.Volts.AB, a.Volts.AB, 1e-9)
	assert.InEpsilon(t, 2*b.Supply.Amps, a.Supply.Amps, 1e-9)
	assert.InEpsilon(t, b.Supply.Watts, a.Supply.Watts, 1e-9)
	assert.InEpsilon(t, 100*120*a.Supply.Amps/3000, *a.SupplyTransformer.LoadPercent, 1e-9)
}

// A balanced load in delta is three impedances on the pairs; in wye a third of them.
func TestThreePhaseLoadIsThreeImpedances(t *testing.T) {
	for _, joined := range []struct {
		connection string
		scale      float64
	}{{"delta", 1}, {"wye", 3}} {
		c, d := base(plainMotor(0.05)), base(plainMotor(0.05))
		c.ThreePhaseLoads = []network.ThreePhase{
			{ID: "oven", Connection: joined.connection, ResistanceOhm: 40, ReactanceOhm: 10},
		}
		for _, p := range []network.Pair{network.AB, network.BC, network.AC} {
			d.Loads = append(
				d.Loads,
				network.Impedance{
					ID:            string(p),
					Between:       p,
					ResistanceOhm: 40 * joined.scale,
					ReactanceOhm:  10 * joined.scale,
				},
			)
		}
		a, b := solved(t, c), solved(t, d)
		assert.InEpsilon(t, b.Volts.BC, a.Volts.BC, 1e-9)
		sum := 0.0
		for _, l := range b.Loads {
			sum += l.Watts
		}
		assert.InEpsilon(t, sum, a.ThreePhaseLoads[0].Watts, 1e-9)
	}
}

func TestRectifierDrawsItsWattsAtAnyVolts(t *testing.T) {
	c := base(plainMotor(0.05))
	c.Rectifiers = []network.Rectifier{
		{ID: "drive", Between: network.BC, Watts: 700, DisplacementFactor: 0.9, TruePowerFactor: 0.6},
	}
	r := solved(t, c)
	d := r.Rectifiers[0]
	assert.InEpsilon(t, 700, d.Watts, 1e-8)
	assert.InEpsilon(t, 700/0.9/r.Volts.BC, d.FundamentalAmps, 1e-8)
	assert.InEpsilon(t, 700/0.6/r.Volts.BC, d.Amps, 1e-8)
	// On a single-phase loop the volts are those of a quadratic: with R alone and unity
	// displacement V² − E·V + R·P = 0.
	q := network.Case{
		Supply:     network.Supply{Volts: 240, Hertz: 60, ResistanceOhm: 1},
		Rectifiers: []network.Rectifier{{ID: "d", Between: network.AB, Watts: 5000, DisplacementFactor: 1}},
		Loads:      []network.Impedance{{ID: "x", Between: network.BC, ResistanceOhm: 1e6}},
	}
	assert.InEpsilon(t, (240+math.Sqrt(240*240-4*5000))/2, solved(t, q).Volts.AB, 1e-9)
	// Where no volts carry it, it locks out and the case still has an answer.
	q.Rectifiers[0].Watts = 40000
	locked := solved(t, q)
	assert.Less(t, locked.Volts.AB, 120.0)
	assert.Less(t, locked.Rectifiers[0].Watts, 40000.0)
}

// With 240 V split about earth the lines stand at 120 V and a balanced made leg at
// 120·√3 = 208 V (the high leg of NEC article 110.15's delta).
func TestVoltsToEarth(t *testing.T) {
	c := network.Case{
		Supply: network.Supply{Phases: 3, Volts: 240, Hertz: 60},
		Motors: []network.Motor{plainMotor(0.03)},
	}
	for _, e := range []struct {
		phases  int
		earth   string
		a, b, c float64
	}{{3, network.EarthStar, 138.564, 138.564, 138.564}, {3, network.EarthB, 240, 0, 240}, {3, network.EarthA, 0, 240,
		240}} {
		c.Supply.Earthing = e.earth
		got := solved(t, c).EarthVolts
		assert.InDelta(t, e.a, got.A, 1e-3)
		assert.InDelta(t, e.b, got.B, 1e-3)
		assert.InDelta(t, e.c, got.C, 1e-3)
	}
	c.Supply.Earthing = network.EarthNone
	assert.Nil(t, solved(t, c).EarthVolts)
	// A balanced one-phase network: an admittance at 60 degrees with its own capacitor.
	y := 0.1
	ac, bc := network.BalancingMicrofarads(y, math.Pi/3, 60)
	require.InDelta(t, 0, bc, 1e-9)
	one := network.Case{
		Supply: network.Supply{Volts: 240, Hertz: 60, Earthing: network.EarthMid},
		ThreePhaseLoads: []network.ThreePhase{
			{ID: "z", Connection: "wye", ResistanceOhm: 0.5 / y, ReactanceOhm: math.Sqrt(3) / 2 / y},
		},
		Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: ac}},
	}
	got := solved(t, one).EarthVolts
	assert.InDelta(t, 120, got.A, 1e-6)
	assert.InDelta(t, 120, got.B, 1e-6)
	assert.InDelta(t, 207.846, got.C, 1e-3)
}

// Without resistance the linkage rises by twice its peak: the amps beyond the knee are
// (0.6 + 2 − knee)·peak/air-core reactance (Fitzgerald, chapter 2).
func TestInrush(t *testing.T) {
	w := network.Winding{Ratio: 2, KneePercent: 120, AirCoreOhm: 1.5}
	stiff := network.Supply{Phases: 1, Volts: 240, Hertz: 60}
	assert.InEpsilon(t, (2.6-1.2)*240*math.Sqrt2/1.5, *w.Inrush(stiff), 1e-4)
	weak := stiff
	weak.ReactanceOhm = 0.5
	assert.InEpsilon(
		t,
		(2.6-1.2)*240*math.Sqrt2/2,
		*w.Inrush(weak),
		1e-4,
		"reactance in the loop adds to the air core's",
	)
	weak.ResistanceOhm = 0.3
	assert.Less(t, *w.Inrush(weak), 0.95*(2.6-1.2)*240*math.Sqrt2/2)
	assert.Nil(t, (&network.Winding{Ratio: 1}).Inrush(stiff), "nothing is said of its iron")
}
