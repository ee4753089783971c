package winding

import "sync"

// most is the largest number of leads.
const most = 12

// partition says of every lead which group it belongs to.
type partition [most]int8

func (p *partition) together(a, b int) bool { return p[a] == p[b] }

// partitions lists every way in which a number of leads can fall into the groups
// of a kind: nine into three pairs and one three, or into three threes.
func partitions(leads int) []partition { return remembered[leads]() }

var remembered = map[int]func() []partition{
	3:  sync.OnceValue(func() []partition { return split(3, []int{3}) }),
	4:  sync.OnceValue(func() []partition { return split(4, []int{4}) }),
	6:  sync.OnceValue(func() []partition { return split(6, []int{2, 2, 2}) }),
	9:  sync.OnceValue(func() []partition { return append(split(9, []int{3, 2, 2, 2}), split(9, []int{3, 3, 3})...) }),
	12: sync.OnceValue(func() []partition { return split(12, []int{2, 2, 2, 2, 2, 2}) }),
}

// split lists the partitions of n leads into groups of the given sizes. The first
// lead that is still free always opens the next group, so that none comes twice.
func split(n int, sizes []int) (list []partition) {
	var p partition
	for i := range p {
		p[i] = -1
	}
	var fill func(left []int, group int8)
	fill = func(left []int, group int8) {
		first := 0
		for first < n && p[first] >= 0 {
			first++
		}
		if first == n {
			list = append(list, p)
			return
		}
		tried := map[int]bool{}
		for k, size := range left {
			if tried[size] {
				continue
			}
			tried[size] = true
			rest := append(append([]int{}, left[:k]...), left[k+1:]...)
			p[first] = group
			var choose func(from, need int)
			choose = func(from, need int) {
				if need == 0 {
					fill(rest, group+1)
					return
				}
				for i := from; i < n; i++ {
					if p[i] < 0 {
						p[i] = group
						choose(i+1, need-1)
						p[i] = -1
					}
				}
			}
			choose(first+1, size-1)
			p[first] = -1
		}
	}
	fill(sizes, 0)
	return list
}
