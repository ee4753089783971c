package main

import (
	"context"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/shop"
	"brackmoor/core/strict"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/docs/schema"
)

// sized is what the size command prints.
type sized struct {
	Format string `json:"format"`
	compare.Answer
}

var (
	supplyForm = regexp.MustCompile(`^([0-9.]+)/([0-9.]+)$`)
	ohmForm    = regexp.MustCompile(`^([0-9.]+)(?:\+j?([0-9.]+)j?)?$`)
)

// sizing is how the size command was called.
type sizing struct {
	supply, ohms, load, route string
	hours                     float64
	text                      bool
}

func sizeCommand(c *console) *cobra.Command {
	var s sizing
	kinds, ways := []string{}, []string{}
	for _, k := range load.Kinds {
		kinds = append(kinds, k.Name)
	}
	for _, w := range feed.All() {
		ways = append(ways, w.Info().Name)
	}
	cmd := &cobra.Command{
		Use:   "size PLATE.json",
		Short: "Set the ways of feeding a motor side by side (- for standard input)",
		Long: "Sets the ways of feeding the motor of a plate side by side, as JSON or with --text as a table.\n\n" +
			"Kinds of load: " + strings.Join(kinds, ", ") + ".\n" +
			"Routes: " + strings.Join(ways, ", ") + ".\n\n" + caution,
		Example: "  brackmoor plate plate.txt | brackmoor size - --supply 240/60 --load saw --text",
		Args:    words(1, 1, "one plate, or -"),
		RunE:    work(func(_ context.Context, args []string) error { return s.size(c, args[0], kinds, ways) }),
	}
	f := cmd.Flags()
	f.StringVar(&s.supply, "supply", "", "volts/hertz of the one-phase supply, such as 240/60")
	f.StringVar(&s.ohms, "source-ohm", "0.15+j0.08", "ohms of the whole loop, R+jX")
	f.StringVar(&s.load, "load", kinds[0], "kind of load")
	f.StringVar(&s.route, "route", "", "one route alone")
	f.Float64Var(&s.hours, "hours", feed.UsualHours, "hours a day that it runs")
	f.BoolVar(&s.text, "text", false, "a table for people")
	for flag, list := range map[string][]string{"load": kinds, "route": ways} {
		if err := cmd.RegisterFlagCompletionFunc(
			flag,
			cobra.FixedCompletions(list, cobra.ShellCompDirectiveNoFileComp),
		); err != nil {
			panic(err) // a flag just made is there
		}
	}
	return cmd
}

// size sets the ways for a plate side by side.
func (how sizing) size(c *console, name string, kinds, ways []string) error {
	question, err := how.ask(c, name, kinds, ways)
	if err != nil {
		return err
	}
	question.Matters.HoursPerDay = min(max(how.hours, 0), 24)
	a := compare.Compare(question)
	if how.route != "" {
		at := slices.IndexFunc(a.Routes, func(r compare.Route) bool { return r.Name == how.route })
		if at < 0 {
			return bad("--route: %s is not to be had on this supply", how.route)
		}
		a.Routes = a.Routes[at : at+1]
	}
	if how.text {
		return writeRoutes(c.out, a, question.Supply.Hertz)
	}
	return c.writeJSON(sized{"brackmoor.size/1", a})
}

