package server

import (
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/quantity"
)

// readingCookie is where a device keeps how its person reads figures. The page writes it, and every request and
// every link carries it; it says nothing of who they are.
const readingCookie = "brackmoor-reading"

// readerOf is how the person behind a request reads figures: as the shop writes them, where they chose nothing.
func readerOf(r *http.Request) quantity.Reader {
	c, err := r.Cookie(readingCookie)
	if err != nil {
		return quantity.Reader{}
	}
	return quantity.ReaderOf(c.Value)
}

// whole is an answer's JSON, as the person behind the request reads it.
func whole(ctx huma.Context, _ string, v any) (any, error) {
	if c, err := huma.ReadCookie(ctx, readingCookie); err == nil {
		v = quantity.ReaderOf(c.Value).Told(v)
	}
	return encode(v), nil
}

// paperFor is the paper that a request asks for, or else that of its person in a shop on so many hertz.
func paperFor(r *http.Request, hertz float64) string {
	if asked := r.URL.Query().Get("paper"); asked != "" {
		return asked
	}
	return readerOf(r).PaperAt(hertz)
}
