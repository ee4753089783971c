package capacitor_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/capacitor"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

// The time to speed is ∫J·dω/(T − T_load) over the network's own points.
func TestRunUpAgainstTheIntegral(t *testing.T) {
	in := input(t, shaper, us, "grinder")
	in.Known = load.Shaft{Kgm2: 0.08}
	a := capacitor.Try(in, 220, 0, 0.3)
	up := a.Live.RunUp
	require.NotNil(t, up.Seconds)
	assert.Equal(t, rule.Stated, up.Shaft.Origin)
	inertia := up.Shaft.RotorKgm2 + 0.08
	curve := in.Load.Curve(in.Load.ComingUp(0.3), in.Fit.RatedNm, 1745)
	caution := a.TorqueCaution
	curve.BreakawayNm /= caution
	c := network.Case{
		Supply: us,
		Motors: []network.Motor{
			{ID: "m", Poles: 4, RatedHertz: 60, Circuit: in.Fit.Circuit, FrictionWatts: in.Fit.FrictionWatts},
		},
		Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 220}},
	}
	const steps = 400
	seconds := 0.0
	for i := range steps + 1 {
		speed := 0.9 * float64(i) / steps
		c.Motors[0].Slip = new(1 - speed)
		r, err := network.Solve(c)
		require.NoError(t, err)
		omega := speed * 60 * math.Pi
		net := math.Abs(r.Motors[0].TorqueNm) - in.Fit.FrictionWatts*speed/(60*math.Pi) - curve.At(omega*30/math.Pi)
		weight := 2.0 + 2*float64(i%2)
		if i == 0 || i == steps {
			weight = 1
		}
		seconds += weight * inertia / net * 0.9 * 60 * math.Pi / steps / 3
	}
	assert.InEpsilon(t, seconds, *up.Seconds, 0.01)
}

// An inertia is taken from a stop by stopwatch first, then as typed, then by kind.
func TestWhereTheInertiaComesFrom(t *testing.T) {
	in := input(t, shaper, us, "fan")
	by := func(s load.Shaft) machine.Shaft {
		in.Known = s
		return capacitor.Try(in, 60, 100, 0.5).Live.RunUp.Shaft
	}
	rotor := motor.RotorInertia(in.Plate.Output.Value, 4)
	kind := by(load.Shaft{})
	assert.InEpsilon(t, 10*rotor, kind.LoadKgm2, 1e-9)
	assert.Equal(t, rule.Assumed, kind.Origin)
	typed := by(load.Shaft{Kgm2: 0.5, ItsRPM: 872.5})
	assert.InEpsilon(t, 0.125, typed.LoadKgm2, 1e-9, "half the motor's speed, a quarter of the inertia")
	timed := by(load.Shaft{Kgm2: 0.5, Coast: &load.CoastDown{FromRPM: 1745, Seconds: 30, DragWatts: 120}})
	omega := 1745 * math.Pi / 30
	assert.InEpsilon(t, 120/omega*30/omega, timed.LoadKgm2+timed.RotorKgm2, 1e-9)
	assert.Equal(t, rule.Stated, timed.Origin)
	guessed := by(load.Shaft{Coast: &load.CoastDown{Seconds: 30}})
	assert.Equal(t, rule.Assumed, guessed.Origin, "its drag is assumed")
	assert.InEpsilon(t, guessed.DragWatts/omega*30/omega, guessed.LoadKgm2+guessed.RotorKgm2, 1e-9)
}

// More inertia never starts sooner nor heats less, and fewer starts are borne.
func TestInertiaOnlySlows(t *testing.T) {
	in := input(t, shaper, us, "saw")
	var last *capacitor.RunUp
	for _, kgm2 := range []float64{0.005, 0.02, 0.1, 0.4} {
		in.Known = load.Shaft{Kgm2: kgm2}
		up := capacitor.Try(in, 60, 200, 0.4).Live.RunUp
		require.NotNil(t, up.Seconds)
		if last != nil {
			assert.Greater(t, *up.Seconds, *last.Seconds)
			assert.Greater(t, up.RiseK, last.RiseK)
			assert.Less(t, up.StartsPerHour, last.StartsPerHour)
		}
		last = &up
	}
	in.Known = load.Shaft{Kgm2: 1}
	heavy := capacitor.Try(in, 60, 200, 0.4)
	assert.Contains(t, said(heavy), "start.inertia")
	// What leaves less than one start an hour is a stop, and just under it is not.
	light, most := 0.005, 20.0
	for range 14 {
		in.Known.Kgm2 = (light + most) / 2
		a := capacitor.Try(in, 60, 200, 0.4)
		seldom := a.Live.RunUp.Seconds != nil && a.Live.RunUp.StartsPerHour < 1
		_, told := said(a)["start.seldom"]
		assert.Equal(t, seldom, told, "%.3f kg·m²", in.Known.Kgm2)
		if seldom || a.Live.RunUp.Seconds == nil {
			most = in.Known.Kgm2
		} else {
			light = in.Known.Kgm2
		}
	}
	in.Known.Kgm2 = most
	assert.Contains(t, said(capacitor.Try(in, 60, 200, 0.4)), "start.seldom")
	in.Known.Kgm2 = light
	assert.NotContains(t, said(capacitor.Try(in, 60, 200, 0.4)), "start.seldom")
}

