package shop

import (
	"fmt"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/drive"
	_ "brackmoor/core/feed/ways" // the ways that a motor may name
	"brackmoor/core/load"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/docs/schema"
)

var compiledShops = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Shops, schema.Profile) })

// ReadFile understands a file of shops, or says everything that is wrong.
func ReadFile(text []byte) (File, rule.Problems) {
	var f File
	if problems := strict.Read(text, compiledShops(), &f); problems != nil {
		return File{}, problems
	}
	var problems rule.Problems
	seen := map[string]string{}
	once := func(path, id string) {
		if first, taken := seen[id]; taken {
			problems.Say(path+".id", "%q is taken by %s", id, first)
			return
		}
		seen[id] = path
	}
	for i := range f.Shops {
		sh := &f.Shops[i]
		at := fmt.Sprintf("$.shops[%d]", i)
		once(at, sh.ID)
		drive.CheckOwn(sh.Profiles, func(i int, says string) {
			problems.Say(fmt.Sprintf("%s.profiles[%d]", at, i), "%s", says)
		})
		problems = append(problems, sh.Own.Check().Under(at+".own")...)
		for k := range sh.Machines {
			m := &sh.Machines[k]
			at := fmt.Sprintf("%s.machines[%d]", at, k)
			once(at, m.ID)
			for j := range m.Motors {
				motor := &m.Motors[j]
				once(fmt.Sprintf("%s.motors[%d]", at, j), motor.ID)
				*motor = motor.Filled()
				for _, name := range motor.Way.Unknown() {
					problems.Say(fmt.Sprintf("%s.motors[%d].way", at, j), "there is no way of feeding %q", name)
				}
				if _, ok := load.ByName(motor.Load, sh.Own.Loads...); !ok {
					problems.Say(fmt.Sprintf("%s.motors[%d].load", at, j), "there is no kind of load %q", motor.Load)
				}
				for _, says := range motor.Leads.Faults() {
					problems.Say(fmt.Sprintf("%s.motors[%d].leads", at, j), "%s", says)
				}
			}
		}
		problems = append(problems, sh.Supply.Problems().Under(at+".supply")...)
		problems = append(problems, sh.Site.Check(sh.Supply, seen).Under(at+".site")...)
		for _, id := range sh.Site.IDs() {
			seen[id] = at + ".site"
		}
	}
	return f, problems
}
