package main

import (
	"context"
	"errors"

	"brackmoor/core/casefile"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/sheet/spice"
)

// readCase reads the case that a command names.
func readCase(c *console, name string, args []string) (casefile.Document, error) {
	set := flags(c, name)
	if err := parse(set, args, 1, 1); err != nil {
		return casefile.Document{}, err
	}
	text, err := readInput(c, set.Arg(0))
	if err != nil {
		return casefile.Document{}, err
	}
	document, problems := casefile.Read(text)
	if problems != nil {
		return document, problemLines(problems)
	}
	return document, nil
}

func solve(_ context.Context, c *console, args []string) error {
	document, err := readCase(c, "solve", args)
	if err != nil {
		return err
	}
	result, err := casefile.Solve(document)
	if err != nil {
		return unanswered(err)
	}
	return c.writeJSON(result)
}

// unanswered turns the errors that say that a case, as it stands, has no answer into
// bad input; the others are faults.
func unanswered(err error) error {
	for _, none := range []error{network.ErrResonance, rectifier.ErrCollapse, rectifier.ErrSwing, spice.ErrNoCircuit} {
		if errors.Is(err, none) {
			return &inputError{[]string{"$: " + err.Error()}}
		}
	}
	return err
}

func problemLines(problems rule.Problems) error {
	bad := &inputError{}
	for _, p := range problems {
		bad.lines = append(bad.lines, p.String())
	}
	return bad
}
