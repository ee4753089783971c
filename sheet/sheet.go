// Package sheet makes what leaves the product on paper or as a file: the job
// sheet, its PDF, and drawings as SVG.
package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/route"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/wiring"
)

// Row is one line of a section: what, the figure, and a remark. Assumed marks
// a figure that rests on a table; Figure names its working, if it has one.
type Row struct {
	Figure  string `json:"figure"`
	Label   string `json:"label"`
	Value   string `json:"value"`
	Remark  string `json:"remark"`
	Assumed bool   `json:"assumed"`
}

// Section is a block of rows.
type Section struct {
	Title string `json:"title"`
	Rows  []Row  `json:"rows" nullable:"false"`
}

// Sheet is the job sheet of one motor, ready to be shown or printed.
type Sheet struct {
	ShopID    string          `json:"shop_id"`
	MachineID string          `json:"machine_id"`
	Shop      string          `json:"shop"`
	Machine   string          `json:"machine"`
	Route     string          `json:"route"` // its title
	Motor     string          `json:"motor"`
	Supply    string          `json:"supply"`
	Headline  []Row           `json:"headline" nullable:"false"`
	Sections  []Section       `json:"sections" nullable:"false"`
	Tables    []rule.Table    `json:"tables" nullable:"false"`
	Verdicts  []rule.Verdict  `json:"verdicts" nullable:"false"`
	Cautions  []rule.Verdict  `json:"cautions" nullable:"false"`
	Drawing   wiring.Drawing  `json:"drawing"`
	Box       *wiring.Drawing `json:"box"` // the terminal box, where the leads are known
	Mine      []Tick          `json:"mine" nullable:"false"`
	Footer    string          `json:"footer"`
}

// Tick is an item of the checklist with its box.
type Tick struct {
	Says   string `json:"says"`
	Ticked bool   `json:"ticked"`
}

// figures prints a value with its unit.
func figures(value float64, n int, unit string) string {
	return quantity.Figures(value, n) + " " + unit
}

// Parts words the cans of the run bank.
func runParts(a *capacitor.Answer) string { return cans(a.RunParts.Parts) }

func startParts(a *capacitor.Answer) string {
	if a.Live.StartMicrofarad <= 0 {
		return "none"
	}
	return marks(a.StartParts)
}

// cans words motor-run capacitors in parallel, marks motor-start ones.
func cans(list []float64) string {
	parts := make([]string, len(list))
	for i, p := range list {
		parts[i] = quantity.Figures(p, 3)
	}
	return inParallel(parts)
}

func marks(list []capacitor.StartPart) string {
	parts := make([]string, len(list))
	for i, p := range list {
		parts[i] = mark(p)
	}
	return inParallel(parts)
}

func mark(p capacitor.StartPart) string { return fmt.Sprintf("%.0f–%.0f", p.Low, p.High) }

func inParallel(parts []string) string {
	if len(parts) == 0 {
		return "none"
	}
	return strings.Join(parts, " + ") + " µF"
}

func rated(r capacitor.Rating) string {
	if r.Rated == 0 {
		return fmt.Sprintf("no standard rating covers %.0f V ac", r.Needed)
	}
	return figures(r.Rated, 3, "V ac")
}

func bleeds(list []capacitor.Bleed) string {
	var parts []string
	for i, b := range list {
		text := fmt.Sprintf("%s kΩ %s W", quantity.Figures(b.Ohms/1000, 3), quantity.Figures(b.Watts, 2))
		if i > 0 && text == parts[len(parts)-1] {
			continue
		}
		parts = append(parts, text)
	}
	return strings.Join(parts, ", ")
}

