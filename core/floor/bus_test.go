package floor_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
	"brackmoor/core/floor"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/study"
)

// bussed is Tarn Hollow with hobber, shaper and extractor as drives on a dc bus on its converter circuit.
func bussed(t *testing.T) shop.Shop {
	sh := shopOf(t, "tarn-hollow")
	c := &sh.Site.Converters[0]
	*c = site.Converter{ID: c.ID, Name: "Bus", On: c.On, Kind: site.BusKind}
	return sh
}

// A bus with one drive on it takes what that drive's own front end takes, and with several what their
// sum does; the drives' watts are what the rectifier gives.
func TestBusByItsFrontEnd(t *testing.T) {
	sh := bussed(t)
	f := floor.Of(sh, fit)
	s := on("tarn-converter", "tarn-shaper")
	s.Shares = map[string]float64{"tarn-shaper-m1": 1}
	p, err := f.Solve(s)
	require.NoError(t, err)
	bus := p.Converters[0].Bus
	require.NotNil(t, bus)
	st := study.Of(sh.Supply, sh.Machines[1].Motors[0], fit)
	watts := st.Machine.Watts() / st.Plate.Efficiency.Value / (1 - drive.Losses)
	assert.InEpsilon(t, watts, bus.Volts*bus.Amps, 1e-9)
	assert.InEpsilon(t, watts, p.Converters[0].Watts, 0.02)
	in := drive.Input{Machine: st.Machine, Kind: drive.Bus}
	front, _ := in.Bus(in.Rating())
	own, err := in.Takes(front, st.Machine.Watts())
	require.NoError(t, err)
	assert.InEpsilon(t, own.InputRMSAmps, p.Converters[0].Amps, 0.15, "a third of a larger front end")
	assert.True(t, p.Permitted, "%v", p.Broken)

	s = on("tarn-converter", "tarn-hobber", "tarn-shaper", "tarn-extractor")
	all, err := f.Solve(s)
	require.NoError(t, err)
	dc := 0.0
	for _, m := range all.Machines {
		for _, o := range m.Motors {
			if o.Live && sh.Site.Place(m.ID, o.ID).On == "tarn-converter" {
				assert.Equal(t, "running", o.State)
				dc += o.Amps
			}
		}
	}
	assert.InEpsilon(t, dc, all.Converters[0].Bus.Amps, 1e-9)
	assert.Greater(t, all.Converters[0].Amps, p.Converters[0].Amps)
	assert.Less(t, all.Converters[0].Bus.Volts, bus.Volts, "it sags under more")

	none, err := f.Solve(on("tarn-converter"))
	require.NoError(t, err)
	assert.Zero(t, none.Converters[0].Amps)
	dead, err := f.Solve(on("tarn-shaper"))
	require.NoError(t, err)
	assert.False(t, dead.Machines[1].Motors[0].Live)
	assert.Empty(t, dead.Broken)
}

// A bus charges, its drives ramp up, and nothing of an idler is said of it.
func TestBusStarts(t *testing.T) {
	sh := bussed(t)
	f := floor.Of(sh, fit)
	up, err := f.Start(on(), "tarn-converter")
	require.NoError(t, err)
	require.NotNil(t, up.Seconds)
	assert.InDelta(t, 240*1.414/47, up.PeakAmps, 0.1)
	st, err := f.Start(on("tarn-converter", "tarn-hobber"), "tarn-shaper")
	require.NoError(t, err)
	assert.True(t, st.Permitted, "%v", st.Broken)
	assert.Greater(t, st.PeakAmps, 12.0)
	early, err := f.Start(on(), "tarn-shaper")
	require.NoError(t, err)
	said(t, early.Broken, "floor.load-before-converter", "tarn-shaper")
	day, err := f.Day(t.Context(), on())
	require.NoError(t, err)
	assert.NotContains(t, strings.Join(day.Begin, " "), "made leg")
	for _, card := range f.Cards() {
		if card.ID == "tarn-converter" {
			assert.GreaterOrEqual(t, len(card.Facts), 5)
			assert.Empty(t, card.Broken)
		}
	}
	choice, err := f.Choose(t.Context(), "tarn-converter")
	require.NoError(t, err)
	assert.Empty(t, choice.Rungs)
}

// Against a large choke and few cans constant power is not held.
func TestBusThatSwings(t *testing.T) {
	sh := bussed(t)
	sh.Site.Converters[0].ChokeMH, sh.Site.Converters[0].BusMicrofarad = 60, 100
	f := floor.Of(sh, fit)
	s := on("tarn-converter", "tarn-hobber", "tarn-shaper", "tarn-extractor")
	s.Shares = map[string]float64{"tarn-shaper-m1": 1, "tarn-hobber-m1": 1, "tarn-extractor-m1": 1}
	p, err := f.Solve(s)
	require.NoError(t, err)
	said(t, p.Broken, "floor.bus-unsteady", "tarn-converter")
	for _, card := range f.Cards() {
		if card.ID == "tarn-converter" {
			said(t, card.Broken, "floor.bus-unsteady", "tarn-converter")
		}
	}
	_, err = f.Start(on("tarn-converter"), "tarn-shaper")
	require.NoError(t, err)
	sh.Site.Loads[1].On = "tarn-converter"
	problems := sh.Site.Check(sh.Supply, map[string]string{})
	require.NotEmpty(t, problems)
	assert.Equal(t, "loads[1].on", problems[0].Path)
}
