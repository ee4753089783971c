package server

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/floor"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/sheet"
)

// FloorPage is the whole shop on its supply: how it is fed, what is on, the drawing, the figures, and
// the forms in which it is changed.
type FloorPage struct {
	Shop     ShopHead       `json:"shop"`
	Cautions []rule.Verdict `json:"cautions" nullable:"false"` // that always hold there
	Site     site.Site      `json:"site"`
	State    site.State     `json:"state"`
	Layout   floor.Layout   `json:"layout"`
	Picture  floor.Picture  `json:"picture"`
	Motors   []floor.Head   `json:"motors" nullable:"false"`
	Spare    []Choice       `json:"spare" nullable:"false"` // machines that could idle in a converter
	Forms    site.Forms     `json:"forms"`
	Places   site.Places    `json:"places"`
}

// Starting is a state in which something is to be started.
type Starting struct {
	State site.State `json:"state"`
	ID    string     `json:"id" maxLength:"64"`
}

// SiteChange is how a shop is fed, as somebody leaves it, at the version that it was made from.
type SiteChange struct {
	Version int       `json:"version"`
	Site    site.Site `json:"site"`
}

// floorOf is a shop ready to be asked, remembered until something of it changes.
func (s *service) floorOf(ctx context.Context, id string) (shop.Shop, *floor.Floor, error) {
	sh, err := s.Store.Shop(ctx, id)
	if err != nil {
		return sh, nil, s.fault(ctx, err)
	}
	var key strings.Builder
	fmt.Fprint(&key, sh.ID, " ", sh.Version)
	for _, m := range sh.Machines {
		fmt.Fprint(&key, " ", m.ID, " ", m.Version)
		for _, o := range m.Motors {
			fmt.Fprint(&key, " ", o.ID, " ", o.Version)
		}
	}
	f, err := s.floors.get(ctx, key.String(), func(ctx context.Context) (f *floor.Floor, err error) {
		err = s.slots.do(ctx, func() { f = floor.Of(sh, s.fit) })
		return f, err
	})
	return sh, f, s.fault(ctx, err)
}

// refusal says what is wrong with what was sent, at its places.
func refusal(says, under string, problems rule.Problems) error {
	var details []error
	for _, p := range problems {
		details = append(details, &huma.ErrorDetail{Location: under + p.Path, Message: p.Says})
	}
	return huma.Error422UnprocessableEntity(says, details...)
}

func soundState(s site.State) error {
	if problems := s.Check(); len(problems) > 0 {
		return refusal("This is no state of a shop.", "body.", problems)
	}
	return nil
}

// page is the whole of a floor.
func (s *service) floorPage(ctx context.Context, id string) (*body[FloorPage], error) {
	sh, f, err := s.floorOf(ctx, id)
	if err != nil {
		return nil, err
	}
	page := FloorPage{
		Shop: head(sh), Site: sh.Site, State: sh.State, Layout: f.Layout(), Motors: f.Heads(), Cautions: f.Cautions(),
		Forms: site.FormsFor(sh.Supply), Places: sh.Site.Places(), Spare: []Choice{},
	}
	for _, m := range sh.Machines {
		page.Spare = append(page.Spare, Choice{m.ID, m.Name})
	}
	if page.Picture, err = f.Solve(sh.State); err != nil {
		return nil, s.unsolved(ctx, err)
	}
	return &body[FloorPage]{page}, nil
}

// unsolved words a state that has no answer.
func (s *service) unsolved(ctx context.Context, err error) error {
	if ctx.Err() != nil {
		return s.fault(ctx, err)
	}
	s.Log.Warn("a floor has no answer", "error", err)
	return huma.Error409Conflict("No steady state is found of this: switch something off, or change what feeds it.")
}

