// Package authority makes the certificates by which a phone in the workshop trusts this server: an authority of its
// own, once, and from it one for the addresses that are served, made anew before it ends. The authority may speak for
// private addresses and names of the workshop alone (RFC 5280, 4.2.1.10), so that whoever trusts it trusts it with
// nothing else.
package authority

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// How long they hold, and how long before its end one is made anew or complained of. Phones take no certificate of a
// server that holds for more than 398 days.
const (
	holds      = 10 * 365 * 24 * time.Hour
	leafHolds  = 397 * 24 * time.Hour
	leafBefore = 60 * 24 * time.Hour
	early      = time.Hour // clocks differ
	// Soon is how long before the authority's end it is told.
	Soon = 365 * 24 * time.Hour
)

// The files of an authority.
const (
	certFile = "authority.pem"
	keyFile  = "authority-key.pem"
)

// Authority is one that was made here, with the certificate of the server.
type Authority struct {
	cert  *x509.Certificate
	key   *ecdsa.PrivateKey
	now   func() time.Time
	names func() []string

	mu   sync.Mutex
	leaf *tls.Certificate
}

// Open reads the authority of a folder, or makes one there, for a server under such names: addresses or host names,
// asked for each time that a certificate is made. It fails where the folder has half of one, or one that has ended or
// does not cover the names.
func Open(dir string, names func() []string, now func() time.Time) (*Authority, error) {
	a := &Authority{now: now, names: names}
	cert, certErr := os.ReadFile(filepath.Join(dir, certFile))
	key, keyErr := os.ReadFile(filepath.Join(dir, keyFile))
	switch {
	case errors.Is(certErr, fs.ErrNotExist) && errors.Is(keyErr, fs.ErrNotExist):
		if err := a.found(dir); err != nil {
			return nil, err
		}
	case certErr != nil || keyErr != nil:
		return nil, fmt.Errorf("%s has half an authority: %w", dir, errors.Join(certErr, keyErr))
	default:
		if err := a.read(cert, key); err != nil {
			return nil, fmt.Errorf("%s: %w", dir, err)
		}
	}
	if _, err := a.certificate(nil); err != nil {
		return nil, err
	}
	return a, nil
}

// found makes an authority and keeps it, its key for this user alone.
func (a *Authority) found(dir string) (err error) {
	if a.key, err = ecdsa.GenerateKey(elliptic.P256(), rand.Reader); err != nil {
		return err
	}
	ips, domains := parted(a.names())
	made := x509.Certificate{
		SerialNumber:          serial(),
		Subject:               pkix.Name{CommonName: "Brackmoor, authority of this workshop"},
		NotBefore:             a.now().Add(-early),
		NotAfter:              a.now().Add(holds),
		KeyUsage:              x509.KeyUsageCertSign | x509.KeyUsageCRLSign,
		BasicConstraintsValid: true, IsCA: true, MaxPathLenZero: true,
		PermittedDNSDomainsCritical: true,
		PermittedDNSDomains:         append([]string{"localhost", "local", "internal", "home.arpa"}, domains...),
		PermittedIPRanges:           private(),
	}
	for _, ip := range ips {
		if !within(made.PermittedIPRanges, ip) {
			made.PermittedIPRanges = append(made.PermittedIPRanges, alone(ip))
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, &made, &made, &a.key.PublicKey, a.key)
	if err != nil {
		return err
	}
	if a.cert, err = x509.ParseCertificate(der); err != nil {
		return err
	}
	key, err := x509.MarshalPKCS8PrivateKey(a.key)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	if err := kept(filepath.Join(dir, keyFile), "PRIVATE KEY", key, 0o600); err != nil {
		return err
	}
	return kept(filepath.Join(dir, certFile), "CERTIFICATE", der, 0o644)
}

// kept writes a file of a block, whole or not at all.
func kept(path, kind string, der []byte, mode fs.FileMode) error {
	text := pem.EncodeToMemory(&pem.Block{Type: kind, Bytes: der})
	if err := os.WriteFile(path+".new", text, mode); err != nil {
		return err
	}
	return os.Rename(path+".new", path)
}

func (a *Authority) read(cert, key []byte) error {
	c, _ := pem.Decode(cert)
	k, _ := pem.Decode(key)
	if c == nil || k == nil {
		return errors.New("its files are no certificate and key")
	}
	var err error
	if a.cert, err = x509.ParseCertificate(c.Bytes); err != nil {
		return err
	}
	parsed, err := x509.ParsePKCS8PrivateKey(k.Bytes)
	if err != nil {
		return err
	}
	var ok bool
	if a.key, ok = parsed.(*ecdsa.PrivateKey); !ok || !a.key.PublicKey.Equal(a.cert.PublicKey) {
		return errors.New("its key is not that of its certificate")
	}
	if a.now().After(a.cert.NotAfter) {
		return fmt.Errorf("the authority ended on %s: move the folder away and a new one is made, which every phone "+
			"has to trust anew", a.cert.NotAfter.Format(time.DateOnly))
	}
	return nil
}

// certificate is the server's, made anew where it is about to end.
func (a *Authority) certificate(*tls.ClientHelloInfo) (*tls.Certificate, error) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.leaf != nil && a.now().Before(a.leaf.Leaf.NotAfter.Add(-leafBefore)) {
		return a.leaf, nil
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	ends := a.now().Add(leafHolds)
	if a.cert.NotAfter.Before(ends) {
		ends = a.cert.NotAfter
	}
	made := x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: "Brackmoor"},
		NotBefore: a.now().Add(-early), NotAfter: ends,
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
	}
	made.IPAddresses, made.DNSNames = parted(a.names())
	der, err := x509.CreateCertificate(rand.Reader, &made, a.cert, &key.PublicKey, a.key)
	if err != nil {
		return nil, err
	}
	leaf, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, err
	}
	roots := x509.NewCertPool()
	roots.AddCert(a.cert)
	if _, err := leaf.Verify(x509.VerifyOptions{Roots: roots, CurrentTime: a.now()}); err != nil {
		return nil, fmt.Errorf("the authority of this workshop does not cover what is served now; move its folder "+
			"away and a new one is made, which every phone has to trust anew: %w", err)
	}
	a.leaf = &tls.Certificate{Certificate: [][]byte{der, a.cert.Raw}, PrivateKey: key, Leaf: leaf}
	return a.leaf, nil
}