// Circuit draws the motor on its capacitors.
func Circuit(st study.Study, a *capacitor.Answer) wiring.Drawing {
	in := st.Input
	m := wiring.CapacitorMotor{
		Supply: fmt.Sprintf("%.0f V %.0f Hz single phase", in.Supply.Volts, in.Supply.Hertz), Line: a.Direction.Line,
		Overload: "set " + figures(a.Overload.Amps, 3, "A"),
		Motor:    st.Reading.Title, Plate: fmt.Sprintf("joined for %s V", quantity.Figures(in.Plate.Volts.Value, 4)),
	}
	m.Stops = stopsOf(st.Reading.Verdicts, a.Live.Verdicts)
	if a.Live.RunMicrofarad > 0 {
		m.Run, m.RunBleed = "Run "+runParts(a)+" "+rated(a.RunVolts), "bleed on each: "+bleeds(a.RunBleeds)
	}
	if a.Live.StartMicrofarad > 0 {
		m.Start, m.StartBleed = "Start "+startParts(a)+" "+rated(a.StartVolts), "bleed on each: "+bleeds(a.StartBleeds)
		m.CutOut = fmt.Sprintf("contact opens at %.0f rpm", a.Live.CutOutRPM)
	}
	return wiring.CapacitorCircuit(m)
}

// stopsOf words the stops among verdicts, for a drawing.
func stopsOf(lists ...[]rule.Verdict) (stops []string) {
	for _, v := range slices.Concat(lists...) {
		if v.Severity == rule.Stop {
			stops = append(stops, v.Title+". "+v.Says)
		}
	}
	return stops
}

// Headline is the answer in a handful of large figures, the same on screen and
// sheet. Label, value, remark.
func Headline(st study.Study, a *capacitor.Answer) []Row {
	l := &a.Live
	hertz := st.Input.Supply.Hertz
	assumed := len(st.Reading.Assumed) > 0
	usable := Row{"usable", "Usable", "none", "some winding is past plate amps at every load", assumed}
	if u := l.Usable; u != nil {
		usable.Value, usable.Remark = quantity.Power(u.HighWatts, hertz), "all day, no winding past plate amps"
		if u.ExcludesIdling(st.Plate.Output.Value) {
			usable.Value = quantity.PowerRange(u.LowWatts, u.HighWatts, hertz)
			usable.Remark = "below it, too, a winding passes plate amps"
		}
	}
	start := Row{"start", "Start", "none", "it starts on the run capacitor", assumed}
	if l.StartMicrofarad > 0 {
		start.Value, start.Remark = figures(
			l.StartMicrofarad,
			3,
			"µF",
		), fmt.Sprintf(
			"%s, out at %.0f rpm",
			startParts(a),
			l.CutOutRPM,
		)
	} else if l.OverBreakaway < 1 {
		start.Remark = "and it does not start without one"
	}
	run := Row{"run", "Run", figures(l.RunMicrofarad, 3, "µF"), runParts(a) + ", " + rated(a.RunVolts), assumed}
	if l.RunMicrofarad <= 0 {
		run.Value, run.Remark = "none", "two bare legs once started"
	}
	turn := Row{
		"direction",
		"Turn it round",
		a.Direction.Line + " → " + a.Direction.Other,
		"move the capacitor's lead",
		false,
	}
	if route.Boxed(st.Route()) {
		turn.Value, turn.Remark = "2 leads", "of the motor, exchanged behind the box"
	}
	return []Row{run, start,
		{"starts", "Starts with", quantity.Fixed(l.OverBreakaway, 1) + " ×", "the torque the load asks", assumed},
		usable, turn,
	}
}

