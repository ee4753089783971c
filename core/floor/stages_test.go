package floor_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/floor"
	"brackmoor/core/shop"
	"brackmoor/core/site"
)

// twoMotors is Tarn Hollow with a shaper of two motors on its converter, the second the extractor's.
func twoMotors(t *testing.T, h site.Hung) shop.Shop {
	sh := shopOf(t, "tarn-hollow")
	for i := range sh.Machines {
		if sh.Machines[i].ID == "tarn-shaper" {
			own := sh.Machines[i].Motors[0]
			own.ID, own.Name, own.Plate.Output, own.Plate.Amps = "second", "Feed", "1 hp", ""
			own.Plate.RPM, own.Plate.PowerFactor, own.Plate.Efficiency = "", "", ""
			sh.Machines[i].Motors = append(sh.Machines[i].Motors, own)
		}
	}
	for i := range sh.Site.Hung {
		if sh.Site.Hung[i].ID == "tarn-shaper" {
			h.ID, h.On = "tarn-shaper", sh.Site.Hung[i].On
			sh.Site.Hung[i] = h
		}
	}
	require.Empty(t, sh.Site.Check(sh.Supply, nil))
	return sh
}

// A motor that starts first is a start of its own, and the other one follows with it running.
func TestWhatStartsFirst(t *testing.T) {
	sh := twoMotors(t, site.Hung{})
	f := floor.Of(sh, fit)
	start := func(f *floor.Floor, on []string, id string) floor.Start {
		st, err := f.Start(site.State{On: append(on, "tarn-converter")}, id)
		require.NoError(t, err)
		require.NotNil(t, st.Seconds)
		return st
	}
	at := start(f, nil, "tarn-shaper")
	main, second := start(f, nil, "tarn-shaper-m1"), start(f, nil, "second")
	assert.Greater(t, at.PeakAmps, main.PeakAmps)
	for _, order := range []struct{ first, then string }{{"tarn-shaper-m1", "second"}, {"second", "tarn-shaper-m1"}} {
		alone, after := main, start(f, []string{order.first}, order.then)
		if order.first == "second" {
			alone = second
		}
		staged := start(floor.Of(twoMotors(t, site.Hung{First: order.first}), fit), nil, "tarn-shaper")
		assert.InEpsilon(t, *alone.Seconds+*after.Seconds, *staged.Seconds, 1e-9)
		assert.InEpsilon(t, max(alone.PeakAmps, after.PeakAmps), staged.PeakAmps, 1e-9)
		assert.InEpsilon(t, min(alone.LowestVolts, after.LowestVolts), staged.LowestVolts, 1e-9)
		assert.Less(t, staged.PeakAmps, at.PeakAmps)
		assert.Greater(t, len(staged.Points), len(after.Points))
		for i := 1; i < len(staged.Points); i++ {
			assert.GreaterOrEqual(t, staged.Points[i].Seconds, staged.Points[i-1].Seconds)
		}
	}
}

// Motors on different lines all start, one after another: what starts on one circuit is on while the next starts.
func TestMotorsOnOtherLinesStartToo(t *testing.T) {
	sh := twoMotors(t, site.Hung{})
	sh.Site.Hung = append(sh.Site.Hung, site.Hung{ID: "second", On: ""})
	f := floor.Of(sh, fit)
	one, err := f.Start(site.State{On: []string{"tarn-converter"}}, "tarn-shaper-m1")
	require.NoError(t, err)
	both, err := f.Start(site.State{On: []string{"tarn-converter"}}, "tarn-shaper")
	require.NoError(t, err)
	require.NotNil(t, both.Seconds)
	assert.Greater(t, *both.Seconds, *one.Seconds)
}

// A motor with a switch of its own is not switched with its machine, and is one of those that run together.
func TestASwitchOfItsOwn(t *testing.T) {
	f := floor.Of(twoMotors(t, site.Hung{Apart: []string{"second"}}), fit)
	runs := func(ids ...string) (list []bool) {
		p, err := f.Solve(on(append(ids, "tarn-converter")...))
		require.NoError(t, err)
		for _, m := range p.Machines {
			if m.ID == "tarn-shaper" {
				list = append(list, m.On)
				for _, o := range m.Motors {
					list = append(list, o.On)
				}
			}
		}
		return list
	}
	assert.Equal(t, []bool{true, true, false}, runs("tarn-shaper"))
	assert.Equal(t, []bool{false, false, true}, runs("second"))
	assert.Equal(t, []bool{true, true, true}, runs("tarn-shaper", "second"))

	alone, err := f.Start(on("tarn-converter"), "tarn-shaper")
	require.NoError(t, err)
	beside, err := f.Start(on("tarn-converter", "second"), "tarn-shaper")
	require.NoError(t, err)
	assert.NotEqual(t, alone.LowestVolts, beside.LowestVolts, "it stays on while its machine starts")

	together, err := f.Together(context.Background(), site.State{})
	require.NoError(t, err)
	assert.Contains(t, together.Among, "second")
	assert.Contains(t, together.Startable, "second")
	for _, x := range together.Forbidden {
		assert.NotContains(t, x.Names, "second", "it is named with its machine")
	}
}

// What names a motor that is gone is passed over, and a motor cannot start first that does not start with the rest.
func TestMotorsOfAMachineAreKept(t *testing.T) {
	sh := twoMotors(t, site.Hung{First: "lost", Apart: []string{"gone", "second"}})
	kept := sh.Site.Kept(sh.Has)
	first, apart := kept.Runs("tarn-shaper")
	assert.Empty(t, first)
	assert.Equal(t, []string{"second"}, apart)
	anew := sh.Site.Renamed(func(id string) string { return "x-" + id })
	first, apart = anew.Runs("x-tarn-shaper")
	assert.Equal(t, "x-lost", first)
	assert.Equal(t, []string{"x-gone", "x-second"}, apart)
	sh.Site.Hung[0].First, sh.Site.Hung[0].Apart = "second", []string{"second"}
	require.Len(t, sh.Site.Check(sh.Supply, nil), 1)
}
