package feed

import (
	"slices"

	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
)

// Value is a size of an outline by its name, 0 where it has none.
func (o *Outline) Value(name string) float64 {
	for _, s := range o.Sizes {
		if s.Name == name {
			return s.Value
		}
	}
	return 0
}

// Draft begins the circuit of a way: on the shop's supply, its power wires as its circuit has them; and
// the amps of its breaker, 0 where that is not known.
func Draft(q *Question, w Way, o *Outline, how circuit.Choices) (d *circuit.Draft, breaker float64) {
	region := circuit.UK
	if quantity.SixtyHertz(q.Supply.Hertz) {
		region = circuit.US
	}
	size := ""
	if c, ok := CircuitOf(q, o); ok {
		breaker = c.Breaker
		if c.Sized {
			size = c.Run.Size
		}
	}
	return circuit.NewDraft(region, w.Info().Title+", "+q.Title, q.Supply.Volts, how, size), breaker
}

// ThreePole is a contactor with the overload behind it, three poles, for a motor of amps with a coil of
// volts; more are auxiliary contacts beside 13-14, by their marks.
func ThreePole(d *circuit.Draft, name string, amps, coil float64, more string) (contactor, overload string) {
	contactor = d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: name, Amps: amps, CoilVolts: coil},
		"1 2 3 4 5 6 A1 A2 13 14 "+more)
	overload = d.Add("F", circuit.Part{Kind: circuit.Overload, Name: "overload of " + name, Amps: amps},
		"1 2 3 4 5 6 95 96")
	for _, pole := range [][2]string{{":2", ":1"}, {":4", ":3"}, {":6", ":5"}} {
		class := circuit.Power
		if pole[0] == ":6" {
			class = circuit.Made
		}
		d.Wire(class, contactor+pole[0], overload+pole[1])
	}
	return contactor, overload
}

// TwoPole is a contactor in both lines with the overload behind it, for a motor of amps; more are terminals of
// the overload's third pole, where a lead runs through it.
func TwoPole(
	d *circuit.Draft, lines circuit.Lines, amps, coil float64, more string,
) (contactor, overload string) {
	contactor = d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: "main", Amps: amps, CoilVolts: coil},
		"1 2 3 4 A1 A2 13 14")
	overload = d.Add("F", circuit.Part{Kind: circuit.Overload, Name: "overload", Amps: amps}, "1 2 3 4 "+more+"95 96")
	d.Wire(circuit.Power, lines.A, contactor+":1")
	d.Wire(circuit.Power, lines.B, contactor+":3")
	d.Wire(circuit.Power, contactor+":2", overload+":1")
	d.Wire(circuit.Power, contactor+":4", overload+":3")
	return contactor, overload
}

// ToMotor joins an overload of three poles to a motor.
func ToMotor(d *circuit.Draft, overload, motor string) {
	d.Wire(circuit.Power, overload+":2", motor+":U")
	d.Wire(circuit.Power, overload+":4", motor+":V")
	d.Wire(circuit.Made, overload+":6", motor+":W")
}

// Wirings are the choices that make a difference to the circuit of a way.
func Wirings(w Way) (list []circuit.Choice) {
	names, without := []string{"start", "stop", "control", "stations", "backup", "lamp"}, []string{}
	info := w.Info()
	switch {
	case info.TurnsSpeed:
		names = []string{"command", "safe", "stop", "stations", "brake"}
	case info.FeedsMore:
		without = []string{circuit.ByButton}
	case info.OwnVolts: // a motor that starts by itself
		names = names[1 : len(names)-2]
	default:
		without = []string{circuit.ByPony, circuit.ByBox}
	}
	for _, c := range circuit.ChoiceList {
		if slices.Contains(names, c.Name) {
			c.Options = slices.DeleteFunc(
				slices.Clone(c.Options),
				func(o string) bool { return slices.Contains(without, o) },
			)
			list = append(list, c)
		}
	}
	return list
}
