package server

import (
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/daybook"
	"brackmoor/core/install"
	"brackmoor/core/prove"
	"brackmoor/core/rule"
	"brackmoor/store"
)

// FirstRun is the steps from dead to loaded, in their order, with how each went.
type FirstRun struct {
	Shop    string    `json:"shop"`
	Machine string    `json:"machine"`
	Steps   []RunStep `json:"steps" nullable:"false"`
	Turn    rule.Row  `json:"turn"`   // how it is turned round on this way
	Passed  int       `json:"passed"` // of the checks before power
	Checks  int       `json:"checks"`
	Stops   []string  `json:"stops" nullable:"false" told:"figures"`
	Cleared []string  `json:"cleared" nullable:"false" told:"figures"` // stops of the plan that readings disprove
}

// RunStep is a step, what is foretold to be read at it, and the last that was written of it; "" where nothing was.
type RunStep struct {
	install.Step
	Key  string     `json:"key"`
	Read []rule.Row `json:"read" nullable:"false"`
	Went string     `json:"went"`
	By   string     `json:"by"`
	At   string     `json:"at"`
	Says string     `json:"says"`
	Line string     `json:"line"` // its id in the daybook
}

func (s *service) firstRun(api huma.API) {
	huma.Register(
		api,
		operation("firstRun", "GET", "/motors/{id}/first-run", "The steps of its first run, and how each went"),
		func(ctx context.Context, in *WithID) (*body[FirstRun], error) {
			made, err := s.wiringOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			page, err := s.provedAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			_, place, q, err := s.question(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			lines, err := s.Store.Entries(ctx, place.Shop.ID,
				daybook.Sought{Machine: place.Machine.ID, Motor: in.ID, Kind: daybook.Step}, 1000)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			as := place.Shop.WiredBy(place.Machine, in.ID, q)
			run := FirstRun{
				Shop:    place.Shop.ID,
				Machine: place.Machine.ID,
				Steps:   []RunStep{},
				Stops:   []string{},
				Cleared: []string{},
				Turn:    rule.Row{Label: "To turn it round", Value: as.Choice.Taken().Reversal()},
				Checks:  len(made.Work.Checks),
				Passed:  passed(made.Work.Checks, place.Motor.Built),
			}
			for _, step := range made.Work.Powering {
				run.Steps = append(run.Steps, ranStep(step, &page.Page, lines))
			}
			_, a, err := s.acceptedAs(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			for _, v := range a.Verdicts {
				if v.Rule == "prove.plan-stop" {
					run.Stops = append(run.Stops, v.Says)
				}
			}
			for _, v := range a.Cleared {
				run.Cleared = append(run.Cleared, v.Title+": "+v.Cleared)
			}
			return &body[FirstRun]{run}, nil
		},
	)
}

// passed counts the checks that are ticked as passed.
func passed(checks []install.Check, built []string) (count int) {
	for _, c := range checks {
		if slices.Contains(built, install.Passed+c.Key) {
			count++
		}
	}
	return count
}

// ranStep is a step with what is foretold at it and what was written of it last.
func ranStep(step install.Step, page *prove.Page, lines []store.Line) RunStep {
	out := RunStep{Step: step, Key: step.Key(), Read: []rule.Row{}}
	switch step.State {
	case prove.Reduced:
		out.Read = page.Ramp
	case prove.Sequence:
		out.Read = page.Sequence
	}
	for _, row := range page.Rows {
		if step.State == "" || row.State != step.State {
			continue
		}
		for i, c := range row.Cells {
			if c.Low != nil {
				out.Read = append(out.Read, rule.Row{Label: c.Title,
					Value: fmt.Sprintf("%.3g–%.3g %s", *c.Low, *c.High, page.Columns[i].Unit)})
			}
		}
	}
	if l := lastOf(out.Key, lines); l != nil {
		out.Went, out.By, out.At, out.Says, out.Line = l.Went, l.Hand, l.At, l.Says, l.ID
	}
	return out
}

// lastOf is what was written of a step last, of lines that come the latest first; nil for nothing.
func lastOf(step string, lines []store.Line) *store.Line {
	for i := range lines {
		if lines[i].Step == step && lines[i].Corrected == "" {
			return &lines[i]
		}
	}
	return nil
}
