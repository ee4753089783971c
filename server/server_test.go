package server_test

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/controls"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/load"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/demo"
	"brackmoor/drivebus"
	"brackmoor/server"
	"brackmoor/server/passphrase"
	"brackmoor/sheet"
	"brackmoor/store"
)

var noon = time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)

var app = fstest.MapFS{
	"index.html": {
		Data: []byte(`<!doctype html><meta property="csp-nonce" nonce="__NONCE__"><div id="root"></div>`),
	},
	"assets/a-123.js": {Data: []byte(strings.Repeat("let a = 1;\n", 100))},
	"icon.svg":        {Data: []byte("<svg xmlns='http://www.w3.org/2000/svg'/>")},
}

// cheap is a cost for tests that guess more than once.
var cheap = passphrase.Cost{Passes: 1, KiB: 64, Threads: 1}

type site struct {
	testing.TB
	handler http.Handler
	store   *store.Store
	path    string // of the database
	cookie  string
}

// open makes a server over a fresh database with a demo shop.
func open(t testing.TB, edit func(*server.Options)) *site {
	t.Helper()
	path := filepath.Join(t.TempDir(), "test.db")
	st, err := store.Open(context.Background(), path, func() time.Time { return noon })
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, st.Close()) })
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		text, err := demo.Files.ReadFile(name)
		require.NoError(t, err)
		file, problems := shop.ReadFile(text)
		require.Empty(t, problems)
		_, err = st.Import(context.Background(), file, store.Choice{})
		require.NoError(t, err)
	}
	o := server.Options{Store: st, App: app, Now: func() time.Time { return noon }, Log: slog.New(slog.DiscardHandler)}
	if edit != nil {
		edit(&o)
	}
	return &site{TB: t, handler: server.New(o), store: st, path: path}
}

type answer struct {
	*httptest.ResponseRecorder
	t testing.TB
}

func (s *site) ask(method, path, body string, headers ...string) answer {
	r := httptest.NewRequest(method, "http://127.0.0.1:8420"+path, strings.NewReader(body))
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	if s.cookie != "" {
		r.Header.Set("Cookie", s.cookie)
	}
	for i := 0; i+1 < len(headers); i += 2 {
		if headers[i] == "Host" {
			r.Host = headers[i+1]
		} else {
			r.Header.Set(headers[i], headers[i+1])
		}
	}
	w := httptest.NewRecorder()
	s.handler.ServeHTTP(w, r)
	return answer{w, s.TB}
}

// problem checks that an answer is an RFC 9457 problem of a status.
func (a answer) problem(status int) map[string]any {
	a.t.Helper()
	require.Equal(a.t, status, a.Code, a.Body.String())
	assert.Equal(a.t, "application/problem+json", a.Header().Get("Content-Type"))
	var p map[string]any
	require.NoError(a.t, json.Unmarshal(a.Body.Bytes(), &p))
	assert.EqualValues(a.t, status, p["status"])
	assert.NotEmpty(a.t, p["title"])
	return p
}

func (a answer) json(value any) {
	a.t.Helper()
	require.Equal(a.t, http.StatusOK, a.Code, a.Body.String())
	require.NoError(a.t, json.Unmarshal(a.Body.Bytes(), value))
}

func (s *site) motor(id string) server.MotorView {
	s.Helper()
	var page server.MachinePage
	s.ask("GET", "/api/machines/"+strings.TrimSuffix(id, "-m1"), "").json(&page)
	return page.Motors[0]
}

// part sends a part of a motor, at the version at which the motor was read.
func (s *site) part(m server.MotorView, part shop.Part, value any) answer {
	s.Helper()
	body := map[string]any{"version": *m.Versions.Of(part), "value": value}
	return s.ask("PUT", "/api/motors/"+m.ID+"/"+string(part), text(s.TB, body))
}

// sized asks for a way as it is sized, and tried for what follows the hand on it.
func (s *site) sized(motor, way string) (page feed.Page) {
	s.Helper()
	s.ask("GET", "/api/motors/"+motor+"/ways/"+way, "").json(&page)
	return page
}

func (s *site) tried(motor, way, trial string) (page feed.Page) {
	s.Helper()
	s.ask("POST", "/api/motors/"+motor+"/ways/"+way+"/trial", trial).json(&page)
	return page
}

// panel finds a panel of a page.
func panel(t *testing.T, page feed.Page, name string) feed.Panel {
	t.Helper()
	for _, v := range page.Views {
		for _, p := range v.Panels {
			if p.Name == name {
				return p
			}
		}
	}
	t.Fatal("no panel " + name)
	return feed.Panel{}
}

// control is what a control of a page stands at.
func control(t *testing.T, page feed.Page, name string) float64 {
	t.Helper()
	for _, c := range page.Controls {
		if c.Name == name {
			return c.Value
		}
	}
	t.Fatal("no control " + name)
	return 0
}

func text(t testing.TB, value any) string {
	t.Helper()
	b, err := json.Marshal(value)
	require.NoError(t, err)
	return string(b)
}

// page is a shop's page once all of its cards are worked out.
func (s *site) page(id string) (page server.ShopPage) {
	s.Helper()
	for {
		page = server.ShopPage{}
		s.ask("GET", "/api/shops/"+id, "").json(&page)
		if !page.Pending {
			return page
		}
	}
}

// A large shop is listed at once and fills in as it is asked for again; what is known is known
// for all of it.
func TestALargeShopFillsIn(t *testing.T) {
	s := open(t, nil)
	file, err := s.store.Export(context.Background())
	require.NoError(t, err)
	sh := file.Shops[0]
	first := sh.Machines[1]
	sh.Machines = nil
	for n := range 40 {
		m := first
		m.ID, m.Name = fmt.Sprintf("many-%d", n), fmt.Sprintf("Machine %d", n)
		m.Motors = []shop.Motor{first.Motors[0]}
		m.Motors[0].ID = m.ID + "-m"
		m.Motors[0].Plate.Efficiency = fmt.Sprintf("%.2f", 87+float64(n)/100) // each a plate of its own
		sh.Machines = append(sh.Machines, m)
	}
	sh.ID, sh.Name = "many", "Many"
	_, err = s.store.Import(
		context.Background(),
		shop.File{Format: shop.Format, Shops: []shop.Shop{sh}},
		store.Choice{},
	)
	require.NoError(t, err)
	var at server.ShopPage
	s.ask("GET", "/api/shops/many", "").json(&at)
	require.Len(t, at.Machines, 40)
	assert.True(t, at.Pending)
	last := at.Machines[39].Motors[0]
	assert.True(t, last.Pending)
	assert.Equal(
		t,
		[]string{"Machine 39", first.Motors[0].Plate.Amps},
		[]string{at.Machines[39].Name, last.Amps},
		"as typed",
	)
	page := s.page("many")
	for _, m := range page.Machines {
		assert.NotEmpty(t, m.Motors[0].Answer)
		assert.False(t, m.Motors[0].Pending)
	}
}

