package sheet

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
)

// way is a motor on its way of being fed, for the sheet.
type way struct {
	shop    shop.Shop
	machine shop.Machine
	motor   shop.Motor
	study   study.Study
}

func (w way) hertz() float64 { return w.study.Input.Supply.Hertz }

// feed words the supply, for a drawing.
func (w way) feed() string {
	return fmt.Sprintf("%.0f V %.0f Hz single phase", w.study.Input.Supply.Volts, w.hertz())
}

// joined words how the motor is joined, for a drawing.
func (w way) joined() string {
	return fmt.Sprintf("joined for %s V", quantity.Figures(w.study.Plate.Volts.Value, 4))
}

// compare sets the ways of feeding the machine side by side: those that are kept in
// columns, or else all of them in a line each.
func (w way) compare(s *Sheet) {
	a := route.Compare(w.motor.Matters.Into(w.study.Question(w.shop)))
	taken, kept := w.study.Route(), w.motor.Way.Kept
	s.Sections = append(s.Sections, w.routeSection(a, taken))
	for i := range a.Routes {
		if r := &a.Routes[i]; r.Name == taken {
			for _, v := range r.Verdicts {
				if strings.HasPrefix(v.Rule, "route.") &&
					!slices.ContainsFunc(s.Verdicts, func(had rule.Verdict) bool { return had.Rule == v.Rule }) {
					s.Verdicts = append(s.Verdicts, v)
				}
			}
		}
	}
	if len(kept) == 0 {
		return
	}
	columns := []route.Route{}
	for _, name := range append([]string{taken}, kept...) {
		if i := slices.IndexFunc(a.Routes, func(r route.Route) bool { return r.Name == name }); i >= 0 {
			columns = append(columns, a.Routes[i])
		}
	}
	t := rule.Table{Title: "Kept side by side", Head: []string{"Figure"}, Rows: [][]string{}}
	for _, r := range columns {
		t.Head = append(t.Head, r.Title)
	}
	for _, row := range route.Figures(w.hertz()) {
		cells := []string{row.Title}
		for i := range columns {
			cells = append(cells, row.Show(&columns[i]))
		}
		t.Rows = append(t.Rows, cells)
	}
	s.Tables = append(s.Tables, t)
}

// routeSection is the ways of feeding the machine, the best first, and says so where
// this sheet is for another than the best.
func (w way) routeSection(a route.Answer, taken string) Section {
	s := Section{Title: "Ways of feeding it"}
	if a.Recommended != "" && a.Recommended != taken {
		s.Rows = append(
			s.Rows,
			Row{
				Label: "Mind",
				Value: "not the best",
				Remark: "This sheet is for another way than the one that stands first by what matters " +
					"here: " + rule.InSentence(
					a.Routes[0].Title,
				) + ".",
			},
		)
	}
	for _, r := range a.Routes {
		left := "none left"
		if r.UsableWatts != nil {
			left = quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], w.hertz())
		}
		why := "fits"
		if !r.Fits {
			why = "does not fit"
		}
		if len(r.Why) > 0 {
			why += ": " + strings.Join(r.Why, "; ")
		}
		title := r.Title
		if r.Name == taken {
			title += ", this sheet"
		}
		s.Rows = append(s.Rows, Row{"", title, left, fmt.Sprintf("%.0f a year; %s", r.Cost.PerYear, why), true})
	}
	return s
}
