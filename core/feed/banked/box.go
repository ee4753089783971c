package banked

import (
	"fmt"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// boxView is a box as such: what is accepted in each state, and what must be known of it.
func (w *Way) boxView(q *feed.Question, a *capacitor.Answer) feed.View {
	v := feed.View{Name: "box", Title: "The box", Panels: []feed.Panel{
		{Name: "accept", Kind: feed.TablePanel, Title: "Accepted by state", Width: feed.HalfStack,
			Table: feed.AcceptTable(capacitor.Accept(w.input(q), &a.Live))},
		{
			Name:  "meter",
			Kind:  feed.TablePanel,
			Title: "What the meter should say",
			Width: feed.HalfStack,
			Table: meter(q, &a.Live),
		},
	}}
	if len(a.StartSchools) > 0 {
		v.Panels = append(v.Panels, feed.Panel{
			Name: "notes", Kind: feed.NotesPanel, Title: "The box", Width: feed.Half, Notes: w.notes(q, a),
		})
	}
	return v
}

// HardOnAStarter is the stop of a load that must never hang on a box that only starts its
// motor, nil for others: it starts against its load again and again.
func HardOnAStarter(kind load.Kind) *rule.Verdict {
	percent := 100 * kind.BreakawayShare
	if percent <= rule.Limit("route.static-hard-start", "most_breakaway_percent") {
		return nil
	}
	return new(
		rule.Speak("route.static-hard-start", rule.Numbers{"breakaway_percent": percent}, "An idler, or a drive.",
			"%s takes %.0f percent of rated torque to break away, over and over.", kind.Title, percent),
	)
}

// notes are what must be known of a box: what it leaves by the model beside the schools,
// what happens when load slows the motor, whether it may stay in circuit, and what must
// never hang on it.
func (w *Way) notes(q *feed.Question, a *capacitor.Answer) []feed.Note {
	l := &a.Live
	var schools []string
	for _, s := range a.OutputSchools {
		schools = append(schools, strings.ToLower(s.Title)+" "+percents(s.Low, s.High))
	}
	most := 0.0
	for _, p := range l.Heat {
		if p.Percent != nil {
			most = p.LoadShare
		}
	}
	turns := feed.Note{
		Title: "It turns up to", Value: fmt.Sprintf("%.0f %% load", 100*most), Says: "beyond that it stalls",
	}
	if most >= 1 {
		turns.Says = "and a little more before it stalls"
	}
	start := feed.Note{Title: "Its start", Value: "none", Says: "it starts by itself"}
	if l.StartMicrofarad > 0 {
		start.Value = feed.Figure(l.StartMicrofarad, 3, "µF")
		start.Says = fmt.Sprintf("by the model: %.1f times the torque asked", l.OverBreakaway)
	}
	for _, c := range a.StartSchools {
		if c.School.Applies && c.School.Name != capacitor.ModelStart {
			start.Says += fmt.Sprintf("; school, %s: %s µF, %.1f times",
				c.School.Title, quantity.Figures(c.School.Microfarad, 3), c.OverBreak)
		}
	}
	list := append([]feed.Note{
		{Title: "Output left", Value: l.Session.Usable.Words(q.Supply.Hertz),
			Says: "in its duty, by the heat its windings bear; " + byAmps(q, l) + shortly(q, a) +
				"; schools: " + strings.Join(schools, ", ")},
		start,
	}, w.Notes(q, l, turns)...)
	var never []string
	for _, kind := range load.Kinds {
		if HardOnAStarter(kind) != nil {
			never = append(never, strings.ToLower(kind.Title))
		}
	}
	near, far := q.Lines().A, q.Lines().B
	if q.For(w).Bank.Reversed {
		near, far = far, near
	}
	volts := w.input(q).Supply.Volts
	before := fmt.Sprintf(
		"motor joined and standing, its start out: the made leg reads about %.0f V to either line; motor off and "+
			"a capacitor left in: near 0 V to %s and %.0f V to %s. It is live all the same",
		volts/2,
		near,
		volts,
		far,
	)
	return append(list,
		feed.Note{Title: "Never on it", Value: "stop",
			Says: strings.Join(never, ", ") + "; electronics and coils on the third leg; a second motor beside it"},
		feed.Note{Title: "Before it turns", Value: "the made leg is live", Says: before})
}

// byAmps words what is left by the yardsticks that know no duty.
func byAmps(q *feed.Question, l *capacitor.Live) string {
	words := func(r *capacitor.Range) string {
		if r == nil {
			return "none"
		}
		return quantity.PowerRange(r.LowWatts, r.HighWatts, q.Supply.Hertz)
	}
	text := "by plate amps " + words(l.Usable)
	if factor := q.Plate.ServiceFactor.Value; factor > 1 {
		text += fmt.Sprintf(", by the service factor of %s %s", quantity.Figures(factor, 3), words(l.ByFactor))
	}
	return text
}

// shortly words what practice has of such boxes: short runs, past plate amps.
func shortly(q *feed.Question, a *capacitor.Answer) string {
	s := a.Short
	if s == nil {
		return "; at two thirds of it, it stalls"
	}
	text := fmt.Sprintf("; at two thirds a winding of its %s carries %.0f %% of plate amps and, from cold, ",
		connection(q), s.Percent)
	if s.Minutes == nil {
		return text + "never passes what it bears"
	}
	return text + fmt.Sprintf("is at what it bears after %s min: light starts and short cuts are how such boxes last",
		quantity.Figures(*s.Minutes, 2))
}

// connection words how the windings are joined, since a delta's carry more of a line's amps
// where one leg is bare.
func connection(q *feed.Question) string {
	if q.Plate.Delta {
		return "delta"
	}
	return "wye"
}

// boxSection is the same on paper.
func boxSection(notes []feed.Note) rule.Section {
	rows := []rule.Row{}
	for _, n := range notes {
		rows = append(rows, rule.Row{Label: n.Title, Value: n.Value, Remark: n.Says})
	}
	return rule.Section{Title: "The box", Rows: rows}
}
