package winding

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Typed is what somebody typed of a motor's leads, nothing changed. Leads holds the
// name of each, Marks what stands on it.
type Typed struct {
	Leads     []string          `json:"leads" nullable:"false" maxItems:"12"`
	Marks     []string          `json:"marks" nullable:"false" maxItems:"12"`
	MeterOhms string            `json:"meter_ohms"`
	Celsius   string            `json:"celsius"`
	TestVolts string            `json:"test_volts"`
	Readings  []Entry           `json:"readings" nullable:"false" maxItems:"120"`
	Polarity  []Kick            `json:"polarity" nullable:"false" maxItems:"60"`
	Condition map[string]string `json:"condition"` // "good" or "bad", by name of the item
	Inside    string            `json:"inside" enum:",wye,delta"`
	Was       string            `json:"was"` // the volts it was found joined for
}

// Entry is what the meter said between two leads, or a lead and the frame, where a
// bare number is megohms.
type Entry struct {
	A    string `json:"a"`
	B    string `json:"b"`
	Text string `json:"text"`
}

// Kick is one polarity reading: "+", "-" or "0", or for the reading with alternating
// volts the driven, the sensed and the series volts, as in "12/5.8/17.6".
type Kick struct {
	Driven [2]string `json:"driven" nullable:"false"`
	Sensed [2]string `json:"sensed" nullable:"false"`
	Text   string    `json:"text"`
}

// Blank says whether nothing was typed.
func (t Typed) Blank() bool {
	return len(t.Leads) == 0 && len(t.Condition) == 0 && t.Inside == "" && t.Was == ""
}

// Filled is the record with no nil in it, so that it is written alike wherever it
// came from.
func (t Typed) Filled() Typed {
	if t.Leads == nil {
		t.Leads = []string{}
	}
	if t.Marks == nil {
		t.Marks = []string{}
	}
	if t.Readings == nil {
		t.Readings = []Entry{}
	}
	if t.Polarity == nil {
		t.Polarity = []Kick{}
	}
	if t.Condition == nil {
		t.Condition = map[string]string{}
	}
	return t
}

// Problem is an entry that was not understood, and why.
type Problem struct {
	Field string `json:"field"` // such as "meter_ohms", "reading.A.B", "mark.A", "kick.0"
	Says  string `json:"says" told:"figures"`
}

// Item is a thing to be looked at before anything is joined.
type Item struct {
	Name string `json:"name"`
	Says string `json:"says" told:"figures"`
	Bad  string `json:"bad"` // what to do when it is not so
}

// Conditions are what is looked at first, in order.
var Conditions = []Item{
	{
		"apart",
		"Capacitors, drives and electronics are off the leads, and every link and supply lead.",
		"Take them off: a test voltage ruins them, and they spoil every reading.",
	},
	{
		"dry",
		"Windings and terminal box are dry and clean.",
		"Clean it, dry it warm for a day, and measure the insulation again.",
	},
	{
		"joints",
		"Lead ends and joints are sound: not burnt, not merely twisted.",
		"Cut back to bright copper and make the joint anew.",
	},
	{
		"bearings",
		"The shaft turns freely by hand, without play or grinding.",
		"New bearings first: a rubbing rotor burns the winding.",
	},
	{
		"bond",
		"The frame has a bond to the protective conductor, measured.",
		"Make the bond before any voltage comes near it.",
	},
}

// sentence is an error for whoever typed an entry.
func sentence(format string, args ...any) error {
	return &quantity.Error{Says: fmt.Sprintf(format, args...)}
}

