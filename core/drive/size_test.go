package drive_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
)

func sizing(t *testing.T, output string, share float64) drive.Input {
	t.Helper()
	return plated(t, plate.Typed{Output: output, Volts: "230/400", RPM: "1430", Hertz: "50"}, share)
}

// whole is a shaft of an inertia in kg·m², rotor included.
func whole(in drive.Input, kgm2 float64) load.Shaft {
	return load.Shaft{Kgm2: kgm2 - in.Shaft().RotorKgm2}
}

func plated(t *testing.T, typed plate.Typed, share float64) drive.Input {
	t.Helper()
	p, problems := plate.Read(typed)
	require.Empty(t, problems)
	filled, problems := plate.Fill(p, plate.Supply{Volts: 230, Hertz: 50})
	require.Empty(t, problems)
	fit, err := motor.FitCircuit(filled.Target())
	require.NoError(t, err)
	return drive.Input{
		Kind: drive.Three,
		Machine: machine.Machine{
			Plate:     filled,
			Fit:       fit,
			Supply:    network.Supply{Phases: 1, Volts: 230, Hertz: 50, ResistanceOhm: 0.15, ReactanceOhm: 0.08},
			Load:      load.Kinds[0],
			LoadShare: &share,
			Known:     load.Shaft{Kgm2: 0.03},
		},
	}
}

func TestSize(t *testing.T) {
	a, err := drive.Size(sizing(t, "2.2 kW", 0.6))
	require.NoError(t, err)
	assert.Equal(t, 2200.0, a.OnePhaseWatts)
	// The rating found has enough left for the motor, and the one below it has not.
	assert.GreaterOrEqual(t, a.ThreeWatts*a.Left.Share, 0.93*2200)
	for i, r := range drive.Ratings {
		if r == a.ThreeWatts {
			assert.Less(t, drive.Ratings[i-1]*a.Left.Share, 2200.0)
		}
	}
	// What it takes at the load is what comes out of it and its losses.
	taken := a.Load.TruePowerFactor * 230 * a.Load.InputRMSAmps
	assert.InEpsilon(t, a.LoadWatts, taken, 0.03, "but for diodes and line")
	assert.Greater(t, a.LoadWatts, 0.6*2200/0.9)
	assert.InDelta(t, 50, a.BaseHertz, 1e-9)
	require.NotNil(t, a.ShortestStop)
	rules := map[string]rule.Severity{}
	for _, v := range a.Verdicts {
		rules[v.Rule] = v.Severity
	}
	assert.Contains(t, rules, "drive.left-on-one-phase")
	for _, s := range a.Schools {
		assert.GreaterOrEqual(t, s.Watts, 0.98*s.Times*2200)
	}
}

// The rating never falls as the motor grows, and ends where no standard drive does.
func TestRatingNeverFalls(t *testing.T) {
	last := 0.0
	for _, output := range []string{"0.37 kW", "0.75 kW", "1.5 kW", "3 kW", "5.5 kW"} {
		a, err := drive.Size(sizing(t, output, 0.6))
		require.NoError(t, err)
		assert.GreaterOrEqual(t, a.ThreeWatts, last)
		last = a.ThreeWatts
	}
	a, err := drive.Size(sizing(t, "18.5 kW", 0.9))
	if err == nil {
		assert.False(t, a.Covered)
		assert.Equal(t, "drive.too-large", a.Verdicts[0].Rule)
	} else {
		assert.ErrorIs(t, err, rectifier.ErrCollapse)
	}
}

// On 120 V a drive doubles: the bus stands near twice the peak, the motor gets its 230 V,
// and the line carries twice the amps; above about a kilowatt none is made.
func TestADriveThatDoubles(t *testing.T) {
	in := sizing(t, "0.75 kW", 0.6)
	high, err := drive.Size(in)
	require.NoError(t, err)
	in.Supply.Volts, in.Supply.ResistanceOhm, in.Supply.ReactanceOhm = 115, 0.08, 0.04
	a, err := drive.Size(in)
	require.NoError(t, err)
	assert.True(t, a.Doubler)
	assert.True(t, a.Covered)
	assert.Zero(t, a.ThreeWatts)
	assert.InDelta(t, 50, a.BaseHertz, 1e-9)
	assert.InEpsilon(t, 2*math.Sqrt2*115, a.Load.BusMeanVolts, 0.13, "less its ripple and what line and cans take")
	assert.InEpsilon(t, 2*high.Load.InputRMSAmps, a.Load.InputRMSAmps, 0.35)
	// What it can brake without a resistor is what its two cans in series take up to the trip.
	heavy := in
	heavy.Known = whole(heavy, 0.3)
	b, err := drive.Size(heavy)
	require.NoError(t, err)
	require.NotNil(t, b.ShortestStop)
	bus, omega := 2*math.Sqrt2*115, in.Plate.RPM.Value*math.Pi/30
	room := 4 * drive.Front(drive.Three, 750, 230, 60).BusMicrofarad / 2 * 1e-6 * (400*400 - bus*bus) / 2
	energy := 0.3 * omega * omega / 2
	idle, err := network.Solve(network.Case{
		Supply: network.Supply{Phases: 3, Volts: 230, Hertz: 50}, Motors: []network.Motor{in.NetworkMotor("idle")},
	})
	require.NoError(t, err)
	assert.InEpsilon(t, 2*(energy-math.Sqrt(energy*room))/(0.8*idle.Motors[0].InputWatts), *b.ShortestStop, 1e-6)
	in = sizing(t, "2.2 kW", 0.6)
	in.Supply.Volts = 115
	a, err = drive.Size(in)
	require.NoError(t, err)
	assert.False(t, a.Covered)
	assert.Equal(t, "drive.too-large", a.Verdicts[0].Rule)
}

