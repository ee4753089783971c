package ladder_test

import (
	"testing"

	"brackmoor/core/ladder"
)

// BenchmarkCircuitSearch is every state of a rotary converter's circuit, sound and with each single fault.
func BenchmarkCircuitSearch(b *testing.B) {
	c := build(b, "us", rotaryParts, rotaryWires)
	states := 0
	for b.Loop() {
		states = ladder.Search(&c).States
	}
	b.ReportMetric(float64(states), "states")
}
