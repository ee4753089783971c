package banked

import (
	"fmt"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
)

// schools are what each school of practice would take, beside the model, in three tables
// of one place.
func (w *Way) schools(q *feed.Question, a *capacitor.Answer) []feed.Panel {
	panel := func(name, title, note string, t *feed.Table) feed.Panel {
		return feed.Panel{
			Name:  name,
			Kind:  feed.TablePanel,
			Title: title,
			Note:  note,
			Turn:  "the schools",
			Width: feed.Stack,
			Table: t,
		}
	}
	return []feed.Panel{
		panel("schools-run", "Run by school", "hottest winding, %", runSchools(a)),
		panel(
			"schools-start",
			"Start by school",
			"beside "+feed.Figure(a.Live.RunMicrofarad, 3, "µF")+" run",
			startSchools(a),
		),
		panel("schools-left", "What is left", "% of plate output", leftSchools(q, a)),
	}
}

// hottest is a state's hottest winding, or why it has none.
func hottest(s *capacitor.State) feed.Cell {
	switch s.Motor {
	case network.Running:
		return feed.Cell{Text: quantity.Fixed(s.HottestPercent, 0), Bad: s.Over}
	case network.Stalled:
		return feed.Cell{Text: "stalls", Bad: true}
	}
	return feed.Cell{Text: "crawls", Bad: true}
}

func runSchools(a *capacitor.Answer) *feed.Table {
	share := a.Live.LoadShare
	t := &feed.Table{
		Head: []string{"School", "µF", "idle", fmt.Sprintf("%.0f %%", 100*share), "full"},
		Rows: []feed.TableRow{},
	}
	for i := range a.Schools {
		c := &a.Schools[i]
		row := feed.TableRow{Head: c.School.Title, Model: c.School.Name == "model", Cells: []feed.Cell{{Text: "–"}}}
		if c.School.Microfarad > 0 {
			row.Cells[0] = feed.Cell{Text: quantity.Figures(c.School.Microfarad, 3), Figure: c.School.Working.Figure}
		}
		if c.School.Applies {
			row.Cells = append(row.Cells, hottest(&c.Idle), hottest(&c.Load), hottest(&c.Full))
		} else {
			row.Span = "not here: " + c.School.Why
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

func startSchools(a *capacitor.Answer) *feed.Table {
	t := &feed.Table{Head: []string{"School", "µF", "torque %", "× load", "supply A"}, Rows: []feed.TableRow{}}
	for i := range a.StartSchools {
		c := &a.StartSchools[i]
		row := feed.TableRow{
			Head: c.School.Title, Model: c.School.Name == capacitor.ModelStart,
			Cells: []feed.Cell{{Text: quantity.Fixed(c.School.Microfarad, 0), Figure: c.School.Working.Figure}},
		}
		if c.School.Applies {
			row.Cells = append(
				row.Cells,
				feed.Cell{Text: quantity.Fixed(100*c.TorqueShare, 0)},
				feed.Cell{
					Text: quantity.Fixed(c.OverBreak, 1),
					Bad:  !c.Starts,
				},
				feed.Cell{Text: quantity.Fixed(c.SupplyAmps, 0)},
			)
		} else {
			row.Span = "not here: " + c.School.Why
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

// leftSchools is what is left of plate output: by the model, and by the schools.
func leftSchools(q *feed.Question, a *capacitor.Answer) *feed.Table {
	t := &feed.Table{Head: []string{}, Rows: []feed.TableRow{}}
	model := func(title string, r *capacitor.Range) {
		words := "none"
		if r != nil {
			words = percents(r.LowWatts/q.Watts(), r.HighWatts/q.Watts())
		}
		t.Rows = append(t.Rows, feed.TableRow{Head: title, Model: true, Cells: []feed.Cell{{Text: words}}})
	}
	model("Model, with this run capacitor", a.Live.Usable)
	model("Model, on two bare legs in "+connection(q), a.UsableBare)
	for _, s := range a.OutputSchools {
		t.Rows = append(
			t.Rows,
			feed.TableRow{Head: "School: " + s.Title, Cells: []feed.Cell{{Text: percents(s.Low, s.High)}}},
		)
	}
	return t
}

// percents prints a range of shares.
func percents(low, high float64) string {
	if high-low < 0.005 {
		return fmt.Sprintf("%.0f %%", 100*high)
	}
	return fmt.Sprintf("%.0f–%.0f %%", 100*low, 100*high)
}

// meter is what a meter should say in each state.
func meter(q *feed.Question, l *capacitor.Live) *feed.Table {
	t := &feed.Table{Head: feed.StateHead(q, "winding", "supply"), Rows: []feed.TableRow{}}
	for _, at := range []struct {
		title    string
		state    *capacitor.State
		standing bool
	}{
		{"standing", &l.Standing, true}, {"idle", &l.Idle, false},
		{fmt.Sprintf("load, %.0f %%", 100*l.LoadShare), &l.Load, false}, {"full load", &l.Full, false},
	} {
		s := at.state
		if s.Motor == network.Stalled && !at.standing {
			t.Rows = append(t.Rows, feed.TableRow{Head: at.title, Cells: []feed.Cell{}, Span: "it stalls", Bad: true})
			continue
		}
		volts := func(v float64) feed.Cell { return feed.Cell{Text: quantity.Fixed(v, 0) + " V"} }
		t.Rows = append(t.Rows, feed.TableRow{Head: at.title, Cells: []feed.Cell{
			volts(s.Volts.AB),
			volts(s.Volts.BC),
			volts(s.Volts.CA),
			{
				Text: quantity.Fixed(s.HottestPercent, 0) + " %",
				Bad:  s.Over,
			},
			{Text: quantity.Fixed(s.SupplyAmps, 1) + " A"},
		}})
	}
	return t
}
