package supply

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// The materials of conductors.
const (
	Copper    = "copper"
	Aluminium = "aluminium"
)

// Laid is a circuit's conductors and how they are laid: their size, material, the temperature in
// °C that their insulation bears, the method by IEC 60364-5-52, how many circuits lie together,
// and the air around them in °C. What is zero or empty is the usual.
type Laid struct {
	Size        string  `json:"size,omitempty" maxLength:"20"`
	Material    string  `json:"material,omitempty" enum:",copper,aluminium"`
	InsulationC int     `json:"insulation_celsius,omitempty" minimum:"0" maximum:"90"`
	Method      string  `json:"method,omitempty" enum:",A1,A2,B1,B2,C"`
	Grouped     int     `json:"grouped,omitempty" minimum:"0" maximum:"20"`
	AirC        float64 `json:"air_celsius,omitempty" minimum:"0" maximum:"60"`
}

// usualAirC is the air that the tables are for.
const usualAirC = 30

// awg are conductors in raceway or cable, not more than three that carry current, by the 60, 75
// and 90 °C columns of NEC 310.16 (US, 2023); their ohms a thousand feet at 75 °C are those of
// chapter 9, table 8, uncoated.
type awg struct {
	size      string
	copper    [3]float64
	ohm       float64
	aluminium [3]float64 // zero where there is none
	alOhm     float64
}

var gauges = []awg{
	{"14 AWG", [3]float64{15, 20, 25}, 3.14, [3]float64{}, 0},
	{"12 AWG", [3]float64{20, 25, 30}, 1.98, [3]float64{15, 20, 25}, 3.25},
	{"10 AWG", [3]float64{30, 35, 40}, 1.24, [3]float64{25, 30, 35}, 2.04},
	{"8 AWG", [3]float64{40, 50, 55}, 0.778, [3]float64{35, 40, 45}, 1.28},
	{"6 AWG", [3]float64{55, 65, 75}, 0.491, [3]float64{40, 50, 55}, 0.808},
	{"4 AWG", [3]float64{70, 85, 95}, 0.308, [3]float64{55, 65, 75}, 0.508},
	{"3 AWG", [3]float64{85, 100, 115}, 0.245, [3]float64{65, 75, 85}, 0.403},
	{"2 AWG", [3]float64{95, 115, 130}, 0.194, [3]float64{75, 90, 100}, 0.319},
	{"1 AWG", [3]float64{110, 130, 145}, 0.154, [3]float64{85, 100, 115}, 0.253},
	{"1/0 AWG", [3]float64{125, 150, 170}, 0.122, [3]float64{100, 120, 135}, 0.201},
	{"2/0 AWG", [3]float64{145, 175, 195}, 0.0967, [3]float64{115, 135, 150}, 0.159},
	{"3/0 AWG", [3]float64{165, 200, 225}, 0.0766, [3]float64{130, 155, 175}, 0.126},
	{"4/0 AWG", [3]float64{195, 230, 260}, 0.0608, [3]float64{150, 180, 205}, 0.100},
	{"250 kcmil", [3]float64{215, 255, 290}, 0.0515, [3]float64{170, 205, 230}, 0.0847},
	{"300 kcmil", [3]float64{240, 285, 320}, 0.0429, [3]float64{195, 230, 260}, 0.0707},
	{"350 kcmil", [3]float64{260, 310, 350}, 0.0367, [3]float64{210, 250, 280}, 0.0605},
	{"400 kcmil", [3]float64{280, 335, 380}, 0.0321, [3]float64{225, 270, 305}, 0.0529},
	{"500 kcmil", [3]float64{320, 380, 430}, 0.0258, [3]float64{260, 310, 350}, 0.0424},
}