func TestTheRelayTellsTheSpeed(t *testing.T) {
	in := input(t, shaper, us, "saw")
	up := capacitor.Try(in, 55, 200, 0.4).Live.RunUp
	require.NotNil(t, up.Relay)
	require.NotNil(t, up.Relay.PickUp)
	assert.Equal(t, "L2", up.Relay.Line)
	assert.Greater(t, *up.Relay.PickUp, 1.15*up.Relay.Standing)
	assert.Greater(t, *up.TimerSeconds, *up.CutOutSeconds)
	in.TowardsB = true
	assert.Equal(t, "L1", capacitor.Try(in, 55, 200, 0.4).Live.RunUp.Relay.Line)
	assert.Nil(t, capacitor.Try(in, 55, 0, 0.4).Live.RunUp.Relay, "no start capacitor, no relay")
	// So large a start capacitor that the volts fall while it comes up gives it no sign.
	huge := capacitor.Try(in, 0, 1500, 0.4).Live
	require.NotNil(t, huge.RunUp.Relay)
	assert.Nil(t, huge.RunUp.Relay.PickUp)
	assert.True(t, slices.ContainsFunc(huge.Verdicts, func(v rule.Verdict) bool { return v.Rule == "start.no-relay" }))
}

// A pause cools, a hotter air and a lower class leave less, and at the usable output of
// a duty the hottest winding is at its limit.
func TestHeatOverADuty(t *testing.T) {
	in := input(t, shaper, us, "saw")
	in.Thermal = motor.ThermalOf(motor.Body{Watts: in.Watts(), Class: "B", AmbientC: 40})
	all := capacitor.Try(in, 60, 200, 0.75).Live.Session
	in.Duty = machine.Duty{OnMinutes: 10, OffMinutes: 20}
	some := capacitor.Try(in, 60, 200, 0.75).Live.Session
	assert.Less(t, some.HottestC, all.HottestC-5)
	assert.Less(t, some.FrameC, some.HottestC)
	require.NotNil(t, all.Usable)
	require.NotNil(t, some.Usable)
	assert.Greater(t, some.Usable.Watts, all.Usable.Watts)
	in.Duty = machine.Duty{}
	at := capacitor.Try(in, 60, 200, all.Usable.Watts/in.Plate.Output.Value).Live.Session
	assert.InDelta(t, at.Thermal.LimitC, at.HottestC, 1.5)
	in.Thermal = motor.ThermalOf(motor.Body{Watts: in.Watts(), Class: "B", AmbientC: 20})
	cool := capacitor.Try(in, 60, 200, 0.75).Live.Session
	assert.InDelta(t, all.HottestC-20, cool.HottestC, 6)
	// It says what it finds.
	in.Thermal = motor.ThermalOf(motor.Body{Watts: in.Watts(), Class: "A", RiseK: 60, AmbientC: 40})
	hot := capacitor.Try(in, 60, 200, 1)
	assert.Contains(t, said(hot), "heat.past-class")
	assert.Contains(t, said(hot), "heat.frame-hides")
}

// The trace shows what the model of starting says, and the start capacitor keeps the
// volts of the instant at which it left.
func TestScope(t *testing.T) {
	in := input(t, shaper, us, "saw")
	tr, err := capacitor.Scope(in, 58, 152, 0.4)
	require.NoError(t, err)
	require.Len(t, tr.Channels, len(capacitor.TraceChannels))
	for _, c := range tr.Channels {
		require.Len(t, c, len(tr.Seconds))
	}
	assert.InDelta(t, 100_000, len(tr.Seconds), 5)
	require.Len(t, tr.Marks, 2)
	up := capacitor.Try(in, 58, 152, 0.4).Live.RunUp
	assert.InEpsilon(
		t,
		*up.CutOutSeconds,
		tr.Marks[0].Seconds,
		0.35,
		"transients and leakage within the cycle make the two differ",
	)
	rpm := tr.Channels[slices.Index(capacitor.TraceChannels, "rpm")]
	at, _ := slices.BinarySearch(tr.Seconds, tr.Marks[0].Seconds)
	assert.InDelta(t, 1440, rpm[at], 40, "it leaves at its speed")
	assert.InDelta(
		t,
		240*math.Sqrt2,
		slices.Max(tr.Channels[0][:1000]),
		12,
		"the supply's peak, less what its ohms take",
	)
	assert.Greater(t, tr.InrushAmps, 5*9.0)
	assert.Positive(t, tr.StartKeeps)
	assert.LessOrEqual(t, tr.StartKeeps, tr.CapacitorPeak["start"]+1e-9)
}

