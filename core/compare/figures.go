package compare

import (
	"fmt"
	"strings"

	"brackmoor/core/feed"
	"brackmoor/core/quantity"
)

// Line is a figure of every route, for setting them side by side.
type Line struct {
	Title string
	Show  func(*Route) string
}

// Figures are the lines of a comparison of routes in print, on a supply of so many hertz.
func Figures(hertz float64) []Line {
	number := func(p *float64, unit string) string {
		if p == nil {
			return "–"
		}
		return quantity.Figures(*p, 3) + unit
	}
	return []Line{
		{"Fits", func(r *Route) string {
			if r.Fits {
				return "yes"
			}
			return "no"
		}},
		{"Start, × asked", func(r *Route) string { return number(r.Margin, "") }},
		{"Output left", func(r *Route) string {
			if r.UsableWatts == nil {
				return "none"
			}
			return quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], hertz)
		}},
		{"At its duty, by heat", func(r *Route) string {
			if r.Duty == nil {
				return "–"
			}
			return r.Duty.Words(hertz)
		}},
		{"Hottest winding, %: idle · load · full", func(r *Route) string { return three(r.Hottest) }},
		{"Legs apart, %: idle · load · full", func(r *Route) string { return three(r.Unbalance) }},
		{"Supply amps: idle · load · full", func(r *Route) string { return three(r.SupplyAmps.Three) }},
		{"Starting amps", func(r *Route) string { return number(r.SupplyAmps.Starting, "") }},
		{"Parts · hours · a year", func(r *Route) string {
			return fmt.Sprintf("%.0f · %s h · %.0f", r.Cost.Parts, quantity.Figures(r.Cost.Hours, 2), r.Cost.PerYear)
		}},
		{"Against it", func(r *Route) string { return strings.Join(r.Why, "; ") }},
		{"Leaves unsolved", func(r *Route) string { return strings.Join(r.Unsolved, "; ") }},
		{"Turn it round", func(r *Route) string { return r.Reversal }},
	}
}

// three prints figures at idle, at the load and at full output.
func three(t feed.Three) string {
	short := func(p *float64) string {
		if p == nil {
			return "–"
		}
		if *p >= 100 {
			return quantity.Figures(*p, 3)
		}
		return quantity.Figures(*p, 2)
	}
	return short(t.Idle) + " · " + short(t.Load) + " · " + short(t.Full)
}
