package prove

import (
	"slices"

	"brackmoor/core/diagnose"
	"brackmoor/core/feed"
	"brackmoor/core/network"
)

// Fault is a motor on its way as it is meant, with what was read on it last, to find what is wrong with it; ok is false
// for a drive, which no circuit of windings and capacitors stands behind.
func Fault(q *feed.Question, readings []Reading) (c diagnose.Case, ok bool, err error) {
	p, _, err := proofOf(q, readings, nil)
	if err != nil || len(p.c.Machines) == 0 {
		return c, false, err
	}
	stepped := q.Stepped()
	c.Of(&stepped)
	c.Supply = stepped.Supply // behind a transformer, where one stands ahead
	bank := p.bankIn(Part)
	c.On = string(network.AC)
	if p.c.Idler != nil {
		c.Idler, c.AC, c.BC = &p.c.Idler.Network, p.bank.AC, p.bank.BC
	} else if c.Run = bank.AC; bank.BC > 0 {
		c.Run, c.On = bank.BC, string(network.BC)
	}
	if o := p.outline(); o != nil && p.c.Idler == nil {
		if i := slices.IndexFunc(o.Sizes, func(s feed.Size) bool { return s.Name == "start_microfarad" }); i >= 0 {
			c.Start = o.Sizes[i].Value
		}
	}
	for _, s := range p.states {
		k := p.last(s.Name)
		if k < 0 || !steady(s.Name) || s.Name == Alone || p.list[k].Unable {
			continue
		}
		r := &p.list[k]
		own := diagnose.Reading{
			State: diagnose.Running, Share: s.Share, Volts: map[string]float64{}, Machine: map[string]float64{},
			Idler: map[string]float64{},
		}
		if s.Name == Idle {
			own.State = diagnose.Idle
		}
		if r.Share != nil {
			own.Share = r.Share
		}
		for _, f := range r.Figures {
			place, _ := placed(f.Place)
			to := map[string]map[string]float64{"": own.Volts, machineID: own.Machine, idlerID: own.Idler}[place.Of]
			switch {
			case f.Place == "amps.supply":
				own.Supply = &f.Value
			case to != nil && place.At != "":
				to[place.At] = f.Value
			}
		}
		c.Readings = append(c.Readings, own)
	}
	return c, true, nil
}
