package sheet

import (
	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/study"
)

// capacitors fills in a sheet for capacitors on the motor alone, a static converter or a
// phase-shifting box.
func (w way) capacitors(s *Sheet) {
	st := w.study
	a := st.Size()
	s.Headline, s.Drawing = Headline(st, &a), Circuit(st, &a)
	s.Verdicts = append(s.Verdicts, a.Live.Verdicts...)
	s.Sections = append(s.Sections, partsSection(&a), runningSection(&a, st.Input))
	if route.Boxed(st.Route()) {
		s.Tables = append(s.Tables, acceptTable(st.Accept(&a)))
		s.Sections = append(s.Sections, boxSection(st.BoxFacts(&a)))
		if hard := route.NeverStatic(st.Input.Load); hard != nil && st.Route() == route.Static {
			s.Verdicts = append(s.Verdicts, *hard)
		}
	}
	s.Sections = append(s.Sections, startSection(&a), protectSection(st, &a))
	if after, err := st.SwitchOff(a.Live.RunMicrofarad); err == nil {
		s.Verdicts = append(s.Verdicts, after.Verdicts...)
	}
}

// boxSection is what must be known of a box that starts, or starts and runs, a motor.
func boxSection(facts []study.Fact) Section {
	rows := []Row{}
	for _, f := range facts {
		rows = append(rows, Row{Label: f.Title, Value: f.Value, Remark: f.Says})
	}
	return Section{"The box", rows}
}

// acceptTable is what is accepted in each state of work, with a box for what was read.
func acceptTable(list []rule.Judged) rule.Table {
	t := rule.Table{
		Title: "Accepted by state",
		Head:  []string{"State", "Judged by", "Expected", "Accepted", "Read"},
		Rows:  [][]string{},
	}
	for _, j := range list {
		expected, accepted := quantity.Figures(j.Value, 3)+" "+j.Unit, "at most "
		if j.Least {
			accepted = "at least "
		}
		accepted += quantity.Figures(j.Limit, 3) + " " + j.Unit
		if j.Rule == "" {
			expected, accepted = j.Unit, "–"
		}
		if !j.Accepted {
			expected += ": not accepted"
		}
		t.Rows = append(t.Rows, []string{j.State, j.Figure, expected, accepted, ""})
	}
	return t
}
