package diagnose

import "math"

// world is everything of a case as it might be: a machine on its way, sound or with one thing wrong, at a load.
type world struct {
	rig
	machine, idler *turning
	run            float64 // microfarads that stay, beside the made leg's
	start          float64 // that leave once it is up
	stuck          bool    // the start capacitor stays
	on             string  // the pair that capacitors hang on: ac or bc
	relay          relay   // that takes the start capacitor out
	standing       bool    // the idler does not turn
	away           bool    // it is not on at all, and neither are its capacitors
	share          float64 // of plate output that the machine has to do
	overloaded     bool    // which is more than is said
	drag           float64 // beside it, as a share
	breakaway      float64 // that it takes to turn, as a share of rated torque
	cooling        float64 // of what it should be
	broken         bool    // bars of its cage
	leaks          bool    // to its frame
	bare           bool    // its capacitors have no discharge resistors
	welded         bool    // its contactor's contacts
	coilOnMade     bool    // the contactor's coil lies at the made leg
	loose          bool    // it lets go by itself
	trips          float64 // of plate amps, at which its overload relay trips
	watts, amps    float64 // of the plate
	rpm            float64
	meant          meant
}

// tripsAt is at which times of its setting, which is the plate's amps, an overload relay trips (IEC 60947-4-1: between
// 1.05 and 1.2).
const tripsAt = 1.15

// meant is what is to be there, to tell what is there from it.
type meant struct {
	run, start, ac, bc float64 // microfarads
	on                 string
	r1                 float64    // ohms of the stator
	pairs              [3]float64 // of its leads
	volts              float64
	relay              relay
	idle, apart        float64 // amps with nothing to do, their mean, and how far they are from one another
}

// sound keeps what is meant of a world in which nothing is wrong yet.
func (w *world) sound() {
	w.meant = meant{
		run: w.run, start: w.start, ac: w.ac, bc: w.bc, on: w.on, r1: w.machine.circuit.R1Ohm,
		pairs: w.machine.pairs(), volts: w.volts,
	}
	p := w.copy().show()
	if p.idle != nil {
		l := p.idle.machines[0].lines
		w.meant.idle, w.meant.apart = (l[0]+l[1]+l[2])/3, p.apart()
	}
	w.setRelay(p.idle)
	w.meant.relay = w.relay
}

// copy is the world apart from this one, to be altered.
func (w *world) copy() *world {
	other := *w
	m := *w.machine
	other.machine, other.machines = &m, []*turning{&m}
	if w.idler != nil {
		i := *w.idler
		other.idler = &i
		if !w.away {
			other.machines = append(other.machines, &i)
		}
	}
	return &other
}

// How it starts.
const (
	silent    = "silent"    // nothing is drawn
	hums      = "hums"      // it is drawn, and it stands
	starts    = "starts"    // the way that it should
	backwards = "backwards" // the other way
)

// picture is what a world shows: how it starts, and what stands at it standing, running with nothing to do and
// loaded. A machine that does not run has none of the latter.
type picture struct {
	world   *world
	early   bool // its start capacitor leaves at standstill
	excites bool // its volts stand on with the supply gone
	start   string
	sense   float64 // in which it turns, 1 or −1
	locked  state   // switched on, at standstill
	idle    *state
	loaded  *state
	slip    float64 // loaded, of the machine
	usual   float64 // that of its plate
	hottest float64 // winding, loaded or else idle, in times of plate
	heat    float64 // of all windings, in times of plate's
	drop    float64 // of the supply's volts, as a share, at standstill
}

// fit puts the world's capacitors in, with the start capacitor or without.
func (w *world) fit(starting bool) {
	if w.idler != nil {
		return // its own stay as they are
	}
	c := w.run
	if starting || w.stuck {
		c += w.start
	}
	w.ac, w.bc = c, 0
	if w.on == "bc" {
		w.ac, w.bc = 0, c
	}
}

// rated is the plate's torque in N·m.
func (w *world) rated() float64 { return w.watts / (w.rpm * math.Pi / 30) }

