package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"net"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/httprate"

	"brackmoor/server/passphrase"
	"brackmoor/store"
)

// auth asks who comes: by the shop's passphrase, or, once there are people, by name and their own.
type auth struct {
	hash    func(context.Context) (string, error)
	people  *store.Store
	manager *scs.SessionManager
}

// What a session keeps: of which passphrase it was told, so that a change of it ends every one, and of somebody who is
// known by name the sign-in.
const (
	session = "known"
	signIn  = "sign-in"
)

// lifetime is how long a session holds.
const lifetime = 30 * 24 * time.Hour

func newAuth(o Options) *auth {
	a := &auth{hash: o.Passphrase, people: o.Store}
	if a.hash == nil {
		return a
	}
	a.manager = scs.New()
	a.manager.HashTokenInStore = true
	a.manager.Store = sqlite3store.NewWithCleanupInterval(o.Store.DB, 0)
	a.manager.Lifetime = lifetime
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

// caller is who asks: a person, or somebody without a name who knows the shop's passphrase or sits at the machine
// itself and may do everything.
type caller struct {
	person *store.Person
	signIn string
}

// who is the caller of a request; ok is false for a stranger.
func (a *auth) who(r *http.Request) (c caller, ok bool) {
	if a.manager == nil {
		return c, true
	}
	ctx := r.Context()
	told := a.manager.GetString(ctx, session)
	if told == "" {
		return c, false
	}
	if c.signIn = a.manager.GetString(ctx, signIn); c.signIn != "" {
		person, err := a.people.SignedIn(ctx, c.signIn)
		c.person = person
		return c, err == nil && person != nil && told == fingerprint(person.Hash)
	}
	hash, err := a.hash(ctx)
	if err != nil || told != fingerprint(hash) {
		return c, false
	}
	peopled, err := a.people.Peopled(ctx)
	return c, err == nil && !peopled
}

func (a *auth) known(r *http.Request) bool {
	_, ok := a.who(r)
	return ok
}

// fingerprint tells one hash from another and gives neither away.
func fingerprint(hash string) string {
	sum := sha256.Sum256([]byte(hash))
	return hex.EncodeToString(sum[:])
}

type callerKey struct{}

func callerOf(ctx context.Context) caller {
	c, _ := ctx.Value(callerKey{}).(caller)
	return c
}

// roleOf is what the caller may do, "" for nobody who was asked.
func roleOf(ctx context.Context) string {
	switch c, ok := ctx.Value(callerKey{}).(caller); {
	case !ok:
		return ""
	case c.person != nil:
		return c.person.Role
	}
	return store.Roles[len(store.Roles)-1].Name
}

func (a *auth) required(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		c, ok := a.who(r)
		if !ok {
			a.refuse(w, r, "Give the shop's passphrase first.", "Give your name and passphrase first.")
			return
		}
		ctx := context.WithValue(r.Context(), callerKey{}, c)
		if c.person != nil {
			ctx = store.WithWho(ctx, c.person.Name)
		}
		next.ServeHTTP(w, r.WithContext(ctx))
	})
}

// refuse says to a stranger what is wanted: where people are known by name, at their name.
func (a *auth) refuse(w http.ResponseWriter, r *http.Request, alone, named string) {
	if peopled, err := a.people.Peopled(r.Context()); err == nil && peopled {
		writeProblem(w, http.StatusUnauthorized, named, &huma.ErrorDetail{Location: "name", Message: named})
		return
	}
	writeProblem(w, http.StatusUnauthorized, alone)
}

// nobody is compared with where there is no such name, so that it takes as long; nobody knows what it is made of.
var nobody = sync.OnceValue(func() string { return passphrase.Hash(rand.Text(), passphrase.Production) })

// told is the hash that a name's passphrase is held to, and whose it is; nobody's where people sign in by name and this
// is none of them.
func (a *auth) told(ctx context.Context, name string) (hash string, person *store.Person, err error) {
	people, err := a.people.People(ctx)
	if err != nil {
		return "", nil, err
	}
	if len(people) == 0 {
		hash, err = a.hash(ctx)
		return hash, nil, err
	}
	for i := range people {
		if strings.EqualFold(people[i].Name, strings.TrimSpace(name)) {
			return people[i].Hash, &people[i], nil
		}
	}
	return nobody(), nil, nil
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
			Name       string `json:"name"`
			Passphrase string `json:"passphrase"`
		}
		ctx := r.Context()
		if err := json.NewDecoder(r.Body).Decode(&in); err != nil {
			writeProblem(w, http.StatusUnprocessableEntity, "It is no JSON.")
			return
		}
		hash, person, err := a.told(ctx, in.Name)
		if err != nil {
			writeProblem(w, http.StatusInternalServerError, "The passphrase could not be read.")
			return
		}
		if !passphrase.Matches(ctx, hash, in.Passphrase) {
			a.refuse(w, r, "That is not the passphrase.", "Name and passphrase do not go together.")
			return
		}
		if err := a.manager.RenewToken(ctx); err != nil {
			writeProblem(w, http.StatusInternalServerError, "The session could not be kept.")
			return
		}
		a.manager.Remove(ctx, signIn)
		if person != nil {
			address, _ := byPeer(r)
			id, err := a.people.SignIn(ctx, person.ID, address, r.UserAgent())
			if err != nil {
				writeProblem(w, http.StatusInternalServerError, "The session could not be kept.")
				return
			}
			a.manager.Put(ctx, signIn, id)
		}
		a.manager.Put(ctx, session, fingerprint(hash))
		w.WriteHeader(http.StatusNoContent)
	})
	r.Post("/logout", func(w http.ResponseWriter, r *http.Request) {
		if c, ok := a.who(r); ok && c.person != nil {
			if err := a.people.EndSignIn(r.Context(), c.person.ID, c.signIn); err != nil {
				writeProblem(w, http.StatusInternalServerError, "The session could not be ended.")
				return
			}
		}
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