func TestSwitchOff(t *testing.T) {
	in := input(t, shaper, us, "saw")
	after, err := capacitor.SwitchOff(in, 58)
	require.NoError(t, err)
	require.NotNil(t, after.Off.LiveSeconds)
	in.Known = load.Shaft{Kgm2: 0.6}
	heavy, err := capacitor.SwitchOff(in, 200)
	require.NoError(t, err)
	if heavy.Off.LiveSeconds != nil {
		assert.Greater(t, *heavy.Off.LiveSeconds, *after.Off.LiveSeconds)
	}
	require.NotEmpty(t, heavy.Verdicts)
	assert.Contains(t, []string{"start.excites-itself", "start.live-while-it-spins"}, heavy.Verdicts[0].Rule)
}

// The start capacitor carries the load the whole way up: where the start that was chosen
// hangs, no other start capacitor brings it up either.
func TestNoStartHangsThatNeedNot(t *testing.T) {
	up := 0
	for i, output := range []string{"0.75 hp", "1 hp", "2 hp", "3 hp", "5 hp"} {
		for k, kind := range []string{"pump", "fan", "spindle-in-gear", "compressor-unloaded"} {
			typed := plate.Typed{Output: output, Volts: "230/460", Hertz: "60",
				RPM: []string{"1745", "3450", "1150"}[(i+k)%3]}
			in := input(t, typed, network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.1}, kind)
			a := capacitor.Solve(in)
			if a.Live.RunUp.Seconds != nil {
				up++
				continue
			}
			for times := 0.5; times < 8; times += 0.5 {
				other := capacitor.Try(in, a.Live.RunMicrofarad, times*math.Max(a.Live.StartMicrofarad, 50), in.Share())
				assert.Nil(t, other.Live.RunUp.Seconds, "%s %s: %.0f µF hangs, %.0f comes up", output, kind,
					a.Live.StartMicrofarad, other.Live.StartMicrofarad)
			}
		}
	}
	assert.GreaterOrEqual(t, up, 10)
}

// A heavy flywheel heats the winding at each start, the more the heavier it is, and that is
// said.
func TestAStartThatHeatsIsSaid(t *testing.T) {
	in := input(t, shaper, us, "fan")
	in.Thermal = motor.ThermalOf(
		motor.Body{Watts: in.Watts(), Class: "H", RiseK: 80, AmbientC: 20},
	) // far below what its insulation bears
	said := map[string]bool{}
	last := 0.0
	for _, inertia := range []float64{0.02, 0.05, 0.1, 0.2, 0.4, 0.8} {
		in.Known = load.Shaft{Kgm2: inertia}
		live := capacitor.Try(in, 60, 200, 0.2).Live
		assert.Greater(t, live.RunUp.RiseK, last)
		last = live.RunUp.RiseK
		for _, v := range live.Verdicts {
			said[v.Rule] = true
		}
	}
	assert.True(t, said["start.heat"])
}

// On two bare legs two thirds of output is more in a delta winding than in a wye one, and from
// cold it takes minutes until the insulation is at its limit, fewer at more load; the service
// factor leaves no less than plate amps do.
func TestTwoThirdsOnBareLegs(t *testing.T) {
	for _, c := range []struct {
		typed plate.Typed
		at    network.Supply
		delta bool
	}{
		{plate.Typed{Output: "3 hp", Volts: "230/460", RPM: "1745", Hertz: "60"}, us, false},
		{plate.Typed{Output: "1 hp", Volts: "230/460", RPM: "1740", Hertz: "60"}, us, false},
		{plate.Typed{Output: "5 hp", Volts: "230/460", RPM: "1745", Hertz: "60", ServiceFactor: "1.15"}, us, false},
		{plate.Typed{Output: "0.75 kW", Volts: "230/400", RPM: "1400", Hertz: "50"}, europe, true},
		{plate.Typed{Output: "2.2 kW", Volts: "230/400", RPM: "1430", Hertz: "50"}, europe, true},
		{plate.Typed{Output: "4 kW", Volts: "230/400", RPM: "1440", Hertz: "50"}, europe, true},
	} {
		in := input(t, c.typed, c.at, "saw")
		require.Equal(t, c.delta, in.Plate.Delta)
		in.RunMicrofarad = new(0.0)
		a := capacitor.Solve(in)
		require.NotNil(t, a.Short, c.typed.Output)
		if c.delta {
			assert.InDelta(t, 171, a.Short.Percent, 15, c.typed.Output)
		} else {
			assert.InDelta(t, 142, a.Short.Percent, 13, c.typed.Output)
		}
		require.NotNil(t, a.Short.Minutes, c.typed.Output)
		assert.Less(t, *a.Short.Minutes, 45.0)
		high := func(r *capacitor.Range) float64 {
			if r == nil {
				return 0
			}
			return r.HighWatts
		}
		assert.GreaterOrEqual(t, high(a.Live.ByFactor), high(a.Live.Usable))
		assert.Equal(t, high(a.Live.ByFactor) > high(a.Live.Usable), in.Plate.ServiceFactor.Value > 1)
		// The time again, by the temperatures of that load followed from cold.
		in.LoadShare, in.Duty = new(2.0/3), machine.Duty{}
		for _, at := range capacitor.Solve(in).Live.Session.Session {
			if at.Minutes < *a.Short.Minutes-1 {
				assert.LessOrEqual(t, at.Hottest(), a.Live.Session.Thermal.LimitC+0.1)
			}
		}
	}
}
