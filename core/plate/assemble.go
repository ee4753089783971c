package plate

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// assembly puts claims together into a document.
type assembly struct {
	d *Document
	// What is said of a rating, as often as it is said.
	volts, amps, factorAmps []groups
	hertz, rpm              [][]float64
	output                  []power
	duty, connection        []string
	joints                  [][]string // of the volts
	claims                  map[string][]claim
}

// groups are figures by the strokes between them: 208-230/460 is two groups.
type groups [][]float64

// power is an output, or several of one unit.
type power struct {
	watts []float64
	unit  string
}

func newAssembly() *assembly {
	return &assembly{
		d: &Document{
			Format:   DocumentFormat,
			Plate:    Sheet{Ratings: []SheetRating{}},
			From:     map[string]string{},
			Deduced:  []Deduced{},
			Unread:   []string{},
			Verdicts: []rule.Verdict{},
		},
		claims: map[string][]claim{},
	}
}

// take puts one claim in its place; what will not go there is unread.
func (a *assembly) take(c claim) bool {
	p := &a.d.Plate
	value := c.values[0]
	ok := true
	switch c.field {
	case "efficiency":
		ok = set(&p.Efficiency, share(value), 0.15, 0.985)
	case "power_factor":
		ok = set(&p.PowerFactor, share(value), 0.2, 0.97)
	case "service_factor":
		ok = set(&p.ServiceFactor, number(value), 1, 2)
	case "code_letter":
		ok = word(&p.CodeLetter, value)
	case "design_letter":
		ok = word(&p.DesignLetter, value[:1])
	case "insulation_class":
		ok = word(&p.InsulationClass, value)
	case "temperature_rise_kelvin":
		ok = set(&p.TemperatureRise, number(value), 10, 200)
	case "ambient_celsius":
		ok = set(&p.AmbientCelsius, number(value), 10, 90)
	case "altitude_metre":
		metres := number(value)
		if strings.HasPrefix(c.values[1], "F") {
			metres *= 0.3048
		}
		ok = set(&p.AltitudeMetre, metres, 0, 9000)
	case "duty":
		a.duty = append(a.duty, duty(value))
	case "frame":
		ok = word(&p.Frame, strings.Join(strings.Fields(value), ""))
	case "enclosure":
		ok = word(&p.Enclosure, value)
	case "ip":
		ok = word(&p.IP, "IP"+value)
	case "cooling":
		ok = word(&p.Cooling, "IC"+strings.ReplaceAll(value, " ", ""))
	case "bearings":
		ok = word(&p.Bearings, strings.Join(c.values, " / "))
	case "part_load_efficiency":
		ok = word(&p.PartLoad, "75 % "+c.values[0]+", 50 % "+c.values[1])
	case "leads":
		ok = whole(&p.Leads, value, 3, 12)
	case "year":
		ok = whole(&p.Year, value, 1900, 2100)
	case "poles":
		ok = whole(&p.Poles, value, 2, 16) && *p.Poles%2 == 0
	case "phases":
		if figure, named := map[string]string{"SINGLE": "1", "TWO": "2", "1": "1", "2": "2"}[value]; named {
			value = figure
		} else {
			value = "3" // the word for it in any language
		}
		ok = whole(&p.Phases, value, 1, 3) || *p.Phases == 3 && value == "3"
	case "weight":
		unit := c.values[1]
		if value == "KG" {
			value, unit = unit, value
		}
		kilograms := number(value)
		if strings.HasPrefix(unit, "L") {
			kilograms *= 0.45359237
		}
		ok = set(&p.WeightKilogram, kilograms, 0.5, 5000)
	case "hertz":
		ok = said(&a.hertz, flat(numbers(value)), 15, 120)
	case "rpm":
		ok = !serial.MatchString(c.words) && said(&a.rpm, flat(rpms(value)), 200, 7200) // as serials are
	case "output":
		ok = a.takeOutput(c)
	case "amps":
		ok = grouped(&a.amps, value, 0.05, 600)
	case "service_factor_amps":
		ok = grouped(&a.factorAmps, value, 0.05, 700)
	case "locked_rotor_amps":
		amps := flat(numbers(value))
		ok = len(amps) > 0 && set(&p.LockedRotorAmps, amps[0], 0.2, 5000)
	case "volts":
		ok = a.takeVolts(c)
	case "connection":
		name := connectionNames[strings.ToLower(value)]
		if ok = name != ""; ok {
			a.connection = append(a.connection, name)
		}
	}
	if c.field == "input" {
		return true
	}
	if !ok {
		a.d.Unread = append(a.d.Unread, c.words)
		return false
	}
	a.claims[c.field] = append(a.claims[c.field], c)
	a.tell(c)
	return true
}

