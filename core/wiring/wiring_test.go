package wiring_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/wiring"
)

// A stop stands below what is drawn, on as many lines as it needs, within the drawing, and nothing of it is lost.
func TestStopsAreOnTheDrawing(t *testing.T) {
	for _, width := range []float64{200, 520, 1800} {
		d := wiring.Drawing{Width: width, Height: 100}
		stops := []string{"Will not break the load away.", strings.Repeat("A winding is past plate amps. ", 8)}
		d.Stops(12, stops)
		said := []string{}
		for i, item := range d.Items {
			assert.Equal(t, "stop", item.Class)
			assert.Greater(t, item.Points[0].Y, 100.0)
			assert.LessOrEqual(t, item.Points[0].Y, d.Height)
			assert.LessOrEqual(t, 6.4*float64(len(item.Text)), width-24, "line %d", i)
			said = append(said, item.Text)
		}
		assert.Equal(t, "STOP: "+stops[0]+" STOP: "+strings.TrimSpace(stops[1]), strings.Join(said, " "))
	}
}
