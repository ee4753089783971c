// Package quantity reads the numbers and units that hands type on a plate or
// at a meter, and prints values with as many figures as a shop can use.
//
// It accepts decimal comma or point, common fractions and mixed numbers
// ("1 1/2", "1-1/2", "½"), and the unit written close to the number or apart.
package quantity

import (
	"fmt"
	"math"
	"strings"
	"unicode/utf8"
)

// Unit conversions. A mechanical horsepower is 745.7 W (550 ft·lbf/s); a
// metric horsepower (PS, cv) is 735.5 W (75 kgf·m/s).
const (
	WattsPerHorsepower       = 745.7
	WattsPerMetricHorsepower = 735.5
)

// Error says what was not understood in a typed text, and where.
type Error struct {
	Text string // the whole text as typed
	At   int    // byte offset of the first character that was not understood
	Says string // a sentence for the person who typed it
}

func (e *Error) Error() string { return e.Says }

func fail(text string, at int, format string, args ...any) *Error {
	return &Error{Text: text, At: at, Says: fmt.Sprintf(format, args...)}
}

// left describes what stands at a position, for an error sentence.
func left(text string, at int) string {
	rest := strings.TrimSpace(text[at:])
	if rest == "" {
		return "nothing"
	}
	if utf8.RuneCountInString(rest) > 20 {
		rest = string([]rune(rest)[:20]) + "…"
	}
	return "“" + rest + "”"
}

type unit struct {
	names  []string
	factor float64
}

var powerUnits = []unit{
	{[]string{"kw"}, 1000},
	{[]string{"hp", "h.p.", "bhp"}, WattsPerHorsepower},
	{[]string{"ps", "cv", "ch", "pk", "km", "hk"}, WattsPerMetricHorsepower},
	{[]string{"w", "watt", "watts"}, 1},
}

// PowerUnit is the unit of a shaft output as typed, "" for none that is known: kW, hp, PS or W.
func PowerUnit(text string) string {
	s := scanner{text: text}
	if _, err := s.positive(); err != nil {
		return ""
	}
	switch factor, ok := s.unit(powerUnits); {
	case !ok:
		return ""
	case factor == WattsPerHorsepower:
		return "hp"
	case factor == WattsPerMetricHorsepower:
		return "PS"
	case factor == 1:
		return "W"
	}
	return "kW"
}

// ParsePower reads a shaft output such as "5hp", "1 1/2 HP", "3,7 kW", "550 W"
// or "4 PS" and returns watts. A number without a unit is refused, since hp
// and kW differ by a third.
func ParsePower(text string) (watts float64, err error) {
	s := scanner{text: text}
	value, err := s.positive()
	if err != nil {
		return 0, err
	}
	factor, ok := s.unit(powerUnits)
	if !ok {
		if s.done() {
			return 0, fail(
				text,
				s.at,
				"Say the unit too: %s hp, or %s kW?",
				strings.TrimSpace(text),
				strings.TrimSpace(text),
			)
		}
		return 0, fail(text, s.at, "Output is read in hp, kW, W or PS; %s is none of them.", left(text, s.at))
	}
	if s.fractured && factor == 1000 {
		return 0, fail(text, 0, "Kilowatts stand in decimals: write %s kW.", Figures(value, 3))
	}
	if err := s.end(); err != nil {
		return 0, err
	}
	return value * factor, nil
}

// List units: every value of a list may carry the unit, and the last one often
// does it for all.
var (
	voltUnits  = []unit{{[]string{"kv"}, 1000}, {[]string{"v", "volt", "volts", "vac"}, 1}}
	ampUnits   = []unit{{[]string{"ma"}, 0.001}, {[]string{"a", "amp", "amps"}, 1}}
	hertzUnits = []unit{{[]string{"hz", "hertz", "cps", "c/s", "cycles", "cycle", "~"}, 1}}
	rpmUnits   = []unit{{[]string{"rpm", "r/min", "1/min", "min-1", "u/min", "tr/min"}, 1}}
)

