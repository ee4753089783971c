// Package sheet makes what leaves the product on paper or as a file: the job
// sheet, its PDF, and drawings as SVG.
package sheet

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/wiring"
)

// Sheet is the job sheet of one motor, ready to be shown or printed.
type Sheet struct {
	ShopID    string           `json:"shop_id"`
	MachineID string           `json:"machine_id"`
	Shop      string           `json:"shop"`
	Machine   string           `json:"machine"`
	Route     string           `json:"route"`        // its title
	On        string           `json:"on,omitempty"` // the converter that it hangs on, and is drawn behind
	Motor     string           `json:"motor"`
	Supply    string           `json:"supply"`
	Headline  []rule.Row       `json:"headline" nullable:"false"`
	Sections  []rule.Section   `json:"sections" nullable:"false"`
	Tables    []rule.Table     `json:"tables" nullable:"false"`
	Verdicts  []rule.Verdict   `json:"verdicts" nullable:"false"`
	Cautions  []rule.Verdict   `json:"cautions" nullable:"false"`
	Drawings  []wiring.Drawing `json:"drawings" nullable:"false"` // of its circuit: power, control
	Box       *wiring.Drawing  `json:"box"`                       // the terminal box, where the leads are known
	Mine      []Tick           `json:"mine" nullable:"false"`
	Footer    string           `json:"footer"`
}

// Tick is an item of the checklist with its box.
type Tick struct {
	Says   string `json:"says"`
	Ticked bool   `json:"ticked"`
}

// Of makes the job sheet of a motor whose reading is sound, for the way it is to be fed.
// What cannot be worked out of a way, such as a front end without a steady state, is an
// error.
//
// Its circuit is drawn as it is wired, and what check found of it that stops stands on the drawing.
func Of(s shop.Shop, m shop.Machine, motor shop.Motor, st study.Study, wired Wired) (Sheet, error) {
	q := st.Ask(s, m)
	way := q.Choice.Taken()
	paper, err := way.Paper(q)
	if err != nil {
		return Sheet{}, err
	}
	sheet := Sheet{
		ShopID:    s.ID,
		MachineID: m.ID,
		Shop:      s.Name,
		Machine:   m.Name,
		Motor:     motor.Name,
		Route:     way.Info().Title,
		Supply:    fmt.Sprintf("%.0f V · %.0f Hz · %.0f A main", s.Supply.Volts, s.Supply.Hertz, s.Supply.MainAmps),
		Headline:  paper.Headline,
		Sections: slices.Insert(
			slices.Clone(paper.Sections),
			min(1, len(paper.Sections)),
			plateSection(st, motor.Plate),
		),
		Tables:   append([]rule.Table{}, paper.Tables...),
		Verdicts: append(append([]rule.Verdict{}, st.Reading.Verdicts...), feed.Said(way, q, paper.Verdicts)...),
		Drawings: drawings(q, paper.Verdicts, wired),
		Footer: "This is mains voltage. Local code, permit and inspection, and a licensed electrician where one " +
			"is wanted, have the last word.",
	}
	if motor.Way.Route == "" {
		sheet.Route = "not taken; would be " + rule.InSentence(sheet.Route)
	}
	sheet.On = wired.On
	sheet.Cautions = feed.CautionsOf(way, q)
	for _, item := range shop.Checklist {
		sheet.Mine = append(sheet.Mine, Tick{item.Says, s.Ticked(&motor, item.Name)})
	}
	if _, ok := way.(feed.Driven); ok {
		if err := settings(&sheet, q, s.Profiles); err != nil {
			return Sheet{}, err
		}
	}
	if o := way.Outline(q); o != nil {
		if c, ok := feed.CircuitOf(q, o); ok {
			sheet.Sections = append(sheet.Sections, c.Section(q))
			sheet.Verdicts = append(sheet.Verdicts, c.Verdicts()...)
		}
	}
	if section, ok := hangs(&s, m, motor); ok {
		sheet.Sections = append(sheet.Sections, section)
	}
	sideBySide(&sheet, q)
	if !motor.Leads.Blank() {
		sheet.Box = st.Box(motor)
		sheet.Sections = append(sheet.Sections, leadsSection(st, motor))
		sheet.Verdicts = append(withoutStops(st.LeadVerdicts()), sheet.Verdicts...)
		sheet.Cautions = append(sheet.Cautions, rule.Standing("leads.star-point"))
	}
	// What stands on every sheet of the way is said once.
	sheet.Verdicts = rule.Sorted(slices.DeleteFunc(sheet.Verdicts, func(v rule.Verdict) bool {
		return slices.ContainsFunc(sheet.Cautions, func(c rule.Verdict) bool { return c.Rule == v.Rule })
	}))
	return sheet, nil
}

// behind says what it hangs on, where that is a converter.
func (s *Sheet) behind() string {
	if s.On == "" {
		return ""
	}
	return "; it hangs on " + s.On + " and is drawn behind it"
}

func plateSection(st study.Study, typed plate.Typed) rule.Section {
	f := st.Plate
	row := func(label, value string, origin rule.Origin, source string) rule.Row {
		return rule.Row{Label: label, Value: value, Remark: source, Assumed: origin == rule.Assumed}
	}
	var rest []string
	for i, text := range typed.Texts() {
		if text = strings.TrimSpace(text); text != "" {
			rest = append(rest, plate.RestFields[i].Title+": "+text)
		}
	}
	s := rule.Section{
		Title: "Plate, as joined",
		Rows: []rule.Row{
			row("Output", st.Reading.Title, f.Output.Origin, ""),
			row("Volts", feed.Figure(f.Volts.Value, 4, "V")+" "+f.Connection, f.ConnectionBy, ""),
			row("Amps", feed.Figure(f.Amps.Value, 3, "A"), f.Amps.Origin, remark(f.Amps.Origin, f.Amps.Source)),
			row(
				"Speed",
				feed.Figure(f.RPM.Value, 4, "rpm"),
				f.RPM.Origin,
				fmt.Sprintf("%.0f poles, %.0f Hz", f.Poles.Value, f.Hertz.Value),
			),
			row(
				"Power factor",
				quantity.Fixed(f.PowerFactor.Value, 2),
				f.PowerFactor.Origin,
				remark(f.PowerFactor.Origin, f.PowerFactor.Source),
			),
			row(
				"Efficiency",
				feed.Figure(100*f.Efficiency.Value, 3, "%"),
				f.Efficiency.Origin,
				remark(f.Efficiency.Origin, f.Efficiency.Source),
			),
			row(
				"Service factor",
				quantity.Fixed(f.ServiceFactor.Value, 2),
				f.ServiceFactor.Origin,
				remark(f.ServiceFactor.Origin, f.ServiceFactor.Source),
			),
		},
	}
	if len(rest) > 0 {
		s.Rows = append(s.Rows, rule.Row{Label: "Also on the plate", Remark: strings.Join(rest, "; ")})
	}
	return s
}

func remark(origin rule.Origin, source string) string {
	if origin == rule.Stated {
		return ""
	}
	return string(origin) + ": " + source
}
