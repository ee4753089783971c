package prove

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/learn"
	"brackmoor/core/machine"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
)

// Page is what was read beside what was foretold.
type Page struct {
	Way      string            `json:"way"`
	Headline []rule.Row        `json:"headline" nullable:"false"`
	Columns  []Place           `json:"columns" nullable:"false"`
	Rows     []Row             `json:"rows" nullable:"false"`
	States   []State           `json:"states" nullable:"false"`
	Due      string            `json:"due"`                     // the state to read next
	Places   []Place           `json:"places" nullable:"false"` // that something can be read at
	Others   map[string]string `json:"other_units"`             // that a meter may show in place of a unit
	Banks    []Bank            `json:"banks" nullable:"false"`  // of capacitors that a reading says it was read with
	Readings []Reading         `json:"readings" nullable:"false"`
	Learned  []rule.Row        `json:"learned" nullable:"false"`
	// Fitted is what the readings tell of the machine, to be taken in the place of its plate's circuit; nil while they
	// tell nothing.
	Fitted   *machine.Learned `json:"fitted"`
	Next     *Next            `json:"next"`    // nil where nothing is to be changed, or no capacitor is in it
	NoNext   string           `json:"no_next"` // why there is none
	Verdicts []rule.Verdict   `json:"verdicts" nullable:"false"`
	Folk     []rule.Row       `json:"folk" nullable:"false"`
	Trends   []Trend          `json:"trends" nullable:"false"`   // what wears, over time
	Ramp     []rule.Row       `json:"ramp" nullable:"false"`     // an idler brought up at reduced volts
	Sequence []rule.Row       `json:"sequence" nullable:"false"` // how the order of the lines is told
	Sources  []rule.Table     `json:"sources" nullable:"false"`  // what was read on others, beside this way
}

// Bank is capacitors that stand between a line and the made leg: ac or bc, what it is called here, and microfarads now.
type Bank struct {
	Name       string  `json:"name"`
	Title      string  `json:"title"`
	Microfarad float64 `json:"microfarad"`
	Loaded     float64 `json:"loaded_microfarad"` // with what comes in with the load
}

// Row is a state: what was read in it last and what is foretold, and how it is judged.
type Row struct {
	State string   `json:"state"`
	Title string   `json:"title"`
	By    string   `json:"by"` // who read it and when, "" for nobody
	Cells []Cell   `json:"cells" nullable:"false"`
	Mark  string   `json:"mark" enum:"good,note,caution,stop"`
	Says  []string `json:"says" nullable:"false" told:"figures"`
	Facts []string `json:"facts" nullable:"false"` // what was judged and is good

	bare bool // what was read of it says nothing of how it does
}

// Cell is a figure: as read, and where nine of ten readings should lie; nil for what is not known.
type Cell struct {
	Read  *float64 `json:"read"`
	Low   *float64 `json:"low"`
	High  *float64 `json:"high"`
	Out   bool     `json:"out"`                  // far outside
	Wrong string   `json:"wrong" told:"figures"` // what it looks like, where it was left out as misread
	Place string   `json:"place"`                // where it is read: of the idler where that runs alone
	Title string   `json:"title"`                // what that is called beside others
}

// Next is the change to make next, and what should be read then.
type Next struct {
	Says   string     `json:"says" told:"figures"`
	Then   []rule.Row `json:"then" nullable:"false"`
	AC     float64    `json:"ac_microfarad"`
	BC     float64    `json:"bc_microfarad"`
	Reason string     `json:"reason"`
}

// proof is a page while it is made.
type proof struct {
	q        *feed.Question
	way      feed.Way
	c        learn.Case
	bank     learn.Bank
	second   learn.Bank // that comes in with the load
	delta    bool
	states   []State
	list     []Reading // that count, of the way that is taken
	learned  *learn.Learned
	misread  map[[2]int]string // by reading of the case and place
	fed      []int             // readings of the list that the case has, by its own
	earlier  map[int]*learn.Learned
	outlined **feed.Outline
}

// Of sets readings of a motor beside its way.
func Of(q *feed.Question, readings []Reading) (Page, error) {
	_, page, err := proofOf(q, readings, nil)
	return page, err
}

// OnBench is that of a rig, in which other capacitors than those of its way may be: so many microfarads to a and to b.
func OnBench(q *feed.Question, readings []Reading, ac, bc float64) (Page, error) {
	_, page, err := proofOf(q, readings, &learn.Bank{AC: ac, BC: bc})
	return page, err
}

