// Package search holds the one-dimensional searches that the other packages share. Each
// does a fixed number of rounds, so that the same question gives the same bits.
package search

// The inner points of a golden section, as shares of the interval.
const (
	nearer  = 0.382
	farther = 0.618
)

// Edge halves, so many times, the way from a place where something holds to one where it
// does not, and returns the last place where it was seen to hold. inside need not be the
// lower of the two.
func Edge(inside, outside float64, rounds int, holds func(x float64) bool) float64 {
	for range rounds {
		if middle := (inside + outside) / 2; holds(middle) {
			inside = middle
		} else {
			outside = middle
		}
	}
	return inside
}

// Section narrows an interval, so many times, to the part of it around the better of two
// inner points, the first being told to be better or not (golden section; Press and
// others, Numerical Recipes, section 10.2). Over one valley or one hill it closes in on
// the lowest or highest place.
func Section(low, high float64, rounds int, firstBetter func(first, second float64) bool) (float64, float64) {
	for range rounds {
		first, second := low+nearer*(high-low), low+farther*(high-low)
		if firstBetter(first, second) {
			high = second
		} else {
			low = first
		}
	}
	return low, high
}
