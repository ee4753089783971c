package floor

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// Card is what is known of one thing on the floor beside its figures of the moment: by the code of
// the shop's country, whatever is switched on.
type Card struct {
	ID     string     `json:"id"`
	Facts  []rule.Row `json:"facts" nullable:"false"`
	Broken []Broken   `json:"broken" nullable:"false"`
}

// Cards are those of every circuit, converter and machine, and of the service, made once: each way
// is outlined for them, which takes a while.
func (f *Floor) Cards() []Card { return f.cards() }

func (f *Floor) makeCards() []Card {
	list := []Card{f.serviceCard()}
	for _, c := range f.order {
		list = append(list, f.circuitCard(c))
	}
	for i := range f.Shop.Site.Converters {
		list = append(list, f.converterCard(&f.Shop.Site.Converters[i]))
	}
	for i := range f.machines {
		list = append(list, f.machineCard(&f.machines[i]))
	}
	return list
}

// facts gathers the rows of a card.
type facts struct{ Card }

func (c *facts) add(label, value, remark string) {
	c.Facts = append(c.Facts, rule.Row{Label: label, Value: value, Remark: remark})
}

func newCard(id string) *facts { return &facts{Card{ID: id, Facts: []rule.Row{}, Broken: []Broken{}}} }

func (f *Floor) circuitCard(c *site.Circuit) Card {
	card, j := newCard(c.ID), &judgement{}
	hertz := f.Shop.Supply.Hertz
	carried, _ := f.wire(c)
	w := f.wanted(c)
	if w.any {
		by := w.by
		if by != "" && w.several {
			by += ", and the others"
		}
		if by == "" {
			by = "the largest with its reserve, and the others: NEC 430.24 (US, 2023)"
			if !quantity.SixtyHertz(hertz) {
				by = "all that is on at once: IEC 60364-4-43, 433.1"
			}
		}
		card.add(
			"Takes with everything on",
			amps(w.amps),
			"motors at full output, converters with their machines at their loads, the rest by its own amps",
		)
		card.add("Conductors carry at least", amps(w.carry), by)
	}
	if carried.Amps > 0 {
		card.add("Its conductors carry", amps(carried.Amps), carried.By)
		if c.Metre > 0 && w.any {
			lost := 100 * math.Hypot(real(carried.Ohm), imag(carried.Ohm)) * 2 * c.Metre / f.voltsOf(c)
			value := fmt.Sprintf("%.1f %% running", lost*w.amps)
			if w.starting > w.amps {
				value += fmt.Sprintf(", %.1f %% at a start", lost*w.starting)
			}
			card.add("Lost on "+quantity.Run(c.Metre, hertz), value, "of its volts, out and back")
			if lost*w.starting > rule.Limit("route.long-run", "most_starting_percent") {
				j.say(
					"floor.start-loss",
					c.ID,
					lost*w.starting,
					rule.Limit("route.long-run", "most_starting_percent"),
					"A thicker conductor: "+f.thicker(
						c,
						w,
					)+".",
					"At the hardest start %s loses %s of the volts.",
					c.Name,
					percent(lost*w.starting),
				)
			}
		}
	}
	f.onOnePole(j, c)
	f.protection(card, j, c, &carried, w)
	f.earthFault(card, j, c, &carried)
	if c.Outlet != "" {
		f.outlet(card, j, c.ID, c.Name, c.Outlet, c.BreakerAmps, f.voltsOf(c), 1)
	} else if !c.Panel {
		opens := "both lines"
		if f.onePole(c) {
			opens = "its line, never the neutral alone"
		}
		card.Facts = append(card.Facts, f.isolator(w.amps, w.locked, f.voltsOf(c), 1, opens))
	}
	card.Broken = j.sorted()
	return card.Card
}

