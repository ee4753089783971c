package sheet

import (
	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/install"
	"brackmoor/core/ladder"
	"brackmoor/core/rule"
	"brackmoor/core/schematic"
	"brackmoor/core/shop"
	"brackmoor/core/wiring"
)

// Wired is a motor's circuit by its way, what running it through its states found, and what is needed to build it.
type Wired struct {
	Circuit circuit.Circuit `json:"circuit"`
	Check   ladder.Check    `json:"check"`
	Work    install.Work    `json:"work"`
	On      string          `json:"on,omitempty"` // the shop's converter that it hangs on, and is wired behind
}

// WiredAs makes the circuit of a motor of a machine as it hangs in its shop, and runs it.
func WiredAs(q *feed.Question, s *shop.Shop, m shop.Machine, motor string) Wired {
	q = s.WiredBy(m, motor, q)
	w := Wired{Circuit: q.Choice.Taken().Wire(q, q.Choice.Wiring)}
	if c := s.Site.Converter(s.Site.Place(m.ID, motor).On); c != nil {
		w.On = c.Name
	}
	if len(w.Circuit.Parts) == 0 {
		return w
	}
	w.Check = ladder.Search(&w.Circuit)
	w.Work = install.Of(&w.Circuit, install.Site{
		Machine: m.Name, Choices: q.Choice.Wiring, Stores: s.Own.Stores, MachineID: m.ID, Costs: s.Own.Costs,
		Usual: func(p *circuit.Part) float64 { return q.Each(q.Choice.Taken(), p) },
	})
	for i := range w.Circuit.Wires {
		w.Circuit.Wires[i].Metre = w.Work.Wires[i].Metre
	}
	return w
}

// Stops are what must not be passed: what stands beside the plate, what verdicts stop, and rules that the circuit
// breaks.
func (w *Wired) Stops(q *feed.Question, verdicts []rule.Verdict) []string {
	stops := q.StopsWith(verdicts)
	if q.Choice.Wiring.Temporary {
		stops = append(
			[]string{"Temporary hook-up for a test bench. It is taken down or wired by the list, and every " +
				"check is done anew, before the machine works."},
			stops...)
	}
	for _, v := range w.Check.Violations {
		if v.Severity == rule.Stop {
			stops = append(stops, rule.Get(v.Rule).Title+". "+v.Says)
		}
	}
	return stops
}

// drawings are the sheets of a circuit, the first with its stops.
func drawings(q *feed.Question, verdicts []rule.Verdict, w Wired) (list []wiring.Drawing) {
	for _, s := range schematic.Sheets {
		list = append(list, schematic.Draw(&w.Circuit, s, nil))
	}
	list[0].Stops(12, w.Stops(q, verdicts))
	return list
}
