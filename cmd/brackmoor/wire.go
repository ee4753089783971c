package main

import (
	"context"

	"github.com/spf13/cobra"

	"brackmoor/core/circuit"
	"brackmoor/core/ladder"
)

// checkFormat is the name of the format that a circuit's check is printed in.
const checkFormat = "brackmoor.circuit-check/1"

func wireCommand(c *console) *cobra.Command {
	check := ""
	command := &cobra.Command{
		Use:   "wire --check CIRCUIT.json",
		Short: "Run a circuit before it is built: every state, every single fault, every rule (- for standard input)",
		Long: "Reads a circuit of parts and wires, brings it to every state that hands, time and the supply " +
			"can bring it to, also with each single thing broken, and says which rules it breaks and the shortest " +
			"way there.\n\n" +
			caution,
		Example: "  brackmoor wire --check circuit.json",
		Args:    words(0, 0, "no file but that of --check"),
		RunE: work(func(context.Context, []string) error {
			if check == "" {
				return bad("brackmoor wire: say which circuit, --check CIRCUIT.json; see brackmoor wire --help")
			}
			text, err := readInput(c, check)
			if err != nil {
				return err
			}
			own, problems := circuit.Read(text)
			if problems != nil {
				return problemLines(problems)
			}
			return c.writeJSON(struct {
				Format string `json:"format"`
				ladder.Check
			}{checkFormat, ladder.Search(&own)})
		}),
	}
	command.Flags().StringVar(&check, "check", "", "file of a circuit to be judged")
	return command
}
