package waveform

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// The method is of order four, the one embedded of order three (the order conditions of
// Hairer and Wanner, Solving Ordinary Differential Equations), and its stages lie where
// their weights put them.
func TestTheMethodsOrder(t *testing.T) {
	last := len(nodes) - 1
	a := func(k, j int) float64 {
		switch {
		case k == j && k > 0:
			return gamma
		case j < len(weights[k]):
			return weights[k][j]
		}
		return 0
	}
	for k := range nodes {
		sum := 0.0
		for j := range nodes {
			sum += a(k, j)
		}
		assert.InDelta(t, nodes[k], sum, 1e-14, k)
	}
	once := func(weight func(i int) float64, f func(i int) float64) float64 {
		sum := 0.0
		for i := range nodes {
			sum += weight(i) * f(i)
		}
		return sum
	}
	power := func(n int) func(int) float64 {
		return func(i int) float64 { return math.Pow(nodes[i], float64(n)) }
	}
	inner := func(f func(int) float64) func(int) float64 {
		return func(i int) float64 { return once(func(j int) float64 { return a(i, j) }, f) }
	}
	times := func(f, g func(int) float64) func(int) float64 { return func(i int) float64 { return f(i) * g(i) } }
	step := func(i int) float64 { return a(last, i) }
	within := func(i int) float64 { return embedded[i] }
	for _, c := range []struct {
		order int
		tree  func(int) float64
		want  float64
	}{
		{1, power(0), 1}, {2, power(1), 1.0 / 2}, {3, power(2), 1.0 / 3}, {3, inner(power(1)), 1.0 / 6},
		{4, power(3), 1.0 / 4}, {4, times(power(1), inner(power(1))), 1.0 / 8},
		{4, inner(power(2)), 1.0 / 12}, {4, inner(inner(power(1))), 1.0 / 24},
	} {
		assert.InDelta(t, c.want, once(step, c.tree), 1e-13)
		if c.order < embeddedOrder {
			assert.InDelta(t, c.want, once(within, c.tree), 1e-13)
		}
	}
}

// The crest of a wave is found between steps as coarse as they are ever taken and uneven,
// and a jump from nothing makes no crest of its own.
func TestAPeakBetweenSteps(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		offset := rapid.Float64Range(-0.5, 0.5).Draw(t, "offset")
		at := rapid.Float64Range(0, 2*math.Pi).Draw(t, "phase")
		var p peak
		p.see(at-1e-6, 0, 1)
		end := at + 6*math.Pi
		for at < end {
			p.see(at, offset+math.Sin(at), 2)
			at += 2 * 2 * math.Pi / cycleSteps * rapid.Float64Range(0.7, 1).
				Draw(t, "step")
			// torque pulses twice a cycle
		}
		assert.InEpsilon(t, 1+math.Abs(offset), p.most, 1e-3)
	})
}

func TestAnIteratedFigureMeetsItsFunction(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		slope := rapid.Float64Range(-3, 0.9).Draw(t, "slope")
		x := iterated{at: 1}
		f := func(v float64) float64 {
			far := math.Log(v / 1.3)
			return 1.3 * math.Exp(slope*far/(1+math.Abs(far)))
		}
		off := 1.0
		for k := 0; k < mostIterations && off > 1e-9; k++ {
			off = x.to(f(x.at))
		}
		assert.InDelta(t, 1.3, x.at, 1e-6)
	})
}
