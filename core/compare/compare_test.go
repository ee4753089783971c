package compare_test

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

// fits are those of the plates that were asked about already.
var fits sync.Map

func fitted(t motor.Target) (motor.Fit, error) {
	once, _ := fits.LoadOrStore(t, sync.OnceValues(func() (motor.Fit, error) { return motor.FitCircuit(t) }))
	return once.(func() (motor.Fit, error))()
}

// ask makes a question of the text of a plate, a supply such as 240/60, a kind of load
// and what is wished.
func ask(t testing.TB, text, supply, kind string, wishes feed.Wishes) *feed.Question {
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
	fit, err := fitted(filled.Target())
	require.NoError(t, err, text)
	k, ok := load.ByName(kind)
	require.True(t, ok, kind)
	return feed.Ask(feed.Question{
		Machine: machine.Machine{
			Plate:  filled,
			Fit:    fit,
			Supply: network.Supply{Phases: 1, Volts: v, Hertz: f, ResistanceOhm: 0.15, ReactanceOhm: 0.08},
			Load:   k,
		},
		MainAmps: 60,
		Matters:  feed.Matters{Wishes: wishes},
	})
}

func named(t *testing.T, a compare.Answer, name string) compare.Route {
	t.Helper()
	for _, r := range a.Routes {
		if r.Name == name {
			return r
		}
	}
	t.Fatal("no route " + name)
	return compare.Route{}
}

const shaper = "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm"

func TestEveryRouteIsThere(t *testing.T) {
	a := compare.Compare(ask(t, shaper, "240/60", "ram", feed.Wishes{HoursPerDay: 3}))
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
	speed := compare.Compare(ask(t, shaper, "240/60", "spindle", feed.Wishes{Speed: true, HoursPerDay: 2}))
	assert.Contains(t, speed.Recommended, "drive")
	assert.False(t, named(t, speed, "rotary").Fits)
	more := compare.Compare(
		ask(t, shaper, "240/60", "saw", feed.Wishes{More: true, KeepSwitchgear: true, HoursPerDay: 2}),
	)
	assert.Equal(t, "rotary", more.Recommended)
	full := compare.Compare(ask(t, shaper, "240/60", "planer", feed.Wishes{FullOutput: true, HoursPerDay: 2}))
	assert.False(t, named(t, full, "static").Fits)
	assert.Contains(t, full.Recommended, "drive")
}

// The maker's word stands above a derating.
func TestTheMakerForbids(t *testing.T) {
	in := ask(t, shaper, "240/60", "ram", feed.Wishes{Speed: true, HoursPerDay: 2})
	in.Matters.MakerPermits = "no"
	a := compare.Compare(in)
	assert.False(t, named(t, a, "drive-derated").Fits)
	assert.Equal(t, "drive-single-phase", a.Recommended)
}

// Ten horsepower on a 15 A circuit is a stop with its number and the nearest that works;
// a static converter on a winch is none.
func TestImpossibleWishes(t *testing.T) {
	in := ask(
		t,
		"10 hp 230/460 V 25/12.5 A 60 Hz 1750 rpm",
		"240/60",
		"saw",
		feed.Wishes{FullOutput: true, HoursPerDay: 2},
	)
	in.MainAmps = 15
	a := compare.Compare(in)
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
	winch := compare.Compare(ask(t, shaper, "240/60", "winch", feed.Wishes{HoursPerDay: 1}))
	s := named(t, winch, "static")
	assert.False(t, s.Fits)
	assert.Equal(t, rule.Stop, rule.Worst(s.Verdicts))
	one := named(t, winch, "drive-single-phase")
	assert.False(t, one.Fits, "1.07 times what it takes to break away is no fit")
	assert.Equal(t, "drive.weak-start", one.Verdicts[0].Rule)
	hoist := compare.Compare(ask(t, shaper, "240/60", "hoist", feed.Wishes{HoursPerDay: 1}))
	assert.Empty(t, hoist.Recommended, "a lifted load is its maker's")
}

