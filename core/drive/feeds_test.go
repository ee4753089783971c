package drive_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
)

// The same drive on three lines, two and a dc bus: two lines carry more amps than three and swing the bus deeper, past
// what a drive for three takes for a lost line; a choke and more cans calm both.
func TestThreeFeedsOfOneDrive(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	for _, share := range []float64{0.3, 0.7, 1} {
		list, err := in.Feeds(share)
		require.NoError(t, err)
		require.Len(t, list, 3)
		three, two, bus := list[0].Result, list[1].Result, list[2].Result
		require.NotNil(t, three)
		require.NotNil(t, two)
		require.NotNil(t, bus)
		assert.Greater(t, two.InputRMSAmps, 1.5*three.InputRMSAmps)
		assert.Greater(t, two.RipplePPVolts, 2*three.RipplePPVolts)
		assert.Less(t, bus.InputRMSAmps, two.InputRMSAmps)
		assert.Less(t, bus.RipplePPVolts, two.RipplePPVolts)
		assert.Empty(t, list[0].Trips)
		assert.Empty(t, list[2].Trips)
		assert.Equal(t, two.RipplePPVolts > drive.Swing()*two.BusMeanVolts, list[1].Trips == "phase-lost")
		assert.NotEmpty(t, two.Series.BusVolts)
	}
	list, err := in.Feeds(1.5)
	require.NoError(t, err)
	assert.Equal(t, "phase-lost", list[1].Trips, "loaded well, the lost line is seen")
	assert.Contains(t, list[1].Says, "takes a line for lost")
	in.Supply.ResistanceOhm = 12
	list, err = in.Feeds(1.5)
	require.NoError(t, err)
	assert.Equal(t, "undervoltage", list[1].Trips, "a line that cannot carry it")
	in.Supply.Volts = 120
	list, err = in.Feeds(1)
	require.NoError(t, err)
	assert.Empty(t, list)
}

// A carrier twice as high leaves half the ripple and a quarter of its heat, and takes amps from the drive.
func TestCarriers(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	list := in.Carriers()
	require.Len(t, list, 5)
	for i, c := range list[1:] {
		before := list[i]
		ratio := c.KHz / before.KHz
		assert.InEpsilon(t, before.RippleAmps/ratio, c.RippleAmps, 0.05)
		assert.InEpsilon(t, before.HeatPercent/ratio/ratio, c.HeatPercent, 0.1)
		assert.LessOrEqual(t, c.Share, before.Share)
	}
	assert.InDelta(t, 1, list[1].Share, 1e-9, "its amps are rated there")
	assert.Less(t, list[4].Share, 0.8)
	assert.Less(t, list[1].HeatPercent, 8.0)
}

// What a trouble points to is a setting there is, and every trouble has a name of its own.
func TestTroubles(t *testing.T) {
	names := map[string]bool{}
	for _, f := range append(append([]drive.Fault{}, drive.Faults...), drive.Signs...) {
		assert.False(t, names[f.Name], f.Name)
		names[f.Name] = true
		assert.NotEmpty(t, f.Look)
		for _, s := range f.Settings {
			assert.True(t, drive.Set(s), "%s: %s", f.Name, s)
		}
	}
}
