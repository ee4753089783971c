package rectifier_test

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/rectifier"
)

func front(phases int, topology string, microfarad, chokeMH, chokeOhm, reactor float64) rectifier.Front {
	return rectifier.Front{
		Phases:         phases,
		Topology:       topology,
		BusMicrofarad:  microfarad,
		DCChokeMH:      chokeMH,
		DCChokeOhm:     chokeOhm,
		LineReactorOhm: reactor,
	}
}

func on(volts, ohm, reactance float64) rectifier.Supply {
	return rectifier.Supply{Volts: volts, Hertz: 60, LineResistanceOhm: ohm, LineReactanceOhm: reactance}
}

// Values of ngspice (Gear's method, 5 to 10 µs, half a second from near the end
// state) on the same circuits, diodes of 0.8 V and 10 mΩ.
func TestAgainstAnotherSimulator(t *testing.T) {
	for name, c := range map[string]struct {
		in                           rectifier.Case
		mean, ripple, input, highest float64
	}{
		"one phase": {rectifier.Case{Supply: on(240, 0.05, 0.02), Bridge: front(1, "bridge", 1500, 0, 0,
			0), LoadWatts: 2000}, 330.348, 27.895, 16.279, 56.651},
		"one phase, choke": {rectifier.Case{Supply: on(240, 0.05, 0.02), Bridge: front(1, "bridge", 1500, 5, 0.1,
			0), LoadWatts: 2000}, 285.781, 21.399, 11.061, 22.645},
		"three phases, reactors": {rectifier.Case{Supply: on(240, 0.05, 0.02), Bridge: front(3, "bridge", 1500, 0, 0,
			0.3), LoadWatts: 4000}, 316.787, 4.231, 11.103, 19.245},
		"three phases, choke": {rectifier.Case{Supply: on(240, 0.05, 0.02), Bridge: front(3, "bridge", 1500, 2, 0.1,
			0), LoadWatts: 4000}, 319.544, 2.532, 10.489, 16.673},
		"a doubler on the lower " +
			"volts": {rectifier.Case{Supply: on(120, 0.05, 0.02), Bridge: front(1, "doubler", 2000, 0, 0, 0),
			LoadWatts: 1000}, 325.767, 20.408, 15.083, 47.998},
	} {
		r, err := rectifier.Solve(c.in)
		require.NoError(t, err, name)
		assert.InEpsilon(t, c.mean, r.BusMeanVolts, 1e-3, name)
		assert.InEpsilon(t, c.ripple, r.RipplePPVolts, 5e-3, name)
		assert.InEpsilon(t, c.input, r.InputRMSAmps, 2e-3, name)
		assert.InEpsilon(t, c.highest, r.InputPeakAmps, 2e-3, name)
	}
}

// drawn is a front end as drives have them: bus and line of a size that the load
// does not make to swing.
func drawn(t *rapid.T) rectifier.Case {
	c := rectifier.Case{
		Supply: rectifier.Supply{
			Volts: rapid.Float64Range(200, 480).Draw(t, "volts"),
			Hertz: rapid.SampledFrom([]float64{50, 60}).Draw(t, "hertz"),
			LineResistanceOhm: rapid.Float64Range(0, 0.2).
				Draw(t, "ohm"),
			LineReactanceOhm: rapid.Float64Range(0, 0.05).Draw(t, "reactance"),
		},
	}
	c.Bridge = front(1, "bridge", rapid.Float64Range(1000, 4000).Draw(t, "µF"), 0, 0, 0)
	if rapid.Bool().Draw(t, "lossy") {
		tanDelta := rapid.Float64Range(0.03, 0.2).Draw(t, "tan δ")
		c.Bridge.BusESROhm = rectifier.ESR(tanDelta, c.Bridge.BusMicrofarad, c.Supply.Hertz)
	}
	if rapid.Bool().Draw(t, "stiff") {
		c.Supply.LineResistanceOhm, c.Supply.LineReactanceOhm = 0, 0
	}
	c.LoadWatts = rapid.Float64Range(50, 2500).Draw(t, "watts")
	switch rapid.SampledFrom([]string{"one", "three", "reactors", "choke", "doubler"}).Draw(t, "kind") {
	case "three":
		c.Bridge.Phases = 3
	case "reactors":
		c.Bridge.Phases, c.Bridge.LineReactorOhm = 3, rapid.Float64Range(0.05, 0.5).Draw(t, "reactor")
	case "choke":
		c.Bridge.Phases = rapid.SampledFrom([]int{1, 3}).Draw(t, "phases")
		c.Bridge.DCChokeMH = rapid.Float64Range(0.2, 6).Draw(t, "mH")
		// Constant power is a negative resistance: the choke's ohms must damp more.
		square := c.Supply.Volts * c.Supply.Volts
		c.Bridge.DCChokeOhm = 3 * c.LoadWatts / (c.Bridge.BusMicrofarad * 1e-6 * square) * c.Bridge.DCChokeMH / 1000
	case "doubler":
		c.Bridge.Topology = "doubler"
	}
	return c
}

