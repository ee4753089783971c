package study

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/capacitor"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/winding"
	"brackmoor/core/wiring"
)

// found is what the leads of a motor were found to be, with the plate's volts for
// each way of joining them.
type found struct {
	winding.Analysis
	problems []winding.Problem
	ways     []winding.Way
	good     bool // condition looked at and good
}

// leadsOf analyses a motor's leads and hands the plate what it learns from them.
func leadsOf(m shop.Motor, p *plate.Plate) found {
	var f found
	if len(m.Leads.Leads) > 0 {
		var readings winding.Readings
		readings, f.problems = winding.Read(m.Leads)
		f.Analysis = winding.Analyse(readings)
	} else {
		f.Kind = winding.UnknownKind
	}
	verdicts, good := winding.Examined(m.Leads.Condition)
	f.good = good
	f.Verdicts = append(verdicts, f.Verdicts...)
	var rated []winding.Rated
	for _, r := range p.Ratings {
		rated = append(rated, winding.Rated{Volts: r.Volts, Connection: r.Connection})
	}
	inside := m.Leads.Inside
	kind := f.Kind
	if kind == winding.UnknownKind && inside != "" && (p.Leads == 0 || p.Leads == 3) && len(m.Leads.Leads) == 0 {
		kind = winding.ThreeLead // seen inside, before anything was measured
	}
	if inside == "" && kind == winding.ThreeLead && len(rated) == 1 {
		inside = rated[0].Connection
	}
	f.ways = winding.Ways(kind, inside, rated)
	if kind == winding.ThreeLead && inside == "" {
		f.ways = nil // the plate's own volts tell as much
	}
	for _, w := range f.ways {
		p.Ways = append(
			p.Ways,
			plate.Choice{
				Volts:      w.Volts,
				Connection: w.Name,
				Delta:      w.Delta,
				Deduced:    w.Origin != rule.Stated,
				Needs:      w.Needs,
			},
		)
	}
	if kind == winding.ThreeLead && m.Leads.Inside != "" {
		f.seen(m.Leads.Inside)
	}
	if n := len(m.Leads.Leads); n > 0 && p.Leads > 0 && n != p.Leads {
		f.Verdicts = append(
			f.Verdicts,
			rule.Speak(
				"leads.count-against-plate",
				rule.Numbers{"leads": float64(n), "plate": float64(p.Leads)},
				"Look for leads cut off or joined inside the box.",
				"There are %d leads; the plate speaks of %d.",
				n,
				p.Leads,
			),
		)
	}
	if kind == winding.ThreeLead && len(rated) > 1 && !plateRange(rated) {
		f.Verdicts = append(
			f.Verdicts,
			rule.Speak(
				"leads.joined-inside",
				nil,
				"Find out for which: by the way it was last fed, or by its resistance against the plate.",
				"The plate has %d voltages, but three leads can be fed with one.",
				len(rated),
			),
		)
	}
	f.Verdicts = rule.Sorted(f.Verdicts)
	return f
}

// seen settles what ohms cannot: a star or a delta that somebody saw inside.
func (f *found) seen(inside string) {
	f.Verdicts = slices.DeleteFunc(f.Verdicts, func(v rule.Verdict) bool { return v.Rule == "leads.wye-or-delta" })
	if f.WindingOhms == nil {
		return
	}
	ohms := winding.Ohms{Coil: f.WindingOhms.Wye}
	if inside == "delta" {
		ohms.Coil = f.WindingOhms.Delta
	}
	f.WindingOhms = &ohms
}

// plateRange says whether voltages are one range, such as 208-230.
func plateRange(rated []winding.Rated) bool {
	for _, r := range rated {
		if math.Abs(r.Volts/rated[0].Volts-1) > 0.15 {
			return false
		}
	}
	return true
}

