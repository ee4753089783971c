package prove_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/bench"
	"brackmoor/core/prove"
)

// started is a rig of a way with its planned capacitors in, its idler brought up by a pony, and its machine running.
func started(t *testing.T, way, plant string, draw func() float64) *bench.Bench {
	t.Helper()
	c, clipped, err := prove.Rig(asked(t, way), plant, draw)
	require.NoError(t, err)
	b := bench.New(c)
	for _, d := range clipped {
		assert.Empty(t, b.Do(d))
	}
	up := bench.Machine
	if c.Idler != nil {
		up = bench.Idler
	}
	b.Do(bench.Doing{What: bench.Spin, Of: up, By: 1700})
	b.Do(bench.Doing{What: bench.Close, Of: bench.Supply})
	b.Do(bench.Doing{What: bench.Close, Of: up})
	require.NoError(t, b.Advance(1.5))
	b.Do(bench.Doing{What: bench.Close, Of: bench.Machine})
	require.NoError(t, b.Advance(3))
	assert.Empty(t, b.Mistakes)
	return b
}

// A rig that is as its plates say reads what Prove foretells of it, by way of time, meters and their classes.
func TestARigReadsAsForetold(t *testing.T) {
	for _, way := range []string{"rotary", "run-capacitor", "start-run-capacitor"} {
		b := started(t, way, "", nil)
		r := prove.ReadOff(b, prove.Idle)
		r.ID, r.At, r.Hand = "1", "2026-03-01T08:00:01Z", "Bench"
		require.Empty(t, r.Check())
		page, err := prove.Of(asked(t, way), nil)
		require.NoError(t, err)
		cells := 0
		for _, cell := range row(t, page, prove.Idle).Cells {
			for _, f := range r.Figures {
				if f.Place == cell.Place && cell.Low != nil {
					cells++
					wide := 0.02*math.Abs(*cell.High) + 0.2
					assert.GreaterOrEqual(t, f.Value, *cell.Low-wide, "%s %s", way, f.Place)
					assert.LessOrEqual(t, f.Value, *cell.High+wide, "%s %s", way, f.Place)
				}
			}
		}
		assert.GreaterOrEqual(t, cells, 3, way)
	}
	_, _, err := prove.Rig(asked(t, "drive-single-phase"), "", nil)
	require.ErrorContains(t, err, "could be rigged")
}

// A converter off its plates is tuned on the Bench as Prove says: with at most two changes of loose cans its volts are
// no more uneven than before, mostly far less.
func TestARigIsTunedByTwoChanges(t *testing.T) {
	better, all := 0, 0
	for seed := range uint64(6) {
		draw := rand.New(rand.NewPCG(seed+1, 3)).Float64
		b := started(t, "rotary", "weak-can", draw)
		uneven := func() float64 {
			v := [3]float64{*b.Read("volts", "ab").Value, *b.Read("volts", "bc").Value, *b.Read("volts", "ca").Value}
			mean := (v[0] + v[1] + v[2]) / 3
			return 100 * max(math.Abs(v[0]-mean), math.Abs(v[1]-mean), math.Abs(v[2]-mean)) / mean
		}
		first := uneven()
		var readings []prove.Reading
		for k := range 2 {
			r := prove.ReadOff(b, prove.Idle)
			r.ID, r.At, r.Hand = string(rune('1'+k)), "2026-03-01T08:00:0"+string(rune('1'+k))+"Z", "Bench"
			readings = append(readings, r)
			ac, bc := prove.Clipped(b)
			page, err := prove.OnBench(asked(t, "rotary"), readings, ac, bc)
			require.NoError(t, err)
			if page.Next == nil {
				break
			}
			// What is loose and fits best of each bank's change is clipped in, everything dead.
			for _, want := range []struct {
				pair string
				more float64
			}{{"ac", page.Next.AC - r.AC}, {"bc", page.Next.BC - r.BC}} {
				for _, can := range b.Picture().Cans {
					if can.Pair == "" && can.Microfarad <= want.more+5 {
						b.Do(bench.Doing{What: bench.Clip, Of: can.ID, To: want.pair})
						want.more -= can.Microfarad
					}
				}
			}
			require.NoError(t, b.Advance(2))
		}
		all++
		if uneven() <= first+0.2 {
			better++
		}
		t.Logf("seed %d: %.1f %% to %.1f %%", seed+1, first, uneven())
	}
	assert.GreaterOrEqual(t, better, all-1)
}
