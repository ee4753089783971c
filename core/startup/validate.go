package startup

import (
	"fmt"

	"brackmoor/core/rule"
)

// Validate says what is wrong with a case, by JSON paths: what is wrong with its network,
// with the motors that capacitors and pony name, with how motors begin. A case without
// problems can be followed.
func (c Case) Validate() rule.Problems {
	n := c.network()
	standing := 1.0
	motors := map[string]bool{"": true}
	var problems rule.Problems
	for i, m := range c.Motors {
		m.Slip, m.Load = &standing, nil
		n.Motors = append(n.Motors, m.Motor)
		motors[m.ID] = true
		at := fmt.Sprintf("$.motors[%d]", i)
		problems.Positive(at+".inertia_kgm2", m.InertiaKgm2)
		if m.Running && m.InitialRPM != 0 {
			problems.Say(at, "running and initial_rpm are not for the same motor: a running one has the speed it finds")
		}
	}
	for i, p := range c.Capacitors {
		n.Capacitors = append(n.Capacitors, p.Capacitor)
		if p.Out == nil {
			continue
		}
		at := fmt.Sprintf("$.capacitors[%d].out", i)
		if !motors[p.Out.Motor] {
			problems.Say(at+".motor", "%q names no motor", p.Out.Motor)
		}
		if p.Out.BackAt > 0 && (p.Out.By != ByVolts || p.Out.BackAt >= p.Out.At) {
			problems.Say(at+".back_at", "is for volts, and below at")
		}
	}
	if p := c.Pony; p != nil {
		switch {
		case p.SynchronousRPM <= p.RPM:
			problems.Say("$.pony.synchronous_rpm", "must be above rpm")
		case len(c.Motors) > 0 && (c.Motors[0].Running || c.Motors[0].InitialRPM != 0):
			problems.Say("$.motors[0]", "is brought up by the pony: it neither runs nor turns before")
		}
	}
	return append(problems, n.Validate()...)
}
