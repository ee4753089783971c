package spice

import (
	"fmt"
	"math"
	"strings"
	"unicode"

	"brackmoor/core/motor"
	"brackmoor/core/waveform"
)

// motor writes one motor.
func (w *writer) motor(i int, m waveform.Motor, s waveform.Supply, t [3]string, rpm float64, still bool) {
	n := func(name string) string { return fmt.Sprintf("m%d%s", i, name) }
	v := func(name string) string { return "V(" + n(name) + ")" }
	omega0 := 2 * math.Pi * m.RatedHertz
	c := m.Circuit
	pairs := float64(m.Poles) / 2
	leak := math.Max(c.X1Ohm/omega0, 1e-7)
	w.line("* motor %s", strings.Map(func(r rune) rune {
		if !unicode.IsPrint(r) {
			return ' ' // what ends a line in some program, above all
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
		w.line(
			"B%s %s 0 V = %s < %.9g ? %s/%.9g : (%s/%.9g - %.9g)/%.9g",
			n("is"),
			n("is"),
			v("far"),
			leak*onset,
			v("far"),
			leak,
			v("far"),
			leak,
			(1-k)*onset,
			k,
		)
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
			other := map[string]string{"a": fmt.Sprintf("- %.9g*%s*%s", pairs, v("w"), v(fmt.Sprintf("l%db", g))),
				"b": fmt.Sprintf("+ %.9g*%s*%s", pairs, v("w"), v(fmt.Sprintf("l%da", g)))}[axis]
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
			w.line(
				"B%s %s 0 I = %s*pwl(%s%s)/%s",
				n("im"+axis),
				n("lg"+axis),
				v("lg"+axis),
				size,
				curve(c, omega0),
				size,
			)
		} else {
			w.line("R%s %s 0 %.9g", n("im"+axis), n("lg"+axis), 1/linear)
		}
		if c.RcOhm > 0 {
			w.line("C%s %s 0 %.9g IC=0", n("lg"+axis), n("lg"+axis), 1/c.RcOhm)
		} else {
			w.line("C%s %s 0 1e-9 IC=0", n("lg"+axis), n("lg"+axis))
		}
	}
	w.line(
		"B%s %s 0 V = -1.5*%.9g*(%s*(0%s) - %s*(0%s))",
		n("te"),
		n("te"),
		pairs,
		v("lga"),
		rotor["b"],
		v("lgb"),
		rotor["a"],
	)
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
	load := "0"
	if m.Load != nil {
		size := fmt.Sprintf("%.9g/max(abs(%s),%.9g)", m.Load.Watts, v("w"), 0.9*synchronous)
		if m.Load.Kind == "torque" {
			size = fmt.Sprintf(
				"%.9g*(abs(%s)/%.9g)^%d",
				m.Load.NewtonMetre,
				v("w"),
				m.Load.AtRPM*math.Pi/30,
				m.Load.Exponent,
			)
			if m.Load.Exponent == 0 {
				size = fmt.Sprintf("%.9g", m.Load.NewtonMetre)
			}
		}
		load = fmt.Sprintf("%s*%s/(abs(%s)+0.01)", size, v("w"), v("w"))
	}
	w.line("B%s 0 %s I = %s - %.9g*%s - %s", n("j"), n("w"), v("te"), m.FrictionCoefficient(), v("w"), load)
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
	return text + fmt.Sprintf(
		", %.9g, %.9g",
		math.Sqrt2*(b.AirgapVolts+20*(b.AirgapVolts-a.AirgapVolts))/omega0,
		math.Sqrt2*(b.Amps+20*(b.Amps-a.Amps)),
	)
}
