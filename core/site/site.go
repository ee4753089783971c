// Package site describes how the machines of a shop are fed: panels and circuits from the service
// on, converters, and what else hangs there. It is data and its checks; core/floor solves it.
package site

import (
	"slices"

	"brackmoor/core/network"
	"brackmoor/core/supply"
)

// Site is the tree of a shop's supply. Whatever names nothing that it hangs on hangs on the
// service's own panel.
type Site struct {
	Spaces     int         `json:"spaces,omitempty" minimum:"0" maximum:"100"` // of poles in that panel, 0 not counted
	Circuits   []Circuit   `json:"circuits,omitempty" maxItems:"60"`
	Converters []Converter `json:"converters,omitempty" maxItems:"20"`
	Loads      []Load      `json:"loads,omitempty" maxItems:"60"`
	Hung       []Hung      `json:"hung,omitempty" maxItems:"600"`
}

// Circuit is a run of wire behind a breaker. One that ends in a panel feeds further circuits. From
// is the circuit whose panel it comes from. One with a change-over
// switch feeds one of two sides; what hangs on the other is dead.
type Circuit struct {
	ID          string  `json:"id" maxLength:"64"`
	Name        string  `json:"name" maxLength:"80"`
	From        string  `json:"from,omitempty" maxLength:"64"`
	BreakerAmps float64 `json:"breaker_amps" minimum:"1" maximum:"600"`
	Device      string  `json:"device,omitempty" maxLength:"20"`         // kind of what protects it, "" for the usual
	Slash       bool    `json:"slash,omitempty"`                         // rated 120/240 V
	Poles       int     `json:"poles,omitempty" minimum:"0" maximum:"4"` // that it takes of its panel, 0 for two
	Residual    string  `json:"residual,omitempty" enum:",AC,A,F,B"`     // type, "" for none
	ResidualMA  float64 `json:"residual_milliampere,omitempty" minimum:"0" maximum:"1000"`
	supply.Laid
	Metre      float64 `json:"metre,omitempty" minimum:"0" maximum:"500"`
	Outlet     string  `json:"outlet,omitempty" maxLength:"20"` // its receptacle by its standard's name, "" for fixed
	Panel      bool    `json:"panel,omitempty"`
	Spaces     int     `json:"spaces,omitempty" minimum:"0" maximum:"100"` // of poles in its panel
	ChangeOver bool    `json:"change_over,omitempty"`
}

// The sides of a change-over switch.
const (
	SideA = "a"
	SideB = "b"
)

// Converter is what makes lines for several machines: a rotary converter, made here or bought, or by
// its Kind a dc bus for their drives. Idler is the machine whose first motor
// idles in it, with its own plate and leads; without one it is a usual motor of IdlerWatts.
type Converter struct {
	ID         string  `json:"id" maxLength:"64"`
	Name       string  `json:"name" maxLength:"80"`
	On         string  `json:"on,omitempty" maxLength:"64"`
	Side       string  `json:"side,omitempty" enum:",a,b"`
	Kind       string  `json:"kind,omitempty" enum:",bus"` // "" for a rotary converter
	Idler      string  `json:"idler,omitempty" maxLength:"64"`
	IdlerWatts float64 `json:"idler_watts,omitempty" minimum:"0" maximum:"100000"`
	BalanceAC  float64 `json:"balance_ac_microfarad,omitempty" minimum:"0" maximum:"5000"`
	BalanceBC  float64 `json:"balance_bc_microfarad,omitempty" minimum:"0" maximum:"5000"`
	Start      float64 `json:"start_microfarad,omitempty" minimum:"0" maximum:"20000"` // from a to c, while it comes up
	StartBy    string  `json:"start_by,omitempty" enum:",timer,box,pony"`              // "" for a relay
	// TimerSeconds is when a timer takes the start capacitors out, BoxWatts the idler that a packaged
	// start box is for, and the pony motor's figures those of its plate; PonyRatio is how often the
	// idler turns while the pony turns once, 1 for a coupling. RunUpSeconds were timed. 0 for not known.
	TimerSeconds float64 `json:"timer_s,omitempty" minimum:"0" maximum:"60"`
	BoxWatts     float64 `json:"box_watts,omitempty" minimum:"0" maximum:"100000"`
	PonyWatts    float64 `json:"pony_watts,omitempty" minimum:"0" maximum:"20000"`
	PonyRPM      float64 `json:"pony_rpm,omitempty" minimum:"0" maximum:"3600"`
	PonyAmps     float64 `json:"pony_amps,omitempty" minimum:"0" maximum:"200"`
	PonyRatio    float64 `json:"pony_ratio,omitempty" minimum:"0" maximum:"4"`
	RunUpSeconds float64 `json:"run_up_s,omitempty" minimum:"0" maximum:"120"`
	// Of a dc bus, 0 for both where the model chooses.
	ChokeMH       float64 `json:"choke_millihenry,omitempty" minimum:"0" maximum:"100"`
	BusMicrofarad float64 `json:"bus_microfarad,omitempty" minimum:"0" maximum:"100000"` // in all
	// A transformer ahead of it steps the volts of idler and machines to AheadVolts, 0 for none; 0 percent for a
	// usual impedance.
	AheadVolts   float64 `json:"ahead_volts,omitempty" minimum:"0" maximum:"1000"`
	AheadKVA     float64 `json:"ahead_kva,omitempty" minimum:"0" maximum:"500"`
	AheadPercent float64 `json:"ahead_percent,omitempty" minimum:"0" maximum:"50"`
	Label        Label   `json:"label,omitzero"`
}

