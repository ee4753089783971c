package floor_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/floor"
	"brackmoor/core/shop"
	"brackmoor/core/site"
	"brackmoor/core/supply"
)

// on is a state with some things on.
func on(ids ...string) site.State { return site.State{On: ids} }

// Each rule speaks where it should, and not in the shop as it was left.
func TestRulesOfAState(t *testing.T) {
	for _, c := range []struct {
		rule, where, shop string
		change            func(*shop.Shop)
		s                 site.State
	}{
		{"floor.main", "main", "tarn-hollow", func(s *shop.Shop) { s.Supply.MainAmps = 10 }, on("tarn-kiln")},
		{"floor.breaker", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) { s.Site.Circuits[4].BreakerAmps = 20 },
			on("tarn-kiln")},
		{"floor.conductor", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) { s.Site.Circuits[4].Size = "14 AWG" },
			on("tarn-kiln")},
		{"floor.continuous", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) { s.Site.Loads[0].Amps = 28 },
			on("tarn-kiln")},
		{"floor.drop", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) { s.Site.Circuits[4].Metre = 70 },
			on("tarn-kiln")},
		{"floor.low-volts", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) { s.Site.Circuits[4].Metre = 180 },
			on("tarn-kiln")},
		{"floor.panel-full", "tarn-barn", "tarn-hollow", func(s *shop.Shop) { s.Site.Circuits[0].Spaces = 5 }, on()},
		{"floor.panel-full", "main", "tarn-hollow", func(s *shop.Shop) { s.Site.Spaces = 3 }, on()},
		{"floor.idler", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].BalanceAC, s.Site.Converters[0].BalanceBC = 300, 300
		}, on("tarn-converter")},
		{"floor.idler-warm", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].BalanceAC, s.Site.Converters[0].BalanceBC = 145, 95
		}, on("tarn-converter")},
		{"floor.made-leg", "tarn-converter", "tarn-hollow", func(s *shop.Shop) { s.Site.Converters[0].BalanceAC = 220 },
			on("tarn-converter")},
		{"floor.made-leg-load", "tarn-lights", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Loads[1].On, s.Site.Loads[1].Between = "tarn-converter", "bc"
		}, on("tarn-converter", "tarn-lights")},
		{"floor.label", "al-converter", "alder-loft", func(s *shop.Shop) {
			s.Site.Converters[0].Label.MotorWatts = 3000
		},
			on("al-converter", "al-saw")},
		{"floor.label", "al-converter", "alder-loft", func(s *shop.Shop) {
			s.Site.Converters[0].Label.OutputWatts = 7000
		},
			on("al-converter", "al-saw", "al-moulder")},
		{"floor.label", "al-converter", "alder-loft", func(s *shop.Shop) { s.Site.Converters[0].Label.InputAmps = 20 },
			on("al-converter", "al-saw")},
		{"floor.label", "al-converter", "alder-loft", func(s *shop.Shop) { s.Site.Converters[0].Label.OutputAmps = 12 },
			on("al-converter", "al-saw")},
		{"floor.label", "al-converter", "alder-loft", func(s *shop.Shop) { s.Site.Converters[0].Label.OutputKVA = 4 },
			on("al-converter", "al-saw")},
		{"floor.label", "tarn-hobber-m1", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].Label.FromAmps, s.Site.Converters[0].Label.ToAmps = 8, 12
		}, on("tarn-converter", "tarn-hobber")},
		{"floor.load-before-converter", "tarn-hobber-m1", "tarn-hollow", nil, on("tarn-hobber")},
		{"floor.change-over", "tarn-hacksaw-m1", "tarn-hollow", nil, on("tarn-hacksaw")},
		{"floor.change-over", "tarn-kiln", "tarn-hollow", nil,
			site.State{On: []string{"tarn-kiln"}, Thrown: map[string]string{"tarn-kiln-feed": "b"}}},
		{"floor.change-over", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].On, s.Site.Converters[0].Side = "tarn-kiln-feed", "b"
		}, on("tarn-converter")},
		{"floor.winding", "tarn-extractor-m1", "tarn-hollow", nil,
			on("tarn-converter", "tarn-extractor", "tarn-shaper")},
		{"floor.overload", "tarn-hobber-m1", "tarn-hollow", func(s *shop.Shop) {
			s.Machines[0].Motors[0].Shaft.OnMinutes, s.Machines[0].Motors[0].Shaft.OffMinutes = "2", "18"
		}, site.State{
			On: []string{"tarn-converter", "tarn-hobber"}, Shares: map[string]float64{"tarn-hobber-m1": 1.3},
		}},
		{"floor.past-plate", "tarn-hobber-m1", "tarn-hollow", nil, site.State{
			On: []string{"tarn-converter", "tarn-hobber"}, Shares: map[string]float64{"tarn-hobber-m1": 0.95},
		}},
		{"floor.stalls", "tarn-grinder-m1", "tarn-hollow", func(s *shop.Shop) {
			s.Machines[2].Motors[0].Way.Route = "static"
		}, site.State{On: []string{"tarn-grinder"}, Shares: map[string]float64{"tarn-grinder-m1": 1.5}}},
		{"floor.unread", "ferry-mortiser-m1", "ferry-stairs", nil, on("ferry-mortiser")},
		{"floor.unread", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Machines[6].Motors[0].Plate.Output = "?"
		}, on("tarn-converter")},
		{"floor.generator", "main", "tarn-hollow", func(s *shop.Shop) {
			s.Supply.Kind, s.Supply.Class, s.Supply.KVA = supply.Generator, supply.ByTransformer, 4
		}, on("tarn-kiln")},
	} {
		sh := shopOf(t, c.shop)
		calm, err := floor.Of(sh, fit).Solve(sh.State)
		require.NoError(t, err)
		assert.True(t, calm.Permitted, "%s as left: %v", c.shop, calm.Broken)
		if c.change != nil {
			c.change(&sh)
		}
		p, err := floor.Of(sh, fit).Solve(c.s)
		require.NoError(t, err, c.rule)
		said(t, p.Broken, c.rule, c.where)
	}
}

