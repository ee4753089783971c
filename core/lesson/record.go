package lesson

import (
	"slices"
	"strings"

	"brackmoor/core/rule"
)

// What is practised.
const (
	OfLesson   = "lesson"
	OfExercise = "exercise"
)

// Practised is an answer that somebody gave: to a lesson by its name, or to an exercise by its level.
type Practised struct {
	ID     string `json:"id" minLength:"1" maxLength:"64"`
	Person string `json:"person" maxLength:"40"`
	Kind   string `json:"kind" enum:"lesson,exercise"`
	Name   string `json:"name" maxLength:"40"`
	Right  bool   `json:"right"`
}

// Record is how often somebody answered something, how often rightly, and when last.
type Record struct {
	Person string `json:"person"`
	Kind   string `json:"kind"`
	Name   string `json:"name"`
	Tries  int    `json:"tries"`
	Right  int    `json:"right"`
	Last   string `json:"last"`
}

// Check says what is wrong with an answer.
func (p *Practised) Check() (problems rule.Problems) {
	if strings.TrimSpace(p.Person) == "" {
		problems.Say("person", "who practises is not said")
	}
	known := p.Kind == OfExercise && slices.Contains([]string{"level 1", "level 2", "level 3"}, p.Name)
	for _, l := range lessons {
		known = known || p.Kind == OfLesson && l.name == p.Name
	}
	if !known {
		problems.Say("name", "there is no %s %q", p.Kind, p.Name)
	}
	return problems
}

// Title is what a lesson or exercise is called.
func Title(kind, name string) string {
	for _, l := range lessons {
		if kind == OfLesson && l.name == name {
			return l.title
		}
	}
	return "A wrong plate, " + name
}
