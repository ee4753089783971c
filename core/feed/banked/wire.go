package banked

import (
	"brackmoor/core/capacitor"
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
	lines = feed.Stepped(d, q, w, lines)
	k, f := feed.TwoPole(d, "motor", lines, o.Value("overload_amps"), coils.Volts, d.Own(2), "5 6")
	m := d.Motor(circuit.Machine, q.Title)
	feed.ToMotor(d, f, m)
	a := w.Solved(q)
	l := &a.Live
	own := d.Part(m)
	if up := l.RunUp; up.Seconds != nil {
		own.Seconds = *up.Seconds
	}
	if r := l.RunUp.Relay; r != nil {
		own.MadeVolts = &circuit.MadeVolts{Standing: r.Standing, CutOut: r.CutOut, Running: r.Running}
	}
	near, made := f+":1", f+":5"
	if q.For(w).Bank.Reversed {
		near = f + ":3"
	}
	if run := a.Live.RunMicrofarad; run > 0 {
		own, _ := q.RunBank(run, capacitor.Bank{Run: a.RunParts.Parts, Volts: a.RunVolts, Bleeds: a.RunBleeds})
		d.Bank(own, near, made)
	}
	d.Wire(circuit.Control, coils.Hot, f+":95")
	from := d.Interlocks(circuit.Control, d.Stops(f+":96", true))
	help := ""
	var bank circuit.Bank
	if start := a.Live.StartMicrofarad; start > 0 {
		bank = q.StartBank(start, capacitor.Bank{
			Start: a.StartParts, Volts: a.StartVolts, Bleeds: a.StartBleeds,
		})
		var timer, pickUp *float64
		if l.RunUp.Relay != nil {
			timer, pickUp = l.RunUp.TimerSeconds, l.RunUp.Relay.PickUp
		}
		feed.Leaving(&bank, l.RunUp.Seconds, timer, pickUp)
		help, from = d.StartCapacitor(bank, m, near, made, from, coils)
	}
	buttons := d.Starts(from, k+":A1", k, help != "" && d.How.Start == circuit.ByButton)
	d.Wire(circuit.Control, k+":A2", coils.Back)
	d.Lamp(k, coils.Volts)
	d.Leaves(bank, help, k+":A1", buttons, coils)
	return d.Done()
}
