package study

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"brackmoor/core/capacitor"
	"brackmoor/core/drive"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

// School is a rule of practitioners, with an example worked by it.
type School struct {
	About   string `json:"about"`
	Says    string `json:"says"`
	Example string `json:"example"`
	Source  string `json:"source"`
}

const practice = "shop practice"

// Schools are the schools that stand beside the model's answers.
func Schools() []School {
	return []School{
		{
			"Run capacitor",
			"70 µF a kilowatt for full plate volts, at 230 V 50 Hz; it goes with (230/V)²·(50/f)",
			"3 kW on 230 V 50 Hz: 210 µF",
			"DIN 48501 (withdrawn); " + practice,
		},
		{"Run capacitor", "20 µF a horsepower, star on low volts", "1 hp on 230 V 50 Hz: 20 µF", practice},
		{
			"Run capacitor",
			"below 180 W by plate amps, C = I/(2π·f·V)",
			"0.9 A on 230 V 50 Hz: 12.5 µF",
			"balance at power factor ½",
		},
		{"Start capacitor", "two or three times the run capacitor", "run 40 µF: 80 to 120 µF", practice},
		{
			"Start capacitor",
			"50 to 100 µF a horsepower, at 240 V 60 Hz",
			"3 hp on 240 V 60 Hz: 150 to 300 µF",
			practice,
		},
		{
			"Output left on two legs",
			"two thirds; three quarters to four fifths; half or less. Two thirds is 1.3 to 1.55 times plate amps " +
				"in a wye winding and 1.55 to 1.85 in a delta one",
			"3 hp: 2 hp; 2¼ to 2.4 hp; 1½ hp or less",
			practice,
		},
		{
			"Idler",
			"as large as the hardest-starting motor, 1.25, 1.5 or 2 times it; the next standard rating",
			"3 hp: 3, 5, 5 or 7½ hp",
			practice,
		},
		{
			"Idler’s start",
			"start capacitors and a relay; a packaged starter; a pony motor; a rope",
			"the model times each; a rope is never advised",
			practice,
		},
		{
			"Balance capacitors",
			fmt.Sprintf(
				"%.0f to %.0f µF a horsepower of idler on each made pair; or on one pair; or none",
				rotary.BalanceSchool[0],
				rotary.BalanceSchool[1],
			),
			"idler of 5 hp: 60 to 80 µF",
			practice,
		},
		{
			"Three-phase drive on one phase",
			"√3, two or three times the motor; the next standard rating",
			"2.2 kW: 4, 5.5 or 7.5 kW",
			practice,
		},
		{
			"Speed",
			"by the drive over the whole range; or plate hertz, with belts and gears",
			"the spindle’s table draws both",
			practice,
		},
		{
			"Carrier",
			"high and quiet; or low and cool",
			"low in a hot box, and for a motor not wound for drives",
			practice,
		},
		{
			"Stopping",
			"a ramp, a brake resistor, or coasting",
			"the model gives the shortest ramp and the ohms",
			practice,
		},
		{
			"Start cut-out",
			"held by hand; a timer of 2 to 3 s; a potential relay; a centrifugal switch",
			"the model gives rpm, seconds and volts",
			practice,
		},
		{
			"Capacitor volts",
			"twice the supply; or the rms it sees, with tolerance and margin",
			"240 V: 480 V; or 370 or 440 by what it sees",
			practice,
		},
		{
			"Unbalance",
			"1, 2, 2.5, 3 or 5 percent, with or without derating",
			"the hottest winding decides here",
			practice + "; NEMA MG 1, 14.36",
		},
	}
}

// Tables are the tables that answers rest on, each with its source.
func Tables() []rule.Table {
	watts := func(values []float64, show func(float64) string) string {
		words := make([]string, len(values))
		for i, v := range values {
			words[i] = show(v)
		}
		return strings.Join(words, ", ")
	}
	kilowatts := func(v float64) string { return strconv.FormatFloat(v/1000, 'g', 3, 64) }
	horses := func(v float64) string { return strconv.FormatFloat(v/quantity.WattsPerHorsepower, 'g', 3, 64) }
	ratings := rule.Table{
		Title:  "Standard ratings",
		Source: "NEMA MG 1; IEC 60072-1",
		Head:   []string{"What", "Ratings"},
		Rows: [][]string{
			{
				"Idlers, 60 Hz, hp",
				watts(rotary.Ratings(60), horses),
			},
			{"Idlers, 50 Hz, kW", watts(rotary.Ratings(50), kilowatts)},
			{"Drives, kW", watts(drive.Ratings, kilowatts)},
			{
				"Breakers, 60 Hz, A",
				watts(supply.Breakers(60), func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }),
			},
			{
				"Breakers, 50 Hz, A",
				watts(supply.Breakers(50), func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }),
			},
		},
	}
	cutting := rule.Table{
		Title:  "Cutting speeds of high-speed steel",
		Source: practice,
		Head:   []string{"Material", "m/min", "surface ft/min"},
		Rows:   [][]string{},
	}
	for _, m := range drive.Materials {
		cutting.Rows = append(cutting.Rows, []string{m.Title, strconv.FormatFloat(m.MetrePerMinute, 'g', -1, 64),
			strconv.FormatFloat(drive.FootPerMinute(m.MetrePerMinute), 'g', -1, 64)})
	}
	return slices.Concat(
		[]rule.Table{ratings},
		capacitor.Tables(),
		[]rule.Table{cutting},
		supply.CodeTables(),
		plate.Tables(),
	)
}
