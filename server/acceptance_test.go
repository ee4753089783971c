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
	"brackmoor/core/shop"
	"brackmoor/server"
)

// asForetold writes down what is foretold of a motor in every state, turned by so much, and says how it stands then.
func asForetold(t testing.TB, s *site, motor string, turned float64) server.Proof {
	t.Helper()
	var page server.Proof
	s.ask("GET", "/api/motors/"+motor+"/prove", "").json(&page)
	for i, row := range page.Rows {
		if row.State == prove.Starting {
			continue
		}
		figures := map[string]float64{"amps.supply": 12, "frame": 40, "room": 21, "up": 1.5}
		if row.State == prove.Standing {
			figures = map[string]float64{"volts.ab": 240}
		}
		for k, c := range row.Cells {
			if c.Low != nil {
				figures[c.Place] = (*c.Low + *c.High) / 2
			}
			if c.Low != nil && page.Columns[k].Unit == "A" {
				figures[c.Place] *= turned
			}
		}
		bank := map[string]float64{}
		for _, b := range page.Banks {
			bank[b.Name] = b.Microfarad
			if row.State == prove.Part || row.State == prove.Full {
				bank[b.Name] = b.Loaded
			}
		}
		text := reading(fmt.Sprintf("%s-%s-%d", motor, page.Way, i), row.State, bank["ac"], bank["bc"], figures)
		s.ask("POST", "/api/motors/"+motor+"/readings", text).json(&page)
	}
	return page
}

// A machine is signed once everything is read and done, and not before; it stands on the sheet, and what is read later
// is told.
func TestAMachineIsSigned(t *testing.T) {
	s := open(t, nil)
	const motor = "tarn-shaper-m1"
	const at = "/api/motors/" + motor + "/acceptance"
	var a server.Acceptance
	s.ask("GET", at, "").json(&a)
	assert.Equal(t, prove.NotYet, a.Verdict)
	assert.Nil(t, a.Signed)
	sign := func(id, hand string) answer {
		return s.ask("POST", at, fmt.Sprintf(`{"id": %q, "hand": %q, "note": "with the old belt"}`, id, hand))
	}
	text, err := json.Marshal(sign("a1", "A.").problem(http.StatusUnprocessableEntity))
	require.NoError(t, err)
	assert.Contains(t, string(text), "machine idle", "it says what is missing")
	var run server.FirstRun
	s.ask("GET", "/api/motors/"+motor+"/first-run", "").json(&run)
	for i, step := range run.Steps {
		require.Equal(t, http.StatusOK, s.ask("POST", "/api/shops/tarn-hollow/entries", fmt.Sprintf(`{"id": "s%d",
			"at": "2026-01-20T10:00:00Z", "hand": "A.", "kind": "step", "machine": "tarn-shaper", "motor": %q,
			"says": "x", "who": "", "due": "", "ends": "", "corrects": "", "step": %q, "went": "well"}`, i, motor,
			step.Key)).Code)
	}
	asForetold(t, s, motor, 1)
	a = server.Acceptance{}
	s.ask("GET", at, "").json(&a)
	for _, n := range a.Needs {
		assert.True(t, n.Done, "%s %s", n.Title, n.Says)
	}
	assert.NotEqual(t, prove.NotYet, a.Verdict)
	sign("a1", " ").problem(http.StatusUnprocessableEntity)
	for range 2 {
		a = server.Acceptance{}
		sign("a1", "A.").json(&a)
	}
	require.NotNil(t, a.Signed)
	assert.Equal(t, a.Title, a.Signed.Signed.Title)
	assert.Empty(t, a.Since)
	sheet := s.ask("GET", "/api/motors/"+motor+"/sheet", "").Body.String()
	assert.Contains(t, sheet, "Acceptance")
	assert.Contains(t, sheet, a.Basis)
	var book server.Daybook
	s.ask("GET", "/api/shops/tarn-hollow/entries?kind=accepted", "").json(&book)
	require.Len(t, book.Lines, 1, "what is sent twice is written once")
	assert.Contains(t, book.Lines[0].Says, "with the old belt")
	s.ask("POST", "/api/motors/"+motor+"/readings", reading("later", prove.Idle, 1, 1,
		map[string]float64{"volts.ab": 240}))
	a = server.Acceptance{}
	s.ask("GET", at, "").json(&a)
	assert.Contains(t, a.Since, "came after")
	s.ask("GET", "/api/motors/nobody/acceptance", "").problem(http.StatusNotFound)
	// Nobody signs by the daybook's own door.
	s.ask("POST", "/api/shops/tarn-hollow/entries", `{"id": "x", "at": "2026-01-20T10:00:00Z", "hand": "A.",
		"kind": "accepted", "machine": "tarn-shaper", "motor": "", "says": "x", "who": "", "due": "", "ends": "",
		"corrects": ""}`).problem(http.StatusUnprocessableEntity)
}

