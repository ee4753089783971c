package banked

import (
	"brackmoor/core/circuit"
	"brackmoor/core/feed"
)

// Wire is its circuit: a contactor in both lines, an overload that sees the capacitors' lead too, the run
// capacitor on the motor's side, and a start capacitor behind a contact of its own.
func (w *Way) Wire(q *feed.Question, how circuit.Choices) circuit.Circuit {
	o := w.Outline(q)
	if o == nil {
		return circuit.Circuit{}
	}
	d, breaker := feed.Draft(q, w, o, how)
	lines := d.Feed(breaker)
	coils := d.Coils(lines)
	k, f := feed.TwoPole(d, lines, o.Value("overload_amps"), coils.Volts, "5 6 ")
	feed.ToMotor(d, f, d.Motor(circuit.Machine, q.Title))
	near, made := f+":1", f+":5"
	if q.For(w).Bank.Reversed {
		near = f + ":3"
	}
	if run := o.Value("run_microfarad"); run > 0 {
		d.Capacitor("run", run, o.Value("run_capacitor_volts"), near, made)
	}
	d.Wire(circuit.Control, coils.Hot, f+":95")
	from := d.Stops(f+":96", true)
	help := ""
	start := circuit.Part{
		Kind: circuit.Capacitor, Duty: "start", Microfarad: o.Value("start_microfarad"),
		Volts: o.Value("start_capacitor_volts"),
	}
	if start.Microfarad > 0 {
		help, from = d.StartCapacitor(start, near, made, from, coils)
	}
	buttons := d.Starts(from, k+":A1", k, help != "" && d.How.Start == circuit.ByButton)
	d.Wire(circuit.Control, k+":A2", coils.Back)
	d.Lamp(k, coils.Volts)
	d.Leaves(help, k+":A1", buttons, coils)
	return d.Done()
}
