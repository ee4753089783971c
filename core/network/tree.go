package network

import (
	"fmt"
	"math"
	"math/cmplx"
	"slices"
)

// junction is a place of the installation whose volts several draw on. Those of the source behind
// no ohms are known; each other lies behind ohms from the one above it, which comes before it.
type junction struct {
	above int
	ohms  complex128
	volts complex128
	y     complex128 // of all that hangs on it, at the present volts
	knot  int        // of its volts among the unknowns, -1 where they are the source's
}

// end is what hangs on a junction behind its own conductor, solved as a case of its own.
type end struct {
	*Solver
	of      Case
	circuit int // its number, or that after the last for the elements on the source's terminals
	at      int
	ohms    complex128
	solved  bool // at the volts of its supply
	slips   []float64
	leapt   []int
}

// tree is an installation made ready to be solved.
type tree struct {
	n         *Installation
	junctions []junction
	ends      []end
	live      []bool // of each circuit
	children  [][]int
	unknowns  int
	work      int
}

// SolveInstallation finds the operating point of an installation that Validate finds nothing wrong
// with. Each circuit is solved for the volts that it is fed with; these volts are what is left to
// be found (Kirchhoff's laws over a tree). Coming from the source's own volts downwards, it finds
// the highest state there is, as Operate does for the slips of one circuit.
func SolveInstallation(n Installation) (InstallationResult, error) {
	t := plant(&n)
	if err := t.settle(); err != nil {
		return InstallationResult{}, err
	}
	return t.result(), nil
}

// plant builds the tree. Where only one thing draws on the end of a conductor, it is solved behind
// it, so that a single circuit is the same case as one written without circuits.
func plant(n *Installation) *tree {
	t := &tree{n: n, live: make([]bool, len(n.Circuits)), children: make([][]int, len(n.Circuits)+1)}
	number := map[string]int{"": len(n.Circuits)}
	for i := range n.Circuits {
		c := &n.Circuits[i]
		number[c.ID] = i
		above := number[c.From]
		t.live[i] = (c.Closed == nil || *c.Closed) && (c.From == "" || t.live[above])
		if t.live[i] {
			t.children[above] = append(t.children[above], i)
		}
	}
	source := complex(n.Supply.Volts, 0)
	t.junctions = []junction{{volts: source, knot: -1}}
	t.hang(0, len(n.Circuits), 0)
	return t
}

// hang puts a circuit on a junction, some ohms away from it: the source's terminals have the
// number after the last.
func (t *tree) hang(on, circuit int, ohms complex128) {
	own := t.n.Case
	if circuit < len(t.n.Circuits) {
		c := &t.n.Circuits[circuit]
		own = c.elements(t.n.Supply)
		ohms += c.Conductor.ohms()
	} else {
		own.Supply.Transformer = nil
		ohms += complex(t.n.Supply.ResistanceOhm, t.n.Supply.ReactanceOhm)
	}
	below := t.children[circuit]
	drawn := !own.bare() || own.Supply.Transformer != nil
	switch {
	case len(below) == 0 && !drawn:
		return
	case len(below) == 0:
		t.end(own, circuit, on, ohms)
		return
	case len(below) == 1 && !drawn:
		t.hang(on, below[0], ohms)
		return
	}
	at := on
	if ohms != 0 {
		above := t.junctions[on]
		t.junctions = append(t.junctions, junction{above: on, ohms: ohms, volts: above.volts, knot: t.unknowns})
		at = len(t.junctions) - 1
		t.unknowns++
	}
	if drawn {
		t.end(own, circuit, at, 0)
	}
	for _, c := range below {
		t.hang(at, c, 0)
	}
}

func (t *tree) end(own Case, circuit, at int, ohms complex128) {
	own.Supply.ResistanceOhm, own.Supply.ReactanceOhm = real(ohms), imag(ohms)
	t.ends = append(t.ends, end{
		Solver: New(own), of: own, circuit: circuit, at: at, ohms: ohms,
		slips: make([]float64, len(own.Motors)), leapt: make([]int, len(own.Motors)),
	})
}