// Large drives for one phase are said to be few.
func TestBuiltForOne(t *testing.T) {
	assert.Empty(t, drive.BuiltForOne(4000))
	large := drive.BuiltForOne(5500)
	require.Len(t, large, 1)
	assert.Equal(t, "drive.one-phase-rare", large[0].Rule)
	assert.Contains(t, large[0].Says, "5.5 kW")
}

// Above its base point a star motor on low volts is short of torque: what is asked for just
// past what is left is stopped, and just under it is not.
func TestWeakAtPlateHertz(t *testing.T) {
	in := plated(t, plate.Typed{Output: "2.2 kW", Volts: "400", Connection: "wye", RPM: "1430", Hertz: "50"}, 0.6)
	in.Kind = drive.Three
	a, err := drive.Size(in)
	require.NoError(t, err)
	assert.InEpsilon(t, 230.0/400, a.PlateShare, 0.02, "constant power above the base point")
	for _, c := range []struct {
		share float64
		stops bool
	}{{a.PlateShare, false}, {a.PlateShare + 0.02, true}} {
		in.LoadShare = &c.share
		b, err := drive.Size(in)
		require.NoError(t, err)
		assert.Equal(
			t,
			c.stops,
			slices.ContainsFunc(b.Verdicts, func(v rule.Verdict) bool { return v.Rule == "drive.weak-at-plate-hertz" }),
			"%.3f",
			c.share,
		)
	}
}

// A dc bus has a choke and so much capacitance that it is steady at full output and at a
// start, with a ripple that is borne, and takes less from the line than the bare drive.
func TestADCBusSettles(t *testing.T) {
	for _, output := range []string{"0.37 kW", "0.75 kW", "1.1 kW", "1.5 kW", "2.2 kW", "3 kW", "4 kW", "5.5 kW",
		"7.5 kW"} {
		in := sizing(t, output, 1)
		in.Kind = drive.Bus
		a, err := drive.Size(in)
		require.NoError(t, err, output)
		require.Positive(t, a.Choke.MilliHenry, output)
		require.Positive(t, a.Choke.Added, output)
		assert.LessOrEqual(t, a.Load.RipplePPVolts, 0.1*a.Load.BusMeanVolts, output)
		assert.Less(t, a.Choke.With.Amps, 0.9*a.Choke.Bare.Amps, output)
		front, added := in.Bus(a.RatingWatts)
		assert.InDelta(t, a.Choke.Added, added, 1e-9)
		for _, times := range []float64{0.03, 0.6, 1, drive.StartTimes} {
			r, err := in.Takes(front, times*in.Plate.Output.Value)
			require.NoError(t, err, output)
			assert.Positive(t, r.InputRMSAmps)
		}
	}
}

// Pulses that alternate are spoken of, and no others.
func TestAlternatingPulsesAreSaid(t *testing.T) {
	said := 0
	for _, ohms := range []float64{0.0005, 0.15} {
		for _, output := range []string{"0.75 kW", "1.5 kW", "2.2 kW", "4 kW"} {
			in := sizing(t, output, 1)
			in.Kind = drive.OnePhase
			in.Supply.ResistanceOhm, in.Supply.ReactanceOhm = ohms, 40*ohms
			in.BusMicrofarad = new(300 * in.Plate.Output.Value / 1000)
			a, err := drive.Size(in)
			if err != nil {
				continue
			}
			spoken := slices.ContainsFunc(a.Verdicts, func(v rule.Verdict) bool {
				return v.Rule == "drive.pulses-alternate"
			})
			assert.Equal(t, a.Load.Alternates, spoken, output)
			if spoken {
				said++
			}
		}
	}
	assert.Positive(t, said)
}

