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
	amps := o.Value("motor_amps")
	k := d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: "main", Amps: amps, CoilVolts: coils.Volts},
		"1 2 3 4 A1 A2 13 14")
	f := d.Add("F", circuit.Part{Kind: circuit.Overload, Name: "overload", Amps: amps}, "1 2 3 4 95 96")
	m := d.Add("M", circuit.Part{Kind: circuit.SinglePhaseMotor, Role: circuit.Machine, Name: q.Title}, "1 2 PE")
	d.Wire(circuit.Protective, "PE", m+":PE")
	d.Wire(circuit.Power, lines.A, k+":1")
	d.Wire(circuit.Power, lines.B, k+":3")
	d.Wire(circuit.Power, k+":2", f+":1")
	d.Wire(circuit.Power, k+":4", f+":3")
	d.Wire(circuit.Power, f+":2", m+":1")
	d.Wire(circuit.Power, f+":4", m+":2")
	d.Wire(circuit.Control, coils.Hot, f+":95")
	d.Starts(d.Stops(f+":96", true), k+":A1", k, false)
	d.Wire(circuit.Control, k+":A2", coils.Back)
	d.Lamp(k, coils.Volts)
	return d.Done()
}
