package floor

import (
	"fmt"
	"math"
	"strings"

	"brackmoor/core/feed"
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

// draw is what a circuit is sized for by one thing on it, of one side of its change-over: amps that
// flow for hours, what conductors carry for it at least by a code's rule, and its amps at a start.
type draw struct {
	side                  string
	amps, carry, starting float64
	by                    string
	most                  float64 // of its breaker by a rule of its own, 0 for that of its conductors
}

// draws are those of all that hangs on a circuit, what hangs on its panel's circuits included.
func (f *Floor) draws(on, device string) (list []draw) {
	for i := range f.machines {
		for k := range f.machines[i].motors {
			if m := &f.machines[i].motors[k]; m.q != nil && m.place.On == on {
				list = append(list, m.draw(device))
			}
		}
	}
	for i := range f.Shop.Site.Converters {
		if c := &f.Shop.Site.Converters[i]; c.On == on {
			list = append(list, f.converterDraw(c))
		}
	}
	for _, l := range f.Shop.Site.Loads {
		if l.On == on {
			list = append(list, draw{side: l.Side, amps: l.Amps, carry: supply.Spare(f.Shop.Supply.Hertz) * l.Amps})
		}
	}
	for _, c := range f.Shop.Site.Circuits {
		if c.From == on && c.ID != on {
			list = append(list, f.draws(c.ID, device)...)
		}
	}
	return list
}

// draw is a motor's, as its way takes it.
func (m *motor) draw(device string) draw {
	d := draw{side: m.place.Side}
	o := feed.Shared(m.q, "floor "+m.way.Info().Name, func() *feed.Outline { return m.way.Outline(m.q) })
	if o == nil {
		return d
	}
	if c, ok := feed.CircuitOf(m.q, o); ok {
		d.amps, d.carry, d.by, d.starting = c.Amps, c.Carry, c.By, c.Starting
	}
	switch _, driven := m.way.(feed.Driven); {
	case driven: // as its maker says; until then as its conductors
	case o.MostBreaker > 0:
		d.most = o.MostBreaker
	case o.Code.Amps > 0: // a converter, 455.7
		d.most = nextUp(d.carry)
	default: // one motor, 430.52
		d.most, _ = supply.MostFor(device, d.amps)
	}
	return d
}

// nextUp is the standard breaker at amps or next above them, 0 where none is.
func nextUp(amps float64) float64 {
	rating, _ := supply.Breaker(amps/supply.Spare(60), 60)
	return rating
}

// converterDraw is a converter's: by its own label's amps, or else by those of its loads, beside
// what it takes by the model with all of them at their loads.
func (f *Floor) converterDraw(c *site.Converter) draw {
	d := draw{side: c.Side}
	hertz := f.Shop.Supply.Hertz
	if own := f.idlers[c.ID]; !own.unknown {
		d.starting = startPeak * own.Watts / f.Shop.Supply.Volts
	}
	s := site.State{On: []string{c.ID}}
	table := 0.0
	for i := range f.machines {
		for k := range f.machines[i].motors {
			m := &f.machines[i].motors[k]
			if m.q == nil || m.place.On != c.ID {
				continue
			}
			s.On = append(s.On, m.ID)
			if own, ok := supply.ThreePhaseTableAmps(m.q.Watts(), f.Shop.Supply.Volts, hertz); ok {
				table += own
			}
		}
	}
	if p, err := f.Solve(s); err == nil {
		for _, x := range p.Converters {
			if x.ID == c.ID {
				d.amps = x.Amps
			}
		}
	}
	d.carry = supply.Spare(hertz) * d.amps
	switch {
	case c.Label.InputAmps > 0:
		d.amps = math.Max(d.amps, c.Label.InputAmps)
		d.carry = supply.Spare(hertz) * d.amps
		d.by = "125 % of its label’s amps: NEC 455.6(A)(1) (US, 2023)"
		if !quantity.SixtyHertz(hertz) {
			d.by = "its label’s amps: IEC 60364-4-43, 433.1"
		}
	case table > 0:
		if least := supply.ConverterAmps(table); least > d.carry {
			d.carry = least
			d.by = fmt.Sprintf("250 %% of %s, the table’s amps of its loads: NEC 455.6(A)(2), 430.250 (US, 2023)",
				amps(table))
		}
	}
	d.most = nextUp(d.carry)
	return d
}

// wanted is what a circuit is to carry and be protected by, the largest of its change-over's sides.
type wanted struct {
	amps, carry, starting float64
	by                    string
	most                  float64 // of the breaker of what hangs there alone, by a rule of its own
	any, several          bool
}

func (f *Floor) wanted(c *site.Circuit) (most wanted) {
	all := f.draws(c.ID, c.Device)
	for _, side := range []string{site.SideA, site.SideB} {
		w := wanted{}
		largest, count := draw{}, 0
		for _, d := range all {
			if c.ChangeOver && d.side != "" && d.side != side {
				continue
			}
			count++
			w.amps += d.amps
			w.carry += d.amps
			w.starting = math.Max(w.starting, d.starting-d.amps)
			if d.carry-d.amps > largest.carry-largest.amps {
				largest = d
			}
		}
		w.carry += largest.carry - largest.amps
		w.by, w.any, w.several = largest.by, count > 0, count > 1
		if count == 1 {
			w.most = largest.most
		}
		w.starting += w.amps
		if w.carry > most.carry || !most.any {
			most = w
		}
	}
	return most
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
			lost := 100 * math.Hypot(real(carried.Ohm), imag(carried.Ohm)) * 2 * c.Metre / f.Shop.Supply.Volts
			value := fmt.Sprintf("%.1f %% running", lost*w.amps)
			if w.starting > w.amps {
				value += fmt.Sprintf(", %.1f %% at a start", lost*w.starting)
			}
			card.add("Lost on "+quantity.Run(c.Metre, hertz), value, "of the service’s volts, both lines")
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
	f.protection(card, j, c, &carried, w)
	f.earthFault(card, j, c, &carried)
	if c.Outlet != "" {
		f.outlet(card, j, c.ID, c.Name, c.Outlet, c.BreakerAmps, 1)
	} else if !c.Panel {
		card.add("Isolator", "lockable", "in sight of what it feeds; it opens both lines: "+f.either("NEC 430.102",
			"IEC 60204-1, 5.3"))
	}
	card.Broken = j.sorted()
	return card.Card
}

// either is the source for the shop's country.
func (f *Floor) either(us, iec string) string {
	if quantity.SixtyHertz(f.Shop.Supply.Hertz) {
		return us + " (US, 2023)"
	}
	return iec
}

// thicker is the conductor that a run wants for a start.
func (f *Floor) thicker(c *site.Circuit, w wanted) string {
	most := rule.Limit("route.long-run", "most_starting_percent")
	for _, size := range supply.Sizes(f.Shop.Supply.Hertz) {
		l := c.Laid
		l.Size = size
		carried, ok := l.Carries(f.Shop.Supply.Hertz)
		lost := 100 * math.Hypot(real(carried.Ohm), imag(carried.Ohm)) * 2 * c.Metre / f.Shop.Supply.Volts
		if ok && carried.Amps >= w.carry && lost*w.starting <= most {
			return size
		}
	}
	return "none of the table does; a panel nearer to it"
}

// protection holds a circuit's breaker or fuse to its conductors and its loads.
func (f *Floor) protection(card *facts, j *judgement, c *site.Circuit, carried *supply.Carried, w wanted) {
	hertz := f.Shop.Supply.Hertz
	device, _ := supply.DeviceOf(c.Device, hertz)
	title := strings.ToLower(device.Title[:1]) + device.Title[1:]
	if w.any {
		least, ok := supply.Breaker(w.amps, hertz)
		if ok {
			card.add(
				"Protected by at least",
				amps(least),
				"the next standard rating: "+f.either("NEC 240.6, 430.22, 455.7",
					"IEC 60898-1"),
			)
		}
		if c.BreakerAmps < w.amps {
			j.say("floor.code-breaker-small", c.ID, c.BreakerAmps, w.amps, "A larger circuit, or less on it.",
				"All that hangs on %s takes %s, its %s is of %s.", c.Name, amps(w.amps), title, amps(c.BreakerAmps))
		}
		if carried.Amps > 0 && carried.Amps*rounding() < w.carry {
			j.say(
				"floor.code-conductor",
				c.ID,
				carried.Amps,
				w.carry,
				"A thicker conductor, or less on it.",
				"What hangs on %s wants conductors for %s; %s carry %s.",
				c.Name,
				amps(w.carry),
				c.Size,
				amps(carried.Amps),
			)
		}
	}
	f.overCurrent(j, c, carried, w)
	if device.Holds > 0 && w.starting > device.Holds*c.BreakerAmps {
		do := "One with a slower trip"
		if quantity.SixtyHertz(hertz) {
			do = "A larger breaker, as far as the code lets one motor have it"
		}
		j.say("floor.code-start", c.ID, w.starting, device.Holds*c.BreakerAmps, do+", or an easier start.",
			"A start of %s may open the %s of %s, which surely holds %s.", amps(w.starting), title, c.Name,
			amps(device.Holds*c.BreakerAmps))
	}
}

// overCurrent says where conductors are not protected by what stands before them.
func (f *Floor) overCurrent(j *judgement, c *site.Circuit, carried *supply.Carried, w wanted) {
	if carried.Amps == 0 {
		return
	}
	if !quantity.SixtyHertz(f.Shop.Supply.Hertz) {
		if c.BreakerAmps > carried.Amps {
			j.say(
				"floor.code-unprotected",
				c.ID,
				c.BreakerAmps,
				carried.Amps,
				"A thicker conductor, or a smaller breaker.",
				"%s of %s stand behind %s: In must not be above Iz.",
				c.Size,
				amps(carried.Amps),
				amps(c.BreakerAmps),
			)
		}
		return
	}
	allowed := carried.Amps
	if next, ok := supply.Breaker(carried.Amps/supply.Spare(60), 60); ok {
		allowed = next // the next size up, 240.4(B)
	}
	by := "NEC 240.4(B)"
	if carried.Most > 0 {
		allowed, by = carried.Most, "NEC 240.4(D)"
	}
	if w.most > allowed { // of a motor, or of a converter: 240.4(G)
		allowed, by = w.most, "NEC 240.4(G), 430.52, 455.7"
	}
	if c.BreakerAmps > allowed {
		j.say(
			"floor.code-unprotected",
			c.ID,
			c.BreakerAmps,
			allowed,
			"A thicker conductor, or a smaller breaker.",
			"%s stand behind %s, and may behind %s at most: %s (US, 2023).",
			c.Size,
			amps(c.BreakerAmps),
			amps(allowed),
			by,
		)
	}
}

// earthFault is whether a fault to earth opens a circuit in time.
func (f *Floor) earthFault(card *facts, j *judgement, c *site.Circuit, carried *supply.Carried) {
	if quantity.SixtyHertz(f.Shop.Supply.Hertz) {
		if c.Outlet != "" && c.Residual == "" {
			card.add(
				"Residual current",
				"wanted",
				"sockets to 250 V and 50 A where it is damp or a workshop: NEC 210.8(B), "+
					"210.8(F); a converter or drive may trip it",
			)
		}
		return
	}
	if c.Outlet != "" && c.Residual == "" {
		j.say("floor.code-residual", c.ID, 0, residualMA, "One of 30 mA, of the type that what is plugged in asks for.",
			"%s feeds a socket with no residual-current device.", c.Name)
	}
	if c.Residual == "AC" || c.Residual == "A" {
		for _, d := range f.drivesOn(c.ID) {
			j.say(
				"floor.code-residual-type",
				c.ID,
				0,
				0,
				"Type F for drives on one phase, type B where their maker asks for it.",
				"%s hangs behind a residual-current device of type %s, which direct current blinds.",
				d,
				c.Residual,
			)
		}
	}
	if f.Shop.Supply.Earthing == supply.TT {
		if c.Residual == "" && !f.upstreamResidual(c) {
			j.say(
				"floor.code-residual",
				c.ID,
				0,
				residualMA,
				"One ahead of it, 30 mA for sockets, 100 mA delayed for a feed.",
				"On a TT supply nothing but a residual-current device opens a fault to earth, and %s has none.",
				c.Name,
			)
		}
		return
	}
	device, _ := supply.DeviceOf(c.Device, f.Shop.Supply.Hertz)
	if device.Trips == 0 || c.Metre == 0 || carried.Amps == 0 {
		return
	}
	loop := f.loopOhms(c)
	most := 0.95 * f.Shop.Supply.Volts / (device.Trips * c.BreakerAmps)
	card.add("Earth-fault loop", quantity.Figures(loop, 2)+" Ω",
		fmt.Sprintf("reckoned by the supply’s ohms and the run’s, its earth of the same size; at most %s Ω: "+
			"IEC 60364-4-41, 411.4; measure it", quantity.Figures(most, 2)))
	if loop > most && c.Residual == "" {
		j.say("floor.code-loop", c.ID, loop, most, "A residual-current device, a quicker curve, or a thicker run.",
			"A fault to earth at the end of %s meets %s Ω; its breaker opens at once below %s Ω.", c.Name,
			quantity.Figures(loop, 2), quantity.Figures(most, 2))
	}
}

// residualMA is the rated residual current that protects people.
const residualMA = 30

// loopOhms are those of the supply and of every run down to a circuit's end.
func (f *Floor) loopOhms(c *site.Circuit) float64 {
	z := complex(f.Shop.Supply.ResistanceOhm, f.Shop.Supply.ReactanceOhm)
	for ; c != nil; c = f.Shop.Site.Circuit(c.From) {
		_, ohms := f.wire(c)
		z += complex(ohms.ResistanceOhm, ohms.ReactanceOhm)
	}
	return math.Hypot(real(z), imag(z))
}

// upstreamResidual says whether a residual-current device stands ahead of a circuit.
func (f *Floor) upstreamResidual(c *site.Circuit) bool {
	for up := f.Shop.Site.Circuit(c.From); up != nil; up = f.Shop.Site.Circuit(up.From) {
		if up.Residual != "" {
			return true
		}
	}
	return false
}

// drivesOn are the machines on a circuit that a drive feeds.
func (f *Floor) drivesOn(on string) (names []string) {
	for i := range f.machines {
		for k := range f.machines[i].motors {
			m := &f.machines[i].motors[k]
			if _, driven := m.way.(feed.Driven); m.q != nil && driven && m.place.On == on {
				names = append(names, m.name)
			}
		}
	}
	return names
}

// outlet holds a receptacle to its circuit: amps, phases and volts.
func (f *Floor) outlet(card *facts, j *judgement, id, name, outlet string, breaker float64, phases int) {
	r, ok := supply.ReceptacleOf(outlet, f.Shop.Supply.Hertz)
	if !ok {
		return
	}
	card.add("Receptacle", r.Title, "not to be confused with "+r.Not)
	if r.Phases != phases {
		j.say(
			"floor.code-receptacle",
			id,
			float64(r.Phases),
			float64(phases),
			"One of the right kind, marked.",
			"%s ends in %s, which is made for %s.",
			name,
			r.Title,
			map[int]string{1: "one phase", 3: "three phases"}[r.Phases],
		)
	}
	if breaker > r.Amps {
		j.say("floor.code-receptacle", id, breaker, r.Amps, "A larger receptacle, or a smaller breaker.",
			"%s stands behind %s and is good for %s.", r.Title, amps(breaker), amps(r.Amps))
	}
	if over := 100 * (f.Shop.Supply.Volts/r.Volts - 1); over > rule.Limit("floor.code-receptacle", "over_percent") {
		j.say("floor.code-receptacle", id, f.Shop.Supply.Volts, r.Volts, "One for these volts.",
			"%s is made for %s.", r.Title, volts(r.Volts))
	}
}

func (f *Floor) converterCard(c *site.Converter) Card {
	card, j := newCard(c.ID), &judgement{}
	hertz := f.Shop.Supply.Hertz
	own := f.idlers[c.ID]
	if own.unknown {
		return card.Card
	}
	most, by := supply.Overload(1, hertz)
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
	if l := c.Label; l != (site.Label{}) {
		said := []string{}
		if l.OutputWatts > 0 {
			said = append(said, quantity.Power(l.OutputWatts, hertz)+" in all")
		}
		if l.MotorWatts > 0 {
			said = append(said, quantity.Power(l.MotorWatts, hertz)+" in one motor")
		}
		if l.InputAmps > 0 {
			said = append(said, amps(l.InputAmps)+" in")
		}
		card.add("Its label says", strings.Join(said, ", "), "the stricter of label and model counts")
	}
	card.add(
		"Behind it",
		"three-pole, no neutral",
		"breakers or fuses of three poles; no single-phase load, no coil on the made leg: "+f.either(
			"NEC 455.9, 240.85",
			"IEC 60204-1",
		),
	)
	card.Broken = j.sorted()
	return card.Card
}

func (f *Floor) machineCard(m *machine) Card {
	card, j := newCard(m.id), &judgement{}
	hertz := f.Shop.Supply.Hertz
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
				quantity.Figures(t.VA, 3)), "its motor cannot be joined for the supply's volts; solved with it")
		}
		if f.Shop.Site.Converter(o.place.On) == nil {
			remark := "as its Size step has it"
			if o.Way.Route == "" {
				remark = "none is taken: this one is assumed"
			}
			card.add("Fed by"+who, o.way.Info().Title, remark)
			continue
		}
		plate := o.q.Plate.Amps.Value
		most, by := supply.Overload(o.q.Plate.ServiceFactor.Value, hertz)
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
		if list := byPlace[place]; f.Shop.Site.Converter(list[0].place.On) != nil {
			f.plugged(card, j, m, list)
		}
	}
	card.Broken = j.sorted()
	return card.Card
}

// plugged is the breaker and the plug of motors that share them, behind a converter.
func (f *Floor) plugged(card *facts, j *judgement, m *machine, list []*motor) {
	hertz, place := f.Shop.Supply.Hertz, list[0].place
	largest, sum, known := 0.0, 0.0, true
	for _, o := range list {
		table, ok := supply.ThreePhaseTableAmps(o.q.Watts(), f.Shop.Supply.Volts, hertz)
		known, largest, sum = known && ok, max(largest, table), sum+table
	}
	if most, ok := supply.MostFor(place.Device, largest); ok && known {
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
			volts(f.Shop.Supply.Volts*math.Sqrt(3)/2))
	}
	if place.Outlet != "" {
		f.outlet(card, j, m.id, m.name, place.Outlet, place.BreakerAmps, 3)
	}
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
