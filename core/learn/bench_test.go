package learn_test

import (
	"testing"

	"brackmoor/core/learn"
)

// A converter with twelve readings in three states and four banks, fitted to the end.
func BenchmarkLearnTwelveReadings(b *testing.B) {
	h := hide(b, 1)
	for range 4 {
		for _, s := range states() {
			h.read(b, s)
		}
		h.ac = append(h.ac, can{10, 10.2})
	}
	for b.Loop() {
		learn.Learn(&h.c)
	}
}
