// Package rule is the catalogue of what Brackmoor checks, the verdicts that
// come of it, and the working that figures carry.
//
// A rule stands in the catalogue once, with its severity, its limits, one
// sentence of why and its source. The packages that compute ask for a limit by
// name and hand back a verdict with the numbers that made it.
package rule

import (
	"fmt"
	"slices"
	"unicode"
	"unicode/utf8"
)

// Severity is how much a verdict matters.
type Severity string

// A stop must not be passed; a caution is to be weighed; a note is to be known.
const (
	Stop    Severity = "stop"
	Caution Severity = "caution"
	Note    Severity = "note"
)

// rank orders severities, worst first.
func (s Severity) rank() int {
	switch s {
	case Stop:
		return 0
	case Caution:
		return 1
	}
	return 2
}

// Rule is one entry of the catalogue. Limits are the numbers it checks
// against, by names that end in their unit.
type Rule struct {
	ID       string             `json:"id"`
	Severity Severity           `json:"severity"`
	Title    string             `json:"title"`
	Why      string             `json:"why" told:"figures"`
	Source   string             `json:"source"`
	Limits   map[string]float64 `json:"limits,omitempty"`
}

// Verdict is a rule that spoke: one sentence with the number that did it, and
// what to do.
type Verdict struct {
	Rule     string             `json:"rule"`
	Severity Severity           `json:"severity"`
	Title    string             `json:"title"`
	Says     string             `json:"says" told:"figures"`
	Do       string             `json:"do" told:"figures"`
	Numbers  map[string]float64 `json:"numbers"`
	Source   string             `json:"source"`
	Standing bool               `json:"standing"`                         // it holds whatever the figures are
	Cleared  string             `json:"cleared,omitempty" told:"figures"` // what was read that shows that it is not so
}

// Numbers are the figures of a verdict by name.
// (An alias, so that literals read plainly.)
type Numbers = map[string]float64

// Get returns a rule by its id. It panics on an id that the catalogue lacks:
// that is a fault of the program, not of its input.
func Get(id string) Rule {
	for _, r := range Catalogue {
		if r.ID == id {
			return r
		}
	}
	panic("rule: no such rule: " + id)
}

// Limit returns a number that a rule checks against.
func Limit(id, name string) float64 {
	limit, ok := Get(id).Limits[name]
	if !ok {
		panic("rule: " + id + " has no limit " + name)
	}
	return limit
}

// Say takes what Speak does, and keeps the verdict.
type Say func(id string, numbers Numbers, do, format string, args ...any)

// Speak makes a rule's verdict: what it says here, what to do, and the numbers.
func Speak(id string, numbers Numbers, do, format string, args ...any) Verdict {
	r := Get(id)
	if numbers == nil {
		numbers = Numbers{}
	}
	for name, limit := range r.Limits {
		numbers["limit_"+name] = limit
	}
	return Verdict{Rule: id, Severity: r.Severity, Title: r.Title, Says: fmt.Sprintf(format, args...),
		Do: do, Numbers: numbers, Source: r.Source}
}

// Standing makes the verdict of a rule that always holds: it says its why.
func Standing(id string) Verdict {
	v := Speak(id, nil, "", "%s", Get(id).Why)
	v.Standing = true
	return v
}

// Worst is the gravest severity among verdicts, "" when there are none.
func Worst(verdicts []Verdict) Severity {
	var worst Severity
	for _, v := range verdicts {
		if worst == "" || v.Severity.rank() < worst.rank() {
			worst = v.Severity
		}
	}
	return worst
}

// Sorted returns the verdicts with the gravest first, otherwise in order.
func Sorted(verdicts []Verdict) []Verdict {
	sorted := make([]Verdict, 0, len(verdicts))
	for _, severity := range []Severity{Stop, Caution, Note} {
		for _, v := range verdicts {
			if v.Severity == severity {
				sorted = append(sorted, v)
			}
		}
	}
	return sorted
}

// Once is all lists in one, what several of them say said once, the gravest first.
func Once(lists ...[]Verdict) []Verdict {
	var all []Verdict
	for _, list := range lists {
		for _, v := range list {
			if !slices.ContainsFunc(all, func(w Verdict) bool { return w.Rule == v.Rule && w.Says == v.Says }) {
				all = append(all, v)
			}
		}
	}
	return Sorted(all)
}

// InSentence writes a title within a sentence: its first letter small, unless it begins
// an abbreviation.
func InSentence(title string) string {
	first, size := utf8.DecodeRuneInString(title)
	if second, _ := utf8.DecodeRuneInString(title[size:]); size == 0 || unicode.IsUpper(second) {
		return title
	}
	return string(unicode.ToLower(first)) + title[size:]
}