// The columns of NEC 310.16, and by which the amps are corrected in other air, in bands of 5 °C
// from 10 on (310.15(B)(1)(1)); 0 for not at all.
var (
	columns = [3]int{60, 75, 90}
	warmUS  = map[int][]float64{
		60: {1.29, 1.22, 1.15, 1.08, 1, 0.91, 0.82, 0.71, 0.58, 0.41, 0},
		75: {1.20, 1.15, 1.11, 1.05, 1, 0.94, 0.88, 0.82, 0.75, 0.67, 0.58},
		90: {1.15, 1.12, 1.08, 1.04, 1, 0.96, 0.91, 0.87, 0.82, 0.76, 0.71},
	}
)

// millimetres are two loaded conductors by the methods of IEC 60364-5-52, in the order of methods,
// PVC (70 °C, table B.52.2) and cross-linked (90 °C, B.52.3); ohms a kilometre at 20 °C by IEC
// 60228, class 2.
type millimetre struct {
	size    string
	pvc, xl [5]float64
	ohm     float64
	alPVC   [5]float64
	alOhm   float64
}

// methods are those ways of laying.
var methods = [5]string{"A1", "A2", "B1", "B2", "C"}

var sections = []millimetre{
	{"1.5 mm²", [5]float64{14.5, 14, 17.5, 16.5, 19.5}, [5]float64{19, 18.5, 23, 22, 24}, 12.1, [5]float64{}, 0},
	{"2.5 mm²", [5]float64{19.5, 18.5, 24, 23, 27}, [5]float64{26, 25, 31, 30, 33}, 7.41, [5]float64{}, 0},
	{"4 mm²", [5]float64{26, 25, 32, 30, 36}, [5]float64{35, 33, 42, 40, 45}, 4.61, [5]float64{}, 0},
	{"6 mm²", [5]float64{34, 32, 41, 38, 46}, [5]float64{45, 42, 54, 51, 58}, 3.08, [5]float64{}, 0},
	{"10 mm²", [5]float64{46, 43, 57, 52, 63}, [5]float64{61, 57, 75, 69, 80}, 1.83, [5]float64{}, 0},
	{"16 mm²", [5]float64{61, 57, 76, 69, 85}, [5]float64{81, 76, 100, 91, 107}, 1.15,
		[5]float64{48, 44, 60, 54, 66}, 1.91},
	{"25 mm²", [5]float64{80, 75, 101, 90, 112}, [5]float64{106, 99, 133, 119, 138}, 0.727,
		[5]float64{63, 58, 79, 71, 83}, 1.20},
	{"35 mm²", [5]float64{99, 92, 125, 111, 138}, [5]float64{131, 121, 164, 146, 171}, 0.524,
		[5]float64{77, 71, 97, 86, 103}, 0.868},
	{"50 mm²", [5]float64{119, 110, 151, 133, 168}, [5]float64{158, 145, 198, 175, 209}, 0.387,
		[5]float64{93, 86, 118, 104, 125}, 0.641},
	{"70 mm²", [5]float64{151, 139, 192, 168, 213}, [5]float64{200, 183, 253, 221, 269}, 0.268,
		[5]float64{118, 108, 150, 131, 160}, 0.443},
	{"95 mm²", [5]float64{182, 167, 232, 201, 258}, [5]float64{241, 220, 306, 265, 328}, 0.193,
		[5]float64{142, 130, 181, 157, 195}, 0.320},
}

// By which amps are corrected in other air in steps of 5 °C from 10 on (IEC 60364-5-52, table
// B.52.14), and where circuits lie together (B.52.17, bunched), from one on.
var (
	warmIEC = map[int][]float64{
		70: {1.22, 1.17, 1.12, 1.06, 1, 0.94, 0.87, 0.79, 0.71, 0.61, 0.50},
		90: {1.15, 1.12, 1.08, 1.04, 1, 0.96, 0.91, 0.87, 0.82, 0.76, 0.71},
	}
	groupIEC = []float64{1, 0.80, 0.70, 0.65, 0.60, 0.57, 0.54, 0.52, 0.50, 0.50, 0.50, 0.45, 0.45, 0.45, 0.45, 0.41,
		0.41, 0.41, 0.41, 0.38}
)

