package study_test

import (
	"errors"
	"slices"
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
	"brackmoor/demo"
)

var us = supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}

func of(p plate.Typed) study.Study {
	return study.Of(us, shop.Motor{Plate: p, Driven: shop.Driven{Load: "spindle"}}, motor.FitCircuit)
}

func TestAPlateOfThreeFieldsIsSound(t *testing.T) {
	st := of(plate.Typed{Output: "3 hp", Volts: "230/460", RPM: "1745"})
	require.True(t, st.Reading.Sound)
	assert.Equal(t, "3 hp", st.Reading.Title)
	assert.Subset(t, st.Reading.Assumed, []string{"amps", "power_factor", "efficiency", "service_factor", "hertz"})
	assert.Equal(t, rule.Assumed, st.Reading.Hints["amps"].Origin)
	assert.NotEmpty(t, st.Reading.Hints["amps"].Source)
	assert.Positive(t, sized(st).Live.RunMicrofarad)
}

// A plate of amps without an output has one all the same, and says that it is about that.
func TestAPlateOfAmpsIsSound(t *testing.T) {
	st := of(plate.Typed{Volts: "230/460", Amps: "9.2/4.6", RPM: "1750"})
	require.True(t, st.Reading.Sound)
	assert.Contains(t, st.Reading.Assumed, "output")
	assert.Contains(t, st.Reading.Title, "about ")
	assert.Equal(t, rule.Assumed, st.Reading.Hints["output"].Origin)
	own := of(plate.Typed{Output: "3,7 kW", Volts: "230/460", RPM: "1745", Hertz: "60"})
	assert.Equal(t, "3.7 kW", own.Reading.Title, "in the plate's own unit, whatever the country")
}

// A lifted load is a stop on whatever feeds it; one that is hauled is not.
func TestALiftedLoadIsAStop(t *testing.T) {
	for kind, stops := range map[string]bool{"hoist": true, "winch": false, "spindle": false} {
		st := study.Of(us, shop.Motor{Plate: plate.Typed{Output: "3 hp", Volts: "230/460", RPM: "1745"},
			Driven: shop.Driven{Load: kind}}, motor.FitCircuit)
		said := slices.ContainsFunc(st.Reading.Verdicts, func(v rule.Verdict) bool { return v.Rule == "supply.lifts" })
		assert.Equal(t, stops, said, kind)
		assert.Equal(t, stops, len(st.Ask(shop.Shop{Supply: us}, shop.Machine{}).Stops) > 0, kind)
	}
}

func TestBlankAndHalfPlates(t *testing.T) {
	blank := of(plate.Typed{})
	assert.False(t, blank.Reading.Sound)
	var fields []string
	for _, p := range blank.Reading.Problems {
		fields = append(fields, p.Field)
	}
	assert.ElementsMatch(t, []string{"output", "volts"}, fields)
	wrong := of(plate.Typed{Output: "3", Volts: "230"})
	require.Len(t, wrong.Reading.Problems, 1)
	assert.Contains(t, wrong.Reading.Problems[0].Says, "Say the unit too")
}

// A mistake in what is not computed with is said, and stands in no answer's way.
func TestAWrongYearStopsNothing(t *testing.T) {
	typed := plate.Typed{Output: "3 hp", Volts: "230/460", RPM: "1745", Rest: plate.Rest{Year: "87"}}
	st := of(typed)
	require.True(t, st.Reading.Sound)
	require.Len(t, st.Reading.Problems, 1)
	assert.Equal(t, "year", st.Reading.Problems[0].Field)
	typed.RPM = "fast"
	assert.False(t, of(typed).Reading.Sound)
}

func TestAContradictionIsAStopInWords(t *testing.T) {
	st := of(plate.Typed{Output: "3 hp", Volts: "230", RPM: "1745", Amps: "5.5"})
	assert.False(t, st.Reading.Sound)
	assert.Equal(t, "plate.contradiction", st.Reading.Verdicts[0].Rule)
	assert.Equal(t, rule.Stop, st.Reading.Verdicts[0].Severity)
	hidden := study.Of(
		us,
		shop.Motor{Plate: plate.Typed{Output: "3 hp", Volts: "230"}},
		func(motor.Target) (motor.Fit, error) { return motor.Fit{}, errors.New("secret detail") },
	)
	assert.NotContains(t, hidden.Reading.Verdicts[0].Says, "secret")
}

