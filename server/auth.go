package server

import (
	"encoding/json"
	"net"
	"net/http"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/httprate"

	"brackmoor/server/passphrase"
)

// auth asks for the shop's passphrase where one is needed.
type auth struct {
	hash    string
	manager *scs.SessionManager
}

func newAuth(o Options) *auth {
	a := &auth{hash: o.Passphrase}
	if a.hash == "" {
		return a
	}
	a.manager = scs.New()
	a.manager.Store = sqlite3store.NewWithCleanupInterval(o.Store.DB, 0)
	a.manager.Lifetime = 30 * 24 * time.Hour
	a.manager.Cookie.Name = "brackmoor"
	a.manager.Cookie.HttpOnly = true
	a.manager.Cookie.SameSite = http.SameSiteStrictMode
	return a
}

func (a *auth) sessions(next http.Handler) http.Handler {
	if a.manager == nil {
		return next
	}
	return a.manager.LoadAndSave(next)
}

func (a *auth) known(r *http.Request) bool {
	return a.manager == nil || a.manager.GetBool(r.Context(), "known")
}

func (a *auth) required(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !a.known(r) {
			writeProblem(w, http.StatusUnauthorized, "Give the shop's passphrase first.")
			return
		}
		next.ServeHTTP(w, r)
	})
}

// routes are those that are open to a stranger.
func (a *auth) routes(r chi.Router) {
	if a.manager == nil {
		return
	}
	limited := httprate.LimitBy(
		10,
		time.Minute,
		byPeer,
		httprate.WithLimitHandler(func(w http.ResponseWriter, _ *http.Request) {
			writeProblem(w, http.StatusTooManyRequests, "Too many tries; wait a minute.")
		}),
	)
	r.With(limited).Post("/login", func(w http.ResponseWriter, r *http.Request) {
		var in struct {
			Passphrase string `json:"passphrase"`
		}
		if err := json.NewDecoder(r.Body).Decode(&in); err != nil || !passphrase.Matches(a.hash, in.Passphrase) {
			writeProblem(w, http.StatusUnauthorized, "That is not the passphrase.")
			return
		}
		if err := a.manager.RenewToken(r.Context()); err != nil {
			writeProblem(w, http.StatusInternalServerError, "The session could not be kept.")
			return
		}
		a.manager.Put(r.Context(), "known", true)
		w.WriteHeader(http.StatusNoContent)
	})
	r.Post("/logout", func(w http.ResponseWriter, r *http.Request) {
		if err := a.manager.Destroy(r.Context()); err != nil {
			writeProblem(w, http.StatusInternalServerError, "The session could not be ended.")
			return
		}
		w.WriteHeader(http.StatusNoContent)
	})
}

// byPeer counts tries by the address that opened the connection, which a
// header cannot forge.
func byPeer(r *http.Request) (string, error) {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return "", err
	}
	return httprate.CanonicalizeIP(host), nil
}
