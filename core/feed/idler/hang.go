package idler

import (
	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/rotary"
)

// Idler is what it idles on: as large as was chosen, and its amps by a plate of the stores or by a usual one.
func (way) Idler(q *feed.Question) (watts, amps float64) {
	a, err := size(q)
	if err != nil {
		return 0, 0
	}
	if own := q.Fed.Idler; own != nil {
		return own.Watts, own.Amps
	}
	if m := onHand(q, a); m != nil && m.Amps > 0 {
		return a.IdlerWatts, m.Amps
	}
	usual, err := rotary.UsualIdler("idler", a.IdlerWatts, q.Stepped().Supply.Volts, q.Supply.Hertz)
	if err != nil {
		return a.IdlerWatts, 0
	}
	return a.IdlerWatts, usual.Amps
}

// Hang is the motor on an idler of its own, with what balances it.
func (way) Hang(q *feed.Question, id string, share float64) (network.Circuit, error) {
	a, err := size(q)
	if err != nil {
		return network.Circuit{}, err
	}
	stepped := q.Stepped()
	idles, watts := network.Motor{}, a.IdlerWatts
	if own := q.Fed.Idler; own != nil {
		idles, watts = own.Motor, own.Watts
	} else {
		usual, err := rotary.UsualIdler("", watts, stepped.Supply.Volts, stepped.Supply.Hertz)
		if err != nil {
			return network.Circuit{}, err
		}
		idles = usual.Motor
	}
	idles.ID = id + "-idler"
	c := feed.AcrossLines(&stepped, id, share)
	c.Motors = append(c.Motors, q.Learned.WithIdler(idles, watts))
	ac, bc := a.BalanceAC, a.BalanceBC
	if a.Second != nil && share > 0 {
		ac, bc = ac+a.Second.AC, bc+a.Second.BC
	}
	feed.Joined(&c, id+"-ac", network.AC, ac)
	feed.Joined(&c, id+"-bc", network.BC, bc)
	return c, nil
}
