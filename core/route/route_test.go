package route_test

import (
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/capacitor"
	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/route"
	"brackmoor/core/rule"
)

// ask makes a question of the text of a plate, a supply such as 240/60, a kind of load
// and what is wished.
func ask(t testing.TB, text, supply, kind string, wishes route.Wishes) route.Input {
	t.Helper()
	volts, hertz, _ := strings.Cut(supply, "/")
	v, err := strconv.ParseFloat(volts, 64)
	require.NoError(t, err)
	f, err := strconv.ParseFloat(hertz, 64)
	require.NoError(t, err)
	p, problems := plate.Read(plate.ReadText(text).Typed())
	require.Empty(t, problems, text)
	filled, problems := plate.Fill(p, plate.Supply{Volts: v, Hertz: f})
	require.Empty(t, problems, text)
	fit, err := motor.FitCircuit(filled.Target())
	require.NoError(t, err, text)
	k, ok := load.ByName(kind)
	require.True(t, ok, kind)
	return route.Input{
		Capacitor: capacitor.Input{
			Plate:  filled,
			Fit:    fit,
			Supply: network.Supply{Phases: 1, Volts: v, Hertz: f, ResistanceOhm: 0.15, ReactanceOhm: 0.08},
			Load:   k,
		},
		MainAmps: 60,
		Wishes:   wishes,
	}
}

func named(t *testing.T, a route.Answer, name string) route.Route {
	t.Helper()
	for _, r := range a.Routes {
		if r.Name == name {
			return r
		}
	}
	t.Fatal("no route " + name)
	return route.Route{}
}

const shaper = "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm"

func TestEveryRouteIsThere(t *testing.T) {
	a := route.Compare(ask(t, shaper, "240/60", "ram", route.Wishes{HoursPerDay: 3}))
	require.Len(t, a.Routes, 9)
	seen := map[string]bool{}
	for _, r := range a.Routes {
		seen[r.Name] = true
		assert.NotEmpty(t, r.Title)
		assert.NotEmpty(t, r.Reversal, r.Name)
		assert.NotEmpty(t, r.Sizes, r.Name)
		assert.Positive(t, r.Cost.Parts, r.Name)
		assert.Positive(t, r.Cost.Hours, r.Name)
		if !r.Fits {
			assert.NotEmpty(t, r.Why, r.Name)
		}
	}
	assert.Len(t, seen, 9)
	assert.NotEmpty(t, a.Reasons)
	assert.NotEmpty(t, a.Otherwise)
	assert.NotEmpty(t, a.Schools)
}

// Wishes rule routes out by themselves.
func TestWishes(t *testing.T) {
	speed := route.Compare(ask(t, shaper, "240/60", "spindle", route.Wishes{Speed: true, HoursPerDay: 2}))
	assert.Contains(t, speed.Recommended, "drive")
	assert.False(t, named(t, speed, route.Rotary).Fits)
	more := route.Compare(
		ask(t, shaper, "240/60", "saw", route.Wishes{More: true, KeepSwitchgear: true, HoursPerDay: 2}),
	)
	assert.Equal(t, route.Rotary, more.Recommended)
	full := route.Compare(ask(t, shaper, "240/60", "planer", route.Wishes{FullOutput: true, HoursPerDay: 2}))
	assert.False(t, named(t, full, route.Static).Fits)
	assert.Contains(t, full.Recommended, "drive")
}

// The maker's word stands above a derating.
func TestTheMakerForbids(t *testing.T) {
	in := ask(t, shaper, "240/60", "ram", route.Wishes{Speed: true, HoursPerDay: 2})
	in.OnePhaseAllowed = new(false)
	a := route.Compare(in)
	assert.False(t, named(t, a, route.DriveDerated).Fits)
	assert.Equal(t, route.DriveSinglePhase, a.Recommended)
}

// Ten horsepower on a 15 A circuit is a stop with its number and the nearest that works;
// a static converter on a winch is none.
func TestImpossibleWishes(t *testing.T) {
	in := ask(
		t,
		"10 hp 230/460 V 25/12.5 A 60 Hz 1750 rpm",
		"240/60",
		"saw",
		route.Wishes{FullOutput: true, HoursPerDay: 2},
	)
	in.MainAmps = 15
	a := route.Compare(in)
	assert.Empty(t, a.Recommended)
	require.NotEmpty(t, a.Reasons)
	stopped := 0
	for _, r := range a.Routes {
		for _, v := range r.Verdicts {
			if v.Rule == "route.circuit" {
				stopped++
				assert.Positive(t, v.Numbers["amps"])
				assert.Contains(t, v.Do, "on this one about")
			}
		}
	}
	assert.GreaterOrEqual(t, stopped, 5)
	winch := route.Compare(ask(t, shaper, "240/60", "winch", route.Wishes{HoursPerDay: 1}))
	s := named(t, winch, route.Static)
	assert.False(t, s.Fits)
	assert.Equal(t, rule.Stop, rule.Worst(s.Verdicts))
	assert.Contains(t, winch.Recommended, "drive")
}

