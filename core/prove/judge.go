package prove

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/learn"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// How far outside of what was foretold a figure is told, and stands out, in standard deviations of what a meter may
// read.
const (
	beside  = 2.2
	outside = 3.0
)

// last is the latest reading of a state, at the supply's own volts, with the capacitors that are in now; −1 for none.
func (p *proof) last(state string) int {
	best := -1
	for k := range p.list {
		if r := &p.list[k]; r.State == state && r.Volts == 0 && p.now(r) {
			best = k
		}
	}
	return best
}

// unread says that a state is not read, or that it was with other capacitors than are in now.
func (p *proof) unread(state string) string {
	if slices.ContainsFunc(p.list, func(r Reading) bool { return r.State == state && r.Volts == 0 }) {
		return "not read with the capacitors that are in now"
	}
	return "not read"
}

// before is what was learned before a reading: it is foretold by those that went before it, and not by itself.
func (p *proof) before(k int) *learn.Learned {
	n := 0
	for n < len(p.fed) && p.fed[n] < k {
		n++
	}
	if p.earlier[n] == nil {
		c := p.c
		c.Readings = c.Readings[:n]
		l := learn.Learn(&c)
		p.earlier[n] = &l
	}
	return p.earlier[n]
}

// now says whether a reading was taken with the capacitors that are in now.
func (p *proof) now(r *Reading) bool {
	const near = 0.5
	bank := p.bankIn(r.State)
	return r.State == Standing || math.Abs(r.AC-bank.AC) < near && math.Abs(r.BC-bank.BC) < near
}

// row is a state as it was read and foretold.
func (p *proof) row(s State, columns []Place) (row Row) {
	row = Row{
		State: s.Name, Title: s.Title, Mark: "note", Says: []string{}, Facts: []string{},
		Cells: make([]Cell, len(columns)),
	}
	k := p.last(s.Name)
	var r *Reading
	bank := p.bank
	if k >= 0 {
		r = &p.list[k]
		second := learn.Bank{}
		if s.Name == Part || s.Name == Full {
			second = p.second
		}
		bank = learn.Bank{AC: math.Max(0, r.AC-second.AC), BC: math.Max(0, r.BC-second.BC)}
		row.By = r.Hand + ", " + strings.Replace(r.At[:16], "T", " ", 1)
	}
	share := s.Share
	if r != nil && r.Share != nil {
		share = r.Share
	}
	own, foretold := p.state(s.Name, share)
	foretold = foretold && p.learned != nil
	by := p.learned
	if foretold && k >= 0 {
		by = p.before(k)
	}
	far := []string{}
	for i, c := range columns {
		if s.Name == Alone {
			c.Name = strings.Replace(c.Name, machineID, idlerID, 1)
		}
		cell := &row.Cells[i]
		cell.Place, cell.Title = c.Name, c.alone()
		if r != nil {
			if value, ok := r.figure(c.Name); ok {
				cell.Read = &value
			}
		}
		place, _ := placed(c.Name)
		var value, sigma float64
		ok := false
		switch {
		case s.Name == Standing && p.learned != nil && c.Name == "volts.ab":
			value, sigma = p.learned.SupplyVolts()
			stepped := p.q.Stepped() // behind a transformer, where one stands ahead
			by := stepped.Supply.Volts / p.q.Supply.Volts
			value, sigma, ok = by*value, by*sigma, true
		case foretold:
			value, sigma, ok = by.Figure(&own, bank, place)
		case p.driven() && (r == nil || r.Share == nil || s.Share != nil && *r.Share == *s.Share):
			value, sigma, ok = p.behind(s.Name, c.Name)
		}
		if !ok {
			continue
		}
		low, high := value-1.645*sigma, value+1.645*sigma
		cell.Low, cell.High = &low, &high
		if cell.Read == nil {
			continue
		}
		cell.Wrong = p.wrong(k, place)
		if off := *cell.Read - value; math.Abs(off) > beside*sigma || cell.Wrong != "" {
			cell.Out = math.Abs(off) > outside*sigma || cell.Wrong != ""
			far = append(far, fmt.Sprintf("%s %s %s what was foretold", c.alone(), figure(math.Abs(off), c.Unit),
				map[bool]string{true: "over", false: "under"}[off > 0]))
		}
	}
	p.judge(&row, s, r, far)
	return row
}

// steady says whether a state is one of those that a machine is proved in: that it runs, and nothing starts.
func steady(state string) bool { return state != Standing && state != Starting }

