package main

import (
	"context"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/ladder"
	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/shop"
	"brackmoor/core/study"
)

// checkFormat is the name of the format that a circuit's check is printed in.
const checkFormat = "brackmoor.circuit-check/1"

// wiring is how the wire command was called.
type wiring struct {
	sizing
	check, shop, machine, motor string
	choices                     []string
}

func wireCommand(c *console) *cobra.Command {
	var how wiring
	kinds, ways := []string{}, []string{}
	for _, k := range load.Kinds {
		kinds = append(kinds, k.Name)
	}
	for _, w := range feed.All() {
		ways = append(ways, w.Info().Name)
	}
	var choices []string
	for _, x := range circuit.ChoiceList {
		options := strings.Join(x.Options, ", ")
		if options == "" {
			options = "a number, or yes or no"
		}
		choices = append(choices, fmt.Sprintf("  %-9s %s: %s", x.Name, x.Title, options))
	}
	cmd := &cobra.Command{
		Use:   "wire MACHINE.json | wire --shop SHOP.json --machine ID | wire --check CIRCUIT.json",
		Short: "Make the power and control circuit of a machine, or run one before it is built (- for standard input)",
		Long: "Prints the circuit of a way of feeding as parts with their terminals and wires between them; the " +
			"machine is a plate with --supply, or one of a shop.\n\n" +
			"With --check reads a circuit, brings it to every state that hands, time and the supply can bring it " +
			"to, also with each single thing broken, and says which rules it breaks and the shortest way there.\n\n" +
			"Choices, each as --choice KEY=VALUE, the usual one first:\n" + strings.Join(
			choices,
			"\n",
		) + "\n\n" +
			"Ways: " + strings.Join(
			ways,
			", ",
		) + ".\n\n" + caution,
		Example: "  brackmoor wire --shop shops.json --machine tarn-shaper > circuit.json\n" +
			"  brackmoor wire --check circuit.json",
		Args: words(0, 1, "one plate, or none with --shop or --check"),
		RunE: work(func(_ context.Context, args []string) error { return how.run(c, args, kinds, ways) }),
	}
	f := cmd.Flags()
	f.StringVar(&how.check, "check", "", "file of a circuit to be judged")
	f.StringVar(&how.shop, "shop", "", "file of shops")
	f.StringVar(&how.machine, "machine", "", "id of a machine in it")
	f.StringVar(&how.motor, "motor", "", "id of one of its motors, the first where nothing is said")
	f.StringVar(&how.route, "way", "", "way of feeding, the one taken where nothing is said")
	f.StringArrayVar(&how.choices, "choice", nil, "a choice, KEY=VALUE")
	f.StringVar(&how.supply, "supply", "", "with a plate: volts/hertz of the one-phase supply, such as 240/60")
	f.StringVar(&how.ohms, "source-ohm", "0.15+j0.08", "with a plate: ohms of the whole loop, R+jX")
	f.StringVar(&how.load, "load", kinds[0], "with a plate: kind of load")
	return cmd
}

func (how *wiring) run(c *console, args, kinds, ways []string) error {
	given := len(args)
	for _, name := range []string{how.check, how.shop} {
		if name != "" {
			given++
		}
	}
	if given != 1 {
		return bad("brackmoor wire: give a plate, --shop or --check; see brackmoor wire --help")
	}
	if how.check != "" {
		return how.judge(c)
	}
	var q *feed.Question
	var err error
	if how.shop != "" {
		q, err = how.ofShop(c)
	} else {
		q, err = how.ask(c, args[0], kinds, ways)
	}
	if err != nil {
		return err
	}
	choices := q.Choice.Wiring // as they are kept with a shop's motor
	for _, choice := range how.choices {
		key, value, _ := strings.Cut(choice, "=")
		if err := choices.Set(key, value); err != nil {
			return bad("--choice %s: %s", choice, err)
		}
	}
	w := q.Choice.Taken()
	if how.route != "" {
		found := false
		if w, found = feed.ByName(how.route); !found {
			return bad("--way: there is no way %q%s; there are %s", how.route, nearest(how.route, ways),
				strings.Join(ways, ", "))
		}
	}
	own := w.Wire(q, choices)
	if len(own.Parts) == 0 {
		return bad("--way: %s is not to be had for this machine", w.Info().Name)
	}
	return c.writeJSON(own)
}

// judge runs a circuit and says what it breaks.
func (how *wiring) judge(c *console) error {
	text, err := readInput(c, how.check)
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
}

// ofShop is a machine of a shop as its ways are asked about it.
func (how *wiring) ofShop(c *console) (*feed.Question, error) {
	text, err := readInput(c, how.shop)
	if err != nil {
		return nil, err
	}
	file, problems := shop.ReadFile(text)
	if problems != nil {
		return nil, problemLines(problems)
	}
	var ids []string
	for _, sh := range file.Shops {
		for _, m := range sh.Machines {
			ids = append(ids, m.ID)
			if m.ID != how.machine {
				continue
			}
			for _, o := range m.Motors {
				if how.motor != "" && o.ID != how.motor {
					continue
				}
				st := study.Of(sh.Supply.Settled(), o, motor.FitCircuit, sh.Own.Loads...)
				if !st.Reading.Sound {
					return nil, bad("%s: its plate must be cleared up before anything can be wired from it", m.ID)
				}
				q := st.Ask(sh, m)
				if how.route == "" {
					q = sh.WiredBy(m, o.ID, q)
				}
				return q, nil
			}
			return nil, bad("--motor: %s has no motor %q", m.ID, how.motor)
		}
	}
	return nil, bad("--machine: there is no machine %q%s; there are %s", how.machine, nearest(how.machine, ids),
		strings.Join(ids, ", "))
}
