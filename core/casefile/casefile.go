// Package casefile reads the open network case format and writes its results.
package casefile

import (
	"fmt"
	"math"
	"sync"

	"brackmoor/core/network"
	"brackmoor/core/strict"
	"brackmoor/docs/schema"
	"github.com/santhosh-tekuri/jsonschema/v6"
)

// compiledCase is the published schema, which is also what is enforced.
var compiledCase = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Case) })

// Document is a case with its format and the analysis asked for.
type Document struct {
	Format   string `json:"format"`
	Analysis string `json:"analysis"`
	network.Case
}

// Read understands a case. What it returns without problems can be solved.
func Read(text []byte) (Document, []strict.Problem) {
	var d Document
	if problems := strict.Read(text, compiledCase(), &d); problems != nil {
		return Document{}, problems
	}
	if d.Supply.Phases == 0 {
		d.Supply.Phases = 1
	}
	return d, validate(d.Case)
}

// validate holds the rules that a schema cannot.
func validate(c network.Case) []strict.Problem {
	var problems []strict.Problem
	say := func(path, format string, args ...any) {
		problems = append(problems, strict.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
	}
	seen := map[string]string{"supply": "$.supply"}
	once := func(path, id string) {
		if first, taken := seen[id]; taken {
			say(path+".id", "%q is taken by %s", id, first)
			return
		}
		seen[id] = path
	}
	onC := c.Supply.Phases == 3
	for i, m := range c.Motors {
		at := fmt.Sprintf("$.motors[%d]", i)
		once(at, m.ID)
		onC = true
		if (m.Slip == nil) == (m.Load == nil) {
			say(at, "needs either slip or load, and not both")
		}
		curve(at+".circuit.magnetising_curve", m, say)
	}
	for i, p := range c.Capacitors {
		once(fmt.Sprintf("$.capacitors[%d]", i), p.ID)
		onC = onC || p.Between != network.AB && p.Microfarad > 0
	}
	for i, p := range c.Loads {
		at := fmt.Sprintf("$.loads[%d]", i)
		once(at, p.ID)
		onC = onC || p.Between != network.AB
		if p.ResistanceOhm == 0 && p.ReactanceOhm == 0 {
			say(at, "resistance_ohm and reactance_ohm cannot both be zero: that is a short circuit")
		}
	}
	if !onC && problems == nil {
		say("$", "nothing connects to the made leg c, so its volts are not defined")
	}
	return problems
}

func curve(at string, m network.Motor, say func(path, format string, args ...any)) {
	points := m.Circuit.Curve
	for i, p := range points {
		if i == 0 {
			if amps := p.AirgapVolts / m.Circuit.XmOhm; math.Abs(p.Amps/amps-1) > 0.001 {
				say(at+"[0]", "must lie on xm_ohm within 0.1 percent: %.6g V over %.6g ohm is %.6g A, not %.6g", p.AirgapVolts, m.Circuit.XmOhm, amps, p.Amps)
			}
			continue
		}
		if p.AirgapVolts <= points[i-1].AirgapVolts || p.Amps <= points[i-1].Amps {
			say(fmt.Sprintf("%s[%d]", at, i), "both volts and amps must rise from point to point")
		}
	}
}

// Steady is the result document of a steady case.
type Steady struct {
	Format   string `json:"format"`
	Analysis string `json:"analysis"`
	network.Result
}

// Solve computes the result document of a case that Read accepted.
func Solve(d Document) (Steady, error) {
	r, err := network.Solve(d.Case)
	return Steady{"brackmoor.result/1", d.Analysis, r}, err
}