// A harder load never recommends a weaker start, and hours of controls only ever add.
func TestMonotonic(t *testing.T) {
	last := 0.0
	for _, kind := range []string{"grinder", "saw", "spindle-in-gear", "compressor-loaded", "winch"} {
		in := ask(t, shaper, "240/60", kind, route.Wishes{HoursPerDay: 2})
		in.Capacitor.LoadShare = new(0.5)
		a := route.Compare(in)
		require.NotEmpty(t, a.Recommended, kind)
		best := named(t, a, a.Recommended)
		standing := *best.Margin * in.Capacitor.Load.BreakawayShare // torque at standstill, of rated
		assert.GreaterOrEqual(t, standing, 0.95*last, kind)
		last = max(last, in.Capacitor.Load.BreakawayShare)
		assert.GreaterOrEqual(t, *best.Margin, 1.0)
	}
	in := ask(t, shaper, "240/60", "saw", route.Wishes{HoursPerDay: 2})
	plain := named(t, route.Compare(in), route.DriveSinglePhase).Cost
	in.Controls = route.Controls{Reversing: true, Interlocks: 2, Motors: 2}
	wired := named(t, route.Compare(in), route.DriveSinglePhase).Cost
	assert.InDelta(t, plain.Hours+1.5+2+1.5, wired.Hours, 1e-9)
	assert.Greater(t, wired.PerYear, plain.PerYear)
}

// The rating of a drive never falls when the load rises.
func TestDriveRatingNeverFalls(t *testing.T) {
	last := 0.0
	for _, text := range []string{"0.5 hp 230/460 V 60 Hz 1725 rpm", "1 hp 230/460 V 60 Hz " +
		"1740 rpm", "2 hp 230/460 V 60 Hz 1745 rpm", "5 hp 230/460 V 60 Hz 1745 rpm"} {
		r := named(t, route.Compare(ask(t, text, "240/60", "saw", route.Wishes{HoursPerDay: 2})), route.DriveDerated)
		assert.GreaterOrEqual(t, r.Sizes["drive_watts"], last)
		last = r.Sizes["drive_watts"]
	}
}

// Every stop of a route has a case that trips it and one that just does not.
func TestStopsAtTheirEdge(t *testing.T) {
	says := func(r route.Route, id string) bool {
		for _, v := range r.Verdicts {
			if v.Rule == id {
				return true
			}
		}
		return false
	}
	in := ask(t, shaper, "240/60", "ram", route.Wishes{HoursPerDay: 2})
	amps := *named(t, route.Compare(in), route.DriveSinglePhase).SupplyAmps.Load
	in.MainAmps = amps / 0.8 * 0.99
	assert.True(t, says(named(t, route.Compare(in), route.DriveSinglePhase), "route.circuit"))
	in.MainAmps = amps / 0.8 * 1.01
	assert.False(t, says(named(t, route.Compare(in), route.DriveSinglePhase), "route.circuit"))
	for kind, stopped := range map[string]bool{"winch": true, "compressor-loaded": true, "compressor-unloaded": false,
		"spindle-in-gear": false} {
		assert.Equal(
			t,
			stopped,
			says(
				named(t, route.Compare(ask(t, shaper, "240/60", kind, route.Wishes{})), route.Static),
				"route.static-hard-start",
			),
			kind,
		)
	}
	for text, stopped := range map[string]bool{"7.5 kW 230/400 V 50 Hz 1450 rpm": false, "11 kW 230/400 V 50 Hz " +
		"1455 rpm": true} {
		assert.Equal(
			t,
			stopped,
			says(
				named(t, route.Compare(ask(t, text, "230/50", "saw", route.Wishes{})), route.SinglePhaseMotor),
				"route.single-phase-large",
			),
			text,
		)
	}
	in = ask(t, shaper, "240/60", "ram", route.Wishes{HoursPerDay: 2})
	for permits, stopped := range map[bool]bool{true: false, false: true} {
		in.OnePhaseAllowed = &permits
		assert.Equal(t, stopped, says(named(t, route.Compare(in), route.DriveDerated), "drive.one-phase-forbidden"))
	}
	assert.True(
		t,
		says(
			named(
				t,
				route.Compare(ask(t, "10 hp 230/460 V 25/12.5 A 60 Hz 1750 rpm", "240/60", "winch", route.Wishes{})),
				route.Rotary,
			),
			"rotary.none",
		),
	)
	assert.False(
		t,
		says(named(t, route.Compare(ask(t, shaper, "240/60", "ram", route.Wishes{})), route.Rotary), "rotary.none"),
	)
}

// A bus that finds no steady state on a weak feed is a stop, not a route left out; a
// stronger one holds it.
func TestABusWithoutSteadyState(t *testing.T) {
	in := ask(t, "7.5 hp 230/460 V 60 Hz 1740 rpm", "240/60", "saw", route.Wishes{HoursPerDay: 1})
	for ohms, stopped := range map[float64]bool{3: true, 0.1: false} {
		in.Capacitor.Supply.ResistanceOhm, in.Capacitor.Supply.ReactanceOhm = ohms, ohms
		r := named(t, route.Compare(in), route.DriveSinglePhase)
		assert.Equal(
			t,
			stopped,
			slices.ContainsFunc(r.Verdicts, func(v rule.Verdict) bool { return v.Rule == "drive.no-steady-state" }),
			"%g Ω",
			ohms,
		)
	}
}

// On 120 V one drive is left of three, and it doubles the volts.
func TestOnTheLowerVolts(t *testing.T) {
	a := route.Compare(ask(t, "1 hp 230/460 V 60 Hz 1740 rpm", "120/60", "saw", route.Wishes{HoursPerDay: 1}))
	assert.Equal(t, route.DriveSinglePhase, a.Recommended)
	assert.Contains(t, named(t, a, a.Recommended).Title, "doubles")
	assert.Len(t, a.Routes, 7)
	assert.False(t, named(t, a, route.StartRunCapacitor).Fits, "a quarter of the torque")
}
