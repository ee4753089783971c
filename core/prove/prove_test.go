package prove_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/prove"
	"brackmoor/core/shop"
	"brackmoor/core/stock"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// asked is a machine on a way.
func asked(t testing.TB, way string, stores ...stock.Item) *feed.Question {
	t.Helper()
	su := supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}
	p := plate.Typed{Output: "2 hp", Volts: "230/460", Amps: "5.8/2.9", RPM: "1745", Hertz: "60"}
	m := shop.Motor{Plate: p, Driven: shop.Driven{Load: "spindle"}, Fed: shop.Fed{Way: feed.Choice{Route: way}}}
	st := study.Of(su, m, motor.FitCircuit)
	require.True(t, st.Reading.Sound)
	return st.Ask(shop.Shop{Supply: su, Own: shop.Own{Stores: stores}}, shop.Machine{Motors: []shop.Motor{m}})
}

// read is what is read on a way's own model in a state, with so many more microfarads to a, and the idler as it is.
func read(t testing.TB, q *feed.Question, id, state string, share, more float64) prove.Reading {
	t.Helper()
	hung, err := q.Choice.Taken().Hang(q, "machine", math.Max(share, 0))
	require.NoError(t, err)
	c := network.Case{Supply: q.Supply, Motors: hung.Motors, Capacitors: hung.Capacitors}
	c.Supply.Phases = 1
	if state == prove.Alone {
		c.Motors = hung.Motors[1:]
	}
	r := prove.Reading{ID: id, At: "2026-03-01T08:00:0" + id + "Z", Hand: "B.", State: state}
	for i := range c.Capacitors {
		if c.Capacitors[i].Between == network.AC {
			c.Capacitors[i].Microfarad += more
			r.AC = c.Capacitors[i].Microfarad
		} else {
			r.BC = c.Capacitors[i].Microfarad
		}
	}
	s, err := network.Solve(c)
	require.NoError(t, err)
	see := func(place string, value float64) {
		r.Figures = append(r.Figures, prove.Figure{Place: place, Value: value})
	}
	see("volts.ab", s.Volts.AB)
	see("volts.bc", s.Volts.BC)
	see("volts.ca", s.Volts.CA)
	see("amps.supply", s.Supply.Amps)
	for _, m := range s.Motors {
		of := "amps.idler."
		if m.ID == "machine" {
			of = "amps.machine."
		}
		see(of+"a", m.LineAmps.A)
		see(of+"b", m.LineAmps.B)
		see(of+"c", m.LineAmps.C)
	}
	return r
}

// row is a page's row of a state.
func row(t testing.TB, p prove.Page, state string) prove.Row {
	t.Helper()
	for _, r := range p.Rows {
		if r.State == state {
			return r
		}
	}
	require.Fail(t, "no state "+state)
	return prove.Row{}
}

// On every way the page stands with nothing read; what the way's own model reads is good, and proves it.
func TestEveryWay(t *testing.T) {
	for _, w := range feed.All() {
		q := asked(t, w.Info().Name)
		page, err := prove.Of(q, nil)
		require.NoError(t, err, w.Info().Name)
		assert.Equal(t, "not yet", page.Headline[0].Value)
		assert.Equal(t, w.Info().Title, page.Way)
		for _, r := range page.Rows {
			assert.Empty(t, r.By)
			assert.Equal(t, "note", r.Mark, "%s %s", w.Info().Name, r.State)
		}
		if len(page.Banks) == 0 {
			continue
		}
		var list []prove.Reading
		for i, s := range page.States {
			if s.Name == prove.Standing {
				continue
			}
			share := -1.0
			if s.Share != nil {
				share = *s.Share
			}
			list = append(list, read(t, q, fmt.Sprint(i), s.Name, share, 0))
		}
		page, err = prove.Of(q, list)
		require.NoError(t, err)
		for _, r := range page.Rows {
			for k, c := range r.Cells {
				assert.False(t, c.Out, "%s %s %d: %+v", w.Info().Name, r.State, k, c)
				if c.Read != nil && c.Low != nil {
					assert.Less(t, *c.Low, *c.High)
				}
			}
		}
		assert.NotContains(t, page.Headline[3].Remark, "would settle", w.Info().Name)
		assert.Contains(t, page.Learned[0].Remark, "by its plate", w.Info().Name)
	}
}

