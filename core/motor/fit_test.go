package motor_test

import (
	"fmt"
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/motor"
	"brackmoor/core/plate"
)

// rating is one motor of the survey, as a catalogue would print its plate.
type rating struct {
	name, class string
	plate       plate.Plate
	supply      plate.Supply
}

// survey is the design-B ratings of NEMA MG 1 at 60 Hz and the IEC ratings of
// 0.37 to 15 kW at 50 Hz, 2, 4 and 6 poles, in two efficiency classes each.
func survey(t *testing.T) []rating {
	t.Helper()
	better := map[string]float64{"IE2": 1, "energy-efficient": 1, "IE3": 0.85, "premium": 0.85} // of the usual slip
	var list []rating
	add := func(watts, hertz, volts float64, poles int, class, design string) {
		efficiency, _, ok := plate.ClassEfficiency(class, watts, poles)
		require.True(t, ok, class)
		powerFactor, _ := plate.Usual(watts, poles)
		rpm := math.Round(motor.SynchronousRPM(hertz, poles) * (1 - better[class]*plate.UsualSlip(watts, hertz, poles)))
		amps := watts / (math.Sqrt(3) * volts * powerFactor * efficiency)
		list = append(
			list,
			rating{
				fmt.Sprintf("%s %.0f W %d poles", class, watts, poles),
				class,
				plate.Plate{
					OutputWatts: watts,
					Hertz:       hertz,
					RPM:         rpm,
					Ratings: []plate.Rating{
						{Volts: volts, Amps: amps},
					},
					PowerFactor:  powerFactor,
					Efficiency:   efficiency,
					DesignLetter: design,
				},
				plate.Supply{Volts: volts, Hertz: hertz},
			},
		)
	}
	for _, poles := range []int{2, 4, 6} {
		for _, hp := range []float64{1, 1.5, 2, 3, 5, 7.5, 10, 15, 20} {
			if hp == 1 && poles == 2 {
				continue // MG 1 has no design-B torque for it
			}
			add(hp*745.7, 60, 230, poles, "energy-efficient", "B")
			add(hp*745.7, 60, 230, poles, "premium", "B")
		}
		for _, kilowatts := range []float64{0.37, 0.55, 0.75, 1.1, 1.5, 2.2, 3, 4, 5.5, 7.5, 11, 15} {
			add(kilowatts*1000, 50, 400, poles, "IE2", "N")
			add(kilowatts*1000, 50, 400, poles, "IE3", "N")
		}
	}
	return list
}

// Every rating gives back its rated point within 0.5 percent and keeps the
// limits of its class; starting figures are first those of the class, then the
// usual locked-rotor amps as if stated, then all three as a motor of the class
// that the first fit found would have them stated.
func TestFitOverTheStandardRatings(t *testing.T) {
	ratings := survey(t)
	for _, mode := range []string{"class limits", "stated amps", "all stated"} {
		t.Run(mode, func(t *testing.T) {
			failed := 0
			for _, r := range ratings {
				filled, problems := plate.Fill(r.plate, r.supply)
				require.Empty(t, problems, r.name)
				target := filled.Target()
				switch mode {
				case "stated amps":
					target.LockedRotorAmps = motor.Goal{Stated: target.LockedRotorAmps.Typical}
				case "all stated":
					found, err := motor.FitCircuit(target)
					require.NoError(t, err, r.name)
					target.LockedRotorAmps = motor.Goal{Stated: 1.03 * found.Residuals[3].Got}
					target.LockedRotorTorque = motor.Goal{Stated: 0.97 * found.Residuals[4].Got}
					target.Breakdown = motor.Goal{Stated: 1.03 * found.Residuals[5].Got}
				}
				fit, err := motor.FitCircuit(target)
				require.NoError(t, err, r.name)
				for _, residual := range fit.Residuals[:3] {
					assert.LessOrEqual(t, math.Abs(residual.ErrorPercent), 0.5, "%s: %s", r.name, residual.Name)
				}
				checkAgainstCircuit(t, target, fit)
				if !fit.Holds() {
					failed++
					t.Logf("%s does not hold and says so: %+v", r.name, fit.Residuals[3:])
				}
			}
			assert.LessOrEqual(t, float64(failed), 0.05*float64(len(ratings)), "of %d", len(ratings))
		})
	}
}

