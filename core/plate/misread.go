package plate

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Misreading is one field that, read otherwise, would make a plate agree with
// itself.
type Misreading struct {
	Field string // as in Typed
	From  string // what stands there
	To    string // what would agree
	Why   string // how the one is taken for the other
	Plate Plate  // the plate so corrected
	cost  float64
}

// Says words a misreading.
func (m Misreading) Says() string {
	return fmt.Sprintf(
		"%s %s may be %s: %s.",
		strings.ToUpper(m.Field[:1])+strings.ReplaceAll(m.Field[1:], "_", " "),
		m.From,
		m.To,
		m.Why,
	)
}

// How likely one thing is taken for another, as a cost beside that of an unusual
// motor: shop practice.
const (
	costExchanged = 0.3
	costSwapped   = 1.0
	costLookalike = 1.4
	costShifted   = 1.0
	costUnit      = 1.0
	costInput     = 1.6
	costHertz     = 1.2
	costUncommon  = 2.0 // an output or volts that motors are seldom made for
)

// standardVolts are voltages that plates usually carry.
var standardVolts = []float64{
	110,
	115,
	120,
	127,
	190,
	200,
	208,
	220,
	230,
	240,
	254,
	265,
	277,
	346,
	380,
	400,
	415,
	440,
	460,
	480,
	500,
	525,
	550,
	575,
	600,
	660,
	690,
}

// lookalikes are figures that a worn plate confuses.
var lookalikes = map[byte]string{
	'0': "868",
	'1': "74",
	'2': "7",
	'3': "85",
	'4': "91",
	'5': "63",
	'6': "580",
	'7': "12",
	'8': "306",
	'9': "4",
}

// Misreadings tries, on a plate that contradicts itself, every correction of one
// field and returns those that leave it consistent, the likeliest first, at most
// three. A plate that agrees with itself has none.
func Misreadings(p Plate, s Supply) []Misreading {
	if _, fine := consistency(p, s); fine {
		return nil
	}
	var found []Misreading
	for _, m := range corrections(p) {
		if strangeness, fine := consistency(m.Plate, s); fine {
			m.cost += strangeness
			found = append(found, m)
		}
	}
	sort.SliceStable(found, func(i, j int) bool { return found[i].cost < found[j].cost })
	return found[:min(len(found), 3)]
}

// LikelyMisreading words the likeliest corrections of a plate that contradicts
// itself, as a verdict; none when it agrees or nothing mends it.
func LikelyMisreading(p Plate, s Supply) []rule.Verdict {
	found := Misreadings(p, s)
	if len(found) == 0 {
		return nil
	}
	says := found[0].Says()
	if len(found) > 1 {
		says += " Or: " + found[1].Says()
	}
	return []rule.Verdict{
		rule.Speak(
			"plate.likely-misreading",
			rule.Numbers{"corrections": float64(len(found))},
			"Look at the plate again before you change it here.",
			"%s",
			says,
		),
	}
}

// consistency says whether a plate agrees with itself, and how unusual a motor it
// is: the sum of squares of its deviations over their usual spread.
func consistency(p Plate, s Supply) (strangeness float64, fine bool) {
	filled, problems := Fill(p, s)
	if len(problems) > 0 || filled.Target().Check() != nil {
		return 0, false
	}
	for _, v := range Check(filled) {
		if v.Rule != "plate.service-factor" {
			return 0, false
		}
	}
	add := func(ratio, spread float64) { strangeness += math.Pow(math.Log(ratio)/spread, 2) }
	watts, poles := p.OutputWatts, int(filled.Poles.Value)
	powerFactor, _ := Usual(watts, poles)
	efficiency, _, _ := ClassEfficiency("IE2", watts, poles)
	if filled.Amps.Value > 0 && len(p.Ratings) > 0 && p.Ratings[0].Amps > 0 {
		product := watts / (math.Sqrt(3) * filled.Volts.Value * filled.Amps.Value)
		switch {
		case p.Efficiency > 0 && p.PowerFactor > 0:
			add(p.Efficiency*p.PowerFactor/product, 0.02)
		case p.Efficiency > 0:
			add(product/p.Efficiency/powerFactor, 0.10)
		case p.PowerFactor > 0:
			add(product/p.PowerFactor/efficiency, 0.06)
		default:
			add(product/(powerFactor*efficiency), 0.12)
		}
	}
	if p.Efficiency > 0 {
		add(p.Efficiency/efficiency, 0.06)
	}
	if p.PowerFactor > 0 {
		add(p.PowerFactor/powerFactor, 0.10)
	}
	for _, r := range p.Ratings[1:] {
		if r.Amps > 0 && p.Ratings[0].Amps > 0 {
			add(r.Volts*r.Amps/(p.Ratings[0].Volts*p.Ratings[0].Amps), 0.012)
		}
	}
	if p.RPM > 0 {
		add(filled.Slip()/UsualSlip(watts, filled.Hertz.Value, poles), 0.35)
	}
	if !standardOutput(watts) {
		strangeness += costUncommon
	}
	for _, r := range p.Ratings {
		if !slices.Contains(standardVolts, r.Volts) {
			strangeness += costUncommon
		}
	}
	return strangeness, true
}

// standardOutput says whether an output is one that motors are made for, in
// horsepower or kilowatts.
func standardOutput(watts float64) bool {
	for _, w := range []float64{124.3, 186.4, 248.6, 372.9, 559.3, 745.7, 1118.6, 1491.4, 2237.1, 3728.5, 5592.8, 7457,
		11186, 14914,
		90, 120, 180, 250, 370, 550, 750, 1100, 1500, 2200, 3000, 4000, 5500, 7500, 11000, 15000} {
		if math.Abs(watts/w-1) < 0.004 {
			return true
		}
	}
	return false
}

