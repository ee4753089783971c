package server

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"runtime/debug"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"

	"brackmoor/core/strict"
	"brackmoor/server/photo"
)

func init() {
	huma.ValidateStrictCasing = true // else a key in other letters is decoded over the one that was checked
	// The sentences that a person reads beside a field.
	validation.MsgExpectedMinimumNumber = "It must be at least %v."
	validation.MsgExpectedMaximumNumber = "It must be at most %v."
	validation.MsgExpectedMaxLength = "It must not be longer than %d characters."
	validation.MsgExpectedMaxItems = "There must not be more than %d of them."
	validation.MsgExpectedOneOf = "It must be one of \"%s\"."
	validation.MsgExpectedNumber = "It must be a number."
	validation.MsgExpectedRequiredProperty = "%s is missing."
	validation.MsgUnexpectedProperty = "There is no such property."
	// One place words the errors of requests that do not fit the API: where,
	// and what, but never the body back.
	huma.NewError = func(status int, says string, errs ...error) huma.StatusError {
		if says == "validation failed" {
			says = "Some of it could not be kept."
		}
		problem := &huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: says}
		for _, err := range errs {
			if detail, ok := err.(*huma.ErrorDetail); ok {
				problem.Errors = append(
					problem.Errors,
					&huma.ErrorDetail{
						Message: plainly(strict.Brief(detail.Message)), Location: strict.Brief(detail.Location),
					},
				)
			}
		}
		return problem
	}
}

// plainly words what a library says of a value it could not read.
func plainly(says string) string {
	for begins, plain := range map[string]string{
		"invalid character": "It is no JSON.", "unexpected end": "It is no JSON.",
		"invalid float": "It must be a number.", "invalid integer": "It must be a whole number.",
		"json: ": "It is of another kind.",
	} {
		if strings.HasPrefix(says, begins) {
			return plain
		}
	}
	return says
}

// encoded is an answer's JSON, made before its status is sent.
type encoded []byte

// encode makes an answer's JSON. One that cannot be made, for a figure that is none, is a fault of
// ours: it never stands under a status that says that all is well.
func encode(v any) encoded {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil {
		panic(fmt.Errorf("an answer that is no JSON: %w", err))
	}
	return b.Bytes()
}

// wholeJSON is JSON as whole leaves it.
var wholeJSON = huma.Format{
	Marshal: func(w io.Writer, v any) error {
		b, ok := v.(encoded)
		if !ok {
			b = encode(v)
		}
		_, err := w.Write(b)
		return err
	},
	Unmarshal: json.Unmarshal,
}

// writeProblem writes an RFC 9457 problem.
func writeProblem(w http.ResponseWriter, status int, says string, details ...*huma.ErrorDetail) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	// The status is sent: a failed write means that the caller has gone.
	_ = json.NewEncoder(w).
		Encode(&huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: says, Errors: details})
}

func notFound(w http.ResponseWriter, _ *http.Request) {
	writeProblem(w, http.StatusNotFound, "There is nothing at this address.")
}

func methodNotAllowed(w http.ResponseWriter, _ *http.Request) {
	writeProblem(w, http.StatusMethodNotAllowed, "This address does not take that method.")
}

func (s *service) recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if fault := recover(); fault != nil && fault != http.ErrAbortHandler {
				reference := rand.Text()[:8]
				s.Log.Error("panic", "reference", reference, "fault", fault, "path", r.URL.Path,
					"stack", string(debug.Stack()))
				writeProblem(w, http.StatusInternalServerError,
					"That failed on our side. The server's log has the cause, under "+reference+".")
			}
		}()
		next.ServeHTTP(w, r)
	})
}

// hostOf is the name that a request asks, without a port.
func hostOf(r *http.Request) string {
	host := r.Host
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	return strings.ToLower(strings.Trim(host, "[]"))
}