// BusKind is a dc bus.
const BusKind = "bus"

// The means by which an idler starts, beside capacitors that a relay takes out.
const (
	ByTimer = "timer"
	ByBox   = "box"
	ByPony  = "pony"
)

// Ratio is how often the idler turns while its pony motor turns once.
func (c *Converter) Ratio() float64 {
	if c.PonyRatio == 0 {
		return 1
	}
	return c.PonyRatio
}

// PonySynchronous is the synchronous speed of its pony motor, the least above that of its plate.
func (c *Converter) PonySynchronous(hertz float64) (rpm float64) {
	for poles := 2; poles <= 12; poles += 2 {
		if at := 120 * hertz / float64(poles); at > c.PonyRPM {
			rpm = at
		}
	}
	return rpm
}

// Label is what the label and manual of a bought converter say, 0 for nothing: they stand beside
// the model's figures, and the stricter ones count.
type Label struct {
	OutputWatts float64 `json:"output_watts,omitempty" minimum:"0" maximum:"1000000"` // of all its motors
	OutputAmps  float64 `json:"output_amps,omitempty" minimum:"0" maximum:"1000"`     // by their plates
	OutputKVA   float64 `json:"output_kva,omitempty" minimum:"0" maximum:"1000"`
	MotorWatts  float64 `json:"motor_watts,omitempty" minimum:"0" maximum:"1000000"` // of the largest of them
	InputAmps   float64 `json:"input_amps,omitempty" minimum:"0" maximum:"1000"`
	BreakerAmps float64 `json:"breaker_amps,omitempty" minimum:"0" maximum:"600"` // at most, by the maker's table
	Wire        string  `json:"wire,omitempty" maxLength:"20"`                    // at least, by the same
	Regulation  float64 `json:"regulation_percent,omitempty" minimum:"0" maximum:"50"`
	// A phase-shifting box is set within a range of a motor's plate amps.
	FromAmps float64 `json:"from_amps,omitempty" minimum:"0" maximum:"1000"`
	ToAmps   float64 `json:"to_amps,omitempty" minimum:"0" maximum:"1000"`
}

// Load is what is no motor: a heater, a welder, lights. Amps are at the volts that it hangs between.
// Always says that it is on beside whatever runs.
type Load struct {
	ID      string  `json:"id" maxLength:"64"`
	Name    string  `json:"name" maxLength:"80"`
	On      string  `json:"on,omitempty" maxLength:"64"`
	Side    string  `json:"side,omitempty" enum:",a,b"`
	Kind    string  `json:"kind" maxLength:"20"`
	Amps    float64 `json:"amps" minimum:"0.01" maximum:"600"`
	Between string  `json:"between,omitempty" enum:",ab,bc,ac,three,an,bn"` // "" for ab; n is the neutral
	Always  bool    `json:"always,omitempty"`
}

// A load that hangs on one line and the neutral.
const (
	LineA = "an"
	LineB = "bn"
)

// Hung says where a machine hangs, or one motor of it by its own id: on a circuit, by the way
// that it is fed, or across the lines of a converter.
//
// BreakerAmps, Device and Outlet are what protects and plugs it there, behind a converter of three
// poles; OverloadAmps what its overload is set to. Zero or empty is not looked at.
type Hung struct {
	ID           string  `json:"id" maxLength:"64"`
	On           string  `json:"on,omitempty" maxLength:"64"`
	Side         string  `json:"side,omitempty" enum:",a,b"`
	BreakerAmps  float64 `json:"breaker_amps,omitempty" minimum:"0" maximum:"600"`
	Device       string  `json:"device,omitempty" maxLength:"20"`
	Slash        bool    `json:"slash,omitempty"`
	Outlet       string  `json:"outlet,omitempty" maxLength:"20"`
	OverloadAmps float64 `json:"overload_amps,omitempty" minimum:"0" maximum:"600"`
	// Of a machine of several motors: First starts first and the others once it is up, "" for all at
	// once. Apart are motors with a switch of their own, which the machine's switch leaves as they are.
	First string   `json:"first,omitempty" maxLength:"64"`
	Apart []string `json:"apart,omitempty" maxItems:"20"`
}

