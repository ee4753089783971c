package store_test

import (
	"compress/gzip"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/store"
)

// kept is a database as a program of an earlier schema wrote it, in a folder of its own.
func kept(t *testing.T, schema int) string {
	t.Helper()
	file, err := os.Open(fmt.Sprintf("testdata/schema-%d.db.gz", schema))
	require.NoError(t, err)
	defer func() { _ = file.Close() }() // only read
	z, err := gzip.NewReader(file)
	require.NoError(t, err)
	bytes, err := io.ReadAll(z)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "shop.db")
	require.NoError(t, os.WriteFile(path, bytes, 0o600))
	return path
}

func schemaOf(t *testing.T, path string) (version int) {
	t.Helper()
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	require.NoError(t, db.QueryRow("SELECT MAX(version_id) FROM goose_db_version").Scan(&version))
	require.NoError(t, db.Close())
	return version
}

// A database of every schema that was ever released comes up to date with all that was in it,
// and a copy of it as it was stands beside it.
func TestEverySchemaIsUpgraded(t *testing.T) {
	for schema, motors := range map[int]int{1: 11, 2: 11, 3: 11, 4: 11, 5: 11, 6: 12} {
		path := kept(t, schema)
		require.Equal(t, schema, schemaOf(t, path))
		_, err := store.Read(ctx, path)
		require.ErrorContains(t, err, fmt.Sprintf("its schema is %d", schema), "read alone it stays as it is")
		s, err := store.Open(ctx, path, func() time.Time { return noon })
		require.NoError(t, err)
		file, err := s.Export(ctx)
		require.NoError(t, err)
		for _, sh := range file.Shops {
			for _, m := range sh.Machines {
				motors -= len(m.Motors)
			}
		}
		assert.Zero(t, motors, "all that were there")
		text, err := json.Marshal(file)
		require.NoError(t, err)
		_, problems := shop.ReadFile(text)
		assert.Empty(t, problems, "schema %d", schema)
		require.NoError(t, s.Close())
		assert.Equal(t, schema, schemaOf(t, fmt.Sprintf("%s.schema-%d", path, schema)))
		found, err := store.Check(ctx, path, time.Now())
		require.NoError(t, err)
		assert.Empty(t, found, "schema %d", schema)
		again, err := store.Open(ctx, path, time.Now)
		require.NoError(t, err)
		require.NoError(t, again.Close())
		copies, err := filepath.Glob(path + ".schema-*")
		require.NoError(t, err)
		assert.Len(t, copies, 1, "one before the change, none where nothing changes")
	}
}

// A file that is another program's is refused by its name, and no byte of it changes.
func TestAnotherProgramsFileIsRefused(t *testing.T) {
	path := filepath.Join(t.TempDir(), "ledger.db")
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec("CREATE TABLE accounts (name TEXT); INSERT INTO accounts VALUES ('rent')")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	words := filepath.Join(t.TempDir(), "letter.txt")
	require.NoError(t, os.WriteFile(words, []byte(strings.Repeat("Dear sir, ", 500)), 0o600))
	for file, says := range map[string]string{path: "another program", words: "not a database"} {
		before, err := os.ReadFile(file)
		require.NoError(t, err)
		_, err = store.Open(ctx, file, time.Now)
		require.ErrorContains(t, err, says)
		assert.ErrorContains(t, err, file)
		_, err = store.Read(ctx, file)
		require.ErrorContains(t, err, says)
		_, err = store.Restore(ctx, filepath.Join(t.TempDir(), "a.db"), file, noon)
		require.ErrorContains(t, err, says)
		after, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, before, after)
	}
}

// A database that was stopped while it was made is made on.
func TestAHalfMadeDatabase(t *testing.T) {
	path := filepath.Join(t.TempDir(), "half.db")
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec(
		"CREATE TABLE goose_db_version (id INTEGER PRIMARY KEY AUTOINCREMENT, version_id INTEGER NOT NULL, " +
			"is_applied INTEGER NOT NULL, tstamp TIMESTAMP DEFAULT (datetime('now'))); " +
			"INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1)",
	)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	s, err := store.Open(ctx, path, time.Now)
	require.NoError(t, err)
	_, err = s.AddShop(ctx, "Here", house)
	require.NoError(t, err)
	require.NoError(t, s.Close())
}

