package floor_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/floor"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// Two converters that are alike, started at once from one point, each see as much again pulled down by
// the other: each starts as one alone does behind twice the ohms.
func TestAtOnceByTwiceTheOhms(t *testing.T) {
	for _, ohms := range []float64{0.05, 0.2, 0.4} {
		sh := shop.Shop{Supply: supply.Supply{
			Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 200, Class: supply.Own, ResistanceOhm: ohms,
			ReactanceOhm: ohms / 2,
		}}
		for _, id := range []string{"one", "two"} {
			sh.Site.Converters = append(sh.Site.Converters, site.Converter{
				ID: id, Name: id, IdlerWatts: 5593, Start: 450, BalanceAC: 80, BalanceBC: 60,
			})
		}
		both, err := floor.Of(sh, fit).AtOnce(on(), []string{"one", "two"})
		require.NoError(t, err)
		require.Len(t, both, 2)
		sh.Supply.ResistanceOhm, sh.Supply.ReactanceOhm = 2*ohms, ohms
		alone, err := floor.Of(sh, fit).Start(on(), "one")
		require.NoError(t, err)
		for _, st := range both {
			require.NotNil(t, st.Seconds, "%v", st.Broken)
			assert.InEpsilon(t, *alone.Seconds, *st.Seconds, 0.03, "%g Ω", ohms)
			assert.InEpsilon(t, alone.PeakAmps, st.PeakAmps, 0.02)
			assert.InEpsilon(t, alone.LowestVolts, st.LowestVolts, 0.02)
		}
	}
}

// At once none is quicker than by itself, and what cannot start alone is told in its place.
func TestAtOnceIsNoQuicker(t *testing.T) {
	sh := shopOf(t, "tallow-mill")
	f := floor.Of(sh, fit)
	var ids []string
	for _, c := range sh.Site.Converters {
		ids = append(ids, c.ID)
	}
	at, err := f.AtOnce(on(), ids)
	require.NoError(t, err)
	require.Len(t, at, len(ids))
	for i, id := range ids {
		alone, err := f.Start(on(), id)
		require.NoError(t, err)
		if alone.Seconds != nil && at[i].Seconds != nil {
			assert.GreaterOrEqual(t, *at[i].Seconds, 0.99**alone.Seconds, id)
		}
		assert.LessOrEqual(t, at[i].LowestVolts, alone.LowestVolts+0.5, id)
	}
	sh.Site.Converters[0].StartBy = site.ByPony
	at, err = floor.Of(sh, fit).AtOnce(on(), ids)
	require.NoError(t, err)
	said(t, at[0].Broken, "floor.unread", ids[0])
}

// A pony motor's part comes before the idler's own, and a coupling takes the pony's own speed.
func TestPonyBringsItUp(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	c := &sh.Site.Converters[0]
	c.StartBy, c.PonyWatts, c.PonyRPM = site.ByPony, 560, 1725
	st, err := floor.Of(sh, fit).Start(on(), c.ID)
	require.NoError(t, err)
	require.NotNil(t, st.Seconds, "%v", st.Broken)
	assert.Contains(t, st.By, "pony motor")
	assert.Greater(t, st.Points[1].Seconds, 0.1, "the lines close once it is up")
	assert.Greater(t, st.Points[1].Speed, 0.8)
	assert.Greater(t, *st.Seconds, st.Points[1].Seconds-1e-9)
	slow := sh
	slow.Site.Converters = []site.Converter{*c}
	slow.Site.Converters[0].PonyWatts = 280
	half, err := floor.Of(slow, fit).Start(on(), c.ID)
	require.NoError(t, err)
	assert.Greater(t, *half.Seconds, 1.5**st.Seconds, "half the motor takes twice as long, friction aside")
}

// A timer that is set short leaves the idler to come up by itself, and later.
func TestTimerTakesThemOut(t *testing.T) {
	sh := shopOf(t, "tarn-hollow")
	c := &sh.Site.Converters[0]
	c.StartBy = site.ByTimer
	usual, err := floor.Of(sh, fit).Start(on(), c.ID)
	require.NoError(t, err)
	assert.Contains(t, usual.By, "out after 2.5 s")
	c.TimerSeconds = 0.05
	short, err := floor.Of(sh, fit).Start(on(), c.ID)
	require.NoError(t, err)
	require.NotNil(t, short.Seconds, "%v", short.Broken)
	assert.Greater(t, *short.Seconds, *usual.Seconds)
}
