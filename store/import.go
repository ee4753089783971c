package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"brackmoor/core/shop"
)

// Status is what a row of a file is to the database.
type Status string

// The statuses. A row is older when it was changed here since the file was written, by their
// versions; one that differs and has no version, or no lower one, is changed.
const (
	RowNew     Status = "new"
	RowChanged Status = "changed"
	RowOlder   Status = "older"
	RowBack    Status = "back" // deleted here
	RowSame    Status = "same"
)

// Row is a shop, a machine or a motor of a file beside the same here, and whether it is taken.
// Here and File are its versions, 0 where there is none.
type Row struct {
	ID     string `json:"id"`
	What   string `json:"what" enum:"shop,machine,motor"`
	Title  string `json:"title"` // what it is and its name
	Status Status `json:"status" enum:"new,changed,older,back,same"`
	Says   string `json:"says"` // the status in words
	Here   int    `json:"here"`
	File   int    `json:"file"`
	Taken  bool   `json:"taken"`
}

// Choice is what somebody chose of the rows of a file. Those not named are taken, but for older
// ones. What stands in a row that is not there and not taken is not taken either.
type Choice struct {
	Take, Keep map[string]bool // by id
	Older      bool            // older ones are taken too
	Preview    bool            // nothing is done; what would be is told
	Whole      bool            // all of it or none: a row that would be kept as it is here refuses the rest
}

func (c Choice) takes(r Row) bool {
	switch {
	case c.Take[r.ID]:
		return true
	case c.Keep[r.ID]:
		return false
	}
	return r.Status != RowOlder || c.Older
}

// Report says what an import did, row by row.
type Report struct {
	Added     int      `json:"added"`
	Changed   int      `json:"changed"`
	Unchanged int      `json:"unchanged"`
	Kept      int      `json:"kept"` // as they are here, though the file has them otherwise
	Lines     []string `json:"lines" nullable:"false"`
	Rows      []Row    `json:"rows" nullable:"false"`
}

// TakenError says that an id of the file belongs to something else here.
type TakenError struct{ What, ID string }

func (e *TakenError) Error() string {
	return fmt.Sprintf("the id %q of a %s is taken by another place in this database", e.ID, e.What)
}

// errPreview undoes a merge that was only to be looked at.
var errPreview = errors.New("only looked at")

// Import merges a file of shops, all or nothing: what is new is added, what differs is changed,
// what was deleted comes back, nothing is deleted. Each of it is one line of the daybook.
func (s *Store) Import(ctx context.Context, file shop.File, chosen Choice) (Report, error) {
	m := merge{store: s, chosen: chosen, report: Report{Lines: []string{}, Rows: []Row{}}}
	err := s.write(ctx, func(tx *transaction) error {
		m.tx = tx
		for _, sh := range file.Shops {
			if err := m.shop(ctx, sh); err != nil {
				return err
			}
		}
		if chosen.Whole && m.report.Kept > 0 {
			return ErrChanged
		}
		if chosen.Preview {
			return errPreview
		}
		return nil
	})
	if err != nil && !errors.Is(err, errPreview) {
		return Report{Lines: []string{}, Rows: []Row{}}, err
	}
	return m.report, nil
}

// merge is an import under way.
type merge struct {
	store  *Store
	tx     *transaction
	chosen Choice
	report Report
}

// standing is what there is of a row here.
type standing struct {
	known, deleted bool
	owner          string
	version        int
}

// find looks for a row of a table by its id; owner is the column that names what it stands in.
func (m *merge) find(ctx context.Context, table, owner, id string) (s standing, err error) {
	err = m.tx.QueryRowContext(ctx, "SELECT "+owner+", deleted_at IS NOT NULL, version FROM "+table+
		" WHERE id = ?", id).Scan(&s.owner, &s.deleted, &s.version)
	if errors.Is(err, sql.ErrNoRows) {
		return s, nil
	}
	s.known = err == nil
	return s, err
}

// row decides over a row: same says whether it is as it is here. It tells what becomes of it.
func (m *merge) row(r Row, s standing, same func() (bool, error)) (Row, error) {
	r.Here, r.Status = s.version, RowNew
	switch {
	case s.deleted:
		r.Status = RowBack
	case s.known:
		is, err := same()
		if err != nil {
			return r, err
		}
		switch {
		case is:
			r.Status = RowSame
		case r.File > 0 && r.File < r.Here:
			r.Status = RowOlder
		default:
			r.Status = RowChanged
		}
	}
	r.Taken = r.Status != RowSame && m.chosen.takes(r)
	r.Says = r.words()
	done := "changed"
	switch r.Status {
	case RowNew:
		done = "added"
	case RowBack:
		done = "brought back"
	}
	rep := &m.report
	switch {
	case r.Status == RowSame:
		rep.Unchanged++
	case !r.Taken:
		rep.Kept++
		rep.Lines = append(rep.Lines, fmt.Sprintf("%s not %s: kept as it is here", r.Title, done))
	default:
		if r.Status == RowNew {
			rep.Added++
		} else {
			rep.Changed++
		}
		rep.Lines = append(rep.Lines, r.Title+" "+done)
	}
	rep.Rows = append(rep.Rows, r)
	return r, nil
}

// words are the status of a row for people.
func (r Row) words() string {
	switch r.Status {
	case RowNew:
		return "new"
	case RowBack:
		return "deleted here; it would come back"
	case RowSame:
		return "as it is here"
	case RowOlder:
		return fmt.Sprintf("changed here since: version %d in the file, %d here", r.File, r.Here)
	}
	return "otherwise in the file"
}

