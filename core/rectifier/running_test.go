package rectifier

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A bridge under way, from an empty bus through a precharge, comes to the periodic state that is sought by itself.
func TestRunningComesToThePeriodicState(t *testing.T) {
	for name, phases := range map[string]int{"one phase": 1, "three": 3} {
		c := Case{
			Supply:    Supply{Volts: 240, Hertz: 60, LineResistanceOhm: 0.1, LineReactanceOhm: 0.1},
			Bridge:    Front{Phases: phases, Topology: Bridge, BusMicrofarad: 800, LineReactorOhm: 0.4},
			LoadWatts: 1500,
		}
		want, err := Solve(c)
		require.NoError(t, err)
		r := Run(c)
		r.Through(40)
		r.Advance(1.5, 0)
		assert.InEpsilon(t, 240*math.Sqrt2, r.Volts(), 0.02, "charged")
		assert.Less(t, r.Seen.PeakAmps, 240*math.Sqrt2/40)
		r.Through(0)
		r.Advance(0.5, 1500)
		assert.InEpsilon(t, want.BusMeanVolts, r.Seen.MeanVolts, 0.003, name)
		assert.InEpsilon(t, want.InputRMSAmps, r.Seen.InputAmps, 0.02, name)
		assert.InDelta(t, want.RipplePPVolts, r.Seen.MostVolts-r.Seen.LeastVolts, 0.02*want.RipplePPVolts+0.3, name)
	}
}

// What a load gives back lifts the bus by its energy, and what it draws with no line there empties it by it.
func TestRunningKeepsTheEnergy(t *testing.T) {
	const farad = 600e-6
	r := Run(Case{
		Supply: Supply{Volts: 240, Hertz: 50, LineResistanceOhm: 0.2},
		Bridge: Front{Phases: 1, Topology: Bridge, BusMicrofarad: farad * 1e6},
	})
	r.Advance(0.5, 0)
	energy := func() float64 { return farad * r.Volts() * r.Volts() / 2 }
	before := energy()
	r.Advance(0.02, -500)
	assert.InEpsilon(t, before+10, energy(), 1e-3)
	r.Feed(0, 0)
	before = energy()
	r.Advance(0.05, 300)
	assert.InEpsilon(t, before-15, energy(), 1e-3)
	r.Advance(0.2, 300)
	assert.Less(t, r.Volts(), 50.0)
	assert.Positive(t, r.Volts(), "it stops drawing before there is nothing left")
	r.Feed(2, 240)
	r.Advance(0.2, 300)
	assert.InEpsilon(t, 240*math.Sqrt2, r.Volts(), 0.1, "and comes back")
}
