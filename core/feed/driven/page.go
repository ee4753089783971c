package driven

import (
	"fmt"
	"math"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
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
	if a.OnOne != nil {
		p.Views = append(p.Views, onOneView(a))
	}
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
	if a.LoadShare != base.LoadShare || a.Front != base.Front {
		// What a choke does was worked out at the other load, or on another bus.
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
		Controls: append([]feed.Control{load}, w.frontControls(q, a)...),
		Views: []feed.View{{Name: "running", Title: "Bus and torque", Panels: []feed.Panel{
			{Name: "bus", Kind: feed.ChartPanel, Title: "Bus", Width: feed.Half, Chart: busChart(a)},
			{Name: "speed", Kind: feed.ChartPanel, Title: "Torque", Width: feed.Half, Chart: speedChart(a)},
			{Name: "hand", Kind: feed.HandPanel, Width: feed.Half},
			{Name: "rows", Kind: feed.FactsPanel, Width: feed.Full, Facts: w.facts(q, a)},
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

// frontControls are what is told of the drive at hand: the capacitance of its bus, and what
// stands before it.
func (w *Way) frontControls(q *feed.Question, a *drive.Answer) (list []feed.Control) {
	if a.Doubler {
		return nil
	}
	in := w.input(q)
	if w.Of != drive.Bus {
		usual := drive.Front(w.Of, a.RatingWatts, q.Supply.Volts, q.Supply.Hertz).BusMicrofarad
		list = append(list, feed.Control{
			Name:    "bus_microfarad",
			Kind:    feed.Slide,
			Title:   "Bus",
			Unit:    "µF",
			Value:   a.Front.BusMicrofarad,
			Least:   50,
			Most:    100*math.Ceil(4*usual/100) + 50,
			Step:    10,
			Scale:   1,
			Chosen:  in.BusMicrofarad != nil,
			Options: []feed.Option{},
		})
	}
	reactor := feed.Control{Name: "reactor", Kind: feed.Named, Title: "Before its bus", Scale: 1,
		Named: string(in.Reactor), Chosen: in.Reactor != drive.NoReactor}
	if w.Of == drive.Bus {
		reactor.Named = string(drive.DCChoke)
		if in.Reactor == drive.LineReactor {
			reactor.Named = string(in.Reactor)
		}
	} else {
		reactor.Options = append(reactor.Options, feed.Option{Name: "", Title: "nothing"})
	}
	reactor.Options = append(reactor.Options, feed.Option{Name: string(drive.LineReactor), Title: "a line reactor"},
		feed.Option{Name: string(drive.DCChoke), Title: "a choke in the dc link"})
	return append(list, reactor)
}

// onOneView is what one phase leaves of a three-phase drive by each of its figures, and what
// each of them would ask for.
func onOneView(a *drive.Answer) feed.View {
	one := a.OnOne
	with := fmt.Sprintf("With a reactor of %s in each line", feed.Figure(one.MilliHenry, 2, "mH"))
	t := &feed.Table{Head: []string{"By its", "Bare", with, "Goes with"}, Rows: []feed.TableRow{}}
	for i, l := range one.Bare.Limits {
		goes := "nothing much"
		switch l.Limit {
		case rectifier.CapacitorAmps:
			goes = fmt.Sprintf("its µF and the feed; at full output %s times theirs, life %s times",
				quantity.Figures(one.CapacitorTimes, 2), quantity.Figures(one.LifeTimes, 2))
		case rectifier.RippleVolts:
			goes = fmt.Sprintf("its µF; at full output %s V, down to %.0f V", quantity.Figures(a.Full.RipplePPVolts, 2),
				a.Full.BusMeanVolts-a.Full.RipplePPVolts/2)
		}
		t.Rows = append(t.Rows, feed.TableRow{Head: l.Limit, Model: l.Limit == a.Left.By, Cells: []feed.Cell{
			{Text: fmt.Sprintf("%.0f\u00a0%%", 100*l.Share)},
			{Text: fmt.Sprintf("%.0f\u00a0%%", 100*one.Reactor.Limits[i].Share)},
			{Text: goes, Words: true},
		}})
	}
	schools := &feed.Table{Head: []string{"School", "Drive"}, Rows: []feed.TableRow{}}
	for _, s := range a.Schools {
		schools.Rows = append(schools.Rows, feed.TableRow{Head: s.Title + " the motor", Cells: []feed.Cell{
			{Text: drive.Rated(s.Watts)}}})
	}
	schools.Rows = append(schools.Rows, feed.TableRow{Head: "by amps, as sized", Model: true,
		Cells: []feed.Cell{{Text: drive.Rated(a.ThreeWatts)}}})
	return feed.View{Name: "left", Title: "What is left", Panels: []feed.Panel{
		{Name: "left", Kind: feed.TablePanel, Title: "Left of its rating on one phase", Width: feed.Rest, Table: t,
			Note: fmt.Sprintf("its bus %s µF, %s", quantity.Figures(a.Front.BusMicrofarad, 3), whose(a))},
		{Name: "schools", Kind: feed.TablePanel, Title: "What is said of it", Width: feed.Aside, Table: schools,
			Note: "a maker rates by the amps of diodes and line"},
	}}
}

// whose says where the capacitance of a bus comes from.
func whose(a *drive.Answer) string {
	if a.OwnBus {
		return "as typed"
	}
	return "assumed"
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
	if high := 150.0; !w.Permit && !(a.Doubler && q.Supply.Volts > high) { // no supply has twice as much
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
			c.Lines[0].Points = append(c.Lines[0].Points, feed.At(ms, s.BusVolts[i]))
			c.Lines[1].Points = append(c.Lines[1].Points, feed.At(ms, math.Abs(s.InputAmps[i])))
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
		c.Lines[0].Points = append(c.Lines[0].Points, feed.At(p.Hertz, p.TorqueNm))
		c.Lines[1].Points = append(c.Lines[1].Points, feed.At(p.Hertz, p.BreakdownNm))
		c.Y.Most = math.Max(c.Y.Most, 1.15*p.BreakdownNm)
	}
	if a.BaseHertz < top {
		c.Marks = append(c.Marks, feed.Mark{At: a.BaseHertz, Title: "base point"})
	}
	return c
}
