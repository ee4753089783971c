package rotary

import (
	"fmt"
	"math"

	"brackmoor/core/load"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
)

// schools are the idler's size over the hardest-starting motor's, as practitioners have
// it.
var schools = []School{{Title: "as large as the motor", Times: 1}, {Title: "1.25 times", Times: 1.25}, {Title: "1.5 times", Times: 1.5}, {Title: "twice", Times: 2}}

// Size sizes a rotary converter.
func Size(in Input) (Answer, error) {
	if in.BreakawayFactor == 0 {
		in.BreakawayFactor = 1
	}
	a := Answer{Schools: []School{}, States: []State{}, Verdicts: []rule.Verdict{}}
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
	a.BalanceAC, a.BalanceBC = r.ac, r.bc
	a.States = append(a.States, r.at("idler alone", -1), r.at("machine idle", 0), r.at(fmt.Sprintf("at %.0f %% load", 100*in.LoadShare), in.LoadShare), r.at("at full output", 1))
	a.StartMargin, a.StartAmps = r.standing()
	if run, err := r.start(); err == nil {
		a.StartSeconds, a.StartLowest = run.Motors[1].TimeTo90, math.Min(run.LowestVolts.BC, run.LowestVolts.CA)
		a.StartAmps = math.Max(a.StartAmps, run.PeakSupplyAmps)
	}
	a.Idler = r.startIdler()
	a.IdleWatts = a.States[0].SupplyWatts
	a.IdlePerDay = a.IdleWatts / 1000 * in.HoursPerDay * in.Tariff
	a.UsableWatts = r.usable()
	r.judge(&a)
	return a, nil
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

// startIdler sizes the idler's own start capacitor: the least of a row that brings it up
// in time from standstill.
func (r *rig) startIdler() Idler {
	synchronous := 120 * r.in.Supply.Hertz / float64(r.idler.Poles)
	drag := load.Curve{NewtonMetre: 0.02 * r.amps, AtRPM: synchronous, BreakawayNm: 0.03 * r.amps} // bearings and seals
	out := Idler{CutOutRPM: 0.78 * synchronous}
	for _, times := range []float64{1, 1.5, 2, 3, 4, 6, 8} {
		out.StartMicrofarad = math.Round(times * math.Max(r.ac, 20))
		c := startup.Case{Supply: r.in.Supply, Motors: []startup.Motor{{Motor: r.idler, Shaft: &drag}}}
		for _, p := range r.capacitors() {
			c.Capacitors = append(c.Capacitors, startup.Capacitor{Capacitor: p})
		}
		c.Capacitors = append(c.Capacitors, startup.Capacitor{Capacitor: network.Capacitor{ID: "start", Between: network.AC, Microfarad: out.StartMicrofarad},
			Out: &startup.Out{By: startup.BySpeed, At: out.CutOutRPM}})
		run, err := startup.Run(c)
		if err != nil {
			continue
		}
		out.Seconds, out.PeakSupplyAmps, out.TimerSeconds = run.Motors[0].TimeTo90, run.PeakSupplyAmps, nil
		if last := run.Capacitors[len(run.Capacitors)-1]; last.OutSeconds != nil {
			out.TimerSeconds = new(1.3 * *last.OutSeconds)
		}
		if out.Seconds != nil && *out.Seconds <= inTime {
			break
		}
	}
	return out
}

// inTime is the time in seconds in which an idler is to come up.
const inTime = 3.0

// usable is the most shaft power with no winding of the machine past plate amps, and the
// idler within its own.
func (r *rig) usable() *float64 {
	good := func(share float64) bool {
		s := r.at("", share)
		return s.Runs && s.IdlerStandsFast && s.HottestPercent <= 100.5 && s.IdlerPercent <= 100.5
	}
	if good(1) {
		return new(r.in.Plate.Output.Value)
	}
	low, high := 0.0, 1.0
	if !good(0.02) {
		return nil
	}
	for range 10 {
		if middle := (low + high) / 2; good(middle) {
			low = middle
		} else {
			high = middle
		}
	}
	return new(low * r.in.Plate.Output.Value)
}

func (r *rig) judge(a *Answer) {
	say := func(id string, numbers rule.Numbers, do, format string, args ...any) {
		a.Verdicts = append(a.Verdicts, rule.Speak(id, numbers, do, format, args...))
	}
	power := func(watts float64) string { return quantity.Power(watts, r.in.Supply.Hertz) }
	loaded := a.States[2]
	switch least := rule.Limit("rotary.hard-start", "least_margin"); {
	case !a.ModelReached && r.in.IdlerWatts == nil:
		say("rotary.none", rule.Numbers{"idler_watts": a.ModelWatts}, "Another route for this machine.", "Not even an idler of %s starts and carries it within limits.", power(a.ModelWatts))
	case a.StartMargin < 1 || a.StartSeconds == nil:
		say("rotary.no-start", rule.Numbers{"margin": a.StartMargin}, "An idler of "+power(a.ModelWatts)+" or more.", "On an idler of %s it makes %.2f times what the load takes to break away.", power(a.IdlerWatts), a.StartMargin)
	case a.StartMargin < least:
		say("rotary.hard-start", rule.Numbers{"margin": a.StartMargin}, "A larger idler.", "Starting torque is %.2f times what the load asks; %.1f is wanted.", a.StartMargin, least)
	}
	if loaded.Unbalance > rule.Limit("rotary.unbalance", "most_percent") {
		say("rotary.unbalance", rule.Numbers{"percent": loaded.Unbalance}, "A larger idler, or other capacitors.", "At its load the legs differ by %.1f percent.", loaded.Unbalance)
	}
	if a.IdlerWatts < a.ModelWatts && a.ModelReached {
		say("rotary.idler-small", rule.Numbers{"idler_watts": a.IdlerWatts, "model_watts": a.ModelWatts}, "Take "+power(a.ModelWatts)+".", "An idler of %s is smaller than the %s that the model asks.", power(a.IdlerWatts), power(a.ModelWatts))
	}
	for _, s := range a.States {
		if s.IdlerPercent > 100.5 {
			say("rotary.idler-hot", rule.Numbers{"percent": s.IdlerPercent}, "A larger idler, or smaller capacitors.", "With %s one line of the idler carries %.0f percent of its plate amps.", s.Title, s.IdlerPercent)
			break
		}
	}
	a.Verdicts = rule.Sorted(append(a.Verdicts, rule.Standing("rotary.guard"), rule.Standing("rotary.made-leg"), rule.Standing("rotary.rope")))
}
