package study_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/feed"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
	"brackmoor/core/winding"
	"brackmoor/core/wiring"
	"brackmoor/demo"
)

var eu = supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"}

// demoMotor is a motor of the demo shops, by its id, with its shop's supply.
func demoMotor(t *testing.T, id string) (supply.Supply, shop.Motor) {
	t.Helper()
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		text, err := demo.Files.ReadFile(name)
		require.NoError(t, err)
		file, problems := shop.ReadFile(text)
		require.Empty(t, problems)
		for _, m := range file.Shops[0].Machines {
			for _, one := range m.Motors {
				if one.ID == id {
					return file.Shops[0].Supply, one
				}
			}
		}
	}
	t.Fatal("no motor " + id)
	return supply.Supply{}, shop.Motor{}
}

func leads(t *testing.T, id string, edit func(*shop.Motor)) (study.Study, study.LeadsView) {
	t.Helper()
	s, m := demoMotor(t, id)
	if edit != nil {
		edit(&m)
	}
	st := study.Of(s, m, motor.FitCircuit)
	return st, st.Leads(m)
}

// words are all texts of a drawing in their order.
func words(d *wiring.Drawing) string {
	var all []string
	for _, item := range d.Items {
		all = append(all, item.Text)
	}
	return strings.Join(all, " ")
}

func rules(list []rule.Verdict) (ids []string) {
	for _, v := range list {
		ids = append(ids, v.Rule)
	}
	return ids
}

// Joined otherwise, the circuit at the terminals has four times the ohms, and the
// amps are halved; everything that follows is computed with it.
func TestTheCircuitFollowsTheConnection(t *testing.T) {
	low, v := leads(t, "tarn-shaper-m1", nil)
	require.True(t, v.Connectable, "%v", v.Verdicts)
	assert.Equal(t, winding.NineWye, v.Winding)
	assert.InDelta(t, 230, low.Plate.Volts.Value, 1e-9)
	high, w := leads(t, "tarn-shaper-m1", func(m *shop.Motor) { m.Plate.Joined = "460" })
	assert.InDelta(t, 4, high.Machine.Fit.Circuit.R1Ohm/low.Machine.Fit.Circuit.R1Ohm, 0.05)
	assert.InDelta(t, 4, high.Machine.Fit.Circuit.XmOhm/low.Machine.Fit.Circuit.XmOhm, 0.05)
	assert.InDelta(t, 4.5, high.Plate.Amps.Value, 1e-9)
	assert.InDelta(t, 0.25, v.Times, 1e-9)
	require.NotEmpty(t, v.Changes)
	assert.Contains(t, v.Changes[0].Do, "× 2")
	assert.Empty(t, w.Changes, "joined as it was found")
	assert.Contains(t, v.Drawing.Title, "parallel")
	assert.Contains(t, w.Drawing.Title, "series")
	for _, view := range []study.LeadsView{v, w} {
		chosen := 0
		for _, way := range view.Ways {
			if way.Chosen {
				chosen++
			}
		}
		assert.Equal(t, 1, chosen)
	}
}

// A measured resistance is the model's, hot; one that cannot be is said and left out.
func TestMeasuredResistanceFeedsTheModel(t *testing.T) {
	st, v := leads(t, "tarn-shaper-m1", nil)
	// Half of a coil in parallel wye, at 115 °C for class F.
	assert.InDelta(t, v.CoilOhm/2*(235+115)/(235+20), v.StatorOhm, 1e-6)
	assert.InEpsilon(t, v.StatorOhm, st.Machine.Fit.Circuit.R1Ohm, 0.005)
	_, silly := leads(t, "tarn-shaper-m1", func(m *shop.Motor) {
		for i, e := range m.Leads.Readings {
			if e.Text != "open" && e.B != winding.Frame {
				m.Leads.Readings[i].Text = "9.5"
			}
		}
	})
	assert.Zero(t, silly.StatorOhm)
	assert.Contains(t, rules(silly.Verdicts), "leads.resistance-against-plate")
	// Of three leads half of what is read between them, whatever is inside.
	three, w := leads(t, "ferry-planer-m1", nil)
	require.Equal(t, winding.ThreeLead, w.Winding)
	assert.InDelta(t, w.CoilOhm*(235+95)/(235+20), three.Machine.Fit.Circuit.R1Ohm, 0.01)
}