// warmer is the correction for air in a table of steps of 5 °C from 10 on.
func warmer(table []float64, air float64) float64 {
	step := int(math.Ceil((math.Max(air, 10) - 10) / 5))
	return table[min(step, len(table)-1)]
}

// groupUS is by which amps are corrected for so many circuits of two conductors in one raceway
// (NEC 310.15(C)(1)).
func groupUS(circuits int) float64 {
	switch n := 2 * circuits; {
	case n <= 3:
		return 1
	case n <= 6:
		return 0.80
	case n <= 9:
		return 0.70
	case n <= 20:
		return 0.50
	case n <= 30:
		return 0.45
	}
	return 0.40
}

// Carried is what conductors carry, in amps, what their breaker may be at most where a rule of
// small conductors says so, 0 for none, ohms of one a metre, and how that comes about.
type Carried struct {
	Amps, Most float64
	Ohm        complex128
	By         string
}

// small is the most that protects a small conductor: NEC 240.4(D) (US, 2023).
var small = map[string]map[string]float64{
	Copper: {"14 AWG": 15, "12 AWG": 20, "10 AWG": 30}, Aluminium: {"12 AWG": 15, "10 AWG": 25},
}

// Carries is what the conductors carry on a supply of so many hertz; ok is false where their
// table does not have them.
func (l Laid) Carries(hertz float64) (c Carried, ok bool) {
	if l.AirC == 0 {
		l.AirC = usualAirC
	}
	if l.Material == "" {
		l.Material = Copper
	}
	l.Grouped = max(1, l.Grouped)
	if quantity.SixtyHertz(hertz) {
		return l.american()
	}
	return l.international()
}

// american is by the NEC: from the column of the insulation, corrected for air and company, and no
// more than the column that terminals are for, 60 °C up to 1 AWG and 75 beyond (110.14(C)(1)).
func (l Laid) american() (c Carried, ok bool) {
	if l.InsulationC == 0 {
		l.InsulationC = 90
	}
	own := -1
	for i, celsius := range columns {
		if celsius == l.InsulationC {
			own = i
		}
	}
	if own < 0 {
		return c, false
	}
	for i, g := range gauges {
		if g.size != l.Size {
			continue
		}
		amps, ohm := g.copper, g.ohm
		if l.Material == Aluminium {
			amps, ohm = g.aluminium, g.alOhm
		}
		if amps[0] == 0 {
			return c, false
		}
		terminal := 0
		if i > 8 { // past 1 AWG
			terminal = 1
		}
		air, group := warmer(warmUS[l.InsulationC], l.AirC), groupUS(l.Grouped)
		corrected := amps[own] * air * group
		c.Amps = math.Min(corrected, amps[min(terminal, own)])
		c.By = fmt.Sprintf("%s %s, %d °C insulation: %g A", l.Size, l.Material, l.InsulationC, amps[own])
		c.By += corrections(air, group)
		if c.Amps < corrected {
			c.By += fmt.Sprintf(", no more than %g A by its terminals", c.Amps)
		}
		c.By += ": NEC 310.16, 310.15, 110.14(C) (US, 2023)"
		c.Most = small[l.Material][l.Size]
		c.Ohm = complex(ohm*kilometre, reactance) / 1000
		return c, true
	}
	return c, false
}

