package study_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/capacitor"
	"brackmoor/core/drive"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// worked is a motor on a supply, ready to be asked.
func worked(t *testing.T, volts, hertz float64, p plate.Typed) study.Study {
	t.Helper()
	st := study.Of(
		supply.Supply{Kind: "two-wire", Volts: volts, Hertz: hertz, MainAmps: 60, Class: "stiff"},
		shop.Motor{Plate: p, Driven: shop.Driven{Load: "spindle"}},
		motor.FitCircuit,
	)
	require.True(t, st.Reading.Sound, "%v %v", st.Reading.Problems, st.Reading.Verdicts)
	return st
}

// sized are the capacitors of a motor that nothing was chosen for.
func sized(st study.Study) capacitor.Answer {
	return capacitor.Solve(capacitor.Input{Machine: st.Machine})
}

// Every school's example is what the code that quotes it comes to.
func TestEverySchoolsExample(t *testing.T) {
	threeKilowatt := worked(t, 230, 50, plate.Typed{Output: "3 kW", Volts: "230/400", RPM: "1430", Hertz: "50"})
	star := worked(t, 230, 50, plate.Typed{Output: "1 hp", Volts: "400", RPM: "1420", Hertz: "50", Connection: "wye"})
	tiny := worked(
		t,
		230,
		50,
		plate.Typed{Output: "120 W", Volts: "230/400", Amps: "0.9/0.52", RPM: "1350", Hertz: "50"},
	)
	threeHorse := worked(t, 240, 60, plate.Typed{Output: "3 hp", Volts: "230/460", RPM: "1745", Hertz: "60"})
	run := func(st study.Study, name string) float64 {
		for _, c := range sized(st).Schools {
			if c.School.Name == name {
				assert.True(t, c.School.Applies, name)
				return c.School.Microfarad
			}
		}
		t.Fatal("no school " + name)
		return 0
	}
	start := func(st study.Study, run *float64, name string) float64 {
		for _, c := range capacitor.Solve(capacitor.Input{Machine: st.Machine, RunMicrofarad: run}).StartSchools {
			if c.School.Name == name {
				return c.School.Microfarad
			}
		}
		t.Fatal("no school " + name)
		return 0
	}
	left := sized(threeHorse).OutputSchools
	idler, err := rotary.Size(rotary.Input{Machine: threeHorse.Machine, Tariff: 0.2, HoursPerDay: 3})
	require.NoError(t, err)
	m := threeHorse.Machine
	m.Plate = worked(t, 230, 50, plate.Typed{Output: "2.2 kW", Volts: "230/400", RPM: "1430", Hertz: "50"}).Plate
	drives, err := drive.Size(drive.Input{Machine: m})
	require.NoError(t, err)
	hp := func(watts float64) float64 { return watts / quantity.WattsPerHorsepower }
	examples := []string{}
	for _, s := range study.Schools() {
		examples = append(examples, s.Example)
		assert.NotEmpty(t, s.Says)
		assert.NotEmpty(t, s.Source)
	}
	for _, want := range []string{
		fmt.Sprintf("3 kW on 230 V 50 Hz: %.0f µF", run(threeKilowatt, "per-kilowatt")),
		fmt.Sprintf("1 hp on 230 V 50 Hz: %.0f µF", run(star, "per-horsepower-star")),
		fmt.Sprintf("0.9 A on 230 V 50 Hz: %.1f µF", run(tiny, "plate-amps")),
		fmt.Sprintf("run 40 µF: %.0f to %.0f µF",
			start(threeHorse, new(40.0), "start-twice"), start(threeHorse, new(40.0), "start-thrice")),
		fmt.Sprintf("3 hp on 240 V 60 Hz: %.0f to "+
			"%.0f µF", start(threeHorse, nil, "start-50-hp"), start(threeHorse, nil, "start-100-hp")),
		fmt.Sprintf("3 hp: %.0f hp; %s to %.1f hp; %s hp or less", 3*left[0].High, "2¼", 3*left[1].High, "1½"),
		fmt.Sprintf("3 hp: %.0f, %.0f, %.0f or "+
			"%s hp", hp(idler.Schools[0].Watts), hp(idler.Schools[1].Watts), hp(idler.Schools[2].Watts),
			strings.TrimSuffix(quantity.Power(idler.Schools[3].Watts, 60), " hp")),
		fmt.Sprintf("2.2 kW: %g, %g or %g kW", drives.Schools[0].Watts/1000, drives.Schools[1].Watts/1000,
			drives.Schools[2].Watts/1000),
		fmt.Sprintf("240 V: %.0f V; or 370 or 440 by what it sees", sized(threeHorse).RunVolts.Twice),
		fmt.Sprintf("idler of 5 hp: %.0f to %.0f µF", 5*rotary.BalanceSchool[0], 5*rotary.BalanceSchool[1]),
	} {
		assert.True(t, slices.Contains(examples, want), want)
	}
	assert.InDelta(t, 2.25, 3*left[1].Low, 1e-9)
	assert.InDelta(t, 1.5, 3*left[2].High, 1e-9)
	assert.InDelta(t, 3*quantity.WattsPerHorsepower, idler.Schools[0].Watts, 1e-6)
}

// The tables in print are whole: as many cells in a row as in the head, a source each,
// and known figures where they belong.
func TestTablesInPrint(t *testing.T) {
	seen := map[string]bool{}
	cell := map[string]string{}
	for _, table := range study.Tables() {
		assert.False(t, seen[table.Title], table.Title)
		seen[table.Title] = true
		assert.NotEmpty(t, table.Source, table.Title)
		require.NotEmpty(t, table.Rows, table.Title)
		for _, row := range table.Rows {
			assert.Len(t, row, len(table.Head), table.Title)
			cell[table.Title+"|"+row[0]] = strings.Join(row[1:], " ")
		}
	}
	// Published values.
	assert.Equal(t, "8 9", cell["Locked-rotor code letters, kVA a horsepower|K"])
	assert.Equal(t, "22.4 –", cell["Locked-rotor code letters, kVA a horsepower|V"])
	assert.Equal(t, "160 215 155", cell["Locked-rotor torque, design B, % of rated|2.237"])
	assert.Equal(t, "84.6 85.5 83.3", cell["Least efficiency, IE2, %|3"])
	assert.Contains(t, cell["Standard ratings|Breakers, 60 Hz, A"], "45, 50, 60, 70")
}
