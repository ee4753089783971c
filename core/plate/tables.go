package plate

import "math"

// codeLetters are the locked-rotor code letters in order.
const codeLetters = "ABCDEFGHJKLMNPRSTUV"

// codeBands are the lower limits of locked-rotor kVA per horsepower of each
// code letter (NEMA MG 1, 10.37.2); a band ends where the next begins, and V
// is taken to 25.
var codeBands = []float64{
	0,
	3.15,
	3.55,
	4.0,
	4.5,
	5.0,
	5.6,
	6.3,
	7.1,
	8.0,
	9.0,
	10.0,
	11.2,
	12.5,
	14.0,
	16.0,
	18.0,
	20.0,
	22.4,
	25.0,
}

// CodeBand returns the locked-rotor kVA per horsepower of a code letter, from
// and below; ok is false for a letter that is none.
func CodeBand(letter string) (from, below float64, ok bool) {
	for i, c := range codeLetters {
		if string(c) == letter {
			return codeBands[i], codeBands[i+1], true
		}
	}
	return 0, 0, false
}

// table is a figure over output in kilowatts, for 2, 4 and 6 poles; zero where
// the source has none.
type table struct {
	source string
	rows   []row
}

type row struct {
	kilowatts float64
	poles     [3]float64
}

func column(poles int) int { return min(max(poles/2-1, 0), 2) }

// at interpolates over the logarithm of the output, and holds the end values
// beyond the ends.
func (t table) at(watts float64, poles int) float64 {
	c := column(poles)
	var below, above *row
	for i := range t.rows {
		r := &t.rows[i]
		if r.poles[c] == 0 {
			continue
		}
		if r.kilowatts*1000 <= watts*1.0001 {
			below = r
		} else {
			above = r
			break
		}
	}
	switch {
	case below == nil:
		return above.poles[c]
	case above == nil:
		return below.poles[c]
	}
	share := math.Log(watts/1000/below.kilowatts) / math.Log(above.kilowatts/below.kilowatts)
	return below.poles[c] + share*(above.poles[c]-below.poles[c])
}

// holds says whether a table begins at an output or below it, for its poles.
func (t table) holds(watts float64, poles int) bool {
	for _, r := range t.rows {
		if r.poles[column(poles)] != 0 {
			return watts >= 0.98*1000*r.kilowatts
		}
	}
	return false
}

