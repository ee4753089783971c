package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
)

// ErrGone says that the database's file was taken away or replaced while it was open.
var ErrGone = errors.New("the database's file was taken away or replaced while it was open")

// Here is ErrGone unless the file that was opened still stands under its name.
func (s *Store) Here() error {
	now, err := os.Stat(s.path)
	if err != nil || !os.SameFile(now, s.file) {
		return fmt.Errorf("%w: %s", ErrGone, s.path)
	}
	return nil
}

// tables of ours by which a database is told from another program's.
const ours = "SELECT COUNT(*), COUNT(CASE WHEN name IN ('shops', 'goose_db_version') THEN 1 END) FROM sqlite_master " +
	"WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"

// own refuses a database that is another program's.
func own(ctx context.Context, db *sql.DB) error {
	var tables, known int
	if err := db.QueryRowContext(ctx, ours).Scan(&tables, &known); err != nil {
		return err
	}
	// One that was stopped while it was made has the table of its schema alone.
	if tables > 0 && known < min(2, tables) {
		return errors.New("it is the database of another program")
	}
	return nil
}

// schema is the schema of a database, 0 for one that is empty, and the newest that is known here.
func schema(ctx context.Context, db *sql.DB) (is, newest int, err error) {
	files, err := migrations.ReadDir("migrations")
	if err != nil {
		return 0, 0, err
	}
	var kept bool
	if err := db.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM sqlite_master WHERE name = 'goose_db_version')").
		Scan(&kept); err != nil || !kept {
		return 0, len(files), err
	}
	err = db.QueryRowContext(ctx, "SELECT COALESCE(MAX(version_id), 0) FROM goose_db_version").Scan(&is)
	return is, len(files), err
}

// known refuses a database whose schema is newer than this program, and one of another program.
func known(ctx context.Context, db *sql.DB) error {
	if err := own(ctx, db); err != nil {
		return err
	}
	is, newest, err := schema(ctx, db)
	if err == nil && is > newest {
		err = fmt.Errorf("its schema is %d, this program knows up to %d: take a newer program", is, newest)
	}
	return err
}

// ownFile is known of a file, before anything of it is set or written.
func ownFile(ctx context.Context, path string) error {
	db, err := sql.Open("sqlite", address(path)+"?mode="+modeOf(path)+"&_pragma=busy_timeout(5000)")
	if err != nil {
		return err
	}
	return errors.Join(known(ctx, db), db.Close())
}

// modeOf is how a file is opened to be read: for writing where a crash left a journal beside it,
// which whoever opens it must play back first.
func modeOf(path string) string {
	if _, err := os.Stat(path + "-journal"); err == nil {
		return "rw"
	}
	return "ro"
}

// beforeMigration keeps a copy of a database whose schema is about to change, beside it and
// named by the schema that it has.
func beforeMigration(ctx context.Context, db *sql.DB, path string) error {
	is, newest, err := schema(ctx, db)
	if err != nil || is == 0 || is == newest {
		return err
	}
	to := fmt.Sprintf("%s.schema-%d", path, is)
	for n := 2; ; n++ {
		if _, err := os.Stat(to); errors.Is(err, os.ErrNotExist) {
			break
		}
		to = fmt.Sprintf("%s.schema-%d-%d", path, is, n)
	}
	return copied(ctx, db, to)
}

// copied writes a consistent copy of an open database to a file, whole and sound or not at all.
func copied(ctx context.Context, db *sql.DB, path string) error {
	return WriteWhole(path, func(temporary string) error {
		if _, err := db.ExecContext(ctx, "VACUUM INTO ?", temporary); err != nil {
			return err
		}
		return sound(ctx, temporary)
	})
}

// Read opens a database to be read alone, as it is: nothing of it is changed, not its schema
// either, so that one on a disk that cannot be written is exported and backed up.
func Read(ctx context.Context, path string) (*Store, error) {
	address := address(path) + "?mode=" + modeOf(path) + "&_pragma=busy_timeout(5000)"
	if log, err := os.Stat(path + "-wal"); err != nil || log.Size() == 0 {
		if file, err := os.OpenFile(path, os.O_RDWR, 0); err != nil {
			address += "&immutable=1" // nobody can write it, and there is nothing beside it
		} else if err := file.Close(); err != nil {
			return nil, err
		}
	}
	db, err := sql.Open("sqlite", address)
	if err != nil {
		return nil, err
	}
	err = known(ctx, db)
	if err == nil {
		var is, newest int
		if is, newest, err = schema(ctx, db); err == nil && is != newest {
			err = fmt.Errorf(
				"its schema is %d, this program reads %d: serve it once, which brings it up to date",
				is,
				newest,
			)
		}
	}
	s := &Store{DB: db, path: path}
	if err == nil {
		s.file, err = os.Stat(path)
	}
	if err != nil {
		return nil, errors.Join(fmt.Errorf("database %s: %w", path, err), db.Close())
	}
	return s, nil
}
