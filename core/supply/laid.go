package supply

import (
	"fmt"
	"math"
	"slices"
	"strconv"

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
	Cord        bool    `json:"cord,omitempty"` // a flexible cord, which only 60 Hz has a table for
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

// The names of the tables of conductors.
const (
	usLaid  = "us-conductors"
	pvcLaid = "iec-pvc"
	xlLaid  = "iec-cross-linked"
	alLaid  = "iec-aluminium"
)

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

// smallUS is the name of the table of small conductors.
const smallUS = "us-small-conductors"

// small is the most that protects a small conductor: NEC 240.4(D) (US, 2023).
var small = map[string]map[string]float64{
	Copper: {"14 AWG": 15, "12 AWG": 20, "10 AWG": 30}, Aluminium: {"12 AWG": 15, "10 AWG": 25},
}

// Carries is what conductors carry, laid so; ok is false where their table does not have them.
func (c Code) Carries(l Laid) (carried Carried, ok bool) {
	if l.AirC == 0 {
		l.AirC = usualAirC
	}
	if l.Material == "" {
		l.Material = Copper
	}
	l.Grouped = max(1, l.Grouped)
	switch sixty := quantity.SixtyHertz(c.hertz); {
	case sixty && l.Cord:
		return c.cord(l)
	case sixty:
		return c.american(l)
	}
	return c.international(l)
}

// usColumn is the head of a column of NEC 310.16.
func usColumn(material string, celsius int) string {
	if material == Aluminium {
		return fmt.Sprintf("Al %d °C", celsius)
	}
	return fmt.Sprintf("Cu %d °C", celsius)
}

// gauge is what conductors of a size carry by a column of NEC 310.16, 0 where there are none.
func (c Code) gauge(g awg, material string, column int) (amps float64, own bool) {
	printed := g.copper
	if material == Aluminium {
		printed = g.aluminium
	}
	return c.figure(usLaid, g.size, usColumn(material, columns[column]), printed[column])
}

// american is by the NEC: from the column of the insulation, corrected for air and company, and no
// more than the column that terminals are for, 60 °C up to 1 AWG and 75 beyond (110.14(C)(1)).
func (c Code) american(l Laid) (carried Carried, ok bool) {
	if l.InsulationC == 0 {
		l.InsulationC = 90
	}
	own := slices.Index(columns[:], l.InsulationC)
	if own < 0 {
		return carried, false
	}
	for i, g := range gauges {
		if g.size != l.Size {
			continue
		}
		ohm := g.ohm
		if l.Material == Aluminium {
			ohm = g.alOhm
		}
		printed, replaced := c.gauge(g, l.Material, own)
		if printed == 0 {
			return carried, false
		}
		terminal := 0
		if i > 8 { // past 1 AWG
			terminal = 1
		}
		air, group := warmer(warmUS[l.InsulationC], l.AirC), groupUS(l.Grouped)
		corrected := printed * air * group
		atTerminals, also := c.gauge(g, l.Material, min(terminal, own))
		carried.Amps = math.Min(corrected, atTerminals)
		carried.By = fmt.Sprintf("%s %s, %d °C insulation: %g A", l.Size, l.Material, l.InsulationC, printed)
		carried.By += corrections(air, group)
		if carried.Amps < corrected {
			carried.By += fmt.Sprintf(", no more than %g A by its terminals", carried.Amps)
		}
		carried.By += ": " + by(replaced || also, "NEC 310.16, 310.15, 110.14(C) (US, 2023)")
		carried.Most = c.mostOfSmall(l)
		carried.Ohm = complex(ohm*kilometre, reactance) / 1000
		return carried, true
	}
	return carried, false
}

// usMaterial is the head of a material's column.
var usMaterial = map[string]string{Copper: "Copper", Aluminium: "Aluminium"}

// section is the table of a material and an insulation, its source, and what a section carries by
// each method.
func (s *millimetre) section(material string, celsius int) (table, source string, printed [5]float64, ohm float64) {
	switch {
	case material == Aluminium && celsius == 90:
		return "", "", [5]float64{}, 0
	case material == Aluminium:
		return alLaid, "B.52.2", s.alPVC, s.alOhm
	case celsius == 90:
		return xlLaid, "B.52.3", s.xl, s.ohm
	}
	return pvcLaid, "B.52.2", s.pvc, s.ohm
}

// international is by IEC 60364-5-52: two loaded conductors, the method's amps, corrected.
func (c Code) international(l Laid) (carried Carried, ok bool) {
	if l.InsulationC == 0 {
		l.InsulationC = 70
	}
	if l.Method == "" {
		l.Method = usualMethod
	}
	way := slices.Index(methods[:], l.Method)
	warm, known := warmIEC[l.InsulationC]
	if way < 0 || !known {
		return carried, false
	}
	for i := range sections {
		s := &sections[i]
		if s.size != l.Size {
			continue
		}
		table, source, printed, ohm := s.section(l.Material, l.InsulationC)
		amps, own := c.figure(table, s.size, l.Method, printed[way])
		if amps == 0 {
			return carried, false
		}
		air, group := warmer(warm, l.AirC), groupIEC[min(l.Grouped, len(groupIEC))-1]
		carried.Amps = amps * air * group
		carried.By = fmt.Sprintf("%s %s, method %s, %d °C: %g A", l.Size, l.Material, l.Method, l.InsulationC, amps)
		carried.By += corrections(air, group)
		carried.By += ": " + by(own, "IEC 60364-5-52, tables "+source+", B.52.14, B.52.17")
		carried.Ohm = complex(ohm*(1+alpha*float64(l.InsulationC-20)), reactance) / 1000
		return carried, true
	}
	return carried, false
}

// usualMethod is that of wires in conduit on a wall.
const usualMethod = "B1"

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

func laidTables() []rule.Table {
	us := rule.Table{
		Name:  usLaid,
		Title: "Conductors in raceway or cable, A",
		Source: "NEC 310.16 (US, 2023): 30 °C, not more than three loaded; where nothing is said of how they " +
			"are laid, copper at 60 °C, 110.14(C)",
		Head: []string{"Size"},
		Rows: [][]string{},
	}
	for _, material := range []string{Copper, Aluminium} {
		for _, celsius := range columns {
			us.Head = append(us.Head, usColumn(material, celsius))
		}
	}
	us.Open = us.Head[1:]
	us.Head = append(us.Head, "Cu Ω/kft")
	figure := func(v float64) string {
		if v == 0 {
			return "–"
		}
		return strconv.FormatFloat(v, 'g', 4, 64)
	}
	for _, g := range gauges {
		row := []string{g.size}
		for _, v := range slices.Concat(g.copper[:], g.aluminium[:]) {
			row = append(row, figure(v))
		}
		us.Rows = append(us.Rows, append(row, figure(g.ohm)))
	}
	thin := rule.Table{Name: smallUS, Title: "Breakers of small conductors, A", Source: "NEC 240.4(D) (US, 2023)",
		Head: []string{"Size", usMaterial[Copper], usMaterial[Aluminium]},
		Open: []string{usMaterial[Copper], usMaterial[Aluminium]}, Rows: [][]string{}}
	for _, g := range gauges[:3] {
		thin.Rows = append(thin.Rows, []string{g.size, figure(small[Copper][g.size]), figure(small[Aluminium][g.size])})
	}
	tables := []rule.Table{us, thin, cordTable()}
	for _, t := range []struct {
		title, material string
		celsius         int
	}{
		{"Copper, PVC 70 °C, A", Copper, 70}, {"Copper, cross-linked 90 °C, A", Copper, 90},
		{"Aluminium, PVC 70 °C, A", Aluminium, 70},
	} {
		table := rule.Table{Title: t.title, Head: slices.Concat([]string{"Size"}, methods[:], []string{"Ω/km, 20 °C"}),
			Open: methods[:], Rows: [][]string{}}
		for i := range sections {
			name, source, printed, ohm := sections[i].section(t.material, t.celsius)
			table.Name = name
			table.Source = "IEC 60364-5-52, table " + source + ": two loaded, 30 °C; ohms IEC 60228"
			row := []string{sections[i].size}
			for _, v := range printed {
				row = append(row, figure(v))
			}
			if printed[0] > 0 {
				table.Rows = append(table.Rows, append(row, figure(ohm)))
			}
		}
		tables = append(tables, table)
	}
	return tables
}
