package store

import (
	"context"
	"database/sql"
	"encoding/json"

	"brackmoor/core/load"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/winding"
)

// choices are the parts of a motor kept beside its plate.
type choices struct {
	Load            string        `json:"load"`
	LoadShare       *float64      `json:"load_share"`
	RunMicrofarad   *float64      `json:"run_microfarad"`
	StartMicrofarad *float64      `json:"start_microfarad"`
	Reversed        bool          `json:"reversed"`
	Mine            []string      `json:"mine"`
	Leads           winding.Typed `json:"leads,omitzero"`
	Shaft           load.Typed    `json:"shaft,omitzero"`
	Matters         route.Matters `json:"matters,omitzero"`
	Way             route.Way     `json:"way,omitzero"`
}

func choicesOf(m shop.Motor) choices {
	return choices{
		m.Load,
		m.LoadShare,
		m.RunMicrofarad,
		m.StartMicrofarad,
		m.Reversed,
		m.Mine,
		m.Leads,
		m.Shaft,
		m.Matters,
		m.Way.Filled(),
	}
}

func machinesOf(ctx context.Context, q querier, shopID string) ([]shop.Machine, error) {
	list, err := collect(ctx, q, func(rows *sql.Rows) (m shop.Machine, err error) {
		return m, rows.Scan(&m.ID, &m.Name, &m.Note, &m.Version)
	}, "SELECT id, name, note, version FROM machines WHERE shop_id = ? AND deleted_at IS NULL ORDER BY "+
		"position, id", shopID)
	for i := range list {
		if list[i].Motors, err = motorsOf(ctx, q, list[i].ID); err != nil {
			return nil, err
		}
	}
	return list, err
}

func scanMotor(rows *sql.Rows) (m shop.Motor, err error) {
	var plateText, choiceText string
	var c choices
	if err = rows.Scan(&m.ID, &m.Name, &plateText, &choiceText, &m.Version); err != nil {
		return m, err
	}
	if err = json.Unmarshal([]byte(plateText), &m.Plate); err != nil {
		return m, err
	}
	err = json.Unmarshal([]byte(choiceText), &c)
	m.Load, m.LoadShare, m.RunMicrofarad, m.StartMicrofarad, m.Reversed, m.Mine = c.Load, c.LoadShare, c.RunMicrofarad,
		c.StartMicrofarad, c.Reversed, c.Mine
	m.Leads, m.Shaft, m.Matters, m.Way = c.Leads.Filled(), c.Shaft, c.Matters, c.Way.Filled()
	if m.Mine == nil {
		m.Mine = []string{}
	}
	return m, err
}

const motorColumns = "SELECT id, name, plate, choices, version FROM motors WHERE deleted_at IS NULL "

func motorsOf(ctx context.Context, q querier, machineID string) ([]shop.Motor, error) {
	return collect(ctx, q, scanMotor, motorColumns+"AND machine_id = ? ORDER BY position, id", machineID)
}

// Place is a motor with the machine and shop it stands in.
type Place struct {
	Shop    shop.Shop // without machines
	Machine shop.Machine
	Motor   shop.Motor
}

// Machine reads a machine with its motors, and the shop it stands in.
func (s *Store) Machine(ctx context.Context, id string) (Place, error) {
	return machinePlace(ctx, s.DB, id)
}

func machinePlace(ctx context.Context, q querier, id string) (Place, error) {
	var p Place
	var kept keptShop
	err := q.QueryRowContext(ctx, "SELECT s.id, s.name, s.supply, s.prices, s.profiles, s.version, m.id, m.name, "+
		"m.note, m.version FROM machines m JOIN shops s ON s.id = m.shop_id "+
		"WHERE m.id = ? AND m.deleted_at IS NULL AND s.deleted_at IS NULL", id).
		Scan(&p.Shop.ID, &p.Shop.Name, &kept.supply, &kept.prices, &kept.profiles, &p.Shop.Version,
			&p.Machine.ID, &p.Machine.Name, &p.Machine.Note, &p.Machine.Version)
	if err == sql.ErrNoRows {
		return Place{}, ErrNotFound
	}
	if err == nil {
		err = kept.into(&p.Shop)
	}
	if err == nil {
		p.Machine.Motors, err = motorsOf(ctx, q, id)
	}
	return p, err
}

