package winding

import (
	"fmt"
	"slices"
	"unicode/utf8"
)

// leadText bounds what a field of the leads may hold, leadName the name of a lead, in
// characters.
const (
	leadText = 40
	leadName = 12
)

// Faults says why this is no record of leads at all, a sentence each; a record with none is
// kept as typed, whatever of it is not understood.
func (t Typed) Faults() (faults []string) {
	say := func(says string) { faults = append(faults, says) }
	if n := len(t.Leads); n > 0 && !slices.Contains(Counts, n) {
		say("A motor has 3, 4, 6, 9 or 12 leads.")
	}
	names := append(append([]string{}, t.Leads...), t.Marks...)
	texts := []string{t.MeterOhms, t.Celsius, t.TestVolts, t.Was}
	for _, e := range t.Readings {
		names, texts = append(names, e.A, e.B), append(texts, e.Text)
	}
	for _, k := range t.Polarity {
		names, texts = append(append(names, k.Driven[:]...), k.Sensed[:]...), append(texts, k.Text)
	}
	longer := func(than int) func(string) bool {
		return func(s string) bool { return utf8.RuneCountInString(s) > than }
	}
	if slices.ContainsFunc(names, longer(leadName)) || slices.ContainsFunc(texts, longer(leadText)) {
		say(fmt.Sprintf("A lead's name has at most %d letters, a reading %d.", leadName, leadText))
	}
	seen := map[string]bool{}
	for _, name := range t.Leads {
		if seen[name] || name == "" || name == Frame {
			say("Every lead needs a name of its own.")
			break
		}
		seen[name] = true
	}
	for name, state := range t.Condition {
		if state != "good" && state != "bad" ||
			!slices.ContainsFunc(Conditions, func(i Item) bool { return i.Name == name }) {
			say("There is no such item of condition.")
			break
		}
	}
	return faults
}
