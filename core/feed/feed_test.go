package feed_test

import (
	"encoding/json"
	"math"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/load"
	"brackmoor/core/machine"
)

func TestTheRegistry(t *testing.T) {
	all := feed.All()
	plain := feed.Ask(feed.Question{})
	require.Len(t, all, 9)
	assert.Equal(t, all[0], feed.Default())
	for i, w := range all {
		info := w.Info()
		assert.Equal(t, i, info.Order, "each has its place")
		found, ok := feed.ByName(info.Name)
		assert.True(t, ok)
		assert.Equal(t, w, found)
		assert.Panics(t, func() { feed.Register(w) }, "a name is registered once")
		cautions := feed.CautionsOf(w, plain)
		assert.Equal(t, "always.isolate", cautions[0].Rule)
		assert.Equal(t, "always.local-code", cautions[len(cautions)-1].Rule)
		assert.Contains(t, cautions[len(cautions)-2].Do, w.Reversal())
	}
	_, ok := feed.ByName("tea")
	assert.False(t, ok)
}

// Each caution stands on the ways that it is about, and on no others.
func TestCautionsStandWhereTheyBelong(t *testing.T) {
	capacitors := []string{"run-capacitor", "start-run-capacitor", "static", "phase-box", "rotary"}
	drives := []string{"drive-single-phase", "drive-derated", "dc-bus"}
	var every []string
	for _, w := range feed.All() {
		every = append(every, w.Info().Name)
	}
	for id, ways := range map[string][]string{
		"always.residual-current":    append([]string{"single-phase-motor"}, capacitors...),
		"drive.residual-current":     drives,
		"always.made-leg-to-earth":   capacitors,
		"always.old-gear":            capacitors,
		"capacitor.welded-start":     {"start-run-capacitor", "static", "phase-box", "rotary"},
		"always.control-transformer": {"static", "phase-box", "rotary"},
		"rotary.lost-line":           {"rotary"},
		"drive.leakage":              drives,
		"drive.old-insulation":       drives,
		"drive.harmonics":            drives,
		"bus.fault-energy":           {"dc-bus"},
		"always.plugs":               every,
		"always.utility":             every,
		"always.screwed-chuck":       every,
	} {
		for _, kind := range []string{"spindle", "fan"} {
			k, _ := load.ByName(kind)
			q := feed.Ask(feed.Question{Machine: machine.Machine{Load: k}})
			var on []string
			for _, w := range feed.All() {
				for _, v := range feed.CautionsOf(w, q) {
					if v.Rule == id {
						on = append(on, w.Info().Name)
					}
				}
			}
			if id == "always.screwed-chuck" && kind == "fan" {
				assert.Empty(t, on)
				continue
			}
			assert.ElementsMatch(t, ways, on, id)
		}
	}
}

// What somebody chose of capacitors is heard by the way it was chosen for, and by none
// besides; capacitors on the motor share theirs.
func TestWhoHearsTheBank(t *testing.T) {
	for _, c := range []struct {
		taken string
		hears []string
	}{
		{"", []string{"start-run-capacitor", "run-capacitor"}},
		{"static", []string{"static"}},
		{"phase-box", []string{"phase-box"}},
		{"start-run-capacitor", []string{"start-run-capacitor", "run-capacitor"}},
	} {
		q := feed.Ask(feed.Question{
			Choice: feed.Choice{Route: c.taken}, Bank: feed.Bank{RunMicrofarad: new(40.0), Reversed: true},
		})
		for _, name := range []string{"start-run-capacitor", "run-capacitor", "static", "phase-box"} {
			w, _ := feed.ByName(name)
			bank := q.For(w).Bank
			hears := false
			for _, who := range c.hears {
				hears = hears || who == name
			}
			assert.Equal(t, hears, bank.RunMicrofarad != nil, "%s while %q is taken", name, c.taken)
			assert.True(t, bank.Reversed, "which way round is the machine's")
		}
	}
}

func TestAChoiceIsFilledAndJudged(t *testing.T) {
	c := feed.Choice{Route: "static", Kept: []string{"rotary", "static", "rotary", "tea"}}
	assert.Equal(t, []string{"rotary", "tea"}, c.Filled().Kept)
	assert.Equal(t, []string{"tea"}, c.Unknown())
	assert.Empty(t, feed.Choice{}.Unknown())
	assert.Equal(t, feed.Default(), feed.Choice{Route: "tea"}.Taken())
}

// What is worked out for a question is worked out once, whoever asks at a time, and anew
// for one in which something changed.
func TestShared(t *testing.T) {
	q := feed.Ask(feed.Question{Title: "one"})
	var made atomic.Int64
	ask := func(q *feed.Question) string {
		return feed.Shared(q, "title", func() string { made.Add(1); return q.Title })
	}
	var wait sync.WaitGroup
	for range 20 {
		wait.Go(func() { assert.Equal(t, "one", ask(q)) })
	}
	wait.Wait()
	other := q.With(func(q *feed.Question) { q.Title = "two" })
	assert.Equal(t, "two", ask(other))
	assert.Equal(t, "one", ask(other.Base()))
	assert.Same(t, q, other.With(func(*feed.Question) {}).Base())
	assert.EqualValues(t, 2, made.Load())
	assert.Equal(t, "one", q.Title)
}

// Every weight has a name, a reason and a field of its own, and counts in the shop's hours.
func TestWeights(t *testing.T) {
	seen := map[string]bool{}
	for i, f := range feed.WeightFields {
		assert.False(t, seen[f.Name], f.Name)
		seen[f.Name] = true
		assert.NotEmpty(t, f.Why)
		q := feed.Ask(feed.Question{Weights: feed.Weights{Fit: 1}, Prices: feed.Prices{Hour: 7}})
		q.Weights = feed.Weights{}
		*f.Of(&q.Weights) = float64(i + 1)
		for _, g := range feed.WeightFields {
			want := 0.0
			if g.Name == f.Name {
				want = 7 * float64(i+1)
			}
			assert.InDelta(t, want, q.Money(g.Name), 1e-9)
		}
	}
	assert.Panics(t, func() { feed.Ask(feed.Question{}).Money("tea") })
}

// A point stays where it is, as near as five figures tell, and is short to write.
func TestAt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := rapid.Float64Range(-1e6, 1e6).Draw(t, "x")
		y := math.Pow(10, rapid.Float64Range(-9, 6).Draw(t, "exponent"))
		p := feed.At(x, y)
		assert.InDelta(t, x, p[0], 5.0001e-5*math.Abs(x)+1e-12)
		assert.InEpsilon(t, y, p[1], 5.0001e-5)
		text, err := json.Marshal(p[1])
		assert.NoError(t, err)
		assert.LessOrEqual(t, len(text), 12, "%s", text)
	})
	assert.Equal(t, [2]float64{0, -330.13}, *feed.At(0, -330.128))
}
