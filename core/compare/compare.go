// Package compare sets the ways of feeding a machine side by side, ranks them by what
// matters to its owner, and says why. It knows no way by name: all it knows of one is what
// its outline says.
package compare

import (
	"sync"

	"brackmoor/core/feed"
	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Cost is in the shop's money. PerYear is energy lost and idled away, with parts and
// hours spread over some years.
type Cost struct {
	Parts   float64 `json:"parts"`
	Hours   float64 `json:"hours"` // of wiring
	PerYear float64 `json:"per_year"`
}

// Route is one way of feeding the machine, beside the others.
type Route struct {
	Name        string             `json:"route"`
	Title       string             `json:"title"`
	Starts      bool               `json:"starts"`
	Margin      *float64           `json:"start_margin"`
	Seconds     *float64           `json:"start_seconds"`
	UsableWatts *[2]float64        `json:"usable_watts"`
	Duty        *machine.Usable    `json:"usable_for_duty"`
	Hottest     feed.Three         `json:"hottest_winding_percent"`
	SupplyAmps  feed.Amps          `json:"supply_amps"`
	Unbalance   feed.Three         `json:"unbalance_percent"`
	Sizes       map[string]float64 `json:"sizes"` // by their plain names, for who scripts it
	Takes       []feed.Size        `json:"takes" nullable:"false"`
	Cost        Cost               `json:"cost"`
	Unsolved    []string           `json:"unsolved" nullable:"false"`
	Reversal    string             `json:"reversal"`
	Verdicts    []rule.Verdict     `json:"verdicts" nullable:"false"`
	Score       float64            `json:"score"` // less is better
	Fits        bool               `json:"fits"`  // nothing stops it and it does what is wished
	Why         []string           `json:"why" nullable:"false" told:"figures"`
	Workings    []rule.Working     `json:"workings" nullable:"false"`

	way     feed.Way
	outline *feed.Outline
	against []feed.Against
	lacks   int // of what is asked, where it does not fit
}

// Length is how the length of a run is written here: its unit, and how many of it make a metre.
type Length struct {
	Unit     string  `json:"unit"`
	PerMetre float64 `json:"per_metre"`
}

// Answer is all routes, the best first.
type Answer struct {
	Recommended string   `json:"recommended"` // "" where none fits
	Reasons     []string `json:"reasons" nullable:"false"`
	Otherwise   []string `json:"otherwise" nullable:"false"` // what would change it
	Schools     []string `json:"schools" nullable:"false"`   // who sees it otherwise
	Notes       []string `json:"notes" nullable:"false"`     // what holds for all of them
	Run         Length   `json:"run"`
	Routes      []Route  `json:"routes" nullable:"false"`
}

// Worked is a way worked out, whatever is wished.
type Worked struct {
	way     feed.Way
	outline *feed.Outline
	steady  []rule.Working // of the figures that no wish changes
}

// Compare works every way out and ranks them.
func Compare(q *feed.Question) Answer { return Rank(q, Work(q)) }

// Work works every way out, side by side on the cores there are: the costly part. Once nobody
// waits for it, what it gives is of no use.
func Work(q *feed.Question) []Worked {
	ways := feed.All()
	outlines := make([]*feed.Outline, len(ways))
	var wait sync.WaitGroup
	for i, w := range ways {
		wait.Go(func() {
			if q.Stop.Err() == nil {
				outlines[i] = w.Outline(q)
			}
		})
	}
	wait.Wait()
	var list []Worked
	for i, o := range outlines {
		if o == nil {
			continue
		}
		o.Parts += q.Prices.Switchgear
		w := Worked{way: ways[i], outline: o}
		r := w.route()
		w.steady = stated(q, &r)
		list = append(list, w)
	}
	return list
}

// fed takes the breaker and conductors of a circuit among what a route takes.
func (r *Route) fed(c feed.Circuit) {
	conductors := "conductors for"
	if copper := c.Copper(); copper != "" {
		conductors = copper + ", for"
	}
	if c.By != "" {
		conductors += ", " + c.By
	}
	r.take(feed.Size{Name: "conductor_amps", Title: conductors, Value: c.Carry, Unit: "A"})
	if c.Run.Running > 0 {
		r.take(feed.Size{Name: "run_lost_percent", Title: "lost on its run", Value: c.Run.Running, Unit: "%"})
	}
	if c.Breaker == 0 {
		return
	}
	title := "breaker"
	if c.Curve != "" {
		title += ", curve " + c.Curve
	}
	r.take(feed.Size{Name: "breaker_amps", Title: title, Value: c.Breaker, Unit: "A"})
}

func (r *Route) take(s feed.Size) {
	r.Takes = append(r.Takes, s)
	r.Sizes[s.Name] = s.Value
}

// route is a way worked out, not yet judged. What is worked out once is judged again and
// again: nothing is added to its lists.
func (w *Worked) route() Route {
	o := *w.outline
	r := Route{
		Name: w.way.Info().Name, Title: w.way.Info().Title, Starts: o.Starts, Margin: o.Margin, Seconds: o.Seconds,
		UsableWatts: o.UsableWatts, Duty: o.Duty, Hottest: o.Hottest, SupplyAmps: o.SupplyAmps,
		Unbalance: o.Unbalance, Sizes: map[string]float64{}, Takes: append([]feed.Size{}, o.Sizes...),
		Unsolved: append([]string{}, o.Unsolved...), Reversal: w.way.Reversal(), way: w.way, outline: &o,
	}
	if o.Title != "" {
		r.Title = o.Title
	}
	for _, s := range o.Sizes {
		r.Sizes[s.Name] = s.Value
	}
	r.Cost.Parts = o.Parts
	return r
}

// figure is the stable name of one of a route's figures.
func (r *Route) figure(name string) string { return "route." + r.Name + "." + name }

// lengths are feet where shops on 60 Hz reckon in them.
func lengths(hertz float64) Length {
	unit, perMetre := quantity.RunUnit(hertz)
	return Length{unit, perMetre}
}
