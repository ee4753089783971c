package site_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// yard is a site with one of everything.
func yard() site.Site {
	return site.Site{
		Spaces: 12,
		Circuits: []site.Circuit{
			{ID: "barn", Name: "Barn", BreakerAmps: 60, Laid: supply.Laid{Size: "4 AWG"}, Metre: 20, Panel: true},
			{ID: "bench", Name: "Bench", From: "barn", BreakerAmps: 20, ChangeOver: true},
		},
		Converters: []site.Converter{{ID: "conv", Name: "Converter", On: "bench", Side: "a", Idler: "old"}},
		Loads:      []site.Load{{ID: "kiln", Name: "Kiln", On: "bench", Side: "b", Kind: "heater", Amps: 12}},
		Hung:       []site.Hung{{ID: "lathe", On: "conv"}, {ID: "lathe-m2", On: "bench", Side: "a"}},
	}
}

var american = supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60}

var known = map[string]string{"lathe": "a machine", "lathe-m2": "a motor", "old": "a machine"}

func TestASiteIsChecked(t *testing.T) {
	good := yard()
	require.Empty(t, good.Check(american, known))
	for _, c := range []struct {
		spoil func(*site.Site)
		path  string
	}{
		{func(s *site.Site) { s.Circuits[0].ID = "lathe" }, "circuits[0].id"},
		{func(s *site.Site) { s.Circuits[0].Size = "4 mm²" }, "circuits[0].size"},
		{func(s *site.Site) { s.Circuits[0].Material, s.Circuits[0].Size = "aluminium", "14 AWG" }, "circuits[0].size"},
		{func(s *site.Site) { s.Circuits[0].Device = "gG" }, "circuits[0].device"},
		{func(s *site.Site) { s.Circuits[1].Outlet = "BS 1363" }, "circuits[1].outlet"},
		{func(s *site.Site) { s.Circuits[1].From = "nowhere" }, "circuits[1].from"},
		{func(s *site.Site) { s.Circuits[0].Panel = false }, "circuits[1].from"},
		{func(s *site.Site) { s.Circuits[0].From = "barn" }, "circuits[0].from"},
		{func(s *site.Site) { s.Circuits[0].ChangeOver = true }, "circuits[0].change_over"},
		{func(s *site.Site) { s.Circuits[1].ChangeOver = false }, "converters[0].side"},
		{func(s *site.Site) { s.Converters[0].On = "barn" }, "converters[0].on"},
		{func(s *site.Site) { s.Converters[0].On = "conv" }, "converters[0].on"},
		{func(s *site.Site) { s.Converters[0].Idler = "" }, "converters[0].idler_watts"},
		{func(s *site.Site) {
			s.Converters = append(s.Converters, site.Converter{ID: "two", Name: "Two", Idler: "old"})
		}, "converters[1].idler"},
		{func(s *site.Site) { s.Loads[0].Between = "bc" }, "loads[0].between"},
		{func(s *site.Site) { s.Loads[0].On = "barn" }, "loads[0].on"},
		{func(s *site.Site) {
			s.Loads[0].On, s.Loads[0].Side, s.Loads[0].Between = "conv", "", "an"
		}, "loads[0].between"},
		{func(s *site.Site) { s.Converters[0].PonyRPM = 3600 }, "converters[0].pony_rpm"},
		{func(s *site.Site) { s.Hung[1].ID = "lathe" }, "hung[1].id"},
		{func(s *site.Site) { s.Hung[0].On = "barn" }, "hung[0].on"},
		{func(s *site.Site) { s.Hung[0].Device = "slow" }, "hung[0].device"},
	} {
		bad := yard()
		c.spoil(&bad)
		problems := bad.Check(american, known)
		paths := []string{}
		for _, p := range problems {
			paths = append(paths, p.Path)
		}
		assert.Contains(t, paths, c.path)
	}
}

func TestAStateIsChecked(t *testing.T) {
	assert.Empty(t, site.State{Shares: map[string]float64{"m": 1.2}, Thrown: map[string]string{"bench": "b"}}.Check())
	assert.Len(t, site.State{Shares: map[string]float64{"m": -0.1, "n": 1.51}}.Check(), 2)
	assert.Len(t, site.State{Thrown: map[string]string{"bench": "c"}}.Check(), 1)
	assert.Equal(t, "a", site.State{}.Side("bench"))
}

