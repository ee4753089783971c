package banked

import (
	"brackmoor/core/feed"
	"brackmoor/core/network"
)

// Hang is the motor with its run capacitor; what only starts it has left.
func (w *Way) Hang(q *feed.Question, id string, share float64) (network.Circuit, error) {
	in := w.input(q)
	run := in.RunMicrofarad
	if run == nil {
		run = &w.Solved(q).Live.RunMicrofarad
	}
	c := feed.AcrossLines(&in.Machine, id, share)
	between := network.AC
	if in.TowardsB {
		between, c.Motors[0].Direction = network.BC, "acb"
	}
	feed.Joined(&c, id+"-run", between, *run)
	return c, nil
}

// StartsWith is the capacitor that starts it, and the speed at which it leaves.
func (w *Way) StartsWith(q *feed.Question) (microfarad, outRPM float64) {
	l := &w.Solved(q).Live
	return l.StartMicrofarad, l.CutOutRPM
}
