package waveform

import (
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/halt"
	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// threeHP and the larger ones are machines of Krause's table, Analysis of Electric
// Machinery: ohms at 60 Hz, inertia of the rotor.
type krause struct {
	name       string
	volts, rpm float64
	rs, xs, xm float64
	xr, rr     float64
	inertia    float64
	poles      int
	until      float64
}

var krauses = []krause{
	{"3 hp", 220, 1710, 0.435, 0.754, 26.13, 0.754, 0.816, 0.089, 4, 0.8},
	{"50 hp", 460, 1705, 0.087, 0.302, 13.08, 0.302, 0.228, 1.662, 4, 1.6},
	{"500 hp", 2300, 1773, 0.262, 1.206, 54.02, 1.206, 0.187, 11.06, 4, 2.5},
	{"2250 hp", 2300, 1786, 0.029, 0.226, 13.04, 0.226, 0.022, 63.87, 4, 4},
}

func (k krause) motor() Motor {
	return Motor{Motor: network.Motor{ID: "m", Poles: k.poles, RatedHertz: 60, InertiaKgm2: k.inertia,
		Circuit: motor.Circuit{R1Ohm: k.rs, X1Ohm: k.xs, XmOhm: k.xm, Cages: []motor.Cage{{ROhm: k.rr, XOhm: k.xr}}}}}
}

func lines(volts float64) Supply {
	return Supply{Supply: network.Supply{Phases: 3, Volts: volts, Hertz: 60}}
}

// synchronous integrates a free acceleration in the frame that turns with the supply,
// with currents in place of flux linkages as states, by the classical fourth-order
// method at 5 µs: another frame, another form, another method.
func (k krause) synchronous(at func(t, rpm, torque float64)) {
	const w, h = 2 * math.Pi * 60, 5e-6
	ls, lr, m := (k.xs+k.xm)/w, (k.xr+k.xm)/w, k.xm/w
	d := complex(ls*lr-m*m, 0)
	pairs := float64(k.poles) / 2
	// The space vector of v_ab = √2·V·sin(ωt) in this frame stands still.
	v := complex(math.Sqrt2*k.volts/math.Sqrt(3), 0) * cmplx.Rect(1, -math.Pi/2-math.Pi/6)
	type state struct {
		s, r  complex128
		omega float64
	}
	torque := func(x state) float64 { return 1.5 * pairs * m * imag(cmplx.Conj(x.r)*x.s) }
	slope := func(x state) state {
		fs, fr := complex(ls, 0)*x.s+complex(m, 0)*x.r, complex(lr, 0)*x.r+complex(m, 0)*x.s
		es := v - complex(k.rs, 0)*x.s - complex(0, w)*fs
		er := -complex(k.rr, 0)*x.r - complex(0, w-pairs*x.omega)*fr
		return state{
			(complex(lr, 0)*es - complex(m, 0)*er) / d,
			(complex(ls, 0)*er - complex(m, 0)*es) / d,
			torque(x) / k.inertia,
		}
	}
	add := func(x state, f float64, y state) state {
		c := complex(f, 0)
		return state{x.s + c*y.s, x.r + c*y.r, x.omega + f*y.omega}
	}
	var x state
	for i := 0; float64(i)*h <= k.until; i++ {
		at(float64(i)*h, x.omega*30/math.Pi, torque(x))
		a := slope(x)
		b := slope(add(x, h/2, a))
		c := slope(add(x, h/2, b))
		e := slope(add(x, h, c))
		x = add(add(add(add(x, h/6, a), h/3, b), h/3, c), h/6, e)
	}
}

// Free acceleration of published machines, against that integration: the time to
// speed, the peak torque, and the speed all along, to half a percent.
func TestFreeAccelerationOfPublishedMachines(t *testing.T) {
	for _, k := range krauses {
		r, err := Solve(
			Case{Supply: lines(k.volts), Motors: []Motor{k.motor()}, DurationSeconds: k.until, SampleSeconds: 0.01},
		)
		require.NoError(t, err)
		time90, peak, worst := 0.0, 0.0, 0.0
		samples := r.Series.Motors["m"].RPM
		k.synchronous(func(at, rpm, torque float64) {
			peak = math.Max(peak, math.Abs(torque))
			if time90 == 0 && rpm >= 0.9*1800 {
				time90 = at
			}
			if i := int(math.Round(at / 0.01)); math.Abs(at-float64(i)*0.01) < 1e-9 && i < len(samples) {
				worst = math.Max(worst, math.Abs(rpm-samples[i]))
			}
		})
		require.Positive(t, time90, k.name)
		assert.InEpsilon(t, time90, *r.Motors[0].TimeTo90, 0.005, k.name)
		assert.InEpsilon(t, peak, r.Motors[0].PeakTorqueNm, 0.005, k.name)
		assert.Less(t, worst, 0.005*1800, k.name)
	}
}

// small is a motor on a made leg.
func small(core, linear bool) Motor {
	c := motor.Circuit{
		R1Ohm: 0.6,
		X1Ohm: 1.2,
		XmOhm: 30,
		Cages: []motor.Cage{{ROhm: 0.5, XOhm: 1.9}, {ROhm: 1.6, XOhm: 0.8}},
	}
	if core {
		c.RcOhm = 400
	}
	if !linear {
		c.Curve = motor.TypicalCurve(c, 230)
		c.Leakage = motor.LeakageSaturation{OnsetAmps: 15, Floor: 0.65}
	}
	return Motor{
		Motor:      network.Motor{ID: "m", Poles: 4, RatedHertz: 60, Circuit: c, InertiaKgm2: 0.05, FrictionWatts: 40},
		InitialRPM: 1750,
	}
}

func onCapacitor(m Motor, microfarad float64) Case {
	return Case{
		Supply: Supply{
			Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.1, ReactanceOhm: 0.05},
		},
		Motors: []Motor{m},
		Capacitors: []Capacitor{
			{Capacitor: network.Capacitor{ID: "run", Between: network.AC, Microfarad: microfarad}},
		},
		DurationSeconds: 1.5,
	}
}

