package driven

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Paper is what a sheet has of it, but for the settings.
func (w *Way) Paper(q *feed.Question) (feed.Paper, error) {
	a, err := w.solved(q)
	if err != nil {
		return feed.Paper{}, err
	}
	control := rule.Section{Title: "Controls on the drive"}
	for _, c := range drive.Controls(q.Matters.Existing()) {
		into := c.Input
		if into == "" {
			into = "–"
		}
		control.Rows = append(control.Rows, rule.Row{Label: c.Has, Value: into, Remark: c.Becomes})
	}
	return feed.Paper{
		Headline: headline(
			a,
		),
		Verdicts: slices.Concat(a.Verdicts, several(q).Verdicts),
		Sections: []rule.Section{{Title: "Drive", Rows: w.facts(q, a)}, control},
	}, nil
}

// headline is the answer of a drive in a handful of large figures.
func headline(a *drive.Answer) []rule.Row {
	rating := rule.Row{
		Label: "Drive",
		Value: power(a.RatingWatts),
		Remark: fmt.Sprintf(
			"%s; %s A or more at its output",
			drive.Horse(a.RatingWatts),
			quantity.Figures(a.OutputAmps, 3),
		),
	}
	if !a.Covered {
		rating.Value, rating.Remark = "none", "no standard drive has enough on one phase"
	}
	bus := rule.Row{
		Label:   "Bus",
		Value:   feed.Figure(a.Load.BusMeanVolts, 3, "V"),
		Remark:  fmt.Sprintf("at the load, %s V of ripple", quantity.Figures(a.Load.RipplePPVolts, 2)),
		Assumed: true,
	}
	switch {
	case a.Doubler:
		bus.Remark = "twice the supply’s, at the load"
	case a.Kind == drive.Bus:
		bus = rule.Row{
			Label: "Choke",
			Value: feed.Figure(a.Choke.MilliHenry, 2, "mH"),
			Remark: fmt.Sprintf("%s, for %s A%s", place(a.Choke),
				quantity.Figures(a.LoadWatts/math.Max(a.Load.BusMeanVolts, 1), 2), added(a.Choke)),
			Assumed: true,
		}
	case a.Kind != drive.OnePhase:
		bus = rule.Row{
			Label:   "One phase leaves",
			Value:   fmt.Sprintf("%.0f %%", 100*a.Left.Share),
			Remark:  "of its amps, by " + a.Left.By,
			Assumed: true,
		}
	}
	top := a.Speed[len(a.Speed)-1]
	for _, p := range a.Speed {
		if p.Hertz <= a.BaseHertz*1.001 {
			top = p
		}
	}
	stop := "coasts"
	if a.ShortestStop != nil {
		stop = feed.Figure(*a.ShortestStop, 2, "s")
	}
	return []rule.Row{
		rating,
		{
			Label:   "Takes",
			Value:   feed.Figure(a.Load.InputRMSAmps, 3, "A"),
			Remark:  fmt.Sprintf("at the load; %s A peak", quantity.Figures(a.Load.InputPeakAmps, 3)),
			Assumed: true,
		},
		bus,
		{
			Label:  "Base point",
			Value:  feed.Figure(a.BaseHertz, 3, "Hz"),
			Remark: fmt.Sprintf("there %s N·m for good", quantity.Figures(top.TorqueNm, 3)),
		},
		{Label: "Shortest stop", Value: stop, Remark: "without a brake resistor", Assumed: true},
	}
}

// facts are the figures of a drive, and which of the stores is taken for it.
func (w *Way) facts(q *feed.Question, a *drive.Answer) []rule.Row {
	list := rows(a)
	if row, ok := q.HandPart("Drive", w.onHand(q, a.RatingWatts)); ok && w.Of != drive.Bus {
		list = append(list, row)
	}
	return list
}

