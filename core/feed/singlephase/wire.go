package singlephase

import (
	"brackmoor/core/circuit"
	"brackmoor/core/feed"
)

// Wire is its circuit: a contactor and an overload in both lines.
func (w way) Wire(q *feed.Question, how circuit.Choices) circuit.Circuit {
	o := w.Outline(q)
	if o == nil {
		return circuit.Circuit{}
	}
	d, breaker := feed.Draft(q, w, o, how)
	lines := d.Feed(breaker)
	coils := d.Coils(lines)
	k, f := feed.TwoPole(d, "motor", lines, o.Value("motor_amps"), coils.Volts, d.Own(2), "")
	m := d.Add("M", circuit.Part{
		Kind: circuit.SinglePhaseMotor, Role: circuit.Machine, Name: q.Title, Watts: q.Watts(),
	}, "1 2 PE")
	d.Wire(circuit.Protective, "PE", m+":PE")
	d.Wire(circuit.Power, f+":2", m+":1")
	d.Wire(circuit.Power, f+":4", m+":2")
	d.Wire(circuit.Control, coils.Hot, f+":95")
	d.Starts(d.Interlocks(circuit.Control, d.Stops(f+":96", true)), k+":A1", k, false)
	d.Wire(circuit.Control, k+":A2", coils.Back)
	d.Lamp(k, coils.Volts)
	return d.Done()
}