// Run until it is steady, the stepped network has the volts of the phasors.
func TestRunToSteadyItIsThePhasors(t *testing.T) {
	for name, c := range map[string]struct {
		linear    bool
		source    network.Supply
		capacitor float64
		within    float64
	}{
		"linear": {true, network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.1,
			ReactanceOhm: 0.05}, 60, 0.005},
		"stiff":         {true, network.Supply{Phases: 1, Volts: 240, Hertz: 60}, 40, 0.005},
		"two bare legs": {true, network.Supply{Phases: 1, Volts: 240, Hertz: 60}, 0, 0.005},
		"saturated": {false, network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.1,
			ReactanceOhm: 0.05}, 60, 0.015},
		"three lines":    {false, network.Supply{Phases: 3, Volts: 240, Hertz: 60, ResistanceOhm: 0.1}, 0, 0.005},
		"resistive only": {true, network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.2}, 60, 0.005},
	} {
		m := small(true, c.linear)
		m.Load = &network.Load{Kind: "torque", NewtonMetre: 6, AtRPM: 1750}
		w := onCapacitor(m, c.capacitor)
		w.Supply.Supply = c.source
		r, err := Solve(w)
		require.NoError(t, err, name)
		m.Motor.Circuit = w.Motors[0].Circuit
		steady, err := network.Solve(
			network.Case{
				Supply:     c.source,
				Motors:     []network.Motor{m.Motor},
				Capacitors: []network.Capacitor{w.Capacitors[0].Capacitor},
			},
		)
		require.NoError(t, err, name)
		most := math.Max(steady.Volts.AB, math.Max(steady.Volts.BC, steady.Volts.CA))
		assert.InDelta(t, steady.Volts.AB, r.VoltsRMS.AB, c.within*most, name)
		assert.InDelta(t, steady.Volts.BC, r.VoltsRMS.BC, c.within*most, name)
		assert.InDelta(t, steady.Volts.CA, r.VoltsRMS.CA, c.within*most, name)
		assert.InDelta(t, steady.Motors[0].RPM, r.Motors[0].FinalRPM, 0.002*1800, name)
	}
}

