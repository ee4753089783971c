package casefile

import (
	"fmt"

	"brackmoor/core/drive"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/core/waveform"
)

// Front is a front end and what else is asked of it: its charging through a precharge
// resistor, what is left of a three-phase rating (load_watts) on one phase, several
// drives on its bus, the life of its capacitor.
type Front struct {
	rectifier.Case
	PrechargeOhm *float64          `json:"precharge_ohm"`
	Derate       bool              `json:"derate"`
	Drives       []rectifier.Drive `json:"drives"`
	Can          *Can              `json:"can"`
}

// Can is the bus capacitor's rating and the air around it.
type Can struct {
	rectifier.Can
	Celsius float64 `json:"celsius"`
}

// FrontResult holds what was asked for.
type FrontResult struct {
	Precharge   *rectifier.Charging     `json:"precharge,omitempty"`
	SinglePhase *rectifier.SinglePhase  `json:"single_phase,omitempty"`
	Drives      []rectifier.SharedDrive `json:"drives,omitempty"`
	LifeHours   *float64                `json:"life_hours,omitempty"`
}

// check says what is wrong with a front end, by JSON paths.
func (f Front) check() (problems rule.Problems) {
	for i, d := range f.Drives {
		for k := range i {
			if f.Drives[k].ID == d.ID {
				problems.Say(fmt.Sprintf("$.drives[%d].id", i), "%q is taken by $.drives[%d]", d.ID, k)
			}
		}
	}
	if f.Bridge.Topology != rectifier.Doubler {
		return problems
	}
	if f.Derate {
		problems.Say("$.derate", "a doubler is no three-phase bridge to be derated")
	}
	if len(f.Drives) > 0 {
		problems.Say("$.drives", "drives share the bus of a bridge, not of a doubler")
	}
	if f.Bridge.Phases != 1 {
		problems.Say("$.bridge.phases", "a doubler has one phase")
	}
	if f.Bridge.DCChokeMH > 0 || f.Bridge.DCChokeOhm > 0 {
		problems.Say("$.bridge", "a doubler has no place for a dc choke: its line goes to the middle of the bus")
	}
	return problems
}

func (f Front) solve() (r rectifier.Result, more FrontResult, err error) {
	if len(f.Drives) > 0 {
		shared, err := rectifier.Share(f.Case, f.Drives)
		if err != nil {
			return r, more, err
		}
		r, more.Drives = shared.Bus, shared.Drives
		for _, d := range f.Drives {
			f.Bridge.BusMicrofarad += d.BusMicrofarad
			f.LoadWatts += d.Watts
		}
	} else if r, err = rectifier.Solve(f.Case); err != nil {
		return r, more, err
	}
	if f.PrechargeOhm != nil {
		more.Precharge = new(rectifier.Precharge(f.Case, *f.PrechargeOhm))
	}
	if f.Derate {
		left, err := rectifier.Derate(f.Case)
		if err != nil {
			return r, more, err
		}
		more.SinglePhase = &left
	}
	if f.Can != nil {
		more.LifeHours = new(f.Can.Life(r.CapacitorRMSAmps, f.Can.Celsius))
	}
	return r, more, nil
}

// Off is a network whose supply opens on its running motors.
type Off struct {
	network.Case
	Seconds float64 `json:"seconds"`
}

// usualOff is how long the terminals are watched where nothing is said.
const usualOff = 10

func (o Off) solve() (waveform.Off, []rule.Verdict, error) {
	if o.Seconds == 0 {
		o.Seconds = usualOff
	}
	r, err := network.Solve(o.Case)
	if err != nil {
		return waveform.Off{}, nil, err
	}
	c := waveform.Running(o.Case, r)
	off, err := waveform.SwitchOff(c, o.Seconds)
	if err == nil {
		err = off.Search(c)
	}
	microfarad := 0.0
	for _, p := range o.Capacitors {
		microfarad += p.Microfarad
	}
	return off, append([]rule.Verdict{}, off.Judge(microfarad)...), err
}

// Heat is a motor's duty over a session: spells on and off with what heats in each.
type Heat struct {
	OutputWatts    float64 `json:"output_watts"`
	Class          string  `json:"insulation_class"`
	RiseKelvin     float64 `json:"rise_kelvin"`
	AmbientCelsius float64 `json:"ambient_celsius"`
	SessionMinutes float64 `json:"session_minutes"`
	Duty           []Spell `json:"duty"`
}

// Spell is a time in one state: winding amps and all losses in percent of those at
// plate load; nothing said of them means off and standing.
type Spell struct {
	Minutes        float64     `json:"minutes"`
	WindingPercent *[3]float64 `json:"winding_percent"`
	LossPercent    float64     `json:"loss_percent"`
}

// HeatResult is a duty's temperatures.
type HeatResult struct {
	Thermal      motor.Thermal        `json:"thermal"`
	HottestC     float64              `json:"hottest_c"`
	HighestFrame float64              `json:"highest_frame_c"`
	Session      []motor.Temperatures `json:"session"`
	Verdicts     []rule.Verdict       `json:"verdicts"`
}

func (h Heat) solve() HeatResult {
	t := motor.ThermalOf(motor.Body{
		Watts: h.OutputWatts, Class: h.Class, RiseK: h.RiseKelvin, AmbientC: h.AmbientCelsius,
	})
	var duty []motor.Spell
	for _, s := range h.Duty {
		spell := motor.Spell{Minutes: s.Minutes}
		if s.WindingPercent != nil {
			spell.Turning, spell.Losses = true, s.LossPercent/100
			for k, p := range s.WindingPercent {
				spell.Windings[k] = p * p / 1e4
			}
		}
		duty = append(duty, spell)
	}
	r := HeatResult{Thermal: t, Session: t.Session(duty, h.SessionMinutes), Verdicts: []rule.Verdict{}}
	for _, at := range r.Session {
		r.HottestC, r.HighestFrame = max(r.HottestC, at.Hottest()), max(r.HighestFrame, at.Frame)
	}
	r.Verdicts = append(r.Verdicts, t.Judge(r.Session)...)
	return r
}

// Drive is a motor on a drive: torque across the frequencies, and the pulses of one of
// them where they are asked for.
type Drive struct {
	Motor  drive.Motor   `json:"motor"`
	VHz    drive.VHz     `json:"volts_per_hertz"`
	Hertz  []float64     `json:"hertz"`
	Pulses *drive.Pulses `json:"pulses"`
}

// DriveResult is what was asked of a drive.
type DriveResult struct {
	BaseHertz float64            `json:"base_hertz"`
	Speed     []drive.SpeedPoint `json:"speed"`
	Pulses    *drive.Pulsed      `json:"pulses,omitempty"`
}

func (d Drive) check() rule.Problems {
	standing := d.Motor.Motor
	standing.Slip = new(1.0)
	problems := network.CurveProblems("$.motor.circuit.magnetising_curve", &standing.Circuit)
	if d.Pulses != nil {
		if _, err := d.Pulses.Output(standing); err != nil {
			problems.Say("$.pulses", "%s", err)
		}
	}
	return problems
}

func (d Drive) solve() (r DriveResult, err error) {
	r.BaseHertz = d.VHz.BaseHertz()
	if r.Speed, err = d.Motor.Across(d.VHz, d.Hertz); err != nil {
		return r, err
	}
	if d.Pulses != nil {
		out, err := d.Pulses.Output(d.Motor.Motor)
		if err != nil {
			return r, err
		}
		r.Pulses = &out
	}
	return r, nil
}