// turnIdler lets the idler settle where it makes what its friction takes, or stand.
func (w *world) turnIdler() {
	if w.idler == nil {
		return
	}
	if w.standing {
		w.idler.slip = 1
		return
	}
	low, high := 1e-4, 0.08
	synchronous := 4 * math.Pi * w.hertz / float64(w.idler.poles)
	drag := w.idler.friction / synchronous
	at := len(w.machines) - 1 // the idler is the last
	for range 12 {
		w.idler.slip = (low + high) / 2
		if w.solve().machines[at].torque < drag {
			low = w.idler.slip
		} else {
			high = w.idler.slip
		}
	}
}

// show solves what a world shows.
func (w *world) show() picture {
	p := picture{world: w, start: silent, usual: 1 - w.rpm/w.machine.synchronous(w.hertz)}
	m := w.machine
	m.slip = 1
	w.fit(true)
	if w.idler != nil && !w.dead {
		off := *w
		off.machines = w.machines[1:] // before the machine is on
		off.turnIdler()
	}
	p.locked = w.solve()
	if p.early = w.early(&p.locked); p.early {
		p.locked = w.held(1, false)
	}
	if w.volts > 0 {
		p.drop = 1 - p.locked.ab/w.volts
	}
	torque := p.locked.machines[0].torque
	needs := (w.breakaway + w.drag) * w.rated()
	drawn := max(p.locked.machines[0].lines[0], p.locked.machines[0].lines[1], p.locked.machines[0].lines[2])
	const little = 0.3 // of plate amps: less is not heard
	switch {
	case w.dead || drawn < little*w.amps:
		return p
	case math.Abs(torque) < needs:
		p.start = hums
		return p
	case torque < 0:
		p.start = backwards
	default:
		p.start = starts
	}
	w.fit(false)
	p.excites = w.excites()
	p.sense = math.Copysign(1, torque)
	if s, _, ok := w.settle(0, p.sense); ok {
		p.idle = &s
		p.feel(&s)
	}
	if s, slip, ok := w.settle(w.share, p.sense); ok {
		p.loaded, p.slip = &s, slip
		p.feel(&s)
	}
	return p
}

// at is what stands at a picture's machine at a load of its own, nil where it does not run at it. One that is
// overloaded does more than anybody thinks, whatever share is said.
func (p *picture) at(share *float64) *state {
	const same = 0.01
	w := p.world
	if share == nil || p.idle == nil || w.overloaded || math.Abs(*share-w.share) < same {
		return p.loaded
	}
	if s, _, ok := w.copy().settle(*share, p.sense); ok {
		return &s
	}
	return nil
}

// synchronous is a machine's synchronous speed in rpm.
func (m *turning) synchronous(hertz float64) float64 { return 120 * hertz / float64(m.poles) }

// feel is how hot a state makes the machine.
func (p *picture) feel(s *state) {
	rated := p.world.amps
	if p.world.machine.delta {
		rated /= math.Sqrt(3)
	}
	p.hottest, p.heat = 0, 0
	for i, amps := range s.machines[0].windings {
		times := amps / rated
		if i == 2 && p.world.machine.halved {
			times *= 2 // one half carries what is for two, and heats half as much copper
			p.heat -= times * times / 6
		}
		p.hottest = max(p.hottest, times)
		p.heat += times * times / 3
	}
	p.hottest /= math.Sqrt(p.world.cooling)
	p.heat /= p.world.cooling
}

// settle finds where the machine turns with a share of plate output to do, its highest speed that is stable; ok is
// false where it turns at none.
func (w *world) settle(share, sense float64) (s state, slip float64, ok bool) {
	m := w.machine
	synchronous := m.synchronous(w.hertz) * math.Pi / 30
	need := (share+w.drag)*w.rated() + m.friction/synchronous
	at := func(slip float64) float64 {
		m.slip = 1 - sense*(1-slip)
		s = w.solve()
		return sense*s.machines[0].torque - need
	}
	low := 0.0005
	for high := 0.002; high < 0.9; high *= 1.35 {
		if at(high) < 0 {
			low = high
			continue
		}
		for range 10 {
			slip = (low + high) / 2
			if at(slip) < 0 {
				low = slip
			} else {
				high = slip
			}
		}
		w.turnIdler()
		at(slip)
		return s, slip, true
	}
	return s, 0, false
}
