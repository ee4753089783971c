package capacitor

import (
	"fmt"
	"math"

	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
)

// Relay is the volts a potential relay sees between the made leg and the line Line, on
// which the capacitors do not hang, for there they rise with speed: at standstill, at the
// speed at which it should act, and up to speed, unloaded, with the start capacitor gone.
// PickUp is nil where it cannot tell the speed by them.
type Relay struct {
	Line     string   `json:"line"`
	Standing float64  `json:"standing_volts"`
	CutOut   float64  `json:"cut_out_volts"`
	Running  float64  `json:"running_volts"`
	PickUp   *float64 `json:"pick_up_volts"`
}

// RunUpPoint is a moment of a start.
type RunUpPoint struct {
	Seconds float64 `json:"t_s"`
	RPM     float64 `json:"rpm"`
	Percent float64 `json:"hottest_percent"` // of plate amps, in the hottest winding
	Volts   float64 `json:"capacitor_volts"`
	Supply  float64 `json:"supply_amps"`
}

// RunUp is a start followed to its end. Seconds are to 90 percent of synchronous speed,
// nil if never.
type RunUp struct {
	Shaft         machine.Shaft `json:"shaft"`
	State         string        `json:"state"`
	Seconds       *float64      `json:"seconds"`
	FinalRPM      float64       `json:"final_rpm"`
	CutOutSeconds *float64      `json:"cut_out_seconds"`
	TimerSeconds  *float64      `json:"timer_seconds"`
	Relay         *Relay        `json:"relay"` // nil without a start capacitor
	PeakSupply    float64       `json:"peak_supply_amps"`
	RiseK         float64       `json:"rise_k"` // of the hottest winding in one start
	StartsPerHour float64       `json:"starts_per_hour"`
	Points        []RunUpPoint  `json:"points" nullable:"false"`

	heat   [3]float64 // ∫(amps/rated)²dt of the windings
	joules float64
}

// mostPoints is how many points of a start are shown.
const mostPoints = 90

// runUp follows a start with its capacitors. Torques count as a verdict may count on
// them: the circuit's, brought down to the class minimum by a harder load.
func (r *rig) runUp(run, start, share, cutOut float64) RunUp {
	s := r.in.Shaft()
	up := RunUp{Shaft: s, Points: []RunUpPoint{}}
	c := r.startCase(run, start, share, cutOut, s.RotorKgm2+s.LoadKgm2)
	result, err := startup.Run(c)
	if err != nil {
		up.State = network.Stalled
		return up
	}
	m := result.Motors[0]
	up.State, up.Seconds, up.FinalRPM, up.PeakSupply = m.State, m.TimeTo90, math.Abs(
		m.FinalRPM,
	), r.in.Mains(
		result.PeakSupplyAmps,
	)
	for k, a := range m.WindingAmps2Seconds {
		up.heat[k] = a / (r.windings * r.windings)
		up.RiseK = math.Max(up.RiseK, r.in.Thermal.StartRiseK(up.heat[k]))
	}
	up.joules = m.CopperJoules
	if start > 0 {
		for _, p := range result.Capacitors {
			if p.ID == startID && p.OutSeconds != nil {
				up.CutOutSeconds = p.OutSeconds
				up.TimerSeconds = new(timerMargin * *p.OutSeconds)
			}
		}
		up.Relay = r.relay(run, start, cutOut)
	}
	every := float64(len(result.Points)-1) / (mostPoints - 1)
	last := -1
	for i := range mostPoints {
		at := int(math.Round(float64(i) * every))
		if every < 1 {
			at = i
		}
		if at >= len(result.Points) || at == last {
			continue
		}
		last = at
		p := result.Points[at]
		hottest := 0.0
		for _, amps := range p.Motors[0].WindingAmps {
			hottest = math.Max(hottest, 100*amps/r.windings)
		}
		volts := p.Volts.CA
		if r.pair == network.BC {
			volts = p.Volts.BC
		}
		up.Points = append(
			up.Points,
			RunUpPoint{
				Seconds: p.Seconds,
				RPM:     math.Abs(p.Motors[0].RPM),
				Percent: hottest,
				Volts:   volts,
				Supply:  r.in.Mains(p.SupplyAmps),
			},
		)
	}
	return up
}

// Ids of the elements.
const (
	motorID = "motor"
	runID   = "run"
	startID = "start"
)

// timerMargin is what a start timer is set above the time computed. Shop practice.
const timerMargin = 1.3