// What is wrong with a motor across the lines is said of the ways that put it there, and of no
// drive: they stand behind a transformer, and nothing is left to be stopped.
func TestStopsBelongToTheWay(t *testing.T) {
	in := ask(t, "3 hp 190 V 60 Hz 1745 rpm", "240/60", "spindle", feed.Wishes{})
	filled := in.Plate
	in.Line = plate.CheckSupply(filled, plate.Supply{Volts: 240, Hertz: 60})
	require.Equal(t, "supply.far-over-flux", in.Line[0].Rule)
	for _, r := range compare.Compare(in).Routes {
		w, _ := feed.ByName(r.Name)
		said := func(id string) bool {
			return slices.ContainsFunc(r.Verdicts, func(v rule.Verdict) bool { return v.Rule == id })
		}
		assert.False(t, said("supply.far-over-flux"), r.Name)
		assert.Equal(t, !w.Info().OwnVolts, said("route.transformer"), r.Name)
		_, has := r.Sizes["transformer_va"]
		assert.Equal(t, !w.Info().OwnVolts, has, r.Name)
	}
}

// A motor for other volts behind its transformer is the same motor on its own volts: what its
// windings carry and what is left of it are those of the motor joined for the supply, its
// capacitors are fewer by the square of the volts, and the mains give the same amps and a
// little more.
func TestBehindATransformer(t *testing.T) {
	joined := compare.Compare(ask(t, "3 hp 230 V 9 A 60 Hz 1745 rpm", "230/60", "saw", feed.Wishes{}))
	high := compare.Compare(ask(t, "3 hp 460 V 4.5 A 60 Hz 1745 rpm", "230/60", "saw", feed.Wishes{}))
	for _, name := range []string{"run-capacitor", "start-run-capacitor", "phase-box", "rotary"} {
		own, stepped := named(t, joined, name), named(t, high, name)
		if own.UsableWatts != nil {
			assert.InEpsilon(t, own.UsableWatts[1], stepped.UsableWatts[1], 0.08, name)
		}
		assert.InEpsilon(t, *own.Hottest.Load, *stepped.Hottest.Load, 0.06, name)
		assert.InEpsilon(t, *own.SupplyAmps.Load, *stepped.SupplyAmps.Load, 0.15, name)
		assert.Greater(t, *stepped.SupplyAmps.Load, 0.98**own.SupplyAmps.Load, name)
		assert.InDelta(t, 2.0, stepped.Sizes["transformer_ratio"], 1e-9)
		assert.GreaterOrEqual(t, stepped.Sizes["transformer_va"], 2*math.Sqrt(3)*460*4.5)
		if own.Sizes["run_microfarad"] > 0 {
			assert.InEpsilon(t, own.Sizes["run_microfarad"]/4, stepped.Sizes["run_microfarad"], 0.2, name)
		}
	}
	// A drive that doubles, and none that stands below its base point, is the drive for it.
	assert.Contains(t, named(t, high, "drive-single-phase").Title, "doubles")
	assert.True(t, named(t, high, "drive-single-phase").Fits)
}

// No way that fits has an unsolved figure among those that its feed is sized by; its amps at
// the load stand for full output only where the motor does not turn at it.
func TestWhatFitsIsSolved(t *testing.T) {
	for _, supply := range []string{"240/60", "230/50"} {
		for _, output := range []string{"0.37 kW", "0.75 kW", "1.5 kW", "2.2 kW", "4 kW", "7.5 kW"} {
			for _, kind := range []string{"spindle", "fan", "compressor-unloaded"} {
				a := compare.Compare(ask(t, output+" 230/400 V 50 Hz 1430 rpm", supply, kind, feed.Wishes{}))
				for _, r := range a.Routes {
					if !r.Fits {
						continue
					}
					name := output + " " + kind + " on " + supply + ": " + r.Name
					require.NotNil(t, r.SupplyAmps.Load, name)
					require.NotNil(t, r.SupplyAmps.Starting, name)
					if r.Hottest.Full != nil {
						require.NotNil(t, r.SupplyAmps.Full, name)
						assert.Contains(t, r.Sizes, "breaker_amps", name)
					}
				}
			}
		}
	}
}

// A harder load never recommends a weaker start, and hours of controls only ever add.
func TestMonotonic(t *testing.T) {
	last := 0.0
	for _, kind := range []string{"grinder", "saw", "spindle-in-gear", "compressor-loaded", "winch"} {
		in := ask(t, shaper, "240/60", kind, feed.Wishes{HoursPerDay: 2})
		in.LoadShare = new(0.5)
		a := compare.Compare(in)
		require.NotEmpty(t, a.Recommended, kind)
		best := named(t, a, a.Recommended)
		standing := *best.Margin * in.Load.BreakawayShare // torque at standstill, of rated
		assert.GreaterOrEqual(t, standing, 0.95*last, kind)
		last = max(last, in.Load.BreakawayShare)
		assert.GreaterOrEqual(t, *best.Margin, 1.0)
	}
	in := ask(t, shaper, "240/60", "saw", feed.Wishes{HoursPerDay: 2})
	plain := named(t, compare.Compare(in), "drive-single-phase").Cost
	in.Matters.Controls = feed.Controls{Reversing: true, Interlocks: 2, Motors: 2}
	wired := named(t, compare.Compare(in), "drive-single-phase").Cost
	assert.InDelta(t, plain.Hours+1.5+2+1.5, wired.Hours, 1e-9)
	assert.Greater(t, wired.PerYear, plain.PerYear)
}

