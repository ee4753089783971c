package feed_test

import (
	"fmt"

	"brackmoor/core/feed"
)

// The ways there are are asked for, never listed elsewhere.
func ExampleAll() {
	for _, w := range feed.All()[:3] {
		fmt.Println(w.Info().Title+":", w.Info().Family)
	}
	// Output:
	// Run and start capacitors: capacitors
	// Run capacitor: capacitors
	// Static converter: box
}

// What somebody chose is kept with each way once, and what is no way's name is told.
func ExampleChoice_Unknown() {
	c := feed.Choice{Route: "rotary", Kept: []string{"static", "static", "steam"}}.Filled()
	fmt.Println(c.Taken().Info().Title, c.Kept, c.Unknown())
	// Output:
	// Rotary converter [static steam] [steam]
}
