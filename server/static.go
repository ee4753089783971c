package server

import (
	"bytes"
	"compress/gzip"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strconv"
	"strings"
	"sync"
)

func init() {
	_ = mime.AddExtensionType(".webmanifest", "application/manifest+json") // it is a sound type
}

// asset is a file of the web application, ready to send.
type asset struct {
	plain, zipped []byte
	kind          string
}

// static serves the web application. Files under assets/ carry a hash in their
// name and never change; every other address is the application itself.
func (s *service) static() http.HandlerFunc {
	if s.App == nil {
		return func(w http.ResponseWriter, _ *http.Request) {
			http.Error(
				w,
				"This Brackmoor was built without its web application. Run: make build",
				http.StatusServiceUnavailable,
			)
		}
	}
	var known sync.Map
	load := func(name string) (*asset, bool) {
		if a, ok := known.Load(name); ok {
			return a.(*asset), true
		}
		plain, err := fs.ReadFile(s.App, name)
		if err != nil {
			return nil, false
		}
		a := &asset{plain: plain, kind: mime.TypeByExtension(path.Ext(name))}
		if strings.HasPrefix(a.kind, "text/") || strings.Contains(a.kind, "javascript") ||
			strings.Contains(a.kind, "svg") {
			var b bytes.Buffer
			z := gzip.NewWriter(&b)
			if _, err := z.Write(plain); err == nil && z.Close() == nil {
				a.zipped = b.Bytes()
			}
		}
		known.Store(name, a)
		return a, true
	}
	return func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			methodNotAllowed(w, r)
			return
		}
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		a, ok := load(name)
		if !ok || name == "" || name == "index.html" {
			if strings.HasPrefix(name, "assets/") {
				notFound(w, r)
				return
			}
			s.page(w, r, load)
			return
		}
		w.Header().Set("Content-Type", a.kind)
		w.Header().Set("Cache-Control", "no-cache")
		if strings.HasPrefix(name, "assets/") {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		body := a.plain
		if a.zipped != nil {
			w.Header().Set("Vary", "Accept-Encoding")
			if strings.Contains(r.Header.Get("Accept-Encoding"), "gzip") {
				w.Header().Set("Content-Encoding", "gzip")
				body = a.zipped
			}
		}
		send(w, r, body)
	}
}

// page sends the application's page with this answer's nonce in it.
func (s *service) page(w http.ResponseWriter, r *http.Request, load func(string) (*asset, bool)) {
	a, ok := load("index.html")
	if !ok {
		notFound(w, r)
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	send(w, r, bytes.ReplaceAll(a.plain, []byte("__NONCE__"), []byte(nonceOf(r.Context()))))
}

func send(w http.ResponseWriter, r *http.Request, body []byte) {
	w.Header().Set("Content-Length", strconv.Itoa(len(body)))
	if r.Method == http.MethodGet {
		_, _ = w.Write(body) // a failed write means that the caller has gone
	}
}
