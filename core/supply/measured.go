package supply

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Test is what a meter reads of a supply, at the place where the machines stand: volts between its
// lines with nothing on, volts with a heater on, and the amps that the heater draws.
type Test struct {
	IdleVolts   float64 `json:"idle_volts" minimum:"50" maximum:"600"`
	LoadedVolts float64 `json:"loaded_volts" minimum:"50" maximum:"600"`
	Amps        float64 `json:"amps" minimum:"0.5" maximum:"200"`
}

// Tested are the loop's ohms by a test, and between which its resistance lies by what the meter
// does not tell.
type Tested struct {
	ResistanceOhm float64    `json:"resistance_ohm"`
	ReactanceOhm  float64    `json:"reactance_ohm"`
	Between       [2]float64 `json:"between_ohm"`
	Sharp         bool       `json:"sharp"` // the heater was large enough to tell
}

// Says words them.
func (o Tested) Says() string {
	words := fmt.Sprintf("The loop has %s Ω, between %s and %s by what the meter does not tell.",
		quantity.Figures(o.ResistanceOhm, 2), quantity.Figures(o.Between[0], 2), quantity.Figures(o.Between[1], 2))
	if !o.Sharp {
		words += " So small a drop tells little: put more on, as an oven or a kettle beside it."
	}
	return words
}

// What a test rests on (shop practice). A heater tells little of the loop's reactance, which is to
// its resistance as in a usual house service; two readings of one meter tell a drop to half a volt
// either way, and one of four times that is worth its name.
var reactanceTimes = Classes[2].ReactanceOhm / Classes[2].ResistanceOhm

const (
	tellsVolts = 0.5 // either way, of a difference of two readings of one meter
	sharpDrop  = 4 * tellsVolts
)

// Validate says what is wrong with a test, by the names of its fields.
func (t Test) Validate() (problems rule.Problems) {
	switch {
	case t.LoadedVolts >= t.IdleVolts:
		problems.Say("loaded_volts", "must be under the volts with nothing on: read both within a minute, on one range")
	case t.LoadedVolts < 0.8*t.IdleVolts:
		problems.Say(
			"loaded_volts",
			"is a fifth below the volts with nothing on: a joint is bad, or a reading is wrong",
		)
	}
	return problems
}

// Ohms are the loop's. A heater's amps are in phase with its volts, so that the source's are the
// hypotenuse over V + I·R and I·X.
func (t Test) Ohms() (out Tested) {
	resistance := func(idle float64) float64 {
		// (1 + k²)·(IR)² + 2·V·(IR) = E² − V², k being the reactance over the resistance
		square, v := 1+reactanceTimes*reactanceTimes, t.LoadedVolts
		return math.Max(0, (math.Sqrt(v*v+square*(idle*idle-v*v))-v)/square/t.Amps)
	}
	out.ResistanceOhm = resistance(t.IdleVolts)
	out.ReactanceOhm = reactanceTimes * out.ResistanceOhm
	out.Between = [2]float64{
		resistance(math.Max(t.IdleVolts-tellsVolts, t.LoadedVolts)), resistance(t.IdleVolts + tellsVolts),
	}
	out.Sharp = t.IdleVolts-t.LoadedVolts >= sharpDrop
	return out
}
