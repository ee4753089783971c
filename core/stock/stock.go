// Package stock is what a shop has on hand: its parts with their ratings and condition, what of them is not to be
// trusted, and how a capacitance is made up of them.
package stock

import (
	"fmt"
	"slices"

	"brackmoor/core/rule"
)

// Item is a kind of part on hand, and how many of it. What a kind has no use for is left out.
type Item struct {
	ID         string  `json:"id" maxLength:"64"`
	Kind       string  `json:"kind" maxLength:"20"`
	Name       string  `json:"name" maxLength:"80"`
	Count      float64 `json:"count" minimum:"0" maximum:"100000"` // pieces, of wire metres
	Microfarad float64 `json:"microfarad,omitempty" minimum:"0" maximum:"100000"`
	Measured   float64 `json:"measured_microfarad,omitempty" minimum:"0" maximum:"100000"` // of each, 0 for not yet
	MeasuredOn string  `json:"measured_on,omitempty" maxLength:"10"`
	Volts      float64 `json:"volts,omitempty" minimum:"0" maximum:"2000"`
	Tags       int     `json:"tags,omitempty" minimum:"0" maximum:"4"` // at a capacitor's pole
	Watts      float64 `json:"watts,omitempty" minimum:"0" maximum:"1000000"`
	Amps       float64 `json:"amps,omitempty" minimum:"0" maximum:"10000"`
	Size       string  `json:"size,omitempty" maxLength:"40"`
	OnePhase   string  `json:"one_phase,omitempty" enum:",yes,no"` // whether a drive's maker permits it
	Condition  string  `json:"condition,omitempty" enum:",new,good,worn,unknown"`
	Year       int     `json:"year,omitempty" minimum:"0" maximum:"2200"` // it was made
	From       string  `json:"from,omitempty" maxLength:"80"`
	Price      float64 `json:"price,omitempty" minimum:"0" maximum:"10000000"`
	For        string  `json:"for,omitempty" maxLength:"64"` // the machine that it is reserved for
	Photo      string  `json:"photo,omitempty" maxLength:"64"`
}

// Kind is a kind of part, and what is asked of it.
type Kind struct {
	Name   string  `json:"name"`
	Title  string  `json:"title"`
	Unit   string  `json:"unit"` // of its count, "" for pieces
	Fields []Field `json:"fields" nullable:"false"`
}

// Field is what is asked of a part: a number of a unit, a text, a date or one of some choices.
type Field struct {
	Name    string   `json:"name"`
	Title   string   `json:"title"`
	Kind    string   `json:"kind" enum:"number,text,date,choice"`
	Unit    string   `json:"unit"`
	Choices []Choice `json:"choices" nullable:"false"`
}

// Choice is one of a field's.
type Choice struct {
	Value string `json:"value"`
	Title string `json:"title"`
}

// The kinds that are computed with.
const (
	Run   = "run"
	Start = "start"
	DC    = "dc"
)

func number(name, title, unit string) Field { return Field{name, title, "number", unit, []Choice{}} }

var (
	microfarad = number("microfarad", "Marked", "µF")
	measured   = number("measured_microfarad", "Measured", "µF")
	measuredOn = Field{"measured_on", "On the day", "date", "", []Choice{}}
	acVolts    = number("volts", "For", "V ac")
	year       = number("year", "Made in", "")
	watts      = number("watts", "Output", "W")
	amps       = number("amps", "For", "A")
	coil       = number("volts", "Coil", "V")
	size       = Field{"size", "Size", "text", "", []Choice{}}
	tags       = number("tags", "Tags at a pole", "")
	onePhase   = Field{"one_phase", "Its maker permits one phase", "choice", "", []Choice{
		{"", "not known"}, {"yes", "yes"}, {"no", "no"},
	}}
	// always are asked of every part.
	always = []Field{
		{"condition", "Condition", "choice", "", []Choice{
			{"", "not said"}, {"new", "new"}, {"good", "good"}, {"worn", "worn"}, {"unknown", "of unknown life"},
		}},
		{"from", "From", "text", "", []Choice{}}, number("price", "Price of one", ""),
	}
)

// Kinds are those that there are.
var Kinds = []Kind{
	kind(Run, "Run capacitor", "", microfarad, acVolts, measured, measuredOn, tags, year),
	kind(Start, "Start capacitor", "", microfarad, acVolts, measured, measuredOn, year),
	kind(DC, "Electrolytic for direct current", "", microfarad, number("volts", "For", "V dc"), year),
	kind(
		"motor",
		"Motor, may become an idler",
		"",
		watts,
		number("volts", "For", "V"),
		number("amps", "Plate", "A"),
		year,
	),
	kind("drive", "Drive", "", watts, amps, number("volts", "For", "V"), onePhase, year),
	kind("contactor", "Contactor", "", amps, coil),
	kind("relay", "Relay or timer", "", coil),
	kind("overload", "Overload, its largest setting", "", amps),
	kind("breaker", "Breaker", "", amps),
	kind("fuse", "Fuse", "", amps),
	kind("wire", "Wire", "m", size),
	kind("enclosure", "Enclosure", "", size),
	kind("plug", "Plug or receptacle", "", amps, size),
	kind("other", "Another part", "", size),
}

func kind(name, title, unit string, fields ...Field) Kind {
	return Kind{name, title, unit, append(append([]Field{}, fields...), always...)}
}

// What makes a part suspect.
const pcbYear = 1980 // cans from before may hold PCB (US and EU bans, 1979 to 1985)

// leastShare is what a run capacitor must have left of its marks.
var leastShare = rule.Limit("learn.can-weak", "least_share")

// Doubt is why a part is not taken: a stop for one that never is, a caution for one that is measured first.
type Doubt struct {
	Severity rule.Severity `json:"severity"`
	Says     string        `json:"says"`
}

// Doubtful says why a part is not to be trusted; nil for one that is.
func (i *Item) Doubtful() *Doubt {
	stop := func(format string, args ...any) *Doubt { return &Doubt{rule.Stop, fmt.Sprintf(format, args...)} }
	capacitor := i.Kind == Run || i.Kind == Start
	switch {
	case i.Kind == DC:
		return stop("For direct current: on ac it bursts. It is never a motor’s capacitor.")
	case !capacitor:
		return nil
	case i.Year > 0 && i.Year < pcbYear:
		return stop("Made in %d, it may hold PCB: it is not opened or used, and handed in as such.", i.Year)
	case i.Measured > 0 && i.Microfarad > 0 && i.Measured < leastShare*i.Microfarad:
		return stop("It has %.3g of its %.3g µF left: at its end.", i.Measured, i.Microfarad)
	case i.Volts == 0:
		return stop("Without its ac volts it is not known what it bears.")
	case i.Measured == 0 && i.Condition != "new":
		return &Doubt{rule.Caution, "Not new and not measured: what it has left is measured before it is counted on."}
	}
	return nil
}

// Value is what a capacitor has, by the meter or else by its marks.
func (i *Item) Value() float64 {
	if i.Measured > 0 {
		return i.Measured
	}
	return i.Microfarad
}

// Check says what is wrong with a list, by its own paths.
func Check(list []Item) (problems rule.Problems) {
	seen := map[string]bool{}
	for k, i := range list {
		at := fmt.Sprintf("[%d]", k)
		if i.ID == "" || seen[i.ID] {
			problems.Say(at+".id", "is there twice, or empty")
		}
		seen[i.ID] = true
		if !slices.ContainsFunc(Kinds, func(k Kind) bool { return k.Name == i.Kind }) {
			problems.Say(at+".kind", "there is no such kind of part")
		}
	}
	return problems
}
