package route_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/capacitor"
	"brackmoor/core/load"
	"brackmoor/core/route"
	"brackmoor/core/rule"
)

// What somebody typed of capacitors is the chosen route's; without one, the capacitors'.
func TestTypedCapacitorsBelongToTheRouteTaken(t *testing.T) {
	for _, c := range []struct {
		taken, name string
		owns        bool
	}{
		{"", route.StartRunCapacitor, true}, {"", route.RunCapacitor, true}, {"", route.Static, false}, {"",
			route.PhaseBox, false},
		{route.Rotary, route.StartRunCapacitor, true}, {route.Rotary, route.PhaseBox, false},
		{route.PhaseBox, route.PhaseBox, true}, {route.PhaseBox, route.StartRunCapacitor, false}, {route.PhaseBox,
			route.Static, false},
		{route.Static, route.Static, true}, {route.Static, route.RunCapacitor, false},
	} {
		assert.Equal(t, c.owns, route.Way{Route: c.taken}.Owns(c.name), "%s %s", c.taken, c.name)
	}
}

func TestRigged(t *testing.T) {
	in := ask(t, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", route.Wishes{}).Capacitor
	in.RunMicrofarad, in.StartMicrofarad = new(40.0), new(90.0)
	box := route.Rigged(in, route.Way{}, route.Static)
	assert.InDelta(t, 0, *box.RunMicrofarad, 1e-12, "two bare legs")
	assert.Nil(t, box.StartMicrofarad, "the start is the model's")
	alone := route.Rigged(in, route.Way{}, route.RunCapacitor)
	assert.InDelta(t, 40, *alone.RunMicrofarad, 1e-12)
	assert.InDelta(t, 0, *alone.StartMicrofarad, 1e-12)
	// A phase-shifting box is set for full output: no run capacitor leaves the hottest
	// winding cooler there.
	set := route.Rigged(in, route.Way{}, route.PhaseBox)
	at := func(run float64) float64 { return capacitor.Try(in, run, 0, 1).Live.Full.HottestPercent }
	best := at(*set.RunMicrofarad)
	for _, times := range []float64{0.7, 0.85, 1.15, 1.3} {
		assert.Greater(t, at(times**set.RunMicrofarad), best-0.5)
	}
	own := route.Rigged(in, route.Way{Route: route.PhaseBox}, route.PhaseBox)
	assert.InDelta(t, 40, *own.RunMicrofarad, 1e-12, "its owner's setting")
}

func TestWayFilled(t *testing.T) {
	w := route.Way{Route: route.Rotary, Kept: []string{route.Static, route.Rotary, route.Static, route.DCBus}}.Filled()
	assert.Equal(t, []string{route.Static, route.DCBus}, w.Kept, "each once, not the one taken")
	assert.Equal(t, []string{}, route.Way{}.Filled().Kept)
	assert.Equal(t, route.StartRunCapacitor, route.Way{}.Taken())
	for _, name := range route.Names {
		assert.NotEmpty(t, route.Titles[name])
		assert.False(t, route.OfCapacitors(name) && route.OfDrives(name))
	}
}

// Static converters never hang on loads that break away hard, over and over.
func TestNeverStatic(t *testing.T) {
	for _, kind := range load.Kinds {
		v := route.NeverStatic(kind)
		if kind.Name == "winch" || kind.Name == "compressor-loaded" {
			require.NotNil(t, v)
			assert.Equal(t, "route.static-hard-start", v.Rule)
		} else {
			assert.Nil(t, v, kind.Name)
		}
	}
}

// Choices of an idler tell in the comparison too; breaker and conductor follow the amps.
func TestChoicesTellInTheComparison(t *testing.T) {
	in := ask(t, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", route.Wishes{})
	in.Way = route.Way{Route: route.Rotary, IdlerWatts: new(7457.0), BalanceAC: new(120.0), BalanceBC: new(60.0)}
	for _, r := range route.Work(in) {
		if r.Name == route.Rotary {
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
			if r.Name == route.SinglePhaseMotor {
				want = 1.25 * 17 // by NEC 430.248, which is more
				assert.Less(t, *amps, 17.0)
			}
			assert.InDelta(t, want, r.Sizes["conductor_amps"], 1e-9, r.Name)
			assert.GreaterOrEqual(t, r.Sizes["breaker_amps"], r.Sizes["conductor_amps"], r.Name)
		}
		if r.Starts && r.UsableWatts != nil {
			require.NotNil(t, r.DutyWatts, r.Name)
			assert.Greater(t, *r.DutyWatts, 0.8*r.UsableWatts[1], "%s: heat allows about what plate amps allow", r.Name)
		}
	}
	notes := route.Compare(in).Notes
	assert.Empty(t, notes)
	high := ask(t, "3 hp 460 V 4.5 A 60 Hz 1745 rpm", "240/60", "ram", route.Wishes{})
	notes = route.Compare(high).Notes
	require.Len(t, notes, 1)
	assert.Contains(t, notes[0], "by itself neither makes a third phase")
}

// Every figure that a route has comes with its arithmetic, and the arithmetic gives it.
func TestEveryFigureHasItsWorking(t *testing.T) {
	in := ask(t, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", route.Wishes{HoursPerDay: 3})
	for _, r := range route.Compare(in).Routes {
		steps := map[string][]rule.Step{}
		for _, w := range r.Workings {
			assert.NotEmpty(t, w.Shown, w.Figure)
			steps[strings.TrimPrefix(w.Figure, "route."+r.Name+".")] = w.Steps
		}
		count := func(t route.Three) (n int) {
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
		for figure, value := range map[string]*float64{"start": r.Margin, "seconds": r.Seconds, "duty": r.DutyWatts,
			"starting": r.SupplyAmps.Starting} {
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
