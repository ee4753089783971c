package supply_test

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"brackmoor/core/rule"
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
		got, ok := supply.CodeOf(c.hertz, nil).Breaker(c.amps)
		assert.InDelta(t, c.want, got, 1e-12, "%g A at %g Hz", c.amps, c.hertz)
		assert.Equal(t, c.want > 0, ok)
		if ok {
			assert.GreaterOrEqual(t, got, supply.CodeOf(c.hertz, nil).Spare()*c.amps)
			conductors, breaker, _ := supply.CodeOf(c.hertz, nil).Feed(c.amps, supply.Carry{})
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
		got, ok := supply.CodeOf(c.hertz, nil).OnePhaseTableAmps(c.watts, c.volts)
		assert.InDelta(t, c.want, got, 1e-12, "%.0f W on %g V", c.watts, c.volts)
		assert.Equal(t, c.want > 0, ok)
	}
	for _, table := range codeTables("us-one-phase", "us-three-phase") {
		for i, row := range table.Rows {
			assert.Len(t, row, len(table.Head))
			amps := func(volts string) float64 {
				at := slices.Index(table.Head, volts+" V")
				if at < 0 || row[at] == "–" {
					return 0
				}
				value, err := strconv.ParseFloat(row[at], 64)
				assert.NoError(t, err)
				return value
			}
			// The table's columns are of one apparent power: a tenth more at 208 V than at 230,
			// 15 percent more at 200, twice at 115, half at 460.
			for volts, times := range map[string]float64{"115": 2, "200": 1.15, "208": 1.1, "460": 0.5} {
				if got := amps(volts); got > 0 {
					assert.InDelta(t, times*amps("230"), got, 0.051+0.006*got, "%s, row %d", table.Title, i)
				}
			}
		}
	}
}

// A phase converter without a plate is fed for two and a half times the table's three-phase
// amps, and by a breaker of the next size, under the US code alone.
func TestConvertersAreFedByTheTable(t *testing.T) {
	const hp = 745.7
	for _, c := range []struct{ watts, amps, breaker float64 }{
		{3 * hp, 24, 25}, {5 * hp, 38, 40}, {7.5 * hp, 55, 60}, {10 * hp, 70, 70}, {0.5 * hp, 5.5, 15},
	} {
		us := supply.CodeOf(60, nil)
		code := us.Converter(c.watts, 240)
		assert.InDelta(t, c.amps, code.Amps, 1e-9)
		conductors, breaker, ok := us.Feed(1, code)
		assert.True(t, ok)
		assert.InDelta(t, c.amps, conductors, 1e-9)
		assert.InDelta(t, c.breaker, breaker, 1e-9)
		conductors, _, _ = us.Feed(c.amps, code)
		assert.InDelta(t, 1.25*c.amps, conductors, 1e-9, "what it takes, where that is more")
		assert.Zero(t, supply.CodeOf(50, nil).Converter(c.watts, 240))
		assert.Contains(t, code.By, "455.6(A)(2)")
	}
}

// A breaker that a start trips may go to two and a half times the table's amps, or the next size.
func TestMostForStart(t *testing.T) {
	const hp = 745.7
	for _, c := range []struct{ horses, hertz, want float64 }{
		{3, 60, 45}, {5, 60, 70}, {1, 60, 20}, {3, 50, 0}, {12, 60, 0},
	} {
		got, ok := supply.CodeOf(c.hertz, nil).MostForStart(c.horses*hp, 230)
		assert.Equal(t, c.want > 0, ok)
		assert.InDelta(t, c.want, got, 1e-9, "%g hp", c.horses)
	}
}

