package plate_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/plate"
)

// known is a plate whose every figure is known, to be written in many styles.
type known struct {
	outputs      []string // the output, and the ways of writing it
	watts        float64
	volts        string
	ratio        float64 // of the second voltage to the first, 0 for one voltage
	first, amps  float64
	hertz, poles int
	rpm          int
	sf, eff, pf  float64
	code, design string
}

func draw(t *rapid.T) known {
	var k known
	american := rapid.Bool().Draw(t, "american")
	k.poles = 2 * rapid.IntRange(1, 3).Draw(t, "pole pairs")
	if american {
		hp := rapid.SampledFrom([]string{"1/2", "3/4", "1", "1 1/2", "2", "3", "5", "7 1/2", "10"}).Draw(t, "hp")
		k.watts = map[string]float64{"1/2": 0.5, "3/4": 0.75, "1": 1, "1 1/2": 1.5, "2": 2, "3": 3, "5": 5,
			"7 1/2": 7.5, "10": 10}[hp] * 745.7
		k.outputs = []string{hp + " HP", hp + "HP", "HP " + hp, "HP: " + hp, hp + " H.P."}
		k.volts, k.ratio, k.first, k.hertz = "230/460", 2, 230, 60
		k.code, k.design = rapid.SampledFrom([]string{"H", "J", "K", "L"}).Draw(t, "code"), "B"
	} else {
		kilowatts := rapid.SampledFrom([]string{"0,37", "0.55", "0,75", "1.1", "1,5", "2.2", "3", "4", "5,5"}).
			Draw(t, "kW")
		fmt.Sscanf(strings.Replace(kilowatts, ",", ".", 1), "%f", &k.watts) // the list above is all numbers
		k.watts *= 1000
		k.outputs = []string{kilowatts + " kW", kilowatts + "kW", "kW " + kilowatts, "kW: " + kilowatts}
		k.volts, k.ratio, k.first, k.hertz = "230/400", math.Sqrt(3), 230, 50
	}
	k.sf = rapid.SampledFrom([]float64{1, 1.15, 1.25}).Draw(t, "sf")
	k.eff, _, _ = plate.ClassEfficiency("IE2", k.watts, k.poles)
	k.eff = math.Round(1000*k.eff) / 1000
	k.pf, _ = plate.Usual(k.watts, k.poles)
	k.amps = math.Round(100*k.watts/(math.Sqrt(3)*k.first*k.pf*k.eff)) / 100
	slip := plate.UsualSlip(k.watts, float64(k.hertz), k.poles)
	k.rpm = int(math.Round(float64(120*k.hertz/k.poles) * (1 - slip)))
	return k
}

