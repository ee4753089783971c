// Brackmoor plans the feeding of three-phase machines from one phase.
package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"strings"
	"syscall"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"
)

// The exit codes: bad input, and everything else that fails.
const (
	exitFault = 1
	exitInput = 2
)

// console is where a command reads and writes.
type console struct {
	in       io.Reader
	out, err io.Writer
}

// inputError is a fault of what was given; its lines are printed as they are.
type inputError struct{ lines []string }

func (e *inputError) Error() string { return fmt.Sprintf("%d problems with the input", len(e.lines)) }

func bad(format string, args ...any) error {
	return &inputError{[]string{fmt.Sprintf(format, args...)}}
}

// commands is the whole command line.
func commands(c *console) *cobra.Command {
	root := &cobra.Command{
		Use:           "brackmoor",
		Short:         "Three-phase machine tools on a single-phase supply",
		Long:          "Brackmoor plans and checks the feeding of three-phase machines from one phase.\n" + caution,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.SetIn(c.in)
	root.SetOut(c.out)
	root.SetErr(c.err)
	root.SetFlagErrorFunc(unknownFlag)
	root.AddCommand(
		serveCommand(
			c,
		),
		demoCommand(c),
		solveCommand(c),
		spiceCommand(c),
		plateCommand(c),
		sizeCommand(c),
		floorCommand(c),
		wireCommand(c),
		leadsCommand(c),
		tuneCommand(c),
		diagnoseCommand(c),
		driveCommand(c),
		driveSimCommand(c),
		exportCommand(c),
		importCommand(c),
		backupCommand(c),
		restoreCommand(c),
		checkCommand(c),
		passphraseCommand(c),
		peopleCommand(c),
		openapiCommand(c),
	)
	return root
}

const caution = "This is mains voltage. Local code, permit and a licensed electrician have the last word."

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	os.Exit(run(ctx, &console{os.Stdin, os.Stdout, os.Stderr}, os.Args[1:]))
}

// failed is an error of a command's own work, rather than of how it was called.
type failed struct {
	command string
	err     error
}

func (f *failed) Error() string { return "brackmoor " + f.command + ": " + f.err.Error() }

func (f *failed) Unwrap() error { return f.err }

// run is main without the process around it.
func run(ctx context.Context, c *console, args []string) int {
	root := commands(c)
	root.SetArgs(args)
	err := root.ExecuteContext(ctx)
	var input *inputError
	var fault *failed
	switch {
	case err == nil:
		return 0
	case errors.As(err, &input):
		for _, line := range input.lines {
			fmt.Fprintln(c.err, line)
		}
		return exitInput
	case errors.As(err, &fault):
		fmt.Fprintln(c.err, fault)
		return exitFault
	}
	// Of a command that is not there the nearest ones are told.
	fmt.Fprintln(c.err, "brackmoor: "+strings.TrimSpace(err.Error()))
	return exitInput
}

// words takes as many words behind the command and its flags, and says what they are.
func words(least, most int, what string) cobra.PositionalArgs {
	return func(cmd *cobra.Command, args []string) error {
		if len(args) < least || len(args) > most {
			return bad("brackmoor %s: wrong number of arguments: it takes %s; see brackmoor %s --help",
				cmd.Name(), what, cmd.Name())
		}
		return nil
	}
}

// work is a command's own work, whose errors are told as its own.
func work(do func(ctx context.Context, args []string) error) func(*cobra.Command, []string) error {
	return func(cmd *cobra.Command, args []string) error {
		if err := do(cmd.Context(), args); err != nil {
			return &failed{strings.TrimPrefix(cmd.CommandPath(), cmd.Root().Name()+" "), err}
		}
		return nil
	}
}

// nearest is what a word that is not known may have meant, or nothing.
func nearest(word string, known []string) string {
	list := &cobra.Command{SuggestionsMinimumDistance: 3}
	for _, k := range known {
		list.AddCommand(&cobra.Command{Use: k, Run: func(*cobra.Command, []string) {}})
	}
	if found := list.SuggestionsFor(word); len(found) > 0 {
		return "; did you mean " + found[0] + "?"
	}
	return ""
}

// unknownFlag says which flag is nearest to one that is not known.
func unknownFlag(cmd *cobra.Command, err error) error {
	var known []string
	cmd.Flags().VisitAll(func(f *pflag.Flag) { known = append(known, f.Name) })
	name, unknown := strings.CutPrefix(err.Error(), "unknown flag: --")
	if unknown {
		return bad("brackmoor %s: there is no flag --%s%s", cmd.Name(), name, nearest(name, known))
	}
	return bad("brackmoor %s: %s", cmd.Name(), err)
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
