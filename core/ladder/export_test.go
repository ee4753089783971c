package ladder

import "brackmoor/core/circuit"

// Reach is how many states a sound circuit comes to, and whether any of them finds no rest.
func Reach(c *circuit.Circuit) (states int, restless bool) {
	p := newPlan(c, fault{})
	f := &found{p: p, seen: map[string]bool{}}
	states, _ = p.search(f, mostStates)
	for _, v := range f.list {
		restless = restless || v.Rule == "wire.chatters"
	}
	return states, restless
}

// Sound is what is found in a circuit with nothing broken.
func Sound(c *circuit.Circuit) Check {
	p := newPlan(c, fault{})
	f := &found{p: p, seen: map[string]bool{}}
	p.static(f)
	states, whole := p.search(f, mostStates)
	return Check{States: states, Whole: whole, Violations: f.list}
}
