// Package tunefile reads the open format of readings to tune by, and answers it.
package tunefile

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/learn"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/core/study"
	"brackmoor/docs/schema"
)

// compiled is the published schema, which is also what is enforced.
var compiled = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Tune, schema.Plate) })

// The formats that are read and written.
const (
	Format = "brackmoor.tune/1"
	Tuned  = "brackmoor.tuned/1"
)

// File is what was read on a converter, or on one machine with capacitors, and what it is to be tuned to.
type File struct {
	Format string         `json:"format"`
	Supply network.Supply `json:"supply"`
	Idler  *struct {
		Plate plate.Sheet `json:"plate"`
		Volts *float64    `json:"connection_volts"`
	} `json:"idler"`
	Machines []struct {
		ID    string      `json:"id"`
		Plate plate.Sheet `json:"plate"`
		Volts *float64    `json:"connection_volts"`
	} `json:"machines"`
	Shelf    []learn.Can   `json:"shelf"`
	Limits   learn.Limits  `json:"limits"`
	Matters  []learn.State `json:"matters"`
	Readings []struct {
		learn.State
		learn.Bank
		Volts map[string]*float64 `json:"volts"`
		Amps  map[string]any      `json:"amps"`
	} `json:"readings"`
}

// Answer is what was learned and what to do next.
type Answer struct {
	Format   string            `json:"format"`
	Fitted   []learn.Parameter `json:"fitted" nullable:"false"`
	Misread  []learn.Misread   `json:"misread" nullable:"false"`
	Now      []learn.Expected  `json:"now" nullable:"false"`
	Change   *learn.Change     `json:"change"`
	After    learn.Bank        `json:"after"`
	Expect   []learn.Expected  `json:"expect" nullable:"false"`
	Good     bool              `json:"good"`
	Reaches  bool              `json:"reaches"`
	Verdicts []rule.Verdict    `json:"verdicts" nullable:"false"`
}

// Idler is what the idler's amps are called in readings.
const Idler = "idler"

// Read understands a file and studies its plates.
func Read(text []byte) (f File, c learn.Case, problems rule.Problems) {
	if problems = strict.Read(text, compiled(), &f); problems != nil {
		return File{}, c, problems
	}
	f.Supply.Phases = 1
	c.Supply = f.Supply
	fit := func(at, id string, sheet plate.Sheet, volts *float64) (m learn.Motor) {
		m, found := f.motor(id, sheet, volts)
		problems = append(problems, found.Under(at)...)
		return m
	}
	if f.Idler != nil {
		m := fit("$.idler.plate", Idler, f.Idler.Plate, f.Idler.Volts)
		c.Idler = &m
	}
	known := []string{}
	for i, m := range f.Machines {
		at := fmt.Sprintf("$.machines[%d]", i)
		if slices.Contains(known, m.ID) || m.ID == Idler || m.ID == learn.Supply {
			problems.Say(at+".id", "%q is there twice, or means something else", m.ID)
		}
		known = append(known, m.ID)
		c.Machines = append(c.Machines, fit(at+".plate", m.ID, m.Plate, m.Volts))
	}
	switch {
	case c.Idler == nil && len(c.Machines) != 1:
		problems.Say("$.machines", "without an idler the capacitors hang on one machine, and %d are given",
			len(c.Machines))
	case c.Idler != nil:
		known = append(known, Idler)
	}
	for i := range f.Matters {
		problems = append(problems, check(fmt.Sprintf("$.matters[%d]", i), &f.Matters[i], known)...)
	}
	for i := range f.Readings {
		r, found := f.reading(i, known)
		problems = append(problems, found...)
		c.Readings = append(c.Readings, r)
	}
	if problems != nil {
		return File{}, learn.Case{}, problems
	}
	if len(f.Matters) == 0 {
		f.Matters = everything(&c)
	}
	return f, c, nil
}

// motor is a motor by its plate, joined for the volts that are said or nearest to the supply's.
func (f *File) motor(id string, sheet plate.Sheet, volts *float64) (m learn.Motor, problems rule.Problems) {
	st, problems := study.OfSheet(f.Supply, sheet, volts)
	if problems != nil {
		return m, problems
	}
	return learn.Motor{
		ID: id, Network: st.Machine.NetworkMotor(id), Watts: st.Machine.Watts(), Amps: st.Plate.Amps.Value,
	}, nil
}

// check says what is wrong with a state.
func check(at string, s *learn.State, known []string) (problems rule.Problems) {
	for i, id := range s.On {
		if !slices.Contains(known, id) || id == Idler {
			problems.Say(fmt.Sprintf("%s.on[%d]", at, i), "there is no machine %q; there are %s", id,
				strings.Join(known, ", "))
		}
	}
	for id := range s.Share {
		if !slices.Contains(s.On, id) {
			problems.Say(at+".load_share."+id, "%s is not on", id)
		}
	}
	return problems
}

// reading is one of the file, its figures in order.
func (f *File) reading(i int, known []string) (r learn.Reading, problems rule.Problems) {
	own := &f.Readings[i]
	at := fmt.Sprintf("$.readings[%d]", i)
	r = learn.Reading{State: own.State, Bank: own.Bank}
	problems = check(at, &r.State, known)
	see := func(of, line string, value *float64) {
		if value != nil {
			r.Figures = append(r.Figures, learn.Figure{Place: learn.Place{Of: of, At: line}, Value: *value})
		}
	}
	for _, pair := range []string{"ab", "bc", "ca"} {
		see("", pair, own.Volts[pair])
	}
	var of []string
	for id := range own.Amps {
		of = append(of, id)
	}
	slices.Sort(of)
	for _, id := range of {
		switch legs := own.Amps[id].(type) {
		case float64:
			see(learn.Supply, "", &legs)
		case map[string]any:
			if !slices.Contains(known, id) || id != Idler && len(known) > 1 && !slices.Contains(r.On, id) {
				problems.Say(at+".amps."+id, "%q does not run in this reading", id)
				continue
			}
			for _, line := range []string{"a", "b", "c"} {
				if amps, ok := legs[line].(float64); ok {
					see(id, line, &amps)
				}
			}
		}
	}
	return r, problems
}

// everything is every state in which something can be, where nobody says what matters: the converter alone, and each
// machine idle on it and at a usual load.
func everything(c *learn.Case) (list []learn.State) {
	const usual = 0.6
	if c.Idler != nil {
		list = append(list, learn.State{On: []string{}})
	}
	for i := range c.Machines {
		id := c.Machines[i].ID
		for _, share := range []float64{0, usual} {
			list = append(list, learn.State{On: []string{id}, Share: map[string]*float64{id: new(share)}})
		}
	}
	return list
}

// Solve learns from a file's readings and says what to do next.
func Solve(f File, c learn.Case) Answer {
	l := learn.Learn(&c)
	t := l.Tune(f.Shelf, learn.Cans{}, f.Limits, f.Matters)
	return Answer{
		Format: Tuned, Fitted: l.Parameters, Misread: l.Misread, Now: t.Now, Change: t.Change, After: t.After,
		Expect: t.Expect, Good: t.Good, Reaches: t.Reaches, Verdicts: l.Verdicts(&t, f.Limits, f.Matters),
	}
}
