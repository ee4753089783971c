package sheet

import "brackmoor/core/drive"

// SettingsCSV is a drive's settings as a table, with empty columns for what it was, what
// it is now, the date and the hand.
func SettingsCSV(entries []drive.Entry) ([]byte, error) {
	rows := [][]string{
		{"setting", "set to", "parameter", "written", "why", "mostly found at", "was", "is now", "date", "hand"},
	}
	for _, e := range entries {
		rows = append(rows, []string{e.Title, e.Value, e.Parameter, e.Writes, e.Why, e.Wrong, "", "", "", ""})
	}
	return table(rows)
}