// What was learned answers everywhere once it is taken, and nowhere once it is laid aside; what is foretold beside the
// readings does not count it twice.
func TestTheLearnedMachineAnswers(t *testing.T) {
	s := open(t, nil)
	const motor = "/api/motors/tarn-hobber-m1"
	size := func() string { return s.ask("GET", motor+"/ways/rotary", "").Body.String() }
	learn := func(body string) answer { return s.ask("POST", motor+"/learned", body) }
	learn(`{"take": true, "hand": "A."}`).problem(http.StatusUnprocessableEntity)
	before := size()
	page := asForetold(t, s, "tarn-hobber-m1", 1.12)
	require.NotNil(t, page.Fitted)
	assert.Equal(t, before, size(), "nothing is taken yet")
	learn(`{"take": true, "hand": " "}`).problem(http.StatusUnprocessableEntity)
	var taken server.Proof
	learn(`{"take": true, "hand": "A."}`).json(&taken)
	require.NotNil(t, taken.Taken)
	assert.NotEqual(t, before, size())
	var machine server.MachinePage
	s.ask("GET", "/api/machines/tarn-hobber", "").json(&machine)
	assert.Contains(t, machine.Motors[0].Reading.Learned, "readings, A.")
	var again server.Proof
	s.ask("GET", motor+"/prove", "").json(&again)
	assert.Equal(t, page.Rows, again.Rows)
	assert.Equal(t, page.Fitted.Motor, again.Fitted.Motor)
	export := s.ask("GET", "/api/export", "").Body.String()
	assert.Contains(t, export, `"learned"`)
	_, problems := shop.ReadFile([]byte(export))
	assert.Empty(t, problems)
	var copied struct{ ID string }
	s.ask("POST", "/api/machines/tarn-hobber/copy", `{"name": "Another"}`).json(&copied)
	s.ask("GET", "/api/machines/"+copied.ID, "").json(&machine)
	assert.Empty(t, machine.Motors[0].Reading.Learned, "another machine of the same plate is another machine")
	learn(`{"take": false, "hand": ""}`).json(&taken)
	assert.Equal(t, before, size())
	// Another plate is another machine: what was learned of the old one is laid aside with it.
	learn(`{"take": true, "hand": "A."}`).json(&taken)
	s.ask("GET", "/api/machines/tarn-hobber", "").json(&machine)
	m := machine.Motors[0]
	m.Plate.Amps = "6.0/3.0"
	text, err := json.Marshal(map[string]any{
		"version": m.Versions.Plate, "value": map[string]any{"name": m.Name, "plate": m.Plate},
	})
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, s.ask("PUT", motor+"/plate", string(text)).Code)
	machine = server.MachinePage{}
	s.ask("GET", "/api/machines/tarn-hobber", "").json(&machine)
	assert.Empty(t, machine.Motors[0].Reading.Learned)
}

// A drive's settings are written down as they were found and read back; one that is other than is meant says so, and
// the table has both.
func TestSettingsReadBack(t *testing.T) {
	s := open(t, nil)
	const motor = "/api/motors/tarn-borer-m1"
	var v server.SettingsView
	s.ask("GET", motor+"/settings", "").json(&v)
	require.NotEmpty(t, v.Entries)
	assert.Empty(t, v.Found)
	base := v.Entries[0]
	for _, e := range v.Entries {
		if e.Name == "base_hertz" {
			base = e
		}
	}
	write := func(id, settings string) answer {
		return s.ask("POST", "/api/shops/tarn-hollow/entries", fmt.Sprintf(`{"id": %q, "at": "2026-01-20T1%s:00:00Z",
			"hand": "A.", "kind": "setting", "machine": "tarn-borer", "motor": "tarn-borer-m1", "says": "x", "who": "",
			"due": "", "ends": "", "corrects": "", "settings": [%s]}`, id, id, settings))
	}
	one := func(was, read string) string {
		return fmt.Sprintf(`{"name": %q, "title": "x", "was": %q, "meant": "x", "read": %q}`, base.Name, was, read)
	}
	for i, c := range []struct {
		was, read string
		off       bool
	}{{"50", "", false}, {"", base.Value, false}, {"", "50.0 Hz", true}, {"", strings.ToUpper(base.Writes), false}} {
		require.Equal(t, http.StatusOK, write(fmt.Sprint(i), one(c.was, c.read)).Code)
		v = server.SettingsView{}
		s.ask("GET", motor+"/settings", "").json(&v)
		assert.Equal(t, "50", v.Found[base.Name].Was, "what it was stays known")
		assert.Equal(t, c.off, v.Found[base.Name].Off, "%q", c.read)
	}
	assert.Contains(t, s.ask("GET", motor+"/settings.csv", "").Body.String(), ",50,")
	write("5", one(" ", "")).problem(http.StatusUnprocessableEntity)
}

