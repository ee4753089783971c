package supply_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/quantity"
	"brackmoor/core/supply"
)

// The locked-rotor tables a second way: six times the full-load table on one phase, and inversely as the volts on
// three, as the printed ones are but for rounding.
func TestLockedRotorTables(t *testing.T) {
	tables := map[string][][]float64{}
	for _, table := range supply.CodeTables() {
		for _, row := range table.Rows {
			line := []float64{quantity.WattsPerHorsepower}
			for _, cell := range row[1:] {
				v, _ := strconv.ParseFloat(cell, 64)
				line = append(line, v)
			}
			tables[table.Name] = append(tables[table.Name], line)
		}
	}
	full, locked := tables["us-one-phase"][3:], tables["us-one-phase-locked"]
	require.Len(t, full, len(locked))
	for i := range locked {
		assert.InEpsilon(t, 6*full[i][1], locked[i][1], 1e-9, "115 V, row %d", i)
		assert.InEpsilon(t, 6*full[i][3], locked[i][2], 0.011, "208 V, row %d", i)
		assert.InEpsilon(t, 6*full[i][4], locked[i][3], 1e-9, "230 V, row %d", i)
	}
	three := tables["us-three-phase-locked"]
	require.Len(t, tables["us-three-phase"], len(three))
	for i, row := range three {
		for column, volts := range map[int]float64{1: 115, 2: 200, 3: 208, 5: 460} {
			if row[column] > 0 {
				assert.InEpsilon(t, 230/volts*row[4], row[column], 0.01, "%g V, row %d", volts, i)
			}
		}
	}
}

func TestIsolator(t *testing.T) {
	const hp = quantity.WattsPerHorsepower
	us, iec := supply.CodeOf(60, nil), supply.CodeOf(50, nil)
	for _, c := range []struct {
		name         string
		code         supply.Code
		full, locked float64
		phases       int
		amps, horses float64
		beyond       bool
	}{
		{"a motor of one phase by its own rows", us, 12, 72, 1, 13.8, 2, false},
		{"a little more at standstill", us, 12, 73, 1, 13.8, 3, false},
		{"more running than standing has it", us, 30, 72, 1, 34.5, 7.5, false},
		{"5 hp behind a converter: twice 92 A", us, 15.2, 2 * 92, 1, 17.48, 7.5, false},
		{"on three lines", us, 15.2 + 4.2, 92 + 4.2, 3, 22.31, 7.5, false},
		{"beyond the table", us, 60, 400, 1, 69, 0, true},
		{"no motor across the lines", us, 20, 0, 1, 23, 0, false},
		{"elsewhere by its amps", iec, 20, 100, 1, 20, 0, false},
	} {
		i := c.code.Isolator(c.full, c.locked, 230, c.phases)
		assert.InEpsilon(t, c.amps, i.Amps, 1e-9, c.name)
		assert.InDelta(t, c.horses, i.Watts/hp, 1e-9, c.name)
		assert.Equal(t, c.beyond, i.Beyond, c.name)
	}
	stands, ok := us.ThreePhaseLockedAmps(5*hp, 230)
	assert.True(t, ok)
	assert.InEpsilon(t, 92, stands, 1e-9)
	assert.InEpsilon(t, 184, us.ConverterLocked(stands), 1e-9)
	own := supply.CodeOf(60, []supply.Figure{{Table: "us-one-phase-locked", Row: "2", Column: "230 V", Value: 80}})
	stands, _ = own.OnePhaseLockedAmps(2*hp, 230)
	assert.InEpsilon(t, 80, stands, 1e-9)
}
