package waveform

import (
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
