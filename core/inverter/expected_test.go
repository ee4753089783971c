package inverter

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
)

// What a display is said to tell at each step is what that of a drive in time tells, which comes to it by stepping.
func TestExpectedIsWhatADriveInTimeShows(t *testing.T) {
	in := hobber(t, drive.OnePhase)
	a, err := drive.Size(in)
	require.NoError(t, err)
	list := drive.Expected(in, a)
	require.Len(t, list, 6)
	for i, want := range list {
		share := []float64{0, 0, 0, 0, in.Share(), 1}[i]
		d := lit(t, 0, in)
		with(t, d, meant)
		if want.Hertz > 0 {
			d.Press("run", 1)
			d.Press("up", int(10*want.Hertz+0.5))
			d.Advance(3)
			d.Load(Braked(in, share))
			d.Advance(2)
		}
		p := d.Picture()
		assert.InDelta(t, want.Hertz, p.Hertz, 1e-6, want.Step)
		assert.InDelta(t, want.Amps, p.Amps, 0.05*want.Amps+0.02, want.Step)
		assert.InDelta(t, want.Volts, p.Volts, 8, want.Step)
		assert.InDelta(t, want.RPM, p.RPM, 12, want.Step)
		assert.InEpsilon(t, want.Bus, d.front.Seen.MeanVolts, 0.03, want.Step)
	}
}