// way is the connection that a filled plate was taken to have.
func (f found) way(filled plate.Filled) (winding.Way, bool) {
	for _, w := range f.ways {
		if w.Volts == filled.Volts.Value && w.Name == filled.Connection {
			return w, true
		}
	}
	return winding.Way{}, false
}

// measured is the stator resistance from the readings, wye-equivalent and hot; 0
// where there is none.
func (f found) measured(filled plate.Filled, class string) float64 {
	if f.CoilOhm == 0 || f.Next != nil {
		return 0
	}
	if f.Kind == winding.ThreeLead {
		// Half of what is read between lines, whatever is inside, and a third of the
		// wye's when its star point is broken out and it is joined delta.
		ohm := winding.Measured(winding.Connections(winding.ThreeLead)[0], f.CoilOhm, class)
		if w, ok := f.way(filled); ok && w.Needs != "" {
			ohm /= 3
		}
		return ohm
	}
	w, ok := f.way(filled)
	if !ok {
		return 0
	}
	return winding.Measured(w.Connection, f.CoilOhm, class)
}

// resistanceVerdict says whether a measured resistance suits the plate; used is
// false when the fit must do without it.
func resistanceVerdict(ohm float64, t motor.Target) (verdicts []rule.Verdict, used bool) {
	const id = "leads.resistance-against-plate"
	share := winding.CopperShare(ohm, t)
	if share <= rule.Limit(id, "most_share_of_losses") && share >= rule.Limit(id, "least_share_of_losses") {
		return nil, true
	}
	return []rule.Verdict{
		rule.Speak(
			id,
			rule.Numbers{"stator_ohm": ohm, "share_of_losses": share},
			"Null the meter and measure again; look at volts and amps on the plate. The assumed resistance is used "+
				"meanwhile.",
			"At plate amps the %s ohm measured would lose %.0f percent of all the motor's losses.",
			quantity.Figures(ohm, 3),
			100*share,
		),
	}, false
}

// LeadMark is a lead with what stands on it and what it is.
type LeadMark struct {
	Lead  string `json:"lead"`
	Typed string `json:"typed"`
	NEMA  string `json:"nema"`
	IEC   string `json:"iec"`
}

// WayView is a way of joining the leads, as it suits the supply.
type WayView struct {
	Name        string      `json:"name"`
	Volts       float64     `json:"volts"`
	Origin      rule.Origin `json:"origin"`
	Source      string      `json:"source"`
	Needs       string      `json:"needs"`
	FluxPercent float64     `json:"flux_percent"`
	Suits       bool        `json:"suits"`
	Chosen      bool        `json:"chosen"`
}

// Change is something that a new connection alters.
type Change struct {
	What string `json:"what"`
	From string `json:"from"`
	To   string `json:"to"`
	Do   string `json:"do" told:"figures"`
}

// Ohmic is a resistance or reactance of the circuit at the terminals before and
// after, in ohms.
type Ohmic struct {
	Name   string  `json:"name"`
	Before float64 `json:"before"`
	After  float64 `json:"after"`
}

// ReversedView compares a motor joined right with one whose third winding is joined
// by the wrong end, on three balanced lines.
type ReversedView struct {
	State string        `json:"state"`
	Right winding.Trial `json:"right"`
	Wrong winding.Trial `json:"wrong"`
}

