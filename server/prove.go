package server

import (
	"context"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/halt"
	"brackmoor/core/prove"
	"brackmoor/core/rule"
	"brackmoor/store"
)

func (s *service) prove(api huma.API) {
	huma.Register(
		api,
		operation("proveMotor", "GET", "/motors/{id}/prove", "What was read on a motor beside what was foretold"),
		func(ctx context.Context, in *WithID) (*body[prove.Page], error) {
			page, err := s.provedAs(ctx, in.ID)
			return &body[prove.Page]{page}, err
		},
	)
	huma.Register(
		api,
		operation("addReading", "POST", "/motors/{id}/readings",
			"Write down what was read; one that is sent twice is written once"),
		func(ctx context.Context, in *struct {
			WithID
			Body prove.Reading
		}) (*body[prove.Page], error) {
			if problems := in.Body.Check(); problems != nil {
				return nil, refusal("It could not be written down.", "body.", problems)
			}
			if at, _ := time.Parse(time.RFC3339, in.Body.At); at.After(s.Now().Add(24 * time.Hour)) {
				return nil, refusal("It could not be written down.", "body.",
					rule.Problems{{Path: "at", Says: "lies in the future"}})
			}
			if err := s.Store.AddReading(ctx, in.ID, in.Body); err != nil {
				return nil, s.fault(ctx, err)
			}
			page, err := s.provedAs(ctx, in.ID)
			return &body[prove.Page]{page}, err
		},
	)
}

// provedAs is a motor beside what was read on it, on its way as it hangs in its shop.
func (s *service) provedAs(ctx context.Context, id string) (page prove.Page, err error) {
	_, place, q, err := s.question(ctx, id)
	if err != nil {
		return page, err
	}
	if err := s.wholeOnConverter(ctx, &place, id); err != nil {
		return page, err
	}
	readings, err := s.Store.Readings(ctx, id)
	if err != nil {
		return page, s.fault(ctx, err)
	}
	as := place.Shop.WiredBy(place.Machine, id, q)
	made, err := slotted(s.slots, func(stop halt.Sign) proven {
		page, err := prove.Of(as.Until(stop), readings)
		return proven{page, err}
	})(ctx)
	if err != nil {
		return page, s.fault(ctx, err)
	}
	return made.page, s.fault(ctx, made.err)
}

// proven is a page, or why there is none.
type proven struct {
	page prove.Page
	err  error
}

// wholeOnConverter reads the machines of a shop whose converter a motor hangs on: its idler is one of them.
func (s *service) wholeOnConverter(ctx context.Context, place *store.Place, id string) error {
	if place.Shop.Site.Converter(place.Shop.Site.Place(place.Machine.ID, id).On) == nil {
		return nil
	}
	whole, err := s.Store.Shop(ctx, place.Shop.ID)
	if err != nil {
		return s.fault(ctx, err)
	}
	place.Shop.Machines = whole.Machines
	return nil
}
