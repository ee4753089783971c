// Package prove sets what was read on a running machine beside what its way was to give: foretold by the model with a
// band, learned from what was read before, judged by state by the rules of sizing, with the change to make next.
package prove

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"brackmoor/core/daybook"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Reading is what somebody read in a state, as it was written down. It is never changed: one that corrects another
// names it.
type Reading struct {
	ID string `json:"id" maxLength:"64" minLength:"1"`
	// At is when, RFC 3339, and Hand who.
	At     string   `json:"at" maxLength:"40"`
	Hand   string   `json:"hand" maxLength:"40"`
	State  string   `json:"state" maxLength:"20"`
	Share  *float64 `json:"share" minimum:"0" maximum:"1.5"` // of plate output, nil for that of its state
	AC     float64  `json:"ac_microfarad" minimum:"0" maximum:"5000"`
	BC     float64  `json:"bc_microfarad" minimum:"0" maximum:"5000"`
	Source string   `json:"source" maxLength:"80"` // what fed it, where it is not the way that is taken
	// Volts is how much of the supply's volts there was, through a variable transformer, in percent; 0 for all.
	Volts    float64  `json:"volts_percent,omitempty" minimum:"0" maximum:"110"`
	Class    float64  `json:"class_percent" minimum:"0" maximum:"20"`
	Meter    string   `json:"meter,omitempty" maxLength:"60"` // which one
	Figures  []Figure `json:"figures" nullable:"false" maxItems:"60"`
	Unable   bool     `json:"unable,omitempty"` // the state could not be brought about
	Note     string   `json:"note" maxLength:"2000"`
	Corrects string   `json:"corrects" maxLength:"64"`
}

// Figure is one that was read at a place.
type Figure struct {
	Place string  `json:"place" maxLength:"20"`
	Value float64 `json:"value" minimum:"-1000" maximum:"1000000"`
}

// Place is where a figure is read: its name in files, what it is called here, its unit, and the group it is typed in.
type Place struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Unit  string `json:"unit"`
	Group string `json:"group"`
}

// alone is what a place is called where its group does not stand beside it.
func (p Place) alone() string {
	if strings.HasPrefix(p.Name, "amps."+idlerID) {
		return "idler " + p.Title
	}
	return p.Title
}

// State is one in which something is read.
type State struct {
	Name  string   `json:"name"`
	Title string   `json:"title"`
	Share *float64 `json:"share"` // of plate output that is usual in it; nil for none
	// Loaded says that what comes in with the load is in.
	Loaded bool `json:"loaded"`
	// Hard says that it may be out of reach: a load, or another's start.
	Hard bool `json:"hard"`
}

// The states.
const (
	Standing = "standing"
	Alone    = "alone"
	Idle     = "idle"
	Part     = "part"
	Full     = "full"
	Starting = "starting"
)

// states are those of a machine, with an idler beside it or not, at the share that is meant by its load.
func states(idler bool, share float64) (list []State) {
	list = append(list, State{Name: Standing, Title: "Standing, volts on"})
	if idler {
		list = append(list, State{Name: Alone, Title: "Idler alone"})
	}
	list = append(
		list,
		State{Name: Idle, Title: "Machine idle", Share: new(0.0)},
		State{
			Name:   Part,
			Title:  fmt.Sprintf("At its load, %.0f %%", 100*share),
			Share:  &share,
			Loaded: true,
			Hard:   true,
		},
		State{Name: Full, Title: "Full plate output", Share: new(1.0), Loaded: true, Hard: true},
	)
	if idler {
		list = append(list, State{Name: Starting, Title: "While another starts", Hard: true})
	}
	return list
}

// places are where figures are read on a supply, the pairs and lines by their names there.
func places(hertz float64, idler bool) (list []Place) {
	l := quantity.LinesAt(hertz)
	pairs := l.Pairs()
	for i, name := range []string{"ab", "bc", "ca"} {
		list = append(list, Place{"volts." + name, pairs[i], "V", "Volts"})
	}
	amps := func(of, group string) {
		for i, name := range []string{"a", "b", "c"} {
			list = append(list, Place{"amps." + of + "." + name, l.Marks[i], "A", group})
		}
	}
	amps(machineID, "Amps of the machine")
	if idler {
		amps(idlerID, "Amps of the idler")
	}
	list = append(list, Place{"amps.supply", "Supply", "A", "Supply"}, Place{"hertz", "Frequency", "Hz", "Supply"},
		Place{"watts", "Taken", "W", "Supply"})
	for _, letter := range []string{"a", "b"} {
		list = append(list, Place{"can-" + letter + "c", "cans " + l.Leg(letter), "A", "Capacitors"})
	}
	for i, name := range []string{"a", "b", "c"} {
		list = append(list, Place{"earth." + name, []string{l.A, l.B, l.Made}[i] + " to earth", "V", "To earth"})
	}
	return append(list,
		Place{"rpm", "Speed", "rpm", "Turning"}, Place{"up", "Up to speed in", "s", "Turning"},
		Place{"coast", "Runs down in", "s", "Turning"}, Place{"hours", "Hours on its counter", "h", "Turning"},
		Place{"room", "Room", "°C", "Warmth"}, Place{"frame", "Frame", "°C", "Warmth"},
		Place{"ohm-cold", "Winding cold", "Ω", "Warmth"}, Place{"ohm-hot", "Winding hot", "Ω", "Warmth"},
		Place{"bus", "Bus", "V", "Drive"},
	)
}