func TestTheMachinesPage(t *testing.T) {
	s := open(t, nil)
	var shops []server.ShopHead
	s.ask("GET", "/api/shops", "").json(&shops)
	require.Len(t, shops, 2)
	page := s.page(shops[0].ID)
	assert.Equal(t, "Tarn Hollow Clock & Instrument Shop", page.Shop.Name)
	require.Len(t, page.Machines, 7)
	card := page.Machines[1].Motors[0]
	assert.Equal(t, "3 hp", card.Title)
	assert.Equal(t, "run 55 µF, start 290 µF", card.Answer)
	assert.Equal(t, "on Rotary converter", card.Fed)
	assert.Equal(t, "wired", card.Stage)
	assert.Empty(t, page.Machines[2].Motors[0].Fed)
	assert.Equal(t, "idles in Rotary converter", page.Machines[6].Motors[0].Fed)
	assert.Empty(t, page.Machines[6].Motors[0].Answer)
	planer := s.page(shops[1].ID).Machines[0].Motors[0]
	assert.Contains(t, planer.Answer, "not taken; would be ", "nobody has taken a way for it")
	var choices server.Choices
	s.ask("GET", "/api/choices", "").json(&choices)
	assert.NotEmpty(t, choices.Loads)
}

// shop is the head of a shop.
func (s *site) shop(id string) server.ShopHead {
	s.Helper()
	var page server.ShopPage
	s.ask("GET", "/api/shops/"+id, "").json(&page)
	return page.Shop
}

// Where rules speak in a shop: on the step where they are shown, none that always holds, of a
// way only once it is taken.
func TestWhereRulesSpeak(t *testing.T) {
	s := open(t, nil)
	spoken := func() (list []server.Spoken) {
		s.ask("GET", "/api/shops/tarn-hollow/spoken", "").json(&list)
		return list
	}
	steps := map[string]bool{}
	for _, said := range spoken() {
		assert.NotEmpty(t, said.Says)
		steps[said.Step] = true
		var m server.MachinePage
		s.ask("GET", "/api/machines/"+said.MachineID, "").json(&m)
		assert.Equal(t, m.Name, said.Machine)
		assert.False(t, strings.HasPrefix(said.Rule, "always."), said.Rule)
	}
	assert.True(t, steps["size"] && steps["plate"])
	ofShaper := func() (n int) {
		for _, said := range spoken() {
			if said.MotorID == "tarn-shaper-m1" && said.Step == "size" {
				n++
			}
		}
		return n
	}
	require.Positive(t, ofShaper())
	m := s.motor("tarn-shaper-m1")
	m.Way.Route = ""
	s.part(m, shop.WayPart, m.Fed).json(&server.MotorView{})
	assert.Zero(t, ofShaper(), "nobody has taken a way")
	s.ask("GET", "/api/shops/none/spoken", "").problem(http.StatusNotFound)
}

func TestAPlateIsReadFromText(t *testing.T) {
	s := open(t, nil)
	var read server.PlateText
	s.ask("POST", "/api/plates", `{"text": "3 HP 230/460V 9.0/4.5A 60HZ 1745RPM NR 17"}`).json(&read)
	assert.Equal(t, "230/460", read.Plate.Volts)
	assert.Contains(t, read.Rows, plate.Row{Field: "amps", Text: "9/4.5", Words: "9.0/4.5A"})
	assert.Equal(t, []string{"NR", "17"}, read.Unread)
	assert.NotEmpty(t, read.Verdicts)
	assert.Empty(t, read.Proposals)
	s.ask("POST", "/api/plates", `{"text": "HP S V 230 A 13.2 RPM 1745 HZ 60"}`).json(&read)
	assert.Equal(t, "", read.Plate.Output)
	assert.Equal(t, "5 HP", strings.ToUpper(read.Proposals[0].To))
	s.ask("POST", "/api/plates", `{"text": "  "}`).problem(http.StatusUnprocessableEntity)
	s.ask("POST", "/api/plates", `{"text": "`+strings.Repeat("x", 5000)+`"}`).problem(http.StatusUnprocessableEntity)
}

// The words of a picture are read into fields with their place and their doubts; what no picture gives is refused.
func TestAPlateIsReadFromItsPicture(t *testing.T) {
	s := open(t, nil)
	word := func(text, sure, left, right string) string {
		return fmt.Sprintf(`{"text": %q, "sure": %s, "box": {"left": %s, "top": 0.1, "right": %s, "bottom": 0.2}}`,
			text, sure, left, right)
	}
	reading := func(words ...string) string { return `{"words": [` + strings.Join(words, ",") + `]}` }
	ask := func(readings ...string) answer {
		return s.ask("POST", "/api/plates/seen", `{"readings": [`+strings.Join(readings, ",")+`]}`)
	}
	rpm := []string{word("RPM", "0.9", "0.1", "0.2"), word("1745", "0.8", "0.25", "0.4"),
		word("VOLTS", "0.9", "0.5", "0.6"), word("460", "0.9", "0.65", "0.7")}
	var seen server.SeenPlate
	ask(reading(rpm...), reading(rpm...)).json(&seen)
	require.Len(t, seen.Fields, 2)
	field := seen.Fields[1]
	assert.Equal(t, [2]string{"rpm", "1745"}, [2]string{field.Field, field.Text})
	assert.Equal(t, plate.Box{Left: 0.1, Top: 0.1, Right: 0.4, Bottom: 0.2}, field.Box)
	assert.InDelta(t, 0.8, field.Sure, 1e-9)
	assert.Empty(t, field.Doubts)
	ask(reading(rpm...)).json(&seen)
	assert.NotEmpty(t, seen.Fields[0].Doubts, "one reading alone")
	ask().json(&seen)
	assert.Empty(t, seen.Fields)
	for name, refused := range map[string]string{
		"surer than sure":  reading(word("RPM", "1.1", "0.1", "0.2")),
		"beyond the edge":  reading(word("RPM", "0.9", "0.1", "1.2")),
		"no word":          reading(word(strings.Repeat("x", 61), "0.9", "0.1", "0.2")),
		"too many words":   reading(strings.Split(strings.Repeat(rpm[0]+"|", 501), "|")[:501]...),
		"a key of its own": `{"words": [], "more": 1}`,
	} {
		assert.Equal(t, http.StatusUnprocessableEntity, ask(refused).Code, name)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, ask(reading(), reading(), reading(), reading()).Code)
}

