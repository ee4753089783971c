// Package spice writes cases as netlists that ngspice runs as they are, and measures
// in them what the core computes, so that anybody can check one against the other.
//
// A motor is written by its flux linkages in the stationary frame: nodes whose volts
// are flux linkages and whose currents are volts, one farad each.
package spice

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/casefile"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/waveform"
)

// ErrNoCircuit says that a case has no circuit to write.
var ErrNoCircuit = errors.New(
	"only steady, waveform and rectifier cases are circuits: there is nothing to write of this one",
)

// Netlist writes a case that casefile.Read accepted. Contacts that wait for a current
// zero open in it when they do in the core.
func Netlist(d casefile.Document) (string, error) {
	w := &writer{}
	w.line("* %s case, written by Brackmoor", d.Analysis)
	switch d.Analysis {
	case "rectifier":
		w.rectifier(d.Rectifier.Case)
	case "waveform":
		r, err := waveform.Solve(d.Waveform)
		if err != nil {
			return "", err
		}
		w.network(d.Waveform, r.Openings, nil)
	case "steady":
		if len(d.Steady.Circuits) > 0 {
			r, err := network.SolveInstallation(d.Steady)
			if err != nil {
				return "", err
			}
			w.installed(d.Steady, r)
			break
		}
		r, err := network.Solve(d.Steady.Case)
		if err != nil {
			return "", err
		}
		w.steady(d.Steady.Case, r)
	default:
		return "", ErrNoCircuit
	}
	w.line(".end")
	return w.text.String(), nil
}

type writer struct {
	text     strings.Builder
	measures []string
	banks    map[string]int // transformers by id
}

func (w *writer) line(format string, args ...any) { fmt.Fprintf(&w.text, format+"\n", args...) }

// measure adds a measurement under a name.
func (w *writer) measure(name, format string, args ...any) {
	w.measures = append(w.measures, "meas tran "+name+" "+fmt.Sprintf(format, args...))
}

// control writes the run: a transient of a length in seconds, with a largest step.
func (w *writer) control(length, step float64) {
	w.line(".options reltol=1e-5 abstol=1e-9 vntol=1e-7 method=trap")
	w.line(".control")
	w.line("tran %.9g %.9g 0 %.9g uic", step, length, step)
	for _, m := range w.measures {
		w.line("%s", m)
	}
	w.line("quit")
	w.line(".endc")
}

var nodes = [3]string{"a", "b", "c"}

// steady writes a network with its motors at the speeds the core found, long enough
// to settle, and measures the last cycle.
func (w *writer) steady(c network.Case, r network.Result) {
	wave, speeds := held(c, r)
	w.transformers(c)
	w.network(wave, nil, speeds)
}

// held is a steady case in time, and the speeds that its motors are held at.
func held(c network.Case, r network.Result) (wave waveform.Case, speeds map[string]float64) {
	period := 1 / c.Supply.Hertz
	wave = waveform.Running(c, r)
	wave.DurationSeconds = math.Ceil(0.5/period) * period
	speeds = map[string]float64{}
	for i, m := range r.Motors {
		wave.Motors[i].InertiaKgm2 = 1
		speeds[m.ID] = m.RPM
	}
	// In the steady state a rectifier's fundamental is that of an impedance.
	for i, p := range c.Rectifiers {
		volts := map[network.Pair]float64{network.AB: r.Volts.AB, network.BC: r.Volts.BC,
			network.AC: r.Volts.CA}[p.Between]
		watts, amps := r.Rectifiers[i].Watts, r.Rectifiers[i].FundamentalAmps
		if amps > 0 {
			ohm := watts / (amps * amps)
			wave.Loads = append(
				wave.Loads,
				waveform.Impedance{
					Impedance: network.Impedance{
						Between:       p.Between,
						ResistanceOhm: ohm,
						ReactanceOhm:  math.Sqrt(math.Max(0, volts*volts/(amps*amps)-ohm*ohm)),
					},
				},
			)
		}
	}
	wave.ThreePhaseLoads = slices.DeleteFunc(
		slices.Clone(c.ThreePhaseLoads),
		func(p network.ThreePhase) bool { return p.Behind != "" },
	)
	return wave, speeds
}

