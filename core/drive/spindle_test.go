package drive_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
)

func TestParseGears(t *testing.T) {
	gears, err := drive.ParseGears("0.5, 80/160 1:4;  1,25")
	require.NoError(t, err)
	require.Len(t, gears, 4)
	for i, want := range []float64{0.5, 0.5, 0.25, 1.25} {
		assert.InDelta(t, want, gears[i].Ratio, 1e-12)
	}
	none, err := drive.ParseGears("  ")
	require.NoError(t, err)
	assert.Empty(t, none)
	for _, bad := range []string{"fast", "80/", "1/0", "0/0", "0", "5000", "1 1 1 1 1 1 1 1 1 1 1 1 1"} {
		_, err := drive.ParseGears(bad)
		assert.Error(t, err, bad)
	}
}

// The spindle turns with the motor by the ratio, with as much power; the rpm for a tool
// is that of its rim.
func TestSpindle(t *testing.T) {
	in := sizing(t, "2.2 kW", 0.6)
	a, err := drive.Size(in)
	require.NoError(t, err)
	gears, err := drive.ParseGears("1 0.25 2")
	require.NoError(t, err)
	rows := drive.Spindle(gears, a.Speed, 20, 60)
	require.Len(t, rows, 3)
	assert.Equal(t, "0.25", rows[0].Title, "the slow step first")
	for _, r := range rows {
		require.NotEmpty(t, r.Points)
		for i, p := range r.Points {
			assert.GreaterOrEqual(t, p.Hertz, 19.9)
			assert.LessOrEqual(t, p.Hertz, 60.1)
			assert.InEpsilon(t, rows[1].Points[i].RPM*rows[1].Points[i].TorqueNm, p.RPM*p.TorqueNm, 1e-9)
		}
	}
	cut := drive.Choose(rows, 20, 28)
	assert.InEpsilon(t, 28000/math.Pi/20, cut.RPM, 1e-12)
	assert.True(t, cut.Reached)
	assert.InEpsilon(t, cut.RPM, cut.Got, 0.1, "the end of a range may be a tenth away")
	between := drive.Choose(rows, 12, 28)
	assert.InEpsilon(t, between.RPM, between.Got, 1e-9, "between two frequencies it is had exactly")
	// 446 rpm: the slow step at more than plate speed is out of reach, so it is the slow one
	// near its top or the straight one near its least, whichever has more torque.
	other := drive.Choose(rows[1:2], 20, 28)
	if other.Reached {
		assert.GreaterOrEqual(t, cut.TorqueNm, other.TorqueNm)
	}
	far := drive.Choose(rows, 200, 14)
	assert.False(t, far.Reached)
	assert.Equal(t, "0.25", far.Gear)
}

// Speeds are told in the units of the country, and a drive by both its outputs, as near as a
// horsepower is to three quarters of a kilowatt.
func TestUnitsOfTheCountry(t *testing.T) {
	us, uk := drive.MaterialsAt(60), drive.MaterialsAt(50)
	for i, m := range drive.Materials {
		assert.Contains(t, us[i].Speed, "surface ft/min")
		assert.Contains(t, uk[i].Speed, "m/min")
		assert.InDelta(t, m.MetrePerMinute/0.3048, drive.FootPerMinute(m.MetrePerMinute), 2.5)
		assert.Empty(t, m.Speed)
	}
	parts := map[string]float64{
		"½":  0.5,
		"¾":  0.75,
		"1":  1,
		"1½": 1.5,
		"2":  2,
		"3":  3,
		"4":  4,
		"5":  5,
		"7½": 7.5,
		"10": 10,
		"15": 15,
		"20": 20,
		"25": 25,
		"30": 30,
		"40": 40,
	}
	for _, rating := range drive.Ratings {
		_, horse, ok := strings.Cut(strings.TrimSuffix(drive.Rated(rating), " hp"), ", ")
		require.True(t, ok)
		assert.InEpsilon(t, rating/745.7, parts[horse], 0.08, drive.Rated(rating))
	}
	assert.Equal(t, "2.5 kW", drive.Rated(2500))
}
