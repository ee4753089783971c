package plate

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// DocumentFormat is the name of the open format of a plate that was read.
const DocumentFormat = "brackmoor.plate/1"

// Document is a plate read from text: its fields, the words each came from, what
// was deduced and why, what may have been misread, what was not understood, and what the
// checks say. A field
// that the plate does not state is null.
type Document struct {
	Format    string            `json:"format"`
	Plate     Sheet             `json:"plate"`
	From      map[string]string `json:"from"`
	Deduced   []Deduced         `json:"deduced"`
	Proposals []Proposal        `json:"proposals,omitempty"`
	Unread    []string          `json:"unread"`
	Verdicts  []rule.Verdict    `json:"verdicts"`
}

// Deduced is a field that follows from others, and how.
type Deduced struct {
	Field   string `json:"field"`
	Because string `json:"because" told:"figures"`
}

// Sheet holds everything a plate can carry.
type Sheet struct {
	Phases          *int          `json:"phases"`
	OutputWatts     *float64      `json:"output_watts"`
	OutputUnit      string        `json:"output_unit,omitempty"` // of the plate: hp, kW or W
	Ratings         []SheetRating `json:"ratings"`
	Poles           *int          `json:"poles"`
	PowerFactor     *float64      `json:"power_factor"`
	Efficiency      *float64      `json:"efficiency"`
	ServiceFactor   *float64      `json:"service_factor"`
	LockedRotorAmps *float64      `json:"locked_rotor_amps,omitempty"` // at the first rating
	CodeLetter      *string       `json:"code_letter"`
	DesignLetter    *string       `json:"design_letter"`
	InsulationClass *string       `json:"insulation_class"`
	TemperatureRise *float64      `json:"temperature_rise_kelvin"`
	Duty            *string       `json:"duty"`
	Frame           *string       `json:"frame"`
	Enclosure       *string       `json:"enclosure"`
	IP              *string       `json:"ip"`
	Cooling         *string       `json:"cooling"`
	Bearings        *string       `json:"bearings"`
	PartLoad        *string       `json:"part_load_efficiency"`
	AmbientCelsius  *float64      `json:"ambient_celsius"`
	AltitudeMetre   *float64      `json:"altitude_metre"`
	Leads           *int          `json:"leads"`
	Year            *int          `json:"year"`
	WeightKilogram  *float64      `json:"weight_kilogram"`
}

// SheetRating is one voltage, and frequency, of a plate. OutputWatts and Duty are
// given where they differ between ratings.
type SheetRating struct {
	Volts             float64  `json:"volts"`
	Amps              *float64 `json:"amps"`
	ServiceFactorAmps *float64 `json:"service_factor_amps"`
	Hertz             *float64 `json:"hertz"`
	RPM               *float64 `json:"rpm"`
	Connection        *string  `json:"connection"`
	OutputWatts       *float64 `json:"output_watts,omitempty"`
	Duty              *string  `json:"duty,omitempty"`
}

// ReadText reads the text of a nameplate, as it is laid out: one line, a column, or a table.
// It invents nothing: what it does not understand is listed, and what may be a slip is
// proposed.
func ReadText(text string) Document {
	d, _ := understand(text, 0)
	d.Proposals = append(append([]Proposal{}, misspelled(text, d)...), d.contradicted()...)
	return d
}

// understand reads a text as it stands, and says which stretches of it each field came from; a line of heads may have
// as many worn ones as is said.
func understand(text string, worn int) (Document, map[string][]claim) {
	found, unread := claims(text, worn)
	a := newAssembly()
	a.d.Unread = append(a.d.Unread, unread...)
	for _, c := range found {
		if c.field != "" {
			a.take(c)
		}
	}
	a.bareP()
	a.ratings()
	if len(a.output) > 0 && slices.Contains([]string{"hp", "kW", "W"}, a.output[0].unit) {
		a.d.Plate.OutputUnit = a.output[0].unit
	}
	a.deduce()
	verdicts := a.judge()
	if a.twoSpeeds() {
		first := a.d.Plate.Ratings[0]
		verdicts = append(verdicts, rule.Speak("plate.two-speeds", rule.Numbers{"rpm": valueOf(first.RPM)},
			"Give each speed a motor of its own here, with its figures, and join the leads by the motor's own diagram.",
			"The motor has two speeds; the figures taken are those at %.0f rpm.", valueOf(first.RPM)))
	}
	a.d.Verdicts = rule.Sorted(verdicts)
	return *a.d, a.claims
}

