package floor_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"brackmoor/core/floor"
	"brackmoor/core/site"
)

// BenchmarkFloorState is one state of a shop of twenty machines on three converters, everything on.
func BenchmarkFloorState(b *testing.B) {
	sh := shopOf(b, "tallow-mill")
	f, s := floor.Of(sh, fit), all(sh)
	for b.Loop() {
		_, err := f.Solve(s)
		require.NoError(b, err)
	}
}

// BenchmarkTogetherSets is which of the twenty may run together and which never.
func BenchmarkTogetherSets(b *testing.B) {
	f := floor.Of(shopOf(b, "tallow-mill"), fit)
	for b.Loop() {
		require.NoError(b, f.Sets(context.Background(), site.State{}))
	}
}

// BenchmarkTogether is all that may run together in that shop, and what starts beside what.
func BenchmarkTogether(b *testing.B) {
	f := floor.Of(shopOf(b, "tallow-mill"), fit)
	for b.Loop() {
		_, err := f.Together(context.Background(), site.State{})
		require.NoError(b, err)
	}
}

// BenchmarkFloorOf is a shop of twenty machines made ready, its plates fitted already.
func BenchmarkFloorOf(b *testing.B) {
	sh := shopOf(b, "tallow-mill")
	floor.Of(sh, fit)
	for b.Loop() {
		floor.Of(sh, fit)
	}
}

// BenchmarkChoose is the converter for a shop: idlers of all sizes, tuned.
func BenchmarkChoose(b *testing.B) {
	f := floor.Of(shopOf(b, "tarn-hollow"), fit)
	for b.Loop() {
		_, err := f.Choose(context.Background(), "tarn-converter")
		require.NoError(b, err)
	}
}
