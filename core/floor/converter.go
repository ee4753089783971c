package floor

import (
	"context"
	"maps"
	"math"
	"slices"
	"sync"

	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/site"
)

// Rung is an idler of one size for all that hangs on a converter, with the balance capacitors that
// suit its day best. Percents are of plate amps in the hottest winding.
type Rung struct {
	Watts       float64  `json:"watts"`
	Title       string   `json:"title"`
	AC          float64  `json:"balance_ac_microfarad"`
	BC          float64  `json:"balance_bc_microfarad"`
	AsItIs      bool     `json:"as_it_is"` // the converter as it stands
	Works       bool     `json:"works"`    // every machine by itself, and the hardest start beside the rest
	IdlePercent float64  `json:"idle_percent"`
	MostPercent float64  `json:"most_percent"`      // of the idler, in the states of its day
	Hottest     float64  `json:"hottest_percent"`   // of the machines, over what each bears
	Apart       float64  `json:"unbalance_percent"` // with nothing on, and
	ApartLoaded float64  `json:"unbalance_loaded_percent"`
	Hardest     string   `json:"hardest"` // machine to start
	Seconds     *float64 `json:"seconds"` // of that start beside the others
	Lowest      float64  `json:"lowest_volts"`
	IdleWatts   float64  `json:"idle_watts"`
	Decibels    float64  `json:"decibels"` // about, A-weighted, at a metre
	Usable      []Left   `json:"usable" nullable:"false"`
	Money       float64  `json:"money"`               // of its parts
	Year        float64  `json:"money_a_year"`        // of what is lost in it, its machines' days through
	Says        string   `json:"says" told:"figures"` // why it does not do
}

// Left is the most share of its plate output that a machine may be loaded to by itself on the
// converter.
type Left struct {
	Machine string  `json:"machine"`
	Name    string  `json:"name"`
	Share   float64 `json:"share"`
}

// Choice is what a converter could be.
type Choice struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Rungs   []Rung    `json:"rungs" nullable:"false"`
	Best    int       `json:"best"` // of them; -1 for none
	Instead []Instead `json:"instead" nullable:"false"`
	// Left on all day against started for each job.
	HoursOn      float64 `json:"hours_on"` // a day
	IdleHour     float64 `json:"idle_money_an_hour"`
	StartSeconds float64 `json:"start_is_seconds_of_idling"` // by what it takes
	// AtOnce is what comes of starting it together with the other converters, none where there is no other.
	AtOnce []Beside `json:"at_once" nullable:"false"`
}

// day is a state of a converter's day with its hours.
type day struct {
	who   []*machine
	hours float64
}

// days are the states that a converter's day is made of: idling, each machine by itself for its
// hours, and all of them together for as long as the shortest.
func (f *Floor) days(machines []*machine) (list []day, on float64) {
	least := math.Inf(1)
	for _, m := range machines {
		hours := 0.0
		for _, o := range m.motors {
			if o.q != nil {
				hours = max(hours, o.q.Matters.HoursPerDay)
			}
		}
		on, least = max(on, hours), min(least, hours)
		list = append(list, day{[]*machine{m}, hours})
	}
	if len(machines) > 1 {
		list = append(list, day{machines, least / 4})
	}
	return append(list, day{nil, max(1, on/2)}), max(1, 1.5*on)
}

// onRig is a floor with one converter made otherwise.
func (f *Floor) onRig(id string, own idler, ac, bc float64) *Floor {
	g := *f
	g.Shop.Site.Converters = slices.Clone(f.Shop.Site.Converters)
	c := g.Shop.Site.Converter(id)
	c.BalanceAC, c.BalanceBC = ac, bc
	g.idlers = maps.Clone(f.idlers)
	g.idlers[id] = own
	return &g
}

// at is a state of a converter's day.
func at(id string, who []*machine) site.State {
	s := site.State{On: []string{id}}
	for _, m := range who {
		s.On = append(s.On, m.id)
	}
	return s
}

// over is how far the machines on a converter are loaded beyond what each bears, in percent of
// that, and its idler.
func (f *Floor) over(id string, p *Picture) (machines, idles float64, runs bool) {
	runs = true
	for i := range f.machines {
		for k := range f.machines[i].motors {
			o, on := &f.machines[i].motors[k], &p.Machines[i].Motors[k]
			if o.place.On == id && on.On && o.q != nil {
				machines = max(machines, o.burden(on))
				runs = runs && on.State == network.Running
			}
		}
	}
	for _, c := range p.Converters {
		if c.ID == id {
			idles, runs = c.IdlerPercent, runs && c.State == network.Running
		}
	}
	return machines, idles, runs
}

