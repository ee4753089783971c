package spice

import (
	"fmt"
	"math"

	"brackmoor/core/rectifier"
)

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
		w.line(
			"B%s %s %s I = V(%s,%s) > 0.8 ? (V(%s,%s)-0.8)/0.01 : 1e-9*V(%s,%s)",
			name,
			anode,
			cathode,
			anode,
			cathode,
			anode,
			cathode,
			anode,
			cathode,
		)
	}
	conductor := func(k int, from, to string, ohm, henry float64) {
		w.line("R%d %s t%d %.9g", k, from, k, math.Max(ohm, 1e-6))
		w.line("L%d t%d %s %.9g", k, k, to, math.Max(henry, 1e-9))
	}
	can := func(k int, from, to string, volts float64) {
		w.line("Re%d %s e%d %.9g", k, from, k, math.Max(c.Bridge.BusESROhm, 1e-9))
		w.line("C%d e%d %s %.9g IC=%.9g", k, k, to, c.Bridge.BusMicrofarad*1e-6, volts)
	}
	switch {
	case c.Bridge.Topology == rectifier.Doubler:
		w.line("V0 s0 mid SIN(0 %.9g %.9g)", math.Sqrt2*c.Supply.Volts, c.Supply.Hertz)
		conductor(0, "s0", "p0", 2*c.Supply.LineResistanceOhm, 2*henry)
		diode("u0", "p0", "bus")
		diode("l0", "0", "p0")
		can(1, "bus", "mid", start/2)
		can(2, "mid", "0", start/2)
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
		can(1, "bus", "0", start)
	}
	w.line(".ic v(bus)=%.9g", start)
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