// write writes the plate in one of many styles, its fields in any order.
func (k known) write(t *rapid.T) string {
	second := strings.Split(k.volts, "/")[1]
	amps := fmt.Sprintf("%.2f/%.2f", k.amps, k.amps/k.ratio)
	if rapid.Bool().Draw(t, "decimal comma") {
		amps = strings.ReplaceAll(amps, ".", ",")
	}
	pick := func(name string, styles ...string) string { return rapid.SampledFrom(styles).Draw(t, name) }
	fields := []string{
		pick("output", k.outputs...),
		pick(
			"volts",
			k.volts+" V",
			k.volts+"V",
			"VOLTS "+k.volts,
			"V: "+k.volts,
			strings.Replace(k.volts, "/", " / ", 1)+" Volts",
			"230 - "+second+" V",
		),
		pick(
			"amps",
			amps+" A",
			amps+"A",
			"AMPS "+amps,
			"F.L.A. "+amps,
			"FLA: "+amps,
			strings.Replace(amps, "/", " / ", 1)+" AMPS",
		),
		pick(
			"hertz",
			fmt.Sprintf("%d Hz", k.hertz),
			fmt.Sprintf("%dHZ", k.hertz),
			fmt.Sprintf("HERTZ %d", k.hertz),
			fmt.Sprintf("%d CYCLES", k.hertz),
			fmt.Sprintf("CYCLES: %d", k.hertz),
		),
		pick(
			"rpm",
			fmt.Sprintf("%d RPM", k.rpm),
			fmt.Sprintf("%drpm", k.rpm),
			fmt.Sprintf("R.P.M. %d", k.rpm),
			fmt.Sprintf("%d r/min", k.rpm),
			fmt.Sprintf("%d min-1", k.rpm),
			fmt.Sprintf("RPM: %d", k.rpm),
		),
		pick(
			"sf",
			fmt.Sprintf("SF %.2f", k.sf),
			fmt.Sprintf("S.F. %.2f", k.sf),
			fmt.Sprintf("SF%.2f", k.sf),
			fmt.Sprintf("SERVICE FACTOR %.2f", k.sf),
			fmt.Sprintf("SERV. FACTOR: %.2f", k.sf),
		),
		pick(
			"eff",
			fmt.Sprintf("EFF %.1f", 100*k.eff),
			fmt.Sprintf("NEMA NOM EFF. %.1f", 100*k.eff),
			fmt.Sprintf("EFF. %.1f %%", 100*k.eff),
			fmt.Sprintf("EFFICIENCY: %.1f%%", 100*k.eff),
			fmt.Sprintf("%.1f %% EFF", 100*k.eff),
		),
		pick("phases", "3 PH", "PH 3", "3~", "PHASE: 3", "3-PHASE", "THREE PHASE"),
		pick("insulation", "INS CL F", "INSUL. CLASS F", "CLASS F", "ISOL.KL. F", "TH.CL. F"),
	}
	if k.code != "" {
		fields = append(
			fields,
			pick("code", "CODE "+k.code, "KVA CODE "+k.code, "CODE: "+k.code),
			pick("design", "DES "+k.design, "NEMA DESIGN "+k.design, "DESIGN: "+k.design),
		)
	}
	fields = rapid.Permutation(fields).Draw(t, "order")
	text := strings.Join(fields, pick("between", "\n", "  ", " | ", "\r\n", "; "))
	return pick("case", text, strings.ToUpper(text))
}

// However a plate is written, every figure is found, none invented, no word left
// over, and a consistent plate is not accused.
func TestAnyStyleOfPlateIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k := draw(t)
		text := k.write(t)
		d := plate.ReadText(text)
		p := d.Plate
		require.Empty(t, d.Unread, text)
		require.NotNil(t, p.OutputWatts, text)
		assert.InDelta(t, k.watts, *p.OutputWatts, 1e-6, text)
		require.Len(t, p.Ratings, 2, text)
		for i, volts := range []float64{k.first, math.Round(k.first*k.ratio/10) * 10} {
			assert.InDelta(t, volts, p.Ratings[i].Volts, 2, text)
			require.NotNil(t, p.Ratings[i].Amps, text)
			assert.InDelta(t, []float64{k.amps, k.amps / k.ratio}[i], *p.Ratings[i].Amps, 0.006, text)
			assert.Equal(t, float64(k.hertz), *p.Ratings[i].Hertz, text)
			assert.Equal(t, float64(k.rpm), *p.Ratings[i].RPM, text)
		}
		assert.Equal(t, 3, *p.Phases, text)
		assert.Equal(t, k.poles, *p.Poles, text)
		assert.InDelta(t, k.sf, *p.ServiceFactor, 1e-9, text)
		assert.InDelta(t, k.eff, *p.Efficiency, 1e-9, text)
		assert.Equal(t, "F", *p.InsulationClass, text)
		if k.code != "" {
			assert.Equal(t, k.code, *p.CodeLetter, text)
			assert.Equal(t, k.design, *p.DesignLetter, text)
		}
		for _, v := range d.Verdicts {
			assert.Equal(t, "plate.service-factor", v.Rule, text)
		}
	})
}
