package capacitor

import (
	"math"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// Short is a motor run for a short time past plate amps, as practice does: its share of plate
// output, the hottest winding in percent of plate amps, and the minutes from cold until it is
// at what its insulation bears, nil where it never comes there.
type Short struct {
	LoadShare float64  `json:"load_share"`
	Percent   float64  `json:"hottest_percent"`
	Minutes   *float64 `json:"minutes"`
}

// twoThirds is the share of output that most say is left on two legs.
const twoThirds = 2.0 / 3

// short follows a run from cold at a share of output; nil where the motor does not run there.
func (r *rig) short(microfarad, share float64) *Short {
	s := r.at(microfarad, share)
	if s.Motor != network.Running {
		return nil
	}
	out := &Short{LoadShare: share, Percent: s.HottestPercent}
	t := r.in.Thermal
	work := motor.Spell{Minutes: motor.SessionMinutes, Heating: r.heating(s)}
	for _, at := range t.Session([]motor.Spell{work}, motor.SessionMinutes) {
		if at.Hottest() > t.LimitC {
			out.Minutes = new(at.Minutes)
			break
		}
	}
	return out
}

// byFactor is the range of shaft power in which every winding stays within plate amps times
// the plate's service factor; nil when there is none.
func (r *rig) byFactor(microfarad float64) *Range {
	return r.within(microfarad, math.Max(1, r.in.Plate.ServiceFactor.Value))
}
