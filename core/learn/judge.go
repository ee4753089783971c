package learn

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Verdicts are what is said of readings, of what was learned, and of what is to be done next.
func (l *Learned) Verdicts(t *Tuned, limits Limits, matters []State) (list []rule.Verdict) {
	list = []rule.Verdict{}
	for _, m := range l.Misread {
		list = append(list, rule.Speak("learn.misread", rule.Numbers{"reading": float64(m.Reading)},
			"Read it again; it counts for nothing until then.", "Reading %d, %s. %s", m.Reading+1, m.Place, m.Says))
	}
	far := rule.Limit("learn.unlike-plate", "most_usual")
	for i := range l.m.dials {
		d := &l.m.dials[i]
		if d.ofBank() {
			list = append(list, l.weak(d, l.m.u[i])...)
			continue
		}
		if d.kind != loadShare && math.Abs(l.m.u[i]) > far {
			list = append(list, rule.Speak("learn.unlike-plate", rule.Numbers{"usual": math.Abs(l.m.u[i])},
				"Look at its plate, its connection and its capacitors before going on.",
				"%s, %s: %s %s where its plate has %s, %.1f times what is usual.", d.Of, d.Name,
				quantity.Figures(d.value(l.m.u[i]), 3), d.Unit, quantity.Figures(d.Prior, 3), math.Abs(l.m.u[i])))
		}
	}
	if most := l.mostVolts(); most < rule.Limit("learn.reduced", "least_percent") {
		list = append(list, rule.Speak(
			"learn.reduced",
			rule.Numbers{"percent": most},
			"Read it at the supply’s full volts before anything is settled.",
			"Everything was read at %.0f percent of the supply’s volts at most: the iron was not saturated, so idle "+
				"amps and made-leg volts at full volts rest on the plate.",
			most,
		))
	}
	now := l.present()
	for i := range matters {
		if s := &matters[i]; l.last(s, now) < 0 {
			list = append(list, rule.Speak("learn.unproved", nil, "Read it with these capacitors in circuit.",
				"%s was not read with %s and %s µF.", l.m.c.Words(s), quantity.Figures(now.AC, 3),
				quantity.Figures(now.BC, 3)))
		}
	}
	if !t.Good && !t.Reaches {
		worst := 0.0
		for _, e := range t.Expect {
			worst = math.Max(worst, e.Unbalance)
		}
		list = append(list, rule.Speak("learn.out-of-reach", rule.Numbers{"percent": worst},
			"Other sizes of capacitors, a larger idler, or a second bank that is switched with the load.",
			"The best there is leaves the legs %.1f percent apart in the worst state; %s asked.", worst,
			limits.words()))
	}
	return rule.Sorted(list)
}

// mostVolts is the highest percentage of the supply's volts that something was read at, 100 where nothing was read.
func (l *Learned) mostVolts() (most float64) {
	for i := range l.m.c.Readings {
		v := l.m.c.Readings[i].Volts
		if v == 0 {
			return 100
		}
		most = math.Max(most, v)
	}
	if most == 0 {
		return 100
	}
	return most
}

// weak says where a bank has less than is printed on it, surely: past the loss that a run capacitor may have.
func (l *Learned) weak(d *dial, u float64) (list []rule.Verdict) {
	least := rule.Limit("learn.can-weak", "least_share")
	i := slices.IndexFunc(l.m.dials, func(x dial) bool { return x.kind == d.kind })
	sigma := d.spread(u, math.Sqrt(math.Max(0, l.spread.At(i, i))))
	has, sure := d.value(u), 2*sigma
	if has+sure >= least {
		return nil
	}
	marked := l.present().AC
	if d.kind == bankBC {
		marked = l.present().BC
	}
	return append(list, rule.Speak("learn.can-weak", rule.Numbers{"share": has},
		"Isolate, discharge, and measure each of its cans.",
		"%s: about %s µF of the %s that are printed on its cans are in circuit. One is open or at its end, or not "+
			"joined.", d.Name, quantity.Figures(has*marked, 3), quantity.Figures(marked, 3)))
}

// Words are a state in a few of them.
func (c *Case) Words(s *State) string {
	base := "the converter"
	if c.Idler == nil {
		base = "its capacitors"
	}
	if len(s.On) == 0 {
		return strings.ToUpper(base[:1]) + base[1:] + " alone"
	}
	var names []string
	for _, id := range s.On {
		name := id
		if share := s.Share[id]; share != nil {
			name += fmt.Sprintf(" at %.0f percent", 100**share)
		}
		names = append(names, name)
	}
	return "With " + strings.Join(names, " and ") + ", " + base
}

// words are limits in a few of them.
func (l Limits) words() string {
	var list []string
	add := func(is float64, unit string) {
		if is > 0 {
			list = append(list, quantity.Figures(is, 3)+unit)
		}
	}
	add(l.Unbalance, " percent apart")
	add(l.MadeVolts, " V on the made leg")
	add(l.Idler, " percent of the idler’s plate amps")
	if list == nil {
		return "nothing was"
	}
	return strings.Join(list, ", ") + " was"
}
