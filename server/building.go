package server

import (
	"net/http"

	"github.com/go-chi/chi/v5"

	"brackmoor/sheet"
)

const csvType = "text/csv; charset=utf-8"

// building sends a file that is made of a motor's circuit.
func (s *service) building(
	kind, name string, write func(r *http.Request, made *Wiring) ([]byte, error),
) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		made, err := s.wiringOf(r.Context(), chi.URLParam(r, "id"))
		if err != nil {
			refuse(w, err)
			return
		}
		text, err := write(r, &made)
		if err != nil {
			refuse(w, s.fault(r.Context(), err))
			return
		}
		w.Header().Set("Content-Type", kind)
		w.Header().Set("Content-Disposition", `inline; filename="`+name+`"`)
		send(w, r, text)
	}
}

func (s *service) circuitPDF(r *http.Request, made *Wiring) ([]byte, error) {
	p, st, err := s.studied(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		return nil, err
	}
	on, err := s.sheetOf(r.Context(), p, st)
	if err != nil {
		return nil, err
	}
	return sheet.CircuitPDF(on, made.Wired, made.Cabinet, r.URL.Query().Get("paper"), s.Now())
}

func (s *service) labelsPDF(r *http.Request, made *Wiring) ([]byte, error) {
	return sheet.LabelsPDF(made.Wired, r.URL.Query().Get("paper"), s.Now())
}

func (*service) wiresCSV(_ *http.Request, made *Wiring) ([]byte, error) {
	return sheet.WiresCSV(made.Wired)
}

func (*service) partsCSV(_ *http.Request, made *Wiring) ([]byte, error) {
	return sheet.PartsCSV(made.Wired)
}

func (*service) cabinetSVG(_ *http.Request, made *Wiring) ([]byte, error) {
	return sheet.SVG(made.Cabinet), nil
}
