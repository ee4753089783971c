package inverter

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
	"brackmoor/core/load"
)

// What a display is said to tell at each step is what that of a drive in time tells, which comes to it by stepping.
func TestExpectedIsWhatADriveInTimeShows(t *testing.T) {
	fan := load.Kinds[slices.IndexFunc(load.Kinds, func(k load.Kind) bool { return k.Exponent == 2 })]
	for _, kind := range []load.Kind{load.Kinds[0], fan} {
		in := hobber(t, drive.OnePhase)
		in.Load = kind
		shape := map[string]any{"shape": "linear"}
		if kind.Exponent == 2 {
			shape = map[string]any{"shape": "square", "boost_percent": 0}
		}
		expected(t, in, shape)
	}
}

func expected(t *testing.T, in drive.Input, shape map[string]any) {
	t.Helper()
	a, err := drive.Size(in)
	require.NoError(t, err)
	list := drive.Expected(in, a)
	require.Len(t, list, 6)
	for i, want := range list {
		share := []float64{0, 0, 0, 0, in.Share(), 1}[i]
		d := lit(t, 0, in)
		with(t, d, meant)
		with(t, d, shape)
		if want.Hertz > 0 {
			d.Press("run", 1)
			d.Press("up", int(10*want.Hertz+0.5))
			if shape["shape"] == "square" && want.Hertz == drive.FirstHertz {
				d.Advance(60) // at so few volts it comes up slowly
			}
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
