// Package machine is a motor on a supply as everything downstream sees it: its plate as
// filled, the circuit fitted from it, what it drives, how it works and heats. Every way of
// feeding it, every sheet and every start builds its motor from here.
package machine

import (
	"math"

	"brackmoor/core/halt"
	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
)

// Machine is a motor on a supply. LoadShare is the share of plate output that somebody
// means by its load, nil for that of the kind of machine. Known is what somebody noted of
// its shaft. A Thermal without a limit stands for a usual one.
type Machine struct {
	Plate     plate.Filled
	Fit       motor.Fit
	Supply    network.Supply
	Load      load.Kind
	LoadShare *float64
	Known     load.Shaft
	Thermal   motor.Thermal
	Duty      Duty
	Step      *Transformer // that it stands behind, nil for none
	Learned   *Learned     // what of it was learned from readings, nil for nothing
	Stop      halt.Sign    // of whoever waits for what is worked out of it
}

// Duty is how long a motor works and pauses, in minutes; OffMinutes 0 is continuous.
type Duty struct {
	OnMinutes  float64 `json:"on_minutes"`
	OffMinutes float64 `json:"off_minutes"`
	Session    float64 `json:"session_minutes"`
}

// usualAirC is the air around a motor where nothing is said: what plates are made for.
const usualAirC = 40

// Whole is the machine with a usual thermal model where it has none.
func (m Machine) Whole() Machine {
	if m.Thermal.LimitC == 0 {
		m.Thermal = motor.ThermalOf(motor.Body{Watts: m.Watts(), AmbientC: usualAirC})
	}
	return m
}

// At is the machine at another share of plate output.
func (m Machine) At(share float64) Machine {
	m.LoadShare = &share
	return m
}

// Watts is the plate's output.
func (m *Machine) Watts() float64 { return m.Plate.Output.Value }

// Share is the share of plate output that is meant by the load.
func (m *Machine) Share() float64 {
	if m.LoadShare != nil {
		return *m.LoadShare
	}
	return m.Load.RunShare
}

// Poles of the motor.
func (m *Machine) Poles() int { return int(m.Plate.Poles.Value) }

// SynchronousRPM is that of the supply's frequency.
func (m *Machine) SynchronousRPM() float64 { return motor.SynchronousRPM(m.Supply.Hertz, m.Poles()) }

// RatedRPM is the plate's speed taken to the supply's frequency.
func (m *Machine) RatedRPM() float64 { return m.Plate.RPM.Value / m.Plate.Hertz.Value * m.Supply.Hertz }

// WindingAmps are the rated amps of a winding: the plate's, or of a delta's branch.
func (m *Machine) WindingAmps() float64 {
	if m.Plate.Delta {
		return m.Plate.Amps.Value / math.Sqrt(3)
	}
	return m.Plate.Amps.Value
}

// RatedLosses are the watts lost at plate load on three phases.
func (m *Machine) RatedLosses() float64 { return m.Watts() * (1/m.Plate.Efficiency.Value - 1) }

// NetworkMotor is the motor for a network, without load and inertia.
func (m *Machine) NetworkMotor(id string) network.Motor {
	connection := plate.Wye
	if m.Plate.Delta {
		connection = network.Delta
	}
	return network.Motor{
		ID:            id,
		Poles:         m.Poles(),
		RatedHertz:    m.Plate.Hertz.Value,
		Connection:    connection,
		Circuit:       m.Fit.Circuit,
		FrictionWatts: m.Fit.FrictionWatts,
	}
}

// FluxPercent is volts per hertz here over the plate's.
func (m *Machine) FluxPercent() float64 {
	return plate.FluxPercent(m.Plate, plate.Supply{Volts: m.Supply.Volts, Hertz: m.Supply.Hertz})
}

// TorqueFactor is what the circuit's torque at standstill is taken down by for a verdict:
// to the minimum of the motor's class, where the plate does not state it.
func (m *Machine) TorqueFactor() float64 {
	goal := m.Plate.LockedRotorTorque
	if goal.Stated > 0 || goal.Least == 0 {
		return 1
	}
	for _, residual := range m.Fit.Residuals {
		if residual.Name == "locked-rotor torque" && residual.Got > goal.Least {
			return goal.Least / residual.Got
		}
	}
	return 1
}

// LoadCurve is what the shaft takes while it comes up to a share of plate output, its
// breakaway raised by what the circuit's torque stands above the minimum of its class.
func (m *Machine) LoadCurve(share float64) load.Curve {
	curve := m.Load.Curve(m.Load.ComingUp(share), m.Fit.RatedNm, m.RatedRPM())
	curve.BreakawayNm /= m.TorqueFactor()
	return curve
}

// Heating is what heats in a state of running: winding amps, and the watts lost in it.
func (m *Machine) Heating(windingAmps [3]float64, lostWatts float64, turning bool) motor.Heating {
	h := motor.Heating{Turning: turning, Losses: lostWatts / m.RatedLosses()}
	rated := m.WindingAmps()
	for k, amps := range windingAmps {
		h.Windings[k] = amps * amps / (rated * rated)
	}
	return h
}

// Usable is the most shaft power in watts that windings bear in a duty, and between which
// figures it lies by what is not known of the motor.
type Usable struct {
	Watts float64    `json:"watts"`
	Band  [2]float64 `json:"band_watts" nullable:"false"`
}

// Most is those watts, 0 where none are borne.
func (u *Usable) Most() float64 {
	if u == nil {
		return 0
	}
	return u.Watts
}

// Words print it as a band, in the unit of the country's motors.
func (u *Usable) Words(hertz float64) string {
	if u == nil {
		return "none"
	}
	return quantity.PowerRange(u.Band[0], u.Band[1], hertz)
}

// Usable is the most shaft power, a fifth over plate output at most, that the windings
// bear in the machine's duty; heating gives what heats at a share of plate output, ok
// false where it does not run there. Nil where none is borne.
func (m *Machine) Usable(heating func(share float64) (h motor.Heating, ok bool)) *Usable {
	return m.UsableBy(func(share float64) []motor.Spell {
		h, ok := heating(share)
		if !ok {
			return nil
		}
		return h.Work(m.Duty.OnMinutes, m.Duty.OffMinutes)
	})
}

// UsableBy is Usable by the spells of a round of the duty at a share of plate output.
func (m *Machine) UsableBy(spells func(share float64) []motor.Spell) *Usable {
	most, band := m.Thermal.MostShares(spells)
	if most == nil {
		return nil
	}
	return &Usable{Watts: *most * m.Watts(), Band: [2]float64{band[0] * m.Watts(), band[1] * m.Watts()}}
}
