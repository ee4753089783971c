// Package study takes one motor on one supply from its typed plate to its
// circuit and its answers. It stands on top of the core: every screen, sheet
// and command that speaks of a motor asks it.
package study

import (
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/supply"
)

// Hint is what a plate field stands for when it was left empty, or how a
// typed one was understood.
type Hint struct {
	Text   string      `json:"text"`
	Origin rule.Origin `json:"origin"`
	Source string      `json:"source"`
}

// Reading is a plate as understood: problems by field, hints by field, and
// verdicts. Sound says that a circuit was found, so that answers can be had.
type Reading struct {
	Problems   []plate.Problem   `json:"problems" nullable:"false"`
	Hints      map[string]Hint   `json:"hints"`
	Choices    []plate.Choice    `json:"choices" nullable:"false"`
	Verdicts   []rule.Verdict    `json:"verdicts" nullable:"false"`
	Sound      bool              `json:"sound"`
	Title      string            `json:"title"` // such as "3 hp"
	Residuals  []motor.Residual  `json:"residuals" nullable:"false"`
	Parameters []motor.Parameter `json:"parameters" nullable:"false"`
	Assumed    []string          `json:"assumed" nullable:"false"` // fields that rest on tables
	Delta      bool              `json:"delta"`                    // the windings lie between lines
	Learned    string            `json:"learned"`                  // from what its circuit was learned, "" for its plate
}

// Study is a motor ready to be asked.
type Study struct {
	Reading Reading
	Plate   plate.Filled
	Machine machine.Machine

	found   found
	service plate.Supply
	motor   shop.Motor
	line    []rule.Verdict // of the motor across the supply's lines
}

// Fitter finds the circuit of a target: motor.FitCircuit, or one that
// remembers.
type Fitter func(motor.Target) (motor.Fit, error)

// Of studies a motor on a supply; a shop's own kinds of load count beside the usual ones.
func Of(s supply.Supply, m shop.Motor, fitter Fitter, own ...load.Kind) Study {
	var st Study
	read, problems := plate.Read(m.Plate)
	st.Reading = Reading{
		Problems:   problems,
		Hints:      map[string]Hint{},
		Choices:    []plate.Choice{},
		Verdicts:   []rule.Verdict{},
		Residuals:  []motor.Residual{},
		Parameters: []motor.Parameter{},
		Assumed:    []string{},
	}
	r := &st.Reading
	if r.Problems == nil {
		r.Problems = []plate.Problem{}
	}
	if read.OutputWatts > 0 {
		hertz := read.Hertz
		if hertz == 0 {
			hertz = s.Hertz
		}
		r.Title = read.Power(read.OutputWatts, hertz)
	}
	inTheWay := slices.ContainsFunc(problems, func(p plate.Problem) bool { return !plate.InRest(p.Field) })
	service := plate.Supply{Volts: s.Volts, Hertz: s.Hertz}
	st.service = service
	st.found = leadsOf(m, &read)
	filled, missing := plate.Fill(read, service)
	for _, p := range missing {
		if blank(m.Plate, p.Field) || !inTheWay {
			r.Problems = append(r.Problems, p)
		}
	}
	if len(missing) > 0 || inTheWay {
		if !inTheWay && read.OutputWatts > 0 && len(read.Ratings) > 0 {
			r.Verdicts = append(r.Verdicts, plate.LikelyMisreading(read, service)...)
		}
		return st
	}
	if ohm := st.found.measured(
		filled,
		strings.ToUpper(strings.TrimSpace(m.Plate.Insulation)),
	); ohm > 0 &&
		filled.Target().Check() == nil {
		verdicts, used := resistanceVerdict(ohm, filled.Target())
		st.found.Verdicts = append(st.found.Verdicts, verdicts...)
		if used {
			filled.Plate.StatorOhm = ohm
		}
	}
	st.Plate = filled
	r.Choices, r.Delta = filled.Choices, filled.Delta
	r.hints(filled)
	if r.Title == "" {
		r.Title = "about " + r.Hints["output"].Text
	}
	if len(st.found.ways) > 0 {
		r.Hints["connection"] = Hint{filled.Connection, filled.ConnectionBy, "the leads as they were found"}
	}
	r.Verdicts, st.line = plate.Check(filled), plate.CheckSupply(filled, service)
	r.Verdicts = append(r.Verdicts, plate.LikelyMisreading(read, service)...)
	fit, err := fitter(filled.Target())
	if err != nil && filled.Plate.StatorOhm > 0 {
		// The plate alone may have a circuit where it has none with what was measured.
		filled.Plate.StatorOhm, st.Plate.Plate.StatorOhm = 0, 0
		if fit, err = fitter(filled.Target()); err == nil {
			st.found.Verdicts = append(st.found.Verdicts, rule.Speak(
				"leads.resistance-against-plate",
				nil,
				"Null the meter and measure again; look at volts and amps on the plate. The assumed resistance is "+
					"used meanwhile.",
				"No circuit has both the plate's figures and the resistance measured.",
			))
		}
	}
	if err != nil {
		r.Verdicts = rule.Sorted(append(r.Verdicts, plate.Contradiction(err)))
		return st
	}
	r.Sound = true
	fit = m.Learned.Fit(fit)
	r.Verdicts = rule.Sorted(append(append(r.Verdicts, unmet(fit)...), st.leadStops()...))
	r.Residuals, r.Parameters = fit.Residuals, fit.Parameters
	if m.Learned != nil {
		r.Learned = m.Learned.Words()
	}
	kind, ok := load.ByName(m.Load, own...)
	if !ok {
		kind = load.Kinds[0]
		if m.Load != "" {
			r.Problems = append(r.Problems, plate.Problem{Field: "load", Says: fmt.Sprintf(
				"This shop’s Rulebook has no kind of load %q: the figures of %q are taken.", m.Load, kind.Title)})
		}
	}
	if kind.Lifts {
		r.Verdicts = rule.Sorted(append(r.Verdicts, rule.Speak("supply.lifts", nil,
			"Ask the hoist's maker; feed it as it was built to be fed.",
			"%s: no way of feeding it is advised here.", kind.Title)))
	}
	shaft, faults := m.Shaft.Read()
	for _, f := range faults {
		r.Problems = append(r.Problems, plate.Problem{Field: "shaft." + f.Field, Says: f.Says})
	}
	st.Machine = machine.Machine{
		Plate:     filled,
		Fit:       fit,
		Supply:    m.Learned.Supply(s.Network()),
		Learned:   m.Learned,
		Load:      kind,
		LoadShare: m.LoadShare,
		Known:     shaft,
		Thermal:   thermalOf(filled, fit, m.Plate, shaft),
		Duty:      machine.Duty{OnMinutes: shaft.On, OffMinutes: shaft.Off},
	}
	st.motor = m
	return st
}

