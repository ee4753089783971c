// Package idler feeds a machine from a rotary converter: an idling motor with balance
// capacitors that makes the third leg.
package idler

import (
	"fmt"
	"math"

	"brackmoor/core/feed"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/stock"
	"brackmoor/core/waveform"
)

type way struct{}

// Way is the way itself.
var Way feed.Way = way{}

func init() { feed.Register(Way) }

func (way) Info() feed.Info {
	return feed.Info{Name: "rotary", Title: "Rotary converter", Family: "idler", Order: 4, FeedsMore: true}
}

// input is the machine as an idler is sized for it.
func input(q *feed.Question) rotary.Input {
	return rotary.Input{
		Machine:     q.Stepped(),
		IdlerWatts:  q.Choice.IdlerWatts,
		BalanceAC:   q.Choice.BalanceAC,
		BalanceBC:   q.Choice.BalanceBC,
		SecondAC:    q.Choice.SecondAC,
		SecondBC:    q.Choice.SecondBC,
		Balance:     q.Choice.Balance,
		Tariff:      q.Prices.Tariff,
		HoursPerDay: q.Matters.HoursPerDay,
	}
}

type solved struct {
	answer rotary.Answer
	err    error
}

func size(q *feed.Question) (*rotary.Answer, error) {
	s := feed.Shared(q, "idler", func() *solved {
		in := input(q)
		a, err := rotary.Size(in)
		if m := onHand(q, &a); err == nil && in.IdlerWatts == nil && m != nil && m.Watts != a.IdlerWatts {
			in.IdlerWatts = &m.Watts
			a, err = rotary.Size(in)
		}
		return &solved{a, err}
	})
	return &s.answer, s.err
}

// onHand is the motor of the shop's stores that is taken for the idler where nobody chose another size; nil for none.
func onHand(q *feed.Question, a *rotary.Answer) *stock.Item {
	watts := a.ModelWatts
	switch {
	case q.Choice.IdlerWatts != nil:
		watts = *q.Choice.IdlerWatts
	case !a.ModelReached:
		return nil
	}
	return stock.Idler(q.Stores, watts, q.Stepped().Supply.Volts, q.MachineID)
}

// ladder is the standard idlers side by side, looked at once for a question.
func ladder(q *feed.Question, a *rotary.Answer) []rotary.Rung {
	return feed.Shared(q, "idlers", func() []rotary.Rung {
		list, err := rotary.Ladder(input(q), *a)
		if err != nil {
			return nil
		}
		return list
	})
}

// watched is the answer with what its terminals do after switch-off.
type watched struct {
	answer rotary.Answer
	off    waveform.Off
	err    error
}

func watch(q *feed.Question) *watched {
	return feed.Shared(q, "idler off", func() *watched {
		sized, err := size(q)
		if err != nil {
			return &watched{err: err}
		}
		a := *sized
		off, verdicts, err := rotary.SwitchOff(input(q), a)
		a.Verdicts = rule.Sorted(append(verdicts, a.Verdicts...))
		return &watched{a, off, err}
	})
}

// saidToGive is the share of output under which the school is quoted beside the model.
const saidToGive = 0.9

