package shop

import (
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/site"
)

// WiredBy is the question of a motor as it is wired, with breaker and conductors of the circuit that it hangs on: one
// that hangs on a converter of the shop is fed by that, whatever its own way would be.
func (s *Shop) WiredBy(m Machine, motor string, q *feed.Question) *feed.Question {
	c := s.Site.Converter(s.Site.Place(m.ID, motor).On)
	if c == nil {
		on := s.Site.Circuit(s.Site.Place(m.ID, motor).On)
		if on == nil {
			return q
		}
		return q.With(func(q *feed.Question) { q.Fed = feed.Hung{BreakerAmps: on.BreakerAmps, Size: on.Size} })
	}
	return q.With(func(q *feed.Question) {
		q.Fed = feed.Hung{OwnAmps: s.Site.Place(m.ID, motor).BreakerAmps}
		if on := s.Site.Circuit(c.On); on != nil {
			q.Fed.BreakerAmps, q.Fed.Size = on.BreakerAmps, on.Size
		}
		q.Fed.UpSeconds, q.Fed.TimerSeconds = c.RunUpSeconds, c.TimerSeconds
		q.Fed.Others = s.behind(c, m.ID)
		if c.Kind == site.BusKind {
			q.Choice.Route = way(func(w feed.Way) bool {
				driven, ok := w.(feed.Driven)
				return ok && driven.Kind() == drive.Bus
			})
			return
		}
		q.Choice.Route = way(func(w feed.Way) bool { return w.Info().FeedsMore })
		if watts := s.idlerWatts(c); watts > 0 {
			q.Choice.IdlerWatts = &watts
		}
		q.Choice.BalanceAC, q.Choice.BalanceBC = &c.BalanceAC, &c.BalanceBC
		q.Choice.SecondAC, q.Choice.SecondBC = nil, nil
		if q.Choice.Wiring.Start == "" {
			q.Choice.Wiring.Start = startsBy[c.StartBy]
		}
	})
}

// FitBank puts capacitors from either line to the made leg, in microfarads, in the place of those that a motor's way
// has: of the converter of the shop that it hangs on, which ofShop says, of its own idler, or on the motor itself.
func (s *Shop) FitBank(machine string, motor *Motor, ac, bc float64) (ofShop bool) {
	if c := s.Site.Converter(s.Site.Place(machine, motor.ID).On); c != nil {
		s.Site.Converters = slices.Clone(s.Site.Converters)
		c = s.Site.Converter(c.ID)
		c.BalanceAC, c.BalanceBC = ac, bc
		return true
	}
	if _, idled := motor.Way.Taken().(feed.Idled); idled {
		motor.Way.BalanceAC, motor.Way.BalanceBC = &ac, &bc
		return false
	}
	motor.RunMicrofarad = new(ac + bc) // one motor has one
	return false
}

// behind are the machines on a converter, but one, by their names.
func (s *Shop) behind(c *site.Converter, but string) (names []string) {
	for _, m := range s.Machines {
		if m.ID != but && m.ID != c.Idler && s.Site.Place(m.ID, m.ID).On == c.ID {
			names = append(names, m.Name)
		}
	}
	return names
}

// way is the name of the first way that is as is wanted.
func way(is func(feed.Way) bool) string {
	for _, w := range feed.All() {
		if is(w) {
			return w.Info().Name
		}
	}
	return ""
}

// startsBy is how an idler's start part leaves, as circuits have it.
var startsBy = map[string]string{
	"": circuit.ByRelay, site.ByTimer: circuit.ByTimer, site.ByBox: circuit.ByBox, site.ByPony: circuit.ByPony,
}

// idlerWatts are those of a converter's idler: by its plate, or as they were put in.
func (s *Shop) idlerWatts(c *site.Converter) float64 {
	if m := s.Idles(c); m != nil {
		if p, _ := plate.Read(m.Motors[0].Plate); p.OutputWatts > 0 {
			return p.OutputWatts
		}
	}
	return c.IdlerWatts
}

// Idles is the machine of the shop that is a converter's idler, nil where none is.
func (s *Shop) Idles(c *site.Converter) *Machine {
	for i := range s.Machines {
		if m := &s.Machines[i]; m.ID == c.Idler && len(m.Motors) > 0 {
			return m
		}
	}
	return nil
}