// Watts from the source are those of the load, of the ohms and of the diodes, to what
// a step of the cycle can resolve; all the load's amps come through the diodes; the
// capacitor's mean current is nothing. Where the halves of a cycle differ, the diode that
// is told carries more than its half.
func TestWattsBalance(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawn(t)
		r, err := rectifier.Solve(c)
		if c.Bridge.BusESROhm == 0 && errors.Is(err, rectifier.ErrSwing) {
			return // there are no such cans
		}
		require.NoError(t, err)
		lines, diodes, cans := 1.0, 2.0, 1.0
		if c.Bridge.Phases == 3 {
			lines, diodes = math.Sqrt(3), 3
		}
		in := lines * c.Supply.Volts * r.InputRMSAmps * r.TruePowerFactor
		if c.Bridge.Topology == "doubler" {
			diodes, cans = 1, 2
		}
		through := diodes * r.DiodeAverageAmps
		conductors := float64(max(2, c.Bridge.Phases))
		lost := conductors*c.Supply.LineResistanceOhm*r.InputRMSAmps*r.InputRMSAmps +
			2*diodes*(0.8*r.DiodeAverageAmps+0.01*r.DiodeRMSAmps*r.DiodeRMSAmps) +
			cans*c.Bridge.BusESROhm*r.CapacitorRMSAmps*r.CapacitorRMSAmps
		choke := through*through + r.CapacitorRMSAmps*r.CapacitorRMSAmps // nearly: the load's own ripple is small
		lost += c.Bridge.DCChokeOhm * choke
		// The mean of one over the volts, to second order in their ripple.
		ripple := r.RippleRMSVolts / r.BusMeanVolts
		drawn := c.LoadWatts / r.BusMeanVolts * (1 + ripple*ripple)
		near := 0.01 + 2*ripple*ripple*ripple
		if r.Alternates {
			assert.Greater(t, c.LoadWatts, in-lost-0.004*in-0.3, "%+v", r)
			assert.Greater(t, through, drawn*(1-near))
			assert.Less(t, through, 2*drawn)
		} else {
			assert.InDelta(t, c.LoadWatts, in-lost, 0.004*in+0.3, "%+v", r)
			assert.InEpsilon(t, drawn, through, near)
		}
		assert.LessOrEqual(t, r.TruePowerFactor, math.Abs(r.DisplacementFactor)+1e-9)
		assert.GreaterOrEqual(t, r.InputPeakAmps, r.InputRMSAmps)
	})
}

// stepped goes through so many half cycles of a bridge on one phase with plain short
// steps, and gives the highest amps of each, the bus's mean volts over the last two, and
// the watts that it takes from the source in them.
func stepped(c rectifier.Case, halves int) (peaks []float64, mean, watts float64) {
	const steps = 5000 // of a half cycle
	omega := 2 * math.Pi * c.Supply.Hertz
	ohm, henry := 2*c.Supply.LineResistanceOhm+0.02, 2*c.Supply.LineReactanceOhm/omega
	farad, h := c.Bridge.BusMicrofarad*1e-6, math.Pi/omega/steps
	bus, amps := 0.95*math.Sqrt2*c.Supply.Volts, 0.0
	for k := range halves {
		peak := 0.0
		for i := range steps {
			source := math.Sqrt2 * c.Supply.Volts * math.Sin(omega*h*(float64(i)+0.5))
			amps = math.Max(0, amps+h/henry*(source-1.6-ohm*amps-bus))
			bus += h / farad * (amps - c.LoadWatts/bus)
			peak = math.Max(peak, amps)
			if k >= halves-2 {
				mean += bus / (2 * steps)
				watts += source * amps / (2 * steps)
			}
		}
		peaks = append(peaks, peak)
	}
	return peaks, mean, watts
}

