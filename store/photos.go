package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"time"
)

// MostPhotos is how many photos a motor can have, MostPartPhotos a shop's parts on hand together.
const (
	MostPhotos     = 24
	MostPartPhotos = 1000
)

// What a photo of a motor shows.
const (
	ShowsPlate   = "plate"
	ShowsCabinet = "cabinet"
)

// Photo is a picture of a motor's plate, of its machine's cabinet, or of a part, without its bytes.
type Photo struct {
	ID     string `json:"id"`
	Shows  string `json:"shows"`
	Name   string `json:"name"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
	At     string `json:"at"`
}

// Photos lists the photos of a motor, the oldest first.
func (s *Store) Photos(ctx context.Context, motorID string) ([]Photo, error) {
	list, err := collect(ctx, s.DB, func(rows *sql.Rows) (p Photo, err error) {
		return p, rows.Scan(&p.ID, &p.Shows, &p.Name, &p.Width, &p.Height, &p.At)
	}, "SELECT id, shows, name, width, height, added_at FROM photos WHERE motor_id = ? AND deleted_at IS NULL "+
		"ORDER BY added_at, id", motorID)
	if list == nil {
		list = []Photo{}
	}
	return list, err
}

// PhotoImage reads a photo's JPEG bytes, if the motor or the shop it is of is still there.
func (s *Store) PhotoImage(ctx context.Context, id string) (jpeg []byte, err error) {
	var motorID, shopID string
	err = s.DB.QueryRowContext(ctx, "SELECT motor_id, '', image FROM photos WHERE id = ? AND deleted_at IS NULL "+
		"UNION ALL SELECT '', shop_id, image FROM part_photos WHERE id = ? AND deleted_at IS NULL", id, id).
		Scan(&motorID, &shopID, &jpeg)
	switch {
	case err != nil:
	case motorID != "":
		_, err = motorPlace(ctx, s.DB, motorID)
	default:
		_, err = readShop(ctx, s.DB, shopID)
	}
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	if err != nil {
		return nil, err
	}
	return jpeg, nil
}

// AddPhoto keeps a photo of a motor's plate or cabinet, the plate where nothing is said. One that was given an id by
// who sent it is kept once, however often it is sent.
func (s *Store) AddPhoto(ctx context.Context, motorID string, p Photo, jpeg []byte) (Photo, error) {
	p.Shows = cmp.Or(p.Shows, ShowsPlate)
	return s.addPhoto(ctx, "photos", motorID, p, jpeg, func(tx *transaction) (where, error) {
		place, err := motorPlace(ctx, tx, motorID)
		return where{place.Shop.ID, place.Machine.ID, motorID}, err
	})
}

// AddPartPhoto keeps a photo of a part that a shop has on hand; what names it is the part.
func (s *Store) AddPartPhoto(ctx context.Context, shopID string, p Photo, jpeg []byte) (Photo, error) {
	p.Shows = "part"
	return s.addPhoto(ctx, "part_photos", shopID, p, jpeg, func(tx *transaction) (where, error) {
		_, err := readShop(ctx, tx, shopID)
		return where{shop: shopID}, err
	})
}

func (s *Store) addPhoto(
	ctx context.Context, table, owner string, p Photo, jpeg []byte, of func(*transaction) (where, error),
) (Photo, error) {
	if p.ID == "" {
		p.ID = NewID()
	}
	p.At = s.now().UTC().Format(time.RFC3339)
	err := s.write(ctx, func(tx *transaction) error {
		at, err := of(tx)
		if err != nil {
			return err
		}
		var whose string
		err = tx.QueryRowContext(ctx, "SELECT "+rooms[table].owner+", shows, name, width, height, added_at FROM "+table+
			" WHERE id = ?", p.ID).Scan(&whose, &p.Shows, &p.Name, &p.Width, &p.Height, &p.At)
		switch {
		case err == nil && whose == owner:
			return nil // it was sent before, and its answer was lost
		case err == nil:
			return ErrNotFound
		case !errors.Is(err, sql.ErrNoRows):
			return err
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO "+table+" (id, "+rooms[table].owner+
			", shows, name, width, height, image, added_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
			p.ID, owner, p.Shows, p.Name, p.Width, p.Height, jpeg, p.At); err != nil {
			return err
		}
		if err := fits(ctx, tx, table, p.ID); err != nil {
			return err
		}
		return s.log(ctx, tx, at, PhotoAdded, "photo added", nil, p)
	})
	return p, err
}

// DeletePhoto takes a photo out of sight; RestorePhoto brings it back.
func (s *Store) DeletePhoto(ctx context.Context, id string) error {
	return s.movePhoto(ctx, id, PhotoDeleted, "photo deleted", false)
}

// RestorePhoto undoes DeletePhoto.
func (s *Store) RestorePhoto(ctx context.Context, id string) error {
	return s.movePhoto(ctx, id, PhotoRestored, "photo restored", true)
}

func (s *Store) movePhoto(ctx context.Context, id string, kind Kind, what string, back bool) error {
	return s.write(ctx, func(tx *transaction) error {
		var motorID string
		err := tx.QueryRowContext(ctx, "SELECT motor_id FROM photos WHERE id = ?", id).Scan(&motorID)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		place, err := motorPlace(ctx, tx, motorID)
		if err != nil {
			return err
		}
		if err := s.remove(ctx, tx, "photos", id, back); err != nil {
			return err
		}
		return s.log(
			ctx,
			tx,
			where{place.Shop.ID, place.Machine.ID, motorID},
			kind,
			what,
			map[string]string{"id": id},
			nil,
		)
	})
}