// Motor reads a motor and where it stands.
func (s *Store) Motor(ctx context.Context, id string) (Place, error) {
	return motorPlace(ctx, s.DB, id)
}

func motorPlace(ctx context.Context, q querier, id string) (Place, error) {
	var machineID string
	err := q.QueryRowContext(ctx, "SELECT machine_id FROM motors WHERE id = ? AND deleted_at IS NULL", id).
		Scan(&machineID)
	if err == sql.ErrNoRows {
		return Place{}, ErrNotFound
	}
	if err != nil {
		return Place{}, err
	}
	p, err := machinePlace(ctx, q, machineID)
	if err != nil {
		return Place{}, err
	}
	for _, m := range p.Machine.Motors {
		if m.ID == id {
			p.Motor = m
			return p, nil
		}
	}
	return Place{}, ErrNotFound
}

func insertMachine(ctx context.Context, tx *sql.Tx, shopID string, m shop.Machine) error {
	_, err := tx.ExecContext(
		ctx,
		"INSERT INTO machines (id, shop_id, name, note, position) VALUES (?, ?, ?, ?, (SELECT "+
			"COALESCE(MAX(position), 0) + 1 FROM machines WHERE shop_id = ?))",
		m.ID,
		shopID,
		m.Name,
		m.Note,
		shopID,
	)
	for i := 0; err == nil && i < len(m.Motors); i++ {
		err = insertMotor(ctx, tx, m.ID, m.Motors[i])
	}
	return err
}

func insertMotor(ctx context.Context, tx *sql.Tx, machineID string, m shop.Motor) error {
	_, err := tx.ExecContext(
		ctx,
		"INSERT INTO motors (id, machine_id, name, plate, choices, position) VALUES (?, ?, ?, ?, ?, (SELECT "+
			"COALESCE(MAX(position), 0) + 1 FROM motors WHERE machine_id = ?))",
		m.ID,
		machineID,
		m.Name,
		encode(m.Plate),
		encode(choicesOf(m)),
		machineID,
	)
	return err
}

// AddMachine adds a machine with one blank motor to a shop.
func (s *Store) AddMachine(ctx context.Context, shopID, name string) (shop.Machine, error) {
	m := shop.Machine{
		ID:   NewID(),
		Name: name,
		Motors: []shop.Motor{
			{
				ID:      NewID(),
				Load:    "spindle",
				Mine:    []string{},
				Leads:   winding.Typed{}.Filled(),
				Way:     route.Way{}.Filled(),
				Version: 1,
			},
		},
		Version: 1,
	}
	return m, s.write(ctx, func(tx *sql.Tx) error {
		if there, err := exists(ctx, tx, "shops", shopID); err != nil || !there {
			return orNotFound(err)
		}
		if err := insertMachine(ctx, tx, shopID, m); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shopID, m.ID, ""}, "machine added", nil, m)
	})
}

func orNotFound(err error) error {
	if err != nil {
		return err
	}
	return ErrNotFound
}

// ChangeMachine changes a machine's name and note at a version.
func (s *Store) ChangeMachine(ctx context.Context, id string, version int, name, note string) (shop.Machine, error) {
	var changed shop.Machine
	err := s.write(ctx, func(tx *sql.Tx) error {
		before, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := updateMachine(ctx, tx, id, version, name, note); err != nil {
			return err
		}
		after, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		changed = after.Machine
		return s.log(ctx, tx, where{before.Shop.ID, id, ""}, "machine changed", label(before.Machine), label(changed))
	})
	return changed, err
}

func label(m shop.Machine) map[string]string {
	return map[string]string{"name": m.Name, "note": m.Note}
}

func updateMachine(ctx context.Context, tx *sql.Tx, id string, version int, name, note string) error {
	result, err := tx.ExecContext(
		ctx,
		"UPDATE machines SET name = ?, note = ?, version = version + 1 WHERE id = ? AND version = ? AND deleted_at "+
			"IS NULL",
		name,
		note,
		id,
		version,
	)
	return one(result, err, func() (bool, error) { return exists(ctx, tx, "machines", id) })
}

