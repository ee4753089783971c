package startup_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
	"brackmoor/core/waveform"
)

var house = network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.1, ReactanceOhm: 0.05}

// three is a 3 hp motor.
func three(id string, inertia float64) startup.Motor {
	c := motor.Circuit{
		R1Ohm:   0.6,
		X1Ohm:   1.0,
		XmOhm:   30,
		RcOhm:   450,
		Cages:   []motor.Cage{{ROhm: 0.55, XOhm: 1.8}, {ROhm: 1.9, XOhm: 0.7}},
		Leakage: motor.LeakageSaturation{OnsetAmps: 18, Floor: 0.6},
	}
	c.Curve = motor.TypicalCurve(c, 240)
	return startup.Motor{
		Motor: network.Motor{ID: id, Poles: 4, RatedHertz: 60, FrictionWatts: 45, InertiaKgm2: inertia, Circuit: c},
	}
}

// idler is a 10 hp motor.
func idler() startup.Motor {
	c := motor.Circuit{
		R1Ohm: 0.16,
		X1Ohm: 0.32,
		XmOhm: 9.5,
		RcOhm: 180,
		Cages: []motor.Cage{{ROhm: 0.14, XOhm: 0.6}, {ROhm: 0.5, XOhm: 0.3}},
	}
	c.Curve = motor.TypicalCurve(c, 240)
	return startup.Motor{
		Motor: network.Motor{ID: "idler", Poles: 4, RatedHertz: 60, FrictionWatts: 120, InertiaKgm2: 0.06, Circuit: c},
	}
}

func bank(id string, between network.Pair, microfarad float64, out *startup.Out) startup.Capacitor {
	return startup.Capacitor{Capacitor: network.Capacitor{ID: id, Between: between, Microfarad: microfarad}, Out: out}
}

func run(t require.TestingT, c startup.Case) startup.Result {
	r, err := startup.Run(c)
	require.NoError(t, err)
	return r
}

// The time to a speed is ∫J·dω/(T − T_load), here by Simpson's rule over the operating
// points of the network.
func TestTimeAgainstTheIntegral(t *testing.T) {
	fan := load.Curve{NewtonMetre: 7, AtRPM: 1750, Exponent: 2, BreakawayNm: 1}
	m := three("saw", 0.09)
	m.Shaft = &fan
	c := startup.Case{
		Supply:     house,
		Motors:     []startup.Motor{m},
		Capacitors: []startup.Capacitor{bank("all", network.AC, 260, nil)},
	}
	got := run(t, c)
	n := network.Case{
		Supply:     house,
		Motors:     []network.Motor{m.Motor},
		Capacitors: []network.Capacitor{c.Capacitors[0].Capacitor},
	}
	const steps = 600
	seconds := 0.0
	for i := range steps + 1 {
		speed := 0.9 * float64(i) / steps
		n.Motors[0].Slip = new(1 - speed)
		r, err := network.Solve(n)
		require.NoError(t, err)
		omega := speed * 60 * math.Pi
		net := r.Motors[0].TorqueNm - 45*speed/(60*math.Pi) - fan.At(omega*30/math.Pi)
		weight := 2.0 + 2*float64(i%2)
		if i == 0 || i == steps {
			weight = 1
		}
		seconds += weight * 0.09 / net * 0.9 * 60 * math.Pi / steps / 3
	}
	require.NotNil(t, got.Motors[0].TimeTo90)
	assert.InEpsilon(t, seconds, *got.Motors[0].TimeTo90, 0.005)
	assert.Equal(t, network.Running, got.Motors[0].State)
}

