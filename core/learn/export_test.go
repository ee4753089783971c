package learn

import "math"

// Unbalance is how far apart the legs of a state are with capacitors, in percent, by what was learned; infinite where
// nothing settles.
func (l *Learned) Unbalance(s *State, b Bank) float64 {
	v, ok := l.m.solve(s, b, -1)
	if !ok {
		return math.Inf(1)
	}
	return v.volts.Unbalance()
}
