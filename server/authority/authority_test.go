package authority_test

import (
	"crypto/tls"
	"crypto/x509"
	"encoding/pem"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/server/authority"
)

func names(list ...string) func() []string { return func() []string { return list } }

// presented is the certificate that is shown to whoever comes, and the pool of a phone that trusts its authority.
func presented(t *testing.T, a *authority.Authority) (*x509.Certificate, *x509.CertPool) {
	t.Helper()
	cert, err := a.Config().GetCertificate(nil)
	require.NoError(t, err)
	root, err := x509.ParseCertificate(a.DER())
	require.NoError(t, err)
	pool := x509.NewCertPool()
	pool.AddCert(root)
	return cert.Leaf, pool
}

// What is trusted once is the same after every start, for the addresses that are served, and for none outside.
func TestAnAuthorityIsKept(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "shop.db.tls")
	now := time.Now()
	clock := func() time.Time { return now }
	a, err := authority.Open(dir, names("192.168.7.4", "shop.local"), clock)
	require.NoError(t, err)
	again, err := authority.Open(dir, names("192.168.7.9", "other.local"), clock)
	require.NoError(t, err)
	assert.Equal(t, a.Fingerprint(), again.Fingerprint())
	assert.Len(t, strings.Fields(a.Fingerprint()), 16)
	leaf, pool := presented(t, again)
	for name, fits := range map[string]bool{"192.168.7.9": true, "other.local": true, "192.168.7.4": false} {
		_, err := leaf.Verify(x509.VerifyOptions{DNSName: name, Roots: pool, CurrentTime: now})
		assert.Equal(t, fits, err == nil, "%s: %v", name, err)
	}
	assert.Less(t, leaf.NotAfter.Sub(leaf.NotBefore), 398*24*time.Hour)
	info, err := os.Stat(filepath.Join(dir, "authority-key.pem"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	for _, outside := range []string{"bank.example", "203.0.113.9"} {
		_, err = authority.Open(dir, names(outside), clock)
		assert.ErrorContains(t, err, "does not cover", outside)
	}
	_, err = authority.Open(filepath.Join(t.TempDir(), "x"), names("203.0.113.9", "shop.example"), clock)
	assert.NoError(t, err, "what it was founded for it covers")
}

// A server's certificate is made anew before it ends; an authority that ended is told.
func TestItIsRenewed(t *testing.T) {
	dir := t.TempDir()
	now := time.Now()
	a, err := authority.Open(filepath.Join(dir, "own"), names("10.0.0.2"), func() time.Time { return now })
	require.NoError(t, err)
	first, _ := presented(t, a)
	now = now.Add(300 * 24 * time.Hour)
	same, _ := presented(t, a)
	assert.Equal(t, first.SerialNumber, same.SerialNumber)
	now = now.Add(50 * 24 * time.Hour)
	next, pool := presented(t, a)
	assert.NotEqual(t, first.SerialNumber, next.SerialNumber)
	_, err = next.Verify(x509.VerifyOptions{DNSName: "10.0.0.2", Roots: pool, CurrentTime: now})
	require.NoError(t, err)
	now = a.Ends().Add(time.Hour)
	_, err = authority.Open(filepath.Join(dir, "own"), names("10.0.0.2"), func() time.Time { return now })
	assert.ErrorContains(t, err, "the authority ended on")
}

// Half an authority, or one whose key is another's, is told and not written over.
func TestABrokenFolderIsTold(t *testing.T) {
	made := func() string {
		dir := filepath.Join(t.TempDir(), "own")
		_, err := authority.Open(dir, names("10.0.0.2"), time.Now)
		require.NoError(t, err)
		return dir
	}
	for says, spoil := range map[string]func(dir string) error{
		"half an authority": func(dir string) error { return os.Remove(filepath.Join(dir, "authority.pem")) },
		"no certificate and key": func(dir string) error {
			return os.WriteFile(filepath.Join(dir, "authority.pem"), []byte("nothing"), 0o600)
		},
		"not that of its certificate": func(dir string) error {
			other, err := os.ReadFile(filepath.Join(made(), "authority-key.pem"))
			require.NoError(t, err)
			return os.WriteFile(filepath.Join(dir, "authority-key.pem"), other, 0o600)
		},
		"malformed certificate": func(dir string) error {
			text := pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: []byte("x")})
			return os.WriteFile(filepath.Join(dir, "authority.pem"), text, 0o600)
		},
	} {
		dir := made()
		require.NoError(t, spoil(dir))
		_, err := authority.Open(dir, names("10.0.0.2"), time.Now)
		assert.ErrorContains(t, err, says)
	}
}

