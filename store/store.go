// Package store keeps shops in SQLite. Every write is one transaction, leaves
// a line in the append-only daybook, and checks the version it was made from.
package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/pressly/goose/v3"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	// ErrChanged says that the row was changed since the version the caller
	// worked from; nothing was written.
	ErrChanged = errors.New("changed elsewhere in the meantime")
)

// Busy tells whether an error says that another program holds the database, past the time that
// a statement waits for it.
func Busy(err error) bool {
	var fault *sqlite.Error
	return errors.As(err, &fault) &&
		slices.Contains([]int{sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED}, fault.Code()&0xff)
}

// Store is an open database.
type Store struct {
	DB   *sql.DB
	now  func() time.Time
	path string
	file os.FileInfo // as it was opened

	listeners listeners
}

// Open opens or makes a database file and brings it up to date. One that is made is there whole
// or not at all.
func Open(ctx context.Context, path string, now func() time.Time) (*Store, error) {
	if dir := filepath.Dir(path); dir != "." {
		if err := os.MkdirAll(dir, 0o700); err != nil {
			return nil, fmt.Errorf("database folder: %w", err)
		}
	}
	_, err := os.Stat(path)
	switch {
	case errors.Is(err, os.ErrNotExist):
		err = WriteWhole(path, func(temporary string) error {
			db, err := opened(ctx, temporary)
			if err != nil {
				return err
			}
			return db.Close()
		})
	case err == nil:
		err = ownFile(ctx, path)
	}
	if err != nil {
		return nil, fmt.Errorf("database %s: %w", path, err)
	}
	info, err := os.Stat(path)
	if err != nil {
		return nil, err
	}
	db, err := opened(ctx, path)
	if err != nil {
		return nil, fmt.Errorf("database %s: %w", path, err)
	}
	return &Store{DB: db, now: now, path: path, file: info}, nil
}

// opened is a database file, made where there is none, and brought up to date.
func opened(ctx context.Context, path string) (*sql.DB, error) {
	const pragmas = "_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&" +
		"_pragma=busy_timeout(5000)&_pragma=foreign_keys(1)&_txlock=immediate"
	db, err := sql.Open("sqlite", address(path)+"?"+pragmas)
	if err != nil {
		return nil, err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, files)
	if err == nil {
		err = beforeMigration(ctx, db, path)
	}
	if err == nil {
		_, err = provider.Up(ctx)
	}
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	return db, nil
}

// address is a file as the driver wants to be told it.
func address(path string) string { return "file:" + (&url.URL{Path: path}).EscapedPath() }

// Close closes the database.
func (s *Store) Close() error { return s.DB.Close() }

// Backup writes a consistent copy of the database to a new file, which is there whole and
// sound or not at all.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s is there already; a backup overwrites nothing", path)
	}
	return copied(ctx, s.DB, path)
}

// transaction is a change under way, with the events that it makes.
type transaction struct {
	*sql.Tx
	events []Event
}

// write runs a change as one transaction; its events are told once it is committed.
func (s *Store) write(ctx context.Context, change func(tx *transaction) error) error {
	if err := s.Here(); err != nil {
		return err
	}
	begun, err := s.DB.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	tx := &transaction{Tx: begun}
	if err := change(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return err
	}
	if err := s.Here(); err != nil {
		return err // what was written is in a file that nobody finds
	}
	s.listeners.tell(tx.events)
	return nil
}

// where names what a daybook line is about.
type where struct{ shop, machine, motor string }

// log appends to the daybook, what happened in words beside its kind. before and after
// are written as JSON.
func (s *Store) log(ctx context.Context, tx *transaction, w where, kind Kind, what string, before, after any) error {
	e := Event{
		Kind: kind, Shop: w.shop, Machine: w.machine, Motor: w.motor, Actor: actorOf(ctx),
		At: s.now().UTC().Truncate(time.Second),
	}
	result, err := tx.ExecContext(
		ctx,
		"INSERT INTO daybook (at, shop_id, machine_id, motor_id, what, before, after, kind, actor, who) "+
			"VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
		e.At.Format(time.RFC3339), w.shop, null(w.machine), null(w.motor), what, jsonOrNull(before), jsonOrNull(after),
		kind, e.Actor, Who(ctx),
	)
	if err != nil {
		return err
	}
	e.ID, err = result.LastInsertId()
	tx.events = append(tx.events, e)
	return err
}

func null(text string) any {
	if text == "" {
		return nil
	}
	return text
}

func jsonOrNull(value any) any {
	if value == nil {
		return nil
	}
	return encode(value)
}

// encode writes a value of our own types as JSON, which cannot fail.
func encode(value any) string {
	text, err := json.Marshal(value)
	if err != nil {
		panic(err)
	}
	return string(text)
}

// one turns "no row changed" into the error that says why.
func one(result sql.Result, err error, exists func() (bool, error)) error {
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err != nil || n == 1 {
		return err
	}
	there, err := exists()
	if err != nil {
		return err
	}
	if there {
		return ErrChanged
	}
	return ErrNotFound
}

// NewID makes an id that no other row has.
func NewID() string { return strings.ToLower(rand.Text())[:16] }
