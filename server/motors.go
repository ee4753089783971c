package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/rule"
	"brackmoor/core/study"
	"brackmoor/sheet"
)

// SuitView is a plate against the supply; nil while the plate is not sound.
type SuitView struct {
	Suit *study.Suit `json:"suit"`
}

// LeadsPage is the Leads step and its headline.
type LeadsPage struct {
	study.LeadsView
	Headline []rule.Row `json:"headline" nullable:"false"`
}

func (s *service) motors(api huma.API) {
	s.parts(api)
	s.deletable(api, "Motor", "/motors/{id}", s.Store.DeleteMotor, s.Store.RestoreMotor)
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
			p, st, err := s.studied(ctx, in.ID)
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