// said asserts that a rule speaks somewhere.
func said(t *testing.T, broken []floor.Broken, rule, where string) {
	t.Helper()
	i := slices.IndexFunc(broken, func(b floor.Broken) bool { return b.Rule == rule && b.Where == where })
	if assert.GreaterOrEqual(t, i, 0, "%s at %s: %v", rule, where, broken) {
		assert.NotEmpty(t, broken[i].Says)
		assert.NotEmpty(t, broken[i].Do)
	}
}

func TestRulesOfAStart(t *testing.T) {
	for _, c := range []struct {
		rule, where, shop, id string
		change                func(*shop.Shop)
		s                     site.State
	}{
		{"floor.start-hangs", "tarn-shaper-m1", "tarn-hollow", "tarn-shaper", func(s *shop.Shop) {
			s.Machines[1].Motors[0].Load = "compressor-loaded"
			s.Site.Converters[0].Idler, s.Site.Converters[0].IdlerWatts = "", 400
		}, on("tarn-converter", "tarn-shaper")},
		{"floor.start-drops", "tarn-hobber-m1", "tarn-hollow", "tarn-extractor", func(s *shop.Shop) {
			s.Site.Converters[0].Idler, s.Site.Converters[0].IdlerWatts = "", 700
			s.Site.Converters[0].BalanceAC, s.Site.Converters[0].BalanceBC = 20, 0
			s.Supply.Class = "long"
		}, site.State{On: []string{"tarn-converter", "tarn-hobber", "tarn-extractor"},
			Shares: map[string]float64{"tarn-hobber-m1": 1.5}}},
		{"floor.start-dip", "tarn-shaper", "tarn-hollow", "tarn-shaper", nil, on("tarn-converter", "tarn-shaper")},
		{"floor.start-breaker", "tarn-converter-feed", "tarn-hollow", "tarn-shaper", func(s *shop.Shop) {
			s.Site.Circuits[1].BreakerAmps = 15
		}, on("tarn-converter", "tarn-shaper")},
		{"floor.load-before-converter", "tarn-shaper", "tarn-hollow", "tarn-shaper", nil, on("tarn-shaper")},
		{"floor.load-before-converter", "tarn-shaper-m1", "tarn-hollow", "tarn-converter", nil, on("tarn-shaper")},
		{"floor.change-over", "tarn-hacksaw", "tarn-hollow", "tarn-hacksaw", nil, on()},
		{"floor.unread", "ferry-mortiser", "ferry-stairs", "ferry-mortiser", nil, on()},
		{"floor.unread", "tarn-converter", "tarn-hollow", "tarn-converter", func(s *shop.Shop) {
			s.Machines[6].Motors[0].Plate.Output = "?"
		}, on()},
		{"floor.unread", "tarn-converter", "tarn-hollow", "tarn-converter", func(s *shop.Shop) {
			s.Site.Converters[0].StartBy = site.ByPony
		}, on()},
		{"floor.start-box", "tarn-converter", "tarn-hollow", "tarn-converter", func(s *shop.Shop) {
			s.Site.Converters[0].StartBy, s.Site.Converters[0].BoxWatts = site.ByBox, 2237
		}, on()},
		{"floor.run-up-apart", "tarn-converter", "tarn-hollow", "tarn-converter", func(s *shop.Shop) {
			s.Site.Converters[0].RunUpSeconds = 9
		}, on()},
		{"floor.follows-spin", "tarn-converter", "tarn-hollow", "tarn-converter", func(s *shop.Shop) {
			c := &s.Site.Converters[0]
			c.StartBy, c.PonyWatts, c.PonyRPM, c.BalanceAC, c.BalanceBC = site.ByPony, 560, 1725, 0, 0
		}, on()},
		{"floor.start-hangs", "tarn-converter", "tarn-hollow", "tarn-converter", func(s *shop.Shop) {
			c := &s.Site.Converters[0] // it does not break the idler's drag loose
			c.StartBy, c.PonyWatts, c.PonyRPM, c.PonyRatio = site.ByPony, 5, 1725, 4
		}, on()},
		{"floor.start-breaker", "main", "tarn-hollow", "tarn-shaper", func(s *shop.Shop) { s.Supply.MainAmps = 12 },
			on("tarn-converter", "tarn-shaper")},
	} {
		sh := shopOf(t, c.shop)
		if c.change != nil {
			c.change(&sh)
		}
		st, err := floor.Of(sh, fit).Start(c.s, c.id)
		require.NoError(t, err, c.rule)
		said(t, st.Broken, c.rule, c.where)
	}
}

