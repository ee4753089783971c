package quantity_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/quantity"
)

// Lines and terminals by region: what the model calls a, b and c is read as a supply's own conductors, and a motor's
// terminals by NEMA MG 1 or IEC 60034-8.
func TestLinesByRegion(t *testing.T) {
	for hertz, want := range map[float64]struct {
		pairs, star, delta [3]string
		to                 string
	}{
		60: {
			[3]string{"L1–L2", "L2–made", "made–L1"}, [3]string{"T1", "T2", "T3"},
			[3]string{"T1–T2", "T2–T3", "T3–T1"}, "L2 to the made leg",
		},
		50: {
			[3]string{"L–N", "N–made", "made–L"}, [3]string{"U", "V", "W"}, [3]string{"U–V", "V–W", "W–U"},
			"N to the made leg",
		},
	} {
		lines := quantity.LinesAt(hertz)
		assert.Equal(t, want.pairs, lines.Pairs())
		assert.Equal(t, want.star, lines.Windings(false))
		assert.Equal(t, want.delta, lines.Windings(true))
		assert.Equal(t, want.to, lines.To("b"))
		assert.Equal(t, lines.A+"–made", lines.Leg("a"))
	}
}
