package shop

// Part is a part of a motor that is edited apart from the others.
type Part string

// The parts of a motor.
const (
	PlatePart   Part = "plate"    // name and plate
	LeadsPart   Part = "leads"    // what was noted of its leads
	ShaftPart   Part = "shaft"    // what it drives and how it works: Driven
	WayPart     Part = "way"      // how it is to be fed: Fed
	MattersPart Part = "matters"  // what matters for that choice
	OwnPart     Part = "controls" // what it has of its own controls
	BuiltPart   Part = "built"    // what of its circuit is built and checked; nothing is computed from it
)

// Versions are those of a motor's parts.
type Versions struct {
	Plate   int `json:"plate"`
	Leads   int `json:"leads"`
	Shaft   int `json:"shaft"`
	Way     int `json:"way"`
	Matters int `json:"matters"`
	Own     int `json:"controls"`
	Built   int `json:"built"`
}

// Of is the version of a part.
func (v *Versions) Of(p Part) *int {
	switch p {
	case PlatePart:
		return &v.Plate
	case LeadsPart:
		return &v.Leads
	case ShaftPart:
		return &v.Shaft
	case WayPart:
		return &v.Way
	case MattersPart:
		return &v.Matters
	case OwnPart:
		return &v.Own
	}
	return &v.Built
}

// Parts lists the parts.
var Parts = []Part{PlatePart, LeadsPart, ShaftPart, WayPart, MattersPart, OwnPart, BuiltPart}

// WiredTick is the tick of building that says that all of it is wired and checked.
const WiredTick = "done"
