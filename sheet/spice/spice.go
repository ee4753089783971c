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
	"brackmoor/core/rectifier"
	"brackmoor/core/waveform"
)

// ErrNoCircuit says that a case has no circuit to write.
var ErrNoCircuit = errors.New("only steady, waveform and rectifier cases are circuits: there is nothing to write of this one")

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
		r, err := network.Solve(d.Steady)
		if err != nil {
			return "", err
		}
		w.steady(d.Steady, r)
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

// rectifier writes a front end with its bus near where it will stand, long enough to
// settle, and measures the last cycles.
func (w *writer) rectifier(c rectifier.Case) {
	r, err := rectifier.Solve(c)
	start := math.Sqrt2 * c.Supply.Volts
	if err == nil {
		start = r.BusMeanVolts
	}
	omega := 2 * math.Pi * c.Supply.Hertz
	henry := (c.Supply.LineReactanceOhm + c.Bridge.LineReactorOhm) / omega
	diode := func(name, anode, cathode string) {
		w.line("B%s %s %s I = V(%s,%s) > 0.8 ? (V(%s,%s)-0.8)/0.01 : 1e-9*V(%s,%s)", name, anode, cathode, anode, cathode, anode, cathode, anode, cathode)
	}
	conductor := func(k int, from, to string, ohm, henry float64) {
		w.line("R%d %s t%d %.9g", k, from, k, math.Max(ohm, 1e-6))
		w.line("L%d t%d %s %.9g", k, k, to, math.Max(henry, 1e-9))
	}
	farad := c.Bridge.BusMicrofarad * 1e-6
	switch {
	case c.Bridge.Topology == rectifier.Doubler:
		w.line("V0 s0 mid SIN(0 %.9g %.9g)", math.Sqrt2*c.Supply.Volts, c.Supply.Hertz)
		conductor(0, "s0", "p0", 2*c.Supply.LineResistanceOhm, 2*henry)
		diode("u0", "p0", "bus")
		diode("l0", "0", "p0")
		w.line("C1 bus mid %.9g IC=%.9g", farad, start/2)
		w.line("C2 mid 0 %.9g IC=%.9g", farad, start/2)
	default:
		lines, peak := 2, math.Sqrt2*c.Supply.Volts
		if c.Bridge.Phases == 3 {
			lines, peak = 3, peak/math.Sqrt(3)
		}
		for k := range lines {
			switch {
			case lines == 3:
				w.line("V%d s%d n SIN(0 %.9g %.9g 0 0 %d)", k, k, peak, c.Supply.Hertz, -120*k)
			case k == 0:
				w.line("V0 s0 n SIN(0 %.9g %.9g)", peak, c.Supply.Hertz)
			default:
				w.line("V1 s1 n 0")
			}
			p := fmt.Sprintf("p%d", k)
			conductor(k, fmt.Sprintf("s%d", k), p, c.Supply.LineResistanceOhm, henry)
			diode(fmt.Sprintf("u%d", k), p, "d")
			diode(fmt.Sprintf("l%d", k), "0", p)
		}
		w.line("Rn n 0 1e7")
		if c.Bridge.DCChokeMH > 0 {
			w.line("Rc d e %.9g", math.Max(c.Bridge.DCChokeOhm, 1e-6))
			w.line("Lc e bus %.9g", c.Bridge.DCChokeMH/1000)
		} else {
			w.line("Rc d bus %.9g", math.Max(c.Bridge.DCChokeOhm, 1e-6))
		}
		w.line("C1 bus 0 %.9g IC=%.9g", farad, start)
	}
	w.line("Bload bus 0 I = %.9g/V(bus)", c.LoadWatts)
	period := 1 / c.Supply.Hertz
	length := 30 * period
	span := fmt.Sprintf("from=%.9g to=%.9g", length-3*period, length)
	w.measure("bus_mean_volts", "AVG v(bus) %s", span)
	w.measure("ripple_pp_volts", "PP v(bus) %s", span)
	w.measure("input_rms_amps", "RMS i(V0) %s", span)
	w.measure("input_peak_amps", "MAX i(V0) %s", span)
	w.control(length, period/3000)
}

var nodes = [3]string{"a", "b", "c"}

