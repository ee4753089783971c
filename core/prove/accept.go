package prove

import (
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"brackmoor/core/daybook"
	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// How a machine is accepted.
const (
	NotYet     = "not-yet"
	Pass       = "pass"
	WithLimits = "limits"
	Fail       = "fail"
)

// Acceptance says whether a machine is accepted on its way, by what was read and done.
type Acceptance struct {
	Verdict  string         `json:"verdict" enum:"not-yet,pass,limits,fail"`
	Title    string         `json:"title"`
	Needs    []Need         `json:"needs" nullable:"false"`
	Limits   []string       `json:"limits" nullable:"false" told:"figures"` // within which it is accepted
	Verdicts []rule.Verdict `json:"verdicts" nullable:"false"`              // what stands against it
	Cleared  []rule.Verdict `json:"cleared" nullable:"false"`               // stops of the plan that readings disprove
	Basis    string         `json:"basis" told:"figures"`                   // what it holds for: its way and capacitors
	Readings int            `json:"readings"`                               // that count
	Last     string         `json:"last"`                                   // of which ones: another reading is another
}

// Need is something that must be read or done before a machine is accepted.
type Need struct {
	Title string `json:"title"`
	Done  bool   `json:"done"`
	Says  string `json:"says" told:"figures"` // what of it is missing
}

// Done is how far it is built and its first run has come, the steps that did not go well, and what stops it.
type Done struct {
	Checks, Passed int
	Steps, Well    int
	Failed         []string
	Stops          []string // of the plate, the leads and the circuit, which no reading clears
}

// Sign is what is written down of an acceptance.
func (a *Acceptance) Sign() *daybook.Signed {
	return &daybook.Signed{
		Verdict: a.Verdict, Title: a.Title, Limits: a.Limits, Basis: a.Basis, Readings: a.Readings, Last: a.Last,
	}
}

// Since says why a signed acceptance no longer holds as it was signed, "" where it does.
func (a *Acceptance) Since(s *daybook.Signed) string {
	switch {
	case s.Basis != a.Basis:
		return "signed for " + s.Basis + "; now it is " + a.Basis
	case a.Readings > s.Readings:
		return fmt.Sprintf("%d of the readings came after it was signed", a.Readings-s.Readings)
	case a.Last != s.Last:
		return "readings were corrected after it was signed"
	case a.Verdict != s.Verdict:
		return "it would now be: " + rule.InSentence(a.Title)
	}
	return ""
}

// titles are the verdicts in words.
var titles = map[string]string{
	NotYet: "Not yet", Pass: "Pass", WithLimits: "Pass with limits", Fail: "Fail",
}

// Accept judges a motor on its way by its readings and by what was done.
func Accept(q *feed.Question, readings []Reading, done Done) (Acceptance, error) {
	p, page, err := proofOf(q, readings, nil)
	if err != nil {
		return Acceptance{}, err
	}
	a := Acceptance{
		Needs: p.needs(done), Limits: []string{}, Verdicts: []rule.Verdict{}, Cleared: []rule.Verdict{},
		Basis: p.basis(), Readings: len(p.list), Last: p.which(),
	}
	o := p.outline()
	p.against(&a, &page, done)
	p.plan(&a, o)
	p.limits(&a, &page, o)
	a.Verdicts = rule.Sorted(a.Verdicts)
	worst := rule.Worst(a.Verdicts)
	switch {
	case worst == rule.Stop:
		a.Verdict = Fail
	case slices.ContainsFunc(a.Needs, func(n Need) bool { return !n.Done }):
		a.Verdict = NotYet
	case worst == rule.Caution:
		a.Verdict = WithLimits
	default:
		a.Verdict = Pass
	}
	a.Title = titles[a.Verdict]
	return a, nil
}

// basis is what an acceptance holds for.
func (p *proof) basis() string {
	text := p.q.Title + " on " + rule.InSentence(p.way.Info().Title)
	for _, b := range p.banks() {
		text += fmt.Sprintf(", %s µF %s", quantity.Figures(b.Microfarad, 3), b.Title)
	}
	return text
}

// which tells the readings that count from any others.
func (p *proof) which() string {
	h := fnv.New64a()
	for i := range p.list {
		_, _ = h.Write([]byte(p.list[i].ID + "\n")) // it never fails
	}
	return fmt.Sprintf("%016x", h.Sum64())
}

// needs are what must be read and done on this way.
func (p *proof) needs(done Done) (list []Need) {
	add := func(title string, done bool, says string) {
		if done {
			says = ""
		}
		list = append(list, Need{title, done, says})
	}
	add("Checks before power", done.Passed >= done.Checks, fmt.Sprintf("%d of %d passed", done.Passed, done.Checks))
	add("First run", done.Well >= done.Steps, fmt.Sprintf("%d of %d steps went well", done.Well, done.Steps))
	for _, s := range p.states {
		var places []string
		switch s.Name {
		case Starting:
			continue
		case Standing:
			places = []string{"volts.ab"}
		case Alone:
			places = []string{"volts.ab", "volts.bc", "volts.ca", "amps.idler.a", "amps.idler.b", "amps.idler.c"}
		default:
			places = []string{"volts.ab", "volts.bc", "volts.ca", "amps.machine.a", "amps.machine.b", "amps.machine.c"}
			switch {
			case p.driven(): // a meter reads pulses behind it: amps and its own display count
				places = append(places[3:], "hertz")
			case p.way.Info().OwnVolts: // another motor, of one phase
				places = []string{"volts.ab", "amps.supply"}
			}
		}
		k := p.last(s.Name)
		switch {
		case k < 0:
			add(s.Title, false, p.unread(s.Name))
		case p.list[k].Unable:
			add(s.Title, true, "")
		default:
			var open []string
			for _, name := range places {
				if _, ok := p.list[k].figure(name); !ok {
					open = append(open, p.called(name))
				}
			}
			add(s.Title, len(open) == 0, "without "+strings.Join(open, ", "))
		}
	}
	loaded := p.evidence(func(r *Reading) bool {
		_, ok := r.figure("amps.supply")
		return ok && (r.State == Part || r.State == Full)
	})
	add("Amps of the supply, loaded", loaded >= 0, "not read")
	warm := p.evidence(func(r *Reading) bool {
		_, frame := r.figure("frame")
		_, ohm := r.figure("ohm-hot")
		_, room := r.figure("room")
		return room && (frame || ohm) && (r.State == Part || r.State == Full)
	})
	add("Frame or winding warm from its load, and the room", warm >= 0, "not read")
	return list
}

// called is what a place is called, beside others.
func (p *proof) called(name string) string {
	list := places(p.q.Supply.Hertz, true)
	return list[slices.IndexFunc(list, func(x Place) bool { return x.Name == name })].alone()
}

// evidence is the latest reading that counts and is as is wanted, −1 for none.
func (p *proof) evidence(is func(r *Reading) bool) int {
	best := -1
	for k := range p.list {
		if r := &p.list[k]; r.Volts == 0 && p.now(r) && is(r) {
			best = k
		}
	}
	return best
}

// against says what of the readings and of the first run stands against it.
func (p *proof) against(a *Acceptance, page *Page, done Done) {
	say := func(v rule.Verdict) { a.Verdicts = append(a.Verdicts, v) }
	for _, step := range done.Failed {
		say(rule.Speak("prove.step-open", nil, "Find why, mend it, and do the step again.", "%s", step))
	}
	for _, stop := range done.Stops {
		say(rule.Speak("prove.plan-stop", nil, "Mend it on the step of the card that says it.", "%s", stop))
	}
	for i, s := range p.states {
		k := p.last(s.Name)
		if k < 0 {
			continue
		}
		r := &p.list[k]
		if r.Unable {
			say(rule.Speak("prove.unloaded", nil, "Read it when it can be loaded; until then keep under what was read.",
				"%s could not be brought about%s.", s.Title, p.wouldProve(&page.Rows[i])))
			continue
		}
		for _, j := range p.judged(s, r) {
			if j.Accepted {
				continue
			}
			expected, accepted := j.Words()
			say(p.weighed(s, rule.Speak(j.Rule, rule.Numbers{"percent": j.Value},
				"Do not run it so; see what the next change gives.", "%s: %s %s was read, %s accepted.", s.Title,
				j.Figure, expected, accepted)))
		}
		for c, cell := range page.Rows[i].Cells {
			if cell.Out {
				say(
					rule.Speak(
						"prove.far-off",
						nil,
						"Read it again; then look at what the readings say of the machines.",
						"%s: %s %s was read, %s to %s was foretold.",
						s.Title,
						cell.Title,
						figure(*cell.Read, page.Columns[c].Unit),
						quantity.Figures(*cell.Low, 3),
						quantity.Figures(*cell.High, 3),
					),
				)
			}
		}
	}
	p.supplied(a)
}

// weighed is what is said of a state: one that need not be run, full output of a machine that is to do less, stops
// nothing.
func (p *proof) weighed(s State, v rule.Verdict) rule.Verdict {
	if s.Name == Full && p.q.Share() < 1 && v.Severity == rule.Stop {
		v.Severity = rule.Caution
	}
	return v
}

// supplied says where the amps of the supply that were read are more than its circuit carries.
func (p *proof) supplied(a *Acceptance) {
	breaker := p.q.Fed.BreakerAmps
	if breaker == 0 {
		return
	}
	limit := feed.CircuitLimit(p.q.Supply.Hertz)
	for _, s := range p.states {
		k := p.last(s.Name)
		if k < 0 || s.Name == Starting {
			continue
		}
		amps, ok := p.list[k].figure("amps.supply")
		if !ok {
			continue
		}
		j := rule.AtMost(s.Title, "supply, of the breaker", 100*amps/breaker, "route.circuit", limit, "%")
		if j.Accepted {
			continue
		}
		expected, accepted := j.Words()
		v := rule.Speak(j.Rule, rule.Numbers{"percent": j.Value}, "A circuit for these amps, or less at once.",
			"%s: %s %s was read, %s accepted.", s.Title, j.Figure, expected, accepted)
		a.Verdicts = append(a.Verdicts, p.weighed(s, v))
	}
}

// cameUp are the stops of the plan that a machine disproves which came up to its load by a stopwatch. Others are
// disproved by a figure that is judged by their own rule, and is good.
var cameUp = []string{
	"capacitor.no-start", "rotary.no-start", "start.stands", "start.crawls", "drive.weak-start",
	"route.static-hard-start", "capacitor.stalls",
}

// plan sets the stops of the plan beside what was read: one that is disproved is cleared, any other stands.
func (p *proof) plan(a *Acceptance, o *feed.Outline) {
	if o == nil {
		return
	}
	for _, v := range o.Verdicts {
		if v.Severity != rule.Stop {
			continue
		}
		if v.Cleared = p.cleared(v.Rule); v.Cleared != "" {
			a.Cleared = append(a.Cleared, v)
			continue
		}
		a.Verdicts = append(a.Verdicts, rule.Speak("prove.plan-stop", v.Numbers, v.Do, "%s. %s", v.Title, v.Says))
	}
}

// Clear marks the stops among verdicts that readings disprove.
func (a *Acceptance) Clear(verdicts []rule.Verdict) []rule.Verdict {
	list := slices.Clone(verdicts)
	for i := range list {
		for _, c := range a.Cleared {
			if c.Rule == list[i].Rule {
				list[i].Cleared = c.Cleared
			}
		}
	}
	return list
}

// cleared says by what a stop of the plan is disproved, "" where it is not.
func (p *proof) cleared(id string) string {
	by := func(k int, says string) string {
		return fmt.Sprintf("%s, %s, %.10s", says, p.list[k].Hand, p.list[k].At)
	}
	if slices.Contains(cameUp, id) {
		k := p.evidence(func(r *Reading) bool {
			s, ok := r.figure("up")
			return ok && s > 0 && (r.State == Part || r.State == Full)
		})
		if k < 0 {
			return ""
		}
		s, _ := p.list[k].figure("up")
		return by(k, fmt.Sprintf("it came up to its load in %s s", quantity.Figures(s, 2)))
	}
	says := ""
	for _, s := range p.states {
		k := p.last(s.Name)
		if k < 0 {
			continue
		}
		for _, j := range p.judged(s, &p.list[k]) {
			same := j.Rule == id || id == "heat.past-class" && j.Rule == "prove.winding-hot"
			if same && !j.Accepted {
				return ""
			}
			if same && (s.Name == Part || s.Name == Full) {
				expected, _ := j.Words()
				says = by(k, fmt.Sprintf("%s %s was read %s", j.Figure, expected, rule.InSentence(s.Title)))
			}
		}
	}
	return says
}

// limits says within what it is accepted: its usable output, and the states to avoid.
func (p *proof) limits(a *Acceptance, page *Page, o *feed.Outline) {
	for i, s := range p.states {
		k := p.last(s.Name)
		if k < 0 || !steady(s.Name) {
			continue
		}
		var bad []string
		for _, j := range p.judged(s, &p.list[k]) {
			if !j.Accepted {
				expected, _ := j.Words()
				bad = append(bad, j.Figure+" "+expected)
			}
		}
		out := slices.ContainsFunc(page.Rows[i].Cells, func(c Cell) bool { return c.Out })
		switch {
		case p.list[k].Unable:
			a.Limits = append(a.Limits, fmt.Sprintf("%s is unproved: no more than was read until it is.", s.Title))
		case bad != nil:
			a.Limits = append(
				a.Limits,
				fmt.Sprintf("Avoid: %s (%s).", rule.InSentence(s.Title), strings.Join(bad, ", ")),
			)
		case out:
			a.Limits = append(a.Limits, s.Title+" was far from what is foretold: under watch until it is read again.")
		}
	}
	if len(a.Limits) > 0 && o != nil && o.UsableWatts != nil && o.UsableWatts[1] > 0 {
		a.Limits = append(a.Limits, "Usable output by the model: "+
			quantity.PowerRange(o.UsableWatts[0], o.UsableWatts[1], p.q.Supply.Hertz)+".")
	}
}