// Outline is what it comes to beside the other ways.
func (way) Outline(q *feed.Question) *feed.Outline {
	a, err := size(q)
	if err != nil || len(a.States) < 4 {
		return nil
	}
	o := &feed.Outline{
		Starts: a.StartMargin >= 1 && a.StartSeconds != nil && a.ModelReached,
		Margin: &a.StartMargin, Seconds: a.StartSeconds, Duty: a.Duty, Verdicts: a.Verdicts,
		Unsolved:  []string{"it idles and hums while nothing is cut", "the made leg moves with load"},
		LossWatts: new(a.States[2].SupplyWatts - q.Share()*q.Watts()),
	}
	o.Refused = feed.Refusal(o, "rotary.")
	if w := max(watts(a.UsableWatts), watts(a.FactorWatts)); w > 0 { // a service factor is the plate's own word
		o.UsableWatts = &[2]float64{0, w}
	}
	for i, to := range []struct{ hottest, amps, apart **float64 }{
		{&o.Hottest.Idle, &o.SupplyAmps.Idle, &o.Unbalance.Idle},
		{&o.Hottest.Load, &o.SupplyAmps.Load, &o.Unbalance.Load},
		{&o.Hottest.Full, &o.SupplyAmps.Full, &o.Unbalance.Full},
	} {
		if s := &a.States[i+1]; s.Runs {
			*to.hottest, *to.amps, *to.apart = &s.HottestPercent, &s.SupplyAmps, &s.Unbalance
			o.Volts[i] = s.Volts
		}
	}
	o.SupplyAmps.Starting = new(math.Max(a.StartAmps, a.Idler.PeakSupplyAmps))
	o.Code = q.Code().Converter(q.Watts(), q.Supply.Volts)
	o.Keep("idler_watts", "idler", a.IdlerWatts, "W")
	lines := q.Lines()
	o.Keep("balance_ac_microfarad", "balance "+lines.To("a"), a.BalanceAC, "µF")
	o.Keep("balance_bc_microfarad", "balance "+lines.To("b"), a.BalanceBC, "µF")
	if s := a.Second; s != nil {
		o.Put("second_ac_microfarad", "second bank "+lines.To("a"), s.AC, "µF")
		o.Put("second_bc_microfarad", "second bank "+lines.To("b"), s.BC, "µF")
	}
	o.Keep("idler_start_microfarad", "idler's start", a.Idler.StartMicrofarad, "µF")
	o.Keep("idle_watts", "left on it takes", a.IdleWatts, "W")
	o.Keep("overload_amps", "overload", q.Plate.Amps.Value, "A")
	o.Put("balance_capacitor_volts", "balance capacitors' rating",
		math.Max(a.Banks.AC.Volts.Rated, a.Banks.BC.Volts.Rated), "V ac")
	o.Put("idler_start_capacitor_volts", "start capacitors' rating", a.Banks.Start.Volts.Rated, "V ac")
	o.Parts = parts(q.Prices, a.IdlerWatts, a.BalanceAC+a.BalanceBC) +
		q.Prices.StartPerMicrofarad*a.Idler.StartMicrofarad + q.Prices.StartRelay
	if s := a.Second; s != nil {
		o.Parts += q.Prices.RunPerMicrofarad*(s.AC+s.BC) + q.Prices.StartRelay + q.Prices.Switchgear
	}
	feed.Transformed(q, o)
	o.Schools = schools(q, a)
	return o
}

// schools are what is said of idlers beside what the model finds.
func schools(q *feed.Question, a *rotary.Answer) (list []string) {
	if usable := max(watts(a.FactorWatts), a.Duty.Most()); usable < saidToGive*q.Watts() {
		list = append(list, fmt.Sprintf("A rotary converter is said to give the whole output; the model finds "+
			"%.0f percent on this one, since the legs match at one load only and the idle leg is kept safe. A larger "+
			"idler, or capacitors for full output, give more.", 100*usable/q.Watts()))
	}
	return append(list, fmt.Sprintf("Idlers are taken from 1.25 times the hardest-starting motor up to twice it; "+
		"the model takes %s, %.2g times.", q.Power(a.IdlerWatts), a.IdlerWatts/q.Watts()))
}

func watts(figure *float64) float64 {
	if figure == nil {
		return 0
	}
	return *figure
}

// Weigh has its hum against it.
func (way) Weigh(q *feed.Question, _ *feed.Outline) []feed.Against {
	list := feed.AgainstTransformer(q)
	if q.Matters.Quiet {
		list = append(list, feed.Against{Weight: "noise", Says: "an idler hums all day"})
	}
	return list
}

func (way) Hours(c feed.Controls) float64 { return 5 + 0.5*float64(c.Motors-1) }

func (way) Cautions() []string {
	return []string{"capacitor.charged", "always.made-leg", "always.made-leg-to-earth", "always.overload",
		"capacitor.kind", "always.old-gear", "capacitor.welded-start", "rotary.lost-line", "always.control-transformer"}
}

func (way) Reversal() string {
	return "exchange two of the motor's leads behind the converter, never the made leg alone at a control"
}

// Brief is the answer in a few words.
func (way) Brief(q *feed.Question) (string, []rule.Verdict, error) {
	w := watch(q)
	a := &w.answer
	return fmt.Sprintf("idler %s, %.0f + %.0f µF", q.Power(a.IdlerWatts), a.BalanceAC, a.BalanceBC), a.Verdicts, w.err
}