// A card is made anew when its plate or its supply changes, and only then.
func TestCardsFollowTheirMotor(t *testing.T) {
	s := open(t, nil)
	card := func() server.MotorCard {
		return s.page("tarn-hollow").Machines[1].Motors[0]
	}
	before := card()
	assert.Equal(t, before, card())
	m := s.motor("tarn-shaper-m1")
	m.RunMicrofarad = new(70.0)
	s.part(m, shop.WayPart, m.Fed).json(&server.MotorView{})
	after := card()
	assert.Contains(t, after.Answer, "run 70 µF")
	var page server.ShopPage
	s.ask("GET", "/api/shops/tarn-hollow", "").json(&page)
	page.Shop.Supply.Volts = 208
	s.ask("PUT", "/api/shops/tarn-hollow", text(t, map[string]any{"name": page.Shop.Name, "supply": page.Shop.Supply,
		"version": page.Shop.Version})).
		json(&server.ShopHead{})
	assert.NotEqual(t, after, card())
}

func TestAPlateIsChangedAndUnderstood(t *testing.T) {
	s := open(t, nil)
	m := s.motor("tarn-shaper-m1")
	m.Plate.RPM, m.Plate.Output = "1730", "3 horses"
	var view server.MotorView
	s.part(m, shop.PlatePart, server.Plated{Name: m.Name, Plate: m.Plate}).json(&view)
	assert.Equal(t, m.Versions.Plate+1, view.Versions.Plate)
	require.Len(t, view.Reading.Problems, 1)
	assert.Equal(t, "output", view.Reading.Problems[0].Field)
	assert.Equal(t, "3 horses", view.Plate.Output, "what was typed is kept as typed")
	s.ask("GET", "/api/motors/tarn-shaper-m1/ways/rotary", "").problem(http.StatusConflict)
}

func TestAStaleChangeIsAConflict(t *testing.T) {
	s := open(t, nil)
	m := s.motor("tarn-shaper-m1")
	m.Plate.RPM = "1731"
	s.part(m, shop.PlatePart, server.Plated{Plate: m.Plate}).json(&server.MotorView{})
	m.Plate.RPM = "1732"
	p := s.part(m, shop.PlatePart, server.Plated{Plate: m.Plate}).problem(http.StatusConflict)
	assert.Contains(t, p["detail"], "changed in another window")
	// What is another part has nothing to do with it.
	s.part(m, shop.BuiltPart, []string{}).json(&server.MotorView{})
	s.part(m, shop.OwnPart, []controls.Terminal{{Mark: "7", Function: "drum"}}).json(&server.MotorView{})
	assert.Equal(t, "1731", s.motor("tarn-shaper-m1").Plate.RPM)
}

func TestBadInputIsNamedByPlace(t *testing.T) {
	s := open(t, nil)
	m := s.motor("tarn-shaper-m1")
	long, share, negative, route := m.Plate, m.Driven, m.Fed, m.Fed
	long.Volts = strings.Repeat("9", 500)
	share.LoadShare = new(1.5)
	negative.RunMicrofarad = new(-4.0)
	route.Way.Route = "tea"
	for name, c := range map[string]struct {
		part     shop.Part
		value    any
		location string
	}{
		"a plate field of a novel": {shop.PlatePart, server.Plated{Plate: long}, "body.value.plate.volts"},
		"an unknown load":          {shop.ShaftPart, shop.Driven{Load: "unicorn"}, "body.value.load"},
		"a share over one":         {shop.ShaftPart, share, "body.value.load_share"},
		"a negative capacitor":     {shop.WayPart, negative, "body.value.run_microfarad"},
		"an unknown way":           {shop.WayPart, route, "body.value.way"},
		"an unknown function":      {shop.OwnPart, []controls.Terminal{{Function: "rope"}}, "body.value[0].function"},
		"a tick too long":          {shop.BuiltPart, []string{strings.Repeat("x", 201)}, "body.value"},
	} {
		t.Run(name, func(t *testing.T) {
			a := s.part(m, c.part, c.value)
			a.problem(http.StatusUnprocessableEntity)
			assert.Contains(t, a.Body.String(), `"location":"`+c.location+`"`)
			assert.NotContains(t, a.Body.String(), "expected", "a sentence for a person")
		})
	}
	a := s.ask("PUT", "/api/motors/tarn-shaper-m1/plate", `{"secret": "tell nobody"}`)
	a.problem(http.StatusUnprocessableEntity)
	assert.NotContains(t, a.Body.String(), "tell nobody", "a body is never echoed")
	s.ask("PUT", "/api/motors/tarn-shaper-m1/plate", `{"a"`).problem(http.StatusBadRequest)
	for _, empty := range []string{"", "   "} {
		p := s.ask("POST", "/api/shops/tarn-hollow/machines", `{"name": "`+empty+`"}`).
			problem(http.StatusUnprocessableEntity)
		assert.Equal(t, "Give it a name.", p["detail"])
	}
	s.ask(
		"POST",
		"/api/shops",
		`{"name": "x", "version": 0, "supply": {"kind": "steam", "volts": 1, "hertz": 60, "main_amps": 100, "class":`+
			` "usual", "resistance_ohm": 0, "reactance_ohm": 0}}`,
	).
		problem(http.StatusUnprocessableEntity)
}

