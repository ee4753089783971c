package stock_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// brute looks at every subset of single cans and of pairs in series.
func brute(list []stock.Item, target, volts, percent float64) (cans int, off float64) {
	type can struct {
		item  int
		value float64
	}
	var all []can
	for i, x := range list {
		for range int(x.Count) {
			all = append(all, can{i, x.Value()})
		}
	}
	cans, off = 99, math.Inf(1)
	for set := range 1 << len(all) {
		sum, count, bad := 0.0, 0, false
		weak := map[int]int{}
		for k, c := range all {
			if set>>k&1 == 0 {
				continue
			}
			count++
			switch x := list[c.item]; {
			case x.Volts >= volts:
				sum += c.value
			case x.Volts >= volts/2:
				weak[c.item]++
				sum += c.value / 4 // half of it for a pair
			default:
				bad = true
			}
		}
		for _, n := range weak {
			bad = bad || n%2 == 1
		}
		apart := math.Abs(sum - target)
		if bad || count == 0 || sum < target*(1-percent/100) || sum > target*(1+percent/100) || count > cans ||
			count > 8 {
			continue
		}
		if count < cans || apart < off {
			cans, off = count, apart
		}
	}
	return cans, off
}

// The search finds what looking at every subset finds.
func TestCombineIsExact(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		var list []stock.Item
		total := 0
		for i := range rapid.IntRange(1, 6).Draw(r, "items") {
			count := rapid.IntRange(0, 4).Draw(r, "count")
			if total += count; total > 13 {
				break
			}
			list = append(list, stock.Item{
				ID: string(rune('a' + i)), Kind: stock.Run, Count: float64(count), Condition: "new", Year: 2020,
				Microfarad: float64(rapid.IntRange(20, 800).Draw(r, "tenths")) / 10,
				Volts:      rapid.SampledFrom([]float64{150, 250, 370, 440}).Draw(r, "volts"),
			})
		}
		target := float64(rapid.IntRange(20, 3000).Draw(r, "target")) / 10
		percent := rapid.SampledFrom([]float64{2, 5, 10}).Draw(r, "percent")
		m, ok := stock.Combine(list, stock.Run, target, 300, percent, "")
		cans, off := brute(list, target, 300, percent)
		if ok != (cans < 99) {
			r.Fatalf("found %v, and there is one of %d", ok, cans)
		}
		if !ok {
			return
		}
		if m.Count != cans || math.Abs(math.Abs(m.Microfarad-target)-off) > 1e-9 {
			r.Fatalf("%d cans %v off, and %d cans %v off do", m.Count, m.Microfarad-target, cans, off)
		}
		used := map[string]float64{}
		for _, c := range m.Cans {
			used[c.Item.ID]++
			if c.Series {
				used[c.Item.ID]++
			}
		}
		left := stock.Less(list, m)
		for i, x := range list {
			if used[x.ID] > x.Count || left[i].Count != x.Count-used[x.ID] {
				r.Fatalf("%v of %v, and %v left", used[x.ID], x.Count, left[i].Count)
			}
		}
	})
}

// What is measured counts before what is marked; what is reserved for another machine or doubtful is left alone.
func TestWhatIsTaken(t *testing.T) {
	list := []stock.Item{
		{ID: "a", Kind: stock.Run, Count: 2, Microfarad: 40, Measured: 38.5, Volts: 440},
		{ID: "b", Kind: stock.Run, Count: 1, Microfarad: 40, Volts: 440, Condition: "new", For: "lathe"},
		{ID: "c", Kind: stock.Run, Count: 1, Microfarad: 60, Volts: 440, Year: 1975},
		{ID: "d", Kind: stock.DC, Count: 9, Microfarad: 100, Volts: 450},
	}
	m, ok := stock.Combine(list, stock.Run, 77, 370, 3, "mill")
	require.True(t, ok)
	assert.InDelta(t, 77, m.Microfarad, 1e-9)
	_, ok = stock.Combine(list, stock.Run, 40, 370, 2, "mill")
	assert.False(t, ok)
	_, ok = stock.Combine(list, stock.Run, 40, 370, 2, "lathe")
	assert.True(t, ok, "its own")
	_, ok = stock.Combine(list, stock.Run, 100, 370, 5, "mill")
	assert.False(t, ok, "nothing of what is stopped")
}

