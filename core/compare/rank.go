package compare

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Shop practice of judging: how many more machines are meant by machines to come, how much
// of plate output is full output, and how near is near enough.
const (
	furtherMachines = 3
	fullOutput      = 0.97
	nearEnough      = 0.99
	idling          = 0.05 // of plate output: under it a machine counts as idling
)

// distrusted are the cautions for which practitioners leave a way, and not only load or switch
// it with care: each counts against it.
var distrusted = []string{
	"capacitor.large", "capacitor.start-pull-back", "capacitor.hard-start", "rotary.hard-start", "rotary.idler-hot",
}

// Rank judges ways that Work has worked out by what is wished, the best first.
func Rank(q *feed.Question, worked []Worked) Answer {
	a := Answer{
		Routes: make([]Route, 0, len(worked)), Reasons: []string{}, Otherwise: []string{}, Schools: []string{},
		Notes: notes(q), Run: lengths(q.Supply.Hertz),
	}
	for i := range worked {
		a.Routes = append(a.Routes, finish(q, &worked[i]))
	}
	sort.SliceStable(a.Routes, func(i, k int) bool {
		p, r := &a.Routes[i], &a.Routes[k]
		if p.Fits != r.Fits {
			return p.Fits
		}
		if p.lacks != r.lacks { // of those that do not fit the one nearest to it
			return p.lacks < r.lacks
		}
		return p.Score < r.Score
	})
	a.explain(q)
	return a
}

// finish fills in what is alike for all ways.
func finish(q *feed.Question, w *Worked) Route {
	r := w.route()
	r.Cost.Hours = w.way.Hours(q.Matters.Controls)
	r.outline.Verdicts = append([]rule.Verdict{}, feed.Said(w.way, q, r.outline.Verdicts)...)
	if c, ok := feed.CircuitOf(q, r.outline); ok {
		r.fed(c)
		r.outline.Verdicts = rule.Sorted(append(r.outline.Verdicts, c.Verdicts()...))
	}
	circuit(q, &r)
	r.against = w.way.Weigh(q, r.outline)
	r.Verdicts = r.outline.Verdicts
	r.Cost.PerYear = perYear(q, &r)
	judge(q, &r)
	r.Workings = append(slices.Clone(w.steady), costing(q, &r))
	return r
}

// perYear is what a way costs a year.
func perYear(q *feed.Question, r *Route) float64 {
	p := q.Prices
	cost := (r.Cost.Parts + r.Cost.Hours*p.Hour) / p.Years
	if lost := r.outline.LossWatts; lost != nil {
		cost += *lost / 1000 * q.Matters.HoursPerDay * p.DaysPerYear * p.Tariff
	}
	return cost
}

// circuit judges a way's amps by the circuit it is to be fed from.
func circuit(q *feed.Question, r *Route) {
	rating := q.CircuitAmps()
	if rating <= 0 {
		return
	}
	amps := r.SupplyAmps.Load
	if q.Matters.FullOutput || amps == nil {
		amps = r.SupplyAmps.Full
	}
	if amps == nil {
		return
	}
	most := feed.CircuitLimit(q.Supply.Hertz)
	if limit := rule.Limit("route.circuit", most) / 100 * rating; *amps > limit {
		left := q.Watts() * q.Share() * limit / *amps
		r.outline.Verdicts = rule.Sorted(append(r.outline.Verdicts, rule.Speak("route.circuit",
			rule.Numbers{"amps": *amps, "circuit_amps": rating},
			fmt.Sprintf("A larger circuit; on this one about %s at the spindle.", q.Power(left)),
			"It draws %s A; a circuit of %.0f A carries %.0f for hours.", quantity.Figures(*amps, 3), rating, limit)))
	}
}

// judge says whether a way fits, and what it would cost a year with what is against it
// counted in money.
func judge(q *feed.Question, r *Route) {
	w, about := q.Matters.Wishes, r.way.Info()
	r.Fits, r.Score, r.Why, r.lacks = true, r.Cost.PerYear, []string{}, 0
	against := func(money float64, format string, args ...any) {
		r.Score += money
		r.Why = append(r.Why, fmt.Sprintf(format, args...))
	}
	unfit := func(format string, args ...any) {
		r.Fits = false
		r.lacks++
		r.Why = append(r.Why, fmt.Sprintf(format, args...))
	}
	if q.Load.Lifts {
		unfit("a load hangs on it: its maker decides")
	}
	if !r.Starts {
		if r.Margin != nil {
			r.lacks += max(0, int(math.Ceil(1/math.Max(*r.Margin, 0.01)-1))) // the weaker, the farther
		}
		why := r.outline.Refused
		if why == "" {
			why = "it does not start the load"
		}
		unfit("%s", why)
	} else if w.HardStart && r.Margin != nil && *r.Margin < rule.Limit("route.hard-start", "least_margin") {
		unfit("its starting torque is only %.1f times what the load asks", *r.Margin)
	}
	needed := q.Share() * q.Watts()
	if w.FullOutput {
		needed = fullOutput * q.Watts()
	}
	switch usable := r.UsableWatts; {
	case usable == nil && needed > 0 && (r.Starts || r.Margin != nil):
		unfit("no load keeps every winding within plate amps")
	case usable != nil && usable[1] < nearEnough*needed:
		unfit("%s is left where %s is wanted", q.Power(usable[1]), q.Power(needed))
	case usable != nil && usable[0] > idling*q.Watts() && q.Load.Idles:
		against(q.Money("not_idling"), "it must not be left idling")
	}
	for _, v := range r.Verdicts {
		// A way's own stop is always told; the capacitors' only where nothing else was.
		if v.Severity == rule.Stop && (r.Fits || strings.HasPrefix(v.Rule, "route.")) {
			unfit("%s", rule.InSentence(v.Title))
		}
	}
	if w.Speed && !about.TurnsSpeed {
		unfit("its speed cannot be turned")
	}
	apart := rule.Limit("capacitor.not-for-electronics", "most_unbalance_percent")
	if w.Electronics && !about.Balanced && r.Unbalance.Load != nil && *r.Unbalance.Load > apart {
		against(q.Money("electronics"), "its legs are %.1f percent apart: electronics must hang on the two lines",
			*r.Unbalance.Load)
	}
	if w.More && !about.FeedsMore {
		against(furtherMachines*r.Cost.PerYear, "each further machine wants its own")
	}
	if w.Cheap {
		r.Score += r.Cost.PerYear // money counts twice
	}
	for _, v := range r.Verdicts {
		if slices.Contains(distrusted, v.Rule) {
			against(q.Money("caution"), "%s", rule.InSentence(v.Title))
		}
	}
	for _, reason := range r.against {
		against(q.Money(reason.Weight), "%s", reason.Says)
	}
}

