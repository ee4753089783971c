package floor

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// draw is what a circuit is sized for by one thing on it, of one side of its change-over: amps that
// flow for hours, what conductors carry for it at least by a code's rule, and its amps at a start.
type draw struct {
	side                  string
	amps, carry, starting float64
	locked                float64 // by which its isolator is chosen, 0 for what is no motor across the lines
	by                    string
	most                  float64 // of its breaker by a rule of its own, 0 for that of its conductors
	line                  int     // that it hangs on with the neutral, 0 for between the lines
}

// draws are those of all that hangs on a circuit, what hangs on its panel's circuits included.
func (f *Floor) draws(on, device string) (list []draw) {
	for i := range f.machines {
		for k := range f.machines[i].motors {
			if m := &f.machines[i].motors[k]; m.q != nil && m.place.On == on {
				list = append(list, f.motorDraw(m, device))
			}
		}
	}
	for i := range f.Shop.Site.Converters {
		if c := &f.Shop.Site.Converters[i]; c.On == on {
			list = append(list, f.converterDraw(c))
		}
	}
	for i := range f.Shop.Site.Loads {
		if l := &f.Shop.Site.Loads[i]; l.On == on {
			line, _ := f.leg(l)
			list = append(list, draw{side: l.Side, amps: l.Amps, carry: f.code.Spare() * l.Amps, line: line})
		}
	}
	for _, c := range f.Shop.Site.Circuits {
		if c.From == on && c.ID != on {
			list = append(list, f.draws(c.ID, device)...)
		}
	}
	return list
}

// motorDraw is a motor's, as its way takes it.
func (f *Floor) motorDraw(m *motor, device string) draw {
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
		d.most, _ = f.code.Next(d.carry)
	default: // one motor, 430.52
		d.most, _ = f.code.MostFor(device, d.amps)
	}
	d.locked = f.locked(m)
	return d
}

// locked are the amps by which the isolator of a motor is chosen at standstill, by its table: those of a motor
// behind a converter of its own, or of one of one phase; 0 for a drive, which is none across the lines.
func (f *Floor) locked(m *motor) (amps float64) {
	own, err := m.way.Hang(m.q, m.ID, m.q.Share())
	switch _, driven := m.way.(feed.Driven); {
	case driven || err != nil:
	case slices.ContainsFunc(own.Motors, func(o network.Motor) bool { return o.ID == m.ID }):
		stands, _ := f.code.ThreePhaseLockedAmps(m.q.Watts(), f.Shop.Supply.Volts)
		amps = f.code.ConverterLocked(stands)
	default:
		amps, _ = f.code.OnePhaseLockedAmps(m.q.Watts(), f.Shop.Supply.Volts)
	}
	return amps
}

