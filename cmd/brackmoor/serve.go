package main

import (
	"context"
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
	"brackmoor/server/passphrase"
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
	cmd.RunE = work(func(ctx context.Context, _ []string) error { return serve(ctx, c, *db, *listen, *hosts, prepare) })
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

func serve(
	ctx context.Context,
	c *console,
	db, listen, hosts string,
	prepare func(context.Context, *store.Store) error,
) (err error) {
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
		switch is, err := hash(ctx); {
		case err != nil:
			return err
		case is == "":
			return fmt.Errorf(
				"%s can be reached from other machines: set a passphrase first with brackmoor passphrase --db %s",
				listen,
				db,
			)
		}
	}
	options := server.Options{
		Store:      st,
		Now:        time.Now,
		Log:        c.logger(),
		Passphrase: hash,
	}
	if hosts != "" {
		options.Hosts = strings.Split(strings.ToLower(hosts), ",")
	}
	if app, ok := web.App(); ok {
		options.App = app
	} else {
		fmt.Fprintln(
			c.err,
			"The web application is not in this binary (it was built without Node); only the API is served. Run: "+
				"make build",
		)
	}
	listener, err := net.Listen("tcp", listen)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.out, "Brackmoor is at http://%s\n", listener.Addr())
	return until(ctx, server.HTTP(server.New(options)), listener)
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
	text, err := askPassphrase(c)
	if err != nil {
		return err
	}
	if !passphrase.Long(text) {
		return &inputError{[]string{fmt.Sprintf("The passphrase must have at least %d characters.", passphrase.Least)}}
	}
	st, err := open(ctx, db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	if err := st.SetSetting(ctx, passphraseKey, passphrase.Hash(text, passphrase.Production)); err != nil {
		return err
	}
	fmt.Fprintln(c.out, "The passphrase is set.")
	return nil
}
