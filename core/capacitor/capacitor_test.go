package capacitor_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/capacitor"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
)

var (
	us     = network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.08, ReactanceOhm: 0.04}
	europe = network.Supply{Phases: 1, Volts: 230, Hertz: 50, ResistanceOhm: 0.15, ReactanceOhm: 0.08}
	shaper = plate.Typed{
		Output:        "3 hp",
		Volts:         "230/460",
		Amps:          "9.0/4.5",
		Hertz:         "60",
		RPM:           "1745",
		Efficiency:    "87.5",
		ServiceFactor: "1.15",
		Code:          "K",
		Design:        "B",
	}
	fan = plate.Typed{
		Output:      "0.37 kW",
		Volts:       "230/400",
		Amps:        "1.9/1.1",
		Hertz:       "50",
		RPM:         "1380",
		PowerFactor: "0.72",
	}
	star = plate.Typed{
		Output:      "4 kW",
		Volts:       "400",
		Amps:        "8.4",
		Hertz:       "50",
		RPM:         "1440",
		PowerFactor: "0.83",
		Connection:  "Y",
		Leads:       "3",
	}
)

func input(t require.TestingT, typed plate.Typed, s network.Supply, kind string) capacitor.Input {
	p, problems := plate.Read(typed)
	require.Empty(t, problems)
	filled, problems := plate.Fill(p, plate.Supply{Volts: s.Volts, Hertz: s.Hertz})
	require.Empty(t, problems)
	fit, err := motor.FitCircuit(filled.Target())
	require.NoError(t, err)
	k, ok := load.ByName(kind)
	require.True(t, ok)
	return capacitor.Input{Machine: machine.Machine{Plate: filled, Fit: fit, Supply: s, Load: k}}
}

func school(t *testing.T, a capacitor.Answer, name string) capacitor.Candidate {
	t.Helper()
	for _, c := range a.Schools {
		if c.School.Name == name {
			return c
		}
	}
	t.Fatal("no school " + name)
	return capacitor.Candidate{}
}

func said(a capacitor.Answer) map[string]rule.Verdict {
	verdicts := map[string]rule.Verdict{}
	for _, v := range a.Live.Verdicts {
		verdicts[v.Rule] = v
	}
	return verdicts
}

// The schools scale with P/(V²·f) from 230 V 50 Hz.
func TestSchools(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	scale := math.Pow(230.0/240, 2) * 50 / 60
	assert.InDelta(t, 70*2.2371*scale, school(t, a, "per-kilowatt").School.Microfarad, 1e-6)
	assert.True(t, school(t, a, "per-kilowatt").School.Applies)
	assert.False(t, school(t, a, "per-horsepower-star").School.Applies)
	assert.Equal(t, "joined for the supply's volts", school(t, a, "per-horsepower-star").School.Why)

	onStar := capacitor.Solve(input(t, star, europe, "planer"))
	assert.True(t, school(t, onStar, "per-horsepower-star").School.Applies)
	assert.InDelta(t, 20*4000/745.7, school(t, onStar, "per-horsepower-star").School.Microfarad, 1e-6)
	assert.False(t, school(t, onStar, "per-kilowatt").School.Applies)

	tiny := capacitor.Solve(
		input(
			t,
			plate.Typed{Output: "120 W", Volts: "230/400", Amps: "0.73/0.42", Hertz: "50", RPM: "1370"},
			europe,
			"spindle",
		),
	)
	assert.False(t, school(t, tiny, "per-kilowatt").School.Applies)
	amps := school(t, tiny, "plate-amps")
	assert.True(t, amps.School.Applies)
	assert.InDelta(t, 1e6*0.73/(2*math.Pi*50*230), amps.School.Microfarad, 1e-6)
}

func TestStartSchools(t *testing.T) {
	in := input(t, shaper, us, "ram")
	run := 60.0
	in.RunMicrofarad = &run
	a := capacitor.Solve(in)
	want := map[string]float64{"start-twice": 120, "start-thrice": 180, "start-50-hp": 150, "start-100-hp": 300}
	for _, c := range a.StartSchools {
		if value, ok := want[c.School.Name]; ok {
			assert.InDelta(t, value, c.School.Microfarad, 1e-6)
			delete(want, c.School.Name)
		}
		assert.InEpsilon(t, c.TorqueShare/in.Load.BreakawayShare, c.OverBreak, 1e-9)
		assert.Equal(t, c.TorqueShare >= in.Load.BreakawayShare, c.Starts, c.School.Name)
	}
	assert.Empty(t, want)
}

