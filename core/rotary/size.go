package rotary

import (
	"fmt"
	"math"

	"brackmoor/core/capacitor"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/search"
	"brackmoor/core/startup"
)

// schools are the idler's size over the hardest-starting motor's, as practitioners have
// it.
var schools = []School{
	{Title: "as large as the motor", Times: 1},
	{Title: "1.25 times", Times: 1.25},
	{Title: "1.5 times", Times: 1.5},
	{Title: "twice", Times: 2},
}

// Size sizes a rotary converter.
func Size(in Input) (Answer, error) {
	a := Answer{
		Schools:  []School{},
		States:   []State{},
		Starts:   []Start{},
		Accept:   []rule.Judged{},
		Verdicts: []rule.Verdict{},
	}
	ref, err := referenceIdler(in.Supply.Volts, in.Supply.Hertz)
	if err != nil {
		return a, err
	}
	ratings := Ratings(in.Supply.Hertz)
	watts := in.Plate.Output.Value
	for _, s := range schools {
		s.Watts = ratings[len(ratings)-1]
		for _, r := range ratings {
			if r >= 0.98*s.Times*watts {
				s.Watts = r
				break
			}
		}
		a.Schools = append(a.Schools, s)
	}
	a.ModelWatts = ratings[len(ratings)-1]
	for _, rating := range ratings {
		if rating < 0.4*watts {
			continue
		}
		r := newRig(in, ref, rating)
		r.balance()
		if r.does() {
			a.ModelWatts, a.ModelReached = rating, true
			break
		}
	}
	a.IdlerWatts = a.ModelWatts
	if in.IdlerWatts != nil {
		a.IdlerWatts = *in.IdlerWatts
	}
	r := newRig(in, ref, a.IdlerWatts)
	a.ClosedAC, a.ClosedBC = r.closed(-1)
	r.balance()
	r.tune()
	a.TunedAC, a.TunedBC = r.ac, r.bc
	r.choose()
	r.states(&a)
	if run, err := r.start(0); err == nil {
		a.StartSeconds, a.StartLowest = run.Motors[1].TimeTo90, math.Min(run.LowestVolts.BC, run.LowestVolts.CA)
		a.StartAmps = math.Max(a.StartAmps, run.PeakSupplyAmps)
	}
	up := r.startWays(&a)
	a.Banks = r.banks(&a, up)
	a.IdlePerDay = a.IdleWatts / 1000 * in.HoursPerDay * in.Tariff
	a.UsableWatts, a.DutyWatts = r.usable(), r.forDuty()
	a.Electronics = Electronics{
		Pair:       "a and b",
		Idle:       a.States[0].Unbalance,
		Load:       a.States[2].Unbalance,
		Dip:        100 * (1 - a.StartLowest/in.Supply.Volts),
		DipSeconds: a.StartSeconds,
	}
	a.Transformer = plate.TransformerFor(in.Plate, plate.Supply{Volts: in.Supply.Volts, Hertz: in.Supply.Hertz})
	r.judge(&a)
	return a, nil
}

// Try is the part of it that follows the hand, for an idler and its capacitors that are
// all given: the states of work and the torque standing.
func Try(in Input) (Answer, error) {
	a := Answer{
		Schools:      []School{},
		States:       []State{},
		Starts:       []Start{},
		Verdicts:     []rule.Verdict{},
		IdlerWatts:   *in.IdlerWatts,
		ModelReached: true,
	}
	ref, err := referenceIdler(in.Supply.Volts, in.Supply.Hertz)
	if err != nil {
		return a, err
	}
	r := newRig(in, ref, a.IdlerWatts)
	r.choose()
	r.states(&a)
	a.Banks = r.banks(&a, startup.Result{})
	return a, nil
}

// banks makes up the capacitors of parts, for the highest volts of the states of work and,
// where they start it, of the idler's way up.
func (r *rig) banks(a *Answer, up startup.Result) Banks {
	var ca, bc, start float64
	for _, s := range a.States {
		ca, bc = math.Max(ca, s.Volts.CA), math.Max(bc, s.Volts.BC)
	}
	for _, p := range up.Points {
		start = math.Max(start, p.Volts.CA)
	}
	return Banks{
		capacitor.RunBank(a.BalanceAC, ca, r.in.Supply),
		capacitor.RunBank(a.BalanceBC, bc, r.in.Supply),
		capacitor.StartBank(a.Idler.StartMicrofarad, start, r.in.Supply),
	}
}

