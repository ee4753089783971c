package plate

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// assembly puts claims together into a document.
type assembly struct {
	d                       *Document
	volts, amps, factorAmps [][]float64
	hertz, rpm, output      []float64
	joints                  []string
	connection              string
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
		ok = word(&p.Duty, duty(value))
	case "frame":
		ok = word(&p.Frame, strings.ReplaceAll(value, " ", ""))
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
		if figure, named := map[string]string{"SINGLE": "1", "TWO": "2", "THREE": "3"}[value]; named {
			value = figure
		}
		ok = whole(&p.Phases, value, 1, 3)
	case "weight":
		kilograms := number(value)
		if strings.HasPrefix(c.values[1], "L") {
			kilograms *= 0.45359237
		}
		ok = set(&p.WeightKilogram, kilograms, 0.5, 5000)
	case "hertz":
		ok = fill(&a.hertz, flat(numbers(value)), 15, 120)
	case "rpm":
		ok = fill(&a.rpm, flat(rpms(value)), 200, 7200)
	case "output":
		ok = a.takeOutput(c)
	case "amps":
		ok = a.takeGroups(&a.amps, value, 0.05, 600)
	case "service_factor_amps":
		ok = a.takeGroups(&a.factorAmps, value, 0.05, 700)
	case "volts":
		ok = a.takeVolts(c)
	case "connection":
		if ok = a.connection == ""; ok {
			a.connection = connectionNames[strings.ToLower(value)]
		}
	}
	if !ok {
		a.d.Unread = append(a.d.Unread, c.words)
		return false
	}
	if said, again := a.d.From[c.field]; again {
		c.words = said + ", " + c.words
	}
	a.d.From[c.field] = c.words
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
	return value
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

func fill(to *[]float64, values []float64, low, high float64) bool {
	if len(*to) > 0 || len(values) == 0 {
		return false
	}
	for _, v := range values {
		if v < low || v > high {
			return false
		}
	}
	*to = values
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
	if regexp.MustCompile(`^[A-Z]`).MatchString(text) {
		text, unit = unit, text
	}
	var values []float64
	if watts, err := quantity.ParsePower(text + " " + unit); err == nil {
		values = []float64{watts}
	} else {
		for part := range strings.SplitSeq(text, "/") {
			watts, err := quantity.ParsePower(part + " " + unit)
			if err != nil {
				return false
			}
			values = append(values, watts)
		}
	}
	for _, v := range values {
		if v < 20 || v > 200e3 {
			return false
		}
	}
	if len(a.output) == 0 {
		a.output = values
		return true
	}
	// The same output once more in another unit is no new figure.
	return len(values) == len(a.output) && math.Abs(values[0]/a.output[0]-1) < 0.06
}

func (a *assembly) takeGroups(to *[][]float64, text string, low, high float64) bool {
	groups := numbers(text)
	if len(*to) > 0 || groups == nil {
		return false
	}
	for _, v := range flat(groups) {
		if v < low || v > high {
			return false
		}
	}
	*to = groups
	return true
}

var mark = regexp.MustCompile(joint)

func (a *assembly) takeVolts(c claim) bool {
	if len(a.volts) > 0 {
		return false
	}
	var joints []string
	text := ""
	for _, v := range c.values {
		for _, j := range mark.FindAllString(v, -1) {
			joints = append(joints, connectionNames[strings.ToLower(j)])
		}
		if rest := strings.TrimSpace(mark.ReplaceAllString(v, "")); strings.Trim(rest, " /-–") != "" {
			text = regexp.MustCompile(`\s*([-/–])\s*`).ReplaceAllString(rest, "$1")
		}
	}
	if !a.takeGroups(&a.volts, text, 50, 1100) {
		return false
	}
	a.joints = joints
	return true
}

// ratings makes one rating for each voltage, and for each frequency where the
// plate gives several with figures of their own.
func (a *assembly) ratings() {
	volts := flat(a.volts)
	outputs, speeds := a.output, a.rpm
	p := &a.d.Plate
	if len(outputs) > 0 {
		p.OutputWatts = &outputs[0]
	}
	connections := a.connections(volts)
	frequencies := a.hertz
	if len(frequencies) == 0 {
		frequencies = []float64{0}
	}
	// Volts that stand one for one with the frequencies belong to them.
	paired := len(frequencies) > 1 && len(volts) == len(frequencies) && len(a.volts) == len(frequencies) && !dual(volts)
	for k, hertz := range frequencies {
		for i, v := range volts {
			if paired && i != k {
				continue
			}
			r := SheetRating{Volts: v, Connection: connections[i]}
			if hertz > 0 {
				r.Hertz = ptr(hertz)
			}
			r.RPM = pick(speeds, k, len(frequencies))
			r.Amps = a.grouped(a.amps, i, k, len(frequencies))
			r.ServiceFactorAmps = a.grouped(a.factorAmps, i, k, len(frequencies))
			if len(outputs) > 1 {
				r.OutputWatts = pick(outputs, k, len(frequencies))
			}
			p.Ratings = append(p.Ratings, r)
		}
	}
	a.loneFactorAmps()
}

// loneFactorAmps gives a single service-factor current to the one voltage whose
// rated amps lie just below it.
func (a *assembly) loneFactorAmps() {
	lone, ratings := flat(a.factorAmps), a.d.Plate.Ratings
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

// pick is the value of frequency k: one for all, or one for each.
func pick(values []float64, k, of int) *float64 {
	switch {
	case len(values) == 1 && of == 1, len(values) == of && of > 1:
		return ptr(values[min(k, len(values)-1)])
	}
	return nil
}

// grouped is the amps of voltage i: one for each voltage, or one for each group
// of them, where they belong to the group's last.
func (a *assembly) grouped(amps [][]float64, i, k, frequencies int) *float64 {
	all, volts := flat(amps), flat(a.volts)
	switch {
	case frequencies > 1 && len(all) == frequencies && len(volts) == frequencies && len(a.volts) == frequencies &&
		!dual(volts):
		return ptr(all[k])
	case frequencies > 1 && len(all) == len(volts)*frequencies:
		return ptr(all[k*len(volts)+i])
	case frequencies > 1:
		return nil // whose they are is not said
	case len(all) == len(volts):
		return ptr(all[i])
	case len(amps) == len(a.volts) && len(all) == len(amps):
		end := 0
		for g, group := range a.volts {
			if end += len(group); i == end-1 {
				return ptr(all[g])
			}
		}
	}
	return nil
}

// connections gives each voltage the connection marked beside it, or the one that
// follows from the ratio of the volts.
func (a *assembly) connections(volts []float64) []*string {
	list := make([]*string, len(volts))
	ratings := make([]Rating, len(volts))
	for i, v := range volts {
		ratings[i].Volts = v
	}
	if len(a.joints) == 0 && a.connection != "" && len(volts) == 1 {
		a.joints = []string{a.connection}
	}
	if len(a.joints) == len(volts) {
		for i := range list {
			list[i] = &a.joints[i]
		}
		return list
	}
	r := reader{}
	r.connect("", ratings)
	found := false
	for i, rating := range ratings {
		if rating.Connection != "" {
			list[i], found = ptr(rating.Connection), true
		}
	}
	if found {
		a.d.Deduced = append(
			a.d.Deduced,
			Deduced{
				"connection",
				"the ratio of the volts: √3 is delta and wye of the same windings, two is parallel and series",
			},
		)
	}
	return list
}
