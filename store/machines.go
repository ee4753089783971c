package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"brackmoor/core/controls"
	"brackmoor/core/daybook"
	"brackmoor/core/feed"
	"brackmoor/core/machine"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/winding"
)

// choices are the parts of a motor kept beside its plate.
type choices struct {
	shop.Driven
	shop.Fed
	Mine    []string            `json:"mine"`
	Built   []string            `json:"built,omitempty"`
	Own     []controls.Terminal `json:"controls,omitempty"`
	Leads   winding.Typed       `json:"leads,omitzero"`
	Matters feed.Matters        `json:"matters,omitzero"`
	Learned *machine.Learned    `json:"learned,omitempty"`
}

func chosen(m shop.Motor) choices {
	return choices{m.Driven, m.Fed, m.Mine, m.Built, m.Own, m.Leads, m.Matters, m.Learned}
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
	var plate, chosen, versions string
	var c choices
	if err = rows.Scan(&m.ID, &m.Name, &plate, &chosen, &versions, &m.Version); err != nil {
		return m, err
	}
	err = errors.Join(json.Unmarshal([]byte(plate), &m.Plate), json.Unmarshal([]byte(chosen), &c),
		json.Unmarshal([]byte(versions), &m.Versions))
	m.Driven, m.Fed, m.Mine, m.Leads, m.Matters = c.Driven, c.Fed, c.Mine, c.Leads, c.Matters
	m.Built, m.Own, m.Learned = c.Built, c.Own, c.Learned
	return m.Filled(), err
}

const motorColumns = "SELECT id, name, plate, choices, versions, version FROM motors WHERE deleted_at IS NULL "

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
	err := q.QueryRowContext(ctx, "SELECT s.id, s.name, s.version, m.id, m.name, m.note, m.version, "+keptColumns+
		" FROM machines m JOIN shops s ON s.id = m.shop_id "+
		"WHERE m.id = ? AND m.deleted_at IS NULL AND s.deleted_at IS NULL", id).
		Scan(append([]any{&p.Shop.ID, &p.Shop.Name, &p.Shop.Version, &p.Machine.ID, &p.Machine.Name, &p.Machine.Note,
			&p.Machine.Version}, kept.places()...)...)
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

func insertMachine(ctx context.Context, tx *transaction, shopID string, m shop.Machine) error {
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
	if err == nil {
		err = fits(ctx, tx, "machines", m.ID)
	}
	for i := 0; err == nil && i < len(m.Motors); i++ {
		err = insertMotor(ctx, tx, m.ID, m.Motors[i])
	}
	return err
}

func insertMotor(ctx context.Context, tx *transaction, machineID string, m shop.Motor) error {
	_, err := tx.ExecContext(
		ctx,
		"INSERT INTO motors (id, machine_id, name, plate, choices, position) VALUES (?, ?, ?, ?, ?, (SELECT "+
			"COALESCE(MAX(position), 0) + 1 FROM motors WHERE machine_id = ?))",
		m.ID,
		machineID,
		m.Name,
		encode(m.Plate),
		encode(chosen(m)),
		machineID,
	)
	if err != nil {
		return err
	}
	return fits(ctx, tx, "motors", m.ID)
}

// AddMachine adds a machine with one blank motor to a shop.
func (s *Store) AddMachine(ctx context.Context, shopID, name string) (shop.Machine, error) {
	return s.AddPlate(ctx, shopID, name, plate.Typed{})
}

// AddPlate adds a machine with one motor of a plate to a shop.
func (s *Store) AddPlate(ctx context.Context, shopID, name string, plate plate.Typed) (shop.Machine, error) {
	m := shop.Machine{
		ID:      NewID(),
		Name:    name,
		Motors:  []shop.Motor{shop.Motor{ID: NewID(), Version: 1, Plate: plate}.Filled()},
		Version: 1,
	}
	return m, s.write(ctx, func(tx *transaction) error {
		if there, err := exists(ctx, tx, "shops", shopID); err != nil || !there {
			return orNotFound(err)
		}
		if err := insertMachine(ctx, tx, shopID, m); err != nil {
			return err
		}
		return s.log(ctx, tx, where{shopID, m.ID, ""}, MachineAdded, "machine added", nil, m)
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
	err := s.write(ctx, func(tx *transaction) error {
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
		return s.log(
			ctx,
			tx,
			where{before.Shop.ID, id, ""},
			MachineChanged,
			"machine changed",
			label(before.Machine),
			label(changed),
		)
	})
	return changed, err
}

func label(m shop.Machine) map[string]string {
	return map[string]string{"name": m.Name, "note": m.Note}
}

func updateMachine(ctx context.Context, tx *transaction, id string, version int, name, note string) error {
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
	return s.write(ctx, func(tx *transaction) error {
		p, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := s.remove(ctx, tx, "machines", id, false); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, id, ""}, MachineDeleted, "machine deleted", p.Machine, nil)
	})
}

// RestoreMachine undoes DeleteMachine.
func (s *Store) RestoreMachine(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *transaction) error {
		if err := s.remove(ctx, tx, "machines", id, true); err != nil {
			return err
		}
		p, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, id, ""}, MachineRestored, "machine restored", nil, nil)
	})
}

// DuplicateMachine copies a machine within its shop.
func (s *Store) DuplicateMachine(ctx context.Context, id, name string) (shop.Machine, error) {
	var copied shop.Machine
	err := s.write(ctx, func(tx *transaction) error {
		p, err := machinePlace(ctx, tx, id)
		if err != nil {
			return err
		}
		copied = p.Machine.Copy(NewID)
		copied.Name = name
		for i := range copied.Motors { // it is another machine: nothing of it is built or read yet
			copied.Motors[i].Built, copied.Motors[i].Learned = nil, nil
		}
		if err := insertMachine(ctx, tx, p.Shop.ID, copied); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, copied.ID, ""}, MachineCopied, "machine copied", nil, label(p.Machine))
	})
	return copied, err
}