// Without friction and load the rotor turns as much into heat as into motion, on
// balanced lines (Fitzgerald, Electric Machinery: slip energy of a start).
func TestRotorHeatIsKineticEnergy(t *testing.T) {
	m := three("m", 0.2)
	m.FrictionWatts, m.Circuit.RcOhm = 0, 0
	r := run(t, startup.Case{Supply: network.Supply{Phases: 3, Volts: 240, Hertz: 60}, Motors: []startup.Motor{m}})
	o := r.Motors[0]
	stator := 0.0
	for _, a := range o.WindingAmps2Seconds {
		stator += a * m.Circuit.R1Ohm
	}
	omega := o.FinalRPM * math.Pi / 30
	assert.InEpsilon(t, 60*math.Pi, omega, 0.002)
	assert.InEpsilon(t, 0.2*omega*omega/2, o.CopperJoules-stator, 0.01)
}

// A heavy shaft comes up slowly enough for the phasors: the model in time agrees.
func TestAgreesWithTheTimeDomain(t *testing.T) {
	m := three("m", 0.4)
	m.Circuit.Leakage = motor.LeakageSaturation{} // it moves within the cycle, which phasors do not see
	c := startup.Case{
		Supply:     house,
		Motors:     []startup.Motor{m},
		Capacitors: []startup.Capacitor{bank("all", network.AC, 260, nil)},
	}
	got := run(t, c)
	wave, err := waveform.Solve(
		waveform.Case{
			Supply:          waveform.Supply{Supply: house},
			Motors:          []waveform.Motor{{Motor: m.Motor}},
			Capacitors:      []waveform.Capacitor{{Capacitor: c.Capacitors[0].Capacitor}},
			DurationSeconds: 6,
		},
	)
	require.NoError(t, err)
	require.NotNil(t, wave.Motors[0].TimeTo90)
	assert.InEpsilon(t, *wave.Motors[0].TimeTo90, *got.Motors[0].TimeTo90, 0.03)
}

func TestStandsCrawlsAndRises(t *testing.T) {
	m := three("m", 0.05)
	m.Shaft = &load.Curve{NewtonMetre: 3, AtRPM: 1750, BreakawayNm: 20}
	weak := []startup.Capacitor{bank("run", network.AC, 60, nil)}
	r := run(t, startup.Case{Supply: house, Motors: []startup.Motor{m}, Capacitors: weak})
	assert.Equal(t, network.Stalled, r.Motors[0].State)
	assert.Zero(t, r.Motors[0].FinalRPM)
	assert.Equal(t, "start.stands", r.Verdicts[0].Rule)

	m.Shaft = &load.Curve{NewtonMetre: 40, AtRPM: 1750, BreakawayNm: 0.5, Exponent: 2}
	r = run(
		t,
		startup.Case{
			Supply: house,
			Motors: []startup.Motor{m},
			Capacitors: []startup.Capacitor{
				bank("run", network.AC, 60, nil),
				bank("start", network.AC, 200, &startup.Out{By: startup.BySpeed, At: 150}),
			},
		},
	)
	assert.Equal(t, network.Crawling, r.Motors[0].State, "the start capacitor left too early")
	assert.Equal(t, "start.crawls", r.Verdicts[0].Rule)
	// The crawl is an operating point: torque there is what the load and friction take.
	last := r.Points[len(r.Points)-1].Motors[0]
	assert.InDelta(t, last.LoadNm, last.TorqueNm, 0.5)

	heavy := three("m", 60)
	r = run(
		t,
		startup.Case{
			Supply:      house,
			Motors:      []startup.Motor{heavy},
			Capacitors:  []startup.Capacitor{bank("all", network.AC, 260, nil)},
			MostSeconds: 5,
		},
	)
	assert.Equal(t, startup.Rising, r.Motors[0].State)
	assert.Equal(t, "start.slow", r.Verdicts[0].Rule)
}