// What would be computed with before it is checked, or decoded over what was checked, never gets
// so far: numbers out of bounds, keys twice or in other letters, nesting without end.
func TestHostileJSONIsRefusedEarly(t *testing.T) {
	s := open(t, nil)
	const trial = "/api/motors/tarn-shaper-m1/ways/start-run-capacitor/trial"
	for _, body := range []string{
		`{"load_share": 1e99999999}`, `{"load_share": 1e-1000000}`,
		`{"load_share": 0.` + strings.Repeat("3", 1000) + `}`,
		`{"Load_Share": 0.5}`, `{"load_share": 0.5, "load_share": 0.6}`, `{"load_share": 0.5, "RUN_microfarad": -9}`,
		`{"load_share": ` + strings.Repeat("[", 200) + strings.Repeat("]", 200) + `}`,
	} {
		p := s.ask("POST", trial, body).problem(http.StatusUnprocessableEntity)
		said := fmt.Sprint(p)
		assert.NotContains(t, said, strings.Repeat("3", 100), "nothing long is echoed")
		assert.NotContains(t, said, "json.")
	}
	var page feed.Page
	s.ask("POST", trial, `{"load_share": 0.5}`).json(&page)
	assert.NotEmpty(t, page.Headline)
	// A supply past its bounds by another spelling is none.
	head := s.shop("tarn-hollow")
	s.ask("PUT", "/api/shops/tarn-hollow", text(t, map[string]any{"name": head.Name, "version": head.Version,
		"supply": head.Supply, "Supply": map[string]any{"volts": 9e9}})).problem(http.StatusUnprocessableEntity)
	assert.InDelta(t, 240, s.shop("tarn-hollow").Supply.Volts, 1e-9)
}

// What fails on our side is logged with its stack, under a reference that the answer carries; a
// caller that went away is no failure.
func TestFailuresCanBeFound(t *testing.T) {
	var logged bytes.Buffer
	s := open(t, func(o *server.Options) { o.Log = slog.New(slog.NewTextHandler(&logged, nil)) })
	left, leave := context.WithCancel(context.Background())
	leave()
	r := httptest.NewRequestWithContext(left, "GET", "http://127.0.0.1:8420/api/shops", nil)
	s.handler.ServeHTTP(httptest.NewRecorder(), r)
	assert.Empty(t, logged.String())
	broken := open(t, func(o *server.Options) {
		o.Log = slog.New(slog.NewTextHandler(&logged, nil))
		o.Store = nil
	})
	p := broken.ask("GET", "/api/shops", "").problem(http.StatusInternalServerError)
	_, reference, found := strings.Cut(p["detail"].(string), ", under ")
	require.True(t, found, p["detail"])
	assert.Contains(t, logged.String(), strings.TrimSuffix(reference, "."))
	assert.Contains(t, logged.String(), "goroutine")
	assert.NotContains(t, p["detail"], "nil pointer")
}

// A heater tells the ohms of a supply, and readings that do not go together are named.
func TestASupplyIsTested(t *testing.T) {
	s := open(t, nil)
	test := func(idle, loaded, amps float64) answer {
		return s.ask("POST", "/api/supply-tests",
			fmt.Sprintf(`{"idle_volts": %g, "loaded_volts": %g, "amps": %g}`, idle, loaded, amps))
	}
	var told server.SupplyTested
	test(241, 237.5, 14).json(&told)
	assert.InDelta(t, 0.25, told.ResistanceOhm, 0.003)
	assert.Contains(t, told.Says, "0.25 Ω, between 0.21 and 0.29")
	test(241, 240, 2).json(&told)
	assert.Contains(t, told.Says, "tells little")
	assert.Contains(t, fmt.Sprint(test(237, 241, 14).problem(422)), "body.loaded_volts")
}

func TestWhatIf(t *testing.T) {
	s := open(t, nil)
	const motor, way = "tarn-shaper-m1", "start-run-capacitor"
	chosen := s.sized(motor, way)
	tried := s.tried(motor, way, `{"run_microfarad": 90, "start_microfarad": 0, "load_share": 0.25}`)
	assert.Equal(t, 55.0, control(t, chosen, "run_microfarad"))
	assert.Equal(t, 90.0, control(t, tried, "run_microfarad"))
	assert.Zero(t, control(t, tried, "start_microfarad"))
	assert.Equal(t, 0.25, control(t, tried, "load_share"))
	assert.NotEqual(t, panel(t, chosen, "legs").Legs.Volts, panel(t, tried, "legs").Legs.Volts)
	assert.NotEmpty(t, chosen.Workings)
	assert.Equal(t, 55.0, *s.motor(motor).RunMicrofarad, "trying keeps nothing")
	s.ask("POST", "/api/motors/"+motor+"/ways/"+way+"/trial", `{"run_microfarad": 1e9}`).problem(422)
	s.ask("POST", "/api/motors/"+motor+"/ways/"+way+"/trial", `{"tea": 1}`).problem(422)
	s.ask("GET", "/api/motors/none/ways/"+way, "").problem(http.StatusNotFound)
}

// A scope's window is thinned on the server, its peaks kept; the terminals after
// switch-off are told.
func TestScopeAndSwitchOff(t *testing.T) {
	s := open(t, nil)
	const at = "/api/motors/tarn-shaper-m1/ways/start-run-capacitor"
	var whole, part server.ScopeView
	s.ask("GET", at+"/scope?buckets=300", "").json(&whole)
	require.Len(t, whole.Seconds, 600)
	for _, name := range []string{"ab", "bc", "ca", "a", "b", "c", "rpm", "torque"} {
		require.Len(t, whole.Channels[name], 600, name)
	}
	assert.InDelta(t, 100_000, whole.Samples, 20)
	assert.InDelta(t, 340, slices.Max(whole.Channels["ab"]), 8)
	require.Len(t, whole.Marks, 2)
	s.ask("GET", at+"/scope?from=0.1&to=0.11&buckets=300", "").json(&part)
	assert.Less(t, part.Seconds[0], 0.1001)
	assert.Greater(t, part.Seconds[len(part.Seconds)-1], 0.1099)
	assert.LessOrEqual(t, len(part.Seconds), 1000)
	s.ask("GET", at+"/scope?run_microfarad=20&start_microfarad=0&load_share=0.1&buckets=300", "").json(&part)
	assert.Less(t, part.InrushAmps, whole.InrushAmps)
	var volts server.ScopeView
	s.ask("GET", at+"/scope?buckets=300&channels=ca&channels=ab", "").json(&volts)
	require.Len(t, volts.Channels, 2)
	assert.Equal(t, whole.Channels["ab"], volts.Channels["ab"])
	s.ask("GET", at+"/scope?channels=shaft", "").problem(422)
	s.ask("GET", at+"/scope?buckets=1000000", "").problem(422)
	s.ask("GET", "/api/motors/ferry-mortiser-m1/ways/static/scope", "").problem(409) // no circuit, no scope
	s.ask("GET", "/api/motors/tarn-shaper-m1/ways/rotary/scope", "").problem(404)
	var after feed.After
	s.ask("GET", at+"/off", "").json(&after)
	assert.Contains(t, after.Says, "its terminals are live for")
	s.ask("GET", "/api/motors/tarn-shaper-m1/ways/rotary/off", "").json(&after)
	assert.Equal(t, feed.After{Verdicts: []rule.Verdict{}}, after)
}

