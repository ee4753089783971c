package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/diagnose"
	"brackmoor/server"
)

// What is seen is weighed with what was read; a look that is taken tells; a drive has nothing to be weighed.
func TestDiagnosis(t *testing.T) {
	s := open(t, nil)
	ask := func(motor, body string) answer { return s.ask("POST", "/api/motors/"+motor+"/diagnosis", body) }
	chance := func(d server.Diagnosis, id string) float64 {
		for _, c := range d.Causes {
			if c.ID == id {
				return c.Probability
			}
		}
		require.Fail(t, "no cause "+id)
		return 0
	}
	var d server.Diagnosis
	ask("tarn-grinder-m1", `{"symptoms": ["hums-does-not-start"], "looked": []}`).json(&d)
	require.True(t, d.Known)
	require.NotNil(t, d.Next)
	assert.Zero(t, d.Readings)
	assert.Less(t, len(d.Symptoms), len(diagnose.Symptoms), "nothing is said of an idler where there is none")
	before := chance(d, "run-capacitor-open")
	d = server.Diagnosis{}
	ask("tarn-grinder-m1", `{"symptoms": ["hums-does-not-start"],
		"looked": [{"look": "measure-run-capacitor", "found": "none"}]}`).json(&d)
	assert.Greater(t, chance(d, "run-capacitor-open"), max(before, 0.8))
	// Readings as they are foretold speak for a machine that is sound.
	asForetold(t, s, "tarn-hobber-m1", 1)
	d = server.Diagnosis{}
	ask("tarn-hobber-m1", `{"symptoms": [], "looked": []}`).json(&d)
	assert.Equal(t, 3, d.Readings)
	assert.Greater(t, chance(d, "made-leg-open"), 1e-3, "it may have gone wrong since")
	d = server.Diagnosis{}
	ask("tarn-hobber-m1", `{"symptoms": [], "looked": [], "since": true}`).json(&d)
	assert.Less(t, chance(d, "made-leg-open"), 1e-6)
	assert.Less(t, chance(d, "winding-reversed"), 1e-6)
	d = server.Diagnosis{}
	ask("tarn-borer-m1", `{"symptoms": [], "looked": []}`).json(&d)
	assert.False(t, d.Known)
	ask("tarn-grinder-m1", `{"symptoms": ["dances"], "looked": []}`).problem(http.StatusUnprocessableEntity)
	ask("nobody", `{"symptoms": [], "looked": []}`).problem(http.StatusNotFound)
}

// Sums go any way round, from what is given or from a plate; what cannot be is said at its place.
func TestReckoning(t *testing.T) {
	s := open(t, nil)
	var got server.Reckoned
	s.ask("POST", "/api/reckonings", `{"phases": 3, "given": {"horsepower": 2, "rpm": 1740}}`).json(&got)
	found := 0.0
	for _, k := range got.Known {
		if k.Name == "pounds" {
			found = k.Value
		}
	}
	assert.InEpsilon(t, 2*5252.1/1740, found, 1e-4)
	assert.NotEmpty(t, got.Quantities)
	for _, bad := range []string{`{"phases": 3, "given": {"power_factor": 2}}`, `{"phases": 2, "given": {}}`} {
		s.ask("POST", "/api/reckonings", bad).problem(http.StatusUnprocessableEntity)
	}
	var plate struct{ Given map[string]float64 }
	s.ask("GET", "/api/motors/tarn-hobber-m1/figures", "").json(&plate)
	assert.InDelta(t, 84, plate.Given["efficiency"], 1e-9)
	assert.InDelta(t, 1740, plate.Given["rpm"], 1e-9)
	s.ask("GET", "/api/motors/nobody/figures", "").problem(http.StatusNotFound)
}

// Lessons are worked out on the motor at hand.
func TestLessons(t *testing.T) {
	s := open(t, nil)
	var got server.Lessons
	s.ask("GET", "/api/motors/tarn-hobber-m1/lessons", "").json(&got)
	assert.Equal(t, "tarn-hobber", got.Machine)
	require.Greater(t, len(got.Lessons), 9)
	assert.Equal(t, "5.8 A", got.Lessons[0].Choices[got.Lessons[0].Right])
	s.ask("GET", "/api/motors/nobody/lessons", "").problem(http.StatusNotFound)
}
