package rotary

import (
	"math"

	"brackmoor/core/machine"
	"brackmoor/core/rule"
)

// Rung is one standard idler beside the others, its capacitors tuned for what they are to
// be for. Usable are the machine's shaft watts by plate amps, by service factor and by the
// heat of its duty, nil for none.
type Rung struct {
	Watts        float64         `json:"watts"`
	Times        float64         `json:"times"` // the machine's output
	AC           float64         `json:"ac_microfarad"`
	BC           float64         `json:"bc_microfarad"`
	ByAmps       *float64        `json:"usable_watts"`
	ByFactor     *float64        `json:"usable_by_factor_watts"`
	ByHeat       *machine.Usable `json:"usable_for_duty"`
	FullPercent  float64         `json:"full_percent"`    // its hottest winding at full output, 0 where it stalls
	IdlerPercent float64         `json:"idler_percent"`   // the idler's own, in its worst state
	IdleMade     float64         `json:"idle_made_volts"` // of the made leg, nothing else running
	LoadMade     float64         `json:"load_made_volts"` // at full output
	IdleWatts    float64         `json:"idle_watts"`
	StartMargin  float64         `json:"start_margin"`
	StartSeconds *float64        `json:"start_seconds"`
	Fits         bool            `json:"fits"` // starts the machine and carries the load meant
	Full         bool            `json:"full"` // leaves the whole output, by service factor or heat
	Usual        bool            `json:"usual"`
	Taken        bool            `json:"taken"`
}

// best is the larger of what is left by service factor and by heat, at most the output.
func (g Rung) best(output float64) float64 {
	return math.Min(math.Max(watts(g.ByFactor), g.ByHeat.Most()), output)
}

// How large idlers are looked at, times the machine's output: the usual choice is no larger
// than twice, or three times for a hard start; shown are those up to the next standard one of
// three times.
const (
	leastTimes = 1
	usualTimes = 2
	mostTimes  = 3
)

// nearly is what a standard motor may fall short of a figure by.
const nearly = 0.98

// standard is the next standard idler for so many watts, the largest where there is none.
func standard(watts, hertz float64) float64 {
	ratings := Ratings(hertz)
	for _, r := range ratings {
		if r >= nearly*watts {
			return r
		}
	}
	return ratings[len(ratings)-1]
}

// sizes are the standard idlers for a machine.
func sizes(in Input) (list []float64) {
	output := in.Plate.Output.Value
	least, most := standard(leastTimes*output, in.Supply.Hertz), standard(mostTimes*output, in.Supply.Hertz)
	for _, watts := range Ratings(in.Supply.Hertz) {
		if watts >= least && watts <= most {
			list = append(list, watts)
		}
	}
	return list
}

// hard says whether a load is one that starts hard.
func hard(in Input) bool {
	return 100*in.Load.BreakawayShare > rule.Limit("route.static-hard-start", "most_breakaway_percent")
}

// usual is the usual choice: the smallest idler up to twice the machine, or three times for
// a hard start, that leaves the whole output by service factor or heat, or else the one that
// leaves most. There is none where nobody waits for it.
func usual(in Input, ref reference) (*rig, Rung, error) {
	times := float64(usualTimes)
	if hard(in) {
		times = mostTimes
	}
	most := times * in.Plate.Output.Value / nearly
	var chosen *rig
	var best Rung
	for _, watts := range sizes(in) {
		if watts > most && best.Fits {
			break // larger ones are for what nothing smaller starts
		}
		if err := in.Stop.Err(); err != nil {
			return nil, best, err
		}
		r := newRig(in, ref, watts)
		r.tune()
		g := r.rung()
		if chosen == nil || better(g, best, in.Plate.Output.Value) {
			chosen, best = r, g
		}
		if g.Fits && g.Full {
			break
		}
	}
	return chosen, best, nil
}

// alike is how much more output a larger idler must leave to be worth its size.
const alike = 1.01

func better(g, than Rung, output float64) bool {
	switch {
	case g.Fits != than.Fits:
		return g.Fits
	case !g.Fits:
		return g.StartMargin > than.StartMargin
	}
	return g.best(output) > alike*than.best(output)
}

// rung judges the rig with its capacitors as they are.
func (r *rig) rung() Rung {
	output := r.in.Plate.Output.Value
	g := Rung{Watts: r.watts, Times: r.watts / output, AC: r.ac, BC: r.bc,
		ByAmps: r.usable(1), ByFactor: r.usable(r.factor()), ByHeat: r.forDuty()}
	alone, idle, loaded, full := r.at("", -1), r.at("", 0), r.at("", r.in.Share()), r.at("", 1)
	g.IdleMade, g.LoadMade = max(alone.Volts.BC, alone.Volts.CA), max(full.Volts.BC, full.Volts.CA)
	g.IdleWatts = alone.SupplyWatts
	if full.Runs {
		g.FullPercent = full.HottestPercent
	}
	g.IdlerPercent = max(alone.IdlerPercent, idle.IdlerPercent, loaded.IdlerPercent)
	g.StartMargin, _ = r.standing()
	g.Full = g.best(output) >= output
	carries := loaded.Runs && loaded.IdlerRuns && alone.IdlerRuns && r.bears(loaded, r.in.Share()) &&
		g.IdlerPercent <= bearable &&
		(r.in.Balance == ForFull || 100*g.IdleMade <= (mostMade+madeRounding)*r.plateVolts())
	if carries && g.StartMargin >= rule.Limit("rotary.hard-start", "least_margin") {
		if run, err := r.start(rule.Limit("start.slow", "most_seconds")); err == nil {
			g.StartSeconds = run.Motors[1].TimeTo90
		}
		g.Fits = g.StartSeconds != nil
	}
	return g
}

// madeRounding is what whole microfarads may move the made leg by, in percent.
const madeRounding = 0.5

// bears says whether the machine's windings bear a state at a share of output: by plate
// amps, by its service factor, or by the heat of its duty.
func (r *rig) bears(s State, share float64) bool {
	if s.HottestPercent <= r.factor()*bearable {
		return true
	}
	return r.forDuty().Most() >= share*r.in.Plate.Output.Value
}

// Ladder is the standard idlers from one to three times the machine side by side, given the
// answer.
func Ladder(in Input, a Answer) ([]Rung, error) {
	ref, err := referenceIdler(in.Supply.Volts, in.Supply.Hertz)
	if err != nil {
		return nil, err
	}
	in.IdlerWatts, in.BalanceAC, in.BalanceBC, in.SecondAC, in.SecondBC = nil, nil, nil, nil, nil
	var list []Rung
	for _, watts := range sizes(in) {
		if err := in.Stop.Err(); err != nil {
			return nil, err
		}
		r := newRig(in, ref, watts)
		r.tune()
		g := r.rung()
		g.Usual, g.Taken = watts == a.ModelWatts, watts == a.IdlerWatts
		list = append(list, g)
	}
	return list, nil
}
