package machine_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/machine"
	"brackmoor/core/network"
)

// A transformer passes on what it is asked for, however large the motor, and what goes in comes
// out: its lines' volt-amperes are the machine's and its own idle ones.
func TestATransformerIsLargeEnough(t *testing.T) {
	for amps := 1.0; amps < 600; amps *= 1.3 {
		for _, volts := range []float64{110, 400, 460} {
			m := machine.Machine{Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60, ResistanceOhm: 0.1}}
			m.Plate.Volts.Value, m.Plate.Amps.Value, m.Plate.Hertz.Value = volts, amps, 60
			stepped := m.Stepped()
			step := stepped.Step
			require.NotNil(t, step)
			assert.GreaterOrEqual(t, step.VA, 2*math.Sqrt(3)*volts*amps*(1-1e-9), "%.0f V %.1f A", volts, amps)
			assert.InEpsilon(t, volts/240, step.Ratio(), 1e-9)
			assert.InEpsilon(t, volts*amps+240*step.IdleAmps, 240*stepped.Mains(amps), 1e-9)
			assert.Less(t, step.OwnVA, step.VA)
			assert.Greater(t, stepped.Supply.ResistanceOhm, 0.1*step.Ratio()*step.Ratio(), "the source's, and its own")
		}
	}
}
