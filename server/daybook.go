package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/daybook"
	"brackmoor/sheet"
	"brackmoor/store"
)

// Daybook is a page of what was written down, the latest first, and the kinds that there are.
type Daybook struct {
	Lines []store.Line   `json:"lines" nullable:"false"`
	Kinds []daybook.Kind `json:"kinds" nullable:"false"`
	More  bool           `json:"more"` // there are older ones
	// Upkeep is what is usual to fall due.
	Upkeep []daybook.Upkeep `json:"upkeep" nullable:"false"`
}

// Sought is what is looked for in a daybook.
type Sought struct {
	WithID
	Machine string `query:"machine" maxLength:"64"`
	Kind    string `query:"kind" maxLength:"20"`
	Words   string `query:"words" maxLength:"200"`
	From    string `query:"from" maxLength:"10"`
	Until   string `query:"until" maxLength:"10"`
	Open    bool   `query:"open"`
	Before  int64  `query:"before" minimum:"0"`
	Most    int    `query:"most" minimum:"0" maximum:"2000"` // lines, 0 for those of a page
}

func (s *Sought) sought() daybook.Sought {
	return daybook.Sought{
		Machine: s.Machine, Kind: s.Kind, Words: s.Words, From: s.From, Until: s.Until, Open: s.Open, Before: s.Before,
	}
}

// onAPage is how many lines a page of the daybook has, inAPrint one that is printed, inAFile a file of it.
const (
	onAPage  = 50
	inAPrint = 2000
	inAFile  = 100_000
)

func (s *service) daybook(api huma.API) {
	huma.Register(
		api,
		operation("readDaybook", "GET", "/shops/{id}/entries", "What was written down in a shop, the latest first"),
		func(ctx context.Context, in *Sought) (*body[Daybook], error) {
			if _, err := s.Store.Shop(ctx, in.ID); err != nil {
				return nil, s.fault(ctx, err)
			}
			most := onAPage
			if in.Most > 0 {
				most = min(in.Most, inAPrint)
			}
			list, err := s.Store.Entries(ctx, in.ID, in.sought(), most+1)
			if err != nil {
				return nil, s.fault(ctx, err)
			}
			page := Daybook{Lines: list, Kinds: daybook.Kinds, Upkeep: daybook.Upkeeps, More: len(list) > most}
			if page.More {
				page.Lines = list[:most]
			}
			return &body[Daybook]{page}, nil
		},
	)
	huma.Register(
		api,
		operation("writeDown", "POST", "/shops/{id}/entries",
			"Write a line in a shop's daybook; one that is sent twice is written once"),
		func(ctx context.Context, in *struct {
			WithID
			Body daybook.Entry
		}) (*body[struct{}], error) {
			in.Body.Hand = byHand(ctx, in.Body.Hand)
			if problems := in.Body.Check(s.Now()); problems != nil {
				return nil, refusal("It could not be written down.", "body.", problems)
			}
			return &body[struct{}]{}, s.fault(ctx, s.Store.AddEntry(ctx, in.ID, in.Body))
		},
	)
}

// daybookCSV sends a shop's daybook, or what is sought in it, as a table.
func (s *service) daybookCSV(w http.ResponseWriter, r *http.Request) {
	sh, err := s.Store.Shop(r.Context(), chi.URLParam(r, "id"))
	var list []store.Line
	if err == nil {
		v := r.URL.Query()
		list, err = s.Store.Entries(r.Context(), sh.ID, daybook.Sought{
			Machine: v.Get("machine"), Kind: v.Get("kind"), Words: v.Get("words"), From: v.Get("from"),
			Until: v.Get("until"), Open: v.Get("open") == "true",
		}, inAFile)
	}
	var text []byte
	if err == nil {
		names := map[string]string{}
		for _, m := range sh.Machines {
			names[m.ID] = m.Name
		}
		rows := make([]daybook.Entry, len(list))
		for i := range list {
			rows[i] = list[i].Entry
		}
		text, err = sheet.DaybookCSV(rows, names)
	}
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", csvType)
	w.Header().Set("Content-Disposition", `attachment; filename="daybook.csv"`)
	send(w, r, text)
}
