package ladder

import "brackmoor/core/circuit"

// Ordered are times as a search takes them.
var Ordered = ordered

// Reach is how many states a sound circuit comes to, and whether any of them finds no rest; with its times as they
// are, or in their order.
func Reach(c *circuit.Circuit, exact bool) (states int, restless bool) {
	p := newPlan(c, fault{}, exact)
	f := &found{p: p, seen: map[string]bool{}}
	states, _ = p.search(f, mostStates)
	for _, v := range f.list {
		restless = restless || v.Rule == "wire.chatters"
	}
	return states, restless
}

// Sound is what is found in a circuit with nothing broken, with its times as they are or in their order.
func Sound(c *circuit.Circuit, exact bool) Check {
	p := newPlan(c, fault{}, exact)
	f := &found{p: p, seen: map[string]bool{}}
	p.static(f)
	states, whole := p.search(f, mostStates)
	return Check{States: states, Whole: whole, Violations: f.list}
}