// LeadsView is the Leads step.
type LeadsView struct {
	Problems      []winding.Problem `json:"problems" nullable:"false"`
	Winding       winding.Kind      `json:"winding"`
	Groups        [][]string        `json:"groups" nullable:"false"`
	Next          []string          `json:"next"`
	NextPolarity  *winding.Ask      `json:"next_polarity"`
	CheckPolarity *winding.Ask      `json:"check_polarity"`
	Asked         int               `json:"asked"`
	Bound         int               `json:"bound"`
	PolarityBound int               `json:"polarity_bound"`
	CoilOhm       float64           `json:"coil_ohm"`  // at 20 °C; of three leads as if wye
	DeltaOhm      float64           `json:"delta_ohm"` // of three leads as if delta
	Unequal       float64           `json:"unequal_percent"`
	StatorOhm     float64           `json:"stator_ohm"` // hot, at the terminals as joined; 0 where not measured
	Marks         []LeadMark        `json:"marks" nullable:"false"`
	Connectable   bool              `json:"connectable"`
	Good          bool              `json:"good"`
	Verdicts      []rule.Verdict    `json:"verdicts" nullable:"false"`
	Cautions      []rule.Verdict    `json:"cautions" nullable:"false"`
	Ways          []WayView         `json:"ways" nullable:"false"`
	NoWay         string            `json:"no_way"` // what to do when no way suits the supply
	Drawing       *wiring.Drawing   `json:"drawing"`
	Changes       []Change          `json:"changes" nullable:"false"`
	Circuit       []Ohmic           `json:"circuit" nullable:"false"`
	Times         float64           `json:"times"` // ohms after over ohms before
	Was           string            `json:"was"`   // what the changes are counted from
	Steps         []capacitor.Step  `json:"steps" nullable:"false"`
	Abort         rule.Verdict      `json:"abort"`
	Reversed      []ReversedView    `json:"reversed" nullable:"false"`
}

// Leads is the Leads step of a studied motor.
func (s Study) Leads(m shop.Motor) LeadsView {
	f := s.found
	v := LeadsView{
		Problems:      f.problems,
		Winding:       f.Kind,
		Groups:        f.Groups,
		NextPolarity:  f.NextPolarity,
		CheckPolarity: f.CheckPolarity,
		Asked:         f.Asked,
		Bound: winding.Bound(
			len(m.Leads.Leads),
		),
		PolarityBound: winding.PolarityBound(f.Kind),
		StatorOhm:     s.Plate.Plate.StatorOhm,
		Marks:         []LeadMark{},
		Connectable:   f.Connectable,
		Good:          f.good,
		Verdicts:      s.LeadVerdicts(),
		Ways:          []WayView{},
		Changes:       []Change{},
		Circuit:       []Ohmic{},
		Steps:         []capacitor.Step{},
		Reversed:      []ReversedView{},
		Cautions:      []rule.Verdict{},
		Abort:         rule.Standing("energise.abort"),
	}
	if v.Problems == nil {
		v.Problems = []winding.Problem{}
	}
	if v.Groups == nil {
		v.Groups = [][]string{}
	}
	for _, id := range []string{"leads.kick", "leads.discharge", "leads.star-point", "always.isolate",
		"always.local-code"} {
		v.Cautions = append(v.Cautions, rule.Standing(id))
	}
	if f.Next != nil {
		v.Next = f.Next[:]
	}
	if f.WindingOhms != nil {
		v.CoilOhm, v.DeltaOhm = f.WindingOhms.Coil, f.WindingOhms.Delta
	}
	if f.UnequalPercent != nil {
		v.Unequal = *f.UnequalPercent
	}
	for i, lead := range m.Leads.Leads {
		mark := LeadMark{Lead: lead, NEMA: f.NEMAMarks[lead], IEC: f.Marks[lead]}
		if i < len(m.Leads.Marks) {
			mark.Typed = m.Leads.Marks[i]
		}
		v.Marks = append(v.Marks, mark)
	}
	if s.Plate.Volts.Value == 0 {
		return v
	}
	s.suit(&v)
	v.Drawing = s.Box(m)
	if s.Reading.Sound {
		s.consequences(&v, m)
		v.Reversed = s.reversed()
		b := s.motor.Bank
		on := capacitor.Input{
			Machine:         s.Machine,
			RunMicrofarad:   b.RunMicrofarad,
			StartMicrofarad: b.StartMicrofarad,
			TowardsB:        b.Reversed,
		}
		size := capacitor.Solve(on)
		v.Steps = capacitor.Energise(on, size.Live.RunMicrofarad, size.Live.StartMicrofarad)
	}
	return v
}