func number(text string) float64 {
	value, err := quantity.ParseNumber(text)
	if err != nil {
		return 0
	}
	return value
}

func share(text string) float64 {
	value, err := quantity.ParseShare(text)
	if err != nil {
		return 0
	}
	return math.Round(1e6*value) / 1e6 // 88.6 percent is 0.886
}

// set keeps a value that lies within bounds and is the first of its field.
func set(to **float64, value, low, high float64) bool {
	if *to != nil || value < low || value > high {
		return false
	}
	*to = &value
	return true
}

func word(to **string, value string) bool {
	if *to != nil || value == "" {
		return false
	}
	*to = &value
	return true
}

func whole(to **int, text string, low, high int) bool {
	value, err := strconv.Atoi(text)
	if *to != nil || err != nil || value < low || value > high {
		return false
	}
	*to = &value
	return true
}

// tell puts the words of a claim beside its field.
func (a *assembly) tell(c claim) {
	if words, again := a.d.From[c.field]; again {
		c.words = words + ", " + c.words
	}
	a.d.From[c.field] = c.words
}

// said adds values that lie within bounds.
func said(to *[][]float64, values []float64, low, high float64) bool {
	if len(values) == 0 {
		return false
	}
	for _, v := range values {
		if v < low || v > high {
			return false
		}
	}
	*to = append(*to, values)
	return true
}

// grouped adds groups of values that lie within bounds.
func grouped(to *[]groups, text string, low, high float64) bool {
	list := numbers(text)
	if list == nil {
		return false
	}
	for _, group := range list {
		// What a dash joins is a range; “460-7A” is the number of a type.
		if least, most := slices.Min(group), slices.Max(group); least < low || most > high || most > 2.5*least {
			return false
		}
	}
	*to = append(*to, list)
	return true
}

// rpms reads speeds, in which a mark before three figures parts thousands.
func rpms(text string) (groups [][]float64) {
	for _, part := range regexp.MustCompile(`\s*[-/–]\s*`).Split(text, -1) {
		value, err := quantity.ParseRPM(part)
		if err != nil {
			return nil
		}
		groups = append(groups, []float64{value})
	}
	return groups
}

// duty words a duty alike: continuous running is S1 (IEC 60034-1).
func duty(text string) string {
	switch {
	case strings.HasPrefix(text, "CONT"):
		return "continuous"
	case strings.HasPrefix(text, "INT"):
		return "intermittent"
	}
	return strings.Join(strings.Fields(text), " ")
}

func (a *assembly) takeOutput(c claim) bool {
	text, unit := c.values[0], c.values[1]
	if _, label := outputNames[strings.NewReplacer(" ", "", ".", "", "\t", "").Replace(text)]; label {
		text, unit = unit, text
	}
	p := power{unit: unitOf(unit)}
	if unit == "" {
		p.unit = "kW" // no plate states watts or horsepower without its unit; what is meant is judged later
	}
	for _, part := range append([]string{text}, strings.FieldsFunc(text, strokes)...) {
		watts, err := quantity.ParsePower(part + " " + p.unit)
		if err == nil {
			p.watts = append(p.watts, watts)
		}
		if err == nil && len(p.watts) == 1 && part == text {
			break
		}
	}
	if len(p.watts) == 0 {
		return false
	}
	for _, v := range p.watts {
		if v < 20 || v > 200e3 {
			return false
		}
	}
	a.output = append(a.output, p)
	return true
}

