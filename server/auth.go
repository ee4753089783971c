package server

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
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
	hash    func(context.Context) (string, error)
	manager *scs.SessionManager
}

// session names what a session keeps: of which passphrase it was told, so that a change of it
// ends every one.
const session = "known"

func newAuth(o Options) *auth {
	a := &auth{hash: o.Passphrase}
	if a.hash == nil {
		return a
	}
	a.manager = scs.New()
	a.manager.HashTokenInStore = true
	a.manager.Store = sqlite3store.NewWithCleanupInterval(o.Store.DB, 0)
	a.manager.Lifetime = 30 * 24 * time.Hour
	a.manager.Cookie.Name = "brackmoor"
	a.manager.Cookie.HttpOnly, a.manager.Cookie.Secure = true, o.Secure
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
	if a.manager == nil {
		return true
	}
	told := a.manager.GetString(r.Context(), session)
	hash, err := a.hash(r.Context())
	return err == nil && told != "" && told == fingerprint(hash)
}

// fingerprint tells one hash from another and gives neither away.
func fingerprint(hash string) string {
	sum := sha256.Sum256([]byte(hash))
	return hex.EncodeToString(sum[:])
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
		hash, err := a.hash(r.Context())
		if err != nil {
			writeProblem(w, http.StatusInternalServerError, "The passphrase could not be read.")
			return
		}
		if err := json.NewDecoder(r.Body).Decode(&in); err != nil ||
			!passphrase.Matches(r.Context(), hash, in.Passphrase) {
			writeProblem(w, http.StatusUnauthorized, "That is not the passphrase.")
			return
		}
		if err := a.manager.RenewToken(r.Context()); err != nil {
			writeProblem(w, http.StatusInternalServerError, "The session could not be kept.")
			return
		}
		a.manager.Put(r.Context(), session, fingerprint(hash))
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