// isolator is the row of a card that says what an isolator must be for.
func (f *Floor) isolator(full, locked, volts float64, phases int, opens string) rule.Row {
	if full == 0 {
		return rule.Row{Label: "Isolator", Value: "lockable", Remark: opens}
	}
	i := f.code.Isolator(full, locked, volts, phases)
	value := "lockable, " + amps(i.Amps) + " at least"
	switch {
	case i.Beyond:
		value += "; its horsepower is beyond the tables"
	case i.Watts > 0:
		value += fmt.Sprintf(", and rated %s hp on %d phase", quantity.Horsepower(i.Watts), phases)
		if phases > 1 {
			value += "s"
		}
	}
	return rule.Row{Label: "Isolator", Value: value, Remark: "in sight of what it feeds; it opens " + opens + ": " +
		f.either("NEC 430.102(B) (US, 2023), ", "") + i.By}
}

// either is what holds in the shop's country.
func (f *Floor) either(us, iec string) string {
	if quantity.SixtyHertz(f.Shop.Supply.Hertz) {
		return us
	}
	return iec
}

func (f *Floor) converterCard(c *site.Converter) Card {
	card, j := newCard(c.ID), &judgement{}
	hertz := f.Shop.Supply.Hertz
	if c.Kind == site.BusKind {
		return f.busCard(c)
	}
	own := f.idlers[c.ID]
	if own.unknown {
		return card.Card
	}
	most, by := f.code.Overload(1)
	card.add("Idler", quantity.Power(own.Watts, hertz), "taken from "+own.by)
	card.add(
		"Its overload",
		"at most "+amps(most/100*own.Amps),
		fmt.Sprintf("%.0f %% of %s: %s; it must see a winding’s "+
			"current, not the supply’s", most, amps(own.Amps), by),
	)
	d := f.converterDraw(c)
	if d.by != "" {
		card.add("Its conductors carry", "at least "+amps(d.carry), d.by)
	}
	card.add("By the model it takes", amps(d.amps), "with all that hangs on it at its load")
	if w := f.ahead(c); w != nil {
		card.add(
			"Transformer ahead of it",
			fmt.Sprintf(
				"%s to %s, %s kVA",
				volts(f.Shop.Supply.Volts),
				volts(c.AheadVolts),
				quantity.Figures(
					c.AheadKVA,
					3,
				),
			),
			fmt.Sprintf("%.1f + j%.1f Ω behind it; its inrush may come to %s for a cycle, "+
				"twelve times its amps (shop practice)", w.ResistanceOhm, w.ReactanceOhm,
				amps(inrushTimes*w.RatedVA/f.Shop.Supply.Volts)),
		)
	}
	f.labelCard(card, j, c)
	card.add(
		"Behind it",
		"three-pole, no neutral",
		"breakers or fuses of three poles; no single-phase load, no coil on the made leg: "+f.either(
			"NEC 455.9, 240.85 (US, 2023)",
			"IEC 60204-1",
		),
	)
	card.Broken = j.sorted()
	return card.Card
}

func (f *Floor) machineCard(m *machine) Card {
	card, j := newCard(m.id), &judgement{}
	byPlace := map[string][]*motor{} // those that share a place share its breaker and plug
	var places []string
	for i := range m.motors {
		o := &m.motors[i]
		if o.q == nil {
			continue
		}
		if byPlace[o.place.ID] == nil {
			places = append(places, o.place.ID)
		}
		byPlace[o.place.ID] = append(byPlace[o.place.ID], o)
		who := ""
		if len(m.motors) > 1 {
			who = " of " + o.Name
		}
		if t := o.q.Stepped().Step; t != nil {
			card.add("Behind a transformer"+who, fmt.Sprintf("%.0f to %.0f V, %s VA", t.FromVolts, t.ToVolts,
				quantity.Figures(t.VA, 3)), fmt.Sprintf(
				"its motor cannot be joined for the supply's volts; solved with it; its inrush may come to %s for a "+
					"cycle, twelve times its amps (shop practice)", amps(inrushTimes*t.VA/t.FromVolts)))
		}
		if c := f.Shop.Site.Converter(o.place.On); c != nil && c.Kind == site.BusKind {
			card.add("Fed by"+who, "a drive on "+c.Name, "its overload set to plate amps in the drive, "+
				amps(o.q.Plate.Amps.Value))
			continue
		} else if c == nil {
			remark := "as its Size step has it"
			if o.Way.Route == "" {
				remark = "none is taken: this one is assumed"
			}
			card.add("Fed by"+who, o.way.Info().Title, remark)
			continue
		}
		plate := o.q.Plate.Amps.Value
		most, by := f.code.Overload(o.q.Plate.ServiceFactor.Value)
		value := amps(plate)
		if most > 100 {
			value += " to " + amps(most/100*plate)
		}
		card.add("Overload"+who, value, by)
		if set := o.place.OverloadAmps; len(byPlace[o.place.ID]) == 1 && set > most/100*plate*rounding() {
			j.say("floor.code-overload", o.ID, set, most/100*plate, "Set it lower.",
				"The overload of %s is set to %s; its plate allows %s.", o.name, amps(set), amps(most/100*plate))
		}
	}
	for _, place := range places {
		list := byPlace[place]
		if c := f.Shop.Site.Converter(list[0].place.On); c != nil && c.Kind != site.BusKind {
			f.plugged(card, j, m, list)
		}
	}
	card.Broken = j.sorted()
	return card.Card
}

