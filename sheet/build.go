package sheet

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"time"

	"brackmoor/core/daybook"
	"brackmoor/core/install"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/core/wiring"
)

// CircuitPDF writes a circuit on pages of its own: its sheets with what stops, the box, and the wire list.
func CircuitPDF(s Sheet, w Wired, box wiring.Drawing, paper string, at time.Time) ([]byte, error) {
	p := newPage(paperOf(paper), "Circuit: "+s.Machine, s.Footer, at)
	for _, d := range append(append([]wiring.Drawing{}, s.Drawings...), box) {
		p.across(d)
	}
	p.AddPage()
	p.table(wireTable(w.Work.Wires))
	p.table(checkTable(w.Work.Checks))
	p.table(stepTable("The first power, stage by stage", w.Work.Powering))
	if len(w.Work.Volts) > 0 {
		p.table(stepTable("To other input volts", w.Work.Volts))
	}
	return p.bytes()
}

// wireTable is the wires in print, with boxes for landed and pulled.
func wireTable(list []install.Landing) rule.Table {
	t := rule.Table{
		Title:  "Wires",
		Source: "each from terminal to terminal; tick when landed and tight, and when pulled at",
		Head: []string{
			"No.",
			"From",
			"To",
			"Size",
			"Colour",
			"Length",
			"Ferrule",
			"Landed",
			"Pulled",
		},
		Rows: [][]string{},
	}
	for _, l := range list {
		t.Rows = append(t.Rows, []string{
			l.Number, l.FromAt, l.ToAt, l.Size, l.Colour, l.Length, l.Ferrule, "", "",
		})
	}
	return t
}

// checkTable is the checks before the first power in print.
func checkTable(list []install.Check) rule.Table {
	t := rule.Table{
		Title: "Before the first power", Source: "supply off and locked; an ohmmeter, and for insulation a tester",
		Head: []string{"Of", "From", "To", "While", "The meter says", "Read"}, Rows: [][]string{},
	}
	for _, c := range list {
		t.Rows = append(t.Rows, []string{c.Group, c.From, c.To, c.While, c.Says, ""})
	}
	return t
}

// stepTable is steps in print.
func stepTable(title string, list []install.Step) rule.Table {
	t := rule.Table{
		Title:  title,
		Source: "in this order; one that fails stays open",
		Head:   []string{"", "Do", "See", "If not", "Done"},
		Rows:   [][]string{},
	}
	for i, s := range list {
		t.Rows = append(t.Rows, []string{fmt.Sprint(i + 1), s.Do, s.See, s.Not, ""})
	}
	return t
}

// WiresCSV is the wires of a circuit as a table, PartsCSV what is to be had for it.
func WiresCSV(w Wired) ([]byte, error) {
	rows := [][]string{{
		"number", "from", "to", "class", "size", "colour", "metre", "ferrule", "torque", "landed", "pulled",
	}}
	for _, l := range w.Work.Wires {
		rows = append(rows, []string{
			l.Number,
			l.From,
			l.To,
			string(l.Class),
			l.Size,
			l.Colour,
			fmt.Sprintf("%.2f", l.Metre),
			l.Ferrule,
			l.Torque,
			"",
			"",
		})
	}
	return table(rows)
}

// PartsCSV is what is to be had for a circuit as a table.
func PartsCSV(w Wired) ([]byte, error) {
	rows := [][]string{{
		"what", "count", "unit", "for", "on hand", "to buy", "each", "per", "cost", "cost of what is on hand",
	}}
	for _, i := range w.Work.Parts {
		rows = append(rows, []string{
			i.What,
			fmt.Sprintf("%g", i.Count),
			i.Unit,
			i.For,
			fmt.Sprintf("%g", i.OnHand),
			fmt.Sprintf("%g", i.ToBuy),
			price(i.Each),
			i.Per,
			price(i.Cost),
			price(i.OnHand * i.Price),
		})
	}
	sum := w.Work.Sum
	rows = append(rows, []string{"total", "", "", "", "", "", "", "", price(sum.Buy), price(sum.OnHand)})
	return table(rows)
}

// DaybookCSV is what was written down as a table, machines by their names.
func DaybookCSV(list []daybook.Entry, machines map[string]string) ([]byte, error) {
	rows := [][]string{{"id", "at", "by", "kind", "machine", "motor", "says", "whose", "due", "ends", "corrects"}}
	for _, e := range list {
		name := machines[e.Machine]
		if name == "" {
			name = e.Machine
		}
		rows = append(rows, []string{
			e.ID, e.At, e.Hand, e.Kind, name, e.Motor, e.Says, e.Who, e.Due, e.Ends, e.Corrects,
		})
	}
	return table(rows)
}

// price is one in print, nothing for one that is not known.
func price(p float64) string {
	if p == 0 {
		return ""
	}
	return fmt.Sprintf("%.2f", p)
}

// table writes rows as comma-separated values that no program takes for formulas.
func table(rows [][]string) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	for _, row := range rows {
		for i := range row {
			row[i] = strict.Cell(row[i])
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}
