package learn

import (
	"cmp"
	"math"
	"slices"

	"brackmoor/core/network"
)

// Cans are those in circuit on either pair, by their marks; nil where they are not known, and any size of the shelf
// may be among them.
//
// Only is the one pair that may be changed, empty for both.
type Cans struct {
	AC, BC []float64
	Only   network.Pair
}

// move is a change of one pair: what is added and taken out, and how much of each size that takes from the shelf, less
// than none for what is put back.
type move struct {
	swap  Swap
	cans  int
	takes map[float64]int
}

// sum is the moves of a pair that come to the same microfarads, those of the fewest cans first.
type sum struct {
	microfarad float64
	moves      []move
}

// mostTouched is how many cans one change adds and takes out on a pair at most, by how many sizes there are: all of
// them are looked at.
func mostTouched(sizes int) (added, removed int) {
	switch {
	case sizes <= 5:
		return 4, 3
	case sizes <= 8:
		return 3, 3
	}
	return 2, 2
}

// making is the search for the moves of a pair.
type making struct {
	sizes          []Can
	of             []float64
	has            float64
	added, removed int
	sums           map[int64]*sum
}

// moves are all of a pair that has so many microfarads, made up of cans that are known or not.
func moves(shelf []Can, has float64, of []float64) (list []sum) {
	m := making{of: of, has: has, sums: map[int64]*sum{}}
	m.sizes = append(m.sizes, shelf...)
	for _, x := range of {
		if !slices.ContainsFunc(m.sizes, func(c Can) bool { return c.Microfarad == x }) {
			m.sizes = append(m.sizes, Can{x, 0})
		}
	}
	m.added, m.removed = mostTouched(len(m.sizes))
	m.add(0, nil)
	for _, s := range m.sums {
		slices.SortStableFunc(s.moves, func(a, b move) int { return a.cans - b.cans })
		list = append(list, *s)
	}
	slices.SortFunc(list, func(a, b sum) int { return cmp.Compare(a.microfarad, b.microfarad) })
	return list
}

// times is how often a size stands in a list.
func times(list []float64, size float64) (n int) {
	for _, x := range list {
		if x == size {
			n++
		}
	}
	return n
}

// add goes through what may be added; what the other pair lets go of may come in here too, and the shelf is held to
// both pairs together later.
func (m *making) add(from int, in []float64) {
	m.remove(0, in, nil, m.has)
	if len(in) == m.added {
		return
	}
	for i := from; i < len(m.sizes); i++ {
		if times(in, m.sizes[i].Microfarad) < m.sizes[i].Count+m.removed {
			m.add(i, append(slices.Clone(in), m.sizes[i].Microfarad))
		}
	}
}

// remove goes through what may be taken out beside it.
func (m *making) remove(from int, in, out []float64, left float64) {
	m.keep(in, out)
	if len(out) == m.removed {
		return
	}
	for i := from; i < len(m.sizes); i++ {
		x := m.sizes[i].Microfarad
		if x > left+1e-9 || slices.Contains(in, x) || m.of != nil && times(out, x) >= times(m.of, x) {
			continue
		}
		m.remove(i, in, append(slices.Clone(out), x), left-x)
	}
}

func (m *making) keep(in, out []float64) {
	own := move{
		swap:  Swap{append([]float64{}, in...), append([]float64{}, out...)},
		takes: map[float64]int{}, cans: len(in) + len(out),
	}
	total := 0.0
	for _, x := range in {
		total += x
		own.takes[x]++
	}
	for _, x := range out {
		total -= x
		own.takes[x]--
	}
	key := int64(math.Round(1000 * total))
	if m.sums[key] == nil {
		m.sums[key] = &sum{microfarad: total}
	}
	m.sums[key].moves = append(m.sums[key].moves, own)
}

// together is the moves of the fewest cans that come to two sums and for which the shelf has what they take; ok is
// false where it has not.
func together(left map[float64]int, a, b *sum) (one, two *move, ok bool) {
	fewest := math.MaxInt
	for i := range a.moves {
		for k := range b.moves {
			x, y := &a.moves[i], &b.moves[k]
			if x.cans+y.cans >= fewest {
				break
			}
			if fits(left, x, y) {
				one, two, fewest = x, y, x.cans+y.cans
			}
		}
	}
	return one, two, one != nil
}

// fits says whether the shelf has what two moves take together.
func fits(left map[float64]int, a, b *move) bool {
	for _, m := range []*move{a, b} {
		for size := range m.takes {
			if a.takes[size]+b.takes[size] > left[size] {
				return false
			}
		}
	}
	return true
}
