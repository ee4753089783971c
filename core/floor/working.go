package floor

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/site"
)

// wireWorking is what a circuit's figures come from, in a line.
func (f *Floor) wireWorking(c *site.Circuit, state *CircuitState) string {
	text := fmt.Sprintf("breaker %s", amps(c.BreakerAmps))
	carried, ohms := f.wire(c)
	if carried.Amps == 0 {
		return text + "; no conductor given, so that no volts are lost on it"
	}
	text += fmt.Sprintf("; it carries %s, by %s", amps(carried.Amps), carried.By)
	if c.Metre > 0 {
		z := math.Hypot(ohms.ResistanceOhm, ohms.ReactanceOhm)
		text += fmt.Sprintf("; %s, %s Ω out and back, %s of it lost", quantity.Run(c.Metre, f.Shop.Supply.Hertz),
			quantity.Figures(z, 3), quantity.Figures(z*state.Amps, 2)+" V")
	}
	return text
}