// joules adds up where the energy of a linear case goes, step by step.
type joules struct {
	source, lost, shaft, start float64
	last                       [3]float64
	time                       float64
	begun                      bool
}

func (e *joules) powers(s *stepper) (source, lost, shaft, stored float64) {
	for k := range s.lines {
		source += s.emf(k, s.time) * s.circuit.source[k]
		lost += s.ohm * s.circuit.source[k] * s.circuit.source[k]
		stored += s.henry * s.circuit.source[k] * s.circuit.source[k] / 2
	}
	for i, p := range s.plains {
		lost += p.ohm * p.amps * p.amps
		v := s.y[motorStates*len(s.machines)+i]
		stored += p.farad * v * v / 2
	}
	for i, m := range s.machines {
		y := s.y[motorStates*i:]
		gap := vector(y, fluxGap)
		square := func(z complex128) float64 { return real(z)*real(z) + imag(z)*imag(z) }
		core := m.amps - complex(m.inverse.at, 0)*gap
		lost += 1.5 * m.stator * square(m.amps)
		stored += 0.75 * (m.leakage*square(m.amps) + m.inverse.at*square(gap))
		for k, henry := range m.cage {
			amps := (vector(y, fluxCage+2*k) - gap) / complex(henry, 0)
			core += amps
			lost += 1.5 * m.cageOhm[k] * square(amps)
			stored += 0.75 * henry * square(amps)
		}
		lost += 1.5 * m.core * square(core)
		omega := y[speed]
		shaft += m.opposing(omega)*math.Abs(omega) + m.friction*omega*omega
		stored += m.InertiaKgm2 * omega * omega / 2
	}
	return source, lost, shaft, stored
}

func (e *joules) take(s *stepper) {
	source, lost, shaft, stored := e.powers(s)
	if !e.begun {
		e.begun, e.start = true, stored
	} else {
		h := (s.time - e.time) / 2
		e.source += h * (source + e.last[0])
		e.lost += h * (lost + e.last[1])
		e.shaft += h * (shaft + e.last[2])
	}
	e.last, e.time = [3]float64{source, lost, shaft}, s.time
}

// What the source gives is lost, does work or is stored, to one part in ten thousand
// of what passed.
func TestEnergyIsConserved(t *testing.T) {
	for _, core := range []bool{false, true} {
		m := small(core, true)
		m.InitialRPM = 0
		m.Load = &network.Load{Kind: "torque", NewtonMetre: 3, AtRPM: 1750, Exponent: 1}
		w := onCapacitor(m, 200)
		w.DurationSeconds = 0.6
		var e joules
		var end float64
		// Finer steps, so that the sums here are no coarser than what they judge.
		w.Tolerance = 1e-9
		_, err := solve(w, func(s *stepper) {
			e.take(s)
			_, _, _, end = e.powers(s)
		})
		require.NoError(t, err)
		assert.InDelta(t, e.source, e.lost+e.shaft+end-e.start, 1e-4*e.source, "core loss %v", core)
	}
}

// Ten times tighter, the figures change by less than a thousandth.
func TestATighterToleranceChangesLittle(t *testing.T) {
	m := small(true, false)
	m.InitialRPM = 0
	w := onCapacitor(m, 60)
	w.Capacitors = append(
		w.Capacitors,
		Capacitor{Capacitor: network.Capacitor{ID: "start", Between: network.AC, Microfarad: 250}},
	)
	w.Events = []Event{{0.8, "start", Open}}
	a, err := Solve(w)
	require.NoError(t, err)
	w.Tolerance = tolerance / 10
	b, err := Solve(w)
	require.NoError(t, err)
	assert.InEpsilon(t, *b.Motors[0].TimeTo90, *a.Motors[0].TimeTo90, 1e-3)
	assert.InEpsilon(t, b.Motors[0].PeakTorqueNm, a.Motors[0].PeakTorqueNm, 1e-3)
	assert.InEpsilon(t, b.VoltsRMS.CA, a.VoltsRMS.CA, 1e-3)
	assert.InEpsilon(t, b.Motors[0].FinalRPM, a.Motors[0].FinalRPM, 1e-3)
	assert.InEpsilon(t, b.Capacitors[1].PeakVolts, a.Capacitors[1].PeakVolts, 1e-3)
	assert.Less(t, a.Steps, b.Steps)
}