// proofOf is a page with what it was made of; in is what is in circuit, nil for what its way has.
func proofOf(q *feed.Question, readings []Reading, in *learn.Bank) (*proof, Page, error) {
	p := &proof{
		q: q, way: q.Choice.Taken(), delta: q.Plate.Delta, misread: map[[2]int]string{},
		earlier: map[int]*learn.Learned{},
	}
	hung, err := p.way.Hang(q, machineID, q.Share())
	if err != nil {
		return nil, Page{}, err
	}
	p.gather(hung)
	bare, err := p.way.Hang(q, machineID, 0)
	if err != nil {
		return nil, Page{}, err
	}
	loaded := bankOf(hung)
	p.bank = bankOf(bare)
	p.second = learn.Bank{AC: loaded.AC - p.bank.AC, BC: loaded.BC - p.bank.BC}
	if in != nil {
		p.bank, p.second = *in, learn.Bank{}
	}
	p.states = states(p.c.Idler != nil, q.Share())
	for _, r := range Counting(readings) {
		if r.Source == "" {
			p.list = append(p.list, r)
		}
	}
	page := Page{
		Way: p.way.Info().Title, States: p.states, Places: places(q.Supply.Hertz, p.c.Idler != nil), Others: Others,
		Readings: append([]Reading{}, readings...), Rows: []Row{}, Learned: []rule.Row{}, Banks: p.banks(),
		Verdicts: []rule.Verdict{}, Folk: []rule.Row{},
	}
	page.Columns = p.columns(page.Places)
	if len(p.c.Machines) > 0 {
		p.learn(&page)
	}
	if len(page.Learned) == 0 {
		page.Learned = append(page.Learned, rule.Row{Label: "Learned", Value: "nothing yet",
			Remark: "everything is as its plate says"})
	}
	for _, s := range p.states {
		page.Rows = append(page.Rows, p.row(s, page.Columns))
	}
	page.Ramp, page.Sequence = p.ramp(), p.sequence()
	switch {
	case page.Next != nil || page.NoNext != "":
	case len(page.Banks) == 0:
		page.NoNext = "There is no capacitor on this way that could be changed."
	case len(p.fed) == 0:
		page.NoNext = "Read something first: what the legs say names the change."
	default:
		page.NoNext = "None: as far as it was read, no change of capacitors makes it better."
	}
	page.Due = p.due(&page)
	page.Headline = p.headline(&page)
	page.Folk = p.folk()
	page.Sources = p.sources(readings)
	var worn []rule.Verdict
	page.Trends, worn = p.trends()
	page.Verdicts = append(page.Verdicts, worn...)
	return p, page, nil
}

// gather makes a case of what hangs on the way's lines; of a drive there is none.
func (p *proof) gather(hung network.Circuit) {
	p.c.Supply = p.q.Supply
	p.c.Supply.Phases = 1
	if hung.Transformer != nil {
		p.c.Supply.Transformer = hung.Transformer
	}
	for _, m := range hung.Motors {
		own := learn.Motor{ID: machineID, Network: m, Watts: p.q.Watts(), Amps: p.q.Plate.Amps.Value}
		if m.ID != machineID {
			own.ID, own.Watts, own.Amps = idlerID, 0, 0
			if i, ok := p.way.(feed.Idled); ok {
				own.Watts, own.Amps = i.Idler(p.q)
			}
			own.Network.ID, own.Network.Load = idlerID, nil
			p.c.Idler = &own
			continue
		}
		own.Network.Load = nil
		p.c.Machines = append(p.c.Machines, own)
	}
}

// due is the state to read next: the first that a machine is proved in and that is not read, or else the first of all.
func (p *proof) due(page *Page) string {
	for _, row := range page.Rows {
		if row.By == "" && steady(row.State) {
			return row.State
		}
	}
	return p.states[0].Name
}

// bankOf is the capacitors of a circuit.
func bankOf(hung network.Circuit) (b learn.Bank) {
	for _, c := range hung.Capacitors {
		if c.Between == network.AC {
			b.AC += c.Microfarad
		} else {
			b.BC += c.Microfarad
		}
	}
	return b
}

// bankIn is what is in circuit in a state, with what comes in with the load.
func (p *proof) bankIn(state string) learn.Bank {
	if state == Part || state == Full {
		return learn.Bank{AC: p.bank.AC + p.second.AC, BC: p.bank.BC + p.second.BC}
	}
	return p.bank
}