// ParseVolts reads one or several voltages: "230", "230/460", "208-230/460",
// "400 V / 690 V". They come back in the order typed, in volts.
func ParseVolts(text string) (volts []float64, err error) { return list(text, voltUnits, "volts") }

// ParseAmps reads one or several currents: "9.0/4.5", "13,2 / 6,6 A",
// "9.6-9.0/4.5". They come back in the order typed, in amperes.
func ParseAmps(text string) (amps []float64, err error) { return list(text, ampUnits, "amps") }

// ParseHertz reads a frequency in hertz or, on old plates, cycles.
func ParseHertz(text string) (hertz float64, err error) { return single(text, hertzUnits, "hertz") }

// ParseFrequencies reads one or two frequencies of a plate: "60", "50/60 Hz". They
// come back in the order typed, in hertz.
func ParseFrequencies(text string) (hertz []float64, err error) {
	hertz, err = list(text, hertzUnits, "hertz")
	if err == nil && len(hertz) > 2 {
		return nil, fail(text, 0, "A plate has one frequency or two.")
	}
	return hertz, err
}

// ParseRPM reads a shaft speed in revolutions per minute. A comma or point
// before exactly three figures parts thousands here ("1,745").
func ParseRPM(text string) (rpm float64, err error) {
	s := scanner{text: text, thousands: true}
	return s.only(rpmUnits, "rpm")
}

// ParseMicrofarads reads a capacitance: "62 µF", "62uF", "62 mfd", "62". A bare
// number is microfarads. The result is in microfarads.
func ParseMicrofarads(text string) (microfarads float64, err error) {
	return single(text, []unit{{[]string{"µf", "μf", "uf", "mfd", "mf"}, 1}}, "microfarads")
}

// ParseKelvin reads a temperature in degrees or a difference of them: "40",
// "40 °C", "80 K".
func ParseKelvin(text string) (degrees float64, err error) {
	return single(text, []unit{{[]string{"°c", "c", "k", "°", "°k"}, 1}}, "degrees")
}

// ParseMetres reads a height: "1000 m", "3300 ft". A bare number is metres.
func ParseMetres(text string) (metres float64, err error) {
	return single(text, []unit{{[]string{"m", "mtr"}, 1}, {[]string{"ft", "feet"}, 0.3048}}, "metres or feet")
}

// ParseKilograms reads a weight: "23 kg", "66 lb". A bare number is kilograms.
func ParseKilograms(text string) (kilograms float64, err error) {
	return single(text, []unit{{[]string{"kg"}, 1}, {[]string{"lb", "lbs"}, 0.45359237}}, "kilograms or pounds")
}

var ohmUnits = []unit{
	{[]string{"megω", "megohms", "megohm", "meg"}, 1e6}, {[]string{"kω", "kohms", "kohm", "k"}, 1e3},
	{[]string{"mω", "mohms", "mohm"}, 1e-3}, {[]string{"ω", "ohms", "ohm"}, 1},
}

// ParseOhms reads what a meter says of a resistance: "2.4", "0,8 Ω", "40 k",
// "200 MΩ", ">500M", or "open", "OL" and "∞" where there is no continuity. A bare
// number is in ohms. The result is in ohms, +Inf for open.
func ParseOhms(text string) (ohms float64, err error) {
	trimmed := strings.TrimLeft(strings.TrimSpace(text), "> ")
	switch strings.ToLower(trimmed) {
	case "open", "ol", "o.l", "o.l.", "∞", "inf", "infinite", "oo":
		return math.Inf(1), nil
	case "0", "0.0", "0.00", "0,0", "0,00":
		return 0, nil
	}
	// M is a million, m a thousandth; both spellings of the ohm sign are one.
	return single(strings.NewReplacer("M", "meg", "Ω", "ω", "Ω", "ω").Replace(trimmed), ohmUnits, "ohms")
}

