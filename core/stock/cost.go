package stock

import (
	"fmt"

	"brackmoor/core/rule"
)

// Cost is what a shop pays for one of a line of its lists of parts, or for a metre or a foot of it: by what the line
// says.
type Cost struct {
	What string  `json:"what" minLength:"1" maxLength:"200"`
	Each float64 `json:"each" minimum:"0" maximum:"10000000"`
}

// CheckCosts says what is wrong with a list, by its own paths.
func CheckCosts(list []Cost) (problems rule.Problems) {
	seen := map[string]bool{}
	for i, c := range list {
		if seen[c.What] {
			problems.Say(fmt.Sprintf("[%d].what", i), "%s has two prices", c.What)
		}
		seen[c.What] = true
	}
	return problems
}