// usualAirC is the air around a motor where nothing is said: what plates are made for.
const usualAirC = 40

// thermalOf is the motor as it heats, by what its plate says of insulation and rise.
func thermalOf(f plate.Filled, fit motor.Fit, typed plate.Typed, shaft load.Shaft) motor.Thermal {
	air := float64(usualAirC)
	if shaft.AirC != nil {
		air = *shaft.AirC
	}
	rise, err := quantity.ParseKelvin(typed.Rise)
	if err != nil {
		rise = 0
	}
	amps, lost := f.Amps.Value, f.Output.Value*(1/f.Efficiency.Value-1)
	height, _ := plate.ShaftHeight(typed.Frame, f.Hertz.Value)
	mass := 0.0
	if height > 0 {
		mass = motor.MassOf(height)
	}
	return motor.ThermalOf(motor.Body{
		Watts: f.Output.Value, Class: strings.TrimSpace(typed.Insulation), RiseK: rise, AmbientC: air, MassKg: mass,
		LostWatts: lost, CopperShare: 3 * amps * amps * fit.Circuit.R1Ohm / lost,
		Open: plate.Open(typed.Enclosure, typed.IP),
	})
}

// unmet says which starting figures the fitted circuit does not give back, and
// which parameter it had to take beyond its bounds.
func unmet(fit motor.Fit) []rule.Verdict {
	var verdicts []rule.Verdict
	for _, residual := range fit.Residuals {
		if !residual.Holds {
			verdicts = append(
				verdicts,
				rule.Speak(
					"plate.starting-figures",
					rule.Numbers{"asked": residual.Target, "got": residual.Got, "error_percent": residual.ErrorPercent},
					"Read the locked-rotor amps, code and design letters again.",
					"The %s of the plate or its class is %.1f times rated; the circuit comes to %.1f.",
					residual.Name,
					residual.Target,
					residual.Got,
				),
			)
			break
		}
	}
	for _, p := range fit.Parameters {
		if !p.Inside() {
			return append(
				verdicts,
				rule.Speak(
					"plate.unusual-circuit",
					rule.Numbers{"value": p.Value, "low": p.Low, "high": p.High},
					"Read output, amps, efficiency and speed again.",
					"Its %s comes out at %.2g %s, at the edge of the %.2g to %.2g that is plausible: what hangs on "+
						"it is less sure.",
					p.Name,
					p.Value,
					p.Unit,
					p.Low,
					p.High,
				),
			)
		}
	}
	return verdicts
}

