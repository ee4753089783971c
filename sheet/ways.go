package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/drive"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/waveform"
	"brackmoor/core/wiring"
)

// way is a motor on its way of being fed, for the sheet.
type way struct {
	shop    shop.Shop
	machine shop.Machine
	motor   shop.Motor
	study   study.Study
}

func (w way) hertz() float64 { return w.study.Input.Supply.Hertz }

// feed words the supply, for a drawing.
func (w way) feed() string {
	return fmt.Sprintf("%.0f V %.0f Hz single phase", w.study.Input.Supply.Volts, w.hertz())
}

// joined words how the motor is joined, for a drawing.
func (w way) joined() string {
	return fmt.Sprintf("joined for %s V", quantity.Figures(w.study.Plate.Volts.Value, 4))
}

// capacitors fills in a sheet for capacitors on the motor alone, a static converter or a
// phase-shifting box.
func (w way) capacitors(s *Sheet) {
	st := w.study
	a := st.Size()
	s.Headline, s.Drawing = Headline(st, &a), Circuit(st, &a)
	s.Verdicts = append(s.Verdicts, a.Live.Verdicts...)
	s.Sections = append(s.Sections, partsSection(&a), runningSection(&a, st.Input))
	if route.Boxed(st.Route()) {
		s.Tables = append(s.Tables, acceptTable(st.Accept(&a)))
		s.Sections = append(s.Sections, boxSection(st.BoxFacts(&a)))
		if hard := route.NeverStatic(st.Input.Load); hard != nil && st.Route() == route.Static {
			s.Verdicts = append(s.Verdicts, *hard)
		}
	}
	s.Sections = append(s.Sections, startSection(&a), protectSection(st, &a))
	if after, err := st.SwitchOff(a.Live.RunMicrofarad); err == nil {
		s.Verdicts = append(s.Verdicts, after.Verdicts...)
	}
}

// boxSection is what must be known of a box that starts, or starts and runs, a motor.
func boxSection(facts []study.Fact) Section {
	rows := []Row{}
	for _, f := range facts {
		rows = append(rows, Row{Label: f.Title, Value: f.Value, Remark: f.Says})
	}
	return Section{"The box", rows}
}

// acceptTable is what is accepted in each state of work, with a box for what was read.
func acceptTable(list []rule.Judged) rule.Table {
	t := rule.Table{Title: "Accepted by state", Head: []string{"State", "Judged by", "Expected", "Accepted", "Read"}, Rows: [][]string{}}
	for _, j := range list {
		expected, accepted := quantity.Figures(j.Value, 3)+" "+j.Unit, "at most "
		if j.Least {
			accepted = "at least "
		}
		accepted += quantity.Figures(j.Limit, 3) + " " + j.Unit
		if j.Rule == "" {
			expected, accepted = j.Unit, "–"
		}
		if !j.Accepted {
			expected += ": not accepted"
		}
		t.Rows = append(t.Rows, []string{j.State, j.Figure, expected, accepted, ""})
	}
	return t
}

