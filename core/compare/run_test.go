package compare_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/rule"
)

// A run that is not looked at changes nothing; a long one raises the conductor and tells what is
// lost on it, and one past all conductors is a caution: "route.long-run".
func TestALongRun(t *testing.T) {
	over := func(plate string, metres float64) compare.Answer {
		in := ask(t, plate, "240/60", "ram", feed.Wishes{})
		return compare.Compare(in.With(func(q *feed.Question) { q.Matters.RunMetre = metres }))
	}
	says := func(r compare.Route) bool {
		return slices.ContainsFunc(r.Verdicts, func(v rule.Verdict) bool { return v.Rule == "route.long-run" })
	}
	conductor := func(r compare.Route) string {
		for _, s := range r.Takes {
			if s.Name == "conductor_amps" {
				return s.Title
			}
		}
		return ""
	}
	const small, large = "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "15 hp 230/460 V 38/19 A 60 Hz 1750 rpm"
	near, far, never := over(small, 0), over(small, 60), over(large, 500)
	assert.Equal(t, compare.Length{Unit: "ft", PerMetre: 1 / 0.3048}, near.Run)
	for i := range near.Routes {
		name := near.Routes[i].Name
		before, after := named(t, near, name), named(t, far, name)
		assert.NotContains(t, before.Sizes, "run_lost_percent", name)
		if before.Sizes["conductor_amps"] == 0 {
			continue
		}
		assert.Equal(t, before.Sizes["conductor_amps"], after.Sizes["conductor_amps"], name)
		assert.False(t, says(before), name)
		if lost := after.Sizes["run_lost_percent"]; assert.Positive(t, lost, name) && !says(after) {
			assert.LessOrEqual(t, lost, rule.Limit("route.long-run", "most_running_percent"), name)
		}
	}
	motor := named(t, far, "single-phase-motor")
	assert.Contains(t, conductor(motor), "raised from")
	require.True(t, says(named(t, never, "single-phase-motor")))
}
