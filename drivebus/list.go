package drivebus

import (
	"cmp"
	"errors"
	"fmt"
	"strings"
	"time"

	"brackmoor/core/drive"
)

// Row is a setting as it stands in a drive, beside what is meant. Is is nil where it could not be read. Written is
// whether it was written, nil where nobody can know since the link was lost on the way and did not come back; it stands
// only of what was to be written. Says is what went wrong.
type Row struct {
	Setting string       `json:"setting"`
	Title   string       `json:"-"`
	Was     *drive.Value `json:"-"`
	Is      *drive.Value `json:"is"`
	Meant   *drive.Value `json:"meant,omitempty"`
	Unit    string       `json:"unit"`
	Agrees  bool         `json:"agrees"`
	Written *bool        `json:"written,omitempty"`
	Tried   bool         `json:"-"` // something was sent
	Says    string       `json:"says,omitempty"`
}

// Meant is what a setting is to be.
type Meant struct {
	Setting string      `json:"setting"`
	Value   drive.Value `json:"value"`
}

// MeantBy makes a list of the settings of a plan, in their order: figures, and words that the drive has.
func MeantBy(entries []drive.Entry) (list []Meant) {
	for _, e := range entries {
		if e.Number != nil {
			list = append(list, Meant{e.Name, drive.Value{Number: *e.Number}})
		} else {
			list = append(list, Meant{e.Name, drive.Value{Word: e.Value}})
		}
	}
	return list
}

// Read reads every setting of the profile. Its error is of a link that is lost; what was read until then stands.
func (l *Link) Read() (rows []Row, err error) {
	for i := range l.profile.Registers {
		r := &l.profile.Registers[i]
		if !drive.Set(r.Setting) {
			continue
		}
		row, err := l.row(r)
		if err != nil {
			return rows, err
		}
		rows = append(rows, row)
	}
	return rows, nil
}

// row reads one; an exception is told in it.
func (l *Link) row(r *drive.Register) (Row, error) {
	row := Row{Setting: r.Setting, Title: drive.Title(r.Setting), Unit: r.Unit}
	raw, err := l.raw(r)
	var refused *Refused
	switch {
	case errors.As(err, &refused):
		row.Says = refused.says
	case err != nil:
		return row, err
	default:
		row.Is = new(r.Decode(raw))
		row.Was = row.Is
	}
	return row, nil
}

// Compare reads what is meant and sets it beside; a setting that the drive has not is passed over.
func (l *Link) Compare(meant []Meant) (rows []Row, err error) {
	for i := range meant {
		m := &meant[i]
		r := l.profile.Register(m.Setting)
		if r == nil {
			continue
		}
		row, err := l.row(r)
		if err != nil {
			return rows, err
		}
		l.judge(&row, r, m.Value)
		rows = append(rows, row)
	}
	return rows, nil
}

// judge sets what is meant beside what is read: it agrees where the register holds it as near as it can.
func (l *Link) judge(row *Row, r *drive.Register, meant drive.Value) {
	row.Meant, row.Agrees = &meant, false
	raw, err := r.Encode(meant)
	if err != nil {
		if row.Says == "" {
			row.Says = row.Title + ": " + err.Error() + "."
		}
		return
	}
	row.Agrees = row.Is != nil && *row.Is == r.Decode(raw)
}

// Write writes what differs from what is meant, one after the other, each only while the motor stands, last of all
// what starts it, and reads all of it back. A drive that refuses one is asked for the next; a link that is lost ends
// it, and is sought again to learn what the drive holds. The rows tell truly what was and was not written; the error
// is why it was broken off.
func (l *Link) Write(meant []Meant) (rows []Row, err error) {
	rows, err = l.Compare(meant)
	if err != nil {
		return rows, err
	}
	var broken error
	for _, starts := range []bool{false, true} {
		for i := range rows {
			row := &rows[i]
			if row.Agrees || row.Meant == nil || (row.Setting == startedBy) != starts {
				continue
			}
			row.Written = new(false)
			if broken != nil {
				row.Says = "Not written: it was broken off before."
				continue
			}
			broken = l.writeOne(row)
		}
	}
	l.readBack(rows)
	return rows, broken
}

// startedBy is the setting that says what starts the motor: it is written last, so that no list that is broken off
// leaves a drive to be started that is not set for its motor.
const startedBy = "run_source"

// writeOne writes a row. Its error ends the list.
func (l *Link) writeOne(row *Row) error {
	r := l.profile.Register(row.Setting)
	raw, err := r.Encode(*row.Meant)
	switch {
	case err != nil:
		return nil // judge has said so
	case !r.Writable():
		row.Says = row.Title + ": it is only read over the bus; it is set at the keypad."
		return nil
	}
	stands, err := l.Stands()
	switch {
	case err != nil:
		row.Says = "Not written: " + err.Error()
		return err
	case !stands:
		row.Says = "Not written: the motor runs."
		return &Refused{"The motor runs: settings are written while it stands."}
	}
	row.Tried = true
	err = l.put(r, raw)
	var refused *Refused
	switch {
	case errors.As(err, &refused):
		row.Says = refused.says
		return nil
	case err != nil:
		row.Written, row.Says = nil, err.Error()
		return err
	}
	row.Written = new(true)
	return nil
}

// readBack reads again what was sent. Of a row on which the link was lost this tells whether it was written; where the
// link does not come back it stays unknown.
func (l *Link) readBack(rows []Row) {
	gone := false
	for i := range rows {
		row := &rows[i]
		if !row.Tried {
			continue
		}
		r := l.profile.Register(row.Setting)
		raw, err := uint32(0), error(&Lost{})
		for k := range again {
			if gone {
				break
			}
			if k > 0 {
				time.Sleep(cmp.Or(l.Pause, between))
			}
			var lost *Lost
			if raw, err = l.raw(r); !errors.As(err, &lost) {
				break
			}
		}
		if err != nil {
			gone = true
			row.Is, row.Agrees = nil, false
			if row.Written == nil {
				row.Says = row.Title +
					": the link was lost on it and did not come back: what the drive holds is not known."
			}
			continue
		}
		value := r.Decode(raw)
		row.Is, row.Agrees = &value, false
		said := row.Says
		l.judge(row, r, *row.Meant)
		row.Says = said
		if row.Written == nil {
			row.Written = new(row.Agrees)
		}
		if *row.Written && !row.Agrees {
			row.Written, row.Says = new(false), fmt.Sprintf(
				"%s: the drive took it and holds %s all the same.", row.Title, value)
		}
	}
}

// Words tell of rows in a line: what was written, what was not, and what nobody knows.
func Words(rows []Row) string {
	var done, not, unknown []string
	for i := range rows {
		row := &rows[i]
		name := row.Title
		switch {
		case row.Meant == nil || row.Agrees && row.Written == nil:
		case row.Written == nil && row.Tried:
			unknown = append(unknown, name)
		case row.Written != nil && *row.Written:
			done = append(done, fmt.Sprintf("%s %s", name, row.Meant))
		default:
			not = append(not, name)
		}
	}
	var parts []string
	for _, p := range []struct {
		says string
		list []string
	}{{"written", done}, {"not written", not}, {"not known, the link was lost", unknown}} {
		if len(p.list) > 0 {
			parts = append(parts, p.says+": "+strings.Join(p.list, ", "))
		}
	}
	if parts == nil {
		return "Everything agrees: nothing was written."
	}
	text := strings.Join(parts, "; ") + "."
	return strings.ToUpper(text[:1]) + text[1:]
}
