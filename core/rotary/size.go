package rotary

import (
	"fmt"
	"math"

	"brackmoor/core/capacitor"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
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
	for _, s := range schools {
		s.Watts = standard(s.Times*in.Plate.Output.Value, in.Supply.Hertz)
		a.Schools = append(a.Schools, s)
	}
	chosen, rung, err := usual(in, ref)
	if err != nil {
		return a, err
	}
	a.ModelWatts, a.ModelReached, a.ModelFull = rung.Watts, rung.Fits, rung.Full
	a.IdlerWatts = a.ModelWatts
	r := chosen
	if in.IdlerWatts != nil && *in.IdlerWatts != a.ModelWatts {
		a.IdlerWatts = *in.IdlerWatts
		r = newRig(in, ref, a.IdlerWatts)
		r.tune()
	}
	a.ClosedAC, a.ClosedBC = r.closed(-1)
	a.TunedAC, a.TunedBC = r.ac, r.bc
	r.choose()
	r.states(&a)
	if run, err := r.start(0); err == nil {
		a.StartSeconds, a.StartLowest = run.Motors[1].TimeTo90, math.Min(run.LowestVolts.BC, run.LowestVolts.CA)
		a.StartAmps = math.Max(a.StartAmps, in.Mains(run.PeakSupplyAmps))
	}
	up := r.startWays(&a)
	a.Banks = r.banks(&a, up)
	a.IdlePerDay = a.IdleWatts / 1000 * in.HoursPerDay * in.Tariff
	a.UsableWatts, a.FactorWatts, a.Duty = r.usable(1), r.usable(r.factor()), r.forDuty()
	a.Electronics = Electronics{
		Pair:       quantity.LinesAt(in.Supply.Hertz).Both(),
		Idle:       a.States[0].Unbalance,
		Load:       a.States[2].Unbalance,
		Dip:        100 * (1 - a.StartLowest/in.Supply.Volts),
		DipSeconds: a.StartSeconds,
	}
	a.Transformer = in.Step
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
		AC:       capacitor.RunBank(a.BalanceAC, ca, r.in.Supply),
		BC:       capacitor.RunBank(a.BalanceBC, bc, r.in.Supply),
		SecondAC: capacitor.RunBank(r.second[0], ca, r.in.Supply),
		SecondBC: capacitor.RunBank(r.second[1], bc, r.in.Supply),
		Start:    capacitor.StartBank(a.Idler.StartMicrofarad, start, r.in.Supply),
	}
}

