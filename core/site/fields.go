package site

import (
	"fmt"
	"slices"

	"brackmoor/core/quantity"
	"brackmoor/core/supply"
)

// Field is a field of a form for one of a site's things: its name in the data, what it is called,
// and how it is filled in. Per is how many of its unit one of the data's is.
type Field struct {
	Name    string   `json:"name"`
	Title   string   `json:"title"`
	Kind    string   `json:"kind" enum:"text,number,choice,several,switch,place,side"`
	Unit    string   `json:"unit"`
	Per     float64  `json:"per"`
	Numeric bool     `json:"numeric"` // its choices are numbers
	Choices []Option `json:"choices" nullable:"false"`
	Hint    string   `json:"hint"`
	More    bool     `json:"more"` // folded away until it is asked for
	// When is what other fields of the thing must hold for this one to be asked; none for always.
	When []Condition `json:"when" nullable:"false"`
}

// Condition is that a field holds a value, the text of a number.
type Condition struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// Option is one of a field's choices.
type Option struct {
	Value string `json:"value"`
	Title string `json:"title"`
}

// The fields of a machine whose choices are its own motors.
const (
	FirstField = "first"
	ApartField = "apart"
)

// Forms are the fields of each kind of thing.
type Forms struct {
	Service   []Field `json:"service" nullable:"false"`
	Circuit   []Field `json:"circuit" nullable:"false"`
	Converter []Field `json:"converter" nullable:"false"`
	Machine   []Field `json:"machine" nullable:"false"`
	Load      []Field `json:"load" nullable:"false"`
}

// The kinds of field.
const (
	textField    = "text"
	numberField  = "number"
	choiceField  = "choice"
	severalField = "several" // of its choices
	switchField  = "switch"
	placeField   = "place" // what it hangs on
	sideField    = "side"  // of the change-over that it hangs on
)

func text(name, title string) Field { return Field{Name: name, Title: title, Kind: textField} }

func number(name, title, unit string, per float64) Field {
	return Field{Name: name, Title: title, Kind: numberField, Unit: unit, Per: per}
}

func flag(name, title, hint string) Field {
	return Field{Name: name, Title: title, Kind: switchField, Hint: hint}
}

func choice(name, title string, list ...Option) Field {
	return Field{Name: name, Title: title, Kind: choiceField, Choices: list}
}

// folded is a field that is folded away until it is asked for.
func folded(f Field) Field {
	f.More = true
	return f
}

// converterFields are those of a rotary converter and of a dc bus, with sizes of wire, in a unit of power
// that is so many watts.
func converterFields(place, side Field, sizes []Option, power string, watts float64, lines quantity.Lines) []Field {
	rotary := Condition{"kind", ""}
	of := func(f Field, when ...Condition) Field {
		f.When = when
		return f
	}
	starts := func(f Field, by string) Field { return of(f, rotary, Condition{"start_by", by}) }
	bus := func(f Field) Field { return of(f, Condition{"kind", BusKind}) }
	return []Field{
		text("name", "Name"),
		choice("kind", "It is", Option{"", "a rotary converter"}, Option{BusKind, "a dc bus for drives"}),
		place,
		side,
		of(Field{Name: "idler", Title: "Its idler", Kind: choiceField, Choices: []Option{{"", "a usual motor"}},
			Hint: "A machine with a plate of its own; its leads too."}, rotary),
		of(number("idler_watts", "Idler, where it has no plate", power, watts), rotary),
		of(number("balance_ac_microfarad", "Balance "+lines.To("a"), "µF", 1), rotary),
		of(number("balance_bc_microfarad", "Balance "+lines.To("b"), "µF", 1), rotary),
		of(number("start_microfarad", "Starts with, "+lines.To("a"), "µF", 1), rotary),
		of(choice("start_by", "Which leave by", Option{"", "a relay, as it is up"}, Option{ByTimer, "a timer"},
			Option{ByBox, "themselves, a packaged box"}, Option{ByPony, "none: a pony motor brings it up"}), rotary),
		starts(number("timer_s", "The timer is set to", "s", 1), ByTimer),
		starts(number("box_watts", "The box is for idlers to", power, watts), ByBox),
		starts(number("pony_watts", "Pony motor: output", power, watts), ByPony),
		starts(number("pony_rpm", "Pony motor: plate speed", "rpm", 1), ByPony),
		starts(number("pony_amps", "Pony motor: plate amps", "A", 1), ByPony),
		starts(number("pony_ratio", "Idler’s turns for one of its own", "", 1), ByPony),
		bus(number("choke_millihenry", "Choke in its link", "mH", 1)),
		bus(number("bus_microfarad", "Capacitance, drives’ own included", "µF", 1)),
		of(folded(number("ahead_volts", "Transformer ahead of it, to", "V", 1)), rotary),
		of(folded(number("ahead_kva", "Its size", "kVA", 1)), rotary),
		of(folded(number("ahead_percent", "Its impedance", "%", 1)), rotary),
		of(folded(number("run_up_s", "It was up in, by the stopwatch", "s", 1)), rotary),
		folded(number("label.output_watts", "Label: all motors", power, watts)),
		folded(number("label.output_amps", "Label: all motors’ amps", "A", 1)),
		folded(number("label.output_kva", "Label: output", "kVA", 1)),
		folded(number("label.motor_watts", "Label: largest motor", power, watts)),
		folded(number("label.input_amps", "Label: takes at most", "A", 1)),
		folded(number("label.breaker_amps", "Manual: breaker at most", "A", 1)),
		folded(choice("label.wire", "Manual: wire at least", sizes...)),
		of(folded(number("label.regulation_percent", "Label: volts hold within", "%", 1)), rotary),
		of(folded(number("label.from_amps", "Box: for motors from", "A", 1)), rotary),
		of(folded(number("label.to_amps", "Box: to", "A", 1)), rotary),
	}
}

