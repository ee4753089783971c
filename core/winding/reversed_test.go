package winding

import (
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// small is a 3 hp motor of Krause's table, Analysis of Electric Machinery.
func small(delta bool) Machine {
	m := Machine{
		Circuit: motor.Circuit{
			R1Ohm: 0.435,
			X1Ohm: 0.754,
			XmOhm: 26.13,
			Cages: []motor.Cage{{ROhm: 0.816, XOhm: 0.754}},
		},
		Volts: 220,
		Hertz: 60,
		Poles: 4,
		Amps:  5.8,
		Delta: delta,
	}
	m.Circuit.Curve = motor.TypicalCurve(m.Circuit, m.Volts)
	m.Circuit.Leakage = motor.LeakageSaturation{OnsetAmps: 15, Floor: 0.7}
	return m
}

// Joined right, the motor is that of the network on three lines.
func TestRightWayRoundIsTheNetworksMotor(t *testing.T) {
	for _, delta := range []bool{false, true} {
		for _, slip := range []float64{1, 0.5, 0.05, 0.01} {
			m := small(delta)
			got := m.Try(slip, false)
			connection := "wye"
			if delta {
				connection = network.Delta
			}
			r, err := network.Solve(network.Case{
				Supply: network.Supply{Phases: 3, Volts: m.Volts, Hertz: m.Hertz},
				Motors: []network.Motor{
					{ID: "m", Poles: 4, RatedHertz: 60, Connection: connection, Circuit: m.Circuit, Slip: &slip},
				},
			})
			require.NoError(t, err)
			want := r.Motors[0]
			assert.InEpsilon(t, want.TorqueNm, got.TorqueNm, 1e-6)
			assert.InEpsilon(t, want.LineAmps.A, got.LineShare[0]*m.Amps, 1e-6)
			assert.InEpsilon(
				t,
				want.WindingAmps[0],
				got.WindingShare[0]*m.Amps/map[bool]float64{false: 1, true: math.Sqrt(3)}[delta],
				1e-6,
			)
		}
	}
}

// What goes in is lost in copper or crosses the gap, however it is joined.
func TestWattsBalanceWindingByWinding(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := small(rapid.Bool().Draw(t, "delta"))
		m.Volts *= rapid.Float64Range(0.3, 1.1).Draw(t, "volts")
		m.Circuit.RcOhm = rapid.Float64Range(200, 900).Draw(t, "rc")
		got := m.Try(rapid.Float64Range(0.01, 1.99).Draw(t, "slip"), rapid.Bool().Draw(t, "reversed"))
		assert.InEpsilon(t, got.InputWatts, got.CopperWatts+got.GapWatts, 1e-7)
	})
}

// The amps of a reversed winding in wye by two mesh equations over a 3×3 impedance
// matrix written out, without a star potential.
func TestAReversedWindingByMeshes(t *testing.T) {
	m := small(false)
	m.Circuit.Curve, m.Circuit.Leakage = nil, motor.LeakageSaturation{}
	for _, slip := range []float64{1, 0.3, 0.04} {
		one, two := 1/m.Circuit.At(
			slip,
			1,
			m.Circuit.XmOhm,
			1,
		).Admittance, 1/m.Circuit.At(
			2-slip,
			1,
			m.Circuit.XmOhm,
			1,
		).Admittance
		zero := complex(m.Circuit.R1Ohm, ZeroShare*m.Circuit.X1Ohm)
		own, next, last := (zero+one+two)/3, (zero+one*turn+two*turn2)/3, (zero+one*turn2+two*turn)/3
		z := [3][3]complex128{{own, next, last}, {last, own, next}, {next, last, own}}
		// i_c = −(x+y), and its winding is turned
		row := func(i int, x, y complex128) complex128 { return z[i][0]*x + z[i][1]*y + z[i][2]*(x+y) }
		va := complex(m.Volts/math.Sqrt(3), 0)
		ab, bc := va-va*turn2, va*turn2-va*turn
		// The third terminal's volts are those of its winding turned.
		a11, a12 := row(0, 1, 0)-row(1, 1, 0), row(0, 0, 1)-row(1, 0, 1)
		a21, a22 := row(1, 1, 0)+row(2, 1, 0), row(1, 0, 1)+row(2, 0, 1)
		d := a11*a22 - a12*a21
		x, y := (ab*a22-a12*bc)/d, (a11*bc-ab*a21)/d
		got := m.Try(slip, true)
		for i, amps := range []complex128{x, y, x + y} {
			assert.InEpsilon(t, cmplx.Abs(amps)/m.Amps, got.LineShare[i], 1e-9, "slip %v line %d", slip, i)
		}
	}
}

// Turned round, a winding takes torque away and puts far more than plate amps
// through the others even near full speed.
func TestAReversedWindingIsABurntMotor(t *testing.T) {
	for _, delta := range []bool{false, true} {
		m := small(delta)
		right, wrong := m.Try(1, false), m.Try(1, true)
		assert.Less(t, wrong.TorqueNm, 0.5*right.TorqueNm)
		running := m.Try(0.03, true)
		hottest := math.Max(running.WindingShare[0], math.Max(running.WindingShare[1], running.WindingShare[2]))
		assert.Greater(t, hottest, 2.0)
	}
}