// Every way is looked at and tried without being taken.
func TestEveryWayIsLookedAt(t *testing.T) {
	s := open(t, nil)
	const motor = "tarn-shaper-m1"
	before := s.motor(motor)
	var choices server.Choices
	s.ask("GET", "/api/choices", "").json(&choices)
	require.Len(t, choices.Routes, len(feed.All()))
	for _, way := range choices.Routes {
		page := s.sized(motor, way.Name)
		assert.Equal(t, way.Title, page.Title)
		assert.Len(t, page.Headline, 5, way.Name)
		trial := map[string]float64{}
		for _, c := range page.Controls {
			if c.Kind == feed.Slide || c.Kind == feed.Pick {
				trial[c.Name] = c.Value
			}
		}
		// A trial of what stands is what stands.
		for _, v := range s.tried(motor, way.Name, text(t, trial)).Views {
			for _, p := range v.Panels {
				assert.Equal(t, panel(t, page, p.Name), p, way.Name)
			}
		}
		trial["load_share"] = 0.9
		other := s.tried(motor, way.Name, text(t, trial))
		assert.NotContains(t, text(t, other), `"With a choke"`, "its amps are those of the load that is kept")
	}
	winch := s.sized("ferry-winch-m1", "static")
	assert.Equal(t, "route.static-hard-start", winch.Verdicts[0].Rule, "never on a static converter")
	s.ask("GET", "/api/motors/"+motor+"/ways/tea", "").problem(404)
	for _, trial := range []string{`{"idler_watts": 5}`, `{"load_share": 2}`, `{"balance_ac_microfarad": -1}`} {
		s.ask("POST", "/api/motors/"+motor+"/ways/rotary/trial", trial).problem(422)
	}
	assert.Equal(t, before, s.motor(motor), "nothing of that was taken or kept")
}

// The drive's settings are had as a list and as CSV, by the numbers of a profile.
func TestDriveSettings(t *testing.T) {
	s := open(t, nil)
	var v server.SettingsView
	s.ask("GET", "/api/motors/tarn-shaper-m1/settings", "").json(&v)
	require.Len(t, v.Profiles, 2)
	require.Len(t, v.Entries, len(drive.Known)-3, "without fixed speeds, which nothing asks for")
	assert.Empty(t, v.Entries[0].Parameter)
	m := s.motor("tarn-shaper-m1")
	m.Way.Profile = v.Profiles[0]
	s.part(m, shop.WayPart, m.Fed).json(&m)
	s.ask("GET", "/api/motors/tarn-shaper-m1/settings", "").json(&v)
	assert.Equal(t, m.Way.Profile, v.Profile)
	assert.NotEmpty(t, v.Entries[0].Parameter)
	a := s.ask("GET", "/api/motors/tarn-shaper-m1/settings.csv", "")
	rows, err := csv.NewReader(a.Body).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, len(v.Entries)+1)
	assert.Equal(t, []string{"was", "is now", "date", "hand"}, rows[0][6:])
	// As a file it is what a drive is compared with and written by.
	meant, problems := drivebus.ReadMeant(s.ask("GET", "/api/motors/tarn-shaper-m1/settings.json", "").Body.Bytes())
	require.Empty(t, problems)
	assert.Equal(t, drivebus.MeantBy(v.Entries), meant)
	// A profile that is gone leaves our own names.
	m.Way.Profile = "gone"
	s.part(m, shop.WayPart, m.Fed).json(&m)
	s.ask("GET", "/api/motors/tarn-shaper-m1/settings", "").json(&v)
	assert.Empty(t, v.Profile)
	assert.Empty(t, v.Entries[0].Parameter)
}

// A shop's own profiles are kept whole, exported with it, and refused with a sentence.
func TestOwnDriveProfiles(t *testing.T) {
	s := open(t, nil)
	var page server.MachinePage
	s.ask("GET", "/api/machines/tarn-shaper", "").json(&page)
	at := "/api/shops/" + page.Shop.ID + "/profiles"
	own := func(version int, name string, parameters map[string]drive.Parameter) string {
		return text(
			t,
			map[string]any{
				"version":  version,
				"profiles": []drive.Profile{{Format: drive.ProfileFormat, Name: name, Parameters: parameters}},
			},
		)
	}
	good := map[string]drive.Parameter{
		"base_hertz": {Number: "17", Unit: "0.1 Hz", Times: 10},
		"stop_mode":  {Number: "18", Writes: map[string]string{"ramp": "0"}},
	}
	for says, body := range map[string]string{
		"no setting":    own(page.Shop.Version, "Ours", map[string]drive.Parameter{"tea": {Number: "1"}}),
		"has no number": own(page.Shop.Version, "Ours", map[string]drive.Parameter{"base_hertz": {}}),
		"have the same": own(page.Shop.Version, "Ours", map[string]drive.Parameter{"base_hertz": {Number: "1"},
			"poles": {Number: "1"}}),
		"needs a name":     own(page.Shop.Version, " ", good),
		"of this name":     own(page.Shop.Version, drive.Profiles()[0].Name, good),
		"no such property": strings.Replace(own(page.Shop.Version, "Ours", good), `"profiles"`, `"x":1,"profiles"`, 1),
	} {
		a := s.ask("PUT", at, body)
		assert.Equal(t, 422, a.Code, says)
		assert.Contains(t, a.Body.String(), says)
	}
	var head server.ShopHead
	s.ask("PUT", at, own(page.Shop.Version, "Ours", good)).json(&head)
	require.Len(t, head.Profiles, 1)
	assert.Equal(t, good, head.Profiles[0].Parameters)
	s.ask("PUT", at, own(page.Shop.Version, "Late", good)).problem(409)
	m := s.motor("tarn-shaper-m1")
	m.Way.Profile = "Ours"
	s.part(m, shop.WayPart, m.Fed).json(&m)
	var v server.SettingsView
	s.ask("GET", "/api/motors/tarn-shaper-m1/settings", "").json(&v)
	for _, e := range v.Entries {
		if e.Name == "base_hertz" {
			assert.Equal(t, "17", e.Parameter)
			assert.Contains(t, e.Writes, "× 0.1 Hz")
		}
	}
	exported := s.ask("GET", "/api/export", "").Body.String()
	assert.Contains(t, exported, `"Ours"`)
	_, problems := shop.ReadFile([]byte(exported))
	assert.Empty(t, problems)
	var made sheet.Sheet
	m.Way.Route = "drive-derated"
	s.part(m, shop.WayPart, m.Fed).json(&m)
	s.ask("GET", "/api/motors/tarn-shaper-m1/sheet", "").json(&made)
	for _, table := range made.Tables {
		if table.Title == "Drive settings" {
			assert.Equal(t, "Ours", table.Source)
			assert.Equal(
				t,
				[]string{
					"Setting",
					"Set to",
					"Parameter",
					"Write",
					"Why; how it often comes",
					"Was",
					"Is now",
					"Date",
					"Hand",
				},
				table.Head,
			)
		}
	}
}

