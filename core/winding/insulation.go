package winding

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Frame is the name by which a reading speaks of the motor's frame.
const Frame = "frame"

// insulation is one reading with a test voltage, between a lead and the frame or
// between two leads.
type insulation struct {
	between   [2]string
	megohms   float64
	testVolts float64 // 0 where it was not said
}

// At40 turns megohms at one temperature into those at 40 °C: they halve for every
// 10 K (IEEE 43-2013, correction to 40 °C).
func At40(megohms, celsius float64) float64 { return megohms * math.Pow(0.5, (40-celsius)/10) }

// judgeInsulation speaks of the weakest reading, of test volts that prove nothing
// or harm, and of insulation that nobody has proved.
func judgeInsulation(list []insulation, celsius float64) (verdicts []rule.Verdict) {
	worst := -1
	for i, r := range list {
		if worst < 0 || r.megohms < list[worst].megohms {
			worst = i
		}
	}
	framed := false
	for _, r := range list {
		framed = framed || r.between[1] == Frame
	}
	if !framed {
		verdicts = append(verdicts, rule.Speak(
			"leads.insulation-unproved",
			nil,
			"With capacitors, drives and electronics taken off, measure each group of leads to frame with 500 V dc "+
				"for a minute, then discharge.",
			"No insulation resistance to frame was entered.",
		))
	}
	if worst < 0 {
		return verdicts
	}
	r := list[worst]
	corrected := At40(r.megohms, celsius)
	numbers := rule.Numbers{"megohms": r.megohms, "megohms_at_40": corrected, "celsius": celsius}
	where := fmt.Sprintf("%s to %s", r.between[0], r.between[1])
	says := fmt.Sprintf(
		"%s reads %s MΩ at %s °C, which is %s MΩ at 40 °C.",
		where,
		quantity.Figures(r.megohms, 3),
		quantity.Figures(celsius, 3),
		quantity.Figures(corrected, 3),
	)
	switch {
	case corrected < rule.Limit("leads.insulation-low", "least_megohms_at_40"):
		verdicts = append(
			verdicts,
			rule.Speak(
				"leads.insulation-low",
				numbers,
				"Do not energise it. Clean and dry the windings, then measure again.",
				"%s",
				says,
			),
		)
	case corrected < rule.Limit("leads.insulation-weak", "least_megohms_at_40"):
		verdicts = append(
			verdicts,
			rule.Speak(
				"leads.insulation-weak",
				numbers,
				"Dry it and measure again; a sound winding of this kind reads far more.",
				"%s",
				says,
			),
		)
	}
	for _, r := range list {
		if r.testVolts > 0 &&
			(r.testVolts < rule.Limit("leads.test-volts", "least_volts") || r.testVolts > rule.Limit("leads.test-volts",
				"most_volts")) {
			verdicts = append(
				verdicts,
				rule.Speak(
					"leads.test-volts",
					rule.Numbers{"volts": r.testVolts},
					"Measure with 500 V dc for a minute.",
					"%s to %s was measured with %s V.",
					r.between[0],
					r.between[1],
					quantity.Figures(r.testVolts, 4),
				),
			)
			break
		}
	}
	return verdicts
}
