package main

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"brackmoor/core/floor"
	"brackmoor/core/motor"
	"brackmoor/core/shop"
	"brackmoor/core/site"
)

// floored is what the floor command prints.
type floored struct {
	Format string `json:"format"`
	Shop   string `json:"shop"`
	floor.Picture
	Start    *floor.Start    `json:"start,omitempty"`
	Together *floor.Together `json:"together,omitempty"`
}

// flooring is how the floor command was called.
type flooring struct {
	shop, on, load, start string
	given                 bool // --on was
	together, text        bool
}

func floorCommand(c *console) *cobra.Command {
	var how flooring
	cmd := &cobra.Command{
		Use:   "floor SHOP.json",
		Short: "Solve a whole shop on its supply: what is on, what a start does, what may run together",
		Long: "Solves a whole shop, as brackmoor export prints it, as one network on its supply, and judges what its " +
			"mains, wires, converters and motors bear.\n\n" + caution,
		Example: "  brackmoor floor shops.json --shop tarn-hollow --on tarn-converter,tarn-hobber --together --text",
		Args:    words(1, 1, "one file of shops, or -"),
	}
	cmd.RunE = work(func(ctx context.Context, args []string) error {
		how.given = cmd.Flags().Changed("on")
		return how.run(ctx, c, args[0])
	})
	f := cmd.Flags()
	f.StringVar(&how.shop, "shop", "", "id of the shop, where the file has several")
	f.StringVar(&how.on, "on", "", "ids of what is switched on, with commas; everything else is off")
	f.StringVar(&how.load, "load", "", "shares of plate output, such as ID=0.6,ID=1")
	f.StringVar(&how.start, "start", "", "id of a machine, motor or converter that is started with the others on")
	f.BoolVar(&how.together, "together", false, "look for what may run together")
	f.BoolVar(&how.text, "text", false, "a table for people")
	return cmd
}

func (how flooring) run(ctx context.Context, c *console, name string) error {
	text, err := readInput(c, name)
	if err != nil {
		return err
	}
	sh, err := oneOf(text, how.shop)
	if err != nil {
		return err
	}
	state, problems := how.state(sh)
	if problems != nil {
		return &inputError{problems}
	}
	f := floor.Of(*sh, motor.FitCircuit)
	out := floored{Format: "brackmoor.floor/1", Shop: sh.ID}
	if out.Picture, err = f.Solve(state); err != nil {
		return unanswered(err)
	}
	if how.start != "" {
		st, err := f.Start(state, how.start)
		if err != nil {
			return unanswered(err)
		}
		out.Start = &st
		out.Permitted = out.Permitted && st.Permitted
		out.Broken = append(out.Broken, st.Broken...)
	}
	if how.together {
		t, err := f.Together(ctx, state)
		if err != nil {
			return unanswered(err)
		}
		out.Together = &t
	}
	if how.text {
		return out.print(c.out)
	}
	return c.writeJSON(out)
}

// oneOf is the shop of a file that is meant by an id, or the only one.
func oneOf(text []byte, id string) (*shop.Shop, error) {
	file, found := shop.ReadFile(text)
	if found != nil {
		return nil, problemLines(found)
	}
	sh, problems := among(file.Shops, id)
	if problems != nil {
		return nil, &inputError{problems}
	}
	return sh, nil
}

// among is the shop that is meant.
func among(shops []shop.Shop, id string) (*shop.Shop, []string) {
	var ids []string
	for i := range shops {
		if shops[i].ID == id || id == "" && len(shops) == 1 {
			return &shops[i], nil
		}
		ids = append(ids, shops[i].ID)
	}
	if id == "" {
		return nil, []string{"--shop: the file has " + strings.Join(ids, ", ") + "; say which"}
	}
	return nil, []string{fmt.Sprintf("--shop: there is no shop %q%s; there are %s", id, nearest(id, ids),
		strings.Join(ids, ", "))}
}

