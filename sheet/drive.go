package sheet

import (
	"fmt"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/rule"
	"brackmoor/core/study"
)

// settings puts what the drive is to be set to on a sheet, and the spindle on it.
func settings(s *Sheet, q *feed.Question, own []drive.Profile) error {
	made, err := study.Settings(q, own)
	if err != nil {
		return err
	}
	table := rule.Table{
		Title: "Drive settings",
		Head:  []string{"Setting", "Set to", "Why; how it often comes", "Was", "Is now", "Date", "Hand"},
		Rows:  [][]string{},
	}
	profile := drive.Among(own, q.Choice.Profile).Name
	if profile != "" {
		table.Source = profile
		table.Head = []string{
			"Setting",
			"Set to",
			"Parameter",
			"Write",
			"Why; how it often comes",
			"Was",
			"Is now",
			"Date",
			"Hand",
		}
	}
	for _, e := range made.Entries {
		row := []string{e.Title, e.Value}
		if e.First != "" && e.First != e.Value {
			row[1] += "; " + e.First + " for the first turn"
		}
		if profile != "" {
			row = append(row, e.Parameter, e.Writes)
			if e.Parameter == "" {
				row[2] = "not there"
			}
		}
		why := e.Why
		if e.Wrong != "" {
			why += "; often: " + e.Wrong
		}
		table.Rows = append(table.Rows, append(row, why, "", "", "", ""))
	}
	s.Tables = append(s.Tables, table, showsTable(made.Shows))
	if len(made.Spindle.Rows) > 0 {
		s.Tables = append(s.Tables, spindleTable(made.Spindle))
	}
	return nil
}

// showsTable is what the drive's display is to tell at each step, with room for what it told.
func showsTable(shows []drive.Shows) rule.Table {
	t := rule.Table{
		Title: "What its display tells", Head: []string{"Step", "Hz", "A", "V", "rpm at the shaft", "Bus, V", "Told"},
		Rows: [][]string{},
	}
	for _, s := range shows {
		t.Rows = append(t.Rows, []string{
			s.Step, fmt.Sprintf("%.1f", s.Hertz), fmt.Sprintf("%.1f", s.Amps), fmt.Sprintf("%.0f", s.Volts),
			fmt.Sprintf("%.0f", s.RPM), fmt.Sprintf("%.0f", s.Bus), "",
		})
	}
	return t
}

// spindleTable is the spindle's rpm of each step at a few frequencies.
func spindleTable(v study.Spindle) rule.Table {
	t := rule.Table{Title: "Spindle speeds, rpm", Head: []string{"Step"}, Rows: [][]string{}}
	for i, r := range v.Rows {
		row := []string{r.Title}
		for _, p := range r.Points {
			if i == 0 {
				t.Head = append(t.Head, feed.Figure(p.Hertz, 3, "Hz"))
			}
			row = append(row, fmt.Sprintf("%.0f", p.RPM))
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}