// international is by IEC 60364-5-52: two loaded conductors, the method's amps, corrected.
func (l Laid) international() (c Carried, ok bool) {
	if l.InsulationC == 0 {
		l.InsulationC = 70
	}
	if l.Method == "" {
		l.Method = "B1"
	}
	way := -1
	for i, m := range methods {
		if m == l.Method {
			way = i
		}
	}
	table, known := warmIEC[l.InsulationC]
	if way < 0 || !known {
		return c, false
	}
	for _, s := range sections {
		if s.size != l.Size {
			continue
		}
		amps, ohm, source := s.pvc[way], s.ohm, "B.52.2"
		switch {
		case l.Material == Aluminium && l.InsulationC == 70:
			amps, ohm = s.alPVC[way], s.alOhm
		case l.Material == Aluminium:
			amps = 0
		case l.InsulationC == 90:
			amps, source = s.xl[way], "B.52.3"
		}
		if amps == 0 {
			return c, false
		}
		air, group := warmer(table, l.AirC), groupIEC[min(l.Grouped, len(groupIEC))-1]
		c.Amps = amps * air * group
		c.By = fmt.Sprintf("%s %s, method %s, %d °C: %g A", l.Size, l.Material, l.Method, l.InsulationC, amps)
		c.By += corrections(air, group) + ": IEC 60364-5-52, tables " + source + ", B.52.14, B.52.17"
		c.Ohm = complex(ohm*(1+alpha*float64(l.InsulationC-20)), reactance) / 1000
		return c, true
	}
	return c, false
}

// alpha is by how much ohms grow with each degree, copper and aluminium alike within 3 percent.
const alpha = 0.00393

func corrections(air, group float64) (text string) {
	if air != 1 {
		text += fmt.Sprintf(" × %g for its air", air)
	}
	if group != 1 {
		text += fmt.Sprintf(" × %g for its company", group)
	}
	return text
}

// Sizes are the sizes of conductors for a frequency, the thinnest first.
func Sizes(hertz float64) (list []string) {
	if quantity.SixtyHertz(hertz) {
		for _, g := range gauges {
			list = append(list, g.size)
		}
		return list
	}
	for _, s := range sections {
		list = append(list, s.size)
	}
	return list
}

// Insulations are the temperatures in °C that insulation is made for.
func Insulations(hertz float64) []int {
	if quantity.SixtyHertz(hertz) {
		return columns[:]
	}
	return []int{70, 90}
}

// Methods are the ways of laying that the tables know, none on 60 Hz.
func Methods(hertz float64) []string {
	if quantity.SixtyHertz(hertz) {
		return nil
	}
	return methods[:]
}

// LaidTables are the tables, to be read.
func LaidTables() []rule.Table {
	us := rule.Table{
		Title: "Conductors in raceway or cable, A", Source: "NEC 310.16 (US, 2023): 30 °C, not more than three loaded",
		Head: []string{"Size", "Cu 60 °C", "Cu 75 °C", "Cu 90 °C", "Al 60 °C", "Al 75 °C", "Al 90 °C", "Cu Ω/kft"},
		Rows: [][]string{},
	}
	figure := func(v float64) string {
		if v == 0 {
			return "–"
		}
		return strconv.FormatFloat(v, 'g', 4, 64)
	}
	for _, g := range gauges {
		row := []string{g.size}
		for _, v := range append(append([]float64{}, g.copper[:]...), g.aluminium[:]...) {
			row = append(row, figure(v))
		}
		us.Rows = append(us.Rows, append(row, figure(g.ohm)))
	}
	tables := []rule.Table{us}
	for _, t := range []struct {
		title, source string
		of            func(millimetre) [5]float64
	}{
		{"Copper, PVC 70 °C, A", "IEC 60364-5-52, table B.52.2", func(s millimetre) [5]float64 { return s.pvc }},
		{"Copper, cross-linked 90 °C, A", "IEC 60364-5-52, table B.52.3",
			func(s millimetre) [5]float64 { return s.xl }},
		{"Aluminium, PVC 70 °C, A", "IEC 60364-5-52, table B.52.2", func(s millimetre) [5]float64 { return s.alPVC }},
	} {
		table := rule.Table{Title: t.title, Source: t.source + ": two loaded, 30 °C",
			Head: append([]string{"Size"}, strings.Split("A1 A2 B1 B2 C", " ")...), Rows: [][]string{}}
		for _, s := range sections {
			row := []string{s.size}
			for _, v := range t.of(s) {
				row = append(row, figure(v))
			}
			if row[1] != "–" {
				table.Rows = append(table.Rows, row)
			}
		}
		tables = append(tables, table)
	}
	return tables
}