// A start capacitor that is switched out keeps its charge; a motor switched off
// carries no current, and one that comes in anew counts its times from then.
func TestEvents(t *testing.T) {
	m := small(true, false)
	m.InitialRPM = 0
	w := onCapacitor(m, 60)
	w.Capacitors = append(
		w.Capacitors,
		Capacitor{Capacitor: network.Capacitor{ID: "start", Between: network.AC, Microfarad: 250}},
	)
	w.DurationSeconds, w.SampleSeconds = 3, 0.001
	w.Events = []Event{{0.8, "start", Open}, {1.5, "m", Open}, {2, "m", Closed}}
	r, err := Solve(w)
	require.NoError(t, err)
	start := r.Capacitors[1]
	assert.Greater(t, math.Abs(start.FinalVolts), 100.0)
	assert.InDelta(t, 0, r.Series.Motors["m"].Amps.A[1800], 1e-9)
	assert.InDelta(t, 0, r.Series.Motors["m"].Amps.C[1800], 1e-9)
	assert.Less(t, r.Series.Motors["m"].RPM[1990], r.Series.Motors["m"].RPM[1490])
	require.NotNil(t, r.Motors[0].TimeTo90)
	assert.Less(t, *r.Motors[0].TimeTo90, 1.0)
	assert.Len(t, r.Series.Seconds, 3001)
	// With the supply off, what is on the shaft keeps volts on the legs for a while.
	w.Events = []Event{{0.8, "start", Open}, {2.5, SupplyID, Open}}
	r, err = Solve(w)
	require.NoError(t, err)
	assert.Greater(t, math.Abs(r.Series.Volts.CA[2510])+math.Abs(r.Series.Volts.CA[2514]), 50.0)
	assert.Less(t, r.Motors[0].FinalRPM, 1790.0)
}

// Joined without ohms, capacitors share their charge at once, and none is lost.
func TestChargeIsShared(t *testing.T) {
	off := false
	w := Case{
		Supply:          Supply{Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60}, PhaseDegrees: 90},
		DurationSeconds: 0.1,
		Capacitors: []Capacitor{
			{Capacitor: network.Capacitor{ID: "x", Between: network.AB, Microfarad: 100}},
			{Capacitor: network.Capacitor{ID: "y", Between: network.AB, Microfarad: 50}, Closed: &off},
		},
		Loads:  []Impedance{{Impedance: network.Impedance{ID: "c", Between: network.AC, ResistanceOhm: 100}}},
		Events: []Event{{0.02, SupplyID, Open}, {0.05, "y", Closed}},
	}
	r, err := Solve(w)
	require.NoError(t, err)
	peak := 240 * math.Sqrt2
	assert.InDelta(t, peak, r.Capacitors[0].PeakVolts, 0.01*peak, "the capacitor takes the source's volts at once")
	assert.InDelta(t, peak*100/150, math.Abs(r.Capacitors[0].FinalVolts), 0.01*peak)
	assert.InDelta(t, r.Capacitors[0].FinalVolts, r.Capacitors[1].FinalVolts, 1e-6*peak)
}

