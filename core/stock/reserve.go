package stock

import "slices"

// Take is so many of a part on hand.
type Take struct {
	ID    string
	Count float64
}

// Reserve keeps parts for a machine: what is left of an item stays free. The ids of what is split off are new.
func Reserve(list []Item, takes []Take, machine string, newID func() string) []Item {
	list = slices.Clone(list)
	for _, t := range takes {
		i := slices.IndexFunc(list, func(x Item) bool { return x.ID == t.ID && x.For == "" })
		switch {
		case i < 0 || t.Count <= 0:
		case list[i].Count <= t.Count:
			list[i].For = machine
		default:
			part := list[i]
			part.ID, part.Count, part.For = newID(), t.Count, machine
			list[i].Count -= t.Count
			list = append(list, part)
		}
	}
	return list
}

// Release frees what is reserved for a machine; it goes back to what is alike.
func Release(list []Item, machine string) (out []Item) {
	for _, x := range list {
		if x.For != machine {
			out = append(out, x)
			continue
		}
		x.For = ""
		if i := slices.IndexFunc(out, func(y Item) bool { return alike(x, y) }); i >= 0 {
			out[i].Count += x.Count
		} else {
			out = append(out, x)
		}
	}
	return out
}

// alike says whether two items are the same but for how many they are.
func alike(a, b Item) bool {
	a.ID, a.Count = b.ID, b.Count
	return a == b
}

// Use takes off what is reserved for a machine: it is built in.
func Use(list []Item, machine string) []Item {
	return slices.DeleteFunc(slices.Clone(list), func(x Item) bool { return x.For == machine })
}
