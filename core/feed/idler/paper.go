package idler

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
	"brackmoor/core/waveform"
)

// Paper is what a sheet has of it.
func (way) Paper(q *feed.Question) (feed.Paper, error) {
	w := watch(q)
	if w.err != nil {
		return feed.Paper{}, w.err
	}
	a := &w.answer
	p := feed.Paper{Headline: headline(q, a), Verdicts: a.Verdicts}
	starts := rule.Section{Title: "Bringing the idler up"}
	for _, way := range a.Starts {
		value := "–"
		if way.Seconds != nil {
			value = feed.Seconds(way.Seconds)
		}
		if way.Advised {
			value += ", advised"
		}
		starts.Rows = append(starts.Rows,
			rule.Row{Label: way.Title, Value: value, Remark: way.Says, Assumed: way.Seconds != nil})
	}
	volts := rule.Section{Title: "What the meter should say"}
	for _, s := range a.States {
		volts.Rows = append(volts.Rows, rule.Row{
			Label: s.Title,
			Value: fmt.Sprintf("ab %.0f · bc %.0f · ca %.0f V", s.Volts.AB, s.Volts.BC, s.Volts.CA),
			Remark: fmt.Sprintf("machine %.0f %%, idler %.0f %% of plate amps; supply %s A",
				s.HottestPercent, s.IdlerPercent, quantity.Figures(s.SupplyAmps, 3)),
			Assumed: true,
		})
	}
	p.Sections = []rule.Section{
		{Title: "Rotary converter", Rows: rows(q, a, w.off)}, idlerParts(q, a), starts, volts,
	}
	p.Tables = []rule.Table{feed.AcceptPaper(a.Accept), ladderPaper(q, a)}
	return p, nil
}

// ladderPaper is the idlers side by side, in print.
func ladderPaper(q *feed.Question, a *rotary.Answer) rule.Table {
	from := rungs(q, ladder(q, a))
	t := rule.Table{Title: "Idlers side by side", Source: "machine model; usable is of the machine’s output",
		Head: from.Head, Rows: [][]string{}}
	for _, r := range from.Rows {
		cells := []string{r.Head}
		for _, c := range r.Cells {
			cells = append(cells, c.Text)
		}
		t.Rows = append(t.Rows, cells)
	}
	return t
}

// secondRow is the bank that comes in with the load, and how it is to come and go.
func secondRow(s *rotary.Second) rule.Row {
	return rule.Row{
		Label:   "Second bank",
		Value:   fmt.Sprintf("%.0f + %.0f µF", s.AC, s.BC),
		Assumed: true,
		Remark: fmt.Sprintf(
			"with the load, from either line to the made leg: by a current relay in the machine’s line between %s A, "+
				"idle, and %s A, at the load, or by hand; discharged where it opens",
			quantity.Figures(s.IdleAmps, 3),
			quantity.Figures(s.LoadAmps, 3),
		),
	}
}

// idlerParts are the capacitors of an idler, made up of what is sold.
func idlerParts(q *feed.Question, a *rotary.Answer) rule.Section {
	lines := q.Lines()
	s := rule.Section{Title: "Parts of the idler"}
	if a.BalanceAC > 0 {
		s.Rows = append(s.Rows, feed.RunRows("", "", "Balance "+lines.To("a"), a.Banks.AC)...)
	}
	if a.BalanceBC > 0 {
		s.Rows = append(s.Rows, feed.RunRows("", "", "Balance "+lines.To("b"), a.Banks.BC)...)
	}
	if two := a.Second; two != nil && two.AC > 0 {
		s.Rows = append(s.Rows, feed.RunRows("", "", "Second bank "+lines.To("a"), a.Banks.SecondAC)...)
	}
	if two := a.Second; two != nil && two.BC > 0 {
		s.Rows = append(s.Rows, feed.RunRows("", "", "Second bank "+lines.To("b"), a.Banks.SecondBC)...)
	}
	if a.Idler.StartMicrofarad > 0 {
		s.Rows = append(s.Rows, feed.StartRows("", "", "Idler’s start", a.Banks.Start)...)
	}
	if row, ok := q.HandPart("Idler", onHand(q, a)); ok {
		s.Rows = append(s.Rows, row)
	}
	for _, x := range []struct {
		label, kind string
		microfarad  float64
		bank        capacitor.Bank
	}{
		{"Balance " + lines.To("a"), stock.Run, a.BalanceAC, a.Banks.AC},
		{"Balance " + lines.To("b"), stock.Run, a.BalanceBC, a.Banks.BC},
		{"Idler’s start", stock.Start, a.Idler.StartMicrofarad, a.Banks.Start},
	} {
		row, left, ok := q.HandRow(x.label, x.kind, x.microfarad, x.bank)
		if q = left; ok {
			s.Rows = append(s.Rows, row)
		}
	}
	return s
}