func blank(t plate.Typed, field string) bool {
	return field == "output" && strings.TrimSpace(t.Output) == "" ||
		field == "volts" && strings.TrimSpace(t.Volts) == ""
}

// hints words the figures the plate does not state.
func (r *Reading) hints(f plate.Filled) {
	for _, h := range []struct {
		field string
		value plate.Value
		shown string
	}{
		{"output", f.Output, f.Plate.Power(f.Output.Value, f.Hertz.Value)},
		{"amps", f.Amps, quantity.Figures(f.Amps.Value, 3)},
		{"hertz", f.Hertz, quantity.Figures(f.Hertz.Value, 3)},
		{"rpm", f.RPM, quantity.Figures(f.RPM.Value, 4)},
		{"poles", f.Poles, quantity.Figures(f.Poles.Value, 2)},
		{"power_factor", f.PowerFactor, quantity.Fixed(f.PowerFactor.Value, 2)},
		{"efficiency", f.Efficiency, quantity.Figures(100*f.Efficiency.Value, 3)},
		{"service_factor", f.ServiceFactor, quantity.Fixed(f.ServiceFactor.Value, 2)},
		{"joined", f.Volts, quantity.Figures(f.Volts.Value, 4)},
	} {
		r.Hints[h.field] = Hint{h.shown, h.value.Origin, h.value.Source}
		if h.value.Origin == rule.Assumed {
			r.Assumed = append(r.Assumed, h.field)
		}
	}
	r.Hints["connection"] = Hint{
		f.Connection,
		f.ConnectionBy,
		"ratio of the plate's volts, or wye where it does not say",
	}
	if f.ConnectionBy == rule.Assumed {
		r.Assumed = append(r.Assumed, "connection")
	}
}

// stops are those of the plate, and of the motor across the lines where the way taken puts it
// there.
func (s Study) stops() []string {
	list := feed.Stops(s.Reading.Verdicts)
	if !s.motor.Way.Taken().Info().OwnVolts {
		list = append(list, feed.Stops(s.line)...)
	}
	return list
}

// Ask is the motor as the ways of feeding are asked about it, in its machine and shop; the
// reading must be sound.
func (s Study) Ask(sh shop.Shop, m shop.Machine) *feed.Question {
	matters := s.motor.Matters
	matters.Controls.Motors = len(m.Motors) // its own list counts, not what a file says
	choice := s.motor.Way
	if choice.Wiring.Command == "" { // the switch that the machine has
		choice.Wiring.Command = matters.Controls.Switch
	}
	return feed.Ask(feed.Question{
		Machine:   s.Machine,
		Title:     s.Reading.Title,
		Assumed:   len(s.Reading.Assumed) > 0,
		MainAmps:  sh.Supply.MainAmps,
		Prices:    sh.Prices,
		Weights:   sh.Weights,
		Figures:   sh.Own.Code,
		Matters:   matters,
		Choice:    choice,
		Bank:      s.motor.Bank,
		Motors:    others(m, sh.Supply),
		Stops:     s.stops(),
		Line:      s.line,
		Stores:    sh.Own.Stores,
		MachineID: m.ID,
		Profile:   drive.Among(sh.Profiles, s.motor.Way.Profile),
	})
}

// Idler is the motor as one that idles, by the name id; the reading must be sound.
func (s Study) Idler(id string) rotary.IdlerMotor {
	own := s.Machine.NetworkMotor(id)
	own.Load, own.InertiaKgm2 = &network.Load{Kind: "power"}, s.Machine.Shaft().RotorKgm2
	return rotary.IdlerMotor{Motor: own, Amps: s.Plate.Amps.Value, Watts: s.Machine.Watts()}
}

// others are the motors of a machine as drives see them.
func others(m shop.Machine, su supply.Supply) []drive.Driven {
	list := []drive.Driven{}
	for _, motor := range m.Motors {
		d := drive.Driven{Name: motor.Name}
		if p, problems := plate.Read(motor.Plate); len(problems) == 0 {
			if filled, missing := plate.Fill(p, plate.Supply{Volts: su.Volts, Hertz: su.Hertz}); len(missing) == 0 {
				d.Amps = filled.Amps.Value
			}
		}
		list = append(list, d)
	}
	return list
}

