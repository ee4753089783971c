package startup

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Coming is how a motor came up: where its speed was when it was followed no longer, and
// the seconds to nine tenths of it, nil where it was never there.
type Coming struct {
	Who      string // begins the sentence
	State    string
	RPM      float64
	Seconds  *float64
	Followed float64 // seconds
}

// Help is what to do where a motor hangs, is still rising or takes too long.
type Help struct{ Hangs, Rising, Slow string }

// Judge says what a motor must not come up by.
func (c Coming) Judge(help Help, say rule.Say) {
	rpm := math.Abs(c.RPM)
	switch {
	case c.State == network.Crawling, c.State == network.Stalled:
		say("start.crawls", rule.Numbers{"rpm": rpm}, help.Hangs, "%s hangs at %.0f rpm.", c.Who, rpm)
	case c.State == Rising:
		say("start.slow", rule.Numbers{"seconds": c.Followed}, help.Rising,
			"%s is still at %.0f rpm after %.0f s.", c.Who, rpm, c.Followed)
	case c.Seconds != nil && *c.Seconds > rule.Limit("start.slow", "most_seconds"):
		say("start.slow", rule.Numbers{"seconds": *c.Seconds}, help.Slow,
			"%s takes %.1f s to come up.", c.Who, *c.Seconds)
	}
}

// judge says what a start must not pass without.
func judge(c Case, r *Result) []rule.Verdict {
	verdicts := []rule.Verdict{}
	say := func(id string, numbers rule.Numbers, do, format string, args ...any) {
		verdicts = append(verdicts, rule.Speak(id, numbers, do, format, args...))
	}
	for i, m := range r.Motors {
		carried := c.Motors[i].Running
		switch {
		case m.State == network.Stalled && !carried:
			first := r.Points[0].Motors[i]
			say(
				"start.stands",
				rule.Numbers{"torque_nm": first.TorqueNm, "load_nm": first.LoadNm},
				"More start capacitance, a lighter start, or a larger idler.",
				"%s does not break away: it makes %.1f N·m where %.1f are asked.",
				m.ID,
				math.Abs(first.TorqueNm),
				first.LoadNm,
			)
		default:
			help := Help{
				Hangs: "Leave the start capacitor in longer, lighten the load while it comes up, or take a larger " +
					"idler.",
				Rising: "A lighter load or more torque.",
				Slow:   "A lighter load or more torque; see that the overload relay's class lets it.",
			}
			up := Coming{Who: m.ID, State: m.State, RPM: m.FinalRPM, Seconds: m.TimeTo90, Followed: r.Seconds}
			if carried {
				help.Hangs = "A larger idler, or start this machine before the others are loaded."
				up.Seconds = nil
			}
			up.Judge(help, say)
		}
	}
	for _, p := range r.Capacitors {
		if p.Again > 1 {
			say(
				"start.relay-chatters",
				rule.Numbers{"times": float64(p.Again)},
				"Set the relay higher, its return lower, or take a larger idler.",
				"%s comes in again %d times.",
				p.ID,
				p.Again,
			)
		}
	}
	carries := false
	for _, m := range c.Motors {
		carries = carries || m.Running
	}
	if carries {
		lowest := math.Min(r.LowestVolts.BC, r.LowestVolts.CA)
		percent := 100 * lowest / (c.Supply.Volts * ratio(c.Supply))
		if percent < rule.Limit("start.dip", "least_percent") {
			say(
				"start.dip",
				rule.Numbers{"volts": lowest, "percent": percent},
				"Nothing electronic and no holding coil on the made leg; a larger idler dips less.",
				"While it starts the made leg dips to %.0f V, %.0f percent of the lines.",
				lowest,
				percent,
			)
		}
	}
	if s := r.Spin; s != nil {
		name := c.Motors[0].ID
		switch {
		case s.Capacitors != "" && s.Capacitors != s.Given:
			end := "it stops and turns as they do"
			if s.Ends == s.Given {
				end = "it keeps turning as it was spun"
			} else if s.Ends == "" {
				end = "it gets up in neither sense"
			}
			say(
				"start.spin-against-capacitors",
				nil,
				"Spin it the way the capacitors turn it, or move them to the other line.",
				"%s is spun %s while its capacitors turn it %s: %s.",
				name,
				s.Given,
				s.Capacitors,
				end,
			)
		case s.Ends != "" && s.Other != "" && s.Ends != s.Other:
			say(
				"start.follows-spin",
				nil,
				"Mark the sense at the belt, and prove the sequence before any machine is switched in.",
				"%s ends up turning %s because it was spun so; spun the other way it turns the other way.",
				name,
				s.Given,
			)
		}
	}
	if p := r.Pony; p != nil && (p.PullInRPM == nil || math.Abs(p.RPM) < *p.PullInRPM) {
		numbers, needs := rule.Numbers{"rpm": math.Abs(p.RPM)}, "it pulls itself up from no speed"
		if p.PullInRPM != nil {
			numbers["pull_in_rpm"], needs = *p.PullInRPM, "at least "+rpm(*p.PullInRPM)+" is needed"
		}
		say(
			"start.pony-too-slow",
			numbers,
			"Another belt ratio, or a larger pony motor.",
			"The pony brings %s to %s; %s.",
			c.Motors[0].ID,
			rpm(math.Abs(p.RPM)),
			needs,
		)
	}
	return verdicts
}

func rpm(n float64) string { return quantity.Figures(n, 4) + " rpm" }

func ratio(s network.Supply) float64 {
	if s.Transformer != nil {
		return s.Transformer.Ratio
	}
	return 1
}
