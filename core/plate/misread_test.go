package plate_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// made makes a consistent plate as a maker would stamp it.
func made(r *rand.Rand) plate.Plate {
	poles := []int{2, 4, 4, 4, 6}[r.IntN(5)]
	hertz, ratio, volts, watts := 50.0, math.Sqrt(
		3,
	), 230.0, []float64{370, 550, 750, 1100, 1500, 2200, 3000, 4000, 5500}[r.IntN(9)]
	high := 400.0
	if r.IntN(2) == 0 {
		hertz, ratio, high, watts = 60, 2, 460, []float64{0.5, 0.75, 1, 1.5, 2, 3, 5, 7.5,
			10}[r.IntN(9)]*quantity.WattsPerHorsepower
	}
	vary := func(spread float64) float64 { return 1 + spread*(2*r.Float64()-1) }
	efficiency, _, _ := plate.ClassEfficiency("IE2", watts, poles)
	powerFactor, _ := plate.Usual(watts, poles)
	efficiency, powerFactor = efficiency*vary(0.03), powerFactor*vary(0.05)
	amps := watts / (math.Sqrt(3) * volts * efficiency * powerFactor)
	two := func(v float64) float64 { return math.Round(100*v) / 100 }
	p := plate.Plate{
		OutputWatts: watts,
		Hertz:       hertz,
		RPM:         5 * math.Round(120*hertz/float64(poles)*(1-plate.UsualSlip(watts, hertz, poles)*vary(0.25))/5),
		Ratings:     []plate.Rating{{Volts: volts, Amps: two(amps)}, {Volts: high, Amps: two(amps / ratio)}},
	}
	if r.IntN(2) == 0 {
		p.Efficiency = math.Round(1000*efficiency) / 1000
	}
	if r.IntN(3) == 0 {
		p.PowerFactor = two(powerFactor)
	}
	return p
}

// spoil plants one realistic misreading, and says in which field and what the
// plate really says there.
func spoil(r *rand.Rand, p plate.Plate) (spoilt plate.Plate, field string, truth plate.Plate) {
	q := p
	q.Ratings = append([]plate.Rating{}, p.Ratings...)
	swap := func(v float64, from int) float64 {
		b := []byte(quantity.Figures(v, 4))
		for i := from; i+1 < len(b); i++ {
			if b[i] != b[i+1] && b[i] != '.' && b[i+1] != '.' {
				b[i], b[i+1] = b[i+1], b[i]
				break
			}
		}
		var out float64
		fmt.Sscanf(string(b), "%f", &out) // b is a number
		return out
	}
	switch r.IntN(7) {
	case 0:
		q.Ratings[0].Amps, q.Ratings[1].Amps = q.Ratings[1].Amps, q.Ratings[0].Amps
		return q, "amps", p
	case 1:
		i := r.IntN(2)
		q.Ratings[i].Amps = swap(q.Ratings[i].Amps, 0)
		return q, "amps", p
	case 2:
		i := r.IntN(2)
		q.Ratings[i].Amps *= 10
		return q, "amps", p
	case 3:
		q.RPM = swap(q.RPM, r.IntN(2))
		return q, "rpm", p
	case 4:
		q.Hertz = 110 - q.Hertz
		return q, "hertz", p
	case 5:
		q.OutputWatts *= []float64{10, 0.1}[r.IntN(2)]
		return q, "output", p
	}
	i := r.IntN(2)
	q.Ratings[i].Volts = swap(q.Ratings[i].Volts, 0)
	return q, "volts", p
}

func same(a, b plate.Plate) bool {
	near := func(x, y float64) bool { return x == y || math.Abs(x/y-1) < 0.011 }
	for i := range a.Ratings {
		if !near(a.Ratings[i].Amps, b.Ratings[i].Amps) || !near(a.Ratings[i].Volts, b.Ratings[i].Volts) {
			return false
		}
	}
	return near(a.OutputWatts, b.OutputWatts) && near(a.RPM, b.RPM) && a.Hertz == b.Hertz &&
		near(a.PowerFactor, b.PowerFactor) &&
		near(a.Efficiency, b.Efficiency)
}

func supplyFor(p plate.Plate) plate.Supply { return plate.Supply{Volts: 230, Hertz: p.Hertz} }

func TestCleanPlatesAreNotAccused(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	flagged := 0
	const n = 400
	for range n {
		p := made(r)
		filled, problems := plate.Fill(p, supplyFor(p))
		require.Empty(t, problems)
		for _, v := range plate.Check(filled) {
			if v.Rule != "plate.service-factor" {
				flagged++
				break
			}
		}
		if flagged == 0 {
			assert.Empty(t, plate.Misreadings(p, supplyFor(p)))
		}
	}
	assert.Less(t, float64(flagged), 0.02*n)
}

// Of 400 plates with one misreading each, those that trip a self-check have it
// named first in at least nine of ten; the others still agree with themselves.
func TestTheMisreadingIsNamed(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	tripped, named, silent := 0, 0, 0
	missed := map[string]int{}
	for range 400 {
		spoilt, field, truth := spoil(r, made(r))
		found := plate.Misreadings(spoilt, supplyFor(truth))
		filled, problems := plate.Fill(spoilt, supplyFor(truth))
		accused := len(problems) > 0 || filled.Target().Check() != nil
		for _, v := range plate.Check(filled) {
			accused = accused || v.Rule != "plate.service-factor"
		}
		switch {
		case !accused:
			silent++
		case len(found) > 0 && found[0].Field == field && same(found[0].Plate, truth):
			tripped++
			named++
		default:
			tripped++
			missed[field]++
			if testing.Verbose() {
				t.Logf("%s: %v for %v", field, spoilt, truth)
				for _, f := range found {
					t.Log("   ", f.Says(), f.Field)
				}
			}
		}
	}
	t.Logf("%d trip a check, %d named first, %d still consistent; missed by field: %v", tripped, named, silent, missed)
	assert.GreaterOrEqual(t, float64(named), 0.9*float64(tripped))
}

func TestMisreadingsInWords(t *testing.T) {
	p, _ := plate.Read(plate.Typed{Output: "0.55 kW", Volts: "230/400", Amps: "1.5/2.6", Hertz: "50", RPM: "1400"})
	found := plate.Misreadings(p, europe)
	require.NotEmpty(t, found)
	assert.Equal(t, "Amps 1.5/2.6 may be 2.6/1.5: the columns are exchanged.", found[0].Says())
	filled, problems := plate.Fill(found[0].Plate, europe)
	require.Empty(t, problems)
	assert.Equal(t, rule.Note, rule.Worst(plate.Check(filled)))
}
