package server

import (
	"encoding/json"
	"io"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/store"
)

// TableReport says what a table of comma-separated values does to a shop, or did.
type TableReport struct {
	Lines []shop.Line `json:"lines"`
	Done  bool        `json:"done"`
}

func (s *service) table(w http.ResponseWriter, r *http.Request) {
	name := chi.URLParam(r, "table")
	if !slices.Contains(shop.Tables, name) {
		refuse(w, huma.Error404NotFound("There is no such table."))
		return
	}
	sh, err := s.Store.Shop(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	text, err := sh.Table(name)
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="`+fileName(sh.Name)+"-"+name+`s.csv"`)
	send(w, r, text)
}

// readTable takes a table into a shop, all of it or nothing; a preview tells what it would do.
func (s *service) readTable(w http.ResponseWriter, r *http.Request) {
	text, err := io.ReadAll(r.Body)
	if torn(w, err) {
		return
	}
	if err != nil {
		writeProblem(w, http.StatusRequestEntityTooLarge, "The file is too large: at most 8 MB.")
		return
	}
	sh, err := s.Store.Shop(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	changed, lines, problems := sh.ReadTable(text, store.NewID)
	var file shop.File
	if problems == nil { // what a file may hold, a table may
		whole, err := json.Marshal(shop.File{Format: shop.Format, Shops: []shop.Shop{changed}})
		if err != nil {
			refuse(w, s.fault(r.Context(), err))
			return
		}
		file, problems = shop.ReadFile(whole)
	}
	if problems != nil {
		writeProblem(w, http.StatusUnprocessableEntity, "Nothing was imported; the table cannot be taken as it is.",
			details(problems)...)
		return
	}
	preview := r.URL.Query().Get("preview") == "true"
	if _, err := s.Store.Import(r.Context(), file, store.Choice{Preview: preview, Whole: true}); err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	writeJSON(w, TableReport{Lines: lines, Done: !preview})
}

// details are the first of many problems.
func details(problems rule.Problems) (list []*huma.ErrorDetail) {
	for _, p := range problems[:min(50, len(problems))] {
		list = append(list, &huma.ErrorDetail{Location: p.Path, Message: p.Says})
	}
	return list
}
