package server

import (
	"encoding/json"
	"errors"
	"io"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/core/rule"
	"brackmoor/core/schematic"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/wiring"
	"brackmoor/sheet"
	"brackmoor/store"
)

// files registers what is not JSON in the API's own shape: exports, imports,
// the sheet's PDF and the drawing.
func (s *service) files(r chi.Router) {
	r.Get("/export", s.export)
	r.Post("/import", may(plans, s.importShops))
	r.Post("/motors/{id}/photos", may(measures, s.addPhoto(s.Store.AddPhoto)))
	r.Post("/shops/{id}/photos", may(measures, s.addPhoto(s.Store.AddPartPhoto)))
	r.Get("/photos/{id}/image", s.photoImage)
	r.Get("/motors/{id}/sheet.pdf", s.sheetPDF)
	r.Get("/motors/{id}/circuit.svg", s.circuitSVG)
	r.Get("/motors/{id}/settings.csv", s.settingsCSV)
	r.Get("/motors/{id}/settings.json", s.settingsJSON)
	r.Get("/motors/{id}/box.svg", s.boxSVG)
	r.Get("/motors/{id}/circuit.json", s.circuitJSON)
	r.Get("/motors/{id}/circuit.pdf", s.building("application/pdf", "circuit.pdf", s.circuitPDF))
	r.Get("/motors/{id}/labels.pdf", s.building("application/pdf", "labels.pdf", s.labelsPDF))
	r.Get("/motors/{id}/wires.csv", s.building(csvType, "wires.csv", s.wiresCSV))
	r.Get("/motors/{id}/parts.csv", s.building(csvType, "parts.csv", s.partsCSV))
	r.Get("/motors/{id}/cabinet.svg", s.building("image/svg+xml", "cabinet.svg", s.cabinetSVG))
	r.Get("/shops/{id}/floor.svg", s.floorSVG)
	r.Get("/shops/{id}/daybook.csv", s.daybookCSV)
	r.Get("/shops/{id}/tables/{table}", s.table)
	r.Post("/shops/{id}/tables", may(plans, s.readTable))
}

// refuse writes an error as the problem it is.
func refuse(w http.ResponseWriter, err error) {
	var headed huma.HeadersError
	if errors.As(err, &headed) {
		maps.Copy(w.Header(), headed.GetHeaders())
	}
	var status huma.StatusError
	if errors.As(err, &status) {
		writeProblem(w, status.GetStatus(), status.Error())
		return
	}
	writeProblem(w, http.StatusInternalServerError, "That failed on our side. The server's log has the cause.")
}

func (s *service) export(w http.ResponseWriter, r *http.Request) {
	file, err := s.Store.Export(r.Context())
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	if only := r.URL.Query().Get("shop"); only != "" {
		kept := []shop.Shop{}
		for _, sh := range file.Shops {
			if sh.ID == only {
				kept = append(kept, sh)
			}
		}
		file.Shops = kept
	}
	text, err := json.MarshalIndent(file, "", "  ")
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", `attachment; filename="brackmoor-shops.json"`)
	send(w, r, append(text, '\n'))
}

func (s *service) importShops(w http.ResponseWriter, r *http.Request) {
	text, err := io.ReadAll(r.Body)
	if torn(w, err) {
		return
	}
	if err != nil {
		writeProblem(w, http.StatusRequestEntityTooLarge, "The file is too large: at most 8 MB.")
		return
	}
	var file shop.File
	var problems rule.Problems
	if err := s.slots.do(r.Context(), func() { file, problems = shop.ReadFile(text) }); err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	if problems != nil {
		writeProblem(w, http.StatusUnprocessableEntity, "Nothing was imported; the file does not follow the format.",
			details(problems)...)
		return
	}
	query := r.URL.Query()
	chosen := store.Choice{
		Take: set(query["take"]), Keep: set(query["keep"]), Preview: query.Get("preview") == "true",
	}
	report, err := s.Store.Import(r.Context(), file, chosen)
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	writeJSON(w, report)
}

func set(list []string) map[string]bool {
	all := map[string]bool{}
	for _, one := range list {
		all[one] = true
	}
	return all
}

func writeJSON(w http.ResponseWriter, value any) {
	text := encode(value)
	w.Header().Set("Content-Type", "application/json")
	_, _ = w.Write(text) // a failed write means that the caller has gone
}

func (s *service) sheetPDF(w http.ResponseWriter, r *http.Request) {
	p, st, err := s.studied(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, err)
		return
	}
	made, err := s.sheetOf(r.Context(), p, st)
	if err != nil {
		refuse(w, err)
		return
	}
	var pdf []byte
	told := readerOf(r).Told(made).(sheet.Sheet)
	paper := paperFor(r, p.Shop.Supply.Hertz)
	full := s.slots.do(r.Context(), func() { pdf, err = sheet.PDF(told, paper, s.Now()) })
	if err = errors.Join(full, err); err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "application/pdf")
	w.Header().Set("Content-Disposition", `inline; filename="`+fileName(p.Machine.Name)+`.pdf"`)
	send(w, r, pdf)
}

// circuitSVG sends a sheet of a motor's circuit, the one asked for as ?sheet=power or control, with what stops.
func (s *service) circuitSVG(w http.ResponseWriter, r *http.Request) {
	p, st, err := s.studied(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, err)
		return
	}
	made, err := s.sheetOf(r.Context(), p, st)
	if err != nil {
		refuse(w, err)
		return
	}
	on := max(slices.Index(schematic.Sheets, schematic.Sheet(r.URL.Query().Get("sheet"))), 0)
	sendSVG(w, fileName(p.Machine.Name)+"-"+string(schematic.Sheets[on]), made.Drawings[on])
}

// boxSVG sends the terminal box, which needs no sound plate.
func (s *service) boxSVG(w http.ResponseWriter, r *http.Request) {
	p, err := s.Store.Motor(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	drawing := study.Of(p.Shop.Supply, p.Motor, s.fit, p.Shop.Own.Loads...).Box(p.Motor)
	if drawing == nil {
		refuse(w, huma.Error409Conflict("The leads are not known well enough to draw their box."))
		return
	}
	sendSVG(w, fileName(p.Machine.Name)+"-box", *drawing)
}

func sendSVG(w http.ResponseWriter, name string, d wiring.Drawing) {
	w.Header().Set("Content-Type", "image/svg+xml")
	w.Header().Set("Content-Disposition", `attachment; filename="`+name+`.svg"`)
	_, _ = w.Write(sheet.SVG(d)) // a failed write means that the caller has gone
}

// fileName keeps letters and figures of a name.
func fileName(name string) string {
	safe := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return '-'
	}, name)
	return "job-sheet-" + strings.Trim(safe, "-")
}
