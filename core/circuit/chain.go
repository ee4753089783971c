package circuit

import (
	"slices"
	"strconv"
)

// chained are the wires with no more than one coming and one going of a class at a terminal: what one
// terminal feeds goes from each to the next (IEC 60204-1, 13.1.1; NEC 110.14(A)). Conductors of the supply are
// bars, with room for all. What is joined to what stays as it was.
func (c *Circuit) chained() (wires []Wire) {
	bar := map[string]bool{}
	for _, s := range c.Sources {
		bar[s.ID] = true
	}
	classes := map[string][]Class{} // of the wires at a terminal
	for _, w := range c.Wires {
		for _, end := range []string{w.From, w.To} {
			if !slices.Contains(classes[end], w.Class) {
				classes[end] = append(classes[end], w.Class)
			}
		}
	}
	done := make([]bool, len(c.Wires))
	for i, w := range c.Wires {
		if done[i] {
			continue
		}
		if bar[w.From] || bar[w.To] {
			wires = append(wires, w)
			continue
		}
		ends := []string{w.From}
		for grows := true; grows; { // all that wires of its class join to it
			grows = false
			for k, o := range c.Wires {
				if done[k] || o.Class != w.Class || bar[o.From] || bar[o.To] {
					continue
				}
				from, to := slices.Contains(ends, o.From), slices.Contains(ends, o.To)
				if !from && !to {
					continue
				}
				done[k], grows = true, true
				if !from {
					ends = append(ends, o.From)
				}
				if !to {
					ends = append(ends, o.To)
				}
			}
		}
		shared := func(end string) int { // where wires of another class are too the chain begins
			if len(classes[end]) > 1 {
				return 0
			}
			return 1
		}
		slices.SortStableFunc(ends, func(a, b string) int { return shared(a) - shared(b) })
		for k := 1; k < len(ends); k++ {
			next := w
			next.From, next.To = ends[k-1], ends[k]
			wires = append(wires, next)
		}
	}
	for i := range wires {
		wires[i].Number = strconv.Itoa(i + 1)
	}
	return wires
}
