// Package supply describes a residential single-phase supply.
package supply

import "brackmoor/core/network"

// Kind is a kind of service. Earth says how its lines stand to earth.
type Kind struct {
	Name  string  `json:"name"`
	Title string  `json:"title"`
	Volts float64 `json:"volts"` // usual volts between the two lines
	Hertz float64 `json:"hertz"` // usual frequency
	Earth string  `json:"earth"`
}

// Kinds lists the services Brackmoor knows.
var Kinds = []Kind{
	{"split-phase", "Split-phase 120/240 V", 240, 60, "both lines 120 V to earth"},
	{"line-neutral", "Line and neutral 230 V", 230, 50, "line a 230 V to earth, line b is the neutral"},
	{"two-wire", "Two-wire 220 V", 220, 60, "as the service is earthed: measure"},
}

// Class is a class of source impedance, ohms of the whole loop of transformer
// and wire at the machine. The figures are usual ones, shop practice.
type Class struct {
	Name          string  `json:"name"`
	Title         string  `json:"title"`
	ResistanceOhm float64 `json:"resistance_ohm"`
	ReactanceOhm  float64 `json:"reactance_ohm"`
}

// Classes lists the classes, the stiffest first. Own ohms go by the name "own".
var Classes = []Class{
	{"stiff", "Stiff: taken as no ohms at all", 0, 0},
	{"short", "Short run from a near transformer", 0.08, 0.04},
	{"usual", "Usual house service", 0.15, 0.08},
	{"long", "Long or thin run", 0.40, 0.15},
}

// Own is the class name under which a supply carries its own ohms.
const Own = "own"

// Supply is what a shop is fed from.
type Supply struct {
	Kind          string  `json:"kind" enum:"split-phase,line-neutral,two-wire"`
	Volts         float64 `json:"volts" minimum:"90" maximum:"500"`
	Hertz         float64 `json:"hertz" minimum:"40" maximum:"70"`
	MainAmps      float64 `json:"main_amps" minimum:"5" maximum:"600"`
	Class         string  `json:"class" enum:"stiff,short,usual,long,own"`
	ResistanceOhm float64 `json:"resistance_ohm" minimum:"0" maximum:"5"`
	ReactanceOhm  float64 `json:"reactance_ohm" minimum:"0" maximum:"5"`
}

// Settled returns the supply with the ohms of its class filled in.
func (s Supply) Settled() Supply {
	for _, c := range Classes {
		if c.Name == s.Class {
			s.ResistanceOhm, s.ReactanceOhm = c.ResistanceOhm, c.ReactanceOhm
		}
	}
	return s
}

// Network is the supply as the solver takes it.
func (s Supply) Network() network.Supply {
	s = s.Settled()
	return network.Supply{
		Phases:        1,
		Volts:         s.Volts,
		Hertz:         s.Hertz,
		ResistanceOhm: s.ResistanceOhm,
		ReactanceOhm:  s.ReactanceOhm,
		Earthing:      earthings[s.Kind],
	}
}

// earthings are where the kinds are earthed, as far as that is known without measuring.
var earthings = map[string]string{"split-phase": network.EarthMid, "line-neutral": network.EarthB}