// A motor of very little slip comes to rest at its operating point on an idler that is
// still gathering speed: it does not swing about it until the time is over.
func TestAStiffMotorComesToRest(t *testing.T) {
	supply := network.Supply{Phases: 1, Volts: 240, Hertz: 60}
	for _, rotor := range []float64{0.3, 0.1, 0.058, 0.03} {
		for _, inertia := range []float64{0.01, 0.02, 0.05} {
			c := motor.Circuit{
				R1Ohm: 0.1,
				X1Ohm: 0.44,
				XmOhm: 40,
				RcOhm: 110,
				Cages: []motor.Cage{{ROhm: rotor, XOhm: 3.8}, {ROhm: 0.33, XOhm: 2}},
			}
			m := startup.Motor{
				Motor: network.Motor{
					ID:            "stiff",
					Poles:         6,
					RatedHertz:    60,
					FrictionWatts: 40,
					InertiaKgm2:   inertia,
					Circuit:       c,
				},
				Shaft: &load.Curve{NewtonMetre: 3.4, AtRPM: 1190, BreakawayNm: 1},
			}
			on := idler()
			on.Running = true
			r := run(
				t,
				startup.Case{
					Supply:     supply,
					Motors:     []startup.Motor{on, m},
					Capacitors: []startup.Capacitor{bank("ac", network.AC, 120, nil), bank("bc", network.BC, 60, nil)},
				},
			)
			require.NotNil(t, r.Motors[1].TimeTo90)
			assert.Less(t, r.Seconds, 5.0, "%g Ω, %g kg·m²", rotor, inertia)
			still, alone := m.Motor, on.Motor
			still.Load, alone.Load = &network.Load{
				Kind:        "torque",
				NewtonMetre: 3.4,
				AtRPM:       1190,
			}, &network.Load{
				Kind: "power",
			}
			rest, err := network.Solve(network.Case{
				Supply: supply,
				Motors: []network.Motor{alone, still},
				Capacitors: []network.Capacitor{
					{ID: "ac", Between: network.AC, Microfarad: 120},
					{ID: "bc", Between: network.BC, Microfarad: 60},
				},
			})
			require.NoError(t, err)
			assert.InDelta(t, rest.Motors[1].RPM, r.Motors[1].FinalRPM, 6e-4*1200, "%g Ω, %g kg·m²", rotor, inertia)
		}
	}
}

func TestTheStartCapacitorLeaves(t *testing.T) {
	for name, out := range map[string]startup.Out{
		"by speed": {By: startup.BySpeed, At: 1350}, "by a timer": {By: startup.BySeconds, At: 0.2},
		"by volts": {By: startup.ByVolts, At: 255},
	} {
		t.Run(name, func(t *testing.T) {
			r := run(
				t,
				startup.Case{
					Supply: house,
					Motors: []startup.Motor{three("m", 0.05)},
					Capacitors: []startup.Capacitor{
						bank("run", network.AC, 60, nil),
						bank("start", network.AC, 200, &out),
					},
				},
			)
			left := r.Capacitors[1].OutSeconds
			require.NotNil(t, left)
			assert.Nil(t, r.Capacitors[0].OutSeconds)
			var before, after startup.Point
			for _, p := range r.Points {
				if p.Seconds < *left {
					before = p
				} else if after.Seconds == 0 {
					after = p
				}
			}
			switch out.By {
			case startup.BySpeed:
				assert.Less(t, before.Motors[0].RPM, 1350.0)
				assert.InDelta(t, 1350, after.Motors[0].RPM, 50)
			case startup.BySeconds:
				assert.InDelta(t, 0.2, *left, 1e-9)
			default:
				assert.Less(t, before.Volts.CA, 255.0)
			}
			assert.Equal(t, network.Running, r.Motors[0].State)
		})
	}
}

