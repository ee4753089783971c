package waveform

import (
	"math"

	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/search"
)

// Off is what the terminals do once the supply opens on running motors. Times are
// counted from the opening. VoltsRMS are the largest of the three pairs over a cycle of
// the supply; PeakVolts the largest instantaneous volts. LiveSeconds is how long any pair
// stays above SafeVolts rms, nil when it still does at the end of the time looked at.
type Off struct {
	LiveSeconds *float64   `json:"live_s"`
	Looked      float64    `json:"looked_s"`
	PeakVolts   float64    `json:"peak_volts"`
	After       []OffPoint `json:"after" nullable:"false"`
	Excites     bool       `json:"excites"` // it still excites itself half a second on: volts stand or grow
	// LeastShare is the share of these capacitances from which it does so, nil where it
	// does not with eight times as much.
	LeastShare *float64 `json:"least_share"`
}

// OffPoint is the state a time after the opening.
type OffPoint struct {
	Seconds  float64 `json:"t_s"`
	VoltsRMS float64 `json:"volts_rms"`
	RPM      float64 `json:"rpm"` // of the first motor
}

// SafeVolts is what may be left at terminals (IEC 60204-1, residual voltages).
var SafeVolts = rule.Limit("start.excites-itself", "most_volts")

const (
	settling = 0.5 // seconds on the supply before it opens
	standing = 0.9 // of its volts a while ago: what an idler keeps that excites itself
)

// Search finds LeastShare for a case that SwitchOff has looked at.
func (o *Off) Search(c Case) error {
	if len(c.Capacitors) == 0 {
		return nil
	}
	// From which share of the capacitors on: doubled or halved, then between.
	excites := func(share float64) (bool, error) {
		scaled := c
		scaled.Capacitors = append([]Capacitor{}, c.Capacitors...)
		for i := range scaled.Capacitors {
			scaled.Capacitors[i].Microfarad *= share
		}
		off, err := SwitchOff(scaled, 1)
		return off.Excites, err
	}
	low, high := 1.0, 1.0
	if o.Excites {
		for range 5 {
			low /= 2
			if on, err := excites(low); err != nil || !on {
				break
			}
			high = low
		}
	} else {
		found := false
		for range 3 {
			high *= 2
			on, err := excites(high)
			if err != nil {
				return err
			}
			if on {
				found = true
				break
			}
			low = high
		}
		if !found {
			return nil
		}
	}
	// Between them, on the logarithm: by their geometric means.
	var failed error
	least := math.Exp(search.Edge(math.Log(high), math.Log(low), 5, func(logarithm float64) bool {
		on, err := excites(math.Exp(logarithm))
		if err != nil {
			failed = err
		}
		return on
	}))
	o.LeastShare = &least
	return failed
}

// SwitchOff opens the supply on a case whose motors run at the speeds given as their
// InitialRPM, and watches for a time in seconds. Events of the case are left out.
func SwitchOff(c Case, seconds float64) (Off, error) {
	period := 1 / c.Supply.Hertz
	const perCycle = 40
	c.DurationSeconds, c.SampleSeconds = settling+seconds, period/perCycle
	c.Events = []Event{{AtSeconds: settling, Switch: SupplyID, To: Open}}
	r, err := Solve(c)
	if err != nil {
		return Off{}, err
	}
	off := Off{Looked: seconds, After: []OffPoint{}}
	// From the zero of the current on: the first instant belongs to the supply.
	from := settling
	for _, o := range r.Openings {
		from = math.Max(from, o.AtSeconds)
	}
	pairs := [3][]float64{r.Series.Volts.AB, r.Series.Volts.BC, r.Series.Volts.CA}
	var last float64 // when a cycle was last above the safe volts
	for end := perCycle; end < len(r.Series.Seconds); end += perCycle / 4 {
		begin := end - perCycle
		at := r.Series.Seconds[end] - from
		if r.Series.Seconds[begin] < from {
			continue
		}
		p := OffPoint{Seconds: at}
		for _, volts := range pairs {
			sum := 0.0
			for _, v := range volts[begin:end] {
				sum += v * v
				off.PeakVolts = math.Max(off.PeakVolts, math.Abs(v))
			}
			p.VoltsRMS = math.Max(p.VoltsRMS, math.Sqrt(sum/perCycle))
		}
		if len(c.Motors) > 0 {
			p.RPM = r.Series.Motors[c.Motors[0].ID].RPM[end]
		}
		if p.VoltsRMS > SafeVolts {
			last = at
		}
		off.After = append(off.After, p)
	}
	n := len(off.After)
	if n == 0 {
		return off, nil
	}
	if off.After[n-1].VoltsRMS <= SafeVolts {
		off.LiveSeconds = &last
	}
	off.Excites = excited(off.After)
	return off, nil
}

// excited says whether half a second on the volts fall no faster than the speed: flux
// that nothing feeds dies with the rotor's time constant whatever the speed.
func excited(after []OffPoint) bool {
	var early, late *OffPoint
	for i := range after {
		p := &after[i]
		if early == nil && p.Seconds >= 0.3 {
			early = p
		}
		if late == nil && p.Seconds >= 0.6 {
			late = p
		}
	}
	if early == nil || late == nil || late.VoltsRMS < SafeVolts || early.RPM == 0 {
		return false
	}
	return late.VoltsRMS/early.VoltsRMS > standing*late.RPM/early.RPM
}

// Judge says what must be said of terminals after switch-off.
func (o Off) Judge(microfarad float64) []rule.Verdict {
	// VoltsAt reads the volts at half a second.
	volts := 0.0
	for _, p := range o.After {
		if p.Seconds >= 0.5 {
			volts = p.VoltsRMS
			break
		}
	}
	live := o.Looked
	if o.LiveSeconds != nil {
		live = *o.LiveSeconds
	}
	numbers := rule.Numbers{"live_s": live, "volts_after_half_a_second": volts, "peak_volts": o.PeakVolts}
	if o.LeastShare != nil {
		numbers["least_microfarad"] = *o.LeastShare * microfarad
	}
	do := "Take the capacitors off by the same switch as the supply, or wait, prove dead and discharge before touching."
	switch {
	case o.LiveSeconds == nil || live > rule.Limit("start.excites-itself", "most_seconds"):
		return []rule.Verdict{
			rule.Speak(
				"start.excites-itself",
				numbers,
				do,
				"With the supply open the terminals still stand above %.0f V after %.1f s; half a second after, at "+
					"%.0f V.",
				SafeVolts,
				live,
				volts,
			),
		}
	case live > rule.Limit("start.live-while-it-spins", "most_seconds"):
		return []rule.Verdict{
			rule.Speak(
				"start.live-while-it-spins",
				numbers,
				do,
				"With the supply open the terminals stay above %.0f V for %.1f s while it spins, up to %.0f V peak.",
				SafeVolts,
				live,
				o.PeakVolts,
			),
		}
	}
	return nil
}

// Running makes the case of a network in the steady state found for it, its motors at
// the speeds of the result, for stepping on from there.
func Running(c network.Case, r network.Result) Case {
	w := Case{Supply: Supply{Supply: c.Supply}, ThreePhaseLoads: c.ThreePhaseLoads}
	for i, m := range c.Motors {
		w.Motors = append(w.Motors, Motor{Motor: m, InitialRPM: r.Motors[i].RPM})
	}
	for _, p := range c.Capacitors {
		w.Capacitors = append(w.Capacitors, Capacitor{Capacitor: p})
	}
	for _, p := range c.Loads {
		w.Loads = append(w.Loads, Impedance{Impedance: p})
	}
	return w
}