// banks are those that a reading is asked for.
func (p *proof) banks() []Bank {
	list := []Bank{}
	lines := p.q.Lines()
	loaded := p.bankIn(Part)
	add := func(name, letter string, microfarad, loaded float64) {
		if p.c.Idler != nil || loaded > 0 {
			list = append(list, Bank{name, lines.To(letter), microfarad, loaded})
		}
	}
	if len(p.c.Machines) > 0 {
		add("ac", "a", p.bank.AC, loaded.AC)
		add("bc", "b", p.bank.BC, loaded.BC)
	}
	return list
}

// state is a state as the case has it; ok is false for one that it does not foretell.
func (p *proof) state(name string, share *float64) (s learn.State, ok bool) {
	for _, own := range p.states {
		if own.Name != name || !steady(name) {
			continue
		}
		if name == Alone {
			return learn.State{On: []string{}}, true
		}
		if share == nil {
			share = own.Share
		}
		s = learn.State{On: []string{machineID}, Share: map[string]*float64{machineID: share}}
		if name != Idle {
			s.Second = p.second
		}
		return s, true
	}
	return s, false
}

// mostLearned is from how many readings a machine is learned, the latest: older ones are of another bearing, another
// belt.
const mostLearned = 40

// learn fits the readings that the case can hold, and says what they tell.
func (p *proof) learn(page *Page) {
	for k, r := range p.list {
		s, ok := p.state(r.State, r.Share)
		if !ok || k < len(p.list)-mostLearned {
			continue
		}
		s.Volts = r.Volts
		own := learn.Reading{State: s, Bank: learn.Bank{
			AC: math.Max(0, r.AC-s.Second.AC), BC: math.Max(0, r.BC-s.Second.BC),
		}}
		for _, f := range r.Figures {
			if place, ok := placed(f.Place); ok && (place.Of != idlerID || p.c.Idler != nil) &&
				(place.Of != machineID || len(s.On) > 0) {
				own.Figures = append(own.Figures, learn.Figure{
					Place: place, Value: f.Value, Sigma: math.Max(r.Class/100/2*f.Value, 0),
				})
			}
		}
		if len(own.Figures) > 0 {
			p.c.Readings = append(p.c.Readings, own)
			p.fed = append(p.fed, k)
		}
	}
	l := learn.Learn(&p.c)
	p.learned = &l
	for _, m := range l.Misread {
		for k, f := range p.c.Readings[m.Reading].Figures {
			if f.Place.String() == m.Place {
				p.misread[[2]int{m.Reading, k}] = m.Says
			}
		}
	}
	if len(p.c.Readings) == 0 {
		return
	}
	for _, x := range l.Parameters {
		const told = 0.7 // of what was not known of it before: readings tell less of the others
		if x.Shrunk < told || math.Abs(x.Value-x.Prior) > 2*x.Sigma {
			page.Learned = append(page.Learned, rule.Row{
				Label: x.Of + ", " + x.Name,
				Value: quantity.Figures(x.Value, 3) + " " + x.Unit,
				Remark: fmt.Sprintf(
					"± %s; %s by its plate",
					quantity.Figures(x.Sigma, 2),
					quantity.Figures(x.Prior, 3),
				),
			})
		}
	}
	resistance, reactance := l.Source()
	page.Fitted = &machine.Learned{
		Readings: len(p.c.Readings), Motor: l.Turned(machineID), Resistance: resistance, Reactance: reactance,
	}
	if p.c.Idler != nil {
		page.Fitted.Idler, page.Fitted.IdlerWatts = l.Turned(idlerID), p.c.Idler.Watts
	}
	p.next(page)
}

// placed is a place as the fit has it.
func placed(name string) (p learn.Place, ok bool) {
	words := strings.Split(name, ".")
	switch {
	case len(words) == 2 && words[0] == "volts":
		return learn.Place{At: words[1]}, true
	case len(words) == 2 && words[0] == "amps":
		return learn.Place{Of: learn.Supply}, true
	case len(words) == 3:
		return learn.Place{Of: words[1], At: words[2]}, true
	}
	return p, false
}

