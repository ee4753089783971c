// Package load knows the kinds of machine a shop motor drives: how hard each
// is to break away, what share of plate output it mostly runs at, how its torque goes
// with speed, and what it weighs to bring up.
package load

import "math"

// Kind is a kind of driven machine. Shares are of rated torque or output;
// Exponent is that of torque over speed (0 constant, 2 fan). The figures are
// shop practice and stand in for readings.
type Kind struct {
	Name           string  `json:"name" maxLength:"40"`
	Title          string  `json:"title" maxLength:"60"`
	BreakawayShare float64 `json:"breakaway_share" minimum:"0" maximum:"3"`
	RunShare       float64 `json:"run_share" minimum:"0.05" maximum:"1"`
	Exponent       int     `json:"exponent" minimum:"0" maximum:"2"`
	// Idles says that it stands running with nothing on it between cuts.
	Idles bool `json:"idles,omitempty"`
	// InertiaTimes is its inertia at the motor's shaft, in multiples of the rotor's own.
	InertiaTimes float64 `json:"inertia_times,omitempty" minimum:"0" maximum:"200"`
	// UpShare is what it takes while it comes up unloaded; 0: what it takes running.
	UpShare float64 `json:"up_share,omitempty" minimum:"0" maximum:"1"`
	Lifts   bool    `json:"lifts,omitempty"`  // a load hangs on it: more than torque decides
	Chucks  bool    `json:"chucks,omitempty"` // a chuck may be screwed on its spindle
	// StopSeconds are those that it takes from full speed to standstill with the power off, where
	// that was timed; they stand in the place of InertiaTimes. 0 for not.
	StopSeconds float64 `json:"stop_seconds,omitempty" minimum:"0" maximum:"3600"`
}

// Source is where the figures of the kinds come from.
const Source = "usual figures by kind of machine, shop practice"

// Kinds lists the kinds, the commonest first.
var Kinds = []Kind{
	{"spindle", "Spindle started in neutral", 0.20, 0.60, 0, true, 1, 0, false, true, 0},
	{"spindle-in-gear", "Spindle started in gear", 0.45, 0.60, 0, true, 4, 0, false, true, 0},
	{"ram", "Shaper or slotter ram", 0.50, 0.60, 0, true, 2, 0, false, false, 0},
	{"grinder", "Grinding wheel", 0.15, 0.55, 0, true, 6, 0, false, false, 0},
	{"saw", "Circular saw", 0.20, 0.65, 0, true, 3, 0, false, false, 0},
	{"band-saw", "Band saw", 0.20, 0.60, 0, true, 14, 0, false, false, 0},
	{"planer", "Thickness planer", 0.25, 0.75, 0, true, 9, 0, false, false, 0},
	{"mortiser", "Mortiser or drill", 0.15, 0.50, 0, true, 0.7, 0, false, false, 0},
	{"fan", "Fan or extractor", 0.12, 0.85, 2, false, 10, 0, false, false, 0},
	{"pump", "Centrifugal pump", 0.15, 0.80, 2, false, 0.6, 0, false, false, 0},
	{"compressor-unloaded", "Compressor started unloaded", 0.40, 0.90, 0, false, 3, 0.30, false, false, 0},
	{"compressor-loaded", "Compressor started against pressure", 1.20, 0.95, 0, false, 3, 0, false, false, 0},
	{"compressor-screw", "Screw compressor started unloaded", 0.40, 0.95, 0, false, 4, 0.50, false, false, 0},
	{"vibrator", "Vibrator or shaker", 1.20, 0.70, 0, false, 5, 0, false, false, 0},
	{"winch", "Winch that hauls", 1.40, 0.90, 0, false, 1.5, 0, false, false, 0},
	{"hoist", "Hoist that lifts a load", 1.40, 0.90, 0, false, 1.5, 0, true, false, 0},
}

// ByName finds a kind among the usual ones and a shop's own; ok is false for a name that is none.
func ByName(name string, own ...Kind) (kind Kind, ok bool) {
	for _, list := range [][]Kind{Kinds, own} {
		for _, k := range list {
			if k.Name == name {
				return k, true
			}
		}
	}
	return Kind{}, false
}

// Curve is a load's torque over speed: NewtonMetre·(n/AtRPM)^Exponent, and below a
// tenth of AtRPM rising towards BreakawayNm at standstill where that is more.
type Curve struct {
	NewtonMetre float64 `json:"newton_metre"`
	AtRPM       float64 `json:"at_rpm"`
	Exponent    int     `json:"exponent"`
	BreakawayNm float64 `json:"breakaway_nm"`
}

// At is the torque in N·m at a speed in rpm, whichever way it turns.
func (c Curve) At(rpm float64) float64 {
	if c.AtRPM <= 0 {
		return 0
	}
	power := func(n float64) float64 {
		switch c.Exponent {
		case 0:
			return c.NewtonMetre
		case 1:
			return c.NewtonMetre * n
		}
		return c.NewtonMetre * n * n
	}
	n := math.Abs(rpm) / c.AtRPM
	running := power(n)
	const free = 0.1
	if n >= free {
		return running
	}
	return math.Max(running, c.BreakawayNm+(power(free)-c.BreakawayNm)*n/free)
}

// Curve is the kind's torque over speed, when it takes share of the rated torque at
// rated speed.
func (k Kind) Curve(share, ratedNm, ratedRPM float64) Curve {
	return Curve{
		NewtonMetre: share * ratedNm,
		AtRPM:       ratedRPM,
		Exponent:    k.Exponent,
		BreakawayNm: k.BreakawayShare * ratedNm,
	}
}

// Torque is the load's torque in N·m at a speed, when it takes share of the
// rated torque at rated speed. Below a tenth of rated speed it rises to the
// breakaway torque.
func (k Kind) Torque(share, ratedNm, rpm, ratedRPM float64) float64 {
	return k.Curve(share, ratedNm, ratedRPM).At(math.Max(rpm, 0))
}

// ComingUp is the share of rated torque that it takes while it comes up: one that idles
// between cuts comes up before it is loaded, and one that is unloaded to start is loaded once
// it is up.
func (k Kind) ComingUp(share float64) float64 {
	if k.UpShare > 0 {
		return math.Min(share, k.UpShare)
	}
	if k.Idles {
		return math.Min(share, k.BreakawayShare)
	}
	return share
}
