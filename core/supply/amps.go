package supply

import (
	"fmt"
	"math"
	"strconv"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// ratedAmps is a code's table of full-load amps by horsepower, in columns of volts, 0 where
// it has none.
type ratedAmps struct {
	name, title, source string
	volts               []float64
	rows                []ratedRow
}

type ratedRow struct {
	horses float64
	amps   []float64
}

// Full-load amps by which the NEC sizes conductors (US, 2023).
var (
	onePhase = ratedAmps{
		"us-one-phase",
		"Full-load amps of single-phase motors",
		"NEC 430.248 (US, 2023): for conductors; overloads go by the plate",
		[]float64{115, 200, 208, 230},
		[]ratedRow{
			{1. / 6, []float64{4.4, 2.5, 2.4, 2.2}},
			{1. / 4, []float64{5.8, 3.3, 3.2, 2.9}},
			{1. / 3, []float64{7.2, 4.1, 4.0, 3.6}},
			{1. / 2, []float64{9.8, 5.6, 5.4, 4.9}},
			{3. / 4, []float64{13.8, 7.9, 7.6, 6.9}},
			{1, []float64{16, 9.2, 8.8, 8}},
			{1.5, []float64{20, 11.5, 11, 10}},
			{2, []float64{24, 13.8, 13.2, 12}},
			{3, []float64{34, 19.6, 18.7, 17}},
			{5, []float64{56, 32.2, 30.8, 28}},
			{7.5, []float64{80, 46, 44, 40}},
			{10, []float64{100, 57.5, 55, 50}},
		},
	}
	threePhase = ratedAmps{
		"us-three-phase",
		"Full-load amps of three-phase motors",
		"NEC 430.250 (US, 2023): for conductors; overloads go by the plate",
		[]float64{115, 200, 208, 230, 460},
		[]ratedRow{
			{0.5, []float64{4.4, 2.5, 2.4, 2.2, 1.1}},
			{0.75, []float64{6.4, 3.7, 3.5, 3.2, 1.6}},
			{1, []float64{8.4, 4.8, 4.6, 4.2, 2.1}},
			{1.5, []float64{12, 6.9, 6.6, 6, 3}},
			{2, []float64{13.6, 7.8, 7.5, 6.8, 3.4}},
			{3, []float64{0, 11, 10.6, 9.6, 4.8}},
			{5, []float64{0, 17.5, 16.7, 15.2, 7.6}},
			{7.5, []float64{0, 25.3, 24.2, 22, 11}},
			{10, []float64{0, 32.2, 30.8, 28, 14}},
			{15, []float64{0, 48.3, 46.2, 42, 21}},
			{20, []float64{0, 62.1, 59.4, 54, 27}},
			{25, []float64{0, 78.2, 74.8, 68, 34}},
			{30, []float64{0, 92, 88, 80, 40}},
			{40, []float64{0, 120, 114, 104, 52}},
		},
	}
)

// head is the head of a column.
func (t ratedAmps) head(column int) string {
	return strconv.FormatFloat(t.volts[column], 'g', 4, 64) + " V"
}

// head is that of the row.
func (r ratedRow) head() string { return quantity.Horsepower(r.horses * quantity.WattsPerHorsepower) }

// table is the table's amps of the rating that holds an output in watts, in the column nearest
// the volts; ok is false where the table ends, and on 50 Hz, which it is not for.
func (c Code) table(t ratedAmps, watts, volts float64) (amps float64, own, ok bool) {
	if !quantity.SixtyHertz(c.hertz) {
		return 0, false, false
	}
	column := 0
	for i, v := range t.volts {
		if math.Abs(v-volts) < math.Abs(t.volts[column]-volts) {
			column = i
		}
	}
	for _, row := range t.rows {
		if row.horses*quantity.WattsPerHorsepower >= 0.98*watts {
			amps, own = c.figure(t.name, row.head(), t.head(column), row.amps[column])
			return amps, own, amps > 0
		}
	}
	return 0, false, false
}

// OnePhaseTableAmps are the table's amps of a single-phase motor of an output in watts on
// a supply.
func (c Code) OnePhaseTableAmps(watts, volts float64) (amps float64, ok bool) {
	amps, _, ok = c.table(onePhase, watts, volts)
	return amps, ok
}

// ThreePhaseTableAmps are the table's amps of a three-phase motor of an output in watts; ok is
// false where the table ends and on 50 Hz.
func (c Code) ThreePhaseTableAmps(watts, volts float64) (amps float64, ok bool) {
	amps, _, ok = c.table(threePhase, watts, volts)
	return amps, ok
}

// Carry is what a code has the conductors of a way carry at least, in amps, and by which rule.
type Carry struct {
	Amps float64
	By   string
}

// Motor is what conductors carry of a single-phase motor, by its table.
func (c Code) Motor(watts, volts float64) Carry {
	amps, own, ok := c.table(onePhase, watts, volts)
	if !ok {
		return Carry{}
	}
	percent, source := c.percent(oneMotor)
	return Carry{percent / 100 * amps, fmt.Sprintf("%.0f %% of %s A, %s: %s", percent,
		quantity.Figures(amps, 3), by(own, "the table’s, 430.248"), source)}
}

// Converter is what conductors carry that feed a phase converter without a plate of its own,
// for a three-phase motor of an output in watts on the supply's own volts; it is the most of
// its breaker too, the next standard size allowed.
func (c Code) Converter(watts, volts float64) Carry {
	amps, own, ok := c.table(threePhase, watts, volts)
	if !ok {
		return Carry{}
	}
	percent, source := c.percent(converter)
	return Carry{percent / 100 * amps, fmt.Sprintf("%.0f %% of %s A three-phase, %s, without a plate: %s", percent,
		quantity.Figures(amps, 3), by(own, "the table’s, 430.250"), source)}
}

// ConverterAmps are what conductors carry of a phase converter without a plate of its own, by the
// sum of its loads' table amps, and by which rule.
func (c Code) ConverterAmps(table float64) Carry {
	percent, source := c.percent(converter)
	return Carry{percent / 100 * table, fmt.Sprintf("%.0f %% of %s A, the table’s amps of its loads, 430.250: %s",
		percent, quantity.Figures(table, 3), source)}
}

func ampsTables() (list []rule.Table) {
	figure := func(v float64) string { return strconv.FormatFloat(v, 'g', 4, 64) }
	for _, from := range []ratedAmps{onePhase, threePhase, onePhaseLocked, threePhaseLocked} {
		t := rule.Table{
			Name:   from.name,
			Title:  from.title,
			Source: from.source,
			Head:   []string{"hp"},
			Rows:   [][]string{},
		}
		for i := range from.volts {
			t.Head = append(t.Head, from.head(i))
		}
		t.Open = t.Head[1:]
		for _, row := range from.rows {
			line := []string{row.head()}
			for _, amps := range row.amps {
				if amps == 0 {
					line = append(line, "–")
				} else {
					line = append(line, figure(amps))
				}
			}
			t.Rows = append(t.Rows, line)
		}
		list = append(list, t)
	}
	return list
}
