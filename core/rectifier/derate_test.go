package rectifier_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/rectifier"
)

func driven(phases int, watts float64) rectifier.Case {
	return rectifier.Case{
		Supply: rectifier.Supply{Volts: 230, Hertz: 60, LineResistanceOhm: 0.04, LineReactanceOhm: 0.02},
		Bridge: rectifier.Front{
			Phases:         phases,
			Topology:       rectifier.Bridge,
			BusMicrofarad:  1500,
			LineReactorOhm: 0.25,
		},
		LoadWatts: watts,
	}
}

// Each share found is where the figure on one phase is the rated one, solved again.
func TestDerateMeetsItsLimits(t *testing.T) {
	const rating = 5000
	d, err := rectifier.Derate(driven(3, rating))
	require.NoError(t, err)
	require.Len(t, d.Limits, 5)
	for _, l := range d.Limits {
		require.Positive(t, l.Rated)
		if l.Share == 0 || l.Share == d.Carried {
			continue
		}
		r, err := rectifier.Solve(driven(1, l.Share*rating))
		require.NoError(t, err)
		got := map[string]float64{rectifier.DiodeAmps: r.DiodeRMSAmps, rectifier.DiodeAverageAmps: r.DiodeAverageAmps,
			rectifier.CapacitorAmps: r.CapacitorRMSAmps,
			rectifier.RippleVolts:   r.RipplePPVolts, rectifier.InputAmps: r.InputRMSAmps}[l.Limit]
		assert.InEpsilon(t, l.Rated, got, 0.03, l.Limit)
		if l.Limit != rectifier.CapacitorAmps && l.Limit != rectifier.RippleVolts {
			assert.GreaterOrEqual(t, l.Share, d.Share)
		}
	}
	// By average amps a diode carries a half in place of a third: about two thirds is
	// left, a little more or less as the bus volts differ.
	for _, l := range d.Limits {
		if l.Limit == rectifier.DiodeAverageAmps {
			assert.InDelta(t, 2.0/3, l.Share, 0.06)
		}
	}
	assert.Less(t, d.Share, 0.667)
}

// By amps about half is left, whatever feed and bus, as the trade has it; a line reactor makes
// no figure worse, since the rating was given without one.
func TestAboutHalfIsLeft(t *testing.T) {
	for _, watts := range []float64{900, 2700, 6700, 13000} {
		for _, perKilowatt := range []float64{250, 330, 660} {
			for _, ohm := range []float64{0.03, 0.08, 0.15} {
				c := driven(3, watts)
				c.Supply.LineResistanceOhm, c.Supply.LineReactanceOhm = ohm, ohm/2
				c.Bridge.BusMicrofarad, c.Bridge.LineReactorOhm = perKilowatt*watts/1000, 0
				c.Bridge.BusESROhm = rectifier.ESR(rectifier.TanDeltaElectrolytic, c.Bridge.BusMicrofarad, 60)
				bare, err := rectifier.Derate(c)
				require.NoError(t, err)
				assert.InDelta(t, 0.515, bare.Share, 0.055, "%.0f W, %.0f µF/kW, %.2f Ω", watts, perKilowatt, ohm)
				quick, err := rectifier.DerateByAmps(c)
				require.NoError(t, err)
				assert.InDelta(t, bare.Share, quick.Share, 1e-12)
				c.Bridge.LineReactorOhm = 0.03 * 230 * 230 / watts
				with, err := rectifier.Derate(c)
				require.NoError(t, err)
				for i, l := range bare.Limits {
					least := l.Share
					if l.Limit == rectifier.DiodeAverageAmps {
						least *= 0.9 // the reactor takes of the volts, and average amps are watts over volts
					}
					assert.GreaterOrEqual(t, with.Limits[i].Share, least, l.Limit)
				}
				assert.Greater(t, with.Share, bare.Share)
			}
		}
	}
}

