package store

import (
	"context"
	"fmt"

	"brackmoor/core/shop"
)

// Report says what an import did.
type Report struct {
	Added     int      `json:"added"`
	Changed   int      `json:"changed"`
	Unchanged int      `json:"unchanged"`
	Lines     []string `json:"lines" nullable:"false"`
}

func (r *Report) say(outcome *int, format string, args ...any) {
	*outcome++
	r.Lines = append(r.Lines, fmt.Sprintf(format, args...))
}

// TakenError says that an id of the file belongs to something else here.
type TakenError struct{ What, ID string }

func (e *TakenError) Error() string {
	return fmt.Sprintf("the id %q of a %s is taken by another place in this database", e.ID, e.What)
}

// Import merges a file of shops, all or nothing: what is new is added, what
// differs is changed, nothing is deleted. Rows that had been deleted come back.
func (s *Store) Import(ctx context.Context, file shop.File) (Report, error) {
	r := Report{Lines: []string{}}
	err := s.write(ctx, func(tx *transaction) error {
		for _, sh := range file.Shops {
			if err := s.mergeShop(ctx, tx, sh, &r); err != nil {
				return err
			}
			if err := s.log(ctx, tx, where{shop: sh.ID}, ShopImported, "imported", nil, sh.Bare()); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return Report{Lines: []string{}}, err
	}
	return r, nil
}

// revive brings a deleted row back and says whether the id is known at all.
func revive(ctx context.Context, tx *transaction, table, id string) (known bool, err error) {
	result, err := tx.ExecContext(ctx, "UPDATE "+table+" SET deleted_at = NULL WHERE id = ?", id)
	if err != nil {
		return false, err
	}
	n, err := result.RowsAffected()
	if err != nil || n == 0 {
		return false, err
	}
	return true, fits(ctx, tx, table, id)
}

func (s *Store) mergeShop(ctx context.Context, tx *transaction, sh shop.Shop, r *Report) error {
	known, err := revive(ctx, tx, "shops", sh.ID)
	if err != nil {
		return err
	}
	if !known {
		bare := sh
		bare.Machines = nil
		if err := insertShop(ctx, tx, bare); err != nil {
			return err
		}
		r.say(&r.Added, "shop %s added", sh.Name)
	} else {
		here, err := readShop(ctx, tx, sh.ID)
		if err != nil {
			return err
		}
		if here.Name == sh.Name && here.Supply == sh.Supply && here.Prices == sh.Prices && here.Weights == sh.Weights &&
			encodeList(here.Profiles) == encodeList(sh.Profiles) {
			r.Unchanged++
		} else {
			if err := updateShop(ctx, tx, sh, here.Version); err != nil {
				return err
			}
			r.say(&r.Changed, "shop %s changed", sh.Name)
		}
	}
	for _, m := range sh.Machines {
		if err := s.mergeMachine(ctx, tx, sh.ID, m, r); err != nil {
			return err
		}
	}
	return nil
}

func (s *Store) mergeMachine(ctx context.Context, tx *transaction, shopID string, m shop.Machine, r *Report) error {
	known, err := revive(ctx, tx, "machines", m.ID)
	if err != nil {
		return err
	}
	if !known {
		bare := m
		bare.Motors = nil
		if err := insertMachine(ctx, tx, shopID, bare); err != nil {
			return err
		}
		r.say(&r.Added, "machine %s added", m.Name)
	} else {
		here, err := machinePlace(ctx, tx, m.ID)
		if err != nil || here.Shop.ID != shopID {
			return taken(err, "machine", m.ID)
		}
		if here.Machine.Name == m.Name && here.Machine.Note == m.Note {
			r.Unchanged++
		} else {
			if err := updateMachine(ctx, tx, m.ID, here.Machine.Version, m.Name, m.Note); err != nil {
				return err
			}
			r.say(&r.Changed, "machine %s changed", m.Name)
		}
	}
	for _, motor := range m.Motors {
		if err := s.mergeMotor(ctx, tx, m, motor, r); err != nil {
			return err
		}
	}
	return nil
}

// taken wraps a look-up that found an id under another parent, or not at all
// because its parent is deleted.
func taken(err error, what, id string) error {
	if err == nil || err == ErrNotFound {
		return &TakenError{what, id}
	}
	return err
}

func (s *Store) mergeMotor(ctx context.Context, tx *transaction, m shop.Machine, motor shop.Motor, r *Report) error {
	known, err := revive(ctx, tx, "motors", motor.ID)
	if err != nil {
		return err
	}
	if !known {
		r.say(&r.Added, "motor of %s added", m.Name)
		return insertMotor(ctx, tx, m.ID, motor)
	}
	here, err := motorPlace(ctx, tx, motor.ID)
	if err != nil || here.Machine.ID != m.ID {
		return taken(err, "motor", motor.ID)
	}
	if encode(here.Motor.Bare()) == encode(motor.Filled()) {
		r.Unchanged++
		return nil
	}
	r.say(&r.Changed, "motor of %s changed", m.Name)
	motor.Versions = here.Motor.Versions
	for _, part := range shop.Parts {
		*motor.Versions.Of(part)++
	}
	return updateMotor(ctx, tx, motor)
}