// corrections are all single-field corrections of a plate.
func corrections(p Plate) (list []Misreading) {
	try := func(field, from, to, why string, cost float64, edit func(*Plate)) {
		q := p
		q.Ratings = slices.Clone(p.Ratings)
		edit(&q)
		list = append(list, Misreading{field, from, to, why, q, cost})
	}
	figure := func(field string, value float64, set func(*Plate, float64)) {
		if value == 0 {
			return
		}
		text := quantity.Figures(value, 4)
		for _, e := range edits(text) {
			try(field, text, e.text, e.why, e.cost, func(q *Plate) { set(q, e.value) })
		}
	}
	for i, r := range p.Ratings {
		figure("amps", r.Amps, func(q *Plate, v float64) { q.Ratings[i].Amps = v })
		figure("volts", r.Volts, func(q *Plate, v float64) { q.Ratings[i].Volts = v })
	}
	figure("rpm", p.RPM, func(q *Plate, v float64) { q.RPM = v })
	figure("power_factor", p.PowerFactor, func(q *Plate, v float64) { q.PowerFactor = v })
	figure("efficiency", 100*p.Efficiency, func(q *Plate, v float64) { q.Efficiency = v / 100 })
	if n := len(p.Ratings); n > 1 && p.Ratings[0].Amps > 0 && p.Ratings[n-1].Amps > 0 {
		a, b := quantity.Figures(p.Ratings[0].Amps, 3), quantity.Figures(p.Ratings[n-1].Amps, 3)
		try("amps", a+"/"+b, b+"/"+a, "the columns are exchanged", costExchanged, func(q *Plate) {
			q.Ratings[0].Amps, q.Ratings[n-1].Amps = q.Ratings[n-1].Amps, q.Ratings[0].Amps
		})
	}
	if len(p.Ratings) > 1 {
		for _, by := range []float64{0.1, 10} {
			scaled := p
			scaled.Ratings = slices.Clone(p.Ratings)
			for i := range scaled.Ratings {
				scaled.Ratings[i].Amps *= by
			}
			_, from := p.columns()
			_, to := scaled.columns()
			if from != "" {
				list = append(list, Misreading{"amps", from, to, "the points are one place off", scaled, costShifted})
			}
		}
	}
	if p.Hertz == 50 || p.Hertz == 60 {
		other := 110 - p.Hertz
		try(
			"hertz",
			quantity.Figures(p.Hertz, 2),
			quantity.Figures(other, 2),
			"the speed belongs to the other frequency",
			costHertz,
			func(q *Plate) { q.Hertz = other },
		)
	}
	return append(list, outputCorrections(p)...)
}

// outputCorrections are those of the output: its figures in either unit, the unit
// itself, and the input read in its place.
func outputCorrections(p Plate) (list []Misreading) {
	watts := p.OutputWatts
	shown := quantity.Horsepower(watts) + " hp"
	kilowatts := quantity.Figures(watts/1000, 3) + " kW"
	if p.Hertz != 60 {
		shown = kilowatts
	}
	try := func(watts float64, to, why string, cost float64) {
		q := p
		q.OutputWatts = watts
		list = append(list, Misreading{"output", shown, to, why, q, cost})
	}
	for _, e := range edits(quantity.Figures(watts/1000, 3)) {
		try(1000*e.value, e.text+" kW", e.why, e.cost)
	}
	for _, e := range edits(quantity.Figures(watts/quantity.WattsPerHorsepower, 3)) {
		try(quantity.WattsPerHorsepower*e.value, e.text+" hp", e.why, e.cost)
	}
	try(
		watts*quantity.WattsPerHorsepower/1000,
		quantity.Figures(watts/1000, 3)+" hp",
		"kilowatts for horsepower",
		costUnit,
	)
	try(
		watts*1000/quantity.WattsPerHorsepower,
		quantity.Figures(watts/quantity.WattsPerHorsepower, 3)+" kW",
		"horsepower for kilowatts",
		costUnit,
	)
	efficiency := p.Efficiency
	if efficiency == 0 {
		efficiency, _, _ = ClassEfficiency("IE2", watts, 4)
	}
	try(
		watts*efficiency,
		quantity.Figures(watts*efficiency/1000, 3)+" kW",
		"the input was read as the output",
		costInput,
	)
	return list
}

type edit struct {
	text, why string
	value     float64
	cost      float64
}

// edits are the ways in which a number is misread: neighbouring figures swapped,
// one taken for another like it, the point one place off.
func edits(text string) (list []edit) {
	add := func(text, why string, cost float64) {
		if value, err := strconv.ParseFloat(text, 64); err == nil && value > 0 {
			list = append(list, edit{quantity.Figures(value, 5), why, value, cost})
		}
	}
	b := []byte(text)
	for i := range b {
		if i+1 < len(b) && b[i] != b[i+1] && b[i] != '.' && b[i+1] != '.' {
			swapped := slices.Clone(b)
			swapped[i], swapped[i+1] = b[i+1], b[i]
			add(string(swapped), "two figures swapped", costSwapped)
		}
		for _, like := range []byte(lookalikes[b[i]]) {
			other := slices.Clone(b)
			other[i] = like
			add(string(other), "one figure taken for another like it", costLookalike)
		}
	}
	if value, err := strconv.ParseFloat(text, 64); err == nil {
		add(strconv.FormatFloat(value*10, 'g', -1, 64), "the point is one place off", costShifted)
		add(strconv.FormatFloat(value/10, 'g', -1, 64), "the point is one place off", costShifted)
	}
	return list
}
