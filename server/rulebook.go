package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/drive"
	"brackmoor/core/load"
	"brackmoor/core/route"
	"brackmoor/core/rule"
)

// Rulebook is every rule with its reason and source, the figures of the kinds of load,
// the prices there are, and the drive profiles that ship.
type Rulebook struct {
	Rules    []rule.Rule        `json:"rules" nullable:"false"`
	Loads    []load.Kind        `json:"loads" nullable:"false"`
	Prices   []route.PriceField `json:"prices" nullable:"false"`
	Profiles []drive.Profile    `json:"profiles" nullable:"false"`
}

func (s *service) rulebook(api huma.API) {
	huma.Register(api, operation("rulebook", "GET", "/rulebook", "The rules, the figures of loads, the prices there are, the drive profiles"), func(context.Context, *struct{}) (*body[Rulebook], error) {
		return &body[Rulebook]{Rulebook{rule.Catalogue, load.Kinds, route.PriceFields, drive.Profiles()}}, nil
	})
	huma.Register(api, operation("changePrices", "PUT", "/shops/{id}/prices", "Change a shop's own prices"), func(ctx context.Context, in *struct {
		WithID
		Body struct {
			Version int          `json:"version"`
			Prices  route.Prices `json:"prices"`
		}
	}) (*body[ShopHead], error) {
		sh, err := s.Store.ChangePrices(ctx, in.ID, in.Body.Version, in.Body.Prices)
		return &body[ShopHead]{head(sh)}, s.fault(ctx, err)
	})
}
