package sheet

import (
	"fmt"
	"slices"

	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
)

// Brief is the answer for the route taken in a few words, with what was said of it;
// cautions that stand on every motor of that route are left out.
func Brief(st study.Study, m route.Matters) (words string, said []rule.Verdict, err error) {
	switch name := st.Route(); {
	case route.OfCapacitors(name):
		a := st.Size()
		words, said = capacitorWords(a.Live.RunMicrofarad, a.Live.StartMicrofarad), a.Live.Verdicts
	case name == route.Rotary:
		a, _, err := st.Rotary(shop.Shop{}, m)
		if err != nil {
			return "", nil, err
		}
		words, said = fmt.Sprintf(
			"idler %s, %.0f + %.0f µF",
			quantity.Power(a.IdlerWatts, st.Input.Supply.Hertz),
			a.BalanceAC,
			a.BalanceBC,
		), a.Verdicts
	case route.OfDrives(name):
		a, err := st.Drive(st.LoadShare(), m)
		if err != nil {
			return "", nil, err
		}
		words, said = fmt.Sprintf(
			"drive %s, takes %s",
			power(a.RatingWatts),
			figures(a.Load.InputRMSAmps, 3, "A"),
		), a.Verdicts
	default:
		r := route.SinglePhase(m.Into(st.Question(shop.Shop{})))
		words, said = fmt.Sprintf(
			"single-phase %s, %s",
			st.Reading.Title,
			figures(r.Sizes["motor_amps"], 3, "A"),
		), r.Verdicts
	}
	return words, slices.DeleteFunc(
		slices.Clone(said),
		func(v rule.Verdict) bool { return v.Says == rule.Get(v.Rule).Why },
	), nil
}

// capacitorWords is the capacitors chosen, with their unit; what is not there is left
// out.
func capacitorWords(run, start float64) string {
	words := ""
	if run > 0 {
		words = "run " + figures(run, 3, "µF")
	}
	if start > 0 {
		if words != "" {
			words += ", "
		}
		words += "start " + figures(start, 3, "µF")
	}
	if words == "" {
		return "two bare legs"
	}
	return words
}
