package capacitor

import (
	"math"

	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// Heat is a session of the duty at the load: temperatures of the hottest winding and of
// the frame. Usable is the most shaft power that keeps the hottest winding within
// its class over the duty, nil where none does.
type Heat struct {
	Thermal  motor.Thermal        `json:"thermal"`
	Duty     machine.Duty         `json:"duty"`
	HottestC float64              `json:"hottest_c"`
	FrameC   float64              `json:"frame_c"` // at the same time
	Usable   *machine.Usable      `json:"usable"`
	Session  []motor.Temperatures `json:"session" nullable:"false"`
}

// heating is what heats at a state of running.
func (r *rig) heating(s State) motor.Heating {
	h := motor.Heating{Turning: s.Motor == network.Running, Losses: s.LossWatts / r.in.RatedLosses()}
	for k, percent := range s.WindingPercent {
		h.Windings[k] = percent * percent / 1e4
	}
	return h
}

// duty is the spells of one round: a start, the work, the pause.
func (r *rig) duty(s State, up RunUp) []motor.Spell {
	d := r.in.Duty
	work := motor.Spell{Minutes: d.OnMinutes, Heating: r.heating(s)}
	if d.OffMinutes <= 0 {
		work.Minutes = motor.SessionMinutes
		return []motor.Spell{work}
	}
	spells := []motor.Spell{work, {Minutes: d.OffMinutes}}
	if up.Seconds != nil && *up.Seconds > 0 {
		start := motor.Spell{
			Minutes: *up.Seconds / 60,
			Heating: motor.Heating{Turning: true, Losses: up.joules / *up.Seconds / r.in.RatedLosses()},
		}
		for k, q := range up.heat {
			start.Windings[k] = q / *up.Seconds
		}
		spells[0].Minutes = math.Max(0, work.Minutes-start.Minutes)
		spells = append([]motor.Spell{start}, spells...)
	}
	return spells
}

// mostShown is how many points of a session are shown.
const mostShown = 90

// rounded is a moment to a hundredth of a minute and a tenth of a degree, which is all
// that a picture shows.
func rounded(t motor.Temperatures) motor.Temperatures {
	t.Minutes, t.Frame = math.Round(100*t.Minutes)/100, math.Round(10*t.Frame)/10
	for k := range t.Windings {
		t.Windings[k] = math.Round(10*t.Windings[k]) / 10
	}
	return t
}

// heat follows a session of the duty at a load.
func (r *rig) heat(run, share float64, up RunUp) Heat {
	t := r.in.Thermal
	h := Heat{Thermal: t, Duty: r.in.Duty, Session: []motor.Temperatures{}}
	h.Duty.Session = motor.SessionMinutes
	loaded := r.at(run, share)
	if loaded.Motor != network.Running {
		return h
	}
	session := t.Session(r.duty(loaded, up), motor.SessionMinutes)
	worst := motor.HottestOf(session)
	h.HottestC, h.FrameC = worst.Hottest(), worst.Frame
	every := max(1, (len(session)+mostShown-1)/mostShown)
	for i, at := range session {
		if i%every == 0 || at == worst || i == len(session)-1 {
			h.Session = append(h.Session, rounded(at))
		}
	}
	h.Usable = r.in.UsableBy(func(share float64) []motor.Spell {
		if s := r.at(run, share); s.Motor == network.Running {
			return r.duty(s, up)
		}
		return nil
	})
	return h
}
