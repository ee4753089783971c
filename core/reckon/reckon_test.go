package reckon_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/reckon"
)

func of(a reckon.Answer, name string) (float64, bool) {
	for _, k := range a.Known {
		if k.Name == name {
			return k.Value, true
		}
	}
	return 0, false
}

// Textbook sums, forwards and backwards.
func TestTextbookSums(t *testing.T) {
	for _, c := range []struct {
		phases int
		given  map[string]float64
		name   string
		want   float64
	}{
		{3, map[string]float64{"volts": 230, "amps": 10, "power_factor": 0.8}, "input", math.Sqrt(3) * 230 * 10 * 0.8},
		{1, map[string]float64{"volts": 230, "amps": 10, "power_factor": 0.8}, "input", 1840},
		{3, map[string]float64{"horsepower": 5, "efficiency": 87.5, "power_factor": 0.85, "volts": 230}, "amps",
			5 * 745.699872 / 0.875 / 0.85 / 230 / math.Sqrt(3)},
		{3, map[string]float64{"horsepower": 3, "rpm": 1750}, "pounds", 3 * 5252.1 / 1750},
		{3, map[string]float64{"hertz": 60, "rpm": 1745}, "slip", 100 * 55.0 / 1800},
		{3, map[string]float64{"hertz": 50, "rpm": 940}, "poles", 6},
		{3, map[string]float64{"va": 5, "input": 4}, "vars", 3},
		{3, map[string]float64{"torque": 10, "output": 1000}, "rpm", 1000 / 10.0 * 30 / math.Pi},
	} {
		require.Empty(t, reckon.Check(c.phases, c.given))
		a := reckon.Work(c.phases, c.given)
		got, ok := of(a, c.name)
		require.True(t, ok, "%s of %v", c.name, c.given)
		assert.InEpsilon(t, c.want, got, 1e-4, "%s of %v", c.name, c.given)
		assert.Empty(t, a.Against)
		for _, k := range a.Known {
			assert.Equal(t, k.Given, k.Sum == "", k.Name)
		}
	}
}

// From all that follows of a motor any few of it that are enough give it back, and nothing contradicts.
func TestAnyWayRound(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		phases := rapid.SampledFrom([]int{1, 3}).Draw(rt, "phases")
		given := map[string]float64{
			"volts":        rapid.Float64Range(100, 500).Draw(rt, "volts"),
			"amps":         rapid.Float64Range(1, 50).Draw(rt, "amps"),
			"power_factor": rapid.Float64Range(0.3, 0.98).Draw(rt, "pf"),
			"efficiency": rapid.Float64Range(50, 95).
				Draw(rt, "eff"),
			"hertz": 60,
			"rpm":   rapid.Float64Range(1650, 1790).Draw(rt, "rpm"),
		}
		all := reckon.Work(phases, given)
		require.Empty(rt, all.Against)
		require.Len(rt, all.Known, len(reckon.Quantities))
		some := map[string]float64{}
		for _, k := range all.Known {
			if rapid.Bool().Draw(rt, k.Name) {
				some[k.Name] = k.Value
			}
		}
		back := reckon.Work(phases, some)
		assert.Empty(rt, back.Against)
		for _, k := range back.Known {
			want, _ := of(all, k.Name)
			assert.InEpsilon(rt, want, k.Value, 1e-6, k.Name)
		}
	})
}

// What does not belong together is said once, and what cannot be is refused at its place.
func TestContradictions(t *testing.T) {
	a := reckon.Work(3, map[string]float64{"horsepower": 5, "output": 2000})
	require.Len(t, a.Against, 1)
	assert.Contains(t, a.Against[0], "745.7")
	a = reckon.Work(3, map[string]float64{"volts": 230, "amps": 1, "input": 5000})
	_, ok := of(a, "power_factor")
	assert.False(t, ok, "it would be over one")
	for _, bad := range []map[string]float64{{"luck": 1}, {"power_factor": 1.2}, {"volts": math.NaN()}} {
		assert.NotEmpty(t, reckon.Check(3, bad))
	}
	assert.NotEmpty(t, reckon.Check(2, nil))
}
