package server_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/supply"
	"brackmoor/store"
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

// BenchmarkManyMachines is a list of a shop's machines in a database of ten thousand, each request
// timed, the cards known.
func BenchmarkManyMachines(b *testing.B) {
	s := open(b, nil)
	motor := shop.Motor{Plate: plate.Typed{Output: "3 hp", Volts: "230/460", Amps: "9/4.5", Hertz: "60", RPM: "1745"}}
	for k := range 100 {
		sh := shop.Shop{ID: fmt.Sprint("many-", k), Name: "Many", Supply: supply.Supply{
			Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 200, Class: "usual",
		}}
		for i := range 100 {
			id := fmt.Sprint("many-", k, "-", i)
			m := motor.Filled()
			m.ID = id + "-m"
			sh.Machines = append(sh.Machines, shop.Machine{ID: id, Name: "Machine", Motors: []shop.Motor{m}})
		}
		_, err := s.store.Import(b.Context(), shop.File{Format: shop.Format, Shops: []shop.Shop{sh}}, store.Choice{})
		require.NoError(b, err)
	}
	var times []float64
	s.page("many-0")
	for k := 0; b.Loop(); k++ {
		begin := time.Now()
		got := s.ask("GET", fmt.Sprint("/api/shops/many-", k%100), "")
		times = append(times, float64(time.Since(begin).Microseconds())/1000)
		require.Equal(b, 200, got.Code)
	}
	slices.Sort(times)
	b.ReportMetric(times[len(times)/2], "p50-ms")
	b.ReportMetric(times[len(times)*95/100], "p95-ms")
}