// choose puts what somebody chose in the place of what was tuned.
func (r *rig) choose() {
	for _, c := range []struct{ to, typed *float64 }{{&r.ac, r.in.BalanceAC}, {&r.bc, r.in.BalanceBC}} {
		if c.typed != nil {
			*c.to = *c.typed
		}
	}
}

// states fills in the states of work and the torque standing.
func (r *rig) states(a *Answer) {
	share := r.in.Share()
	a.BalanceAC, a.BalanceBC, a.LoadShare = r.ac, r.bc, share
	a.States = append(
		a.States,
		r.at("idler alone", -1),
		r.at("machine idle", 0),
		r.at(fmt.Sprintf("at %.0f %% load", 100*share), share),
		r.at("at full output", 1),
	)
	a.StartMargin, a.StartAmps = r.standing()
	a.IdleWatts = a.States[0].SupplyWatts
	a.Accept = r.accept(a.States)
}

// accept judges each state by what counts in it: idle by the hottest winding and the
// made leg, loaded by the winding and the unbalance.
func (r *rig) accept(states []State) []rule.Judged {
	list := []rule.Judged{}
	for i, s := range states {
		if !s.Runs || !s.IdlerRuns {
			list = append(list, rule.Judged{State: s.Title, Figure: "runs", Unit: "no"})
			continue
		}
		made := 100 * max(s.Volts.BC, s.Volts.CA) / r.in.Supply.Volts
		list = append(
			list,
			rule.AtMost(
				s.Title,
				"idler, hottest line",
				s.IdlerPercent,
				"capacitor.winding-at-full",
				"most_percent",
				"%",
			),
		)
		if i > 0 {
			list = append(
				list,
				rule.AtMost(
					s.Title,
					"machine, hottest winding",
					s.HottestPercent,
					"capacitor.winding-at-full",
					"most_percent",
					"%",
				),
			)
		}
		if i < 2 {
			list = append(
				list,
				rule.AtMost(s.Title, "made leg, of the lines", made, "capacitor.made-leg-high", "most_percent", "%"),
			)
		} else {
			list = append(
				list,
				rule.AtMost(s.Title, "legs apart", s.Unbalance, "rotary.unbalance", "most_percent", "%"),
			)
		}
	}
	return list
}

// tune looks for the two capacitors of least cost from the closed forms on, by a pattern
// search (Hooke and Jeeves).
func (r *rig) tune() {
	cost := func(ac, bc float64) float64 {
		if ac < 0 || bc < 0 {
			return math.Inf(1)
		}
		r.ac, r.bc = ac, bc
		return r.cost()
	}
	ac, bc := r.ac, r.bc
	best := cost(ac, bc)
	for step := 0.3 * math.Max(ac, 10); step > 0.02*math.Max(ac, 10); {
		moved := false
		for _, d := range [][2]float64{{step, 0}, {-step, 0}, {0, step}, {0, -step}} {
			if value := cost(ac+d[0], bc+d[1]); value < best {
				ac, bc, best, moved = ac+d[0], bc+d[1], value, true
			}
		}
		if !moved {
			step /= 2
		}
	}
	r.ac, r.bc = math.Round(ac), math.Round(bc)
}

// bearable is the percent of plate amps that a winding bears, rounding allowed for.
var bearable = rule.Limit(
	"capacitor.winding-at-load",
	"most_percent",
) + rule.Limit(
	"capacitor.winding-at-load",
	"rounding_percent",
)

// usable is the most shaft power with no winding of the machine past plate amps, and the
// idler within its own.
func (r *rig) usable() *float64 {
	good := func(share float64) bool {
		s := r.at("", share)
		return s.Runs && s.IdlerRuns && !s.MachineOver && !s.IdlerOver
	}
	if good(1) {
		return new(r.in.Plate.Output.Value)
	}
	if !good(0.02) {
		return nil
	}
	return new(search.Edge(0, 1, 10, good) * r.in.Plate.Output.Value)
}