// A star point buried in a 400 V motor can be broken out for 230 V, but only when
// somebody asks for it.
func TestABuriedStarPoint(t *testing.T) {
	st, v := leads(t, "ferry-planer-m1", nil)
	assert.InDelta(t, 400, st.Plate.Volts.Value, 1e-9)
	require.Len(t, v.Ways, 2)
	assert.Equal(t, "break out the star point", v.Ways[1].Needs)
	assert.True(t, v.Ways[1].Suits)
	assert.InDelta(t, 231, v.Ways[1].Volts, 1e-9)
	broken, w := leads(t, "ferry-planer-m1", func(m *shop.Motor) { m.Plate.Joined = "231" })
	assert.True(t, broken.Plate.Delta)
	assert.InDelta(t, 8.4*400/231, broken.Plate.Amps.Value, 1e-6)
	assert.InEpsilon(t, st.Machine.Fit.Circuit.R1Ohm/3, broken.Machine.Fit.Circuit.R1Ohm, 0.02)
	assert.Contains(t, words(w.Drawing), "its three ends out as T4, T5 and T6")
}

func TestWhatStandsAgainstJoining(t *testing.T) {
	_, v := leads(
		t,
		"tarn-shaper-m1",
		func(m *shop.Motor) { m.Leads.Condition = map[string]string{"dry": "bad", "bond": "good"} },
	)
	assert.Contains(t, rules(v.Verdicts), "leads.condition")
	assert.Contains(t, rules(v.Verdicts), "leads.condition-open")
	assert.False(t, v.Good)
	st, w := leads(t, "tarn-shaper-m1", func(m *shop.Motor) { m.Leads.Polarity = nil })
	assert.False(t, w.Connectable)
	assert.Contains(t, rules(st.Reading.Verdicts), "leads.polarity-unknown", "a stop stands beside the plate too")
	assert.Contains(t, words(w.Drawing), "STOP: Grouped, polarity unknown.")
	_, x := leads(t, "tarn-shaper-m1", func(m *shop.Motor) { m.Plate.Leads = "12" })
	assert.Contains(t, rules(x.Verdicts), "leads.count-against-plate")
	_, y := leads(
		t,
		"ferry-planer-m1",
		func(m *shop.Motor) { m.Plate.Volts, m.Plate.Connection, m.Leads.Inside = "230/400", "", "" },
	)
	assert.Contains(t, rules(y.Verdicts), "leads.joined-inside")
}

func TestWrongEntriesAreNamedByPlace(t *testing.T) {
	_, v := leads(t, "tarn-shaper-m1", func(m *shop.Motor) {
		m.Leads.MeterOhms, m.Leads.Celsius = "a little", "400"
		m.Leads.Marks[1] = "Q9"
		m.Leads.Readings[0].Text = "loose"
		m.Leads.Polarity[0].Text = "12/3"
	})
	got := map[string]bool{}
	for _, p := range v.Problems {
		got[p.Field] = true
		assert.NotEmpty(t, p.Says)
	}
	assert.Equal(
		t,
		map[string]bool{"meter_ohms": true, "celsius": true, "mark.B": true, "reading.A.B": true, "kick.0": true},
		got,
	)
}

// Amps rise with the volts faster than in proportion, for the iron saturates; below
// the first turn there is nothing to read.
func TestTheFirstEnergising(t *testing.T) {
	_, v := leads(t, "tarn-shaper-m1", nil)
	require.Len(t, v.Steps, 4)
	for i, s := range v.Steps {
		assert.InDelta(t, []float64{25, 50, 75, 100}[i], s.Percent, 1e-9)
		over := 1 + rule.Limit("energise.abort", "over_percent")/100
		assert.InDelta(t, over*s.StandingAmps, s.AbortStanding, 1e-9)
		if i > 0 {
			assert.Greater(t, s.StandingAmps, v.Steps[i-1].StandingAmps)
		}
	}
	last := v.Steps[3]
	assert.True(t, last.Turns)
	assert.Positive(t, last.IdleAmps)
	assert.InDelta(t, last.IdleAmps*1.3, last.AbortIdle, 1e-9)
	assert.Subset(t, rules(v.Cautions), []string{"leads.kick", "leads.discharge"})
}

func TestAReversedWindingIsShown(t *testing.T) {
	_, v := leads(t, "tarn-shaper-m1", nil)
	require.Len(t, v.Reversed, 2)
	for _, r := range v.Reversed {
		assert.Less(t, math.Abs(r.Wrong.TorqueNm), math.Abs(r.Right.TorqueNm))
	}
	assert.InDelta(t, 1, v.Reversed[1].Right.LineShare[0], 0.01, "at rated speed it takes plate amps")
	hottest := v.Reversed[1].Wrong.WindingShare
	assert.Greater(t, math.Max(hottest[0], math.Max(hottest[1], hottest[2])), 1.5)
}