// The model's choice is no hotter at the load than any other capacitance that
// keeps the limit at idle.
func TestTheModelsChoiceIsTheCoolest(t *testing.T) {
	for name, in := range map[string]capacitor.Input{"shaper": input(t, shaper, us, "ram"), "fan, never idle": input(t,
		fan, europe, "fan")} {
		t.Run(name, func(t *testing.T) {
			a := capacitor.Solve(in)
			chosen := a.Live.Load.HottestPercent
			for c := 2.0; c <= a.Most; c += 2 {
				other := in
				other.RunMicrofarad = &c
				o := capacitor.Solve(other).Live
				if o.Load.Motor != network.Running || in.Load.Idles && o.Idle.HottestPercent > 97 {
					continue
				}
				assert.Greater(t, o.Load.HottestPercent, chosen-2.5, "%v µF", c)
			}
		})
	}
}

// A state is what the network says at that load, figure by figure.
func TestStatesAreTheNetworks(t *testing.T) {
	in := input(t, shaper, us, "ram")
	a := capacitor.Solve(in)
	r, err := network.Solve(
		network.Case{
			Supply: us,
			Motors: []network.Motor{
				{ID: "m", Poles: 4, RatedHertz: 60, Circuit: in.Fit.Circuit, FrictionWatts: in.Fit.FrictionWatts,
					Load: &network.Load{Kind: "power", Watts: in.Plate.Output.Value}},
			},
			Capacitors: []network.Capacitor{{ID: "c", Between: network.AC, Microfarad: a.Live.RunMicrofarad}},
		},
	)
	require.NoError(t, err)
	full := a.Live.Full
	assert.InEpsilon(t, r.Volts.BC, full.Volts.BC, 1e-9)
	assert.InEpsilon(t, r.Supply.Amps, full.SupplyAmps, 1e-9)
	assert.InEpsilon(t, r.Motors[0].ShaftWatts, in.Plate.Output.Value, 1e-9)
	assert.InEpsilon(t, 100*r.Motors[0].LineAmps.B/9, full.LinePercent.B, 1e-9)
	assert.InEpsilon(t, 100*r.Motors[0].WindingAmps[1]/9, full.WindingPercent[1], 1e-9)
	assert.InEpsilon(t, r.Capacitors[0].Volts, full.CapacitorVolts, 1e-9)
	assert.InEpsilon(t, r.Capacitors[0].Amps, full.CapacitorAmps, 1e-9)
}

// A delta motor's windings are judged by their own rated amps, line over √3.
func TestDeltaWindingsAreJudgedByWindingAmps(t *testing.T) {
	in := input(t, fan, europe, "fan")
	require.Equal(t, plate.Delta, in.Plate.Connection)
	a := capacitor.Solve(in)
	idle := a.Live.Idle
	r, err := network.Solve(
		network.Case{
			Supply: europe,
			Motors: []network.Motor{
				{
					ID:            "m",
					Poles:         4,
					RatedHertz:    50,
					Connection:    "delta",
					Circuit:       in.Fit.Circuit,
					FrictionWatts: in.Fit.FrictionWatts,
					Load:          &network.Load{Kind: "power"},
				},
			},
			Capacitors: []network.Capacitor{{ID: "c", Between: network.AC, Microfarad: a.Live.RunMicrofarad}},
		},
	)
	require.NoError(t, err)
	assert.InEpsilon(t, 100*r.Motors[0].WindingAmps[2]/(1.9/math.Sqrt(3)), idle.WindingPercent[2], 1e-9)
}

// Inside the usable range every winding is within plate amps, just outside one
// is not.
func TestUsableRange(t *testing.T) {
	for name, in := range map[string]capacitor.Input{"shaper": input(t, shaper, us, "ram"), "fan": input(t, fan, europe,
		"fan")} {
		t.Run(name, func(t *testing.T) {
			a := capacitor.Solve(in)
			u := a.Live.Usable
			require.NotNil(t, u)
			at := func(watts float64) capacitor.State {
				share := watts / in.Plate.Output.Value
				trial := in
				trial.LoadShare, trial.RunMicrofarad = &share, &a.Live.RunMicrofarad
				return capacitor.Solve(trial).Live.Load
			}
			assert.LessOrEqual(t, at(u.HighWatts).HottestPercent, 100.6)
			assert.Greater(t, at(u.HighWatts+0.01*in.Plate.Output.Value).HottestPercent, 100.0)
			assert.LessOrEqual(t, at(u.LowWatts).HottestPercent, 100.6)
			if u.LowWatts > 0 {
				assert.Greater(t, at(math.Max(u.LowWatts-0.02*in.Plate.Output.Value, 0)).HottestPercent, 100.0)
			}
		})
	}
}

