package sheet

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// sideBySide sets the ways of feeding the machine side by side: those that are kept in
// columns, or else all of them in a line each.
func sideBySide(s *Sheet, q *feed.Question) {
	a := compare.Compare(q)
	taken, kept := q.Choice.Taken().Info().Name, q.Choice.Kept
	s.Sections = append(s.Sections, routeSection(q, a, taken))
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
	columns := []compare.Route{}
	for _, name := range append([]string{taken}, kept...) {
		if i := slices.IndexFunc(a.Routes, func(r compare.Route) bool { return r.Name == name }); i >= 0 {
			columns = append(columns, a.Routes[i])
		}
	}
	t := rule.Table{Title: "Kept side by side", Head: []string{"Figure"}, Rows: [][]string{}}
	for _, r := range columns {
		t.Head = append(t.Head, r.Title)
	}
	for _, row := range compare.Figures(q.Supply.Hertz) {
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
func routeSection(q *feed.Question, a compare.Answer, taken string) rule.Section {
	s := rule.Section{Title: "Ways of feeding it"}
	if a.Recommended != "" && a.Recommended != taken {
		s.Rows = append(
			s.Rows,
			rule.Row{
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
			left = quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], q.Supply.Hertz)
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
		s.Rows = append(
			s.Rows,
			rule.Row{
				Label:   title,
				Value:   left,
				Remark:  fmt.Sprintf("%.0f a year; %s", r.Cost.PerYear, why),
				Assumed: true,
			},
		)
	}
	return s
}
