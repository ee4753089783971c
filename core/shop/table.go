package shop

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"brackmoor/core/rule"
	"brackmoor/core/site"
	"brackmoor/core/stock"
	"brackmoor/core/strict"
)

// Tables are the names of what a shop has as tables of comma-separated values. The first column of
// each goes by its name and holds ids; a row without one is new.
var Tables = []string{"machine", "circuit", "load", "part"}

// machineRow is a motor in a table of machines, a row each; the rows of one machine repeat it.
type machineRow struct {
	ID            string `json:"machine"`
	Name          string `json:"name"`
	Note          string `json:"note"`
	On            string `json:"on"`
	Side          string `json:"side"`
	Motor         string `json:"motor"`
	MotorName     string `json:"motor_name"`
	Output        string `json:"output"`
	Volts         string `json:"volts"`
	Amps          string `json:"amps"`
	Hertz         string `json:"hertz"`
	RPM           string `json:"rpm"`
	PowerFactor   string `json:"power_factor"`
	Efficiency    string `json:"efficiency"`
	ServiceFactor string `json:"service_factor"`
	Connection    string `json:"connection"`
	Leads         string `json:"leads"`
	Load          string `json:"load"`
}

// column is a field of a row: its name, and where it is.
type column struct {
	name  string
	index []int
}

// columns are the fields of a struct as a table has them, those of what it embeds among them.
func columns(of reflect.Type) (list []column) {
	for i := range of.NumField() {
		f := of.Field(i)
		if f.Anonymous {
			for _, inner := range columns(f.Type) {
				list = append(list, column{inner.name, append([]int{i}, inner.index...)})
			}
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		list = append(list, column{name, []int{i}})
	}
	return list
}

// Table writes one of a shop's tables.
func (s *Shop) Table(name string) ([]byte, error) {
	switch name {
	case "machine":
		return write(name, s.machineRows())
	case "circuit":
		return write(name, s.Site.Circuits)
	case "load":
		return write(name, s.Site.Loads)
	case "part":
		return write(name, s.Own.Stores)
	}
	return nil, fmt.Errorf("there is no table %q", name)
}

func (s *Shop) machineRows() (rows []machineRow) {
	for _, m := range s.Machines {
		for _, o := range m.Motors {
			p, at := o.Plate, s.Site.Place(m.ID, m.ID)
			rows = append(rows, machineRow{
				m.ID, m.Name, m.Note, at.On, at.Side, o.ID, o.Name, p.Output, p.Volts, p.Amps, p.Hertz, p.RPM,
				p.PowerFactor, p.Efficiency, p.ServiceFactor, p.Connection, p.Leads, o.Load,
			})
		}
	}
	return rows
}

// write is a table of rows, the id first under the table's own name.
func write[T any](name string, rows []T) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	list := columns(reflect.TypeFor[T]())
	head := make([]string, len(list))
	for i, c := range list {
		head[i] = c.name
	}
	head[0] = name
	lines := [][]string{head}
	for _, row := range rows {
		line := make([]string, len(list))
		for i, c := range list {
			line[i] = strict.Cell(shown(reflect.ValueOf(row).FieldByIndex(c.index)))
		}
		lines = append(lines, line)
	}
	err := w.WriteAll(lines)
	return b.Bytes(), err
}

// shown is a field as a cell has it, empty for what is nothing.
func shown(v reflect.Value) string {
	if v.IsZero() {
		return ""
	}
	switch v.Kind() {
	case reflect.Float64:
		return strconv.FormatFloat(v.Float(), 'g', -1, 64)
	case reflect.Bool:
		return "yes"
	}
	return fmt.Sprint(v.Interface())
}

// put reads a cell into a field.
func put(v reflect.Value, text string) error {
	text = strings.TrimSpace(text)
	switch v.Kind() {
	case reflect.String:
		v.SetString(text)
		return nil
	case reflect.Bool:
		switch strings.ToLower(text) {
		case "", "no", "false", "0":
			v.SetBool(false)
		case "yes", "true", "1", "x":
			v.SetBool(true)
		default:
			return fmt.Errorf("%q is neither yes nor no", text)
		}
		return nil
	}
	if text == "" {
		v.SetZero()
		return nil
	}
	figure, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil {
		return fmt.Errorf("%q is no number", text)
	}
	if v.Kind() == reflect.Int {
		v.SetInt(int64(figure))
		return nil
	}
	v.SetFloat(figure)
	return nil
}