// state is what is switched on, and how loaded.
func (how flooring) state(sh *shop.Shop) (site.State, []string) {
	s := sh.State
	known := sh.Site.IDs()
	motors := map[string][]string{}
	for _, m := range sh.Machines {
		known = append(known, m.ID)
		for _, o := range m.Motors {
			known = append(known, o.ID)
			motors[m.ID] = append(motors[m.ID], o.ID)
			motors[o.ID] = []string{o.ID}
		}
	}
	var problems []string
	check := func(flag, id string) {
		if !slices.Contains(known, id) {
			problems = append(
				problems,
				fmt.Sprintf("--%s: there is no %q in this shop%s", flag, id, nearest(id, known)),
			)
		}
	}
	if how.given {
		s.On = nil
		for id := range strings.SplitSeq(how.on, ",") {
			if id = strings.TrimSpace(id); id != "" {
				check("on", id)
				s.On = append(s.On, id)
			}
		}
	}
	if how.load != "" {
		shares := map[string]float64{}
		for id, share := range s.Shares {
			shares[id] = share
		}
		for part := range strings.SplitSeq(how.load, ",") {
			id, text, _ := strings.Cut(strings.TrimSpace(part), "=")
			share, err := strconv.ParseFloat(text, 64)
			switch {
			case err != nil || !(share >= 0 && share <= site.MostShare):
				problems = append(problems, fmt.Sprintf("--load: %q is no ID=SHARE with a share from 0 to %g", part,
					site.MostShare))
			case motors[id] == nil:
				problems = append(problems, fmt.Sprintf("--load: there is no motor or machine %q in this shop%s", id,
					nearest(id, known)))
			}
			for _, m := range motors[id] {
				shares[m] = share
			}
		}
		s.Shares = shares
	}
	if how.start != "" {
		check("start", how.start)
	}
	return s, problems
}

// print is the answer as a table for people.
func (a *floored) print(to io.Writer) error {
	w := tabwriter.NewWriter(to, 0, 4, 2, ' ', 0)
	line := func(cells ...string) { fmt.Fprintln(w, strings.Join(cells, "\t")) }
	whole := func(v float64) string { return strconv.FormatFloat(v, 'f', 0, 64) }
	tenth := func(v float64) string { return strconv.FormatFloat(v, 'f', 1, 64) }
	line("where", "amps", "of", "volts", "")
	line("main", tenth(a.Main.Amps), whole(a.Main.LimitAmps), whole(a.Main.Volts), whole(a.Main.Watts)+" W")
	for _, x := range a.Circuits {
		line(x.Name, tenth(x.Amps), whole(x.LimitAmps), whole(x.Volts), tenth(x.DropPercent)+" % lost")
	}
	for _, x := range a.Converters {
		if x.On {
			line(x.Name, tenth(x.Amps), "", fmt.Sprintf("%.0f %.0f %.0f", x.Volts.AB, x.Volts.BC, x.Volts.CA),
				"idler "+whole(x.IdlerPercent)+" %")
		}
	}
	for _, m := range a.Machines {
		for _, o := range m.Motors {
			if o.On {
				name := strings.TrimSuffix(m.Name+", "+o.Name, ", ")
				line(name, tenth(o.Amps), "", fmt.Sprintf("%.0f %.0f %.0f", o.Volts.AB, o.Volts.BC, o.Volts.CA),
					fmt.Sprintf("winding %.0f %% at %.0f %% load, %s", o.HottestPercent, 100*o.LoadShare, o.State))
			}
		}
	}
	if err := w.Flush(); err != nil {
		return err
	}
	if st := a.Start; st != nil && st.Seconds != nil {
		fmt.Fprintf(to, "\nstarting %s: up in %.1f s, lowest %.0f V, %.0f A\n", st.ID, *st.Seconds, st.LowestVolts,
			st.PeakAmps)
	}
	for _, b := range a.Broken {
		fmt.Fprintf(to, "\n%s: %s %s\n", b.Severity, b.Says, b.Do)
	}
	if t := a.Together; t != nil {
		for _, x := range t.Largest {
			fmt.Fprintln(to, "\ntogether:", strings.Join(x, ", "))
		}
		for _, x := range t.Forbidden {
			fmt.Fprintf(to, "\nnever: %s (%s)\n", strings.Join(x.Machines, ", "), x.Says)
		}
		if !t.Exact {
			fmt.Fprintf(
				to,
				"\nEvery set of up to %d was solved; larger ones only where these leave them open.\n",
				t.TriedUpTo,
			)
		}
	}
	fmt.Fprintln(to, "\n"+caution)
	return nil
}
