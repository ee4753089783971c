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
	Cooling         *string       `json:"cooling"`
	Bearings        *string       `json:"bearings"`
	PartLoad        *string       `json:"part_load_efficiency"`
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

// Plain is the plate as the sizing takes it, at the frequency of its first rating,
// with that of the other in Second; ok is false when output or volts are missing.
func (p *Sheet) Plain() (Plate, bool) {
	if p.OutputWatts == nil || len(p.Ratings) == 0 {
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
		CodeLetter:   valueOf(p.CodeLetter),
		DesignLetter: valueOf(p.DesignLetter),
		Leads:        valueOf(p.Leads),
		Frame:        valueOf(p.Frame),
	}
	if one.OutputWatts != nil {
		plain.OutputWatts = *one.OutputWatts
	}
	for _, r := range p.Ratings {
		if valueOf(r.Hertz) == plain.Hertz {
			plain.Ratings = append(plain.Ratings, Rating{r.Volts, valueOf(r.Amps), valueOf(r.Connection)})
		}
	}
	return plain
}

// Typed is the document as fields of a plate would have been typed, each as it
// stands in the text where it can.
func (d Document) Typed() Typed {
	p := &d.Plate
	plain, _ := p.Plain()
	figure := func(v *float64, scale float64) string { return shown(valueOf(v) * scale) }
	t := Typed{Rest: p.rest(), PowerFactor: figure(p.PowerFactor, 1), Efficiency: figure(p.Efficiency, 100),
		ServiceFactor: figure(p.ServiceFactor, 1), Code: plain.CodeLetter, Design: plain.DesignLetter}
	if p.OutputWatts != nil {
		t.Output = quantity.Figures(*p.OutputWatts/1000, 4) + " kW"
		if words := d.From["output"]; words != "" {
			if watts, err := quantity.ParsePower(words); err == nil && math.Abs(watts / *p.OutputWatts - 1) < 0.01 {
				t.Output = words
			}
		}
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
		both(&t.Output, quantity.Figures(q.OutputWatts/1000, 4)+" kW")
		if q.OutputWatts == plain.OutputWatts {
			t.Output, _, _ = strings.Cut(t.Output, " | ")
		}
		t.Hertz += "/" + shown(q.Hertz)
		if q.RPM > 0 {
			t.RPM += " | " + shown(q.RPM)
		}
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

// shown is a figure as it would be typed, "" for none.
func shown(value float64) string {
	if value <= 0 {
		return ""
	}
	return quantity.Figures(value, 4)
}

// columns are the volts and amps of a plate as they would be typed. Amps are typed
// for all voltages or for none, so that they stay in their column.
func (p Plate) columns() (volts, amps string) {
	var v, a []string
	for _, r := range p.Ratings {
		v = append(v, shown(r.Volts))
		if r.Amps > 0 {
			a = append(a, shown(r.Amps))
		}
	}
	if len(a) == len(v) {
		amps = strings.Join(a, "/")
	}
	return strings.Join(v, "/"), amps
}

func (d Document) deduced(field string) (Deduced, bool) {
	for _, one := range d.Deduced {
		if one.Field == field {
			return one, true
		}
	}
	return Deduced{}, false
}
