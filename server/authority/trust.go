package authority

import (
	_ "embed"
	"html/template"
	"net"
	"net/http"
)

// The addresses at which the authority's certificate is had, and where it is told how it is trusted.
const (
	trustPath = "/trust"
	certPath  = "/authority.crt"
)

//go:embed trust.html
var trustText string

var trustPage = template.Must(template.New("trust").Parse(trustText))

// Trust adds to a handler the page that shows how a phone trusts this server, and the certificate that it takes in.
func (a *Authority) Trust(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case trustPath:
			a.page(w, r)
		case certPath:
			w.Header().Set("Content-Type", "application/x-x509-ca-cert")
			w.Header().Set("Content-Disposition", `attachment; filename="brackmoor-authority.crt"`)
			_, _ = w.Write(a.DER()) // a failed write means that the caller has gone
		default:
			next.ServeHTTP(w, r)
		}
	})
}

// Plain is what is answered without TLS: the page of trust and the certificate, and for all else the way to TLS.
func (a *Authority) Plain() http.Handler {
	return a.Trust(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-store")
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			http.Error(w, "This server is asked by https.", http.StatusUpgradeRequired)
			return
		}
		to := *r.URL
		to.Scheme, to.Host = "https", a.known(r.Host)
		http.Redirect(w, r, to.String(), http.StatusTemporaryRedirect)
	}))
}

// known is the host that was asked, where it is one of the server's own, else the first of those: nobody is led away.
func (a *Authority) known(asked string) string {
	host, port, err := net.SplitHostPort(asked)
	if err != nil {
		host, port = asked, ""
	}
	names := a.names()
	own := names[0]
	for _, name := range names {
		if name == host {
			own = host
		}
	}
	if port == "" {
		return own
	}
	return net.JoinHostPort(own, port)
}

func (a *Authority) page(w http.ResponseWriter, r *http.Request) {
	address := "https://" + a.known(r.Host) + "/"
	code, err := SVG(address)
	if err != nil {
		http.Error(w, "This address is too long for a code.", http.StatusInternalServerError)
		return
	}
	h := w.Header()
	h.Set("Content-Type", "text/html; charset=utf-8")
	h.Set("Content-Security-Policy", "default-src 'none'; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Cache-Control", "no-store")
	_ = trustPage.Execute(w, map[string]any{ // a failed write means that the caller has gone
		"Address": address, "Code": template.HTML(code), "Fingerprint": a.Fingerprint(),
		"Ends": a.Ends().Format("2006-01-02"), "Cert": certPath,
	})
}
