package server

import (
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/capacitor"
	"brackmoor/core/load"
	"brackmoor/core/plate"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/winding"
	"brackmoor/sheet"
	"brackmoor/store"
)

// plateText bounds what a plate field may hold.
const plateText = 60

// MotorChange is a motor as a user leaves it. Nil leaves a choice to the model.
type MotorChange struct {
	Name            string        `json:"name" maxLength:"80"`
	Version         int           `json:"version"`
	Plate           plate.Typed   `json:"plate"`
	Load            string        `json:"load"`
	LoadShare       *float64      `json:"load_share" minimum:"0" maximum:"1"`
	RunMicrofarad   *float64      `json:"run_microfarad" minimum:"0" maximum:"5000"`
	StartMicrofarad *float64      `json:"start_microfarad" minimum:"0" maximum:"5000"`
	Reversed        bool          `json:"reversed"`
	Mine            []string      `json:"mine" nullable:"false" maxItems:"20"`
	Leads           winding.Typed `json:"leads"`
	Shaft           load.Typed    `json:"shaft"`
	Matters         route.Matters `json:"matters"`
	Way             route.Way     `json:"way"`
}

// SizeView is the Size step: the answer and its headline.
type SizeView struct {
	Answer   capacitor.Answer `json:"answer"`
	Headline []sheet.Row      `json:"headline" nullable:"false"`
	Start    []sheet.Row      `json:"start" nullable:"false"`
	Heat     []sheet.Row      `json:"heat" nullable:"false"`
	Usable   []UsableShare    `json:"usable" nullable:"false"`
	Accept   []rule.Judged    `json:"accept" nullable:"false"` // of a static converter or a phase-shifting box
	Box      []study.Fact     `json:"box" nullable:"false"`
}

// SuitView is a plate against the supply; nil while the plate is not sound.
type SuitView struct {
	Suit *study.Suit `json:"suit"`
}

// LeadsPage is the Leads step and its headline.
type LeadsPage struct {
	study.LeadsView
	Headline []sheet.Row `json:"headline" nullable:"false"`
}

// UsableShare is a share of plate output by a school or by the model, in
// percent, with the words for it.
type UsableShare struct {
	Title string `json:"title"`
	Words string `json:"words"`
	Model bool   `json:"model"`
}

// WhatIf is a what-if: negative numbers leave the motor's own choice standing.
type WhatIf struct {
	WithID
	Run   float64 `query:"run" default:"-1" minimum:"-1" maximum:"5000" doc:"µF tried in place of the choice; -1 leaves it"`
	Start float64 `query:"start" default:"-1" minimum:"-1" maximum:"5000" doc:"µF tried in place of the choice; -1 leaves it"`
	Share float64 `query:"share" default:"-1" minimum:"-1" maximum:"1" doc:"load tried in place of the choice; -1 leaves it"`
	Route string  `query:"route" enum:",run-capacitor,start-run-capacitor,static,phase-box,rotary,drive-single-phase,drive-derated,dc-bus,single-phase-motor" doc:"looked at in place of the route taken"`
	Quick bool    `query:"quick" doc:"only what follows the hand, for run, start and share all given: no schools, no workings"`
}

// check refuses what the schema of a motor cannot say.
func (c MotorChange) check() error {
	var details []error
	for _, f := range c.Plate.Fields() {
		if len(f.Text) > plateText {
			details = append(
				details,
				&huma.ErrorDetail{
					Location: "body.plate." + f.Name,
					Message:  fmt.Sprintf("At most %d characters fit a plate field.", plateText),
				},
			)
		}
	}
	if _, ok := load.ByName(c.Load); !ok {
		details = append(details, &huma.ErrorDetail{Location: "body.load", Message: "There is no such kind of load."})
	}
	details = append(details, leadFaults(c.Leads)...)
	for name, text := range c.Shaft.Fields() {
		if len(text) > plateText {
			details = append(
				details,
				&huma.ErrorDetail{
					Location: "body.shaft." + name,
					Message:  fmt.Sprintf("At most %d characters fit here.", plateText),
				},
			)
		}
	}
	for _, name := range c.Way.Kept {
		if !slices.Contains(route.Names, name) {
			details = append(details, &huma.ErrorDetail{Location: "body.way.kept", Message: "There is no such route."})
		}
	}
	for _, name := range c.Mine {
		if !slices.ContainsFunc(shop.Checklist, func(i shop.CheckItem) bool { return i.Name == name }) {
			details = append(
				details,
				&huma.ErrorDetail{Location: "body.mine", Message: "There is no such item on the checklist."},
			)
		}
	}
	if details != nil {
		return huma.Error422UnprocessableEntity("Some of it could not be kept.", details...)
	}
	return nil
}

