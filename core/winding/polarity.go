package winding

import (
	"maps"
	"math"
	"slices"
)

// Sign is the first deflection of a meter at the first-named sensed lead, when
// the first-named driven lead is made positive: +1, −1, or 0 where it hardly
// moves.
type Sign int

// kick is one polarity reading, by places of leads.
type kick struct {
	driven, sensed [2]int
	sign           Sign
}

// hardly is the share of one coil's volts, on its own axis, below which a
// deflection counts as none.
const hardly = 0.25

// labels says which mark each lead has.
type labels []string

// expected is the deflection that labels give for a pair driven and a pair sensed.
// ok is false where the leads are not joined by coils, or the pairs share a coil
// group, where currents would mix with what is induced.
func (t template) expected(l labels, driven, sensed [2]int) (sign Sign, ok bool) {
	from, _, joined := t.path(l[driven[0]], l[driven[1]])
	to, _, joinedToo := t.path(l[sensed[0]], l[sensed[1]])
	_, _, same := t.path(l[driven[0]], l[sensed[0]])
	if !joined || !joinedToo || same || driven[0] == driven[1] || sensed[0] == sensed[1] {
		return 0, false
	}
	switch volts := induced(from, to); {
	case volts > hardly:
		return 1, true
	case volts < -hardly:
		return -1, true
	}
	return 0, true
}

// possible lists the ways in which the leads of a settled motor can be marked, one
// for each that polarity can tell from the others: legs are free to be exchanged,
// and all ends to be turned together.
func (f *found) possible() []labels {
	n := 0
	for _, g := range f.groups {
		n += len(g)
	}
	blank := func() labels { return make(labels, n) }
	var list []labels
	// flips turns each of the given pairs over or not, the first of them held.
	flips := func(count int, held bool, each func(turned func(i int) bool)) {
		free := count
		if held {
			free--
		}
		for bits := range 1 << free {
			each(func(i int) bool {
				if held {
					i--
				}
				return i >= 0 && bits>>i&1 == 1
			})
		}
	}
	put := func(l labels, pair []int, start, finish string, turned bool) {
		if turned {
			start, finish = finish, start
		}
		l[pair[0]], l[pair[1]] = start, finish
	}
	t := templates[f.kind]
	switch f.kind {
	case ThreeLead:
		list = append(list, labels{"T1", "T2", "T3"})
	case StarOut:
		l := blank()
		next := 0
		for lead := range n {
			if lead == f.hub[0] {
				l[lead] = "T0"
			} else {
				l[lead] = t.marks[next]
				next++
			}
		}
		list = append(list, l)
	case SixLead:
		flips(3, true, func(turned func(int) bool) {
			l := blank()
			for i, g := range f.groups {
				put(l, g, t.coils[i].start, t.coils[i].finish, turned(i))
			}
			list = append(list, l)
		})
	case NineWye:
		var pairs [][]int
		var star []int
		for _, g := range f.groups {
			if len(g) == 3 {
				star = g
			} else {
				pairs = append(pairs, g)
			}
		}
		for _, order := range orders(3) {
			flips(3, false, func(turned func(int) bool) {
				l := blank()
				for i, k := range order {
					put(l, pairs[k], t.coils[i].start, t.coils[i].finish, turned(i))
					l[star[i]] = t.coils[3+i].start
				}
				list = append(list, l)
			})
		}
	case NineDelta:
		flips(3, false, func(turned func(int) bool) {
			l := blank()
			for i, g := range f.groups {
				var ends []int
				for _, lead := range g {
					if lead != f.hub[i] {
						ends = append(ends, lead)
					}
				}
				l[f.hub[i]] = t.marks[i]
				put(l, ends, t.marks[3+i], []string{"T9", "T7", "T8"}[i], turned(i))
			}
			list = append(list, l)
		})
	case TwelveLead:
		for _, legs := range split(6, []int{2, 2, 2}) {
			flips(6, true, func(turned func(int) bool) {
				l := blank()
				seen := [3]int{}
				for i, g := range f.groups {
					leg := legs[i]
					c := t.coils[int(leg)+3*seen[leg]]
					seen[leg]++
					put(l, g, c.start, c.finish, turned(i))
				}
				list = append(list, l)
			})
		}
	}
	return list
}

// orders are the permutations of the first n numbers.
func orders(n int) (list [][]int) {
	var place func(done []int)
	place = func(done []int) {
		if len(done) == n {
			list = append(list, slices.Clone(done))
			return
		}
		for i := range n {
			if !slices.Contains(done, i) {
				place(append(done, i))
			}
		}
	}
	place(nil)
	return list
}

// question is a polarity reading to be taken.
type question struct{ driven, sensed [2]int }

