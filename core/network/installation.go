package network

import (
	"fmt"
	"math"
	"math/cmplx"
	"slices"

	"brackmoor/core/rule"
)

// Circuit is one of several on a one-phase source: two lines behind a conductor, and a made leg
// of its own. From is the circuit whose far end feeds it, such as that of a sub-panel; empty for
// the source's terminals. The conductor's ohms are those of the whole loop. A circuit that is not
// closed draws nothing, nor does what it feeds; Closed is nil for yes.
type Circuit struct {
	ID              string        `json:"id"`
	From            string        `json:"from"`
	Conductor       Conductor     `json:"conductor"`
	Closed          *bool         `json:"closed"`
	Transformer     *Winding      `json:"transformer"` // at the far end of its conductor
	Motors          []Motor       `json:"motors"`
	Capacitors      []Capacitor   `json:"capacitors"`
	Loads           []Impedance   `json:"loads"`
	ThreePhaseLoads []ThreePhase  `json:"three_phase_loads"`
	Rectifiers      []Rectifier   `json:"rectifiers"`
	Transformers    []Transformer `json:"transformers"`
}

// Installation is a source with several circuits on it; its own elements are one more, on the
// source's terminals. The source's ohms are common to all.
type Installation struct {
	Case
	Circuits []Circuit `json:"circuits"`
}

// CircuitResult is one circuit: volts at the far end of its conductor, zero between the lines and
// a made leg that there is not; what it takes at its near end, what it feeds included.
type CircuitResult struct {
	ID                      string       `json:"id"`
	Closed                  bool         `json:"closed"`
	Volts                   Lines        `json:"volts"`
	Degrees                 Lines        `json:"degrees"`
	UnbalancePercent        float64      `json:"unbalance_percent"`
	NegativeSequencePercent float64      `json:"negative_sequence_percent"`
	Sequence                string       `json:"sequence"`
	Supply                  SupplyResult `json:"supply"`

	EarthVolts        *Legs              `json:"earth_volts,omitempty"`
	SupplyTransformer *TransformerResult `json:"supply_transformer,omitempty"`
}

// InstallationResult is a solved installation: of each kind of element one list, in the order of
// the circuits, after those on the source's terminals.
type InstallationResult struct {
	Result
	Circuits []CircuitResult `json:"circuits"`
}

// elements is the circuit as a case of its own, on a supply.
func (c *Circuit) elements(s Supply) Case {
	s.Transformer = c.Transformer
	return Case{
		Supply: s, Motors: c.Motors, Capacitors: c.Capacitors, Loads: c.Loads, ThreePhaseLoads: c.ThreePhaseLoads,
		Rectifiers: c.Rectifiers, Transformers: c.Transformers,
	}
}

// bare says whether nothing hangs on a case's lines.
func (c *Case) bare() bool {
	return len(c.Motors)+len(c.Capacitors)+len(c.Loads)+len(c.ThreePhaseLoads)+len(c.Rectifiers)+
		len(c.Transformers) == 0
}

