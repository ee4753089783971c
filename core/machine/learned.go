package machine

import (
	"fmt"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// Learned is what readings told of a motor and of what feeds it, taken in the place of what its plate gives. It stands
// until it is laid aside.
type Learned struct {
	At       string       `json:"at"` // RFC 3339
	Hand     string       `json:"hand"`
	Readings int          `json:"readings"` // that it was learned from
	Motor    motor.Turned `json:"motor"`
	// Idler is what was learned of the idler beside it, and IdlerWatts which one that is; 0 for none. One of another
	// size is another motor.
	Idler      motor.Turned `json:"idler,omitzero"`
	IdlerWatts float64      `json:"idler_watts,omitempty"`
	// Resistance and Reactance are factors on the supply's ohms. Its volts are those of the day: they are not kept.
	Resistance float64 `json:"supply_resistance"`
	Reactance  float64 `json:"supply_reactance"`
}

// Words are who took it, when, and from how much.
func (l *Learned) Words() string {
	return fmt.Sprintf("learned from %d readings, %s, %.10s", l.Readings, l.Hand, l.At)
}

// Fit is a fitted motor as it was learned; nil is the plate's.
func (l *Learned) Fit(f motor.Fit) motor.Fit {
	if l != nil {
		f.Circuit, f.FrictionWatts = l.Motor.Turn(f.Circuit, f.FrictionWatts)
	}
	return f
}

// Supply is a supply with the ohms that were learned; nil leaves it as it is.
func (l *Learned) Supply(s network.Supply) network.Supply {
	if l != nil {
		s.ResistanceOhm, s.ReactanceOhm = s.ResistanceOhm*l.Resistance, s.ReactanceOhm*l.Reactance
	}
	return s
}

// WithIdler is a usual idler of so many watts as it was learned; nil, and one of another size, leave it as it is.
func (l *Learned) WithIdler(m network.Motor, watts float64) network.Motor {
	if l != nil && l.IdlerWatts > 0 && l.IdlerWatts == watts {
		m.Circuit, m.FrictionWatts = l.Idler.Turn(m.Circuit, m.FrictionWatts)
	}
	return m
}