func TestHarmonics(t *testing.T) {
	for _, phases := range []int{1, 3} {
		r, err := rectifier.Solve(driven(phases, 3000))
		require.NoError(t, err)
		sum := 0.0
		for _, a := range r.InputHarmonicAmps {
			sum += a * a
		}
		assert.InEpsilon(t, r.InputRMSAmps, math.Sqrt(sum), 0.02, "all but the harmonics above the 25th")
		assert.Less(t, r.InputHarmonicAmps[1], 0.002*r.InputHarmonicAmps[0], "no even ones")
		if phases == 3 {
			assert.Less(t, r.InputHarmonicAmps[2], 0.002*r.InputHarmonicAmps[0], "no third on three lines")
			assert.Greater(t, r.InputHarmonicAmps[4], 0.1*r.InputHarmonicAmps[0])
		} else {
			assert.Greater(t, r.InputHarmonicAmps[2], 0.4*r.InputHarmonicAmps[0])
		}
		// True power factor is the displacement factor over √(1 + THD²).
		thd := r.InputTHDPercent / 100
		assert.InEpsilon(t, r.DisplacementFactor/math.Sqrt(1+thd*thd), r.TruePowerFactor, 1e-3)
	}
}

// A stiff line into a capacitor through a resistor: the peak is that of the line over
// the ohms, and the resistor takes as much as the capacitor keeps, roughly, whatever
// its ohms.
func TestPrecharge(t *testing.T) {
	c := driven(1, 0)
	c.Supply.LineReactanceOhm, c.Bridge.LineReactorOhm = 0, 0
	peak := math.Sqrt2 * 230
	got := rectifier.Precharge(c, 40)
	assert.InEpsilon(t, (peak-1.6)/(40+0.08+0.02), got.PeakAmps, 0.01)
	require.NotNil(t, got.Seconds)
	assert.Greater(t, *got.Seconds, 40*1500e-6)
	slower := rectifier.Precharge(c, 80)
	assert.InEpsilon(t, 2**got.Seconds, *slower.Seconds, 0.15)
	kept := 0.5 * 1500e-6 * math.Pow(0.95*peak, 2)
	assert.InDelta(t, kept, got.ResistorJoules, 0.5*kept)
	assert.Greater(t, rectifier.Precharge(c, 0).PeakAmps, 10*got.PeakAmps, "without one the line alone limits it")
	doubler := c
	doubler.Bridge.Topology, doubler.Supply.Volts = rectifier.Doubler, 120
	d := rectifier.Precharge(doubler, 40)
	require.NotNil(t, d.Seconds)
	assert.InEpsilon(t, (math.Sqrt2*120-0.8)/(40+0.08+0.01), d.PeakAmps, 0.01)
	assert.Nil(t, rectifier.Precharge(c, 1e5).Seconds, "never within the time looked at")
}

// Two like drives on one bus are one of twice the size; each carries half its ripple.
func TestSharedBus(t *testing.T) {
	c := driven(1, 0)
	c.Bridge.BusMicrofarad = 0
	s, err := rectifier.Share(
		c,
		[]rectifier.Drive{
			{ID: "a", BusMicrofarad: 800, Watts: 900},
			{ID: "b", BusMicrofarad: 800, Watts: 900},
			{ID: "c", BusMicrofarad: 1600, Watts: 0},
		},
	)
	require.NoError(t, err)
	whole := c
	whole.Bridge.BusMicrofarad, whole.LoadWatts = 3200, 1800
	r, err := rectifier.Solve(whole)
	require.NoError(t, err)
	assert.InEpsilon(t, r.CapacitorRMSAmps, s.Bus.CapacitorRMSAmps, 1e-9)
	sum := 0.0
	for _, d := range s.Drives {
		sum += d.RippleAmps
	}
	assert.InEpsilon(t, s.Bus.CapacitorRMSAmps, sum, 1e-9)
	assert.InEpsilon(t, 2*s.Drives[0].RippleAmps, s.Drives[2].RippleAmps, 1e-9)
	assert.Less(t, s.Drives[0].RippleAmps, *s.Drives[0].AloneAmps, "the idle drive's capacitor helps")
}

func TestLife(t *testing.T) {
	k := rectifier.Can{Hours: 5000, AtCelsius: 85, Amps: 4, CoreRiseK: 10}
	assert.InEpsilon(t, 5000, k.Life(4, 85), 1e-12)
	assert.InEpsilon(t, 10000, k.Life(4, 75), 1e-12, "ten kelvin cooler")
	assert.InEpsilon(t, 5000/8.0, k.Life(8, 85), 1e-12, "twice the amps, four times the rise")
	assert.InEpsilon(t, 130000, k.Life(0, 20), 1e-12)
}
