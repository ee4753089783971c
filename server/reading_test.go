package server_test

import (
	"bytes"
	"fmt"
	"net/http"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/prove"
	"brackmoor/core/shop"
	"brackmoor/server"
)

// A person's own units stand beside the shop's in what is said, and nowhere else: what was typed, what is sent back
// and what is kept in files is the same for all.
func TestFiguresAsTheirPersonReadsThem(t *testing.T) {
	s := open(t, nil)
	for _, c := range []struct{ motor, reading, path, has, not string }{
		{"tarn-shaper-m1", "beside=si", "/sheet", `\d.ft \(\d`, `°F`},
		{"ferry-planer-m1", "beside=us", "/sheet", `\d °C \(\d+ °F\)`, `hp \(`},
		{"ferry-planer-m1", "beside=us", "/wiring", `mm² \(at least \d+ AWG\)`, ` ft \(`},
		{"ferry-planer-m1", "mark=comma", "/sheet", `\d,\d+ kW`, `\d\.\d+ kW`},
		{"ferry-planer-m1", "beside=none&mark=%", "/sheet", `\d\.\d+ kW`, ` \(\d+ °F`},
	} {
		path := "/api/motors/" + c.motor + c.path
		plain := s.ask("GET", path, "").Body.String()
		told := s.ask("GET", path, "", "Cookie", "brackmoor-reading="+c.reading).Body.String()
		assert.True(t, regexp.MustCompile(c.has).MatchString(told), "%+v", c)
		assert.Empty(t, regexp.MustCompile(`"(value|says|remark|shown)":"[^"]*`+c.not).FindString(told), c.reading)
		assert.Equal(t, plain, s.ask("GET", path, "").Body.String(), "what is remembered is not touched")
	}

	const motor = "/api/machines/ferry-planer"
	var plain, told server.MachinePage
	s.ask("GET", motor, "").json(&plain)
	s.ask("GET", motor, "", "Cookie", "brackmoor-reading=beside=us&mark=comma").json(&told)
	assert.Equal(t, plain.Motors[0].Plate, told.Motors[0].Plate, "as it was typed")
	out := s.ask("GET", "/api/export?shop=ferry-stairs", "", "Cookie", "brackmoor-reading=beside=us&mark=comma")
	_, problems := shop.ReadFile(out.Body.Bytes())
	require.Empty(t, problems)
	assert.Equal(t, s.ask("GET", "/api/export?shop=ferry-stairs", "").Body.String(), out.Body.String())
}

// Sheets come on the paper of the shop's country, of the person, or of the request.
func TestPaper(t *testing.T) {
	s := open(t, nil)
	letter, a4 := []byte("[0 0 612.00 792.00]"), []byte("[0 0 595.28 841.89]")
	for _, c := range []struct {
		motor, reading, query string
		paper                 []byte
	}{
		{"tarn-shaper-m1", "", "", letter},
		{"ferry-planer-m1", "", "", a4},
		{"tarn-shaper-m1", "paper=A4", "", a4},
		{"ferry-planer-m1", "paper=Letter", "", letter},
		{"ferry-planer-m1", "paper=Letter", "?paper=A4", a4},
		{"ferry-planer-m1", "paper=Foolscap", "?paper=Foolscap", a4},
	} {
		pdf := s.ask("GET", "/api/motors/"+c.motor+"/sheet.pdf"+c.query, "", "Cookie", "brackmoor-reading="+c.reading)
		require.Equal(t, http.StatusOK, pdf.Code)
		assert.True(t, bytes.Contains(pdf.Body.Bytes(), c.paper), "%+v", c)
	}
}

// A thermometer in °F is written down by its own figures, and kept in °C; a unit that is none of the place's is
// refused.
func TestAReadingInAnotherUnit(t *testing.T) {
	s := open(t, nil)
	const motor = "/api/motors/tarn-hobber-m1"
	send := func(id, in string) answer {
		text := reading(id, prove.Idle, 0, 0, map[string]float64{"frame": 140, "volts.ab": 240})
		return s.ask("POST", motor+"/readings", text[:len(text)-1]+`,"in":`+in+"}")
	}
	var page prove.Page
	send("f1", `{"frame": "°F", "volts.ab": "V"}`).json(&page)
	require.Len(t, page.Readings, 1)
	assert.ElementsMatch(t, []prove.Figure{{Place: "frame", Value: 60}, {Place: "volts.ab", Value: 240}},
		page.Readings[0].Figures)
	for _, in := range []string{`{"frame": "V"}`, `{"volts.ab": "kV"}`, `{"room": "°F"}`, `{"<b>": "°F"}`} {
		p := send("f2", in).problem(http.StatusUnprocessableEntity)
		assert.Contains(t, fmt.Sprint(p["errors"]), "read", in)
	}
	send("f3", `{"volts.ab": ""}`).json(&page)
	require.Len(t, page.Readings, 2)
	for _, r := range page.Readings {
		assert.Contains(t, r.Figures, prove.Figure{Place: "volts.ab", Value: 240}, "no unit said is that of the place")
	}
	var after prove.Page
	s.ask("GET", motor+"/prove", "").json(&after)
	assert.Len(t, after.Readings, 2)
}