// Of makes the job sheet of a motor whose reading is sound, for the route it is to take.
// What cannot be worked out of a route, such as a front end without a steady state, is
// an error.
func Of(s shop.Shop, m shop.Machine, motor shop.Motor, st study.Study) (Sheet, error) {
	st = st.On()
	sheet := Sheet{
		ShopID:    s.ID,
		MachineID: m.ID,
		Shop:      s.Name,
		Machine:   m.Name,
		Motor:     motor.Name,
		Route:     route.Titles[st.Route()],
		Tables:    []rule.Table{},
		Supply:    fmt.Sprintf("%.0f V · %.0f Hz · %.0f A main", s.Supply.Volts, s.Supply.Hertz, s.Supply.MainAmps),
		Verdicts:  append([]rule.Verdict{}, st.Reading.Verdicts...),
		Footer: "This is mains voltage. Local code, permit and inspection, and a licensed electrician where one " +
			"is wanted, have the last word.",
	}
	sheet.Cautions = route.Cautions(st.Route())
	for _, item := range shop.Checklist {
		sheet.Mine = append(sheet.Mine, Tick{item.Says, contains(motor.Mine, item.Name)})
	}
	sheet.Sections = []Section{plateSection(st, motor.Plate)}
	w := way{shop: s, machine: m, motor: motor, study: st}
	var err error
	switch name := st.Route(); {
	case route.OfCapacitors(name):
		w.capacitors(&sheet)
	case name == route.Rotary:
		err = w.rotary(&sheet)
	case route.OfDrives(name):
		err = w.drive(&sheet)
	default:
		w.singlePhase(&sheet)
	}
	if err != nil {
		return Sheet{}, err
	}
	w.compare(&sheet)
	if !motor.Leads.Blank() {
		sheet.Box = st.Box(motor)
		sheet.Sections = append(sheet.Sections, leadsSection(st, motor))
		sheet.Verdicts = append(withoutStops(st.LeadVerdicts()), sheet.Verdicts...)
		sheet.Cautions = append(sheet.Cautions, rule.Standing("leads.star-point"))
	}
	// What stands on every sheet of the route is said once.
	sheet.Verdicts = rule.Sorted(slices.DeleteFunc(sheet.Verdicts, func(v rule.Verdict) bool {
		return slices.ContainsFunc(sheet.Cautions, func(c rule.Verdict) bool { return c.Rule == v.Rule })
	}))
	return sheet, nil
}

func contains(list []string, name string) bool {
	for _, item := range list {
		if item == name {
			return true
		}
	}
	return false
}

func plateSection(st study.Study, typed plate.Typed) Section {
	f := st.Plate
	row := func(label, value string, origin rule.Origin, source string) Row {
		return Row{"", label, value, source, origin == rule.Assumed}
	}
	var rest []string
	for i, text := range typed.Texts() {
		if text = strings.TrimSpace(text); text != "" {
			rest = append(rest, plate.RestFields[i].Title+": "+text)
		}
	}
	s := Section{
		"Plate, as joined",
		[]Row{
			row("Output", st.Reading.Title, f.Output.Origin, ""),
			row("Volts", figures(f.Volts.Value, 4, "V")+" "+f.Connection, f.ConnectionBy, ""),
			row("Amps", figures(f.Amps.Value, 3, "A"), f.Amps.Origin, remark(f.Amps.Origin, f.Amps.Source)),
			row(
				"Speed",
				figures(f.RPM.Value, 4, "rpm"),
				f.RPM.Origin,
				fmt.Sprintf("%.0f poles, %.0f Hz", f.Poles.Value, f.Hertz.Value),
			),
			row(
				"Power factor",
				quantity.Fixed(f.PowerFactor.Value, 2),
				f.PowerFactor.Origin,
				remark(f.PowerFactor.Origin, f.PowerFactor.Source),
			),
			row(
				"Efficiency",
				figures(100*f.Efficiency.Value, 3, "%"),
				f.Efficiency.Origin,
				remark(f.Efficiency.Origin, f.Efficiency.Source),
			),
			row(
				"Service factor",
				quantity.Fixed(f.ServiceFactor.Value, 2),
				f.ServiceFactor.Origin,
				remark(f.ServiceFactor.Origin, f.ServiceFactor.Source),
			),
		},
	}
	if len(rest) > 0 {
		s.Rows = append(s.Rows, Row{Label: "Also on the plate", Remark: strings.Join(rest, "; ")})
	}
	return s
}

func remark(origin rule.Origin, source string) string {
	if origin == rule.Stated {
		return ""
	}
	return string(origin) + ": " + source
}