// A start of each way comes up in the demo shops, by itself.
func TestEveryWayStarts(t *testing.T) {
	for _, c := range []struct{ shop, id, route string }{
		{"tarn-hollow", "tarn-grinder", "start-run-capacitor"}, {"tarn-hollow", "tarn-grinder", "rotary"},
		{"tarn-hollow", "tarn-grinder", "drive-single-phase"}, {"tarn-hollow", "tarn-grinder", "single-phase-motor"},
		{"tarn-hollow", "tarn-grinder", "static"}, {"tarn-hollow", "tarn-grinder", "dc-bus"},
		{"tarn-hollow", "tarn-grinder", "phase-box"}, {"tarn-hollow", "tarn-grinder", "drive-derated"},
	} {
		sh := shopOf(t, c.shop)
		sh.Machines[2].Motors[0].Way.Route = c.route
		f := floor.Of(sh, fit)
		st, err := f.Start(on(c.id), c.id)
		require.NoError(t, err, c.route)
		assert.True(t, st.Permitted, "%s: %v", c.route, st.Broken)
		assert.Positive(t, st.PeakAmps, c.route)
		p, err := f.Solve(on(c.id))
		require.NoError(t, err)
		m := p.Machines[2].Motors[0]
		assert.True(t, m.Live, c.route)
		assert.Equal(t, "running", m.State, c.route)
		assert.Greater(t, st.PeakAmps, p.Main.Amps, "%s: a start takes more than running", c.route)
	}
	// A converter comes up by the capacitor it has, or by a usual one.
	sh := shopOf(t, "tarn-hollow")
	for _, microfarad := range []float64{500, 0} {
		sh.Site.Converters[0].Start = microfarad
		st, err := floor.Of(sh, fit).Start(on(), "tarn-converter")
		require.NoError(t, err)
		assert.NotNil(t, st.Seconds, "%g µF", microfarad)
	}
}

