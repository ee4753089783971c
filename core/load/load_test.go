package load_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/load"
)

func TestKinds(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range load.Kinds {
		assert.False(t, seen[k.Name], k.Name)
		seen[k.Name] = true
		assert.NotEmpty(t, k.Title)
		assert.Positive(t, k.BreakawayShare, k.Name)
		assert.True(t, k.RunShare > 0 && k.RunShare <= 1, k.Name)
		assert.Contains(t, []int{0, 1, 2}, k.Exponent)
		assert.Positive(t, k.InertiaTimes, k.Name)
		got, ok := load.ByName(k.Name)
		require.True(t, ok)
		assert.Equal(t, k, got)
	}
	_, ok := load.ByName("unicorn")
	assert.False(t, ok)
	assert.Equal(t, "spindle", load.Kinds[0].Name, "the command line's default")
}

func TestTorque(t *testing.T) {
	fan, _ := load.ByName("fan")
	winch, _ := load.ByName("winch")
	assert.InDelta(t, 8.5, fan.Torque(0.85, 10, 1440, 1440), 1e-9)
	assert.InDelta(t, 8.5/4, fan.Torque(0.85, 10, 720, 1440), 1e-9)
	assert.InDelta(t, 1.2, fan.Torque(0.85, 10, 0, 1440), 1e-9, "breakaway at standstill")
	assert.InDelta(t, 14, winch.Torque(0.9, 10, 0, 1440), 1e-9)
	assert.InDelta(t, 9, winch.Torque(0.9, 10, 400, 1440), 1e-9)
	// It falls from breakaway to the running torque without a jump.
	assert.InDelta(t, winch.Torque(0.9, 10, 143.9, 1440), winch.Torque(0.9, 10, 144.1, 1440), 0.02)
}

// What is started unloaded comes up under less than it runs with.
func TestComingUp(t *testing.T) {
	for name, share := range map[string]float64{"compressor-unloaded": 0.3, "compressor-screw": 0.5,
		"compressor-loaded": 0.9, "spindle": 0.2, "fan": 0.9, "winch": 0.9} {
		k, ok := load.ByName(name)
		require.True(t, ok)
		assert.InDelta(t, share, k.ComingUp(0.9), 1e-12, name)
		assert.LessOrEqual(t, k.ComingUp(0.1), 0.1, name)
	}
}

func TestReferredInertia(t *testing.T) {
	assert.InDelta(t, 0.01, load.Referred(0.04, 875, 1750), 1e-12, "half the speed, a quarter")
	assert.InDelta(
		t,
		0.36,
		load.Referred(0.04, 5250, 1750),
		1e-12,
		"a cutter head that runs three times as fast weighs nine times",
	)
}

// The time of each coast-down is added up again, step by step.
func TestCoastDown(t *testing.T) {
	for _, c := range []load.CoastDown{
		{FromRPM: 1750, Seconds: 12, DragWatts: 90},
		{FromRPM: 1750, ToRPM: 600, Seconds: 7, DragWatts: 90, Exponent: 1},
		{FromRPM: 2900, ToRPM: 1450, Seconds: 20, DragWatts: 400, Exponent: 2},
	} {
		inertia, err := c.Inertia()
		require.NoError(t, err)
		first := c.FromRPM * math.Pi / 30
		omega, seconds := first, 0.0
		const h = 1e-4
		for omega > c.ToRPM*math.Pi/30 {
			middle := omega - h/2*c.DragWatts/first*math.Pow(omega/first, float64(c.Exponent))/inertia
			omega -= h * c.DragWatts / first * math.Pow(middle/first, float64(c.Exponent)) / inertia
			seconds += h
		}
		assert.InEpsilon(t, c.Seconds, seconds, 1e-4)
	}
	for _, c := range []struct {
		load.CoastDown
		err error
	}{
		{load.CoastDown{FromRPM: 1750, DragWatts: 90}, load.ErrNoTime},
		{load.CoastDown{FromRPM: 1750, DragWatts: 90, Seconds: math.NaN()}, load.ErrNoTime},
		{load.CoastDown{FromRPM: 0, DragWatts: 90, Seconds: 1}, load.ErrSpeeds},
		{load.CoastDown{FromRPM: 900, ToRPM: 900, DragWatts: 90, Seconds: 1}, load.ErrSpeeds},
		{load.CoastDown{FromRPM: 1750, Seconds: 1}, load.ErrNoDrag},
		{load.CoastDown{FromRPM: 1750, Seconds: 1, DragWatts: 1, Exponent: 2}, load.ErrNoStop},
		{load.CoastDown{FromRPM: 1750, Seconds: 1, DragWatts: 1, Exponent: 3}, load.ErrUnknown},
	} {
		_, err := c.Inertia()
		assert.ErrorIs(t, err, c.err)
	}
}
