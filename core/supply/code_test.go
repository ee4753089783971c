package supply_test

import (
	"math"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/supply"
)

// Every figure of a code that is open to a shop's own can be replaced within ten times either way, and
// none twice, elsewhere, or further off.
func TestEveryOpenFigureCanBeReplaced(t *testing.T) {
	var all []supply.Figure
	for _, table := range supply.CodeTables() {
		assert.NotEmpty(t, table.Name)
		assert.NotEmpty(t, table.Source)
		for _, row := range table.Rows {
			require.Len(t, row, len(table.Head))
			for _, column := range table.Open {
				printed, err := strconv.ParseFloat(row[slices.Index(table.Head, column)], 64)
				if err == nil {
					all = append(
						all,
						supply.Figure{Table: table.Name, Row: row[0], Column: column, Value: 1.1 * printed},
					)
				}
			}
		}
	}
	assert.Greater(t, len(all), 250)
	assert.Empty(t, supply.CheckFigures(all))
	first := all[0]
	for _, bad := range []supply.Figure{
		first, {Table: first.Table, Row: "no row", Column: first.Column, Value: 1},
		{Table: "no table", Row: first.Row, Column: first.Column, Value: 1},
		{Table: first.Table, Row: first.Row, Column: "By", Value: 1},
		{Table: first.Table, Row: all[1].Row, Column: all[1].Column, Value: 11 * all[1].Value},
		{Table: "us-conductors", Row: "14 AWG", Column: "Al 60 °C", Value: 15},
	} {
		assert.Len(t, supply.CheckFigures([]supply.Figure{first, bad}), 1, "%v", bad)
	}
}

// A shop's own figure counts where it stands and nowhere else, and the answer says whose it is.
func TestOwnFiguresCount(t *testing.T) {
	for _, c := range []struct {
		hertz float64
		own   supply.Figure
		of    func(supply.Code) (float64, string)
		want  float64
	}{
		{60, supply.Figure{Table: "us-conductors", Row: "10 AWG", Column: "Cu 60 °C", Value: 28},
			func(c supply.Code) (float64, string) {
				x, _ := c.Carries(supply.Laid{Size: "10 AWG"})
				return x.Amps, x.By
			}, 28},
		{50, supply.Figure{Table: "iec-pvc", Row: "4 mm²", Column: "B1", Value: 30},
			func(c supply.Code) (float64, string) {
				x, _ := c.Carries(supply.Laid{Size: "4 mm²"})
				return x.Amps, x.By
			}, 30},
		{60, supply.Figure{Table: "us-three-phase", Row: "3", Column: "230 V", Value: 10},
			func(c supply.Code) (float64, string) {
				x := c.Converter(3*745.7, 240)
				return x.Amps, x.By
			}, 25},
		{60, supply.Figure{Table: "us-factors", Row: "Converter without a plate, of its loads’ table amps", Column: "%",
			Value: 200}, func(c supply.Code) (float64, string) {
			x := c.ConverterAmps(26)
			return x.Amps, x.By
		}, 52},
		{60, supply.Figure{Table: "us-factors", Row: "Overload, of plate amps", Column: "%", Value: 110},
			func(c supply.Code) (float64, string) { return c.Overload(1) }, 110},
		{50, supply.Figure{Table: "iec-factors", Row: "An overload opens at, of its setting", Column: "%", Value: 105},
			func(c supply.Code) (float64, string) { return c.OverloadTrips(1) }, 105},
	} {
		require.Empty(t, supply.CheckFigures([]supply.Figure{c.own}), "%v", c.own)
		got, by := c.of(supply.CodeOf(c.hertz, []supply.Figure{c.own}))
		assert.InDelta(t, c.want, got, 1e-9, "%v", c.own)
		assert.Contains(t, by, "the shop’s own figure")
		printed, by := c.of(supply.CodeOf(c.hertz, nil))
		assert.Greater(t, math.Abs(printed-c.want), 1e-9)
		assert.NotContains(t, by, "own")
	}
	us := supply.CodeOf(60, []supply.Figure{{Table: "us-small-conductors", Row: "12 AWG", Column: "Copper", Value: 15}})
	r, ok := us.Over(0, 16, 240, [2]float64{16}, [2]float64{3, 10})
	assert.True(t, ok)
	assert.Equal(t, "10 AWG", r.Size, "what ways are fed by goes by the same tables")
}

// Figures of other places change nothing.
func TestOwnFiguresStayInTheirPlace(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sizes := supply.Sizes(50)
		size, other := rapid.SampledFrom(sizes).Draw(t, "size"), rapid.SampledFrom(sizes).Draw(t, "other")
		own := supply.CodeOf(50, []supply.Figure{{Table: "iec-pvc", Row: other, Column: "C", Value: 1}})
		method := rapid.SampledFrom(supply.Methods(50)).Draw(t, "method")
		l := supply.Laid{Size: size, Method: method}
		got, _ := own.Carries(l)
		printed, _ := supply.CodeOf(50, nil).Carries(l)
		assert.Equal(t, size == other && method == "C", got.Amps != printed.Amps)
	})
}
