package circuit

import "slices"

// Net is what wires join: its ends, terminals and sources, in the order in which they come, and its wires.
type Net struct {
	Ends  []string
	Wires []int // places in the circuit's list
}

// Has says whether a net has an end.
func (n *Net) Has(end string) bool { return slices.Contains(n.Ends, end) }

// Nets are those of a circuit. Ends that nothing joins are in none.
func (c *Circuit) Nets() (list []Net) {
	of := map[string]int{}
	for i, w := range c.Wires {
		from, known := of[w.From]
		if !known {
			from = len(list)
			of[w.From] = from
			list = append(list, Net{Ends: []string{w.From}})
		}
		to, known := of[w.To]
		switch {
		case !known:
			of[w.To] = from
			list[from].Ends = append(list[from].Ends, w.To)
		case to != from:
			from, to = min(from, to), max(from, to)
			for _, end := range list[to].Ends {
				of[end] = from
			}
			list[from].Ends = append(list[from].Ends, list[to].Ends...)
			list[from].Wires = append(list[from].Wires, list[to].Wires...)
			list[to] = Net{}
		}
		list[from].Wires = append(list[from].Wires, i)
	}
	return slices.DeleteFunc(list, func(n Net) bool { return len(n.Ends) == 0 })
}