// LeadVerdicts are what is to be said of the leads.
func (s Study) LeadVerdicts() []rule.Verdict { return rule.Sorted(s.found.Verdicts) }

// leadStops are the stops of the leads, which stand beside the plate at every step.
func (s Study) leadStops() (stops []rule.Verdict) {
	for _, v := range s.found.Verdicts {
		if v.Severity == rule.Stop {
			stops = append(stops, v)
		}
	}
	return stops
}

// suit lists the ways with the flux each gives on the supply, and what is left when
// none suits.
func (s Study) suit(v *LeadsView) {
	service := s.service
	any := false
	for _, w := range s.found.ways {
		at := s.Plate
		at.Volts.Value = w.Volts
		flux := plate.FluxPercent(at, service)
		suits := plate.FluxSuits(flux)
		any = any || suits
		v.Ways = append(
			v.Ways,
			WayView{
				Name:        w.Name,
				Volts:       w.Volts,
				Origin:      w.Origin,
				Source:      w.Source,
				Needs:       w.Needs,
				FluxPercent: flux,
				Suits:       suits,
				Chosen:      w.Volts == s.Plate.Volts.Value && w.Name == s.Plate.Connection,
			},
		)
	}
	if !any && len(v.Ways) > 0 {
		v.NoWay = fmt.Sprintf(
			"None of these suits %s V %s Hz. Without rewinding that leaves a transformer, a drive set to the plate's "+
				"volts per hertz, or another motor.",
			quantity.Figures(service.Volts, 4),
			quantity.Figures(service.Hertz, 3),
		)
	}
}

// Box draws the terminal box as joined; nil when the leads are not known, or their
// star or delta is inside.
func (s Study) Box(m shop.Motor) *wiring.Drawing {
	w, ok := s.found.way(s.Plate)
	if !ok && (s.found.Kind == winding.ThreeLead || s.found.Kind == winding.StarOut) {
		w = winding.Way{Connection: winding.Connections(s.found.Kind)[0], Volts: s.Plate.Volts.Value}
	} else if !ok || s.found.Kind == winding.UnknownKind && w.Needs == "" && len(s.found.ways) == 0 {
		return nil
	}
	lead := map[string]string{}
	for name, mark := range s.found.Labels {
		lead[mark] = name
	}
	b := wiring.TerminalBox{Volts: quantity.Figures(w.Volts, 4) + " V", Connection: w.Name}
	leads := 0
	for _, j := range w.Joints {
		joint := wiring.BoxJoint{Line: j.Line}
		for _, mark := range j.Marks {
			l := wiring.BoxLead{NEMA: mark, IEC: winding.IEC(mark), Name: lead[mark]}
			if l.Name == l.NEMA || l.Name == l.IEC {
				l.Name = ""
			}
			joint.Leads = append(joint.Leads, l)
		}
		b.Joints = append(b.Joints, joint)
		leads += len(joint.Leads)
	}
	b.Posts = leads == 6
	info := m.Way.Taken().Info()
	lines := quantity.LinesAt(s.service.Hertz)
	b.Feeds, b.Made = [3]string{lines.A, lines.B, "made leg: live"}, true
	if m.Way.Route != "" && info.TurnsSpeed {
		b.Feeds, b.Made = [3]string{"U of the drive", "V of the drive", "W of the drive"}, false
	}
	b.Capacitors = m.Way.Route != "" && !info.TurnsSpeed && !info.FeedsMore && !info.OwnVolts
	for _, verdict := range s.LeadVerdicts() {
		if verdict.Severity == rule.Stop {
			b.Stops = append(b.Stops, verdict.Title+". "+verdict.Says)
		}
	}
	if len(s.found.Labels) > 0 && !s.found.Connectable && len(b.Stops) == 0 {
		b.Stops = append(b.Stops, "The marks alone say so: take the readings before it is joined.")
	}
	if w.Needs != "" {
		b.Stops = append(b.Stops, "First "+w.Needs+" and bring its three ends out as T4, T5 and T6.")
	}
	d := wiring.Box(b)
	return &d
}

