package search_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"brackmoor/core/search"
)

func TestEdge(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		edge := rapid.Float64Range(0, 1).Draw(t, "edge")
		up := search.Edge(0, 1, 40, func(x float64) bool { return x <= edge })
		down := search.Edge(1, 0, 40, func(x float64) bool { return x > edge })
		assert.InDelta(t, edge, up, 1e-11)
		assert.InDelta(t, edge, down, 1e-11)
		assert.LessOrEqual(t, up, edge, "it is where something holds")
		if edge < 1 {
			assert.Greater(t, down, edge)
		}
	})
	assert.Equal(t, 3.0, search.Edge(3, 7, 0, nil), "no rounds ask nothing")
}

func TestSection(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		top := rapid.Float64Range(-4, 9).Draw(t, "top")
		hill := func(x float64) float64 { return -math.Pow(math.Abs(x-top), 1.3) }
		low, high := search.Section(-5, 10, 60, func(a, b float64) bool { return hill(a) > hill(b) })
		assert.InDelta(t, top, (low+high)/2, 1e-8)
	})
}

func ExampleEdge() {
	root := search.Edge(1, 2, 50, func(x float64) bool { return x*x < 2 })
	fmt.Printf("%.6f\n", root)
	// Output: 1.414214
}
