package capacitor

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
)

// Bank is a capacitance made up of standard parts, of motor-run ones or of motor-start
// ones, with the volts that cover what they see and a bleed resistor on each.
type Bank struct {
	Run    []float64   `json:"run" nullable:"false"` // microfarads
	Start  []StartPart `json:"start" nullable:"false"`
	Volts  Rating      `json:"volts"`
	Bleeds []Bleed     `json:"bleeds" nullable:"false"`
}

// RunBank makes up a capacitance in microfarads that stays in circuit, for the highest
// rms volts it sees.
func RunBank(microfarad, sees float64, s network.Supply) Bank {
	return runBank(realise(microfarad, s.Hertz).Parts, sees, s)
}

// StartBank makes up one that is in circuit for seconds.
func StartBank(microfarad, sees float64, s network.Supply) Bank {
	return startBank(realiseStart(microfarad), sees, s)
}

func runBank(parts []float64, sees float64, s network.Supply) Bank {
	series := runVolts60
	if !quantity.SixtyHertz(s.Hertz) {
		series = runVolts50
	}
	b := Bank{
		Run:    append([]float64{}, parts...),
		Start:  []StartPart{},
		Volts:  rate(sees, s.Volts, series),
		Bleeds: []Bleed{},
	}
	for _, part := range parts {
		b.Bleeds = append(b.Bleeds, bleed(part*(1+runTolerance), b.Volts.Sees*supplyHigh, true))
	}
	return b
}

func startBank(parts []StartPart, sees float64, s network.Supply) Bank {
	b := Bank{Run: []float64{}, Start: parts, Volts: rate(sees, s.Volts, startVolts), Bleeds: []Bleed{}}
	for _, part := range parts {
		b.Bleeds = append(b.Bleeds, bleed(part.High, b.Volts.Sees*supplyHigh, false))
	}
	return b
}

// rate covers what a capacitor sees, and no less than the supply: an open lead can leave
// it on the whole of that.
func rate(sees, supply float64, series []float64) Rating {
	sees = math.Max(sees, supply)
	needed := sees * supplyHigh * ratingMargin
	return Rating{Sees: sees, Needed: needed, Rated: ratedVolts(needed, series), Twice: 2 * supply}
}
