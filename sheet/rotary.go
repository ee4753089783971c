package sheet

import (
	"fmt"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/waveform"
	"brackmoor/core/wiring"
)

// rotary fills in a sheet for a rotary converter.
func (w way) rotary(s *Sheet) error {
	st := w.study
	a, off, err := st.Rotary(w.shop, w.motor.Matters)
	if err != nil {
		return err
	}
	s.Headline = RotaryHeadline(&a, w.hertz())
	s.Verdicts = append(s.Verdicts, a.Verdicts...)
	m := wiring.IdlerMotor{
		Supply:   w.feed(),
		Idler:    quantity.Power(a.IdlerWatts, w.hertz()),
		Overload: "set " + figures(st.Plate.Amps.Value, 3, "A"),
		Motor:    st.Reading.Title,
		Plate:    w.joined(),
		Stops:    stopsOf(st.Reading.Verdicts, a.Verdicts),
	}
	if a.BalanceAC > 0 {
		m.BalanceAC = "balance " + cans(a.Banks.AC.Run)
	}
	if a.BalanceBC > 0 {
		m.BalanceBC = "balance " + cans(a.Banks.BC.Run)
	}
	if a.Idler.StartMicrofarad > 0 {
		m.Start, m.CutOut = "Start "+marks(a.Banks.Start.Start), fmt.Sprintf("out at %.0f rpm", a.Idler.CutOutRPM)
	}
	s.Drawing = wiring.IdlerCircuit(m)
	starts := Section{Title: "Bringing the idler up"}
	for _, way := range a.Starts {
		value := "–"
		if way.Seconds != nil {
			value = seconds(way.Seconds)
		}
		if way.Advised {
			value += ", advised"
		}
		starts.Rows = append(
			starts.Rows,
			Row{Label: way.Title, Value: value, Remark: way.Says, Assumed: way.Seconds != nil},
		)
	}
	volts := Section{Title: "What the meter should say"}
	for _, state := range a.States {
		volts.Rows = append(
			volts.Rows,
			Row{
				Label: state.Title,
				Value: fmt.Sprintf("ab %.0f · bc %.0f · ca %.0f V", state.Volts.AB, state.Volts.BC, state.Volts.CA),
				Remark: fmt.Sprintf(
					"machine %.0f %%, idler %.0f %% of plate amps; supply %s A",
					state.HottestPercent,
					state.IdlerPercent,
					quantity.Figures(state.SupplyAmps, 3),
				),
				Assumed: true,
			},
		)
	}
	s.Sections = append(
		s.Sections,
		Section{"Rotary converter", RotaryRows(&a, off, w.hertz())},
		idlerParts(&a),
		starts,
		volts,
	)
	s.Tables = append(s.Tables, acceptTable(a.Accept))
	return nil
}

// idlerParts are the capacitors of an idler, made up of what is sold.
func idlerParts(a *rotary.Answer) Section {
	s := Section{Title: "Parts of the idler"}
	if a.BalanceAC > 0 {
		s.Rows = append(s.Rows, runRows("", "", "Balance a to c", a.Banks.AC)...)
	}
	if a.BalanceBC > 0 {
		s.Rows = append(s.Rows, runRows("", "", "Balance b to c", a.Banks.BC)...)
	}
	if a.Idler.StartMicrofarad > 0 {
		s.Rows = append(s.Rows, startRows("", "", "Idler’s start", a.Banks.Start)...)
	}
	return s
}

// RotaryHeadline is the answer of a rotary converter in a handful of large figures.
func RotaryHeadline(a *rotary.Answer, hertz float64) []Row {
	usable := Row{"", "Usable", "none", "no load keeps machine and idler within plate amps", true}
	if a.UsableWatts != nil {
		usable.Value, usable.Remark = quantity.Power(*a.UsableWatts, hertz), "all day, no winding past plate amps"
	}
	idler := Row{"", "Idler", quantity.Power(a.IdlerWatts, hertz), "the smallest that does, by the model", true}
	if a.IdlerWatts != a.ModelWatts {
		idler.Remark = "chosen; the model takes " + quantity.Power(a.ModelWatts, hertz)
	} else if !a.ModelReached {
		idler.Remark = "and even it does not do"
	}
	start := Row{"", "Idler’s start", figures(a.Idler.StartMicrofarad, 3, "µF"), "it does not come up", true}
	if a.Idler.Seconds != nil {
		start.Remark = "up in " + seconds(a.Idler.Seconds) + ", then out"
	}
	return []Row{idler,
		{"", "Balance", fmt.Sprintf("%.0f + %.0f µF", a.BalanceAC, a.BalanceBC), "a to c, and b to c", true},
		start,
		{"", "Starts with", quantity.Fixed(a.StartMargin, 1) + " ×", "the torque the machine’s load asks", true},
		usable}
}

