// Package load knows the kinds of machine a shop motor drives: how hard each
// is to break away, what share of plate output it mostly runs at, and how its
// torque goes with speed.
package load

import "math"

// Kind is a kind of driven machine. Shares are of rated torque or output;
// Exponent is that of torque over speed (0 constant, 2 fan). The figures are
// shop practice and stand in for readings.
type Kind struct {
	Name           string  `json:"name"`
	Title          string  `json:"title"`
	BreakawayShare float64 `json:"breakaway_share"`
	RunShare       float64 `json:"run_share"`
	Exponent       int     `json:"exponent"`
	Idles          bool    `json:"idles"` // stands running with nothing on it between cuts
}

// Source is where the figures of the kinds come from.
const Source = "usual figures by kind of machine, shop practice"

// Kinds lists the kinds, the commonest first.
var Kinds = []Kind{
	{"spindle", "Spindle started in neutral", 0.20, 0.60, 0, true},
	{"spindle-in-gear", "Spindle started in gear", 0.45, 0.60, 0, true},
	{"ram", "Shaper or slotter ram", 0.50, 0.60, 0, true},
	{"grinder", "Grinding wheel", 0.15, 0.55, 0, true},
	{"saw", "Saw", 0.20, 0.65, 0, true},
	{"planer", "Thickness planer", 0.25, 0.75, 0, true},
	{"mortiser", "Mortiser or drill", 0.15, 0.50, 0, true},
	{"fan", "Fan or extractor", 0.12, 0.85, 2, false},
	{"pump", "Centrifugal pump", 0.15, 0.80, 2, false},
	{"compressor-unloaded", "Compressor started unloaded", 0.40, 0.90, 0, false},
	{"compressor-loaded", "Compressor started against pressure", 1.20, 0.95, 0, false},
	{"winch", "Winch or hoist", 1.40, 0.90, 0, false},
}

// ByName finds a kind; ok is false for a name that is none.
func ByName(name string) (kind Kind, ok bool) {
	for _, k := range Kinds {
		if k.Name == name {
			return k, true
		}
	}
	return Kind{}, false
}

// Torque is the load's torque in N·m at a speed, when it takes share of the
// rated torque at rated speed. Below a tenth of rated speed it rises to the
// breakaway torque.
func (k Kind) Torque(share, ratedNm, rpm, ratedRPM float64) float64 {
	n := rpm / ratedRPM
	running := share * ratedNm * math.Pow(math.Max(n, 0), float64(k.Exponent))
	const free = 0.1
	if n >= free {
		return running
	}
	at := share * ratedNm * math.Pow(free, float64(k.Exponent))
	standing := k.BreakawayShare * ratedNm
	return math.Max(running, standing+(at-standing)*n/free)
}
