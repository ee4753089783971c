package supply_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/supply"
)

// The least standard rating that holds 125 percent, by the lists of both standards.
func TestBreaker(t *testing.T) {
	for _, c := range []struct{ amps, hertz, want float64 }{
		{0.5, 60, 15}, {12, 60, 15}, {12.01, 60, 20}, {28, 60, 35}, {40, 60, 50}, {40.1, 60, 60}, {160, 60, 200}, {161, 60, 0},
		{4.8, 50, 6}, {4.9, 50, 10}, {10, 50, 13}, {17.6, 50, 25}, {50.4, 50, 63}, {101, 50, 0},
	} {
		got, ok := supply.Breaker(c.amps, c.hertz)
		assert.InDelta(t, c.want, got, 1e-12, "%g A at %g Hz", c.amps, c.hertz)
		assert.Equal(t, c.want > 0, ok)
	}
}
