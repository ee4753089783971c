// Package shop holds what a user keeps: shops, their machines, and the motors
// on them.
package shop

import (
	"slices"

	"brackmoor/core/controls"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/plate"
	"brackmoor/core/site"
	"brackmoor/core/supply"
	"brackmoor/core/winding"
)

// Format is the name of the open format of whole shops.
const Format = "brackmoor.shops/1"

// How many there are room for at most: shops, machines in one, and motors in one of those.
const (
	MostShops    = 200
	MostMachines = 500
	MostMotors   = 20
)

// File is a file of shops.
type File struct {
	Format string `json:"format"`
	Shops  []Shop `json:"shops" nullable:"false"`
}

// Shop is a place with one supply.
type Shop struct {
	ID       string          `json:"id"`
	Name     string          `json:"name"`
	Supply   supply.Supply   `json:"supply"`
	Prices   feed.Prices     `json:"prices,omitzero"`    // its own; zero for the sample ones
	Weights  feed.Weights    `json:"weights,omitzero"`   // its own; zero for the samples
	Profiles []drive.Profile `json:"profiles,omitempty"` // of drives, its own
	Own      Own             `json:"own,omitzero"`       // what its Rulebook has of its own
	Site     site.Site       `json:"site,omitzero"`      // how its machines are fed
	State    site.State      `json:"state,omitzero"`     // what is switched on, as it was left
	Machines []Machine       `json:"machines" nullable:"false"`
	Version  int             `json:"version,omitempty"`
}

// Has says whether a machine or motor of the shop goes by an id.
func (s *Shop) Has(id string) bool {
	for _, m := range s.Machines {
		if m.ID == id || slices.ContainsFunc(m.Motors, func(o Motor) bool { return o.ID == id }) {
			return true
		}
	}
	return false
}

// Machine is a machine tool with one or more motors.
type Machine struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Note    string  `json:"note"`
	Motors  []Motor `json:"motors" nullable:"false"`
	Version int     `json:"version,omitempty"`
}

// Driven is what a motor drives, how hard, and what is noted of its shaft and duty. A nil
// share leaves it to the kind of load.
type Driven struct {
	Load      string     `json:"load"`
	LoadShare *float64   `json:"load_share" minimum:"0" maximum:"1"`
	Shaft     load.Typed `json:"shaft"`
}

// Fed is how a motor is to be fed, and what was chosen of it.
type Fed struct {
	feed.Bank
	Way feed.Choice `json:"way"`
}

// Motor is one motor of a machine: its plate as typed, and what was noted and chosen.
type Motor struct {
	ID    string      `json:"id"`
	Name  string      `json:"name"`
	Plate plate.Typed `json:"plate"`
	Driven
	Fed
	Mine    []string      `json:"mine" nullable:"false"` // items of the checklist that were ticked for it alone, once
	Leads   winding.Typed `json:"leads"`
	Matters feed.Matters  `json:"matters"` // for the choice of its way
	// Own is what the machine has of its own controls, as it was written down at its open cabinet.
	Own []controls.Terminal `json:"controls,omitempty" maxItems:"200"`
	// Built are the keys of wires that are landed or pulled, and of checks that were passed: install.Landed.
	Built []string `json:"built,omitempty"`
	// Learned is what readings told of it, taken in the place of what its plate gives; nil for nothing.
	Learned *machine.Learned `json:"learned,omitempty"`
	// Version counts every change, Versions those of each part.
	Version  int      `json:"version,omitempty"`
	Versions Versions `json:"-"`
}

// Computed is the version of what anything is computed from: it does not count ticks of building.
func (m *Motor) Computed() int { return m.Version - m.Versions.Built }

// Bare is the motor without versions.
func (m Motor) Bare() Motor {
	m.Version, m.Versions = 0, Versions{}
	return m
}

// Filled has a kind of load and lists where there were none.
func (m Motor) Filled() Motor {
	if m.Load == "" {
		m.Load = load.Kinds[0].Name
	}
	if m.Mine == nil {
		m.Mine = []string{}
	}
	m.Leads, m.Way = m.Leads.Filled(), m.Way.Filled()
	return m
}

// CheckItem is a question of the checklist "is this mine to do?".
type CheckItem struct {
	Name string `json:"name"`
	Says string `json:"says"`
}

// Ticked says whether an item of the checklist is ticked for wiring a motor: for the shop, or, as it once was, for
// the motor.
func (s *Shop) Ticked(m *Motor, item string) bool {
	return slices.Contains(s.Own.Mine, item) || slices.Contains(m.Mine, item)
}

// Checklist stands before any wire is marked as landed, once for a shop. All of it ticked means yes; anything
// else means: get a licensed electrician.
var Checklist = []CheckItem{
	{"law", "The law where I am lets me do this work, and I have the permit if one is wanted."},
	{"dead", "I can isolate, lock off and prove dead, and I own a meter that I prove before and after."},
	{"capacitor", "I know that capacitors hold a lethal charge and how to discharge them."},
	{"feed", "The breaker, wire and plug for the feed are sized by my local code."},
	{"protect", "Overload, bonding and enclosures will be in place before it runs."},
	{"second", "Somebody is near who knows how to cut the power."},
}