// A start capacitor leaves at the speed or the volts that it is asked to, wherever in a step
// that lies.
func TestTheStartCapacitorLeavesWhereItIsAsked(t *testing.T) {
	for _, by := range []startup.Out{
		{By: startup.BySpeed, At: 700}, {By: startup.BySpeed, At: 1111}, {By: startup.BySpeed, At: 1400},
		{By: startup.ByVolts, At: 235}, {By: startup.ByVolts, At: 255},
	} {
		r := run(t, startup.Case{Supply: house, Motors: []startup.Motor{three("m", 0.05)},
			Capacitors: []startup.Capacitor{bank("run", network.AC, 60, nil), bank("start", network.AC, 200, &by)}})
		left := r.Capacitors[1].OutSeconds
		require.NotNil(t, left, "%v", by)
		var before, after startup.Point
		for _, p := range r.Points {
			if p.Seconds < *left {
				before = p
			} else if after.Seconds == 0 {
				after = p
			}
		}
		if by.By == startup.BySpeed {
			assert.InEpsilon(t, by.At, after.Motors[0].RPM, 2e-4)
		} else {
			assert.Less(t, before.Volts.CA, by.At)
			assert.InEpsilon(t, by.At, before.Volts.CA, 0.02, "at the moment before")
		}
	}
}

// A relay whose return is set above what is left without its capacitor chatters.
func TestARelaySetWrongChatters(t *testing.T) {
	r := run(t, startup.Case{
		Supply: house,
		Motors: []startup.Motor{three("m", 0.05)},
		Capacitors: []startup.Capacitor{
			bank("run", network.AC, 40, nil),
			bank("start", network.AC, 200, &startup.Out{By: startup.ByVolts, At: 150, BackAt: 140}),
		},
		MostSeconds: 4,
	})
	assert.Greater(t, r.Capacitors[1].Again, 1)
	rules := []string{}
	for _, v := range r.Verdicts {
		rules = append(rules, v.Rule)
	}
	assert.Contains(t, rules, "start.relay-chatters")
}

// A machine started on an idler pulls it and the made leg down, the time domain the
// same; a bigger machine more.
func TestAMachineStartsOnACarriedIdler(t *testing.T) {
	i := idler()
	i.Running = true
	other := three("other", 0.05)
	other.Running, other.Shaft = true, &load.Curve{NewtonMetre: 4, AtRPM: 1750}
	c := startup.Case{
		Supply:     house,
		Motors:     []startup.Motor{i, other, three("new", 0.08)},
		Capacitors: []startup.Capacitor{bank("ac", network.AC, 90, nil), bank("bc", network.BC, 60, nil)},
	}
	r := run(t, c)
	first := r.Points[0].Motors[0].RPM
	assert.Greater(t, first, 1780.0)
	assert.Less(t, r.Motors[0].LowestRPM, first-2)
	assert.Equal(t, network.Running, r.Motors[2].State)
	assert.Less(t, r.LowestVolts.CA, r.Points[len(r.Points)-1].Volts.CA-10)
	// The lowest speed of the idler, in time.
	w := waveform.Case{
		Supply:          waveform.Supply{Supply: house},
		DurationSeconds: 2.2,
		SampleSeconds:   0.002,
		Events:          []waveform.Event{{AtSeconds: 0.7, Switch: "new", To: waveform.Closed}},
	}
	for k, m := range c.Motors {
		v := waveform.Motor{Motor: m.Motor, InitialRPM: r.Points[0].Motors[k].RPM}
		if m.Shaft != nil {
			v.Load = &network.Load{Kind: "torque", NewtonMetre: m.Shaft.NewtonMetre, AtRPM: m.Shaft.AtRPM}
		}
		if m.ID == "new" {
			v.Closed = new(false)
		}
		w.Motors = append(w.Motors, v)
	}
	for _, p := range c.Capacitors {
		w.Capacitors = append(w.Capacitors, waveform.Capacitor{Capacitor: p.Capacitor})
	}
	wave, err := waveform.Solve(w)
	require.NoError(t, err)
	require.NotNil(t, wave.Motors[2].TimeTo90)
	assert.InEpsilon(t, *wave.Motors[2].TimeTo90, *r.Motors[2].TimeTo90, 0.08)
	heavier := c
	heavier.Motors = append([]startup.Motor{}, c.Motors...)
	heavier.Motors[2].Circuit = heavier.Motors[2].Circuit.Scaled(0.5)
	assert.Less(t, run(t, heavier).LowestVolts.CA, r.LowestVolts.CA)
	// Far too large a machine takes the made leg down with it, and that is said.
	heavier.Motors[2].Circuit = heavier.Motors[2].Circuit.Scaled(0.2)
	dips := slices.ContainsFunc(run(t, heavier).Verdicts, func(v rule.Verdict) bool { return v.Rule == "start.dip" })
	assert.True(t, dips)
}

