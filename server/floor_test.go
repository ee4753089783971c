package server_test

import (
	"context"
	"math"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/circuit"
	"brackmoor/core/floor"
	tree "brackmoor/core/site"
	"brackmoor/server"
	"brackmoor/store"
)

const tarn = "/api/shops/tarn-hollow"

func (s *site) floor() (page server.FloorPage) {
	s.Helper()
	s.ask("GET", tarn+"/floor", "").json(&page)
	return page
}

// What is switched on is left where it was put, without a version and without a line in the
// daybook; what is tried is not.
func TestAFloorIsLeftAsItWas(t *testing.T) {
	s := open(t, nil)
	first := s.floor()
	assert.True(t, first.Picture.Permitted)
	assert.NotEmpty(t, first.Layout.Wires)
	assert.Len(t, first.Motors, 7)
	state := tree.State{
		On: []string{"tarn-converter", "tarn-shaper"}, Shares: map[string]float64{"tarn-shaper-m1": 0.5},
		Thrown: map[string]string{"tarn-kiln-feed": "b"},
	}
	var tried, left floor.Picture
	s.ask("POST", tarn+"/floor", text(t, state)).json(&tried)
	assert.Equal(t, first.State, s.floor().State)
	s.ask("PUT", tarn+"/floor/state", text(t, state)).json(&left)
	assert.Equal(t, tried, left)
	after := s.floor()
	assert.Equal(t, state, after.State)
	assert.Equal(t, tried, after.Picture)
	assert.Equal(t, first.Shop.Version, after.Shop.Version)
	for _, bad := range []string{
		`{"shares": {"tarn-shaper-m1": 7}}`, `{"thrown": {"tarn-kiln-feed": "c"}}`, `{"on": "all"}`, `{"colour": 1}`,
	} {
		s.ask("PUT", tarn+"/floor/state", bad).problem(http.StatusUnprocessableEntity)
	}
	s.ask("PUT", "/api/shops/none/floor/state", "{}").problem(http.StatusNotFound)
	s.ask("GET", "/api/shops/none/floor", "").problem(http.StatusNotFound)
	// It is in the file, and comes back with it.
	assert.Contains(t, s.ask("GET", "/api/export?shop=tarn-hollow", "").Body.String(), `"tarn-kiln-feed": "b"`)
}

// How a shop is fed is changed at its version, checked as a file is, and solved anew.
func TestASiteIsChangedAtItsVersion(t *testing.T) {
	s := open(t, nil)
	page := s.floor()
	change := page.Site
	change.Circuits = append(change.Circuits, tree.Circuit{ID: "new", Name: "New", BreakerAmps: 20})
	change.Hung[0].On = "new"
	body := func(version int, site tree.Site) string {
		return text(t, server.SiteChange{Version: version, Site: site})
	}
	var changed server.FloorPage
	s.ask("PUT", tarn+"/site", body(page.Shop.Version, change)).json(&changed)
	assert.Equal(t, page.Shop.Version+1, changed.Shop.Version)
	assert.Len(t, changed.Layout.Boxes, len(page.Layout.Boxes)+1)
	assert.Less(t, changed.Picture.Converters[0].IdlerPercent, 100.0)
	s.ask("PUT", tarn+"/site", body(page.Shop.Version, change)).problem(http.StatusConflict)
	change.Circuits[5].From = "tarn-kiln-feed"
	p := s.ask("PUT", tarn+"/site", body(changed.Shop.Version, change)).problem(http.StatusUnprocessableEntity)
	assert.Contains(t, text(t, p), "body.site.circuits[5].from")
	change.Circuits[5].From, change.Circuits[5].BreakerAmps = "", -1
	s.ask("PUT", tarn+"/site", body(changed.Shop.Version, change)).problem(http.StatusUnprocessableEntity)
	// An idler that is gone is a usual one.
	require.Equal(t, http.StatusOK, s.ask("DELETE", "/api/machines/tarn-idler", "").Code)
	gone := s.floor()
	assert.Equal(t, "tarn-idler", gone.Site.Converters[0].Idler, "it is there again once it is brought back")
	assert.True(t, gone.Picture.Converters[0].On)
	assert.Contains(t, gone.Picture.Converters[0].Working, "a usual motor")
	found, err := store.Check(context.Background(), s.path, noon)
	require.NoError(t, err)
	assert.Empty(t, found)
}

func TestWhatIsAskedOfAFloor(t *testing.T) {
	s := open(t, nil)
	state := tree.State{On: []string{"tarn-converter", "tarn-hobber", "tarn-shaper"}}
	var st floor.Start
	s.ask("POST", tarn+"/starts", text(t, server.Starting{State: state, ID: "tarn-shaper"})).json(&st)
	assert.NotNil(t, st.Seconds)
	assert.NotEmpty(t, st.Points)
	var together floor.Together
	s.ask("POST", tarn+"/together", "{}").json(&together)
	assert.True(t, together.Exact)
	var cards []floor.Card
	s.ask("GET", tarn+"/floor/cards", "").json(&cards)
	assert.Len(t, cards, 1+6+1+6)
	var day floor.Day
	s.ask("GET", tarn+"/day", "").json(&day)
	assert.NotEmpty(t, day.Begin)
	var choice floor.Choice
	s.ask("GET", tarn+"/converters/tarn-converter", "").json(&choice)
	assert.NotEmpty(t, choice.Rungs)
	s.ask("GET", tarn+"/converters/none", "").problem(http.StatusNotFound)
	svg := s.ask("GET", tarn+"/floor.svg", "")
	assert.Equal(t, "image/svg+xml", svg.Header().Get("Content-Type"))
	assert.Contains(t, svg.Body.String(), "Gear hobber")
}