// leadText bounds what a field of the leads may hold, leadName the name of a lead.
const (
	leadText = 40
	leadName = 12
)

// leadFaults refuses what is no record of leads at all. What is merely not
// understood is kept as typed.
func leadFaults(t winding.Typed) (details []error) {
	say := func(message string) {
		details = append(details, &huma.ErrorDetail{Location: "body.leads", Message: message})
	}
	if n := len(t.Leads); n > 0 && !slices.Contains(winding.Counts, n) {
		say("A motor has 3, 4, 6, 9 or 12 leads.")
	}
	names := append(append([]string{}, t.Leads...), t.Marks...)
	texts := []string{t.MeterOhms, t.Celsius, t.TestVolts, t.Was}
	for _, e := range t.Readings {
		names, texts = append(names, e.A, e.B), append(texts, e.Text)
	}
	for _, k := range t.Polarity {
		names, texts = append(append(names, k.Driven[:]...), k.Sensed[:]...), append(texts, k.Text)
	}
	if slices.ContainsFunc(names, func(s string) bool { return len(s) > leadName }) ||
		slices.ContainsFunc(texts, func(s string) bool { return len(s) > leadText }) {
		say(fmt.Sprintf("A lead's name has at most %d letters, a reading %d.", leadName, leadText))
	}
	seen := map[string]bool{}
	for _, name := range t.Leads {
		if seen[name] || name == "" || name == winding.Frame {
			say("Every lead needs a name of its own.")
			break
		}
		seen[name] = true
	}
	for name, state := range t.Condition {
		if state != "good" && state != "bad" ||
			!slices.ContainsFunc(winding.Conditions, func(i winding.Item) bool { return i.Name == name }) {
			say("There is no such item of condition.")
			break
		}
	}
	return details
}

// studied reads a motor and studies it; it must have a sound plate.
func (s *service) studied(ctx context.Context, in WhatIf) (store.Place, study.Study, error) {
	p, err := s.Store.Motor(ctx, in.ID)
	if err != nil {
		return p, study.Study{}, s.fault(ctx, err)
	}
	m := p.Motor
	if in.Route != "" {
		if !m.Way.Owns(in.Route) {
			m.RunMicrofarad, m.StartMicrofarad = nil, nil
		}
		m.Way.Route = in.Route
	}
	if in.Run >= 0 {
		m.RunMicrofarad = &in.Run
	}
	if in.Start >= 0 {
		m.StartMicrofarad = &in.Start
	}
	if in.Share >= 0 {
		m.LoadShare = &in.Share
	}
	st := study.Of(p.Shop.Supply, m, s.fit)
	if !st.Reading.Sound {
		return p, st, huma.Error409Conflict("The plate must be cleared up before anything can be sized from it.")
	}
	return p, st.On(), nil
}