// choose puts what somebody chose in the place of what was tuned.
func (r *rig) choose() {
	switched := []struct{ to, typed *float64 }{{&r.second[0], r.in.SecondAC}, {&r.second[1], r.in.SecondBC}}
	if r.in.Balance != Switched {
		switched = nil
	}
	for _, c := range append(switched, []struct{ to, typed *float64 }{
		{&r.ac, r.in.BalanceAC}, {&r.bc, r.in.BalanceBC}}...) {
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
	if r.in.Balance == Switched {
		a.Second = r.leftIn(a.States)
	}
	a.StartMargin, a.StartAmps = r.standing()
	a.IdleWatts = a.States[0].SupplyWatts
	a.Accept = r.accept(a.States)
}

// leftIn is the second bank, and what it does where it is left in with nothing cut.
func (r *rig) leftIn(states []State) *Second {
	out := &Second{AC: r.second[0], BC: r.second[1], IdleAmps: states[1].LineAmps, LoadAmps: states[2].LineAmps}
	all := *r
	all.ac, all.bc = r.ac+r.second[0], r.bc+r.second[1]
	for _, share := range []float64{-1, 0} {
		s := all.at("", share)
		out.LeftIn = math.Max(out.LeftIn, 100*max(s.Volts.BC, s.Volts.CA)/r.plateVolts())
		out.LeftInIdler = math.Max(out.LeftInIdler, s.IdlerPercent)
	}
	return out
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
		made := 100 * max(s.Volts.BC, s.Volts.CA) / r.plateVolts()
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
				rule.AtMost(s.Title, "made leg, of plate volts", made, "capacitor.made-leg-high", "most_percent", "%"),
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

// bearable is the percent of plate amps that a winding bears, rounding allowed for.
var bearable = rule.Limit(
	"capacitor.winding-at-load",
	"most_percent",
) + rule.Limit(
	"capacitor.winding-at-load",
	"rounding_percent",
)

// loads is in how many steps the output left is looked for: it may be none with nothing on
// the shaft, where the made leg stands high, and full at full output.
const loads = 20

// usable is the most shaft power with no winding of the machine past so many times plate
// amps, and the idler within its own.
func (r *rig) usable(factor float64) *float64 {
	good := func(share float64) bool {
		s := r.at("", share)
		return s.Runs && s.IdlerRuns && !s.IdlerOver && s.HottestPercent <= factor*bearable
	}
	for k := loads; k > 0; k-- {
		if share := float64(k) / loads; good(share) {
			if k < loads {
				share = search.Edge(share, share+1.0/loads, 6, good)
			}
			return new(share * r.in.Plate.Output.Value)
		}
	}
	return nil
}

// factor is the plate's service factor.
func (r *rig) factor() float64 { return math.Max(1, r.in.Plate.ServiceFactor.Value) }

// forDuty is the most shaft power that the machine's windings bear in its duty, the idler
// within its plate amps.
func (r *rig) forDuty() *machine.Usable {
	return r.in.Usable(func(share float64) (motor.Heating, bool) {
		s := r.at("", share)
		return s.heating, s.Runs && s.IdlerRuns && !s.IdlerOver
	})
}

// watts are those of a figure that may be none.
func watts(figure *float64) float64 {
	if figure == nil {
		return 0
	}
	return *figure
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
	most := max(watts(a.FactorWatts), a.Duty.Most())
	switch full := a.States[3]; {
	case loaded.Runs && !r.bears(loaded, a.LoadShare):
		say(
			"capacitor.winding-at-load",
			rule.Numbers{"percent": loaded.HottestPercent, "load_percent": 100 * a.LoadShare},
			"A larger idler, other capacitors, or less load.",
			"At %.0f percent load its hottest winding carries %.0f percent of plate amps.",
			100*a.LoadShare,
			loaded.HottestPercent,
		)
	case full.Runs && !r.bears(full, 1) && most > 0:
		say(
			"capacitor.winding-at-full",
			rule.Numbers{"percent": full.HottestPercent, "usable_watts": most},
			"Keep under "+power(most)+", or take a larger idler.",
			"At full output its hottest winding carries %.0f percent of plate amps, more than service factor and heat "+
				"bear.",
			full.HottestPercent,
		)
	}
	if made := 100 * max(a.States[0].Volts.BC, a.States[0].Volts.CA) / r.plateVolts(); made > mostMade+madeRounding {
		say(
			"capacitor.made-leg-high",
			rule.Numbers{"volts": made * r.plateVolts() / 100, "percent": made},
			"Smaller balance capacitors, or ones that come in with the load.",
			"With the idler alone the made leg stands at %.0f V, %.0f percent of the plate's.",
			made*r.plateVolts()/100,
			made,
		)
	}
	if s := a.Second; s != nil && s.AC+s.BC > 0 {
		say(
			"rotary.second-bank",
			rule.Numbers{"left_in_percent": s.LeftIn, "left_in_idler_percent": s.LeftInIdler},
			"A contactor for capacitors, by a relay in the machine's line or by its own contactor; bleeds that "+
				"discharge the bank before it comes in again.",
			"Left in with nothing cut it puts the made leg at %.0f percent of plate volts and the idler at %.0f of "+
				"plate amps.",
			s.LeftIn,
			s.LeftInIdler,
		)
	}
	if r.in.IdlerWatts == nil && a.ModelReached && !a.ModelFull {
		say(
			"rotary.part-output",
			rule.Numbers{"idler_watts": a.ModelWatts, "usable_watts": most},
			"See what larger idlers and other capacitors leave, or take a drive.",
			"No idler of a usual size leaves the whole output with its capacitors so chosen; %s leaves most, %s.",
			power(a.ModelWatts),
			power(most),
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