// A conductor is the least of its list that carries the amps: AWG in the US, square millimetres
// elsewhere; amps grow with size, and from size to size by no more than the copper does.
func TestConductor(t *testing.T) {
	for _, c := range []struct {
		amps, hertz float64
		want        string
	}{
		{12, 60, "14 AWG"}, {15.1, 60, "12 AWG"}, {24, 60, "10 AWG"}, {38, 60, "8 AWG"}, {196, 60, ""},
		{16, 50, "1.5 mm²"}, {20, 50, "2.5 mm²"}, {32, 50, "4 mm²"}, {63, 50, "16 mm²"}, {233, 50, ""},
	} {
		r, _ := supply.CodeOf(c.hertz, nil).Over(0, c.amps, 240, [2]float64{c.amps}, [2]float64{3, 10})
		assert.Equal(t, c.want, r.Size, "%g A at %g Hz", c.amps, c.hertz)
	}
	// Copper by the gauge's definition, 0.127 mm at 36, 92 steps to the 39th power of 92.
	area := func(size string) float64 {
		if millimetres, ok := strings.CutSuffix(size, " mm²"); ok {
			value, _ := strconv.ParseFloat(millimetres, 64)
			return value
		}
		gauge, _ := strings.CutSuffix(size, " AWG")
		number, err := strconv.Atoi(gauge)
		if zeros, ok := strings.CutSuffix(gauge, "/0"); ok {
			number, err = strconv.Atoi(zeros)
			number = 1 - number
		}
		assert.NoError(t, err)
		return math.Pi / 4 * math.Pow(0.127*math.Pow(92, (36-float64(number))/39), 2)
	}
	for _, hertz := range []float64{60, 50} {
		rows := plainConductors(hertz)
		// Copper of 1/58 Ω·mm²/m at 20 °C, as warm as its table has it. Strands take a little more,
		// and those that are called 50 mm² have 47.
		warm, most := 1+0.00393*50, 1.13
		if hertz == 60 {
			warm, most = 1+0.00393*55, 1.03
		}
		for i, row := range rows {
			by := row.ohms * area(row.size) / (1000 / 58.0 * warm)
			assert.True(t, by > 0.99 && by < most, "%s: %g", row.size, by)
			if i > 0 {
				assert.Greater(t, row.amps, rows[i-1].amps)
				assert.LessOrEqual(t, row.amps/rows[i-1].amps, 1.001*area(row.size)/area(rows[i-1].size), row.size)
			}
		}
	}
}

// codeTables are those tables of codes.
func codeTables(names ...string) (list []rule.Table) {
	for _, t := range supply.CodeTables() {
		if slices.Contains(names, t.Name) {
			list = append(list, t)
		}
	}
	return list
}

type plainConductor struct {
	size       string
	amps, ohms float64
}

// plainConductors are copper as the tables have it where nothing is said of how it is laid, its ohms a
// kilometre as warm as that makes it.
func plainConductors(hertz float64) (list []plainConductor) {
	name, column, perKM := "iec-pvc", "B1", 1+0.00393*50
	if hertz == 60 {
		name, column, perKM = "us-conductors", "Cu 60 °C", 1000/304.8
	}
	t := codeTables(name)[0]
	at := slices.Index(t.Head, column)
	for _, row := range t.Rows {
		amps, _ := strconv.ParseFloat(row[at], 64)
		ohms, _ := strconv.ParseFloat(row[len(row)-1], 64)
		if row[0] == "250 kcmil" {
			break
		}
		list = append(list, plainConductor{row[0], amps, perKM * ohms})
	}
	return list
}

// The conductor of a run is the first of its table that carries the amps and loses no more than it
// may, by the table as it is printed; where none does it is the largest.
func TestOver(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sixty := rapid.Bool().Draw(t, "sixty")
		hertz := 50.0
		if sixty {
			hertz = 60
		}
		metres := rapid.Float64Range(0, 300).Draw(t, "metres")
		amps := rapid.Float64Range(1, 120).Draw(t, "amps")
		start := amps * rapid.Float64Range(0, 7).Draw(t, "start")
		carry := amps * rapid.Float64Range(1, 1.5).Draw(t, "carry")
		r, ok := supply.CodeOf(hertz, nil).Over(metres, carry, 240, [2]float64{amps, start}, [2]float64{3, 10})
		by, size := "", ""
		for _, row := range plainConductors(hertz) {
			ohms := row.ohms
			if row.amps < carry {
				continue
			}
			if by == "" {
				by = row.size
			}
			size = row.size
			lost := 2 * metres / 1000 * math.Hypot(ohms, 0.08) / 2.40
			close := func(share, most float64) bool { return math.Abs(share-most) < 0.01*most }
			if close(lost*amps, 3) || close(lost*start, 10) {
				t.Skip("the printed ohms do not tell")
			}
			if lost*amps < 3 && lost*start < 10 {
				break
			}
		}
		assert.Equal(t, by != "", ok)
		assert.Equal(t, size, r.Size)
		if by == size {
			by = ""
		}
		assert.Equal(t, by, r.By)
		assert.Equal(t, r.Running > 3 || r.Starting > 10, r.Poor)
	})
}
