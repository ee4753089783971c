package server

import (
	"io/fs"
	"log/slog"
	"net/http"

	"github.com/go-chi/chi/v5"

	"brackmoor/core/drive"
	"brackmoor/core/inverter"
	"brackmoor/drivebus"
)

// aloneID is the id of a drive that stands on a page of its own.
const aloneID = "alone"

// Keypad serves a simulated drive that answers on a bus with its keypad, terminals and meters on a page of its own:
// without a shop, and without anything that is kept. In is the motor on its supply, c what the drive was made by.
func Keypad(app fs.FS, log *slog.Logger, in drive.Input, c inverter.Case, load float64,
	sim *drivebus.Sim) http.Handler {
	s := newService(Options{App: app, Log: log})
	st := newStanding(aloneID, in, c, sim)
	st.Title, st.load = "A simulated drive", load
	s.bench.sims = []*standing{st}
	router := s.router()
	router.Route("/api", func(r chi.Router) {
		r.Use(ownPages, limitBody, soundJSON, noStore)
		s.keypadAPI(humaAPI(r))
		r.NotFound(notFound)
		r.MethodNotAllowed(methodNotAllowed)
	})
	page := s.static()
	router.NotFound(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/" {
			http.Redirect(w, r, "/keypad/"+aloneID, http.StatusSeeOther)
			return
		}
		page(w, r)
	})
	router.MethodNotAllowed(methodNotAllowed)
	return router
}
