package plate

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/quantity"
)

// Rest is what else a plate carries, as typed: kept, checked and printed, but not
// computed with.
type Rest struct {
	FactorAmps string `json:"factor_amps"`
	Insulation string `json:"insulation"`
	Rise       string `json:"rise"`
	Ambient    string `json:"ambient"`
	Altitude   string `json:"altitude"`
	Duty       string `json:"duty"`
	Enclosure  string `json:"enclosure"`
	IP         string `json:"ip"`
	Frame      string `json:"frame"`
	Cooling    string `json:"cooling"`
	Bearings   string `json:"bearings"`
	PartLoad   string `json:"part_load"` // efficiency at part loads
	Weight     string `json:"weight"`
	Year       string `json:"year"`
}

// RestField names a field of the rest, and says how it is called and in what it is
// typed.
type RestField struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Unit  string `json:"unit"`
}

// RestFields lists the fields of the rest in the order they are shown.
var RestFields = []RestField{
	{"factor_amps", "Service-factor amps", "A"},
	{"insulation", "Insulation class", ""},
	{"rise", "Temperature rise", "K"},
	{
		"ambient",
		"Ambient",
		"°C",
	},
	{"altitude", "Altitude", "m or ft"},
	{"duty", "Duty", ""},
	{"enclosure", "Enclosure", ""},
	{"ip", "IP", ""},
	{"frame", "Frame", ""},
	{"cooling", "Cooling", ""},
	{"bearings", "Bearings", ""},
	{"part_load", "Efficiency at part load", "%"},
	{"weight", "Weight", "kg or lb"},
	{"year", "Year", ""},
}

// InRest says whether a field is one of the rest: a mistake in it stands in the way
// of no answer.
func InRest(field string) bool {
	return slices.ContainsFunc(RestFields, func(f RestField) bool { return f.Name == field })
}

// Texts lists the rest's texts in the order of RestFields.
func (r Rest) Texts() []string {
	return []string{
		r.FactorAmps,
		r.Insulation,
		r.Rise,
		r.Ambient,
		r.Altitude,
		r.Duty,
		r.Enclosure,
		r.IP,
		r.Frame,
		r.Cooling,
		r.Bearings,
		r.PartLoad,
		r.Weight,
		r.Year,
	}
}

// restIsRead checks the figures among the rest; the words stay as they are.
func (r *reader) restIsRead(t Rest) {
	r.within(
		"factor_amps",
		read(r, "factor_amps", t.FactorAmps, firstAmps),
		0.05,
		700,
		"Service-factor amps must lie between 0.05 and 700.",
	)
	r.within(
		"rise",
		read(r, "rise", t.Rise, quantity.ParseKelvin),
		10,
		200,
		"A temperature rise lies between 10 and 200 K.",
	)
	r.within(
		"ambient",
		read(r, "ambient", t.Ambient, warm),
		10,
		90,
		"An ambient lies between 10 and 90 °C.",
	)
	r.within(
		"altitude",
		read(r, "altitude", t.Altitude, quantity.ParseMetres),
		1,
		9000,
		"An altitude lies below 9000 m.",
	)
	r.within(
		"weight",
		read(r, "weight", t.Weight, quantity.ParseKilograms),
		0.5,
		5000,
		"A weight lies between half a kilogram and 5000.",
	)
	r.within("year", read(r, "year", t.Year, quantity.ParseNumber), 1900, 2100, "A year has four figures.")
	class := strings.ToUpper(strings.TrimSpace(t.Insulation))
	for _, word := range []string{"CLASS", "CL."} {
		class = strings.TrimSpace(strings.TrimPrefix(class, word))
	}
	r.letter("insulation", class, "ABEFHN", "An insulation class is A, B, E, F, H or N.")
}

// rest is the rest of a plate that was read from text, as it would be typed.
func (p *Sheet) rest() Rest {
	figure := func(v *float64, unit string) string {
		if v == nil {
			return ""
		}
		return strings.TrimSpace(quantity.Figures(*v, 4) + " " + unit)
	}
	text := func(v *string) string {
		if v == nil {
			return ""
		}
		return *v
	}
	r := Rest{
		Insulation: text(p.InsulationClass),
		Rise:       figure(p.TemperatureRise, ""),
		Ambient:    figure(p.AmbientCelsius, ""),
		Altitude:   figure(p.AltitudeMetre, "m"),
		Duty: text(
			p.Duty,
		),
		Enclosure: text(p.Enclosure),
		IP:        text(p.IP),
		Frame:     text(p.Frame),
		Cooling:   text(p.Cooling),
		Bearings:  text(p.Bearings),
		PartLoad:  text(p.PartLoad),
		Weight:    figure(p.WeightKilogram, "kg"),
	}
	if p.Year != nil {
		r.Year = fmt.Sprint(*p.Year)
	}
	var amps []string
	for _, rating := range p.Ratings {
		if rating.ServiceFactorAmps != nil {
			amps = append(amps, quantity.Figures(*rating.ServiceFactorAmps, 3))
		}
	}
	r.FactorAmps = strings.Join(amps, "/")
	return r
}

// warm reads an ambient; freezing is as far outside of its range as a little below, where nought is not typed at all.
func warm(text string) (celsius float64, err error) {
	if celsius, err = quantity.ParseCelsius(text); celsius == 0 {
		celsius = -1
	}
	return celsius, err
}