// On one port whoever speaks TLS is served, and whoever does not is told how it is trusted, or led on; who says nothing
// holds nobody up.
func TestOnePortForBoth(t *testing.T) {
	a, err := authority.Open(filepath.Join(t.TempDir(), "own"), names("127.0.0.1", "localhost"), time.Now)
	require.NoError(t, err)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	secure, plain := authority.Split(l)
	inside := http.HandlerFunc(
		func(w http.ResponseWriter, r *http.Request) { _, _ = io.WriteString(w, "inside "+r.Proto) },
	)
	tlsServer := &http.Server{Handler: a.Trust(inside)}
	plainServer := &http.Server{Handler: a.Plain()}
	done := make(chan error, 2)
	go func() { done <- tlsServer.Serve(tls.NewListener(secure, a.Config())) }()
	go func() { done <- plainServer.Serve(plain) }()
	silent, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	defer silent.Close()

	_, pool := presented(t, a)
	client := &http.Client{
		Transport: &http.Transport{
			TLSClientConfig: &tls.Config{RootCAs: pool}, ForceAttemptHTTP2: true, DisableKeepAlives: true,
		},
	}
	get := func(address string) (int, string) {
		answer, err := client.Get(address)
		require.NoError(t, err)
		defer answer.Body.Close()
		body, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, string(body)
	}
	at := l.Addr().String()
	status, body := get("https://" + at + "/x")
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, "inside HTTP/2.0", body)
	_, body = get("http://" + at + "/machines?x=1")
	assert.Equal(t, "inside HTTP/2.0", body, "it was led on")
	for _, scheme := range []string{"http://", "https://"} {
		_, body = get(scheme + at + "/trust")
		assert.Contains(t, body, a.Fingerprint())
		assert.Contains(t, body, "https://"+at+"/")
		_, body = get(scheme + at + "/authority.crt")
		assert.Equal(t, string(a.DER()), body)
	}
	_, err = http.Get("https://" + at)
	assert.ErrorContains(t, err, "certificate", "nobody else trusts it")
	require.NoError(t, tlsServer.Close())
	assert.ErrorIs(t, <-done, http.ErrServerClosed)
	require.NoError(t, plainServer.Close())
	assert.ErrorIs(t, <-done, http.ErrServerClosed, "it does not end with the other")
}

// Whoever asks under a foreign name is led to one of the server's own, and nothing is posted without TLS.
func TestNobodyIsLedAway(t *testing.T) {
	a, err := authority.Open(filepath.Join(t.TempDir(), "own"), names("10.0.0.2", "shop.local"), time.Now)
	require.NoError(t, err)
	ask := func(method, host string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, "http://"+host+"/a?b=c", nil)
		w := httptest.NewRecorder()
		a.Plain().ServeHTTP(w, r)
		return w
	}
	for host, to := range map[string]string{
		"evil.example:8443": "https://10.0.0.2:8443/a?b=c", "shop.local:8443": "https://shop.local:8443/a?b=c",
		"10.0.0.2": "https://10.0.0.2/a?b=c",
	} {
		w := ask(http.MethodGet, host)
		assert.Equal(t, http.StatusTemporaryRedirect, w.Code)
		assert.Equal(t, to, w.Header().Get("Location"))
	}
	assert.Equal(t, http.StatusUpgradeRequired, ask(http.MethodPost, "10.0.0.2").Code)
}

// A code is as wide as it is high, with its white around it, and says nothing twice.
func TestCodes(t *testing.T) {
	const text = "https://192.168.10.20:8443/trust"
	shown, err := authority.InTerminal(text)
	require.NoError(t, err)
	lines := strings.Split(strings.TrimSuffix(shown, "\n"), "\n")
	wide := len([]rune(lines[0]))
	assert.InDelta(t, wide, 2*len(lines), 1)
	for _, l := range lines {
		assert.Len(t, []rune(l), wide)
	}
	assert.Equal(t, strings.Repeat("█", wide), lines[0], "white above")
	drawn, err := authority.SVG(text)
	require.NoError(t, err)
	assert.Contains(t, drawn, `viewBox="0 0 `)
	_, err = authority.SVG(strings.Repeat("x", 4000))
	assert.Error(t, err)
}

func TestNames(t *testing.T) {
	assert.Contains(t, authority.Names("192.168.1.5:8443", []string{"shop.lan"})(), "192.168.1.5")
	assert.Contains(t, authority.Names("192.168.1.5:8443", []string{"shop.lan"})(), "shop.lan")
	for _, all := range []string{"0.0.0.0:8443", ":8443", "[::]:8443"} {
		assert.NotContains(t, authority.Names(all, nil)(), "0.0.0.0")
		assert.Contains(t, authority.Names(all, nil)(), "127.0.0.1")
		assert.Subset(t, authority.Names(all, nil)(), authority.Addresses())
	}
}
