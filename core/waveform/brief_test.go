package waveform_test

import (
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"brackmoor/core/waveform"
)

// What is written briefly is off by no more than half of its last digit, keeps its order, and is short.
func TestBrief(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		scale := math.Pow(10, float64(rapid.IntRange(-6, 6).Draw(t, "scale")))
		share := rapid.Map(rapid.IntRange(-1e6, 1e6), func(i int) float64 { return float64(i) / 1e6 })
		values := rapid.SliceOfN(share, 1, 30).Draw(t, "values")
		digits := rapid.IntRange(3, 7).Draw(t, "digits")
		largest := 0.0
		for i := range values {
			values[i] *= scale
			largest = max(largest, math.Abs(values[i]))
		}
		brief := append([]float64{}, values...)
		waveform.Brief(brief, digits)
		step := math.Pow(10, math.Floor(math.Log10(max(largest, 1e-300)))-float64(digits-1))
		for i, v := range values {
			assert.InDelta(t, v, brief[i], 0.5000001*step)
			assert.False(t, brief[i] == 0 && math.Signbit(brief[i]))
			for k, w := range values {
				assert.False(t, v < w && brief[i] > brief[k], "the order is kept")
			}
			if v != 0 {
				assert.LessOrEqual(t, len(strconv.FormatFloat(math.Abs(brief[i]), 'e', -1, 64)), digits+6)
			}
		}
	})
	none := []float64{0, 0}
	waveform.Brief(none, 5)
	assert.Equal(t, []float64{0, 0}, none)
	odd := []float64{math.Inf(1), 12.3456789}
	waveform.Brief(odd, 4)
	assert.Equal(t, []float64{math.Inf(1), 12.35}, odd)
}
