package waveform

import (
	"math"

	"brackmoor/core/network"
)

// plain is a two-pole across a pair of lines: a capacitor or an impedance. Its state
// is the capacitor's volts or the impedance's amps.
type plain struct {
	id              string
	from, to        int // lines 0, 1, 2
	ohm             float64
	henry, farad    float64
	closed, opening bool
	amps            float64 // of the stage under way
	conductance     float64
	source          float64
}

var ends = map[network.Pair][2]int{network.AB: {0, 1}, network.BC: {1, 2}, network.AC: {0, 2}}

// prepare makes the two-pole's stage: amps = source + conductance·volts.
func (p *plain) prepare(base, tau float64) {
	p.conductance, p.source = 0, 0
	switch {
	case !p.closed:
	case p.farad > 0:
		p.conductance = 1 / (p.ohm + tau/p.farad)
		p.source = -base * p.conductance
	default:
		p.conductance = 1 / (p.ohm + p.henry/tau)
		p.source = base * p.henry / tau * p.conductance
	}
}

// finish sets the state from the volts across.
func (p *plain) finish(base, tau, volts float64) float64 {
	p.amps = p.source + p.conductance*volts
	if p.farad > 0 {
		return base + tau/p.farad*p.amps
	}
	return p.amps
}

// circuit is a whole network ready to be stepped. Its states are the motors', then
// one for each capacitor and load, then the supply's amps in each line.
type circuit struct {
	c        Case
	machines []*machine
	plains   []*plain // capacitors first
	omega    float64
	lines    int // of the source
	ohm      float64
	henry    float64
	closed   [3]bool // lines of the source
	opening  [3]bool
	volts    [3]float64 // of the lines at the last stage
	source   [3]float64 // amps of the source's lines at the last stage
	last     carried
	openings []Opening
	driven   [3]float64 // volts of the source at the stage under way
	drive    driven
	pending  bool    // some contact waits for its current zero
	close    float64 // how little a stage may still move, relatively
}

func isClosed(c *bool) bool { return c == nil || *c }

func newCircuit(c Case) *circuit {
	n := &circuit{
		c:      c,
		omega:  2 * math.Pi * c.Supply.Hertz,
		lines:  1,
		ohm:    c.Supply.ResistanceOhm,
		closed: [3]bool{true, true, true},
	}
	n.henry = c.Supply.ReactanceOhm / n.omega
	n.drive = driven{volts: c.Supply.Volts, omega: n.omega, turned: c.Supply.PhaseDegrees * math.Pi / 180}
	if c.Supply.Phases == 3 {
		n.lines = 3
	}
	for _, m := range c.Motors {
		k := newMachine(m, c.Supply)
		closed := isClosed(m.Closed)
		k.closed = [3]bool{closed, closed, closed}
		n.machines = append(n.machines, k)
	}
	for _, p := range c.Capacitors {
		e := ends[p.Between]
		n.plains = append(
			n.plains,
			&plain{
				id:     p.ID,
				from:   e[0],
				to:     e[1],
				ohm:    p.ESROhm,
				farad:  p.Microfarad * 1e-6,
				closed: isClosed(p.Closed) && p.Microfarad > 0,
			},
		)
	}
	for _, p := range c.Loads {
		e := ends[p.Between]
		n.plains = append(
			n.plains,
			&plain{
				id:     p.ID,
				from:   e[0],
				to:     e[1],
				ohm:    p.ResistanceOhm,
				henry:  p.ReactanceOhm / n.omega,
				closed: isClosed(p.Closed),
			},
		)
	}
	return n
}

// sourceAt is where the supply's amps begin among the states.
func (n *circuit) sourceAt() int { return motorStates*len(n.machines) + len(n.plains) }

// start is the state at nothing: every flux and charge zero, shafts as they turn.
func (n *circuit) start() []float64 {
	y := make([]float64, n.sourceAt()+3)
	for i, m := range n.machines {
		y[motorStates*i+speed] = m.InitialRPM * math.Pi / 30
	}
	return y
}

// emf is the source's volts of a line against b on one phase, against its neutral
// on three.
func (n *circuit) emf(line int, at float64) float64 {
	angle := n.drive.angle(at)
	if n.lines == 1 {
		if line == 0 {
			return math.Sqrt2 * n.drive.volts * math.Sin(angle)
		}
		return 0
	}
	// v_ab leads v_a by 30 degrees.
	return math.Sqrt2 / math.Sqrt(3) * n.drive.volts * math.Sin(angle-math.Pi/6-float64(line)*2*math.Pi/3)
}

// leak is a conductance in siemens that gives a line with nothing on it a place to
// stand.
const leak = 1e-9

const (
	// mostIterations bounds those of a stage: saturation and speed settle in a few, each
	// time many times nearer than by what they still move.
	mostIterations = 40
	// closer is by how many times a stage is solved closer than a step may be off.
	closer = 20
)

// joined are the lines of a motor that all are closed.
var joined = [3]bool{true, true, true}