func figure(value float64, unit string) string { return quantity.Figures(value, 2) + " " + unit }

// wrong is what a figure of a reading looks like that was left out.
func (p *proof) wrong(k int, place learn.Place) string {
	for i, of := range p.fed {
		if of != k {
			continue
		}
		for f, x := range p.c.Readings[i].Figures {
			if x.Place == place {
				return p.misread[[2]int{i, f}]
			}
		}
	}
	return ""
}

// judge says how a state does, by what counts in it.
func (p *proof) judge(row *Row, s State, r *Reading, far []string) {
	switch {
	case r == nil && s.Name == Standing && p.driven():
		row.Says = append(
			row.Says,
			"not read: the bus of a drive is charged while nothing turns, and for minutes after",
		)
		return
	case r == nil && s.Name == Standing:
		row.Says = append(row.Says, "not read: with the volts on and nothing turning the made leg is live, whatever a "+
			"meter says")
		return
	case r == nil && s.Name == Starting:
		row.Says = append(row.Says, "not read: what runs sees the made leg dip while another machine starts")
		return
	case r == nil:
		row.Says = append(row.Says, p.unread(s.Name)+", so not proved"+p.wouldProve(row))
		return
	case r.Unable:
		row.Says = append(row.Says, "could not be loaded, so unproved"+p.wouldProve(row))
		return
	}
	row.Mark = "good"
	if s.Name == Standing {
		row.Says = append(row.Says, "live, whatever turns or not")
	}
	judged := p.judged(s, r)
	row.bare = len(judged) == 0 && !slices.ContainsFunc(row.Cells, func(c Cell) bool { return c.Read != nil })
	if row.bare && s.Name != Standing {
		row.Mark = "note"
		row.Says = append(row.Says, "neither volts nor amps are read, so not proved"+p.wouldProve(row))
		return
	}
	for _, j := range judged {
		expected, accepted := j.Words()
		if j.Accepted {
			if j.Rule != "prove.volts-far" { // which says no more than the figures beside it
				row.Facts = append(row.Facts, j.Figure+" "+quantity.Figures(j.Value, 2)+" "+j.Unit)
			}
			continue
		}
		row.Says = append(row.Says, fmt.Sprintf("%s %s, %s accepted", j.Figure, expected, accepted))
		row.Mark = worse(row.Mark, string(rule.Get(j.Rule).Severity))
	}
	if w, ok := p.windings(r); ok {
		row.Facts = append(row.Facts, fmt.Sprintf("windings %.0f, %.0f, %.0f %%", w[0], w[1], w[2]))
	}
	if len(far) > 0 {
		mark := "note"
		if slices.ContainsFunc(row.Cells, func(c Cell) bool { return c.Out }) {
			mark = "caution"
		}
		row.Mark = worse(row.Mark, mark)
		row.Says = append(row.Says, far...)
	}
	if len(row.Says) == 0 {
		row.Says = append(row.Says, "good")
	}
}

// wouldProve says at which amps of the machine's first line a state is brought about, where that is foretold: nobody
// sees a share of output on a meter.
func (p *proof) wouldProve(row *Row) string {
	at := slices.IndexFunc(row.Cells, func(c Cell) bool { return c.Place == "amps."+machineID+".a" })
	if row.State != Part && row.State != Full || at < 0 || row.Cells[at].Low == nil {
		return ""
	}
	c := &row.Cells[at]
	return fmt.Sprintf("; the load at which %s takes %s to %s A would prove it", p.q.Lines().Marks[0],
		quantity.Figures(*c.Low, 3), quantity.Figures(*c.High, 3))
}

// worse is the graver of two marks.
func worse(a, b string) string {
	order := []string{"good", "note", "caution", "stop"}
	return order[max(slices.Index(order, a), slices.Index(order, b))]
}

// legs are three figures of a reading; ok is false where one is missing.
func legs(r *Reading, a, b, c string) (l network.Legs, ok bool) {
	for i, to := range []*float64{&l.A, &l.B, &l.C} {
		value, there := r.figure([]string{a, b, c}[i])
		if !there {
			return l, false
		}
		*to = value
	}
	return l, true
}

// volts are those of the three pairs of a reading.
func volts(r *Reading) (v network.Lines, ok bool) {
	l, ok := legs(r, "volts.ab", "volts.bc", "volts.ca")
	return network.Lines{AB: l.A, BC: l.B, CA: l.C}, ok
}

