package compare_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/rule"
)

// Choices of an idler tell in the comparison too; breaker and conductor follow the amps.
func TestChoicesTellInTheComparison(t *testing.T) {
	in := ask(t, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", feed.Wishes{})
	in.Choice = feed.Choice{Route: "rotary", IdlerWatts: new(7457.0), BalanceAC: new(120.0), BalanceBC: new(60.0)}
	for _, r := range compare.Compare(in).Routes {
		if r.Name == "rotary" {
			assert.InDelta(t, 7457, r.Sizes["idler_watts"], 1e-9)
			assert.InDelta(t, 120, r.Sizes["balance_ac_microfarad"], 1e-9)
			assert.InDelta(t, 60, r.Sizes["balance_bc_microfarad"], 1e-9)
		}
		amps := r.SupplyAmps.Full
		if amps == nil {
			amps = r.SupplyAmps.Load
		}
		if amps != nil {
			want := 1.25 * *amps
			switch r.Name {
			case "single-phase-motor":
				want = 1.25 * 17 // by NEC 430.248, which is more
				assert.Less(t, *amps, 17.0)
			case "static", "phase-box", "rotary":
				want = math.Max(want, 2.5*9.6) // NEC 455.6(A)(2), by table 430.250
			}
			assert.InDelta(t, want, r.Sizes["conductor_amps"], 1e-9, r.Name)
			assert.GreaterOrEqual(t, r.Sizes["breaker_amps"], r.Sizes["conductor_amps"], r.Name)
		}
		if r.Starts && r.UsableWatts != nil {
			require.NotNil(t, r.Duty, r.Name)
			assert.Greater(t, r.Duty.Watts, 0.8*r.UsableWatts[1], "%s: heat allows about what plate amps allow", r.Name)
		}
	}
	notes := compare.Compare(in).Notes
	assert.Empty(t, notes)
	high := ask(t, "3 hp 460 V 4.5 A 60 Hz 1745 rpm", "240/60", "ram", feed.Wishes{})
	notes = compare.Compare(high).Notes
	require.Len(t, notes, 1)
	assert.Contains(t, notes[0], "by itself it makes no third phase")
}

// Every figure that a route has comes with its arithmetic, and the arithmetic gives it.
func TestEveryFigureHasItsWorking(t *testing.T) {
	in := ask(t, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", feed.Wishes{HoursPerDay: 3})
	for _, r := range compare.Compare(in).Routes {
		steps := map[string][]rule.Step{}
		for _, w := range r.Workings {
			assert.NotEmpty(t, w.Shown, w.Figure)
			figure := strings.TrimPrefix(w.Figure, "route."+r.Name+".")
			steps[figure] = w.Steps
			assert.Equal(t, figure == "start", slices.Contains(w.Rules, "route.hard-start"), w.Figure)
		}
		count := func(t feed.Three) (n int) {
			for _, v := range []*float64{t.Idle, t.Load, t.Full} {
				if v != nil {
					n++
				}
			}
			return n
		}
		assert.Len(t, steps["hottest"], count(r.Hottest), r.Name)
		assert.Len(t, steps["amps"], count(r.SupplyAmps.Three), r.Name)
		assert.Len(t, steps["apart"], count(r.Unbalance), r.Name)
		figures := map[string]*float64{"start": r.Margin, "seconds": r.Seconds, "duty": nil,
			"starting": r.SupplyAmps.Starting}
		if r.Duty != nil {
			figures["duty"] = &r.Duty.Watts
			assert.LessOrEqual(t, r.Duty.Band[0], r.Duty.Watts)
			assert.GreaterOrEqual(t, r.Duty.Band[1], r.Duty.Watts)
		}
		for figure, value := range figures {
			if assert.Equal(t, value != nil, len(steps[figure]) == 1, "%s %s", r.Name, figure); value != nil {
				assert.InDelta(t, *value, steps[figure][0].Result, 1e-9)
			}
		}
		if s := steps["start"]; s != nil {
			assert.InEpsilon(t, s[0].Terms[0].Value/s[0].Terms[1].Value, s[0].Result, 1e-9)
		}
		for _, s := range steps["hottest"] {
			assert.InEpsilon(t, 100*s.Terms[0].Value/s.Terms[1].Value, s.Result, 1e-9)
		}
		for _, s := range steps["apart"] {
			if len(s.Terms) == 3 {
				mean, worst := (s.Terms[0].Value+s.Terms[1].Value+s.Terms[2].Value)/3, 0.0
				for _, v := range s.Terms {
					worst = math.Max(worst, math.Abs(v.Value-mean))
				}
				assert.InEpsilon(t, 100*worst/mean, s.Result, 1e-9, r.Name)
			}
		}
		costs := steps["cost"]
		last := costs[len(costs)-1]
		energy := 0.0
		if len(costs) == 4 {
			energy = costs[2].Result
		}
		assert.InEpsilon(t, (costs[0].Result+costs[1].Result)/last.Terms[0].Value+energy, last.Result, 1e-9, r.Name)
	}
}
