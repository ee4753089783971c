package motor_test

import (
	"fmt"
	"math"
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
		list = append(list, rating{fmt.Sprintf("%s %.0f W %d poles", class, watts, poles), class, plate.Plate{OutputWatts: watts, Hertz: hertz, RPM: rpm,
			Ratings: []plate.Rating{{Volts: volts, Amps: amps}}, PowerFactor: powerFactor, Efficiency: efficiency, DesignLetter: design}, plate.Supply{Volts: volts, Hertz: hertz}})
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

func TestFitOverTheStandardRatings(t *testing.T) {
	ratings := survey(t)
	failed := 0
	for _, r := range ratings {
		filled, problems := plate.Fill(r.plate, r.supply)
		require.Empty(t, problems, r.name)
		fit, err := motor.FitCircuit(filled.Target())
		require.NoError(t, err, r.name)
		for _, residual := range fit.Residuals {
			if residual.Kind == "rated" {
				assert.LessOrEqual(t, math.Abs(residual.ErrorPercent), 0.5, "%s: %s", r.name, residual.Name)
			}
		}
		if !fit.Holds() {
			failed++
			t.Logf("%s does not hold: %+v in bounds %v", r.name, fit.Residuals[3:], fit.InBounds())
			for _, p := range fit.Parameters {
				if p.Value < p.Low*1.001 || p.Value > p.High*0.999 {
					t.Log(p)
				}
			}
		}
	}
	assert.LessOrEqual(t, float64(failed), 0.05*float64(len(ratings)), "of %d", len(ratings))
}