// strain is what a day does to a converter with some capacitors: the squares of the hottest
// windings by their hours, and much more for what is past its limit.
func (f *Floor) strain(id string, days []day) float64 {
	sum, hours := 0.0, 0.0
	for _, d := range days {
		p, err := f.Solve(at(id, d.who))
		if err != nil {
			return math.Inf(1)
		}
		machines, idles, runs := f.over(id, &p)
		worst := max(machines, idles) / 100
		if !runs {
			worst = 4
		}
		for _, c := range p.Converters {
			if c.ID == id { // a leg that stands high does harm by itself
				high := max(
					c.Volts.BC,
					c.Volts.CA,
				)/(f.ratio(f.Shop.Site.Converter(id))*p.Main.Volts) - 1 - rule.Limit(
					"floor.made-leg",
					"most_percent",
				)/100
				worst += 4 * max(0, high)
			}
		}
		past := max(0, worst-1)
		sum += d.hours * (worst*worst + 25*past)
		hours += d.hours
	}
	return sum / hours
}

// finest is the smallest step between balance capacitors, in microfarads.
const finest = 2.5

// tuned are the balance capacitors that strain a converter least: downhill from several places, in
// steps that are halved down to the finest.
func (f *Floor) tuned(id string, own idler, days []day) (ac, bc, cost float64) {
	perKW := own.Watts / 1000
	known := map[[2]float64]float64{}
	price := func(a, b float64) float64 {
		if c, ok := known[[2]float64{a, b}]; ok {
			return c
		}
		c := f.onRig(id, own, a, b).strain(id, days)
		known[[2]float64{a, b}] = c
		return c
	}
	cost = math.Inf(1)
	for _, from := range [][2]float64{{0, 0}, {20, 10}, {40, 25}} {
		a, b := math.Round(from[0]*perKW/finest)*finest, math.Round(from[1]*perKW/finest)*finest
		here := price(a, b)
		for step := finest * math.Exp2(math.Round(math.Log2(math.Max(4, 3*perKW)))); step >= finest; {
			better := false
			for _, to := range [][2]float64{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}} {
				x, y := a+step*to[0], b+step*to[1]
				if x < 0 || y < 0 {
					continue
				}
				if c := price(x, y); c < here-1e-9 {
					a, b, here, better = x, y, c, true
				}
			}
			if !better {
				step /= 2
			}
		}
		if here < cost {
			ac, bc, cost = a, b, here
		}
	}
	return ac, bc, cost
}

// Choose looks at what a converter could be: idlers of all standard sizes, two of them, a drive for
// each machine.
func (f *Floor) Choose(ctx context.Context, id string) (Choice, error) {
	c := f.Shop.Site.Converter(id)
	out := Choice{ID: id, Best: -1, Rungs: []Rung{}, Instead: []Instead{}, AtOnce: []Beside{}}
	if c == nil || c.Kind == site.BusKind {
		return out, nil
	}
	out.Name = c.Name
	machines := slices.DeleteFunc(f.hangOn(id), func(m *machine) bool { return m.motors[0].q == nil })
	if len(machines) == 0 {
		return out, nil
	}
	days, on := f.days(machines)
	out.HoursOn = on
	if own := f.idlers[id]; !own.unknown {
		r, err := f.rung(id, own, c.BalanceAC, c.BalanceBC, machines, days)
		if err != nil {
			return out, err
		}
		r.AsItIs = true
		out.Rungs = append(out.Rungs, r)
	}
	rungs, err := f.ladder(ctx, id, machines)
	if err != nil {
		return out, err
	}
	out.Rungs = append(out.Rungs, rungs...)
	for i, r := range out.Rungs {
		if r.Works && (out.Best < 0 || r.dear(f) < out.Rungs[out.Best].dear(f)) {
			out.Best = i
		}
	}
	if err := f.instead(ctx, &out, id, machines); err != nil {
		return out, err
	}
	if err := f.beside(&out); err != nil {
		return out, err
	}
	return out, f.restarts(&out, id)
}

// dear is what a rung costs a year, its parts spread over their years.
func (r Rung) dear(f *Floor) float64 {
	money := r.Money
	if r.AsItIs {
		money = 0
	}
	return money/max(1, f.prices().Years) + r.Year
}

func (f *Floor) prices() feed.Prices {
	if f.Shop.Prices == (feed.Prices{}) {
		return feed.SamplePrices
	}
	return f.Shop.Prices
}

// ladder is the standard sizes for some machines, from the smaller ones that may do on.
func (f *Floor) ladder(ctx context.Context, id string, machines []*machine) ([]Rung, error) {
	days, _ := f.days(machines)
	largest := 0.0
	for _, m := range machines {
		for _, o := range m.motors {
			if o.q != nil && o.place.On == id {
				largest = max(largest, o.q.Watts())
			}
		}
	}
	su := f.behind(f.Shop.Site.Converter(id))
	var sizes []float64
	for _, watts := range rotary.Ratings(su.Hertz) {
		if watts >= 0.6*largest && watts <= 5*largest {
			sizes = append(sizes, watts)
		}
	}
	rungs, failed := make([]Rung, len(sizes)), make([]error, len(sizes))
	var all sync.WaitGroup
	for i, watts := range sizes {
		all.Go(func() {
			if failed[i] = ctx.Err(); failed[i] != nil {
				return
			}
			usual, err := rotary.UsualIdler(id+"-idler", watts, su.Volts, su.Hertz)
			if err != nil {
				failed[i] = err
				return
			}
			own := idler{IdlerMotor: usual, winding: usual.Amps, by: "a usual motor"}
			ac, bc, _ := f.tuned(id, own, days)
			rungs[i], failed[i] = f.rung(id, own, ac, bc, machines, days)
		})
	}
	all.Wait()
	for _, err := range failed {
		if err != nil {
			return nil, err
		}
	}
	return rungs, nil
}