// headline is the answer of a rotary converter in a handful of large figures.
func headline(q *feed.Question, a *rotary.Answer) []rule.Row {
	usable := rule.Row{Label: "Usable", Value: "none", Remark: "no load keeps machine and idler cool", Assumed: true}
	if w := max(watts(a.FactorWatts), a.Duty.Most()); w > 0 {
		usable.Value, usable.Remark = q.Power(math.Min(w, q.Watts())), "by service factor and heat"
		if a.UsableWatts != nil {
			usable.Remark += "; " + q.Power(math.Min(*a.UsableWatts, q.Watts())) + " by plate amps"
		}
	}
	idler := rule.Row{
		Label:   "Idler",
		Value:   q.Power(a.IdlerWatts),
		Remark:  "the smallest that leaves the whole output",
		Assumed: true,
	}
	if m := onHand(q, a); m != nil && m.Watts == a.IdlerWatts {
		idler.Remark = "from the stores; the model takes " + q.Power(a.ModelWatts)
	} else if a.IdlerWatts != a.ModelWatts {
		idler.Remark = "chosen; the model takes " + q.Power(a.ModelWatts)
	} else if !a.ModelReached {
		idler.Remark = "and even it does not do"
	} else if !a.ModelFull {
		idler.Remark = "leaves most, of those of a usual size"
	}
	start := rule.Row{
		Label:   "Idler’s start",
		Value:   feed.Figure(a.Idler.StartMicrofarad, 3, "µF"),
		Remark:  "it does not come up",
		Assumed: true,
	}
	if a.Idler.Seconds != nil {
		start.Remark = "up in " + feed.Seconds(a.Idler.Seconds) + ", then out"
	}
	return []rule.Row{
		idler,
		{
			Label:   "Balance",
			Value:   fmt.Sprintf("%.0f + %.0f µF", a.BalanceAC, a.BalanceBC),
			Remark:  "to the made leg from " + q.Lines().Both(),
			Assumed: true,
		},
		start,
		{
			Label:   "Starts with",
			Value:   quantity.Fixed(a.StartMargin, 1) + " ×",
			Remark:  "the torque the machine’s load asks",
			Assumed: true,
		},
		usable,
	}
}