// startCase is the start for the model of starting. The load is raised by what the
// circuit's torque stands above the minimum of its class.
func (r *rig) startCase(run, start, share, cutOut, inertia float64) startup.Case {
	n := r.network(0)
	m := startup.Motor{Motor: n.Motors[0]}
	m.InertiaKgm2 = inertia
	curve := r.in.LoadCurve(share)
	m.Shaft = &curve
	c := startup.Case{Supply: r.in.Supply, Motors: []startup.Motor{m}}
	if run > 0 {
		c.Capacitors = append(
			c.Capacitors,
			startup.Capacitor{Capacitor: network.Capacitor{ID: runID, Between: r.pair, Microfarad: run}},
		)
	}
	if start > 0 {
		c.Capacitors = append(
			c.Capacitors,
			startup.Capacitor{Capacitor: network.Capacitor{ID: startID, Between: r.pair, Microfarad: start},
				Out: &startup.Out{By: startup.BySpeed, At: cutOut}},
		)
	}
	return c
}

// relay is what a potential relay would see.
func (r *rig) relay(run, start, cutOut float64) *Relay {
	volts := func(s State) float64 { return s.Volts.BC }
	s := &Relay{Line: r.lines().B}
	if r.pair == network.BC {
		volts, s.Line = func(s State) float64 { return s.Volts.CA }, r.lines().A
	}
	s.Standing, s.CutOut, s.Running = volts(
		r.held(run+start, 1),
	), volts(
		r.held(run+start, 1-cutOut/r.synchrony),
	), volts(
		r.at(run, 0),
	)
	apart := rule.Limit("start.no-relay", "least_margin")
	if s.CutOut > apart*s.Standing {
		s.PickUp = new(s.CutOut)
	}
	return s
}

// startsPerHour is how many starts the hottest winding bears beside running at its load.
func (r *rig) startsPerHour(up RunUp, loaded State) float64 {
	if up.Seconds == nil {
		return 0
	}
	return r.in.Thermal.StartsPerHour(r.heating(loaded), up.heat, up.joules, r.in.RatedLosses())
}

// startVerdictsOf judges a start followed to its end.
func (r *rig) startVerdictsOf(up RunUp, loaded State, say rule.Say) {
	if up.State != network.Stalled { // that it does not break away is judged by its torque
		startup.Coming{
			Who: "It", State: up.State, RPM: up.FinalRPM, Seconds: up.Seconds, Followed: startup.DefaultSeconds,
		}.Judge(startup.Help{
			Hangs:  "Leave the start capacitor in longer, lighten the load while it comes up, or take another route.",
			Rising: "Bring it up unloaded, or take another route.",
			Slow:   "Raise the start capacitor, or bring it up unloaded.",
		}, say)
	}
	if up.Seconds == nil {
		return
	}
	t := r.in.Thermal
	switch {
	case up.StartsPerHour < 1 && t.Settled(r.heating(loaded)).Hottest() > t.LimitC:
		// It is too hot without any start: that is said of the load.
	case up.StartsPerHour < 1:
		say(
			"start.seldom",
			rule.Numbers{"rise_k": up.RiseK, "starts_per_hour": up.StartsPerHour},
			"Let it cool before a start, or lighten load or start.",
			"Warm from its load it bears %.1f starts an hour; each heats the hottest winding by %.0f K.",
			up.StartsPerHour,
			up.RiseK,
		)
	case up.RiseK > rule.Limit("start.heat", "most_kelvin_share")*t.WindingRiseK:
		say(
			"start.heat",
			rule.Numbers{"rise_k": up.RiseK, "starts_per_hour": up.StartsPerHour},
			fmt.Sprintf("At most %.0f starts an hour, evenly spread.", math.Floor(up.StartsPerHour)),
			"One start heats the hottest winding by %.0f K.",
			up.RiseK,
		)
	}
	if limit := motor.MostLoadInertia(r.in.Plate.Output.Value, r.synchrony); up.Shaft.LoadKgm2 > limit {
		say(
			"start.inertia",
			rule.Numbers{"load_kgm2": up.Shaft.LoadKgm2, "usual_most_kgm2": limit},
			"Time the first start, and feel the heat of two in a row.",
			"The load's inertia of %s kg·m² is above the %s that such a motor is built to bring up on its full three "+
				"phases.",
			quantity.Figures(up.Shaft.LoadKgm2, 2),
			quantity.Figures(limit, 2),
		)
	}
	if up.Relay != nil && up.Relay.PickUp == nil {
		say(
			"start.no-relay",
			rule.Numbers{"standing_volts": up.Relay.Standing, "cut_out_volts": up.Relay.CutOut},
			"Take a timer or a centrifugal switch.",
			"Between the made leg and line %s stand %.0f V at standstill and %.0f at the speed where the start "+
				"capacitor should leave.",
			up.Relay.Line,
			up.Relay.Standing,
			up.Relay.CutOut,
		)
	}
}
