package winding

import (
	"math"
	"slices"
)

// Pair is two leads by their places, the lower first.
type Pair [2]int

func pairOf(a, b int) Pair { return Pair{min(a, b), max(a, b)} }

// meter holds what was read between leads: ohms where there is continuity, +Inf
// where there is none; what is absent was not read.
type meter map[Pair]float64

func (m meter) closed(p Pair) bool { ohms, read := m[p]; return read && !math.IsInf(ohms, 1) }
func (m meter) open(p Pair) bool   { ohms, read := m[p]; return read && math.IsInf(ohms, 1) }

// Bound is the most readings that are asked for to settle a number of leads, when
// they are those of a sound motor.
func Bound(leads int) int {
	return map[int]int{3: 3, 4: 5, 6: 9, 9: 22, 12: 36}[leads]
}

// found is what the readings tell of the leads.
type found struct {
	kind    Kind
	groups  [][]int
	next    *Pair // to be measured next; nil when settled
	hub     []int // the star point, or the corner of each group of a nine-lead delta
	coils   []reading
	against []Pair // readings that contradict others
}

// reading is a resistance that can be compared with its like: the leads it lies
// between and the coils it goes through.
type reading struct {
	between Pair
	ohms    float64
	coils   int
}

func (r reading) each() float64 { return r.ohms / float64(r.coils) }

// find works out the groups, and the pair that tells most next.
func find(n int, m meter) found {
	f := found{kind: UnknownKind, groups: components(n, m)}
	for _, group := range f.groups {
		for i, a := range group {
			for _, b := range group[i+1:] {
				if p := pairOf(a, b); m.open(p) {
					f.against = append(f.against, p)
				}
			}
		}
	}
	if len(f.against) > 0 {
		f.next = &f.against[0]
		return f
	}
	fits := agreeing(partitions(n), m)
	switch len(fits) {
	case 0:
		f.next = unparted(f.groups, m)
	case 1:
		f.groups = members(&fits[0], n)
		f.within(m)
		if f.next == nil {
			// A link left in joins windings: every two groups must have been read apart.
			f.next = unparted(f.groups, m)
		}
	default:
		f.next = telling(n, fits, m)
	}
	return f
}

// agreeing are the partitions that the readings leave possible.
func agreeing(all []partition, m meter) (fits []partition) {
	type told struct {
		a, b     int
		together bool
	}
	var said []told
	for pair, ohms := range m {
		said = append(said, told{pair[0], pair[1], !math.IsInf(ohms, 1)})
	}
	for i := range all {
		p, fit := &all[i], true
		for _, s := range said {
			if p.together(s.a, s.b) != s.together {
				fit = false
				break
			}
		}
		if fit {
			fits = append(fits, *p)
		}
	}
	return fits
}

// components are the leads that readings join.
func components(n int, m meter) (groups [][]int) {
	seen := make([]bool, n)
	for first := range n {
		if seen[first] {
			continue
		}
		seen[first] = true
		group := []int{first}
		for i := 0; i < len(group); i++ {
			for other := range n {
				if !seen[other] && m.closed(pairOf(group[i], other)) {
					seen[other] = true
					group = append(group, other)
				}
			}
		}
		slices.Sort(group)
		groups = append(groups, group)
	}
	return groups
}

func members(p *partition, n int) (groups [][]int) {
	for lead := range n {
		g := int(p[lead])
		for g >= len(groups) {
			groups = append(groups, nil)
		}
		groups[g] = append(groups[g], lead)
	}
	return groups
}

// unparted is a pair of two groups that no reading tells apart yet, nil when
// there is none.
func unparted(groups [][]int, m meter) *Pair {
	for i, g := range groups {
		for _, h := range groups[i+1:] {
			parted := false
			for _, a := range g {
				for _, b := range h {
					parted = parted || m.open(pairOf(a, b))
				}
			}
			if !parted {
				p := pairOf(g[0], h[0])
				return &p
			}
		}
	}
	return nil
}

// telling is the unread pair whose answer leaves the fewest possibilities even if
// it is the worse one.
func telling(n int, fits []partition, m meter) *Pair {
	var best *Pair
	most := 0
	for a := range n {
		for b := a + 1; b < n; b++ {
			p := Pair{a, b}
			if _, read := m[p]; read {
				continue
			}
			together := 0
			for i := range fits {
				if fits[i].together(a, b) {
					together++
				}
			}
			if worth := min(together, len(fits)-together); worth > most {
				best, most = &p, worth
			}
		}
	}
	return best
}

