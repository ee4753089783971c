package rotary

import (
	"math"

	"brackmoor/core/quantity"
)

// Decibels is about how loud an idler of an output in watts is, A-weighted sound pressure in dB at a
// metre: usual figures of closed motors of four poles with a fan (shop practice), which a hum on one
// phase adds to. Twice the output is some 4 dB more, two poles 8, and 60 Hz 3.
func Decibels(watts, hertz float64, poles int) float64 {
	level := 50 + 12.5*math.Log10(watts/1000)
	if poles == 2 {
		level += 8
	}
	if quantity.SixtyHertz(hertz) {
		level += 3
	}
	return level
}

// Louder is how loud two sources are together, in dB.
func Louder(a, b float64) float64 { return 10 * math.Log10(math.Pow(10, a/10)+math.Pow(10, b/10)) }