// rotary fills in a sheet for a rotary converter.
func (w way) rotary(s *Sheet) error {
	st := w.study
	a, off, err := st.Rotary(w.shop, w.motor.Matters)
	if err != nil {
		return err
	}
	s.Headline = RotaryHeadline(&a, w.hertz())
	s.Verdicts = append(s.Verdicts, a.Verdicts...)
	m := wiring.IdlerMotor{Supply: w.feed(), Idler: quantity.Power(a.IdlerWatts, w.hertz()), Overload: "set " + figures(st.Plate.Amps.Value, 3, "A"), Motor: st.Reading.Title, Plate: w.joined(), Stops: stopsOf(st.Reading.Verdicts, a.Verdicts)}
	if a.BalanceAC > 0 {
		m.BalanceAC = "balance " + figures(a.BalanceAC, 3, "µF")
	}
	if a.BalanceBC > 0 {
		m.BalanceBC = "balance " + figures(a.BalanceBC, 3, "µF")
	}
	if a.Idler.StartMicrofarad > 0 {
		m.Start, m.CutOut = "Start "+figures(a.Idler.StartMicrofarad, 3, "µF"), fmt.Sprintf("out at %.0f rpm", a.Idler.CutOutRPM)
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
		starts.Rows = append(starts.Rows, Row{Label: way.Title, Value: value, Remark: way.Says, Assumed: way.Seconds != nil})
	}
	volts := Section{Title: "What the meter should say"}
	for _, state := range a.States {
		volts.Rows = append(volts.Rows, Row{Label: state.Title, Value: fmt.Sprintf("ab %.0f · bc %.0f · ca %.0f V", state.Volts.AB, state.Volts.BC, state.Volts.CA),
			Remark: fmt.Sprintf("machine %.0f %%, idler %.0f %% of plate amps; supply %s A", state.HottestPercent, state.IdlerPercent, quantity.Figures(state.SupplyAmps, 3)), Assumed: true})
	}
	s.Sections = append(s.Sections, Section{"Rotary converter", RotaryRows(&a, off, w.hertz())}, starts, volts)
	s.Tables = append(s.Tables, acceptTable(a.Accept))
	return nil
}

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
	m := wiring.DriveMotor{Supply: w.feed(), Drive: power(a.RatingWatts), Feed: "", Motor: st.Reading.Title, Plate: w.joined(), Stops: stopsOf(st.Reading.Verdicts, a.Verdicts)}
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
	settings := rule.Table{Title: "Drive settings", Head: []string{"Setting", "Set to", "Why; how it often comes", "Was", "Is now", "Date", "Hand"}, Rows: [][]string{}}
	profile := drive.Among(w.shop.Profiles, w.motor.Way.Profile).Name
	if profile != "" {
		settings.Source = profile
		settings.Head = []string{"Setting", "Set to", "Parameter", "Write", "Why; how it often comes", "Was", "Is now", "Date", "Hand"}
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

// singlePhase fills in a sheet for a single-phase motor in the machine's place.
func (w way) singlePhase(s *Sheet) {
	st := w.study
	r := route.SinglePhase(w.motor.Matters.Into(st.Question(w.shop)))
	s.Headline = SinglePhaseHeadline(st, &r)
	s.Verdicts = append(s.Verdicts, r.Verdicts...)
	s.Drawing = wiring.SinglePhaseCircuit(wiring.SinglePhaseMotor{Supply: w.feed(), Overload: "set " + figures(r.Sizes["motor_amps"], 3, "A"), Motor: st.Reading.Title,
		Plate: quantity.Figures(st.Plate.RPM.Value, 4) + " rpm", Stops: stopsOf(st.Reading.Verdicts, r.Verdicts)})
	s.Sections = append(s.Sections, Section{"Single-phase motor", SinglePhaseRows(st, &r)})
}

// compare sets the ways of feeding the machine side by side: those that are kept in
// columns, or else all of them in a line each.
func (w way) compare(s *Sheet) {
	a := route.Compare(w.motor.Matters.Into(w.study.Question(w.shop)))
	taken, kept := w.study.Route(), w.motor.Way.Kept
	s.Sections = append(s.Sections, w.routeSection(a, taken))
	for i := range a.Routes {
		if r := &a.Routes[i]; r.Name == taken {
			for _, v := range r.Verdicts {
				if strings.HasPrefix(v.Rule, "route.") && !slices.ContainsFunc(s.Verdicts, func(had rule.Verdict) bool { return had.Rule == v.Rule }) {
					s.Verdicts = append(s.Verdicts, v)
				}
			}
		}
	}
	if len(kept) == 0 {
		return
	}
	columns := []route.Route{}
	for _, name := range append([]string{taken}, kept...) {
		if i := slices.IndexFunc(a.Routes, func(r route.Route) bool { return r.Name == name }); i >= 0 {
			columns = append(columns, a.Routes[i])
		}
	}
	t := rule.Table{Title: "Kept side by side", Head: []string{"Figure"}, Rows: [][]string{}}
	for _, r := range columns {
		t.Head = append(t.Head, r.Title)
	}
	for _, row := range route.Figures(w.hertz()) {
		cells := []string{row.Title}
		for i := range columns {
			cells = append(cells, row.Show(&columns[i]))
		}
		t.Rows = append(t.Rows, cells)
	}
	s.Tables = append(s.Tables, t)
}

// routeSection is the ways of feeding the machine, the best first, and says so where
// this sheet is for another than the best.
func (w way) routeSection(a route.Answer, taken string) Section {
	s := Section{Title: "Ways of feeding it"}
	if a.Recommended != "" && a.Recommended != taken {
		s.Rows = append(s.Rows, Row{Label: "Mind", Value: "not the best", Remark: "This sheet is for another way than the one that stands first by what matters here: " + rule.InSentence(a.Routes[0].Title) + "."})
	}
	for _, r := range a.Routes {
		left := "none left"
		if r.UsableWatts != nil {
			left = quantity.PowerRange(r.UsableWatts[0], r.UsableWatts[1], w.hertz())
		}
		why := "fits"
		if !r.Fits {
			why = "does not fit"
		}
		if len(r.Why) > 0 {
			why += ": " + strings.Join(r.Why, "; ")
		}
		title := r.Title
		if r.Name == taken {
			title += ", this sheet"
		}
		s.Rows = append(s.Rows, Row{"", title, left, fmt.Sprintf("%.0f a year; %s", r.Cost.PerYear, why), true})
	}
	return s
}

// power prints the output of a drive, as drives are sold.
func power(watts float64) string { return quantity.Figures(watts/1000, 3) + " kW" }

// DriveHeadline is the answer of a drive in a handful of large figures.
func DriveHeadline(a *drive.Answer) []Row {
	rating := Row{"", "Drive", power(a.RatingWatts), fmt.Sprintf("%s A or more at its output", quantity.Figures(a.OutputAmps, 3)), false}
	if !a.Covered {
		rating.Value, rating.Remark = "none", "no standard drive has enough on one phase"
	}
	bus := Row{"", "Bus", figures(a.Load.BusMeanVolts, 3, "V"), fmt.Sprintf("at the load, %s V of ripple", quantity.Figures(a.Load.RipplePPVolts, 2)), true}
	switch {
	case a.Doubler:
		bus.Remark = "twice the supply’s, at the load"
	case a.Kind == drive.Bus:
		bus = Row{"", "Choke", figures(a.Choke.MilliHenry, 2, "mH"), fmt.Sprintf("in the dc link, for %s A", quantity.Figures(a.LoadWatts/math.Max(a.Load.BusMeanVolts, 1), 2)), true}
	case a.Kind != drive.OnePhase:
		bus = Row{"", "One phase leaves", fmt.Sprintf("%.0f %%", 100*a.Left.Share), "of its rating, by " + a.Left.By, true}
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
	return []Row{rating,
		{"", "Takes", figures(a.Load.InputRMSAmps, 3, "A"), fmt.Sprintf("at the load; %s A peak", quantity.Figures(a.Load.InputPeakAmps, 3)), true},
		bus,
		{"", "Base point", figures(a.BaseHertz, 3, "Hz"), fmt.Sprintf("there %s N·m for good", quantity.Figures(top.TorqueNm, 3)), false},
		{"", "Shortest stop", stop, "without a brake resistor", true}}
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
		return fmt.Sprintf("%s A, %s A peak, THD %.0f %%", quantity.Figures(k.Amps, 3), quantity.Figures(k.Peak, 3), k.THD)
	}
	brake := Row{"", "Brake resistor", "none", "the bus takes a usual stop", true}
	if b := a.Brake; b != nil {
		brake.Value = "≤ " + figures(b.MostOhm, 3, "Ω")
		brake.Remark = fmt.Sprintf("for a stop in %s s: %.0f W at first, %.0f W in the mean; out of reach, guarded, hot", quantity.Figures(b.Seconds, 2), b.PeakWatts, b.MeanWatts)
	}
	rows := []Row{
		{"", "Built for one phase", power(a.OnePhaseWatts), fmt.Sprintf("%s A or more at its output", quantity.Figures(a.OutputAmps, 3)), false},
		{"", "Takes at the load", fmt.Sprintf("%s A", quantity.Figures(a.Load.InputRMSAmps, 3)), fmt.Sprintf("%s A peak, power factor %s, THD %.0f %%", quantity.Figures(a.Load.InputPeakAmps, 3), quantity.Fixed(a.Load.TruePowerFactor, 2), a.Load.InputTHDPercent), true},
		{"", "Bus", fmt.Sprintf("%.0f V", a.Load.BusMeanVolts), fmt.Sprintf("%s V ripple, %s A through its capacitors", quantity.Figures(a.Load.RipplePPVolts, 3), quantity.Figures(a.Load.CapacitorRMSAmps, 3)), true},
		{"", "Base point", fmt.Sprintf("%.0f Hz", a.BaseHertz), fmt.Sprintf("volts stay behind above it; at this load the bus leaves %.0f V, good to %.0f Hz", a.LoadVolts, a.LoadBaseHertz), false},
		{"", "Torque at plate hertz", figures(a.PlateTorque, 3, "N·m"), fmt.Sprintf("for good, %.0f %% of rated", 100*a.PlateShare), false},
		{"", "Shortest stop", stop, "to standstill, without a brake resistor", true},
		brake,
		{"", "Switch-on", fmt.Sprintf("%s A", quantity.Figures(a.Precharge.PeakAmps, 3)), "peak, through a usual precharge resistor", true},
	}
	if a.Doubler {
		rows[0].Remark += "; it doubles the supply's volts"
		return rows
	}
	if a.Choke.MilliHenry > 0 {
		rows = append(rows, Row{"", "With a choke", figures(a.Choke.MilliHenry, 2, "mH"), "in the dc link: " + choke(a.Choke.With) + "; without " + choke(a.Choke.Bare), true})
	}
	if a.Kind == drive.OnePhase || a.Kind == drive.Bus {
		return rows
	}
	return slices.Insert(rows, 1, Row{"", "Built for three", three, "schools: " + strings.Join(schools, ", "), true},
		Row{"", "Left on one phase", fmt.Sprintf("%.0f %%", 100*a.Left.Share), "by " + a.Left.By + "; " + strings.Join(left, ", "), true})
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
		up = fmt.Sprintf("up in %s, out at %.0f rpm or by a timer at %s", seconds(a.Idler.Seconds), a.Idler.CutOutRPM, seconds(a.Idler.TimerSeconds))
	}
	usable := Row{"", "Output left", "none", "no load keeps machine and idler within plate amps", true}
	if a.UsableWatts != nil {
		usable.Value, usable.Remark = power(*a.UsableWatts), "of the machine, no winding past plate amps"
	}
	duty := Row{"", "At its duty", "none", "its windings are too hot in any", true}
	if a.DutyWatts != nil {
		duty.Value, duty.Remark = power(*a.DutyWatts), "by the heat of the machine’s windings, the idler within its amps"
	}
	horse := a.IdlerWatts / quantity.WattsPerHorsepower
	balance := func(closed float64) string {
		return fmt.Sprintf("closed form for the idler alone %s; school %.0f–%.0f", figures(closed, 3, "µF"), rotary.BalanceSchool[0]*horse, rotary.BalanceSchool[1]*horse)
	}
	e := a.Electronics
	rows := []Row{
		{"", "Idler", power(a.IdlerWatts), "schools: " + strings.Join(schools, ", "), true},
		{"", "Balance a to c", figures(a.BalanceAC, 3, "µF"), balance(a.ClosedAC), true},
		{"", "Balance b to c", figures(a.BalanceBC, 3, "µF"), balance(a.ClosedBC), true},
		{"", "Idler’s start", figures(a.Idler.StartMicrofarad, 3, "µF"), up, true},
		{"", "Machine starts with", quantity.Fixed(a.StartMargin, 1) + " ×", fmt.Sprintf("the torque asked, in %s; the made leg dips to %.0f V: a relay that falls back above that brings the idler’s start capacitors in again", seconds(a.StartSeconds), a.StartLowest), true},
		usable, duty,
		{"", "Left on", figures(a.IdleWatts, 3, "W"), leftOn(a), true},
		{"", "Live after switch-off", live, fmt.Sprintf("up to %.0f V peak", off.PeakVolts), true},
		{"", "Electronics", "from " + e.Pair, fmt.Sprintf("on the made leg they would see legs %s %% apart idle, %s loaded, and a dip of %.0f %% while the machine starts", quantity.Fixed(e.Idle, 1), quantity.Fixed(e.Load, 1), e.Dip), true},
	}
	if t := a.Transformer; t != nil {
		rows = append(rows, Row{"", "Transformer", fmt.Sprintf("%.0f to %.0f V", t.FromVolts, t.ToVolts), fmt.Sprintf("three-phase, behind the converter, %s kVA; an autotransformer of that throughput %s kVA. It changes volts only. Figures here are without it", quantity.Figures(t.VA/1000, 2), quantity.Figures(t.AutoVA/1000, 2)), true})
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
		return fmt.Sprintf("%s; switched off between jobs it saves that, up to %.0f starts an hour (its start capacitors, IEC 60252-2)", text, n)
	default:
		return fmt.Sprintf("%s; switched off between jobs it saves that, up to %.0f starts an hour (its windings)", text, n)
	}
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

// SinglePhaseHeadline is a single-phase motor in a handful of large figures.
func SinglePhaseHeadline(st study.Study, r *route.Route) []Row {
	return []Row{
		{"", "Motor", st.Reading.Title, "single phase, in the machine’s place", false},
		{"", "Takes", figures(r.Sizes["motor_amps"], 3, "A"), "at full output: W over V·pf·eff", true},
		{"", "Starting", figures(*r.SupplyAmps.Starting, 3, "A"), "about five times as much", true},
		{"", "Starts with", quantity.Fixed(*r.Margin, 1) + " ×", "the torque the load asks", true},
		{"", "Speed", figures(st.Plate.RPM.Value, 4, "rpm"), "as near to the old one as is made", false},
	}
}

// SinglePhaseRows are its figures and what must fit.
func SinglePhaseRows(st study.Study, r *route.Route) []Row {
	amps := r.Sizes["motor_amps"]
	by := "125 % of the motor’s amps"
	if table := r.Sizes["table_amps"]; table > amps {
		by = fmt.Sprintf("125 %% of %s A, the table’s: NEC 430.22, 430.248 (US, 2023)", quantity.Figures(table, 3))
	}
	load := "–"
	if r.SupplyAmps.Load != nil {
		load = figures(*r.SupplyAmps.Load, 3, "A")
	}
	return []Row{
		{"", "At its load", load, "power factor and efficiency of a usual capacitor-run motor", true},
		{"", "Conductors for", figures(r.Sizes["conductor_amps"], 3, "A"), by, true},
		{"", "Overload set to", figures(amps, 3, "A"), "in one supply line at least; the plate amps of the motor bought take its place", true},
		{"", "Poles", quantity.Figures(st.Plate.Poles.Value, 2), "so that pulleys and gears may stay", false},
		{"", "Must fit", st.Plate.Plate.Frame, "frame or flange, shaft diameter and key, height; room for its capacitors’ humps", false},
		{"", "Turn it round", "at standstill", route.Reversal(r.Name), false},
		{"", "Leaves unsolved", "", strings.Join(r.Unsolved, "; "), false},
	}
}