// MostShare is the most of its plate output that a motor can be set to.
const MostShare = 1.5

// State is what is switched on, by the ids of machines, motors, converters and loads, the share of
// its output that a motor is at where that is not the usual one, and the sides at which change-over
// switches stand, by their circuits; one that is not named stands at A.
type State struct {
	On     []string           `json:"on,omitempty" maxItems:"1200"`
	Shares map[string]float64 `json:"shares,omitempty"`
	Thrown map[string]string  `json:"thrown,omitempty"`
}

// Side is where the change-over of a circuit stands.
func (s State) Side(circuit string) string {
	if s.Thrown[circuit] == SideB {
		return SideB
	}
	return SideA
}

// Has says whether something is switched on.
func (s State) Has(id string) bool { return slices.Contains(s.On, id) }

// LoadKind is a kind of load that is no motor.
type LoadKind struct {
	Name        string  `json:"name"`
	Title       string  `json:"title"`
	PowerFactor float64 `json:"power_factor"`
	Steady      bool    `json:"steady"` // takes constant watts, as electronics do, not constant ohms
}

// LoadKinds are usual ones, their power factors shop practice.
var LoadKinds = []LoadKind{
	{"heater", "Heater or oven", 1, false},
	{"lights", "Lights", 0.95, false},
	{"welder", "Welder", 0.75, false},
	{"charger", "Charger or electronics", 0.65, true},
	{"motor", "Motor of one phase", 0.85, false},
	{"other", "Another load", 0.9, false},
}

// KindOf is a load's kind; one that is not known is another load.
func KindOf(name string) LoadKind {
	for _, k := range LoadKinds {
		if k.Name == name {
			return k
		}
	}
	return LoadKinds[len(LoadKinds)-1]
}

// Pair is the two lines that a load hangs between; three is true for one on all three.
func (l Load) Pair() (pair network.Pair, three bool) {
	switch l.Between {
	case "bc":
		return network.BC, false
	case "ac":
		return network.AC, false
	case "three":
		return "", true
	}
	return network.AB, false
}

// Taken are the spaces of its panel that its breaker takes.
func (c *Circuit) Taken() int {
	if c.Poles == 0 {
		return 2
	}
	return c.Poles
}

// Circuit finds a circuit by its id, nil where there is none.
func (s *Site) Circuit(id string) *Circuit {
	for i := range s.Circuits {
		if s.Circuits[i].ID == id {
			return &s.Circuits[i]
		}
	}
	return nil
}

// Converter finds a converter by its id, nil where there is none.
func (s *Site) Converter(id string) *Converter {
	for i := range s.Converters {
		if s.Converters[i].ID == id {
			return &s.Converters[i]
		}
	}
	return nil
}

// IDs are those of its circuits, converters and loads.
func (s *Site) IDs() (list []string) {
	for _, c := range s.Circuits {
		list = append(list, c.ID)
	}
	for _, c := range s.Converters {
		list = append(list, c.ID)
	}
	for _, l := range s.Loads {
		list = append(list, l.ID)
	}
	return list
}

// Place is where a motor of a machine hangs: its own place, or else its machine's.
func (s *Site) Place(machine, motor string) Hung {
	place := Hung{ID: machine}
	for _, h := range s.Hung {
		switch h.ID {
		case motor:
			return h
		case machine:
			place = h
		}
	}
	return place
}

// Runs is how the motors of a machine run: the one that starts first, and those with a switch of their own.
func (s *Site) Runs(machine string) (first string, apart []string) {
	for _, h := range s.Hung {
		if h.ID == machine {
			return h.First, h.Apart
		}
	}
	return "", nil
}

// Idles says whether a machine is the idler of a converter.
func (s *Site) Idles(machine string) bool {
	return slices.ContainsFunc(s.Converters, func(c Converter) bool { return c.Idler == machine && machine != "" })
}

// Inner is how deep a circuit stands below the service: 0 for one of its own panel.
func (s *Site) Inner(c *Circuit) (depth int) {
	for c.From != "" && depth <= len(s.Circuits) {
		if c = s.Circuit(c.From); c == nil {
			break
		}
		depth++
	}
	return depth
}