func TestDoubtfulParts(t *testing.T) {
	const run = stock.Run
	for name, c := range map[string]struct {
		item stock.Item
		want rule.Severity
	}{
		"pcb":              {stock.Item{Kind: run, Microfarad: 40, Volts: 370, Year: 1972, Measured: 40}, rule.Stop},
		"direct current":   {stock.Item{Kind: stock.DC, Microfarad: 400, Volts: 450}, rule.Stop},
		"worn out":         {stock.Item{Kind: run, Microfarad: 40, Volts: 370, Measured: 35}, rule.Stop},
		"no volts":         {stock.Item{Kind: stock.Start, Microfarad: 200, Condition: "new"}, rule.Stop},
		"unknown life":     {stock.Item{Kind: run, Microfarad: 9, Volts: 370, Condition: "unknown"}, rule.Caution},
		"good, unmeasured": {stock.Item{Kind: run, Microfarad: 40, Volts: 370, Condition: "good"}, rule.Caution},
		"old, measured":    {stock.Item{Kind: run, Microfarad: 40, Volts: 370, Year: 2001, Measured: 39}, ""},
		"new":              {stock.Item{Kind: run, Microfarad: 40, Volts: 370, Condition: "new"}, ""},
		"a contactor":      {stock.Item{Kind: "contactor", Amps: 25}, ""},
	} {
		d := c.item.Doubtful()
		if c.want == "" {
			assert.Nil(t, d, name)
			continue
		}
		require.NotNil(t, d, name)
		assert.Equal(t, c.want, d.Severity, name)
		assert.NotEmpty(t, d.Says)
	}
	assert.Len(t, stock.Check([]stock.Item{{ID: "a", Kind: "run"}, {ID: "a", Kind: "rope"}}), 2)
	assert.Empty(t, stock.Check([]stock.Item{{ID: "a", Kind: "wire", Count: 3}}))
}

// What is reserved is a machine's own, what is left stays free, nothing is lost on the way, and what is used up is
// gone.
func TestPartsAreReserved(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		var list []stock.Item
		total := 0.0
		for i := range rapid.IntRange(1, 5).Draw(r, "items") {
			n := float64(rapid.IntRange(1, 9).Draw(r, "count"))
			list = append(list, stock.Item{ID: string(rune('a' + i)), Kind: "fuse", Count: n})
			total += n
		}
		var takes []stock.Take
		wanted := 0.0
		for _, x := range list {
			n := float64(rapid.IntRange(0, 12).Draw(r, "take"))
			takes = append(takes, stock.Take{ID: x.ID, Count: n})
			wanted += math.Min(n, x.Count)
		}
		count := 0
		kept := stock.Reserve(list, takes, "mill", func() string { count++; return "new" + string(rune('a'+count)) })
		sum := func(list []stock.Item, machine string) (n float64) {
			for _, x := range list {
				if x.For == machine {
					n += x.Count
				}
			}
			return n
		}
		if sum(kept, "mill") != wanted || sum(kept, "") != total-wanted {
			r.Fatalf("%v reserved of %v, %v free of %v", sum(kept, "mill"), wanted, sum(kept, ""), total)
		}
		if len(stock.Check(kept)) > 0 {
			r.Fatalf("%v", stock.Check(kept))
		}
		if used := stock.Use(kept, "mill"); sum(used, "mill") != 0 || sum(used, "") != total-wanted {
			r.Fatalf("%v left", used)
		}
		if free := stock.Release(kept, "mill"); sum(free, "") != total {
			r.Fatalf("%v free", free)
		} else if count > 0 && len(free) > len(list) {
			r.Fatalf("%v does not go back to what is alike", free)
		}
	})
}

// The smallest that is large enough is taken, of the volts wanted, free and not doubtful.
func TestPicks(t *testing.T) {
	motors := []stock.Item{
		{ID: "small", Kind: "motor", Count: 1, Watts: 2200, Volts: 230},
		{ID: "kept", Kind: "motor", Count: 1, Watts: 3700, Volts: 230, For: "mill"},
		{ID: "large", Kind: "motor", Count: 1, Watts: 5500},
		{ID: "good", Kind: "motor", Count: 1, Watts: 4000, Volts: 240},
		{ID: "high", Kind: "motor", Count: 1, Watts: 3800, Volts: 460},
		{ID: "gone", Kind: "motor", Count: 0, Watts: 3700, Volts: 230},
		{ID: "lost", Kind: "motor", Count: 1, Watts: 3700, Volts: 230, Condition: "unknown"},
	}
	for _, c := range []struct {
		watts   float64
		machine string
		want    []string
	}{
		{3700, "lathe", []string{"good"}}, {3700, "mill", []string{"kept"}}, {4100, "lathe", []string{"large"}},
		{2000, "lathe", []string{"small"}}, {1000, "lathe", nil}, {6000, "lathe", nil},
	} {
		assert.Equal(t, c.want, stock.Idler(motors, c.watts, 240, c.machine).IDs(), "%v", c)
	}
	drives := []stock.Item{
		{ID: "no", Kind: "drive", Count: 1, Watts: 2200, OnePhase: "no"},
		{ID: "maybe", Kind: "drive", Count: 1, Watts: 2300, Volts: 230},
		{ID: "yes", Kind: "drive", Count: 1, Watts: 4000, Amps: 9.6, OnePhase: "yes"},
	}
	for _, c := range []struct {
		watts, amps float64
		onePhase    bool
		want        []string
	}{
		{2200, 8, false, []string{"maybe"}}, {2200, 8, true, []string{"yes"}}, {2200, 11, true, nil},
		{1000, 4, true, nil},
	} {
		assert.Equal(t, c.want, stock.Drive(drives, c.watts, c.amps, 230, c.onePhase, "").IDs(), "%v", c)
	}
	assert.Len(t, stock.CheckCosts([]stock.Cost{{What: "a"}, {What: "b"}, {What: "a"}}), 1)
}
