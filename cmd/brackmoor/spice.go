package main

import (
	"context"
	"fmt"

	"github.com/spf13/cobra"

	"brackmoor/sheet/spice"
)

func spiceCommand(c *console) *cobra.Command {
	return &cobra.Command{
		Use:     "spice CASE.json",
		Short:   "Write a case as a netlist for ngspice (- for standard input)",
		Example: "  brackmoor spice case.json > case.cir && ngspice -b case.cir",
		Args:    words(1, 1, "one case, or -"),
		RunE: work(func(_ context.Context, args []string) error {
			document, err := readCase(c, args[0])
			if err != nil {
				return err
			}
			netlist, err := spice.Netlist(document)
			if err != nil {
				return unanswered(err)
			}
			_, err = fmt.Fprint(c.out, netlist)
			return err
		}),
	}
}
