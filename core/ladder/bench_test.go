package ladder_test

import (
	"testing"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/ladder"
)

// largest is the largest circuit that a way makes: a rotary converter that a pony motor starts, with two
// stations.
func largest(b *testing.B) (c circuit.Circuit) {
	q := asked(b, circuit.US)
	for _, w := range feed.All() {
		own := w.Wire(q, circuit.Choices{Start: circuit.ByPony, Stations: 2, Lamp: true})
		if len(own.Parts) > len(c.Parts) {
			c = own
		}
	}
	return c
}

// BenchmarkCircuitSearch is every state of the largest circuit, sound and with each single fault.
func BenchmarkCircuitSearch(b *testing.B) {
	c := largest(b)
	states := 0
	for b.Loop() {
		states = ladder.Search(&c).States
	}
	b.ReportMetric(float64(states), "states")
}

// BenchmarkCircuitStates is that circuit with nothing broken.
func BenchmarkCircuitStates(b *testing.B) {
	c := largest(b)
	states := 0
	for b.Loop() {
		states, _ = ladder.Reach(&c, false)
	}
	b.ReportMetric(float64(states), "states")
}
