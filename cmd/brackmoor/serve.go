package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"brackmoor/core/shop"
	"brackmoor/demo"
	"brackmoor/server"
	"brackmoor/server/authority"
	"brackmoor/store"
	"brackmoor/web"
)

const passphraseKey = "passphrase"

func serveCommand(c *console) *cobra.Command {
	return serving(c, "serve", "Run Brackmoor for your own shop",
		"  brackmoor serve --db shop.db --listen 127.0.0.1:8420", nil)
}

func demoCommand(c *console) *cobra.Command {
	return serving(c, "demo", "Run it with the demo shops loaded", "  brackmoor demo --db demo.db", loadDemo)
}

// serving is a command that serves, once what it prepares is there.
func serving(
	c *console,
	name, short, example string,
	prepare func(context.Context, *store.Store) error,
) *cobra.Command {
	cmd := &cobra.Command{Use: name, Short: short, Example: example, Args: words(0, 0, "flags alone")}
	db := database(cmd)
	listen := cmd.Flags().String("listen", "127.0.0.1:8420", "address to listen on")
	hosts := cmd.Flags().String("host", "",
		"names under which it may be asked, beside localhost and plain addresses; parted by commas")
	secure := cmd.Flags().Bool("tls", false,
		"serve by HTTPS, with an authority of its own that is kept beside the database")
	cmd.RunE = work(func(ctx context.Context, _ []string) error {
		return serve(ctx, c, serveHow{*db, *listen, *hosts, *secure}, prepare)
	})
	return cmd
}

// loadDemo imports the demo shops into a database that has no shop yet; what
// was entered since stays as it is.
func loadDemo(ctx context.Context, st *store.Store) error {
	shops, err := st.Shops(ctx)
	if err != nil || len(shops) > 0 {
		return err
	}
	// All of them at once, in the order in which they are shown: there are all or none.
	whole := shop.File{Format: shop.Format}
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		text, err := fs.ReadFile(demo.Files, name)
		if err != nil {
			return err
		}
		file, problems := shop.ReadFile(text)
		if problems != nil {
			return fmt.Errorf("demo %s: %s", name, problems[0])
		}
		whole.Shops = append(whole.Shops, file.Shops...)
	}
	if _, err := st.Import(ctx, whole, store.Choice{}); err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	return demo.Write(ctx, st)
}

// serveHow is how a server is called for.
type serveHow struct {
	db, listen, hosts string
	secure            bool
}

func serve(
	ctx context.Context, c *console, how serveHow, prepare func(context.Context, *store.Store) error,
) (err error) {
	db, listen := how.db, how.listen
	if _, err := os.Stat(db); errors.Is(err, os.ErrNotExist) {
		fmt.Fprintf(c.err, "%s is not there yet: it is made\n", db)
	} else if err := store.There(db); err != nil {
		return err
	}
	st, err := store.Open(ctx, db, time.Now)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	if prepare != nil {
		if err := prepare(ctx, st); err != nil {
			return err
		}
	}
	var hash func(context.Context) (string, error)
	if !loopback(listen) {
		hash = func(ctx context.Context) (string, error) { return st.Setting(ctx, passphraseKey) }
		is, err := hash(ctx)
		if err != nil {
			return err
		}
		peopled, err := st.Peopled(ctx)
		if err != nil {
			return err
		}
		if is == "" && !peopled {
			return fmt.Errorf("%s can be reached from other machines: set a passphrase first with brackmoor "+
				"passphrase --db %s, or take somebody in with brackmoor people add", listen, db)
		}
	}
	options := server.Options{
		Store:      st,
		Now:        time.Now,
		Log:        c.logger(),
		Passphrase: hash,
	}
	if how.hosts != "" {
		options.Hosts = strings.Split(strings.ToLower(how.hosts), ",")
	}
	options.Secure = how.secure
	if app, ok := web.App(); ok {
		options.App = app
	} else {
		fmt.Fprintln(
			c.err,
			"The web application is not in this binary (it was built without Node); only the API is served. Run: "+
				"make build",
		)
	}
	var own *authority.Authority
	if how.secure {
		names := authority.Names(listen, options.Hosts)
		if own, err = authority.Open(db+".tls", names, time.Now); err != nil {
			return err
		}
		options.Hosts = names()
	}
	listener, err := net.Listen("tcp", listen)
	if err != nil {
		return err
	}
	if own != nil {
		return c.serveSecurely(ctx, own, server.New(options), listener)
	}
	fmt.Fprintf(c.out, "Brackmoor is at http://%s\n", listener.Addr())
	return until(ctx, server.HTTP(server.New(options)), listener)
}