func (s *service) motors(api huma.API) {
	huma.Register(
		api,
		operation("changeMotor", "PUT", "/motors/{id}", "Change a motor's plate and choices"),
		func(ctx context.Context, in *struct {
			WithID
			Body MotorChange
		}) (*body[MotorView], error) {
			c := in.Body
			if err := c.check(); err != nil {
				return nil, err
			}
			p, err := s.Store.ChangeMotor(
				ctx,
				shop.Motor{
					ID:              in.ID,
					Name:            c.Name,
					Version:         c.Version,
					Plate:           c.Plate,
					Load:            c.Load,
					LoadShare:       c.LoadShare,
					RunMicrofarad:   c.RunMicrofarad,
					StartMicrofarad: c.StartMicrofarad,
					Reversed:        c.Reversed,
					Mine:            c.Mine,
					Leads:           c.Leads,
					Shaft:           c.Shaft,
					Matters:         c.Matters,
					Way:             c.Way.Filled(),
				},
			)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			return &body[MotorView]{s.view(p.Shop.Supply, p.Motor)}, nil
		},
	)
	s.deletable(api, "Motor", "/motors/{id}", s.Store.DeleteMotor, s.Store.RestoreMotor)
	huma.Register(
		api,
		operation("sizeMotor", "GET", "/motors/{id}/size", "Run and start capacitors, as chosen or as tried"),
		func(ctx context.Context, in *WhatIf) (*body[SizeView], error) {
			_, st, err := s.studied(ctx, *in)
			if err != nil {
				return nil, err
			}
			var a capacitor.Answer
			if in.Quick && min(in.Run, in.Start, in.Share) >= 0 {
				a = st.Try(in.Run, in.Start, in.Share)
			} else {
				a = st.Size()
			}
			v := SizeView{
				a,
				sheet.Headline(st, &a),
				sheet.StartRows(&a.Live),
				sheet.HeatRows(&a.Live),
				usableShares(st, &a),
				[]rule.Judged{},
				[]study.Fact{},
			}
			if route.Boxed(st.Route()) {
				v.Accept, v.Box = st.Accept(&a), st.BoxFacts(&a)
				if hard := route.NeverStatic(st.Input.Load); hard != nil && st.Route() == route.Static {
					v.Answer.Live.Verdicts = rule.Sorted(append([]rule.Verdict{*hard}, a.Live.Verdicts...))
				}
			}
			return &body[SizeView]{v}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"suitOfMotor",
			"GET",
			"/motors/{id}/suit",
			"The plate against the supply, and what would suit it better",
		),
		func(ctx context.Context, in *WithID) (*body[SuitView], error) {
			p, err := s.Store.Motor(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			return &body[SuitView]{SuitView{study.Of(p.Shop.Supply, p.Motor, s.fit).Suit()}}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"leadsOfMotor",
			"GET",
			"/motors/{id}/leads",
			"What the leads are, how they can be joined, and what that changes",
		),
		func(ctx context.Context, in *WithID) (*body[LeadsPage], error) {
			p, err := s.Store.Motor(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			v := study.Of(p.Shop.Supply, p.Motor, s.fit).Leads(p.Motor)
			return &body[LeadsPage]{LeadsPage{v, sheet.LeadsHeadline(&v)}}, nil
		},
	)
	huma.Register(
		api,
		operation("sheetOfMotor", "GET", "/motors/{id}/sheet", "The job sheet"),
		func(ctx context.Context, in *WithID) (*body[sheet.Sheet], error) {
			p, st, err := s.studied(ctx, WhatIf{WithID: *in, Run: -1, Start: -1, Share: -1})
			if err != nil {
				return nil, err
			}
			made, err := sheet.Of(p.Shop, p.Machine, p.Motor, st)
			if err != nil {
				return nil, s.unstepped(ctx, err)
			}
			return &body[sheet.Sheet]{made}, nil
		},
	)
}

func usableShares(st study.Study, a *capacitor.Answer) []UsableShare {
	percent := func(low, high float64) string {
		if high-low < 0.005 {
			return fmt.Sprintf("%.0f %%", 100*high)
		}
		return fmt.Sprintf("%.0f–%.0f %%", 100*low, 100*high)
	}
	model := func(title string, r *capacitor.Range) UsableShare {
		if r == nil {
			return UsableShare{title, "none", true}
		}
		watts := st.Plate.Output.Value
		return UsableShare{title, percent(r.LowWatts/watts, r.HighWatts/watts), true}
	}
	list := []UsableShare{
		model("Model, with this run capacitor", a.Live.Usable),
		model("Model, on two bare legs", a.UsableBare),
	}
	for _, school := range a.OutputSchools {
		list = append(list, UsableShare{"School: " + school.Title, percent(school.Low, school.High), false})
	}
	return list
}
