package main

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"time"

	"github.com/spf13/cobra"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/inverter"
	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/drivebus"
	"brackmoor/server"
	"brackmoor/web"
)

// simulated is how a simulated drive is called for.
type simulated struct {
	listen, page, profile, motor, supply, ohms, profileOut string
	seed                                                   uint64
	lines                                                  int
	load, turned                                           float64
	three, enableOpen, run                                 bool
}

func driveSimCommand(c *console) *cobra.Command {
	var s simulated
	cmd := &cobra.Command{
		Use:   "drive-sim",
		Short: "Run a simulated drive with a motor, on a bus (Modbus TCP)",
		Long: "A drive that is none, to practise on: rectifier, bus, inverter and motor stepped in time.\n" +
			"It trips as a real one would. Its registers are those of a profile, unit 1;\n" +
			"its keypad, its terminals and its meters are on a page.\n" +
			"--profile-out prints a profile that ships, and ends.",
		Example: "  brackmoor drive-sim --listen 127.0.0.1:1502\n" +
			"  brackmoor drive-sim --profile marram-3 --motor plate.json --seed 7 --three-phase\n" +
			"  brackmoor drive-sim --profile-out fell-20 > fell-20.json",
		Args: words(0, 0, "flags alone"),
		RunE: work(func(ctx context.Context, _ []string) error { return s.serve(ctx, c) }),
	}
	f := cmd.Flags()
	f.StringVar(&s.listen, "listen", "127.0.0.1:1502", "address to listen on")
	f.StringVar(
		&s.page,
		"page",
		"127.0.0.1:0",
		"address of the page with its keypad, port 0 for a free one; \"\" for none",
	)
	f.StringVar(&s.profile, "profile", shippedNames()[0], "its profile: a file, or the name of one that ships")
	f.StringVar(&s.profileOut, "profile-out", "", "print the profile of this name, and end")
	f.StringVar(&s.motor, "motor", "", "its motor, as brackmoor plate prints it; a made-up one of 2 hp otherwise")
	f.StringVar(&s.supply, "supply", "240/60", "volts/hertz of the one-phase supply")
	f.StringVar(&s.ohms, "source-ohm", "0.15+j0.08", "ohms of the whole loop, R+jX")
	f.Uint64Var(&s.seed, "seed", 0, "by which drive and motor differ a little from their plates; 0 is not at all")
	f.IntVar(&s.lines, "lines", 2, "lines that feed it: 0, 2 or 3")
	f.BoolVar(&s.three, "three-phase", false, "one built for three lines, twice as large")
	f.Float64Var(&s.load, "load", 0, "share of rated torque on its shaft")
	f.Float64Var(&s.turned, "potentiometer", 0, "how far its potentiometer is turned, 0 to 1")
	f.BoolVar(&s.enableOpen, "enable-open", false, "its enable terminal is open")
	f.BoolVar(&s.run, "run", false, "its run terminal closes a second after power comes")
	return cmd
}

// plated is the made-up motor of a simulated drive that is given none.
var plated = plate.Typed{Output: "2 hp", Volts: "230/460", Amps: "6.2/3.1", RPM: "1740", Hertz: "60"}

// drive is what the drive is made by, and its motor on its supply.
func (s *simulated) drive(c *console) (in drive.Input, made inverter.Case, err error) {
	p, err := c.profile(s.profile)
	if err != nil {
		return in, made, err
	}
	if len(p.Registers) == 0 {
		return in, made, bad("--profile: %q has no registers", p.Name)
	}
	switch {
	case s.lines != 0 && s.lines != 2 && s.lines != 3:
		return in, made, bad("--lines: 0, 2 or 3")
	case s.load < 0 || s.load > 3 || s.turned < 0 || s.turned > 1:
		return in, made, bad("--load lies between 0 and 3, --potentiometer between 0 and 1")
	}
	q, err := s.question(c)
	if err != nil {
		return in, made, err
	}
	in = drive.Input{Machine: q.Machine, Kind: drive.OnePhase}
	if s.three {
		in.Kind = drive.Three
	}
	if in.Doubles() {
		return in, made, bad("--supply: a simulated drive is one for 200 to 240 V")
	}
	var draw func() float64
	if s.seed != 0 {
		draw = rand.New(rand.NewPCG(s.seed, 0)).Float64
	}
	return in, inverter.Of(in, p, draw), nil
}

// question is the motor on its supply.
func (s *simulated) question(c *console) (*feed.Question, error) {
	if s.motor != "" {
		how := sizing{supply: s.supply, ohms: s.ohms, load: load.Kinds[0].Name}
		return how.ask(c, s.motor, []string{how.load}, nil)
	}
	on, problems := supplyOf(s.supply, s.ohms)
	if problems != nil {
		return nil, &inputError{problems}
	}
	st := study.Of(on, shop.Motor{Plate: plated}, motor.FitCircuit)
	return st.Ask(shop.Shop{Supply: on}, shop.Machine{}), nil
}

func (s *simulated) serve(ctx context.Context, c *console) error {
	if s.profileOut != "" {
		for i, name := range shippedNames() {
			if name == s.profileOut {
				encoder := json.NewEncoder(c.out)
				encoder.SetIndent("", " ")
				return encoder.Encode(drive.Profiles()[i])
			}
		}
		return bad("--profile-out: there is no profile %q%s", s.profileOut, nearest(s.profileOut, shippedNames()))
	}
	in, made, err := s.drive(c)
	if err != nil {
		return err
	}
	d := inverter.New(made)
	d.Load(inverter.Braked(in, s.load))
	wired := inverter.Inputs{Lines: s.lines, Enable: !s.enableOpen, Turned: s.turned}
	d.Wire(wired)
	d.Advance(1)
	wired.Run = s.run
	d.Wire(wired)
	sim, err := drivebus.Listen(s.listen, d, time.Now)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.out, "A simulated drive, %s, answers at %s (Modbus TCP, unit 1)\n", d.Profile().Name, sim.Address)
	if app, ok := web.App(); ok && s.page != "" {
		return first(s.keypad(ctx, c, server.Keypad(app, c.logger(), in, made, s.load, sim)), sim.Close())
	}
	<-ctx.Done()
	return sim.Close()
}

// keypad serves its page. Whoever comes to it can turn the motor, simulated as it is: it is for this machine alone.
func (s *simulated) keypad(ctx context.Context, c *console, page http.Handler) error {
	if !loopback(s.page) {
		return bad("--page: its page asks nobody who they are, so it is for this machine alone: 127.0.0.1:PORT")
	}
	listener, err := net.Listen("tcp", s.page)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.out, "Its keypad is at http://%s\n", listener.Addr())
	return until(ctx, server.HTTP(page), listener)
}
