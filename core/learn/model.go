package learn

import (
	"math"

	"brackmoor/core/network"
)

// model is a case whose dials stand somewhere.
type model struct {
	c     *Case
	dials []dial
	u     []float64
}

// at is the model of other positions.
func (m model) at(u []float64) model {
	m.u = u
	return m
}

// dialed is the position of a dial of a kind, the first of them for a reading; 0 where there is none.
func (m *model) dialed(kind int, motor string, reading int) (d *dial, u float64) {
	for i := range m.dials {
		d := &m.dials[i]
		if d.kind == kind && d.motor == motor && d.reading == reading {
			return d, m.u[i]
		}
	}
	return nil, 0
}

// network is the network of a state with capacitors, as it was in a reading or −1.
func (m *model) network(s *State, b Bank, reading int) network.Case {
	c := network.Case{Supply: m.c.Supply}
	for kind, of := range map[int]*float64{
		sourceOhm: &c.Supply.ResistanceOhm, sourceReactance: &c.Supply.ReactanceOhm, sourceVolts: &c.Supply.Volts,
	} {
		if d, u := m.dialed(kind, "", -1); d != nil {
			*of = d.value(u)
		}
	}
	if s.Volts > 0 { // the source is seen through the transformer
		by := s.Volts / 100
		c.Supply.Volts *= by
		c.Supply.ResistanceOhm *= by * by
		c.Supply.ReactanceOhm *= by * by
	}
	for _, own := range m.c.motors(s) {
		n := own.Network
		turned := turns(own.ID, m.dials, m.u)
		if d, u := m.dialed(unsaturated, own.ID, -1); d != nil && s.reduced() {
			turned.Magnetising *= d.value(u)
		}
		n.Circuit, n.FrictionWatts = turned.Turn(n.Circuit, n.FrictionWatts)
		share := 0.0
		if own != m.c.Idler {
			share = usualShare
			if d, u := m.dialed(loadShare, own.ID, reading); d != nil {
				share = d.value(u)
			} else if known := s.Share[own.ID]; known != nil {
				share = *known
			}
		}
		n.Load = &network.Load{Kind: "power", Watts: share * own.Watts}
		c.Motors = append(c.Motors, n)
	}
	for _, x := range []struct {
		kind       int
		between    network.Pair
		microfarad float64
		second     float64
	}{{bankAC, network.AC, b.AC, s.Second.AC}, {bankBC, network.BC, b.BC, s.Second.BC}} {
		if x.microfarad+x.second > 0 {
			d, u := m.dialed(x.kind, "", -1)
			c.Capacitors = append(c.Capacitors, network.Capacitor{
				ID: string(x.between), Between: x.between, Microfarad: d.inCircuit(u, x.microfarad) + x.second,
			})
		}
	}
	return c
}

// seen is a solved state: its volts, and amps by motor and of the supply.
type seen struct {
	volts  network.Lines
	amps   map[string]network.Legs
	supply float64
	runs   bool
	idler  float64 // hottest winding of the idler, or of the machine that stands alone, in amps
}

// solve is a state with capacitors; ok is false where nothing settles.
func (m *model) solve(s *State, b Bank, reading int) (v seen, ok bool) {
	r, err := network.Solve(m.network(s, b, reading))
	if err != nil {
		return v, false
	}
	v = seen{volts: r.Volts, amps: map[string]network.Legs{}, supply: r.Supply.Amps, runs: true}
	for i, motor := range r.Motors {
		v.amps[motor.ID] = motor.LineAmps
		v.runs = v.runs && motor.State == network.Running
		if i == 0 {
			v.idler = motor.LineAmps.Max()
		}
	}
	return v, true
}

// figure is what stands at a place, not a number where nothing does.
func (v *seen) figure(p Place) float64 {
	if p.Of == Supply {
		return v.supply
	}
	if p.Volts() {
		switch p.At {
		case "ab":
			return v.volts.AB
		case "bc":
			return v.volts.BC
		case "ca":
			return v.volts.CA
		}
		return math.NaN()
	}
	legs, on := v.amps[p.Of]
	if !on {
		return math.NaN()
	}
	switch p.At {
	case "a":
		return legs.A
	case "b":
		return legs.B
	case "c":
		return legs.C
	}
	return math.NaN()
}
