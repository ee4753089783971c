package banked

import (
	"fmt"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// chosen are the capacitors and the load in the question where all are given: what is
// tried by hand.
func (w *Way) chosen(q *feed.Question) (run, start, share float64, all bool) {
	in := w.input(q)
	if in.RunMicrofarad == nil || in.StartMicrofarad == nil || in.LoadShare == nil {
		return 0, 0, 0, false
	}
	return *in.RunMicrofarad, *in.StartMicrofarad, *in.LoadShare, true
}

// Size is the whole answer.
func (w *Way) Size(q *feed.Question) (feed.Page, error) {
	a := w.Solved(q)
	p := w.page(q, a)
	p.Workings = a.Workings
	for _, c := range a.Schools {
		p.Workings = append(p.Workings, c.School.Working)
	}
	for _, c := range a.StartSchools {
		p.Workings = append(p.Workings, c.School.Working)
	}
	if !w.Boxed {
		p.Below = w.schools(q, a)
	}
	return p, nil
}

// Try is the answer for capacitors and a load that are all given, without schools and
// workings.
func (w *Way) Try(q *feed.Question) (feed.Page, error) {
	run, start, share, all := w.chosen(q)
	if !all {
		return w.Size(q)
	}
	a := w.Tried(q, run, start, share)
	return w.page(q, &a), nil
}

// page is what follows the hand.
func (w *Way) page(q *feed.Question, a *capacitor.Answer) feed.Page {
	l := &a.Live
	p := feed.Page{
		Way: w.About.Name, Title: w.About.Title, Headline: w.headline(q, a), Verdicts: w.verdicts(q, l),
		Workings: []rule.Working{}, Below: []feed.Panel{}, Controls: w.controls(q, a),
		Cans: &feed.Cans{
			Run: append([]float64{}, a.RunParts.Parts...), Start: []capacitor.StartPart{},
			Bleeds: append(append([]capacitor.Bleed{}, a.RunBleeds...), a.StartBleeds...),
		},
	}
	if l.StartMicrofarad > 0 {
		p.Cans.Start = a.StartParts
	}
	if w.Boxed {
		p.Views = append(p.Views, w.boxView(q, a))
	}
	p.Views = append(p.Views,
		feed.View{Name: "running", Title: "Running", Panels: w.running(q, a)},
		feed.View{Name: "starting", Title: "Starting", Panels: w.starting(q, a)},
		feed.View{Name: "session", Title: "Heat", Panels: w.session(q, a)},
		feed.View{Name: "scope", Title: "Scope", Panels: []feed.Panel{
			{Name: "scope", Kind: feed.ScopePanel, Width: feed.Full},
		}},
	)
	return p
}

// headline is the answer in a handful of large figures, the same on screen and sheet.
func (w *Way) headline(q *feed.Question, a *capacitor.Answer) []rule.Row {
	l := &a.Live
	hertz, assumed := q.Supply.Hertz, q.Assumed
	usable := rule.Row{
		Figure: "usable", Label: "Usable", Value: "none", Remark: "some winding is past plate amps at every load",
		Assumed: assumed,
	}
	if l.Usable == nil && l.Session.Usable != nil {
		usable.Value, usable.Remark = l.Session.Usable.Words(hertz), "in its duty, by heat; by plate amps none"
	}
	if u := l.Usable; u != nil {
		usable.Value, usable.Remark = quantity.Power(u.HighWatts, hertz), "all day, no winding past plate amps"
		if u.ExcludesIdling(q.Watts()) {
			usable.Value = quantity.PowerRange(u.LowWatts, u.HighWatts, hertz)
			usable.Remark = "below it, too, a winding passes plate amps"
		}
	}
	start := rule.Row{
		Figure: "start", Label: "Start", Value: "none", Remark: "it starts on the run capacitor", Assumed: assumed,
	}
	if l.StartMicrofarad > 0 {
		start.Value = feed.Figure(l.StartMicrofarad, 3, "µF")
		start.Remark = fmt.Sprintf("%s, out at %.0f rpm", feed.Start(a.StartParts), l.CutOutRPM)
	} else if l.OverBreakaway < 1 {
		start.Remark = "and it does not start without one"
	}
	run := rule.Row{
		Figure: "run", Label: "Run", Value: feed.Figure(l.RunMicrofarad, 3, "µF"),
		Remark: feed.Run(a.RunParts.Parts) + ", " + feed.Rated(a.RunVolts), Assumed: assumed,
	}
	if words, ok := q.HandWords(stock.Run, l.RunMicrofarad, a.RunVolts); ok {
		run.Remark = "on hand: " + words
	}
	if words, ok := q.HandWords(stock.Start, l.StartMicrofarad, a.StartVolts); ok {
		start.Remark = fmt.Sprintf("on hand: %s, out at %.0f rpm", words, l.CutOutRPM)
	}
	if l.RunMicrofarad <= 0 {
		run.Value, run.Remark = "none", "two bare legs once started"
	}
	turn := rule.Row{
		Figure: "direction", Label: "Turn it round", Value: a.Direction.Line + " → " + a.Direction.Other,
		Remark: "move the capacitor's lead",
	}
	if w.Boxed {
		turn.Value, turn.Remark = "2 leads", "of the motor, exchanged behind the box"
	}
	starts := rule.Row{
		Figure: "starts", Label: "Starts with", Value: quantity.Fixed(l.OverBreakaway, 1) + " ×",
		Remark: "the torque the load asks", Assumed: assumed,
	}
	return []rule.Row{run, start, starts, usable, turn}
}

// controls are the capacitors and the load, where it is the way taken: what is chosen of
// them is chosen for that one.
func (w *Way) controls(q *feed.Question, a *capacitor.Answer) []feed.Control {
	list := []feed.Control{}
	if q.Choice.Taken().Info().Name != w.About.Name {
		return list
	}
	bank := q.Bank
	slide := func(name, title string, value, most, step float64, own *float64) {
		if own != nil {
			most = max(most, *own)
		}
		list = append(list, feed.Control{
			Name: name, Kind: feed.Slide, Title: title, Unit: "µF", Value: value, Most: most, Step: step, Scale: 1,
			Chosen: own != nil, Options: []feed.Option{},
		})
	}
	if !w.NoRun {
		slide("run_microfarad", "Run", a.Live.RunMicrofarad, a.Most, 1, bank.RunMicrofarad)
	}
	if !w.NoStart {
		slide("start_microfarad", "Start", a.Live.StartMicrofarad, a.MostStart, 5, bank.StartMicrofarad)
	}
	load := feed.LoadControl(q)
	load.Value = a.Live.LoadShare
	return append(list, load, feed.Control{
		Name:    "reversed",
		Kind:    feed.Switch,
		Title:   "Other way",
		Value:   boolean(bank.Reversed),
		Options: []feed.Option{},
	})
}

func boolean(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// running is how it runs at the load: leg volts, windings, and torque or heat.
func (w *Way) running(q *feed.Question, a *capacitor.Answer) []feed.Panel {
	l := &a.Live
	note := "it crawls at this load"
	switch l.Load.Motor {
	case network.Running:
		note = fmt.Sprintf("at %.0f %% load, %s %% apart", 100*l.LoadShare, quantity.Fixed(l.Load.UnbalancePercent, 1))
	case network.Stalled:
		note = "it stalls at this load"
	}
	bars := feed.Windings{Names: q.Lines().Windings(q.Plate.Delta)}
	for _, at := range []struct {
		title string
		state *capacitor.State
	}{{"idle", &l.Idle}, {fmt.Sprintf("load, %.0f %%", 100*l.LoadShare), &l.Load}, {"full plate output", &l.Full}} {
		bars.States = append(bars.States, feed.WindingState{
			Title: at.title, Percents: at.state.WindingPercent, Over: at.state.WindingOver,
		})
	}
	return []feed.Panel{
		{Name: "legs", Kind: feed.LegsPanel, Title: "Leg volts", Note: note, Width: feed.Third,
			Legs: &feed.Legs{Volts: l.Load.Volts, Degrees: l.Load.Degrees, Supply: w.input(q).Supply.Volts}},
		{Name: "windings", Kind: feed.WindingsPanel, Title: "Windings", Note: "% of plate amps", Width: feed.Third,
			Windings: &bars},
		{Name: "torque", Kind: feed.ChartPanel, Title: "Torque", Note: "% of rated", Turn: "curve", Width: feed.Third,
			Chart: torqueChart(a)},
		{Name: "heat", Kind: feed.ChartPanel, Title: "Hottest winding", Note: "% of plate", Turn: "curve",
			Width: feed.Third, Chart: heatChart(l)},
	}
}

// starting is how it comes up.
func (w *Way) starting(q *feed.Question, a *capacitor.Answer) []feed.Panel {
	return []feed.Panel{
		{Name: "run-up", Kind: feed.ChartPanel, Title: "Coming up", Width: feed.Aside, Chart: runUpChart(a)},
		{Name: "start", Kind: feed.FactsPanel, Title: "Start", Width: feed.Rest, Facts: startRows(&a.Live)},
		{Name: "inertia", Kind: feed.InertiaPanel, Title: "What it brings up",
			Note: "left empty, by the kind of machine", Width: feed.Rest},
	}
}

// session is how it heats.
func (w *Way) session(q *feed.Question, a *capacitor.Answer) []feed.Panel {
	t := a.Live.Session.Thermal
	note := "insulation class " + t.Class
	if t.ClassAssumed {
		note += ", assumed"
	}
	return []feed.Panel{
		{
			Name:  "session",
			Kind:  feed.ChartPanel,
			Title: "Session",
			Width: feed.Aside,
			Chart: sessionChart(&a.Live.Session),
		},
		{
			Name:  "heat-facts",
			Kind:  feed.FactsPanel,
			Title: "Heat",
			Note:  note,
			Width: feed.Rest,
			Facts: heatRows(&a.Live),
		},
		{Name: "duty", Kind: feed.DutyPanel, Title: "How it works", Note: "minutes, or with h", Width: feed.Rest},
	}
}

// Brief is the capacitors in a few words; what is not there is left out.
func (w *Way) Brief(q *feed.Question) (string, []rule.Verdict, error) {
	l := &w.Solved(q).Live
	words := ""
	if l.RunMicrofarad > 0 {
		words = "run " + feed.Figure(l.RunMicrofarad, 3, "µF")
	}
	if l.StartMicrofarad > 0 {
		if words != "" {
			words += ", "
		}
		words += "start " + feed.Figure(l.StartMicrofarad, 3, "µF")
	}
	if words == "" {
		words = "two bare legs"
	}
	return words, l.Verdicts, nil
}

// SwitchOff is what its terminals do once the supply opens on the unloaded motor.
func (w *Way) SwitchOff(q *feed.Question) (feed.After, error) {
	run, _, _, all := w.chosen(q)
	if !all {
		run = w.Solved(q).Live.RunMicrofarad
	}
	after, err := capacitor.SwitchOff(w.input(q), run)
	if err != nil {
		return feed.After{}, err
	}
	off := after.Off
	peak := fmt.Sprintf("up to %.0f V peak", off.PeakVolts)
	says := "It does not run idle, so nothing spins on after switch-off."
	switch {
	case off.Looked == 0:
	case off.LiveSeconds == nil:
		says = fmt.Sprintf("Switched off, its terminals are still live after %.0f s, %s.", off.Looked, peak)
	default:
		says = fmt.Sprintf(
			"Switched off, its terminals are live for %s s, %s.",
			quantity.Figures(*off.LiveSeconds, 2),
			peak,
		)
	}
	return feed.After{Says: says, Verdicts: after.Verdicts}, nil
}

// Scope steps a start, a run and a switch-off through time.
func (w *Way) Scope(q *feed.Question) (capacitor.Trace, error) {
	run, start, share, all := w.chosen(q)
	if !all {
		l := &w.Solved(q).Live
		run, start, share = l.RunMicrofarad, l.StartMicrofarad, l.LoadShare
	}
	return capacitor.Scope(w.input(q), run, start, share)
}
