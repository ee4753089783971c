package study

import (
	"slices"

	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/supply"
)

// OfSheet studies a motor by its plate as the open formats have it, joined for the volts that are said or nearest to
// the supply's. Problems have the paths of the plate's own fields.
func OfSheet(on network.Supply, sheet plate.Sheet, volts *float64) (st Study, problems rule.Problems) {
	if volts != nil {
		joined := slices.DeleteFunc(slices.Clone(sheet.Ratings), func(r plate.SheetRating) bool {
			const near = 0.1
			return r.Volts < (1-near)**volts || r.Volts > (1+near)**volts
		})
		if len(joined) == 0 {
			problems.Say("", "the plate has no rating for %g V", *volts)
			return st, problems
		}
		sheet.Ratings = joined
	}
	if sheet.Phases != nil && *sheet.Phases == 1 {
		problems.Say(".phases", "a single-phase motor needs no third leg")
		return st, problems
	}
	kind := "line-neutral"
	if on.Hertz > 55 {
		kind = "split-phase"
	}
	su := supply.Supply{Kind: kind, Volts: on.Volts, Hertz: on.Hertz, MainAmps: 100, Class: "usual"}
	st = Of(su, shop.Motor{Plate: plate.Document{Plate: sheet}.Typed()}, motor.FitCircuit)
	if !st.Reading.Sound {
		for _, p := range st.Reading.Problems {
			problems.Say("."+p.Field, "%s", p.Says)
		}
		for _, v := range st.Reading.Verdicts {
			problems.Say("", "%s", v.Says)
		}
	}
	return st, problems
}
