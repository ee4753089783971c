package server

import (
	"context"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/route"
)

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
		question := in.Body.Into(st.Question(p.Shop.Supply.MainAmps))
		bare := p.Motor
		bare.Matters, bare.Version, bare.Mine, bare.Name = route.Matters{}, 0, nil, ""
		key, err := json.Marshal([]any{bare, p.Shop.Supply})
		if err != nil {
			return nil, s.fault(ctx, err)
		}
		worked := s.routes.get(string(key), func() []route.Route { return route.Work(question) })
		return &body[route.Answer]{route.Rank(question, worked)}, nil
	})
}