// Spindle is a machine's spindle on a drive: its steps over the frequencies it is set to,
// and the step for a tool. Problems name the fields that were not understood.
type Spindle struct {
	Rows     []drive.SpindleRow `json:"rows" nullable:"false"`
	Cut      *drive.Cut         `json:"cut"`
	Problems map[string]string  `json:"problems"`
}

// spindle reads what is noted of a spindle.
func spindle(m feed.Matters, a *drive.Answer, settings []drive.Setting) Spindle {
	s := Spindle{Rows: []drive.SpindleRow{}, Problems: map[string]string{}}
	gears, err := drive.ParseGears(m.Steps)
	if err != nil {
		s.Problems["steps"] = err.Error()
	}
	least, most := 0.0, 0.0
	for _, set := range settings {
		switch set.Name {
		case "minimum_hertz":
			least = *set.Number
		case "maximum_hertz":
			most = *set.Number
		}
	}
	s.Rows = drive.Spindle(gears, a.Speed, least, most)
	if strings.TrimSpace(m.Tool) == "" {
		return s
	}
	millimetre, err := quantity.ParseMillimetres(m.Tool)
	if err != nil {
		s.Problems["tool"] = err.Error()
		return s
	}
	for _, material := range drive.Materials {
		if material.Name == m.Material && len(s.Rows) > 0 {
			s.Cut = new(drive.Choose(s.Rows, millimetre, material.MetrePerMinute))
		}
	}
	return s
}

// DriveFor is a motor as a drive for it sees it: that of its way, or, of a way without one, a larger one built for
// three lines.
func DriveFor(q *feed.Question) drive.Input {
	in := drive.Input{Machine: q.Machine, Kind: drive.Three}
	if w, ok := q.Choice.Taken().(feed.Driven); ok {
		in.Kind = w.Kind()
	}
	return in
}

// DriveList is what a drive for a motor is to be set to, with the parameters of the drive at hand, its spindle on it,
// and what its display is to tell.
type DriveList struct {
	Entries []drive.Entry
	Spindle Spindle
	Shows   []drive.Shows
	// Carriers are what each costs in noise, heat and amps.
	Carriers []drive.Carried
}

// Settings makes the list of a motor.
func Settings(q *feed.Question, own []drive.Profile) (list DriveList, err error) {
	in := DriveFor(q)
	a, err := drive.Size(in)
	if err != nil {
		return list, err
	}
	m := q.Matters
	settings := drive.Settings(in, a, drive.Use{
		Square: q.Load.Exponent == 2, LeastHertz: m.LeastHertz, Speed: q.Choice.Wiring.Filled().Speed,
		Reverse: m.Existing().TurnsRound() || q.Choice.Wiring.Command == circuit.Drum,
	})
	return DriveList{
		drive.Among(own, q.Choice.Profile).
			Enter(settings),
		spindle(m, &a, settings),
		drive.Expected(in, a),
		in.Carriers(),
	}, nil
}

// Progress says of each step of the card whether it is done.
type Progress struct {
	Plate bool `json:"plate"` // understood, and a circuit found
	Leads bool `json:"leads"` // known, and their condition good
	Route bool `json:"route"` // one is taken
	Size  bool `json:"size"`  // a route taken, or capacitors chosen
	Wire  bool `json:"wire"`  // marked as done
}

// Progress says how far a motor has come, step by step.
func (s Study) Progress(m shop.Motor) Progress {
	return Progress{
		Plate: s.Reading.Sound,
		Leads: s.found.Connectable && s.found.good,
		Route: s.Reading.Sound && m.Way.Route != "",
		Size:  s.Reading.Sound && (m.Way.Route != "" || m.RunMicrofarad != nil),
		Wire:  s.Reading.Sound && slices.Contains(m.Built, shop.WiredTick),
	}
}

// Stage says how far a motor has come.
func (s Study) Stage(m shop.Motor) string {
	switch {
	case strings.TrimSpace(m.Plate.Output+m.Plate.Volts+m.Plate.Amps+m.Plate.RPM) == "":
		return "blank plate"
	case !s.Reading.Sound:
		return "plate to be cleared up"
	}
	switch p := s.Progress(m); {
	case !p.Size:
		return "plate read"
	case !p.Wire:
		return "route taken"
	}
	return "wired"
}