// Identity: spun the other way with nothing to decide it, everything is mirrored.
func TestABareIdlerFollowsItsSpin(t *testing.T) {
	dragging := func() startup.Motor {
		m := idler()
		m.Shaft = &load.Curve{NewtonMetre: 2, AtRPM: 1800} // bearings and seals
		return m
	}
	c := startup.Case{Supply: house, Motors: []startup.Motor{dragging()}}
	pull := startup.PullIn(c, 0, 1)
	require.NotNil(t, pull)
	assert.InDelta(t, *pull, *startup.PullIn(c, 0, -1), 1e-6)
	// At that speed the torque on two legs is just friction's.
	n := network.Case{Supply: house, Motors: []network.Motor{idler().Motor}}
	n.Motors[0].Slip = new(1 - *pull/1800)
	r, err := network.Solve(n)
	require.NoError(t, err)
	assert.Greater(t, *pull, 50.0)
	assert.InDelta(t, 2+120**pull/1800/(60*math.Pi), r.Motors[0].TorqueNm, 1e-3)
	for _, c := range []struct {
		rpm  float64
		ends string
	}{{*pull * 1.1, "abc"}, {-*pull * 1.1, "acb"}, {*pull * 0.8, ""}} {
		m := dragging()
		m.InitialRPM = c.rpm
		got := run(t, startup.Case{Supply: house, Motors: []startup.Motor{m}, MostSeconds: 60})
		require.NotNil(t, got.Spin)
		assert.Equal(t, c.ends, got.Spin.Ends)
		assert.Empty(t, got.Spin.Capacitors)
		if c.ends != "" {
			assert.NotEqual(t, c.ends, got.Spin.Other)
			assert.Equal(t, "start.follows-spin", got.Verdicts[0].Rule)
		}
	}
}

// Capacitors on a–c turn it abc: spun against them it is warned of, computed to the end.
func TestSpinAgainstCapacitors(t *testing.T) {
	m := idler()
	m.InitialRPM = -600
	r := run(
		t,
		startup.Case{
			Supply: house,
			Motors: []startup.Motor{m},
			Capacitors: []startup.Capacitor{
				bank("run", network.AC, 150, nil),
				bank("start", network.AC, 600, &startup.Out{By: startup.BySpeed, At: 1300}),
			},
		},
	)
	assert.Equal(t, "acb", r.Spin.Given)
	assert.Equal(t, "abc", r.Spin.Capacitors)
	assert.Equal(t, "start.spin-against-capacitors", r.Verdicts[0].Rule)
	// The other capacitor's line turns it the other way.
	m.InitialRPM = 600
	r = run(
		t,
		startup.Case{
			Supply:     house,
			Motors:     []startup.Motor{m},
			Capacitors: []startup.Capacitor{bank("run", network.BC, 600, nil)},
		},
	)
	assert.Equal(t, "acb", r.Spin.Capacitors)
}

