package server

import (
	"net"
	"net/http"
	"net/url"

	"github.com/go-chi/chi/v5"

	"brackmoor/sheet"
	"brackmoor/store"
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
	read := readerOf(r)
	return sheet.CircuitPDF(read.Told(on).(sheet.Sheet), read.Told(made.Wired).(sheet.Wired), made.Cabinet,
		paperFor(r, p.Shop.Supply.Hertz), s.Now())
}

func (s *service) labelsPDF(r *http.Request, made *Wiring) ([]byte, error) {
	place, err := s.Store.Motor(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		return nil, err
	}
	return sheet.LabelsPDF(made.Wired, cardAt(r, place), paperFor(r, place.Shop.Supply.Hertz), s.Now())
}

// cardAt is where a machine's card is opened by others, nil where this machine is asked by a name that is its own
// alone.
func cardAt(r *http.Request, p store.Place) *sheet.Card {
	host := hostOf(r)
	if ip := net.ParseIP(host); host == "localhost" || ip != nil && ip.IsLoopback() {
		return nil
	}
	scheme := "http"
	if r.TLS != nil {
		scheme = "https"
	}
	to := url.URL{Scheme: scheme, Host: r.Host, Path: "/machines/" + p.Machine.ID}
	return &sheet.Card{Title: p.Machine.Name, Address: to.String()}
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