// The rating of a drive never falls when the load rises.
func TestDriveRatingNeverFalls(t *testing.T) {
	last := 0.0
	for _, text := range []string{"0.5 hp 230/460 V 60 Hz 1725 rpm", "1 hp 230/460 V 60 Hz " +
		"1740 rpm", "2 hp 230/460 V 60 Hz 1745 rpm", "5 hp 230/460 V 60 Hz 1745 rpm"} {
		r := named(t, compare.Compare(ask(t, text, "240/60", "saw", feed.Wishes{HoursPerDay: 2})), "drive-derated")
		assert.GreaterOrEqual(t, r.Sizes["drive_watts"], last)
		last = r.Sizes["drive_watts"]
	}
}

// Every stop of a route has a case that trips it and one that just does not.
func TestStopsAtTheirEdge(t *testing.T) {
	says := func(r compare.Route, id string) bool {
		for _, v := range r.Verdicts {
			if v.Rule == id {
				return true
			}
		}
		return false
	}
	in := ask(t, shaper, "240/60", "ram", feed.Wishes{HoursPerDay: 2})
	amps := *named(t, compare.Compare(in), "drive-single-phase").SupplyAmps.Load
	in.MainAmps = amps / 0.8 * 0.99
	assert.True(t, says(named(t, compare.Compare(in), "drive-single-phase"), "route.circuit"))
	in.MainAmps = amps / 0.8 * 1.01
	assert.False(t, says(named(t, compare.Compare(in), "drive-single-phase"), "route.circuit"))
	for kind, stopped := range map[string]bool{"winch": true, "compressor-loaded": true, "compressor-unloaded": false,
		"spindle-in-gear": false} {
		assert.Equal(
			t,
			stopped,
			says(
				named(t, compare.Compare(ask(t, shaper, "240/60", kind, feed.Wishes{})), "static"),
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
				named(t, compare.Compare(ask(t, text, "230/50", "saw", feed.Wishes{})), "single-phase-motor"),
				"route.single-phase-large",
			),
			text,
		)
	}
	in = ask(t, shaper, "240/60", "ram", feed.Wishes{HoursPerDay: 2})
	for permits, stopped := range map[string]bool{"yes": false, "no": true} {
		in.Matters.MakerPermits = permits
		assert.Equal(t, stopped, says(named(t, compare.Compare(in), "drive-derated"), "drive.one-phase-forbidden"))
	}
	assert.True(
		t,
		says(
			named(
				t,
				compare.Compare(ask(t, "10 hp 230/460 V 25/12.5 A 60 Hz 1750 rpm", "240/60", "winch", feed.Wishes{})),
				"rotary",
			),
			"rotary.none",
		),
	)
	assert.False(
		t,
		says(named(t, compare.Compare(ask(t, shaper, "240/60", "ram", feed.Wishes{})), "rotary"), "rotary.none"),
	)
}

// A bus that finds no steady state on a weak feed is a stop, not a route left out; a
// stronger one holds it.
func TestABusWithoutSteadyState(t *testing.T) {
	in := ask(t, "7.5 hp 230/460 V 60 Hz 1740 rpm", "240/60", "saw", feed.Wishes{HoursPerDay: 1})
	for ohms, stopped := range map[float64]bool{3: true, 0.1: false} {
		on := in.With(func(q *feed.Question) { q.Supply.ResistanceOhm, q.Supply.ReactanceOhm = ohms, ohms })
		r := named(t, compare.Compare(on), "drive-single-phase")
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
	a := compare.Compare(ask(t, "1 hp 230/460 V 60 Hz 1740 rpm", "120/60", "saw", feed.Wishes{HoursPerDay: 1}))
	assert.Equal(t, "drive-single-phase", a.Recommended)
	assert.Contains(t, named(t, a, a.Recommended).Title, "doubles")
	assert.Len(t, a.Routes, 7)
	assert.Positive(t, named(t, a, "start-run-capacitor").Sizes["transformer_va"], "else a quarter of the torque")
}