// A figure that was written down wrongly is told, and a correction takes its place.
func TestMisreadAndCorrected(t *testing.T) {
	q := asked(t, "rotary")
	good := read(t, q, "1", prove.Alone, -1, 0)
	bad := good
	bad.Figures = append([]prove.Figure{}, good.Figures...)
	bad.Figures[1].Value /= 10
	idle := read(t, q, "2", prove.Idle, 0, 0)
	page, err := prove.Of(q, []prove.Reading{bad, idle})
	require.NoError(t, err)
	cell := row(t, page, prove.Alone).Cells[1]
	assert.True(t, cell.Out)
	assert.Contains(t, cell.Wrong, "slip of the point")
	assert.Equal(t, "caution", row(t, page, prove.Alone).Mark)
	good.ID, good.Corrects, good.At = "3", "1", "2026-03-01T09:00:00Z"
	page, err = prove.Of(q, []prove.Reading{bad, idle, good})
	require.NoError(t, err)
	assert.False(t, row(t, page, prove.Alone).Cells[1].Out)
	assert.Len(t, page.Readings, 3, "what was written first stays to be seen")
}

// With far too little in circuit the next change puts cans in, those of the stores by what they measure.
func TestNextChange(t *testing.T) {
	q := asked(t, "rotary", stock.Item{ID: "a", Kind: stock.Run, Count: 6, Microfarad: 20, Measured: 19.4, Volts: 440})
	bare := q.With(func(q *feed.Question) {
		few := 5.0
		q.Choice.BalanceAC, q.Choice.BalanceBC = &few, &few
	})
	page, err := prove.Of(bare, []prove.Reading{read(t, bare, "1", prove.Alone, -1, 0),
		read(t, bare, "2", prove.Part, bare.Share(), 0)})
	require.NoError(t, err)
	require.NotNil(t, page.Next)
	assert.Contains(t, page.Next.Says, "19.4 µF")
	assert.Contains(t, page.Next.Says, "Put")
	assert.Contains(t, page.Next.Reason, "stores")
	assert.NotEmpty(t, page.Next.Then)
	assert.Greater(t, page.Next.AC+page.Next.BC, 20.0)
}

// What was read on another source stands beside what was read on the way, and does not count for it.
func TestTwoSources(t *testing.T) {
	q := asked(t, "rotary")
	here, there := read(t, q, "1", prove.Part, q.Share(), 0), read(t, q, "2", prove.Part, q.Share(), 30)
	there.Source, there.At = "Tin box", "2026-03-02T08:00:00Z"
	lone := read(t, q, "3", prove.Idle, 0, 0)
	lone.Source = "Tin box"
	page, err := prove.Of(q, []prove.Reading{here, there, lone})
	require.NoError(t, err)
	require.Len(t, page.Sources, 1)
	assert.Equal(t, "Beside Tin box", page.Sources[0].Title)
	assert.Empty(t, row(t, page, prove.Idle).By, "it was not read here")
	titles := map[string][]string{}
	for _, r := range page.Sources[0].Rows {
		require.Len(t, r, len(page.Sources[0].Head))
		titles[r[0]+" "+r[1]] = r
	}
	apart := titles[page.States[3].Title+" legs apart"]
	require.NotNil(t, apart, "%v", titles)
	assert.NotEqual(t, apart[2], apart[3])
	assert.NotEmpty(t, apart[4])
	assert.Equal(t, "–", titles["Machine idle legs apart"][2])
	assert.Contains(t, titles, page.States[3].Title+" L2–made")
}

// What a clamp reads of a delta's lines gives its windings: those of the network itself.
func TestWindingsByLines(t *testing.T) {
	q := asked(t, "rotary")
	rapid.Check(t, func(t *rapid.T) {
		m := q.NetworkMotor("m")
		m.Connection = rapid.SampledFrom([]string{"wye", network.Delta}).Draw(t, "connection")
		m.Load = &network.Load{Kind: "power", Watts: rapid.Float64Range(0, 1).Draw(t, "share") * q.Watts()}
		s, err := network.Solve(network.Case{
			Supply: network.Supply{Volts: 240, Hertz: 60, ResistanceOhm: 0.1}, Motors: []network.Motor{m},
			Capacitors: []network.Capacitor{{ID: "x", Between: network.AC,
				Microfarad: rapid.Float64Range(20, 60).Draw(t, "microfarad")}},
		})
		if err != nil || s.Motors[0].State != network.Running {
			return
		}
		got, ok := network.WindingAmps(m.Connection == network.Delta, s.Motors[0].LineAmps)
		if !ok {
			t.Fatalf("its own lines close no triangle: %+v", s.Motors[0].LineAmps)
		}
		for i := range got {
			if math.Abs(got[i]-s.Motors[0].WindingAmps[i]) > 1e-6 {
				t.Fatalf("%v, and %v are its own", got, s.Motors[0].WindingAmps)
			}
		}
	})
	_, ok := network.WindingAmps(true, network.Legs{A: 10, B: 2, C: 3})
	assert.False(t, ok)
}
