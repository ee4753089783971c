package main

import (
	"context"

	"github.com/spf13/cobra"

	"brackmoor/core/winding"
)

func leadsCommand(c *console) *cobra.Command {
	return &cobra.Command{
		Use:     "leads READINGS.json",
		Short:   "Find a motor's windings from meter readings (- for standard input)",
		Example: "  brackmoor leads readings.json",
		Args:    words(1, 1, "one file, or -"),
		RunE: work(func(_ context.Context, args []string) error {
			text, err := readInput(c, args[0])
			if err != nil {
				return err
			}
			readings, problems := winding.ReadFile(text)
			if problems != nil {
				return problemLines(problems)
			}
			return c.writeJSON(winding.Analyse(readings).Finding)
		}),
	}
}
