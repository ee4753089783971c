package shelf_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"brackmoor/core/shelf"
)

func TestNearest(t *testing.T) {
	values := []float64{5, 10, 15, 22, 40}
	for _, c := range []struct {
		target, tolerance float64
		want              []float64
	}{
		{62, 0.001, []float64{40, 22}}, {22, 0.05, []float64{22}}, {23, 0.05, []float64{22}}, {37, 0.001, []float64{22,
			15}},
		{120, 0.01, []float64{40, 40, 40}}, {1, 0.01, []float64{5}}, {500, 0.01, []float64{40, 40, 40}},
	} {
		got := shelf.Nearest(values, c.target, 3, c.tolerance)
		assert.Equal(t, c.want, got.Parts, "%v", c.target)
	}
	assert.Empty(t, shelf.Nearest(values, 0, 3, 0.01).Parts)
	assert.Empty(t, shelf.Nearest(nil, 10, 3, 0.01).Parts)
}

// No other choice of as many parts comes nearer.
func TestNearestIsExact(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		values := rapid.SliceOfN(rapid.Float64Range(1, 100), 1, 6).Draw(t, "values")
		target := rapid.Float64Range(1, 250).Draw(t, "target")
		got := shelf.Nearest(values, target, 3, 0)
		best := math.Inf(1)
		padded := append([]float64{0}, values...)
		for _, a := range padded {
			for _, b := range padded {
				for _, c := range padded {
					if a+b+c > 0 {
						best = math.Min(best, math.Abs(a+b+c-target))
					}
				}
			}
		}
		assert.InDelta(t, best, math.Abs(got.Sum-target), 1e-9)
		sum := 0.0
		for _, p := range got.Parts {
			sum += p
		}
		assert.InDelta(t, sum, got.Sum, 1e-9)
	})
}