// ask understands a plate on a supply, as the ways are asked of it.
func (how sizing) ask(c *console, name string, kinds, ways []string) (*feed.Question, error) {
	s, problems := supplyOf(how.supply, how.ohms)
	if !slices.Contains(kinds, how.load) {
		problems = append(problems, fmt.Sprintf("--load: there is no kind of load %q%s; there are %s", how.load,
			nearest(how.load, kinds), strings.Join(kinds, ", ")))
	}
	if how.route != "" && !slices.Contains(ways, how.route) {
		problems = append(problems, fmt.Sprintf("--route: there is no route %q%s; there are %s", how.route,
			nearest(how.route, ways), strings.Join(ways, ", ")))
	}
	text, err := readInput(c, name)
	if err != nil {
		return nil, err
	}
	var d plate.Document
	for _, p := range strict.Read(text, strict.Compile(schema.Plate), &d) {
		problems = append(problems, p.String())
	}
	if problems != nil {
		return nil, &inputError{problems}
	}
	if d.Plate.Phases != nil && *d.Plate.Phases == 1 {
		return nil, &inputError{[]string{"$.plate.phases: a single-phase motor needs no third leg"}}
	}
	st := study.Of(s, shop.Motor{Plate: d.Typed(), Driven: shop.Driven{Load: how.load}}, motor.FitCircuit)
	if !st.Reading.Sound {
		for _, p := range st.Reading.Problems {
			problems = append(problems, "$.plate."+p.Field+": "+p.Says)
		}
		for _, v := range st.Reading.Verdicts {
			problems = append(problems, "$.plate: "+v.Says)
		}
		return nil, &inputError{problems}
	}
	return st.Ask(shop.Shop{Supply: s}, shop.Machine{}), nil
}

// supplyOf understands volts/hertz and R+jX.
func supplyOf(volts, ohms string) (s supply.Supply, problems []string) {
	number := func(text string, low, high float64, says string) float64 {
		value, err := strconv.ParseFloat(text, 64)
		if err != nil || value < low || value > high {
			problems = append(problems, says)
		}
		return value
	}
	s = supply.Supply{Kind: "two-wire", Class: supply.Own, MainAmps: 0}
	if m := supplyForm.FindStringSubmatch(volts); m != nil {
		s.Volts = number(m[1], 90, 500, "--supply: volts lie between 90 and 500")
		s.Hertz = number(m[2], 40, 70, "--supply: hertz lie between 40 and 70")
	} else {
		problems = append(problems, "--supply: give volts/hertz, such as 240/60")
	}
	m := ohmForm.FindStringSubmatch(ohms)
	if m == nil {
		return s, append(problems, "--source-ohm: give R+jX, such as 0.15+j0.08")
	}
	s.ResistanceOhm = number(m[1], 0, 5, "--source-ohm: ohms lie between 0 and 5")
	if m[2] != "" {
		s.ReactanceOhm = number(m[2], 0, 5, "--source-ohm: ohms lie between 0 and 5")
	}
	return s, problems
}

// writeRoutes prints the routes as a table.
func writeRoutes(out io.Writer, a compare.Answer, hertz float64) error {
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	figure := func(p *float64, unit string) string {
		if p == nil {
			return "–"
		}
		return quantity.Figures(*p, 3) + unit
	}
	fmt.Fprintln(w, "route\tstarts\tusable\thottest at load\tamps at load\tstarting\tlegs apart\ta year\tfits")
	for _, r := range a.Routes {
		starts, usable, fits := "no", "none", "no: "+strings.Join(r.Why, "; ")
		if r.Starts {
			starts = figure(r.Margin, "×")
		}
		if r.UsableWatts != nil {
			usable = quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], hertz)
		}
		if r.Fits {
			fits = "yes"
		}
		fmt.Fprintf(
			w,
			"%s\t%s\t%s\t%s\t%s\t%s\t%s\t%.0f\t%s\n",
			r.Name,
			starts,
			usable,
			figure(r.Hottest.Load, " %"),
			figure(r.SupplyAmps.Load, " A"),
			figure(r.SupplyAmps.Starting, " A"),
			figure(r.Unbalance.Load, " %"),
			r.Cost.PerYear,
			fits,
		)
	}
	if err := w.Flush(); err != nil {
		return err
	}
	recommended := a.Recommended
	if recommended == "" {
		recommended = "none"
	}
	fmt.Fprintln(out, "\nrecommended: "+recommended)
	for _, list := range [][]string{a.Reasons, a.Otherwise, a.Schools} {
		for _, line := range list {
			fmt.Fprintln(out, "  "+line)
		}
	}
	_, err := fmt.Fprintln(
		out,
		"\nThis is mains voltage. Local code, permit and a licensed electrician have the last word. Prices are "+
			"samples.",
	)
	return err
}
