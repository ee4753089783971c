package banked

import (
	"fmt"
	"math"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// Paper is what a sheet has of it.
func (w *Way) Paper(q *feed.Question) (feed.Paper, error) {
	a := w.Solved(q)
	p := feed.Paper{Headline: w.headline(q, a), Verdicts: a.Live.Verdicts}
	parts := partsSection(a)
	parts.Rows = append(parts.Rows, onHand(q, a)...)
	if t := w.input(q).Step; t != nil {
		parts.Rows = append([]rule.Row{feed.TransformerRow(t)}, parts.Rows...)
	}
	p.Sections = []rule.Section{parts, w.runningSection(q, a)}
	if w.Boxed {
		p.Tables = []rule.Table{feed.AcceptPaper(capacitor.Accept(w.input(q), &a.Live))}
		p.Sections = append(p.Sections, boxSection(w.notes(q, a)))
		if w.Stops != nil {
			p.Verdicts = append(append([]rule.Verdict{}, p.Verdicts...), w.Stops(q)...)
		}
	}
	starting := rule.Section{Title: "Starting and heat", Rows: append(startRows(&a.Live), heatRows(&a.Live)...)}
	p.Sections = append(p.Sections, starting, w.protectSection(q, a))
	if after, err := w.SwitchOff(q); err == nil {
		p.Verdicts = append(append([]rule.Verdict{}, p.Verdicts...), after.Verdicts...)
	}
	return p, nil
}

// onHand is what of its capacitors the shop has.
func onHand(q *feed.Question, a *capacitor.Answer) (rows []rule.Row) {
	run := capacitor.Bank{Volts: a.RunVolts}
	if row, _, ok := q.HandRow("Run", stock.Run, a.Live.RunMicrofarad, run); ok {
		rows = append(rows, row)
	}
	if row, _, ok := q.HandRow("Start", stock.Start, a.Live.StartMicrofarad, capacitor.Bank{Volts: a.StartVolts}); ok {
		rows = append(rows, row)
	}
	return rows
}

// partsSection is what it is made of.
func partsSection(a *capacitor.Answer) rule.Section {
	run := feed.RunRows(
		"capacitor-volts",
		"bleed.run",
		"Run capacitor",
		capacitor.Bank{Run: a.RunParts.Parts, Volts: a.RunVolts, Bleeds: a.RunBleeds},
	)
	start := []rule.Row{{Figure: "start", Label: "Start capacitor", Value: "none", Remark: "not needed for this load"}}
	if a.Live.StartMicrofarad > 0 {
		start = feed.StartRows(
			"start",
			"bleed.start",
			"Start capacitor",
			capacitor.Bank{Start: a.StartParts, Volts: a.StartVolts, Bleeds: a.StartBleeds},
		)
	}
	return rule.Section{Title: "Parts", Rows: append(run, start...)}
}

// runningSection is what the meter should say.
func (w *Way) runningSection(q *feed.Question, a *capacitor.Answer) rule.Section {
	l, lines := &a.Live, q.Lines()
	pairs := lines.Pairs()
	state := func(label string, s capacitor.State) rule.Row {
		return rule.Row{
			Label: label,
			Value: fmt.Sprintf("%s %.0f · %s %.0f · %s %.0f V", pairs[0], s.Volts.AB, pairs[1], s.Volts.BC, pairs[2],
				s.Volts.CA),
			Remark: fmt.Sprintf(
				"%s; %s %s · %s %s · the made leg %s A; hottest winding %.0f %% of plate amps",
				s.Motor,
				lines.A,
				quantity.Figures(s.LineAmps.A, 3),
				lines.B,
				quantity.Figures(s.LineAmps.B, 3),
				quantity.Figures(s.LineAmps.C, 3),
				s.HottestPercent,
			),
		}
	}
	return rule.Section{
		Title: "What the meter should say",
		Rows: []rule.Row{
			state(
				"Idle",
				l.Idle,
			),
			state(fmt.Sprintf("At %.0f %% load", 100*l.LoadShare), l.Load),
			state("At full plate output", l.Full),
			{
				Figure: "feed",
				Label:  "From the supply",
				Value: fmt.Sprintf(
					"%s A idle, %s A at the load",
					quantity.Figures(a.Feed.IdleAmps, 3),
					quantity.Figures(a.Feed.LoadAmps, 3),
				),
				Remark: fmt.Sprintf(
					"%s A full, %s A starting",
					quantity.Figures(a.Feed.FullAmps, 3),
					quantity.Figures(a.Feed.StartingAmps, 3),
				),
			},
			{
				Label:   "Kind of load",
				Value:   q.Load.Title,
				Remark:  fmt.Sprintf("breakaway taken as %.0f %% of rated torque", 100*q.Load.BreakawayShare),
				Assumed: true,
			},
		},
	}
}

// startRows are the figures of a start, the same on screen and sheet.
func startRows(l *capacitor.Live) []rule.Row {
	up := &l.RunUp
	s := up.Shaft
	assumed := s.Origin == rule.Assumed
	rows := []rule.Row{
		{
			Figure:  "run-up",
			Label:   "To speed",
			Value:   feed.Seconds(up.Seconds),
			Remark:  fmt.Sprintf("up to %s A from the supply", quantity.Figures(up.PeakSupply, 3)),
			Assumed: assumed,
		},
	}
	if l.StartMicrofarad > 0 {
		out := rule.Row{
			Figure:  "cut-out",
			Label:   "Start out",
			Value:   fmt.Sprintf("%.0f rpm", l.CutOutRPM),
			Remark:  "it never gets there",
			Assumed: assumed,
		}
		if up.CutOutSeconds != nil {
			out.Remark = fmt.Sprintf(
				"after %s; a timer at %s",
				feed.Seconds(up.CutOutSeconds),
				feed.Seconds(up.TimerSeconds),
			)
		}
		rows = append(rows, out)
		if r := up.Relay; r.PickUp != nil {
			rows = append(
				rows,
				rule.Row{
					Label:   "Potential relay",
					Value:   fmt.Sprintf("%.0f V", *r.PickUp),
					Remark:  fmt.Sprintf("c to %s: %.0f V standing, %.0f up to speed", r.Line, r.Standing, r.Running),
					Assumed: assumed,
				},
			)
		}
	}
	if up.Seconds != nil {
		many := rule.Row{
			Figure:  "starts-per-hour",
			Label:   "Starts an hour",
			Value:   quantity.Fixed(math.Floor(up.StartsPerHour), 0),
			Remark:  fmt.Sprintf("%s K in a winding each", quantity.Figures(up.RiseK, 2)),
			Assumed: true,
		}
		if up.StartsPerHour < 1 {
			many.Value = "none warm"
		}
		rows = append(rows, many)
	}
	return append(
		rows,
		rule.Row{
			Figure:  "inertia",
			Label:   "Inertia",
			Value:   feed.Figure(s.RotorKgm2+s.LoadKgm2, 2, "kg·m²"),
			Remark:  s.Source,
			Assumed: assumed,
		},
	)
}

// heatRows are the figures of a session, the same on screen and sheet.
func heatRows(l *capacitor.Live) []rule.Row {
	h := &l.Session
	if h.HottestC == 0 {
		return []rule.Row{{Label: "Hottest winding", Value: "–", Remark: "it does not carry this load"}}
	}
	duty := fmt.Sprintf("%.0f %% load without a pause", 100*l.LoadShare)
	if h.Duty.OffMinutes > 0 {
		duty = fmt.Sprintf(
			"%.0f %% load, %s min on, %s off",
			100*l.LoadShare,
			quantity.Figures(h.Duty.OnMinutes, 3),
			quantity.Figures(h.Duty.OffMinutes, 3),
		)
	}
	usable := rule.Row{
		Figure:  "usable-duty",
		Label:   "Usable at this duty",
		Value:   h.Usable.Words(l.Hertz),
		Remark:  fmt.Sprintf("class %s bears %.0f °C", h.Thermal.Class, h.Thermal.LimitC),
		Assumed: true,
	}
	return []rule.Row{
		{
			Figure:  "session",
			Label:   "Hottest winding",
			Value:   fmt.Sprintf("%.0f °C", h.HottestC),
			Remark:  duty,
			Assumed: true,
		},
		{
			Figure:  "session",
			Label:   "Frame shows",
			Value:   fmt.Sprintf("%.0f °C", h.FrameC),
			Remark:  fmt.Sprintf("in air of %.0f °C", h.Thermal.AmbientC),
			Assumed: true,
		},
		usable,
	}
}

// protectSection is the overload and which way it turns.
func (w *Way) protectSection(q *feed.Question, a *capacitor.Answer) rule.Section {
	o, reverse := a.Overload, a.Direction.Reverse
	if w.Boxed {
		reverse = "to turn it round, " + w.Reversal()
	}
	section := rule.Section{
		Title: "Overload and direction",
		Rows: []rule.Row{
			{Figure: "overload", Label: "Overload set to", Value: feed.Figure(o.Amps, 3, "A"), Remark: "in " + o.Lines},
			{
				Figure: "overload",
				Label:  "Code ceiling",
				Value:  feed.Figure(o.MostAmps, 3, "A"),
				Remark: fmt.Sprintf("%.0f %% of plate amps: %s", o.Percent, o.By),
			},
			{
				Figure: "direction",
				Label:  "Capacitors on",
				Value:  a.Direction.Line + " and the made leg",
				Remark: "turns " + a.Direction.Sense + "; " + reverse,
			},
		},
	}
	if rated := 2 * math.Pi * q.Supply.Hertz * a.Live.RunMicrofarad / 1e6 * a.RunVolts.Rated; rated > 0 &&
		quantity.SixtyHertz(q.Supply.Hertz) {
		const times = 1.35
		section.Rows = append(section.Rows, rule.Row{
			Label: "Wires of its run capacitor", Value: feed.Figure(times*rated, 3, "A") + " at least",
			Remark: "135 % of its amps at its rated volts, and a third of the motor’s wires: NEC 460.8(A) (US, 2023)",
		})
	}
	return section
}
