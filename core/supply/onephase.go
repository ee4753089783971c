package supply

import (
	"math"
	"strconv"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// onePhaseVolts are the columns of onePhaseAmps.
var onePhaseVolts = []float64{115, 200, 208, 230}

// onePhaseAmps are the full-load amps of single-phase motors by horsepower, which size
// their conductors: NEC table 430.248 (US, 2023).
var onePhaseAmps = []struct {
	horses float64
	amps   [4]float64
}{
	{
		1. / 6,
		[4]float64{4.4, 2.5, 2.4, 2.2},
	},
	{1. / 4, [4]float64{5.8, 3.3, 3.2, 2.9}},
	{1. / 3, [4]float64{7.2, 4.1, 4.0, 3.6}},
	{
		1. / 2,
		[4]float64{9.8, 5.6, 5.4, 4.9},
	},
	{3. / 4, [4]float64{13.8, 7.9, 7.6, 6.9}},
	{1, [4]float64{16, 9.2, 8.8, 8}},
	{1.5, [4]float64{20, 11.5, 11, 10}},
	{2, [4]float64{24, 13.8, 13.2, 12}},
	{3, [4]float64{34, 19.6, 18.7, 17}},
	{5, [4]float64{56, 32.2, 30.8, 28}},
	{7.5, [4]float64{80, 46, 44, 40}},
	{10, [4]float64{100, 57.5, 55, 50}},
}

// OnePhaseTableAmps are the table's amps of a single-phase motor of an output in watts on
// a supply: those of the rating that holds it, in the column nearest the volts. ok is
// false where the table ends, and on 50 Hz, which it is not for.
func OnePhaseTableAmps(watts, volts, hertz float64) (amps float64, ok bool) {
	if !quantity.SixtyHertz(hertz) {
		return 0, false
	}
	column := 0
	for i, v := range onePhaseVolts {
		if math.Abs(v-volts) < math.Abs(onePhaseVolts[column]-volts) {
			column = i
		}
	}
	for _, row := range onePhaseAmps {
		if row.horses*quantity.WattsPerHorsepower >= 0.98*watts {
			return row.amps[column], true
		}
	}
	return 0, false
}

// OnePhaseTable is that table, to be read.
func OnePhaseTable() rule.Table {
	t := rule.Table{
		Title:  "Full-load amps of single-phase motors",
		Source: "NEC 430.248 (US, 2023): for conductors; overloads go by the plate",
		Head:   []string{"hp"},
		Rows:   [][]string{},
	}
	figure := func(v float64) string { return strconv.FormatFloat(v, 'g', 4, 64) }
	for _, v := range onePhaseVolts {
		t.Head = append(t.Head, figure(v)+" V")
	}
	for _, row := range onePhaseAmps {
		line := []string{quantity.Horsepower(row.horses * quantity.WattsPerHorsepower)}
		for _, amps := range row.amps {
			line = append(line, figure(amps))
		}
		t.Rows = append(t.Rows, line)
	}
	return t
}
