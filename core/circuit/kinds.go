package circuit

import (
	"strconv"
	"strings"
)

// Kind is a kind of part.
type Kind string

// The kinds of parts.
const (
	Isolator           Kind = "isolator"
	Breaker            Kind = "breaker"
	Fuse               Kind = "fuse"
	Contactor          Kind = "contactor"
	Overload           Kind = "overload"
	Relay              Kind = "relay"
	Timer              Kind = "timer"
	PotentialRelay     Kind = "potential-relay"
	PushButton         Kind = "push-button"
	EmergencyStop      Kind = "emergency-stop"
	Selector           Kind = "selector"
	GuardSwitch        Kind = "guard-switch"
	ControlTransformer Kind = "control-transformer"
	Transformer        Kind = "transformer" // ahead of a machine of other volts; its poles go through it
	Lamp               Kind = "lamp"
	Capacitor          Kind = "capacitor"
	Bleed              Kind = "bleed"
	Motor              Kind = "motor"
	SinglePhaseMotor   Kind = "single-phase-motor"
	Drive              Kind = "drive"
	StartBox           Kind = "start-box"
	Receptacle         Kind = "receptacle"
	Strip              Kind = "strip"
	BrakeResistor      Kind = "brake-resistor"
	SafetyRelay        Kind = "safety-relay"       // two channels and a reset that is watched
	Potentiometer      Kind = "potentiometer"      // its ends 1 and 3, its slider 2
	CentrifugalSwitch  Kind = "centrifugal-switch" // opens as its motor comes up
	Interlock          Kind = "interlock"          // a break contact of another machine's contactor
)

// marks are the terminals that a kind may have: words as they are, and by patterns, "pole" the main
// poles, "aux" the auxiliary contacts, "delayed" those of a timer, "any" whatever its maker marks, "n"
// numbers.
var marks = map[Kind][]string{
	Isolator:       {"pole", "aux"},
	Breaker:        {"pole", "aux"},
	Fuse:           {"1", "2"},
	Contactor:      {"pole", "aux", "A1", "A2"},
	Overload:       {"pole", "95", "96", "97", "98"},
	Relay:          {"aux", "A1", "A2"},
	Timer:          {"aux", "delayed", "A1", "A2"},
	PotentialRelay: {"1", "2", "5"},
	PushButton:     {"aux"},
	EmergencyStop:  {"aux"},
	Selector:       {"aux"},
	GuardSwitch:    {"aux"},
	ControlTransformer: {
		"H1",
		"H2",
		"X1",
		"X2",
	},
	Transformer:      {"1", "2", "3", "4", "PE"},
	Lamp:             {"X1", "X2"},
	Capacitor:        {"1", "2"},
	Bleed:            {"1", "2"},
	Motor:            {"U", "V", "W", "PE"},
	SinglePhaseMotor: {"1", "2", "PE"},
	Drive:            {"any"},
	StartBox:         {"1", "2", "3"},
	Receptacle:       {"any"},
	Strip:            {"n"},
	BrakeResistor:    {"1", "2", "95", "96", "PE"},
	SafetyRelay: {
		"aux", "A1", "A2", "S11", "S12", "S21", "S22", "S33", "S34",
	},
	Potentiometer:     {"1", "2", "3"},
	CentrifugalSwitch: {"1", "2"},
	Interlock:         {"aux"},
}

// mayHave says whether a kind may have a terminal of a mark.
func (k Kind) mayHave(mark string) bool {
	number, err := strconv.Atoi(mark)
	digits := err == nil && number > 0 && mark == strconv.Itoa(number)
	for _, m := range marks[k] {
		switch {
		case m == mark,
			m == "pole" && digits && number <= 8,
			m == "aux" && digits && number > 10 && number < 90 && number%10 >= 1 && number%10 <= 4,
			m == "delayed" && digits && number > 10 && number < 90 && number%10 >= 5 && number%10 <= 8,
			m == "n" && digits && number <= 200,
			m == "any" && mark != "" && !strings.ContainsAny(mark, ": "):
			return true
		}
	}
	return false
}

// Contact is a contact of a part: between two of its terminals, closed at rest or open; main is a pole
// of its power, delayed one that a timer moves late.
type Contact struct {
	From, To string
	Closed   bool // at rest
	Main     bool
	Delayed  bool
}

// Contacts are those of a part by the marks of its terminals: poles 1-2, 3-4, 5-6 and 7-8, and by the
// last digit of two 1-2 closed, 3-4 open, 5-6 closed and 5-8 open by a timer (EN 50005).
func (p *Part) Contacts() (list []Contact) {
	add := func(from, to string, c Contact) {
		if p.Has(from) && p.Has(to) {
			c.From, c.To = from, to
			list = append(list, c)
		}
	}
	switch p.Kind {
	case PotentialRelay, CentrifugalSwitch:
		add("1", "2", Contact{Closed: true})
		return list
	case Drive:
		add("r1", "r2", Contact{}) // of its relay, closed while it runs
		return list
	case Fuse:
		add("1", "2", Contact{Main: true})
		return list
	case BrakeResistor:
		add("95", "96", Contact{Closed: true})
		return list
	case Overload:
		add("95", "96", Contact{Closed: true})
		add("97", "98", Contact{})
	case Transformer:
		add("1", "2", Contact{Closed: true, Main: true})
		add("3", "4", Contact{Closed: true, Main: true})
		return list
	case Isolator, Breaker, Contactor:
	case Relay, Timer, PushButton, EmergencyStop, Selector, GuardSwitch, SafetyRelay, Interlock:
	default:
		return nil
	}
	if p.Kind == Isolator || p.Kind == Breaker || p.Kind == Contactor || p.Kind == Overload {
		for pole := 1; pole <= 7; pole += 2 {
			add(strconv.Itoa(pole), strconv.Itoa(pole+1), Contact{Main: true})
		}
	}
	for group := 1; group <= 8; group++ {
		mark := func(digit int) string { return strconv.Itoa(10*group + digit) }
		if p.Kind == Overload {
			break
		}
		add(mark(1), mark(2), Contact{Closed: true})
		add(mark(3), mark(4), Contact{})
		add(mark(5), mark(6), Contact{Closed: true, Delayed: true})
		add(mark(5), mark(8), Contact{Delayed: true})
		add(mark(7), mark(8), Contact{Delayed: true})
	}
	return list
}

// Coil is the pair of terminals of a part's coil or lamp; ok is false where it has none.
func (p *Part) Coil() (from, to string, ok bool) {
	switch p.Kind {
	case Contactor, Relay, Timer, SafetyRelay:
		return "A1", "A2", true
	case PotentialRelay:
		return "5", "2", true
	case Lamp:
		return "X1", "X2", true
	}
	return "", "", false
}

// Exposed says whether a part's case must be bonded.
func (p *Part) Exposed() bool {
	switch p.Kind {
	case Motor, SinglePhaseMotor, Drive, Receptacle, Transformer, BrakeResistor:
		return true
	}
	return false
}

// Lines are the terminals of a motor or a drive's input that power comes to.
func (p *Part) Lines() []string {
	switch p.Kind {
	case Motor:
		return []string{"U", "V", "W"}
	case SinglePhaseMotor:
		return []string{"1", "2"}
	case Drive:
		if !p.Has("L1") { // on a dc bus
			return []string{"dc+", "dc-"}
		}
		return []string{"L1", "L2"}
	}
	return nil
}