// windings are those of the machine in percent of their plate, by the amps of its lines.
func (p *proof) windings(r *Reading) (percent [3]float64, ok bool) {
	l, ok := legs(r, "amps.machine.a", "amps.machine.b", "amps.machine.c")
	if !ok {
		return percent, false
	}
	w, ok := network.WindingAmps(p.delta, l)
	for i, amps := range w {
		percent[i] = 100 * amps / p.q.WindingAmps()
	}
	return percent, ok
}

// hottest is the hottest winding of the machine in percent of its plate, and which.
func (p *proof) hottest(r *Reading) (percent float64, winding int, ok bool) {
	w, ok := p.windings(r)
	for i, own := range w {
		if own > percent {
			percent, winding = own, i
		}
	}
	return percent, winding, ok
}

// judged are the figures of a reading beside the limits of its state.
func (p *proof) judged(s State, r *Reading) (list []rule.Judged) {
	add := func(j rule.Judged) { list = append(list, j) }
	if v, ok := volts(r); ok && !p.way.Info().OwnVolts { // behind a drive a meter reads pulses
		lines := p.lineVolts()
		switch s.Name {
		case Alone, Idle:
			of := map[bool]string{true: "made leg, of the lines", false: "made leg, of plate volts"}[p.c.Idler == nil]
			add(rule.AtMost(s.Title, of, 100*max(v.BC, v.CA)/lines, "capacitor.made-leg-high", "most_percent", "%"))
		case Part, Full:
			add(rule.AtMost(s.Title, "legs apart", v.Unbalance(), "rotary.unbalance", "most_percent", "%"))
			rated := p.q.Plate.Volts.Value
			least, most := 100*min(v.AB, v.BC, v.CA)/rated, 100*max(v.AB, v.BC, v.CA)/rated
			const far = "prove.volts-far"
			add(rule.AtLeast(s.Title, "lowest pair, of plate volts", least, far, "least_percent", "%"))
			add(rule.AtMost(s.Title, "highest pair, of plate volts", most, far, "most_percent", "%"))
		case Starting:
			add(rule.AtLeast(s.Title, "lowest pair, of the lines", 100*min(v.AB, v.BC, v.CA)/lines, "prove.dip",
				"least_percent", "%"))
		}
	}
	if percent, _, ok := p.hottest(r); ok && s.Name != Starting {
		id := "capacitor.winding-at-full"
		switch {
		case p.c.Idler == nil && s.Name == Idle:
			id = "capacitor.winding-at-idle"
		case p.c.Idler == nil && s.Name == Part:
			id = "capacitor.winding-at-load"
		}
		add(rule.AtMost(s.Title, "hottest winding", percent, id, "most_percent", "%"))
	}
	if p.c.Idler != nil && p.c.Idler.Amps > 0 && s.Name != Starting {
		if l, ok := legs(r, "amps.idler.a", "amps.idler.b", "amps.idler.c"); ok {
			add(rule.AtMost(s.Title, "idler, hottest line", 100*l.Max()/p.c.Idler.Amps,
				"capacitor.winding-at-full", "most_percent", "%"))
		}
	}
	return append(list, p.warm(s, r)...)
}

// kelvinAtNothing is how many degrees below zero the resistance of copper would come to nothing (IEC 60034-1, 8.6.2).
const kelvinAtNothing = 235

// warm judges what was read of warmth: a winding by its resistance, and its frame.
func (p *proof) warm(s State, r *Reading) (list []rule.Judged) {
	room, ok := r.figure("room")
	if !ok {
		return nil
	}
	if hot, ok := r.figure("ohm-hot"); ok {
		if cold, at, ok := p.cold(r); ok {
			rise := hot/cold*(kelvinAtNothing+at) - kelvinAtNothing - room
			bears := p.q.Thermal.LimitC - ratedAmbientC
			list = append(list, rule.AtMost(s.Title, fmt.Sprintf("winding %.0f K over the room, of class %s",
				rise, p.q.Thermal.Class), 100*rise/bears, "prove.winding-hot", "most_percent", "%"))
		}
	}
	if frame, ok := r.figure("frame"); ok && s.Name != Standing {
		list = append(list, rule.AtMost(s.Title, "frame over the room, of what plate load makes",
			100*(frame-room)/p.q.Thermal.FrameRiseK, "prove.frame-hot", "most_usual_percent", "%"))
	}
	return list
}

// ratedAmbientC is the air that classes of insulation are rated in (IEC 60034-1, 6.2).
const ratedAmbientC = 40