// What the code says of each thing, whatever is on.
func TestRulesOfTheCode(t *testing.T) {
	for _, c := range []struct {
		rule, card, shop string
		change           func(*shop.Shop)
	}{
		{"floor.code-breaker-small", "ferry-shed", "ferry-stairs", nil},
		{"floor.code-conductor", "tarn-barn", "tarn-hollow", nil},
		{"floor.code-unprotected", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Circuits[4].BreakerAmps = 40
		}},
		{"floor.code-unprotected", "ferry-bench-feed", "ferry-stairs", func(s *shop.Shop) {
			s.Site.Circuits[2].BreakerAmps = 32
		}},
		{"floor.code-unprotected", "qw-mill", "quoin-works", func(s *shop.Shop) { s.Site.Hung[0].BreakerAmps = 40 }},
		{"floor.code-start", "ferry-planer-feed", "ferry-stairs", func(s *shop.Shop) {
			s.Site.Circuits[1].BreakerAmps = 10
		}},
		{"floor.start-loss", "tarn-converter-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Circuits[1].Metre = 150
		}},
		{"floor.code-residual", "ferry-bench-feed", "ferry-stairs", func(s *shop.Shop) {
			s.Site.Circuits[2].Outlet = "309-16-2P+E-6h"
		}},
		{"floor.code-residual", "ms-saw-feed", "marram-shed", func(s *shop.Shop) { s.Site.Circuits[0].Residual = "" }},
		{"floor.code-residual-type", "ms-lathe-feed", "marram-shed", nil},
		{"floor.code-loop", "ferry-winch-feed", "ferry-stairs", func(s *shop.Shop) {
			s.Site.Circuits[3].Metre, s.Site.Circuits[3].Device = 120, "D"
		}},
		{"floor.code-receptacle", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Circuits[4].Outlet = "L15-30R"
		}},
		{"floor.code-receptacle", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Circuits[4].Outlet = "L6-20R"
		}},
		{"floor.code-receptacle", "tarn-kiln-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Circuits[4].Outlet = "5-20R"
		}},
		{"floor.code-receptacle", "tarn-hobber", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Hung[0].Outlet = "L14-20R"
		}},
		{"floor.label", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].Label.BreakerAmps = 40
		}},
		{"floor.label", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].Label.Wire = "2 AWG"
		}},
		{"floor.label-regulation", "tarn-converter", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].Label.Regulation = 2
		}},
		{"floor.code-receptacle", "tarn-lights-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Circuits[5].Outlet = "6-15R"
		}},
		{"floor.code-poles", "tarn-lights-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Hung[3].On = "tarn-lights-feed"
		}},
		{"floor.code-poles", "tarn-lights-feed", "tarn-hollow", func(s *shop.Shop) {
			s.Site.Converters[0].On = "tarn-lights-feed"
		}},
		{"floor.code-overload", "al-planer", "alder-loft", nil},
		{"floor.code-slash", "qw-mill", "quoin-works", nil},
	} {
		sh := shopOf(t, c.shop)
		if c.change != nil {
			c.change(&sh)
		}
		var broken []floor.Broken
		for _, card := range floor.Of(sh, fit).Cards() {
			if card.ID == c.card {
				broken = card.Broken
			}
		}
		rules := []string{}
		for _, b := range broken {
			rules = append(rules, b.Rule)
		}
		assert.Contains(t, rules, c.rule, "%s of %s", c.card, c.shop)
	}
}

