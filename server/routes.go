package server

import (
	"context"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/waveform"
	"brackmoor/sheet"
)

// RotaryView is a rotary converter sized for the motor, its figures, and the standard
// idlers in watts.
type RotaryView struct {
	Answer   rotary.Answer `json:"answer"`
	Headline []sheet.Row   `json:"headline" nullable:"false"`
	Rows     []sheet.Row   `json:"rows" nullable:"false"`
	Ratings  []Rating      `json:"ratings" nullable:"false"`
}

// Rating is a standard output, for people.
type Rating struct {
	Watts float64 `json:"watts"`
	Title string  `json:"title"`
}

type turned struct {
	answer rotary.Answer
	off    waveform.Off
	err    error
}

// routesOf ranks the routes of a motor by what matters. They are worked out once for a
// plate, a load and a supply; judging them anew is quick.
func (s *service) routesOf(api huma.API) {
	s.routes.most = 60
	huma.Register(
		api,
		operation(
			"routesOfMotor",
			"POST",
			"/motors/{id}/routes",
			"The ways of feeding a motor side by side, ranked by what is sent as mattering; nothing is kept",
		),
		func(ctx context.Context, in *struct {
			WithID
			Body route.Matters
		}) (*body[route.Answer], error) {
			p, st, err := s.studied(ctx, WhatIf{WithID: in.WithID, Run: -1, Start: -1, Share: -1})
			if err != nil {
				return nil, err
			}
			question := in.Body.Into(st.Question(p.Shop))
			bare := p.Motor
			bare.Matters, bare.Version, bare.Mine, bare.Name, bare.Way.Kept = route.Matters{}, 0, nil, "", nil
			key, err := json.Marshal([]any{bare, p.Shop.Supply, p.Shop.Prices})
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			worked := s.routes.get(string(key), func() []route.Route { return route.Work(question) })
			return &body[route.Answer]{route.Rank(question, worked)}, nil
		},
	)
	s.rotaries.most = 100
	huma.Register(
		api,
		operation("rotaryOfMotor", "GET", "/motors/{id}/rotary", "A rotary converter sized for the motor"),
		func(ctx context.Context, in *WithID) (*body[RotaryView], error) {
			p, st, err := s.studied(ctx, WhatIf{WithID: *in, Run: -1, Start: -1, Share: -1})
			if err != nil {
				return nil, err
			}
			key := tried{motor: p.Motor.ID, motorV: p.Motor.Version, shopV: p.Shop.Version}
			made := s.rotaries.get(key, func() turned {
				a, off, err := st.Rotary(p.Shop, p.Motor.Matters)
				return turned{a, off, err}
			})
			if made.err != nil {
				return nil, s.unstepped(ctx, made.err)
			}
			hertz := p.Shop.Supply.Hertz
			v := RotaryView{
				made.answer,
				sheet.RotaryHeadline(&made.answer, hertz),
				sheet.RotaryRows(&made.answer, made.off, hertz),
				[]Rating{},
			}
			for _, watts := range rotary.Ratings(hertz) {
				v.Ratings = append(v.Ratings, Rating{watts, quantity.Power(watts, hertz)})
			}
			return &body[RotaryView]{v}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"tryRotary",
			"GET",
			"/motors/{id}/rotary/try",
			"What follows the hand on a rotary converter: its states, for an idler, capacitors and a load that are "+
				"all given",
		),
		func(ctx context.Context, in *struct {
			WithID
			Idler float64 `query:"idler" minimum:"100" maximum:"100000" required:"true" doc:"watts"`
			AC    float64 `query:"ac" minimum:"0" maximum:"5000" doc:"µF from a to c"`
			BC    float64 `query:"bc" minimum:"0" maximum:"5000" doc:"µF from b to c"`
			Share float64 `query:"share" minimum:"0" maximum:"1" doc:"of plate output"`
		}) (*body[rotary.Answer], error) {
			_, st, err := s.studied(ctx, WhatIf{WithID: in.WithID, Run: -1, Start: -1, Share: -1})
			if err != nil {
				return nil, err
			}
			a, err := st.TryRotary(in.Idler, in.AC, in.BC, in.Share)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			return &body[rotary.Answer]{a}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"singlePhaseOfMotor",
			"GET",
			"/motors/{id}/single-phase",
			"A single-phase motor in the machine's place",
		),
		func(ctx context.Context, in *WithID) (*body[SinglePhaseView], error) {
			p, st, err := s.studied(ctx, WhatIf{WithID: *in, Run: -1, Start: -1, Share: -1})
			if err != nil {
				return nil, err
			}
			r := route.SinglePhase(p.Motor.Matters.Into(st.Question(p.Shop)))
			return &body[SinglePhaseView]{
				SinglePhaseView{sheet.SinglePhaseHeadline(st, &r), sheet.SinglePhaseRows(st, &r), r.Verdicts},
			}, nil
		},
	)
}

// SinglePhaseView is a single-phase motor in the machine's place.
type SinglePhaseView struct {
	Headline []sheet.Row    `json:"headline" nullable:"false"`
	Rows     []sheet.Row    `json:"rows" nullable:"false"`
	Verdicts []rule.Verdict `json:"verdicts" nullable:"false"`
}
