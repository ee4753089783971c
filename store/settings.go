package store

import (
	"context"
	"database/sql"
	"errors"
	"time"
)

// Setting reads a setting; empty when it was never set.
func (s *Store) Setting(ctx context.Context, key string) (string, error) {
	var value string
	err := s.DB.QueryRowContext(ctx, "SELECT value FROM settings WHERE key = ?", key).Scan(&value)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return value, err
}

// SetSetting writes a setting.
func (s *Store) SetSetting(ctx context.Context, key, value string) error {
	return s.write(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(
			ctx,
			"INSERT INTO settings (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
			key,
			value,
		)
		return err
	})
}

// Entry is a line of the daybook.
type Entry struct {
	ID   int64     `json:"id"`
	At   time.Time `json:"at"`
	What string    `json:"what"`
	Who  string    `json:"who"` // "" where nobody was known by name
}

// History lists the latest daybook lines of a machine, newest first.
func (s *Store) History(ctx context.Context, machineID string, most int) ([]Entry, error) {
	return collect(ctx, s.DB, func(rows *sql.Rows) (e Entry, err error) {
		var at string
		if err = rows.Scan(&e.ID, &at, &e.What, &e.Who); err == nil {
			e.At, err = time.Parse(time.RFC3339, at)
		}
		return e, err
	}, "SELECT id, at, what, who FROM daybook WHERE machine_id = ? ORDER BY id DESC LIMIT ?", machineID, most)
}
