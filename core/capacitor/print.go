package capacitor

import (
	"fmt"
	"strconv"
	"strings"

	"brackmoor/core/rule"
)

// Tables are the standard capacitors that parts are chosen from, in print.
func Tables() []rule.Table {
	list := func(values []float64) string {
		words := make([]string, len(values))
		for i, v := range values {
			words[i] = strconv.FormatFloat(v, 'g', -1, 64)
		}
		return strings.Join(words, ", ")
	}
	var starts []string
	for _, p := range startParts {
		starts = append(starts, fmt.Sprintf("%g–%g", p.Low, p.High))
	}
	return []rule.Table{
		{
			Title:  "Standard capacitors",
			Source: "IEC 60252-1 and 60252-2, and the series usual in trade",
			Head:   []string{"Kind", "µF", "V ac"},
			Rows: [][]string{
				{
					"Run, 60 Hz countries",
					list(runValues60),
					list(runVolts60),
				},
				{"Run, 50 Hz countries", list(runValues50), list(runVolts50)},
				{"Start, marked with a range", strings.Join(starts, ", "), list(startVolts)},
			},
		},
	}
}
