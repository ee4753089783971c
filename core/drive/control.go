package drive

import (
	"fmt"
	"slices"
)

// Existing is what a machine has for controls: Switch is "two-wire" (a switch that stays
// where it is put), "three-wire" (start and stop buttons), "drum" (forward, off,
// reverse), or "" where nobody has looked.
type Existing struct {
	Switch     string
	Reversing  bool
	Interlocks int
	Brake      bool
}

// TurnsRound says whether the machine is made to turn both ways: a drum switch reverses too.
func (e Existing) TurnsRound() bool { return e.Reversing || e.Switch == "drum" }

// Switches are the kinds of switch, for people.
var Switches = []struct{ Name, Title string }{
	{"two-wire", "Switch that stays"},
	{"three-wire", "Start and stop buttons"},
	{"drum", "Drum switch"},
}

// Control is what becomes of a piece of the machine's controls on a drive. Input is the
// low-voltage input it goes to, "" for none.
type Control struct {
	Has     string `json:"has"`
	Becomes string `json:"becomes"`
	Input   string `json:"input"`
	Opens   bool   `json:"opens"` // its contact opens, so that a broken wire stops too
}

// Controls maps a machine's controls to the inputs of a drive.
func Controls(e Existing) []Control {
	list := []Control{}
	add := func(has, input, becomes string) {
		stops := slices.Contains([]string{"stop", "safe torque off", "enable"}, input)
		list = append(list, Control{has, becomes, input, stops})
	}
	switch e.Switch {
	case "three-wire":
		add("Start button", "run, by an edge", "its normally open contact alone, low volts; the drive holds the run")
		add("Stop button", "stop", "its normally closed contact, so that a broken wire stops too")
	case "drum":
		add("Drum switch, forward", "run forward", "one contact, low volts; motor current no longer passes it")
		add("Drum switch, reverse", "run reverse", "another contact; the drive ramps down before it turns round")
	default:
		add(
			"Start switch",
			"run forward",
			"one contact, low volts: closed runs, open stops; set that it must be opened and closed again after a "+
				"loss of power",
		)
	}
	if e.Reversing && e.Switch != "drum" {
		add("Reversing switch", "run reverse", "a contact; its power contacts are taken out of the motor’s lines")
	}
	add(
		"Emergency stop",
		"safe torque off",
		"two normally closed contacts to both its channels, the bridges taken out; a drive without one has a safety "+
			"relay that opens a line contactor. A plain enable is no emergency stop (IEC 60204-1, 9.2; ISO 13850)",
	)
	if e.Interlocks > 0 {
		add(
			fmt.Sprintf("Interlocks, %d", e.Interlocks),
			"safe torque off",
			"guard and limit switches in the same series; what may only stop, not start, goes to the stop",
		)
	}
	add(
		"Main contactor",
		"",
		"on the line side, for isolation only; never to start and stop, and none between drive and motor",
	)
	add(
		"Isolator at the machine",
		"enable",
		"where the code wants one between drive and motor: with an early-break contact, so that the drive is off "+
			"before it opens",
	)
	if e.Brake {
		add(
			"Brake",
			"",
			"its coil on a feed of its own, never on the drive’s output, switched by the drive’s running contact: "+
				"released when it runs, closed when it has ramped down",
		)
	}
	add(
		"Lamps, coils, coolant pump",
		"",
		"from the two lines ahead of the drive, by a control transformer where they want other volts",
	)
	return list
}

// ChangeOver is the checklist for a drive that is changed over from the lower volts to
// the higher of a supply with both. Amps are those at its load on the lower.
func ChangeOver(lower, higher, amps float64) []string {
	return []string{
		"Dead, locked, proved, and the bus discharged and measured before a link is moved.",
		fmt.Sprintf(
			"Its label lists %.0f V, and its selector or link is moved to it; many small drives have none and must "+
				"not be.",
			higher,
		),
		fmt.Sprintf(
			"Fed from both lines by a two-pole breaker: at its load about %.1f A at %.0f V where it took %.1f A at "+
				"%.0f V; conductors for 125 percent of its rated input amps.",
			amps*lower/higher,
			higher,
			amps,
			lower,
		),
		fmt.Sprintf(
			"Cord and plug for %.0f V, which fit no %.0f V receptacle; the old plug is cut off, not adapted.",
			higher,
			lower,
		),
		"No neutral to the drive; the bond stays.",
		"Motor volts set anew, and the motor joined for them.",
		"The change is written on drive, plug and sheet.",
	}
}
