package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode"

	"brackmoor/core/daybook"
	"brackmoor/core/prove"
)

// EntryAdded is the kind of event of what somebody wrote down.
const EntryAdded Kind = "entry.added"

// MostReadings is how many readings of a motor are kept.
const MostReadings = 2000

// ErrOther says that something else is written down under an id already.
var ErrOther = errors.New("something else is written down under this id")

// Line is an entry as the daybook has it: its place, what ended it and what corrects it, "" for nothing; whether it is
// still open, and past its day.
type Line struct {
	daybook.Entry
	Place     int64  `json:"place"`
	EndedBy   string `json:"ended_by"`
	Corrected string `json:"corrected_by"`
	Open      bool   `json:"open"`
	Late      bool   `json:"late"`
}

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
		var there int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM entries WHERE motor_id = ? AND kind = ?", motorID,
			daybook.Reading).Scan(&there); err != nil {
			return err
		}
		if there >= MostReadings {
			return &FullError{MostReadings, "readings of a motor"}
		}
		return s.addEntry(ctx, tx, place.Shop.ID, daybook.Entry{
			ID: r.ID, At: r.At, Hand: r.Hand, Kind: daybook.Reading, Machine: place.Machine.ID, Motor: motorID,
			Says: r.Words(place.Shop.Supply.Hertz), Corrects: r.Corrects, More: daybook.More{Hours: r.Hours()},
		}, string(body))
	})
}

// AddEntry writes down what somebody typed in a shop. One that is there already is left as it is.
func (s *Store) AddEntry(ctx context.Context, shopID string, e daybook.Entry) error {
	return s.write(ctx, func(tx *transaction) error {
		sh, err := readShop(ctx, tx, shopID)
		if err != nil {
			return err
		}
		if e.Machine != "" && !sh.Has(e.Machine) || e.Motor != "" && !sh.Has(e.Motor) {
			return ErrNotFound
		}
		for _, id := range []string{e.Ends, e.Corrects} {
			var of string
			if id == "" {
				continue
			}
			err := tx.QueryRowContext(ctx, "SELECT shop_id FROM entries WHERE id = ?", id).Scan(&of)
			if errors.Is(err, sql.ErrNoRows) || err == nil && of != shopID {
				return ErrNotFound
			}
			if err != nil {
				return err
			}
		}
		for _, id := range e.Photos {
			var there int
			err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM part_photos WHERE id = ? AND shop_id = ?", id, shopID).
				Scan(&there)
			if err != nil || there == 0 {
				return orNotFound(err)
			}
		}
		return s.addEntry(ctx, tx, shopID, e, encode(e.More))
	})
}

func (s *Store) addEntry(ctx context.Context, tx *transaction, shopID string, e daybook.Entry, body string) error {
	var shop, had, says string
	err := tx.QueryRowContext(ctx, "SELECT shop_id, body, says FROM entries WHERE id = ?", e.ID).
		Scan(&shop, &had, &says)
	switch {
	case err == nil && shop == shopID && had == body && says == e.Says:
		return nil
	case err == nil:
		return ErrOther
	case !errors.Is(err, sql.ErrNoRows):
		return err
	}
	const row = "INSERT INTO entries (id, shop_id, machine_id, motor_id, kind, at, hand, says, who, due, ends, " +
		"corrects, step, went, body, hours) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
	if _, err := tx.ExecContext(ctx, row, e.ID, shopID, e.Machine, e.Motor, e.Kind, e.At, e.Hand, e.Says, e.Who, e.Due,
		e.Ends, e.Corrects, e.Step, e.Went, body, e.Hours); err != nil {
		return err
	}
	return s.log(ctx, tx, where{shopID, e.Machine, e.Motor}, EntryAdded, "written down in the daybook", nil, e)
}

// Readings are those of a motor, in the order of their time.
func (s *Store) Readings(ctx context.Context, motorID string) ([]prove.Reading, error) {
	list, err := collect(ctx, s.DB, func(rows *sql.Rows) (r prove.Reading, err error) {
		var body string
		if err = rows.Scan(&body); err == nil {
			err = json.Unmarshal([]byte(body), &r)
		}
		return r, err
	}, "SELECT body FROM entries WHERE motor_id = ? AND kind = ? ORDER BY at, id", motorID, daybook.Reading)
	if list == nil {
		list = []prove.Reading{}
	}
	return list, err
}

