package rotary

import (
	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/waveform"
)

// watchSeconds is how long an idler's terminals are watched after switch-off.
const watchSeconds = 8

// SwitchOff opens the supply on the idler of an answer, alone with its balance
// capacitors, and says what its terminals do. An idler carries nothing that would stop
// it, so it spins on for long.
func SwitchOff(in Input, a Answer) (waveform.Off, []rule.Verdict, error) {
	ref, err := referenceIdler(in.Supply.Volts, in.Supply.Hertz)
	if err != nil {
		return waveform.Off{}, nil, err
	}
	r := newRig(in, ref, a.IdlerWatts)
	r.ac, r.bc = a.BalanceAC, a.BalanceBC
	c := r.network(-1)
	result, err := network.Solve(c)
	if err != nil {
		return waveform.Off{}, nil, err
	}
	w := waveform.Running(c, result)
	w.Stop = in.Stop
	off, err := waveform.SwitchOff(w, watchSeconds)
	if err == nil && len(off.Judge(r.ac+r.bc)) > 0 {
		err = off.Search(w)
	}
	return off, off.Judge(r.ac + r.bc), err
}
