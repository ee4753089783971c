package machine

import (
	"fmt"
	"math"

	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Shaft is the inertia that a start must bring up, in kg·m² at the motor's shaft, and
// where it came from.
type Shaft struct {
	RotorKgm2 float64     `json:"rotor_kgm2"`
	LoadKgm2  float64     `json:"load_kgm2"`
	Origin    rule.Origin `json:"origin"`
	Source    string      `json:"source"`
	DragWatts float64     `json:"drag_watts"` // that a coast-down rests on, 0 without one
}

// Kgm2 is the whole inertia.
func (s Shaft) Kgm2() float64 { return s.RotorKgm2 + s.LoadKgm2 }

// usualDrag is the share of plate output that an unloaded machine's belts and bearings
// take beside the motor's own friction: shop practice, for a coast-down without a
// reading of its watts.
const usualDrag = 0.04

// Shaft is the inertia that is known or assumed.
func (m *Machine) Shaft() Shaft {
	s := Shaft{
		RotorKgm2: motor.RotorInertia(m.Watts(), m.Poles()),
		Origin:    rule.Assumed,
		Source:    "usual rotor, and load for " + rule.InSentence(m.Load.Title),
	}
	s.LoadKgm2 = m.Load.InertiaTimes * s.RotorKgm2
	switch {
	case m.Known.Coast != nil:
		m.coasted(&s, *m.Known.Coast)
	case m.Known.Kgm2 > 0:
		s.LoadKgm2, s.Origin, s.Source = m.Known.Kgm2, rule.Stated, "typed, at the motor's speed"
		if m.Known.ItsRPM > 0 {
			s.LoadKgm2 = load.Referred(m.Known.Kgm2, m.Known.ItsRPM, m.RatedRPM())
			s.Source = fmt.Sprintf("typed, referred from %.0f rpm", m.Known.ItsRPM)
		}
	case m.Load.StopSeconds > 0:
		m.coasted(&s, load.CoastDown{Seconds: m.Load.StopSeconds})
	}
	return s
}

// coasted takes the inertia from a stop by stopwatch.
func (m *Machine) coasted(s *Shaft, coast load.CoastDown) {
	if coast.FromRPM == 0 {
		coast.FromRPM = m.RatedRPM()
	}
	drag := rule.Stated
	if coast.DragWatts == 0 {
		coast.DragWatts = m.Fit.FrictionWatts + usualDrag*m.Watts()
		drag = rule.Assumed
	}
	whole, err := coast.Inertia()
	if err != nil {
		return
	}
	s.RotorKgm2 = math.Min(s.RotorKgm2, whole)
	s.LoadKgm2, s.Origin, s.DragWatts = whole-s.RotorKgm2, drag, coast.DragWatts
	s.Source = fmt.Sprintf(
		"coast-down from %.0f rpm in %s s, drag %.0f W",
		coast.FromRPM,
		quantity.Figures(coast.Seconds, 3),
		coast.DragWatts,
	)
	if drag == rule.Assumed {
		s.Source += " assumed"
	}
}
