package circuit

import (
	"slices"
	"strconv"
	"strings"
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
		slices.SortStableFunc(ends, func(a, b string) int { return c.along(a, classes) - c.along(b, classes) })
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

// along orders what stands on one chain: where wires of another class are too it begins, then what passes power on, and
// last capacitors with their bleeds, through which nothing goes on to anything else.
func (c *Circuit) along(end string, classes map[string][]Class) int {
	id, _, _ := strings.Cut(end, ":")
	p := c.Part(id)
	switch {
	case len(classes[end]) > 1:
		return 0
	case p != nil && (p.Kind == Capacitor || p.Kind == Bleed):
		return 2
	}
	return 1
}