// Others is another unit that a meter may show in place of one.
var Others = map[string]string{"°C": "°F"}

// From turns figures that were read in another unit, by their places, into those of the places.
func (r *Reading) From(units map[string]string) (problems rule.Problems) {
	known := places(60, true)
	for _, place := range slices.Sorted(maps.Keys(units)) {
		i := slices.IndexFunc(known, func(p Place) bool { return p.Name == place })
		at := slices.IndexFunc(r.Figures, func(f Figure) bool { return f.Place == place })
		if i < 0 || at < 0 {
			problems.Say("in", "nothing was read at %q", place)
			continue
		}
		switch unit := known[i].Unit; units[place] {
		case unit, "":
		case Others[unit]:
			scale := scales[strings.ToLower(units[place])]
			value := scale.plus + scale.times*r.Figures[at].Value
			r.Figures[at].Value = math.Round(1e6*value) / 1e6 // a meter shows no more
		default:
			problems.Say("in", "%s is read in %s, not in %q", known[i].Title, unit, units[place])
		}
	}
	return problems
}

// The ids of the motors in a case.
const (
	machineID = "machine"
	idlerID   = "idler"
)

// leastVolts is the least percentage of the supply's volts that something is read at.
const leastVolts = 5

// Check says what is wrong with a reading, by its own paths.
func (r *Reading) Check() (problems rule.Problems) {
	if _, err := time.Parse(time.RFC3339, r.At); err != nil {
		problems.Say("at", "is no moment such as 2026-11-28T14:05:00Z")
	}
	if !slices.ContainsFunc(states(true, 0), func(s State) bool { return s.Name == r.State }) {
		problems.Say("state", "there is no state %q", r.State)
	}
	if strings.TrimSpace(r.Hand) == "" {
		problems.Say("hand", "who read it is not said")
	}
	switch {
	case r.Unable && !slices.ContainsFunc(states(true, 0), func(s State) bool { return s.Hard && s.Name == r.State }):
		problems.Say("unable", "only a load, or another’s start, may be out of reach; this state is read")
	case r.Unable && len(r.Figures) > 0:
		problems.Say("figures", "nothing is read in a state that could not be brought about")
	case !r.Unable && len(r.Figures) == 0 && strings.TrimSpace(r.Note) == "":
		problems.Say("figures", "nothing was read")
	}
	if r.Volts != 0 && r.Volts < leastVolts {
		problems.Say(
			"volts_percent",
			"less than %d percent of the supply’s volts turns nothing; leave it empty for all",
			leastVolts,
		)
	}
	known := places(60, true)
	seen := map[string]bool{}
	for i, f := range r.Figures {
		at := fmt.Sprintf("figures[%d]", i)
		switch {
		case !slices.ContainsFunc(known, func(p Place) bool { return p.Name == f.Place }):
			problems.Say(at+".place", "there is no place %q", f.Place)
		case seen[f.Place]:
			problems.Say(at+".place", "%s is there twice", f.Place)
		case f.Value < 0 && f.Place != "room" && f.Place != "frame":
			problems.Say(at+".value", "a meter reads no less than nothing there")
		}
		seen[f.Place] = true
	}
	return problems
}

// figure is what was read at a place; ok is false where nothing was.
func (r *Reading) figure(place string) (value float64, ok bool) {
	i := slices.IndexFunc(r.Figures, func(f Figure) bool { return f.Place == place })
	if i < 0 {
		return 0, false
	}
	return r.Figures[i].Value, true
}

// Hours are those on the machine's counter, 0 where they were not read.
func (r *Reading) Hours() float64 {
	hours, _ := r.figure("hours")
	return hours
}

// Counting are the readings that count: those that no other corrects, in the order of their time.
func Counting(list []Reading) (out []Reading) {
	gone := map[string]bool{}
	for _, r := range list {
		gone[r.Corrects] = true
	}
	for _, r := range list {
		if !gone[r.ID] {
			out = append(out, r)
		}
	}
	slices.SortStableFunc(out, func(a, b Reading) int { return strings.Compare(a.At, b.At) })
	return out
}

// Words are a reading in a line, by the names of its supply's lines.
func (r *Reading) Words(hertz float64) string {
	title := r.State
	for _, s := range states(true, 0) {
		if s.Name == r.State && s.Name != Part {
			title = s.Title
		}
	}
	if r.State == Part {
		title = "At its load"
	}
	list := []string{}
	for _, p := range places(hertz, true) {
		if value, ok := r.figure(p.Name); ok {
			list = append(list, fmt.Sprintf("%s %s %s", p.alone(), quantity.Figures(value, 4), p.Unit))
		}
	}
	if r.Unable {
		list = append(list, "could not be brought about")
	}
	if r.Volts > 0 {
		title += fmt.Sprintf(" at %s %% of the volts", quantity.Figures(r.Volts, 3))
	}
	text := title + ": " + strings.Join(list, ", ")
	if r.Note != "" {
		text += ". " + r.Note
	}
	return daybook.Cut(text)
}
