package study

import (
	"brackmoor/core/route"
	"brackmoor/core/shop"
)

// Question is the motor as the routes are asked about it in a shop; the reading must be
// sound.
func (s Study) Question(sh shop.Shop) route.Input {
	return route.Input{Capacitor: s.typed, Way: s.way, MainAmps: sh.Supply.MainAmps, Prices: sh.Prices}
}
