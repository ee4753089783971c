package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// querier is a database or a transaction.
type querier interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
	QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row
}

// collect reads all rows of a query.
func collect[T any](
	ctx context.Context,
	q querier,
	scan func(*sql.Rows) (T, error),
	query string,
	args ...any,
) (list []T, err error) {
	rows, err := q.QueryContext(ctx, query, args...)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	list = []T{}
	for rows.Next() {
		item, err := scan(rows)
		if err != nil {
			return nil, err
		}
		list = append(list, item)
	}
	return list, rows.Err()
}

// keptShop is the columns of a shop that are kept as JSON.
type keptShop struct{ supply, prices, weights, profiles, own, site, state string }

// kept lists the columns, and into reads them.
const keptColumns = "supply, prices, weights, profiles, own, site, state"

func (k *keptShop) places() []any {
	return []any{&k.supply, &k.prices, &k.weights, &k.profiles, &k.own, &k.site, &k.state}
}

// kept is what is written to those columns.
func kept(sh shop.Shop) []any {
	return []any{
		encode(sh.Supply), encode(sh.Prices), encode(sh.Weights), encodeList(sh.Profiles), encode(sh.Own),
		encode(sh.Site), encode(sh.State),
	}
}

func (k keptShop) into(sh *shop.Shop) error {
	err := errors.Join(
		json.Unmarshal([]byte(k.supply), &sh.Supply),
		json.Unmarshal([]byte(k.prices), &sh.Prices),
		json.Unmarshal([]byte(k.weights), &sh.Weights),
		json.Unmarshal([]byte(k.profiles), &sh.Profiles),
		json.Unmarshal([]byte(k.own), &sh.Own),
		json.Unmarshal([]byte(k.site), &sh.Site),
		json.Unmarshal([]byte(k.state), &sh.State),
	)
	if len(sh.Profiles) == 0 {
		sh.Profiles = nil
	}
	return err
}

func scanShop(rows *sql.Rows) (sh shop.Shop, err error) {
	var kept keptShop
	if err = rows.Scan(append([]any{&sh.ID, &sh.Name, &sh.Version}, kept.places()...)...); err != nil {
		return sh, err
	}
	return sh, kept.into(&sh)
}

const shopColumns = "SELECT id, name, version, " + keptColumns + " FROM shops WHERE deleted_at IS NULL "

// Shops lists the shops without their machines, in order.
func (s *Store) Shops(ctx context.Context) ([]shop.Shop, error) {
	return collect(ctx, s.DB, scanShop, shopColumns+"ORDER BY position, id")
}

// Shop reads a shop whole.
func (s *Store) Shop(ctx context.Context, id string) (shop.Shop, error) {
	return readShop(ctx, s.DB, id)
}

func readShop(ctx context.Context, q querier, id string) (shop.Shop, error) {
	list, err := collect(ctx, q, scanShop, shopColumns+"AND id = ?", id)
	if err != nil {
		return shop.Shop{}, err
	}
	if len(list) == 0 {
		return shop.Shop{}, ErrNotFound
	}
	sh := list[0]
	sh.Machines, err = machinesOf(ctx, q, id)
	return sh, err
}

// Export reads every shop whole.
func (s *Store) Export(ctx context.Context) (shop.File, error) {
	file := shop.File{Format: shop.Format, Shops: []shop.Shop{}}
	tx, err := s.DB.BeginTx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return file, err
	}
	defer func() { _ = tx.Rollback() }() // it only read
	shops, err := collect(ctx, tx, scanShop, shopColumns+"ORDER BY position, id")
	if err != nil {
		return file, err
	}
	for _, sh := range shops {
		whole, err := readShop(ctx, tx, sh.ID)
		if err != nil {
			return file, err
		}
		file.Shops = append(file.Shops, whole)
	}
	return file, nil
}

// AddShop adds an empty shop.
func (s *Store) AddShop(ctx context.Context, name string, su supply.Supply) (shop.Shop, error) {
	sh := shop.Shop{ID: NewID(), Name: name, Supply: su, Machines: []shop.Machine{}, Version: 1}
	return sh, s.write(ctx, func(tx *transaction) error {
		if err := insertShop(ctx, tx, sh); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shop: sh.ID}, ShopAdded, "shop added", nil, sh)
	})
}

func insertShop(ctx context.Context, tx *transaction, sh shop.Shop) error {
	_, err := tx.ExecContext(
		ctx,
		"INSERT INTO shops (id, name, "+keptColumns+", position) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, (SELECT "+
			"COALESCE(MAX(position), 0) + 1 FROM shops))",
		append([]any{sh.ID, sh.Name}, kept(sh)...)...,
	)
	if err != nil {
		return err
	}
	return fits(ctx, tx, "shops", sh.ID)
}