// DeleteMachine takes a machine out of sight; RestoreMachine brings it back.
func (s *Store) DeleteMachine(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		p, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := s.remove(ctx, tx, "machines", id, false); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, id, ""}, "machine deleted", p.Machine, nil)
	})
}

// RestoreMachine undoes DeleteMachine.
func (s *Store) RestoreMachine(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if err := s.remove(ctx, tx, "machines", id, true); err != nil {
			return err
		}
		p, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, id, ""}, "machine restored", nil, nil)
	})
}

// DuplicateMachine copies a machine within its shop.
func (s *Store) DuplicateMachine(ctx context.Context, id, name string) (shop.Machine, error) {
	var copied shop.Machine
	err := s.write(ctx, func(tx *sql.Tx) error {
		p, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		copied = p.Machine.Copy(NewID)
		copied.Name = name
		if err := insertMachine(ctx, tx, p.Shop.ID, copied); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, copied.ID, ""}, "machine copied", nil, label(p.Machine))
	})
	return copied, err
}

// AddMotor adds a blank motor to a machine.
func (s *Store) AddMotor(ctx context.Context, machineID, name string) (shop.Motor, error) {
	m := shop.Motor{
		ID:      NewID(),
		Name:    name,
		Load:    "spindle",
		Mine:    []string{},
		Leads:   winding.Typed{}.Filled(),
		Way:     route.Way{}.Filled(),
		Version: 1,
	}
	return m, s.write(ctx, func(tx *sql.Tx) error {
		p, err := machinePlace(ctx, tx, machineID)
		if err != nil {
			return err
		}
		if err := insertMotor(ctx, tx, machineID, m); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, machineID, m.ID}, "motor added", nil, m)
	})
}

// ChangeMotor writes a motor's name, plate and choices at a version.
func (s *Store) ChangeMotor(ctx context.Context, m shop.Motor) (Place, error) {
	var after Place
	err := s.write(ctx, func(tx *sql.Tx) error {
		before, err := motorPlace(ctx, tx, m.ID)
		if err != nil {
			return err
		}
		if err := updateMotor(ctx, tx, m, m.Version); err != nil {
			return err
		}
		if after, err = motorPlace(ctx, tx, m.ID); err != nil {
			return err
		}
		what := "choices changed"
		switch {
		case before.Motor.Plate != m.Plate:
			what = "plate changed"
		case encode(before.Motor.Leads) != encode(m.Leads.Filled()):
			what = "leads changed"
		case before.Motor.Way.Route != m.Way.Route && m.Way.Route != "":
			what = "route taken: " + rule.InSentence(route.Titles[m.Way.Route])
		case encode(before.Motor.Way) != encode(m.Way.Filled()):
			what = "route changed"
		case before.Motor.Matters != m.Matters:
			what = "what matters changed"
		case before.Motor.Shaft != m.Shaft:
			what = "shaft and duty changed"
		}
		return s.log(ctx, tx, where{before.Shop.ID, before.Machine.ID, m.ID}, what, before.Motor, after.Motor)
	})
	return after, err
}

func updateMotor(ctx context.Context, tx *sql.Tx, m shop.Motor, version int) error {
	result, err := tx.ExecContext(
		ctx,
		"UPDATE motors SET name = ?, plate = ?, choices = ?, version = version + 1 WHERE id = ? AND version = ? AND "+
			"deleted_at IS NULL",
		m.Name,
		encode(m.Plate),
		encode(choicesOf(m)),
		m.ID,
		version,
	)
	return one(result, err, func() (bool, error) { return exists(ctx, tx, "motors", m.ID) })
}

// DeleteMotor takes a motor off its machine; RestoreMotor brings it back.
func (s *Store) DeleteMotor(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		p, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := s.remove(ctx, tx, "motors", id, false); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, p.Machine.ID, id}, "motor deleted", p.Motor, nil)
	})
}

// RestoreMotor undoes DeleteMotor.
func (s *Store) RestoreMotor(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if err := s.remove(ctx, tx, "motors", id, true); err != nil {
			return err
		}
		p, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, p.Machine.ID, id}, "motor restored", nil, nil)
	})
}
