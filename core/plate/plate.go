// Package plate reads the nameplate of a three-phase motor: its fields as
// typed, its checks against itself, and what must be assumed where it is
// silent.
package plate

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
)

// Typed is a plate as somebody typed it, field by field, nothing changed.
type Typed struct {
	Output        string `json:"output"`
	Volts         string `json:"volts"`
	Amps          string `json:"amps"`
	Hertz         string `json:"hertz"`
	RPM           string `json:"rpm"`
	PowerFactor   string `json:"power_factor"`
	Efficiency    string `json:"efficiency"`
	ServiceFactor string `json:"service_factor"`
	Code          string `json:"code"`
	Design        string `json:"design"`
	Connection    string `json:"connection"`
	Leads         string `json:"leads"`
	LockedRotor   string `json:"locked_rotor"`
	Joined        string `json:"joined"` // the volts it is joined for, when not the obvious ones
	Rest
}

// Connections of the windings.
const (
	Wye      = "wye"
	Delta    = "delta"
	Series   = "series"
	Parallel = "parallel"
)

// Rating is one voltage of the plate. Amps zero and Connection empty mean that
// the plate does not say.
type Rating struct {
	Volts      float64
	Amps       float64
	Connection string
}

// Plate is what was understood. Zero and empty mean not on the plate. A plate for
// two frequencies has the figures of the other one in Second.
type Plate struct {
	OutputWatts     float64
	OutputUnit      string // in which the plate states it, as quantity.PowerUnit
	Ratings         []Rating
	Hertz           float64
	RPM             float64
	PowerFactor     float64
	Efficiency      float64
	ServiceFactor   float64
	CodeLetter      string
	DesignLetter    string
	Leads           int
	LockedRotorAmps float64 // at the first rating
	JoinedVolts     float64
	Frame           string
	Second          *Plate
	Ways            []Choice // as the leads were found to allow; nil where that is not known
	StatorOhm       float64  // measured, wye-equivalent at the terminals as joined and hot
}

// Power prints watts in the unit of the plate, or in that of its frequency's country where
// the plate states no output.
func (p Plate) Power(watts, hertz float64) string {
	return quantity.PowerIn(p.OutputUnit, watts, hertz)
}

// Problem is a field that was not understood, and why.
type Problem struct {
	Field string `json:"field"`
	Says  string `json:"says" told:"figures"`
}

// On is the plate with the figures of the frequency nearest to the supply's.
func (p Plate) On(hertz float64) Plate {
	if p.Second == nil || math.Abs(p.Second.Hertz-hertz) >= math.Abs(p.Hertz-hertz) {
		return p
	}
	other := *p.Second
	p.Second = nil
	other.Second, other.Ways, other.StatorOhm = &p, p.Ways, p.StatorOhm
	return other
}

// Read understands the typed fields. A field that is not understood gives a
// problem and is left out; the others are read all the same. With two frequencies,
// a field may have a part for each, with an upright stroke between: 230/400 | 265/460.
func Read(t Typed) (Plate, []Problem) {
	r := reader{}
	frequencies := read(&r, "hertz", t.Hertz, quantity.ParseFrequencies)
	if len(frequencies) < 2 {
		return r.one(t), r.problems
	}
	first, second := r.apart(t, frequencies)
	p, q := r.one(first), r.one(second)
	p.Second = &q
	return p, r.problems
}