// By the printed tables: a converter without a plate is fed by 250 percent of its loads' table amps
// (NEC 455.6(A)(2)), one with a label by 125 percent of that (455.6(A)(1)); the overload and the
// breaker of a motor by 430.32 and 430.52.
func TestCardsByTheCode(t *testing.T) {
	fact := func(sh shop.Shop, card, label string) string {
		for _, c := range floor.Of(sh, fit).Cards() {
			for _, r := range c.Facts {
				if c.ID == card && r.Label == label {
					return r.Value + " | " + r.Remark
				}
			}
		}
		return ""
	}
	sh := shopOf(t, "tarn-hollow")
	// 2, 3 and 3 hp on 230 V: 6.8 + 9.6 + 9.6 A.
	assert.Contains(t, fact(sh, "tarn-converter-feed", "Conductors carry at least"), "65 A | 250 %")
	assert.Contains(t, fact(sh, "tarn-hobber", "Overload"), "5.8 A to 7.25 A")
	assert.Contains(t, fact(sh, "tarn-hobber", "Its breaker"), "at most 20 A")
	assert.Contains(t, fact(sh, "tarn-shaper", "Its breaker"), "at most 25 A")
	assert.Contains(t, fact(sh, "tarn-converter", "Its overload"), "at most 23 A")
	assert.Contains(t, fact(sh, "service", "Free in its panel"), "16 of 20")
	// Its breaker: NEC 455.7(B), 250 percent of 26 A, and the next standard rating.
	for _, c := range []struct {
		amps float64
		bad  bool
	}{{70, false}, {80, true}, {125, true}} {
		sh.Site.Circuits[1].BreakerAmps = c.amps
		bad := false
		for _, card := range floor.Of(sh, fit).Cards() {
			for _, b := range card.Broken {
				bad = bad || card.ID == "tarn-converter-feed" && b.Rule == "floor.code-unprotected"
			}
		}
		assert.Equal(t, c.bad, bad, "%g A", c.amps)
	}
	sh.Site.Circuits[1].BreakerAmps = 50
	sh.Site.Converters[0].Label.InputAmps = 60
	assert.Contains(t, fact(sh, "tarn-converter-feed", "Conductors carry at least"), "75 A | 125 %")
	assert.Contains(
		t,
		fact(shopOf(t, "cold-harbour"), "ch-borer", "Behind a transformer"),
		"240 to 480 V",
		"400 V at 50 Hz is 480 at 60",
	)
	// 230 V over 0.95·U/(5·In): curve B of 16 A opens at once below 2.73 Ω.
	assert.Contains(t, fact(shopOf(t, "ferry-stairs"), "ferry-bench-feed", "Earth-fault loop"), "at most 2.7 Ω")
	// A circuit of one motor and a heater: NEC 430.24, the heater's 125 percent among it.
	sh = shop.Shop{Supply: supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}}
	sh.Site.Circuits = []site.Circuit{{ID: "c", Name: "C", BreakerAmps: 30, Laid: supply.Laid{Size: "10 AWG"}}}
	sh.Site.Loads = []site.Load{
		{ID: "one", On: "c", Kind: "heater", Amps: 10}, {ID: "two", On: "c", Kind: "heater", Amps: 8},
	}
	assert.Contains(t, fact(sh, "c", "Conductors carry at least"), "20.5 A")
}