// inrushTimes is what a transformer may take as it is switched on, in times of its rated amps (shop practice).
const inrushTimes = 12

// plugged is the breaker and the plug of motors that share them, behind a converter.
func (f *Floor) plugged(card *facts, j *judgement, m *machine, list []*motor) {
	hertz, place := f.Shop.Supply.Hertz, list[0].place
	on := f.voltsOn(f.Shop.Site.Converter(place.On))
	largest, sum, known, locked := 0.0, 0.0, true, 0.0
	for _, o := range list {
		table, ok := f.code.ThreePhaseTableAmps(o.q.Watts(), on)
		stands, both := f.code.ThreePhaseLockedAmps(o.q.Watts(), on)
		known, largest, sum = known && ok && both, max(largest, table), sum+table
		locked = max(locked, stands-table)
	}
	if most, ok := f.code.MostFor(place.Device, largest); ok && known {
		source := "NEC 430.52, 430.250 (US, 2023)"
		if len(list) > 1 {
			most += sum - largest
			source = "the largest motor's, and the amps of the others: NEC 430.62, 430.53 (US, 2023)"
		}
		card.add("Its breaker", "at most "+amps(most), "three-pole; "+source)
		if place.BreakerAmps > most {
			j.say("floor.code-unprotected", m.id, place.BreakerAmps, most, "A smaller one.",
				"%s stands behind %s; the code lets it have %s.", m.name, amps(place.BreakerAmps), amps(most))
		}
	}
	if place.Slash && quantity.SixtyHertz(hertz) {
		j.say("floor.code-slash", m.id, 0, 0, "One with straight ratings, 240 V.",
			"The breaker of %s is rated 120/240 V; the made leg stands near %s to earth.", m.name,
			volts(on*math.Sqrt(3)/2))
	}
	if place.Outlet != "" {
		f.outlet(card, j, m.id, m.name, place.Outlet, place.BreakerAmps, on, 3)
		return
	}
	if !known {
		sum, locked = plates(list), 0
	} else {
		locked += sum
	}
	card.Facts = append(card.Facts, f.isolator(sum, locked, on, 3, "all three lines"))

}

// plates are the amps of motors' plates.
func plates(list []*motor) (amps float64) {
	for _, m := range list {
		amps += m.q.Plate.Amps.Value
	}
	return amps
}

func (f *Floor) serviceCard() Card {
	card := newCard(ServiceID)
	su := f.Shop.Supply
	card.add(
		"Source",
		fmt.Sprintf("%s + j%s Ω", quantity.Figures(su.ResistanceOhm, 2), quantity.Figures(su.ReactanceOhm, 2)),
		su.OhmsBy(),
	)
	if e, ok := supply.EarthingOf(su.Earthing); ok {
		card.add("Earthing", e.Title, e.Says)
	}
	if free := f.Shop.Site.Spaces - f.spaces(""); f.Shop.Site.Spaces > 0 {
		card.add("Free in its panel", fmt.Sprintf("%d of %d", max(free, 0), f.Shop.Site.Spaces), "spaces for poles")
	}
	return card.Card
}