// Validate says what is wrong with an installation, by JSON paths. Ids stand once in all of it. A
// circuit may be without a made leg, as that of a heater is.
func (n Installation) Validate() (problems rule.Problems) {
	if len(n.Circuits) == 0 {
		return n.Case.Validate()
	}
	v := validation{seen: map[string]string{"supply": "$.supply"}}
	v.supply(n.Supply)
	if n.Supply.Phases == 3 {
		v.Say("$.circuits", "are those of a one-phase supply")
	}
	if n.Supply.Transformer != nil {
		v.Say("$.supply.transformer", "with circuits, belongs to one of them")
	}
	v.elements("$", n.Case)
	feeds := map[string]bool{}
	for i := range n.Circuits {
		c := &n.Circuits[i]
		at := fmt.Sprintf("$.circuits[%d]", i)
		if c.From != "" && !feeds[c.From] {
			v.Say(at+".from", "%q names no circuit above it in the list", c.From)
		}
		v.once(at, c.ID)
		v.NotNegative(at+".conductor.resistance_ohm", c.Conductor.ResistanceOhm)
		v.NotNegative(at+".conductor.reactance_ohm", c.Conductor.ReactanceOhm)
		if feeds[c.ID] = c.Transformer == nil; c.Transformer != nil {
			v.winding(at+".transformer", c.Transformer)
		}
		v.elements(at, c.elements(n.Supply))
	}
	return v.Problems
}

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
	circuit int // -1 for the elements on the source's terminals
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
		if e.feed(volts); e.solved {
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
		t.junctions[e.at].y += e.drawn() / complex(e.supply.Volts, 0)
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

// state is a circuit as it is solved, seen from the whole: its lines' volts and what it takes at
// its near end.
type state struct {
	near, far, amps complex128
	end             *end
}

// states are those of the circuits, and last that of the source's terminals.
func (t *tree) states() []state {
	all := make([]state, len(t.n.Circuits)+1)
	for k := range t.ends {
		e := &t.ends[k]
		turn := t.junctions[e.at].volts
		all[e.circuit].end, all[e.circuit].amps = e, e.drawn()*turn/complex(cmplx.Abs(turn), 0)
	}
	for i := len(t.n.Circuits) - 1; i >= 0; i-- { // what feeds stands before what it feeds
		if t.live[i] {
			all[t.above(i)].amps += all[i].amps
		}
	}
	source := &all[len(t.n.Circuits)]
	source.near = complex(t.n.Supply.Volts, 0)
	source.far = source.near - source.amps*complex(t.n.Supply.ResistanceOhm, t.n.Supply.ReactanceOhm)
	for i := range t.n.Circuits {
		if t.live[i] {
			all[i].near = all[t.above(i)].far
			all[i].far = all[i].near - all[i].amps*t.n.Circuits[i].Conductor.ohms()
		}
	}
	return all
}

// above is the number of what feeds a circuit.
func (t *tree) above(circuit int) int {
	from := t.n.Circuits[circuit].From
	if from == "" {
		return len(t.n.Circuits)
	}
	return slices.IndexFunc(t.n.Circuits, func(c Circuit) bool { return c.ID == from })
}

// result reads the present solution out.
func (t *tree) result() InstallationResult {
	all := t.states()
	out := InstallationResult{Circuits: []CircuitResult{}}
	source := all[len(t.n.Circuits)]
	own := t.n.Case
	own.Supply.Transformer = nil
	out.Result = t.read(source, own)
	out.Supply = source.supply()
	out.PowerBalanceWatts += out.Supply.Watts - square(source.amps)*t.n.Supply.ResistanceOhm
	for i := range t.n.Circuits {
		c := &t.n.Circuits[i]
		r := t.read(all[i], c.elements(t.n.Supply))
		r.label(c.ID)
		out.Circuits = append(out.Circuits, CircuitResult{
			ID: c.ID, Closed: t.live[i], Volts: r.Volts, Degrees: r.Degrees, UnbalancePercent: r.UnbalancePercent,
			NegativeSequencePercent: r.NegativeSequencePercent, Sequence: r.Sequence, Supply: all[i].supply(),
			EarthVolts: r.EarthVolts, SupplyTransformer: r.SupplyTransformer,
		})
		out.take(&r)
		out.PowerBalanceWatts += r.PowerBalanceWatts - square(all[i].amps)*c.Conductor.ResistanceOhm
	}
	return out
}

// supply is what a circuit takes at its near end.
func (s state) supply() (r SupplyResult) {
	power := s.near * cmplx.Conj(s.amps)
	r.Amps, r.Watts = cmplx.Abs(s.amps), real(power)
	if apparent := cmplx.Abs(s.near) * r.Amps; apparent > 0 {
		r.PowerFactor = math.Max(r.Watts, 0) / apparent
	}
	return r
}

// read is what hangs on a circuit, its power balance being minus what that takes. What is not fed
// stands; a circuit with nothing on it has volts between its two lines.
func (t *tree) read(s state, of Case) Result {
	if e := s.end; e != nil {
		r := e.Result(e.of)
		lost := square(e.drawn()) * real(e.ohms)
		r.PowerBalanceWatts -= r.Supply.Watts - lost
		turn := cmplx.Phase(t.junctions[e.at].volts) * 180 / math.Pi
		for _, d := range []*float64{&r.Degrees.AB, &r.Degrees.BC, &r.Degrees.CA} {
			*d = math.Remainder(*d+turn, 360)
		}
		if e.legless {
			r.Degrees.BC, r.Degrees.CA = 0, 0
		}
		return r
	}
	dead := of
	dead.Supply = Supply{Phases: 1, Volts: 1, Hertz: of.Supply.Hertz}
	still := New(dead)
	still.feed(0)
	for i := range still.machines {
		still.machines[i].slip, still.machines[i].stalled = 1, true
	}
	r := still.Result(dead)
	r.Volts, r.Degrees = Lines{AB: cmplx.Abs(s.far)}, Lines{AB: degrees(s.far)}
	r.UnbalancePercent, r.NegativeSequencePercent, r.Sequence = 0, 0, ""
	return r
}

// label notes the circuit that each element is on.
func (r *Result) label(circuit string) {
	for i := range r.Motors {
		r.Motors[i].Circuit = circuit
	}
	for i := range r.Capacitors {
		r.Capacitors[i].Circuit = circuit
	}
	for i := range r.Loads {
		r.Loads[i].Circuit = circuit
	}
	for i := range r.ThreePhaseLoads {
		r.ThreePhaseLoads[i].Circuit = circuit
	}
	for i := range r.Rectifiers {
		r.Rectifiers[i].Circuit = circuit
	}
	for i := range r.Transformers {
		r.Transformers[i].Circuit = circuit
	}
}

// take adds the elements of a circuit to those that are listed.
func (r *Result) take(of *Result) {
	r.Motors = append(r.Motors, of.Motors...)
	r.Capacitors = append(r.Capacitors, of.Capacitors...)
	r.Loads = append(r.Loads, of.Loads...)
	r.ThreePhaseLoads = append(r.ThreePhaseLoads, of.ThreePhaseLoads...)
	r.Rectifiers = append(r.Rectifiers, of.Rectifiers...)
	r.Transformers = append(r.Transformers, of.Transformers...)
}
