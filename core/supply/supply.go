// Package supply describes a residential single-phase supply.
package supply

import (
	"fmt"
	"math"
	"math/cmplx"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

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
	{"line-neutral", "Line and neutral 230 V", 230, 50, "L 230 V to earth, N is the neutral"},
	{"two-wire", "Two-wire 220 V", 220, 60, "as the service is earthed: measure"},
	{"two-legs", "Two legs of a three-phase 208 V", 208, 60, "both lines 120 V to earth, 120° apart"},
	{"generator", "Generator or inverter", 240, 60, "as it is bonded: measure"},
}

// Generator is the kind of service that is a generator or an inverter.
const Generator = "generator"

// Region is a part of the world by what is usual there: how a service comes in, and its volts and frequency, which a
// generator is set to as well; zero where nothing is usual and the kind of service says it.
type Region struct {
	Name  string   `json:"name"`
	Title string   `json:"title"`
	Says  string   `json:"says"`
	Volts float64  `json:"volts"`
	Hertz float64  `json:"hertz"`
	Kinds []string `json:"kinds" nullable:"false"` // the usual one first
	Zones string   `json:"zones"`                  // how time zones there begin: the first that fits is the guess
}

// Regions lists them: IEC 60038, table 1, and ANSI C84.1.
var Regions = []Region{
	{"60", "North America", "120/240 V, 60 Hz; wires in AWG", 240, 60,
		[]string{"split-phase", "two-legs", Generator}, "America/"},
	{"50", "Europe, or elsewhere at 230 V", "230 V, 50 Hz; wires in mm²", 230, 50,
		[]string{"line-neutral", Generator}, ""},
	{"other", "Elsewhere", "other volts, measured", 0, 0,
		[]string{"two-wire", "split-phase", "line-neutral", Generator}, ""},
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
	{ByTransformer, "By its kVA and the service wire", 0, 0},
}

// ByTransformer is the class of a source known by the kVA and the percent impedance of its
// transformer or generator, and the wire from there.
const ByTransformer = "transformer"

// Earthing is how a service is earthed.
type Earthing struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Says  string `json:"says"`
}

// TT is an earthing without a conductor from the supply.
const TT = "tt"

// Earthings lists them: IEC 60364-1, 312.2, and NEC 250.20 (US, 2023).
var Earthings = []Earthing{
	{
		"us",
		"Grounded neutral",
		"bonded at the service alone; four wires to a sub-panel, its neutral apart: NEC 250.24, " +
			"250.32 (US, 2023)",
	},
	{"tn-s", "TN-S", "an earth conductor apart from the neutral, all the way"},
	{"tn-c-s", "TN-C-S", "earth and neutral are one up to the service: an outbuilding with metal about it may want TT"},
	{TT, "TT", "an electrode of its own: a residual-current device on everything"},
}

// EarthingOf finds one by its name.
func EarthingOf(name string) (e Earthing, ok bool) {
	for _, e := range Earthings {
		if e.Name == name {
			return e, true
		}
	}
	return e, false
}

// Own is the class name under which a supply carries its own ohms.
const Own = "own"

// Supply is what a shop is fed from.
type Supply struct {
	Kind          string  `json:"kind" enum:"split-phase,line-neutral,two-wire,two-legs,generator"`
	Volts         float64 `json:"volts" minimum:"90" maximum:"500"`
	Hertz         float64 `json:"hertz" minimum:"40" maximum:"70"`
	MainAmps      float64 `json:"main_amps" minimum:"5" maximum:"600"`
	Class         string  `json:"class" enum:"stiff,short,usual,long,transformer,own"`
	ResistanceOhm float64 `json:"resistance_ohm" minimum:"0" maximum:"5"`
	ReactanceOhm  float64 `json:"reactance_ohm" minimum:"0" maximum:"5"`
	Earthing      string  `json:"earthing,omitempty" enum:",us,tn-s,tn-c-s,tt"`
	// Of its transformer or generator, and of the wire from there.
	KVA              float64 `json:"kva,omitempty" minimum:"0" maximum:"2000"`
	ImpedancePercent float64 `json:"impedance_percent,omitempty" minimum:"0" maximum:"50"`
	WireSize         string  `json:"wire_size,omitempty" maxLength:"20"`
	WireMaterial     string  `json:"wire_material,omitempty" enum:",copper,aluminium"`
	WireMetre        float64 `json:"wire_metre,omitempty" minimum:"0" maximum:"500"`
}

