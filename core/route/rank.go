package route

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// finish fills in what is alike for all routes.
func (in Input) finish(r *Route) {
	r.Cost.Hours = in.rewiring(r.Name)
	// What is worked out once is judged again and again: nothing is added to its lists.
	r.Verdicts = append([]rule.Verdict{}, r.Verdicts...)
	if r.Unsolved == nil {
		r.Unsolved = []string{}
	}
	r.Why, r.Reversal = []string{}, Reversal(r.Name)
	in.circuitOf(r)
	if r.Name == DriveDerated {
		r.Verdicts = rule.Sorted(append(r.Verdicts, MakersWord(in.OnePhaseAllowed)...))
	}
	r.Cost.PerYear = in.perYear(r)
	in.judge(r)
	r.Workings = append(slices.Clone(r.steady), in.costing(r))
}

// furtherMachines is how many more are meant by machines to come.
const furtherMachines = 3

// judge says whether a route fits, and what it would cost a year with what is against it
// counted in money.
func (in Input) judge(r *Route) {
	w := in.Wishes
	r.Fits, r.Score = true, r.Cost.PerYear
	against := func(money float64, format string, args ...any) {
		r.Score += money
		r.Why = append(r.Why, fmt.Sprintf(format, args...))
	}
	unfit := func(format string, args ...any) {
		r.Fits = false
		r.Why = append(r.Why, fmt.Sprintf(format, args...))
	}
	power := func(watts float64) string { return quantity.Power(watts, in.Capacitor.Supply.Hertz) }
	if !r.Starts {
		why := "it does not start the load"
		for _, v := range r.Verdicts {
			// Of a drive or an idler that cannot be had, that is what is told.
			if v.Severity == rule.Stop &&
				(strings.HasPrefix(v.Rule, "drive.") || strings.HasPrefix(v.Rule, "rotary.")) {
				why = rule.InSentence(v.Title)
			}
		}
		unfit("%s", why)
	} else if w.HardStart && r.Margin != nil && *r.Margin < rule.Limit("route.hard-start", "least_margin") {
		unfit("its starting torque is only %.1f times what the load asks", *r.Margin)
	}
	needed := in.share() * in.watts()
	if w.FullOutput {
		needed = 0.97 * in.watts()
	}
	switch {
	case r.UsableWatts == nil && needed > 0 && (r.Starts || !OfDrives(r.Name)):
		unfit("no load keeps every winding within plate amps")
	case r.UsableWatts != nil && r.UsableWatts[1] < 0.99*needed:
		unfit("%s is left where %s is wanted", power(r.UsableWatts[1]), power(needed))
	case r.UsableWatts != nil && r.UsableWatts[0] > 0.05*in.watts() && in.Capacitor.Load.Idles:
		against(30, "it must not be left idling")
	}
	for _, v := range r.Verdicts {
		// A route's own stop is always told; the capacitors' only where nothing else was.
		if v.Severity == rule.Stop && (r.Fits || strings.HasPrefix(v.Rule, "route.")) {
			unfit("%s", rule.InSentence(v.Title))
		}
	}
	drive := OfDrives(r.Name)
	if w.Speed && !drive {
		unfit("its speed cannot be turned")
	}
	if w.Electronics && !drive && r.Name != SinglePhaseMotor && r.Unbalance.Load != nil &&
		*r.Unbalance.Load > rule.Limit("capacitor.not-for-electronics", "most_unbalance_percent") {
		against(60, "its legs are %.1f percent apart: electronics must hang on a and b", *r.Unbalance.Load)
	}
	if w.More && r.Name != Rotary {
		against(furtherMachines*r.Cost.PerYear, "each further machine wants its own")
	}
	if w.Quiet && r.Name == Rotary {
		against(80, "an idler hums all day")
	}
	if w.KeepSwitchgear && drive {
		against(60, "its switches and interlocks must be rewired")
	}
	if w.Cheap {
		r.Score += r.Cost.PerYear // money counts twice
	}
	if drive && r.Name != DriveSinglePhase && in.OnePhaseAllowed == nil {
		against(25, "its maker must permit one phase")
	}
	if r.Name == DriveSinglePhase && r.Sizes["drive_watts"] > rule.Limit("drive.one-phase-rare", "most_watts") {
		against(60, "few drives of its size are built for one phase")
	}
	if r.Name == DCBus {
		against(40, "a bus of its own is seldom worth it for one drive")
	}
	if r.Name == SinglePhaseMotor {
		against(40, "another motor must fit the machine")
	}
}

// MakersWord says what the maker of a three-phase drive has to do with one phase: nil for
// not known. Its word stands above any derating.
func MakersWord(permits *bool) []rule.Verdict {
	switch {
	case permits == nil:
		return []rule.Verdict{
			rule.Speak(
				"drive.one-phase-unknown",
				nil,
				"Read its manual for one-phase input, and for its input phase-loss check.",
				"Whether the drive's maker permits one phase is not known.",
			),
		}
	case !*permits:
		return []rule.Verdict{
			rule.Speak(
				"drive.one-phase-forbidden",
				nil,
				"Take a drive whose maker permits one phase.",
				"The maker of the drive at hand does not permit one phase: no derating makes up for that.",
			),
		}
	}
	return nil
}

