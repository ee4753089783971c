package singlephase

import (
	"math"

	"brackmoor/core/feed"
	"brackmoor/core/network"
)

// Hang is the motor of one phase as the impedance that takes its amps.
func (way) Hang(q *feed.Question, id string, share float64) (network.Circuit, error) {
	ohms := q.Supply.Volts / amps(q, share)
	return network.Circuit{ID: id + "-lines", Loads: []network.Impedance{{
		ID: id, Between: network.AB, ResistanceOhm: ohms * powerFactor,
		ReactanceOhm: ohms * math.Sqrt(1-powerFactor*powerFactor),
	}}}, nil
}