// rows are the figures of a rotary converter.
func rows(q *feed.Question, a *rotary.Answer, off waveform.Off) []rule.Row {
	power := q.Power
	var schools []string
	for _, s := range a.Schools {
		schools = append(schools, s.Title+" "+power(s.Watts))
	}
	live := "live while it is watched"
	if off.LiveSeconds != nil {
		live = feed.Figure(*off.LiveSeconds, 2, "s")
	}
	up := "it does not come up"
	if a.Idler.Seconds != nil {
		up = fmt.Sprintf(
			"%s motor-start, %s; up in %s, out at %.0f rpm or by a timer at %s",
			feed.Start(a.Banks.Start.Start),
			feed.Rated(a.Banks.Start.Volts),
			feed.Seconds(a.Idler.Seconds),
			a.Idler.CutOutRPM,
			feed.Seconds(a.Idler.TimerSeconds),
		)
	}
	left := func(title string, w *float64, says string) rule.Row {
		row := rule.Row{Label: title, Value: "none", Remark: says, Assumed: true}
		if w != nil {
			row.Value = power(math.Min(*w, q.Watts()))
		}
		return row
	}
	horse := a.IdlerWatts / quantity.WattsPerHorsepower
	balance := func(closed float64, bank capacitor.Bank) string {
		return fmt.Sprintf(
			"%s motor-run, %s; closed form for the idler alone %s; school %.0f–%.0f",
			feed.Run(bank.Run),
			feed.Rated(bank.Volts),
			feed.Figure(closed, 3, "µF"),
			rotary.BalanceSchool[0]*horse,
			rotary.BalanceSchool[1]*horse,
		)
	}
	e := a.Electronics
	aim := rotary.Balances[0]
	for _, b := range rotary.Balances {
		if b.Name == q.Choice.Balance {
			aim = b
		}
	}
	rows := []rule.Row{
		{Label: "Idler", Value: power(a.IdlerWatts), Remark: "schools: " + strings.Join(schools, ", "), Assumed: true},
		{
			Label:   "Balance " + q.Lines().To("a"),
			Value:   feed.Figure(a.BalanceAC, 3, "µF"),
			Remark:  balance(a.ClosedAC, a.Banks.AC),
			Assumed: true,
		},
		{
			Label:   "Balance " + q.Lines().To("b"),
			Value:   feed.Figure(a.BalanceBC, 3, "µF"),
			Remark:  balance(a.ClosedBC, a.Banks.BC),
			Assumed: true,
		},
		{Label: "Idler’s start", Value: feed.Figure(a.Idler.StartMicrofarad, 3, "µF"), Remark: up, Assumed: true},
		{
			Label: "Machine starts with",
			Value: quantity.Fixed(a.StartMargin, 1) + " ×",
			Remark: fmt.Sprintf(
				"the torque asked, in %s; the made leg dips to %.0f V: a relay that falls back above that brings the "+
					"idler’s start capacitors in again",
				feed.Seconds(a.StartSeconds),
				a.StartLowest,
			),
			Assumed: true,
		},
		left(
			"Left by plate amps",
			a.UsableWatts,
			"no winding of the machine past plate amps, the idler within its own",
		),
		left("Left by service factor", a.FactorWatts, fmt.Sprintf("plate amps times %s",
			quantity.Fixed(math.Max(1, q.Plate.ServiceFactor.Value), 2))),
		{Label: "Left by heat", Value: a.Duty.Words(q.Supply.Hertz), Assumed: true,
			Remark: "what its windings bear in its duty, by what is not known of its heating"},
		{Label: "Capacitors for", Value: aim.Title, Remark: aim.Says},
		{Label: "Left on", Value: feed.Figure(a.IdleWatts, 3, "W"), Remark: leftOn(a), Assumed: true},
		{
			Label:   "Live after switch-off",
			Value:   live,
			Remark:  fmt.Sprintf("up to %.0f V peak", off.PeakVolts),
			Assumed: true,
		},
		{
			Label: "Electronics",
			Value: "from " + e.Pair,
			Remark: fmt.Sprintf(
				"on the made leg they would see legs %s %% apart idle, %s loaded, and a dip of %.0f %% while the "+
					"machine starts",
				quantity.Fixed(e.Idle, 1),
				quantity.Fixed(e.Load, 1),
				e.Dip,
			),
			Assumed: true,
		},
	}
	if a.Second != nil {
		at := slices.IndexFunc(rows, func(r rule.Row) bool { return r.Label == "Idler’s start" })
		rows = slices.Insert(rows, at, secondRow(a.Second))
	}
	if t := a.Transformer; t != nil {
		rows = append(rows, feed.TransformerRow(t))
	}
	return rows
}

// leftOn words what it costs to leave an idler running, and what it bears of restarts.
func leftOn(a *rotary.Answer) string {
	text := fmt.Sprintf("%.2f a day at the tariff of the Rulebook", a.IdlePerDay)
	switch n := min(a.StartsAnHour, rotary.CapacitorStarts); {
	case n < 1:
		return text + "; it bears no restarts from warm: leave it on"
	case n < a.StartsAnHour:
		return fmt.Sprintf(
			"%s; switched off between jobs it saves that, up to %.0f starts an hour (its start capacitors, IEC "+
				"60252-2)",
			text,
			n,
		)
	default:
		return fmt.Sprintf(
			"%s; switched off between jobs it saves that, up to %.0f starts an hour (its windings)",
			text,
			n,
		)
	}
}