func TestAnOversizedCapacitorLeavesNoUsableOutput(t *testing.T) {
	in := input(t, shaper, us, "ram")
	c := 150.0
	in.RunMicrofarad = &c
	a := capacitor.Solve(in)
	assert.Nil(t, a.Live.Usable)
	assert.Contains(t, said(a), "capacitor.no-usable-output")
	assert.Contains(t, said(a), "capacitor.winding-at-idle")
}

// On two bare legs plate amps are reached at a share of output that goes with
// the power factor: in a delta motor none at 0.75, in a wye one nearly half at
// 0.92; a delta's windings fare worse than a wye's throughout.
func TestTwoBareLegs(t *testing.T) {
	none := 0.0
	share := func(connection, powerFactor, rpm string) float64 {
		in := input(
			t,
			plate.Typed{
				Output:      "2.2 kW",
				Volts:       "230",
				Connection:  connection,
				Hertz:       "50",
				RPM:         rpm,
				PowerFactor: powerFactor,
				Efficiency:  "84.3",
			},
			europe,
			"spindle",
		)
		in.RunMicrofarad = &none
		a := capacitor.Solve(in)
		if a.UsableBare == nil {
			return 0
		}
		return a.UsableBare.HighWatts / 2200
	}
	assert.Less(t, share("delta", "0.75", "1435"), 0.05)
	assert.InDelta(t, 0.40, share("wye", "0.86", "2880"), 0.08)
	assert.InDelta(t, 0.47, share("wye", "0.92", "2890"), 0.06)
	assert.Less(t, share("delta", "0.86", "2880"), share("wye", "0.86", "2880"))
}

func TestStartingTorqueIsCountedAtTheClassMinimum(t *testing.T) {
	in := input(t, shaper, us, "ram")
	a := capacitor.Solve(in)
	assert.InEpsilon(t, in.Plate.LockedRotorTorque.Least/in.Fit.Residuals[4].Got, a.TorqueCaution, 1e-9)
	assert.InEpsilon(t, a.Live.Standing.TorqueNm/in.Fit.RatedNm*a.TorqueCaution, a.Live.StandingShare, 1e-9)
	assert.GreaterOrEqual(t, a.Live.OverBreakaway, rule.Limit("capacitor.hard-start", "least_margin"))
}

func TestHardStarts(t *testing.T) {
	winch := capacitor.Solve(
		input(
			t,
			plate.Typed{
				Output:      "2.2 kW",
				Volts:       "230/400",
				Amps:        "8.6/5.0",
				Hertz:       "50",
				RPM:         "1430",
				PowerFactor: "0.81",
			},
			europe,
			"winch",
		),
	)
	assert.Contains(t, said(winch), "capacitor.no-start")
	assert.Less(t, winch.Live.OverBreakaway, 1.0)
	in := input(t, shaper, us, "ram")
	start := 270.0
	in.StartMicrofarad = &start
	assert.Contains(t, said(capacitor.Solve(in)), "capacitor.hard-start")
}

func TestVerdictsBySize(t *testing.T) {
	in := input(t, plate.Typed{Output: "7 1/2 hp", Volts: "230", Amps: "20", Hertz: "60", RPM: "1755"}, us, "spindle")
	assert.Contains(t, said(capacitor.Solve(in)), "capacitor.too-large")
	in = input(t, plate.Typed{Output: "5 hp", Volts: "230", Amps: "13.6", Hertz: "60", RPM: "1750"}, us, "spindle")
	assert.Contains(t, said(capacitor.Solve(in)), "capacitor.large")
}

func TestAStalledLoadIsSaid(t *testing.T) {
	a := capacitor.Solve(input(t, star, europe, "planer"))
	assert.Contains(t, said(a), "capacitor.stalls")
	assert.NotEqual(t, network.Running, a.Live.Load.Motor)
}