// rows are the figures of a drive.
func rows(a *drive.Answer) []rule.Row {
	three := drive.Rated(a.ThreeWatts)
	if !a.Covered {
		three = "none"
	}
	var schools []string
	for _, s := range a.Schools {
		schools = append(schools, s.Title+" "+drive.Rated(s.Watts))
	}
	stop := "the bus never takes it"
	if a.ShortestStop != nil {
		stop = feed.Figure(*a.ShortestStop, 2, "s")
	}
	choke := func(k drive.Line) string {
		return fmt.Sprintf(
			"%s A, %s A peak, THD %.0f %%",
			quantity.Figures(k.Amps, 3),
			quantity.Figures(k.Peak, 3),
			k.THD,
		)
	}
	brake := rule.Row{Label: "Brake resistor", Value: "none", Remark: "the bus takes a usual stop", Assumed: true}
	if b := a.Brake; b != nil {
		brake.Value = "≤ " + feed.Figure(b.MostOhm, 3, "Ω")
		brake.Remark = fmt.Sprintf(
			"for a stop in %s s: %.0f W at first, %.0f W in the mean; out of reach, guarded, hot",
			quantity.Figures(b.Seconds, 2),
			b.PeakWatts,
			b.MeanWatts,
		)
	}
	rows := []rule.Row{
		{
			Label:  "Built for one phase",
			Value:  drive.Rated(a.OnePhaseWatts),
			Remark: fmt.Sprintf("%s A or more at its output", quantity.Figures(a.OutputAmps, 3)),
		},
		{
			Label: "Takes at the load",
			Value: fmt.Sprintf("%s A", quantity.Figures(a.Load.InputRMSAmps, 3)),
			Remark: fmt.Sprintf(
				"%s A peak, power factor %s, THD %.0f %%",
				quantity.Figures(a.Load.InputPeakAmps, 3),
				quantity.Fixed(a.Load.TruePowerFactor, 2),
				a.Load.InputTHDPercent,
			),
			Assumed: true,
		},
		{
			Label: "Bus",
			Value: fmt.Sprintf("%.0f V", a.Load.BusMeanVolts),
			Remark: fmt.Sprintf(
				"%s V ripple, %s A through its capacitors",
				quantity.Figures(a.Load.RipplePPVolts, 3),
				quantity.Figures(a.Load.CapacitorRMSAmps, 3),
			),
			Assumed: true,
		},
		{
			Label: "Base point",
			Value: fmt.Sprintf("%.0f Hz", a.BaseHertz),
			Remark: fmt.Sprintf(
				"volts stay behind above it; at this load the bus leaves %.0f V, good to %.0f Hz",
				a.LoadVolts,
				a.LoadBaseHertz,
			),
		},
		{
			Label:  "Torque at plate hertz",
			Value:  feed.Figure(a.PlateTorque, 3, "N·m"),
			Remark: fmt.Sprintf("for good, %.0f %% of rated", 100*a.PlateShare),
		},
		{Label: "Shortest stop", Value: stop, Remark: "to standstill, without a brake resistor", Assumed: true},
		brake,
		{
			Label:   "Switch-on",
			Value:   fmt.Sprintf("%s A", quantity.Figures(a.Precharge.PeakAmps, 3)),
			Remark:  "peak, through a usual precharge resistor",
			Assumed: true,
		},
	}
	if a.Doubler {
		rows[0].Remark += "; it doubles the supply's volts"
		return rows
	}
	if a.Choke.MilliHenry > 0 && a.Choke.With != (drive.Line{}) {
		rows = append(
			rows,
			rule.Row{
				Label: "With a choke",
				Value: feed.Figure(a.Choke.MilliHenry, 2, "mH"),
				Remark: place(a.Choke) + ": " + choke(a.Choke.With) + "; without " + choke(a.Choke.Bare) +
					added(a.Choke),
				Assumed: true,
			},
		)
	}
	if a.Kind == drive.OnePhase || a.Kind == drive.Bus {
		return rows
	}
	return slices.Insert(
		rows,
		1,
		rule.Row{
			Label:   "Built for three",
			Value:   three,
			Remark:  "schools: " + strings.Join(schools, ", "),
			Assumed: true,
		},
		rule.Row{
			Label:   "Left on one phase",
			Value:   fmt.Sprintf("%.0f %%", 100*a.Left.Share),
			Remark:  "by " + a.Left.By + ", the trade’s twice the amps",
			Assumed: true,
		},
		rule.Row{
			Label: "Bus at full output",
			Value: fmt.Sprintf("%.0f V", a.Full.BusMeanVolts-a.Full.RipplePPVolts/2),
			Remark: fmt.Sprintf("at its lowest, with %s µF, %s; %s times the capacitor amps of three phases",
				quantity.Figures(a.Front.BusMicrofarad, 3), whose(a), quantity.Figures(a.OnOne.CapacitorTimes, 2)),
			Assumed: !a.OwnBus,
		},
	)
}

// place words where a choke stands.
func place(c drive.Choke) string {
	if c.InLine {
		return "half in each line"
	}
	return "in the dc link"
}

// added words the capacitance that a bus must have beside the drives' own.
func added(c drive.Choke) string {
	if c.Added == 0 {
		return ""
	}
	return fmt.Sprintf("; %s µF added to the bus, with its own precharge, bleed and fuse", quantity.Figures(c.Added, 2))
}
