package feed

import (
	"fmt"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Figure prints a value to so many figures with its unit.
func Figure(value float64, figures int, unit string) string {
	return quantity.Figures(value, figures) + " " + unit
}

// Seconds prints a time, nil being never.
func Seconds(s *float64) string {
	if s == nil {
		return "never"
	}
	return Figure(*s, 2, "s")
}

// Run words motor-run capacitors in parallel, Start motor-start ones.
func Run(list []float64) string {
	parts := make([]string, len(list))
	for i, p := range list {
		parts[i] = quantity.Figures(p, 3)
	}
	return inParallel(parts)
}

// Start words motor-start capacitors in parallel, by the marks on them.
func Start(list []capacitor.StartPart) string {
	parts := make([]string, len(list))
	for i, p := range list {
		parts[i] = mark(p)
	}
	return inParallel(parts)
}

func mark(p capacitor.StartPart) string { return fmt.Sprintf("%.0f–%.0f", p.Low, p.High) }

func inParallel(parts []string) string {
	if len(parts) == 0 {
		return "none"
	}
	return strings.Join(parts, " + ") + " µF"
}

// Rated words a capacitor's voltage rating.
func Rated(r capacitor.Rating) string {
	if r.Rated == 0 {
		return fmt.Sprintf("no standard rating covers %.0f V ac", r.Needed)
	}
	return Figure(r.Rated, 3, "V ac")
}

// Bleeds words bleed resistors, the same ones once.
func Bleeds(list []capacitor.Bleed) string {
	var parts []string
	for i, b := range list {
		text := fmt.Sprintf("%s kΩ %s W", quantity.Figures(b.Ohms/1000, 3), quantity.Figures(b.Watts, 2))
		if i > 0 && text == parts[len(parts)-1] {
			continue
		}
		parts = append(parts, text)
	}
	return strings.Join(parts, ", ")
}

// RunRows are a bank of motor-run capacitors and the bleed on each, StartRows one of
// motor-start ones. What has no working to open goes without a figure's name.
func RunRows(figure, bleeds, label string, b capacitor.Bank) []rule.Row {
	rows := []rule.Row{
		{Figure: figure, Label: label, Value: Run(b.Run), Remark: "motor-run, " + Rated(b.Volts) + ", continuous"},
	}
	for i, bleed := range b.Bleeds {
		rows = append(rows, bleedRow(numbered(bleeds, i), quantity.Figures(b.Run[i], 3)+" µF run", bleed))
	}
	return rows
}

// StartRows are a bank of motor-start capacitors and the bleed on each.
func StartRows(figure, bleeds, label string, b capacitor.Bank) []rule.Row {
	rows := []rule.Row{
		{
			Figure: figure,
			Label:  label,
			Value:  Start(b.Start),
			Remark: "motor-start, " + Rated(b.Volts) + ", seconds only",
		},
	}
	for i, bleed := range b.Bleeds {
		rows = append(rows, bleedRow(numbered(bleeds, i), mark(b.Start[i])+" µF start", bleed))
	}
	return rows
}

// numbered names the working of one of several figures.
func numbered(figure string, i int) string {
	if figure == "" {
		return ""
	}
	return fmt.Sprintf("%s.%d", figure, i)
}

func bleedRow(figure, what string, b capacitor.Bleed) rule.Row {
	return rule.Row{
		Figure: figure,
		Label:  "Bleed on " + what,
		Value:  fmt.Sprintf("%s kΩ %s W", quantity.Figures(b.Ohms/1000, 3), quantity.Figures(b.Watts, 2)),
		Remark: fmt.Sprintf("rated %.0f V; %.0f V after %.1f s, then prove it", b.RatedVolts, b.SafeVolts, b.Seconds),
	}
}

// AcceptPaper is what is accepted in each state of work, with a box for what was read.
func AcceptPaper(list []rule.Judged) rule.Table {
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

// StopsWith are the stops that stand beside the plate and those among verdicts, for a
// drawing.
func (q *Question) StopsWith(verdicts []rule.Verdict) []string {
	return append(append([]string(nil), q.Stops...), Stops(verdicts)...)
}

// Stops words the stops among verdicts.
func Stops(verdicts []rule.Verdict) (stops []string) {
	for _, v := range verdicts {
		if v.Severity == rule.Stop {
			stops = append(stops, v.Title+". "+v.Says)
		}
	}
	return stops
}

// Power prints watts in the unit of the supply's country.
func (q *Question) Power(watts float64) string { return quantity.Power(watts, q.Supply.Hertz) }
