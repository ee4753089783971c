package supply_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/network"
	"brackmoor/core/supply"
)

// The network of a supply with a heater on it, read by a meter, gives its ohms back.
func TestAHeaterTellsTheOhms(t *testing.T) {
	usual := supply.Classes[2]
	rapid.Check(t, func(t *rapid.T) {
		volts := rapid.Float64Range(200, 250).Draw(t, "volts")
		ohm := rapid.Float64Range(0.02, 1).Draw(t, "ohm")
		s := network.Supply{
			Phases: 1, Volts: volts, Hertz: 60, ResistanceOhm: ohm,
			ReactanceOhm: ohm * usual.ReactanceOhm / usual.ResistanceOhm,
		}
		heater := rapid.Float64Range(10, 40).Draw(t, "heater")
		r, err := network.SolveInstallation(network.Installation{
			Case: network.Case{Supply: s},
			Circuits: []network.Circuit{{
				ID: "heater", Loads: []network.Impedance{{ID: "h", Between: network.AB, ResistanceOhm: heater}},
			}},
		})
		require.NoError(t, err)
		test := supply.Test{IdleVolts: volts, LoadedVolts: r.Volts.AB, Amps: r.Supply.Amps}
		require.Empty(t, test.Validate())
		got := test.Ohms()
		assert.InEpsilon(t, ohm, got.ResistanceOhm, 1e-9)
		assert.InEpsilon(t, s.ReactanceOhm, got.ReactanceOhm, 1e-9)
		assert.Less(t, got.Between[0], ohm)
		assert.Greater(t, got.Between[1], ohm)
		assert.Equal(t, volts-r.Volts.AB >= 2, got.Sharp)
		// Half a volt over the amps, either way, as long as the drop is more than that.
		if volts-r.Volts.AB > 1 {
			assert.InEpsilon(t, 0.5/test.Amps, got.Between[1]-ohm, 0.05)
		}
	})
	for _, c := range []supply.Test{{240, 240, 10}, {240, 241, 10}, {240, 180, 10}} {
		problems := c.Validate()
		require.Len(t, problems, 1)
		assert.Equal(t, "loaded_volts", problems[0].Path)
	}
	assert.False(t, math.IsNaN(supply.Test{IdleVolts: 240, LoadedVolts: 239.9, Amps: 20}.Ohms().Between[0]))
}
