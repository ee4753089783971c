package network

import (
	"math"
	"math/cmplx"
	"slices"
)

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
		all[e.circuit].end, all[e.circuit].amps = e, e.Drawn()*turn/complex(cmplx.Abs(turn), 0)
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
	r.Amps, r.Watts, r.Current = cmplx.Abs(s.amps), real(power), s.amps
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
		lost := square(e.Drawn()) * real(e.ohms)
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
	still.Feed(0)
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
