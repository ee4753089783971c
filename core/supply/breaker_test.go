package supply_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/supply"
)

// The least standard rating by the lists of both standards: what holds 125 percent in the US,
// what is no less than the load's amps elsewhere.
func TestBreaker(t *testing.T) {
	for _, c := range []struct{ amps, hertz, want float64 }{
		{0.5, 60, 15}, {12, 60, 15}, {12.01, 60, 20}, {28, 60, 35}, {40, 60, 50}, {40.1, 60, 60}, {160, 60, 200},
		{161, 60, 0}, {4.8, 50, 6}, {6, 50, 6}, {6.1, 50, 10}, {10, 50, 10}, {17.4, 50, 20}, {50.4, 50, 63},
		{125, 50, 125}, {126, 50, 0},
	} {
		got, ok := supply.Breaker(c.amps, c.hertz)
		assert.InDelta(t, c.want, got, 1e-12, "%g A at %g Hz", c.amps, c.hertz)
		assert.Equal(t, c.want > 0, ok)
		if ok {
			assert.GreaterOrEqual(t, got, supply.Spare(c.hertz)*c.amps)
			conductors, breaker, _ := supply.Feed(c.amps, c.hertz)
			assert.InDelta(t, got, breaker, 1e-12)
			assert.InDelta(t, map[bool]float64{true: 1.25 * c.amps, false: got}[c.hertz == 60], conductors, 1e-12)
		}
	}
}

// A breaker's curve is the quickest that a start does not set off.
func TestCurve(t *testing.T) {
	for _, c := range []struct {
		rating, starting, hertz float64
		want                    string
	}{
		{20, 60, 50, "B"}, {20, 61, 50, "C"}, {20, 100, 50, "C"}, {20, 101, 50, "D"}, {20, 200, 50, "D"},
		{20, 201, 50, ""},
		{20, 60, 60, ""},
	} {
		assert.Equal(
			t,
			c.want,
			supply.Curve(c.rating, c.starting, c.hertz),
			"%g A starting on %g",
			c.starting,
			c.rating,
		)
	}
}

// The table's amps are those of the next rating, in the column nearest the supply's volts.
func TestOnePhaseTableAmps(t *testing.T) {
	const hp = 745.7
	for _, c := range []struct{ watts, volts, hertz, want float64 }{
		{3 * hp, 240, 60, 17}, {3 * hp, 208, 60, 18.7}, {1 * hp, 120, 60, 16}, {2.2 * hp, 230, 60, 17}, {0.1 * hp, 230,
			60, 2.2}, {10 * hp, 230, 60, 50}, {11 * hp, 230, 60, 0}, {3 * hp, 230, 50, 0},
	} {
		got, ok := supply.OnePhaseTableAmps(c.watts, c.volts, c.hertz)
		assert.InDelta(t, c.want, got, 1e-12, "%.0f W on %g V", c.watts, c.volts)
		assert.Equal(t, c.want > 0, ok)
	}
	table := supply.OnePhaseTable()
	for i, row := range table.Rows {
		assert.Len(t, row, len(table.Head))
		var last float64 // at 230 V
		for k := range row[1:] {
			amps, err := strconv.ParseFloat(row[len(row)-1-k], 64)
			assert.NoError(t, err)
			// The table's columns are of one apparent power: a tenth more at 208 V than at
			// 230, 15 percent more at 200, twice at 115.
			if k == 0 {
				last = amps
			}
			assert.InDelta(t, last*[]float64{1, 1.1, 1.15, 2}[k], amps, 0.051, "row %d", i)
		}
	}
}
