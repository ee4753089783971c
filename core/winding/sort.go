package winding

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"brackmoor/core/rule"
)

// leaky is the resistance in ohms from which a reading is no winding: those of the
// smallest motors stay well below.
const leaky = 5000

// sorted are the readings by the places of leads.
type sorted struct {
	meter      meter
	at         map[Pair]string // where each came from
	insulation []insulation
	grounded   []string
	leaks      []Reading
	links      []Pair // no more resistance than the meter's own leads
	marks      map[int]string
	kicks      []kick
}

// sort puts readings in their places, with a problem for each that has none.
func (r Readings) sort() (s sorted, problems rule.Problems) {
	say := func(path, format string, args ...any) {
		problems = append(problems, rule.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
	}
	s.meter, s.at, s.marks = meter{}, map[Pair]string{}, map[int]string{}
	place := map[string]int{}
	if !slices.Contains(Counts, len(r.Leads)) {
		say("$.leads", "a motor has 3, 4, 6, 9 or 12 leads, not %d", len(r.Leads))
	}
	for i, name := range r.Leads {
		if _, twice := place[name]; twice || name == Frame {
			say(fmt.Sprintf("$.leads[%d]", i), "%q is taken", name)
		}
		place[name] = i
	}
	lead := func(path, name string) (int, bool) {
		at, ok := place[name]
		if !ok {
			say(path, "there is no lead %q", name)
		}
		return at, ok
	}
	named := map[string]string{}
	for _, name := range slices.Sorted(maps.Keys(r.Marks)) {
		path := "$.marks." + name
		at, ok := lead(path, name)
		mark, known := Canonical(r.Marks[name])
		switch {
		case !known:
			say(path, "%q is no mark: T1 to T12, U1 to W6, or U V W X Y Z", r.Marks[name])
		case named[mark] != "":
			say(path, "%s stands on lead %s too", r.Marks[name], named[mark])
		case ok:
			s.marks[at], named[mark] = mark, name
		}
	}
	for i, one := range r.Readings {
		path := fmt.Sprintf("$.readings[%d]", i)
		said := 0
		for _, there := range []bool{one.Ohms != nil, one.Open, one.Megohms != nil} {
			if there {
				said++
			}
		}
		if said != 1 {
			say(path, "needs one of ohms, open and megohms")
			continue
		}
		if one.Between[0] == Frame {
			one.Between[0], one.Between[1] = one.Between[1], one.Between[0]
		}
		a, ok := lead(path+".between", one.Between[0])
		if one.Between[1] == Frame {
			if ok {
				s.toFrame(one)
			}
			continue
		}
		b, okToo := lead(path+".between", one.Between[1])
		switch {
		case !ok || !okToo:
		case a == b:
			say(path+".between", "a lead is not measured against itself")
		default:
			s.between(one, pairOf(a, b), r.LeadOhms, path, say)
		}
	}
	for i, one := range r.Polarity {
		path := fmt.Sprintf("$.polarity[%d]", i)
		k := kick{sign: map[string]Sign{"+": 1, "-": -1, "−": -1, "0": 0}[one.Sign]}
		fine := true
		for j, name := range one.Driven {
			at, ok := lead(path+".driven", name)
			k.driven[j], fine = at, fine && ok
		}
		for j, name := range one.Sensed {
			at, ok := lead(path+".sensed", name)
			k.sensed[j], fine = at, fine && ok
		}
		switch {
		case !fine:
		case k.driven[0] == k.driven[1] || k.sensed[0] == k.sensed[1]:
			say(path, "a winding has two ends")
		default:
			s.kicks = append(s.kicks, k)
		}
	}
	return s, problems
}

func (s *sorted) toFrame(one Reading) {
	switch {
	case one.Megohms != nil:
		s.insulation = append(s.insulation, insulation{one.Between, *one.Megohms, one.TestVolts})
	case one.Ohms != nil:
		s.grounded = append(s.grounded, one.Between[0])
	}
}

func (s *sorted) between(one Reading, p Pair, own float64, path string, say func(path, format string, args ...any)) {
	ohms := math.Inf(1)
	switch {
	case one.Megohms != nil:
		s.insulation = append(s.insulation, insulation{one.Between, *one.Megohms, one.TestVolts})
	case one.Ohms != nil && *one.Ohms >= leaky:
		s.leaks = append(s.leaks, one)
	case one.Ohms != nil:
		// Least is what an ordinary meter cannot tell from nothing.
		const least = 0.001
		if ohms = *one.Ohms - own; ohms < least {
			s.links = append(s.links, p)
			ohms = least
		}
	}
	if before, read := s.meter[p]; read && math.IsInf(before, 1) != math.IsInf(ohms, 1) {
		say(
			path,
			"%s and %s are said to be open in one reading and joined in the other (%s)",
			one.Between[0],
			one.Between[1],
			s.at[p],
		)
		return
	}
	s.meter[p], s.at[p] = ohms, path
}
