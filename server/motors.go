package server

import (
	"context"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/daybook"
	"brackmoor/core/halt"
	"brackmoor/core/rule"
	"brackmoor/core/study"
	"brackmoor/sheet"
	"brackmoor/store"
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
			return &body[SuitView]{SuitView{study.Of(p.Shop.Supply, p.Motor, s.fit, p.Shop.Own.Loads...).Suit()}}, nil
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
			v := study.Of(p.Shop.Supply, p.Motor, s.fit, p.Shop.Own.Loads...).Leads(p.Motor)
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
			made, err := s.sheetOf(ctx, p, st)
			if err != nil {
				return nil, err
			}
			return &body[sheet.Sheet]{made}, nil
		},
	)
}

type papered struct {
	sheet sheet.Sheet
	err   error
}

// sheetOf is a motor's job sheet, remembered.
func (s *service) sheetOf(ctx context.Context, p store.Place, st study.Study) (sheet.Sheet, error) {
	all, err := json.Marshal([]any{p.Shop, p.Machine, p.Motor})
	if err != nil {
		return sheet.Sheet{}, s.fault(ctx, err)
	}
	wired, err := s.wiredAs(ctx, p.Motor.ID)
	if err != nil {
		return sheet.Sheet{}, err
	}
	made, err := s.sheets.get(ctx, string(all), slotted(s.slots, func(stop halt.Sign) papered {
		st.Machine.Stop = stop
		made, err := sheet.Of(p.Shop, p.Machine, p.Motor, st, wired.Wired)
		return papered{made, err}
	}))
	switch {
	case err != nil:
		return sheet.Sheet{}, s.fault(ctx, err)
	case made.err != nil:
		return sheet.Sheet{}, s.unstepped(ctx, made.err)
	}
	_, a, err := s.acceptedAs(ctx, p.Motor.ID)
	if err != nil {
		return sheet.Sheet{}, err
	}
	var signed *daybook.Entry
	if a.Signed != nil {
		signed = &a.Signed.Entry
	}
	made.sheet.Accept(&a.Acceptance, signed, a.Since)
	return made.sheet, nil
}