// AddMotor adds a blank motor to a machine.
func (s *Store) AddMotor(ctx context.Context, machineID, name string) (shop.Motor, error) {
	m := shop.Motor{ID: NewID(), Name: name, Version: 1}.Filled()
	return m, s.write(ctx, func(tx *transaction) error {
		p, err := machinePlace(ctx, tx, machineID)
		if err != nil {
			return err
		}
		if err := insertMotor(ctx, tx, machineID, m); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, machineID, m.ID}, MotorAdded, "motor added", nil, m)
	})
}

// ChangePart changes a part of a motor, if that part is still at the version given; the
// other parts may have moved on.
func (s *Store) ChangePart(
	ctx context.Context,
	id string,
	part shop.Part,
	version int,
	change func(*shop.Motor),
) (Place, error) {
	var after Place
	err := s.write(ctx, func(tx *transaction) error {
		before, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		if *before.Motor.Versions.Of(part) != version {
			return ErrChanged
		}
		m := before.Motor
		change(&m)
		if m.Learned != nil && (m.Plate != before.Motor.Plate || part == shop.LeadsPart) {
			m.Learned = nil // it was learned of another machine than is now written there
		}
		*m.Versions.Of(part)++
		if err := updateMotor(ctx, tx, m.Filled()); err != nil {
			return err
		}
		if after, err = motorPlace(ctx, tx, id); err != nil {
			return err
		}
		place := where{before.Shop.ID, before.Machine.ID, id}
		return s.log(ctx, tx, place, Kind("motor."+part), partWords(part, before.Motor, m), before.Motor, after.Motor)
	})
	return after, err
}

// FitBank puts capacitors in the place of those that a motor's way has, and writes the line that says so.
func (s *Store) FitBank(ctx context.Context, id string, ac, bc float64, e daybook.Entry) error {
	return s.write(ctx, func(tx *transaction) error {
		before, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		sh, m := before.Shop, before.Motor
		at := where{sh.ID, before.Machine.ID, id}
		if sh.FitBank(before.Machine.ID, &m, ac, bc) {
			err = updateShop(ctx, tx, sh, sh.Version)
			if err == nil {
				err = s.log(
					ctx,
					tx,
					where{shop: sh.ID},
					ShopChanged,
					"capacitors of a converter changed",
					before.Shop,
					sh,
				)
			}
		} else {
			*m.Versions.Of(shop.WayPart)++
			if err = updateMotor(ctx, tx, m); err == nil {
				err = s.log(ctx, tx, at, Kind("motor."+shop.WayPart), "capacitors changed", before.Motor, m)
			}
		}
		if err != nil {
			return err
		}
		e.Kind, e.Machine, e.Motor = daybook.Changed, before.Machine.ID, id
		return s.addEntry(ctx, tx, sh.ID, e, encode(e.More))
	})
}

// Learn takes what readings told of a motor in the place of what its plate gives, or, nil, lays it aside.
func (s *Store) Learn(ctx context.Context, id string, learned *machine.Learned) error {
	return s.write(ctx, func(tx *transaction) error {
		before, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		m := before.Motor
		m.Learned = learned
		if err := updateMotor(ctx, tx, m); err != nil {
			return err
		}
		what := "what was learned laid aside"
		if learned != nil {
			what = "learned machine taken"
		}
		place := where{before.Shop.ID, before.Machine.ID, id}
		return s.log(ctx, tx, place, MotorLearned, what, before.Motor.Learned, learned)
	})
}

// partWords say in the daybook what was changed.
func partWords(part shop.Part, before, after shop.Motor) string {
	switch part {
	case shop.ShaftPart:
		return "shaft and duty changed"
	case shop.MattersPart:
		return "what matters changed"
	case shop.OwnPart:
		return "its own controls changed"
	case shop.BuiltPart:
		return "building ticked"
	case shop.WayPart:
		if after.Way.Route != "" && before.Way.Route != after.Way.Route {
			return "route taken: " + rule.InSentence(after.Way.Taken().Info().Title)
		}
		return "route changed"
	}
	return string(part) + " changed"
}

func updateMotor(ctx context.Context, tx *transaction, m shop.Motor) error {
	result, err := tx.ExecContext(
		ctx,
		"UPDATE motors SET name = ?, plate = ?, choices = ?, versions = ?, version = version + 1 WHERE id = ? AND "+
			"deleted_at IS NULL",
		m.Name,
		encode(m.Plate),
		encode(chosen(m)),
		encode(m.Versions),
		m.ID,
	)
	return one(result, err, func() (bool, error) { return exists(ctx, tx, "motors", m.ID) })
}

// DeleteMotor takes a motor off its machine; RestoreMotor brings it back.
func (s *Store) DeleteMotor(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *transaction) error {
		p, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := s.remove(ctx, tx, "motors", id, false); err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, p.Machine.ID, id}, MotorDeleted, "motor deleted", p.Motor, nil)
	})
}

// RestoreMotor undoes DeleteMotor.
func (s *Store) RestoreMotor(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *transaction) error {
		if err := s.remove(ctx, tx, "motors", id, true); err != nil {
			return err
		}
		p, err := motorPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		return s.log(ctx, tx, where{p.Shop.ID, p.Machine.ID, id}, MotorRestored, "motor restored", nil, nil)
	})
}