var (
	mark     = regexp.MustCompile(joint)
	voltUnit = regexp.MustCompile(`V(?:OLTS?|AC)?`)
	between  = regexp.MustCompile(`\s*(?:[/–-]|[,;]\s)[/–\s-]*`)
)

// serial is a number behind a large N, which is no speed.
var serial = regexp.MustCompile(`^N\s+\d+$`)

// strokes part the figures of a list.
func strokes(r rune) bool { return strings.ContainsRune("/-–", r) }

// takeVolts reads volts with the connections that stand beside them.
func (a *assembly) takeVolts(c claim) bool {
	var joints []string
	text := ""
	for _, v := range c.values {
		for _, j := range mark.FindAllString(v, -1) {
			joints = append(joints, connectionNames[strings.ToLower(j)])
		}
		rest := voltUnit.ReplaceAllString(mark.ReplaceAllString(v, " "), " ")
		if rest = strings.Trim(rest, " \t/-–,;"); rest != "" {
			text = between.ReplaceAllStringFunc(rest, func(s string) string {
				if strings.ContainsAny(s, "/,;") {
					return "/"
				}
				return "-"
			})
		}
	}
	bare := c.head == [2]int{} && strings.IndexFunc(c.words, unicode.IsLetter) < 0
	if bare && !usualVolts(numbers(text)) || !grouped(&a.volts, text, 50, 1100) {
		return false
	}
	if bare {
		a.d.Deduced = append(a.d.Deduced, Deduced{"volts", "no unit stands with it; these are usual volts"})
	}
	a.joints = append(a.joints, joints)
	return true
}

// bareP takes back poles that stand behind a letter P alone where no output is read: then it may
// be the output.
func (a *assembly) bareP() {
	said := a.claims["poles"]
	if len(a.output) > 0 || len(said) == 0 || strings.Contains(strings.ToUpper(said[0].words), "POL") ||
		!strings.HasPrefix(strings.ToUpper(said[0].words), "P") {
		return
	}
	a.d.Plate.Poles = nil
	a.d.Unread = append(a.d.Unread, said[0].words)
	delete(a.claims, "poles")
	delete(a.d.From, "poles")
}

// usualVolts says whether figures without a unit are volts: two at least, each that of some
// network, of one motor joined two ways or of a range.
func usualVolts(g groups) bool {
	all := flat(g)
	for _, v := range all {
		if !slices.Contains(networks, v) {
			return false
		}
	}
	return len(g) == 2 && dual([]float64{g[0][len(g[0])-1], g[1][len(g[1])-1]})
}

// networks are the volts of networks and of what is made for them (ANSI C84.1, IEC 60038 and
// what stood before them).
var networks = []float64{
	110, 115, 120, 127, 190, 200, 208, 220, 230, 240, 380, 400, 415, 440, 460, 480, 550, 575, 600, 660, 690,
}

// loneFactorAmps gives a single service-factor current to the one voltage whose
// rated amps lie just below it.
func (a *assembly) loneFactorAmps() {
	if len(a.factorAmps) != 1 {
		return
	}
	lone, ratings := flat(a.factorAmps[0]), a.d.Plate.Ratings
	if len(lone) != 1 || len(ratings) < 2 {
		return
	}
	fits := slices.DeleteFunc(slices.Clone(ratings), func(r SheetRating) bool {
		return r.Amps == nil || lone[0] < *r.Amps || lone[0] > 1.5**r.Amps
	})
	for i, r := range ratings {
		if len(fits) == 1 && r.Amps == fits[0].Amps {
			ratings[i].ServiceFactorAmps = ptr(lone[0])
		}
	}
}

func ptr[T any](value T) *T { return &value }

// dual says whether voltages are those of one motor joined two ways.
func dual(volts []float64) bool {
	if len(volts) != 2 {
		return false
	}
	ratio := math.Max(volts[0], volts[1]) / math.Min(volts[0], volts[1])
	return near(ratio, math.Sqrt(3)) || near(ratio, 2)
}