// apart gives each of two frequencies its own fields.
func (r *reader) apart(t Typed, hertz []float64) (first, second Typed) {
	first, second = t, t
	first.Hertz, second.Hertz = quantity.Figures(hertz[0], 4), quantity.Figures(hertz[1], 4)
	// part splits a field at its upright stroke, or else as the frequencies are.
	part := func(text string, a, b *string, otherwise func() (x, y string)) {
		if x, y, ok := strings.Cut(text, "|"); ok {
			*a, *b = x, y
			return
		}
		*a, *b = otherwise()
	}
	halves := func(text string, alone bool) func() (x, y string) {
		return func() (string, string) {
			if x, y, ok := strings.Cut(text, "/"); ok && !strings.Contains(y, "/") && strings.TrimSpace(x) != "" {
				return x, y
			}
			if alone {
				return text, ""
			}
			return text, text
		}
	}
	part(t.RPM, &first.RPM, &second.RPM, halves(t.RPM, true))
	part(t.PowerFactor, &first.PowerFactor, &second.PowerFactor, halves(t.PowerFactor, false))
	part(t.Efficiency, &first.Efficiency, &second.Efficiency, halves(t.Efficiency, false))
	part(t.Output, &first.Output, &second.Output, func() (string, string) {
		if _, err := quantity.ParsePower(t.Output); err == nil {
			return t.Output, t.Output
		}
		x, y := halves(t.Output, false)()
		if unit := strings.TrimLeft(y, " 0123456789.,/"); x != y && strings.TrimLeft(x, " 0123456789.,/") == "" {
			x += " " + unit
		}
		return x, y
	})
	volts, err := quantity.ParseVolts(t.Volts)
	paired := err == nil && len(volts) == 2 && !dual(volts)
	list := func(values []float64) string {
		var parts []string
		for _, v := range values {
			parts = append(parts, quantity.Figures(v, 4))
		}
		return strings.Join(parts, "/")
	}
	part(t.Volts, &first.Volts, &second.Volts, func() (string, string) {
		if paired {
			return list(volts[:1]), list(volts[1:])
		}
		return t.Volts, t.Volts
	})
	part(t.Amps, &first.Amps, &second.Amps, func() (string, string) {
		amps, err := quantity.ParseAmps(t.Amps)
		if n := len(
			amps,
		) / 2; err == nil &&
			(paired && len(amps) == 2 || !paired && n > 0 && n == len(volts) && len(amps) == 2*n) {
			return list(amps[:n]), list(amps[n:])
		}
		return t.Amps, "" // whose they are beyond the first is not said
	})
	return first, second
}

// one understands the fields of one frequency.
func (r *reader) one(t Typed) Plate {
	var p Plate
	p.OutputWatts = read(r, "output", t.Output, quantity.ParsePower)
	p.OutputUnit = quantity.PowerUnit(t.Output)
	r.within("output", p.OutputWatts, 20, 200e3, "Output must lie between 20 W and 200 kW.")
	volts := read(r, "volts", t.Volts, quantity.ParseVolts)
	for _, v := range volts {
		r.within("volts", v, 50, 1100, "Volts must lie between 50 and 1100.")
	}
	amps := read(r, "amps", t.Amps, quantity.ParseAmps)
	for _, a := range amps {
		r.within("amps", a, 0.05, 600, "Amps must lie between 0.05 and 600.")
	}
	for _, v := range volts {
		p.Ratings = append(p.Ratings, Rating{Volts: v})
	}
	if places, ok := ampsOf(t.Volts, volts, len(amps)); ok && len(volts) > 0 {
		for i, place := range places {
			p.Ratings[place].Amps = amps[i]
		}
	} else if len(volts) > 0 {
		r.say(
			"amps",
			fmt.Sprintf("There are %d volts but %d amps; give one for each, or for each range, in the same order.",
				len(volts), len(amps)),
		)
	}
	p.Hertz = read(r, "hertz", t.Hertz, quantity.ParseHertz)
	r.within("hertz", p.Hertz, 15, 120, "Hertz must lie between 15 and 120.")
	p.RPM = read(r, "rpm", t.RPM, quantity.ParseRPM)
	r.within("rpm", p.RPM, 200, 7200, "Speed must lie between 200 and 7200 rpm.")
	p.PowerFactor = read(r, "power_factor", t.PowerFactor, quantity.ParseShare)
	r.within("power_factor", p.PowerFactor, 0.2, 0.97, "A power factor lies between 0.2 and 0.97.")
	p.Efficiency = read(r, "efficiency", t.Efficiency, quantity.ParseShare)
	r.within("efficiency", p.Efficiency, 0.15, 0.985, "An efficiency lies between 15 and 98.5 percent.")
	p.ServiceFactor = read(r, "service_factor", t.ServiceFactor, quantity.ParseNumber)
	r.within("service_factor", p.ServiceFactor, 1, 2, "A service factor lies between 1 and 2.")
	p.LockedRotorAmps = read(r, "locked_rotor", t.LockedRotor, firstAmps)
	p.JoinedVolts = read(r, "joined", t.Joined, firstVolts)
	p.CodeLetter = r.letter("code", t.Code, codeLetters, "A code letter is one of A to V, without I, O and Q.")
	p.DesignLetter = r.design(t.Design)
	p.Frame = strings.TrimSpace(t.Frame)
	p.Leads = r.leads(t.Leads)
	r.connect(t.Connection, p.Ratings)
	r.restIsRead(t.Rest)
	return p
}

