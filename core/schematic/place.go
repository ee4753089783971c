package schematic

import "slices"

// place gives every element its column and its row, and every net its channel.
func (p *plan) place() {
	for !p.columnsFound() {
	}
	p.bands()
}

// columnsFound puts what feeds before what it feeds. Where something feeds itself, one that does is drawn as an end,
// all its terminals at its left, and the columns are wanted anew: then it is false.
func (p *plan) columnsFound() bool {
	driven := make([]bool, len(p.nets))
	for _, e := range p.elements {
		e.col = 0
		for _, x := range e.right {
			driven[x.net] = true
		}
	}
	for i := range p.level {
		p.level[i] = 0
	}
	for changed := true; changed; {
		changed = false
		for _, e := range p.elements {
			for _, x := range e.left {
				if driven[x.net] && p.level[x.net] > e.col {
					e.col, changed = p.level[x.net], true
				}
			}
			if e.col > len(p.elements) {
				p.asEnd()
				return false
			}
			for _, x := range e.right {
				if p.level[x.net] < e.col+1 {
					p.level[x.net], changed = e.col+1, true
				}
			}
		}
		if !changed {
			changed = p.alignEnds()
		}
	}
	for net := range p.nets { // what nothing feeds stands where it is first wanted
		if driven[net] {
			continue
		}
		first := -1
		for _, e := range p.elements {
			for _, x := range e.left {
				if x.net == net && (first < 0 || e.col < first) {
					first = e.col
				}
			}
		}
		p.level[net] = max(first, 0)
	}
	p.columns = 0
	for _, e := range p.elements {
		p.columns = max(p.columns, e.col+1)
	}
	return true
}

// asEnd draws, of what feeds itself, the element that is farthest with all its terminals at its left.
func (p *plan) asEnd() {
	var at *element
	for _, e := range p.elements {
		if len(e.right) > 0 && len(e.left) > 0 && (at == nil || e.col > at.col) {
			at = e
		}
	}
	at.left = append(at.left, at.right...)
	for i := range at.left {
		at.left[i].row = i
	}
	at.right, at.end, at.draws = nil, false, drawBox
}

// alignEnds puts coils below one another in the last column of what feeds no more; it says whether one moved.
func (p *plan) alignEnds() (moved bool) {
	last := 0
	feedsMore := func(e *element) bool {
		return slices.ContainsFunc(e.right, func(x pin) bool {
			return slices.ContainsFunc(p.elements, func(o *element) bool {
				return o != e && o.draws != drawReference &&
					slices.ContainsFunc(o.left, func(y pin) bool { return y.net == x.net })
			})
		})
	}
	for _, e := range p.elements {
		if e.draws != drawReference {
			last = max(last, e.col)
		}
	}
	for _, e := range p.elements {
		if e.end && e.col < last && !feedsMore(e) {
			e.col, moved = last, true
		}
	}
	return moved
}

// bands puts elements into rows: what feeds one another level in one band, the rest below where it hangs.
func (p *plan) bands() {
	placed := map[*element]bool{}
	var chain func(e *element)
	chain = func(e *element) {
		top := p.rows
		band := []*element{e}
		e.row, placed[e] = top, true
		for {
			var best *element
			most := 0
			for _, f := range p.elements {
				if shared := feeds(band[len(band)-1], f); !placed[f] && shared > most && p.fits(band, f) {
					best, most = f, shared
				}
			}
			if best == nil {
				break
			}
			best.row, placed[best] = top, true
			band = append(band, best)
		}
		for _, f := range band {
			p.rows = max(p.rows, top+f.rows())
		}
		for i := len(band) - 1; i >= 0; i-- {
			for _, pins := range [][]pin{band[i].right, band[i].left} {
				for _, x := range pins {
					for _, f := range p.elements {
						hangs := slices.ContainsFunc(f.left, func(y pin) bool { return y.net == x.net })
						if !placed[f] && hangs && p.fed(f, placed) {
							chain(f)
						}
					}
				}
			}
		}
	}
	for _, begins := range []bool{true, false} {
		for _, e := range p.elements {
			if !placed[e] && (len(e.left) == 0 || !begins) {
				chain(e)
			}
		}
	}
}

// fed says whether all that feeds an element is placed, so that it does not begin a band of its own before what it
// hangs on.
func (p *plan) fed(f *element, placed map[*element]bool) bool {
	for _, y := range f.left {
		for _, e := range p.elements {
			if e != f && !placed[e] && slices.ContainsFunc(e.right, func(x pin) bool { return x.net == y.net }) {
				return false
			}
		}
	}
	return true
}

// feeds is how many nets an element feeds of another.
func feeds(e, f *element) (shared int) {
	for _, x := range e.right {
		for _, y := range f.left {
			if x.net == y.net {
				shared++
			}
		}
	}
	return shared
}

// fits says whether an element can stand at the end of a band: no wire of its rows runs into another element's body or
// over another wire of the row.
func (p *plan) fits(band []*element, f *element) bool {
	for _, b := range band {
		if b.col >= f.col {
			return false
		}
		for _, x := range b.right {
			if p.level[x.net] > f.col && x.row < f.rows() {
				return false
			}
		}
		for _, y := range f.left {
			if b.col >= p.level[y.net] && y.row < b.rows() {
				return false
			}
			for _, x := range b.right {
				if x.row == y.row && (p.level[x.net] > p.level[y.net] ||
					p.level[x.net] == p.level[y.net] && x.net != y.net) {
					return false
				}
			}
		}
	}
	return true
}