// forDuty is the most shaft power that the machine's windings bear in its duty, the idler
// within its plate amps.
func (r *rig) forDuty() *float64 {
	return r.in.DutyWatts(func(share float64) (motor.Heating, bool) {
		s := r.at("", share)
		return s.heating, s.Runs && s.IdlerRuns && !s.IdlerOver
	})
}

func (r *rig) judge(a *Answer) {
	say := func(id string, numbers rule.Numbers, do, format string, args ...any) {
		a.Verdicts = append(a.Verdicts, rule.Speak(id, numbers, do, format, args...))
	}
	power := func(watts float64) string { return quantity.Power(watts, r.in.Supply.Hertz) }
	loaded := a.States[2]
	switch least := rule.Limit("rotary.hard-start", "least_margin"); {
	case !a.ModelReached && r.in.IdlerWatts == nil:
		say(
			"rotary.none",
			rule.Numbers{"idler_watts": a.ModelWatts},
			"Another route for this machine.",
			"Not even an idler of %s starts and carries it within limits.",
			power(a.ModelWatts),
		)
	case a.StartMargin < 1 || a.StartSeconds == nil:
		say(
			"rotary.no-start",
			rule.Numbers{"margin": a.StartMargin},
			"An idler of "+power(a.ModelWatts)+" or more.",
			"On an idler of %s it makes %.2f times what the load takes to break away.",
			power(a.IdlerWatts),
			a.StartMargin,
		)
	case a.StartMargin < least:
		say(
			"rotary.hard-start",
			rule.Numbers{"margin": a.StartMargin},
			"A larger idler.",
			"Starting torque is %.2f times what the load asks; %.1f is wanted.",
			a.StartMargin,
			least,
		)
	}
	switch full := a.States[3]; {
	case loaded.Runs && loaded.MachineOver:
		say(
			"capacitor.winding-at-load",
			rule.Numbers{"percent": loaded.HottestPercent, "load_percent": 100 * a.LoadShare},
			"A larger idler, other capacitors, or less load.",
			"At %.0f percent load its hottest winding carries %.0f percent of plate amps.",
			100*a.LoadShare,
			loaded.HottestPercent,
		)
	case full.Runs && full.MachineOver && a.UsableWatts != nil:
		say(
			"capacitor.winding-at-full",
			rule.Numbers{"percent": full.HottestPercent, "usable_watts": *a.UsableWatts},
			"Keep under "+power(*a.UsableWatts)+", or take a larger idler.",
			"At full output its hottest winding carries %.0f percent of plate amps.",
			full.HottestPercent,
		)
	}
	if loaded.Unbalance > rule.Limit("rotary.unbalance", "most_percent") {
		say(
			"rotary.unbalance",
			rule.Numbers{"percent": loaded.Unbalance},
			"A larger idler, or other capacitors.",
			"At its load the legs differ by %.1f percent.",
			loaded.Unbalance,
		)
	}
	if a.IdlerWatts < a.ModelWatts && a.ModelReached {
		say(
			"rotary.idler-small",
			rule.Numbers{"idler_watts": a.IdlerWatts, "model_watts": a.ModelWatts},
			"Take "+power(a.ModelWatts)+".",
			"An idler of %s is smaller than the %s that the model asks.",
			power(a.IdlerWatts),
			power(a.ModelWatts),
		)
	}
	for _, s := range a.States {
		if s.IdlerOver {
			say(
				"rotary.idler-hot",
				rule.Numbers{"percent": s.IdlerPercent},
				"A larger idler, or smaller capacitors.",
				"With %s one line of the idler carries %.0f percent of its plate amps.",
				s.Title,
				s.IdlerPercent,
			)
			break
		}
	}
	a.Verdicts = rule.Sorted(
		append(
			a.Verdicts,
			rule.Standing("rotary.guard"),
			rule.Standing("rotary.made-leg"),
			rule.Standing("rotary.load-last"),
			rule.Standing("rotary.noise"),
			rule.Standing("rotary.rope"),
		),
	)
}
