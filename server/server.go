// Package server is the HTTP side of Brackmoor: the API over the store and the
// core, and the web application.
package server

import (
	"context"
	"crypto/sha256"
	"errors"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"path"
	"reflect"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/floor"
	"brackmoor/core/motor"
	"brackmoor/store"
)

// Options are the outside things a server is given.
type Options struct {
	Store *store.Store
	App   fs.FS // the web application; nil when it was not built
	Now   func() time.Time
	Log   *slog.Logger
	// Hosts are names, beside loopback names and plain addresses, under which
	// the server may be asked.
	Hosts []string
	// Passphrase reads the encoded hash that a caller must know, which may change; nil on
	// loopback, where no one is asked.
	Passphrase func(context.Context) (string, error)
	// Secure says that it is asked by HTTPS, and its cookie sent by nothing else.
	Secure bool
}

const (
	bodyLimit   = 256 << 10
	importLimit = 8 << 20
)

// service carries what the handlers share.
type service struct {
	Options
	fits      *memory[motor.Target, fitted]
	questions *memory[asked, *feed.Question]
	routes    *memory[string, []compare.Worked]
	pages     *memory[sized, paged]
	offs      *memory[sized, opened]
	traces    *memory[tried, traced] // these are long: few are kept
	floors    *memory[string, *floor.Floor]
	cards     *memory[[sha256.Size]byte, MotorCard]
	sheets    *memory[string, papered]
	wired     *memory[sized, Wiring]
	slots     slots
	bus       buses
	bench     benches
	windows   atomic.Int64 // that listen
}

func newService(o Options) *service {
	return &service{
		Options:   o,
		fits:      remember[motor.Target, fitted](500),
		questions: remember[asked, *feed.Question](60),
		routes:    remember[string, []compare.Worked](60),
		pages:     remember[sized, paged](100),
		offs:      remember[sized, opened](200),
		traces:    remember[tried, traced](6),
		floors:    remember[string, *floor.Floor](20),
		cards:     remember[[sha256.Size]byte, MotorCard](mostCards),
		sheets:    remember[string, papered](60),
		wired:     remember[sized, Wiring](60),
		slots:     newSlots(),
	}
}

// New makes the handler.
func New(o Options) http.Handler {
	s := newService(o)
	router := s.router()
	auth := newAuth(o)
	router.Use(auth.sessions)
	router.Route("/api", func(r chi.Router) {
		r.Use(ownPages, limitBody, soundJSON, noStore, actor)
		auth.routes(r)
		r.Group(func(r chi.Router) {
			r.Use(auth.required)
			r.Get("/events", func(w http.ResponseWriter, r *http.Request) { s.events(w, r, auth.known) })
			r.Group(func(r chi.Router) {
				r.Use(s.present)
				s.files(r)
				s.api(r)
			})
		})
		r.NotFound(notFound)
		r.MethodNotAllowed(methodNotAllowed)
	})
	router.NotFound(s.static())
	router.MethodNotAllowed(methodNotAllowed)
	return router
}

// router is one with what guards every address.
func (s *service) router() chi.Router {
	router := chi.NewRouter()
	router.Use(
		middleware.RequestID,
		s.recoverer,
		secure,
		hostCheck(s.Hosts),
		middleware.Compress(1, "application/json", "application/problem+json", "image/svg+xml"),
	)
	router.Use(http.NewCrossOriginProtection().Handler)
	return router
}

// Describe returns the API's OpenAPI document as JSON.
func Describe() ([]byte, error) {
	return newService(Options{}).api(chi.NewRouter()).OpenAPI().MarshalJSON()
}

// humaAPI is an API without operations.
func humaAPI(r chi.Router) huma.API {
	config := huma.DefaultConfig("Brackmoor", "1")
	config.OpenAPIPath, config.DocsPath, config.SchemasPath = "", "", ""
	config.CreateHooks = nil // no $schema links in answers
	config.Transformers = append(config.Transformers, whole)
	config.Formats = map[string]huma.Format{"application/json": wholeJSON, "json": wholeJSON}
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	config.Servers = []*huma.Server{{URL: "/api"}}
	return humachi.New(r, config)
}