// Behind hardly any ohms a load of constant power makes the pulses of the half cycles
// alternate, which is a periodic state over a whole cycle; the ohms of real cans damp it.
func TestPulsesThatAlternate(t *testing.T) {
	c := rectifier.Case{
		Supply: rectifier.Supply{
			Volts: 259.535, Hertz: 50, LineResistanceOhm: 0.0010194, LineReactanceOhm: 0.05,
		},
		Bridge: front(1, "bridge", 1709.61, 0, 0, 0),
	}
	for _, at := range []struct {
		watts      float64
		alternates bool
	}{{1200, false}, {2040.76, false}, {2700, true}} {
		c.LoadWatts = at.watts
		r, err := rectifier.Solve(c)
		require.NoError(t, err)
		assert.Equal(t, at.alternates, r.Alternates, "%g W", at.watts)
		peaks, mean, watts := stepped(c, 1600)
		last, before := peaks[len(peaks)-1], peaks[len(peaks)-2]
		assert.Equal(t, at.alternates, math.Abs(last-before) > 0.02*last, "%g W", at.watts)
		assert.InEpsilon(t, max(last, before), r.InputPeakAmps, 0.01, "%g W", at.watts)
		assert.InEpsilon(t, mean, r.BusMeanVolts, 0.002, "%g W", at.watts)
		assert.InEpsilon(t, watts, c.Supply.Volts*r.InputRMSAmps*r.TruePowerFactor, 0.003, "%g W", at.watts)
		c.Bridge.BusESROhm = rectifier.ESR(rectifier.TanDeltaElectrolytic, c.Bridge.BusMicrofarad, 50)
		real, err := rectifier.Solve(c)
		require.NoError(t, err)
		assert.False(t, real.Alternates, "%g W", at.watts)
		c.Bridge.BusESROhm = 0
	}
}

// A bridge with hardly any load stands at the peak of its line less two drops; on
// three phases with a choke large enough the mean is 3·√2/π of the line volts, less
// two drops.
func TestTextbookEnds(t *testing.T) {
	r, err := rectifier.Solve(rectifier.Case{Supply: on(240, 0.1, 0.1), Bridge: front(1, "bridge", 1000, 0, 0, 0)})
	require.NoError(t, err)
	assert.InDelta(t, 240*math.Sqrt2-1.6, r.BusMeanVolts, 0.05)
	smooth := front(3, "bridge", 20000, 20, 0.2, 0)
	r, err = rectifier.Solve(rectifier.Case{Supply: on(240, 0, 0), Bridge: smooth, LoadWatts: 5000})
	require.NoError(t, err)
	amps := 5000 / r.BusMeanVolts
	assert.InDelta(t, 240*3*math.Sqrt2/math.Pi-1.6-0.22*amps, r.BusMeanVolts, 0.1)
	// Then the line carries blocks of 120 degrees: √(2/3) of the dc amps, power factor 3/π.
	assert.InEpsilon(t, math.Sqrt(2.0/3)*amps, r.InputRMSAmps, 0.005)
	assert.InEpsilon(t, 3/math.Pi, r.TruePowerFactor, 0.003)
	assert.InEpsilon(t, 1, r.DisplacementFactor, 1e-3)
	// An inductive line drops the mean by 3·ω·L/π for each ampere (commutation).
	with, err := rectifier.Solve(rectifier.Case{Supply: on(240, 0, 0.3), Bridge: smooth, LoadWatts: 5000})
	require.NoError(t, err)
	amps = 5000 / with.BusMeanVolts
	assert.InDelta(t, 240*3*math.Sqrt2/math.Pi-1.6-(0.22+3*0.3/math.Pi)*amps, with.BusMeanVolts, 0.15)
}

func TestALoadTheLineCannotCarry(t *testing.T) {
	_, err := rectifier.Solve(
		rectifier.Case{Supply: on(120, 2, 1), Bridge: front(1, "bridge", 1000, 0, 0, 0), LoadWatts: 9000},
	)
	assert.ErrorIs(t, err, rectifier.ErrCollapse)
}

// A choke that nothing damps swings for ever: that is said, and soon.
func TestAChokeThatSwingsForEver(t *testing.T) {
	_, err := rectifier.Solve(
		rectifier.Case{Supply: on(100, 0, 0), Bridge: front(3, "bridge", 368, 1.33, 0, 0), LoadWatts: 978},
	)
	assert.ErrorIs(t, err, rectifier.ErrSwing)
}

func BenchmarkPeriodicState(b *testing.B) {
	for _, phases := range []int{1, 3} {
		b.Run(fmt.Sprint(phases), func(b *testing.B) {
			for range b.N {
				if _, err := rectifier.Solve(
					rectifier.Case{
						Supply:    on(240, 0.05, 0.02),
						Bridge:    front(phases, "bridge", 1500, 0, 0, 0),
						LoadWatts: 2000,
					},
				); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