// within settles the kind and asks for the resistances inside the groups.
func (f *found) within(m meter) {
	leads, threes := 0, 0
	for _, g := range f.groups {
		leads += len(g)
		if len(g) == 3 {
			threes++
		}
	}
	switch {
	case leads == 3:
		f.kind = ThreeLead
		f.star(f.groups[0], m)
	case leads == 4:
		f.kind = StarOut
		f.starPoint(m)
	case leads == 9 && threes == 3:
		f.kind = NineDelta
		f.corners(m)
	default:
		f.kind = map[int]Kind{6: SixLead, 9: NineWye, 12: TwelveLead}[leads]
		for _, g := range f.groups {
			if len(g) == 3 {
				f.star(g, m)
			} else {
				f.take(m, pairOf(g[0], g[1]), 1)
			}
		}
	}
}

// take notes a resistance, or asks for it.
func (f *found) take(m meter, p Pair, coils int) {
	if ohms, read := m[p]; read {
		f.coils = append(f.coils, reading{p, ohms, coils})
	} else if f.next == nil {
		f.next = &p
	}
}

// star takes the three resistances of a group of three.
func (f *found) star(g []int, m meter) {
	for _, p := range []Pair{{g[0], g[1]}, {g[0], g[2]}, {g[1], g[2]}} {
		f.take(m, p, 2)
	}
}

// alike is the most by which resistances of like coils may differ for a guess at
// what they are: half way, in ratio, between one coil and two.
const alike = math.Sqrt2

// starPoint finds which of four leads is the star point: to it one coil is read,
// between the others two.
func (f *found) starPoint(m meter) {
	g := f.groups[0]
	var stars []int
	for _, s := range g {
		low, high := math.Inf(1), 0.0
		for p, ohms := range m {
			if p[0] != s && p[1] != s {
				ohms /= 2
			}
			low, high = math.Min(low, ohms), math.Max(high, ohms)
		}
		if high < alike*low || high == 0 {
			stars = append(stars, s)
		}
	}
	if len(stars) == 1 {
		f.hub = stars
		for _, lead := range g {
			if lead != stars[0] {
				f.take(m, pairOf(lead, stars[0]), 1)
			}
		}
		return
	}
	for _, a := range g {
		for _, b := range g {
			if _, read := m[pairOf(a, b)]; a < b && !read && f.next == nil {
				p := pairOf(a, b)
				f.next = &p
			}
		}
	}
	if f.next == nil {
		f.kind = UnknownKind // no lead stands out
	}
}

// corners finds, in each group of a nine-lead delta, the lead at which its two
// coils meet.
func (f *found) corners(m meter) {
	f.hub = make([]int, len(f.groups))
	for k, g := range f.groups {
		corner, ok := corner(g, m)
		if !ok {
			f.hub[k] = -1
			for _, p := range []Pair{{g[0], g[1]}, {g[0], g[2]}, {g[1], g[2]}} {
				if _, read := m[p]; !read && f.next == nil {
					f.next = &p
				}
			}
			continue
		}
		f.hub[k] = corner
		var ends []int
		for _, lead := range g {
			if lead != corner {
				ends = append(ends, lead)
			}
		}
		near := [2]Pair{pairOf(corner, ends[0]), pairOf(corner, ends[1])}
		far := pairOf(ends[0], ends[1])
		for i, p := range near {
			other, read := m[near[1-i]]
			if whole, readFar := m[far]; !m.closed(p) && read && readFar {
				f.coils = append(f.coils, reading{p, whole - other, 1})
				continue
			}
			f.take(m, p, 1)
		}
	}
	if f.next == nil && slices.Contains(f.hub, -1) {
		f.kind = UnknownKind
	}
}

// corner is the lead of a group of three at which two equal coils meet: the one
// that is not an end of the largest resistance. Two readings tell it, three when
// they are neither equal nor one to two.
func corner(g []int, m meter) (lead int, ok bool) {
	var read []reading
	for _, p := range []Pair{{g[0], g[1]}, {g[0], g[2]}, {g[1], g[2]}} {
		if m.closed(p) {
			read = append(read, reading{p, m[p], 1})
		}
	}
	if len(read) < 2 {
		return 0, false
	}
	slices.SortFunc(read, func(a, b reading) int { return -compare(a.ohms, b.ohms) })
	largest := read[0]
	if len(read) == 2 {
		switch ratio := read[0].ohms / read[1].ohms; {
		case ratio < 1.25: // both are one coil: they meet in the lead they share
			for _, lead := range read[0].between {
				if lead == read[1].between[0] || lead == read[1].between[1] {
					return lead, true
				}
			}
		case ratio < 1.6:
			return 0, false
		}
	}
	for _, lead := range g {
		if lead != largest.between[0] && lead != largest.between[1] {
			return lead, true
		}
	}
	return 0, false
}

func compare(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}