// ChangeShop changes a shop's name and supply if it is still at the version
// given, and returns the new version.
func (s *Store) ChangeShop(
	ctx context.Context,
	id string,
	version int,
	name string,
	su supply.Supply,
) (shop.Shop, error) {
	var changed shop.Shop
	err := s.write(ctx, func(tx *transaction) error {
		before, err := readShop(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := updateShop(
			ctx,
			tx,
			shop.Shop{
				ID:       id,
				Name:     name,
				Supply:   su,
				Prices:   before.Prices,
				Weights:  before.Weights,
				Profiles: before.Profiles,
				Own:      before.Own,
				Site:     before.Site,
				State:    before.State,
			},
			version,
		); err != nil {
			return err
		}
		if changed, err = readShop(ctx, tx, id); err != nil {
			return err
		}
		before.Machines = nil
		return s.log(
			ctx,
			tx,
			where{shop: id},
			ShopChanged, "shop changed",
			before,
			shop.Shop{ID: id, Name: name, Supply: su, Version: changed.Version},
		)
	})
	return changed, err
}

// ChangeOwn changes what a shop has of its own, its prices or its drive profiles, if it is
// still at the version given. What says in the daybook what was changed.
func (s *Store) ChangeOwn(
	ctx context.Context,
	id string,
	version int,
	what string,
	change func(*shop.Shop),
) (shop.Shop, error) {
	var changed shop.Shop
	err := s.write(ctx, func(tx *transaction) error {
		before, err := readShop(ctx, tx, id)
		if err != nil {
			return err
		}
		before.Machines = nil
		after := before
		change(&after)
		if err := updateShop(ctx, tx, after, version); err != nil {
			return err
		}
		if changed, err = readShop(ctx, tx, id); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shop: id}, ShopChanged, what, before, after)
	})
	return changed, err
}

// LeaveAt keeps which of a shop's things are switched on, as it was left. That is no change of the
// shop: it has no version, and no line in the daybook.
func (s *Store) LeaveAt(ctx context.Context, id string, state site.State) error {
	return s.write(ctx, func(tx *transaction) error {
		result, err := tx.ExecContext(ctx, "UPDATE shops SET state = ? WHERE id = ? AND deleted_at IS NULL",
			encode(state), id)
		return one(result, err, func() (bool, error) { return false, nil })
	})
}

// encodeList is a list as JSON, an empty one for none.
func encodeList[T any](list []T) string {
	if list == nil {
		list = []T{}
	}
	return encode(list)
}

// updateShop writes what a shop has of its own at a version.
func updateShop(ctx context.Context, tx *transaction, sh shop.Shop, version int) error {
	result, err := tx.ExecContext(
		ctx,
		"UPDATE shops SET name = ?, ("+keptColumns+") = (?, ?, ?, ?, ?, ?, ?), version = version + 1 "+
			"WHERE id = ? AND version = ? AND deleted_at IS NULL",
		append(append([]any{sh.Name}, kept(sh)...), sh.ID, version)...,
	)
	return one(result, err, func() (bool, error) { return exists(ctx, tx, "shops", sh.ID) })
}

// table names are our own words, never input.
func exists(ctx context.Context, tx *transaction, table, id string) (there bool, err error) {
	err = tx.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM "+table+" WHERE id = ? AND deleted_at IS NULL)", id).
		Scan(&there)
	return there, err
}

// remove marks a row deleted, or brings it back.
func (s *Store) remove(ctx context.Context, tx *transaction, table, id string, back bool) error {
	query, stamp := "UPDATE "+table+" SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL", any(
		s.now().UTC().Format("2006-01-02T15:04:05Z"),
	)
	if back {
		query, stamp = "UPDATE "+table+" SET deleted_at = ? WHERE id = ? AND deleted_at IS NOT NULL", nil
	}
	result, err := tx.ExecContext(ctx, query, stamp, id)
	if err := one(result, err, func() (bool, error) { return false, nil }); err != nil || !back {
		return err
	}
	return fits(ctx, tx, table, id)
}

// DeleteShop takes a shop out of sight; RestoreShop brings it back whole.
func (s *Store) DeleteShop(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *transaction) error {
		if err := s.remove(ctx, tx, "shops", id, false); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shop: id}, ShopDeleted, "shop deleted", nil, nil)
	})
}

// RestoreShop undoes DeleteShop.
func (s *Store) RestoreShop(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *transaction) error {
		if err := s.remove(ctx, tx, "shops", id, true); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shop: id}, ShopRestored, "shop restored", nil, nil)
	})
}

// DuplicateShop copies a shop whole under a new name.
func (s *Store) DuplicateShop(ctx context.Context, id, name string) (shop.Shop, error) {
	var copied shop.Shop
	err := s.write(ctx, func(tx *transaction) error {
		sh, err := readShop(ctx, tx, id)
		if err != nil {
			return err
		}
		copied = sh.Copy(NewID)
		copied.Name = name
		if err := insertWhole(ctx, tx, copied); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shop: copied.ID}, ShopCopied, "shop copied", nil, shop.Shop{ID: id, Name: sh.Name})
	})
	return copied, err
}

func insertWhole(ctx context.Context, tx *transaction, sh shop.Shop) error {
	if err := insertShop(ctx, tx, sh); err != nil {
		return err
	}
	for _, m := range sh.Machines {
		if err := insertMachine(ctx, tx, sh.ID, m); err != nil {
			return err
		}
	}
	return nil
}