// steady writes a network with its motors at the speeds the core found, long enough
// to settle, and measures the last cycle.
func (w *writer) steady(c network.Case, r network.Result) {
	period := 1 / c.Supply.Hertz
	wave := waveform.Running(c, r)
	wave.DurationSeconds = math.Ceil(0.8/period) * period
	speeds := map[string]float64{}
	for i, m := range r.Motors {
		wave.Motors[i].InertiaKgm2 = 1
		speeds[m.ID] = m.RPM
	}
	// In the steady state a rectifier's fundamental is that of an impedance.
	for i, p := range c.Rectifiers {
		volts := map[network.Pair]float64{network.AB: r.Volts.AB, network.BC: r.Volts.BC, network.AC: r.Volts.CA}[p.Between]
		watts, amps := r.Rectifiers[i].Watts, r.Rectifiers[i].FundamentalAmps
		if amps > 0 {
			ohm := watts / (amps * amps)
			wave.Loads = append(wave.Loads, waveform.Impedance{Impedance: network.Impedance{Between: p.Between, ResistanceOhm: ohm, ReactanceOhm: math.Sqrt(math.Max(0, volts*volts/(amps*amps)-ohm*ohm))}})
		}
	}
	wave.ThreePhaseLoads = slices.DeleteFunc(slices.Clone(c.ThreePhaseLoads), func(p network.ThreePhase) bool { return p.Behind != "" })
	w.transformers(c)
	w.network(wave, nil, speeds)
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
	w.line("Rleak c 0 1e9")
	for i, p := range c.Capacitors {
		from, to := string(p.Between[0]), string(p.Between[1])
		inner := s.contact(p.ID, 0, p.Closed == nil || *p.Closed, from, fmt.Sprintf("k%d", i))
		w.line("Rk%d %s x%d %.9g", i, inner, i, math.Max(p.ESROhm, 1e-4))
		w.line("Ck%d x%d %s %.9g IC=0", i, i, to, p.Microfarad*1e-6)
		w.line("Bkv%d kv%d 0 V = V(x%d)-V(%s)", i, i, i, to)
		w.measure(fmt.Sprintf("capacitor%d_max", i), "MAX v(kv%d)", i)
		w.measure(fmt.Sprintf("capacitor%d_min", i), "MIN v(kv%d)", i)
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
	period := 1 / c.Supply.Hertz
	end := c.DurationSeconds
	span := fmt.Sprintf("from=%.9g to=%.9g", math.Max(0, end-period), end)
	for _, pair := range []string{"ab", "bc", "ca"} {
		w.line("B%s %s 0 V = V(%s)-V(%s)", pair, pair, pair[:1], pair[1:])
		w.measure("volts_"+pair, "RMS v(%s) %s", pair, span)
	}
	for i := range c.Motors {
		w.measure(fmt.Sprintf("motor%d_amps", i), "RMS v(m%disa) %s", i, span)
		w.measure(fmt.Sprintf("motor%d_torque", i), "AVG v(m%dte) %s", i, span)
		w.measure(fmt.Sprintf("motor%d_omega", i), "FIND v(m%dw) AT=%.9g", i, end*(1-1e-9))
		w.measure(fmt.Sprintf("motor%d_torque_max", i), "MAX v(m%dte)", i)
		w.measure(fmt.Sprintf("motor%d_torque_min", i), "MIN v(m%dte)", i)
		w.measure(fmt.Sprintf("motor%d_amps_max", i), "MAX v(m%disa)", i)
		w.measure(fmt.Sprintf("motor%d_amps_min", i), "MIN v(m%disa)", i)
		speed := 0.9 * motor.SynchronousRPM(c.Supply.Hertz, c.Motors[i].Poles) * math.Pi / 30
		w.measure(fmt.Sprintf("motor%d_to90", i), "WHEN v(m%dw)=%.9g RISE=1", i, speed)
	}
	steps := 400.0
	if held != nil {
		steps = 1200 // a held speed makes the torque as sharp as the frequency
	}
	w.control(end, period/steps)
}

// switches writes contacts and when they move.
type switches struct {
	w        *writer
	c        waveform.Case
	openings []waveform.Opening
	model    bool
	count    int
}

// contact puts one between two nodes where anything is ever switched, and returns the
// node behind it.
func (s *switches) contact(id string, line int, closed bool, from, to string) string {
	times := fmt.Sprintf("0 %d", map[bool]int{true: 1, false: 0}[closed])
	state, moves := closed, !closed
	move := func(at float64, closes bool) {
		if closes == state {
			return
		}
		was, is := map[bool]int{true: 1, false: 0}[state], map[bool]int{true: 1, false: 0}[closes]
		times += fmt.Sprintf(" %.9g %d %.9g %d", at, was, at+1e-6, is)
		state, moves = closes, true
	}
	// Openings and closings in their order.
	opened := 0
	mine := []waveform.Opening{}
	for _, o := range s.openings {
		if o.ID == id && o.Line == line {
			mine = append(mine, o)
		}
	}
	for _, e := range s.c.Events {
		if e.Switch != id {
			continue
		}
		if e.To == waveform.Closed {
			move(math.Max(e.AtSeconds, 1e-6), true)
		} else if opened < len(mine) {
			move(mine[opened].AtSeconds, false)
			opened++
		}
	}
	if !moves {
		if id == waveform.SupplyID {
			s.w.line("Rjoin%s %s %s 1e-6", to, from, to)
			return to
		}
		return from
	}
	if !s.model {
		s.w.line(".model contact sw(vt=0.5 vh=0 ron=1e-3 roff=1e5)")
		s.model = true
	}
	s.count++
	s.w.line("S%d %s %s drive%d 0 contact", s.count, from, to, s.count)
	s.w.line("Vdrive%d drive%d 0 PWL(%s)", s.count, s.count, times)
	return to
}

// motor writes one motor.
func (w *writer) motor(i int, m waveform.Motor, s waveform.Supply, t [3]string, rpm float64, still bool) {
	n := func(name string) string { return fmt.Sprintf("m%d%s", i, name) }
	v := func(name string) string { return "V(" + n(name) + ")" }
	omega0 := 2 * math.Pi * m.RatedHertz
	c := m.Circuit
	pairs := float64(m.Poles) / 2
	leak := math.Max(c.X1Ohm/omega0, 1e-7)
	w.line("* motor %s", strings.Map(func(r rune) rune {
		if r < ' ' {
			return ' '
		}
		return r
	}, m.ID))
	// Stator: flux linkages from volts.
	w.line("B%s 0 %s I = (2*V(%s)-V(%s)-V(%s))/3 - %.9g*%s", n("va"), n("lsa"), t[0], t[1], t[2], c.R1Ohm, v("isa"))
	w.line("B%s 0 %s I = (V(%s)-V(%s))/sqrt(3) - %.9g*%s", n("vb"), n("lsb"), t[1], t[2], c.R1Ohm, v("isb"))
	for _, axis := range []string{"a", "b"} {
		w.line("C%s %s 0 1 IC=0", n("ls"+axis), n("ls"+axis))
	}
	// Stator amps from the leakage flux, which saturates.
	far := fmt.Sprintf("sqrt((%s-%s)^2+(%s-%s)^2+1e-18)", v("lsa"), v("lga"), v("lsb"), v("lgb"))
	w.line("B%s %s 0 V = %s", n("far"), n("far"), far)
	if c.Leakage.OnsetAmps > 0 {
		onset, k := math.Sqrt2*c.Leakage.OnsetAmps, c.Leakage.Floor
		w.line("B%s %s 0 V = %s < %.9g ? %s/%.9g : (%s/%.9g - %.9g)/%.9g", n("is"), n("is"), v("far"), leak*onset, v("far"), leak, v("far"), leak, (1-k)*onset, k)
		w.line("B%s %s 0 V = %s < %.9g ? 1 : %.9g + %.9g/%s", n("f"), n("f"), v("is"), onset, k, (1-k)*onset, v("is"))
	} else {
		w.line("B%s %s 0 V = %s/%.9g", n("is"), n("is"), v("far"), leak)
		w.line("V%s %s 0 1", n("f"), n("f"))
	}
	for _, axis := range []string{"a", "b"} {
		w.line("B%s %s 0 V = (%s-%s)*%s/%s", n("is"+axis), n("is"+axis), v("ls"+axis), v("lg"+axis), v("is"), v("far"))
	}
	// Cages.
	rotor := map[string]string{"a": "", "b": ""}
	for g, cage := range c.Cages {
		henry := math.Max(cage.XOhm/omega0, 1e-7)
		for _, axis := range []string{"a", "b"} {
			lr, ir := fmt.Sprintf("l%d%s", g, axis), fmt.Sprintf("i%d%s", g, axis)
			w.line("B%s %s 0 V = (%s-%s)/(%.9g*%s)", n(ir), n(ir), v(lr), v("lg"+axis), henry, v("f"))
			other := map[string]string{"a": fmt.Sprintf("- %.9g*%s*%s", pairs, v("w"), v(fmt.Sprintf("l%db", g))), "b": fmt.Sprintf("+ %.9g*%s*%s", pairs, v("w"), v(fmt.Sprintf("l%da", g)))}[axis]
			w.line("B%s 0 %s I = -%.9g*%s %s", n("e"+lr), n(lr), cage.ROhm, v(ir), other)
			w.line("C%s %s 0 1 IC=0", n(lr), n(lr))
			rotor[axis] += "+" + v(ir)
		}
	}
	// The gap: what stator and cages bring is magnetising, and core loss.
	linear := omega0 / c.XmOhm
	for _, axis := range []string{"a", "b"} {
		w.line("B%s 0 %s I = %s%s", n("g"+axis), n("lg"+axis), v("is"+axis), rotor[axis])
		if len(c.Curve) > 1 {
			size := fmt.Sprintf("sqrt(%s^2+%s^2+1e-18)", v("lga"), v("lgb"))
			w.line("B%s %s 0 I = %s*pwl(%s%s)/%s", n("im"+axis), n("lg"+axis), v("lg"+axis), size, curve(c, omega0), size)
		} else {
			w.line("R%s %s 0 %.9g", n("im"+axis), n("lg"+axis), 1/linear)
		}
		if c.RcOhm > 0 {
			w.line("C%s %s 0 %.9g IC=0", n("lg"+axis), n("lg"+axis), 1/c.RcOhm)
		} else {
			w.line("C%s %s 0 1e-9 IC=0", n("lg"+axis), n("lg"+axis))
		}
	}
	w.line("B%s %s 0 V = -1.5*%.9g*(%s*(0%s) - %s*(0%s))", n("te"), n("te"), pairs, v("lga"), rotor["b"], v("lgb"), rotor["a"])
	// Line amps.
	w.line("B%s %s 0 I = %s", n("ta"), t[0], v("isa"))
	w.line("B%s %s 0 I = -0.5*%s + 0.866025403784*%s", n("tb"), t[1], v("isa"), v("isb"))
	w.line("B%s %s 0 I = -0.5*%s - 0.866025403784*%s", n("tc"), t[2], v("isa"), v("isb"))
	// The shaft.
	if still {
		w.line("V%s %s 0 %.9g", n("w"), n("w"), rpm*math.Pi/30)
		return
	}
	synchronous := motor.SynchronousRPM(s.Hertz, m.Poles) * math.Pi / 30
	rated := motor.SynchronousRPM(m.RatedHertz, m.Poles) * math.Pi / 30
	load := "0"
	if m.Load != nil {
		size := fmt.Sprintf("%.9g/max(abs(%s),%.9g)", m.Load.Watts, v("w"), 0.9*synchronous)
		if m.Load.Kind == "torque" {
			size = fmt.Sprintf("%.9g*(abs(%s)/%.9g)^%d", m.Load.NewtonMetre, v("w"), m.Load.AtRPM*math.Pi/30, m.Load.Exponent)
			if m.Load.Exponent == 0 {
				size = fmt.Sprintf("%.9g", m.Load.NewtonMetre)
			}
		}
		load = fmt.Sprintf("%s*%s/(abs(%s)+0.01)", size, v("w"), v("w"))
	}
	w.line("B%s 0 %s I = %s - %.9g*%s - %s", n("j"), n("w"), v("te"), m.FrictionWatts/(rated*rated), v("w"), load)
	w.line("C%s %s 0 %.9g IC=%.9g", n("w"), n("w"), m.InertiaKgm2, m.InitialRPM*math.Pi/30)
}

// curve lists a magnetising curve as flux linkages and amps, both peak, with its last
// slope going on.
func curve(c motor.Circuit, omega0 float64) string {
	text := ", 0, 0"
	for _, p := range c.Curve {
		text += fmt.Sprintf(", %.9g, %.9g", math.Sqrt2*p.AirgapVolts/omega0, math.Sqrt2*p.Amps)
	}
	n := len(c.Curve)
	a, b := c.Curve[n-2], c.Curve[n-1]
	return text + fmt.Sprintf(", %.9g, %.9g", math.Sqrt2*(b.AirgapVolts+20*(b.AirgapVolts-a.AirgapVolts))/omega0, math.Sqrt2*(b.Amps+20*(b.Amps-a.Amps)))
}