// RotaryRows are the figures of a rotary converter.
func RotaryRows(a *rotary.Answer, off waveform.Off, hertz float64) []Row {
	power := func(watts float64) string { return quantity.Power(watts, hertz) }
	var schools []string
	for _, s := range a.Schools {
		schools = append(schools, s.Title+" "+power(s.Watts))
	}
	live := "live while it is watched"
	if off.LiveSeconds != nil {
		live = figures(*off.LiveSeconds, 2, "s")
	}
	up := "it does not come up"
	if a.Idler.Seconds != nil {
		up = fmt.Sprintf(
			"%s motor-start, %s; up in %s, out at %.0f rpm or by a timer at %s",
			marks(a.Banks.Start.Start),
			rated(a.Banks.Start.Volts),
			seconds(a.Idler.Seconds),
			a.Idler.CutOutRPM,
			seconds(a.Idler.TimerSeconds),
		)
	}
	usable := Row{"", "Output left", "none", "no load keeps machine and idler within plate amps", true}
	if a.UsableWatts != nil {
		usable.Value, usable.Remark = power(*a.UsableWatts), "of the machine, no winding past plate amps"
	}
	duty := Row{"", "At its duty", "none", "its windings are too hot in any", true}
	if a.DutyWatts != nil {
		duty.Value, duty.Remark = power(
			*a.DutyWatts,
		), "by the heat of the machine’s windings, the idler within its amps"
	}
	horse := a.IdlerWatts / quantity.WattsPerHorsepower
	balance := func(closed float64, bank capacitor.Bank) string {
		return fmt.Sprintf(
			"%s motor-run, %s; closed form for the idler alone %s; school %.0f–%.0f",
			cans(bank.Run),
			rated(bank.Volts),
			figures(closed, 3, "µF"),
			rotary.BalanceSchool[0]*horse,
			rotary.BalanceSchool[1]*horse,
		)
	}
	e := a.Electronics
	rows := []Row{
		{"", "Idler", power(a.IdlerWatts), "schools: " + strings.Join(schools, ", "), true},
		{"", "Balance a to c", figures(a.BalanceAC, 3, "µF"), balance(a.ClosedAC, a.Banks.AC), true},
		{"", "Balance b to c", figures(a.BalanceBC, 3, "µF"), balance(a.ClosedBC, a.Banks.BC), true},
		{"", "Idler’s start", figures(a.Idler.StartMicrofarad, 3, "µF"), up, true},
		{
			"",
			"Machine starts with",
			quantity.Fixed(a.StartMargin, 1) + " ×",
			fmt.Sprintf(
				"the torque asked, in %s; the made leg dips to %.0f V: a relay that falls back above that brings the "+
					"idler’s start capacitors in again",
				seconds(a.StartSeconds),
				a.StartLowest,
			),
			true,
		},
		usable,
		duty,
		{"", "Left on", figures(a.IdleWatts, 3, "W"), leftOn(a), true},
		{"", "Live after switch-off", live, fmt.Sprintf("up to %.0f V peak", off.PeakVolts), true},
		{
			"",
			"Electronics",
			"from " + e.Pair,
			fmt.Sprintf(
				"on the made leg they would see legs %s %% apart idle, %s loaded, and a dip of %.0f %% while the "+
					"machine starts",
				quantity.Fixed(e.Idle, 1),
				quantity.Fixed(e.Load, 1),
				e.Dip,
			),
			true,
		},
	}
	if t := a.Transformer; t != nil {
		rows = append(
			rows,
			Row{
				"",
				"Transformer",
				fmt.Sprintf("%.0f to %.0f V", t.FromVolts, t.ToVolts),
				fmt.Sprintf(
					"three-phase, behind the converter, %s kVA; an autotransformer of that throughput %s kVA. It "+
						"changes volts only. Figures here are without it",
					quantity.Figures(t.VA/1000, 2),
					quantity.Figures(t.AutoVA/1000, 2),
				),
				true,
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