// Size is the whole answer.
func (way) Size(q *feed.Question) (feed.Page, error) {
	w := watch(q)
	if w.err != nil {
		return feed.Page{}, w.err
	}
	a := &w.answer
	p := page(q, a)
	p.Headline = headline(q, a)
	p.Views = append(p.Views,
		feed.View{Name: "ladder", Title: "Sizes", Panels: []feed.Panel{
			{Name: "ladder", Kind: feed.TablePanel, Title: "Idlers side by side", Width: feed.Full,
				Note: "what is left of the machine’s output", Table: rungs(q, ladder(q, a))},
		}},
		feed.View{Name: "starts", Title: "Bringing it up", Panels: []feed.Panel{
			{Name: "starts", Kind: feed.NotesPanel, Title: "Bringing the idler up", Width: feed.Full, Notes: starts(a)},
		}},
		feed.View{Name: "accept", Title: "Accepted by state", Panels: []feed.Panel{accepted(a)}},
		feed.View{Name: "shaft", Title: "Shaft and duty", Panels: feed.ShaftPanels()},
	)
	p.Below = []feed.Panel{{Name: "rows", Kind: feed.FactsPanel, Width: feed.Stack, Facts: rows(q, a, w.off)}}
	return p, nil
}

// Try is its states, for an idler, capacitors and a load that are all given.
func (w way) Try(q *feed.Question) (feed.Page, error) {
	if c := q.Choice; c.IdlerWatts == nil || c.BalanceAC == nil || c.BalanceBC == nil {
		return w.Size(q)
	}
	a, err := rotary.Try(input(q))
	if err != nil {
		return feed.Page{}, err
	}
	p := page(q, &a)
	p.Views = append(p.Views, feed.View{Name: "accept", Title: "Accepted by state", Panels: []feed.Panel{accepted(&a)}})
	return p, nil
}

func accepted(a *rotary.Answer) feed.Panel {
	return feed.Panel{Name: "accept", Kind: feed.TablePanel, Title: "Accepted by state", Width: feed.Full,
		Table: feed.AcceptTable(a.Accept)}
}

// page is what follows the hand: the legs in each state of work.
func page(q *feed.Question, a *rotary.Answer) feed.Page {
	loaded := &a.States[2]
	return feed.Page{
		Way:      "rotary",
		Title:    way{}.Info().Title,
		Headline: []rule.Row{},
		Verdicts: a.Verdicts,
		Workings: []rule.Working{},
		Below:    []feed.Panel{},
		Controls: controls(q, a),
		Views: []feed.View{{Name: "legs", Title: "Legs and windings", Panels: []feed.Panel{
			{Name: "legs", Kind: feed.LegsPanel, Title: "Leg volts", Width: feed.Third,
				Note: fmt.Sprintf("%s, %.1f %% apart", loaded.Title, loaded.Unbalance),
				Legs: &feed.Legs{Volts: loaded.Volts, Degrees: loaded.Degrees, Supply: input(q).Supply.Volts}},
			{
				Name:  "states",
				Kind:  feed.TablePanel,
				Title: "Expect",
				Note:  "windings in % of plate amps",
				Width: feed.Wide,
				Table: states(q, a),
			},
		}}},
	}
}

// states are volts and windings in each state of work.
func states(q *feed.Question, a *rotary.Answer) *feed.Table {
	t := &feed.Table{Head: feed.StateHead(q, "machine", "idler", "supply"), Rows: []feed.TableRow{}}
	for _, s := range a.States {
		whole := func(v float64) feed.Cell { return feed.Cell{Text: quantity.Fixed(v, 0)} }
		machine := feed.Cell{Text: "–", Bad: s.MachineOver}
		if s.HottestPercent > 0 {
			machine.Text = quantity.Fixed(s.HottestPercent, 0) + " %"
		}
		t.Rows = append(t.Rows, feed.TableRow{Head: s.Title, Cells: []feed.Cell{
			whole(s.Volts.AB),
			whole(s.Volts.BC),
			whole(s.Volts.CA),
			machine,
			{
				Text: quantity.Fixed(s.IdlerPercent, 0) + " %",
				Bad:  s.IdlerOver,
			},
			{Text: quantity.Fixed(s.SupplyAmps, 1) + " A"},
		}})
	}
	return t
}

