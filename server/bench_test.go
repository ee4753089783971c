package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
)

// BenchmarkTrial is the server's part of what follows the hand: a trial asked, worked out and
// written, no network between, on each family of ways. One that is refused tells what of it is
// the doors.
func BenchmarkTrial(b *testing.B) {
	s := open(b, nil)
	for _, c := range []struct{ name, motor, way, turned string }{
		{"capacitors", "tarn-shaper-m1", "start-run-capacitor", "run_microfarad"},
		{"idler", "tarn-hobber-m1", "rotary", "balance_ac_microfarad"},
		{"drive", "tarn-borer-m1", "drive-derated", "load_share"},
		{"refused", "tarn-borer-m1", "drive-derated", "tea"},
	} {
		b.Run(c.name, func(b *testing.B) {
			trial := map[string]float64{}
			for _, c := range s.sized(c.motor, c.way).Controls {
				if c.Kind == feed.Slide || c.Kind == feed.Pick {
					trial[c.Name] = c.Value
				}
			}
			stood := trial[c.turned]
			for b.Loop() {
				stood *= 0.99999
				trial[c.turned] = stood
				got := s.ask("POST", "/api/motors/"+c.motor+"/ways/"+c.way+"/trial", text(b, trial))
				require.Equal(b, c.name == "refused", got.Code != 200, got.Body.String())
			}
		})
	}
}
