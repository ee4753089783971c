package sheet

import (
	"fmt"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/supply"
)

// hangs is where a motor hangs in its shop: breaker, conductors and plug of its circuit as they are; ok is
// false for one that hangs nowhere yet.
func hangs(s *shop.Shop, m shop.Machine, o shop.Motor) (section rule.Section, ok bool) {
	place, hertz := s.Site.Place(m.ID, o.ID), s.Supply.Hertz
	section = rule.Section{Title: "Where it hangs", Rows: []rule.Row{}}
	add := func(label, value, remark string) {
		section.Rows = append(section.Rows, rule.Row{Label: label, Value: value, Remark: remark})
	}
	on := place.On
	if c := s.Site.Converter(on); c != nil {
		add("On", c.Name, "its own lines, the made leg among them")
		on = c.On
		if place.BreakerAmps > 0 {
			add("Its own breaker", quantity.Figures(place.BreakerAmps, 3)+" A", "three-pole, behind the converter")
		}
	}
	plug := place.Outlet
	if c := s.Site.Circuit(on); c != nil {
		device, _ := supply.DeviceOf(c.Device, hertz)
		add(
			"Circuit",
			c.Name,
			fmt.Sprintf("%s of %s A", rule.InSentence(device.Title), quantity.Figures(c.BreakerAmps, 3)),
		)
		if c.Size != "" {
			wire := c.Size
			if c.Metre > 0 {
				wire += ", " + quantity.Run(c.Metre, hertz)
			}
			add("Its conductors", wire, strings.TrimPrefix(c.Material, supply.Copper))
		}
		if plug == "" && s.Site.Converter(place.On) == nil {
			plug = c.Outlet
		}
	}
	if len(section.Rows) == 0 {
		return section, false
	}
	if r, known := supply.ReceptacleOf(plug, hertz); known {
		add("Plugged in by", r.Title, "not to be confused with "+r.Not)
	} else {
		add("Plugged in by", "fixed", "no plug: an isolator in its sight")
	}
	if place.OverloadAmps > 0 {
		add("Overload set to", quantity.Figures(place.OverloadAmps, 3)+" A", "as put in on the Floor")
	}
	return section, true
}
