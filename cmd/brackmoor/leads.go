package main

import (
	"context"

	"brackmoor/core/winding"
)

func findLeads(_ context.Context, c *console, args []string) error {
	set := flags(c, "leads")
	if err := parse(set, args, 1, 1); err != nil {
		return err
	}
	text, err := readInput(c, set.Arg(0))
	if err != nil {
		return err
	}
	readings, problems := winding.ReadFile(text)
	if problems != nil {
		return problemLines(problems)
	}
	return c.writeJSON(winding.Analyse(readings).Finding)
}
