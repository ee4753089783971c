package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"os"
	"time"
)

// Restore puts a backup in a database's place and returns the name under which what was there
// is kept, "" if nothing was. It refuses what is no sound backup of a schema that is known, and
// a database that is open elsewhere.
func Restore(ctx context.Context, path, backup string, now time.Time) (kept string, err error) {
	if err := There(backup); err != nil {
		return "", err
	}
	if log, err := os.Stat(backup + "-wal"); err == nil && log.Size() > 0 {
		return "", fmt.Errorf("%s has a write-ahead log beside it: it is a database in use, no backup", backup)
	}
	if err := sound(ctx, backup); err != nil {
		return "", err
	}
	old := path + now.Format(".before-20060102-150405")
	was, err := os.Stat(path)
	switch {
	case err == nil:
		if is, err := os.Stat(backup); err == nil && os.SameFile(was, is) {
			return "", fmt.Errorf("%s is the database itself", backup)
		}
		if err := release(ctx, path); err != nil {
			return "", err
		}
		if _, err := os.Stat(old); err == nil {
			return "", fmt.Errorf("%s is there already", old)
		}
		if err := WriteWhole(old, copyOf(path)); err != nil {
			return "", err
		}
		kept = old
	case !errors.Is(err, os.ErrNotExist):
		return "", err
	}
	// What a crash left beside the database belongs to it alone: played over another, it
	// would ruin that.
	for _, beside := range []string{"-wal", "-shm", "-journal"} {
		if err := os.Rename(path+beside, old+beside); err != nil && !errors.Is(err, os.ErrNotExist) {
			return kept, err
		}
	}
	return kept, WriteWhole(path, copyOf(backup))
}

// copyOf copies a file's bytes.
func copyOf(path string) func(to string) error {
	return func(to string) error {
		from, err := os.Open(path)
		if err != nil {
			return err
		}
		defer func() { _ = from.Close() }() // only read
		file, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
		if err != nil {
			return err
		}
		_, err = io.Copy(file, from)
		return errors.Join(err, file.Close())
	}
}

// release has a database's log played into it, and refuses one that another program has open.
// One that cannot be opened is left as it is: that may be why it is replaced.
func release(ctx context.Context, path string) error {
	db, err := sql.Open("sqlite", address(path)+"?_pragma=busy_timeout(0)")
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "PRAGMA journal_mode = DELETE") // only the last one who has it open may
	if closing := db.Close(); Busy(err) || Busy(closing) {
		return fmt.Errorf("%s is in use: stop what serves it first", path)
	}
	return nil
}

// sound refuses a file that is no whole database of a schema that is known. It reads alone.
func sound(ctx context.Context, path string) (err error) {
	db, err := sql.Open("sqlite", address(path)+"?mode=ro&immutable=1")
	if err != nil {
		return err
	}
	defer func() {
		if err = errors.Join(err, db.Close()); err != nil {
			err = fmt.Errorf("%s is no sound database of ours: %w", path, err)
		}
	}()
	var says string
	if err := db.QueryRowContext(ctx, "PRAGMA integrity_check").Scan(&says); err != nil {
		return err
	}
	if says != "ok" {
		return errors.New(says)
	}
	if err := known(ctx, db); err != nil {
		return err
	}
	var shops int
	return db.QueryRowContext(ctx, "SELECT COUNT(*) FROM shops").Scan(&shops)
}
