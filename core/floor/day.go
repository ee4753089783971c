package floor

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/site"
)

// Day is a shop's day on a card for its wall: what is done in the morning and at night, in order,
// what may run together and what never, and what always holds.
type Day struct {
	Begin    []string       `json:"begin" nullable:"false"`
	End      []string       `json:"end" nullable:"false"`
	Together []string       `json:"together" nullable:"false"`
	Never    []string       `json:"never" nullable:"false" told:"figures"`
	Cautions []rule.Verdict `json:"cautions" nullable:"false"`
}

// Day makes the card, at the loads of a state.
func (f *Floor) Day(ctx context.Context, s site.State) (Day, error) {
	d := Day{Begin: []string{}, End: []string{}, Together: []string{}, Never: []string{}}
	t, err := f.Together(ctx, s)
	if err != nil {
		return d, err
	}
	if err := f.begin(&d, &s); err != nil {
		return d, err
	}
	f.end(&d)
	for _, x := range t.Largest[:min(6, len(t.Largest))] {
		d.Together = append(d.Together, strings.Join(f.names(x), ", "))
	}
	for _, x := range t.Forbidden[:min(8, len(t.Forbidden))] {
		d.Never = append(d.Never, strings.Join(x.Names, " with ")+". "+x.Says)
	}
	d.Cautions = f.Cautions()
	return d, nil
}

// Cautions are what always holds on a floor: of mains, and of a made leg where there is one.
func (f *Floor) Cautions() (list []rule.Verdict) {
	ids := []string{"always.isolate"}
	if slices.ContainsFunc(f.Shop.Site.Converters, func(c site.Converter) bool { return c.Kind != site.BusKind }) {
		ids = append(ids, "capacitor.charged", "always.made-leg-to-earth")
	}
	for _, id := range append(ids, "always.restart", "always.plugs", "always.local-code") {
		list = append(list, rule.Standing(id))
	}
	return list
}

// names are those of ids.
func (f *Floor) names(ids []string) (list []string) {
	for _, id := range ids {
		name := id
		for _, m := range f.machines {
			if m.id == id {
				name = m.name
			}
			for _, o := range m.motors {
				if o.ID == id && o.apart {
					name = o.name
				}
			}
		}
		for _, l := range f.Shop.Site.Loads {
			if l.ID == id {
				name = l.Name
			}
		}
		list = append(list, name)
	}
	return list
}

// hangOn are the machines that hang on a converter.
func (f *Floor) hangOn(converter string) (list []*machine) {
	for i := range f.machines {
		if slices.ContainsFunc(f.machines[i].motors, func(m motor) bool { return m.place.On == converter }) {
			list = append(list, &f.machines[i])
		}
	}
	return list
}

// begin are the steps of a morning.
func (f *Floor) begin(d *Day, s *site.State) error {
	say := func(format string, args ...any) { d.Begin = append(d.Begin, fmt.Sprintf(format, args...)) }
	say("Look round: nobody at a machine, guards on, nothing in a chuck that should not be.")
	for _, c := range f.Shop.Site.Circuits {
		if c.ChangeOver {
			say("Change-over of %s where it is wanted: A for %s, B for %s.", c.Name, f.sideNames(c.ID, site.SideA),
				f.sideNames(c.ID, site.SideB))
		}
	}
	for _, c := range f.Shop.Site.Converters {
		machines := f.hangOn(c.ID)
		names := []string{}
		for _, m := range machines {
			names = append(names, m.name)
		}
		if c.Kind == site.BusKind {
			say("%s on. It charges for a moment; only after that are the drives on it told to run.", c.Name)
			continue
		}
		if len(names) > 0 {
			say("%s: every one switched off at its own switch, before %s starts.", strings.Join(names, ", "), c.Name)
		}
		st, err := f.Start(site.State{}, c.ID)
		if err != nil {
			return err
		}
		alone, err := f.Solve(site.State{On: []string{c.ID}})
		if err != nil {
			return err
		}
		up := "It does not come up by the model: mend that first."
		if st.Seconds != nil {
			up = fmt.Sprintf(
				"It is up in about %s s, its start capacitors out by themselves; one that labours or hums is "+
					"switched off.",
				quantity.Figures(*st.Seconds, 2),
			)
		}
		say("Start %s. %s", c.Name, up)
		for _, x := range alone.Converters {
			if x.ID == c.ID && x.On {
				say(
					"Read its made leg idle: %.0f and %.0f V, with %.0f V between the lines. Far off: stop, and look "+
						"at its capacitors.",
					x.Volts.BC,
					x.Volts.CA,
					x.Volts.AB,
				)
			}
		}
		if order := f.hardestFirst(machines, c.ID); len(order) > 1 {
			say("Then the machines, the hardest to start first: %s.", strings.Join(order, ", "))
		}
	}
	say("Switch on what is needed, one after the other; wait for each to be up.")
	return nil
}

// sideNames are what hangs on a side of a change-over.
func (f *Floor) sideNames(circuit, side string) string {
	var names []string
	for _, m := range f.machines {
		if p := f.Shop.Site.Place(m.id, m.id); p.On == circuit && p.Side == side {
			names = append(names, m.name)
		}
	}
	for _, l := range f.Shop.Site.Loads {
		if l.On == circuit && l.Side == side {
			names = append(names, l.Name)
		}
	}
	for _, c := range f.Shop.Site.Converters {
		if c.On == circuit && c.Side == side {
			names = append(names, c.Name)
		}
	}
	if names == nil {
		return "nothing"
	}
	return strings.Join(names, " and ")
}

// hardestFirst are machines by the amps that they draw at a start.
func (f *Floor) hardestFirst(machines []*machine, converter string) (names []string) {
	type one struct {
		name string
		peak float64
	}
	var list []one
	for _, m := range machines {
		if st, err := f.Start(site.State{On: []string{converter}}, m.id); err == nil && st.PeakAmps > 0 {
			list = append(list, one{m.name, st.PeakAmps})
		}
	}
	slices.SortStableFunc(list, func(a, b one) int {
		if a.peak > b.peak {
			return -1
		}
		return 1
	})
	for _, x := range list {
		names = append(names, x.name)
	}
	return names
}

// end are the steps of an evening.
func (f *Floor) end(d *Day) {
	say := func(format string, args ...any) { d.End = append(d.End, fmt.Sprintf(format, args...)) }
	say("Every machine off at its own switch, and left off: what is left in starts with the converter tomorrow.")
	for _, c := range f.Shop.Site.Converters {
		if c.Kind == site.BusKind {
			say("Then %s off. Its bus stays charged for minutes: measure before a hand goes in.", c.Name)
			continue
		}
		say("Then %s off. Wait until it stands; its capacitors may hold a charge.", c.Name)
	}
	for _, l := range f.Shop.Site.Loads {
		if site.KindOf(l.Kind).Name == "heater" || site.KindOf(l.Kind).Name == "welder" {
			say("%s off.", l.Name)
		}
	}
	say("Isolators open and locked where others come in.")
}