func TestUnmetStartingFiguresAreSaid(t *testing.T) {
	st := of(plate.Typed{Output: "3 hp", Volts: "230", RPM: "1745", Amps: "9", Efficiency: "87.5", LockedRotor: "190"})
	require.True(t, st.Reading.Sound)
	var rules []string
	for _, v := range st.Reading.Verdicts {
		rules = append(rules, v.Rule)
	}
	assert.Contains(t, rules, "plate.starting-figures")
	odd := of(plate.Typed{Output: "3 hp", Volts: "230", RPM: "1745", PowerFactor: "0.35", Efficiency: "40"})
	require.True(t, odd.Reading.Sound)
	said := slices.ContainsFunc(
		odd.Reading.Verdicts,
		func(v rule.Verdict) bool { return v.Rule == "plate.unusual-circuit" },
	)
	assert.True(t, said)
}

func TestStages(t *testing.T) {
	run := 55.0
	full := plate.Typed{Output: "3 hp", Volts: "230/460", Amps: "9.0/4.5", RPM: "1745"}
	for want, m := range map[string]shop.Motor{
		"blank plate":            {},
		"plate to be cleared up": {Plate: plate.Typed{Output: "3"}},
		"plate read":             {Plate: full},
		"route taken":            {Plate: full, Fed: shop.Fed{Bank: feed.Bank{RunMicrofarad: &run}}},
		"wired": {Plate: full, Fed: shop.Fed{Bank: feed.Bank{RunMicrofarad: &run}},
			Built: []string{shop.WiredTick}},
	} {
		assert.Equal(t, want, study.Of(us, m, motor.FitCircuit).Stage(m))
	}
}

// The demo's plates are consistent but for the one that is wrong on purpose,
// and they show both partial plates and hard cases.
func TestTheDemo(t *testing.T) {
	unsound, assumed, stops := []string{}, 0, 0
	for _, name := range []string{"tarn-hollow.json", "ferry-stairs.json"} {
		text, err := demo.Files.ReadFile(name)
		require.NoError(t, err)
		file, problems := shop.ReadFile(text)
		require.Empty(t, problems)
		for _, m := range file.Shops[0].Machines {
			for _, mo := range m.Motors {
				st := study.Of(file.Shops[0].Supply, mo, motor.FitCircuit)
				if !st.Reading.Sound {
					unsound = append(unsound, m.ID)
					continue
				}
				for _, v := range st.Reading.Verdicts {
					if v.Severity == rule.Stop && v.Rule != "supply.third-of-torque" {
						t.Errorf("%s: %s", m.ID, v.Says)
					}
				}
				assumed += len(st.Reading.Assumed)
				if rule.Worst(sized(st).Live.Verdicts) == rule.Stop {
					stops++
				}
			}
		}
	}
	assert.Equal(t, []string{"ferry-mortiser"}, unsound)
	assert.Positive(t, assumed)
	assert.Positive(t, stops)
}

func TestSupplyClasses(t *testing.T) {
	own := supply.Supply{Class: supply.Own, ResistanceOhm: 1.5, ReactanceOhm: 0.5}
	assert.Equal(t, own, own.Settled())
	usual := supply.Supply{Class: "usual", ResistanceOhm: 9}.Settled()
	assert.Equal(t, 0.15, usual.ResistanceOhm)
	n := us.Network()
	assert.Equal(t, 1, n.Phases)
	assert.Equal(t, 0.08, n.ReactanceOhm)
	last := -1.0
	for _, c := range supply.Classes {
		if c.Name == supply.ByTransformer {
			continue // its ohms are those of its kVA
		}
		assert.Greater(t, c.ResistanceOhm, last, "the stiffest first")
		last = c.ResistanceOhm
	}
}
