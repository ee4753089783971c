package controls_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/controls"
)

// Operating switches become inputs on a drive and stay on three lines; what switched the motor comes out behind a
// drive; an emergency stop is never bridged without a word.
func TestWhatBecomesOfControls(t *testing.T) {
	list := []controls.Terminal{
		{Mark: "3", Function: "drum", Volts: 400}, {Mark: "7", Function: "emergency", Fate: controls.Bypass},
		{Mark: "K1", Function: "contactor", Volts: 240}, {Mark: "X9"}, {Mark: "5", Function: "lamp"},
		{Mark: "K2", Function: "contactor", Fate: controls.Keep},
	}
	driven, lines := controls.Plan(list, controls.On{Driven: true, Mark: func(t string) string { return t }}),
		controls.Plan(list, controls.On{})
	require.Len(t, driven, len(list))
	assert.Equal(t, controls.Reuse, driven[0].Fate)
	assert.Equal(t, []string{"di1: forward", "di2: reverse"}, driven[0].Inputs)
	assert.Contains(t, driven[0].Says, "two inputs and the common")
	assert.Contains(t, driven[0].Caution, "400 V")
	assert.Equal(t, controls.Keep, lines[0].Fate)
	assert.Empty(t, lines[0].Inputs)
	for _, plan := range [][]controls.Becomes{driven, lines} {
		assert.Contains(t, plan[1].Caution, "never bridged")
		assert.Contains(t, plan[3].Says, "trace it")
	}
	assert.Equal(t, controls.Bypass, driven[2].Fate)
	assert.Equal(t, controls.Keep, lines[2].Fate)
	assert.Contains(t, driven[5].Caution, "ahead of the drive")
	assert.Empty(t, lines[5].Caution)
	assert.Greater(t, controls.Total(driven), controls.Total(lines))
	assert.InDelta(t, 0.5+0.25+0.25+0.25+0.1+0.1, controls.Total(driven), 1e-9)
	assert.Empty(t, controls.Check(list))
	assert.Len(t, controls.Check([]controls.Terminal{{Function: "rope"}}), 1)
	for _, f := range controls.Functions {
		assert.NotEmpty(t, f.Title)
		assert.NotEmpty(t, f.Drive)
		assert.NotEmpty(t, f.Lines)
		assert.Contains(t, []string{controls.Keep, controls.Bypass, controls.Reuse}, f.Usual)
	}
}