// What hangs on what follows its ids wherever they go, and what is gone is let go of.
func TestRenamedAndKept(t *testing.T) {
	before := yard()
	to := before.Renamed(func(id string) string { return "new-" + id })
	assert.Equal(t, yard(), before, "the first is as it was")
	text, err := json.Marshal(to)
	require.NoError(t, err)
	for _, id := range []string{"barn", "bench", "conv", "kiln", "lathe", "lathe-m2", "old"} {
		assert.NotContains(t, string(text), `"`+id+`"`)
	}
	back := to.Renamed(func(id string) string { return strings.TrimPrefix(id, "new-") })
	assert.Equal(t, before, back)
	state := site.State{
		On:     []string{"lathe"},
		Shares: map[string]float64{"m": 0.5},
		Thrown: map[string]string{"bench": "b"},
	}
	assert.Equal(t, state, state.Renamed(func(id string) string { return "x" + id }).
		Renamed(func(id string) string { return id[1:] }))

	kept := before.Kept(func(id string) bool { return id == "lathe" })
	assert.Equal(t, []site.Hung{{ID: "lathe", On: "conv"}}, kept.Hung)
	assert.Empty(t, kept.Converters[0].Idler)
	assert.Positive(t, kept.Converters[0].IdlerWatts, "a converter without its idler has a usual one")
	assert.Equal(t, "conv", before.Place("lathe", "lathe-m1").On, "a motor hangs where its machine does")
	assert.Equal(t, "bench", before.Place("lathe", "lathe-m2").On, "or in a place of its own")
}

// A chain of circuits is never taken for endless, whatever feeds what.
func TestInnerEnds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "circuits")
		var s site.Site
		for i := range n {
			from := rapid.IntRange(-1, n-1).Draw(t, "from")
			c := site.Circuit{ID: fmt.Sprint("c", i), Panel: true}
			if from >= 0 {
				c.From = fmt.Sprint("c", from)
			}
			s.Circuits = append(s.Circuits, c)
		}
		for i := range s.Circuits {
			assert.LessOrEqual(t, s.Inner(&s.Circuits[i]), n+1)
		}
	})
}

// Every field of a form is one of what it is about, and every choice is taken by its check.
func TestFormsNameWhatThereIs(t *testing.T) {
	for _, su := range []supply.Supply{american, {Kind: "line-neutral", Volts: 230, Hertz: 50}} {
		forms := site.FormsFor(su)
		for _, c := range []struct {
			fields []site.Field
			of     any
		}{
			{forms.Circuit, full(site.Circuit{})}, {forms.Converter, full(site.Converter{})},
			{forms.Machine, full(site.Hung{})}, {forms.Load, full(site.Load{})}, {forms.Service, full(site.Site{})},
		} {
			seen := map[string]bool{}
			for _, f := range c.fields {
				name, _, _ := strings.Cut(f.Name, ".")
				assert.Contains(t, c.of, name)
				assert.NotEmpty(t, f.Title)
				assert.False(t, seen[f.Name], f.Name)
				seen[f.Name] = true
				if f.Kind == "number" {
					assert.Positive(t, f.Per, f.Name)
				}
			}
		}
		for _, f := range forms.Circuit {
			if f.Name != "device" && f.Name != "outlet" && f.Name != "size" {
				continue
			}
			for _, o := range f.Choices {
				s := site.Site{Circuits: []site.Circuit{{ID: "c", Name: "C", BreakerAmps: 20}}}
				switch c := &s.Circuits[0]; f.Name {
				case "device":
					c.Device = o.Value
				case "outlet":
					c.Outlet = o.Value
				case "size":
					c.Size = o.Value
				}
				assert.Empty(t, s.Check(su, nil), "%s %q", f.Name, o.Value)
			}
		}
	}
	places := new(yard()).Places()
	assert.Len(t, places.Circuit, 2, "the service and the barn")
	assert.Len(t, places.Converter, 2, "the service and the bench")
	assert.Len(t, places.Machine, 3)
}

// full are the names of all fields of a thing as JSON, empty ones too.
func full(of any) map[string]bool {
	names := map[string]bool{}
	for _, name := range site.Names(of) {
		names[name] = true
	}
	return names
}