func partsSection(a *capacitor.Answer) Section {
	run := runRows(
		"capacitor-volts",
		"bleed.run",
		"Run capacitor",
		capacitor.Bank{Run: a.RunParts.Parts, Volts: a.RunVolts, Bleeds: a.RunBleeds},
	)
	start := []Row{{"start", "Start capacitor", "none", "not needed for this load", false}}
	if a.Live.StartMicrofarad > 0 {
		start = startRows(
			"start",
			"bleed.start",
			"Start capacitor",
			capacitor.Bank{Start: a.StartParts, Volts: a.StartVolts, Bleeds: a.StartBleeds},
		)
	}
	return Section{"Parts", append(run, start...)}
}

// runRows are a bank of motor-run capacitors and the bleed on each, startRows one of
// motor-start ones. What has no working to open goes without a figure's name.
func runRows(figure, bleeds, label string, b capacitor.Bank) []Row {
	rows := []Row{{figure, label, cans(b.Run), "motor-run, " + rated(b.Volts) + ", continuous", false}}
	for i, bleed := range b.Bleeds {
		rows = append(rows, bleedRow(numbered(bleeds, i), quantity.Figures(b.Run[i], 3)+" µF run", bleed))
	}
	return rows
}

func startRows(figure, bleeds, label string, b capacitor.Bank) []Row {
	rows := []Row{{figure, label, marks(b.Start), "motor-start, " + rated(b.Volts) + ", seconds only", false}}
	for i, bleed := range b.Bleeds {
		rows = append(rows, bleedRow(numbered(bleeds, i), mark(b.Start[i])+" µF start", bleed))
	}
	return rows
}

// numbered names the working of one of several figures.
func numbered(figure string, i int) string {
	if figure == "" {
		return ""
	}
	return fmt.Sprintf("%s.%d", figure, i)
}

func bleedRow(figure, what string, b capacitor.Bleed) Row {
	return Row{
		figure,
		"Bleed on " + what,
		fmt.Sprintf("%s kΩ %s W", quantity.Figures(b.Ohms/1000, 3), quantity.Figures(b.Watts, 2)),
		fmt.Sprintf("rated %.0f V; %.0f V after %.1f s, then prove it", b.RatedVolts, b.SafeVolts, b.Seconds),
		false,
	}
}

func runningSection(a *capacitor.Answer, in capacitor.Input) Section {
	l := &a.Live
	state := func(label string, s capacitor.State) Row {
		return Row{
			"",
			label,
			fmt.Sprintf("ab %.0f · bc %.0f · ca %.0f V", s.Volts.AB, s.Volts.BC, s.Volts.CA),
			fmt.Sprintf(
				"%s; lines a %s · b %s · c %s A; hottest winding %.0f %% of plate amps",
				s.Motor,
				quantity.Figures(s.LineAmps.A, 3),
				quantity.Figures(s.LineAmps.B, 3),
				quantity.Figures(s.LineAmps.C, 3),
				s.HottestPercent,
			),
			false,
		}
	}
	return Section{
		"What the meter should say",
		[]Row{
			state(
				"Idle",
				l.Idle,
			),
			state(fmt.Sprintf("At %.0f %% load", 100*l.LoadShare), l.Load),
			state("At full plate output", l.Full),
			{
				"feed",
				"From the supply",
				fmt.Sprintf(
					"%s A idle, %s A at the load",
					quantity.Figures(a.Feed.IdleAmps, 3),
					quantity.Figures(a.Feed.LoadAmps, 3),
				),
				fmt.Sprintf(
					"%s A full, %s A starting; breaker and conductor by the local code",
					quantity.Figures(a.Feed.FullAmps, 3),
					quantity.Figures(a.Feed.StartingAmps, 3),
				),
				false,
			},
			{
				"",
				"Kind of load",
				in.Load.Title,
				fmt.Sprintf("breakaway taken as %.0f %% of rated torque", 100*in.Load.BreakawayShare),
				true,
			},
		},
	}
}