// explain words the recommendation.
func (a *Answer) explain(q *feed.Question) {
	if len(a.Routes) == 0 || !a.Routes[0].Fits {
		a.Reasons = append(a.Reasons, "No route does all that is asked: what stands first comes nearest.")
		for _, r := range a.Routes[:min(2, len(a.Routes))] {
			a.Reasons = append(a.Reasons, fmt.Sprintf("%s: %s.", r.Title, strings.Join(r.Why, "; ")))
		}
		return
	}
	best := &a.Routes[0]
	a.Recommended = best.Name
	if best.Margin != nil {
		a.Reasons = append(a.Reasons, fmt.Sprintf("It starts the load with %.1f times the torque asked.", *best.Margin))
	}
	if best.UsableWatts != nil {
		a.Reasons = append(a.Reasons,
			fmt.Sprintf("It leaves %s; %s is wanted.", q.Power(best.UsableWatts[1]), q.Power(q.Share()*q.Watts())))
	}
	costs := fmt.Sprintf("It costs about %.0f a year, parts and wiring spread over %.0f years", best.Cost.PerYear,
		q.Prices.Years)
	if q.Prices == feed.SamplePrices {
		costs += ", by sample prices: put your own into the Rulebook before money decides"
	}
	a.Reasons = append(a.Reasons, costs+".")
	for _, why := range best.Why {
		a.Reasons = append(a.Reasons, "Against it: "+why+".")
	}
	if len(a.Routes) > 1 && a.Routes[1].Fits {
		next := &a.Routes[1]
		after := fmt.Sprintf("Next comes %s, at %.0f a year", rule.InSentence(next.Title), next.Cost.PerYear)
		if len(next.Why) > 0 {
			after += ": " + strings.Join(next.Why, "; ")
		}
		a.Reasons = append(a.Reasons, after+".")
	}
	a.Otherwise = a.otherwise(q)
	for i := range a.Routes {
		a.Schools = append(a.Schools, a.Routes[i].outline.Schools...)
	}
}

// otherwise finds which single wish, turned over, changes the recommendation.
func (a *Answer) otherwise(q *feed.Question) []string {
	list := []string{}
	for _, wish := range feed.WishList {
		other := q.With(func(q *feed.Question) {})
		flag := wish.Of(&other.Matters.Wishes)
		*flag = !*flag
		best, least := "", math.Inf(1)
		for _, r := range slices.Clone(a.Routes) {
			o := *r.outline
			r.against = r.way.Weigh(other, &o)
			judge(other, &r)
			if r.Fits && r.Score < least {
				best, least = r.Title, r.Score
			}
		}
		if best != "" && best != a.Routes[0].Title {
			word := "If %s mattered, %s."
			if !*flag {
				word = "If %s did not matter, %s."
			}
			list = append(list, fmt.Sprintf(word, wish.Words, rule.InSentence(best)))
		}
	}
	return list
}

// notes are what holds for every way.
func notes(q *feed.Question) []string {
	t := plate.TransformerFor(q.Plate, plate.Supply{Volts: q.Supply.Volts, Hertz: q.Supply.Hertz})
	if t == nil {
		return []string{}
	}
	if step := q.Stepped().Step; step != nil {
		return []string{
			fmt.Sprintf("Its full flux takes %.0f V at %.0f Hz, and this supply has %.0f: ways across the lines "+
				"stand behind an autotransformer of %s kVA here. It changes volts; by itself it makes no third phase.",
				t.ToVolts, q.Supply.Hertz, t.FromVolts, quantity.Figures(step.VA/1000, 3)),
		}
	}
	return []string{
		fmt.Sprintf("Its full flux takes %.0f V at %.0f Hz, and this supply has %.0f: a transformer of %s kVA, "+
			"or an autotransformer, changes the volts; by itself neither makes a third phase.",
			t.ToVolts, q.Supply.Hertz, t.FromVolts, quantity.Figures(t.VA/1000, 2)),
	}
}
