package plate

import (
	"math"
	"strconv"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// DocumentFormat is the name of the open format of a plate that was read.
const DocumentFormat = "brackmoor.plate/1"

// Document is a plate read from text: its fields, the words each came from, what
// was deduced and why, what was not understood, and what the checks say. A field
// that the plate does not state is null.
type Document struct {
	Format   string            `json:"format"`
	Plate    Sheet             `json:"plate"`
	From     map[string]string `json:"from"`
	Deduced  []Deduced         `json:"deduced"`
	Unread   []string          `json:"unread"`
	Verdicts []rule.Verdict    `json:"verdicts"`
}

// Deduced is a field that follows from others, and how.
type Deduced struct {
	Field   string `json:"field"`
	Because string `json:"because"`
}

// Sheet holds everything a plate can carry.
type Sheet struct {
	Phases          *int          `json:"phases"`
	OutputWatts     *float64      `json:"output_watts"`
	Ratings         []SheetRating `json:"ratings"`
	Poles           *int          `json:"poles"`
	PowerFactor     *float64      `json:"power_factor"`
	Efficiency      *float64      `json:"efficiency"`
	ServiceFactor   *float64      `json:"service_factor"`
	CodeLetter      *string       `json:"code_letter"`
	DesignLetter    *string       `json:"design_letter"`
	InsulationClass *string       `json:"insulation_class"`
	TemperatureRise *float64      `json:"temperature_rise_kelvin"`
	Duty            *string       `json:"duty"`
	Frame           *string       `json:"frame"`
	Enclosure       *string       `json:"enclosure"`
	IP              *string       `json:"ip"`
	AmbientCelsius  *float64      `json:"ambient_celsius"`
	AltitudeMetre   *float64      `json:"altitude_metre"`
	Leads           *int          `json:"leads"`
	Year            *int          `json:"year"`
	WeightKilogram  *float64      `json:"weight_kilogram"`
}

// SheetRating is one voltage, and frequency, of a plate. OutputWatts is given
// where it differs between ratings.
type SheetRating struct {
	Volts             float64  `json:"volts"`
	Amps              *float64 `json:"amps"`
	ServiceFactorAmps *float64 `json:"service_factor_amps"`
	Hertz             *float64 `json:"hertz"`
	RPM               *float64 `json:"rpm"`
	Connection        *string  `json:"connection"`
	OutputWatts       *float64 `json:"output_watts,omitempty"`
}

// ReadText reads the text of a nameplate, one line or a column of them. It
// invents nothing: what it does not understand is listed.
func ReadText(text string) Document {
	found, unread := claims(text)
	a := newAssembly()
	a.d.Unread = append(a.d.Unread, unread...)
	for _, c := range found {
		a.take(c)
	}
	a.ratings()
	a.deduce()
	a.d.Verdicts = rule.Sorted(a.judge())
	return *a.d
}

// Plain is the plate as the sizing takes it, at the frequency of its first
// rating; ok is false when output or volts are missing.
func (p *Sheet) Plain() (Plate, bool) {
	if p.OutputWatts == nil || len(p.Ratings) == 0 {
		return Plate{}, false
	}
	value := func(v *float64) float64 {
		if v == nil {
			return 0
		}
		return *v
	}
	letter := func(s *string) string {
		if s == nil {
			return ""
		}
		return *s
	}
	first := p.Ratings[0]
	plain := Plate{OutputWatts: *p.OutputWatts, Hertz: value(first.Hertz), RPM: value(first.RPM), PowerFactor: value(p.PowerFactor), Efficiency: value(p.Efficiency),
		ServiceFactor: value(p.ServiceFactor), CodeLetter: letter(p.CodeLetter), DesignLetter: letter(p.DesignLetter)}
	if first.OutputWatts != nil {
		plain.OutputWatts = *first.OutputWatts
	}
	if p.Leads != nil {
		plain.Leads = *p.Leads
	}
	for _, r := range p.Ratings {
		if value(r.Hertz) == plain.Hertz {
			plain.Ratings = append(plain.Ratings, Rating{r.Volts, value(r.Amps), letter(r.Connection)})
		}
	}
	return plain, true
}

// Typed is the document as fields of a plate would have been typed, each as it
// stands in the text where it can.
func (d Document) Typed() Typed {
	p := &d.Plate
	plain, _ := p.Plain()
	join := func(value func(Rating) float64) string {
		var parts []string
		for _, r := range plain.Ratings {
			if v := value(r); v > 0 {
				parts = append(parts, quantity.Figures(v, 4))
			}
		}
		return strings.Join(parts, "/")
	}
	figure := func(v *float64, scale float64) string {
		if v == nil {
			return ""
		}
		return quantity.Figures(*v*scale, 4)
	}
	t := Typed{Rest: p.rest(), Volts: join(func(r Rating) float64 { return r.Volts }), PowerFactor: figure(p.PowerFactor, 1), Efficiency: figure(p.Efficiency, 100),
		ServiceFactor: figure(p.ServiceFactor, 1), Code: plain.CodeLetter, Design: plain.DesignLetter}
	if p.OutputWatts != nil {
		t.Output = quantity.Figures(*p.OutputWatts/1000, 4) + " kW"
		if words := d.From["output"]; words != "" {
			if watts, err := quantity.ParsePower(words); err == nil && math.Abs(watts / *p.OutputWatts - 1) < 0.01 {
				t.Output = words
			}
		}
	}
	// Amps are typed for all voltages or for none, so that they stay in their column.
	if amps := join(func(r Rating) float64 { return r.Amps }); strings.Count(amps, "/") == strings.Count(t.Volts, "/") {
		t.Amps = amps
	}
	if plain.Hertz > 0 {
		t.Hertz = quantity.Figures(plain.Hertz, 4)
	}
	if plain.RPM > 0 {
		t.RPM = quantity.Figures(plain.RPM, 4)
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

func (d Document) deduced(field string) (Deduced, bool) {
	for _, one := range d.Deduced {
		if one.Field == field {
			return one, true
		}
	}
	return Deduced{}, false
}
