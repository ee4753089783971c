package sheet

import (
	"fmt"
	"strings"

	"brackmoor/core/daybook"
	"brackmoor/core/prove"
	"brackmoor/core/rule"
)

// Accept puts on a sheet whether its machine is accepted: what is missing, within which limits, who signed it last and
// what came since; and marks the stops of the plan that readings disprove. signed is nil for never.
func (s *Sheet) Accept(a *prove.Acceptance, signed *daybook.Entry, since string) {
	section := rule.Section{Title: "Acceptance"}
	row := func(label, value, remark string) {
		section.Rows = append(section.Rows, rule.Row{Label: label, Value: value, Remark: remark})
	}
	var missing []string
	for _, n := range a.Needs {
		if !n.Done {
			missing = append(missing, rule.InSentence(n.Title))
		}
	}
	row("By what is read and done", a.Title, strings.Join(a.Limits, " "))
	if missing != nil {
		row(
			"Still to be read or done",
			fmt.Sprintf("%d of %d", len(missing), len(a.Needs)),
			strings.Join(missing, "; "),
		)
	}
	for _, c := range a.Cleared {
		row("Cleared: "+rule.InSentence(c.Title), "", c.Cleared)
	}
	if signed != nil && signed.Signed != nil {
		within := append([]string{signed.Hand + ", " + signed.At[:10] + ", on " + signed.Signed.Basis + "."},
			signed.Signed.Limits...)
		row("Signed", signed.Signed.Title, strings.Join(within, " "))
		if since != "" {
			row("Since then", "", since)
		}
	} else {
		row("Signed", "not yet", "")
	}
	s.Sections = append(append([]rule.Section{}, s.Sections...), section)
	s.Verdicts = a.Clear(s.Verdicts)
}
