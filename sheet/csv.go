package sheet

import (
	"bytes"
	"encoding/csv"

	"brackmoor/core/drive"
	"brackmoor/core/strict"
)

// SettingsCSV is a drive's settings as a table, with empty columns for what it was, what
// it is now, the date and the hand.
func SettingsCSV(entries []drive.Entry) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	rows := [][]string{
		{"setting", "set to", "parameter", "written", "why", "mostly found at", "was", "is now", "date", "hand"},
	}
	for _, e := range entries {
		rows = append(rows, []string{e.Title, e.Value, e.Parameter, e.Writes, e.Why, e.Wrong, "", "", "", ""})
	}
	for _, row := range rows {
		for i := range row {
			row[i] = strict.Cell(row[i])
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}