// What is noted of a shaft is kept as typed, judged by place, and changes the start.
func TestAShaftIsNoted(t *testing.T) {
	s := open(t, nil)
	m := s.motor("tarn-shaper-m1")
	m.Shaft = load.Typed{CoastSeconds: "0", OnMinutes: "10", OffMinutes: "soon"}
	var v server.MotorView
	s.part(m, shop.ShaftPart, m.Driven).json(&v)
	assert.Equal(t, m.Shaft, v.Shaft)
	says := map[string]string{}
	for _, p := range v.Reading.Problems {
		says[p.Field] = p.Says
	}
	assert.Contains(t, says["shaft.coast_seconds"], "above zero")
	assert.NotEmpty(t, says["shaft.off_minutes"])
	seconds := func() float64 { return panel(t, s.sized(m.ID, m.Way.Route), "run-up").Chart.X.Most }
	before := seconds()
	v.Shaft.CoastSeconds = "90"
	s.part(v, shop.ShaftPart, v.Driven).json(&v)
	assert.Greater(t, seconds(), 2*before)
	v.Shaft.Air = strings.Repeat("9", 100)
	s.part(v, shop.ShaftPart, v.Driven).problem(422)
}

func TestShopsMachinesAndMotorsThroughTheirLives(t *testing.T) {
	s := open(t, nil)
	var sh server.ShopHead
	body := `{"name": " Kiln Lane ", "version": 0, "supply": {"kind": "two-wire", "volts": 220, "hertz": 60, ` +
		`"main_amps": 40, "class": "long", "resistance_ohm": 0, "reactance_ohm": 0}}`
	s.ask("POST", "/api/shops", body).json(&sh)
	assert.Equal(t, "Kiln Lane", sh.Name)
	assert.Equal(t, 0.4, sh.Supply.ResistanceOhm, "the class fills the ohms in")
	var m shop.Machine
	s.ask("POST", "/api/shops/"+sh.ID+"/machines", `{"name": "Lathe"}`).json(&m)
	s.ask("PUT", "/api/machines/"+m.ID, `{"name": "Big lathe", "note": "n", "version": 1}`).json(&m)
	var mo shop.Motor
	s.ask("POST", "/api/machines/"+m.ID+"/motors", `{"name": "feed"}`).json(&mo)
	for _, path := range []string{"/motors/" + mo.ID, "/machines/" + m.ID, "/shops/" + sh.ID} {
		require.Less(t, s.ask("DELETE", "/api"+path, "").Code, 300, path)
		s.ask("DELETE", "/api"+path, "").problem(http.StatusNotFound)
		require.Less(t, s.ask("POST", "/api"+path+"/restore", "").Code, 300, path)
	}
	var copied shop.Machine
	s.ask("POST", "/api/machines/"+m.ID+"/copy", `{"name": "Lathe 2"}`).json(&copied)
	assert.Len(t, copied.Motors, 2)
	var twin server.ShopHead
	s.ask("POST", "/api/shops/"+sh.ID+"/copy", `{"name": "Twin"}`).json(&twin)
	var page server.ShopPage
	s.ask("GET", "/api/shops/"+twin.ID, "").json(&page)
	assert.Len(t, page.Machines, 2)
}

func TestSheetPDFSVGExportImport(t *testing.T) {
	s := open(t, nil)
	pdf := s.ask("GET", "/api/motors/tarn-shaper-m1/sheet.pdf?paper=Letter", "")
	require.Equal(t, 200, pdf.Code)
	assert.Equal(t, "application/pdf", pdf.Header().Get("Content-Type"))
	assert.Contains(t, pdf.Header().Get("Content-Disposition"), "job-sheet-metal-shaper.pdf")
	assert.True(t, bytes.HasPrefix(pdf.Body.Bytes(), []byte("%PDF-")))
	svg := s.ask("GET", "/api/motors/tarn-shaper-m1/circuit.svg", "")
	assert.Equal(t, "image/svg+xml", svg.Header().Get("Content-Type"))
	s.ask("GET", "/api/motors/ferry-mortiser-m1/sheet.pdf", "").problem(http.StatusConflict)
	s.ask("GET", "/api/motors/none/circuit.svg", "").problem(http.StatusNotFound)
	out := s.ask("GET", "/api/export?shop=tarn-hollow", "")
	file, problems := shop.ReadFile(out.Body.Bytes())
	require.Empty(t, problems)
	require.Len(t, file.Shops, 1)
	back := s.ask("POST", "/api/import", out.Body.String())
	require.Equal(t, 200, back.Code)
	assert.Contains(t, back.Body.String(), `"added":0,"changed":0`)
	p := s.ask("POST", "/api/import", `{"format": "brackmoor.shops/1", "shops": [{}]}`).
		problem(http.StatusUnprocessableEntity)
	assert.Contains(t, p["detail"], "Nothing was imported")
	assert.NotEmpty(t, p["errors"])
	s.ask("POST", "/api/import", strings.Repeat(" ", 9<<20)).problem(http.StatusRequestEntityTooLarge)
}

