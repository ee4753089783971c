package main

import (
	"context"
	"fmt"

	"brackmoor/sheet/spice"
)

func writeSpice(_ context.Context, c *console, args []string) error {
	document, err := readCase(c, "spice", args)
	if err != nil {
		return err
	}
	netlist, err := spice.Netlist(document)
	if err != nil {
		return unanswered(err)
	}
	_, err = fmt.Fprint(c.out, netlist)
	return err
}
