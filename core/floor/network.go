package floor

import (
	"math"
	"math/cmplx"

	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/site"
)

// Network is the shop in a state as one network. A motor on a circuit has lines of its own behind
// it, what its way takes aboard included; those on a converter share the converter's.
func (f *Floor) Network(s *site.State) (network.Installation, error) {
	n := network.Installation{Case: network.Case{Supply: f.Shop.Supply.Network()}}
	at := map[string]int{} // where a circuit or converter stands among the network's
	for _, c := range f.order {
		_, ohms := f.wire(c)
		at[c.ID] = len(n.Circuits)
		n.Circuits = append(n.Circuits, network.Circuit{ID: c.ID, From: c.From, Conductor: ohms})
	}
	for i := range f.Shop.Site.Converters {
		c := &f.Shop.Site.Converters[i]
		if !f.turns(c, s) {
			continue
		}
		at[c.ID] = len(n.Circuits)
		if c.Kind == site.BusKind {
			n.Circuits = append(n.Circuits, f.bridge(c, f.busWatts(c.ID, s)))
			continue
		}
		lines := network.Circuit{
			ID: c.ID, From: c.On, Motors: []network.Motor{f.idlers[c.ID].Motor}, Transformer: f.ahead(c),
		}
		feed.Joined(&lines, c.ID+"-ac", network.AC, c.BalanceAC)
		feed.Joined(&lines, c.ID+"-bc", network.BC, c.BalanceBC)
		n.Circuits = append(n.Circuits, lines)
	}
	for _, l := range f.Shop.Site.Loads {
		if !s.Has(l.ID) || f.dead(s, l.On, l.Side) {
			continue
		}
		if f.Shop.Site.Converter(l.On) != nil {
			if k, turns := at[l.On]; turns {
				f.take(&n.Circuits[k], l)
			}
			continue
		}
		if l.On == "" {
			own := network.Circuit{ID: l.ID + "-lines"}
			f.take(&own, l)
			n.Circuits = append(n.Circuits, own)
			continue
		}
		f.take(&n.Circuits[at[l.On]], l)
	}
	for i := range f.machines {
		for k := range f.machines[i].motors {
			m := &f.machines[i].motors[k]
			if m.q == nil || !m.on(s) || f.dead(s, m.place.On, m.place.Side) {
				continue
			}
			if c := f.Shop.Site.Converter(m.place.On); c != nil {
				if c.Kind == site.BusKind {
					continue // its bus takes it for it
				}
				if k, turns := at[m.place.On]; turns {
					m.across(&n.Circuits[k], m.share(s))
				}
				continue
			}
			own, err := m.way.Hang(m.q, m.ID, m.share(s))
			if err != nil {
				return n, err
			}
			own.From = m.place.On
			n.Circuits = append(n.Circuits, own)
		}
	}
	return n, nil
}

// turns says whether a converter is on, fed and known.
func (f *Floor) turns(c *site.Converter, s *site.State) bool {
	return s.Has(c.ID) && !f.dead(s, c.On, c.Side) && !f.idlers[c.ID].unknown
}

// across puts a motor across a converter's lines, behind a transformer where its volts want one.
func (m *motor) across(lines *network.Circuit, share float64) {
	own := feed.Loaded(&m.q.Machine, m.ID, share)
	if t := m.q.Stepped().Step; t != nil {
		own.Behind = m.ID + "-transformer"
		lines.Transformers = append(lines.Transformers, network.Transformer{ID: own.Behind, Winding: *t.Winding()})
	}
	lines.Motors = append(lines.Motors, own)
}

// take puts a load that is no motor on a circuit.
func (f *Floor) take(c *network.Circuit, l site.Load) {
	kind, volts := site.KindOf(l.Kind), f.voltsOn(f.Shop.Site.Converter(l.On))
	pair, three := l.Pair()
	sine := math.Sqrt(1 - kind.PowerFactor*kind.PowerFactor)
	line, share := f.leg(&l)
	switch {
	case line > 0 && !kind.Steady:
		ohms := complex(volts*cmplx.Abs(share)/l.Amps, 0) * complex(kind.PowerFactor, sine)
		ohms = between(line, share, ohms)
		c.Loads = append(c.Loads, network.Impedance{
			ID: l.ID, Between: pair, ResistanceOhm: real(ohms), ReactanceOhm: imag(ohms),
		})
		return
	case line > 0:
		volts *= cmplx.Abs(share)
	}
	switch {
	case three:
		ohms := volts / math.Sqrt(3) / l.Amps
		c.ThreePhaseLoads = append(c.ThreePhaseLoads, network.ThreePhase{
			ID: l.ID, ResistanceOhm: ohms * kind.PowerFactor, ReactanceOhm: ohms * sine,
		})
	case kind.Steady:
		c.Rectifiers = append(c.Rectifiers, network.Rectifier{
			ID: l.ID, Between: pair, Watts: volts * l.Amps * kind.PowerFactor, TruePowerFactor: kind.PowerFactor,
			DisplacementFactor: network.UsualDisplacement,
		})
	default:
		ohms := volts / l.Amps
		c.Loads = append(c.Loads, network.Impedance{
			ID: l.ID, Between: pair, ResistanceOhm: ohms * kind.PowerFactor, ReactanceOhm: ohms * sine,
		})
	}
}