// FormsFor are the forms on a supply.
func FormsFor(su supply.Supply) Forms {
	hertz, lines := su.Hertz, quantity.LinesAt(su.Hertz)
	sixty := quantity.SixtyHertz(hertz)
	unit, per := quantity.RunUnit(hertz)
	power, watts := "kW", 0.001
	if sixty {
		power, watts = "hp", 1/quantity.WattsPerHorsepower
	}
	place := Field{Name: "on", Title: "Hangs on", Kind: placeField}
	side := Field{Name: "side", Title: "Side of the change-over", Kind: sideField,
		Choices: []Option{{"", "neither"}, {SideA, "A"}, {SideB, "B"}}}
	devices := []Option{{"", supply.Devices(hertz)[0].Title}}
	for _, d := range supply.Devices(hertz)[1:] {
		devices = append(devices, Option{d.Name, d.Title})
	}
	sizes := []Option{{"", "not looked at"}}
	for _, size := range supply.Sizes(hertz) {
		sizes = append(sizes, Option{size, size})
	}
	outlets := func(phases int) []Option {
		list := []Option{{"", "fixed"}}
		for _, r := range supply.Receptacles(hertz) {
			if r.Phases == phases {
				list = append(list, Option{r.Name, r.Title})
			}
		}
		return list
	}
	insulations := []Option{}
	for _, celsius := range supply.Insulations(hertz) {
		insulations = append(insulations, Option{fmt.Sprint(celsius), fmt.Sprintf("%d °C", celsius)})
	}
	usual := "90 °C"
	if !sixty {
		usual = "70 °C"
	}
	insulation := choice(
		"insulation_celsius",
		"Insulation",
		append([]Option{{"0", "usual, " + usual}}, insulations...)...)
	insulation.Numeric = true
	circuit := []Field{
		text(
			"name",
			"Name",
		),
		{Name: "from", Title: "Comes from", Kind: placeField},
		number("breaker_amps", "Breaker or fuse", "A", 1),
		choice(
			"device",
			"Its kind",
			devices...),
		choice("size", "Conductors", sizes...),
		number("metre", "Length, one way", unit, per),
		choice("outlet", "Ends in", outlets(1)...),
		flag("panel", "It ends in a panel", "Further circuits come from there."),
		flag("change_over", "With a change-over switch, A and B", "Two uses share it, never both."),
		number("spaces", "Spaces in its panel", "poles", 1),
		folded(choice("material", "Material", Option{"", "copper"}, Option{supply.Aluminium, "aluminium"})),
		folded(insulation),
	}
	if list := supply.Methods(hertz); list != nil {
		laid := choice("method", "Laid", Option{"", "B1, conduit on a wall"})
		for _, m := range list {
			laid.Choices = append(laid.Choices, Option{m, m + ", " + methodTitles[m]})
		}
		circuit = append(circuit, folded(laid))
	}
	circuit = append(
		circuit,
		folded(
			number("grouped", "Circuits lying together", "", 1),
		),
		folded(number("air_celsius", "Air around it", "°C", 1)),
		folded(
			choice(
				"residual",
				"Residual-current device",
				Option{"", "none"},
				Option{"AC", "type AC"},
				Option{"A", "type A"},
				Option{"F", "type F"},
				Option{"B", "type B"},
			),
		),
		folded(
			number("residual_milliampere", "It opens at", "mA", 1),
		),
		folded(number("poles", "Poles it takes", "", 1)),
	)
	if sixty {
		circuit = append(
			circuit,
			folded(flag("cord", "It is a flexible cord", "By the table of cords.")),
			folded(flag("slash", "Rated 120/240 V", "Not for the made leg.")),
		)
	}
	between := []Option{
		{"", "the two lines"}, {"three", "all three lines"}, {"bc", lines.B + " and the made leg"},
		{"ac", lines.A + " and the made leg"},
	}
	if _, _, legged := su.Legs(); legged {
		between = append(between, Option{LineA, lines.A + " and the neutral"},
			Option{LineB, lines.B + " and the neutral"})
	}
	kinds := []Option{}
	for _, k := range LoadKinds {
		kinds = append(kinds, Option{k.Name, k.Title})
	}
	machine := []Field{
		place,
		side,
		choice("outlet", "Plugged in by", outlets(3)...),
		number("overload_amps", "Overload set to", "A", 1),
		folded(
			number("breaker_amps", "Its own breaker, three-pole", "A", 1),
		),
		folded(choice("device", "Its kind", devices...)),
		folded(choice(FirstField, "Starts first", Option{"", "all at once"})),
		folded(Field{Name: ApartField, Title: "With a switch of their own", Kind: severalField,
			Hint: "The machine’s switch leaves them as they are."}),
	}
	if sixty {
		machine = append(machine, folded(flag("slash", "Rated 120/240 V", "Not for the made leg.")))
	}
	forms := Forms{
		Service:   []Field{number("spaces", "Spaces in its panel", "poles", 1)},
		Circuit:   circuit,
		Converter: converterFields(place, side, sizes, power, watts, lines),
		Machine:   machine,
		Load: []Field{
			text("name", "Name"), place, side, choice("kind", "Kind", kinds...), number("amps", "Takes", "A", 1),
			flag("always", "It is on whatever runs", ""),
			folded(choice("between", "Between", between...)),
		},
	}
	for _, list := range [][]Field{forms.Service, forms.Circuit, forms.Converter, forms.Machine, forms.Load} {
		for i := range list {
			if list[i].Choices == nil {
				list[i].Choices = []Option{}
			}
			if list[i].When == nil {
				list[i].When = []Condition{}
			}
		}
	}
	return forms
}

