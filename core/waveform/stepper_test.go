package waveform

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/network"
)

// started is a motor that comes up on a run capacitor and one to start it.
func started() Case {
	m := small(true, false)
	m.InitialRPM = 0
	m.Load = &network.Load{Kind: "torque", NewtonMetre: 3, AtRPM: 1750, Exponent: 1}
	c := onCapacitor(m, 60)
	start := c.Capacitors[0]
	start.ID, start.Microfarad, start.Closed = "start", 250, new(true)
	c.Capacitors = append(c.Capacitors, start)
	c.Events = nil
	return c
}

// What is switched by hand while it runs comes to what the same events come to, and
// reading moves nothing.
func TestAStepperIsTheBatchByHand(t *testing.T) {
	c := started()
	c.Events = []Event{{AtSeconds: 0.25, Switch: "start", To: Open}}
	c.DurationSeconds = 0.8
	want, err := Solve(c)
	require.NoError(t, err)
	for name, pause := range map[string]float64{"at once": 1, "in pieces": 0.0037} {
		w := Begin(c)
		assert.True(t, w.Switch("start", Closed))
		for at := 0.0; at < 0.25; at += pause {
			require.NoError(t, w.Advance(min(at+pause, 0.25)))
			w.Read()
		}
		assert.True(t, w.Switch("start", Open))
		assert.False(t, w.Switch("tea", Open))
		require.NoError(t, w.Advance(0.8))
		got := w.Read()
		assert.InDelta(t, 0.8, got.Seconds, 1e-6, name)
		assert.InEpsilon(t, want.Motors[0].FinalRPM, got.Motors[0].RPM, 2e-4, name)
		assert.InDelta(t, want.Capacitors[0].FinalVolts, got.Capacitors[0].Volts, 1, name)
		require.Len(t, w.Openings(), 1)
		assert.InDelta(t, want.Openings[0].AtSeconds, w.Openings()[0].AtSeconds, 1e-4, name)
		assert.Equal(t, [3]bool{true, true, true}, got.Motors[0].Closed)
		assert.False(t, got.Capacitors[len(got.Capacitors)-1].Closed)
	}
}

// Reading and standing still change no bit of what comes after.
func TestReadingMovesNothing(t *testing.T) {
	c := started()
	one, two := Begin(c), Begin(c)
	for k := range 40 {
		to := 0.01 * float64(k+1)
		require.NoError(t, one.Advance(to))
		two.Read()
		require.NoError(t, two.Advance(to))
		require.NoError(t, two.Advance(to-0.005))
		assert.Equal(t, two.Read(), two.Read())
	}
	assert.Equal(t, one.Read(), two.Read())
}

// A source that is driven at the frequency it has is that source; one driven at another comes to what a network at that
// frequency comes to, whichever way round; and its angle does not jump.
func TestADrivenSource(t *testing.T) {
	m := small(true, false)
	m.InitialRPM = 0
	m.Load = &network.Load{Kind: "torque", NewtonMetre: 3, AtRPM: 1750, Exponent: 0}
	c := Case{Supply: Supply{Supply: network.Supply{Phases: 3, Volts: 230, Hertz: 60}}, Motors: []Motor{m}}
	one, two := Begin(c), Begin(c)
	for k := range 50 {
		at := 0.01 * float64(k+1)
		require.NoError(t, one.Advance(at))
		two.Drive(230, 60)
		require.NoError(t, two.Advance(at))
	}
	assert.InEpsilon(t, one.Read().Motors[0].RPM, two.Read().Motors[0].RPM, 1e-4)
	assert.InDelta(t, one.Read().Volts.AB, two.Read().Volts.AB, 1)
	for _, hertz := range []float64{30, -30} {
		alone := m.Motor
		solved, err := network.Solve(network.Case{
			Supply: network.Supply{Phases: 3, Volts: 115, Hertz: 30}, Motors: []network.Motor{alone},
		})
		require.NoError(t, err)
		w := Begin(c)
		w.Drive(115, hertz)
		require.NoError(t, w.Advance(1.5))
		got := w.Read().Motors[0]
		assert.InEpsilon(t, math.Copysign(solved.Motors[0].RPM, hertz), got.RPM, 1e-3)
		amps := math.Sqrt((got.Amps.A*got.Amps.A + got.Amps.B*got.Amps.B + got.Amps.C*got.Amps.C) / 3)
		assert.InEpsilon(t, solved.Motors[0].LineAmps.A, amps, 5e-3)
	}
	assert.True(t, one.Load(m.ID, nil))
	assert.False(t, one.Load("tea", nil))
	loaded := one.Read().Motors[0].RPM
	require.NoError(t, one.Advance(1))
	assert.Greater(t, one.Read().Motors[0].RPM, loaded)
}

// Two leads exchanged turn a motor the other way with the same amps, by the lines then on the other leads; exchanged
// once more it is as before.
func TestLeadsExchanged(t *testing.T) {
	m := small(true, false)
	m.InitialRPM = 0
	c := Case{Supply: Supply{Supply: network.Supply{Phases: 3, Volts: 230, Hertz: 60}}, Motors: []Motor{m}}
	run := func(exchanges int) MotorReading {
		w := Begin(c)
		for range exchanges {
			assert.True(t, w.Exchange(m.ID, 1, 2))
		}
		require.NoError(t, w.Advance(1))
		return w.Read().Motors[0]
	}
	plain, crossed, back := run(0), run(1), run(2)
	assert.InEpsilon(t, -plain.RPM, crossed.RPM, 1e-4)
	assert.InEpsilon(t, plain.RPM, back.RPM, 1e-6)
	assert.InDelta(t, plain.Amps.A, crossed.Amps.A, 0.02)
	assert.InDelta(t, plain.Amps.B, crossed.Amps.B, 0.02, "a line's amps are the line's, whichever lead is on it")
	assert.False(t, Begin(c).Exchange("tea", 0, 1))
}