func TestTheDoor(t *testing.T) {
	s := open(t, func(o *server.Options) { o.Hosts = []string{"brackmoor.shop"} })
	s.ask("GET", "/api/nothing", "").problem(http.StatusNotFound)
	s.ask("PATCH", "/api/shops", "{}").problem(http.StatusMethodNotAllowed)
	s.ask("POST", "/", "x").problem(http.StatusMethodNotAllowed)
	s.ask("GET", "/api/shops", "", "Host", "evil.example").problem(http.StatusMisdirectedRequest)
	s.ask("GET", "/", "", "Host", "evil.example:8420").problem(http.StatusMisdirectedRequest)
	foreign := s.ask("GET", "/", "", "Host", "evil.example")
	assert.Equal(t, "nosniff", foreign.Header().Get("X-Content-Type-Options"), "refused, and still kept to itself")
	s.ask("GET", "/api/motors/tarn-shaper-m1/ways/start-run-capacitor/scope?from=NaN", "").
		problem(http.StatusUnprocessableEntity)
	for _, host := range []string{"localhost:8420", "[::1]:8420", "brackmoor.shop", "192.168.1.9:8420"} {
		assert.Equal(t, 200, s.ask("GET", "/api/shops", "", "Host", host).Code, host)
	}
	for _, header := range [][2]string{{"Sec-Fetch-Site", "cross-site"}, {"Origin", "http://evil.example"}} {
		a := s.ask("POST", "/api/shops/tarn-hollow/copy", `{"name": "x"}`, header[0], header[1])
		assert.Equal(t, http.StatusForbidden, a.Code, header[0])
	}
	s.ask("GET", "/api/motors/tarn-shaper-m1/ways/start-run-capacitor/scope", "", "Sec-Fetch-Site", "cross-site").
		problem(http.StatusForbidden)
	assert.Equal(t, 200, s.ask("GET", "/api/shops", "", "Sec-Fetch-Site", "none").Code, "typed as an address")
	s.ask("POST", "/api/shops/tarn-hollow/machines", `{"name": "`+strings.Repeat("x", 300<<10)+`"}`).
		problem(http.StatusRequestEntityTooLarge)
}

func TestSecurityHeaders(t *testing.T) {
	s := open(t, nil)
	a := s.ask("GET", "/machines/tarn-shaper/size", "")
	require.Equal(t, 200, a.Code)
	policy := a.Header().Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'none'")
	assert.Contains(t, policy, "script-src 'self'")
	assert.NotContains(t, policy, "'unsafe-", "but for what is compiled")
	nonce := policy[strings.Index(policy, "'nonce-")+7:]
	nonce = nonce[:strings.Index(nonce, "'")]
	assert.Contains(t, a.Body.String(), `nonce="`+nonce+`"`)
	assert.NotContains(t, s.ask("GET", "/", "").Body.String(), nonce, "a nonce is used once")
	for header, want := range map[string]string{"X-Content-Type-Options": "nosniff", "X-Frame-Options": "DENY",
		"Referrer-Policy": "no-referrer", "Cross-Origin-Opener-Policy": "same-origin"} {
		assert.Equal(t, want, a.Header().Get(header))
	}
	assert.Equal(t, "no-store", s.ask("GET", "/api/shops", "").Header().Get("Cache-Control"))
}

func TestAssets(t *testing.T) {
	s := open(t, nil)
	plain := s.ask("GET", "/assets/a-123.js", "")
	require.Equal(t, 200, plain.Code)
	assert.Contains(t, plain.Header().Get("Cache-Control"), "immutable")
	zipped := s.ask("GET", "/assets/a-123.js", "", "Accept-Encoding", "gzip")
	assert.Equal(t, "gzip", zipped.Header().Get("Content-Encoding"))
	z, err := gzip.NewReader(zipped.Body)
	require.NoError(t, err)
	unzipped, err := io.ReadAll(z)
	require.NoError(t, err)
	assert.Equal(t, plain.Body.String(), string(unzipped))
	s.ask("GET", "/assets/gone-1.js", "").problem(http.StatusNotFound)
	assert.Equal(t, 200, s.ask("HEAD", "/icon.svg", "").Code)
	assert.Contains(
		t,
		s.ask("GET", "/../../etc/passwd", "").Body.String(),
		"root\"></div>",
		"every other address is the application",
	)
	none := open(t, func(o *server.Options) { o.App = nil })
	assert.Equal(t, http.StatusServiceUnavailable, none.ask("GET", "/", "").Code)
	assert.Contains(t, none.ask("GET", "/", "").Body.String(), "make build")
}

// known is a passphrase that stays.
func known(text string) func(context.Context) (string, error) {
	hash := passphrase.Hash(text, cheap)
	return func(context.Context) (string, error) { return hash, nil }
}

// A change of the passphrase ends every session at once, and what is on disk opens nothing.
func TestAChangedPassphraseEndsSessions(t *testing.T) {
	hash := passphrase.Hash("correct horse battery", cheap)
	s := open(t, func(o *server.Options) {
		o.Passphrase = func(context.Context) (string, error) { return hash, nil }
	})
	cookie := s.ask("POST", "/api/login", `{"passphrase": "correct horse battery"}`).Result().Cookies()[0]
	s.cookie = cookie.Name + "=" + cookie.Value
	require.Equal(t, 200, s.ask("GET", "/api/shops", "").Code)
	var token string
	require.NoError(t, s.store.DB.QueryRow("SELECT token FROM sessions").Scan(&token))
	assert.NotEqual(t, cookie.Value, token)
	hash = passphrase.Hash("another horse battery", cheap)
	s.ask("GET", "/api/shops", "").problem(http.StatusUnauthorized)
	s.ask("POST", "/api/login", `{"passphrase": "correct horse battery"}`).problem(http.StatusUnauthorized)
	hash = ""
	s.ask("GET", "/api/shops", "").problem(http.StatusUnauthorized)
	s.ask("POST", "/api/login", `{"passphrase": ""}`).problem(http.StatusUnauthorized)
}

func TestPassphraseIsAskedFor(t *testing.T) {
	s := open(t, func(o *server.Options) { o.Passphrase = known("correct horse battery") })
	for _, path := range []string{"/api/shops", "/api/export", "/api/motors/tarn-shaper-m1/sheet.pdf"} {
		s.ask("GET", path, "").problem(http.StatusUnauthorized)
	}
	assert.Equal(t, 200, s.ask("GET", "/", "").Code, "the page itself holds nothing")
	s.ask("POST", "/api/login", `{"passphrase": "wrong"}`).problem(http.StatusUnauthorized)
	in := s.ask("POST", "/api/login", `{"passphrase": "correct horse battery"}`)
	require.Equal(t, http.StatusNoContent, in.Code)
	cookie := in.Result().Cookies()[0]
	assert.True(t, cookie.HttpOnly)
	assert.Equal(t, http.SameSiteStrictMode, cookie.SameSite)
	s.cookie = cookie.Name + "=" + cookie.Value
	assert.Equal(t, 200, s.ask("GET", "/api/shops", "").Code)
	require.Equal(t, http.StatusNoContent, s.ask("POST", "/api/logout", "").Code)
	s.ask("GET", "/api/shops", "").problem(http.StatusUnauthorized)
}

