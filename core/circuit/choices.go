package circuit

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Choices are what somebody chose of a circuit; what is empty is the usual.
type Choices struct {
	// Start is by what a start capacitor leaves, or an idler comes up, and Stop what stops beside the button.
	Start string `json:"start,omitempty" enum:",timer,potential-relay,centrifugal,button,pony,box"`
	Stop  string `json:"stop,omitempty" enum:",emergency,button,guard"`
	// Command is by what a drive is told to run, Safe by what an emergency stop takes its output.
	// Speed is what turns its speed. Relay is a safety relay between what stops it and its output; Between an isolator
	// between drive and motor.
	Command  string  `json:"command,omitempty" enum:",three-wire,two-wire,drum"`
	Safe     string  `json:"safe,omitempty" enum:",enable,sto,contactor"`
	Speed    string  `json:"speed,omitempty" enum:",potentiometer,presets,keypad"`
	Relay    bool    `json:"relay,omitempty"`
	Between  bool    `json:"between,omitempty"`
	Control  float64 `json:"control,omitempty" minimum:"0" maximum:"480"` // volts of the coils, 0 for those of the lines
	Stations int     `json:"stations,omitempty" minimum:"0" maximum:"4"`  // with start and stop, 0 for one
	Backup   bool    `json:"backup,omitempty"`                            // against a start contact that welds
	Gap      bool    `json:"gap,omitempty"`                               // a pony is off before the idler's lines close
	Lamp     bool    `json:"lamp,omitempty"`
	Brake    bool    `json:"brake,omitempty"` // a resistor on a drive
	// Place is what is in the air where its box hangs, and Away how many metres it is to the motor, 0 for a usual run.
	// Temporary is a hook-up for a test bench.
	Place     string  `json:"place,omitempty" enum:",dusty,dry,coolant,outside"`
	Away      float64 `json:"away,omitempty" minimum:"0" maximum:"200"`
	Temporary bool    `json:"temporary,omitempty"`
	// Apart are sets of other machines by their names: while all of one run, this one is kept from running.
	Apart [][]string `json:"apart,omitempty" maxItems:"12"`
}

// Where a box hangs.
const (
	Dusty   = "dusty"
	Dry     = "dry"
	Coolant = "coolant"
	Outside = "outside"
)

// The choices of starting.
const (
	ByTimer  = "timer"
	ByRelay  = "potential-relay"
	BySwitch = "centrifugal"
	ByButton = "button"
	ByPony   = "pony"
	ByBox    = "box"
)

// The choices of stopping.
const (
	StopButton    = "button"
	StopEmergency = "emergency"
	StopGuard     = "guard"
)

// The choices of commanding a drive, and of taking its output.
const (
	TwoWire   = "two-wire"
	ThreeWire = "three-wire"
	Drum      = "drum"

	SafeEnable    = "enable"
	SafeTorqueOff = "sto"
	SafeContactor = "contactor"

	ByPotentiometer = "potentiometer"
	ByPresets       = "presets"
	ByKeypad        = "keypad"
)

// Choice is one of them for people, with what it may be; the first is the usual. Without options it is a
// yes or no, or a number from Least to Most, 0 for the usual.
type Choice struct {
	Name    string   `json:"name"`
	Title   string   `json:"title"`
	Options []string `json:"options" nullable:"false"`
	Words   []string `json:"words" nullable:"false"` // of the options
	Least   float64  `json:"least"`
	Most    float64  `json:"most"`
	Unit    string   `json:"unit"`
}

// ChoiceList lists the choices that there are.
var ChoiceList = []Choice{
	{
		Name:    "start",
		Title:   "Start part leaves by",
		Options: []string{ByTimer, ByRelay, BySwitch, ByButton, ByPony, ByBox},
		Words: []string{
			"a timer",
			"a potential relay",
			"a centrifugal switch on its shaft",
			"the start button, let go",
			"none: a pony motor",
			"a packaged box",
		},
	},
	{Name: "stop", Title: "Beside the stop button", Options: []string{StopEmergency, StopButton, StopGuard},
		Words: []string{"an emergency stop", "nothing", "a guard switch"}},
	{Name: "command", Title: "It is told to run by", Options: []string{ThreeWire, TwoWire, Drum},
		Words: []string{"start and stop buttons", "a switch", "forward, off, reverse"}},
	{Name: "safe", Title: "Its output is taken by", Options: []string{SafeEnable, SafeTorqueOff, SafeContactor},
		Words: []string{"its enable", "safe torque off", "a contactor before it"}},
	{Name: "relay", Title: "By a safety relay, both channels", Options: []string{}, Words: []string{}},
	{Name: "speed", Title: "Its speed is turned by", Options: []string{ByPotentiometer, ByPresets, ByKeypad},
		Words: []string{"a potentiometer", "a switch for fixed speeds", "its own keypad"}},
	{Name: "between", Title: "Isolator between drive and motor", Options: []string{}, Words: []string{}},
	{
		Name:    "control",
		Title:   "Coils at other volts",
		Options: []string{},
		Words:   []string{},
		Least:   12,
		Most:    480,
		Unit:    "V",
	},
	{Name: "stations", Title: "Places to start and stop it", Options: []string{}, Words: []string{}, Least: 1,
		Most: mostStations},
	{Name: "backup", Title: "Backup behind the start contact", Options: []string{}, Words: []string{}},
	{Name: "gap", Title: "Pony off before the lines close", Options: []string{}, Words: []string{}},
	{Name: "lamp", Title: "Lamp while it runs", Options: []string{}, Words: []string{}},
	{Name: "brake", Title: "Brake resistor", Options: []string{}, Words: []string{}},
	{Name: "place", Title: "Its box hangs in", Options: []string{Dusty, Dry, Coolant, Outside},
		Words: []string{"dust and chips", "dry, clean air", "coolant and splashes", "the open, rain"}},
	{
		Name:    "away",
		Title:   "From the box to the motor",
		Options: []string{},
		Words:   []string{},
		Most:    mostAway,
		Unit:    "m",
	},
	{Name: "temporary", Title: "A hook-up for a test bench", Options: []string{}, Words: []string{}},
}