// What is written to a file that is not under its name any more is not acknowledged.
func TestADatabaseThatIsGone(t *testing.T) {
	s, path := open(t)
	_, err := s.AddShop(ctx, "Here", house)
	require.NoError(t, err)
	away := path + ".away"
	require.NoError(t, os.Rename(path, away))
	_, err = s.AddShop(ctx, "Nowhere", house)
	require.ErrorIs(t, err, store.ErrGone)
	require.NoError(t, os.WriteFile(path, []byte("another"), 0o600))
	_, err = s.AddShop(ctx, "Nowhere", house)
	require.ErrorIs(t, err, store.ErrGone)
	require.NoError(t, os.Rename(away, path))
	_, err = s.AddShop(ctx, "Here again", house)
	require.NoError(t, err)
	list, err := s.Shops(ctx)
	require.NoError(t, err)
	assert.Len(t, list, 2)
}

func TestBackupsRotate(t *testing.T) {
	s, _ := open(t)
	folder := filepath.Join(t.TempDir(), "backups")
	require.NoError(t, os.MkdirAll(folder, 0o700))
	other := filepath.Join(folder, "shop #1-notes.db")
	require.NoError(t, os.WriteFile(other, nil, 0o600))
	for day := range 5 {
		made, err := s.Rotate(ctx, folder, 3, noon.AddDate(0, 0, day))
		require.NoError(t, err)
		require.FileExists(t, made)
	}
	list, err := filepath.Glob(filepath.Join(folder, "*"))
	require.NoError(t, err)
	var names []string
	for _, one := range list {
		names = append(names, strings.TrimPrefix(filepath.Base(one), "shop #1-"))
	}
	assert.Equal(t, []string{"20260303-120000.db", "20260304-120000.db", "20260305-120000.db", "notes.db"}, names)
}

// Each thing that can be wrong with a database is found, and nothing with a sound one.
func TestCheckFindsWhatIsWrong(t *testing.T) {
	const line = "INSERT INTO daybook (at, shop_id, what) VALUES "
	for _, c := range []struct{ says, change string }{
		{"", ""},
		{"orphaned", "PRAGMA foreign_keys = 0; UPDATE motors SET machine_id = 'nobody' WHERE id = 'tarn-shaper-m1'"},
		{"cannot be read", "UPDATE motors SET plate = '{' WHERE id = 'tarn-shaper-m1'"},
		{"cannot be read", "UPDATE motors SET deleted_at = 'x', choices = '' WHERE id = 'tarn-shaper-m1'"},
		{"taken in", `UPDATE motors SET choices = json_set(choices, '$.load', 'x') WHERE id = 'tarn-shaper-m1'`},
		{"taken in", `UPDATE shops SET supply = json_set(supply, '$.volts', 9e9) WHERE id = 'tarn-hollow'`},
		{"ahead of now", line + "('2036-01-01T00:00:00Z', 'x', 'x')"},
		{"runs back", line + "('2020-01-01T00:00:00Z', 'x', 'x')"},
		{"photo p", "INSERT INTO photos (id, motor_id, name, width, height, image, added_at) " +
			"VALUES ('p', 'tarn-shaper-m1', 'x', 1, 1, x'', '2026-01-01T00:00:00Z')"},
		{"damaged", "PRAGMA writable_schema = 1; UPDATE sqlite_master SET rootpage = 3 WHERE rootpage = 7"},
	} {
		says, change := c.says, c.change
		s, path := open(t)
		_, err := s.Import(ctx, demoFile(t), store.Choice{})
		require.NoError(t, err)
		_, err = s.DB.Exec(change)
		require.NoError(t, err, change)
		require.NoError(t, s.Close())
		found, err := store.Check(ctx, path, noon)
		if says == "damaged" && err != nil {
			continue // it is damaged so that it is not read at all, which is said too
		}
		require.NoError(t, err, change)
		if says == "" {
			assert.Empty(t, found)
			continue
		}
		require.NotEmpty(t, found, change)
		assert.Contains(t, found[0].Says, says, change)
		assert.NotEmpty(t, found[0].Do)
	}
}
