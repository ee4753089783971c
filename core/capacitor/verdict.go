package capacitor

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// platePercent is plate amps, which no winding is to pass.
var platePercent = rule.Limit("capacitor.winding-at-load", "most_percent")

// hair is what plates round their amps by; it keeps a value that was sized to
// the limit, in standard parts, from tripping it.
var hair = rule.Limit("capacitor.winding-at-load", "rounding_percent")

// percent prints percents of plate amps, closely where they are near it.
func percent(p float64) string {
	if p < 110 {
		return quantity.Fixed(p, 1)
	}
	return quantity.Fixed(p, 0)
}

// winding names the hottest winding of a state by its lead or its pair.
func (r *rig) winding(s State) string {
	names := r.lines().Windings(r.in.Plate.Delta)
	worst := 0
	for i, p := range s.WindingPercent {
		// Of two that are alike, as on two bare legs, the first is named.
		if p > s.WindingPercent[worst]*(1+1e-9) {
			worst = i
		}
	}
	return names[worst]
}

// lines are what lines and terminals are called on its supply.
func (r *rig) lines() quantity.Lines { return quantity.LinesAt(r.in.Supply.Hertz) }

func (r *rig) power(watts float64) string { return quantity.Power(watts, r.in.Supply.Hertz) }

// verdicts judges a live state by the catalogue.
func (r *rig) verdicts(l Live) []rule.Verdict {
	var v []rule.Verdict
	say := func(id string, numbers rule.Numbers, do, format string, args ...any) {
		v = append(v, rule.Speak(id, numbers, do, format, args...))
	}
	watts := r.in.Plate.Output.Value
	switch {
	case watts > rule.Limit("capacitor.too-large", "most_watts"):
		say(
			"capacitor.too-large",
			rule.Numbers{"output_watts": watts},
			"Take an idler or a drive.",
			"%s is too large to trust to capacitors alone.",
			r.power(watts),
		)
	case watts > rule.Limit("capacitor.large", "most_watts"):
		say(
			"capacitor.large",
			rule.Numbers{"output_watts": watts},
			"Weigh an idler or a drive.",
			"%s is large for capacitors alone; above about 3 hp few trust it.",
			r.power(watts),
		)
	}
	r.startVerdicts(l, say)
	if l.OverBreakaway >= rule.Limit("capacitor.no-start", "least_margin") {
		r.startVerdictsOf(l.RunUp, l.Load, say)
	}
	v = append(v, l.Session.Thermal.Judge(l.Session.Session)...)
	r.windingVerdicts(l, say)
	plateVolts := r.in.Plate.Volts.Value * r.in.Supply.Hertz / r.in.Plate.Hertz.Value
	high := math.Max(l.Idle.Volts.BC, l.Idle.Volts.CA)
	if percent := 100 * high / plateVolts; percent > rule.Limit("capacitor.made-leg-high", "most_percent") {
		say(
			"capacitor.made-leg-high",
			rule.Numbers{"volts": high, "percent": percent},
			"Take a smaller run capacitor, or do not leave it idling.",
			"With nothing on the spindle the made leg stands at %.0f V, %.0f percent of the plate's.",
			high,
			percent,
		)
	}
	unbalance := math.Max(l.Load.UnbalancePercent, l.Idle.UnbalancePercent)
	if unbalance > rule.Limit("capacitor.not-for-electronics", "most_unbalance_percent") {
		say(
			"capacitor.not-for-electronics",
			rule.Numbers{"unbalance_percent": unbalance},
			"Feed readouts and controls from "+r.lines().Both()+".",
			"The legs differ by up to %.1f percent: nothing electronic on the made leg.",
			unbalance,
		)
	}
	return v
}

// unseenMargin is a difference that a margin as it is printed does not show.
const unseenMargin = 0.005

func (r *rig) startVerdicts(l Live, say rule.Say) {
	numbers := rule.Numbers{
		"torque_percent":    100 * l.StandingShare,
		"breakaway_percent": 100 * r.in.Load.BreakawayShare,
		"margin":            l.OverBreakaway,
	}
	switch {
	case l.OverBreakaway < rule.Limit("capacitor.no-start", "least_margin"):
		say(
			"capacitor.no-start",
			numbers,
			"More start capacitance if that raises it, a lighter start (neutral, unloaded), or an idler or drive.",
			"It makes %.0f percent of rated torque at standstill; the load asks %.0f to break away.",
			100*l.StandingShare,
			100*r.in.Load.BreakawayShare,
		)
	case l.OverBreakaway < rule.Limit("capacitor.hard-start", "least_margin")-unseenMargin:
		say(
			"capacitor.hard-start",
			numbers,
			"Raise the start capacitor, or lighten the start.",
			"Starting torque is %.2f times what the load asks; %.1f is wanted.",
			l.OverBreakaway,
			rule.Limit("capacitor.hard-start", "least_margin"),
		)
	}
	if l.CutOutRPM == 0 {
		return
	}
	alone := r.held(l.RunMicrofarad, 1-l.CutOutRPM/r.synchrony).TorqueNm * r.torqueFactor
	load := r.in.Load.Torque(r.in.Load.ComingUp(l.LoadShare), r.in.Fit.RatedNm, l.CutOutRPM, r.in.RatedRPM())
	if alone < load {
		say(
			"capacitor.start-pull-back",
			rule.Numbers{"motor_nm": alone, "load_nm": load, "rpm": l.CutOutRPM},
			"Bring it up unloaded and load it once up to speed, or raise the run capacitor.",
			"At %.0f rpm the run capacitor alone makes %.1f N·m; the load takes %.1f.",
			l.CutOutRPM,
			alone,
			load,
		)
	}
}

