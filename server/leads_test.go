package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/core/winding"
	"brackmoor/server"
	"brackmoor/store"
)

// What is typed of the leads is kept as typed and read anew: six leads are found,
// one reading after the other, and the box is drawn.
func TestLeadsAreKeptAndRead(t *testing.T) {
	s := open(t, nil)
	const motor = "tarn-hobber-m1"
	m := s.motor(motor)
	m.Leads.Leads, m.Leads.Marks = []string{"A", "B", "C"}, []string{"", "", ""}
	m.Leads.Readings = []winding.Entry{
		{A: "A", B: "B", Text: "2.1"},
		{A: "A", B: "C", Text: "2,1"},
		{A: "B", B: "C", Text: "loose"},
	}
	var saved server.MotorView
	s.part(m, shop.LeadsPart, m.Leads).json(&saved)
	assert.Equal(t, m.Leads, saved.Leads)
	var page server.LeadsPage
	s.ask("GET", "/api/motors/"+motor+"/leads", "").json(&page)
	require.Len(t, page.Problems, 1)
	assert.Equal(t, "reading.B.C", page.Problems[0].Field)
	assert.Equal(t, []string{"B", "C"}, page.Next)
	assert.Len(t, page.Headline, 5)
	saved.Leads.Readings[2].Text = "2.1"
	s.part(saved, shop.LeadsPart, saved.Leads).json(&saved)
	s.ask("GET", "/api/motors/"+motor+"/leads", "").json(&page)
	assert.True(t, page.Connectable)
	assert.Equal(t, winding.ThreeLead, page.Winding)
	svg := s.ask("GET", "/api/motors/"+motor+"/box.svg", "")
	assert.Equal(t, "image/svg+xml", svg.Header().Get("Content-Type"))
	assert.Contains(t, svg.Body.String(), "made leg: live")
	s.ask("GET", "/api/motors/tarn-hacksaw-m1/box.svg", "").problem(http.StatusConflict)
	s.ask("GET", "/api/motors/none/leads", "").problem(http.StatusNotFound)
	var suit server.SuitView
	s.ask("GET", "/api/motors/"+motor+"/suit", "").json(&suit)
	assert.True(t, suit.Suit.Suits)
	s.ask("GET", "/api/motors/ferry-mortiser-m1/suit", "").json(&suit)
	assert.Nil(t, suit.Suit, "a plate that cannot be has nothing to set against the supply")
}

func TestLeadsOfNoMotorAreRefused(t *testing.T) {
	s := open(t, nil)
	good := s.motor("tarn-shaper-m1")
	for name, edit := range map[string]func(*winding.Typed){
		"five leads":          func(l *winding.Typed) { l.Leads = []string{"A", "B", "C", "D", "E"} },
		"two of a name":       func(l *winding.Typed) { l.Leads[1] = "A" },
		"a lead called frame": func(l *winding.Typed) { l.Leads[1] = "frame" },
		"a long reading":      func(l *winding.Typed) { l.Readings[0].Text = strings.Repeat("9", 41) },
		"a long name":         func(l *winding.Typed) { l.Marks[0] = strings.Repeat("T", 13) },
		"an odd condition":    func(l *winding.Typed) { l.Condition = map[string]string{"dry": "perhaps"} },
		"an unknown item":     func(l *winding.Typed) { l.Condition = map[string]string{"paint": "good"} },
		"too many readings":   func(l *winding.Typed) { l.Readings = make([]winding.Entry, 121) },
	} {
		m := s.motor("tarn-shaper-m1")
		edit(&m.Leads)
		p := s.part(m, shop.LeadsPart, m.Leads).problem(http.StatusUnprocessableEntity)
		assert.Contains(t, fmt.Sprint(p["errors"]), "body.value", name)
	}
	assert.Equal(t, good.Leads, s.motor("tarn-shaper-m1").Leads, "nothing was kept")
}

func TestPhotosOfAPlate(t *testing.T) {
	s := open(t, nil)
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, image.NewGray(image.Rect(0, 0, 40, 30))))
	const at = "/api/motors/tarn-shaper-m1/photos"
	var added store.Photo
	s.ask("POST", at+"?name=plate+one.png", file.String(), "Content-Type", "image/png").json(&added)
	assert.Equal(t, "plate one.png", added.Name)
	assert.Equal(t, 40, added.Width)
	var list server.PhotoList
	s.ask("GET", at, "").json(&list)
	assert.Equal(t, []store.Photo{added}, list.Photos)
	image := s.ask("GET", "/api/photos/"+added.ID+"/image", "")
	assert.Equal(t, "image/jpeg", image.Header().Get("Content-Type"))
	assert.Equal(t, "\xff\xd8\xff", image.Body.String()[:3])
	assert.Equal(t, http.StatusOK, s.ask("DELETE", "/api/photos/"+added.ID, "").Code)
	s.ask("GET", "/api/photos/"+added.ID+"/image", "").problem(http.StatusNotFound)
	assert.Equal(t, http.StatusOK, s.ask("POST", "/api/photos/"+added.ID+"/restore", "").Code)
	s.ask("POST", at, "<svg onload='alert(1)'/>").problem(http.StatusUnprocessableEntity)
	s.ask("POST", at, strings.Repeat("x", 12<<20+1)).problem(http.StatusRequestEntityTooLarge)
	var again store.Photo
	s.ask("POST", at+"?id="+added.ID, file.String()).json(&again)
	assert.Equal(t, added, again, "sent twice, kept once")
	for _, id := range []string{"short", "..%2f..%2f..%2f..%2fpasswd", strings.Repeat("x", 65)} {
		s.ask("POST", at+"?id="+id, file.String()).problem(http.StatusUnprocessableEntity)
	}
	s.ask("POST", "/api/motors/nobody/photos", file.String()).problem(http.StatusNotFound)
	assert.Equal(t, store.ShowsPlate, added.Shows)
	var cabinet store.Photo
	s.ask("POST", at+"?shows=cabinet", file.String()).json(&cabinet)
	assert.Equal(t, store.ShowsCabinet, cabinet.Shows)
	assert.Equal(t, http.StatusOK, s.ask("DELETE", "/api/photos/"+cabinet.ID, "").Code)
	s.ask("POST", at+"?shows=anything", file.String()).problem(http.StatusUnprocessableEntity)
	var part store.Photo
	s.ask("POST", "/api/shops/tarn-hollow/photos", file.String()).json(&part)
	assert.Equal(t, http.StatusOK, s.ask("GET", "/api/photos/"+part.ID+"/image", "").Code)
	s.ask("POST", "/api/shops/nowhere/photos", file.String()).problem(http.StatusNotFound)
	for range store.MostPhotos - 1 {
		require.Equal(t, http.StatusOK, s.ask("POST", at, file.String()).Code)
	}
	s.ask("POST", at, file.String()).problem(http.StatusConflict)
}
