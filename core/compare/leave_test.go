package compare_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/halt"
	"brackmoor/core/load"
)

// asked are the costly questions of a way.
func asked() map[string]func(feed.Way, *feed.Question) any {
	return map[string]func(feed.Way, *feed.Question) any{
		"outline": func(w feed.Way, q *feed.Question) any { return w.Outline(q) },
		"size":    func(w feed.Way, q *feed.Question) any { p, err := w.Size(q); return []any{p, err} },
		"trial":   func(w feed.Way, q *feed.Question) any { p, err := w.Try(q); return []any{p, err} },
		"paper":   func(w feed.Way, q *feed.Question) any { p, err := w.Paper(q); return []any{p, err} },
	}
}

var plates = []string{
	"3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "15 hp 230/460 V 38/19 A 60 Hz 1750 rpm",
	"0.75 hp 230/460 V 2.8/1.4 A 60 Hz 1140 rpm",
}

// Whoever leaves, at whatever moment, leaves nothing half made to who asks the same question
// after, or meanwhile.
func TestWhoLeavesSpoilsNothing(t *testing.T) {
	kinds := load.Kinds
	for name, do := range asked() {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			whole := ask(t, plates[rand.IntN(len(plates))], "240/60", kinds[rand.IntN(len(kinds))].Name, feed.Wishes{})
			for _, w := range feed.All() {
				want, err := json.Marshal(do(w, whole))
				require.NoError(t, err)
				q := whole.With(func(*feed.Question) {})
				left, stays := make(chan struct{}), make(chan struct{})
				time.AfterFunc(time.Duration(rand.Int64N(int64(40*time.Millisecond))), func() { close(left) })
				go func() {
					defer close(stays)
					stayed, err := json.Marshal(do(w, q))
					assert.NoError(t, err)
					assert.JSONEq(t, string(want), string(stayed), "of who stays: %s", w.Info().Name)
				}()
				do(w, q.Until(left))
				<-stays
				after, err := json.Marshal(do(w, q))
				require.NoError(t, err)
				assert.JSONEq(t, string(want), string(after), "of who asks after: %s", w.Info().Name)
			}
		})
	}
}

// A sign that is closed from the first lets nothing begin that takes long.
func TestNothingBeginsForNobody(t *testing.T) {
	closed := make(chan struct{})
	close(closed)
	q := ask(t, plates[0], "240/60", "ram", feed.Wishes{})
	for _, w := range feed.All() {
		_, err := w.Size(q.With(func(*feed.Question) {}).Until(closed))
		if f := w.Info().Family; f == "idler" || f == "drive" {
			assert.ErrorIs(t, err, halt.ErrStopped, w.Info().Name)
		}
	}
	assert.Empty(t, compare.Work(q.Until(closed)))
}

// How long a question goes on once its asker left, at many moments.
func BenchmarkLeaving(b *testing.B) {
	for name, do := range asked() {
		b.Run(name, func(b *testing.B) {
			in := ask(b, plates[1], "240/60", "ram", feed.Wishes{})
			var after []time.Duration
			for b.Loop() {
				for _, w := range feed.All() {
					stop := make(chan struct{})
					var at time.Time
					time.AfterFunc(time.Duration(rand.Int64N(int64(100*time.Millisecond))), func() {
						at = time.Now()
						close(stop)
					})
					do(w, in.With(func(*feed.Question) {}).Until(stop))
					end := time.Now()
					<-stop
					after = append(after, max(0, end.Sub(at)))
				}
			}
			slices.Sort(after)
			b.ReportMetric(after[len(after)*95/100].Seconds()*1000, "p95-ms")
		})
	}
}
