package main

import (
	"context"

	"github.com/spf13/cobra"

	"brackmoor/core/faultfile"
)

func diagnoseCommand(c *console) *cobra.Command {
	var list bool
	cmd := &cobra.Command{
		Use:   "diagnose CASE.json",
		Short: "Find what is wrong with a machine from what is seen, heard and read (- for standard input)",
		Long: "Does every cause that is known to the model of the machine and its circuit, weighs each by how well " +
			"what it would show agrees with what is seen, and names the look that parts them best, dead before live." +
			"\n\n" + caution,
		Example: "  brackmoor diagnose case.json\n  brackmoor diagnose --list",
		Args: func(cmd *cobra.Command, args []string) error {
			if list {
				return words(0, 0, "no file with --list")(cmd, args)
			}
			return words(1, 1, "one file, or -")(cmd, args)
		},
	}
	cmd.Flags().BoolVar(&list, "list", false, "print the causes, symptoms and looks that are known")
	cmd.RunE = work(func(_ context.Context, args []string) error {
		if list {
			return c.writeJSON(faultfile.List())
		}
		text, err := readInput(c, args[0])
		if err != nil {
			return err
		}
		seen, problems := faultfile.Read(text)
		if problems != nil {
			return problemLines(problems)
		}
		return c.writeJSON(faultfile.Solve(&seen))
	})
	return cmd
}
