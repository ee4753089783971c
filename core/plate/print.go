package plate

import (
	"strconv"

	"brackmoor/core/rule"
)

// Tables are the tables that a plate is filled and checked by, in print.
func Tables() []rule.Table {
	cell := func(v float64) string {
		if v == 0 {
			return "–"
		}
		return strconv.FormatFloat(v, 'g', 4, 64)
	}
	list := []rule.Table{}
	for _, t := range []struct {
		title string
		table
	}{{"Least efficiency, IE1, %", ie1}, {"Least efficiency, IE2, %", ie2}, {"Least efficiency, IE3, %", ie3},
		{"Nominal efficiency, energy efficient, %", energyEfficient}, {"Nominal efficiency, premium, %", premium},
		{"Power factor", usualPowerFactor}, {"Slip, %", usualSlip}, {"Locked-rotor amps over rated", usualLockedRotor},
		{"Locked-rotor torque, design B, % of rated", designBLocked}, {"Breakdown torque, design B, % of " +
			"rated", designBBreakdown}, {"Locked-rotor torque, design C, % of " +
			"rated", designCLocked}, {"Breakdown torque, design C, % of rated", designCBreakdown},
		{"Locked-rotor amps, designs B, C and D", designBAmps}, {"Locked-rotor torque, design N, % of " +
			"rated", table(designNLocked)}, {"Breakdown torque, design N, % of " +
			"rated", table(designNBreakdown)}, {"Locked-rotor kVA a kW, design N", table(designNApparent)}} {
		p := rule.Table{
			Title:  t.title,
			Source: t.source,
			Head:   []string{"kW", "2 poles", "4 poles", "6 poles"},
			Rows:   [][]string{},
		}
		for _, r := range t.rows {
			p.Rows = append(p.Rows, []string{cell(r.kilowatts), cell(r.poles[0]), cell(r.poles[1]), cell(r.poles[2])})
		}
		list = append(list, p)
	}
	codes := rule.Table{
		Title:  "Locked-rotor code letters, kVA a horsepower",
		Source: "NEC table 430.7(B) (US, 2023); NEMA MG 1, 10.37",
		Head:   []string{"Letter", "from", "below"},
		Rows:   [][]string{},
	}
	for _, letter := range codeLetters {
		from, below, _ := CodeBand(string(letter))
		upper := cell(below)
		if letter == 'V' {
			upper = "–"
		}
		codes.Rows = append(codes.Rows, []string{string(letter), cell(from), upper})
	}
	return append(list, codes)
}
