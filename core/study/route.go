package study

import "brackmoor/core/route"

// Asked is what is asked of the routes beside the motor itself.
type Asked struct {
	MainAmps        float64
	Wishes          route.Wishes
	Controls        route.Controls
	Prices          route.Prices
	OnePhaseAllowed *bool
}

// Routes sets the ways of feeding the motor side by side; the reading must be sound.
func (s Study) Routes(a Asked) route.Answer {
	return route.Compare(route.Input{Capacitor: s.Input, MainAmps: a.MainAmps, Wishes: a.Wishes, Controls: a.Controls, Prices: a.Prices, OnePhaseAllowed: a.OnePhaseAllowed})
}
