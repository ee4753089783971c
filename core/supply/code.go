package supply

import (
	"fmt"
	"slices"
	"strconv"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Figure is a shop's own figure in the place of one of a code's tables: the table's name, the head
// of its row and of its column as they are printed, and the figure in the column's unit.
type Figure struct {
	Table  string  `json:"table" maxLength:"40"`
	Row    string  `json:"row" maxLength:"80"`
	Column string  `json:"column" maxLength:"40"`
	Value  float64 `json:"value" minimum:"0.001" maximum:"10000"`
}

// cell is where a figure stands.
type cell struct{ table, row, column string }

// Code is the tables of a country, by its hertz, with a shop's own figures in the place of those
// that it has replaced.
type Code struct {
	hertz float64
	own   map[cell]float64
}

// CodeOf is the code on a supply of so many hertz.
func CodeOf(hertz float64, own []Figure) Code {
	c := Code{hertz: hertz}
	for _, f := range own {
		if c.own == nil {
			c.own = map[cell]float64{}
		}
		c.own[cell{f.Table, f.Row, f.Column}] = f.Value
	}
	return c
}

// figure is what counts in the place of a printed figure. One that is not printed has none of a
// shop's own.
func (c Code) figure(table, row, column string, printed float64) (value float64, own bool) {
	if value, own = c.own[cell{table, row, column}]; own && printed > 0 {
		return value, true
	}
	return printed, false
}

// by is the source of a figure, or that it is the shop's own.
func by(own bool, source string) string {
	if own {
		return "the shop’s own figure, in the place of " + source
	}
	return source
}

// farthest is how many times a printed figure a shop's own may be, or may go into it: further off is a slip.
const farthest = 10

// CheckFigures says what is wrong with a shop's own figures, each by its place in the list.
func CheckFigures(own []Figure) (problems rule.Problems) {
	seen := map[cell]bool{}
	for i, f := range own {
		at := fmt.Sprintf("[%d]", i)
		k := cell{f.Table, f.Row, f.Column}
		printed, known := printedAt(k)
		switch {
		case !known:
			problems.Say(at, "no table of a code has a figure there that can be replaced")
		case seen[k]:
			problems.Say(at, "%s, %s is replaced twice", f.Row, f.Column)
		case f.Value > farthest*printed || f.Value < printed/farthest:
			problems.Say(at+".value", "%s, %s: between %s and %s, since %s is printed", f.Row, f.Column,
				quantity.Figures(printed/farthest, 3), quantity.Figures(farthest*printed, 3),
				quantity.Figures(printed, 4))
		}
		seen[k] = true
	}
	return problems
}

// printedAt is the figure that is printed at a place of a table that is open to a shop's own.
func printedAt(k cell) (printed float64, ok bool) {
	for _, t := range CodeTables() {
		if t.Name != k.table || !slices.Contains(t.Open, k.column) {
			continue
		}
		column := slices.Index(t.Head, k.column)
		for _, row := range t.Rows {
			if row[0] == k.row {
				printed, err := strconv.ParseFloat(row[column], 64)
				return printed, err == nil && printed > 0
			}
		}
	}
	return 0, false
}

// CodeTables are the tables of codes, to be read and to be replaced in.
func CodeTables() []rule.Table {
	return slices.Concat(factorTables(), ampsTables(), laidTables())
}

// The names of the tables of percents.
const (
	usFactors  = "us-factors"
	iecFactors = "iec-factors"
	percents   = "%"
)

// factor is a percent that a code has, by its row in a table of those.
type factor struct {
	row     string
	percent float64
	source  string
}

// What codes have by percents.
var (
	forHours  = factor{"Conductors and breaker, of amps that flow for hours", 125, "NEC 430.22, 430.122, 455.6(A)(1)"}
	oneMotor  = factor{"Conductors of one motor, of its table amps", 125, "NEC 430.22"}
	converter = factor{"Converter without a plate, of its loads’ table amps", 250, "NEC 455.6(A)(2), 455.7(B)"}
	overload  = factor{"Overload, of plate amps", 115, "NEC 430.32(A)(1)"}
	served    = factor{"Overload at a service factor of 1.15 or more", 125, "NEC 430.32(A)(1)"}
	quick     = factor{"Inverse-time breaker of one motor, of its table amps", 250, "NEC 430.52(C)(1)"}
	delayed   = factor{"Dual-element fuse of one motor, of its table amps", 175, "NEC 430.52(C)(1)"}
	plain     = factor{"Fuse without delay of one motor, of its table amps", 300, "NEC 430.52(C)(1)"}

	overloadIEC = factor{"Overload, of plate amps", 100, "IEC 60204-1, 7.3"}
	opens       = factor{"An overload opens at, of its setting", 120, "IEC 60947-4-1, 8.2.1.5"}
	loop        = factor{"Volts that drive an earth fault, of nominal", 95, "IEC 60364-4-41, 411.4; IEC 60909-0, c-min"}
)

var factors = map[string][]factor{
	usFactors:  {forHours, oneMotor, converter, overload, served, quick, delayed, plain, isolates, converted},
	iecFactors: {overloadIEC, opens, loop},
}

// percent is a factor as it counts, and its source.
func (c Code) percent(f factor) (percent float64, source string) {
	table, edition := iecFactors, ""
	if quantity.SixtyHertz(c.hertz) {
		table, edition = usFactors, " (US, 2023)"
	}
	percent, own := c.figure(table, f.row, percents, f.percent)
	return percent, by(own, f.source+edition)
}

// LoopPercent is how much of the nominal volts drives a fault to earth.
func (c Code) LoopPercent() float64 {
	percent, _ := c.percent(loop)
	return percent
}

func factorTables() (list []rule.Table) {
	for _, t := range []struct{ name, title, source string }{
		{usFactors, "Percents, US", "NEC (US, 2023)"}, {iecFactors, "Percents, IEC", "as beside each"},
	} {
		table := rule.Table{Name: t.name, Title: t.title, Source: t.source, Head: []string{"What", percents, "By"},
			Open: []string{percents}, Rows: [][]string{}}
		for _, f := range factors[t.name] {
			table.Rows = append(table.Rows, []string{f.row, strconv.FormatFloat(f.percent, 'g', 4, 64), f.source})
		}
		list = append(list, table)
	}
	return list
}
