package prove_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/prove"
	"brackmoor/core/rule"
)

// What wears is told from what a meter doubts: each figure once a little off, and once by more than may be.
func TestTrends(t *testing.T) {
	q := asked(t, "rotary")
	can := func(microfarad float64) map[string]float64 {
		return map[string]float64{"volts.ca": 240, "can-ac": 2 * math.Pi * 60 * microfarad * 1e-6 * 240}
	}
	one := func(place string, value float64) map[string]float64 { return map[string]float64{place: value} }
	drop := func(ohm float64) map[string]float64 {
		return map[string]float64{"volts.ab": 240 - 15*ohm, "amps.supply": 15}
	}
	for _, c := range []struct {
		rule, state      string
		was, little, far map[string]float64
	}{
		{"prove.can-loses", prove.Idle, can(40), can(39.6), can(34)},
		{"prove.drag-grows", prove.Alone, one("watts", 300), one("watts", 306), one("watts", 400)},
		{"prove.runs-down-sooner", prove.Alone, one("coast", 30), one("coast", 29.5), one("coast", 20)},
		{"prove.drop-grows", prove.Part, drop(0.2), drop(0.205), drop(0.35)},
	} {
		page := func(then map[string]float64) prove.Page {
			list := []prove.Reading{}
			for i, figures := range []map[string]float64{c.was, then} {
				day := fmt.Sprintf("2026-0%d-01T08:00:0", i+2)
				list = append(
					list,
					prove.Reading{ID: fmt.Sprint("s", i), At: day + "0Z", Hand: "B.", State: prove.Standing},
				)
				put(&list[len(list)-1], "volts.ab", 240)
				r := prove.Reading{ID: fmt.Sprint("r", i), At: day + "1Z", Hand: "B.", State: c.state, AC: 40, BC: 20}
				for place, value := range figures {
					put(&r, place, value)
				}
				list = append(list, r)
			}
			p, err := prove.Of(q, list)
			require.NoError(t, err)
			return p
		}
		spoke := func(p prove.Page) bool {
			return slices.ContainsFunc(p.Verdicts, func(v rule.Verdict) bool { return v.Rule == c.rule })
		}
		little := page(c.little)
		require.Len(t, little.Trends, 1, c.rule)
		assert.Contains(t, little.Trends[0].Says, "within what the meter doubts")
		assert.False(t, spoke(little), c.rule)
		far := page(c.far)
		require.Len(t, far.Trends, 1, c.rule)
		assert.Equal(t, "caution", far.Trends[0].Mark, c.rule)
		assert.True(t, spoke(far), c.rule)
		back := page(c.was)
		assert.Equal(t, "good", back.Trends[0].Mark)
	}
}

// A meter's log is read whatever parts its columns and its decimals, in other units too, by names of any kind; what is
// not understood is named, and one spike moves nothing.
func TestReadLog(t *testing.T) {
	for _, c := range []struct {
		text, state string
		left        []string
		want        map[string]float64
	}{
		{"time,volts.ab,volts.bc,note\n1,240,231,x\n2,241,900,\n3,242,232,\n", prove.Idle, []string{"time", "note"},
			map[string]float64{"volts.ab": 241, "volts.bc": 232}},
		{"Time;U12 [V];I1 (mA);P kW\n1;240,5;5210;0,42\n2;240,5;5210;0,42\n", prove.Part, []string{"Time"},
			map[string]float64{"volts.ab": 240.5, "amps.machine.a": 5.21, "watts": 420}},
		{"L1–L2\tFrame °F\n239\t212\n", prove.Full, []string{}, map[string]float64{"volts.ab": 239, "frame": 100}},
		{"volts.ab V,Winding cold MΩ\n240,1.5\n", prove.Idle, []string{"Winding cold MΩ"},
			map[string]float64{"volts.ab": 240}},
		{"v12,v23,i1\n240,230,5\n236,180,31\n239,228,6\n", prove.Starting, []string{},
			map[string]float64{"volts.ab": 236, "volts.bc": 180, "amps.machine.a": 31}},
	} {
		log, problems := prove.ReadLog(c.text, c.state, 60)
		require.Empty(t, problems, c.text)
		assert.Equal(t, c.left, log.Left)
		got := map[string]float64{}
		for _, f := range log.Figures {
			got[f.Place] = f.Value
		}
		assert.InDeltaMapValues(t, c.want, got, 1e-6, c.text)
		assert.NotZero(t, log.Rows)
	}
	for _, bad := range []string{"", "time,what\n1,2\n", "volts.ab\nx\n", strings.Repeat("x", prove.MostLogBytes+1)} {
		_, problems := prove.ReadLog(bad, prove.Idle, 60)
		assert.NotEmpty(t, problems)
	}
}

// Whatever a file holds, a log has an answer, and what it comes to is a reading that may be written down.
func TestReadLogOfAnything(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		text := rapid.String().Draw(rt, "text")
		if rapid.Bool().Draw(rt, "headed") {
			text = "volts.ab;frame °F;u23 mV\n" + text
		}
		log, problems := prove.ReadLog(text, prove.Idle, 50)
		if problems != nil {
			return
		}
		for _, f := range log.Figures {
			assert.False(rt, math.IsNaN(f.Value) || math.IsInf(f.Value, 0), "%q", text)
		}
	})
}
