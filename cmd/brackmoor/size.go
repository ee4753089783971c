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

	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/shop"
	"brackmoor/core/strict"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/docs/schema"
)

// sized is what the size command prints.
type sized struct {
	Format string `json:"format"`
	route.Answer
}

var (
	supplyForm = regexp.MustCompile(`^([0-9.]+)/([0-9.]+)$`)
	ohmForm    = regexp.MustCompile(`^([0-9.]+)(?:\+j?([0-9.]+)j?)?$`)
)

// size sets the routes for a plate side by side.
func size(_ context.Context, c *console, args []string) error {
	set := flags(c, "size")
	volts := set.String("supply", "", "volts/hertz of the one-phase supply, such as 240/60")
	ohms := set.String("source-ohm", "0.15+j0.08", "ohms of the whole loop, R+jX")
	kind := set.String("load", load.Kinds[0].Name, "kind of load")
	only := set.String("route", "", "one route alone")
	hours := set.Float64("hours", route.UsualHours, "hours a day that it runs")
	table := set.Bool("text", false, "a table for people")
	if err := parse(set, args, 1, 1); err != nil {
		return err
	}
	s, problems := supplyOf(*volts, *ohms)
	if _, ok := load.ByName(*kind); !ok {
		names := []string{}
		for _, k := range load.Kinds {
			names = append(names, k.Name)
		}
		problems = append(
			problems,
			"--load: there is no kind of load "+strconv.Quote(*kind)+"; there are "+strings.Join(names, ", "),
		)
	}
	text, err := readInput(c, set.Arg(0))
	if err != nil {
		return err
	}
	var d plate.Document
	for _, p := range strict.Read(text, strict.Compile(schema.Plate), &d) {
		problems = append(problems, p.String())
	}
	if problems != nil {
		return &inputError{problems}
	}
	if d.Plate.Phases != nil && *d.Plate.Phases == 1 {
		return &inputError{[]string{"$.plate.phases: a single-phase motor needs no third leg"}}
	}
	st := study.Of(s, shop.Motor{Plate: d.Typed(), Load: *kind}, motor.FitCircuit)
	if !st.Reading.Sound {
		for _, p := range st.Reading.Problems {
			problems = append(problems, "$.plate."+p.Field+": "+p.Says)
		}
		for _, v := range st.Reading.Verdicts {
			problems = append(problems, "$.plate: "+v.Says)
		}
		return &inputError{problems}
	}
	question := st.Question(shop.Shop{Supply: s})
	question.Wishes.HoursPerDay = min(max(*hours, 0), 24)
	a := route.Compare(question)
	if *only != "" {
		at := slices.IndexFunc(a.Routes, func(r route.Route) bool { return r.Name == *only })
		if at < 0 {
			return &inputError{[]string{"--route: there is no route " + strconv.Quote(*only)}}
		}
		a.Routes = a.Routes[at : at+1]
	}
	if *table {
		return writeRoutes(c.out, a, s.Hertz)
	}
	return c.writeJSON(sized{"brackmoor.size/1", a})
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
func writeRoutes(out io.Writer, a route.Answer, hertz float64) error {
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
