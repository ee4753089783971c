package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"brackmoor/core/prove"
)

// ReadingAdded is the kind of event of a reading.
const ReadingAdded Kind = "reading.added"

// MostReadings is how many readings of a motor are kept.
const MostReadings = 2000

// ErrOther says that something else is written down under an id already.
var ErrOther = errors.New("something else is written down under this id")

// reading is the kind of an entry that is one.
const reading = "reading"

// AddReading writes down what was read on a motor. One that is there already, as when it is sent twice, is left as it
// is.
func (s *Store) AddReading(ctx context.Context, motorID string, r prove.Reading) error {
	body, err := json.Marshal(r)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *transaction) error {
		place, err := motorPlace(ctx, tx, motorID)
		if err != nil {
			return err
		}
		var motor, had string
		err = tx.QueryRowContext(ctx, "SELECT motor_id, body FROM entries WHERE id = ?", r.ID).Scan(&motor, &had)
		switch {
		case err == nil && motor == motorID && had == string(body):
			return nil
		case err == nil:
			return ErrOther
		case !errors.Is(err, sql.ErrNoRows):
			return err
		}
		var there int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM entries WHERE motor_id = ? AND kind = ?", motorID,
			reading).Scan(&there); err != nil {
			return err
		}
		if there >= MostReadings {
			return &FullError{MostReadings, "readings of a motor"}
		}
		const row = "INSERT INTO entries (id, shop_id, machine_id, motor_id, kind, at, hand, body) " +
			"VALUES (?, ?, ?, ?, ?, ?, ?, ?)"
		if _, err := tx.ExecContext(ctx, row,
			r.ID, place.Shop.ID, place.Machine.ID, motorID, reading, r.At, r.Hand, string(body)); err != nil {
			return err
		}
		at := where{place.Shop.ID, place.Machine.ID, motorID}
		return s.log(ctx, tx, at, ReadingAdded, "reading written down", nil, r)
	})
}

// Readings are those of a motor, in the order of their time.
func (s *Store) Readings(ctx context.Context, motorID string) ([]prove.Reading, error) {
	list, err := collect(ctx, s.DB, func(rows *sql.Rows) (r prove.Reading, err error) {
		var body string
		if err = rows.Scan(&body); err == nil {
			err = json.Unmarshal([]byte(body), &r)
		}
		return r, err
	}, "SELECT body FROM entries WHERE motor_id = ? AND kind = ? ORDER BY at, id", motorID, reading)
	if list == nil {
		list = []prove.Reading{}
	}
	return list, err
}