// closes is the share of the source's volts within which those of a junction are found, and
// mostRounds how often they are bettered: close to where a motor falls out they move slowly.
const (
	closes     = 1e-13
	mostRounds = 5000
)

// settle finds the volts of the junctions.
func (t *tree) settle() error {
	b := newBroyden(t.unknowns)
	for k := range t.junctions {
		if j := &t.junctions[k]; j.knot >= 0 {
			b.x[j.knot] = cmplx.Abs(j.volts)
		}
	}
	b.reset()
	last := math.Inf(1)
	for range mostRounds {
		changed, err := t.draw(b.x)
		if err != nil {
			return err
		}
		worst := t.drop(b.x, b.f)
		if worst <= closes*t.n.Supply.Volts {
			return nil
		}
		if changed || worst > last/2 {
			b.reset() // what was learnt leads nowhere: a plain step
		}
		last = worst
		before := slices.Clone(b.x)
		b.step()
		for i := range b.x {
			if plain := before[i] + b.f[i]; !(b.x[i] > 0.2*plain && b.x[i] < 5*plain) {
				b.reset()
				for k := range b.x {
					b.x[k] = before[k] + b.f[k]
				}
				break
			}
		}
	}
	return fmt.Errorf("the volts of several circuits: %w", ErrNoConvergence)
}

// draw solves each end at the volts of its junction, and says whether motors stopped or came up.
func (t *tree) draw(x []float64) (changed bool, err error) {
	for k := range t.ends {
		e := &t.ends[k]
		volts := t.n.Supply.Volts
		if knot := t.junctions[e.at].knot; knot >= 0 {
			volts = x[knot]
		}
		if e.solved && e.supply.Volts == volts {
			continue
		}
		if e.Feed(volts); e.solved {
			err = e.Follow()
		} else {
			err = e.Operate()
		}
		if t.work += e.work; err == nil && t.work > budget {
			err = ErrNoConvergence
		}
		if err != nil {
			return false, err
		}
		again := e.solved
		e.solved = true
		changed = e.leaps() && again || changed
	}
	return changed, nil
}

// leap is a change of slip that is more than a motor's going slower on somewhat less volts, and
// mostLeaps how many a motor may make.
const (
	leap      = 0.05
	mostLeaps = 4
)

// leaps says whether motors have fallen out or come up since the end was last solved, before which
// they turned as fast as the field. One that falls out again and again has volts enough only as
// long as it stands: it stands for good.
func (e *end) leaps() (changed bool) {
	for i := range e.machines {
		m := &e.machines[i]
		by := m.slip - e.slips[i]
		e.slips[i] = m.slip
		if m.Slip != nil || math.Abs(by) < leap {
			continue
		}
		changed = true
		if e.leapt[i]++; e.leapt[i] >= mostLeaps && by > 0 {
			still := *m.Motor
			still.Slip = new(1.0)
			m.Motor, m.slip, m.stalled = &still, 1, true
			e.solved = false
		}
	}
	return changed
}

// drop gives the volts that the junctions have with what is drawn, and by how much they are off
// those that it was drawn at.
func (t *tree) drop(x, off []float64) (worst float64) {
	for k := range t.junctions {
		t.junctions[k].y = 0
	}
	for k := range t.ends {
		e := &t.ends[k]
		t.junctions[e.at].y += e.Drawn() / complex(e.supply.Volts, 0)
	}
	for k := len(t.junctions) - 1; k > 0; k-- {
		j := &t.junctions[k]
		t.junctions[j.above].y += j.y / (1 + j.ohms*j.y)
	}
	for k := 1; k < len(t.junctions); k++ {
		j := &t.junctions[k]
		j.volts = t.junctions[j.above].volts / (1 + j.ohms*j.y)
		off[j.knot] = cmplx.Abs(j.volts) - x[j.knot]
		worst = math.Max(worst, math.Abs(off[j.knot]))
	}
	return worst
}