func (r *rig) windingVerdicts(l Live, say rule.Say) {
	stated := r.power(r.in.Plate.Output.Value)
	if l.Load.Motor != network.Running {
		say(
			"capacitor.stalls",
			rule.Numbers{"load_percent": 100 * l.LoadShare},
			"A larger run capacitor or a lighter load.",
			"At %.0f percent load no running speed is found: it stalls.",
			100*l.LoadShare,
		)
	} else if l.Load.Over {
		do := "Take another run capacitor."
		if l.RunMicrofarad == 0 {
			do = "Less load, shorter cuts, a run capacitor on it, or another route."
		}
		if l.Usable != nil && !l.Usable.ExcludesIdling(r.in.Plate.Output.Value) {
			do = "Keep the load under " + r.power(l.Usable.HighWatts) + ", or take another run capacitor."
		} else if l.Usable != nil {
			do = "Keep the load within " + quantity.PowerRange(
				l.Usable.LowWatts,
				l.Usable.HighWatts,
				r.in.Supply.Hertz,
			) + ", or take another run capacitor."
		}
		say(
			"capacitor.winding-at-load",
			rule.Numbers{"percent": l.Load.HottestPercent, "load_percent": 100 * l.LoadShare},
			do,
			"At %.0f percent load winding %s carries %s percent of plate amps.",
			100*l.LoadShare,
			r.winding(l.Load),
			percent(l.Load.HottestPercent),
		)
	}
	switch {
	case l.Usable == nil:
		say(
			"capacitor.no-usable-output",
			rule.Numbers{"run_microfarad": l.RunMicrofarad},
			"Short cuts by what its heat allows, another run capacitor, or another route.",
			"With %s µF some winding is past plate amps at every load.",
			quantity.Figures(l.RunMicrofarad, 3),
		)
	case l.Full.Motor != network.Running:
		say(
			"capacitor.winding-at-full",
			rule.Numbers{"usable_watts": l.Usable.HighWatts},
			"Keep under "+r.power(l.Usable.HighWatts)+", or take an idler or drive.",
			"It does not carry its full %s on one phase.",
			stated,
		)
	case l.Full.Over:
		say(
			"capacitor.winding-at-full",
			rule.Numbers{"percent": l.Full.HottestPercent, "usable_watts": l.Usable.HighWatts},
			"Keep under "+r.power(l.Usable.HighWatts)+", or take an idler or drive.",
			"At %s winding %s carries %s percent of plate amps.",
			stated,
			r.winding(l.Full),
			percent(l.Full.HottestPercent),
		)
	}
	if l.Idle.Motor != network.Running || l.Idle.Over {
		do := "Take a smaller run capacitor, or never leave it idling."
		if l.Usable != nil && l.Usable.ExcludesIdling(r.in.Plate.Output.Value) {
			do = "Keep at least " + r.power(
				l.Usable.LowWatts,
			) + " on it, switch it off between cuts, or take a smaller run capacitor."
		}
		say(
			"capacitor.winding-at-idle",
			rule.Numbers{"percent": l.Idle.HottestPercent},
			do,
			"With nothing on the spindle winding %s carries %s percent of plate amps.",
			r.winding(l.Idle),
			percent(l.Idle.HottestPercent),
		)
	}
}

// voltVerdicts judges the capacitors' volts.
func (a *Answer) voltVerdicts(in Input) []rule.Verdict {
	r := a.RunVolts
	if a.Live.RunMicrofarad <= 0 || r.Sees <= in.Supply.Volts {
		return nil
	}
	do := "Take " + quantity.Figures(r.Rated, 3) + " V ac or more."
	if r.Rated == 0 {
		do = "No standard part covers it: take a smaller run capacitor."
	}
	return []rule.Verdict{
		rule.Speak(
			"capacitor.volts",
			rule.Numbers{"sees_volts": r.Sees, "needed_volts": r.Needed, "rated_volts": r.Rated},
			do,
			"The run capacitor sees %.0f V where the supply is %.0f; with tolerance and margin %.0f.",
			r.Sees,
			in.Supply.Volts,
			r.Needed,
		),
	}
}
