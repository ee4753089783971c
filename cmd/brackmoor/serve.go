package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"time"

	"brackmoor/core/shop"
	"brackmoor/demo"
	"brackmoor/server"
	"brackmoor/server/passphrase"
	"brackmoor/store"
	"brackmoor/web"
)

const passphraseKey = "passphrase"

func serve(ctx context.Context, c *console, args []string) error {
	return serveWith(ctx, c, "serve", args, nil)
}

func runDemo(ctx context.Context, c *console, args []string) error {
	return serveWith(ctx, c, "demo", args, loadDemo)
}

// loadDemo imports the demo shops into a database that has no shop yet; what
// was entered since stays as it is.
func loadDemo(ctx context.Context, st *store.Store) error {
	shops, err := st.Shops(ctx)
	if err != nil || len(shops) > 0 {
		return err
	}
	// The order of the shops is the one they are shown in.
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		text, err := fs.ReadFile(demo.Files, name)
		if err != nil {
			return err
		}
		file, problems := shop.ReadFile(text)
		if problems != nil {
			return fmt.Errorf("demo %s: %s", name, problems[0])
		}
		if _, err := st.Import(ctx, file); err != nil {
			return fmt.Errorf("demo %s: %w", name, err)
		}
	}
	return nil
}

func serveWith(
	ctx context.Context,
	c *console,
	name string,
	args []string,
	prepare func(context.Context, *store.Store) error,
) (err error) {
	set := flags(c, name)
	db := set.String("db", defaultDB, "database file")
	listen := set.String("listen", "127.0.0.1:8420", "address to listen on")
	hosts := set.String(
		"host",
		"",
		"names under which it may be asked, beside localhost and plain addresses; parted by commas",
	)
	if err := parse(set, args, 0, 0); err != nil {
		return err
	}
	st, err := open(ctx, *db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	if prepare != nil {
		if err := prepare(ctx, st); err != nil {
			return err
		}
	}
	hash := ""
	if !loopback(*listen) {
		if hash, err = st.Setting(ctx, passphraseKey); err != nil {
			return err
		}
		if hash == "" {
			return fmt.Errorf(
				"%s can be reached from other machines: set a passphrase first with brackmoor passphrase --db %s",
				*listen,
				*db,
			)
		}
	}
	options := server.Options{
		Store:      st,
		Now:        time.Now,
		Log:        slog.New(slog.NewTextHandler(c.err, nil)),
		Passphrase: hash,
	}
	if *hosts != "" {
		options.Hosts = strings.Split(strings.ToLower(*hosts), ",")
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
	listener, err := net.Listen("tcp", *listen)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.out, "Brackmoor is at http://%s\n", listener.Addr())
	return until(ctx, server.HTTP(server.New(options)), listener)
}

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

func openapi(_ context.Context, c *console, args []string) error {
	if err := parse(flags(c, "openapi"), args, 0, 0); err != nil {
		return err
	}
	text, err := server.Describe()
	if err != nil {
		return err
	}
	_, err = c.out.Write(append(text, '\n'))
	return err
}

func setPassphrase(ctx context.Context, c *console, args []string) (err error) {
	set := flags(c, "passphrase")
	db := set.String("db", defaultDB, "database file")
	if err := parse(set, args, 0, 0); err != nil {
		return err
	}
	text, err := askPassphrase(c)
	if err != nil {
		return err
	}
	if len([]rune(text)) < passphrase.Least {
		return &inputError{[]string{fmt.Sprintf("The passphrase must have at least %d characters.", passphrase.Least)}}
	}
	st, err := open(ctx, *db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	if err := st.SetSetting(ctx, passphraseKey, passphrase.Hash(text)); err != nil {
		return err
	}
	fmt.Fprintln(c.out, "The passphrase is set.")
	return nil
}
