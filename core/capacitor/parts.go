package capacitor

import (
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shelf"
)

// Standard values in microfarads and volts ac, as sold. Run capacitors are
// film, rated for continuous ac (IEC 60252-1 and the usual 370 and 440 V
// series); start capacitors are marked with a range.
var (
	runValues60 = []float64{
		2,
		3,
		4,
		5,
		6,
		7.5,
		10,
		12.5,
		15,
		17.5,
		20,
		25,
		30,
		35,
		40,
		45,
		50,
		55,
		60,
		65,
		70,
		75,
		80,
		100,
	}
	runValues50 = []float64{
		1,
		1.5,
		2,
		2.5,
		3,
		4,
		5,
		6,
		8,
		10,
		12,
		14,
		16,
		18,
		20,
		25,
		30,
		35,
		40,
		45,
		50,
		55,
		60,
		70,
		80,
		100,
	}
	runVolts60 = []float64{370, 440, 480, 600}
	runVolts50 = []float64{400, 450, 500, 600}
	startVolts = []float64{110, 125, 165, 220, 250, 330, 400, 450}
)

// StartPart is a start capacitor by the range marked on it, in microfarads.
type StartPart struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

var startParts = []StartPart{
	{21, 25},
	{25, 30},
	{30, 36},
	{36, 43},
	{43, 52},
	{53, 64},
	{64, 77},
	{72, 88},
	{88, 106},
	{108, 130},
	{
		124,
		149,
	},
	{130, 156},
	{145, 174},
	{161, 193},
	{189, 227},
	{216, 259},
	{233, 280},
	{270, 324},
	{324, 389},
	{340, 408},
	{378, 454},
	{
		400,
		480,
	},
	{430, 516},
	{460, 552},
	{540, 648},
	{590, 708},
	{645, 774},
	{708, 850},
	{829, 995},
	{850, 1020},
	{1080, 1296},
}

const (
	runTolerance = 0.10 // the widest that is usual on run capacitors, IEC 60252-1
	mostRunParts = 3
	nearEnough   = 0.03
	bleedMargin  = 2.0 // on watts
)

// Limits of the catalogue that parts are sized by.
var (
	supplyHigh   = 1 + rule.Limit("capacitor.volts", "supply_tolerance_percent")/100
	ratingMargin = 1 + rule.Limit("capacitor.volts", "margin_percent")/100
	bleedSafe    = rule.Limit("capacitor.charged", "safe_volts")
	bleedSeconds = rule.Limit("capacitor.charged", "seconds")
)

func runValues(hertz float64) []float64 {
	if !quantity.SixtyHertz(hertz) {
		return runValues50
	}
	return runValues60
}

// realise makes up a run capacitance from standard values: what three cans do not reach is
// made of as many of the largest as it takes, and three beside them.
func realise(microfarad, hertz float64) shelf.Combination {
	values := runValues(hertz)
	largest := values[len(values)-1]
	many := max(0, int(math.Ceil(microfarad/largest))-mostRunParts)
	rest := shelf.Nearest(values, microfarad-float64(many)*largest, mostRunParts, nearEnough*microfarad/
		math.Max(microfarad-float64(many)*largest, 1e-9))
	for range many {
		rest.Parts, rest.Sum = append([]float64{largest}, rest.Parts...), rest.Sum+largest
	}
	return rest
}

// realiseStart picks the start capacitors, at most two in parallel, whose
// lower marks just make up the value asked for.
func realiseStart(microfarad float64) []StartPart {
	if microfarad <= 0 {
		return []StartPart{}
	}
	best, excess := []StartPart{}, math.Inf(1)
	for i, p := range startParts {
		if d := p.Low - microfarad; d >= 0 && d < excess-1e-9 {
			best, excess = []StartPart{p}, d
		}
		for _, q := range startParts[:i+1] {
			// A second part must save at least a tenth of the value.
			if d := p.Low + q.Low - microfarad; d >= 0 && d < excess-0.1*microfarad {
				best, excess = []StartPart{p, q}, d
			}
		}
	}
	if len(best) == 0 {
		// More than two parts: as many of the largest as it takes.
		largest := startParts[len(startParts)-1]
		for sum := 0.0; sum < microfarad; sum += largest.Low {
			best = append(best, largest)
		}
	}
	return best
}

// ratedVolts is the smallest standard rating at or above a voltage, and zero
// when none reaches it.
func ratedVolts(needed float64, series []float64) float64 {
	for _, v := range series {
		if v >= needed {
			return v
		}
	}
	return 0
}

// Bleed is a discharge resistor across one capacitor.
type Bleed struct {
	Microfarad  float64 `json:"microfarad"`   // at its upper tolerance
	PeakVolts   float64 `json:"peak_volts"`   // √2 times the highest rms it sees
	Ohms        float64 `json:"ohms"`         // standard value
	Watts       float64 `json:"watts"`        // standard rating, margin included
	RatedVolts  float64 `json:"rated_volts"`  // least voltage rating of the resistor
	Seconds     float64 `json:"seconds"`      // to the safe volts
	SafeVolts   float64 `json:"safe_volts"`   // what it is judged by
	OneMinute   float64 `json:"one_minute"`   // volts left after a minute
	Dissipation float64 `json:"dissipation"`  // watts while in circuit
	AlwaysOn    bool    `json:"stays_in_use"` // false: behind a start contact, seconds only
}

// bleed sizes a discharge resistor: V(t) = V₀·e^(−t/RC), ohms from the safe
// volts and the time, at the capacitor's upper tolerance.
func bleed(microfarad, rms float64, alwaysOn bool) Bleed {
	peak := math.Sqrt2 * rms
	farad := microfarad * 1e-6
	b := Bleed{Microfarad: microfarad, PeakVolts: peak, SafeVolts: bleedSafe, AlwaysOn: alwaysOn}
	if peak <= bleedSafe {
		peak = bleedSafe * 1.01
	}
	b.Ohms = standardOhms(bleedSeconds / (farad * math.Log(peak/bleedSafe)))
	b.Seconds = b.Ohms * farad * math.Log(peak/bleedSafe)
	b.OneMinute = peak * math.Exp(-60/(b.Ohms*farad))
	b.Dissipation = rms * rms / b.Ohms
	needed := bleedMargin * b.Dissipation
	if !alwaysOn {
		needed = b.Dissipation // seconds only: its own rating is margin enough
	}
	for _, w := range []float64{0.5, 1, 2, 3, 5, 7, 10, 15, 20, 25, 50, 100} {
		b.Watts = w
		if w >= needed {
			break
		}
	}
	b.RatedVolts = math.Ceil(peak/50) * 50
	return b
}

// standardOhms is the E12 value at or below.
func standardOhms(ohms float64) float64 {
	series := []float64{1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2}
	decade := math.Pow(10, math.Floor(math.Log10(ohms)))
	value := decade
	for _, e := range series {
		if e*decade <= ohms*1.0001 {
			value = e * decade
		}
	}
	return value
}
