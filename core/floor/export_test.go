package floor

import (
	"context"

	"brackmoor/core/network"
	"brackmoor/core/site"
)

// Larger is Together by the search of a shop that is too large for every set to be solved.
func (f *Floor) Larger(ctx context.Context, s site.State) (forbidden, largest [][]string, err error) {
	q := &search{f: f, known: map[set]*Broken{}, base: site.State{Shares: s.Shares}}
	q.members()
	bad, good, _, err := q.larger(ctx)
	for _, x := range bad {
		forbidden = append(forbidden, q.ids(x))
	}
	for _, x := range good {
		largest = append(largest, q.ids(x))
	}
	return forbidden, largest, err
}

// Sets is Together without what starts beside what.
func (f *Floor) Sets(ctx context.Context, s site.State) error {
	_, _, err := f.Larger(ctx, s)
	return err
}

// StateOf is the state in which a set of machines and loads is solved.
func (f *Floor) StateOf(s site.State, ids []string) site.State {
	q := &search{f: f, base: site.State{Shares: s.Shares}}
	for _, l := range f.Shop.Site.Loads {
		if l.Always {
			q.base.On = append(q.base.On, l.ID)
		}
	}
	q.members()
	var x set
	for _, id := range ids {
		for i, m := range q.among {
			if m.id == id {
				x = x.with(i)
			}
		}
	}
	return q.state(x)
}

// Seen is the supply as something sees it at the end of a circuit.
func (f *Floor) Seen(s site.State, on string, probe float64) (network.Supply, error) {
	su, err := f.seen(&s, on, probe, nil)
	return su.Supply, err
}

// Tuned are the balance capacitors of a converter with an idler of watts, and how they strain it;
// Strain is that of others.
func (f *Floor) Tuned(id string) (ac, bc, cost float64, strain func(ac, bc float64) float64) {
	days, _ := f.days(f.hangOn(id))
	own := f.idlers[id]
	ac, bc, cost = f.tuned(id, own, days)
	return ac, bc, cost, func(ac, bc float64) float64 { return f.onRig(id, own, ac, bc).strain(id, days) }
}