// cold is a winding's resistance cold, with the temperature of the room that it was read in: of a reading, or of the
// last one before that has it.
func (p *proof) cold(r *Reading) (ohm, room float64, ok bool) {
	for i := range p.list {
		x := &p.list[i]
		if x.At > r.At {
			break
		}
		cold, had := x.figure("ohm-cold")
		at, knew := x.figure("room")
		if had && knew && cold > 0 {
			ohm, room, ok = cold, at, true
		}
	}
	return ohm, room, ok
}

// headline is how far it is proved.
func (p *proof) headline(page *Page) []rule.Row {
	read, of, worst, mark := 0, 0, "good", rule.Row{Label: "Verdict", Value: "not yet"}
	var open, unable []string
	for _, row := range page.Rows {
		if !steady(row.State) {
			continue
		}
		of++
		k := p.last(row.State)
		switch {
		case k < 0, row.bare:
			open = append(open, row.Title)
			continue
		case p.list[k].Unable:
			unable = append(unable, row.Title)
			continue
		}
		read++
		worst = worse(worst, row.Mark)
	}
	switch {
	case read == 0:
		mark.Remark = "nothing is read"
	case worst == "stop" || worst == "caution":
		mark.Value, mark.Remark = "not as it should", "see the states below"
		if len(open) > 0 {
			mark.Value = "not yet"
		}
	case len(open) == 0 && len(unable) > 0 && worst == "good":
		mark.Value, mark.Remark = "unproved", strings.ToLower(strings.Join(unable, ", "))+" could not be loaded"
	case len(open) == 0 && worst == "good":
		mark.Value, mark.Remark = "proved", "in every state"
	default:
		mark.Remark = "good as far as it was read"
	}
	apart := rule.Row{Label: "Worst legs apart", Value: "–", Remark: "no loaded state is read"}
	hottest := rule.Row{Label: "Hottest winding", Value: "–", Remark: "no amps are read"}
	most, hot := -1.0, -1.0
	windings := p.q.Lines().Windings(p.delta)
	for _, s := range p.states {
		k := p.last(s.Name)
		if k < 0 || !steady(s.Name) {
			continue
		}
		if v, ok := volts(&p.list[k]); ok && v.Unbalance() > most {
			most = v.Unbalance()
			apart.Value, apart.Remark = quantity.Fixed(most, 1)+" %", strings.ToLower(s.Title)
		}
		if percent, w, ok := p.hottest(&p.list[k]); ok && percent > hot {
			hot = percent
			hottest.Value = fmt.Sprintf("%.0f %%", percent)
			hottest.Remark = windings[w] + ", " + strings.ToLower(s.Title)
		}
	}
	proved := rule.Row{Label: "Proved", Value: fmt.Sprintf("%d of %d", read, of), Remark: "every state is read"}
	if open = append(open, unable...); len(open) > 0 {
		proved.Remark = strings.ToLower(open[len(open)-1]) + " would settle it"
	}
	return []rule.Row{mark, apart, hottest, proved}
}

// folk are the yardsticks that people go by, beside what they miss.
func (p *proof) folk() []rule.Row {
	var apart, amps, below []string
	for _, s := range p.states {
		k := p.last(s.Name)
		if k < 0 || !steady(s.Name) {
			continue
		}
		if v, ok := volts(&p.list[k]); ok {
			apart = append(apart, fmt.Sprintf("%s %.1f %%", strings.ToLower(s.Title), v.Unbalance()))
		}
		if l, ok := legs(&p.list[k], "amps.machine.a", "amps.machine.b", "amps.machine.c"); ok {
			of := network.Lines{AB: l.A, BC: l.B, CA: l.C}
			amps = append(amps, fmt.Sprintf("%s %.0f %%", strings.ToLower(s.Title), of.Unbalance()))
			below = append(below, fmt.Sprintf("%s %.0f %%", strings.ToLower(s.Title), 100*l.Max()/p.q.Plate.Amps.Value))
		}
	}
	row := func(label string, values []string, misses string) rule.Row {
		value := "not read"
		if len(values) > 0 {
			value = strings.Join(values, "; ")
		}
		return rule.Row{Label: label, Value: value, Remark: misses}
	}
	return []rule.Row{
		row(
			"Volts within 5 percent",
			apart,
			"it misses the winding: one may be past its plate at 3 percent, and idle legs say "+
				"nothing of a load",
		),
		row("Amps within 20 percent", amps, "idle amps differ most, and harm least"),
		row("Amps below plate", below, "a delta’s winding is not its line: one winding may be past its own amps"),
	}
}
