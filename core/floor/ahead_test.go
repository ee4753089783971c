package floor_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/floor"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// A converter behind a transformer of hardly any ohms to twice the volts, its motors joined for those, is as without
// one: shares, percents and what the supply gives, and its start.
func TestTransformerAhead(t *testing.T) {
	of := func(ahead float64) shop.Shop {
		sh := shop.Shop{Supply: supply.Supply{
			Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 125, Class: supply.Own, ResistanceOhm: 0.1,
			ReactanceOhm: 0.06,
		}}
		times := 1.0
		if ahead > 0 {
			times = 4 // a quarter of the microfarads at twice the volts
		}
		c := site.Converter{ID: "conv", Name: "C", IdlerWatts: 5593, BalanceAC: 100 / times, BalanceBC: 60 / times,
			Start: 480 / times}
		if ahead > 0 {
			c.AheadVolts, c.AheadKVA, c.AheadPercent = ahead, 10, 0.01
		}
		sh.Site.Converters = []site.Converter{c}
		sh.Site.Hung = []site.Hung{{ID: "lathe", On: "conv"}}
		sh.Machines = []shop.Machine{
			{ID: "lathe", Name: "Lathe", Motors: []shop.Motor{{ID: "lathe-m", Plate: plate.Typed{
				Output: "3 hp", Volts: "240/480", Amps: "9.0/4.5", RPM: "1745", Hertz: "60",
			}, Driven: shop.Driven{Load: "spindle"}}}},
		}
		require.Empty(t, sh.Site.Check(sh.Supply, map[string]string{}))
		return sh
	}
	plain, ahead := floor.Of(of(0), fit), floor.Of(of(480), fit)
	for _, s := range []site.State{on("conv"), on("conv", "lathe")} {
		a, err := plain.Solve(s)
		require.NoError(t, err)
		b, err := ahead.Solve(s)
		require.NoError(t, err)
		x, y := a.Converters[0], b.Converters[0]
		assert.InEpsilon(t, 2*x.Volts.AB, y.Volts.AB, 0.005)
		assert.InEpsilon(t, 2*x.Volts.CA, y.Volts.CA, 0.008)
		assert.InEpsilon(t, x.IdlerPercent, y.IdlerPercent, 0.02)
		iron := 0.012 * 10e3 // of such a transformer
		assert.InDelta(t, a.Main.Watts, b.Main.Watts-iron, 0.02*a.Main.Watts+30)
		assert.Equal(t, a.Permitted, b.Permitted, "%v %v", a.Broken, b.Broken)
		if m := a.Machines[0].Motors[0]; m.Live {
			assert.InEpsilon(t, m.HottestPercent, b.Machines[0].Motors[0].HottestPercent, 0.02)
			assert.InEpsilon(t, m.Amps, 2*b.Machines[0].Motors[0].Amps, 0.02)
		}
	}
	for _, id := range []string{"conv", "lathe"} {
		a, err := plain.Start(on("conv"), id)
		require.NoError(t, err)
		b, err := ahead.Start(on("conv"), id)
		require.NoError(t, err)
		require.NotNil(t, b.Seconds, "%v", b.Broken)
		assert.InEpsilon(t, *a.Seconds, *b.Seconds, 0.05, id)
		assert.InEpsilon(t, 2*a.LowestVolts, b.LowestVolts, 0.02, id)
	}
	sh := of(480)
	sh.Site.Converters[0].AheadKVA = 0
	problems := sh.Site.Check(sh.Supply, map[string]string{})
	require.NotEmpty(t, problems)
	assert.Equal(t, "converters[0].ahead_kva", problems[0].Path)
	// One of usual ohms costs volts, and its inrush is told.
	sh = of(480)
	sh.Site.Converters[0].AheadKVA, sh.Site.Converters[0].AheadPercent = 10, 0
	f := floor.Of(sh, fit)
	loaded, err := f.Solve(on("conv", "lathe"))
	require.NoError(t, err)
	stiff, err := ahead.Solve(on("conv", "lathe"))
	require.NoError(t, err)
	assert.Less(t, loaded.Converters[0].Volts.AB, stiff.Converters[0].Volts.AB-2)
	for _, card := range f.Cards() {
		if card.ID == "conv" {
			assert.Equal(t, "Transformer ahead of it", card.Facts[len(card.Facts)-2].Label)
			assert.Contains(t, card.Facts[len(card.Facts)-2].Remark, "500 A", "12 times 10 kVA on 240 V")
		}
	}
}