// Config is how a server speaks with it.
func (a *Authority) Config() *tls.Config {
	return &tls.Config{
		MinVersion:     tls.VersionTLS12,
		GetCertificate: a.certificate,
		NextProtos:     []string{"h2", "http/1.1"},
	}
}

// DER is the authority's certificate, which a phone takes in.
func (a *Authority) DER() []byte { return a.cert.Raw }

// Ends is when the authority does.
func (a *Authority) Ends() time.Time { return a.cert.NotAfter }

// Fingerprint is what is compared by eye: SHA-256 of the authority's certificate, in groups of two bytes.
func (a *Authority) Fingerprint() string {
	sum := sha256.Sum256(a.cert.Raw)
	var groups []string
	for i := 0; i < len(sum); i += 2 {
		groups = append(groups, fmt.Sprintf("%02X%02X", sum[i], sum[i+1]))
	}
	return strings.Join(groups, " ")
}

// serial is one that nobody foretells (RFC 5280, 4.1.2.2).
func serial() *big.Int {
	n, _ := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127)) // crypto/rand never fails
	return n.Add(n, big.NewInt(1))
}

// parted are the addresses and the names of a list.
func parted(names []string) (ips []net.IP, domains []string) {
	for _, name := range names {
		if ip := net.ParseIP(name); ip != nil {
			ips = append(ips, ip)
		} else {
			domains = append(domains, name)
		}
	}
	return ips, domains
}

// private are the ranges of addresses that are nobody's outside (RFC 1918, 3927, 4193, 4291).
func private() (list []*net.IPNet) {
	for _, text := range []string{
		"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8",
		"fc00::/7", "fe80::/10", "::1/128",
	} {
		_, n, _ := net.ParseCIDR(text) // they are all sound
		list = append(list, n)
	}
	return list
}

func within(list []*net.IPNet, ip net.IP) bool {
	for _, n := range list {
		if n.Contains(ip) {
			return true
		}
	}
	return false
}

// alone is the range of one address.
func alone(ip net.IP) *net.IPNet {
	if four := ip.To4(); four != nil {
		return &net.IPNet{IP: four, Mask: net.CIDRMask(32, 32)}
	}
	return &net.IPNet{IP: ip, Mask: net.CIDRMask(128, 128)}
}
