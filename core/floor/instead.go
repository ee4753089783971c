package floor

import (
	"context"
	"math"
	"slices"

	"brackmoor/core/feed"
	"brackmoor/core/rotary"
	"brackmoor/core/site"
)

// Instead is another way of feeding the same machines.
type Instead struct {
	Title    string  `json:"title"`
	Money    float64 `json:"money"`
	Year     float64 `json:"money_a_year"`
	Decibels float64 `json:"decibels"` // 0 for nothing that is heard all day
	Says     string  `json:"says" told:"figures"`
}

// Beside is a converter that starts at the same moment as the others. Alone are its seconds by itself;
// nil for one that does not come up.
type Beside struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Seconds *float64 `json:"seconds"`
	Alone   *float64 `json:"seconds_alone"`
	Lowest  float64  `json:"lowest_volts"`
	Peak    float64  `json:"peak_amps"`
	Says    string   `json:"says" told:"figures"` // the gravest that it breaks, "" for nothing
}

// beside looks at all converters that come up at the same moment, as when volts come back.
func (f *Floor) beside(out *Choice) error {
	var ids []string
	names := map[string]string{}
	for _, c := range f.Shop.Site.Converters {
		if c.Kind != site.BusKind {
			ids, names[c.ID] = append(ids, c.ID), c.Name
		}
	}
	if len(ids) < 2 {
		return nil
	}
	starts, err := f.AtOnce(site.State{Thrown: f.Shop.State.Thrown}, ids)
	for _, st := range starts {
		alone, failed := f.Start(site.State{Thrown: f.Shop.State.Thrown}, st.ID)
		if failed != nil {
			return failed
		}
		b := Beside{
			ID: st.ID, Name: names[st.ID], Seconds: st.Seconds, Alone: alone.Seconds,
			Lowest: st.LowestVolts, Peak: st.PeakAmps,
		}
		if len(st.Broken) > 0 {
			b.Says = st.Broken[0].Says
		}
		out.AtOnce = append(out.AtOnce, b)
	}
	return err
}

// utility is three phases of the utility's own, where the shop has put a price to them.
func (f *Floor) utility() (list []Instead) {
	if p := f.prices(); p.Utility > 0 || p.UtilityYear > 0 {
		list = append(list, Instead{
			Title: "Three phases of the utility’s", Money: p.Utility, Year: p.UtilityYear,
			Says: "every motor has its full output and starts as on its plate; nothing hums, nothing is derated",
		})
	}
	return list
}

// instead looks at two converters and at a drive for each machine.
func (f *Floor) instead(ctx context.Context, out *Choice, id string, machines []*machine) error {
	prices := f.prices()
	if len(machines) > 1 {
		hardest := slices.MaxFunc(machines, func(a, b *machine) int {
			return int(a.motors[0].q.Watts() - b.motors[0].q.Watts())
		})
		rest := slices.DeleteFunc(slices.Clone(machines), func(m *machine) bool { return m == hardest })
		two := Instead{Title: "Two converters", Says: hardest.name + " on one of its own, "}
		for i, group := range [][]*machine{{hardest}, rest} {
			rungs, err := f.ladder(ctx, id, group)
			if err != nil {
				return err
			}
			at := slices.IndexFunc(rungs, func(r Rung) bool { return r.Works })
			if at < 0 {
				two.Title = ""
				break
			}
			two.Money, two.Year = two.Money+rungs[at].Money, two.Year+rungs[at].Year
			if two.Decibels == 0 {
				two.Decibels = rungs[at].Decibels
			} else {
				two.Decibels = rotary.Louder(two.Decibels, rungs[at].Decibels)
			}
			two.Says += rungs[at].Title
			if i == 0 {
				two.Says += "; the others on "
			}
		}
		if two.Title != "" {
			out.Instead = append(out.Instead, two)
		}
	}
	drives := Instead{Title: "A drive for each machine", Says: "its switches become inputs of the drive"}
	for _, m := range machines {
		for i := range m.motors {
			o := &m.motors[i]
			if o.q == nil || o.place.On != id {
				continue
			}
			money, year := math.Inf(1), 0.0
			for _, w := range feed.All() {
				if !w.Info().TurnsSpeed {
					continue
				}
				outline := w.Outline(o.q)
				if outline != nil && outline.Starts && outline.LossWatts != nil && outline.Parts < money {
					money = outline.Parts
					year = *outline.LossWatts / 1000 * o.q.Matters.HoursPerDay * prices.DaysPerYear * prices.Tariff
				}
			}
			if math.IsInf(money, 1) {
				drives.Says = o.name + " has no drive that starts it"
				continue
			}
			drives.Money, drives.Year = drives.Money+money, drives.Year+year
		}
	}
	out.Instead = append(append(out.Instead, drives), f.utility()...)
	return nil
}

// restarts sets leaving a converter on beside starting it for each job.
func (f *Floor) restarts(out *Choice, id string) error {
	p, err := f.Solve(site.State{On: []string{id}})
	if err != nil {
		return err
	}
	st, err := f.Start(site.State{}, id)
	if err != nil {
		return err
	}
	for _, c := range p.Converters {
		if c.ID != id || c.Watts <= 0 {
			continue
		}
		out.IdleHour = c.Watts / 1000 * f.prices().Tariff
		joules := 0.0
		for i := 1; i < len(st.Points); i++ {
			before, now := st.Points[i-1], st.Points[i]
			joules += (now.Seconds - before.Seconds) * (before.Amps*before.Volts.AB + now.Amps*now.Volts.AB) / 2
		}
		out.StartSeconds = joules / c.Watts
	}
	return nil
}