// Entries lists what is sought in a shop's daybook, the latest written first, at most so many.
func (s *Store) Entries(ctx context.Context, shopID string, q daybook.Sought, most int) ([]Line, error) {
	var and []string
	var args []any
	want := func(sql string, value ...any) {
		and, args = append(and, sql), append(args, value...)
	}
	from, order := "entries e", "e.place"
	if words := match(q.Words); words != "" {
		tags := []string{words}
		count, err := s.upTo(ctx, shopID, q, many)
		if err != nil || count == 0 {
			return []Line{}, err
		}
		few := count < many
		if few && q.Machine != "" {
			tags = append(tags, phrase("m_"+q.Machine))
		}
		if few && q.Kind != "" {
			tags = append(tags, phrase("k_"+q.Kind))
		}
		from, order = "entry_words CROSS JOIN entries e ON e.place = entry_words.rowid", "entry_words.rowid"
		want("entry_words MATCH ?", strings.Join(tags, " AND "))
	}
	if q.Before > 0 {
		want(order+" < ?", q.Before)
	}
	want("e.shop_id = ?", shopID)
	if q.Machine != "" {
		want("e.machine_id = ?", q.Machine)
	}
	if q.Kind != "" {
		want("e.kind = ?", q.Kind)
	}
	if q.Motor != "" {
		want("e.motor_id = ?", q.Motor)
	}
	if q.From != "" {
		want("e.at >= ?", q.From)
	}
	if q.Until != "" {
		want("e.at < ?", q.Until+"~") // the whole day
	}
	if q.Open {
		var kinds []string
		for _, k := range daybook.Kinds {
			if k.Open {
				kinds = append(kinds, "'"+k.Name+"'")
			}
		}
		const none = " AND NOT EXISTS (SELECT 1 FROM entries o WHERE o.%[1]s = e.id AND o.%[1]s <> '')"
		open := "(e.kind IN (" + strings.Join(kinds, ", ") + ") OR e.went = ?)"
		want(open+fmt.Sprintf(none, "ends")+fmt.Sprintf(none, "corrects"), daybook.NotWell)
	}
	list, err := collect(ctx, s.DB, func(rows *sql.Rows) (l Line, err error) {
		var body string
		if err = rows.Scan(&l.Place, &l.ID, &l.Machine, &l.Motor, &l.Kind, &l.At, &l.Hand, &l.Says, &l.Who, &l.Due,
			&l.Ends, &l.Corrects, &l.Step, &l.Went, &body, &l.EndedBy, &l.Corrected); err == nil {
			err = json.Unmarshal([]byte(body), &l.More)
		}
		return l, err
	}, "SELECT e.place, e.id, e.machine_id, e.motor_id, e.kind, e.at, e.hand, e.says, e.who, e.due, e.ends, "+
		"e.corrects, e.step, e.went, e.body, "+
		"COALESCE((SELECT o.id FROM entries o WHERE o.ends = e.id AND o.ends <> '' LIMIT 1), ''), "+
		"COALESCE((SELECT o.id FROM entries o WHERE o.corrects = e.id AND o.corrects <> '' LIMIT 1), '') "+
		"FROM "+from+" WHERE "+strings.Join(and, " AND ")+
		fmt.Sprintf(" ORDER BY %s DESC LIMIT %d", order, most), args...)
	if list == nil {
		list = []Line{}
	}
	today := s.now().Format(time.DateOnly)
	for i := range list {
		l := &list[i]
		l.Open = l.StaysOpen() && l.EndedBy == "" && l.Corrected == ""
		l.Late = l.Open && l.Due != "" && l.Due < today
		if l.Open && l.DueHours > 0 && err == nil {
			var hours float64
			hours, err = s.hours(ctx, l.Machine)
			l.Late = l.Late || hours >= l.DueHours
		}
	}
	return list, err
}

// hours is the most that was read on a machine's counter.
func (s *Store) hours(ctx context.Context, machine string) (most float64, err error) {
	err = s.DB.QueryRowContext(ctx, "SELECT COALESCE(MAX(hours), 0) FROM entries WHERE machine_id = ? AND hours > 0",
		machine).Scan(&most)
	return most, err
}

// Signed is the last acceptance of a motor, nil for none.
func (s *Store) Signed(ctx context.Context, shopID, motor string) (*Line, error) {
	list, err := s.Entries(ctx, shopID, daybook.Sought{Motor: motor, Kind: daybook.Accepted}, 1)
	if err != nil || len(list) == 0 {
		return nil, err
	}
	return &list[0], nil
}

// many is from how many lines on a machine's or a kind's are met one by one behind the index of words, and not in it.
const many = 3000

// upTo counts the lines of a machine and a kind, up to so many.
func (s *Store) upTo(ctx context.Context, shopID string, q daybook.Sought, most int) (count int, err error) {
	sql, args := "SELECT COUNT(*) FROM (SELECT 1 FROM entries WHERE shop_id = ?", []any{shopID}
	if q.Machine != "" {
		sql, args = sql+" AND machine_id = ?", append(args, q.Machine)
	}
	if q.Kind != "" {
		sql, args = sql+" AND kind = ?", append(args, q.Kind)
	}
	err = s.DB.QueryRowContext(ctx, sql+fmt.Sprintf(" LIMIT %d)", most), args...).Scan(&count)
	return count, err
}

// phrase is a word of the index, whatever stands in it.
func phrase(text string) string { return `"` + strings.ReplaceAll(text, `"`, `""`) + `"` }

// match is what somebody typed as words that must all be there, the last perhaps not to its end.
func match(text string) string {
	var list []string
	words := strings.FieldsFunc(strings.ToValidUTF8(text, " "), func(r rune) bool {
		return unicode.IsSpace(r) || unicode.IsControl(r)
	})
	for i, w := range words {
		if own := phrase(w); i == len(words)-1 {
			list = append(list, own+"*")
		} else {
			list = append(list, own)
		}
	}
	return strings.Join(list, " AND ")
}
