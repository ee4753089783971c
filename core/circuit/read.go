package circuit

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/docs/schema"
)

var compiled = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Circuit) })

// Read understands a file of a circuit, or says everything that is wrong. A wire that ends at no
// terminal is none of that: it is what a check finds.
func Read(text []byte) (Circuit, rule.Problems) {
	var c Circuit
	if problems := strict.Read(text, compiled(), &c); problems != nil {
		return Circuit{}, problems
	}
	return c, c.problems()
}

// problems are those that the schema does not see: names twice, and marks that a kind has not.
func (c *Circuit) problems() (problems rule.Problems) {
	seen := map[string]bool{}
	once := func(at, id string) {
		if seen[id] {
			problems.Say(at, "%q is there twice", id)
		}
		seen[id] = true
	}
	for i, s := range c.Sources {
		once(fmt.Sprintf("$.sources[%d].id", i), s.ID)
	}
	for i := range c.Parts {
		p, at := &c.Parts[i], fmt.Sprintf("$.parts[%d]", i)
		once(at+".id", p.ID)
		marked := map[string]bool{}
		for k, t := range p.Terminals {
			if !p.Kind.mayHave(t) {
				problems.Say(fmt.Sprintf("%s.terminals[%d]", at, k), "a %s has no terminal %q", p.Kind, t)
			}
			if marked[t] {
				problems.Say(fmt.Sprintf("%s.terminals[%d]", at, k), "%q is there twice", t)
			}
			marked[t] = true
		}
		for k, id := range p.Stops {
			if c.Part(id) == nil {
				problems.Say(fmt.Sprintf("%s.stops[%d]", at, k), "there is no part %q", id)
			}
		}
	}
	if own := c.ownPotentials(); own > mostOwn {
		problems.Say("$.parts", "they make %d potentials of their own, and at most %d are told apart", own, mostOwn)
	}
	numbers := map[string]bool{}
	for i, w := range c.Wires {
		if numbers[w.Number] {
			problems.Say(fmt.Sprintf("$.wires[%d].number", i), "wire %q is there twice", w.Number)
		}
		numbers[w.Number] = true
	}
	return problems
}

// mostOwn is how many potentials of parts' own a circuit may have: sides of transformers, made legs, supplies of
// drives.
const mostOwn = 50

func (c *Circuit) ownPotentials() (count int) {
	for i := range c.Parts {
		switch p := &c.Parts[i]; {
		case p.Kind == ControlTransformer:
			count += 2
		case p.Kind == Drive:
			count += 5
		case p.Role == Idler:
			count++
		}
	}
	return count
}

// Ends says whether something has such a name: a source, or a terminal of a part.
func (c *Circuit) Ends(name string) bool {
	id, terminal, of := strings.Cut(name, ":")
	if !of {
		return slices.Contains(c.Sources, Source{name})
	}
	p := c.Part(id)
	return p != nil && p.Has(terminal)
}
