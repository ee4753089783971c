package drive_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/drive"
)

func drawn(t *rapid.T) drive.Stop {
	s := drive.Stop{
		InertiaKgm2: rapid.Float64Range(0.002, 2).Draw(t, "J"),
		RPM:         rapid.Float64Range(300, 3600).Draw(t, "rpm"),
		BusMicrofarad: rapid.Float64Range(200, 4000).
			Draw(t, "C"),
		BusVolts:  325,
		TripVolts: rapid.Float64Range(350, 420).Draw(t, "trip"),
	}
	if rapid.Bool().Draw(t, "friction") {
		s.FrictionNm = new(rapid.Float64Range(0.05, 5).Draw(t, "T"))
	} else {
		s.LossWatts = new(rapid.Float64Range(10, 600).Draw(t, "P"))
	}
	return s
}

// highest integrates a ramp step by step and returns the highest bus volts, and the
// energy and the peak watts that come back.
func highest(s drive.Stop, seconds float64) (volts, energy, first float64) {
	const n = 200000
	omega0, dt := s.RPM*math.Pi/30, seconds/n
	stored := 0.0
	for i := range n {
		omega := omega0 * (1 - (float64(i)+0.5)/n)
		watts := s.InertiaKgm2 * omega * omega0 / seconds
		if s.FrictionNm != nil {
			watts -= *s.FrictionNm * omega
		} else {
			watts -= *s.LossWatts
		}
		if i == 0 {
			first = watts
		}
		if stored += watts * dt; stored > energy {
			energy = stored
		}
		if stored < 0 {
			stored = 0
		}
	}
	return math.Sqrt(s.BusVolts*s.BusVolts + 2*energy/(s.BusMicrofarad*1e-6)), energy, first
}

// On its shortest ramp the bus just reaches the trip, by a step-by-step integration.
func TestTheShortestRampReachesTheTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawn(t)
		out := s.Ramp()
		require.NotNil(t, out.ShortestSeconds)
		if *out.ShortestSeconds == 0 {
			omega := s.RPM * math.Pi / 30
			assert.LessOrEqual(
				t,
				s.InertiaKgm2*omega*omega/2,
				s.BusMicrofarad*1e-6*(s.TripVolts*s.TripVolts-s.BusVolts*s.BusVolts)/2,
			)
			return
		}
		volts, _, _ := highest(s, *out.ShortestSeconds)
		assert.InEpsilon(t, s.TripVolts, volts, 1e-4)
	})
}

// The figures of a stop by the same integration: peak of the bus, watts and energy
// in the resistor.
func TestAStopTimeInFigures(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawn(t)
		s.StopSeconds = new(rapid.Float64Range(0.1, 20).Draw(t, "stop"))
		s.ChopperVolts = new((s.BusVolts + s.TripVolts) / 2)
		out := s.Ramp()
		volts, energy, first := highest(s, *s.StopSeconds)
		require.NotNil(t, out.BusPeakVolts)
		assert.InEpsilon(t, volts, *out.BusPeakVolts, 1e-4)
		if *out.BusPeakVolts <= s.TripVolts {
			assert.Zero(t, *out.ResistorPeakWatts)
			assert.Zero(t, *out.ResistorMeanWatts)
			assert.Nil(t, *out.ResistorMaxOhm)
			return
		}
		assert.InEpsilon(t, first, *out.ResistorPeakWatts, 1e-3)
		room := s.BusMicrofarad * 1e-6 * (*s.ChopperVolts**s.ChopperVolts - s.BusVolts*s.BusVolts) / 2
		assert.InDelta(t, (energy-room) / *s.StopSeconds, *out.ResistorMeanWatts, 1e-4*first)
		assert.InEpsilon(t, *s.ChopperVolts**s.ChopperVolts / *out.ResistorPeakWatts, **out.ResistorMaxOhm, 1e-12)
	})
}

// Without losses nothing but the bus takes the energy; the naive ramp (E−Ec)/P
// would overshoot the trip.
func TestEndsOfTheRange(t *testing.T) {
	s := drive.Stop{
		InertiaKgm2:   0.1,
		RPM:           1750,
		BusMicrofarad: 1000,
		BusVolts:      325,
		TripVolts:     400,
		LossWatts:     new(0.0),
	}
	assert.Nil(t, s.Ramp().ShortestSeconds)
	s.InertiaKgm2 = 0.0001
	require.NotNil(t, s.Ramp().ShortestSeconds)
	assert.Zero(t, *s.Ramp().ShortestSeconds)
	s.InertiaKgm2, s.LossWatts = 0.1, new(150.0)
	omega := 1750 * math.Pi / 30
	energy, room := 0.05*omega*omega, 0.0005*(400*400-325*325)
	volts, _, _ := highest(s, (energy-room)/150)
	assert.Greater(t, volts, 405.0)
}
