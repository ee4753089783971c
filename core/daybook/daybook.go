// Package daybook is what people write down of their machines: readings, faults and what cured them, changes, what is
// open and what is due. Nothing in it is changed: one that corrects or ends another names it.
package daybook

import (
	"fmt"
	"strings"
	"time"

	"brackmoor/core/rule"
)

// Entry is one line of it.
type Entry struct {
	ID       string `json:"id" minLength:"1" maxLength:"64"`
	At       string `json:"at" maxLength:"40"` // RFC 3339
	Hand     string `json:"hand" maxLength:"40"`
	Kind     string `json:"kind" maxLength:"20"`
	Machine  string `json:"machine" maxLength:"64"` // ids; empty for the whole shop
	Motor    string `json:"motor" maxLength:"64"`
	Says     string `json:"says" maxLength:"2000"`
	Who      string `json:"who" maxLength:"40"`      // whose it is to do, of what is open or due
	Due      string `json:"due" maxLength:"10"`      // the day by when, "" for none
	Ends     string `json:"ends" maxLength:"64"`     // what is open or due, or the fault, that it ends
	Corrects string `json:"corrects" maxLength:"64"` // the entry that it takes the place of
	// Step is the step of a first run that it is about, and Went how it went: well or not.
	Step string `json:"step,omitempty" maxLength:"40"`
	Went string `json:"went,omitempty" enum:",well,not"`
	More
}

// More is what some kinds of entry have besides.
type More struct {
	Signed   *Signed   `json:"signed,omitempty"`                                  // of an acceptance
	Settings []Setting `json:"settings,omitempty" maxItems:"100"`                 // of a drive, as found and left
	Hours    float64   `json:"hours,omitempty" minimum:"0" maximum:"1000000"`     // on the machine's counter
	DueHours float64   `json:"due_hours,omitempty" minimum:"0" maximum:"1000000"` // on it by when it is due, 0 for none
	Photos   []string  `json:"photos,omitempty" maxItems:"6"`                     // ids
}

// Signed is a machine accepted on its way, or not, as it was signed: by what, within which limits, for what, and from
// how many readings.
type Signed struct {
	Verdict  string   `json:"verdict" enum:"not-yet,pass,limits,fail"`
	Title    string   `json:"title" maxLength:"40"`
	Limits   []string `json:"limits" nullable:"false"`
	Basis    string   `json:"basis"`
	Readings int      `json:"readings"`
	Last     string   `json:"last"` // of which readings
}

// Words are an acceptance in a line.
func (s *Signed) Words() string {
	return Cut(strings.Join(append([]string{s.Title + ", on " + s.Basis + "."}, s.Limits...), " "))
}

// Setting is one of a drive's: what it was found at, what is meant, and what was read back. "" is not known.
type Setting struct {
	Name  string `json:"name" maxLength:"40"`
	Title string `json:"title" maxLength:"80"`
	Was   string `json:"was" maxLength:"40"`
	Meant string `json:"meant" maxLength:"80"`
	Read  string `json:"read" maxLength:"40"`
}

// Cut is a text as long as an entry may say.
func Cut(text string) string {
	const most = 2000
	if r := []rune(text); len(r) > most {
		return string(r[:most])
	}
	return text
}

// Kind is a kind of entry: what it is called, and whether it stays open until another ends it.
type Kind struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Open  bool   `json:"open"`
	Typed bool   `json:"typed"` // people type it here; a reading is written where it is read
}

// Kinds of entry that are written where they are done: Reading is what was read on a motor, Step a step of a first run,
// which stays open until it went well.
const (
	Reading  = "reading"
	Step     = "step"
	Accepted = "accepted" // a machine that was signed off, or was not
	Set      = "setting"
	Changed  = "change"
)

// NotWell is how a step went that stays open.
const NotWell = "not"

// Kinds are those that there are.
var Kinds = []Kind{
	{"note", "Note", false, true},
	{"fault", "Fault", true, true},
	{"cure", "What cured it", false, true},
	{Changed, "Changed wiring or part", false, true},
	{Set, "Setting", false, true},
	{"open", "To be done", true, true},
	{"due", "Maintenance due", true, true},
	{"done", "Done", false, true},
	{Step, "First run", false, false},
	{Reading, "Reading", false, false},
	{Accepted, "Acceptance", false, false},
}

// KindOf finds a kind, nil for none.
func KindOf(name string) *Kind {
	for i := range Kinds {
		if Kinds[i].Name == name {
			return &Kinds[i]
		}
	}
	return nil
}

// StaysOpen says whether an entry is open until another ends it.
func (e *Entry) StaysOpen() bool {
	kind := KindOf(e.Kind)
	return kind != nil && kind.Open || e.Went == NotWell
}

// Check says what is wrong with an entry that somebody typed, now.
func (e *Entry) Check(now time.Time) (problems rule.Problems) {
	at, err := time.Parse(time.RFC3339, e.At)
	switch {
	case err != nil:
		problems.Say("at", "is no moment such as 2026-11-28T14:05:00Z")
	case at.After(now.Add(24 * time.Hour)):
		problems.Say("at", "lies in the future")
	}
	kind := KindOf(e.Kind)
	if kind == nil || !kind.Typed && kind.Name != Step {
		problems.Say("kind", "there is no kind %q to be typed", e.Kind)
	}
	if strings.TrimSpace(e.Hand) == "" {
		problems.Say("hand", "who writes it is not said")
	}
	if strings.TrimSpace(e.Says) == "" {
		problems.Say("says", "nothing is written")
	}
	if e.Kind == Step != (e.Step != "" && e.Went != "") {
		problems.Say("step", "a step says which it is and how it went, and nothing else does")
	}
	if e.Signed != nil {
		problems.Say("signed", "an acceptance is signed where it is judged, and not here")
	}
	if len(e.Settings) > 0 && e.Kind != Set {
		problems.Say("settings", "only a line of settings has them")
	}
	for i, s := range e.Settings {
		if strings.TrimSpace(s.Was+s.Read) == "" {
			problems.Say(fmt.Sprintf("settings[%d]", i), "neither what it was nor what was read back is said")
		}
	}
	switch {
	case e.DueHours > 0 && (kind == nil || !kind.Open):
		problems.Say("due_hours", "only what is open is due")
	case e.DueHours > 0 && e.Machine == "":
		problems.Say("due_hours", "the whole shop has no counter: say which machine")
	case e.Hours > 0 && e.Machine == "":
		problems.Say("hours", "the whole shop has no counter: say which machine")
	}
	if e.Due != "" {
		if _, err := time.Parse(time.DateOnly, e.Due); err != nil {
			problems.Say("due", "is no day such as 2026-11-28")
		} else if kind != nil && !kind.Open {
			problems.Say("due", "only what is open has a day by when")
		}
	}
	return problems
}

// Sought is what somebody looks for: empty fields are not asked. Before is the place from which on older ones are
// listed, 0 for the newest.
type Sought struct {
	Machine string
	Motor   string
	Kind    string
	Words   string
	From    string // days, the first and the last
	Until   string
	Open    bool // what no other has ended
	Before  int64
}
