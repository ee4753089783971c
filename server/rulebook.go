package server

import (
	"context"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
)

// Rulebook is every rule with its reason and source, the figures of the kinds of load,
// the prices there are, and the drive profiles that ship.
type Rulebook struct {
	Rules    []rule.Rule          `json:"rules" nullable:"false"`
	Places   []rule.Place         `json:"places" nullable:"false"` // where they speak
	Loads    []load.Kind          `json:"loads" nullable:"false"`
	Prices   []feed.PriceField    `json:"prices" nullable:"false"`
	Weights  []feed.WeightField   `json:"weights" nullable:"false"`
	Profiles []drive.Profile      `json:"profiles" nullable:"false"` // that ship
	Settings []drive.KnownSetting `json:"settings" nullable:"false"`
	Drives   []drive.Terminal     `json:"drive_terminals" nullable:"false"`
	Schools  []study.School       `json:"schools" nullable:"false"`
	Tables   []rule.Table         `json:"tables" nullable:"false"`
}

// Spoken is what a rule says of a motor, and the step of its card where it says so.
type Spoken struct {
	Rule      string `json:"rule"`
	Says      string `json:"says" told:"figures"`
	Machine   string `json:"machine"`
	Motor     string `json:"motor"`
	MachineID string `json:"machine_id"`
	MotorID   string `json:"motor_id"`
	Step      string `json:"step" enum:"plate,leads,size"`
}

func (s *service) rulebook(api huma.API) {
	huma.Register(
		api,
		operation(
			"rulebook",
			"GET",
			"/rulebook",
			"The rules, the figures of loads, the prices there are, the drive profiles",
		),
		func(context.Context, *struct{}) (*body[Rulebook], error) {
			return &body[Rulebook]{
				Rulebook{
					rule.Catalogue,
					rule.Places(),
					load.Kinds,
					feed.PriceFields,
					feed.WeightFields,
					drive.Profiles(),
					drive.Known,
					drive.Terminals,
					study.Schools(),
					study.Tables(),
				},
			}, nil
		},
	)
	huma.Register(
		api,
		operation("spoken", "GET", "/shops/{id}/spoken", "Where in a shop rules speak now"),
		func(ctx context.Context, in *WithID) (*body[[]Spoken], error) {
			sh, err := s.Store.Shop(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			list := []Spoken{}
			for _, m := range sh.Machines {
				for _, motor := range m.Motors {
					card, err := s.card(ctx, sh, motor, false)
					if err != nil {
						return nil, s.fault(ctx, err)
					}
					for _, said := range card.said {
						list = append(list, Spoken{
							Rule: said.verdict.Rule, Says: said.verdict.Says, Machine: m.Name, Motor: motor.Name,
							MachineID: m.ID, MotorID: motor.ID, Step: said.step,
						})
					}
				}
			}
			return &body[[]Spoken]{list}, nil
		},
	)
	huma.Register(
		api,
		operation("changePrices", "PUT", "/shops/{id}/prices", "Change a shop's own prices"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Version int          `json:"version"`
				Prices  feed.Prices  `json:"prices"`
				Weights feed.Weights `json:"weights"`
			}
		}) (*body[ShopHead], error) {
			sh, err := s.Store.ChangeOwn(
				ctx,
				in.ID,
				in.Body.Version,
				"prices changed",
				func(sh *shop.Shop) {
					if sh.Prices, sh.Weights = in.Body.Prices, in.Body.Weights; sh.Weights == feed.SampleWeights {
						sh.Weights = feed.Weights{}
					}
				},
			)
			return &body[ShopHead]{head(sh)}, s.fault(ctx, err)
		},
	)
	huma.Register(
		api,
		operation("changeProfiles", "PUT", "/shops/{id}/profiles", "Change a shop's own drive profiles"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Version  int             `json:"version"`
				Profiles []drive.Profile `json:"profiles" nullable:"false" maxItems:"30"`
			}
		}) (*body[ShopHead], error) {
			var details []error
			drive.CheckOwn(in.Body.Profiles, func(i int, says string) {
				at := fmt.Sprintf("body.profiles[%d]", i)
				details = append(details, &huma.ErrorDetail{Location: at, Message: says})
			})
			if details != nil {
				return nil, huma.Error422UnprocessableEntity("The profiles could not be kept.", details...)
			}
			sh, err := s.Store.ChangeOwn(
				ctx,
				in.ID,
				in.Body.Version,
				"drive profiles changed",
				func(sh *shop.Shop) { sh.Profiles = in.Body.Profiles },
			)
			return &body[ShopHead]{head(sh)}, s.fault(ctx, err)
		},
	)
	huma.Register(
		api,
		operation("changeOwn", "PUT", "/shops/{id}/own", "Change a shop's own kinds of load and figures of codes"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Version int      `json:"version"`
				Own     shop.Own `json:"own"`
			}
		}) (*body[ShopHead], error) {
			if problems := in.Body.Own.Check(); len(problems) > 0 {
				return nil, refusal("The shop’s own could not be kept.", "body.own.", problems)
			}
			sh, err := s.Store.ChangeOwn(ctx, in.ID, in.Body.Version, "loads, code figures or checklist changed",
				func(sh *shop.Shop) { sh.Own = in.Body.Own })
			return &body[ShopHead]{head(sh)}, s.fault(ctx, err)
		},
	)
}
