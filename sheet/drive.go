package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/drive"
	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/study"
	"brackmoor/core/wiring"
)

// drive fills in a sheet for a drive.
func (w way) drive(s *Sheet) error {
	st := w.study
	a, err := st.Drive(st.LoadShare(), w.motor.Matters)
	if err != nil {
		return err
	}
	list, spindle, err := st.Settings(w.shop.Profiles, w.motor.Matters)
	if err != nil {
		return err
	}
	several := drive.Share(study.Others(w.machine, w.shop.Supply), w.motor.Way.OneEach)
	controls := w.motor.Matters.Existing()
	s.Headline = DriveHeadline(&a)
	s.Verdicts = slices.Concat(s.Verdicts, a.Verdicts, several.Verdicts)
	m := wiring.DriveMotor{
		Supply: w.feed(),
		Drive:  power(a.RatingWatts),
		Motor:  st.Reading.Title,
		Plate:  w.joined(),
		Stops:  stopsOf(st.Reading.Verdicts, a.Verdicts),
	}
	if st.Route() == route.DCBus {
		m.Bus = figures(a.Choke.MilliHenry, 2, "mH")
	}
	control := Section{Title: "Controls on the drive"}
	for _, c := range drive.Controls(controls) {
		into := c.Input
		if into == "" {
			into = "–"
		} else {
			m.Inputs = append(m.Inputs, [2]string{c.Has, c.Input})
		}
		control.Rows = append(control.Rows, Row{Label: c.Has, Value: into, Remark: c.Becomes})
	}
	s.Drawing = wiring.DriveCircuit(m)
	s.Sections = append(s.Sections, Section{"Drive", DriveRows(&a)}, control)
	settings := rule.Table{
		Title: "Drive settings",
		Head:  []string{"Setting", "Set to", "Why; how it often comes", "Was", "Is now", "Date", "Hand"},
		Rows:  [][]string{},
	}
	profile := drive.Among(w.shop.Profiles, w.motor.Way.Profile).Name
	if profile != "" {
		settings.Source = profile
		settings.Head = []string{
			"Setting",
			"Set to",
			"Parameter",
			"Write",
			"Why; how it often comes",
			"Was",
			"Is now",
			"Date",
			"Hand",
		}
	}
	for _, e := range list {
		row := []string{e.Title, e.Value}
		if profile != "" {
			row = append(row, e.Parameter, e.Writes)
			if e.Parameter == "" {
				row[2] = "not there"
			}
		}
		why := e.Why
		if e.Wrong != "" {
			why += "; often: " + e.Wrong
		}
		settings.Rows = append(settings.Rows, append(row, why, "", "", "", ""))
	}
	s.Tables = append(s.Tables, settings)
	if len(spindle.Rows) > 0 {
		s.Tables = append(s.Tables, spindleTable(spindle))
	}
	return nil
}