// A drive must have the motor's amps too: many poles take more of them for the same watts.
func TestADriveIsChosenByItsAmpsToo(t *testing.T) {
	for _, c := range []struct {
		typed plate.Typed
		watts float64
	}{
		{plate.Typed{Output: "3 hp", Volts: "230", Amps: "9", RPM: "1745", Hertz: "60"}, 2200},
		{plate.Typed{Output: "3 hp", Volts: "230", Amps: "11.5", RPM: "860", Hertz: "60"}, 3000},
		{plate.Typed{Output: "1.5 kW", Volts: "230", Amps: "6.1", RPM: "1425", Hertz: "50"}, 1500},
		{plate.Typed{Output: "1.5 kW", Volts: "230", Amps: "8.2", RPM: "700", Hertz: "50"}, 2200},
	} {
		in := plated(t, c.typed, 0.6)
		in.Kind = drive.OnePhase
		a, err := drive.Size(in)
		require.NoError(t, err)
		assert.InDelta(t, c.watts, a.OnePhaseWatts, 1e-9, c.typed.Amps)
		assert.GreaterOrEqual(t, drive.RatedAmps(a.OnePhaseWatts, 230), 0.98*in.Plate.Amps.Value)
	}
	// The code's table once more: its columns at 230 and 460 V (NEC 430.250), of the same
	// volt-amperes but for rounding.
	for watts, amps := range map[float64][2]float64{
		370: {2.2, 1.1}, 750: {4.2, 2.1}, 1500: {6.8, 3.4}, 2200: {9.6, 4.8},
		4000: {15.2, 7.6}, 5500: {22, 11}, 7500: {28, 14}, 11000: {42, 21}, 15000: {54, 27}, 22000: {80, 40},
	} {
		assert.InEpsilon(t, 230*amps[0]/200, drive.RatedAmps(watts, 230), 0.015, "%.0f W", watts)
		assert.InEpsilon(t, amps[1], drive.RatedAmps(watts, 460), 0.015, "%.0f W", watts)
	}
}

// A larger drive is one of twice the amps, and its bus is told apart from that: with few
// microfarads it dips and is cautioned, with those assumed, or a maker's more, it is not.
func TestALargerDriveIsTwiceTheMotor(t *testing.T) {
	for _, c := range []struct {
		output string
		twice  float64
	}{{"0.75 kW", 1500}, {"1.5 kW", 3000}, {"3 kW", 7500}, {"3.7 kW", 7500}, {"5.5 kW", 11000}} {
		in := sizing(t, c.output, 0.6)
		in.Kind = drive.Three
		a, err := drive.Size(in)
		require.NoError(t, err)
		assert.InDelta(t, c.twice, a.ThreeWatts, 1, c.output)
		require.NotNil(t, a.OnOne)
		assert.False(t, a.OwnBus)
		assert.InDelta(t, a.Left.Share, a.OnOne.Bare.Share, 0.05)
		assert.Greater(t, a.OnOne.Reactor.Share, a.OnOne.Bare.Share)
		dips := func(v rule.Verdict) bool { return v.Rule == "drive.bus-ripple" }
		assert.False(t, slices.ContainsFunc(a.Verdicts, dips), c.output)
		few := 100 * c.twice / 1000
		in.BusMicrofarad = &few
		b, err := drive.Try(in, a)
		require.NoError(t, err)
		assert.True(t, b.OwnBus)
		assert.True(t, slices.ContainsFunc(b.Verdicts, dips), c.output)
		assert.Greater(t, b.Full.RipplePPVolts, a.Full.RipplePPVolts)
	}
	in := sizing(t, "3.7 kW", 0.2)
	in.Kind, in.BusMicrofarad = drive.Three, new(200.0)
	a, err := drive.Size(in)
	require.NoError(t, err)
	assert.Equal(t, "drive.no-steady-state", a.Verdicts[0].Rule, "at its load it has one, at full output none")
}

// What stands before the bus makes its line amps fewer; in a bus's lines it does what it does
// in its link.
func TestAReactorIsAChoice(t *testing.T) {
	for _, kind := range []drive.Kind{drive.OnePhase, drive.Three, drive.Bus} {
		amps := map[drive.Reactor]float64{}
		for _, reactor := range []drive.Reactor{drive.NoReactor, drive.LineReactor, drive.DCChoke} {
			in := sizing(t, "2.2 kW", 0.6)
			in.Kind, in.Reactor = kind, reactor
			a, err := drive.Size(in)
			require.NoError(t, err)
			amps[reactor] = a.Load.InputRMSAmps
			front, _, err := in.Fed(a.RatingWatts)
			require.NoError(t, err)
			assert.Equal(t, front, a.Front)
		}
		if kind == drive.Bus {
			assert.InEpsilon(t, amps[drive.DCChoke], amps[drive.LineReactor], 0.1)
			assert.InDelta(t, amps[drive.DCChoke], amps[drive.NoReactor], 1e-9, "a choke is a bus's own")
			continue
		}
		assert.Less(t, amps[drive.LineReactor], amps[drive.NoReactor])
		assert.Less(t, amps[drive.DCChoke], amps[drive.NoReactor])
	}
}
