package main

import (
	"context"
	"errors"

	"brackmoor/core/casefile"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/strict"
)

func solve(_ context.Context, c *console, args []string) error {
	set := flags(c, "solve")
	if err := parse(set, args, 1, 1); err != nil {
		return err
	}
	text, err := readInput(c, set.Arg(0))
	if err != nil {
		return err
	}
	document, problems := casefile.Read(text)
	if problems != nil {
		return problemLines(problems)
	}
	result, err := casefile.Solve(document)
	// These say that the case, as it stands, has no answer.
	for _, none := range []error{network.ErrResonance, rectifier.ErrCollapse, rectifier.ErrSwing} {
		if errors.Is(err, none) {
			return &inputError{[]string{"$: " + err.Error()}}
		}
	}
	if err != nil {
		return err
	}
	return c.writeJSON(result)
}

func problemLines(problems []strict.Problem) error {
	bad := &inputError{}
	for _, p := range problems {
		bad.lines = append(bad.lines, p.String())
	}
	return bad
}
