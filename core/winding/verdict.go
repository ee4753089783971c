package winding

import (
	"fmt"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// verdicts collects what is to be said of leads.
type verdicts struct {
	leads []string
	list  []rule.Verdict
}

func (v *verdicts) say(id string, n rule.Numbers, do, format string, args ...any) {
	v.list = append(v.list, rule.Speak(id, n, do, format, args...))
}

func (v *verdicts) pair(p Pair) string { return v.leads[p[0]] + "–" + v.leads[p[1]] }

// joined speaks of what is joined that should not be, and of what is not joined
// that should.
func (v *verdicts) joined(f *found, s *sorted) {
	if len(s.grounded) > 0 {
		v.say(
			"leads.grounded",
			rule.Numbers{"leads": float64(len(s.grounded))},
			"Do not energise it. Take its leads off everything and measure again; then it is a rewind.",
			"Lead %s has continuity to the frame.",
			strings.Join(s.grounded, ", "),
		)
	}
	for _, p := range s.links {
		v.say("leads.link", nil, "Take every link, wire nut and supply lead off, null the meter, and measure again.",
			"%s reads no more than the meter's own leads.", v.pair(p))
		break
	}
	for _, one := range s.leaks {
		v.say(
			"leads.leakage",
			rule.Numbers{"ohms": *one.Ohms},
			"Damp or dirt: dry it and measure the insulation with 500 V.",
			"%s–%s reads %s kΩ: that is no winding, and no insulation either.",
			one.Between[0],
			one.Between[1],
			quantity.Figures(*one.Ohms/1000, 3),
		)
		break
	}
	if len(f.against) > 0 {
		v.say(
			"leads.readings-contradict",
			nil,
			"Measure it again.",
			"%s is read open, but other readings join them.",
			v.pair(f.against[0]),
		)
		return
	}
	if f.next != nil || f.kind != UnknownKind {
		return
	}
	var alone []string
	largest := 0
	for _, g := range f.groups {
		if len(g) == 1 {
			alone = append(alone, v.leads[g[0]])
		}
		largest = max(largest, len(g))
	}
	switch {
	case len(alone) > 0:
		v.say(
			"leads.open-winding",
			rule.Numbers{"leads": float64(len(alone))},
			"Look for a broken lead or a burnt joint; then it is a rewind.",
			"Lead %s has continuity to no other: a winding is open.",
			strings.Join(alone, ", "),
		)
	case len(f.groups) == 2 && len(v.leads) == 6 && largest == 3:
		v.say("leads.two-sets", nil, "A motor for two speeds or with a part-winding start: join it by its own diagram.",
			"Six leads in two groups of three are two windings of their own.")
	case len(f.groups) == 1 && (len(v.leads) == 4 || len(v.leads) == 9):
		v.say(
			"leads.no-star-point",
			nil,
			"Measure again with the meter nulled; if it stays so, a winding is damaged.",
			"The resistances fit no star point among these leads.",
		)
	default:
		v.say(
			"leads.not-apart",
			rule.Numbers{"groups": float64(len(f.groups)), "largest": float64(largest)},
			"Take every link, wire nut and supply lead off the leads, and measure again.",
			"No motor with %d leads has groups like these: the largest holds %d.",
			len(v.leads),
			largest,
		)
	}
}

// unequal speaks of windings that differ.
func (v *verdicts) unequal(o ohms) {
	numbers := rule.Numbers{"unequal_percent": o.percent}
	side, means := "above", "A bad joint, a broken strand, or coils in parallel of which one is open."
	if o.odd.ohms < 1 {
		side, means = "below", "Shorted turns, or a reading through a link."
	}
	says := fmt.Sprintf(
		"%s reads %s percent %s the mean of its like.",
		v.pair(o.odd.between),
		quantity.Fixed(o.percent, 1),
		side,
	)
	switch {
	case o.percent > rule.Limit("leads.far-unequal", "most_percent"):
		v.say("leads.far-unequal", numbers, means+" Do not energise it before that is cleared up.", "%s", says)
	case o.percent > rule.Limit("leads.unequal", "most_percent"):
		v.say(
			"leads.unequal",
			numbers,
			"Clean the lead ends, null the meter, and measure all at one temperature again. "+means,
			"%s",
			says,
		)
	}
}