// settle brings back a row that was deleted, and lifts its version to the file's, so that it is
// told from older ones from now on.
func (m *merge) settle(ctx context.Context, table string, r Row) error {
	if _, err := m.tx.ExecContext(ctx, "UPDATE "+table+" SET deleted_at = NULL, version = MAX(version, ?) WHERE id = ?",
		r.File, r.ID); err != nil {
		return err
	}
	return fits(ctx, m.tx, table, r.ID)
}

// absent says that a row is not there once its merge is done.
func (r Row) absent() bool { return !r.Taken && (r.Status == RowNew || r.Status == RowBack) }

func (m *merge) shop(ctx context.Context, sh shop.Shop) error {
	at, err := m.find(ctx, "shops", "''", sh.ID)
	if err != nil {
		return err
	}
	own := sh.Bare()
	own.Machines = nil
	var here shop.Shop
	r, err := m.row(Row{ID: sh.ID, What: "shop", Title: "shop " + sh.Name, File: sh.Version}, at, func() (bool, error) {
		here, err = readShop(ctx, m.tx, sh.ID)
		here = here.Bare()
		here.Machines = nil
		return encode(here) == encode(own), err
	})
	if err != nil || r.absent() {
		return err
	}
	if r.Taken {
		if r.Status == RowNew {
			err = insertShop(ctx, m.tx, own)
		}
		if err == nil {
			err = m.settle(ctx, "shops", r)
		}
		if err == nil && r.Status != RowNew {
			if err = m.before(ctx, &here, sh.ID); err == nil {
				own.Version = 0
				err = updateShop(ctx, m.tx, own, max(at.version, r.File))
			}
		}
		if err == nil {
			err = m.store.log(ctx, m.tx, where{shop: sh.ID}, ShopImported, "imported", orNil(r, here), own)
		}
		if err != nil {
			return err
		}
	}
	for _, machine := range sh.Machines {
		if err := m.machine(ctx, sh.ID, machine); err != nil {
			return err
		}
	}
	return nil
}

// before reads what a shop was, where that was not needed until now.
func (m *merge) before(ctx context.Context, here *shop.Shop, id string) (err error) {
	if here.ID == "" {
		*here, err = readShop(ctx, m.tx, id)
		*here = here.Bare()
		here.Machines = nil
	}
	return err
}

// orNil is what stood here before, nothing for what is new.
func orNil(r Row, before any) any {
	if r.Status == RowNew {
		return nil
	}
	return before
}

func (m *merge) machine(ctx context.Context, shopID string, machine shop.Machine) error {
	at, err := m.find(ctx, "machines", "shop_id", machine.ID)
	if err == nil && at.known && at.owner != shopID {
		err = &TakenError{"machine", machine.ID}
	}
	if err != nil {
		return err
	}
	type named struct{ Name, Note string }
	own, here := named{machine.Name, machine.Note}, named{}
	r, err := m.row(Row{ID: machine.ID, What: "machine", Title: "machine " + machine.Name, File: machine.Version}, at,
		func() (bool, error) {
			p, err := machinePlace(ctx, m.tx, machine.ID)
			here = named{p.Machine.Name, p.Machine.Note}
			return here == own, err
		})
	if err != nil || r.absent() {
		return err
	}
	if r.Taken {
		if r.Status == RowNew {
			bare := machine
			bare.Motors = nil
			err = insertMachine(ctx, m.tx, shopID, bare)
		}
		if err == nil {
			err = m.settle(ctx, "machines", r)
		}
		if err == nil && r.Status != RowNew {
			var p Place
			if p, err = machinePlace(ctx, m.tx, machine.ID); err == nil {
				here = named{p.Machine.Name, p.Machine.Note}
				err = updateMachine(ctx, m.tx, machine.ID, p.Machine.Version, machine.Name, machine.Note)
			}
		}
		if err == nil {
			err = m.store.log(ctx, m.tx, where{shopID, machine.ID, ""}, MachineImported, "machine imported",
				orNil(r, here), own)
		}
		if err != nil {
			return err
		}
	}
	for _, motor := range machine.Motors {
		if err := m.motor(ctx, shopID, machine, motor); err != nil {
			return err
		}
	}
	return nil
}

func (m *merge) motor(ctx context.Context, shopID string, machine shop.Machine, motor shop.Motor) error {
	at, err := m.find(ctx, "motors", "machine_id", motor.ID)
	if err == nil && at.known && at.owner != machine.ID {
		err = &TakenError{"motor", motor.ID}
	}
	if err != nil {
		return err
	}
	own := motor.Filled().Bare()
	var here Place
	title := "motor of " + machine.Name
	if motor.Name != "" {
		title += ", " + motor.Name
	}
	r, err := m.row(Row{ID: motor.ID, What: "motor", Title: title, File: motor.Version}, at, func() (bool, error) {
		here, err = motorPlace(ctx, m.tx, motor.ID)
		return encode(here.Motor.Bare()) == encode(own), err
	})
	if err != nil || !r.Taken {
		return err
	}
	if r.Status == RowNew {
		err = insertMotor(ctx, m.tx, machine.ID, own)
	}
	if err == nil {
		err = m.settle(ctx, "motors", r)
	}
	if err == nil && r.Status != RowNew {
		if here, err = motorPlace(ctx, m.tx, motor.ID); err == nil {
			anew := own
			anew.Versions = here.Motor.Versions
			for _, part := range shop.Parts {
				*anew.Versions.Of(part)++
			}
			err = updateMotor(ctx, m.tx, anew)
		}
	}
	if err != nil {
		return err
	}
	return m.store.log(ctx, m.tx, where{shopID, machine.ID, motor.ID}, MotorImported, "motor imported",
		orNil(r, here.Motor.Bare()), own)
}