// Read understands what was typed. An entry that is not understood gives a problem
// and is left out; the others are read all the same.
func Read(t Typed) (Readings, []Problem) {
	var problems []Problem
	say := func(field string, err error) {
		if err != nil {
			problems = append(problems, Problem{field, err.Error()})
		}
	}
	r := Readings{Format: Format, Leads: t.Leads, Marks: map[string]string{}}
	if text := strings.TrimSpace(t.MeterOhms); text != "" {
		ohms, err := quantity.ParseOhms(text)
		if err == nil && ohms > 10 {
			err = sentence("A meter's own leads have at most a few ohms.")
		}
		if say("meter_ohms", err); err == nil {
			r.LeadOhms = ohms
		}
	}
	if text := strings.TrimSpace(t.Celsius); text != "" {
		celsius, err := quantity.ParseCelsius(text)
		if err == nil && (celsius < -30 || celsius > 150) {
			err = sentence("The winding is somewhere between -30 and 150 °C.")
		}
		if say("celsius", err); err == nil {
			r.Celsius = &celsius
		}
	}
	volts := 0.0
	if text := strings.TrimSpace(t.TestVolts); text != "" {
		list, err := quantity.ParseVolts(text)
		if say("test_volts", err); err == nil {
			volts = list[0]
		}
	}
	taken := map[string]string{}
	for i, text := range t.Marks {
		if strings.TrimSpace(text) == "" || i >= len(t.Leads) {
			continue
		}
		field := "mark." + t.Leads[i]
		mark, ok := Canonical(text)
		switch {
		case !ok:
			say(field, sentence("“%s” is no mark: T1 to T12, U1 to W6, or an old U V W X Y Z.", text))
		case taken[mark] != "":
			say(field, sentence("%s stands on lead %s too.", mark, taken[mark]))
		default:
			taken[mark] = t.Leads[i]
			r.Marks[t.Leads[i]] = text
		}
	}
	for _, entry := range t.Readings {
		if strings.TrimSpace(entry.Text) == "" || !slices.Contains(t.Leads, entry.A) ||
			entry.B != Frame && !slices.Contains(t.Leads, entry.B) ||
			entry.A == entry.B {
			continue // a lead that is no longer there, or a field emptied again
		}
		one, err := entry.read(volts)
		if say("reading."+entry.A+"."+entry.B, err); err == nil {
			r.Readings = append(r.Readings, one)
		}
	}
	for i, k := range t.Polarity {
		if slices.ContainsFunc(
			append(k.Driven[:], k.Sensed[:]...),
			func(lead string) bool { return !slices.Contains(t.Leads, lead) },
		) {
			continue
		}
		sign, err := k.sign()
		if say(fmt.Sprintf("kick.%d", i), err); err == nil {
			r.Polarity = append(r.Polarity, Polarity{k.Driven, k.Sensed, sign})
		}
	}
	if _, wrong := r.sort(); len(wrong) > 0 {
		say("readings", sentence("%s.", strings.TrimPrefix(wrong[0].String(), "$.")))
		return Readings{Format: Format, Leads: t.Leads, LeadOhms: r.LeadOhms, Celsius: r.Celsius}, problems
	}
	return r, problems
}

func (e Entry) read(testVolts float64) (Reading, error) {
	one := Reading{Between: [2]string{e.A, e.B}}
	text := e.Text
	if e.B == Frame {
		if _, err := quantity.ParseNumber(strings.TrimLeft(text, "> ")); err == nil {
			text += " M"
		}
	}
	ohms, err := quantity.ParseOhms(text)
	switch {
	case err != nil:
		return one, err
	case math.IsInf(ohms, 1):
		one.Open = true
	case ohms >= 1e5 || e.B == Frame && ohms >= leaky:
		megohms := ohms / 1e6
		one.Megohms, one.TestVolts = &megohms, testVolts
	default:
		one.Ohms = &ohms
	}
	return one, nil
}

// sign reads a deflection, or works it out from volts: with the second driven lead
// joined to the first sensed one, the volts across both windings are the sum of
// their own when the first-named leads are positive together, else the difference.
func (k Kick) sign() (string, error) {
	switch text := strings.TrimSpace(k.Text); text {
	case "+", "-", "0":
		return text, nil
	case "−":
		return "-", nil
	}
	volts, err := quantity.ParseVolts(k.Text)
	if err != nil || len(volts) != 3 {
		return "", sentence("Write + or - or 0, or three voltages as driven/sensed/series.")
	}
	driven, sensed, series := volts[0], volts[1], volts[2]
	if sensed < hardly*driven {
		return "0", nil
	}
	sum, difference := math.Abs(series-(driven+sensed)), math.Abs(series-math.Abs(driven-sensed))
	switch near := 0.3 * sensed; {
	case sum < near && sum < difference:
		return "+", nil
	case difference < near && difference < sum:
		return "-", nil
	}
	return "", sentence(
		"%s V is neither the sum nor the difference of %s and %s V.",
		quantity.Figures(series, 3),
		quantity.Figures(driven, 3),
		quantity.Figures(sensed, 3),
	)
}

// Examined judges the condition: what is bad, what was not looked at, and whether
// all is good.
func Examined(condition map[string]string) (verdicts []rule.Verdict, good bool) {
	var open []string
	good = true
	for _, item := range Conditions {
		switch condition[item.Name] {
		case "good":
		case "bad":
			good = false
			verdicts = append(verdicts, rule.Speak("leads.condition", nil, item.Bad, "Not so: %s", item.Says))
		default:
			good = false
			open = append(open, item.Name)
		}
	}
	if len(open) > 0 {
		verdicts = append(
			verdicts,
			rule.Speak(
				"leads.condition-open",
				rule.Numbers{"items": float64(len(open))},
				"Look at them before anything is joined.",
				"Not looked at yet: %s.",
				strings.Join(open, ", "),
			),
		)
	}
	return verdicts, good
}