// Small and slow motors are inside the bounds, where their magnetising reactance really is, and
// a plate of nothing but its rated figures rests on no fence.
func TestSmallMotorsRestOnNoFence(t *testing.T) {
	for _, c := range []struct{ output, rpm, hertz string }{
		{"1/4 hp", "1725", "60"}, {"1/3 hp", "1725", "60"}, {"1/2 hp", "1725", "60"}, {"3/4 hp", "1140", "60"},
		{"1/2 hp", "1140", "60"}, {"1 hp", "1140", "60"}, {"0.12 kW", "1350", "50"}, {"0.18 kW", "1350", "50"},
		{"0.25 kW", "900", "50"}, {"0.37 kW", "910", "50"}, {"0.75 kW", "700", "50"}, {"3 hp", "860", "60"},
	} {
		typed := plate.Typed{Output: c.output, Volts: "230", RPM: c.rpm, Hertz: c.hertz}
		read, problems := plate.Read(typed)
		require.Empty(t, problems)
		hertz, _ := strconv.ParseFloat(c.hertz, 64)
		filled, problems := plate.Fill(read, plate.Supply{Volts: 230, Hertz: hertz})
		require.Empty(t, problems)
		fit, err := motor.FitCircuit(filled.Target())
		require.NoError(t, err)
		for _, p := range fit.Parameters {
			assert.True(t, p.Inside(), "%s: %s %.3g of %.3g to %.3g", c.output, p.Name, p.Value, p.Low, p.High)
			if p.Name == "magnetising reactance" && filled.PowerFactor.Value < 0.65 {
				assert.InDelta(t, 1.0, p.Value, 0.15)
			}
		}
	}
}

// checkAgainstCircuit works the residuals out again from the circuit alone.
func checkAgainstCircuit(t *testing.T, target motor.Target, fit motor.Fit) {
	t.Helper()
	b := motor.Balanced{Volts: target.Volts, Hertz: target.Hertz, Poles: target.Poles, FrictionWatts: fit.FrictionWatts}
	rated, locked := b.At(&fit.Circuit, target.Slip()), b.At(&fit.Circuit, 1)
	assert.InEpsilon(t, fit.Residuals[0].Got, rated.ShaftWatts, 1e-6)
	assert.InEpsilon(t, fit.Residuals[3].Got, locked.LineAmps/target.Amps, 1e-6)
	assert.InEpsilon(t, fit.Residuals[4].Got, locked.TorqueNm/fit.RatedNm, 1e-6)
	most := 0.0
	for slip := 0.01; slip <= 1; slip *= 1.005 {
		most = math.Max(most, b.At(&fit.Circuit, slip).TorqueNm)
	}
	assert.InEpsilon(t, most/fit.RatedNm, fit.Residuals[5].Got, 0.01)
}