// consequences compares the motor as joined with how it was found.
func (s Study) consequences(v *LeadsView, m shop.Motor) {
	before, ok := s.before(m)
	if !ok {
		return
	}
	after := s.Plate
	times := after.Amps.Value / before.Amps.Value
	amps := func(f plate.Filled, factor float64) string { return quantity.Figures(factor*f.Amps.Value, 3) + " A" }
	volts := func(f plate.Filled) string { return quantity.Figures(f.Volts.Value, 4) + " V" }
	v.Was = volts(before) + " " + before.Connection
	v.Times = math.Pow(after.Volts.Value/before.Volts.Value, 2)
	ratio := "× " + quantity.Fixed(times, 2)
	for _, known := range []struct {
		factor float64
		name   string
	}{{math.Sqrt(3), "× √3"}, {2, "× 2"}, {1 / math.Sqrt(3), "÷ √3"}, {0.5, "÷ 2"}} {
		if math.Abs(times/known.factor-1) < 0.04 {
			ratio = known.name
		}
	}
	v.Changes = []Change{
		{"Line amps", amps(before, 1), amps(after, 1), ratio + " for the same output"},
		{
			"Overload heater or dial",
			amps(before, 1),
			amps(after, 1),
			"change the heater or the relay: the old one trips at once, or never",
		},
		{
			"Contactor, switch and isolator",
			amps(before, 1),
			amps(after, 1),
			"motor duty (AC-3) of at least the new amps at the new volts",
		},
		{
			"Machine’s own wiring",
			amps(before, 1.25),
			amps(after, 1.25),
			"conductors for 125 percent of the amps (NEC 430.22, US, 2023), or by the local code",
		},
		{
			"Control transformer and coils",
			volts(before),
			volts(after),
			"move the primary tap, or change the coil, to the new volts; never on the made leg",
		},
	}
	c := s.Machine.Fit.Circuit
	old := c.Scaled(1 / v.Times)
	add := func(name string, before, after float64) { v.Circuit = append(v.Circuit, Ohmic{name, before, after}) }
	add("Stator resistance", old.R1Ohm, c.R1Ohm)
	add("Stator leakage", old.X1Ohm, c.X1Ohm)
	add("Magnetising reactance", old.XmOhm, c.XmOhm)
	for i := range c.Cages {
		add([]string{"Inner cage", "Outer cage"}[i], old.Cages[i].ROhm, c.Cages[i].ROhm)
	}
}

// before is the plate at the volts the motor was found joined for: those typed, or
// the highest the plate has.
func (s Study) before(m shop.Motor) (plate.Filled, bool) {
	p := s.Plate.Plate
	p.JoinedVolts = 0
	if volts, err := quantity.ParseVolts(m.Leads.Was); err == nil {
		p.JoinedVolts = volts[0]
	} else {
		for _, r := range p.Ratings {
			p.JoinedVolts = math.Max(p.JoinedVolts, r.Volts)
		}
	}
	before, problems := plate.Fill(p, s.service)
	return before, len(problems) == 0 && before.Volts.Value != s.Plate.Volts.Value
}

// reversed shows what one winding joined by the wrong end does.
func (s Study) reversed() []ReversedView {
	m := winding.Machine{
		Circuit: s.Machine.Fit.Circuit,
		Volts:   s.Plate.Volts.Value,
		Hertz:   s.Plate.Hertz.Value,
		Poles:   int(s.Plate.Poles.Value),
		Amps:    s.Plate.Amps.Value,
		Delta:   s.Plate.Delta,
	}
	return []ReversedView{
		{"standing", m.Try(1, false), m.Try(1, true)},
		{"at rated speed", m.Try(s.Plate.Slip(), false), m.Try(s.Plate.Slip(), true)},
	}
}
