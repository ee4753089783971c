package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"brackmoor/core/shop"
)

// Finding is something wrong with a database: what, and what to do.
type Finding struct{ Says, Do string }

// What is to be done about what is found.
const (
	doRestore = "Restore the latest backup from before it, with brackmoor restore."
	doExport  = "Export what can be read, and import it into a new database."
	doClock   = "Set this machine's clock; what is written meanwhile is dated wrongly, nothing else."
)

// Check looks through a whole database without changing it: its pages, its schema, what its rows
// point at, and whether each is one that would be taken in today. It gives an error where nothing
// can be looked at.
func Check(ctx context.Context, path string, now time.Time) (found []Finding, err error) {
	if err := There(path); err != nil {
		return nil, err
	}
	s, err := Read(ctx, path)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	for _, look := range []func(context.Context, time.Time) ([]Finding, error){
		s.pages, s.references, s.rows, s.clock,
	} {
		more, err := look(ctx, now)
		if err != nil {
			return found, err
		}
		found = append(found, more...)
	}
	return found, nil
}

// texts are the answers of a question of one column.
func (s *Store) texts(ctx context.Context, question string) ([]string, error) {
	return collect(ctx, s.DB, func(rows *sql.Rows) (text string, err error) { return text, rows.Scan(&text) }, question)
}

func (s *Store) pages(ctx context.Context, _ time.Time) (found []Finding, err error) {
	lines, err := s.texts(ctx, "PRAGMA integrity_check(20)")
	for _, line := range lines {
		if line != "ok" {
			found = append(found, Finding{"The file is damaged: " + line + ".", doRestore})
		}
	}
	return found, err
}

// references finds rows whose owner is not there.
func (s *Store) references(ctx context.Context, _ time.Time) (found []Finding, err error) {
	lines, err := s.texts(ctx, `SELECT "table" || ' ' || rowid || ' points at no row of ' || parent `+
		"FROM pragma_foreign_key_check")
	for _, line := range lines {
		found = append(found, Finding{"A row is orphaned: " + line + ".", doExport})
	}
	return found, err
}

// rows reads every shop as it would leave in a file and takes it in again, and what was deleted
// as JSON at least, since it can come back.
func (s *Store) rows(ctx context.Context, _ time.Time) (found []Finding, err error) {
	unread, err := s.texts(ctx, "SELECT 'shop ' || id FROM shops WHERE NOT (json_valid(supply) AND json_valid(prices) "+
		"AND json_valid(profiles) AND json_valid(weights) AND json_valid(own) AND json_valid(site) "+
		"AND json_valid(state)) UNION ALL "+
		"SELECT 'motor ' || id FROM motors "+
		"WHERE NOT (json_valid(plate) AND json_valid(choices) AND json_valid(versions)) UNION ALL "+
		"SELECT 'photo ' || id FROM photos WHERE length(image) = 0 UNION ALL "+
		"SELECT 'photo ' || id FROM part_photos WHERE length(image) = 0")
	if err != nil {
		return nil, err
	}
	for _, what := range unread {
		found = append(found, Finding{"What is kept of " + what + " cannot be read.", doRestore})
	}
	ids, err := s.texts(ctx, "SELECT id FROM shops WHERE deleted_at IS NULL ORDER BY position, id")
	if err != nil {
		return nil, err
	}
	for _, id := range ids {
		sh, err := readShop(ctx, s.DB, id)
		if err != nil {
			found = append(found, Finding{"Shop " + id + " cannot be read: " + err.Error() + ".", doRestore})
			continue
		}
		text, err := json.Marshal(shop.File{Format: shop.Format, Shops: []shop.Shop{sh.Bare()}})
		if err != nil {
			return found, err
		}
		_, problems := shop.ReadFile(text)
		for _, p := range problems {
			found = append(found, Finding{"Shop " + id + " would not be taken in: " + p.String() + ".",
				"Mend it where it is shown, or restore a backup."})
		}
	}
	return found, nil
}

// clock finds times that lie ahead, or that run back by more than a clock that is set.
func (s *Store) clock(ctx context.Context, now time.Time) (found []Finding, err error) {
	const slack = 5 * time.Minute
	var ahead int
	if err := s.DB.QueryRowContext(ctx, "SELECT COUNT(*) FROM daybook WHERE at > ?",
		now.UTC().Add(slack).Format(time.RFC3339)).Scan(&ahead); err != nil {
		return nil, err
	}
	if ahead > 0 {
		found = append(found, Finding{fmt.Sprintf("%d lines of the daybook are dated ahead of now.", ahead), doClock})
	}
	var back int
	if err := s.DB.QueryRowContext(ctx, "SELECT COUNT(*) FROM (SELECT at, LAG(at) OVER (ORDER BY id) AS before "+
		"FROM daybook) WHERE julianday(before) - julianday(at) > 1").Scan(&back); err != nil {
		return nil, err
	}
	if back > 0 {
		found = append(
			found,
			Finding{fmt.Sprintf("The daybook's time runs back by a day or more %d times.", back), doClock},
		)
	}
	return found, nil
}
