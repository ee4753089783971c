package store

import (
	"context"
	"fmt"

	"brackmoor/core/shop"
)

// FullError says that there is no room for one more of a thing.
type FullError struct {
	Most int
	What string
}

func (e *FullError) Error() string {
	return fmt.Sprintf("There is room for %d %s, not more.", e.Most, e.What)
}

// rooms are how many rows in use each table takes within one owner.
var rooms = map[string]struct {
	owner string // the column that names it
	full  FullError
}{
	"shops":    {"''", FullError{shop.MostShops, "shops in one database"}},
	"machines": {"shop_id", FullError{shop.MostMachines, "machines in a shop"}},
	"motors":   {"machine_id", FullError{shop.MostMotors, "motors in a machine"}},
	"photos":   {"motor_id", FullError{MostPhotos, "photos of a motor"}},

	"part_photos": {"shop_id", FullError{MostPartPhotos, "photos of a shop’s parts"}},
}

// fits refuses a row that was just added or brought back where its owner has too many.
func fits(ctx context.Context, tx *transaction, table, id string) error {
	room := rooms[table]
	var there int
	err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM "+table+" WHERE deleted_at IS NULL AND "+room.owner+
		" = (SELECT "+room.owner+" FROM "+table+" WHERE id = ?)", id).Scan(&there)
	if err == nil && there > room.full.Most {
		return &room.full
	}
	return err
}