// V(t) = V₀·e^(−t/RC): safe within the seconds promised and a minute, the
// resistor rated for what it stands in.
func TestBleeds(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	require.NotEmpty(t, a.RunBleeds)
	require.NotEmpty(t, a.StartBleeds)
	for _, b := range append(append([]capacitor.Bleed{}, a.RunBleeds...), a.StartBleeds...) {
		at := func(seconds float64) float64 { return b.PeakVolts * math.Exp(-seconds/(b.Ohms*b.Microfarad*1e-6)) }
		assert.InDelta(t, b.SafeVolts, at(b.Seconds), 1e-6)
		assert.LessOrEqual(t, b.Seconds, 5.0)
		assert.Greater(t, b.Seconds, 3.5, "not far smaller than it need be")
		assert.InDelta(t, at(60), b.OneMinute, 1e-9)
		assert.Less(t, b.OneMinute, 50.0)
		assert.GreaterOrEqual(t, b.RatedVolts, b.PeakVolts)
		rms := b.PeakVolts / math.Sqrt2
		assert.InEpsilon(t, rms*rms/b.Ohms, b.Dissipation, 1e-9)
		if b.AlwaysOn {
			assert.GreaterOrEqual(t, b.Watts, 2*b.Dissipation)
		} else {
			assert.GreaterOrEqual(t, b.Watts, b.Dissipation)
		}
	}
	assert.InEpsilon(t, a.RunParts.Parts[0]*1.1, a.RunBleeds[0].Microfarad, 1e-9, "at its upper tolerance")
	assert.Equal(t, a.StartParts[0].High, a.StartBleeds[0].Microfarad)
}

func TestVoltRatings(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	l := a.Live
	sees := math.Max(l.Idle.CapacitorVolts, math.Max(l.Load.CapacitorVolts, l.Full.CapacitorVolts))
	assert.InEpsilon(t, sees, a.RunVolts.Sees, 1e-9)
	assert.InEpsilon(t, sees*1.1*1.05, a.RunVolts.Needed, 1e-9)
	assert.Equal(t, 370.0, a.RunVolts.Rated)
	assert.Equal(t, 480.0, a.RunVolts.Twice)
	assert.GreaterOrEqual(t, a.StartVolts.Rated, a.StartVolts.Needed)
	// A start capacitor so large that it pulls its own volts down is still
	// rated for the supply.
	winch := capacitor.Solve(
		input(
			t,
			plate.Typed{
				Output:      "2.2 kW",
				Volts:       "230/400",
				Amps:        "8.6/5.0",
				Hertz:       "50",
				RPM:         "1430",
				PowerFactor: "0.81",
			},
			europe,
			"winch",
		),
	)
	assert.Less(t, winch.Live.Standing.CapacitorVolts, 230.0)
	assert.InEpsilon(t, 230*1.1*1.05, winch.StartVolts.Needed, 0.05)
	assert.GreaterOrEqual(t, winch.StartVolts.Rated, 266.0)
}

func TestPartsMakeUpTheValue(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	sum := 0.0
	for _, p := range a.RunParts.Parts {
		sum += p
	}
	assert.InDelta(t, a.ModelRun, sum, 1e-9)
	low := 0.0
	for _, p := range a.StartParts {
		low += p.Low
	}
	assert.GreaterOrEqual(t, low, a.ModelStart)
}

func TestCutOut(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	share := a.Live.CutOutRPM / a.SynchronousRPM
	assert.True(t, share > 0.3 && share <= 0.8, "%v", share)
	for _, p := range a.Live.Curve {
		if p.RPM < a.Live.CutOutRPM {
			assert.GreaterOrEqual(t, p.Start, p.Run-1e-6, "up to the cut-out the start capacitor helps")
		}
	}
}

// The curve at standstill is the torque the verdicts are made from.
func TestCurves(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	first, last := a.Live.Curve[0], a.Live.Curve[len(a.Live.Curve)-1]
	assert.InDelta(t, 100*a.Live.StandingShare, first.Start, 1e-6)
	assert.InDelta(t, 60, first.Load, 1e-9, "the load it runs, as if it were on from standstill")
	assert.InDelta(t, a.SynchronousRPM, last.RPM, 1e-9)
	assert.Less(t, last.Run, 0.0, "at synchronous speed the backward field drags")
	assert.Len(t, a.Live.Heat, 21)
	assert.InDelta(t, a.Live.Full.HottestPercent, *a.Live.Heat[20].Percent, 1e-9)
}

func TestOverload(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	assert.InDelta(t, 9*1.25, a.Overload.MostAmps, 1e-9, "service factor 1.15: 125 percent")
	assert.LessOrEqual(t, a.Overload.Amps, 9.0)
	assert.Contains(t, a.Overload.Lines, "between the capacitors and the motor")
	b := capacitor.Solve(input(t, fan, europe, "fan"))
	assert.InDelta(t, 1.9, b.Overload.MostAmps, 1e-9, "where the US code is not the code, its plate amps")
	assert.NotContains(t, b.Overload.By, "NEC")
}

