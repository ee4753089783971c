package ladder_test

import (
	"cmp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/ladder"
)

// Times that a search takes come in the order of those of the circuit, and so do any one of them and sums of shorter
// ones.
func TestTimesKeepTheirOrder(t *testing.T) {
	small := 0
	rapid.Check(t, func(t *rapid.T) {
		times := rapid.SliceOfN(rapid.Int32Range(1, 20_000), 1, 6).Draw(t, "milliseconds")
		got := ladder.Ordered(times)
		require.Len(t, got, len(times))
		if slices.Max(got) < slices.Max(times) {
			small++
		}
		for i := range times {
			for set := range 1 << len(times) {
				sum, of := int32(0), int32(0)
				distinct := map[int32]bool{}
				for k := range times {
					if set>>k&1 == 1 && times[k] < times[i] && !distinct[times[k]] {
						distinct[times[k]] = true
						sum, of = sum+times[k], of+got[k]
					}
				}
				assert.Equal(t, cmp.Compare(times[i], sum), cmp.Compare(got[i], of), "%v as %v", times, got)
			}
		}
	})
	assert.Positive(t, small)
	assert.Equal(t, []int32{1, 2, 4, 1}, ladder.Ordered([]int32{2000, 2500, 5000, 2000}))
	assert.Equal(t, []int32{1, 2, 3}, ladder.Ordered([]int32{2000, 3000, 5000}), "the third is the sum of the others")
}

// A converter with other seconds breaks the same rules by its own times as by their order.
func TestOrderedTimesFindTheSame(t *testing.T) {
	w, _ := feed.ByName("rotary")
	plain := []circuit.Circuit{
		w.Wire(asked(t, circuit.US), circuit.Choices{Stop: circuit.StopButton}),
		w.Wire(asked(t, circuit.US), circuit.Choices{Stop: circuit.StopButton, Start: circuit.ByBox}),
	}
	broken := 0
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.SampledFrom(plain).Draw(t, "circuit")
		c.Parts = slices.Clone(c.Parts)
		for i := range c.Parts {
			if c.Parts[i].Seconds > 0 { // halves, so that what is exact can be looked at whole
				c.Parts[i].Seconds = float64(rapid.IntRange(1, 8).Draw(t, c.Parts[i].Name)) / 2
			}
		}
		exact, ordered := ladder.Sound(&c, true), ladder.Sound(&c, false)
		require.True(t, ordered.Whole)
		if !exact.Whole {
			return
		}
		rules := func(of ladder.Check) (ids []string) {
			for _, v := range of.Violations {
				ids = append(ids, v.Rule)
			}
			slices.Sort(ids)
			return slices.Compact(ids)
		}
		broken += len(exact.Violations)
		assert.Equal(t, rules(exact), rules(ordered))
	})
	assert.Positive(t, broken, "a load let on too soon is among them")
}
