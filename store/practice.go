package store

import (
	"context"
	"database/sql"
	"strings"
	"time"

	"brackmoor/core/lesson"
)

// MostPractice is how many answers of a shop's people are kept.
const MostPractice = 50_000

// AddPractice keeps an answer of somebody who practises in a shop. One that is there already is left as it is.
func (s *Store) AddPractice(ctx context.Context, shopID string, a lesson.Practised) error {
	return s.write(ctx, func(tx *transaction) error {
		if _, err := readShop(ctx, tx, shopID); err != nil {
			return err
		}
		var there int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM practice WHERE shop_id = ?", shopID).
			Scan(&there); err != nil {
			return err
		}
		if there >= MostPractice {
			return &FullError{MostPractice, "answers of a shop's practice"}
		}
		_, err := tx.ExecContext(ctx,
			"INSERT INTO practice (id, shop_id, person, kind, name, good, at) VALUES (?, ?, ?, ?, ?, ?, ?) "+
				"ON CONFLICT (id) DO NOTHING",
			a.ID, shopID, strings.TrimSpace(a.Person), a.Kind, a.Name, a.Right, s.now().UTC().Format(time.RFC3339))
		return err
	})
}

// Practice is what a shop's people have answered, by person, kind and name.
func (s *Store) Practice(ctx context.Context, shopID string) ([]lesson.Record, error) {
	if _, err := s.Shop(ctx, shopID); err != nil {
		return nil, err
	}
	return collect(ctx, s.DB, func(rows *sql.Rows) (r lesson.Record, err error) {
		err = rows.Scan(&r.Person, &r.Kind, &r.Name, &r.Tries, &r.Right, &r.Last)
		return r, err
	}, "SELECT person, kind, name, COUNT(*), SUM(good), MAX(at) FROM practice "+
		"WHERE shop_id = ? GROUP BY person, kind, name ORDER BY person COLLATE NOCASE, kind, name", shopID)
}
