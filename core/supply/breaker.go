package supply

import "brackmoor/core/quantity"

// breakers are the standard ratings of breakers in amps: NEC 240.6(A) (US, 2023) on
// 60 Hz, IEC 60898-1 preferred values on 50 Hz.
var breakers = map[bool][]float64{
	true:  {15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200},
	false: {6, 10, 13, 16, 20, 25, 32, 40, 50, 63, 80, 100, 125},
}

// Spare is what conductors and breaker are taken for over the amps that flow for hours
// (NEC 430.22, 430.122 and 455.6: 125 percent).
const Spare = 1.25

// Breaker is the least standard breaker in amps for amps that flow for hours; ok is false
// where none is that large.
func Breaker(amps, hertz float64) (rating float64, ok bool) {
	for _, rating := range breakers[quantity.SixtyHertz(hertz)] {
		if rating >= Spare*amps {
			return rating, true
		}
	}
	return 0, false
}

// Breakers are the standard ratings on a frequency.
func Breakers(hertz float64) []float64 { return breakers[quantity.SixtyHertz(hertz)] }