// hostCheck refuses requests under a foreign name, so that a page elsewhere
// cannot reach a server on loopback through a name of its own.
func hostCheck(allowed []string) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			host := hostOf(r)
			if host == "localhost" || net.ParseIP(host) != nil || slices.Contains(allowed, host) {
				next.ServeHTTP(w, r)
				return
			}
			writeProblem(w, http.StatusMisdirectedRequest, "This server is not known under that name.")
		})
	}
}

type nonceKey struct{}

func nonceOf(ctx context.Context) string {
	nonce, _ := ctx.Value(nonceKey{}).(string)
	return nonce
}

// secure sets the headers that keep the page to itself. Styles that the
// interface makes at run time carry the nonce of the page; what reads the letters of a
// photo comes compiled, and may run.
func secure(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		nonce := rand.Text()
		h := w.Header()
		h.Set(
			"Content-Security-Policy",
			"default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'nonce-"+nonce+"'; "+
				"img-src 'self' data:; font-src 'self'; connect-src 'self'; manifest-src 'self'; worker-src 'self'; "+
				"base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
		)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), nonceKey{}, nonce)))
	})
}

// ownPages refuses what a page elsewhere asks of the API, by what a browser says of it: answers
// cost work even where they cannot be read.
func ownPages(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if site := r.Header.Get("Sec-Fetch-Site"); site == "cross-site" || site == "same-site" {
			writeProblem(w, http.StatusForbidden, "Only Brackmoor's own pages may ask this.")
			return
		}
		next.ServeHTTP(w, r)
	})
}

func noStore(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-store")
		next.ServeHTTP(w, r)
	})
}

// ownReader says whether what is sent to a path is a file that is read by itself.
func ownReader(path string) bool { return path == "/api/import" || strings.HasSuffix(path, "/tables") }

func limitBody(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		limit := int64(2 * bodyLimit) // the operations refuse at bodyLimit, in words
		switch {
		case ownReader(r.URL.Path):
			limit = importLimit
		case r.Method == http.MethodPost && strings.HasSuffix(r.URL.Path, "/photos"):
			limit = photo.MostBytes
		}
		r.Body = http.MaxBytesReader(w, r.Body, limit)
		next.ServeHTTP(w, r)
	})
}

// soundJSON refuses a body of the API that is no sound JSON before any library computes with it:
// numbers out of bounds, keys that stand twice, nesting without end, whatever kind it is said to
// be. Pictures are none, an import is read by itself, and what is too large is left to the
// operations, which say so.
func soundJSON(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if ownReader(r.URL.Path) || strings.HasSuffix(r.URL.Path, "/photos") {
			next.ServeHTTP(w, r)
			return
		}
		text, err := io.ReadAll(r.Body)
		if torn(w, err) {
			return
		}
		if err == nil && len(text) > 0 && len(text) <= bodyLimit {
			if p := strict.Sound(text); p != nil && !strings.HasPrefix(p.Says, "is not JSON") {
				writeProblem(
					w,
					http.StatusUnprocessableEntity,
					"What was sent could not be read.",
					&huma.ErrorDetail{
						Location: strings.Replace(strict.Brief(p.Path), "$", "body", 1),
						Message:  strict.Brief(p.Says) + ".",
					},
				)
				return
			}
		}
		r.Body = io.NopCloser(io.MultiReader(bytes.NewReader(text), failing{err}))
		next.ServeHTTP(w, r)
	})
}

// torn answers what broke off while it was read, or came in pieces that are none; what is too
// large is left to who says how large it may be.
func torn(w http.ResponseWriter, err error) bool {
	var large *http.MaxBytesError
	if err == nil || errors.As(err, &large) {
		return false
	}
	writeProblem(w, http.StatusBadRequest, "What was sent broke off or was garbled on its way.")
	return true
}

// failing is a reader that gives an error, or the end where there is none.
type failing struct{ err error }

func (f failing) Read([]byte) (int, error) {
	if f.err == nil {
		return 0, io.EOF
	}
	return 0, f.err
}