// Line is a row of a table that was read, and what it does: "new", "changed" or "same".
type Line struct {
	Number int    `json:"line"`
	Title  string `json:"title"`
	Status string `json:"status" enum:"new,changed,same"`
}

// ReadTable is the shop with what a table says, and what each row does. Nothing that the table does
// not name is taken away. Whatever is wrong is said by its line; then the shop is to be left.
func (s Shop) ReadTable(text []byte, newID func() string) (Shop, []Line, rule.Problems) {
	var problems rule.Problems
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord = -1
	head, err := r.Read()
	if err != nil || len(head) == 0 {
		problems.Say("line 1", "there is no table")
		return s, nil, problems
	}
	if len(head) == 1 && strings.Contains(head[0], ";") { // as spreadsheets write it where commas are decimal
		r = csv.NewReader(bytes.NewReader(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))))
		r.Comma, r.FieldsPerRecord = ';', -1
		head, _ = r.Read()
	}
	t := &table{shop: &s, newID: newID, problems: &problems}
	switch strings.TrimSpace(head[0]) {
	case "machine":
		s.Machines, s.Site.Hung = slices.Clone(s.Machines), slices.Clone(s.Site.Hung)
		readRows(t, r, head, t.machine)
	case "circuit":
		s.Site.Circuits = slices.Clone(s.Site.Circuits)
		readRows(t, r, head, t.circuit)
	case "load":
		s.Site.Loads = slices.Clone(s.Site.Loads)
		readRows(t, r, head, t.load)
	case "part":
		s.Own.Stores = slices.Clone(s.Own.Stores)
		readRows(t, r, head, t.part)
	default:
		problems.Say("line 1", "the first column is none of %s", strings.Join(Tables, ", "))
	}
	return s, t.lines, problems
}

// table is one that is being read.
type table struct {
	shop     *Shop
	newID    func() string
	problems *rule.Problems
	lines    []Line
}

// mostLines bounds a table.
const mostLines = MostMachines * MostMotors

// readRows reads every row and has it taken: find gives what stands there already, and take puts it.
func readRows[T any](t *table, r *csv.Reader, head []string, take func(r *record[T]) string) {
	known := columns(reflect.TypeFor[T]())
	at := make([]*column, len(head))
	for i, name := range head {
		name = strings.TrimSpace(name)
		k := slices.IndexFunc(known, func(c column) bool { return c.name == name })
		switch {
		case i == 0:
			at[i] = &known[0]
		case k > 0:
			at[i] = &known[k]
		case name != "":
			t.problems.Say("line 1", "there is no column %q", name)
		}
	}
	for len(t.lines) <= mostLines {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return
		}
		if err != nil {
			t.problems.Say("table", "cannot be read: %s", err)
			return
		}
		line, _ := r.FieldPos(0)
		if len(cells) > len(head) {
			t.problems.Say(fmt.Sprintf("line %d", line), "has more cells than the head")
			continue
		}
		rec := &record[T]{t: t, line: line, cells: cells, at: at, id: strings.TrimSpace(strict.Uncelled(cells[0]))}
		title := take(rec)
		t.lines = append(t.lines, Line{line, title, rec.status()})
	}
	t.problems.Say("table", "is longer than %d lines", mostLines)
}

// record is a row that is being read.
type record[T any] struct {
	t              *table
	line           int
	id             string
	cells          []string
	at             []*column
	isNew, changed bool
}

// cell is the text of a column, empty where there is none.
func (r *record[T]) cell(name string) string {
	for i, text := range r.cells {
		if r.at[i] != nil && r.at[i].name == name {
			return strings.TrimSpace(strict.Uncelled(text))
		}
	}
	return ""
}

