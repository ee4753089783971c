package sheet

import "brackmoor/core/drive"

// Found is a setting as it was found and read back, when and by whom; "" is not known.
type Found struct{ Was, Read, Date, Hand string }

// SettingsCSV is a drive's settings as a table, with columns for what it was, what it is now, the date and the hand:
// filled where it was written down by the setting's name, empty for a pen where it was not.
func SettingsCSV(entries []drive.Entry, found map[string]Found) ([]byte, error) {
	rows := [][]string{
		{"setting", "set to", "parameter", "written", "why", "mostly found at", "was", "is now", "date", "hand"},
	}
	for _, e := range entries {
		f := found[e.Name]
		rows = append(rows, []string{e.Title, e.Value, e.Parameter, e.Writes, e.Why, e.Wrong, f.Was, f.Read, f.Date,
			f.Hand})
	}
	return table(rows)
}
