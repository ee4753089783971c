package quantity

import (
	"math"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Reader is how one person reads figures, whatever the country of the shop. Units of another system stand beside
// the shop's own and never in their place, so that plate, parts and drawing keep the names that they are known by;
// a decimal comma takes the place of the point. The zero Reader reads everything as the shop writes it.
type Reader struct {
	Beside string // a system of units, or "" for none
	Mark   string // MarkComma, or "" for the point
	Paper  string // "A4" or "Letter", or "" for that of the shop's country
}

// The systems of units that stand beside the shop's, and the other decimal mark.
const (
	BesideUS  = "us"
	BesideSI  = "si"
	MarkComma = "comma"
)

// The papers that a sheet is printed on.
const (
	PaperA4     = "A4"
	PaperLetter = "Letter"
)

// ReaderChoice is one thing that a Reader says, and its options; "" is that of the shop.
type ReaderChoice struct {
	Name    string         `json:"name"`
	Title   string         `json:"title"`
	Options []ReaderOption `json:"options" nullable:"false"`
}

// ReaderOption is one of the options, with its name for people.
type ReaderOption struct {
	Name  string `json:"name"`
	Title string `json:"title"`
}

// ReaderChoices lists what a Reader says.
var ReaderChoices = []ReaderChoice{
	{"beside", "Beside the shop’s units", []ReaderOption{{"", "Nothing"}, {BesideUS, "hp, °F, in, AWG"},
		{BesideSI, "kW, mm, mm²"}}},
	{"mark", "Decimal mark", []ReaderOption{{"", "Point"}, {MarkComma, "Comma"}}},
	{"paper", "Paper", []ReaderOption{{"", "The shop’s"}, {PaperA4, PaperA4}, {PaperLetter, PaperLetter}}},
}

// ReaderOf reads what a person chose, "beside=us&mark=comma"; what is none of the options is left out.
func ReaderOf(text string) (r Reader) {
	chosen, err := url.ParseQuery(text)
	if err != nil {
		return r
	}
	for i, at := range []*string{&r.Beside, &r.Mark, &r.Paper} {
		choice := ReaderChoices[i]
		value := chosen.Get(choice.Name)
		if slices.ContainsFunc(choice.Options, func(o ReaderOption) bool { return o.Name == value }) {
			*at = value
		}
	}
	return r
}

// PaperAt is the paper to print on in a country of a frequency: Letter is that of North America, which has 60 Hz
// (ANSI/ASME Y14.1), A4 that of others (ISO 216).
func (r Reader) PaperAt(hertz float64) string {
	switch {
	case r.Paper != "":
		return r.Paper
	case SixtyHertz(hertz):
		return PaperLetter
	}
	return PaperA4
}

// Say is a sentence as the reader reads it.
func (r Reader) Say(text string) string {
	if r.Beside != "" {
		text = r.beside(text)
	}
	if r.Mark == MarkComma {
		text = commas(text)
	}
	return text
}

// aside is a unit and what stands beside it in the other system.
type aside struct {
	unit, other string
	system      string
	turn        func(value float64, decimals int) string
}

func times(factor float64) func(float64, int) string {
	return func(value float64, _ int) string { return Figures(value*factor, 3) }
}

const (
	squareMillimetres36 = math.Pi / 4 * 0.127 * 0.127 // 36 AWG, 0.005 inch
	gaugeStep           = 92.0                        // of diameters over 39 sizes
	newtonMetresPerLbIn = 0.112984829
	kilogramsPerPound   = 0.45359237
)

// The American gauge is a geometric row of diameters: ASTM B258. Factors between units are exact but for that of
// the pound-inch (NIST SP 811, appendix B).
var asides = []aside{
	{"°C", "°F", BesideUS, func(c float64, decimals int) string { return Fixed(c*1.8+32, decimals) }},
	{"kW", "hp", BesideUS, times(1000 / WattsPerHorsepower)},
	{"mm²", "AWG", BesideUS, gauge},
	{"mm", "in", BesideUS, times(1 / 25.4)},
	{"m", "ft", BesideUS, times(feetPerMetre)},
	{"kg", "lb", BesideUS, times(1 / kilogramsPerPound)},
	{"N·m", "lb·in", BesideUS, times(1 / newtonMetresPerLbIn)},
	{"hp", "kW", BesideSI, times(WattsPerHorsepower / 1000)},
	{"AWG", "mm²", BesideSI, times(1)},
	{"in", "mm", BesideSI, times(25.4)},
	{"ft", "m", BesideSI, times(0.3048)},
	{"lb", "kg", BesideSI, times(kilogramsPerPound)},
	{"lb·in", "N·m", BesideSI, times(newtonMetresPerLbIn)},
}

// area is the square millimetres of a gauge by its number, 0 for 1/0 and −3 for 4/0.
func area(number float64) float64 {
	return squareMillimetres36 * math.Pow(gaugeStep, 2*(36-number)/39)
}

// gauge names the gauge that has those square millimetres, to a hundredth, or else that a wire is at least to have, of
// those that wire is sold in; "" where none is thick enough.
func gauge(squareMillimetres float64, _ int) string {
	for number := 24; number >= -3; number-- {
		if number > 4 && number%2 == 1 {
			continue
		}
		of := area(float64(number))
		if of < 0.99*squareMillimetres {
			continue
		}
		name := strconv.Itoa(number)
		if number <= 0 {
			name = strconv.Itoa(1-number) + "/0"
		}
		if of > 1.01*squareMillimetres {
			return "at least " + name
		}
		return name
	}
	return ""
}

// figured is a number, or two as a range, or up to three as the sides of something, with a unit behind it.
var figured = func() *regexp.Regexp {
	const number = `[-−]?(?:\d+/0|\d+(?:\.\d+)?[½¼¾⅓⅔⅛⅜⅝⅞]?|[½¼¾⅓⅔⅛⅜⅝⅞])`
	var units []string
	for _, a := range asides {
		units = append(units, regexp.QuoteMeta(a.unit))
	}
	slices.SortFunc(units, func(a, b string) int { return len(b) - len(a) })
	return regexp.MustCompile(`(` + number + `(?:(?: to |–| × )` + number + `){0,2})([ \x{a0}])(` +
		strings.Join(units, "|") + `)`)
}()

var parted = regexp.MustCompile(` to |–| × `)

// beside puts what the figures of a sentence are in the reader's system in brackets behind them.
func (r Reader) beside(text string) string {
	var b strings.Builder
	done := 0
	for _, at := range figured.FindAllStringSubmatchIndex(text, -1) {
		number, unit, rest := text[at[2]:at[3]], text[at[6]:at[7]], text[at[1]:]
		i := slices.IndexFunc(asides, func(a aside) bool { return a.unit == unit && a.system == r.Beside })
		if i < 0 || joined(text[:at[0]], rest, unit) {
			continue
		}
		if end := strings.IndexByte(rest, ')'); strings.HasPrefix(rest, " (") && end > 0 &&
			strings.HasSuffix(rest[:end], asides[i].other) {
			continue // it stands there already
		}
		if said := asides[i].say(number); said != "" {
			b.WriteString(text[done:at[1]] + " (" + said + text[at[4]:at[5]] + asides[i].other + ")")
			done = at[1]
		}
	}
	return b.String() + text[done:]
}

// differs begins what follows a difference of temperatures, which is no temperature.
var differs = regexp.MustCompile(`^ (?:over|under|above|below|more|less|higher|lower|warmer|cooler|hotter|apart)\b`)

// joined says that what was taken for a figure and its unit is part of another word, "IP54 in" or "20 mA", or is a
// difference of temperatures.
func joined(before, after, unit string) bool {
	if r, size := utf8.DecodeLastRuneInString(before); size > 0 && !strings.ContainsRune(" \u00a0(<>≤≥~≈“", r) {
		return true
	}
	if strings.HasSuffix(strings.TrimRight(before, " \u00a0"), "±") || unit == "°C" && differs.MatchString(after) {
		return true
	}
	r, size := utf8.DecodeRuneInString(after)
	if unit == "in" && r == ' ' { // the word, for all that is known
		return true
	}
	return size > 0 && !strings.ContainsRune(" \u00a0,.;:)–?!”’", r)
}

// say is the numbers in the other unit, "" where it has none.
func (a aside) say(numbers string) string {
	marks := parted.FindAllString(numbers, -1)
	var b strings.Builder
	for i, text := range parted.Split(numbers, -1) {
		value, decimals := read(text, a.unit)
		said := a.turn(value, decimals)
		if said == "" {
			return ""
		}
		if i > 0 {
			b.WriteString(marks[i-1])
		}
		b.WriteString(said)
	}
	return b.String()
}

// read is the value of a number as it is printed, and how many decimals it has; of a gauge its area.
func read(text, unit string) (value float64, decimals int) {
	text = strings.Replace(text, "−", "-", 1)
	if of, ok := strings.CutSuffix(text, "/0"); ok {
		zeros, _ := strconv.ParseFloat(of, 64)
		return area(1 - zeros), 0
	}
	if _, after, ok := strings.Cut(text, "."); ok {
		decimals = len(after)
	}
	for mark, share := range vulgar {
		if of, ok := strings.CutSuffix(text, string(mark)); ok {
			text, value = of, share
		}
	}
	whole, _ := strconv.ParseFloat(text, 64) // what is left of ½ is nothing, which is 0
	if value += whole; unit == "AWG" {
		value = area(value)
	}
	return value, decimals
}

var (
	decimal  = regexp.MustCompile(`\d+\.\d+`)
	standard = regexp.MustCompile(
		`(?:\b(?:NEC|IEC|IEEE|EN|ISO|NEMA|MG|ANSI|UL|[Tt]ables?|[Aa]rticles?|[Cc]lauses?) ?|§ ?)$`,
	)
)

// commas puts decimal commas in a sentence, and leaves the clauses of standards their points.
func commas(text string) string {
	b := []byte(text)
	end, clause := 0, false
	for _, at := range decimal.FindAllStringIndex(text, -1) {
		before, after := text[end:at[0]], text[at[1]:]
		switch {
		case standard.MatchString(before):
			clause = true
		case before != ", " && before != " and ":
			clause = false
		}
		end = at[1]
		part := strings.HasPrefix(after, "(") || strings.HasPrefix(after, ".") && len(after) > 1 && after[1] != ' ' ||
			strings.HasPrefix(after, "-")
		if at[0] > 0 {
			last := text[at[0]-1]
			part = part || last == '.' || last == '_' || last >= 'A' && last <= 'Z' || last >= 'a' && last <= 'z'
		}
		if !clause && !part {
			b[at[0]+strings.IndexByte(text[at[0]:at[1]], '.')] = ','
		}
	}
	return string(b)
}