// Legs are the volts of either line to the neutral, for each volt from the first to the second; ok is
// false where no neutral stands between them.
func (s Supply) Legs() (a, b complex128, ok bool) {
	switch s.Kind {
	case "split-phase", Generator:
		return 0.5, -0.5, quantity.SixtyHertz(s.Hertz)
	case "two-legs":
		a = cmplx.Rect(1/math.Sqrt(3), -math.Pi/6)
		return a, a - 1, true
	}
	return 0, 0, false
}

// LegShare is the size of those volts, 1 where there is no neutral between the lines.
func (s Supply) LegShare() float64 {
	a, _, ok := s.Legs()
	if !ok {
		return 1
	}
	return cmplx.Abs(a)
}

// Settled returns the supply with the ohms of its class filled in.
func (s Supply) Settled() Supply {
	for _, c := range Classes {
		if c.Name == s.Class {
			s.ResistanceOhm, s.ReactanceOhm = c.ResistanceOhm, c.ReactanceOhm
		}
	}
	if s.Class == ByTransformer {
		z := s.byTransformer()
		s.ResistanceOhm, s.ReactanceOhm = real(z), imag(z)
	}
	return s
}

// What a source is like of which only kVA is known (shop practice): percent impedance, and
// reactance over resistance. A generator's is what it shows in the first tenth of a second.
var usualSource = map[bool]struct{ percent, ratio float64 }{false: {2.5, 1.3}, true: {20, 8}}

// byTransformer are the loop's ohms at the service: the source's share of V²/VA, and the wire out
// and back.
func (s Supply) byTransformer() (z complex128) {
	usual := usualSource[s.Kind == Generator]
	if s.KVA > 0 {
		percent := s.ImpedancePercent
		if percent == 0 {
			percent = usual.percent
		}
		ohms := percent / 100 * s.Volts * s.Volts / (1000 * s.KVA)
		across := math.Hypot(1, usual.ratio)
		z = complex(ohms/across, ohms*usual.ratio/across)
	}
	wire, _ := s.wire()
	return z + complex(2*s.WireMetre, 0)*wire.Ohm
}

// wire is the service wire by the table as it is printed: its ohms are no shop's own.
func (s Supply) wire() (Carried, bool) {
	return CodeOf(s.Hertz, nil).Carries(Laid{Size: s.WireSize, Material: s.WireMaterial})
}

// OhmsBy says where the ohms come from.
func (s Supply) OhmsBy() string {
	if s.Class == ByTransformer {
		text := fmt.Sprintf("%s kVA", quantity.Figures(s.KVA, 3))
		if s.WireMetre > 0 && s.WireSize != "" {
			text += fmt.Sprintf(", %s of %s", quantity.Run(s.WireMetre, s.Hertz), s.WireSize)
		}
		return text
	}
	for _, c := range Classes {
		if c.Name == s.Class {
			return rule.InSentence(c.Title) + ", shop practice"
		}
	}
	return "as typed"
}

// Problems say what is wrong with a supply, by the names of its fields.
func (s Supply) Problems() (problems rule.Problems) {
	if s.Class == ByTransformer && s.KVA == 0 {
		problems.Say("kva", "says how large its transformer or generator is")
	}
	if _, ok := s.wire(); s.WireSize != "" && !ok {
		problems.Say("wire_size", "%q is no size of conductor that stands in the table", s.WireSize)
	}
	return problems
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