// mostAway is how far a motor is from its box at most, in metres.
const mostAway = 200

// mostStations is how many stations a circuit has at most.
const mostStations = 4

// Set makes one of them otherwise, by its name and a word.
func (c *Choices) Set(name, value string) error {
	if name == "apart" { // sets of names, as a motor keeps them
		c.Apart = nil
		for _, set := range strings.Split(value, ";") {
			c.Apart = append(c.Apart, strings.Split(set, "+"))
		}
		if says := c.Check(); says != "" {
			return errors.New(says)
		}
		return nil
	}
	i := slices.IndexFunc(ChoiceList, func(x Choice) bool { return x.Name == name })
	if i < 0 {
		return fmt.Errorf("there is no choice %q", name)
	}
	if options := ChoiceList[i].Options; len(options) > 0 && !slices.Contains(options, value) {
		return fmt.Errorf("%s is one of %s", name, strings.Join(options, ", "))
	}
	yes := value == "yes"
	switch name {
	case "start":
		c.Start = value
	case "stop":
		c.Stop = value
	case "command":
		c.Command = value
	case "safe":
		c.Safe = value
	case "speed":
		c.Speed = value
	case "control":
		volts, err := strconv.ParseFloat(value, 64)
		if err != nil || !(volts >= 12 && volts <= 480) {
			return fmt.Errorf("control is volts from 12 to 480")
		}
		c.Control = volts
	case "place":
		c.Place = value
	case "away":
		metre, err := strconv.ParseFloat(value, 64)
		if err != nil || !(metre >= 0 && metre <= mostAway) {
			return fmt.Errorf("away is metres up to %d", mostAway)
		}
		c.Away = metre
	case "stations":
		n, err := strconv.Atoi(value)
		if err != nil || n < 1 || n > mostStations {
			return fmt.Errorf("stations are 1 to %d", mostStations)
		}
		c.Stations = n
	default:
		if !yes && value != "no" {
			return fmt.Errorf("%s is yes or no", name)
		}
		*map[string]*bool{
			"backup": &c.Backup, "lamp": &c.Lamp, "brake": &c.Brake, "temporary": &c.Temporary,
			"relay": &c.Relay, "between": &c.Between, "gap": &c.Gap,
		}[name] = yes
	}
	return nil
}

// Limits of what is kept apart: sets, machines in one, letters of a name.
const (
	mostSets     = 12
	mostInASet   = 6
	mostOfAName  = 80
	leastOfAName = 1
)

// Check says what is wrong with choices that options do not hold; "" where nothing is.
func (c Choices) Check() string {
	for _, set := range c.Apart {
		if len(set) == 0 || len(set) > mostInASet {
			return fmt.Sprintf("Machines to be kept apart come in sets of 1 to %d.", mostInASet)
		}
		for _, name := range set {
			if n := utf8.RuneCountInString(name); n < leastOfAName || n > mostOfAName {
				return fmt.Sprintf("The name of a machine has 1 to %d letters.", mostOfAName)
			}
		}
	}
	if len(c.Apart) > mostSets {
		return fmt.Sprintf("At most %d sets are kept apart.", mostSets)
	}
	return ""
}

// Filled has the usual where nothing was chosen.
func (c Choices) Filled() Choices {
	for _, f := range []struct {
		to    *string
		usual string
	}{{&c.Start, ByTimer}, {&c.Stop, StopEmergency}, {&c.Command, ThreeWire}, {&c.Safe, SafeEnable},
		{&c.Speed, ByPotentiometer},
		{&c.Place, Dusty}} {
		if *f.to == "" {
			*f.to = f.usual
		}
	}
	c.Relay = c.Relay && c.Safe != SafeEnable && c.Stop != StopButton // it has two channels to watch
	c.Stations = max(c.Stations, 1)
	return c
}