// Plain is the plate as the sizing takes it, at the frequency of its first rating,
// with that of the other in Second; ok is false when output or volts are missing.
func (p *Sheet) Plain() (Plate, bool) {
	if len(p.Ratings) == 0 || p.OutputWatts == nil && p.Ratings[0].Amps == nil {
		return Plate{}, false
	}
	plain := p.at(p.Ratings[0])
	for _, r := range p.Ratings {
		if hertz := valueOf(r.Hertz); hertz != plain.Hertz {
			second := p.at(r)
			plain.Second = &second
			break
		}
	}
	return plain, true
}

func valueOf[T any](v *T) (value T) {
	if v != nil {
		value = *v
	}
	return value
}

// at is the plate at the frequency of one of its ratings.
func (p *Sheet) at(one SheetRating) Plate {
	plain := Plate{
		OutputWatts: valueOf(p.OutputWatts),
		Hertz:       valueOf(one.Hertz),
		RPM:         valueOf(one.RPM),
		PowerFactor: valueOf(p.PowerFactor),
		Efficiency:  valueOf(p.Efficiency),
		ServiceFactor: valueOf(
			p.ServiceFactor,
		),
		LockedRotorAmps: valueOf(p.LockedRotorAmps),
		CodeLetter:      valueOf(p.CodeLetter),
		DesignLetter:    valueOf(p.DesignLetter),
		Leads:           valueOf(p.Leads),
		Frame:           valueOf(p.Frame),
	}
	if one.OutputWatts != nil {
		plain.OutputWatts = *one.OutputWatts
	}
	for _, r := range p.Ratings {
		if valueOf(r.Hertz) == plain.Hertz && valueOf(r.Duty) == valueOf(one.Duty) && valueOf(r.RPM) == plain.RPM {
			plain.Ratings = append(plain.Ratings, Rating{r.Volts, valueOf(r.Amps), valueOf(r.Connection)})
		}
	}
	return plain
}

// Typed is the document as fields of a plate would have been typed, each as it
// stands in the text where it can.
func (d Document) Typed() Typed {
	p := &d.Plate
	plain, whole := p.Plain()
	if !whole && len(p.Ratings) > 0 {
		plain = p.at(p.Ratings[0]) // what else stands there is typed all the same
	}
	figure := func(v *float64, scale float64) string { return shown(valueOf(v) * scale) }
	t := Typed{Rest: p.rest(), PowerFactor: figure(p.PowerFactor, 1), Efficiency: figure(p.Efficiency, 100),
		ServiceFactor: figure(p.ServiceFactor, 1), Code: plain.CodeLetter, Design: plain.DesignLetter}
	if p.OutputWatts != nil {
		t.Output = d.outputAsTyped(*p.OutputWatts)
	}
	t.Volts, t.Amps = plain.columns()
	t.Hertz, t.RPM = shown(plain.Hertz), shown(plain.RPM)
	if q := plain.Second; q != nil {
		volts, amps := q.columns()
		both := func(to *string, other string) {
			if *to != other {
				*to += " | " + other
			}
		}
		both(&t.Volts, volts)
		if amps != "" {
			both(&t.Amps, amps)
		}
		if q.OutputWatts != plain.OutputWatts && !strings.Contains(t.Output, "/") {
			t.Output += " | " + quantity.Figures(q.OutputWatts/1000, 4) + " kW"
		}
		t.Hertz += "/" + shown(q.Hertz)
		if q.RPM > 0 {
			t.RPM += " | " + shown(q.RPM)
		}
	}
	if p.LockedRotorAmps != nil {
		t.LockedRotor = shown(*p.LockedRotorAmps)
	}
	if p.Leads != nil {
		t.Leads = strconv.Itoa(*p.Leads)
	}
	if _, deduced := d.deduced("connection"); !deduced {
		var names []string
		for _, r := range plain.Ratings {
			if r.Connection != "" {
				names = append(names, r.Connection)
			}
		}
		t.Connection = strings.Join(names, "/")
	}
	return t
}

