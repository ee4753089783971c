package sheet

import (
	"slices"

	"brackmoor/core/feed"
	"brackmoor/core/rule"
)

// Brief is the answer for the way taken in a few words, with what was said of it;
// cautions that stand on every motor of that way are left out.
func Brief(q *feed.Question) (words string, said []rule.Verdict, err error) {
	if words, said, err = q.Choice.Taken().Brief(q); err != nil {
		return "", nil, err
	}
	return words, slices.DeleteFunc(slices.Clone(said), func(v rule.Verdict) bool {
		return v.Says == rule.Get(v.Rule).Why
	}), nil
}