// Turned the other way round the bank hangs on the other line, and the figures
// mirror.
func TestTheOtherWayRound(t *testing.T) {
	in := input(t, shaper, us, "ram")
	one := capacitor.Solve(in)
	in.TowardsB = true
	other := capacitor.Solve(in)
	assert.Equal(t, one.Direction.Line, other.Direction.Other)
	assert.Contains(t, one.Direction.Reverse, "Exchanging the two supply lines changes nothing")
	assert.InEpsilon(t, one.ModelRun, other.ModelRun, 1e-9)
	assert.InEpsilon(t, one.Live.Load.Volts.BC, other.Live.Load.Volts.CA, 1e-6)
	assert.InEpsilon(t, one.Live.Load.LineAmps.A, other.Live.Load.LineAmps.B, 1e-6)
	assert.InEpsilon(t, one.Live.StandingShare, other.Live.StandingShare, 1e-6)
}

// Every working's last step, or the one that is shown, comes to its figure, and
// none is without source.
func TestWorkings(t *testing.T) {
	a := capacitor.Solve(input(t, shaper, us, "ram"))
	seen := map[string]bool{}
	for _, w := range a.Workings {
		assert.False(t, seen[w.Figure], w.Figure)
		seen[w.Figure] = true
		assert.NotEmpty(t, w.Shown, w.Figure)
		assert.NotEmpty(t, w.Steps, w.Figure)
		for _, s := range w.Steps {
			assert.NotEmpty(t, s.Formula, w.Figure)
			assert.NotEmpty(t, s.Source, w.Figure)
			assert.False(t, math.IsNaN(s.Result) || math.IsInf(s.Result, 0), w.Figure)
		}
		for _, id := range w.Rules {
			assert.NotPanics(t, func() { rule.Get(id) }, id)
		}
	}
	for _, figure := range []string{"run", "start", "starts", "usable", "direction", "cut-out", "capacitor-volts",
		"overload", "feed", "plate-amps", "bleed.run.0", "bleed.start.0"} {
		assert.True(t, seen[figure], figure)
	}
}

// What follows the hand is what the whole answer says of the same values.
func TestTryIsTheAnswerWithoutTheRest(t *testing.T) {
	in := input(t, shaper, us, "ram")
	run, start, share := 70.0, 200.0, 0.4
	quick := capacitor.Try(in, run, start, share)
	in.RunMicrofarad, in.StartMicrofarad, in.LoadShare = &run, &start, &share
	whole := capacitor.Solve(in)
	assert.Equal(t, whole.Live, quick.Live)
	assert.Equal(t, whole.RunParts, quick.RunParts)
	assert.Equal(t, whole.RunBleeds, quick.RunBleeds)
	assert.Equal(t, whole.StartVolts, quick.StartVolts)
	assert.Equal(t, whole.Overload, quick.Overload)
	assert.Equal(t, whole.Most, quick.Most)
	assert.Empty(t, quick.Schools)
}

// Whatever is chosen, the answer holds only finite figures.
func TestAnyChoice(t *testing.T) {
	inputs := []capacitor.Input{
		input(t, shaper, us, "ram"),
		input(t, fan, europe, "fan"),
		input(t, star, europe, "winch"),
	}
	rapid.Check(t, func(t *rapid.T) {
		in := rapid.SampledFrom(inputs).Draw(t, "motor")
		run, start, share := rapid.Float64Range(0, 5000).
			Draw(t, "run"),
			rapid.Float64Range(0, 5000).
				Draw(t, "start"),
			rapid.Float64Range(0, 1).
				Draw(t, "share")
		in.RunMicrofarad, in.StartMicrofarad, in.LoadShare, in.TowardsB = &run, &start, &share, rapid.Bool().
			Draw(t, "other way")
		a := capacitor.Solve(in)
		for _, s := range []capacitor.State{a.Live.Idle, a.Live.Load, a.Live.Full, a.Live.Standing} {
			for _, v := range []float64{s.Volts.BC, s.HottestPercent, s.SupplyAmps, s.UnbalancePercent, s.TorqueNm} {
				assert.False(t, math.IsNaN(v) || math.IsInf(v, 0))
			}
		}
	})
}

func BenchmarkSize(b *testing.B) {
	in := input(b, shaper, us, "ram")
	for b.Loop() {
		capacitor.Solve(in)
	}
}

func BenchmarkTry(b *testing.B) {
	in := input(b, shaper, us, "ram")
	for b.Loop() {
		capacitor.Try(in, 60, 200, 0.6)
	}
}

func BenchmarkSizeOfAMotorThatStalls(b *testing.B) {
	in := input(b, star, europe, "planer")
	for b.Loop() {
		capacitor.Solve(in)
	}
}