// Efficiency in percent by class. IE1 to IE3 at 50 Hz are IEC 60034-30-1;
// at 60 Hz energy-efficient and premium are NEMA MG 1, tables 12-11 and 12-12,
// with IEC 60034-30-1 below 0.75 kW.
var (
	ie1 = table{
		"IEC 60034-30-1:2014, IE1, 50 Hz",
		[]row{
			{
				0.12,
				[3]float64{45.0, 50.0, 38.3},
			},
			{0.18, [3]float64{52.8, 57.0, 45.5}},
			{0.25, [3]float64{58.2, 61.5, 52.1}},
			{
				0.37,
				[3]float64{63.9, 66.0, 59.7},
			},
			{0.55, [3]float64{69.0, 70.0, 65.8}},
			{0.75, [3]float64{72.1, 72.1, 70.0}},
			{1.1, [3]float64{75.0, 75.0, 72.9}},
			{1.5, [3]float64{77.2, 77.2, 75.2}},
			{2.2, [3]float64{79.7, 79.7, 77.7}},
			{3, [3]float64{81.5, 81.5, 79.7}},
			{4, [3]float64{83.1, 83.1, 81.4}},
			{5.5, [3]float64{84.7, 84.7, 83.1}},
			{7.5, [3]float64{86.0, 86.0, 84.7}},
			{11, [3]float64{87.6, 87.6, 86.4}},
			{15, [3]float64{88.7, 88.7, 87.7}},
			{22, [3]float64{89.9, 89.9, 89.2}},
		},
	}
	ie2 = table{
		"IEC 60034-30-1:2014, IE2, 50 Hz",
		[]row{
			{
				0.12,
				[3]float64{53.6, 59.1, 50.6},
			},
			{0.18, [3]float64{60.4, 64.7, 56.6}},
			{0.25, [3]float64{64.8, 68.5, 61.6}},
			{
				0.37,
				[3]float64{69.5, 72.7, 67.6},
			},
			{0.55, [3]float64{74.1, 77.1, 73.1}},
			{0.75, [3]float64{77.4, 79.6, 75.9}},
			{1.1, [3]float64{79.6, 81.4, 78.1}},
			{1.5, [3]float64{81.3, 82.8, 79.8}},
			{2.2, [3]float64{83.2, 84.3, 81.8}},
			{3, [3]float64{84.6, 85.5, 83.3}},
			{4, [3]float64{85.8, 86.6, 84.6}},
			{5.5, [3]float64{87.0, 87.7, 86.0}},
			{7.5, [3]float64{88.1, 88.7, 87.2}},
			{11, [3]float64{89.4, 89.8, 88.7}},
			{15, [3]float64{90.3, 90.6, 89.7}},
			{22, [3]float64{91.3, 91.6, 90.9}},
		},
	}
	ie3 = table{
		"IEC 60034-30-1:2014, IE3, 50 Hz",
		[]row{
			{
				0.12,
				[3]float64{60.8, 64.8, 57.7},
			},
			{0.18, [3]float64{65.9, 69.9, 63.9}},
			{0.25, [3]float64{69.7, 73.5, 68.6}},
			{
				0.37,
				[3]float64{73.8, 77.3, 73.5},
			},
			{0.55, [3]float64{77.8, 80.8, 77.2}},
			{0.75, [3]float64{80.7, 82.5, 78.9}},
			{1.1, [3]float64{82.7, 84.1, 81.0}},
			{1.5, [3]float64{84.2, 85.3, 82.5}},
			{2.2, [3]float64{85.9, 86.7, 84.3}},
			{3, [3]float64{87.1, 87.7, 85.6}},
			{4, [3]float64{88.1, 88.6, 86.8}},
			{5.5, [3]float64{89.2, 89.6, 88.0}},
			{7.5, [3]float64{90.1, 90.4, 89.1}},
			{11, [3]float64{91.2, 91.4, 90.3}},
			{15, [3]float64{91.9, 92.1, 91.2}},
			{22, [3]float64{92.7, 93.0, 92.2}},
		},
	}
	energyEfficient = table{
		"NEMA MG 1, table 12-11; IEC 60034-30-1 IE2, 60 Hz, below 1 hp",
		[]row{
			{
				0.37,
				[3]float64{72.0, 72.0, 64.0},
			},
			{0.55, [3]float64{74.0, 75.5, 68.0}},
			{0.746, [3]float64{75.5, 82.5, 80.0}},
			{
				1.12,
				[3]float64{82.5, 84.0, 85.5},
			},
			{1.49, [3]float64{84.0, 84.0, 86.5}},
			{2.24, [3]float64{85.5, 87.5, 87.5}},
			{
				3.73,
				[3]float64{87.5, 87.5, 87.5},
			},
			{5.59, [3]float64{88.5, 89.5, 89.5}},
			{7.46, [3]float64{89.5, 89.5, 89.5}},
			{11.2, [3]float64{90.2, 91.0, 90.2}},
			{14.9, [3]float64{90.2, 91.0, 90.2}},
		},
	}
	premium = table{
		"NEMA MG 1, table 12-12; IEC 60034-30-1 IE3, 60 Hz, below 1 hp",
		[]row{
			{
				0.37,
				[3]float64{73.4, 78.2, 75.3},
			},
			{0.55, [3]float64{76.8, 81.1, 81.7}},
			{0.746, [3]float64{77.0, 85.5, 82.5}},
			{
				1.12,
				[3]float64{84.0, 86.5, 87.5},
			},
			{1.49, [3]float64{85.5, 86.5, 88.5}},
			{2.24, [3]float64{86.5, 89.5, 89.5}},
			{
				3.73,
				[3]float64{88.5, 89.5, 89.5},
			},
			{5.59, [3]float64{89.5, 91.7, 91.0}},
			{7.46, [3]float64{90.2, 91.7, 91.0}},
			{11.2, [3]float64{91.0, 92.4, 91.7}},
			{14.9, [3]float64{91.0, 93.0, 91.7}},
		},
	}
)

