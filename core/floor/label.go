package floor

import (
	"fmt"
	"math"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// judgeLabel holds what is on a bought converter to what its label says.
func (f *Floor) judgeLabel(j *judgement, s *site.State, c *site.Converter, state *ConverterState) {
	l, hertz := c.Label, f.Shop.Supply.Hertz
	total, plates, kva, largest, who := 0.0, 0.0, 0.0, 0.0, ""
	const switchOff = "Switch one of them off: its maker’s word is the stricter one."
	const otherwise = "Feed it otherwise: its maker’s word is the stricter one."
	for i := range f.machines {
		for k := range f.machines[i].motors {
			m := &f.machines[i].motors[k]
			if m.place.On != c.ID || m.q == nil || !m.on(s) {
				continue
			}
			own := m.q.Plate.Amps.Value
			total, plates = total+m.q.Watts(), plates+own
			kva += math.Sqrt(3) * m.q.Plate.Volts.Value * own / 1000
			if m.q.Watts() > largest {
				largest, who = m.q.Watts(), m.name
			}
			if l.FromAmps > 0 && own*rounding() < l.FromAmps || l.ToAmps > 0 && own > rounding()*l.ToAmps {
				j.say(
					"floor.label",
					m.ID,
					own,
					l.ToAmps,
					otherwise,
					"%s has %s on its plate; the label of %s is for %s to %s.",
					m.name,
					amps(own),
					c.Name,
					quantity.Figures(l.FromAmps, 3),
					amps(l.ToAmps),
				)
			}
		}
	}
	power := func(watts float64) string { return quantity.Power(watts, hertz) }
	over := func(value, limit float64) bool { return limit > 0 && value > rounding()*limit }
	if over(total, l.OutputWatts) {
		j.say("floor.label", c.ID, total, l.OutputWatts, switchOff, "Motors of %s hang on %s, whose label says %s.",
			power(total), c.Name, power(l.OutputWatts))
	}
	if over(plates, l.OutputAmps) {
		j.say("floor.label", c.ID, plates, l.OutputAmps, switchOff,
			"Motors of %s by their plates hang on %s, whose label says %s.", amps(plates), c.Name, amps(l.OutputAmps))
	}
	if over(kva, l.OutputKVA) {
		j.say("floor.label", c.ID, kva, l.OutputKVA, switchOff, "Motors of %s kVA hang on %s, whose label says %s.",
			quantity.Figures(kva, 3), c.Name, quantity.Figures(l.OutputKVA, 3))
	}
	if over(largest, l.MotorWatts) {
		j.say("floor.label", c.ID, largest, l.MotorWatts, otherwise,
			"%s has %s; the largest motor that the label of %s allows is %s.", who, power(largest), c.Name,
			power(l.MotorWatts))
	}
	if over(state.Amps, l.InputAmps) {
		j.say("floor.label", c.ID, state.Amps, l.InputAmps, "Less on it: its maker’s word is the stricter one.",
			"%s takes %s; its label says %s at most.", c.Name, amps(state.Amps), amps(l.InputAmps))
	}
}

// labelCard is what a label and its manual say beside what stands there, whatever is on.
func (f *Floor) labelCard(card *facts, j *judgement, c *site.Converter) {
	l, hertz := c.Label, f.Shop.Supply.Hertz
	if l == (site.Label{}) {
		return
	}
	said := []string{}
	put := func(value float64, format string, text string) {
		if value > 0 {
			said = append(said, fmt.Sprintf(format, text))
		}
	}
	put(l.OutputWatts, "%s in all", quantity.Power(l.OutputWatts, hertz))
	put(l.OutputAmps, "%s out", amps(l.OutputAmps))
	put(l.OutputKVA, "%s kVA", quantity.Figures(l.OutputKVA, 3))
	put(l.MotorWatts, "%s in one motor", quantity.Power(l.MotorWatts, hertz))
	put(l.InputAmps, "%s in", amps(l.InputAmps))
	put(l.ToAmps, "motors of %s", quantity.Figures(l.FromAmps, 3)+" to "+amps(l.ToAmps))
	put(l.BreakerAmps, "a breaker of %s at most", amps(l.BreakerAmps))
	if l.Wire != "" {
		said = append(said, "wire of "+l.Wire+" at least")
	}
	if said != nil {
		card.add("Its label says", strings.Join(said, ", "), "the stricter of label and model counts")
	}
	if on := f.Shop.Site.Circuit(c.On); on != nil {
		if l.BreakerAmps > 0 && on.BreakerAmps > l.BreakerAmps {
			j.say(
				"floor.label",
				c.ID,
				on.BreakerAmps,
				l.BreakerAmps,
				"A smaller one: its maker’s word is the stricter one.",
				"%s stands behind %s; its manual says %s at most.",
				c.Name,
				amps(on.BreakerAmps),
				amps(l.BreakerAmps),
			)
		}
		has, _ := f.wire(on)
		wants, known := f.code.Carries(supply.Laid{Size: l.Wire})
		if known && has.Amps > 0 && has.Ohm != 0 && real(has.Ohm) > real(wants.Ohm)*rounding() {
			j.say("floor.label", c.ID, has.Amps, wants.Amps, "A thicker one: its maker’s word is the stricter one.",
				"%s is fed by %s; its manual wants %s.", c.Name, on.Size, l.Wire)
		}
	}
	if l.Regulation > 0 {
		f.regulated(card, j, c)
	}
}

// regulated sets how far a label has volts hold beside how far the made leg moves by the model, from nothing
// on to everything on.
func (f *Floor) regulated(card *facts, j *judgement, c *site.Converter) {
	s := site.State{On: []string{c.ID}}
	idle, err := f.Solve(s)
	if err != nil {
		return
	}
	for _, m := range f.hangOn(c.ID) {
		s.On = append(s.On, m.id)
	}
	loaded, err := f.Solve(s)
	if err != nil {
		return
	}
	for i, was := range idle.Converters {
		now := loaded.Converters[i]
		if was.ID != c.ID || was.Volts.BC == 0 || was.Volts.CA == 0 {
			continue
		}
		moves := 100 * math.Max(math.Abs(now.Volts.BC/was.Volts.BC-1), math.Abs(now.Volts.CA/was.Volts.CA-1))
		card.add("Volts hold within", percent(c.Label.Regulation)+" by its label",
			fmt.Sprintf("by the model the made leg moves %.1f %% from nothing on to everything on", moves))
		if moves > c.Label.Regulation {
			j.say(
				"floor.label-regulation",
				c.ID,
				moves,
				c.Label.Regulation,
				"Count on the larger figure; read it with a meter, idle and loaded.",
				"The made leg of %s moves %.1f %% by the model; its label says %.1f.",
				c.Name,
				moves,
				c.Label.Regulation,
			)
		}
	}
}