// A line has hours of a machine's counter, falls due by them, and has pictures that are there.
func TestHoursAndPicturesOfTheDaybook(t *testing.T) {
	s := open(t, nil)
	write := func(id, kind, machine, more string) answer {
		return s.ask("POST", "/api/shops/tarn-hollow/entries", fmt.Sprintf(`{"id": %q, "at": "2026-01-20T10:00:00Z",
			"hand": "A.", "kind": %q, "machine": %q, "motor": "", "says": "Grease", "who": "", "due": "", "ends": "",
			"corrects": "", %s}`, id, kind, machine, more))
	}
	require.Equal(t, http.StatusOK, write("d", "due", "tarn-shaper", `"due_hours": 500`).Code)
	late := func() bool {
		var book server.Daybook
		s.ask("GET", "/api/shops/tarn-hollow/entries?open=true", "").json(&book)
		require.Len(t, book.Lines, 1)
		assert.NotEmpty(t, book.Upkeep)
		return book.Lines[0].Late
	}
	assert.False(t, late())
	require.Equal(t, http.StatusOK, write("h1", "note", "tarn-shaper", `"hours": 480`).Code)
	require.Equal(t, http.StatusOK, write("h2", "note", "tarn-borer", `"hours": 900`).Code)
	assert.False(t, late(), "another machine’s counter is another’s")
	require.Equal(t, http.StatusOK, write("h3", "note", "tarn-shaper", `"hours": 502`).Code)
	assert.True(t, late())
	write("x", "due", "", `"due_hours": 500`).problem(http.StatusUnprocessableEntity)
	write("x", "note", "tarn-shaper", `"due_hours": 500`).problem(http.StatusUnprocessableEntity)
	write("x", "note", "", `"hours": 5`).problem(http.StatusUnprocessableEntity)
	write("x", "note", "", `"photos": ["nothing"]`).problem(http.StatusNotFound)
	write("x", "note", "", `"signed": {"verdict": "pass", "title": "", "limits": [], "basis": "", "readings": 1}`).
		problem(http.StatusUnprocessableEntity)
	csv := s.ask("GET", "/api/shops/tarn-hollow/daybook.csv?machine=tarn-borer", "").Body.String()
	assert.Equal(t, 2, strings.Count(csv, "\n"), "what is sought, and its head: %s", csv)
}

// A meter's table is read for a state and nothing of it is kept; what is no table says so at its place.
func TestAMeterLog(t *testing.T) {
	s := open(t, nil)
	const at = "/api/motors/tarn-shaper-m1/meter-log"
	var log prove.Log
	s.ask("POST", at, `{"state": "idle", "text": "t;u12 V\n1;240,5\n2;241,5\n3;239\n"}`).json(&log)
	assert.Equal(t, []prove.Figure{{Place: "volts.ab", Value: 240.5}}, log.Figures)
	assert.Equal(t, []string{"t"}, log.Left)
	s.ask("POST", at, `{"state": "idle", "text": "nothing"}`).problem(http.StatusUnprocessableEntity)
	s.ask("POST", "/api/motors/nobody/meter-log", `{"state": "idle", "text": "x"}`).problem(http.StatusNotFound)
}

// Capacitors that are in now are those of the converter, of the way's own idler, or on the motor; it is written down,
// and what was read before says that it was read with others.
func TestOtherCapacitorsAreIn(t *testing.T) {
	s := open(t, nil)
	fit := func(motor, id, hand string, ac, bc float64) answer {
		return s.ask("POST", "/api/motors/"+motor+"/bank", fmt.Sprintf(
			`{"id": %q, "hand": %q, "ac_microfarad": %g, "bc_microfarad": %g}`, id, hand, ac, bc))
	}
	for _, c := range []struct {
		motor, way string
		ac, bc     float64
	}{
		{"tarn-hobber-m1", "", 88, 44}, {"tarn-grinder-m1", "rotary", 70, 35},
		{"tarn-grinder-m1", "start-run-capacitor", 25, 0},
	} {
		if c.way != "" {
			var machine server.MachinePage
			s.ask("GET", "/api/machines/tarn-grinder", "").json(&machine)
			m := machine.Motors[0]
			m.Way.Route = c.way
			text, err := json.Marshal(map[string]any{"version": m.Versions.Way, "value": m.Fed})
			require.NoError(t, err)
			require.Equal(t, http.StatusOK, s.ask("PUT", "/api/motors/"+c.motor+"/way", string(text)).Code)
		}
		asForetold(t, s, c.motor, 1)
		var page server.Proof
		fit(c.motor, "b"+c.way, "A.", c.ac, c.bc).json(&page)
		for _, b := range page.Banks {
			assert.InDelta(
				t,
				map[string]float64{"ac": c.ac, "bc": c.bc}[b.Name],
				b.Microfarad,
				1e-9,
				"%s %s",
				c.motor,
				c.way,
			)
		}
		for _, row := range page.Rows {
			if row.State == prove.Idle {
				assert.Contains(t, strings.Join(row.Says, " "), "not read with the capacitors that are in now")
			}
		}
		fit(c.motor, "x", " ", 1, 1).problem(http.StatusUnprocessableEntity)
	}
	var book server.Daybook
	s.ask("GET", "/api/shops/tarn-hollow/entries?kind=change", "").json(&book)
	require.Len(t, book.Lines, 3)
	assert.Contains(t, book.Lines[2].Says, "to 88 µF")
	fit("tarn-borer-m1", "x", "A.", 1, 1).problem(http.StatusUnprocessableEntity)
	fit("nobody", "x", "A.", 1, 1).problem(http.StatusNotFound)
}
