package sheet_test

import (
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/drive"
	"brackmoor/sheet"
)

// No text of the table is a formula to a spreadsheet, whatever stands before its sign.
func TestTheTableHoldsNoFormula(t *testing.T) {
	for text, disarmed := range map[string]bool{
		"=1+1": true, "+1": true, "-1": true, "@a": true, " =1+1": true, "\u00a0=1": true, "\u200b@x": true,
		"\u3000＝1+1": true, "＋1": true, "－1": true, "＠a": true, "\t=1": true, "\r=1": true, "\n=1": true,
		"60 Hz": false, "": false, "a=1": false, "½": false,
	} {
		file, err := sheet.SettingsCSV([]drive.Entry{{Setting: drive.Setting{Title: text}}}, nil)
		require.NoError(t, err)
		rows, err := csv.NewReader(strings.NewReader(string(file))).ReadAll()
		require.NoError(t, err)
		assert.Equal(t, disarmed, strings.HasPrefix(rows[1][0], "'"), "%q gives %q", text, rows[1][0])
	}
}