// stage solves y = base + tau·y′ at a time. y holds a guess of the speeds.
func (n *circuit) stage(base, y []float64, at, tau float64) {
	for i := range n.plains {
		n.plains[i].prepare(base[motorStates*len(n.machines)+i], tau)
	}
	// Each shaft goes on as it did in the last stage, for a guess.
	for i, m := range n.machines {
		y[motorStates*i+speed] = base[motorStates*i+speed] + tau*m.gain
	}
	for k := range n.lines {
		n.driven[k] = n.emf(k, at)
	}
	for range mostIterations {
		var whole stage // of all motors that no contact parts from the lines
		for i, m := range n.machines {
			m.prepare(base[motorStates*i:], y[motorStates*i:], tau)
			if m.whole() {
				whole.admittance += m.at.admittance
				whole.source += m.at.source
			}
		}
		g, j := whole.terminal() // amps that the elements draw by themselves
		for _, m := range n.machines {
			if m.whole() {
				continue
			}
			mg, mj := m.at.terminal()
			if _, flows := m.floating(&mg, &mj); !flows {
				continue
			}
			for r := range 3 {
				if !m.closed[r] {
					continue
				}
				j[m.lines[r]] += mj[r]
				for c := range 3 {
					if m.closed[c] {
						g[m.lines[r]][m.lines[c]] += mg[r][c]
					}
				}
			}
		}
		for _, p := range n.plains {
			g[p.from][p.from] += p.conductance
			g[p.to][p.to] += p.conductance
			g[p.from][p.to] -= p.conductance
			g[p.to][p.from] -= p.conductance
			j[p.from] += p.source
			j[p.to] -= p.source
		}
		n.solve(g, j, base[n.sourceAt():], tau)
		moved := 0.0
		for i, m := range n.machines {
			moved = max(moved, m.finish(base[motorStates*i:], y[motorStates*i:], tau, n.across(m)))
		}
		if moved < n.close {
			break
		}
	}
	for i, p := range n.plains {
		k := motorStates*len(n.machines) + i
		y[k] = p.finish(base[k], tau, n.volts[p.from]-n.volts[p.to])
	}
	copy(y[n.sourceAt():], n.source[:])
}

// across is the space vector of the volts at a motor's terminals: the lines' where
// they are closed, else those at which no current flows.
func (n *circuit) across(m *machine) complex128 {
	if m.closed == joined {
		return space(m.on(n.volts))
	}
	g, j := m.at.terminal()
	reduced, sources := g, j
	open, flows := m.floating(&reduced, &sources)
	if !flows {
		return -m.at.source / m.at.admittance
	}
	u := m.on(n.volts)
	if open >= 0 {
		drawn := j[open]
		for c := range 3 {
			if c != open {
				drawn += g[open][c] * u[c]
			}
		}
		u[open] = -drawn / g[open][open]
	}
	return space(u)
}

// solve finds the volts of the three lines. Line b is the reference of a source of
// one phase, the source's neutral that of three.
func (n *circuit) solve(g [3][3]float64, j [3]float64, amps []float64, tau float64) {
	impedance := n.ohm + n.henry/tau
	known := [3]bool{}
	n.source = [3]float64{}
	behind := [3]float64{} // volts behind the source's impedance
	for k := range 3 {
		g[k][k] += leak
		if n.lines == 1 && k > 0 {
			known[k] = k == 1
			n.volts[k] = 0
			continue
		}
		if !n.closed[k] {
			continue
		}
		if impedance == 0 {
			known[k], n.volts[k] = true, n.driven[k]
			continue
		}
		behind[k] = n.driven[k] + n.henry/tau*amps[k]
		g[k][k] += 1 / impedance
		j[k] -= behind[k] / impedance
	}
	drawn, whole := j, g
	gauss(&g, &j, known, &n.volts)
	for k := range n.lines {
		switch {
		case !n.closed[k]:
		case impedance > 0:
			n.source[k] = (behind[k] - n.volts[k]) / impedance
		default:
			n.source[k] = drawn[k]
			for c := range 3 {
				n.source[k] += whole[k][c] * n.volts[c]
			}
		}
	}
}

// gauss solves g·u = −j for the volts that are not known.
func gauss(g *[3][3]float64, j *[3]float64, known [3]bool, u *[3]float64) {
	var order [3]int
	count := 0
	for k := range 3 {
		if known[k] {
			continue
		}
		order[count] = k
		count++
		for c := range 3 {
			if known[c] {
				j[k] += g[k][c] * u[c]
			}
		}
	}
	free := order[:count]
	for i, p := range free {
		for _, r := range free[i+1:] {
			share := g[r][p] / g[p][p]
			for _, c := range free[i:] {
				g[r][c] -= share * g[p][c]
			}
			j[r] -= share * j[p]
		}
	}
	for i := count - 1; i >= 0; i-- {
		p := free[i]
		sum := -j[p]
		for _, c := range free[i+1:] {
			sum -= g[p][c] * u[c]
		}
		u[p] = sum / g[p][p]
	}
}
