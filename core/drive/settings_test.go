package drive_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
)

func set(t *testing.T, in drive.Input, use drive.Use) map[string]drive.Setting {
	t.Helper()
	a, err := drive.Size(in)
	require.NoError(t, err)
	by := map[string]drive.Setting{}
	for _, s := range drive.Settings(in, a, use) {
		assert.NotContains(t, by, s.Name)
		assert.NotEmpty(t, s.Value, s.Name)
		assert.NotEmpty(t, s.Why, s.Name)
		assert.NotEqual(t, s.Value, s.Wrong, s.Name)
		by[s.Name] = s
	}
	return by
}

func TestSettings(t *testing.T) {
	by := set(t, sizing(t, "2.2 kW", 0.6), drive.Use{})
	assert.Len(t, by, 30)
	assert.Equal(t, "50 Hz", by["base_hertz"].Value)
	assert.Equal(t, "off", by["restart"].Value, "nothing restarts by itself")
	assert.Equal(t, "barred", by["reverse"].Value)
	assert.Zero(t, *by["dc_brake_s"].Number, "what is screwed on stays on")
	assert.Equal(t, "keypad", by["run_source"].First, "the first turn is made from the keypad")
	assert.Equal(t, "by hand", by["fault_reset"].Value)
	assert.Equal(t, "linear", by["shape"].Value)
	assert.InDelta(t, 25, *by["minimum_hertz"].Number, 1e-9)
	assert.InDelta(t, 1, drive.Cooling(*by["minimum_hertz"].Number/50), 1e-12, "there it still cools")
	assert.Less(t, drive.Cooling(0.98**by["minimum_hertz"].Number/50), 1.0)
	assert.InDelta(t, 2200, *by["motor_output"].Number, 1e-9)
	assert.Equal(t, "square", set(t, sizing(t, "2.2 kW", 0.85), drive.Use{Square: true})["shape"].Value)
	own := set(t, sizing(t, "2.2 kW", 0.6), drive.Use{LeastHertz: 33, Reverse: true})
	assert.InDelta(t, 33, *own["minimum_hertz"].Number, 1e-9)
	assert.Equal(t, "allowed", own["reverse"].Value)
	assert.Empty(t, own["reverse"].Wrong, "it comes so")
	assert.Equal(t, "allowed", by["reverse"].Wrong)
	assert.Positive(t, *own["dc_brake_s"].Number)
	presets := set(t, sizing(t, "2.2 kW", 0.6), drive.Use{Speed: "presets"})
	assert.InDelta(t, 25, *presets["preset_1_hertz"].Number, 1e-9)
	assert.InDelta(t, 50, *presets["preset_3_hertz"].Number, 1e-9)
	// A heavy wheel is not ramped down: it coasts.
	heavy := sizing(t, "2.2 kW", 0.6)
	heavy.Known.Kgm2 = 3
	by = set(t, heavy, drive.Use{})
	assert.Equal(t, "coast", by["stop_mode"].Value)
	assert.Greater(t, *by["acceleration_s"].Number, 30.0)
}

// Motor volts over base frequency are always the plate's, whatever the supply: else the
// drive over-fluxes the motor or starves it. No more volts are set than there are.
func TestVoltsAndBaseAreOneSetting(t *testing.T) {
	for _, supply := range []float64{200, 230, 240, 120} {
		for _, plated := range []float64{200, 230, 400, 460} {
			in := sizing(t, "0.75 kW", 0.6)
			in.Supply.Volts, in.Plate.Volts.Value = supply, plated
			by := set(t, in, drive.Use{})
			volts, base := *by["motor_volts"].Number, *by["base_hertz"].Number
			there := supply
			if supply < 150 {
				there *= 2 // it doubles them
			}
			assert.InEpsilon(t, plated/50, volts/base, 0.01, "%.0f V plate on %.0f V", plated, supply)
			assert.LessOrEqual(t, volts, math.Min(there, plated)*1.005)
			assert.InEpsilon(t, math.Min(there, plated), volts, 0.01)
		}
	}
}

// Every profile that ships names only settings there are, and knows the words that are
// written.
func TestProfiles(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	a, err := drive.Size(in)
	require.NoError(t, err)
	settings := drive.Settings(in, a, drive.Use{Speed: "presets"})
	names := map[string]bool{}
	for _, s := range settings {
		names[s.Name] = true
	}
	require.Len(t, drive.Profiles(), 2)
	for _, p := range drive.Profiles() {
		assert.Equal(t, "brackmoor.drive-profile/1", p.Format)
		numbers := map[string]bool{}
		for name, q := range p.Parameters {
			assert.True(t, names[name], "%s: %s", p.Name, name)
			assert.False(t, numbers[q.Number], q.Number)
			numbers[q.Number] = true
		}
		for _, e := range p.Enter(settings) {
			if e.Parameter != "" {
				assert.NotEmpty(t, e.Writes, "%s: %s %s", p.Name, e.Name, e.Value)
			}
		}
	}
	tenths := drive.Profiles()[1].Enter(settings)
	for _, e := range tenths {
		if e.Name == "base_hertz" {
			assert.Equal(t, "500 × 0.1 Hz", e.Writes)
			assert.Equal(t, "210", e.Parameter)
		}
	}
}