// ParseCelsius reads a temperature, which may be below nothing: "20", "-5 °C", "72 °F".
func ParseCelsius(text string) (celsius float64, err error) {
	text = strings.TrimSpace(text)
	if of, ok := strings.CutSuffix(strings.ToLower(text), "f"); ok && !strings.ContainsAny(of, "ck") {
		fahrenheit, err := signedDegrees(strings.TrimRight(of, "° "))
		return (fahrenheit - 32) / 1.8, err
	}
	return signedDegrees(text)
}

func signedDegrees(text string) (degrees float64, err error) {
	switch cold := strings.TrimPrefix(strings.TrimPrefix(text, "-"), "−"); {
	case strings.Trim(text, "0°C c,.") == "":
		if text == "" {
			return 0, fail(text, 0, "Expected degrees, found nothing.")
		}
		return 0, nil
	case cold != text:
		degrees, err = ParseKelvin(cold)
		return -degrees, err
	}
	return ParseKelvin(text)
}

// ParseShare reads a figure between nothing and one that may be typed as a
// share or in percent: "0.82", "82", "82 %", "87.5". Figures above 1.5 count as
// percent.
func ParseShare(text string) (share float64, err error) {
	s := scanner{text: text}
	value, err := s.positive()
	if err != nil {
		return 0, err
	}
	_, percent := s.unit([]unit{{[]string{"%", "percent"}, 1}})
	if err := s.end(); err != nil {
		return 0, err
	}
	if percent || value > 1.5 {
		value /= 100
	}
	if value > 1 {
		return 0, fail(text, 0, "%s is over 100 percent.", strings.TrimSpace(text))
	}
	return value, nil
}

// ParseNumber reads a plain positive number.
func ParseNumber(text string) (value float64, err error) { return single(text, nil, "a number") }

func single(text string, units []unit, what string) (float64, error) {
	s := scanner{text: text}
	return s.only(units, what)
}

func list(text string, units []unit, what string) ([]float64, error) {
	s := scanner{text: text, parts: true}
	var values []float64
	for {
		value, err := s.positive()
		if err != nil {
			return nil, err
		}
		if factor, ok := s.unit(units); ok {
			value *= factor
		}
		values = append(values, value)
		if s.done() {
			return values, nil
		}
		if len(values) == 12 {
			return nil, fail(text, s.at, "That is more than twelve values for %s.", what)
		}
		if !s.separator() {
			return nil, fail(text, s.at, "Expected “/” or “-” between %s, found %s.", what, left(text, s.at))
		}
	}
}

// ParseInertia reads a moment of inertia: "0.02", "0.02 kg·m²", "0,5 lb·ft²". A bare
// number is kilogram square metres.
func ParseInertia(text string) (kgm2 float64, err error) {
	return single(text, []unit{{[]string{"kg·m²", "kgm²", "kg m²", "kg·m2", "kgm2", "kg m2"}, 1},
		{[]string{"lb·ft²", "lbft²", "lb ft²", "lb·ft2", "lbft2", "lb ft2"}, 0.0421401}}, "kg·m² or lb·ft²")
}

// ParseSeconds reads a time by stopwatch: "12", "12,5 s", "1.5 min". A bare number is
// seconds.
func ParseSeconds(text string) (seconds float64, err error) {
	return single(text, []unit{{[]string{"s", "sec", "seconds"}, 1}, {[]string{"min", "minutes"}, 60}}, "seconds")
}

// ParseMinutes reads a length of work: "10", "10 min", "2 h", "30 s". A bare number is
// minutes.
func ParseMinutes(text string) (minutes float64, err error) {
	return single(
		text,
		[]unit{
			{[]string{"min", "minutes", "m"}, 1},
			{[]string{"h", "hours", "hour"}, 60},
			{[]string{"s", "sec", "seconds"}, 1.0 / 60},
		},
		"minutes",
	)
}

// ParseMillimetres reads a diameter: "12", "12 mm", "1/2 in", "0.5\"". A bare number is
// millimetres.
func ParseMillimetres(text string) (millimetres float64, err error) {
	return single(
		text,
		[]unit{{[]string{"mm"}, 1}, {[]string{"in", "inch", "\"", "″"}, 25.4}, {[]string{"cm"}, 10}},
		"millimetres or inches",
	)
}
