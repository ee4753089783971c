package main

import (
	"context"

	"github.com/spf13/cobra"

	"brackmoor/core/tunefile"
)

func tuneCommand(c *console) *cobra.Command {
	return &cobra.Command{
		Use:   "tune READINGS.json",
		Short: "Learn a converter from its readings, and name the capacitors to change next (- for standard input)",
		Long: "Fits volts and amps that were read to the machines behind them, names readings that fit nothing, and " +
			"says which capacitors of the shelf to add or take out next, and what will be read then.\n\n" + caution,
		Example: "  brackmoor tune readings.json",
		Args:    words(1, 1, "one file, or -"),
		RunE: work(func(_ context.Context, args []string) error {
			text, err := readInput(c, args[0])
			if err != nil {
				return err
			}
			f, readings, problems := tunefile.Read(text)
			if problems != nil {
				return problemLines(problems)
			}
			return c.writeJSON(tunefile.Solve(f, readings))
		}),
	}
}
