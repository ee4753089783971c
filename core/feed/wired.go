package feed

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/capacitor"
	"brackmoor/core/circuit"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
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
	if q.Fed.BreakerAmps > 0 {
		breaker = q.Fed.BreakerAmps
	}
	if q.Fed.Size != "" {
		size = q.Fed.Size
	}
	d = circuit.NewDraft(region, w.Info().Title+", "+q.Title, q.Supply.Volts, how, size)
	if len(q.Figures) > 0 { // of the shop's own, which whoever reads the circuit does not have
		d.Carry = q.Code().OfSize
	}
	return d, breaker
}

// RunBank is a bank of motor-run capacitors for a circuit, StartBank one of motor-start ones: from what is on hand
// first; with the question that has the rest of the stores.
func (q *Question) RunBank(microfarad float64, b capacitor.Bank) (own circuit.Bank, left *Question) {
	own = bank("run", microfarad, b)
	if left, ok := q.fromStores(&own, stock.Run, microfarad, b); ok {
		return own, left
	}
	for _, c := range b.Run {
		own.Cans = append(own.Cans, quantity.Figures(c, 3)+" µF")
	}
	return own, q
}

// StartBank is a bank of motor-start capacitors for a circuit.
func (q *Question) StartBank(microfarad float64, b capacitor.Bank) circuit.Bank {
	own := bank("start", microfarad, b)
	if _, ok := q.fromStores(&own, stock.Start, microfarad, b); ok {
		return own
	}
	for _, c := range b.Start {
		own.Cans = append(own.Cans, mark(c)+" µF")
	}
	return own
}

// relayFalls is at which share of its pick-up volts a potential relay falls.
var relayFalls = rule.Limit("start.relay-chatters", "falls_share")

// Leaving says when a start bank leaves: by a timer no sooner than its motor is up, and by volts at which a potential
// relay tells that speed; nil for what is not known.
func Leaving(b *circuit.Bank, up, timer, pickUp *float64) {
	const past = 1.1 // of the seconds until it is up
	if up != nil {
		b.Seconds = past * *up
	}
	if timer != nil {
		b.Seconds = max(b.Seconds, *timer)
	}
	b.Seconds = circuit.Settable(b.Seconds)
	if pickUp != nil {
		b.PickUp, b.DropOut = math.Floor(*pickUp), math.Floor(relayFalls**pickUp)
	}
}

// fromStores makes a bank up of what is on hand, where that comes near it.
func (q *Question) fromStores(
	own *circuit.Bank, kind string, microfarad float64, b capacitor.Bank,
) (left *Question, ok bool) {
	m, ok := q.OnHand(kind, microfarad, b)
	if !ok {
		return q, false
	}
	own.Microfarad = m.Microfarad
	for _, c := range m.Cans {
		own.Cans = append(own.Cans, canWord(c))
		own.OnHand = append(own.OnHand, c.Item.ID)
	}
	return q.less(m), true
}

func bank(duty string, microfarad float64, b capacitor.Bank) circuit.Bank {
	own := circuit.Bank{Duty: duty, Microfarad: microfarad, Volts: b.Volts.Rated}
	for _, r := range b.Bleeds { // the most watts of the least ohms, one kind for all
		if own.Ohms == 0 || r.Ohms < own.Ohms {
			own.Ohms = r.Ohms
		}
		own.Watts = max(own.Watts, r.Watts)
	}
	return own
}

// Stepped is what lines are behind an autotransformer, where a machine stands behind one. The wires behind one that
// steps down carry more than those before it, and are sized for that.
func Stepped(d *circuit.Draft, q *Question, w Way, lines circuit.Lines) circuit.Lines {
	t := q.Stepped().Step
	if t == nil || w.Info().OwnVolts {
		return lines
	}
	lines = d.Step(fmt.Sprintf("%.0f to %.0f V, %s kVA", t.FromVolts, t.ToVolts, quantity.Figures(t.VA/1000, 3)), lines)
	if o := w.Outline(q); o != nil && q.Fed.Size == "" {
		c, _ := CircuitOf(q, o)
		run, _ := q.Code().Over(0, c.Carry/t.Ratio(), t.ToVolts, [2]float64{}, [2]float64{1, 1})
		if q.Code().OfSize(run.Size) > q.Code().OfSize(c.Run.Size) {
			d.Sized(run.Size)
		}
	}
	return lines
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

// TwoPole is a contactor in both lines with the overload behind it, for a motor of amps with a coil of volts; aux are
// auxiliary contacts beside 13-14, and third the terminals of the overload's third pole, where a lead runs through it.
func TwoPole(
	d *circuit.Draft, name string, lines circuit.Lines, amps, coil float64, aux, third string,
) (contactor, overload string) {
	contactor = d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: name, Amps: amps, CoilVolts: coil},
		"1 2 3 4 A1 A2 13 14 "+aux)
	overload = d.Add("F", circuit.Part{Kind: circuit.Overload, Name: "overload of " + name, Amps: amps},
		"1 2 3 4 "+third+" 95 96")
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

// Wirings are the choices that make a difference to the circuit of a way, as it is wired.
func Wirings(w Way, how circuit.Choices) (list []circuit.Choice) {
	names, without := []string{"start", "stop", "control", "stations", "backup", "lamp"}, []string{}
	info := w.Info()
	switch {
	case info.TurnsSpeed:
		names = []string{"command", "speed", "safe", "stop", "stations", "between", "brake", "lamp"}
		if own := how.Filled(); own.Safe != circuit.SafeEnable && own.Stop != circuit.StopButton {
			names = append(names, "relay")
		}
	case info.FeedsMore:
		without = []string{circuit.ByButton}
	case info.OwnVolts: // a motor that starts by itself
		names = names[1 : len(names)-2] // without what a start part wants
	default:
		without = []string{circuit.ByPony, circuit.ByBox}
	}
	switch how.Filled().Start {
	case circuit.ByRelay,
		circuit.BySwitch,
		circuit.ByPony,
		circuit.ByBox: // no start contactor that a backup could stand behind
		names = slices.DeleteFunc(names, func(n string) bool { return n == "backup" })
	}
	if how.Start == circuit.ByPony && info.FeedsMore {
		names = append(names, "gap")
	}
	names = append(names, "place", "away", "temporary")
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