// Volts and hertz that are not the plate's own: what the model says, and what helps.
func TestPlateAgainstSupply(t *testing.T) {
	at := func(volts, hertz float64) supply.Supply {
		return supply.Supply{Kind: "two-wire", Volts: volts, Hertz: hertz, MainAmps: 100, Class: "stiff"}
	}
	for _, c := range []struct {
		volts, hertz, rpm string
		supply            supply.Supply
		rules             []string
		remedies          []string
	}{
		{"230", "60", "1745", at(240, 60), nil, nil},
		{"230", "60", "1745", at(220, 60), nil, nil},
		{"208", "60", "1745", at(240, 60), []string{"supply.over-flux"}, []string{"Transformer, step-down", "Drive"}},
		{"200", "60", "1745", at(240, 60), []string{"supply.over-flux"}, []string{"Transformer, step-down", "Drive"}},
		{"575", "60", "1745", at(240, 60), []string{"supply.third-of-torque"}, []string{"Transformer, step-up",
			"Drive"}},
		{"415", "50", "1440", at(400, 50), nil, nil},
		{"380", "50", "1440", at(400, 50), nil, nil},
		{"230", "50", "1440", at(230, 60), []string{"supply.other-hertz", "supply.under-flux"},
			[]string{"Transformer, step-up", "Drive", "Pulleys"}},
		{"230", "60", "1745", at(230, 50), []string{"supply.other-hertz", "supply.over-flux"},
			[]string{"Transformer, step-down", "Drive", "Pulleys"}},
		{"400", "50", "1440", at(230, 50), []string{"supply.third-of-torque"}, []string{"Transformer, step-up",
			"Drive"}},
	} {
		st := study.Of(
			c.supply,
			shop.Motor{
				Plate:  plate.Typed{Output: "3 hp", Volts: c.volts, Hertz: c.hertz, RPM: c.rpm},
				Driven: shop.Driven{Load: "spindle"},
			},
			motor.FitCircuit,
		)
		q := st.Ask(shop.Shop{Supply: c.supply}, shop.Machine{})
		assert.ElementsMatch(t, c.rules, rules(q.Line), "%s V %s Hz", c.volts, c.hertz)
		// They hold for what puts the motor across the lines; a drive gives it volts of its own.
		for _, w := range feed.All() {
			across := rules(feed.Across(w, q))
			switch {
			case w.Info().OwnVolts:
				assert.Empty(t, across, w.Info().Name)
			case slices.Contains(c.rules, "supply.third-of-torque"): // what would be a stop stands behind a transformer
				assert.Equal(t, []string{"route.transformer"}, across, w.Info().Name)
			default:
				assert.ElementsMatch(t, c.rules, across, w.Info().Name)
			}
		}
		v := st.Suit()
		require.NotNil(t, v)
		var titles []string
		for _, r := range v.Remedies {
			titles = append(titles, r.Title)
		}
		assert.Equal(t, c.remedies, titles, "%s V %s Hz", c.volts, c.hertz)
		assert.Equal(t, len(c.rules) == 0, v.Suits)
		assert.Equal(t, "100", v.Rows[0].Own)
	}
	// On its own volts the model gives the plate back.
	st := study.Of(
		at(230, 60),
		shop.Motor{Plate: plate.Typed{Output: "3 hp", Volts: "230", Amps: "9.0", Hertz: "60", RPM: "1745"}},
		motor.FitCircuit,
	)
	for _, row := range st.Suit().Rows {
		assert.Equal(t, row.Own, row.Here, row.Name)
	}
	assert.Equal(t, "9", st.Suit().Rows[2].Own)
	assert.Equal(t, "1745", st.Suit().Rows[3].Own)
	assert.Nil(t, study.Of(eu, shop.Motor{}, motor.FitCircuit).Suit())
}

// Six leads on a supply for the lower volts suggest the other joining.
func TestTheOtherJoiningIsARemedy(t *testing.T) {
	st := study.Of(
		eu,
		shop.Motor{Plate: plate.Typed{Output: "4 kW", Volts: "230/400", Hertz: "50", RPM: "1440", Joined: "400"}},
		motor.FitCircuit,
	)
	v := st.Suit()
	require.NotEmpty(t, v.Remedies)
	assert.Equal(t, "Join it otherwise", v.Remedies[0].Title)
	assert.Contains(t, v.Remedies[0].Says, "delta for 230 V")
}

// Marks on every lead draw the terminal box before anything is read, with what is to be done
// first on it.
func TestMarkedLeadsHaveTheirBoxAtOnce(t *testing.T) {
	m := shop.Motor{Plate: plate.Typed{Output: "2.2 kW", Volts: "230/400", RPM: "1430", Hertz: "50"}}
	m.Leads.Leads = []string{"A", "B", "C", "D", "E", "F"}
	m.Leads.Marks = []string{"U1", "V1", "W1", "U2", "V2", "W2"}
	st := study.Of(supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"}, m,
		motor.FitCircuit)
	box := st.Box(m)
	require.NotNil(t, box)
	said := ""
	for _, item := range box.Items {
		said += item.Text + "\n"
	}
	assert.Contains(t, said, "The marks alone say so")
	assert.Contains(t, said, "delta")
	assert.False(t, st.Progress(m).Leads)
	m.Leads.Marks[5] = ""
	assert.Nil(t, study.Of(supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"}, m,
		motor.FitCircuit).Box(m), "one is missing")
}
