// Package shelf finds the parts that make up a value, by exact search.
package shelf

import (
	"math"
	"sort"
)

// Combination is parts in parallel, largest first, and their sum.
type Combination struct {
	Parts []float64 `json:"parts" nullable:"false"`
	Sum   float64   `json:"sum"`
}

// Nearest searches every choice of at most most parts (each value may be taken
// several times) and returns the one whose sum is nearest to the target; among
// those within tolerance (a share of the target) the fewest parts, and of those
// the nearest.
// The zero Combination is returned for a target of zero.
func Nearest(values []float64, target float64, most int, tolerance float64) Combination {
	if target <= 0 || len(values) == 0 {
		return Combination{Parts: []float64{}}
	}
	sorted := append([]float64(nil), values...)
	sort.Sort(sort.Reverse(sort.Float64Slice(sorted)))
	best := Combination{}
	bestGap := math.Inf(1)
	var parts []float64
	var search func(from int, sum float64)
	search = func(from int, sum float64) {
		if len(parts) > 0 {
			gap := math.Abs(sum-target) / target
			better := math.Max(gap, tolerance) < math.Max(bestGap, tolerance)-1e-12
			alike := math.Max(gap, tolerance) < math.Max(bestGap, tolerance)+1e-12
			if better ||
				alike && (len(parts) < len(best.Parts) || len(parts) == len(best.Parts) && gap < bestGap-1e-12) {
				bestGap = gap
				best = Combination{append([]float64(nil), parts...), sum}
			}
		}
		if len(parts) == most || sum >= target {
			return
		}
		for i := from; i < len(sorted); i++ {
			parts = append(parts, sorted[i])
			search(i, sum+sorted[i])
			parts = parts[:len(parts)-1]
		}
	}
	search(0, 0)
	return best
}
