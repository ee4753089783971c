package drive_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
	"brackmoor/core/motor"
	"brackmoor/core/network"
)

func driven() drive.Motor {
	return drive.Motor{
		Motor: network.Motor{
			ID:            "m",
			Poles:         4,
			RatedHertz:    50,
			FrictionWatts: 30,
			Circuit: motor.Circuit{R1Ohm: 0.9, X1Ohm: 1.6, XmOhm: 40, RcOhm: 900,
				Cages: []motor.Cage{{ROhm: 0.8, XOhm: 2.4}, {ROhm: 3, XOhm: 1.2}}},
		},
		RatedAmps: 8.5,
		OwnFan:    true,
	}
}

// A motor in star for 400 V on a 230 V drive has its base point at 50·230/400 Hz; in
// delta for 230 V on a 400 V drive it runs on the same slope to 87 Hz.
func TestBasePoint(t *testing.T) {
	star := drive.VHz{MotorVolts: 400, MotorHertz: 50, MostVolts: 230}
	assert.InDelta(t, 28.75, star.BaseHertz(), 1e-9)
	assert.InDelta(t, 115, star.Volts(28.75/2), 1e-9)
	assert.InDelta(t, 230, star.Volts(50), 1e-9, "flat above it")
	delta := drive.VHz{MotorVolts: 230, MotorHertz: 50, MostVolts: 400}
	assert.InDelta(t, 86.957, delta.BaseHertz(), 1e-3)
	assert.InDelta(t, 230, delta.Volts(50), 1e-9)
	boosted := drive.VHz{MotorVolts: 230, MotorHertz: 50, MostVolts: 230, BoostPercent: 5}
	assert.InDelta(t, 11.5, boosted.Volts(0), 1e-9)
	assert.InDelta(t, 115+5.75, boosted.Volts(25), 1e-9)
}

func TestTorqueAcrossSpeed(t *testing.T) {
	m := driven()
	v := drive.VHz{MotorVolts: 230, MotorHertz: 50, MostVolts: 230}
	points, err := m.Across(v, []float64{5, 15, 25, 40, 50, 75, 100})
	require.NoError(t, err)
	by := map[float64]drive.SpeedPoint{}
	for _, p := range points {
		by[p.Hertz] = p
	}
	// At plate hertz it is the textbook motor at plate amps.
	fifty := by[50]
	n := motor.Balanced{Volts: 230, Hertz: 50, Poles: 4, FrictionWatts: 30}
	c := m.Circuit
	at := n.At(&c, 1-fifty.RPM/1500)
	assert.InEpsilon(t, 8.5, at.LineAmps, 1e-6)
	assert.InEpsilon(t, at.ShaftWatts, fifty.ShaftWatts, 1e-6)
	assert.InEpsilon(t, n.Breakdown(&c, 0.01).TorqueNm, fifty.BreakdownNm, 0.01)
	// Down to half speed about the same torque, less below as the fan slows.
	assert.InEpsilon(t, fifty.TorqueNm, by[25].TorqueNm, 0.08)
	assert.Less(t, by[5].TorqueNm, 0.75*fifty.TorqueNm)
	m.OwnFan = false
	own, err := m.Across(v, []float64{5})
	require.NoError(t, err)
	assert.Greater(t, own[0].TorqueNm, by[5].TorqueNm, "a fan of its own cools at any speed")
	// Above the base point about constant power, and breakdown falls with its square.
	assert.InEpsilon(t, fifty.ShaftWatts, by[75].ShaftWatts, 0.12)
	assert.InEpsilon(t, fifty.BreakdownNm/4, by[100].BreakdownNm, 0.25)
	assert.Less(t, by[100].BreakdownNm, by[75].BreakdownNm)
}

func TestCooling(t *testing.T) {
	assert.Equal(t, 1.0, drive.Cooling(0.5))
	assert.Equal(t, 1.0, drive.Cooling(2))
	assert.InDelta(t, 0.35, drive.Cooling(0), 1e-12)
	assert.InDelta(t, 0.675, drive.Cooling(0.25), 1e-12)
}

// The pulses hold the fundamental that was asked for, and their ripple goes down as the
// carrier goes up.
func TestPulses(t *testing.T) {
	m := driven().Motor
	p := drive.Pulses{BusVolts: 325, Volts: 200, Hertz: 50, CarrierHertz: 4000, Slip: 0.04}
	got, err := p.Output(m)
	require.NoError(t, err)
	assert.InEpsilon(t, 200, got.FundamentalV, 2e-3)
	assert.InEpsilon(t, 200*math.Sqrt2/325, got.Index, 1e-9)
	n := motor.Balanced{Volts: 200, Hertz: 50, Poles: 4}
	fundamental := n.At(&m.Circuit, 0.04).LineAmps
	assert.InEpsilon(
		t,
		math.Hypot(fundamental, got.RippleRMS),
		got.RMSAmps,
		1e-3,
		"ripple and sine are apart in frequency",
	)
	assert.Greater(t, got.PeakAmps, fundamental*math.Sqrt2)
	for _, v := range got.VoltsAB {
		assert.LessOrEqual(t, math.Abs(v), 325+1e-9)
	}
	p.CarrierHertz = 8000
	faster, err := p.Output(m)
	require.NoError(t, err)
	assert.InEpsilon(t, got.RippleRMS/2, faster.RippleRMS, 0.05)
	p.CarrierHertz, p.Volts = 4000, 240
	_, err = p.Output(m)
	assert.ErrorIs(t, err, drive.ErrBus)
	p.Volts, p.CarrierHertz = 200, 300
	_, err = p.Output(m)
	assert.ErrorIs(t, err, drive.ErrCarrier)
}