// behind names the lines behind a transformer, or the network's own.
func (w *writer) behind(id string) [3]string {
	if k, ok := w.banks[id]; ok {
		return [3]string{fmt.Sprintf("ta%d", k), fmt.Sprintf("tb%d", k), fmt.Sprintf("tc%d", k)}
	}
	return nodes
}

// transformers writes the three-phase transformers of a steady case: in each leg an
// ideal one between floating star points, its series ohms, and its iron.
func (w *writer) transformers(c network.Case) {
	omega := 2 * math.Pi * c.Supply.Hertz
	w.banks = map[string]int{}
	series := func(name, from, to string, ohm, reactance float64) {
		w.line("R%s %s %s_x %.9g", name, from, name, math.Max(ohm, 1e-6))
		w.line("L%s %s_x %s %.9g", name, name, to, math.Max(reactance/omega, 1e-9))
	}
	for i, t := range c.Transformers {
		w.banks[t.ID] = i
		out := w.behind(t.ID)
		for k, node := range nodes {
			at := fmt.Sprintf("t%d%s", i, node)
			w.line("E%s %s_e ts%d %s tp%d %.9g", at, at, i, node, i, t.Ratio)
			w.line("Vi%s %s_e %s_i 0", at, at, at)
			w.line("F%s %s tp%d Vi%s %.9g", at, node, i, at, t.Ratio)
			series("z"+at, at+"_i", out[k], t.ResistanceOhm, t.ReactanceOhm)
			w.line("Rleak%s %s 0 1e8", at, out[k])
			if t.CoreOhm > 0 {
				w.line("Rc%s %s tp%d %.9g", at, node, i, t.CoreOhm)
			}
			if t.MagnetisingOhm > 0 {
				series("m"+at, node, fmt.Sprintf("tp%d", i), t.MagnetisingOhm/200, t.MagnetisingOhm)
			}
		}
		w.line("Rtp%d tp%d 0 1e6\nRts%d ts%d 0 1e6", i, i, i, i)
	}
	for i, p := range c.ThreePhaseLoads {
		if p.Behind == "" {
			continue
		}
		times := 3.0
		if p.Connection == network.Delta {
			times = 1
		}
		out := w.behind(p.Behind)
		for k := range 3 {
			series(fmt.Sprintf("h%d%d", i, k), out[k], out[(k+1)%3], p.ResistanceOhm*times, p.ReactanceOhm*times)
		}
	}
}

// network writes a network in time. Speeds that are given are held.
func (w *writer) network(c waveform.Case, openings []waveform.Opening, held map[string]float64) {
	c = c.Plain()
	s := switches{w: w, c: c, openings: openings}
	omega := 2 * math.Pi * c.Supply.Hertz
	lines, peak, phase := 1, math.Sqrt2*c.Supply.Volts, c.Supply.PhaseDegrees
	if c.Supply.Phases == 3 {
		lines, peak, phase = 3, peak/math.Sqrt(3), phase-30
	} else {
		w.line("Vb b 0 0")
	}
	for k := range lines {
		w.line("Vs%d s%d 0 SIN(0 %.9g %.9g 0 0 %.9g)", k, k, peak, c.Supply.Hertz, phase-120*float64(k))
		w.line("Rs%d s%d q%d %.9g", k, k, k, math.Max(c.Supply.ResistanceOhm, 1e-6))
		w.line("Ls%d q%d z%d %.9g", k, k, k, math.Max(c.Supply.ReactanceOhm/omega, 1e-9))
		s.contact(waveform.SupplyID, k, true, fmt.Sprintf("z%d", k), nodes[k])
	}
	w.elements(&s, held)
	w.measured(c, "")
	w.last(c, held)
}