// converterDraw is a converter's: by its own label's amps, or else by those of its loads, beside
// what it takes by the model with all of them at their loads.
func (f *Floor) converterDraw(c *site.Converter) draw {
	if c.Kind == site.BusKind {
		return f.busDraw(c)
	}
	d := draw{side: c.Side}
	hertz := f.Shop.Supply.Hertz
	if own := f.idlers[c.ID]; !own.unknown {
		d.starting = startPeak * own.Watts / f.Shop.Supply.Volts
	}
	s := site.State{On: []string{c.ID}}
	table, stands := 0.0, 0.0
	for i := range f.machines {
		for k := range f.machines[i].motors {
			m := &f.machines[i].motors[k]
			if m.q == nil || m.place.On != c.ID {
				continue
			}
			s.On = append(s.On, m.ID)
			if own, ok := f.code.ThreePhaseTableAmps(m.q.Watts(), f.voltsOn(c)); ok {
				table += own * f.ratio(c) // by output over input volts, 455.6
				begins, _ := f.code.ThreePhaseLockedAmps(m.q.Watts(), f.voltsOn(c))
				stands = max(stands, (begins-own)*f.ratio(c))
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
	if stands > 0 {
		d.locked = f.code.ConverterLocked(stands + table + f.others(c.ID))
	}
	d.carry = f.code.Spare() * d.amps
	switch {
	case c.Label.InputAmps > 0:
		d.amps = math.Max(d.amps, c.Label.InputAmps)
		d.carry = f.code.Spare() * d.amps
		d.by = fmt.Sprintf("%.0f %% of its label’s amps: NEC 455.6(A)(1) (US, 2023)", 100*f.code.Spare())
		if !quantity.SixtyHertz(hertz) {
			d.by = "its label’s amps: IEC 60364-4-43, 433.1"
		}
	case table > 0:
		if least := f.code.ConverterAmps(table); least.Amps > d.carry {
			d.carry, d.by = least.Amps, least.By
		}
	}
	d.most, _ = f.code.Next(d.carry)
	return d
}

// others are the amps of the loads on a converter that are no motor.
func (f *Floor) others(converter string) (amps float64) {
	for _, l := range f.Shop.Site.Loads {
		if l.On == converter {
			amps += l.Amps
		}
	}
	return amps
}

// wanted is what a circuit is to carry and be protected by, the largest of its change-over's sides.
type wanted struct {
	amps, carry, starting float64
	locked                float64 // with the largest at standstill, by which an isolator is chosen; 0 without a motor
	by                    string
	most                  float64 // of the breaker of what hangs there alone, by a rule of its own
	any, several          bool
}

func (f *Floor) wanted(c *site.Circuit) (most wanted) {
	all := f.draws(c.ID, c.Device)
	for _, side := range []string{site.SideA, site.SideB} {
		w, lines := wanted{}, [3]float64{}
		largest, count := draw{}, 0
		for _, d := range all {
			if c.ChangeOver && d.side != "" && d.side != side {
				continue
			}
			count++
			lines[d.line] += d.amps
			w.starting = math.Max(w.starting, d.starting-d.amps)
			if d.locked > 0 {
				w.locked = math.Max(w.locked, d.locked-d.amps)
			}
			if d.carry-d.amps > largest.carry-largest.amps {
				largest = d
			}
		}
		w.amps = lines[0] + math.Max(lines[1], lines[2])
		w.carry = w.amps + largest.carry - largest.amps
		w.by, w.any, w.several = largest.by, count > 0, count > 1
		if count == 1 {
			w.most = largest.most
		}
		w.starting += w.amps
		if w.locked > 0 {
			w.locked += w.amps // 430.110(C): the largest stands, the others run
		}
		if w.carry > most.carry || !most.any {
			most = w
		}
	}
	return most
}

// thicker is the conductor that a run wants for a start.
func (f *Floor) thicker(c *site.Circuit, w wanted) string {
	most := rule.Limit("route.long-run", "most_starting_percent")
	for _, size := range supply.Sizes(f.Shop.Supply.Hertz) {
		l := c.Laid
		l.Size = size
		carried, ok := f.code.Carries(l)
		lost := 100 * math.Hypot(real(carried.Ohm), imag(carried.Ohm)) * 2 * c.Metre / f.voltsOf(c)
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
		least, ok := f.code.Breaker(w.amps)
		if ok {
			card.add(
				"Protected by at least",
				amps(least),
				"the next standard rating: "+f.either("NEC 240.6, 430.22, 455.7 (US, 2023)",
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
	if next, ok := f.code.Next(carried.Amps); ok {
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
	most := f.code.LoopPercent() / 100 * f.Shop.Supply.Volts / (device.Trips * c.BreakerAmps)
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
func (f *Floor) outlet(
	card *facts, j *judgement, id, name, outlet string, breaker, fed float64, phases int,
) {
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
	over := 100 * (fed/r.Volts - 1)
	if over > rule.Limit("floor.code-receptacle", "over_percent") ||
		over < -rule.Limit("floor.code-receptacle", "under_percent") {
		j.say("floor.code-receptacle", id, fed, r.Volts, "One for these volts.",
			"%s is made for %s; there are %s.", r.Title, volts(r.Volts), volts(fed))
	}
}
