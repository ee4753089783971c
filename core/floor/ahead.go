package floor

import (
	step "brackmoor/core/machine"
	"brackmoor/core/network"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// A converter behind a transformer is one whose idler and machines see its volts: the plates on it are asked
// at those, its lines in the network hang behind its windings, and amps at its circuit are the supply's.

// voltsOn are the volts of what hangs on a converter, of two lines of it.
func (f *Floor) voltsOn(c *site.Converter) float64 {
	if c != nil && c.AheadVolts > 0 {
		return c.AheadVolts
	}
	return f.Shop.Supply.Volts
}

// ratio is those volts over the supply's.
func (f *Floor) ratio(c *site.Converter) float64 { return f.voltsOn(c) / f.Shop.Supply.Volts }

// ahead is the transformer ahead of a converter, nil where there is none.
func (f *Floor) ahead(c *site.Converter) *network.Winding {
	if c.AheadVolts == 0 {
		return nil
	}
	return step.Isolating(f.Shop.Supply.Volts, c.AheadVolts, 1000*c.AheadKVA, c.AheadPercent)
}

// behind is the supply as a plate on a converter is asked about it, its ohms seen through the transformer.
func (f *Floor) behind(c *site.Converter) supply.Supply {
	su := f.Shop.Supply
	if c == nil || c.AheadVolts == 0 {
		return su
	}
	squared := f.ratio(c) * f.ratio(c)
	su.Volts, su.Class = c.AheadVolts, supply.Own
	su.ResistanceOhm, su.ReactanceOhm = squared*su.ResistanceOhm, squared*su.ReactanceOhm
	return su
}