// spindleTable is the spindle's rpm of each step at a few frequencies.
func spindleTable(v study.Spindle) rule.Table {
	t := rule.Table{Title: "Spindle speeds, rpm", Head: []string{"Step"}, Rows: [][]string{}}
	for i, r := range v.Rows {
		row := []string{r.Title}
		for _, p := range r.Points {
			if i == 0 {
				t.Head = append(t.Head, figures(p.Hertz, 3, "Hz"))
			}
			row = append(row, fmt.Sprintf("%.0f", p.RPM))
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

// power prints the output of a drive, as drives are sold.
func power(watts float64) string { return quantity.Figures(watts/1000, 3) + " kW" }

// DriveHeadline is the answer of a drive in a handful of large figures.
func DriveHeadline(a *drive.Answer) []Row {
	rating := Row{
		"",
		"Drive",
		power(a.RatingWatts),
		fmt.Sprintf("%s A or more at its output", quantity.Figures(a.OutputAmps, 3)),
		false,
	}
	if !a.Covered {
		rating.Value, rating.Remark = "none", "no standard drive has enough on one phase"
	}
	bus := Row{
		"",
		"Bus",
		figures(a.Load.BusMeanVolts, 3, "V"),
		fmt.Sprintf("at the load, %s V of ripple", quantity.Figures(a.Load.RipplePPVolts, 2)),
		true,
	}
	switch {
	case a.Doubler:
		bus.Remark = "twice the supply’s, at the load"
	case a.Kind == drive.Bus:
		bus = Row{
			"",
			"Choke",
			figures(a.Choke.MilliHenry, 2, "mH"),
			fmt.Sprintf("in the dc link, for %s A", quantity.Figures(a.LoadWatts/math.Max(a.Load.BusMeanVolts, 1), 2)),
			true,
		}
	case a.Kind != drive.OnePhase:
		bus = Row{
			"",
			"One phase leaves",
			fmt.Sprintf("%.0f %%", 100*a.Left.Share),
			"of its rating, by " + a.Left.By,
			true,
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
		stop = figures(*a.ShortestStop, 2, "s")
	}
	return []Row{
		rating,
		{
			"",
			"Takes",
			figures(a.Load.InputRMSAmps, 3, "A"),
			fmt.Sprintf("at the load; %s A peak", quantity.Figures(a.Load.InputPeakAmps, 3)),
			true,
		},
		bus,
		{
			"",
			"Base point",
			figures(a.BaseHertz, 3, "Hz"),
			fmt.Sprintf("there %s N·m for good", quantity.Figures(top.TorqueNm, 3)),
			false,
		},
		{"", "Shortest stop", stop, "without a brake resistor", true},
	}
}

// DriveRows are the figures of a drive.
func DriveRows(a *drive.Answer) []Row {
	var left []string
	for _, l := range a.Left.Limits {
		if l.Limit != a.Left.By {
			left = append(left, fmt.Sprintf("%.0f %% by %s", 100*l.Share, l.Limit))
		}
	}
	three := power(a.ThreeWatts)
	if !a.Covered {
		three = "none"
	}
	var schools []string
	for _, s := range a.Schools {
		schools = append(schools, s.Title+" "+power(s.Watts))
	}
	stop := "the bus never takes it"
	if a.ShortestStop != nil {
		stop = figures(*a.ShortestStop, 2, "s")
	}
	choke := func(k drive.Line) string {
		return fmt.Sprintf(
			"%s A, %s A peak, THD %.0f %%",
			quantity.Figures(k.Amps, 3),
			quantity.Figures(k.Peak, 3),
			k.THD,
		)
	}
	brake := Row{"", "Brake resistor", "none", "the bus takes a usual stop", true}
	if b := a.Brake; b != nil {
		brake.Value = "≤ " + figures(b.MostOhm, 3, "Ω")
		brake.Remark = fmt.Sprintf(
			"for a stop in %s s: %.0f W at first, %.0f W in the mean; out of reach, guarded, hot",
			quantity.Figures(b.Seconds, 2),
			b.PeakWatts,
			b.MeanWatts,
		)
	}
	rows := []Row{
		{
			"",
			"Built for one phase",
			power(a.OnePhaseWatts),
			fmt.Sprintf("%s A or more at its output", quantity.Figures(a.OutputAmps, 3)),
			false,
		},
		{
			"",
			"Takes at the load",
			fmt.Sprintf("%s A", quantity.Figures(a.Load.InputRMSAmps, 3)),
			fmt.Sprintf(
				"%s A peak, power factor %s, THD %.0f %%",
				quantity.Figures(a.Load.InputPeakAmps, 3),
				quantity.Fixed(a.Load.TruePowerFactor, 2),
				a.Load.InputTHDPercent,
			),
			true,
		},
		{
			"",
			"Bus",
			fmt.Sprintf("%.0f V", a.Load.BusMeanVolts),
			fmt.Sprintf(
				"%s V ripple, %s A through its capacitors",
				quantity.Figures(a.Load.RipplePPVolts, 3),
				quantity.Figures(a.Load.CapacitorRMSAmps, 3),
			),
			true,
		},
		{
			"",
			"Base point",
			fmt.Sprintf("%.0f Hz", a.BaseHertz),
			fmt.Sprintf(
				"volts stay behind above it; at this load the bus leaves %.0f V, good to %.0f Hz",
				a.LoadVolts,
				a.LoadBaseHertz,
			),
			false,
		},
		{
			"",
			"Torque at plate hertz",
			figures(a.PlateTorque, 3, "N·m"),
			fmt.Sprintf("for good, %.0f %% of rated", 100*a.PlateShare),
			false,
		},
		{"", "Shortest stop", stop, "to standstill, without a brake resistor", true},
		brake,
		{
			"",
			"Switch-on",
			fmt.Sprintf("%s A", quantity.Figures(a.Precharge.PeakAmps, 3)),
			"peak, through a usual precharge resistor",
			true,
		},
	}
	if a.Doubler {
		rows[0].Remark += "; it doubles the supply's volts"
		return rows
	}
	if a.Choke.MilliHenry > 0 {
		rows = append(
			rows,
			Row{
				"",
				"With a choke",
				figures(a.Choke.MilliHenry, 2, "mH"),
				"in the dc link: " + choke(a.Choke.With) + "; without " + choke(a.Choke.Bare),
				true,
			},
		)
	}
	if a.Kind == drive.OnePhase || a.Kind == drive.Bus {
		return rows
	}
	return slices.Insert(
		rows,
		1,
		Row{"", "Built for three", three, "schools: " + strings.Join(schools, ", "), true},
		Row{
			"",
			"Left on one phase",
			fmt.Sprintf("%.0f %%", 100*a.Left.Share),
			"by " + a.Left.By + "; " + strings.Join(left, ", "),
			true,
		},
	)
}
