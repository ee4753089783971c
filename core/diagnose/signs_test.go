package diagnose_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/diagnose"
	"brackmoor/core/network"
	"brackmoor/core/waveform"
)

// From as many microfarads on does a sum say that an idler excites itself as it does when stepped in time: from its
// two banks, unequal as they are.
func TestVoltsStandOnAsInTime(t *testing.T) {
	for _, c := range cases(t) {
		if c.Idler == nil {
			continue
		}
		idler := *c.Idler
		idler.InertiaKgm2 = 1 // it hardly slows while it is looked at
		w := waveform.Case{
			Supply: waveform.Supply{Supply: c.Supply},
			Motors: []waveform.Motor{{Motor: idler, InitialRPM: 1795}},
			Capacitors: []waveform.Capacitor{
				{Capacitor: network.Capacitor{ID: "ac", Between: network.AC, Microfarad: c.AC}},
				{Capacitor: network.Capacitor{ID: "bc", Between: network.BC, Microfarad: c.BC}},
			},
		}
		off, err := waveform.SwitchOff(w, 1)
		require.NoError(t, err)
		require.NoError(t, off.Search(w))
		require.NotNil(t, off.LeastShare)
		for _, near := range []struct {
			share   float64
			excites bool
		}{{0.8, false}, {1.25, true}} {
			scaled := c
			scaled.AC, scaled.BC = c.AC**off.LeastShare*near.share, c.BC**off.LeastShare*near.share
			assert.Equal(t, near.excites, diagnose.Excites(&scaled), "%.2f of %.2f", near.share, *off.LeastShare)
		}
		break // the same idler stands in every case
	}
}

// A lead is open whether it is cut or its joint is, and in star whether it or its winding is.
func TestWhatIsOpenIsOpen(t *testing.T) {
	for _, c := range cases(t) {
		cut, joint, winding := diagnose.Broken(&c)
		for name, is := range cut {
			assert.InDelta(t, is, joint[name], 1e-3*c.Supply.Volts, name)
			if winding != nil {
				assert.InDelta(t, is, winding[name], 1e-3*c.Supply.Volts, name)
			}
		}
	}
}

// Ohms between leads are those of two windings one after the other in star, of one beside the two others in delta.
func TestOhmsBetweenLeads(t *testing.T) {
	for _, c := range cases(t) {
		r := c.Motor.Circuit.R1Ohm
		sound, halved, opened := diagnose.Pairs(&c)
		for _, ohms := range sound {
			assert.InEpsilon(t, 2*r, ohms, 1e-9)
		}
		if c.Motor.Connection == network.Delta { // of 3r each, the winding from c to a at twice that, then none
			assert.InEpsilonSlice(t, []float64{2.25 * r, 2.25 * r, 3 * r}, halved[:], 1e-9)
			assert.InEpsilonSlice(t, []float64{3 * r, 3 * r, 6 * r}, opened[:], 1e-4)
			continue
		}
		assert.InEpsilonSlice(t, []float64{2 * r, 3 * r, 3 * r}, halved[:], 1e-9)
		assert.InEpsilon(t, 2*r, opened[0], 1e-9)
		assert.Greater(t, min(opened[1], opened[2]), 1e5)
	}
}

// Whatever may be said of a way, some cause would show it on one machine or another.
func TestEverySignHasACause(t *testing.T) {
	for _, idled := range []bool{false, true} {
		left := map[string]int{}
		count := 0
		for _, c := range cases(t) {
			if (c.Idler != nil) != idled {
				continue
			}
			count++
			for _, id := range diagnose.Solve(&c).Unexplained(&c) {
				left[id]++
			}
		}
		for id, machines := range left {
			assert.Less(t, machines, count, "%s, idler %v", id, idled)
		}
	}
}