// ampsOf are the places among volts that so many amps belong to: one for each, one for each of
// the ranges that they are typed in, such as 208-230/460, where it belongs to the range's last,
// or one alone, for the first or for the last of a single range; ok is false for another number.
func ampsOf(typed string, volts []float64, amps int) (places []int, ok bool) {
	var ends []int
	at := -1
	for _, part := range strings.Split(typed, "/") {
		if group, err := quantity.ParseVolts(part); err == nil && len(group) > 0 {
			at += len(group)
			ends = append(ends, at)
		}
	}
	switch {
	case amps == 0:
		return nil, true
	case amps == len(volts):
		for i := range volts {
			places = append(places, i)
		}
		return places, true
	case amps == len(ends) && at == len(volts)-1:
		return ends, true
	case amps == 1 && oneRange(volts):
		return []int{len(volts) - 1}, true
	}
	return []int{0}, amps == 1
}

func firstAmps(text string) (float64, error)  { return first(quantity.ParseAmps(text)) }
func firstVolts(text string) (float64, error) { return first(quantity.ParseVolts(text)) }

func first(values []float64, err error) (float64, error) {
	if err != nil {
		return 0, err
	}
	return values[0], nil
}

type reader struct{ problems []Problem }

func (r *reader) say(field, says string) {
	for _, p := range r.problems {
		if p.Field == field {
			return
		}
	}
	r.problems = append(r.problems, Problem{field, says})
}

func read[T any](r *reader, field, text string, parse func(string) (T, error)) (value T) {
	if strings.TrimSpace(text) == "" {
		return value
	}
	parsed, err := parse(text)
	if err != nil {
		r.say(field, err.Error())
		return value
	}
	return parsed
}

func (r *reader) within(field string, value, low, high float64, says string) {
	if value != 0 && (value < low || value > high) {
		r.say(field, says)
	}
}

func (r *reader) letter(field, text, among, says string) string {
	letter := strings.ToUpper(strings.TrimSpace(text))
	if letter == "" {
		return ""
	}
	if len(letter) != 1 || !strings.Contains(among, letter) {
		r.say(field, says)
		return ""
	}
	return letter
}

// design is a design letter; IEC 60034-12 adds Y and E for star-delta starting and
// higher starting amps, which change nothing here.
func (r *reader) design(text string) string {
	letters := strings.ToUpper(strings.TrimSpace(text))
	if len(letters) == 2 && strings.Contains("NH", letters[:1]) && strings.Contains("YE", letters[1:]) {
		letters = letters[:1]
	}
	return r.letter("design", letters, "ABCDNH", "A design letter is A, B, C or D, or N or H on IEC plates.")
}

func (r *reader) leads(text string) int {
	text = strings.TrimSpace(text)
	if text == "" {
		return 0
	}
	switch n, _ := strconv.Atoi(text); n {
	case 3, 4, 6, 9, 12:
		return n
	}
	r.say("leads", "A motor has 3, 4, 6, 9 or 12 leads.")
	return 0
}

var connectionNames = map[string]string{
	"wye": Wye, "y": Wye, "star": Wye, "λ": Wye, "delta": Delta, "d": Delta, "δ": Delta, "∆": Delta, "△": Delta,
	"dreieck": Delta, "triangle": Delta, "triangolo": Delta, "triángulo": Delta, "triangulo": Delta,
	"driehoek": Delta, "triangel": Delta, "trójkąt": Delta, "trojkat": Delta, "stern": Wye, "ster": Wye,
	"étoile": Wye, "etoile": Wye, "stella": Wye, "estrella": Wye, "stjärna": Wye, "stjarna": Wye, "gwiazda": Wye,
	"series": Series, "parallel": Parallel, "yy": Parallel, "dd": Parallel, "2y": Parallel, "2d": Parallel,
}