// With a straight torque and no friction the idler nears its most speed along an
// exponential; the time is its closed form.
func TestPony(t *testing.T) {
	m := idler()
	m.FrictionWatts = 0
	p := startup.Pony{
		Watts:            370,
		RPM:              1725,
		SynchronousRPM:   1800,
		BeltRatio:        0.95,
		StartTorqueTimes: 100,
		ReleaseRPM:       1600,
	}
	r := run(t, startup.Case{Supply: house, Motors: []startup.Motor{m}, Pony: &p})
	rated := 370 / (1725 * math.Pi / 30)
	most := 1800 * 0.95
	slope := rated / (75 * math.Pi / 30) / 0.95 / 0.95 // N·m per rad/s at the idler
	tau := m.InertiaKgm2 / slope
	require.NotNil(t, r.Pony.Seconds)
	assert.InDelta(t, most, r.Pony.MostRPM, 0.1)
	assert.InEpsilon(t, -tau*math.Log(1-1600/most), *r.Pony.Seconds, 1e-3)
	assert.InEpsilon(t, 1.5**r.Pony.Seconds, *r.Pony.TimerSeconds, 1e-9)
	assert.Equal(t, network.Running, r.Motors[0].State)
	p.Backwards = true
	r = run(t, startup.Case{Supply: house, Motors: []startup.Motor{m}, Pony: &p})
	assert.Equal(t, "acb", r.Spin.Ends)
	// Too slow a belt leaves it below the speed from which it pulls itself up.
	slow := startup.Pony{Watts: 370, RPM: 1725, SynchronousRPM: 1800, BeltRatio: 0.05}
	m.Shaft = &load.Curve{NewtonMetre: 2, AtRPM: 1800}
	r = run(t, startup.Case{Supply: house, Motors: []startup.Motor{m}, Pony: &slow})
	rules := []string{}
	for _, v := range r.Verdicts {
		rules = append(rules, v.Rule)
	}
	assert.Contains(t, rules, "start.pony-too-slow")
}

// Identity 7: what passes the checks ends, with finite figures.
func TestFigures(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := three("m", rapid.Float64Range(1e-3, 5).Draw(t, "inertia"))
		m.Shaft = &load.Curve{
			NewtonMetre: rapid.Float64Range(0, 30).Draw(t, "nm"),
			AtRPM:       1750,
			Exponent:    rapid.IntRange(0, 2).Draw(t, "exponent"),
			BreakawayNm: rapid.Float64Range(0, 30).Draw(t, "breakaway"),
		}
		m.InitialRPM = rapid.Float64Range(-2000, 2000).Draw(t, "rpm")
		c := startup.Case{
			Supply:      house,
			Motors:      []startup.Motor{m},
			MostSeconds: rapid.Float64Range(0.1, 20).Draw(t, "most"),
			Capacitors: []startup.Capacitor{
				bank(
					"run",
					rapid.SampledFrom([]network.Pair{network.AC, network.BC}).Draw(t, "pair"),
					rapid.Float64Range(0, 200).Draw(t, "µF"),
					nil,
				),
				bank(
					"start",
					network.AC,
					rapid.Float64Range(0, 600).Draw(t, "start µF"),
					&startup.Out{
						By: rapid.SampledFrom([]string{startup.BySpeed, startup.BySeconds, startup.ByVolts}).
							Draw(t, "by"),
						At: rapid.Float64Range(0.1, 1500).
							Draw(t, "at"),
						BackAt: rapid.Float64Range(0, 100).Draw(t, "back"),
					},
				),
			},
		}
		r := run(t, c)
		require.NotEmpty(t, r.Points)
		for _, p := range r.Points {
			for _, f := range []float64{p.Seconds, p.Volts.CA, p.SupplyAmps, p.Motors[0].RPM, p.Motors[0].TorqueNm,
				p.Motors[0].WindingAmps[2]} {
				assert.False(t, math.IsNaN(f) || math.IsInf(f, 0))
			}
		}
	})
}

func BenchmarkRunUp(b *testing.B) {
	m := three("m", 0.05)
	m.Shaft = &load.Curve{NewtonMetre: 4, AtRPM: 1750, Exponent: 2, BreakawayNm: 2}
	c := startup.Case{
		Supply: house,
		Motors: []startup.Motor{m},
		Capacitors: []startup.Capacitor{
			bank("run", network.AC, 60, nil),
			bank("start", network.AC, 200, &startup.Out{By: startup.BySpeed, At: 1400}),
		},
	}
	for b.Loop() {
		if _, err := startup.Run(c); err != nil {
			b.Fatal(err)
		}
	}
}
