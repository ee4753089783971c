// Command away works a shop out as a phone would have to if the core were on it: made for WebAssembly or for this
// machine, it reads a shop's file and prints how long each kind of answer takes, in milliseconds. make away has both
// side by side, and what the first weighs.
package main

import (
	"fmt"
	"io"
	"os"
	"time"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/floor"
	"brackmoor/core/motor"
	"brackmoor/core/shop"
	"brackmoor/core/study"
)

func main() {
	text, err := io.ReadAll(os.Stdin)
	if err != nil {
		fail(err)
	}
	file, problems := shop.ReadFile(text)
	if len(problems) > 0 || len(file.Shops) == 0 {
		fail(fmt.Errorf("no shop is read: %v", problems))
	}
	for _, sh := range file.Shops {
		work(sh)
	}
}

// work times every sound machine of a shop, the longest of each kind, and the shop's floor.
func work(sh shop.Shop) {
	longest := map[string]time.Duration{}
	took := func(what string, do func()) {
		begin := time.Now()
		do()
		longest[what] = max(longest[what], time.Since(begin))
	}
	for _, m := range sh.Machines {
		var st study.Study
		took("plate and fit", func() { st = study.Of(sh.Supply, m.Motors[0], motor.FitCircuit, sh.Own.Loads...) })
		if !st.Reading.Sound {
			continue
		}
		q := st.Ask(sh, m)
		w, ok := feed.ByName(m.Motors[0].Way.Filled().Route)
		if !ok {
			continue
		}
		took("a size", func() { _, _ = w.Size(q) }) // one without an answer takes its time as well
		took("what follows the hand", func() { _, _ = w.Try(q) })
		took("all ways side by side", func() { compare.Work(q) })
	}
	var f *floor.Floor
	took("the floor made ready", func() { f = floor.Of(sh, motor.FitCircuit) })
	took("a state of the floor", func() { _, _ = f.Solve(sh.State) })
	for _, what := range []string{
		"plate and fit", "a size", "what follows the hand", "all ways side by side", "the floor made ready",
		"a state of the floor",
	} {
		fmt.Printf("%-24s %8.1f\n", what, float64(longest[what].Microseconds())/1000)
	}
}

func fail(err error) {
	fmt.Fprintln(os.Stderr, err)
	os.Exit(1)
}
