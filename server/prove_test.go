package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/prove"
	"brackmoor/server"
)

// reading is one of a state, as it is sent.
func reading(id, state string, ac, bc float64, figures map[string]float64) string {
	r := prove.Reading{ID: id, At: "2026-01-20T14:05:00Z", Hand: "A.", State: state, AC: ac, BC: bc}
	for place, value := range figures {
		r.Figures = append(r.Figures, prove.Figure{Place: place, Value: value})
	}
	text, err := json.Marshal(r)
	if err != nil {
		panic(err)
	}
	return string(text)
}

// What is read is written down once, however often it is sent, stays, and stands beside what was foretold.
func TestReadings(t *testing.T) {
	s := open(t, nil)
	const motor = "/api/motors/tarn-hobber-m1"
	var page prove.Page
	s.ask("GET", motor+"/prove", "").json(&page)
	require.NotEmpty(t, page.Rows)
	assert.Empty(t, page.Readings)
	var alone *prove.Row
	for i := range page.Rows {
		if page.Rows[i].State == prove.Alone {
			alone = &page.Rows[i]
		}
	}
	require.NotNil(t, alone, "it hangs on the shop’s converter")
	require.NotNil(t, alone.Cells[1].Low)
	middle := func(k int) float64 { return (*alone.Cells[k].Low + *alone.Cells[k].High) / 2 }
	good := reading("r1", prove.Alone, page.Banks[0].Microfarad, page.Banks[1].Microfarad, map[string]float64{
		"volts.ab": middle(0), "volts.bc": middle(1), "volts.ca": middle(2),
	})
	for range 2 {
		page = prove.Page{}
		s.ask("POST", motor+"/readings", good).json(&page)
	}
	assert.Len(t, page.Readings, 1)
	for _, row := range page.Rows {
		if row.State == prove.Alone {
			assert.Contains(t, row.By, "A., 2026-01-20")
			assert.False(t, row.Cells[1].Out)
		}
	}
	other := reading("r1", prove.Idle, 1, 1, map[string]float64{"volts.ab": 240})
	s.ask("POST", motor+"/readings", other).problem(http.StatusConflict)
	for _, bad := range []string{
		`{"id": "x"}`, reading("r2", "dancing", 0, 0, map[string]float64{"volts.ab": 1}),
		reading("r2", prove.Idle, 0, 0, map[string]float64{"volts.zz": 1}), reading("r2", prove.Idle, 0, 0, nil),
		reading("r2", prove.Idle, -3, 0, map[string]float64{"volts.ab": 1}),
	} {
		s.ask("POST", motor+"/readings", bad).problem(http.StatusUnprocessableEntity)
	}
	s.ask("POST", "/api/motors/nobody/readings", good).problem(http.StatusNotFound)
	s.ask("GET", "/api/motors/nobody/prove", "").problem(http.StatusNotFound)
	assert.NotEqual(t, http.StatusOK, s.ask("DELETE", motor+"/readings/r1", "").Code, "what was written down stays")
	for i := range 3 {
		fix := reading(fmt.Sprint("c", i), prove.Alone, 1, 1, map[string]float64{"volts.ab": 200})
		assert.Equal(t, http.StatusOK, s.ask("POST", motor+"/readings", fix).Code)
	}
}

// Lines of the daybook are sought, written once, ended and sent as a table; what is wrong is said at its place.
func TestDaybook(t *testing.T) {
	s := open(t, nil)
	const at = "/api/shops/tarn-hollow/entries"
	line := func(id, more string) string {
		return `{"id": "` + id + `", "at": "2026-01-20T10:00:00Z", "hand": "A.", "kind": "fault",
			"machine": "tarn-shaper", "motor": "",
			"says": "Hums, =1+1", "who": "", "due": "", "ends": "", "corrects": ""` + more + `}`
	}
	for range 2 {
		assert.Equal(t, http.StatusOK, s.ask("POST", at, line("l1", "")).Code)
	}
	var page server.Daybook
	s.ask("GET", at+"?machine=tarn-shaper&words=hum&open=true", "").json(&page)
	require.Len(t, page.Lines, 1)
	assert.NotEmpty(t, page.Kinds)
	cure := strings.NewReplacer(`"fault"`, `"cure"`, `"ends": ""`, `"ends": "l1"`).Replace(line("l2", ""))
	assert.Equal(t, http.StatusOK, s.ask("POST", at, cure).Code)
	page = server.Daybook{}
	s.ask("GET", at+"?open=true", "").json(&page)
	assert.Empty(t, page.Lines)
	for _, bad := range [][2]string{{`"fault"`, `"reading"`}, {"Hums, =1+1", " "}, {`"A."`, `""`},
		{"2026-01-20T10:00:00Z", "yesterday"}, {`"due": ""`, `"due": "soon"`}, {"2026-01-20T", "2099-01-20T"}} {
		s.ask("POST", at, strings.Replace(line("l3", ""), bad[0], bad[1], 1)).problem(http.StatusUnprocessableEntity)
	}
	s.ask("POST", at, strings.Replace(line("l3", ""), "tarn-shaper", "nobody", 1)).problem(http.StatusNotFound)
	s.ask("GET", "/api/shops/nowhere/entries", "").problem(http.StatusNotFound)
	csv := s.ask("GET", "/api/shops/tarn-hollow/daybook.csv", "")
	assert.Contains(t, csv.Body.String(), "Metal shaper")
	assert.NotContains(t, csv.Body.String(), ",=1")
}

// The steps of a first run stand in their order with what is foretold at them, and say how each went last.
func TestFirstRun(t *testing.T) {
	s := open(t, nil)
	var run server.FirstRun
	s.ask("GET", "/api/motors/tarn-shaper-m1/first-run", "").json(&run)
	require.Greater(t, len(run.Steps), 6)
	assert.Equal(t, run.Checks, run.Passed, "the demo’s are ticked")
	keys, foretold := map[string]bool{}, 0
	for _, step := range run.Steps {
		assert.False(t, keys[step.Key], step.Do)
		keys[step.Key] = true
		assert.Empty(t, step.Went)
		if len(step.Read) > 0 {
			foretold++
		}
	}
	assert.GreaterOrEqual(t, foretold, 3)
	write := func(id, went, ends string) int {
		return s.ask("POST", "/api/shops/tarn-hollow/entries", fmt.Sprintf(`{"id": %q, "at": "2026-01-20T10:00:00Z",
			"hand": "A.", "kind": "step", "machine": "tarn-shaper", "motor": "tarn-shaper-m1", "says": "x", "who": "",
			"due": "", "ends": %q, "corrects": "", "step": %q, "went": %q}`, id, ends, run.Steps[0].Key, went)).Code
	}
	open := func() int {
		var page server.Daybook
		s.ask("GET", "/api/shops/tarn-hollow/entries?open=true", "").json(&page)
		return len(page.Lines)
	}
	require.Equal(t, http.StatusUnprocessableEntity, write("s0", "", ""))
	require.Equal(t, http.StatusOK, write("s1", "not", ""))
	assert.Equal(t, 1, open(), "what did not go well stays open")
	require.Equal(t, http.StatusOK, write("s2", "well", "s1"))
	assert.Zero(t, open())
	run = server.FirstRun{}
	s.ask("GET", "/api/motors/tarn-shaper-m1/first-run", "").json(&run)
	assert.Equal(t, "well", run.Steps[0].Went)
	s.ask("GET", "/api/motors/nobody/first-run", "").problem(http.StatusNotFound)
}
