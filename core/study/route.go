package study

import "brackmoor/core/route"

// Question is the motor as the routes are asked about it, on a circuit of so many amps;
// the reading must be sound.
func (s Study) Question(mainAmps float64) route.Input {
	return route.Input{Capacitor: s.Input, MainAmps: mainAmps}
}