// serveSecurely serves by HTTPS, and tells whoever comes without it how this server is trusted.
func (c *console) serveSecurely(
	ctx context.Context, own *authority.Authority, handler http.Handler, listener net.Listener,
) error {
	at := reachable(listener.Addr().String())
	fmt.Fprintf(c.out, "Brackmoor is at https://%s\n", at)
	trust := "http://" + at + "/trust"
	code, err := authority.InTerminal(trust)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.out, "Each phone trusts it once, by %s:\n%s", trust, code)
	fmt.Fprintf(c.out, "Compare the fingerprint there: %s\n", own.Fingerprint())
	if left := time.Until(own.Ends()); left < authority.Soon {
		fmt.Fprintf(c.err, "The authority ends on %s: have a new one made before, by moving its folder away.\n",
			own.Ends().Format(time.DateOnly))
	}
	secure, plain := authority.Split(listener)
	guarded := server.HTTP(own.Trust(handler))
	guarded.ErrorLog = slog.NewLogLogger(
		c.logger().Handler(),
		slog.LevelDebug,
	) // every phone that does not trust it yet
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	done := make(chan error, 1)
	go func() { done <- until(ctx, server.HTTP(own.Plain()), plain) }()
	err = until(ctx, guarded, tls.NewListener(secure, own.Config()))
	stop()
	return first(err, <-done)
}

// reachable is an address as another machine asks for it: one of this machine's, where it listens on all.
func reachable(listening string) string {
	host, port, err := net.SplitHostPort(listening)
	if err != nil {
		return listening
	}
	if ip := net.ParseIP(host); ip != nil && ip.IsUnspecified() {
		if own := authority.Addresses(); len(own) > 0 {
			host = own[0]
		}
	}
	return net.JoinHostPort(host, port)
}

// logger writes what goes wrong where errors go.
func (c *console) logger() *slog.Logger { return slog.New(slog.NewTextHandler(c.err, nil)) }

// until serves until the context ends, then lets requests finish.
func until(ctx context.Context, s *http.Server, listener net.Listener) error {
	done := make(chan error, 1)
	go func() { done <- s.Serve(listener) }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	wait, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	if err := s.Shutdown(wait); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return nil
}

// loopback says whether an address can be reached from this machine only.
func loopback(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return false
	}
	if host == "localhost" {
		return true
	}
	ip := net.ParseIP(host)
	return ip != nil && ip.IsLoopback()
}

func openapiCommand(c *console) *cobra.Command {
	return &cobra.Command{
		Use:     "openapi",
		Short:   "Print the API's OpenAPI document",
		Example: "  brackmoor openapi > openapi.json",
		Args:    words(0, 0, "nothing"),
		RunE: work(func(context.Context, []string) error {
			text, err := server.Describe()
			if err != nil {
				return err
			}
			_, err = c.out.Write(append(text, '\n'))
			return err
		}),
	}
}

func passphraseCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:     "passphrase",
		Short:   "Set the passphrase that is asked for off loopback",
		Example: "  brackmoor passphrase --db shop.db",
		Args:    words(0, 0, "flags alone"),
	}
	db := database(cmd)
	cmd.RunE = work(func(ctx context.Context, _ []string) error { return setPassphrase(ctx, c, *db) })
	return cmd
}

func setPassphrase(ctx context.Context, c *console, db string) (err error) {
	hash, err := newHash(c)
	if err != nil {
		return err
	}
	st, err := open(ctx, db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	if err := st.SetSetting(ctx, passphraseKey, hash); err != nil {
		return err
	}
	fmt.Fprintln(c.out, "The passphrase is set.")
	return nil
}
