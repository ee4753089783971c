package main

import (
	"context"
	"errors"

	"github.com/spf13/cobra"

	"brackmoor/core/casefile"
	"brackmoor/core/network"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
	"brackmoor/sheet/spice"
)

// readCase reads the case in a file.
func readCase(c *console, name string) (casefile.Document, error) {
	text, err := readInput(c, name)
	if err != nil {
		return casefile.Document{}, err
	}
	document, problems := casefile.Read(text)
	if problems != nil {
		return document, problemLines(problems)
	}
	return document, nil
}

func solveCommand(c *console) *cobra.Command {
	return &cobra.Command{
		Use:     "solve CASE.json",
		Short:   "Solve a network case: steady, in time, starts, heat, switch-off, drives (- for standard input)",
		Example: "  brackmoor solve case.json",
		Args:    words(1, 1, "one case, or -"),
		RunE: work(func(_ context.Context, args []string) error {
			document, err := readCase(c, args[0])
			if err != nil {
				return err
			}
			result, err := casefile.Solve(document)
			if err != nil {
				return unanswered(err)
			}
			return c.writeJSON(result)
		}),
	}
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
