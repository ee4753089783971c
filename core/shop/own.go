package shop

import (
	"brackmoor/core/load"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// Own is what a shop's Rulebook has of its own: kinds of load beside the usual ones, and figures
// in the place of those of a code's tables.
type Own struct {
	Loads []load.Kind     `json:"loads,omitempty" maxItems:"40"`
	Code  []supply.Figure `json:"code,omitempty" maxItems:"400"`
}

// Check says what is wrong with it, by JSON paths under its own.
func (o Own) Check() (problems rule.Problems) {
	problems = append(problems, load.CheckOwn(o.Loads).Under("loads")...)
	return append(problems, supply.CheckFigures(o.Code).Under("code")...)
}

// Around is what a question of one motor alone needs of its shop.
func (s *Shop) Around() Shop {
	return Shop{Supply: s.Supply, Prices: s.Prices, Weights: s.Weights, Own: s.Own}
}
