package load_test

import (
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
