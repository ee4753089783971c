package capacitor

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Accept judges a motor on its capacitors by state, each by what counts in it: standing
// by torque, idle by the hottest winding and the made leg, half and full load by the
// winding and the unbalance, and what electronics would bear.
func Accept(in Input, l *Live) []rule.Judged {
	r := newRig(in)
	r.orient()
	list := []rule.Judged{
		rule.AtLeast(
			"standing",
			"torque over the load’s",
			l.OverBreakaway,
			"capacitor.hard-start",
			"least_margin",
			"×",
		),
	}
	loaded := func(title string, s State) {
		if s.Motor != network.Running {
			list = append(list, rule.Judged{State: title, Figure: "runs", Unit: "it stalls"})
			return
		}
		list = append(
			list,
			rule.AtMost(title, "hottest winding", s.HottestPercent, "capacitor.winding-at-load", "most_percent", "%"),
			rule.AtMost(title, "legs apart", s.UnbalancePercent, "rotary.unbalance", "most_percent", "%"),
		)
	}
	if idle := l.Idle; idle.Motor == network.Running {
		list = append(
			list,
			rule.AtMost(
				"idle",
				"hottest winding",
				idle.HottestPercent,
				"capacitor.winding-at-idle",
				"most_percent",
				"%",
			),
			rule.AtMost(
				"idle",
				"made leg, of the lines",
				100*math.Max(idle.Volts.BC, idle.Volts.CA)/in.Supply.Volts,
				"capacitor.made-leg-high",
				"most_percent",
				"%",
			),
		)
	}
	loaded("half load", r.at(l.RunMicrofarad, 0.5))
	loaded("full load", l.Full)
	if l.Load.Motor == network.Running {
		list = append(
			list,
			rule.AtMost(
				"at its load",
				"legs apart, for electronics",
				l.Load.UnbalancePercent,
				"capacitor.not-for-electronics",
				"most_unbalance_percent",
				"%",
			),
		)
	}
	return list
}