// Figures as catalogues of standard motors print them: kW, poles, hertz, rpm,
// efficiency, power factor, locked-rotor amps, locked-rotor and breakdown torque
// over rated. One fast small one is beyond what the bounds allow, and says so.
func TestFitOfCatalogueFigures(t *testing.T) {
	beyond, onFence := 0, 0
	for _, c := range [][9]float64{
		{0.37, 4, 50, 1400, 0.727, 0.72, 4.2, 2.2, 2.5}, {0.75, 4, 50, 1420, 0.796, 0.77, 5.3, 2.4, 2.7}, {1.5, 4, 50,
			1430, 0.828, 0.79, 6, 2.6, 3.0},
		{2.2, 4, 50, 1440, 0.843, 0.80, 6.3, 2.5, 3.0}, {4, 4, 50, 1445, 0.866, 0.81, 6.8, 2.6, 3.1}, {7.5, 4, 50, 1455,
			0.887, 0.83, 7.0, 2.5, 3.0},
		{15, 4, 50, 1465, 0.906, 0.84, 7.0, 2.4, 2.9}, {0.75, 2, 50, 2845, 0.774, 0.83, 5.8, 2.7, 2.8}, {2.2, 2, 50,
			2880, 0.832, 0.85, 6.8, 2.6, 3.0},
		{7.5, 2, 50, 2920, 0.881, 0.88, 7.5, 2.4, 3.1}, {0.75, 6, 50, 930, 0.759, 0.70, 4.0, 2.0, 2.3}, {2.2, 6, 50,
			950, 0.818, 0.73, 5.2, 2.1, 2.6},
		{7.5, 6, 50, 965, 0.872, 0.78, 6.2, 2.1, 2.8}, {0.746, 4, 60, 1740, 0.825, 0.74, 7.2, 2.9, 3.5}, {1.491, 4, 60,
			1740, 0.84, 0.77, 7.4, 2.6, 3.2},
		{2.237, 4, 60, 1750, 0.875, 0.78, 7.5, 2.5, 3.3}, {3.728, 4, 60, 1750, 0.875, 0.82, 6.8, 2.2, 2.8}, {7.457, 4,
			60, 1760, 0.895, 0.83, 6.8, 2.0, 2.7},
		{14.91, 4, 60, 1765, 0.91, 0.85, 6.7, 2.0, 2.6}, {5.5, 4, 50, 1450, 0.877, 0.82, 6.9, 2.5, 3.0}, {11, 4, 50,
			1460, 0.898, 0.84, 7.1, 2.4, 3.0},
	} {
		watts := 1000 * c[0]
		fit, err := motor.FitCircuit(
			motor.Target{
				Volts:       400,
				Hertz:       c[2],
				RPM:         c[3],
				Poles:       int(c[1]),
				OutputWatts: watts,
				PowerFactor: c[5],
				Amps:        watts / (math.Sqrt(3) * 400 * c[4] * c[5]),
				LockedRotorAmps: motor.Goal{
					Stated: c[6],
				},
				LockedRotorTorque: motor.Goal{Stated: c[7]},
				Breakdown:         motor.Goal{Stated: c[8]},
			},
		)
		require.NoError(t, err)
		if !fit.InBounds() {
			onFence++ // said as plate.unusual-circuit
		}
		worst := 0.0
		for _, r := range fit.Residuals[3:] {
			worst = math.Max(worst, math.Abs(r.ErrorPercent))
		}
		assert.Less(t, worst, 10.0, "%v", c)
		if worst > 5 {
			beyond++
		}
	}
	assert.LessOrEqual(t, beyond, 1)
	assert.LessOrEqual(t, onFence, 3, "of 21 with all their starting figures stated")
}

// What was read of a motor beside its plate pulls its circuit, the more the surer it is;
// a reading of what the circuit gives already changes nothing.
func TestReadingsPullTheFit(t *testing.T) {
	target := motor.Target{
		Volts: 230, Hertz: 60, RPM: 1745, Amps: 9, OutputWatts: 2237, PowerFactor: 0.76, Poles: 4,
		LockedRotorAmps: motor.Goal{Typical: 6}, LockedRotorTorque: motor.Goal{Typical: 2, Least: 1.5},
		Breakdown: motor.Goal{Typical: 2.5},
	}
	plain, err := motor.FitCircuit(target)
	require.NoError(t, err)
	idle := func(c *motor.Candidate) float64 { return math.Log(c.Lines.At(&c.Circuit, 0.001).LineAmps) }
	amps := func(f motor.Fit) float64 {
		lines := motor.Balanced{Volts: 230, Hertz: 60, Poles: 4, FrictionWatts: f.FrictionWatts}
		return lines.At(&f.Circuit, 0.001).LineAmps
	}
	without := amps(plain)
	last := without
	for _, sigma := range []float64{0.3, 0.05, 0.01} {
		read := motor.Observation{Name: "idle amps", Predict: idle, Target: math.Log(0.9 * without), Sigma: sigma}
		fit, err := motor.FitTo(target, []motor.Observation{read})
		require.NoError(t, err)
		assert.Less(t, amps(fit), last)
		last = amps(fit)
	}
	assert.InEpsilon(t, 0.9*without, last, 0.02)
	same, err := motor.FitTo(target, []motor.Observation{
		{Name: "idle amps", Predict: idle, Target: math.Log(without), Sigma: 0.01},
		{Name: "idle amps at least", Predict: idle, Target: math.Log(0.5 * without), Sigma: 0.01, Side: motor.AtLeast},
	})
	require.NoError(t, err)
	assert.InEpsilon(t, without, amps(same), 0.003)
}
