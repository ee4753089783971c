package floor_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/floor"
	"brackmoor/core/site"
)

// A duty of short works and long rests is borne cooler, and one of long works, whatever the rest,
// nearly as hot as work without an end: no mean over both would tell them apart.
func TestADutyIsFollowedNotAveraged(t *testing.T) {
	celsius := func(on, off string) float64 {
		sh := shopOf(t, "tarn-hollow")
		sh.Machines[0].Motors[0].Shaft.OnMinutes, sh.Machines[0].Motors[0].Shaft.OffMinutes = on, off
		p, err := floor.Of(sh, fit).Solve(site.State{
			On: []string{"tarn-converter", "tarn-hobber"}, Shares: map[string]float64{"tarn-hobber-m1": 1},
		})
		require.NoError(t, err)
		return p.Machines[0].Motors[0].Celsius
	}
	good, short, long := celsius("", ""), celsius("2", "2"), celsius("110", "110")
	assert.Less(t, short, good-15)
	assert.Greater(t, long, good-8)
	assert.LessOrEqual(t, long, good+0.5)
}
