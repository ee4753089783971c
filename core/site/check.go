package site

import (
	"fmt"
	"slices"

	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// Check says what is wrong with a site, by JSON paths under its own. Known are the ids of the shop
// that are taken, machines and motors; what hangs may name others, which are not there any more.
func (s *Site) Check(su supply.Supply, known map[string]string) (problems rule.Problems) {
	hertz := su.Hertz
	seen, code := map[string]string{}, supply.CodeOf(hertz, nil)
	for id, at := range known {
		seen[id] = at
	}
	once := func(at, id string) {
		if first, taken := seen[id]; taken {
			problems.Say(at+".id", "%q is taken by %s", id, first)
			return
		}
		seen[id] = at
	}
	feeds := func(at, id string) {
		if c := s.Circuit(id); id != "" && c == nil {
			problems.Say(at, "%q names no circuit", id)
		} else if c != nil && c.Panel {
			problems.Say(at, "%q ends in a panel: a circuit of its own comes from there", id)
		}
	}
	side := func(at, on, side string) {
		if c := s.Circuit(on); side != "" && (c == nil || !c.ChangeOver) {
			problems.Say(at, "is that of a change-over switch, and there is none on it")
		}
	}
	devices := func(at, device, outlet string) {
		if _, ok := supply.DeviceOf(device, hertz); !ok {
			problems.Say(at+".device", "%q is no kind of breaker or fuse that is known here", device)
		}
		if _, ok := supply.ReceptacleOf(outlet, hertz); outlet != "" && !ok {
			problems.Say(at+".outlet", "%q is no receptacle that is known here", outlet)
		}
	}
	for i := range s.Circuits {
		c := &s.Circuits[i]
		at := fmt.Sprintf("circuits[%d]", i)
		once(at, c.ID)
		if _, ok := code.Carries(c.Laid); c.Size != "" && !ok {
			problems.Say(at+".size", "no table has %s of %s with such insulation, laid so", c.Size, c.material())
		}
		devices(at, c.Device, c.Outlet)
		if from := s.Circuit(c.From); c.From != "" && (from == nil || !from.Panel) {
			problems.Say(at+".from", "%q names no circuit that ends in a panel", c.From)
		} else if s.Inner(c) > len(s.Circuits) {
			problems.Say(at+".from", "it feeds itself")
		}
		if c.ChangeOver && c.Panel {
			problems.Say(
				at+".change_over",
				"a change-over switch stands on a circuit of its own, not on a panel's feed",
			)
		}
	}
	idlers := map[string]bool{}
	for i := range s.Converters {
		c := &s.Converters[i]
		at := fmt.Sprintf("converters[%d]", i)
		once(at, c.ID)
		feeds(at+".on", c.On)
		side(at+".side", c.On, c.Side)
		if c.Idler == "" && c.IdlerWatts == 0 && c.Kind != BusKind {
			problems.Say(at+".idler_watts", "says how large its idler is, where no plate does")
		}
		if c.AheadVolts > 0 && c.AheadKVA == 0 {
			problems.Say(at+".ahead_kva", "says how large the transformer ahead of it is")
		}
		if _, ok := code.Carries(supply.Laid{Size: c.Label.Wire}); c.Label.Wire != "" && !ok {
			problems.Say(at+".label.wire", "no table has %q", c.Label.Wire)
		}
		if c.PonyRPM > 0 && c.PonySynchronous(hertz) == 0 {
			problems.Say(at+".pony_rpm", "no motor turns so fast at %g Hz", hertz)
		}
		if c.Idler != "" && idlers[c.Idler] {
			problems.Say(at+".idler", "%q idles in another converter", c.Idler)
		}
		idlers[c.Idler] = true
	}
	for i := range s.Loads {
		l := &s.Loads[i]
		at := fmt.Sprintf("loads[%d]", i)
		once(at, l.ID)
		converter := s.Converter(l.On) != nil
		if !converter {
			feeds(at+".on", l.On)
		}
		side(at+".side", l.On, l.Side)
		_, _, legged := su.Legs()
		if c := s.Converter(l.On); c != nil && c.Kind == BusKind {
			problems.Say(at+".on", "%q is a dc bus, which feeds drives alone", l.On)
		}
		switch neutral := l.Between == LineA || l.Between == LineB; {
		case neutral && converter:
			problems.Say(at+".between", "a converter has no neutral")
		case neutral && !legged:
			problems.Say(at+".between", "this supply has no neutral between its two lines")
		case !neutral && l.Between != "" && l.Between != "ab" && !converter:
			problems.Say(at+".between", "only a converter has a made leg")
		}
	}
	hung := map[string]bool{}
	for i, h := range s.Hung {
		at := fmt.Sprintf("hung[%d]", i)
		if hung[h.ID] {
			problems.Say(at+".id", "%q hangs somewhere already", h.ID)
		}
		hung[h.ID] = true
		if s.Converter(h.On) == nil {
			feeds(at+".on", h.On)
		}
		side(at+".side", h.On, h.Side)
		devices(at, h.Device, h.Outlet)
		if h.First != "" && slices.Contains(h.Apart, h.First) {
			problems.Say(at+".first", "has a switch of its own: it does not start with the machine")
		}
	}
	return problems
}

func (c *Circuit) material() string {
	if c.Material == "" {
		return supply.Copper
	}
	return c.Material
}

// Kept is the site without what names a machine or motor that is not there.
func (s Site) Kept(there func(id string) bool) Site {
	hung := make([]Hung, 0, len(s.Hung))
	for _, h := range s.Hung {
		if !there(h.ID) {
			continue
		}
		if !there(h.First) {
			h.First = ""
		}
		h.Apart = slices.DeleteFunc(slices.Clone(h.Apart), func(id string) bool { return !there(id) })
		hung = append(hung, h)
	}
	if s.Hung = hung; len(hung) == 0 {
		s.Hung = nil
	}
	converters := make([]Converter, len(s.Converters))
	for i, c := range s.Converters {
		if c.Idler != "" && !there(c.Idler) {
			c.Idler = ""
			if c.IdlerWatts == 0 {
				c.IdlerWatts = lostWatts
			}
		}
		converters[i] = c
	}
	if s.Converters = converters; len(converters) == 0 {
		s.Converters = nil
	}
	return s
}

// lostWatts is what a converter's idler is taken for whose plate is gone: 5 hp.
const lostWatts = 3728.5

// Renamed is the site with other ids, by what gives the new one of each.
func (s Site) Renamed(anew func(id string) string) Site {
	name := func(ids ...*string) {
		for _, id := range ids {
			if *id != "" {
				*id = anew(*id)
			}
		}
	}
	s.Circuits = append([]Circuit(nil), s.Circuits...)
	s.Converters = append([]Converter(nil), s.Converters...)
	s.Loads = append([]Load(nil), s.Loads...)
	s.Hung = append([]Hung(nil), s.Hung...)
	for i := range s.Circuits {
		name(&s.Circuits[i].ID, &s.Circuits[i].From)
	}
	for i := range s.Converters {
		name(&s.Converters[i].ID, &s.Converters[i].On, &s.Converters[i].Idler)
	}
	for i := range s.Loads {
		name(&s.Loads[i].ID, &s.Loads[i].On)
	}
	for i := range s.Hung {
		h := &s.Hung[i]
		h.Apart = slices.Clone(h.Apart)
		name(&h.ID, &h.On, &h.First)
		for k := range h.Apart {
			name(&h.Apart[k])
		}
	}
	return s
}

// Check says what is wrong with a state, by the names of its fields.
func (s State) Check() (problems rule.Problems) {
	for id, share := range s.Shares {
		if !(share >= 0 && share <= MostShare) {
			problems.Say("shares."+id, "is a share of plate output, from 0 to %g", MostShare)
		}
	}
	for id, side := range s.Thrown {
		if side != SideA && side != SideB {
			problems.Say("thrown."+id, "stands at a or b")
		}
	}
	return problems
}

// Renamed is the state by other ids.
func (s State) Renamed(anew func(id string) string) State {
	var to State
	for _, id := range s.On {
		to.On = append(to.On, anew(id))
	}
	for id, share := range s.Shares {
		if to.Shares == nil {
			to.Shares = map[string]float64{}
		}
		to.Shares[anew(id)] = share
	}
	for id, side := range s.Thrown {
		if to.Thrown == nil {
			to.Thrown = map[string]string{}
		}
		to.Thrown[anew(id)] = side
	}
	return to
}