// elements writes what hangs on the lines.
func (w *writer) elements(s *switches, held map[string]float64) {
	c, omega := s.c, 2*math.Pi*s.c.Supply.Hertz
	w.line("Rleak c 0 1e9")
	for i, p := range c.Capacitors {
		from, to := string(p.Between[0]), string(p.Between[1])
		inner := s.contact(p.ID, 0, p.Closed == nil || *p.Closed, from, fmt.Sprintf("k%d", i))
		w.line("Rk%d %s x%d %.9g", i, inner, i, math.Max(p.ESROhm, 1e-4))
		w.line("Ck%d x%d %s %.9g IC=0", i, i, to, p.Microfarad*1e-6)
		w.line("Bkv%d kv%d 0 V = V(x%d)-V(%s)", i, i, i, to)
	}
	for i, p := range c.Loads {
		from, to := string(p.Between[0]), string(p.Between[1])
		inner := s.contact(p.ID, 0, p.Closed == nil || *p.Closed, from, fmt.Sprintf("o%d", i))
		w.line("Ro%d %s y%d %.9g", i, inner, i, math.Max(p.ResistanceOhm, 1e-6))
		w.line("Lo%d y%d %s %.9g", i, i, to, math.Max(p.ReactanceOhm/omega, 1e-9))
	}
	for i, m := range c.Motors {
		var terminals [3]string
		for k, node := range w.behind(m.Behind) {
			at := s.contact(m.ID, k, m.Closed == nil || *m.Closed, node, fmt.Sprintf("u%d%s", i, node))
			if m.Conductor != (network.Conductor{}) {
				w.line("Rw%d%d %s wx%d%d %.9g", i, k, at, i, k, math.Max(m.Conductor.ResistanceOhm, 1e-6))
				w.line("Lw%d%d wx%d%d wt%d%d %.9g", i, k, i, k, i, k, math.Max(m.Conductor.ReactanceOhm/omega, 1e-9))
				at = fmt.Sprintf("wt%d%d", i, k)
				w.line("Rwl%d%d %s 0 1e6", i, k, at)
			}
			terminals[k] = at
		}
		rpm, still := held[m.ID]
		w.motor(i, m, c.Supply, terminals, rpm, still)
	}
	for _, pair := range []string{"ab", "bc", "ca"} {
		w.line("B%s %s 0 V = V(%s)-V(%s)", pair, pair, pair[:1], pair[1:])
	}
}

// measured measures a network whose nodes' names, and whose measurements', begin in the same way.
func (w *writer) measured(c waveform.Case, in string) {
	end := c.DurationSeconds
	span := fmt.Sprintf("from=%.9g to=%.9g", math.Max(0, end-1/c.Supply.Hertz), end)
	name := func(format string, args ...any) string {
		return strings.ReplaceAll(in, ".", "_") + fmt.Sprintf(format, args...)
	}
	// fundamental is that of a node, which is what phasors are of.
	fundamental := func(as, node string) {
		for _, part := range []string{"sin", "cos"} {
			own := as + "_" + part
			w.line("B%s %s 0 V = %.9g*V(%s)*%s(%.12g*time)", own, own, math.Sqrt2, node, part, 2*math.Pi*c.Supply.Hertz)
			w.measure(own, "AVG v(%s) %s", own, span)
		}
	}
	for i := range c.Capacitors {
		w.measure(name("capacitor%d_max", i), "MAX v(%skv%d)", in, i)
		w.measure(name("capacitor%d_min", i), "MIN v(%skv%d)", in, i)
	}
	for _, pair := range []string{"ab", "bc", "ca"} {
		w.measure(name("volts_%s", pair), "RMS v(%s%s) %s", in, pair, span)
	}
	for i := range c.Motors {
		fundamental(name("motor%d_amps", i), fmt.Sprintf("%sm%disa", in, i))
		w.measure(name("motor%d_torque", i), "AVG v(%sm%dte) %s", in, i, span)
		w.measure(name("motor%d_omega", i), "FIND v(%sm%dw) AT=%.9g", in, i, end*(1-1e-9))
		w.measure(name("motor%d_torque_max", i), "MAX v(%sm%dte)", in, i)
		w.measure(name("motor%d_torque_min", i), "MIN v(%sm%dte)", in, i)
		w.measure(name("motor%d_amps_max", i), "MAX v(%sm%disa)", in, i)
		w.measure(name("motor%d_amps_min", i), "MIN v(%sm%disa)", in, i)
		speed := 0.9 * motor.SynchronousRPM(c.Supply.Hertz, c.Motors[i].Poles) * math.Pi / 30
		w.measure(name("motor%d_to90", i), "WHEN v(%sm%dw)=%.9g RISE=1", in, i, speed)
	}
}

// last writes the run.
func (w *writer) last(c waveform.Case, held map[string]float64) {
	steps := 400.0
	if held != nil {
		steps = 2400 // a held speed makes the torque as sharp as the frequency
	}
	w.control(c.DurationSeconds, 1/c.Supply.Hertz/steps)
}
