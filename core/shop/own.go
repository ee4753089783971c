package shop

import (
	"fmt"
	"slices"

	"brackmoor/core/load"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
	"brackmoor/core/supply"
)

// Own is what a shop has of its own: kinds of load beside the usual ones, figures in the place of those
// of a code's tables, and whether wiring is theirs to do.
type Own struct {
	Loads []load.Kind     `json:"loads,omitempty" maxItems:"40"`
	Code  []supply.Figure `json:"code,omitempty" maxItems:"400"`
	Mine  []string        `json:"mine,omitempty" maxItems:"20"` // ticked items of the checklist
	// Stores is what is on hand.
	Stores []stock.Item `json:"stores,omitempty" maxItems:"1000"`
	// Costs are what it pays for parts of its lists.
	Costs []stock.Cost `json:"costs,omitempty" maxItems:"1000"`
}

// Check says what is wrong with it, by JSON paths under its own.
func (o Own) Check() (problems rule.Problems) {
	problems = append(problems, load.CheckOwn(o.Loads).Under("loads")...)
	for i, name := range o.Mine {
		if !slices.ContainsFunc(Checklist, func(c CheckItem) bool { return c.Name == name }) {
			problems.Say(fmt.Sprintf("mine[%d]", i), "there is no such item on the checklist")
		}
	}
	problems = append(problems, stock.Check(o.Stores).Under("stores")...)
	problems = append(problems, stock.CheckCosts(o.Costs).Under("costs")...)
	return append(problems, supply.CheckFigures(o.Code).Under("code")...)
}

// Around is what a question of one motor alone needs of its shop.
func (s *Shop) Around() Shop {
	return Shop{Supply: s.Supply, Prices: s.Prices, Weights: s.Weights, Own: s.Own}
}
