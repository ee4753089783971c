package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/shop"
	"brackmoor/core/stock"
	"brackmoor/store"
)

// Doubted is a part of a shop's stores that is not to be trusted, and why.
type Doubted struct {
	ID string `json:"id"`
	stock.Doubt
}

// Taking is what is done with the parts on hand that a motor's circuit wants.
type Taking struct {
	Do string `json:"do" enum:"reserve,release,use"`
}

func (s *service) stores(api huma.API) {
	huma.Register(
		api,
		operation(
			"doubted",
			"GET",
			"/shops/{id}/stores/doubted",
			"Which parts of a shop's stores are not to be trusted",
		),
		func(ctx context.Context, in *WithID) (*body[[]Doubted], error) {
			sh, err := s.Store.Shop(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			list := []Doubted{}
			for i := range sh.Own.Stores {
				if d := sh.Own.Stores[i].Doubtful(); d != nil {
					list = append(list, Doubted{sh.Own.Stores[i].ID, *d})
				}
			}
			return &body[[]Doubted]{list}, nil
		},
	)
	huma.Register(
		api,
		operation("takeParts", "POST", "/motors/{id}/parts",
			"Reserve what a motor's circuit wants of a shop's stores, give it back, or use it up"),
		func(ctx context.Context, in *struct {
			WithID
			Body Taking
		}) (*body[ShopHead], error) {
			p, err := s.Store.Motor(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			made, err := s.wiringOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			machine, what := p.Machine.ID, map[string]string{
				"reserve": "parts reserved", "release": "parts given back", "use": "parts used up",
			}[in.Body.Do]
			sh, err := s.Store.ChangeOwn(ctx, p.Shop.ID, p.Shop.Version, what+" for "+p.Machine.Name,
				func(sh *shop.Shop) {
					switch in.Body.Do {
					case "release":
						sh.Own.Stores = stock.Release(sh.Own.Stores, machine)
					case "use":
						sh.Own.Stores = stock.Use(sh.Own.Stores, machine)
					default:
						var takes []stock.Take
						for _, i := range made.Work.Parts {
							takes = append(takes, i.Takes...)
						}
						sh.Own.Stores = stock.Reserve(sh.Own.Stores, takes, machine, store.NewID)
					}
				})
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			return &body[ShopHead]{head(sh)}, nil
		},
	)
}
