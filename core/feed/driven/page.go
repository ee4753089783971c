package driven

import (
	"fmt"
	"math"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

func figures(value float64) string { return quantity.Figures(value, 3) }

// solved is the answer of this way's drive, with what its maker says of one phase.
func (w *Way) solved(q *feed.Question) (*drive.Answer, error) {
	s := feed.Shared(q, "drive "+w.About.Name, func() *sized {
		a, err := drive.Size(w.input(q))
		return &sized{w.permitted(q, a), err}
	})
	return &s.answer, s.err
}

func (w *Way) permitted(q *feed.Question, a drive.Answer) drive.Answer {
	if w.Permit {
		a.Verdicts = append(MakersWord(q.Matters.OnePhaseAllowed()), a.Verdicts...)
	}
	a.Verdicts = rule.Sorted(a.Verdicts)
	return a
}

// several is what the motors of the machine want of their drives.
func several(q *feed.Question) drive.Several { return drive.Share(q.Motors, q.Choice.OneEach) }

// Brief is the answer in a few words.
func (w *Way) Brief(q *feed.Question) (string, []rule.Verdict, error) {
	a, err := w.solved(q)
	return fmt.Sprintf(
		"drive %s, takes %s",
		power(a.RatingWatts),
		feed.Figure(a.Load.InputRMSAmps, 3, "A"),
	), a.Verdicts, err
}

// Size is the whole answer.
func (w *Way) Size(q *feed.Question) (feed.Page, error) {
	a, err := w.solved(q)
	if err != nil {
		return feed.Page{}, err
	}
	p := w.page(q, a)
	p.Views = append(p.Views, w.controlsView(q, a),
		feed.View{Name: "shaft", Title: "Shaft and duty", Panels: feed.ShaftPanels()})
	return p, nil
}

// Try is the answer at another load, its choke left as it is.
func (w *Way) Try(q *feed.Question) (feed.Page, error) {
	base, err := w.solved(q.Base())
	if err != nil {
		return feed.Page{}, err
	}
	a, err := drive.Try(w.input(q), *base)
	if err != nil {
		return feed.Page{}, err
	}
	if a.LoadShare != base.LoadShare {
		// What a choke does was worked out at the other load.
		a.Choke.With, a.Choke.Bare = drive.Line{}, drive.Line{}
	}
	a = w.permitted(q, a)
	return w.page(q, &a), nil
}

// page is what follows the hand: the bus, torque across speed, and the figures.
func (w *Way) page(q *feed.Question, a *drive.Answer) feed.Page {
	load := feed.LoadControl(q)
	load.Value = a.LoadShare
	s := several(q)
	p := feed.Page{
		Way:      w.About.Name,
		Title:    w.About.Title,
		Headline: headline(a),
		Workings: []rule.Working{},
		Below:    []feed.Panel{},
		Verdicts: rule.Sorted(append(append([]rule.Verdict{}, a.Verdicts...), s.Verdicts...)),
		Controls: []feed.Control{load},
		Views: []feed.View{{Name: "running", Title: "Bus and torque", Panels: []feed.Panel{
			{Name: "bus", Kind: feed.ChartPanel, Title: "Bus", Width: feed.Half, Chart: busChart(a)},
			{Name: "speed", Kind: feed.ChartPanel, Title: "Torque", Width: feed.Half, Chart: speedChart(a)},
			{Name: "hand", Kind: feed.HandPanel, Width: feed.Half},
			{Name: "rows", Kind: feed.FactsPanel, Width: feed.Full, Facts: rows(a)},
		}}},
	}
	if len(s.Motors) > 1 {
		each := 0.0
		if s.OneEach {
			each = 1
		}
		names := ""
		for i, m := range s.Motors {
			if i > 0 {
				names += ", "
			}
			name := m.Name
			if name == "" {
				name = "motor"
			}
			if m.Amps > 0 {
				names += fmt.Sprintf("%s %s A", name, quantity.Figures(m.Amps, 2))
			} else {
				names += name + " amps not known"
			}
		}
		p.Controls = append(p.Controls, feed.Control{
			Name:  "one_each",
			Kind:  feed.Switch,
			Title: fmt.Sprintf("%d motors: %s", len(s.Motors), names),
			Value: each,
			Options: []feed.Option{
				{Value: new(0.0), Title: "One drive for all"},
				{Value: new(1.0), Title: "A drive for each"},
			},
		})
	}
	return p
}

// controlsView is what becomes of the machine's controls.
func (w *Way) controlsView(q *feed.Question, a *drive.Answer) feed.View {
	t := &feed.Table{Head: []string{"The machine has", "Goes to", "How"}, Rows: []feed.TableRow{}}
	for _, c := range drive.Controls(q.Matters.Existing()) {
		into := c.Input
		if into == "" {
			into = "–"
		}
		t.Rows = append(t.Rows, feed.TableRow{
			Head: c.Has, Cells: []feed.Cell{{Text: into, Words: true}, {Text: c.Becomes, Words: true}},
		})
	}
	v := feed.View{Name: "controls", Title: "Controls", Panels: []feed.Panel{
		{Name: "controls", Kind: feed.TablePanel, Title: "Controls on the drive",
			Note: "what there is was noted on the Route step", Width: feed.Full, Table: t},
	}}
	if !w.Permit {
		v.Panels = append(v.Panels, feed.Panel{Name: "change-over", Kind: feed.StepsPanel,
			Title: "Changed over from the lower volts", Width: feed.Full, Steps: changeOver(q, a)})
	}
	return v
}

// changeOver is the checklist for a drive that is changed over from half the volts of the
// supply, or from the supply's to twice them where the drive doubles it.
func changeOver(q *feed.Question, a *drive.Answer) []string {
	volts, amps := q.Supply.Volts, a.Load.InputRMSAmps
	if a.Doubler {
		return drive.ChangeOver(volts, 2*volts, amps)
	}
	return drive.ChangeOver(volts/2, volts, 2*amps)
}

// busChart is one cycle of the front end: the bus with its ripple, and the amps of the
// line, half of which flow the other way.
func busChart(a *drive.Answer) *feed.Chart {
	r := &a.Load
	c := &feed.Chart{
		Name: "ripple", Marks: []feed.Mark{},
		Label: fmt.Sprintf("Bus %.0f volts with %.0f volts of ripple; line amps up to %.0f",
			r.BusMeanVolts, r.RipplePPVolts, r.InputPeakAmps),
		X: feed.Axis{Title: "ms"}, Y: feed.Axis{Title: "V"}, Right: &feed.Axis{Title: "A", Most: r.InputPeakAmps},
		Lines: []feed.Line{
			{Title: "bus volts", Style: feed.SecondLine, Points: []*[2]float64{}},
			{Title: "line amps", Style: feed.BesideLine, Right: true, Points: []*[2]float64{}},
		},
	}
	if s := r.Series; s != nil {
		for i, at := range s.Seconds {
			ms := 1000 * (at - s.Seconds[0])
			c.X.Most, c.Y.Most = ms, math.Max(c.Y.Most, s.BusVolts[i])
			c.Lines[0].Points = append(c.Lines[0].Points, &[2]float64{ms, s.BusVolts[i]})
			c.Lines[1].Points = append(c.Lines[1].Points, &[2]float64{ms, math.Abs(s.InputAmps[i])})
		}
	}
	return c
}

// speedChart is torque across the frequencies: what the motor may give for good, and the
// most it can.
func speedChart(a *drive.Answer) *feed.Chart {
	top := a.Speed[len(a.Speed)-1].Hertz
	c := &feed.Chart{
		Name: "speed", Marks: []feed.Mark{},
		Label: fmt.Sprintf("Torque across speed: base point at %.0f hertz", a.BaseHertz),
		X:     feed.Axis{Title: "Hz", Most: top, Step: top / 4}, Y: feed.Axis{Title: "N·m"},
		Lines: []feed.Line{{Title: "for good", Style: feed.MainLine}, {Title: "breakdown", Style: feed.AgainstLine}},
	}
	for _, p := range a.Speed {
		c.Lines[0].Points = append(c.Lines[0].Points, &[2]float64{p.Hertz, p.TorqueNm})
		c.Lines[1].Points = append(c.Lines[1].Points, &[2]float64{p.Hertz, p.BreakdownNm})
		c.Y.Most = math.Max(c.Y.Most, 1.15*p.BreakdownNm)
	}
	if a.BaseHertz < top {
		c.Marks = append(c.Marks, feed.Mark{At: a.BaseHertz, Title: "base point"})
	}
	return c
}