// Row is one field of a document: as it would be typed, and the words that it came from.
type Row struct {
	Field string `json:"field"` // as in Typed, or what no plate form has: phases, poles
	Text  string `json:"text"`
	Words string `json:"words"`
}

// Rows lists what was read, field by field.
func (d Document) Rows() []Row {
	list := []Row{}
	for _, f := range d.Typed().Fields() {
		if words := d.From[documentNames[f.Name]]; words != "" {
			list = append(list, Row{f.Name, f.Text, words})
		}
	}
	for _, also := range []struct {
		name  string
		value *int
	}{{"phases", d.Plate.Phases}, {"poles", d.Plate.Poles}} {
		if words := d.From[also.name]; words != "" && also.value != nil {
			list = append(list, Row{also.name, strconv.Itoa(*also.value), words})
		}
	}
	return list
}

// outputAsTyped is the output in the words of the plate, or with its unit moved behind it: a
// plate of 5 hp stays one of 5 hp. Without such words it is in the unit of its head.
func (d Document) outputAsTyped(watts float64) string {
	words := d.From["output"]
	if w, err := quantity.ParsePower(words); err == nil && math.Abs(w/watts-1) < 0.001 {
		return words
	}
	for _, c := range widest(candidates(words, fold(words))) {
		if c.field != "output" {
			continue
		}
		a := newAssembly()
		a.take(c)
		if math.Abs(a.output[0].watts[0]/watts-1) < 0.001 && a.output[0].unit != "" {
			value := c.values[0]
			if outputNames[value] != "" || unitOf(value) != "" {
				value = c.values[1]
			}
			return strings.ToLower(value) + " " + a.output[0].unit
		}
	}
	if d.Plate.OutputUnit == "hp" {
		return quantity.Figures(watts/quantity.WattsPerHorsepower, 4) + " hp"
	}
	return quantity.Figures(watts/1000, 4) + " kW"
}

// shown is a figure as it would be typed, "" for none.
func shown(value float64) string {
	if value <= 0 {
		return ""
	}
	return quantity.Figures(value, 4)
}

// columns are the volts and amps of a plate as they would be typed: amps for all voltages, for
// all ranges of them, or for none, so that they stay in their column.
func (p Plate) columns() (volts, amps string) {
	var flat, ranged, a []string
	for i, r := range p.Ratings {
		text := shown(r.Volts)
		flat = append(flat, text)
		if i > 0 && p.Ratings[i-1].Amps == 0 && oneRange([]float64{p.Ratings[i-1].Volts, r.Volts}) {
			ranged[len(ranged)-1] += "-" + text // amps stand for a range's last
		} else {
			ranged = append(ranged, text)
		}
		if r.Amps > 0 {
			a = append(a, shown(r.Amps))
		}
	}
	switch len(a) {
	case len(flat):
		return strings.Join(flat, "/"), strings.Join(a, "/")
	case len(ranged):
		return strings.Join(ranged, "/"), strings.Join(a, "/")
	}
	return strings.Join(flat, "/"), ""
}

func (d Document) deduced(field string) (Deduced, bool) {
	for _, one := range d.Deduced {
		if one.Field == field {
			return one, true
		}
	}
	return Deduced{}, false
}
