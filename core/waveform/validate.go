package waveform

import (
	"fmt"

	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// mostSamples bounds the length of a series.
const mostSamples = 200_000

// Validate says what is wrong with a case, by JSON paths: what is wrong with its network,
// events that name no element or lie after the time asked for, too many samples. A case
// without problems can be stepped.
func (c Case) Validate() rule.Problems {
	standing := 1.0 // in time no motor is held at a slip
	n := network.Case{Supply: c.Supply.Supply, ThreePhaseLoads: c.ThreePhaseLoads}
	known := map[string]bool{SupplyID: true}
	for _, m := range c.Motors {
		if m.Load == nil {
			m.Slip = &standing
		}
		n.Motors = append(n.Motors, m.Motor)
		known[m.ID] = true
	}
	for _, p := range c.Capacitors {
		n.Capacitors = append(n.Capacitors, p.Capacitor)
		known[p.ID] = true
	}
	for _, p := range c.Loads {
		n.Loads = append(n.Loads, p.Impedance)
		known[p.ID] = true
	}
	fixed := map[string]bool{}
	for _, p := range c.ThreePhaseLoads {
		fixed[p.ID] = true
	}
	problems := n.Validate()
	for i, m := range c.Motors {
		problems.Positive(fmt.Sprintf("$.motors[%d].inertia_kgm2", i), m.InertiaKgm2)
	}
	for i, e := range c.Events {
		at := fmt.Sprintf("$.events[%d]", i)
		if fixed[e.Switch] {
			problems.Say(at+".switch", "%q is a three-phase load: those stay as they are in time", e.Switch)
		} else if !known[e.Switch] {
			problems.Say(at+".switch", "%q names no element", e.Switch)
		}
		if e.AtSeconds > c.DurationSeconds {
			problems.Say(at+".at_s", "lies after duration_s")
		}
	}
	problems.Positive("$.duration_s", c.DurationSeconds)
	if c.SampleSeconds > 0 && c.DurationSeconds/c.SampleSeconds > mostSamples {
		problems.Say("$.sample_s", "gives more than %d samples", mostSamples)
	}
	return problems
}
