// Package shop holds what a user keeps: shops, their machines, and the motors
// on them.
package shop

import (
	"brackmoor/core/drive"
	"brackmoor/core/load"
	"brackmoor/core/plate"
	"brackmoor/core/route"
	"brackmoor/core/supply"
	"brackmoor/core/winding"
)

// Format is the name of the open format of whole shops.
const Format = "brackmoor.shops/1"

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
	Prices   route.Prices    `json:"prices,omitzero"`    // its own; zero for the sample ones
	Profiles []drive.Profile `json:"profiles,omitempty"` // of drives, its own
	Machines []Machine       `json:"machines" nullable:"false"`
	Version  int             `json:"version,omitempty"`
}

// Machine is a machine tool with one or more motors.
type Machine struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Note    string  `json:"note"`
	Motors  []Motor `json:"motors" nullable:"false"`
	Version int     `json:"version,omitempty"`
}

// Motor is one motor: its plate as typed, what it drives, and what was chosen
// for it. Nil means left to the model or to the kind of machine.
type Motor struct {
	ID              string        `json:"id"`
	Name            string        `json:"name"`
	Plate           plate.Typed   `json:"plate"`
	Load            string        `json:"load"`
	LoadShare       *float64      `json:"load_share"`
	RunMicrofarad   *float64      `json:"run_microfarad"`
	StartMicrofarad *float64      `json:"start_microfarad"`
	Reversed        bool          `json:"reversed"`
	Mine            []string      `json:"mine" nullable:"false"` // ticked items of the checklist
	Leads           winding.Typed `json:"leads"`
	Shaft           load.Typed    `json:"shaft"`
	Matters         route.Matters `json:"matters"` // for the choice of its route
	Way             route.Way     `json:"way"`     // how it is to be fed
	Version         int           `json:"version,omitempty"`
}

// CheckItem is a question of the checklist "is this mine to do?".
type CheckItem struct {
	Name string `json:"name"`
	Says string `json:"says"`
}

// Checklist stands before any wiring. All of it ticked means yes; anything
// else means: get a licensed electrician.
var Checklist = []CheckItem{
	{"law", "The law where I am lets me do this work, and I have the permit if one is wanted."},
	{"dead", "I can isolate, lock off and prove dead, and I own a meter that I prove before and after."},
	{"capacitor", "I know that capacitors hold a lethal charge and how to discharge them."},
	{"feed", "The breaker, wire and plug for the feed are sized by my local code."},
	{"protect", "Overload, bonding and enclosures will be in place before it runs."},
	{"second", "Somebody is near who knows how to cut the power."},
}
