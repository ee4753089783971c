package circuit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/circuit"
)

// Every choice takes what it lists and nothing else, and the first of it is the usual.
func TestChoices(t *testing.T) {
	usual := circuit.Choices{}.Filled()
	assert.Equal(t, 1, usual.Stations)
	for _, c := range circuit.ChoiceList {
		good, bad := c.Options, "rope"
		if len(good) == 0 {
			good = map[string][]string{"control": {"24", "120"}, "stations": {"1", "4"}, "away": {"3", "20.5"}}[c.Name]
		}
		if len(good) == 0 {
			good = []string{"yes", "no"}
		}
		for _, value := range good {
			var own circuit.Choices
			assert.NoError(t, own.Set(c.Name, value), "%s=%s", c.Name, value)
			if value != "no" {
				assert.NotEqual(t, circuit.Choices{}, own, "%s=%s", c.Name, value)
			}
		}
		var own circuit.Choices
		assert.Error(t, own.Set(c.Name, bad), c.Name)
		if len(c.Options) > 0 {
			assert.NoError(t, own.Set(c.Name, c.Options[0]))
			assert.Equal(t, usual, own.Filled(), "%s: the first is the usual", c.Name)
		}
	}
	var own circuit.Choices
	for _, c := range [][2]string{{"wish", "yes"}, {"control", "1000"}, {"control", "NaN"}, {"stations", "0"},
		{"away", "-1"}} {
		assert.Error(t, own.Set(c[0], c[1]), "%v", c)
	}
}