// Loads are passive: they hold a shaft that the motor cannot move, and never turn it.
func TestALoadHoldsAndNeverDrives(t *testing.T) {
	m := small(true, true)
	m.InitialRPM, m.Load = 0, &network.Load{Kind: "torque", NewtonMetre: 500, AtRPM: 1750}
	r, err := Solve(onCapacitor(m, 60))
	require.NoError(t, err)
	assert.Zero(t, r.Motors[0].FinalRPM)
	assert.Nil(t, r.Motors[0].TimeTo90)
	m.InitialRPM = 300
	w := onCapacitor(m, 60)
	w.Events = []Event{{0, SupplyID, Open}}
	r, err = Solve(w)
	require.NoError(t, err)
	assert.Zero(t, r.Motors[0].FinalRPM)
}

// Whatever is put together, every figure is a number and the end is reached.
func TestNoCaseGivesNonsense(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := small(rapid.Bool().Draw(t, "core"), rapid.Bool().Draw(t, "linear"))
		m.InitialRPM = rapid.Float64Range(-1800, 3600).Draw(t, "rpm")
		if rapid.Bool().Draw(t, "no leakage") {
			m.Circuit.X1Ohm, m.Circuit.R1Ohm = 0, 0
		}
		w := onCapacitor(m, rapid.SampledFrom([]float64{0, 1, 60, 900}).Draw(t, "µF"))
		w.Supply.ResistanceOhm, w.Supply.ReactanceOhm = rapid.SampledFrom([]float64{0, 0.1, 5}).
			Draw(t, "ohm"),
			rapid.SampledFrom([]float64{0, 0.1}).
				Draw(t, "reactance")
		w.Supply.PhaseDegrees, w.DurationSeconds = rapid.Float64Range(0, 360).Draw(t, "phase"), 0.15
		w.Capacitors[0].ESROhm = rapid.SampledFrom([]float64{0, 0.05, 20}).Draw(t, "esr")
		w.Events = []Event{
			{
				rapid.Float64Range(0, 0.15).Draw(t, "at"),
				rapid.SampledFrom([]string{"run", "m", SupplyID}).Draw(t, "what"),
				Open,
			},
		}
		r, err := Solve(w)
		require.NoError(t, err)
		for _, v := range []float64{r.VoltsRMS.AB, r.VoltsRMS.CA, r.Motors[0].PeakTorqueNm, r.Motors[0].FinalRPM,
			r.Capacitors[0].PeakVolts} {
			assert.False(t, math.IsNaN(v) || math.IsInf(v, 0))
		}
	})
}

// Even a time shorter than any step ends in numbers.
func TestNoTimeAtAll(t *testing.T) {
	w := onCapacitor(small(true, false), 60)
	w.DurationSeconds = 1e-12
	r, err := Solve(w)
	require.NoError(t, err)
	assert.False(t, math.IsNaN(r.VoltsRMS.AB))
}

// A case of an hour is not stepped to its end: it says so in a while.
func TestTheBudgetIsSaid(t *testing.T) {
	w := onCapacitor(small(false, true), 60)
	for range 40 {
		w.Motors = append(w.Motors, w.Motors[0])
	}
	w.DurationSeconds = 3600
	_, err := Solve(w)
	assert.ErrorIs(t, err, ErrBudget)
}

func BenchmarkTwoMotorsOneSecond(b *testing.B) {
	idler, second := small(true, true), small(true, true)
	second.ID = "second"
	second.Load = &network.Load{Kind: "power", Watts: 700}
	w := onCapacitor(idler, 60)
	w.Motors = append(w.Motors, second)
	w.DurationSeconds = 1
	for range b.N {
		if _, err := Solve(w); err != nil {
			b.Fatal(err)
		}
	}
}

// What nobody waits for any more stops within a few steps, at the start and on the way.
func TestItStopsWhenNobodyWaits(t *testing.T) {
	w := onCapacitor(small(true, false), 60)
	w.DurationSeconds = 60
	stop := make(chan struct{})
	w.Stop = stop
	steps := 0
	_, err := solve(w, func(*stepper) {
		if steps++; steps == 1000 {
			close(stop)
		}
	})
	require.ErrorIs(t, err, halt.ErrStopped)
	assert.LessOrEqual(t, steps, 1000+2*stopEvery)
	_, err = Solve(w)
	require.ErrorIs(t, err, halt.ErrStopped)
}