// into puts the row's cells into what it is about.
func (r *record[T]) into(row *T) {
	before := *row
	for i, text := range r.cells {
		if r.at[i] == nil || i == 0 {
			continue
		}
		if err := put(reflect.ValueOf(row).Elem().FieldByIndex(r.at[i].index), strict.Uncelled(text)); err != nil {
			r.t.problems.Say(fmt.Sprintf("line %d, %s", r.line, r.at[i].name), "%s", err)
		}
	}
	r.changed = r.changed || !reflect.DeepEqual(before, *row)
}

// named is the id of what a row adds.
func (r *record[T]) named() string {
	r.isNew = true
	if r.id == "" {
		r.id = r.t.newID()
	}
	return r.id
}

func (r *record[T]) status() string {
	switch {
	case r.isNew:
		return "new"
	case r.changed:
		return "changed"
	}
	return "same"
}

// circuit takes a row of circuits, and gives its name.
func (t *table) circuit(r *record[site.Circuit]) string {
	return taken(&t.shop.Site.Circuits, r, func(c *site.Circuit) (id, name *string) { return &c.ID, &c.Name })
}

// load takes a row of loads.
func (t *table) load(r *record[site.Load]) string {
	return taken(&t.shop.Site.Loads, r, func(l *site.Load) (id, name *string) { return &l.ID, &l.Name })
}

// part takes a part that is on hand.
func (t *table) part(r *record[stock.Item]) string {
	return taken(&t.shop.Own.Stores, r, func(i *stock.Item) (id, name *string) { return &i.ID, &i.Name })
}

// taken puts a row where its id stands in a list, or at the end of it, and gives its name.
func taken[T any](list *[]T, r *record[T], of func(*T) (id, name *string)) string {
	i := slices.IndexFunc(*list, func(x T) bool {
		id, _ := of(&x)
		return *id == r.id
	})
	if i < 0 {
		var x T
		id, _ := of(&x)
		*id = r.named()
		*list = append(*list, x)
		i = len(*list) - 1
	}
	r.into(&(*list)[i])
	_, name := of(&(*list)[i])
	return *name
}

// machine takes a row of machines, which is one motor.
func (t *table) machine(r *record[machineRow]) string {
	k := slices.IndexFunc(t.shop.Machines, func(m Machine) bool { return m.ID == r.id })
	if k < 0 {
		t.shop.Machines = append(t.shop.Machines, Machine{ID: r.named(), Motors: []Motor{}})
		k = len(t.shop.Machines) - 1
	}
	m := &t.shop.Machines[k]
	m.Motors = slices.Clone(m.Motors)
	motor := r.cell("motor")
	i := slices.IndexFunc(m.Motors, func(o Motor) bool { return o.ID == motor || motor == "" && len(m.Motors) == 1 })
	if i < 0 {
		if r.isNew = true; motor == "" {
			motor = t.newID()
		}
		m.Motors = append(m.Motors, Motor{ID: motor}.Filled())
		i = len(m.Motors) - 1
	}
	o, place := &m.Motors[i], t.shop.Site.Place(m.ID, m.ID)
	p := &o.Plate
	row := machineRow{
		m.ID, m.Name, m.Note, place.On, place.Side, r.cell("motor"), o.Name, p.Output, p.Volts, p.Amps, p.Hertz, p.RPM,
		p.PowerFactor, p.Efficiency, p.ServiceFactor, p.Connection, p.Leads, o.Load,
	}
	r.into(&row)
	m.Name, m.Note, o.Name = row.Name, row.Note, row.MotorName
	if row.Load != "" {
		o.Load = row.Load
	}
	p.Output, p.Volts, p.Amps, p.Hertz, p.RPM = row.Output, row.Volts, row.Amps, row.Hertz, row.RPM
	p.PowerFactor, p.Efficiency, p.ServiceFactor = row.PowerFactor, row.Efficiency, row.ServiceFactor
	p.Connection, p.Leads = row.Connection, row.Leads
	t.hang(m.ID, row.On, row.Side)
	return m.Name
}

// hang puts a machine where its row has it.
func (t *table) hang(id, on, side string) {
	for i := range t.shop.Site.Hung {
		if h := &t.shop.Site.Hung[i]; h.ID == id {
			h.On, h.Side = on, side
			return
		}
	}
	if on != "" {
		t.shop.Site.Hung = append(t.shop.Site.Hung, site.Hung{ID: id, On: on, Side: side})
	}
}