func TestLoginIsRateLimited(t *testing.T) {
	s := open(t, func(o *server.Options) { o.Passphrase = known("correct horse battery") })
	limited := false
	for range 12 {
		code := s.ask("POST", "/api/login", `{"passphrase": "guess"}`).Code
		limited = limited || code == http.StatusTooManyRequests
	}
	assert.True(t, limited)
}

func TestFaultsAreToldWithoutTheirCause(t *testing.T) {
	var log bytes.Buffer
	s := open(t, func(o *server.Options) { o.Log = slog.New(slog.NewTextHandler(&log, nil)) })
	_, err := s.store.DB.Exec("ALTER TABLE motors RENAME TO elsewhere")
	require.NoError(t, err)
	a := s.ask("GET", "/api/machines/tarn-shaper", "")
	a.problem(http.StatusInternalServerError)
	assert.NotContains(t, a.Body.String(), "motors")
	assert.Contains(t, log.String(), "no such table")
	_, err = s.store.DB.Exec("ALTER TABLE elsewhere RENAME TO motors")
	require.NoError(t, err)
}

// The committed OpenAPI document is the one the code describes.
func TestOpenAPIIsCurrent(t *testing.T) {
	want, err := server.Describe()
	require.NoError(t, err)
	got, err := os.ReadFile("../docs/schema/openapi.json")
	require.NoError(t, err)
	assert.True(t, bytes.Equal(append(want, '\n'), got), "stale: run make api")
}

func TestPassphraseHash(t *testing.T) {
	hash := passphrase.Hash("correct horse battery", passphrase.Production)
	assert.True(t, strings.HasPrefix(hash, "$argon2id$v=19$m=65536,t=3,p=2$"))
	assert.NotEqual(t, passphrase.Hash("x", cheap), passphrase.Hash("x", cheap), "salted")
	assert.True(t, passphrase.Matches(context.Background(), hash, "correct horse battery"))
	for _, broken := range []string{"", "$argon2id$", hash[:len(hash)-4], "$argon2id$v=18$m=65536,t=3,p=2$YWJj$YWJj",
		"$argon2id$v=19$m=x$YWJj$YWJj", "$argon2id$v=19$m=65536,t=3,p=2$***$YWJj"} {
		assert.False(t, passphrase.Matches(context.Background(), broken, "correct horse battery"), broken)
	}
	assert.False(t, passphrase.Matches(context.Background(), hash, "correct horse batter"))
}

// What was stored out of all bounds, by whatever way, never makes an answer that says that all is
// well and is none.
func TestNoErrorStandsUnder200(t *testing.T) {
	for _, change := range []string{
		"UPDATE shops SET supply = json_set(supply, '$.volts', 9e9)",
		"UPDATE shops SET supply = json_set(supply, '$.volts', 1e308, '$.resistance_ohm', 1e308)",
		"UPDATE shops SET prices = json_set('{}', '$.hour', 1e308, '$.run_per_microfarad', 1e308, '$.years', 1e-300)",
		"UPDATE motors SET choices = json_set(choices, '$.run_microfarad', 9e4, '$.load_share', 1e9)",
	} {
		s := open(t, nil)
		_, err := s.store.DB.Exec(change)
		require.NoError(t, err)
		for _, path := range []string{
			"/api/shops/tarn-hollow", "/api/machines/tarn-shaper", "/api/motors/tarn-shaper-m1/suit",
			"/api/motors/tarn-shaper-m1/ways/start-run-capacitor", "/api/motors/tarn-shaper-m1/ways/rotary",
			"/api/motors/tarn-shaper-m1/sheet", "/api/motors/tarn-shaper-m1/settings", "/api/export",
		} {
			a := s.ask("GET", path, "")
			assert.True(t, json.Valid(a.Body.Bytes()), "%s after %s: %.200s", path, change, a.Body.String())
			assert.Equal(t, a.Code != 200, a.Header().Get("Content-Type") == "application/problem+json", path)
		}
		a := s.ask("POST", "/api/motors/tarn-shaper-m1/routes", "{}")
		assert.True(t, json.Valid(a.Body.Bytes()), change)
	}
}

// What a library says of a value is said in our words, and little of the value with it.
func TestFaultsAreWordedPlainly(t *testing.T) {
	s := open(t, nil)
	for _, c := range [][3]string{
		{"POST", "/api/shops", `{"name":`}, {"POST", "/api/shops", `nul`}, {"POST", "/api/plates", `{"text": 5}`},
		{"GET", "/api/motors/tarn-shaper-m1/ways/start-run-capacitor/scope?from=abc", ""},
		{"GET", "/api/motors/tarn-shaper-m1/ways/start-run-capacitor/scope?buckets=1e9", ""},
		{"PUT", "/api/motors/tarn-shaper-m1/way", `{"version": 1, "value": {"` + strings.Repeat("k", 500) + `": 1}}`},
	} {
		a := s.ask(c[0], c[1], c[2])
		assert.Contains(t, []int{400, 422}, a.Code, c)
		for _, word := range []string{"json:", "invalid character", "float", "struct", strings.Repeat("k", 90)} {
			assert.NotContains(t, a.Body.String(), word, c)
		}
	}
}

// A body in pieces that are none, or one that breaks off, is told apart from a fault of ours.
func TestATornBody(t *testing.T) {
	s := open(t, nil)
	live := httptest.NewServer(s.handler)
	t.Cleanup(live.Close)
	for _, path := range []string{"/api/shops", "/api/import", "/api/motors/tarn-shaper-m1/photos"} {
		line, err := net.Dial("tcp", live.Listener.Addr().String())
		require.NoError(t, err)
		_, err = fmt.Fprintf(line, "POST %s HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\n"+
			"Transfer-Encoding: chunked\r\n\r\nZZZ\r\nabc\r\n0\r\n\r\n", path, live.Listener.Addr())
		require.NoError(t, err)
		answer, err := http.ReadResponse(bufio.NewReader(line), nil)
		require.NoError(t, err)
		assert.Equal(t, http.StatusBadRequest, answer.StatusCode, path)
		require.NoError(t, errors.Join(answer.Body.Close(), line.Close()))
	}
}
