package prove

import (
	"fmt"
	"slices"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// side is a reading on one of two sources.
type side struct {
	p *proof
	r *Reading
}

// words are a figure of a reading, or what follows from several, in print; "–" for what was not read.
func (s side) words(figure func(s side) (value float64, unit string, ok bool)) (text string, value float64, ok bool) {
	if s.r != nil {
		if value, unit, ok := figure(s); ok {
			return quantity.Figures(value, 3) + " " + unit, value, true
		}
	}
	return "–", 0, false
}

// sources are tables of what was read on other sources beside the way that is taken, state by state: the same motor on
// a box and on a converter, before and after, on three lines and on one.
func (p *proof) sources(all []Reading) []rule.Table {
	tables := []rule.Table{}
	names := []string{}
	counting := Counting(all)
	for _, r := range counting {
		if r.Source != "" && !slices.Contains(names, r.Source) {
			names = append(names, r.Source)
		}
	}
	for _, name := range names {
		t := rule.Table{
			Name: name, Title: "Beside " + name, Head: []string{"State", "Figure", "Here", "On " + name, "Apart"},
			Rows: [][]string{},
		}
		for _, s := range p.states {
			other := side{p: p}
			for k := range counting {
				if counting[k].Source == name && counting[k].State == s.Name {
					other.r = &counting[k]
				}
			}
			if other.r == nil {
				continue
			}
			here := side{p: p}
			if k := p.last(s.Name); k >= 0 {
				here.r = &p.list[k]
			}
			t.Rows = append(t.Rows, compared(s, here, other, places(p.q.Supply.Hertz, p.c.Idler != nil))...)
		}
		tables = append(tables, t)
	}
	return tables
}

// compared are the rows of a state: how it does, and then every figure that was read on both.
func compared(s State, here, other side, places []Place) (rows [][]string) {
	add := func(title string, figure func(s side) (float64, string, bool), both bool) {
		a, x, okA := here.words(figure)
		b, y, okB := other.words(figure)
		if !okB && !okA || both && (!okA || !okB) {
			return
		}
		apart := ""
		if okA && okB {
			apart = fmt.Sprintf("%+.3g", y-x)
		}
		rows = append(rows, []string{s.Title, title, a, b, apart})
	}
	if s.Name != Standing {
		add("legs apart", func(s side) (float64, string, bool) {
			v, ok := volts(s.r)
			return v.Unbalance(), "%", ok
		}, false)
		add("hottest winding", func(s side) (float64, string, bool) {
			percent, _, ok := s.p.hottest(s.r)
			return percent, "%", ok
		}, false)
	}
	for _, place := range places {
		add(place.alone(), func(s side) (float64, string, bool) {
			value, ok := s.r.figure(place.Name)
			return value, place.Unit, ok
		}, true)
	}
	return rows
}
