// Brackmoor plans the feeding of three-phase machines from one phase.
package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"
)

// The exit codes: bad input, and everything else that fails.
const (
	exitFault = 1
	exitInput = 2
)

// command is one word of the command line.
type command struct {
	name, usage string
	run         func(ctx context.Context, c *console, args []string) error
}

// console is where a command reads and writes.
type console struct {
	in       io.Reader
	out, err io.Writer
}

// inputError is a fault of what was given; its lines are printed as they are.
type inputError struct{ lines []string }

func (e *inputError) Error() string { return fmt.Sprintf("%d problems with the input", len(e.lines)) }

func commands() []command {
	return []command{
		{"serve", "serve --db FILE --listen HOST:PORT   run Brackmoor", serve},
		{"demo", "demo --db FILE --listen HOST:PORT    run it with the demo shops loaded", runDemo},
		{"solve", "solve CASE.json                      solve a network case (- for standard input)", solve},
		{
			"spice",
			"spice CASE.json                      write a case as a netlist for ngspice (- for standard input)",
			writeSpice,
		},
		{
			"plate",
			"plate TEXT                           read the text of a nameplate (- for standard input)",
			readPlate,
		},
		{
			"size",
			"size --supply V/HZ PLATE.json        set the routes for a plate side by side (- for standard input; " +
				"--text for a table)",
			size,
		},
		{
			"leads",
			"leads READINGS.json                  find a motor's windings from meter readings (- for standard input)",
			findLeads,
		},
		{"export", "export --db FILE [OUT.json]          write all shops as JSON", export},
		{"import", "import --db FILE IN.json             merge shops from JSON, all or nothing", importFile},
		{"backup", "backup --db FILE OUT                 copy the database consistently", backup},
		{"passphrase", "passphrase --db FILE                 set the passphrase asked for off loopback", setPassphrase},
		{"openapi", "openapi                              print the API's OpenAPI document", openapi},
	}
}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	os.Exit(run(ctx, &console{os.Stdin, os.Stdout, os.Stderr}, os.Args[1:]))
}

// run is main without the process around it.
func run(ctx context.Context, c *console, args []string) int {
	if len(args) == 0 || args[0] == "help" || args[0] == "-h" || args[0] == "--help" {
		usage(c.out)
		return 0
	}
	for _, cmd := range commands() {
		if cmd.name != args[0] {
			continue
		}
		err := cmd.run(ctx, c, args[1:])
		var bad *inputError
		switch {
		case err == nil, errors.Is(err, flag.ErrHelp):
			return 0
		case errors.As(err, &bad):
			for _, line := range bad.lines {
				fmt.Fprintln(c.err, line)
			}
			return exitInput
		}
		fmt.Fprintln(c.err, "brackmoor "+cmd.name+": "+err.Error())
		return exitFault
	}
	fmt.Fprintf(c.err, "brackmoor: there is no command %q\n", args[0])
	usage(c.err)
	return exitInput
}

func usage(w io.Writer) {
	fmt.Fprintln(w, "brackmoor COMMAND, where COMMAND is one of")
	for _, cmd := range commands() {
		fmt.Fprintln(w, "  "+cmd.usage)
	}
}

// flags makes a flag set that reports wrong use as bad input.
func flags(c *console, name string) *flag.FlagSet {
	set := flag.NewFlagSet("brackmoor "+name, flag.ContinueOnError)
	set.SetOutput(c.err)
	return set
}

// parse reads flags and checks how many words stand behind them.
func parse(set *flag.FlagSet, args []string, least, most int) error {
	if err := set.Parse(args); err != nil {
		if errors.Is(err, flag.ErrHelp) {
			return err
		}
		return &inputError{nil} // the flag set has said it
	}
	if set.NArg() < least || set.NArg() > most {
		return &inputError{[]string{set.Name() + ": wrong number of arguments; see brackmoor help"}}
	}
	return nil
}

// writeJSON prints a result for people and programs alike.
func (c *console) writeJSON(value any) error {
	encoder := json.NewEncoder(c.out)
	encoder.SetIndent("", "  ")
	return encoder.Encode(value)
}

// readInput reads a named file, or standard input for "-".
func readInput(c *console, name string) ([]byte, error) {
	const most = 16 << 20
	source := c.in
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, &inputError{[]string{err.Error()}}
		}
		defer func() { _ = file.Close() }() // it was only read
		source = file
	}
	text, err := io.ReadAll(io.LimitReader(source, most+1))
	if err != nil {
		return nil, &inputError{[]string{err.Error()}}
	}
	if len(text) > most {
		return nil, &inputError{[]string{"$: the input is larger than 16 MB"}}
	}
	return text, nil
}
