// Package controls is what a machine has of its own controls, as they are written down at the open cabinet: terminal by
// terminal, and what becomes of each on the way by which the machine is fed.
package controls

import (
	"fmt"
	"slices"

	"brackmoor/core/rule"
)

// Terminal is one terminal of a machine's own controls, or a part that hangs on it.
type Terminal struct {
	Mark     string  `json:"mark" maxLength:"40"`               // of the terminal
	Wire     string  `json:"wire,omitempty" maxLength:"40"`     // the mark on its wire
	To       string  `json:"to,omitempty" maxLength:"80"`       // what it goes to
	Function string  `json:"function,omitempty" maxLength:"20"` // one of Functions, "" for not known yet
	Volts    float64 `json:"volts,omitempty" minimum:"0" maximum:"1000"`
	Photo    string  `json:"photo,omitempty" maxLength:"64"` // of the motor's photos, by its id
	Fate     string  `json:"fate,omitempty" enum:",keep,bypass,reuse"`
}

// What is done with a terminal.
const (
	Keep   = "keep"
	Bypass = "bypass"
	Reuse  = "reuse"
)

// Function is what a terminal or part is for.
type Function struct {
	Name   string  `json:"name"`
	Title  string  `json:"title"`
	Drive  string  `json:"-"` // what it becomes on a drive
	Usual  string  `json:"-"` // its fate on a drive
	Lines  string  `json:"-"` // what it is where the machine has three lines of its own
	Inputs []Input `json:"-"` // of a drive that it takes
}

// Input is what an input of a drive is used for by it.
type Input struct{ Terminal, Does string }

// Functions are those that there are. A machine's operating switches become inputs of a drive, at its low volts; on
// three lines they stay as they are.
var Functions = []Function{
	{"start", "Start button", "an input at low volts: a contact that closes, held by the drive in three-wire", Reuse,
		"stays in its contactor’s line", []Input{{"di1", "run"}}},
	{"stop", "Stop button", "an input at low volts: a contact that opens", Reuse, "stays in its contactor’s line",
		[]Input{{"di2", "stop"}}},
	{"emergency", "Emergency stop", "its two contacts into safe torque off or the enable, no input among others", Reuse,
		"stays first in the line of every coil", []Input{{"enable", "enable"}}},
	{"drum", "Forward-off-reverse switch", "two inputs and the common: its power contacts are taken out, its way of " +
		"working stays", Reuse, "stays; with a start capacitor turned only from standstill",
		[]Input{{"di1", "forward"}, {"di2", "reverse"}}},
	{"guard", "Guard or limit switch", "in series into the enable: a contact that opens", Reuse,
		"stays in its contactor’s line", []Input{{"enable", "enable"}}},
	{
		"contactor",
		"Contactor between supply and motor",
		"is taken out of the motor’s leads: nothing switches behind a " +
			"drive",
		Bypass,
		"stays; its coil between the two supply lines, never on the made leg",
		nil,
	},
	{"overload", "Overload relay", "is taken out for one motor, its duty goes to the drive; with several each keeps " +
		"one, its contact into the enable", Bypass, "stays, set to plate amps as the motor is joined now", nil},
	{"speed", "Two-speed or star-delta switch", "is bridged: the motor stays joined for one speed", Bypass,
		"stays, where each of its windings suits the lines", nil},
	{"coil", "Coil of a brake or clutch", "goes by an output of the drive that closes as it runs, fed at its own volts",
		Reuse, "stays; its volts from the two supply lines", nil},
	{"lamp", "Lamp", "by an output of the drive, or left dark", Keep, "stays; between the two supply lines", nil},
	{"transformer", "Control transformer", "stays for lamps and coils, fed ahead of the drive", Keep,
		"its primary between the two supply lines, its tap for their volts", nil},
	{"electronics", "Readout or electronics", "fed ahead of the drive", Keep,
		"fed from the two supply lines, never the made leg", nil},
	{"coolant", "Coolant pump or other motor", "a drive or a starter of its own", Keep, "stays behind its own overload",
		nil},
}

// functionOf is a function by its name; ok is false for none.
func functionOf(name string) (f Function, ok bool) {
	i := slices.IndexFunc(Functions, func(f Function) bool { return f.Name == name })
	if i < 0 {
		return f, false
	}
	return Functions[i], true
}

// Becomes is what becomes of a terminal: its usual fate where none was chosen, in words, and the hours that it takes.
type Becomes struct {
	Mark    string   `json:"mark"`
	Fate    string   `json:"fate"`
	Says    string   `json:"says"`
	Hours   float64  `json:"hours"`
	Inputs  []string `json:"inputs" nullable:"false"` // of a drive that it takes
	Caution string   `json:"caution"`
}

// Hours that a terminal takes by its fate, to be traced and marked, bridged, or wired anew (shop practice).
var hours = map[string]float64{Keep: 0.1, Bypass: 0.25, Reuse: 0.5}

// lowVolts is what a drive's inputs bear at most.
const lowVolts = 30

// On is what a machine is fed by: a drive or three lines. Mark is what a terminal of the drive is marked with, by our
// name; Stop is where its emergency stop comes to, in words.
type On struct {
	Driven bool
	Stop   string
	Mark   func(terminal string) string
}

// Plan says what becomes of each terminal.
func Plan(list []Terminal, on On) []Becomes {
	driven := on.Driven
	out := []Becomes{}
	for _, t := range list {
		b := Becomes{Mark: t.Mark, Fate: t.Fate, Inputs: []string{}}
		f, known := functionOf(t.Function)
		switch {
		case !known:
			b.Says, b.Fate = "What it is for is not known: trace it before anything is cut.", t.Fate
			b.Hours = hours[Bypass]
			out = append(out, b)
			continue
		case driven:
			b.Says = f.Drive
			if b.Fate == "" {
				b.Fate = f.Usual
			}
		default:
			b.Says = f.Lines
			if b.Fate == "" {
				b.Fate = Keep
			}
		}
		b.Hours = hours[b.Fate]
		if driven && b.Fate == Reuse {
			for _, i := range f.Inputs {
				at := on.Mark(i.Terminal)
				if t.Function == "emergency" && on.Stop != "" {
					at = on.Stop
				}
				b.Inputs = append(b.Inputs, fmt.Sprintf("%s: %s", at, i.Does))
			}
			if f.Inputs != nil && t.Volts > lowVolts {
				b.Caution = fmt.Sprintf(
					"It carries %.0f V now: off its old line at both ends before it comes to an input.",
					t.Volts,
				)
			}
		}
		if t.Function == "emergency" && b.Fate == Bypass {
			b.Caution = "An emergency stop is never bridged: another one takes its place first."
		}
		if driven && t.Function == "contactor" && b.Fate == Keep {
			b.Caution = "Behind a running drive its arc, or its closing, kills the drive: only ahead of the drive."
		}
		out = append(out, b)
	}
	return out
}

// Total are the hours of all of it.
func Total(list []Becomes) (sum float64) {
	for _, b := range list {
		sum += b.Hours
	}
	return sum
}

// Check says what is wrong with a list, by its own paths.
func Check(list []Terminal) (problems rule.Problems) {
	for i, t := range list {
		if _, ok := functionOf(t.Function); t.Function != "" && !ok {
			problems.Say(fmt.Sprintf("[%d].function", i), "there is no such function")
		}
	}
	return problems
}