// rank orders the routes and words the recommendation.
func (in Input) rank(a *Answer) {
	a.Reasons, a.Otherwise, a.Schools, a.Notes = []string{}, []string{}, []string{}, in.notes()
	sort.SliceStable(a.Routes, func(i, k int) bool {
		p, q := &a.Routes[i], &a.Routes[k]
		if p.Fits != q.Fits {
			return p.Fits
		}
		return p.Score < q.Score
	})
	if len(a.Routes) == 0 || !a.Routes[0].Fits {
		a.Reasons = append(a.Reasons, "No route does all that is asked: what stands first comes nearest.")
		for _, r := range a.Routes[:min(2, len(a.Routes))] {
			a.Reasons = append(a.Reasons, fmt.Sprintf("%s: %s.", r.Title, join(r.Why)))
		}
		return
	}
	best := &a.Routes[0]
	a.Recommended = best.Name
	power := func(watts float64) string { return quantity.Power(watts, in.Capacitor.Supply.Hertz) }
	if best.Margin != nil {
		a.Reasons = append(a.Reasons, fmt.Sprintf("It starts the load with %.1f times the torque asked.", *best.Margin))
	}
	if best.UsableWatts != nil {
		a.Reasons = append(
			a.Reasons,
			fmt.Sprintf("It leaves %s; %s is wanted.", power(best.UsableWatts[1]), power(in.share()*in.watts())),
		)
	}
	a.Reasons = append(
		a.Reasons,
		fmt.Sprintf(
			"It costs about %.0f a year, parts and wiring spread over %.0f years.",
			best.Cost.PerYear,
			in.Prices.Years,
		),
	)
	for _, why := range best.Why {
		a.Reasons = append(a.Reasons, "Against it: "+why+".")
	}
	if len(a.Routes) > 1 {
		next := &a.Routes[1]
		if next.Fits {
			after := fmt.Sprintf("Next comes %s, at %.0f a year", rule.InSentence(next.Title), next.Cost.PerYear)
			if len(next.Why) > 0 {
				after += ": " + join(next.Why)
			}
			a.Reasons = append(a.Reasons, after+".")
		}
	}
	a.Otherwise = in.otherwise(a)
	in.schools(a)
}

func join(list []string) string {
	text := ""
	for i, s := range list {
		if i > 0 {
			text += "; "
		}
		text += s
	}
	return text
}

// otherwise finds which single wish, turned over, changes the recommendation.
func (in Input) otherwise(a *Answer) []string {
	list := []string{}
	for _, turn := range []struct {
		name string
		wish func(*Wishes) *bool
	}{{"full output", func(w *Wishes) *bool { return &w.FullOutput }}, {"a hard start",
		func(w *Wishes) *bool { return &w.HardStart }}, {"speed control", func(w *Wishes) *bool { return &w.Speed }},
		{"more machines", func(w *Wishes) *bool { return &w.More }}, {"electronics",
			func(w *Wishes) *bool { return &w.Electronics }}, {"quiet", func(w *Wishes) *bool { return &w.Quiet }},
		{"little money", func(w *Wishes) *bool { return &w.Cheap }}, {"keeping the switches",
			func(w *Wishes) *bool { return &w.KeepSwitchgear }}} {
		other := in
		flag := turn.wish(&other.Wishes)
		*flag = !*flag
		routes := slices.Clone(a.Routes)
		best, least := "", math.Inf(1)
		for i := range routes {
			r := &routes[i]
			r.Why = nil
			other.judge(r)
			if r.Fits && r.Score < least {
				best, least = r.Title, r.Score
			}
		}
		if best != "" && best != a.Routes[0].Title {
			word := "If %s mattered, %s."
			if !*flag {
				word = "If %s did not matter, %s."
			}
			list = append(list, fmt.Sprintf(word, turn.name, rule.InSentence(best)))
		}
	}
	return list
}

// notes are what holds for every route.
func (in Input) notes() []string {
	c := in.Capacitor
	t := plate.TransformerFor(c.Plate, plate.Supply{Volts: c.Supply.Volts, Hertz: c.Supply.Hertz})
	if t == nil {
		return []string{}
	}
	return []string{
		fmt.Sprintf(
			"Its full flux takes %.0f V at %.0f Hz, and this supply has %.0f: a transformer of %s kVA, or an "+
				"autotransformer, changes the volts; by itself neither makes a third phase.",
			t.ToVolts,
			c.Supply.Hertz,
			t.FromVolts,
			quantity.Figures(t.VA/1000, 2),
		),
	}
}

// schools quotes who sees it otherwise.
func (in Input) schools(a *Answer) {
	for i := range a.Routes {
		r := &a.Routes[i]
		switch r.Name {
		case Static:
			if r.UsableWatts == nil || r.UsableWatts[1] < 0.6*in.watts() {
				left := "none"
				if r.UsableWatts != nil {
					left = fmt.Sprintf("%.0f percent", 100*r.UsableWatts[1]/in.watts())
				}
				a.Schools = append(
					a.Schools,
					"A static converter is said to leave two thirds of the output; the model "+
						"finds "+left+" within plate amps.",
				)
			}
		case DriveDerated:
			if left, ok := r.Sizes["left_percent"]; ok && left < 50 {
				a.Schools = append(
					a.Schools,
					fmt.Sprintf(
						"A three-phase drive of twice the size is often said to do on one phase; its front end keeps "+
							"%.0f percent.",
						left,
					),
				)
			}
		case Rotary:
			if r.UsableWatts != nil && r.UsableWatts[1] < 0.9*in.watts() {
				a.Schools = append(
					a.Schools,
					fmt.Sprintf(
						"A rotary converter is said to give the whole output; the model finds %.0f percent with no "+
							"winding past plate amps, since the legs never match at every load.",
						100*r.UsableWatts[1]/in.watts(),
					),
				)
			}
			a.Schools = append(
				a.Schools,
				fmt.Sprintf(
					"Idlers are taken as large as the hardest-starting motor up to twice it; the model takes %s.",
					quantity.Power(r.Sizes["idler_watts"], in.Capacitor.Supply.Hertz),
				),
			)
		}
	}
}
