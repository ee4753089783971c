package stock

import (
	"math"
	"slices"
)

// Can is a unit that a bank is made up of: a capacitor on hand, or two alike in series, each of which has half the
// volts and a balancing resistor of its own. Left is how many of its item there are.
type Can struct {
	Item       *Item
	Microfarad float64
	Series     bool
	uses       int // cans of the item
}

// Made is a capacitance made up of what is on hand.
type Made struct {
	Cans       []Can
	Microfarad float64
	Count      int // of cans
}

// mostCans is how many cans a bank is made up of at most, and mostSteps how many steps its search takes: some
// hundred times what a full shelf wants.
const (
	mostCans  = 8
	mostSteps = 2_000_000
)

// Combine makes up a capacitance of run or start capacitors on hand that bear the volts, by what they measure: of all
// combinations within a percentage of it one of the fewest cans, and of those the nearest; ok is false where none is
// within it. It is exact: every combination that could be better is looked at, up to a number of steps that only
// hundreds of different cans pass. Those that are reserved for another
// machine, or doubtful, are left out.
func Combine(list []Item, kind string, target, volts, percent float64, machine string) (m Made, ok bool) {
	var units []Can
	left := map[*Item]int{}
	for i := range list {
		item := &list[i]
		if item.Kind != kind || item.Value() <= 0 || item.For != "" && item.For != machine || item.Doubtful() != nil {
			continue
		}
		left[item] = int(item.Count)
		if item.Volts >= volts {
			units = append(units, Can{item, item.Value(), false, 1})
		}
		if item.Volts >= volts/2 && item.Volts < volts && item.Count >= 2 && kind == Run {
			units = append(units, Can{item, item.Value() / 2, true, 2})
		}
	}
	slices.SortStableFunc(units, func(a, b Can) int {
		switch {
		case a.Microfarad > b.Microfarad:
			return -1
		case a.Microfarad < b.Microfarad:
			return 1
		}
		return 0
	})
	s := search{
		units:  units,
		left:   left,
		low:    target * (1 - percent/100),
		high:   target * (1 + percent/100),
		target: target,
	}
	for most := 1; most <= mostCans; most++ { // the fewest first
		s.best = math.Inf(1)
		if s.take(0, most, 0); !math.IsInf(s.best, 1) {
			m = Made{Cans: s.found, Count: most}
			for _, c := range m.Cans {
				m.Microfarad += c.Microfarad
			}
			return m, true
		}
	}
	return Made{}, false
}

// Less is a list without the cans that something is made up of.
func Less(list []Item, m Made) []Item {
	list = slices.Clone(list)
	for _, c := range m.Cans {
		if i := slices.IndexFunc(list, func(x Item) bool { return x.ID == c.Item.ID }); i >= 0 {
			list[i].Count -= float64(c.uses)
		}
	}
	return list
}

type search struct {
	units             []Can
	left              map[*Item]int
	low, high, target float64
	taken, found      []Can
	best              float64
	steps             int
}

// take takes so many more cans from a unit on, the largest first; it stops where what is left cannot reach the band.
func (s *search) take(from, cans int, sum float64) {
	if s.steps++; s.steps > mostSteps {
		return
	}
	if cans == 0 {
		if off := math.Abs(sum - s.target); sum >= s.low && sum <= s.high && off < s.best {
			s.best, s.found = off, slices.Clone(s.taken)
		}
		return
	}
	for i := from; i < len(s.units); i++ {
		u := s.units[i]
		if u.uses > cans || s.left[u.Item] < u.uses {
			continue
		}
		if sum+float64(cans)*u.Microfarad < s.low { // none after it is larger
			return
		}
		if sum+u.Microfarad > s.high {
			continue
		}
		s.left[u.Item] -= u.uses
		s.taken = append(s.taken, u)
		s.take(i, cans-u.uses, sum+u.Microfarad)
		s.taken = s.taken[:len(s.taken)-1]
		s.left[u.Item] += u.uses
	}
}
