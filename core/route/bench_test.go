package route_test

import (
	"testing"

	"brackmoor/core/route"
)

func BenchmarkCompare(b *testing.B) {
	in := ask(b, "3 hp 230/460 V 9.0/4.5 A 60 Hz 1745 rpm", "240/60", "ram", route.Wishes{HoursPerDay: 3})
	for b.Loop() {
		route.Compare(in)
	}
}
