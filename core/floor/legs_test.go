package floor_test

import (
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/floor"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// Loads between a line and the neutral against the three wires themselves: two sources to a stiff
// neutral, each behind half of the loop's ohms, and ohms from line to line and from each to neutral.
func TestOneLegAgainstThreeWires(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom([]string{"split-phase", "two-legs"}).Draw(t, "kind")
		su := supply.Supply{
			Kind:     kind,
			Volts:    240,
			Hertz:    60,
			MainAmps: 200,
			Class:    supply.Own,
			ResistanceOhm: rapid.Float64Range(0, 0.2).
				Draw(t, "r"),
			ReactanceOhm: rapid.Float64Range(0, 0.1).Draw(t, "x"),
		}
		toA, toB, _ := su.Legs()
		leg := su.Volts * cmplx.Abs(toA)
		amps := map[string]float64{}
		sh := shop.Shop{Supply: su}
		for _, between := range []string{"", site.LineA, site.LineB} {
			amps[between] = rapid.Float64Range(0.1, 40).Draw(t, "amps "+between)
			sh.Site.Loads = append(sh.Site.Loads, site.Load{
				ID: "load" + between, Kind: "heater", Amps: amps[between], Between: between,
			})
		}
		p, err := floor.Of(sh, fit).Solve(on("load", "loadan", "loadbn"))
		require.NoError(t, err)
		// Two unknowns, the lines' volts: what comes through each half of the ohms is what goes on.
		e := complex(su.Volts, 0)
		half := complex(su.ResistanceOhm, su.ReactanceOhm) / 2
		across, a, b := complex(amps[""]/su.Volts, 0), complex(amps["an"]/leg, 0), complex(amps["bn"]/leg, 0)
		// (eA - va)/half = va·a + (va - vb)·across, and so for b.
		m11, m12 := 1+half*(a+across), -half*across
		m21, m22 := -half*across, 1+half*(b+across)
		det := m11*m22 - m12*m21
		va, vb := (e*toA*m22-m12*e*toB)/det, (m11*e*toB-m21*e*toA)/det
		lineA, lineB := cmplx.Abs(va*a+(va-vb)*across), cmplx.Abs(vb*b+(vb-va)*across)
		assert.InEpsilon(t, cmplx.Abs(va-vb), p.Main.Volts, 0.004, "between the lines")
		assert.InEpsilon(t, math.Max(lineA, lineB), p.Main.Amps, 0.03, "the fuller line")
		watts := real(e*toA*cmplx.Conj(va*a+(va-vb)*across) + e*toB*cmplx.Conj(vb*b+(vb-va)*across))
		assert.InEpsilon(t, watts, p.Main.Watts, 0.03)
		assert.InEpsilon(t, cmplx.Abs(va*a), p.Loads[1].Amps, 0.05)
	})
}

// On a breaker of one pole a load has the volts of one line, all its amps go out and back, and the two
// lines of a feeder carry the fuller one's.
func TestOnePole(t *testing.T) {
	sh := shop.Shop{Supply: supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "stiff"}}
	sh.Site.Circuits = []site.Circuit{
		{ID: "panel", Name: "P", BreakerAmps: 60, Panel: true},
		{ID: "one", Name: "O", From: "panel", BreakerAmps: 20, Poles: 1, Metre: 30,
			Laid: supply.Laid{Size: "12 AWG"}},
		{ID: "two", Name: "T", From: "panel", BreakerAmps: 20, Poles: 1},
	}
	sh.Site.Loads = []site.Load{
		{ID: "a", On: "one", Kind: "heater", Amps: 12}, {ID: "b", On: "two", Kind: "heater", Amps: 10, Between: "bn"},
	}
	for _, c := range []struct {
		s           site.State
		panel, main float64
	}{{on("a"), 12, 12}, {on("b"), 10, 10}, {on("a", "b"), 12, 12}} {
		p, err := floor.Of(sh, fit).Solve(c.s)
		require.NoError(t, err)
		assert.InEpsilon(t, c.panel, p.Circuits[0].Amps, 0.05, "%v", c.s.On)
		assert.InEpsilon(t, c.main, p.Main.Amps, 0.05)
	}
	p, err := floor.Of(sh, fit).Solve(on("a"))
	require.NoError(t, err)
	wire, _ := supply.CodeOf(60, nil).Carries(supply.Laid{Size: "12 AWG"})
	run := 2 * 30 * wire.Ohm
	left := 120 * cmplx.Abs(10/(10+run)) // 12 A at 120 V are 10 Ω
	assert.InDelta(t, left, p.Circuits[1].Volts, 1e-6)
	assert.InDelta(t, left/10, p.Loads[0].Amps, 1e-6)
	assert.InDelta(t, left/10, p.Circuits[1].Amps, 1e-6)
}