// Places are what each kind of thing may hang on.
type Places struct {
	Circuit   []Option `json:"circuit" nullable:"false"`
	Converter []Option `json:"converter" nullable:"false"`
	Machine   []Option `json:"machine" nullable:"false"`
	Load      []Option `json:"load" nullable:"false"`
}

// Places lists them: a circuit comes from a panel, a converter hangs on a circuit that ends in none,
// machines and loads there or on a converter.
func (s *Site) Places() Places {
	service := Option{"", "the service’s panel"}
	p := Places{Circuit: []Option{service}, Converter: []Option{service}}
	for _, c := range s.Circuits {
		if c.Panel {
			p.Circuit = append(p.Circuit, Option{c.ID, c.Name})
		} else {
			p.Converter = append(p.Converter, Option{c.ID, c.Name})
		}
	}
	p.Machine = slices.Clone(p.Converter)
	for _, c := range s.Converters {
		p.Machine = append(p.Machine, Option{c.ID, c.Name})
	}
	p.Load = p.Machine
	return p
}

// methodTitles are the ways of laying in words: IEC 60364-5-52, table B.52.1.
var methodTitles = map[string]string{
	"A1": "wires in conduit in an insulated wall", "A2": "cable in conduit in an insulated wall",
	"B1": "wires in conduit on a wall", "B2": "cable in conduit on a wall", "C": "clipped to a wall",
}
