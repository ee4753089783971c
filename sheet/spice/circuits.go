package spice

import (
	"fmt"
	"math"

	"brackmoor/core/network"
)

// installed writes several circuits, each a network of its own between the end of its conductor
// and line b, which they have in common.
func (w *writer) installed(n network.Installation, solved network.InstallationResult) {
	omega := 2 * math.Pi * n.Supply.Hertz
	ends := map[string]string{"": "terminals"}
	w.line("Vs s 0 SIN(0 %.9g %.9g 0 0 0)", math.Sqrt2*n.Supply.Volts, n.Supply.Hertz)
	w.run("supply", "s", "terminals", n.Supply.ResistanceOhm, n.Supply.ReactanceOhm/omega)
	own := solved.Result
	own.Motors, own.Rectifiers = own.Motors[:len(n.Motors)], own.Rectifiers[:len(n.Rectifiers)]
	w.circuit(n.Case, own, "own", "terminals")
	at := map[string]int{}
	for i, m := range solved.Motors {
		at[m.ID] = i
	}
	rectifiers := map[string]int{}
	for i, p := range solved.Rectifiers {
		rectifiers[p.ID] = i
	}
	for i := range n.Circuits {
		c, r := &n.Circuits[i], solved.Circuits[i]
		if !r.Closed {
			continue
		}
		name := fmt.Sprintf("c%d", i)
		ends[c.ID] = name + "end"
		w.run(name, ends[c.From], ends[c.ID], c.Conductor.ResistanceOhm, c.Conductor.ReactanceOhm/omega)
		mine := network.Result{Volts: r.Volts}
		for _, m := range c.Motors {
			mine.Motors = append(mine.Motors, solved.Motors[at[m.ID]])
		}
		for _, p := range c.Rectifiers {
			mine.Rectifiers = append(mine.Rectifiers, solved.Rectifiers[rectifiers[p.ID]])
		}
		end := ends[c.ID]
		if t := c.Transformer; t != nil {
			w.stepped(name, end, name+"high", t, omega)
			end = name + "high"
		}
		w.circuit(network.Case{
			Supply: network.Supply{Phases: 1, Volts: n.Supply.Volts, Hertz: n.Supply.Hertz}, Motors: c.Motors,
			Capacitors: c.Capacitors, Loads: c.Loads, ThreePhaseLoads: c.ThreePhaseLoads, Rectifiers: c.Rectifiers,
			Transformers: c.Transformers,
		}, mine, name, end)
	}
	wave, speeds := held(network.Case{Supply: n.Supply}, network.Result{})
	w.last(wave, speeds)
}

// run writes the ohms and henries between two nodes.
func (w *writer) run(name, from, to string, ohm, henry float64) {
	w.line("R%s %s %sx %.9g", name, from, name, math.Max(ohm, 1e-6))
	w.line("L%s %sx %s %.9g", name, name, to, math.Max(henry, 1e-9))
}

// stepped writes a one-phase transformer between a node and another, its iron behind its ohms as
// the core has it.
func (w *writer) stepped(name, from, to string, t *network.Winding, omega float64) {
	w.line("E%st %se 0 %s 0 %.9g", name, name, from, t.Ratio)
	w.line("V%si %se %si 0", name, name, name)
	w.line("F%st %s 0 V%si %.9g", name, from, name, t.Ratio)
	w.run(name+"t", name+"i", to, t.ResistanceOhm, t.ReactanceOhm/omega)
	square := t.Ratio * t.Ratio
	if t.CoreOhm > 0 {
		w.line("R%sc %s 0 %.9g", name, to, square*t.CoreOhm)
	}
	if t.MagnetisingOhm > 0 {
		w.run(name+"m", to, "0", square*t.MagnetisingOhm/200, square*t.MagnetisingOhm/omega)
	}
}

// circuit writes what hangs on a circuit as a part with one terminal, and measures it.
func (w *writer) circuit(c network.Case, r network.Result, name, terminal string) {
	c.Supply.Earthing = ""
	wave, speeds := held(c, r)
	wave = wave.Plain()
	w.line(".subckt %s a", name)
	w.line("Vb b 0 0")
	w.transformers(c)
	w.elements(&switches{w: w, c: wave}, speeds)
	w.line(".ends")
	w.line("X%s %s %s", name, terminal, name)
	w.measured(wave, "x"+name+".")
}