func (s *service) floorAPI(api huma.API) {
	huma.Register(
		api,
		operation("readFloor", "GET", "/shops/{id}/floor", "A shop on its supply: drawing, figures, what it breaks"),
		func(ctx context.Context, in *WithID) (*body[FloorPage], error) { return s.floorPage(ctx, in.ID) },
	)
	huma.Register(
		api,
		operation("floorCards", "GET", "/shops/{id}/floor/cards", "What the code says of each thing on a floor"),
		func(ctx context.Context, in *WithID) (*body[[]floor.Card], error) {
			_, f, err := s.floorOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var cards []floor.Card
			err = s.slots.do(ctx, func() { cards = f.Cards() })
			return &body[[]floor.Card]{cards}, s.fault(ctx, err)
		},
	)
	state := func(id, method, path, summary string, keep bool) {
		huma.Register(api, operation(id, method, path, summary), func(ctx context.Context, in *struct {
			WithID
			Body site.State
		}) (*body[floor.Picture], error) {
			if err := soundState(in.Body); err != nil {
				return nil, err
			}
			_, f, err := s.floorOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			picture, err := f.Solve(in.Body)
			if err != nil {
				return nil, s.unsolved(ctx, err)
			}
			if keep {
				err = s.Store.LeaveAt(ctx, in.ID, in.Body)
			}
			return &body[floor.Picture]{picture}, s.fault(ctx, err)
		})
	}
	state("tryFloor", "POST", "/shops/{id}/floor", "A shop in a state; nothing is kept", false)
	state("leaveFloor", "PUT", "/shops/{id}/floor/state", "Leave a shop in a state, and solve it", true)
	huma.Register(
		api,
		operation("changeSite", "PUT", "/shops/{id}/site", "Change how a shop is fed"),
		func(ctx context.Context, in *struct {
			WithID
			Body SiteChange
		}) (*body[FloorPage], error) {
			sh, err := s.Store.Shop(ctx, in.ID)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			known := map[string]string{}
			for _, m := range sh.Machines {
				known[m.ID] = "a machine"
				for _, o := range m.Motors {
					known[o.ID] = "a motor"
				}
			}
			if problems := in.Body.Site.Check(sh.Supply, known); len(problems) > 0 {
				return nil, refusal("It was not kept: "+problems[0].Says+".", "body.site.", problems)
			}
			if _, err := s.Store.ChangeOwn(ctx, in.ID, in.Body.Version, "supply tree changed",
				func(sh *shop.Shop) { sh.Site = in.Body.Site }); err != nil {
				return nil, s.fault(ctx, err)
			}
			return s.floorPage(ctx, in.ID)
		},
	)
	huma.Register(
		api,
		operation("startOnFloor", "POST", "/shops/{id}/starts", "What comes of starting something with the others on"),
		func(ctx context.Context, in *struct {
			WithID
			Body Starting
		}) (*body[floor.Start], error) {
			if err := soundState(in.Body.State); err != nil {
				return nil, err
			}
			_, f, err := s.floorOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			st, err := f.Start(in.Body.State, in.Body.ID)
			if err != nil {
				return nil, s.unsolved(ctx, err)
			}
			return &body[floor.Start]{st}, nil
		},
	)
	huma.Register(
		api,
		operation("togetherOnFloor", "POST", "/shops/{id}/together", "What may run together, at the loads of a state"),
		func(ctx context.Context, in *struct {
			WithID
			Body site.State
		}) (*body[floor.Together], error) {
			if err := soundState(in.Body); err != nil {
				return nil, err
			}
			_, f, err := s.floorOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var t floor.Together
			var failed error
			err = s.slots.do(ctx, func() { t, failed = f.Together(ctx, in.Body) })
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			if failed != nil {
				return nil, s.unsolved(ctx, failed)
			}
			return &body[floor.Together]{t}, nil
		},
	)
}

func (s *service) dayAPI(api huma.API) {
	huma.Register(
		api,
		operation("chooseConverter", "GET", "/shops/{id}/converters/{converter}",
			"What a converter could be: idlers of all sizes, two of them, a drive for each machine"),
		func(ctx context.Context, in *struct {
			WithID
			Converter string `path:"converter" maxLength:"64"`
		}) (*body[floor.Choice], error) {
			sh, f, err := s.floorOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			if sh.Site.Converter(in.Converter) == nil {
				return nil, huma.Error404NotFound("There is no such converter in this shop.")
			}
			var choice floor.Choice
			var failed error
			if err := s.slots.do(ctx, func() { choice, failed = f.Choose(ctx, in.Converter) }); err != nil {
				return nil, s.fault(ctx, err)
			}
			if failed != nil {
				return nil, s.unsolved(ctx, failed)
			}
			return &body[floor.Choice]{choice}, nil
		},
	)
	huma.Register(
		api,
		operation(
			"dayOfShop",
			"GET",
			"/shops/{id}/day",
			"A shop's day: steps of the morning and the evening, for its wall",
		),
		func(ctx context.Context, in *WithID) (*body[floor.Day], error) {
			sh, f, err := s.floorOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var day floor.Day
			var failed error
			if err := s.slots.do(ctx, func() { day, failed = f.Day(ctx, sh.State) }); err != nil {
				return nil, s.fault(ctx, err)
			}
			if failed != nil {
				return nil, s.unsolved(ctx, failed)
			}
			return &body[floor.Day]{day}, nil
		},
	)
}

func (s *service) floorSVG(w http.ResponseWriter, r *http.Request) {
	sh, f, err := s.floorOf(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, err)
		return
	}
	picture, err := f.Solve(sh.State)
	if err != nil {
		refuse(w, s.unsolved(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "image/svg+xml")
	w.Header().Set("Content-Disposition", `attachment; filename="`+fileName(sh.Name)+`-floor.svg"`)
	send(w, r, sheet.SVG(f.Drawing(picture)))
}
