// Package lesson teaches what practitioners are most often told wrong, on a motor at hand: a few sentences, one thing
// to do, and one question whose answers are figures. The right one is worked out by the model of that motor, so that
// a lesson cannot say what the model does not.
package lesson

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/machine"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
)

// Lesson is one of them on a motor.
type Lesson struct {
	Name     string   `json:"name"`
	Title    string   `json:"title"`
	Says     []string `json:"says" nullable:"false" told:"figures"` // a sentence or a few each
	Do       string   `json:"do" told:"figures"`                    // one thing on the live model
	Step     string   `json:"step"`
	Question string   `json:"question" told:"figures"`
	Choices  []string `json:"choices" nullable:"false"`
	Right    int      `json:"right"`                  // of the choices
	Because  string   `json:"because" told:"figures"` // what the model of this motor comes to
}

// of makes a lesson on a motor; ok is false where it cannot be taught on it.
type of func(m *machine.Machine, l *Lesson) (ok bool)

// lessons are those that there are, in their order.
var lessons = []struct {
	name, title, step string
	teach             of
}{
	{"amps-of-a-plate", "Watts over volts is not amps", "plate", ampsOfPlate},
	{"star-for-delta", "Star where delta is meant", "leads", starForDelta},
	{"high-volts", "Joined for twice the volts", "leads", highVolts},
	{"no-magnet", "No magnet makes the third leg", "size", noMagnet},
	{"shifts", "A capacitor shifts, it does not amplify", "size", shifts},
	{"idle-lies", "Idle legs say nothing of a load", "prove", idleLies},
	{"hottest-winding", "One winding is hot, the others are not", "size", hottestWinding},
	{"start-left-in", "The start capacitor left in", "size", startLeftIn},
	{"too-much-flux", "Too many volts, nothing to do", "plate", tooMuchFlux},
	{"too-few-volts", "Fewer volts, more amps", "plate", tooFewVolts},
	{"one-line-lost", "A line is lost while it runs", "wire", oneLineLost},
	{"discharge", "How long a can stays live", "wire", discharge},
	{"pony-early", "A pony joined early", "wire", ponyEarly},
	{"reversing", "Reversed at full speed", "wire", reversing},
	{"machine-first", "The machine before the converter", "wire", machineFirst},
	{"nine-leads", "Nine leads without marks", "leads", nineLeads},
	{"two-changes", "Two changes tell where to go", "prove", twoChanges},
	{"wrong-plate", "A plate that cannot be", "plate", wrongPlate},
	{"two-lines", "A drive on two lines", "route", twoLines},
	{"bus-ripple", "The bus between pulses", "size", busRipple},
	{"carrier", "Pulses, carrier and sound", "settings", carrier},
	{"ramp-trips", "The ramp that trips", "settings", rampTrips},
	{"slow-running", "Slow, without its fan", "settings", slowRunning},
}

// All are the lessons on a motor, those that can be taught on it.
func All(m *machine.Machine) (list []Lesson) {
	list = []Lesson{}
	for _, x := range lessons {
		l := Lesson{Name: x.name, Title: x.title, Step: x.step}
		if x.teach(m, &l) {
			list = append(list, l)
		}
	}
	return list
}

// asks puts figures to choose from, in the order of their size, of which one is right. Those that print alike as the
// right one are left out; ok is false where too few are left to choose from.
func (l *Lesson) asks(right float64, print func(float64) string, wrong ...float64) (ok bool) {
	is := print(right)
	all := []float64{right}
	seen := map[string]bool{is: true}
	for _, w := range wrong {
		if text := print(w); !seen[text] {
			seen[text] = true
			all = append(all, w)
		}
	}
	slices.Sort(all)
	for i, v := range all {
		l.Choices = append(l.Choices, print(v))
		if v == right {
			l.Right = i
		}
	}
	return len(all) >= 3
}

func percent(v float64) string { return fmt.Sprintf("%.0f %%", 100*v) }
func times(v float64) string   { return quantity.Figures(v, 2) + " ×" }
func amps(v float64) string    { return quantity.Figures(v, 2) + " A" }

// lines is the motor on three even lines of so many volts, at a slip or at a share of plate output.
func lines(m *machine.Machine, volts float64, slip *float64, share float64) (r network.Result, ok bool) {
	own := m.NetworkMotor("motor")
	own.Slip = slip
	if slip == nil {
		own.Load = &network.Load{Kind: "power", Watts: share * m.Watts()}
	}
	r, err := network.Solve(network.Case{
		Supply: network.Supply{Phases: 3, Volts: volts, Hertz: m.Plate.Hertz.Value}, Motors: []network.Motor{own},
	})
	return r, err == nil && (slip != nil || r.Motors[0].State == network.Running)
}

// alone is the motor on two lines alone, without a capacitor: at a slip, or idling for none.
func alone(m *machine.Machine, slip *float64) (r network.Result, ok bool) {
	own := m.NetworkMotor("motor")
	own.Slip = slip
	if slip == nil {
		own.Load = &network.Load{Kind: "power"}
	}
	r, err := network.Solve(network.Case{Supply: onePhase(m), Motors: []network.Motor{own}})
	return r, err == nil && (slip != nil || r.Motors[0].State == network.Running)
}

// onePhase is a stiff supply of the motor's plate volts.
func onePhase(m *machine.Machine) network.Supply {
	return network.Supply{Phases: 1, Volts: m.Plate.Volts.Value, Hertz: m.Plate.Hertz.Value, ResistanceOhm: 0.05}
}

// lonely is the motor on one phase with a capacitor of so many microfarads, at a share of plate output.
func lonely(m *machine.Machine, microfarad, share float64) (r network.Result, ok bool) {
	own := m.NetworkMotor("motor")
	own.Load = &network.Load{Kind: "power", Watts: share * m.Watts()}
	c := network.Case{Supply: onePhase(m), Motors: []network.Motor{own}}
	if microfarad > 0 {
		c.Capacitors = []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: microfarad}}
	}
	r, err := network.Solve(c)
	return r, err == nil && r.Motors[0].State == network.Running
}

// even is the capacitor that makes the legs least uneven at a share of plate output.
func even(m *machine.Machine, share float64) (microfarad float64, ok bool) {
	best := math.Inf(1)
	for c := 1.0; c < 400; c *= 1.06 {
		if r, runs := lonely(m, c, share); runs && r.UnbalancePercent < best {
			best, microfarad, ok = r.UnbalancePercent, c, true
		}
	}
	return microfarad, ok
}

// hottest is the highest winding of a motor alone in a result, in times of its plate.
func hottest(m *machine.Machine, r *network.Result) float64 {
	w := r.Motors[0].WindingAmps
	return max(w[0], w[1], w[2]) / m.WindingAmps()
}
