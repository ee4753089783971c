package compare_test

import (
	"testing"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
)

// Every way worked out anew, nothing shared with the question before.
func BenchmarkCompare(b *testing.B) {
	in := ask(b, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", feed.Wishes{HoursPerDay: 3})
	for b.Loop() {
		compare.Compare(in.With(func(*feed.Question) {}))
	}
}