// next is the change that brings the states that matter within limits.
func (p *proof) next(page *Page) {
	if p.bank.AC+p.bank.BC == 0 {
		return
	}
	if !slices.ContainsFunc(p.fed, func(k int) bool { return p.now(&p.list[k]) }) {
		page.NoNext = "Read it with the capacitors that are in now: what the legs say then names the next change."
		return
	}
	limits := learn.Limits{
		Unbalance: rule.Limit("learn.out-of-reach", "aim_percent"),
		MadeVolts: rule.Limit("capacitor.made-leg-high", "most_percent") / 100 * p.lineVolts(),
		Idler:     rule.Limit("capacitor.winding-at-full", "most_percent"),
	}
	in := learn.Cans{}
	if p.c.Idler == nil {
		in.Only = network.AC
		if p.bank.BC > 0 {
			in.Only = network.BC
		}
	}
	var matters []learn.State
	for _, s := range p.states {
		own, ok := p.state(s.Name, nil)
		// A motor on one capacitor is even in one state at most: idle it keeps within the limits, or as near as it
		// does now.
		own.Guarded = s.Name == Idle
		if ok && s.Name != Full {
			matters = append(matters, own)
		}
	}
	shelf, from := p.shelf(limits.MadeVolts)
	t := p.learned.Tune(shelf, in, limits, matters)
	page.Verdicts = append(page.Verdicts, p.learned.Verdicts(&t, limits, matters)...)
	if t.Change == nil {
		return
	}
	lines := p.q.Lines()
	n := Next{Says: said(t.Change, lines), AC: t.After.AC, BC: t.After.BC, Then: []rule.Row{}, Reason: from}
	pairs := lines.Pairs()
	for i, e := range t.Expect {
		n.Then = append(n.Then, rule.Row{
			Label: p.c.Words(&matters[i]),
			Value: fmt.Sprintf(
				"%s %.0f–%.0f V, %s %.0f–%.0f V",
				pairs[1],
				e.Low.BC,
				e.High.BC,
				pairs[2],
				e.Low.CA,
				e.High.CA,
			),
			Remark: fmt.Sprintf("legs %.1f percent apart, %.1f by the model now", e.Unbalance, t.Now[i].Unbalance),
		})
	}
	page.Next = &n
}

// lineVolts are those by which a made leg is judged in sizing: of the plate on an idler, of the lines on a motor alone.
func (p *proof) lineVolts() float64 {
	if p.c.Idler != nil {
		return p.q.Plate.Volts.Value
	}
	stepped := p.q.Stepped()
	return stepped.Supply.Volts
}

// said is a change in a sentence.
func said(c *learn.Change, lines quantity.Lines) string {
	var list []string
	for _, x := range []struct {
		swap learn.Swap
		to   string
	}{{c.AC, lines.To("a")}, {c.BC, lines.To("b")}} {
		cans := func(list []float64) string {
			var words []string
			for _, microfarad := range list {
				words = append(words, quantity.Figures(microfarad, 3)+" µF")
			}
			return strings.Join(words, " + ")
		}
		if len(x.swap.Remove) > 0 {
			list = append(list, "take "+cans(x.swap.Remove)+" off "+x.to)
		}
		if len(x.swap.Add) > 0 {
			list = append(list, "put "+cans(x.swap.Add)+" on "+x.to)
		}
	}
	text := strings.Join(list, "; ")
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

// standards are motor-run capacitors as they are sold everywhere, in microfarads.
var standards = []learn.Can{{Microfarad: 5, Count: 2}, {Microfarad: 10, Count: 2}, {Microfarad: 20, Count: 2},
	{Microfarad: 40, Count: 2}}

// shelf is what changes are made of: run capacitors on hand that bear a made leg of volts, by what they measure, or
// else usual ones.
func (p *proof) shelf(made float64) (list []learn.Can, from string) {
	stepped := p.q.Stepped()
	rating := capacitor.RunBank(1, made, stepped.Supply).Volts
	for i := range p.q.Stores {
		x := &p.q.Stores[i]
		if x.Kind != stock.Run || x.Count < 1 || x.Doubtful() != nil || x.For != "" && x.For != p.q.MachineID ||
			x.Volts < rating.Needed {
			continue
		}
		size := math.Round(10*x.Value()) / 10
		if k := slices.IndexFunc(list, func(c learn.Can) bool { return c.Microfarad == size }); k >= 0 {
			list[k].Count += int(x.Count)
			continue
		}
		list = append(list, learn.Can{Microfarad: size, Count: int(x.Count)})
	}
	if len(list) == 0 {
		return standards, fmt.Sprintf("of usual values, for %.0f V ac: nothing on hand suits", rating.Rated)
	}
	return list, fmt.Sprintf("from the stores, by what they measure, those that bear %.0f V", rating.Needed)
}
