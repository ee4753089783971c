package server

import (
	"context"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/rotary"
	"brackmoor/core/route"
	"brackmoor/core/waveform"
	"brackmoor/sheet"
)

// RotaryView is a rotary converter sized for the motor, its figures, and the standard
// idlers in watts.
type RotaryView struct {
	Answer  rotary.Answer `json:"answer"`
	Rows    []sheet.Row   `json:"rows" nullable:"false"`
	Ratings []float64     `json:"ratings" nullable:"false"`
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
	huma.Register(api, operation("routesOfMotor", "POST", "/motors/{id}/routes", "The ways of feeding a motor side by side, ranked by what is sent as mattering; nothing is kept"), func(ctx context.Context, in *struct {
		WithID
		Body route.Matters
	}) (*body[route.Answer], error) {
		p, st, err := s.studied(ctx, WhatIf{WithID: in.WithID, Run: -1, Start: -1, Share: -1})
		if err != nil {
			return nil, err
		}
		question := in.Body.Into(st.Question(p.Shop))
		bare := p.Motor
		bare.Matters, bare.Version, bare.Mine, bare.Name = route.Matters{}, 0, nil, ""
		key, err := json.Marshal([]any{bare, p.Shop.Supply, p.Shop.Prices})
		if err != nil {
			return nil, s.fault(ctx, err)
		}
		worked := s.routes.get(string(key), func() []route.Route { return route.Work(question) })
		return &body[route.Answer]{route.Rank(question, worked)}, nil
	})
	s.rotaries.most = 100
	huma.Register(api, operation("rotaryOfMotor", "GET", "/motors/{id}/rotary", "A rotary converter sized for the motor"), func(ctx context.Context, in *struct {
		WithID
		Idler float64 `query:"idler" default:"-1" minimum:"-1" maximum:"100000" doc:"watts of the idler; -1 leaves it to the model"`
	}) (*body[RotaryView], error) {
		p, st, err := s.studied(ctx, WhatIf{WithID: in.WithID, Run: -1, Start: -1, Share: -1})
		if err != nil {
			return nil, err
		}
		key := tried{motor: p.Motor.ID, motorV: p.Motor.Version, shopV: p.Shop.Version, run: in.Idler}
		made := s.rotaries.get(key, func() turned {
			var idler *float64
			if in.Idler > 0 {
				idler = &in.Idler
			}
			a, off, err := st.Rotary(p.Shop, idler, p.Motor.Matters)
			return turned{a, off, err}
		})
		if made.err != nil {
			return nil, s.unstepped(ctx, made.err)
		}
		return &body[RotaryView]{RotaryView{made.answer, sheet.RotaryRows(&made.answer, made.off, p.Shop.Supply.Hertz), rotary.Ratings(p.Shop.Supply.Hertz)}}, nil
	})
}