// A table is looked at, then taken whole; one with a fault changes nothing.
func TestTablesAreTakenWhole(t *testing.T) {
	s := open(t, nil)
	csv := func(path, body string) answer { return s.ask("POST", path, body, "Content-Type", "text/csv") }
	for _, name := range []string{"machine", "circuit", "load", "part"} {
		got := s.ask("GET", tarn+"/tables/"+name, "")
		require.Equal(t, http.StatusOK, got.Code)
		var report server.TableReport
		csv(tarn+"/tables", got.Body.String()).json(&report)
		for _, l := range report.Lines {
			assert.Equal(t, "same", l.Status)
		}
	}
	version := s.floor().Shop.Version
	const table = "load,name,kind,amps,on\n,=cmd|' /C calc'!A0,welder,25,tarn-bench-feed\n"
	var report server.TableReport
	csv(tarn+"/tables?preview=true", table).json(&report)
	assert.False(t, report.Done)
	assert.Len(t, s.floor().Site.Loads, 2)
	csv(tarn+"/tables", table).json(&report)
	assert.True(t, report.Done)
	page := s.floor()
	assert.Len(t, page.Site.Loads, 3)
	assert.Equal(t, version+1, page.Shop.Version)
	assert.Contains(t, s.ask("GET", tarn+"/tables/load", "").Body.String(), "'=cmd")
	const machines = "machine,name,output,volts,amps,rpm,on\n,Lathe,2 hp,230,6,1740,tarn-converter\n"
	csv(tarn+"/tables", machines).json(&report)
	assert.Len(t, s.floor().Motors, 8)
	for _, bad := range []string{
		"", "load,amps\nx,much\n", "load,name,kind,amps,on\n,Two,welder,9,nowhere\n",
		"load,name,kind,amps\n,Two,spaceship,9\n",
		"circuit,name,breaker_amps,size\n,C,20,6 feet\n", strings.Repeat("x", 9<<20),
	} {
		got := csv(tarn+"/tables", bad)
		assert.GreaterOrEqual(t, got.Code, 400, "%.40s", bad)
		assert.Less(t, got.Code, 500)
		assert.Len(t, s.floor().Site.Loads, 3)
	}
	s.ask("GET", tarn+"/tables/friends", "").problem(http.StatusNotFound)
	csv("/api/shops/none/tables", table).problem(http.StatusNotFound)
}

// A pasted plate is a machine; what is none is said to be none.
func TestAPlateIsTaken(t *testing.T) {
	s := open(t, nil)
	var made struct {
		ID     string
		Motors []struct {
			Plate struct{ Output, Volts string }
		}
	}
	s.ask("POST", tarn+"/plates", `{"text": "3 HP 230/460 V 9.0/4.5 A 1745 RPM 60 Hz 3 PH"}`).json(&made)
	assert.Equal(t, "230/460", made.Motors[0].Plate.Volts)
	assert.Len(t, s.floor().Motors, 8)
	for _, none := range []string{"", "hello there", "1 HP 115/230 V 1 PH 1725 RPM"} {
		s.ask("POST", tarn+"/plates", text(t, map[string]string{"text": none})).problem(http.StatusUnprocessableEntity)
	}
	s.ask("POST", "/api/shops/none/plates", `{"text": "3 HP 230/460 V"}`).problem(http.StatusNotFound)
}

// A supply known by its transformer has its ohms; what does not hold together is said at its field.
func TestASupplyByItsTransformer(t *testing.T) {
	s := open(t, nil)
	head := s.shop("tarn-hollow")
	su := head.Supply
	su.Class, su.KVA, su.ImpedancePercent, su.WireSize, su.WireMetre = "transformer", 25, 2, "2 AWG", 20
	body := func() string {
		return text(t, map[string]any{"name": head.Name, "supply": su, "version": head.Version})
	}
	var changed server.ShopHead
	s.ask("PUT", tarn, body()).json(&changed)
	assert.InDelta(t, 0.02*240*240/25000, math.Hypot(changed.Supply.ResistanceOhm, changed.Supply.ReactanceOhm), 0.03)
	su.KVA, su.WireSize = 0, "2 mm²"
	p := text(t, s.ask("PUT", tarn, body()).problem(http.StatusUnprocessableEntity))
	assert.Contains(t, p, "body.supply.kva")
	assert.Contains(t, p, "body.supply.wire_size")
	var choices server.Choices
	s.ask("GET", "/api/choices", "").json(&choices)
	assert.NotEmpty(t, choices.Earthings)
	assert.Contains(t, choices.Wires[1].Sizes, "2 AWG")
}

// A motor's circuit is made by the way that is taken and what was chosen of it, and refused for a plate that
// is not understood.
func TestWiringOfAMotor(t *testing.T) {
	s := open(t, nil)
	var w server.Wiring
	s.ask("GET", "/api/motors/tarn-shaper-m1/wiring", "").json(&w)
	assert.NotEmpty(t, w.Choices)
	assert.NotEmpty(t, w.Circuit.Wires)
	assert.True(t, w.Check.Whole)
	file := s.ask("GET", "/api/motors/tarn-shaper-m1/circuit.json", "")
	own, problems := circuit.Read(file.Body.Bytes())
	require.Empty(t, problems)
	assert.Equal(t, w.Circuit, own)
	s.ask("GET", "/api/motors/none/wiring", "").problem(http.StatusNotFound)
	s.ask("GET", "/api/motors/ferry-mortiser-m1/wiring", "").problem(http.StatusConflict)
	s.ask("GET", "/api/motors/ferry-mortiser-m1/circuit.json", "").problem(http.StatusConflict)
}
