package supply

import (
	"math"

	"brackmoor/core/quantity"
)

// breakers are the standard ratings of breakers in amps: NEC 240.6(A) (US, 2023) on
// 60 Hz, IEC 60898-1 preferred values on 50 Hz.
var breakers = map[bool][]float64{
	true:  {10, 15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200},
	false: {6, 10, 13, 16, 20, 25, 32, 40, 50, 63, 80, 100, 125},
}

// Spare is what conductors and breaker are taken for over the amps that flow for hours: 125
// percent under the NEC (430.22, 430.122 and 455.6(A)(1), US, 2023); under IEC 60364-4-43,
// 433.1, the load's amps are at most the breaker's, and its at most the conductor's.
func (c Code) Spare() float64 {
	if !quantity.SixtyHertz(c.hertz) {
		return 1
	}
	percent, _ := c.percent(forHours)
	return percent / 100
}

// Breaker is the least standard breaker in amps for amps that flow for hours; ok is false
// where none is that large.
func (c Code) Breaker(amps float64) (rating float64, ok bool) { return c.Next(c.Spare() * amps) }

// Next is the standard breaker of so many amps or next above them; ok is false where none is that large.
func (c Code) Next(amps float64) (rating float64, ok bool) {
	sixty := quantity.SixtyHertz(c.hertz)
	for _, rating := range breakers[sixty] {
		if rating >= amps && !(sixty && rating < leastForMachines) {
			return rating, true
		}
	}
	return 0, false
}

// Feed is what a circuit is taken for whose load draws amps for hours: the amps that its
// conductors carry, no less than a code's own, and its breaker; ok is false where no standard
// breaker is that large. A conductor carries what its breaker lets through, or, in the US,
// 125 percent of the load.
func (c Code) Feed(amps float64, least Carry) (conductors, breaker float64, ok bool) {
	carry := math.Max(c.Spare()*amps, least.Amps)
	breaker, ok = c.Next(carry)
	if ok && !quantity.SixtyHertz(c.hertz) {
		return breaker, breaker, true
	}
	return carry, breaker, ok
}

// MostForStart is the largest breaker in amps of a single-phase motor of an output in watts, for
// one whose start trips a smaller; ok is false where the code's table does not have it.
func (c Code) MostForStart(watts, volts float64) (rating float64, ok bool) {
	amps, _, ok := c.table(onePhase, watts, volts)
	if !ok {
		return 0, false
	}
	return c.MostFor("", amps)
}

// leastForMachines is the least circuit in amps for machines in the US: one of 10 A is for
// lighting (NEC 210.23(A), US, 2023).
const leastForMachines = 15

// curves are the instantaneous trips of miniature breakers by the times of their rating that
// they never trip at (IEC 60898-1, table 7).
var curves = []struct {
	name  string
	holds float64
}{{"B", 3}, {"C", 5}, {"D", 10}}

// Curve is the quickest trip of a miniature breaker that starting amps do not set off, "" on
// 60 Hz, where breakers have none, and where none holds.
func Curve(rating, starting, hertz float64) string {
	if quantity.SixtyHertz(hertz) {
		return ""
	}
	for _, c := range curves {
		if c.holds*rating >= starting {
			return c.name
		}
	}
	return ""
}

// Breakers are the standard ratings on a frequency.
func Breakers(hertz float64) []float64 { return breakers[quantity.SixtyHertz(hertz)] }