// ClassEfficiency is the least efficiency of a class, "IE1", "IE2" or "IE3" at
// 50 Hz, "energy-efficient" or "premium" at 60 Hz, for an output in watts and
// a pole count, with its source; ok is false for a class that is none.
func ClassEfficiency(class string, watts float64, poles int) (share float64, source string, ok bool) {
	t, ok := map[string]table{"IE1": ie1, "IE2": ie2, "IE3": ie3, "energy-efficient": energyEfficient,
		"premium": premium}[class]
	if !ok {
		return 0, "", false
	}
	return t.at(watts, poles) / 100, t.source, true
}

// Usual figures of standard industrial motors, to fill what a plate omits.
var (
	usualPowerFactor = table{
		"usual power factor by output and poles, shop practice",
		[]row{
			{
				0.12,
				[3]float64{0.72, 0.62, 0.55},
			},
			{0.25, [3]float64{0.77, 0.68, 0.62}},
			{0.37, [3]float64{0.79, 0.71, 0.66}},
			{0.55, [3]float64{0.80, 0.74, 0.68}},
			{0.75, [3]float64{0.82, 0.76, 0.69}},
			{1.1, [3]float64{0.83, 0.78, 0.71}},
			{1.5, [3]float64{0.84, 0.79, 0.72}},
			{2.2, [3]float64{0.85, 0.81, 0.74}},
			{3, [3]float64{0.86, 0.82, 0.75}},
			{4, [3]float64{0.87, 0.82, 0.76}},
			{5.5, [3]float64{0.87, 0.83, 0.77}},
			{7.5, [3]float64{0.88, 0.84, 0.78}},
			{11, [3]float64{0.88, 0.85, 0.80}},
			{15, [3]float64{0.89, 0.86, 0.81}},
		},
	}
	usualSlip = table{"usual full-load slip by output and poles, shop practice", []row{
		{0.12, [3]float64{7.5, 8.0, 9.0}}, {0.37, [3]float64{5.8, 6.4, 7.2}}, {0.75, [3]float64{5.0, 5.5, 6.0}},
		{1.5, [3]float64{4.4, 4.8, 5.4}}, {2.2, [3]float64{4.2, 4.4, 5.0}}, {4, [3]float64{3.6, 3.9, 4.4}},
		{7.5, [3]float64{3.0, 3.2, 3.6}}, {15, [3]float64{2.3, 2.6, 2.9}}}}
	usualLockedRotor = table{"usual locked-rotor amps over rated, shop practice", []row{
		{0.12, [3]float64{3.8, 3.2, 2.7}}, {0.37, [3]float64{5.0, 4.2, 3.6}}, {0.75, [3]float64{5.8, 5.0, 4.2}},
		{1.5, [3]float64{6.3, 5.7, 4.8}}, {2.2, [3]float64{6.6, 6.0, 5.1}}, {4, [3]float64{7.0, 6.4, 5.6}},
		{7.5, [3]float64{7.2, 6.8, 6.0}}, {15, [3]float64{7.3, 7.0, 6.4}}}}
)

