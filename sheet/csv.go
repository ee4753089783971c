package sheet

import (
	"bytes"
	"encoding/csv"
	"strings"
	"unicode"
	"unicode/utf8"

	"brackmoor/core/drive"
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
			row[i] = plain(row[i])
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}

// plain keeps a spreadsheet from taking a text for a formula, whatever blanks stand before its
// sign and however wide that is written.
func plain(text string) string {
	shown := strings.TrimLeftFunc(text, func(r rune) bool { return !unicode.IsGraphic(r) || unicode.IsSpace(r) })
	if strings.HasPrefix(text, "\t") || strings.HasPrefix(text, "\r") ||
		shown != "" && strings.ContainsAny("=+-@＝＋－＠", firstOf(shown)) {
		return "'" + text
	}
	return text
}

func firstOf(text string) string {
	_, size := utf8.DecodeRuneInString(text)
	return text[:size]
}
