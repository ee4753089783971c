package waveform_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/waveform"
)

// spinning is an idler that runs with three equal capacitors in delta.
func spinning(microfarad float64) waveform.Case {
	c := motor.Circuit{R1Ohm: 0.3, X1Ohm: 0.6, XmOhm: 16, Cages: []motor.Cage{{ROhm: 0.25, XOhm: 0.8}}}
	c.Curve = motor.TypicalCurve(c, 240)
	w := waveform.Case{
		Supply: waveform.Supply{Supply: network.Supply{Volts: 240, Hertz: 60}},
		Motors: []waveform.Motor{
			{
				Motor: network.Motor{
					ID:            "idler",
					Poles:         4,
					RatedHertz:    60,
					InertiaKgm2:   0.5,
					FrictionWatts: 60,
					Circuit:       c,
				},
				InitialRPM: 1795,
			},
		},
	}
	if microfarad > 0 {
		for _, p := range []network.Pair{network.AB, network.BC, network.AC} {
			w.Capacitors = append(
				w.Capacitors,
				waveform.Capacitor{Capacitor: network.Capacitor{ID: string(p), Between: p, Microfarad: microfarad}},
			)
		}
	}
	return w
}

// Without capacitors the terminals' volts die with the rotor's open-circuit time
// constant, (Lm + Lr)/Rr (Krause).
func TestOpenTerminalsDieWithTheRotorsTimeConstant(t *testing.T) {
	c := spinning(0)
	c.Motors[0].Circuit.Curve = nil
	off, err := waveform.SwitchOff(c, 1.2)
	require.NoError(t, err)
	tau := (16 + 0.8) / (2 * math.Pi * 60) / 0.25
	at := func(seconds float64) waveform.OffPoint {
		for _, p := range off.After {
			if p.Seconds >= seconds {
				return p
			}
		}
		return waveform.OffPoint{}
	}
	a, b := at(0.1), at(0.3)
	// Volts are flux times speed.
	assert.InEpsilon(t, math.Exp(-(b.Seconds-a.Seconds)/tau)*b.RPM/a.RPM, b.VoltsRMS/a.VoltsRMS, 0.01)
	require.NotNil(t, off.LiveSeconds)
	assert.InEpsilon(t, tau*math.Log(a.VoltsRMS/waveform.SafeVolts)+a.Seconds, *off.LiveSeconds, 0.08)
	assert.False(t, off.Excites)
	assert.Nil(t, off.LeastShare)
}

// Three equal capacitors excite a motor from about the capacitance that resonates with
// the unsaturated magnetising and stator leakage reactance at its speed, 1/(ω·3·C) =
// Xm + X1 (Krause; Fitzgerald).
func TestSelfExcitationBegins(t *testing.T) {
	least := 1e6 / (2 * math.Pi * 60 * 3 * (16 + 0.6))
	off, err := waveform.SwitchOff(spinning(2*least), 2)
	require.NoError(t, err)
	require.NoError(t, off.Search(spinning(2*least)))
	assert.True(t, off.Excites)
	assert.Nil(t, off.LiveSeconds, "the heavy idler spins on")
	require.NotNil(t, off.LeastShare)
	assert.InEpsilon(t, least, 2*least**off.LeastShare, 0.15)
	verdicts := off.Judge(6 * least)
	require.Len(t, verdicts, 1)
	assert.Equal(t, "start.excites-itself", verdicts[0].Rule)
	assert.InEpsilon(t, 3*least, verdicts[0].Numbers["least_microfarad"], 0.15)
	little, err := waveform.SwitchOff(spinning(0.3*least), 2)
	require.NoError(t, err)
	require.NoError(t, little.Search(spinning(0.3*least)))
	assert.False(t, little.Excites)
	require.NotNil(t, little.LiveSeconds)
	require.NotNil(t, little.LeastShare)
	assert.Greater(t, *little.LeastShare, 2.0)
}

// However far it is thinned, a window keeps the extremes and its ends in order.
func TestWindowKeepsPeaks(t *testing.T) {
	n := 100_000
	seconds, wave, spike := make([]float64, n), make([]float64, n), make([]float64, n)
	for i := range n {
		seconds[i] = float64(i) * 1e-5
		wave[i] = math.Sin(2 * math.Pi * 60 * seconds[i])
	}
	spike[77_777] = 5
	spike[12_345] = -3
	times, thin := waveform.Window(seconds, [][]float64{wave, spike}, 0, 1, 500)
	assert.Len(t, times, 1000)
	assert.Equal(t, 5.0, slices.Max(thin[1]))
	assert.Equal(t, -3.0, slices.Min(thin[1]))
	assert.InDelta(t, 1, slices.Max(thin[0]), 1e-6)
	assert.True(t, slices.IsSorted(times))
	times, thin = waveform.Window(seconds, [][]float64{wave}, 0.5, 0.501, 500)
	assert.Len(t, thin[0], len(times))
	assert.InDelta(t, 102, len(times), 2, "few samples come as they are, one more on each side")
	assert.Equal(t, wave[50_000], thin[0][1])
	for _, w := range [][2]float64{{2, 3}, {0.7, 0.6}, {-1, -0.5}} {
		times, thin = waveform.Window(seconds, [][]float64{wave}, w[0], w[1], 10)
		assert.LessOrEqual(t, len(times), 2)
		assert.Len(t, thin[0], len(times))
	}
}
