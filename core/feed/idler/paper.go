package idler

import (
	"fmt"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/waveform"
	"brackmoor/core/wiring"
)

// Paper is what a sheet has of it.
func (way) Paper(q *feed.Question) (feed.Paper, error) {
	w := watch(q)
	if w.err != nil {
		return feed.Paper{}, w.err
	}
	a := &w.answer
	p := feed.Paper{Headline: headline(q, a), Verdicts: a.Verdicts, Drawing: circuit(q, a)}
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
		{Title: "Rotary converter", Rows: rows(q, a, w.off)}, idlerParts(a), starts, volts,
	}
	p.Tables = []rule.Table{feed.AcceptPaper(a.Accept)}
	return p, nil
}

// circuit draws the machine behind its converter.
func circuit(q *feed.Question, a *rotary.Answer) wiring.Drawing {
	m := wiring.IdlerMotor{
		Supply:   q.SupplyWords(),
		Idler:    q.Power(a.IdlerWatts),
		Overload: "set " + feed.Figure(q.Plate.Amps.Value, 3, "A"),
		Motor:    q.Title,
		Plate:    q.Joined(),
		Stops:    q.StopsWith(a.Verdicts),
	}
	if a.BalanceAC > 0 {
		m.BalanceAC = "balance " + feed.Run(a.Banks.AC.Run)
	}
	if a.BalanceBC > 0 {
		m.BalanceBC = "balance " + feed.Run(a.Banks.BC.Run)
	}
	if a.Idler.StartMicrofarad > 0 {
		m.Start, m.CutOut = "Start "+feed.Start(a.Banks.Start.Start), fmt.Sprintf("out at %.0f rpm", a.Idler.CutOutRPM)
	}
	return wiring.IdlerCircuit(m)
}

// idlerParts are the capacitors of an idler, made up of what is sold.
func idlerParts(a *rotary.Answer) rule.Section {
	s := rule.Section{Title: "Parts of the idler"}
	if a.BalanceAC > 0 {
		s.Rows = append(s.Rows, feed.RunRows("", "", "Balance a to c", a.Banks.AC)...)
	}
	if a.BalanceBC > 0 {
		s.Rows = append(s.Rows, feed.RunRows("", "", "Balance b to c", a.Banks.BC)...)
	}
	if a.Idler.StartMicrofarad > 0 {
		s.Rows = append(s.Rows, feed.StartRows("", "", "Idler’s start", a.Banks.Start)...)
	}
	return s
}

// headline is the answer of a rotary converter in a handful of large figures.
func headline(q *feed.Question, a *rotary.Answer) []rule.Row {
	usable := rule.Row{
		Label:   "Usable",
		Value:   "none",
		Remark:  "no load keeps machine and idler within plate amps",
		Assumed: true,
	}
	if a.UsableWatts != nil {
		usable.Value, usable.Remark = q.Power(*a.UsableWatts), "all day, no winding past plate amps"
	}
	idler := rule.Row{
		Label:   "Idler",
		Value:   q.Power(a.IdlerWatts),
		Remark:  "the smallest that does, by the model",
		Assumed: true,
	}
	if a.IdlerWatts != a.ModelWatts {
		idler.Remark = "chosen; the model takes " + q.Power(a.ModelWatts)
	} else if !a.ModelReached {
		idler.Remark = "and even it does not do"
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
			Remark:  "a to c, and b to c",
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
	usable := rule.Row{
		Label:   "Output left",
		Value:   "none",
		Remark:  "no load keeps machine and idler within plate amps",
		Assumed: true,
	}
	if a.UsableWatts != nil {
		usable.Value, usable.Remark = power(*a.UsableWatts), "of the machine, no winding past plate amps"
	}
	duty := rule.Row{Label: "At its duty", Value: "none", Remark: "its windings are too hot in any", Assumed: true}
	if a.DutyWatts != nil {
		duty.Value, duty.Remark = power(
			*a.DutyWatts,
		), "by the heat of the machine’s windings, the idler within its amps"
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
	rows := []rule.Row{
		{Label: "Idler", Value: power(a.IdlerWatts), Remark: "schools: " + strings.Join(schools, ", "), Assumed: true},
		{
			Label:   "Balance a to c",
			Value:   feed.Figure(a.BalanceAC, 3, "µF"),
			Remark:  balance(a.ClosedAC, a.Banks.AC),
			Assumed: true,
		},
		{
			Label:   "Balance b to c",
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
		usable,
		duty,
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
	if t := a.Transformer; t != nil {
		rows = append(
			rows,
			rule.Row{
				Label: "Transformer",
				Value: fmt.Sprintf("%.0f to %.0f V", t.FromVolts, t.ToVolts),
				Remark: fmt.Sprintf(
					"three-phase, behind the converter, %s kVA; an autotransformer of that throughput %s kVA. It "+
						"changes volts only. Figures here are without it",
					quantity.Figures(t.VA/1000, 2),
					quantity.Figures(t.AutoVA/1000, 2),
				),
				Assumed: true,
			},
		)
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
