// Package circuit is a power and control circuit as data: parts with their terminals by standard
// marks (EN 50005, IEC 60947), and the wires that join them.
package circuit

import (
	"fmt"
	"slices"
	"strings"
)

// Format is the name of the open format of circuits.
const Format = "brackmoor.circuit/1"

// Circuit is a circuit. Volts are those between the two lines of its supply, 0 for the usual of its
// region.
type Circuit struct {
	Format  string   `json:"format"`
	Region  string   `json:"region"`
	Title   string   `json:"title"`
	Volts   float64  `json:"volts,omitempty"`
	Sources []Source `json:"sources" nullable:"false"`
	Parts   []Part   `json:"parts" nullable:"false"`
	Wires   []Wire   `json:"wires" nullable:"false"`
}

// The regions: where both lines are live, and where one of them is a neutral.
const (
	US = "us"
	UK = "uk"
)

// Source is a conductor of the supply: L1, L2, N or PE in the US, L, N or PE in the UK.
type Source struct {
	ID string `json:"id"`
}

// Part is a part with its terminals. What a kind has no use for is left out.
type Part struct {
	ID        string   `json:"id"`
	Kind      Kind     `json:"kind"`
	Name      string   `json:"name,omitempty"`
	Terminals []string `json:"terminals" nullable:"false"`
	Amps      float64  `json:"amps,omitempty"`
	Volts     float64  `json:"volts,omitempty"`
	CoilVolts float64  `json:"coil_volts,omitempty"` // of a coil or a lamp
	Slash     bool     `json:"slash,omitempty"`      // a breaker rated 120/240 V
	// Function is start, stop or reset of a button, preset of a selector that turns a speed, forward or reverse of a
	// contactor. Of an interlock it is the name of its set: its machines must all run before what it keeps apart drops.
	Function string `json:"function,omitempty"`
	Of       string `json:"of,omitempty"` // of a centrifugal switch: the motor on whose shaft it sits
	// Marks are what terminals are called on this part where that is otherwise, such as those of a drive, and Links the
	// bridges that it has between terminals.
	Marks map[string]string `json:"marks,omitempty"`
	Links []Link            `json:"links,omitempty"`
	// Stops are the motors and drives that a button, emergency stop or guard switch stops; none for all.
	Stops        []string `json:"stops,omitempty"`
	Delay        string   `json:"delay,omitempty"`   // of a timer: on or off
	Seconds      float64  `json:"seconds,omitempty"` // of a timer, and until an idler or pony is up
	PickUpVolts  float64  `json:"pick_up_volts,omitempty"`
	DropOutVolts float64  `json:"drop_out_volts,omitempty"`
	Duty         string   `json:"duty,omitempty"` // of a capacitor: run or start
	Microfarad   float64  `json:"microfarad,omitempty"`
	// Cans are those of a capacitor, each joined across its two terminals, as they are marked. A bleed's ohms and watts
	// are those of each of its resistors, one at each can.
	Cans      []string   `json:"cans,omitempty"`
	OnHand    []string   `json:"on_hand,omitempty"` // ids in a shop's stores: of each of the cans, or of the part
	Ohms      float64    `json:"ohms,omitempty"`
	Watts     float64    `json:"watts,omitempty"`      // of a resistor; the output of a motor or drive
	Role      string     `json:"role,omitempty"`       // of a motor: machine, idler or pony
	MadeVolts *MadeVolts `json:"made_volts,omitempty"` // of a motor with a made leg
	WithIdler bool       `json:"with_idler,omitempty"` // a pony that stays in as the idler's lines close, on purpose
	Secondary float64    `json:"secondary_volts,omitempty"`
	VA        float64    `json:"va,omitempty"`     // of a transformer
	Inputs    []Command  `json:"inputs,omitempty"` // of a drive
}

// MadeVolts are the volts between a motor's made leg and the line that its capacitors do not hang on: standing, at
// the speed at which its start part is to leave, and running without it.
type MadeVolts struct {
	Standing float64 `json:"standing"`
	CutOut   float64 `json:"cut_out"`
	Running  float64 `json:"running"`
}

// Link is a bridge between two of a part's terminals, by its own marks, and what is done with it: fit, remove or leave.
type Link struct {
	Between [2]string `json:"between"`
	Do      string    `json:"do"`
	Says    string    `json:"says,omitempty"`
}

// Command is what an input of a drive is for: forward, reverse, run, stop, enable or preset.
type Command struct {
	Terminal string `json:"terminal"`
	Does     string `json:"does"`
}

// Wire joins two terminals, PART:TERMINAL, or a source by its id.
type Wire struct {
	Number string  `json:"number"`
	From   string  `json:"from"`
	To     string  `json:"to"`
	Class  Class   `json:"class"`
	Size   string  `json:"size,omitempty"`
	Amps   float64 `json:"amps,omitempty"` // that it carries, where that is not as in its code’s tables
	Colour string  `json:"colour,omitempty"`
	Metre  float64 `json:"metre,omitempty"`
}

// Class is what a wire is for.
type Class string

// The classes of wires.
const (
	Power      Class = "power"
	Made       Class = "made"
	Control    Class = "control"
	LowVoltage Class = "low-voltage"
	Protective Class = "protective"
)

// The roles of motors.
const (
	Machine = "machine"
	Idler   = "idler"
	Pony    = "pony"
)

// Part finds a part by its id, nil where there is none.
func (c *Circuit) Part(id string) *Part {
	i := slices.IndexFunc(c.Parts, func(p Part) bool { return p.ID == id })
	if i < 0 {
		return nil
	}
	return &c.Parts[i]
}

// Has says whether a part has a terminal.
func (p *Part) Has(terminal string) bool { return slices.Contains(p.Terminals, terminal) }

// SupplyVolts are those between the two lines.
func (c *Circuit) SupplyVolts() float64 {
	switch {
	case c.Volts > 0:
		return c.Volts
	case c.Region == UK:
		return 230
	}
	return 240
}

// Owns says whether an end is a terminal of a part.
func (p *Part) Owns(end string) bool {
	return len(end) > len(p.ID) && end[:len(p.ID)] == p.ID && end[len(p.ID)] == ':'
}

// Made is what the cans of a capacitor are, those alike once with their number.
func (p *Part) Made() string {
	var list []string
	for i := 0; i < len(p.Cans); {
		n := 1
		for i+n < len(p.Cans) && p.Cans[i+n] == p.Cans[i] {
			n++
		}
		if n > 1 {
			list = append(list, fmt.Sprintf("%d × %s", n, p.Cans[i]))
		} else {
			list = append(list, p.Cans[i])
		}
		i += n
	}
	return strings.Join(list, ", ")
}

// Mark is what a terminal of a part is marked with in the circuit's region: a motor's T1, T2 and T3 in the US (NEMA
// MG 1, 2.2), U, V and W elsewhere (IEC 60034-8); what a part has of its own comes first.
func (c *Circuit) Mark(p *Part, terminal string) string {
	if own := p.Marks[terminal]; own != "" {
		return own
	}
	if i := strings.Index("UVW", terminal); p.Kind == Motor && c.Region == US && i >= 0 {
		return fmt.Sprintf("T%d", i+1)
	}
	return terminal
}

// Marked is an end by the marks of the circuit's region.
func (c *Circuit) Marked(end string) string {
	id, terminal, of := strings.Cut(end, ":")
	if p := c.Part(id); of && p != nil {
		return id + ":" + c.Mark(p, terminal)
	}
	return end
}
