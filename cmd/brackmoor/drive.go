package main

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"brackmoor/core/drive"
	"brackmoor/drivebus"
)

// onBus is how a drive is come to.
type onBus struct {
	at, profile, meant string
	every              time.Duration
	times              int
}

func driveCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:   "drive",
		Short: "Read, compare, write and watch the settings of a drive over its bus (Modbus TCP)",
		Long: "Speaks with a drive, or with brackmoor drive-sim, by a profile that says where its settings lie.\n" +
			"Settings are written while the motor stands; nothing here starts a motor.\n\n" + caution,
		Args: words(0, 0, "read, compare, write or watch"),
		RunE: func(cmd *cobra.Command, _ []string) error { return cmd.Help() },
	}
	cmd.AddCommand(
		c.overBus("read", "Print every setting of the drive",
			"  brackmoor drive read --at 127.0.0.1:1502 --profile fell-20.json", c.readDrive),
		c.overBus(
			"compare",
			"Set what stands in the drive beside what is meant; exits 1 where one does not agree",
			"  brackmoor drive compare --at 127.0.0.1:1502 --profile fell-20.json --meant settings.json",
			c.compareDrive,
		),
		c.overBus("write", "Write what differs while the motor stands, and read it back",
			"  brackmoor drive write --at 127.0.0.1:1502 --profile fell-20.json --meant settings.json", c.writeDrive),
		c.overBus("watch", "Print what the drive shows of itself, again and again, a line each",
			"  brackmoor drive watch --at 127.0.0.1:1502 --profile fell-20.json --every 1s --times 10", c.watchDrive),
	)
	return cmd
}

// overBus is a command that speaks with a drive.
func (c *console) overBus(
	name, short, example string, do func(ctx context.Context, how *onBus, l *drivebus.Link) error,
) *cobra.Command {
	how := &onBus{}
	cmd := &cobra.Command{Use: name, Short: short, Example: example, Args: words(0, 0, "flags alone")}
	f := cmd.Flags()
	f.StringVar(&how.at, "at", "", "where the drive answers, host:port")
	f.StringVar(&how.profile, "profile", "", "its profile: a file, - for standard input, or the name of one that ships")
	switch name {
	case "compare", "write":
		f.StringVar(&how.meant, "meant", "", "what is meant, a file of settings, or -")
	case "watch":
		f.DurationVar(&how.every, "every", time.Second/2, "how often")
		f.IntVar(&how.times, "times", 0, "how many times; 0 is until it is stopped")
	}
	cmd.RunE = work(func(ctx context.Context, _ []string) error {
		p, err := c.profile(how.profile)
		if err != nil {
			return err
		}
		l, err := drivebus.At(how.at, p)
		if err != nil {
			return bad("--at: %s", err)
		}
		defer l.Close()
		return do(ctx, how, l)
	})
	return cmd
}

// profile reads a profile from a file, or takes one that ships by the name of its file.
func (c *console) profile(name string) (drive.Profile, error) {
	if name == "" {
		return drive.Profile{}, bad("--profile: a profile is wanted; there are %s", strings.Join(shippedNames(), ", "))
	}
	for i, shipped := range shippedNames() {
		if name == shipped {
			return drive.Profiles()[i], nil
		}
	}
	text, err := readInput(c, name)
	if err != nil {
		return drive.Profile{}, err
	}
	p, problems := drivebus.ReadProfile(text)
	if problems != nil {
		return p, problemLines(problems)
	}
	return p, nil
}

// shippedNames are the profiles that ship, as they are asked for.
func shippedNames() (names []string) {
	for _, p := range drive.Profiles() {
		short, _, _ := strings.Cut(p.Name, " (")
		names = append(names, strings.ReplaceAll(strings.ToLower(short), " ", "-"))
	}
	return names
}

func (c *console) meant(how *onBus) ([]drivebus.Meant, error) {
	if how.meant == "" {
		return nil, bad("--meant: a file of what is meant is wanted")
	}
	text, err := readInput(c, how.meant)
	if err != nil {
		return nil, err
	}
	list, problems := drivebus.ReadMeant(text)
	if problems != nil {
		return nil, problemLines(problems)
	}
	return list, nil
}

func (c *console) readDrive(_ context.Context, _ *onBus, l *drivebus.Link) error {
	rows, err := l.Read()
	if err != nil {
		return err
	}
	return c.writeJSON(drivebus.AsRead(rows))
}

// compared prints rows; its error says that some do not agree, unless there is a worse one.
func (c *console) compared(rows []drivebus.Row, err error) error {
	if failed := c.writeJSON(drivebus.Compared{Format: drivebus.CompareFormat, Settings: rows}); failed != nil {
		return failed
	}
	if err != nil {
		return err
	}
	off := 0
	for i := range rows {
		if !rows[i].Agrees {
			off++
		}
	}
	if off > 0 {
		return fmt.Errorf("%d of %d settings are other than is meant", off, len(rows))
	}
	return nil
}

// beside reads what is meant, and sets what stands in the drive beside it.
func (c *console) beside(how *onBus, l *drivebus.Link) ([]drivebus.Meant, []drivebus.Row, error) {
	list, err := c.meant(how)
	if err != nil {
		return nil, nil, err
	}
	rows, err := l.Compare(list)
	return list, rows, err
}

func (c *console) compareDrive(_ context.Context, how *onBus, l *drivebus.Link) error {
	_, rows, err := c.beside(how, l)
	if err != nil {
		return err
	}
	return c.compared(rows, nil)
}

func (c *console) writeDrive(_ context.Context, how *onBus, l *drivebus.Link) error {
	list, rows, err := c.beside(how, l)
	if err != nil {
		return err
	}
	if err := c.confirm(rows); err != nil {
		return err
	}
	return c.compared(l.Write(list))
}

// confirm shows each change to whoever sits at a terminal, and asks. A script has confirmed it by calling.
func (c *console) confirm(rows []drivebus.Row) error {
	file, ok := c.in.(*os.File)
	if !ok || !term.IsTerminal(int(file.Fd())) {
		return nil
	}
	table := tabwriter.NewWriter(c.err, 0, 0, 2, ' ', 0)
	changes := 0
	for i := range rows {
		if row := &rows[i]; !row.Agrees && row.Is != nil {
			fmt.Fprintf(table, "%s\t%s\t→ %s\t%s\n", row.Title, row.Is, row.Meant, row.Unit)
			changes++
		}
	}
	if err := table.Flush(); err != nil {
		return err
	}
	if changes == 0 {
		return nil
	}
	fmt.Fprint(c.err, "Is the motor standing, and are these to be written? Type yes: ")
	line, err := bufio.NewReader(c.in).ReadString('\n')
	if err != nil || strings.TrimSpace(line) != "yes" {
		return bad("Nothing was written.")
	}
	return nil
}

func (c *console) watchDrive(ctx context.Context, how *onBus, l *drivebus.Link) error {
	for k := 0; how.times == 0 || k < how.times; k++ {
		if k > 0 {
			select {
			case <-ctx.Done():
				return nil
			case <-time.After(how.every):
			}
		}
		now, err := l.Now()
		if err != nil {
			return err
		}
		line := map[string]any{"at": time.Now().Format(time.RFC3339Nano)}
		for name, value := range now {
			line[name] = value
		}
		if err := json.NewEncoder(c.out).Encode(line); err != nil {
			return err
		}
	}
	return nil
}
