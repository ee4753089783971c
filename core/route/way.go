package route

import (
	"slices"

	"brackmoor/core/capacitor"
)

// Names lists the routes in the order in which practitioners name them.
var Names = []string{
	RunCapacitor,
	StartRunCapacitor,
	Static,
	PhaseBox,
	Rotary,
	DriveSinglePhase,
	DriveDerated,
	DCBus,
	SinglePhaseMotor,
}

// Titles are their names for people.
var Titles = map[string]string{
	RunCapacitor:      "Run capacitor",
	StartRunCapacitor: "Run and start capacitors",
	Static:            "Static converter",
	PhaseBox:          "Phase-shifting box",
	Rotary:            "Rotary converter",
	DriveSinglePhase:  "Drive built for one phase",
	DriveDerated:      "Larger three-phase drive",
	DCBus:             "DC bus with a reactor",
	SinglePhaseMotor:  "Single-phase motor",
}

// Way is how a motor is to be fed: the route taken, "" while none is, and those kept
// beside it for comparison. What is chosen for an idler is nil where the model chooses.
// OneEach gives every motor of the machine a drive of its own.
type Way struct {
	Route      string   `json:"route" enum:",run-capacitor,start-run-capacitor,static,phase-box,rotary,drive-single-phase,drive-derated,dc-bus,single-phase-motor"`
	Kept       []string `json:"kept" nullable:"false" maxItems:"8"`
	IdlerWatts *float64 `json:"idler_watts" minimum:"100" maximum:"100000"`
	BalanceAC  *float64 `json:"balance_ac_microfarad" minimum:"0" maximum:"5000"`
	BalanceBC  *float64 `json:"balance_bc_microfarad" minimum:"0" maximum:"5000"`
	OneEach    bool     `json:"one_each"`
	Profile    string   `json:"profile" maxLength:"80"` // name of the drive at hand, "" for none in particular
}

// Filled has a list where there was none, each route once.
func (w Way) Filled() Way {
	kept := []string{}
	for _, name := range w.Kept {
		if name != w.Route && !slices.Contains(kept, name) {
			kept = append(kept, name)
		}
	}
	w.Kept = kept
	return w
}

// Taken is the route that a motor is sized for: capacitors while none is chosen.
func (w Way) Taken() string {
	if w.Route == "" {
		return StartRunCapacitor
	}
	return w.Route
}

// OfCapacitors says whether a route is sized as capacitors on the motor alone.
func OfCapacitors(name string) bool {
	return slices.Contains([]string{RunCapacitor, StartRunCapacitor, Static, PhaseBox}, name)
}

// Boxed says whether the capacitors of a route are in a box with three terminals for the
// motor.
func Boxed(name string) bool { return name == Static || name == PhaseBox }

// OfDrives says whether a route is a drive.
func OfDrives(name string) bool {
	return slices.Contains([]string{DriveSinglePhase, DriveDerated, DCBus}, name)
}

// Owns says whether capacitances that somebody typed are meant for a route: they belong
// to the one taken; where that has none, to the capacitors.
func (w Way) Owns(name string) bool {
	owner := w.Taken()
	return owner == name || !Boxed(name) && !Boxed(owner)
}

// Rigged is the motor as a route of capacitors has it.
func Rigged(c capacitor.Input, w Way, name string) capacitor.Input {
	if !w.Owns(name) {
		c.RunMicrofarad, c.StartMicrofarad = nil, nil
	}
	switch name {
	case RunCapacitor:
		c.StartMicrofarad = new(0.0)
	case Static:
		c.RunMicrofarad = new(0.0)
	case PhaseBox:
		if c.RunMicrofarad == nil {
			full := c
			full.LoadShare, full.Load.Idles, full.RunMicrofarad, full.StartMicrofarad = new(1.0), false, nil, nil
			c.RunMicrofarad = new(capacitor.Solve(full).ModelRun)
		}
	}
	return c
}