// connect gives each rating its connection: as typed, one for all or one for
// each, otherwise by the ratio of the volts (√3 is delta and wye of the same
// windings, two is parallel and series).
func (r *reader) connect(text string, ratings []Rating) {
	var named []string
	for _, word := range strings.FieldsFunc(strings.ToLower(text),
		func(c rune) bool { return strings.ContainsRune(" /-,;+", c) }) {
		name, ok := connectionNames[word]
		if !ok {
			r.say(
				"connection",
				fmt.Sprintf(
					"“%s” is no connection: write wye, delta, series or parallel, or several parted by a stroke.",
					word,
				),
			)
			return
		}
		named = append(named, name)
	}
	if len(named) == 1 && len(ratings) == 1 || len(named) > 1 && len(named) == len(ratings) {
		for i := range ratings {
			ratings[i].Connection = named[i]
		}
		return
	}
	if len(named) > 1 {
		r.say(
			"connection",
			fmt.Sprintf(
				"There are %d volts but %d connections; give one for each, in the same order.",
				len(ratings),
				len(named),
			),
		)
		return
	}
	byRatio(ratings)
}

// byRatio gives each rating the connection that follows from the ratio of the volts. Volts
// that lie close together are one range of volts.
func byRatio(ratings []Rating) {
	var ranges [][]float64
	for _, r := range slices.SortedFunc(slices.Values(ratings), func(a, b Rating) int {
		return cmp.Compare(a.Volts, b.Volts)
	}) {
		if n := len(ranges) - 1; n >= 0 && r.Volts/ranges[n][len(ranges[n])-1] < 1.125 {
			ranges[n] = append(ranges[n], r.Volts)
			continue
		}
		ranges = append(ranges, []float64{r.Volts})
	}
	if len(ranges) < 2 {
		return
	}
	middle := func(of []float64) float64 { return (of[0] + of[len(of)-1]) / 2 }
	top := middle(ranges[len(ranges)-1])
	names := map[float64]string{}
	name := func(of []float64, name string) {
		for _, v := range of {
			names[v] = name
		}
	}
	for _, of := range ranges[:len(ranges)-1] {
		switch ratio := top / middle(of); {
		case near(ratio, math.Sqrt(3)):
			name(of, Delta)
			name(ranges[len(ranges)-1], Wye)
		case ratio > 1.85 && ratio < 2.3:
			name(of, Parallel)
			if names[ranges[len(ranges)-1][0]] == "" && near(ratio, 2) {
				name(ranges[len(ranges)-1], Series)
			}
		}
	}
	for i, r := range ratings {
		ratings[i].Connection = names[r.Volts]
	}
}

func near(a, b float64) bool { return math.Abs(a/b-1) < 0.06 }

// Poles is the pole count whose synchronous speed lies next above the rated
// speed; zero when there is none up to 16.
func Poles(rpm, hertz float64) int {
	for poles := 16; poles >= 2; poles -= 2 {
		if 120*hertz/float64(poles) > rpm {
			return poles
		}
	}
	return 0
}

// Field is a plate field by name with its text.
type Field struct{ Name, Text string }

// Fields lists the typed fields.
func (t Typed) Fields() []Field {
	fields := []Field{
		{"output", t.Output},
		{"volts", t.Volts},
		{"amps", t.Amps},
		{"hertz", t.Hertz},
		{"rpm", t.RPM},
		{"power_factor", t.PowerFactor},
		{
			"efficiency",
			t.Efficiency,
		},
		{"service_factor", t.ServiceFactor},
		{"code", t.Code},
		{"design", t.Design},
		{"connection", t.Connection},
		{"leads", t.Leads},
		{"locked_rotor", t.LockedRotor},
		{"joined", t.Joined},
	}
	for i, text := range t.Texts() {
		fields = append(fields, Field{RestFields[i].Name, text})
	}
	return fields
}