// NEMA design B, 60 Hz, in percent of rated torque (NEMA MG 1, 12.38 and
// 12.39), by output in kW of the horsepower ratings.
var (
	designBLocked = table{
		"NEMA MG 1, 12.38, designs A and B",
		[]row{
			{
				0.56,
				[3]float64{0, 0, 175},
			},
			{0.746, [3]float64{0, 275, 170}},
			{1.119, [3]float64{175, 250, 165}},
			{1.491, [3]float64{170, 235, 160}},
			{2.237, [3]float64{160, 215, 155}},
			{3.729, [3]float64{150, 185, 150}},
			{5.593, [3]float64{140, 175, 150}},
			{7.457, [3]float64{135, 165, 150}},
			{11.19, [3]float64{130, 160, 140}},
			{14.91, [3]float64{130, 150, 135}},
		},
	}
	designBBreakdown = table{
		"NEMA MG 1, 12.39, designs A and B",
		[]row{
			{
				0.56,
				[3]float64{0, 0, 275},
			},
			{0.746, [3]float64{0, 300, 265}},
			{1.119, [3]float64{250, 280, 250}},
			{1.491, [3]float64{240, 270, 240}},
			{2.237, [3]float64{230, 250, 230}},
			{3.729, [3]float64{215, 225, 215}},
			{5.593, [3]float64{200, 215, 205}},
			{7.457, [3]float64{200, 200, 200}},
			{11.19, [3]float64{200, 200, 200}},
			{14.91, [3]float64{200, 200, 200}},
		},
	}
	// designCLocked is the minimum of design C, 4 and 6 poles (12.38.2).
	designCLocked = table{
		"NEMA MG 1, 12.38, design C",
		[]row{
			{0.746, [3]float64{285, 285, 255}},
			{1.119, [3]float64{285, 285, 250}},
			{1.491, [3]float64{285, 285, 250}},
			{2.237, [3]float64{270, 270, 250}},
			{
				3.729,
				[3]float64{255, 255, 250},
			},
			{5.593, [3]float64{250, 250, 225}},
			{7.457, [3]float64{250, 250, 225}},
			{11.19, [3]float64{225, 225, 210}},
			{14.91, [3]float64{200, 200, 200}},
		},
	}
	designCBreakdown = table{
		"NEMA MG 1, 12.39, design C",
		[]row{
			{
				0.746,
				[3]float64{200, 200, 225},
			},
			{2.237, [3]float64{200, 200, 225}},
			{3.729, [3]float64{200, 200, 200}},
			{5.593, [3]float64{190, 190, 190}},
		},
	}
)

// designBAmps is the most locked-rotor amps of designs B, C and D at 230 V
// 60 Hz (NEMA MG 1, 12.35); the same for all pole counts.
var designBAmps = table{
	"NEMA MG 1, 12.35, at 230 V",
	[]row{
		{
			0.373,
			[3]float64{20, 20, 20},
		},
		{0.559, [3]float64{25, 25, 25}},
		{0.746, [3]float64{30, 30, 30}},
		{1.119, [3]float64{40, 40, 40}},
		{
			1.491,
			[3]float64{50, 50, 50},
		},
		{2.237, [3]float64{64, 64, 64}},
		{3.729, [3]float64{92, 92, 92}},
		{5.593, [3]float64{127, 127, 127}},
		{7.457, [3]float64{162, 162, 162}},
		{11.19, [3]float64{232, 232, 232}},
		{14.91, [3]float64{290, 290, 290}},
	},
}

// IEC design N: least locked-rotor and breakdown torque in percent of rated,
// and most locked-rotor apparent power in kVA per kW (IEC 60034-12). The rows
// of the standard are ranges; the value stands at the lower end of each.
var (
	designNLocked = steps{
		"IEC 60034-12, design N",
		[]row{
			{
				0,
				[3]float64{190, 200, 170},
			},
			{0.63, [3]float64{180, 190, 170}},
			{1.0, [3]float64{180, 190, 160}},
			{1.6, [3]float64{170, 180, 160}},
			{
				2.5,
				[3]float64{160, 170, 150},
			},
			{4.0, [3]float64{150, 160, 150}},
			{6.3, [3]float64{150, 160, 150}},
			{10, [3]float64{140, 150, 140}},
		},
	}
	designNBreakdown = steps{
		"IEC 60034-12, design N",
		[]row{
			{
				0,
				[3]float64{200, 200, 170},
			},
			{0.63, [3]float64{200, 200, 180}},
			{1.0, [3]float64{200, 200, 190}},
			{1.6, [3]float64{200, 200, 190}},
			{2.5, [3]float64{200, 200, 190}},
			{4.0, [3]float64{200, 200, 190}},
			{6.3, [3]float64{200, 200, 180}},
		},
	}
	designNApparent = steps{"IEC 60034-12, design N", []row{
		{0, [3]float64{13, 13, 13}}, {6.3, [3]float64{12, 12, 12}}, {25, [3]float64{11, 11, 11}}}}
)

// steps is a table whose rows hold from their output up to the next.
type steps table

func (t steps) at(watts float64, poles int) float64 {
	value := t.rows[0].poles[column(poles)]
	for _, r := range t.rows {
		if watts > r.kilowatts*1000*1.0001 {
			value = r.poles[column(poles)]
		}
	}
	return value
}
