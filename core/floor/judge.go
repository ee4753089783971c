package floor

import (
	"fmt"
	"math"
	"slices"

	circuit "brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// judgement gathers what a state breaks.
type judgement struct{ broken []Broken }

// say keeps that a rule is broken somewhere, by a value against a limit.
func (j *judgement) say(id, where string, value, limit float64, do, format string, args ...any) {
	r := rule.Get(id)
	j.broken = append(j.broken, Broken{
		Rule: id, Severity: r.Severity, Where: where, Value: value, Limit: limit, Title: r.Title,
		Says: fmt.Sprintf(format, args...), Do: do, Source: r.Source,
	})
}

// sorted are the broken rules, the gravest first, otherwise as they were said.
func (j *judgement) sorted() []Broken {
	list := append([]Broken{}, j.broken...)
	slices.SortStableFunc(list, func(a, b Broken) int { return weigh(a.Severity) - weigh(b.Severity) })
	return list
}

func weigh(s rule.Severity) int {
	return slices.Index([]rule.Severity{rule.Stop, rule.Caution, rule.Note}, s)
}

func amps(v float64) string    { return quantity.Figures(v, 3) + " A" }
func volts(v float64) string   { return quantity.Fixed(v, 0) + " V" }
func percent(v float64) string { return quantity.Fixed(v, 0) + " %" }

// leastRPM is the speed below which a motor crawls.
func leastRPM(hertz float64, poles int) float64 {
	return (1 - network.CrawlSlip) * circuit.SynchronousRPM(hertz, poles)
}

// rounding is what amps may stand over a limit by before it counts as broken, as a share.
func rounding() float64 { return 1 + rule.Limit("capacitor.winding-at-load", "rounding_percent")/100 }

// judge says what a solved state breaks.
func (f *Floor) judge(s *site.State, p *Picture) []Broken {
	var j judgement
	f.judgeMain(&j, p)
	for i := range p.Circuits {
		f.judgeCircuit(&j, &f.Shop.Site.Circuits[i], &p.Circuits[i])
	}
	for i := range p.Converters {
		f.judgeConverter(&j, s, &f.Shop.Site.Converters[i], &p.Converters[i], p)
	}
	for i := range p.Machines {
		for k := range p.Machines[i].Motors {
			f.judgeMotor(&j, s, &f.machines[i].motors[k], &p.Machines[i].Motors[k])
		}
	}
	for i := range p.Loads {
		f.judgeLoad(&j, s, &f.Shop.Site.Loads[i])
	}
	return j.sorted()
}

func (f *Floor) judgeMain(j *judgement, p *Picture) {
	m := p.Main
	if m.Amps > rounding()*m.LimitAmps {
		j.say("floor.main", "main", m.Amps, m.LimitAmps, "Switch off what can wait, or turn a load down.",
			"The service carries %s of %s.", amps(m.Amps), amps(m.LimitAmps))
	}
	su, takes := f.Shop.Supply, m.kVA()
	if su.Kind == supply.Generator && su.KVA > 0 && takes > rounding()*su.KVA {
		j.say("floor.generator", "main", takes, su.KVA, "Switch off what can wait.",
			"The shop takes %s kVA of a generator of %s.", quantity.Figures(takes, 3), quantity.Figures(su.KVA, 3))
	}
	if f.Shop.Site.Spaces > 0 {
		if taken := f.spaces(""); taken > f.Shop.Site.Spaces {
			j.full("main", "The service's panel", taken, f.Shop.Site.Spaces)
		}
	}
}

// full says that a panel has too few spaces.
func (j *judgement) full(where, name string, taken, spaces int) {
	j.say("floor.panel-full", where, float64(taken), float64(spaces),
		"A sub-panel, a larger panel, or a change-over that lets two uses share a circuit.",
		"%s has %d spaces for poles, and its circuits take %d.", name, spaces, taken)
}

// spaces are those that circuits take of the panel that a circuit ends in, or of the service's.
func (f *Floor) spaces(panel string) (taken int) {
	for _, c := range f.Shop.Site.Circuits {
		if c.From == panel {
			taken += c.Taken()
		}
	}
	return taken
}

func (f *Floor) judgeCircuit(j *judgement, c *site.Circuit, state *CircuitState) {
	carried, _ := f.wire(c)
	carries := carried.Amps
	switch {
	case state.Amps > rounding()*c.BreakerAmps:
		j.say("floor.breaker", c.ID, state.Amps, c.BreakerAmps,
			"Switch off what can wait, or move something to another circuit.",
			"%s carries %s behind a breaker of %s.", c.Name, amps(state.Amps), amps(c.BreakerAmps))
	case carries > 0 && state.Amps > rounding()*carries:
		j.say("floor.conductor", c.ID, state.Amps, carries, "A larger conductor, or less on it.",
			"%s carries %s on %s, which is good for %s.", c.Name, amps(state.Amps), c.Size, amps(carries))
	case quantity.SixtyHertz(f.Shop.Supply.Hertz) &&
		100*state.Amps > rule.Limit("floor.continuous", "most_percent")*c.BreakerAmps:
		j.say("floor.continuous", c.ID, state.Amps, rule.Limit("floor.continuous", "most_percent")/100*c.BreakerAmps,
			"Not for hours on end: a larger circuit, or less on it.",
			"%s carries %s, %s of its breaker.", c.Name, amps(state.Amps), percent(100*state.Amps/c.BreakerAmps))
	}
	if state.Volts > 0 {
		switch {
		case state.DropPercent > rule.Limit("floor.low-volts", "most_percent"):
			j.say("floor.low-volts", c.ID, state.DropPercent, rule.Limit("floor.low-volts", "most_percent"),
				"A thicker or shorter run, or less on it.",
				"At the end of %s %s are left, %s below the service.", c.Name, volts(state.Volts),
				percent(state.DropPercent))
		case state.DropPercent > rule.Limit("floor.drop", "most_percent"):
			j.say("floor.drop", c.ID, state.DropPercent, rule.Limit("floor.drop", "most_percent"),
				"A thicker or shorter run, or less on it.",
				"At the end of %s %s are left, %s below the service.", c.Name, volts(state.Volts),
				percent(state.DropPercent))
		}
	}
	if c.Panel && c.Spaces > 0 {
		if taken := f.spaces(c.ID); taken > c.Spaces {
			j.full(c.ID, "The panel at the end of "+c.Name, taken, c.Spaces)
		}
	}
}

func (f *Floor) judgeConverter(j *judgement, s *site.State, c *site.Converter, state *ConverterState, p *Picture) {
	if !state.On {
		return
	}
	if c.Kind == site.BusKind {
		if f.dead(s, c.On, c.Side) {
			j.thrown(s, c.ID, c.Name, f.Shop.Site.Circuit(c.On))
			return
		}
		f.judgeBus(j, s, c, state)
		return
	}
	own := f.idlers[c.ID]
	if own.unknown {
		j.say("floor.unread", c.ID, 0, 0, "Read the plate of its idler, or say what output it has.",
			"What idles in %s is not known, so that nothing on it is solved.", c.Name)
		return
	}
	if f.dead(s, c.On, c.Side) {
		j.thrown(s, c.ID, c.Name, f.Shop.Site.Circuit(c.On))
		return
	}
	if state.State != network.Running {
		j.say(
			"floor.stalls",
			c.ID,
			state.RPM,
			leastRPM(f.Shop.Supply.Hertz, own.Motor.Poles),
			"Switch a machine off before it cooks.",
			"The idler of %s does not hold its speed: %s rpm.",
			c.Name,
			quantity.Fixed(math.Abs(state.RPM), 0),
		)
		return
	}
	most, _ := f.code.OverloadTrips(1)
	warm := rule.Limit("floor.idler-warm", "most_percent")
	switch {
	case state.IdlerPercent > most*rounding():
		j.say(
			"floor.idler",
			c.ID,
			state.IdlerPercent,
			most,
			"A machine less on it, other capacitors, or a larger idler.",
			"A winding of the idler of %s carries %s of its plate amps.",
			c.Name,
			percent(state.IdlerPercent),
		)
	case state.IdlerPercent > warm*rounding():
		j.say(
			"floor.idler-warm",
			c.ID,
			state.IdlerPercent,
			warm,
			"Not for the whole day: other capacitors, or a larger idler.",
			"A winding of the idler of %s carries %s of its plate amps.",
			c.Name,
			percent(state.IdlerPercent),
		)
	}
	pairs := quantity.LinesAt(f.Shop.Supply.Hertz).Pairs()
	for _, pair := range []struct {
		name  string
		volts float64
	}{{pairs[1], state.Volts.BC}, {pairs[2], state.Volts.CA}} {
		apart := 100 * (pair.volts/(f.ratio(c)*p.Main.Volts) - 1)
		if limit := rule.Limit("floor.made-leg", "most_percent"); math.Abs(apart) > limit {
			word := "above"
			if apart < 0 {
				word = "below"
			}
			j.say("floor.made-leg", c.ID, apart, limit, "Other balance capacitors; no electronics on this leg.",
				"The made leg of %s: %s %s, %s %s the service.", c.Name, pair.name, volts(pair.volts),
				percent(math.Abs(apart)), word)
		}
	}
	f.judgeLabel(j, s, c, state)
}

// thrown says that something is switched in at the dead side of a change-over.
func (j *judgement) thrown(s *site.State, where, name string, c *site.Circuit) {
	j.say(
		"floor.change-over",
		where,
		0,
		0,
		"Throw the change-over, or switch it off.",
		"%s is switched on at the dead side of the change-over of %s, which stands at %s: it starts by itself when "+
			"that is thrown.",
		name,
		c.Name,
		sideName(s.Side(c.ID)),
	)
}

func sideName(side string) string {
	if side == site.SideB {
		return "B"
	}
	return "A"
}

func (f *Floor) judgeMotor(j *judgement, s *site.State, m *motor, state *MotorState) {
	if !state.On {
		return
	}
	converter := f.Shop.Site.Converter(m.place.On)
	switch {
	case m.q == nil:
		j.say("floor.unread", m.ID, 0, 0, "Open its plate and clear it up.",
			"The plate of %s is not understood, so that it counts as nothing.", m.name)
		return
	case f.dead(s, m.place.On, m.place.Side):
		j.thrown(s, m.ID, m.name, f.Shop.Site.Circuit(m.place.On))
		return
	case converter != nil && converter.Kind == site.BusKind && !f.turns(converter, s):
		return // its drive is dead
	case converter != nil && !f.turns(converter, s):
		j.say("floor.load-before-converter", m.ID, 0, 0, "Switch it off; start the converter; then the machine.",
			"%s is switched in while %s stands: it hums on two lines when that is switched on.", m.name, converter.Name)
		return
	case state.State == "":
		return
	case state.State != network.Running:
		j.say(
			"floor.stalls",
			m.ID,
			state.RPM,
			leastRPM(f.Shop.Supply.Hertz, m.q.Poles()),
			"Less load, or less beside it.",
			"%s does not carry its load: it is %s, at %s rpm.",
			m.name,
			state.State,
			quantity.Fixed(state.RPM, 0),
		)
		return
	}
	most, by := f.code.OverloadTrips(m.q.Plate.ServiceFactor.Value)
	switch {
	case state.Celsius > state.BearsCelsius:
		j.say("floor.winding", m.ID, state.Celsius, state.BearsCelsius, "Less load, less beside it, or pauses.",
			"A winding of %s carries %s of its plate amps and settles at %.0f °C; its %s bears %.0f.", m.name,
			percent(state.HottestPercent), state.Celsius, m.class(), state.BearsCelsius)
	case state.LinePercent > most*rounding():
		j.say("floor.overload", m.ID, state.LinePercent, most, "Less load, or less beside it.",
			"A line of %s carries %s of its plate amps; its overload opens at %s: %s.", m.name,
			percent(state.LinePercent), percent(most), by)
	case state.HottestPercent > rule.Limit("floor.past-plate", "most_percent")*rounding():
		j.say(
			"floor.past-plate",
			m.ID,
			state.HottestPercent,
			rule.Limit("floor.past-plate", "most_percent"),
			"For short cuts, or with less load.",
			"A winding of %s carries %s of its plate amps; it settles at %.0f °C of %.0f.",
			m.name,
			percent(state.HottestPercent),
			state.Celsius,
			state.BearsCelsius,
		)
	}
}

func (f *Floor) judgeLoad(j *judgement, s *site.State, l *site.Load) {
	if !s.Has(l.ID) {
		return
	}
	if f.dead(s, l.On, l.Side) {
		j.thrown(s, l.ID, l.Name, f.Shop.Site.Circuit(l.On))
	}
	if l.Between == "bc" || l.Between == "ac" {
		j.say("floor.made-leg-load", l.ID, 0, 0, "Move it to the two supply lines.",
			"%s hangs between a supply line and the made leg.", l.Name)
	}
}