// Whatever hangs on what, boxes keep apart, and lines cross neither boxes nor one another.
func TestLayoutOfAnyTree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var sh shop.Shop
		sh.Supply = supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}
		panels, ends := []string{""}, []string{""}
		for i := range rapid.IntRange(0, 8).Draw(t, "circuits") {
			c := site.Circuit{
				ID: fmt.Sprint("c", i), Name: "C", BreakerAmps: 20, From: rapid.SampledFrom(panels).Draw(t, "from"),
				Panel: rapid.Bool().Draw(t, "panel"),
			}
			if sh.Site.Circuits = append(sh.Site.Circuits, c); c.Panel {
				panels = append(panels, c.ID)
			} else {
				ends = append(ends, c.ID)
			}
		}
		for i := range rapid.IntRange(0, 3).Draw(t, "converters") {
			c := site.Converter{
				ID:         fmt.Sprint("v", i),
				Name:       "V",
				IdlerWatts: 3000,
				On:         rapid.SampledFrom(ends).Draw(t, "on"),
			}
			sh.Site.Converters = append(sh.Site.Converters, c)
		}
		for _, c := range sh.Site.Converters {
			ends = append(ends, c.ID)
		}
		for i := range rapid.IntRange(0, 20).Draw(t, "machines") {
			id := fmt.Sprint("m", i)
			m := shop.Machine{ID: id, Motors: make([]shop.Motor, rapid.IntRange(1, 3).Draw(t, "motors"))}
			sh.Machines = append(sh.Machines, m)
			sh.Site.Hung = append(sh.Site.Hung, site.Hung{ID: id, On: rapid.SampledFrom(ends).Draw(t, "on")})
		}
		for i := range rapid.IntRange(0, 4).Draw(t, "loads") {
			l := site.Load{ID: fmt.Sprint("l", i), Amps: 1, On: rapid.SampledFrom(ends).Draw(t, "on")}
			sh.Site.Loads = append(sh.Site.Loads, l)
		}
		l := floor.Of(sh, fit).Layout()
		assert.Len(t, l.Boxes, 1+len(sh.Site.Circuits)+len(sh.Site.Converters)+len(sh.Machines)+len(sh.Site.Loads))
		assert.Len(t, l.Wires, len(l.Boxes)-1)
		for i, a := range l.Boxes {
			assert.True(t, a.X >= 0 && a.Y >= 0 && a.X+a.W <= l.Width+1e-9 && a.Y+a.H <= l.Height+1e-9)
			for _, b := range l.Boxes[:i] {
				apart := a.X+a.W <= b.X || b.X+b.W <= a.X || a.Y+a.H <= b.Y || b.Y+b.H <= a.Y
				assert.True(t, apart, "%s lies on %s", a.ID, b.ID)
			}
		}
		type piece struct {
			wire           floor.Wire
			x1, y1, x2, y2 float64
		}
		var pieces []piece
		for _, w := range l.Wires {
			for k := 1; k < len(w.Path); k++ {
				p, q := w.Path[k-1], w.Path[k]
				pieces = append(pieces, piece{w, min(p.X, q.X), min(p.Y, q.Y), max(p.X, q.X), max(p.Y, q.Y)})
			}
		}
		for i, a := range pieces {
			for _, box := range l.Boxes {
				inside := a.x1 < box.X+box.W-1e-9 && a.x2 > box.X+1e-9 && a.y1 < box.Y+box.H-1e-9 && a.y2 > box.Y+1e-9
				assert.False(t, inside, "the line to %s runs through %s", a.wire.To, box.ID)
			}
			for _, b := range pieces[:i] {
				if a.wire.From == b.wire.From {
					continue // they part from one spine
				}
				touch := a.x1 <= b.x2 && b.x1 <= a.x2 && a.y1 <= b.y2 && b.y1 <= a.y2
				assert.False(t, touch, "the lines to %s and %s cross", a.wire.To, b.wire.To)
			}
		}
	})
}

// A feeder's breaker holds a start by itself and opens where a heater hangs on the feeder too.
func TestFeederCarriesWhatRunsBeside(t *testing.T) {
	for _, route := range []string{"start-run-capacitor", "drive-single-phase"} {
		sh := shopOf(t, "tarn-hollow")
		m := &sh.Machines[2].Motors[0]
		m.Way.Route = route
		sh.Site.Circuits = append(
			sh.Site.Circuits,
			site.Circuit{ID: "feeder", Name: "F", BreakerAmps: 600, Panel: true},
		)
		sh.Site.Circuit(sh.Site.Place(sh.Machines[2].ID, m.ID).On).From = "feeder"
		sh.Site.Loads = append(sh.Site.Loads, site.Load{ID: "oven", Name: "O", Kind: "heater", Amps: 40, On: "feeder"})
		alone, err := floor.Of(sh, fit).Start(on(m.ID), m.ID)
		require.NoError(t, err, route)
		sh.Site.Circuit("feeder").BreakerAmps = (alone.PeakAmps + 20) / 5
		for _, c := range []struct {
			s     site.State
			opens bool
		}{{on(m.ID), false}, {on("oven", m.ID), true}} {
			st, err := floor.Of(sh, fit).Start(c.s, m.ID)
			require.NoError(t, err, route)
			opens := slices.ContainsFunc(st.Broken, func(b floor.Broken) bool {
				return b.Rule == "floor.start-breaker" && b.Where == "feeder"
			})
			assert.Equal(t, c.opens, opens, "%s, %v: %v", route, c.s.On, st.Broken)
		}
	}
}