// rung is a converter of one idler and its capacitors, looked at through its day.
func (f *Floor) rung(id string, own idler, ac, bc float64, machines []*machine, days []day) (Rung, error) {
	g := f.onRig(id, own, ac, bc)
	prices := f.prices()
	r := Rung{
		Watts: own.Watts, Title: quantity.Power(own.Watts, f.Shop.Supply.Hertz), AC: ac, BC: bc, Works: true,
		Usable: []Left{}, Decibels: rotary.Decibels(own.Watts, f.Shop.Supply.Hertz, own.Motor.Poles),
		Money: prices.IdlerBase + prices.IdlerPerKilowatt*own.Watts/1000 + prices.RunPerMicrofarad*(ac+bc) +
			prices.StartPerMicrofarad*usualStart*own.Watts/1000 + prices.StartRelay,
	}
	fail := func(says string) {
		if r.Works {
			r.Works, r.Says = false, says
		}
	}
	for _, d := range days {
		p, err := g.Solve(at(id, d.who))
		if err != nil {
			return r, err
		}
		hottest, idles, runs := g.over(id, &p)
		lost := 0.0
		for _, c := range p.Converters {
			if c.ID != id {
				continue
			}
			lost = c.Watts
			if d.who == nil {
				r.IdlePercent, r.Apart, r.IdleWatts = c.IdlerPercent, c.UnbalancePercent, c.Watts
			} else {
				r.ApartLoaded = max(r.ApartLoaded, c.UnbalancePercent)
			}
		}
		for _, m := range d.who {
			for _, o := range m.motors {
				if o.q != nil && o.place.On == id {
					lost -= o.q.Share() * o.q.Watts() / o.q.Plate.Efficiency.Value
				}
			}
		}
		r.MostPercent, r.Hottest = max(r.MostPercent, idles), max(r.Hottest, hottest)
		r.Year += max(0, lost) / 1000 * d.hours * prices.DaysPerYear * prices.Tariff
		if len(d.who) > 1 {
			continue // all of it at once need not be borne
		}
		switch {
		case !runs:
			fail("it does not carry " + nameOf(d.who))
		case idles > 100*rounding():
			fail("its winding carries " + percent(idles) + " of its plate amps with " + nameOf(d.who))
		case hottest > 100*rounding():
			fail(nameOf(d.who) + " has a winding at " + percent(hottest) + " of what it bears")
		}
	}
	if err := g.hardest(&r, id, machines); err != nil {
		return r, err
	}
	if r.Seconds == nil {
		fail(r.Hardest + " does not come up beside the others")
	}
	for _, m := range machines {
		r.Usable = append(r.Usable, Left{m.id, m.name, g.usable(id, m)})
	}
	return r, nil
}

func nameOf(who []*machine) string {
	if len(who) == 0 {
		return "nothing on it"
	}
	return who[0].name
}

// hardest is the start that pulls most, the others running unloaded beside it.
func (f *Floor) hardest(r *Rung, id string, machines []*machine) error {
	var peak float64
	for _, m := range machines {
		s := at(id, machines)
		s.Shares = map[string]float64{}
		for _, other := range machines {
			for _, o := range other.motors {
				if other.id != m.id {
					s.Shares[o.ID] = 0
				}
			}
		}
		st, err := f.Start(s, m.id)
		if err != nil {
			return err
		}
		if failed := st.Seconds == nil ||
			!st.Permitted; r.Hardest == "" || failed ||
			r.Seconds != nil && st.PeakAmps > peak {
			r.Hardest, r.Seconds, r.Lowest, peak = m.name, st.Seconds, st.LowestVolts, st.PeakAmps
			if failed {
				r.Seconds = nil
				return nil
			}
		}
	}
	return nil
}

// usable is the most share of plate output that a machine may be loaded to by itself, to a
// twentieth.
func (f *Floor) usable(id string, m *machine) float64 {
	for k := 20; k > 0; k-- {
		s := at(id, []*machine{m})
		s.Shares = map[string]float64{}
		for _, o := range m.motors {
			s.Shares[o.ID] = float64(k) / 20
		}
		p, err := f.Solve(s)
		if err != nil {
			continue
		}
		if machines, idles, runs := f.over(id, &p); runs && machines <= 100*rounding() && idles <= 100*rounding() {
			return float64(k) / 20
		}
	}
	return 0
}
