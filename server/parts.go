package server

import (
	"context"
	"fmt"
	"slices"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/controls"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/winding"
)

// plateText bounds what a plate field may hold, in characters.
const plateText = 60

// Plated is a motor's name and plate as typed.
type Plated struct {
	Name  string      `json:"name" maxLength:"80"`
	Plate plate.Typed `json:"plate"`
}

// PartChange is a part of a motor as a user leaves it, at the version that it was made
// from.
type PartChange[T any] struct {
	Version int `json:"version"`
	Value   T   `json:"value"`
}

// fault is what a part is refused for: where in its value, and a sentence.
type fault struct{ at, says string }

// part registers the operation that changes one part of a motor. Parts have versions of
// their own, so that a phone at the machine and a screen at the bench do not collide.
func part[T any](
	s *service,
	api huma.API,
	of shop.Part,
	summary string,
	check func(*shop.Shop, T) []fault,
	change func(*shop.Motor, T),
) {
	name := string(of)
	o := operation("change"+titled(name), "PUT", "/motors/{id}/"+name, summary)
	huma.Register(api, o, func(ctx context.Context, in *struct {
		WithID
		Body PartChange[T]
	}) (*body[MotorView], error) {
		at, err := s.Store.Motor(ctx, in.ID)
		if err != nil {
			return nil, s.fault(ctx, err)
		}
		var details []error
		for _, f := range check(&at.Shop, in.Body.Value) {
			details = append(details, &huma.ErrorDetail{Location: "body.value" + f.at, Message: f.says})
		}
		if details != nil {
			return nil, huma.Error422UnprocessableEntity("Some of it could not be kept.", details...)
		}
		p, err := s.Store.ChangePart(ctx, in.ID, of, in.Body.Version, func(m *shop.Motor) { change(m, in.Body.Value) })
		if err != nil {
			return nil, s.fault(ctx, err)
		}
		return &body[MotorView]{s.view(&p.Shop, p.Motor)}, nil
	})
}

func titled(name string) string { return string(name[0]-'a'+'A') + name[1:] }

func (s *service) parts(api huma.API) {
	part(s, api, shop.PlatePart, "Change a motor's name and plate", func(_ *shop.Shop, v Plated) (faults []fault) {
		for _, f := range v.Plate.Fields() {
			if utf8.RuneCountInString(f.Text) > plateText {
				faults = append(faults,
					fault{".plate." + f.Name, fmt.Sprintf("At most %d characters fit a plate field.", plateText)})
			}
		}
		return faults
	}, func(m *shop.Motor, v Plated) { m.Name, m.Plate = v.Name, v.Plate })

	part(
		s,
		api,
		shop.LeadsPart,
		"Change what was noted of a motor's leads",
		func(_ *shop.Shop, v winding.Typed) (faults []fault) {
			for _, says := range v.Faults() {
				faults = append(faults, fault{"", says})
			}
			return faults
		},
		func(m *shop.Motor, v winding.Typed) { m.Leads = v },
	)

	part(
		s,
		api,
		shop.ShaftPart,
		"Change what a motor drives and how it works",
		func(sh *shop.Shop, v shop.Driven) (faults []fault) {
			if _, ok := load.ByName(v.Load, sh.Own.Loads...); !ok {
				faults = append(faults, fault{".load", "There is no such kind of load."})
			}
			for name, text := range v.Shaft.Fields() {
				if utf8.RuneCountInString(text) > plateText {
					faults = append(
						faults,
						fault{".shaft." + name, fmt.Sprintf("At most %d characters fit here.", plateText)},
					)
				}
			}
			return faults
		},
		func(m *shop.Motor, v shop.Driven) { m.Driven = v },
	)

	part(s, api, shop.WayPart, "Change how a motor is to be fed", func(_ *shop.Shop, v shop.Fed) (faults []fault) {
		if len(v.Way.Unknown()) > 0 {
			faults = append(faults, fault{".way", "There is no such way of feeding."})
		}
		if says := v.Way.Wiring.Check(); says != "" {
			faults = append(faults, fault{".way.wiring.apart", says})
		}
		return faults
	}, func(m *shop.Motor, v shop.Fed) {
		m.Fed = v
		m.Way = v.Way.Filled()
	})

	part(s, api, shop.MattersPart, "Change what matters for the choice of a motor's way",
		func(*shop.Shop, feed.Matters) []fault { return nil }, func(m *shop.Motor, v feed.Matters) { m.Matters = v })

	part(s, api, shop.OwnPart, "Write down what a machine has of its own controls",
		func(_ *shop.Shop, v []controls.Terminal) (faults []fault) {
			for _, p := range controls.Check(v) {
				faults = append(faults, fault{p.Path, p.Says})
			}
			if len(v) > mostTerminals {
				faults = append(faults, fault{"", "There is room for 200 terminals."})
			}
			return faults
		}, func(m *shop.Motor, v []controls.Terminal) { m.Own = slices.Clone(v) })

	part(s, api, shop.BuiltPart, "Tick what of a motor's circuit is built and checked",
		func(_ *shop.Shop, v []string) []fault { return tooManyTicks(v) },
		func(m *shop.Motor, v []string) { m.Built = slices.Clone(v) })
}

// mostTerminals is how many of its own controls a machine may have written down.
const mostTerminals = 200

// tooManyTicks holds ticks of building to the file's own limits.
func tooManyTicks(ticks []string) []fault {
	if len(ticks) > 3000 || slices.ContainsFunc(ticks, func(t string) bool { return len([]rune(t)) > 200 }) {
		return []fault{{"", "There are no more than 3000 ticks, of 200 letters each."}}
	}
	return nil
}
