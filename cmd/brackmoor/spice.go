package main

import (
	"context"
	"fmt"

	"brackmoor/core/casefile"
	"brackmoor/sheet/spice"
)

func writeSpice(_ context.Context, c *console, args []string) error {
	set := flags(c, "spice")
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
	netlist, err := spice.Netlist(document)
	if err != nil {
		return unanswered(err)
	}
	_, err = fmt.Fprint(c.out, netlist)
	return err
}