// api registers every JSON operation.
func (s *service) api(r chi.Router) huma.API {
	api := humaAPI(r)
	api.UseMiddleware(rights(api))
	s.people(api)
	s.shops(api)
	s.machines(api)
	s.motors(api)
	s.ways(api)
	s.scopes(api)
	s.wirings(api)
	s.stores(api)
	s.prove(api)
	s.daybook(api)
	s.firstRun(api)
	s.acceptance(api)
	s.diagnosis(api)
	s.reckoning(api)
	s.lessons(api)
	s.settingsOf(api)
	s.busOf(api)
	s.benchAPI(api)
	s.rigs(api)
	s.rulebook(api)
	s.plates(api)
	s.photos(api)
	s.floorAPI(api)
	s.dayAPI(api)
	return api
}

// schemaName names a type of another package with that package, since two
// packages may use one word: load.Kind is LoadKind.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if place := path.Base(
		t.PkgPath(),
	); t.Name() != "" && strings.HasPrefix(t.PkgPath(), "brackmoor/") && place != "server" &&
		!strings.EqualFold(place, name) {
		name = strings.ToUpper(place[:1]) + place[1:] + name
	}
	return name
}

// HTTP wraps a handler with the timeouts of a server that faces strangers.
// What listens to events is let go of when it is about to stop.
func HTTP(handler http.Handler) *http.Server {
	stopping := make(chan struct{})
	s := &http.Server{Handler: handler, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 20 * time.Second,
		WriteTimeout: 30 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
		BaseContext: func(net.Listener) context.Context {
			return context.WithValue(context.Background(), closingKey{}, (<-chan struct{})(stopping))
		}}
	s.RegisterOnShutdown(sync.OnceFunc(func() { close(stopping) }))
	return s
}

type fitted struct {
	fit motor.Fit
	err error
}

// fit is motor.FitCircuit, remembered.
func (s *service) fit(t motor.Target) (motor.Fit, error) {
	f, err := s.fits.get(context.Background(), t, func(context.Context) (fitted, error) {
		fit, err := motor.FitCircuit(t)
		return fitted{fit, err}, nil
	})
	return f.fit, errors.Join(err, f.err)
}

// fault turns an error into the problem a caller may see.
func (s *service) fault(ctx context.Context, err error) error {
	var taken *store.TakenError
	var full *store.FullError
	switch {
	case err == nil:
		return nil
	case errors.Is(err, store.ErrOther):
		return huma.Error409Conflict("Something else is written down under this id.")
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("It is not here any more. It may have been deleted in another window.")
	case errors.Is(err, store.ErrChanged):
		return huma.Error409Conflict(
			"It was changed in another window since you opened it. Nothing of yours was written over it.",
		)
	case ctx.Err() != nil:
		return huma.Error503ServiceUnavailable("The asker left before it was done.") // nobody reads it
	case errors.Is(err, errUnsound):
		return huma.Error409Conflict("The plate must be cleared up before anything can be sized from it.")
	case errors.Is(err, store.ErrGone):
		s.Log.Error("request failed", "error", err)
		return huma.Error503ServiceUnavailable(goneSays)
	case errors.Is(err, errFull):
		return tooMuch()
	case store.Busy(err):
		return huma.ErrorWithHeaders(
			huma.Error503ServiceUnavailable("Another program holds the database. Try again in a few seconds."),
			http.Header{"Retry-After": {"3"}},
		)
	case errors.As(err, &full):
		return huma.Error409Conflict(full.Error())
	case errors.As(err, &taken):
		return huma.Error409Conflict("Nothing was imported: " + taken.Error() + ".")
	}
	s.Log.Error("request failed", "error", err, "request", middleware.GetReqID(ctx))
	return huma.Error500InternalServerError(
		"That failed on our side; nothing was changed. The server's log has the cause.",
	)
}