// startSection is the start, its heat, and a session of the duty.
func startSection(a *capacitor.Answer) Section {
	return Section{"Starting and heat", append(StartRows(&a.Live), HeatRows(&a.Live)...)}
}

func seconds(s *float64) string {
	if s == nil {
		return "never"
	}
	return figures(*s, 2, "s")
}

// StartRows are the figures of a start, the same on screen and sheet.
func StartRows(l *capacitor.Live) []Row {
	up := &l.RunUp
	s := up.Shaft
	assumed := s.Origin == rule.Assumed
	rows := []Row{
		{
			"run-up",
			"To speed",
			seconds(up.Seconds),
			fmt.Sprintf("up to %s A from the supply", quantity.Figures(up.PeakSupply, 3)),
			assumed,
		},
	}
	if l.StartMicrofarad > 0 {
		out := Row{"cut-out", "Start out", fmt.Sprintf("%.0f rpm", l.CutOutRPM), "it never gets there", assumed}
		if up.CutOutSeconds != nil {
			out.Remark = fmt.Sprintf("after %s; a timer at %s", seconds(up.CutOutSeconds), seconds(up.TimerSeconds))
		}
		rows = append(rows, out)
		if r := up.Relay; r.PickUp != nil {
			rows = append(
				rows,
				Row{
					"",
					"Potential relay",
					fmt.Sprintf("%.0f V", *r.PickUp),
					fmt.Sprintf("c to %s: %.0f V standing, %.0f up to speed", r.Line, r.Standing, r.Running),
					assumed,
				},
			)
		}
	}
	if up.Seconds != nil {
		many := Row{
			"starts-per-hour",
			"Starts an hour",
			quantity.Fixed(math.Floor(up.StartsPerHour), 0),
			fmt.Sprintf("%s K in a winding each", quantity.Figures(up.RiseK, 2)),
			true,
		}
		if up.StartsPerHour < 1 {
			many.Value = "none warm"
		}
		rows = append(rows, many)
	}
	return append(rows, Row{"inertia", "Inertia", figures(s.RotorKgm2+s.LoadKgm2, 2, "kg·m²"), s.Source, assumed})
}

// HeatRows are the figures of a session, the same on screen and sheet.
func HeatRows(l *capacitor.Live) []Row {
	h := &l.Session
	if h.HottestC == 0 {
		return []Row{{"", "Hottest winding", "–", "it does not carry this load", false}}
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
	usable := Row{
		"usable-duty",
		"Usable at this duty",
		"none",
		fmt.Sprintf("class %s bears %.0f °C", h.Thermal.Class, h.Thermal.LimitC),
		true,
	}
	if h.UsableWatts != nil {
		usable.Value = quantity.Power(*h.UsableWatts, l.Hertz)
	}
	return []Row{
		{"session", "Hottest winding", fmt.Sprintf("%.0f °C", h.HottestC), duty, true},
		{
			"session",
			"Frame shows",
			fmt.Sprintf("%.0f °C", h.FrameC),
			fmt.Sprintf("in air of %.0f °C", h.Thermal.AmbientC),
			true,
		},
		usable,
	}
}

func protectSection(st study.Study, a *capacitor.Answer) Section {
	o, reverse := a.Overload, a.Direction.Reverse
	if route.Boxed(st.Route()) {
		reverse = "to turn it round, " + route.Reversal(st.Route())
	}
	return Section{
		"Overload and direction",
		[]Row{
			{"overload", "Overload set to", figures(o.Amps, 3, "A"), "in " + o.Lines, false},
			{
				"overload",
				"Code ceiling",
				figures(o.MostAmps, 3, "A"),
				fmt.Sprintf("%.0f %% of plate amps, NEC 430.32 (US, 2023)", o.Percent),
				false,
			},
			{
				"direction",
				"Capacitors on",
				"line " + a.Direction.Line + " and made leg c",
				"turns " + a.Direction.Sense + "; " + reverse,
				false,
			},
		},
	}
}
