package capacitor

import (
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Step is one of the volts at which a motor is first tried, with what to expect.
// Amps are those of the line that draws most.
type Step struct {
	Percent       float64 `json:"percent"` // of the supply's volts
	Volts         float64 `json:"volts"`
	StandingAmps  float64 `json:"standing_amps"`
	Turns         bool    `json:"turns"`          // it makes enough torque to start bare
	IdleAmps      float64 `json:"idle_amps"`      // 0 where it does not run
	AbortStanding float64 `json:"abort_standing"` // amps past which it is switched off at once
	AbortIdle     float64 `json:"abort_idle"`
}

// Energise plans the first energising on these capacitors, uncoupled, in steps of
// rising volts, iron and leakage saturating as they will.
func Energise(in Input, run, start float64) []Step {
	over := 1 + rule.Limit("energise.abort", "over_percent")/100
	var steps []Step
	for _, share := range []float64{0.25, 0.5, 0.75, 1} {
		low := in
		low.Supply.Volts *= share
		r := newRig(low)
		r.orient()
		standing, held := r.standing(run + start)
		s := Step{
			Percent:      100 * share,
			Volts:        low.Supply.Volts,
			StandingAmps: held.LineAmps.Max(),
			Turns:        standing > rule.Limit("energise.abort", "bare_breakaway_share"),
		}
		s.AbortStanding = s.StandingAmps * over
		if idle := r.at(run, 0); s.Turns && idle.Motor == network.Running {
			s.IdleAmps = idle.LineAmps.Max()
			s.AbortIdle = s.IdleAmps * over
		}
		steps = append(steps, s)
	}
	return steps
}