// rungs are the standard idlers side by side.
func rungs(q *feed.Question, ladder []rotary.Rung) *feed.Table {
	t := &feed.Table{Head: []string{"Idler", "by plate amps", "by service factor", "by heat", "hottest at full",
		"made leg idle", "at full", "start", "idle", "parts"}, Rows: []feed.TableRow{}}
	share := func(w *float64) feed.Cell {
		if w == nil || *w <= 0 {
			return feed.Cell{Text: "none", Bad: true}
		}
		return feed.Cell{Text: quantity.Fixed(100*math.Min(*w/q.Watts(), 1), 0) + " %"}
	}
	for _, g := range ladder {
		head := fmt.Sprintf("%s, %s×", q.Power(g.Watts), quantity.Fixed(g.Times, 2))
		switch {
		case g.Taken:
			head += ", taken"
		case g.Usual:
			head += ", the model’s"
		}
		full := feed.Cell{Text: "stalls", Bad: true}
		if g.FullPercent > 0 {
			full = feed.Cell{Text: quantity.Fixed(g.FullPercent, 0) + " %", Bad: !g.Full}
		}
		heat := g.ByHeat.Most()
		t.Rows = append(t.Rows, feed.TableRow{Head: head, Cells: []feed.Cell{
			share(g.ByAmps),
			share(g.ByFactor),
			share(&heat),
			full,
			{Text: quantity.Fixed(g.IdleMade, 0) + " V"},
			{Text: quantity.Fixed(g.LoadMade, 0) + " V"},
			{
				Text: quantity.Fixed(g.StartMargin, 1) + " ×",
				Bad:  !g.Fits,
			},
			{Text: quantity.Fixed(g.IdleWatts, 0) + " W"},
			{Text: quantity.Fixed(parts(q.Prices, g.Watts, g.AC+g.BC), 0)},
		}})
	}
	return t
}

// parts are what an idler and its capacitors cost, in the shop's money.
func parts(p feed.Prices, watts, microfarad float64) float64 {
	return p.IdlerBase + p.IdlerPerKilowatt*watts/1000 + p.RunPerMicrofarad*microfarad
}

// starts are the ways of bringing the idler up.
func starts(a *rotary.Answer) (list []feed.Note) {
	for _, s := range a.Starts {
		n := feed.Note{Title: s.Title, Value: "–", Says: s.Says, Advised: s.Advised}
		if s.Seconds != nil {
			n.Value = fmt.Sprintf("%.2f s", *s.Seconds)
		}
		if s.Amps > 0 {
			n.Says += fmt.Sprintf("; up to %.0f A from the supply", s.Amps)
		}
		list = append(list, n)
	}
	return list
}

// controls are the balance capacitors, the load, and the idler itself.
func controls(q *feed.Question, a *rotary.Answer) []feed.Control {
	c := q.Choice
	most := math.Max(60, math.Ceil(2.5*math.Max(a.TunedAC, a.BalanceAC)/10)*10)
	slide := func(name, title string, value float64, own *float64) feed.Control {
		to := most
		if own != nil {
			to = math.Max(to, *own)
		}
		return feed.Control{
			Name:    name,
			Kind:    feed.Slide,
			Title:   title,
			Unit:    "µF",
			Value:   value,
			Most:    to,
			Step:    1,
			Scale:   1,
			Chosen:  own != nil,
			Options: []feed.Option{},
		}
	}
	pick := feed.Control{
		Name:    "idler_watts",
		Kind:    feed.Pick,
		Title:   "Idler",
		Value:   a.IdlerWatts,
		Scale:   1,
		Chosen:  c.IdlerWatts != nil,
		Options: []feed.Option{{Title: "the model’s choice"}},
	}
	for _, watts := range rotary.Ratings(q.Supply.Hertz) {
		pick.Options = append(pick.Options, feed.Option{Value: &watts, Title: q.Power(watts)})
	}
	aim := feed.Control{Name: "balance", Kind: feed.Named, Title: "Capacitors for", Scale: 1, Named: c.Balance,
		Chosen: c.Balance != "", Options: []feed.Option{}}
	if aim.Named == "" {
		aim.Named = rotary.Balances[0].Name
	}
	for _, b := range rotary.Balances {
		aim.Options = append(aim.Options, feed.Option{Name: b.Name, Title: b.Title})
	}
	lines := q.Lines()
	list := []feed.Control{
		slide("balance_ac_microfarad", lines.Leg("a"), a.BalanceAC, c.BalanceAC),
		slide("balance_bc_microfarad", lines.Leg("b"), a.BalanceBC, c.BalanceBC),
	}
	if s := a.Second; s != nil {
		list = append(list, slide("second_ac_microfarad", "2nd "+lines.Leg("a"), s.AC, c.SecondAC),
			slide("second_bc_microfarad", "2nd "+lines.Leg("b"), s.BC, c.SecondBC))
	}
	return append(list, feed.LoadControl(q), pick, aim)
}