// questions are the readings worth taking on a settled motor: one coil group
// driven, another sensed.
func (f *found) questions() (list []question) {
	var pairs [][2]int
	for k, g := range f.groups {
		for i, a := range g {
			for _, b := range g[i+1:] {
				if f.kind == NineDelta && a != f.hub[k] && b != f.hub[k] {
					continue // a single coil tells more than two in series
				}
				if f.kind == NineDelta && b == f.hub[k] {
					a, b = b, a
				}
				pairs = append(pairs, [2]int{a, b})
			}
		}
	}
	for i, d := range pairs {
		for _, s := range pairs[i+1:] {
			list = append(list, question{d, s})
		}
	}
	return list
}

// sift keeps the labels that agree with polarity readings.
func (t template) sift(list []labels, kicks []kick) (fit []labels) {
	for _, l := range list {
		if !slices.ContainsFunc(kicks, func(k kick) bool {
			sign, ok := t.expected(l, k.driven, k.sensed)
			return !ok || sign != k.sign
		}) {
			fit = append(fit, l)
		}
	}
	return fit
}

// ask is the polarity reading that leaves the fewest possibilities even if its
// answer is the worst; nil when one is left.
func (f *found) ask(fits []labels) *question {
	if len(fits) < 2 {
		return nil
	}
	t := templates[f.kind]
	var best *question
	fewest := math.MaxInt
	for _, q := range f.questions() {
		count := map[Sign]int{}
		for _, l := range fits {
			if sign, ok := t.expected(l, q.driven, q.sensed); ok {
				count[sign]++
			}
		}
		worst := slices.Max(append(slices.Collect(maps.Values(count)), 0))
		if worst > 0 && worst < fewest {
			best, fewest = &q, worst
		}
	}
	return best
}

// proof is a reading that would catch a slip in those taken: one whose answer is
// known, and that a wrong earlier answer would have made otherwise. nil when every
// single slip would already show.
func (f *found) proof(all []labels, kicks []kick) *question {
	t := templates[f.kind]
	for i := range kicks {
		for _, wrong := range []Sign{-1, 0, 1} {
			if wrong == kicks[i].sign {
				continue
			}
			slipped := slices.Clone(kicks)
			slipped[i].sign = wrong
			other := t.sift(all, slipped)
			if len(other) == 0 {
				continue
			}
			truth := t.sift(all, kicks)[0]
			for _, q := range f.questions() {
				a, ok := t.expected(truth, q.driven, q.sensed)
				b, _ := t.expected(other[0], q.driven, q.sensed)
				if ok && a != b && a != 0 &&
					!slices.ContainsFunc(
						kicks,
						func(k kick) bool { return k.driven == q.driven && k.sensed == q.sensed },
					) {
					return &q
				}
			}
		}
	}
	return nil
}

// PolarityBound is the most polarity readings that are asked for to tell the
// starts and finishes of a kind.
func PolarityBound(kind Kind) int {
	return map[Kind]int{SixLead: 2, NineWye: 5, NineDelta: 4, TwelveLead: 10}[kind]
}

// relabelled lists what the labels of a motor may as well be: its legs exchanged,
// every end turned, the halves of a leg exchanged, as the kind allows.
func relabelled(kind Kind, l labels) (list []labels) {
	t := templates[kind]
	leg := map[string]int{}
	for _, c := range t.coils {
		for _, mark := range []string{c.start, c.finish} {
			if _, there := leg[mark]; !there {
				leg[mark] = c.leg
			}
		}
	}
	apply := func(rename map[string]string) {
		renamed := make(labels, len(l))
		for i, mark := range l {
			renamed[i] = rename[mark]
		}
		list = append(list, renamed)
	}
	if kind == NineDelta {
		for turn := range 3 {
			rename := map[string]string{}
			mirror := map[string]string{}
			for i := range 3 {
				to := (i + turn) % 3
				// In the mirror the legs run the other way round, and starts are finishes.
				back := (3 - to) % 3
				rename[t.marks[i]], rename[t.marks[3+i]], rename[t.marks[6+i]] = t.marks[to], t.marks[3+to],
					t.marks[6+to]
				mirror[t.marks[i]] = t.marks[back]
				mirror[t.marks[3+i]] = []string{"T9", "T7", "T8"}[back]
			}
			for i := range 3 {
				// T9, T7 and T8 stand in the groups of T1, T2 and T3.
				mirror[[]string{"T9", "T7", "T8"}[i]] = t.marks[3+(3-(i+turn)%3)%3]
			}
			apply(rename)
			apply(mirror)
		}
		return list
	}
	halves := 1
	if kind == TwelveLead {
		halves = 8
	}
	for _, order := range orders(3) {
		for swap := range halves {
			for _, turned := range []bool{false, true} {
				if turned && kind != SixLead && kind != TwelveLead {
					continue
				}
				rename := map[string]string{}
				for i, c := range t.coils {
					half, halfTo := i/3, i/3
					if swap>>c.leg&1 == 1 {
						halfTo = 1 - half
					}
					to := t.coils[order[c.leg]+3*halfTo]
					start, finish := to.start, to.finish
					if turned {
						start, finish = finish, start
					}
					rename[c.start], rename[c.finish] = start, finish
				}
				apply(rename)
			}
		}
	}
	return list
}
