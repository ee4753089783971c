package feed

import (
	"brackmoor/core/machine"
	"brackmoor/core/network"
)

// Loaded is a machine's motor in a network, doing a share of its plate output.
func Loaded(m *machine.Machine, id string, share float64) network.Motor {
	motor := m.NetworkMotor(id)
	motor.Load = &network.Load{Kind: "power", Watts: share * m.Watts()}
	return motor
}

// AcrossLines is a motor with what hangs beside it across lines of its own, behind the transformer
// that it stands behind.
func AcrossLines(m *machine.Machine, id string, share float64) network.Circuit {
	c := network.Circuit{ID: id + "-lines", Motors: []network.Motor{Loaded(m, id, share)}}
	if m.Step != nil {
		c.Transformer = m.Step.Winding()
	}
	return c
}

// Joined puts a capacitor across two lines where it has microfarads.
func Joined(c *network.Circuit, id string, between network.Pair, microfarad float64) {
	if microfarad > 0 {
		c.Capacitors = append(c.Capacitors, network.Capacitor{ID: id, Between: between, Microfarad: microfarad})
	}
}
