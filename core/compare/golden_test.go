package compare_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/network"
)

// golden is a machine on a supply with what is wished, what is recommended for it and
// why that is right, and the figures that go with it.
type golden struct {
	Plate       string             `json:"plate"`
	Supply      string             `json:"supply"`
	Load        string             `json:"load"`
	Wishes      feed.Wishes        `json:"wishes"`
	CircuitAmps float64            `json:"circuit_amps"`
	Because     string             `json:"because"`
	Recommended string             `json:"recommended"`
	Margin      float64            `json:"start_margin"`
	Usable      float64            `json:"usable_watts"`
	Hottest     *float64           `json:"hottest_percent"`
	Sizes       map[string]float64 `json:"sizes"`
}

func TestGolden(t *testing.T) {
	text, err := os.ReadFile("testdata/golden.json")
	require.NoError(t, err)
	var cases []golden
	require.NoError(t, json.Unmarshal(text, &cases))
	require.GreaterOrEqual(t, len(cases), 40)
	for _, g := range cases {
		t.Run(g.Plate+", "+g.Load, func(t *testing.T) {
			require.NotEmpty(t, g.Because)
			in := ask(t, g.Plate, g.Supply, g.Load, g.Wishes)
			in.MainAmps = g.CircuitAmps
			a := compare.Compare(in)
			require.Equal(t, g.Recommended, a.Recommended, g.Because)
			if g.Recommended == "" {
				stopped(t, in, a)
				return
			}
			r := named(t, a, g.Recommended)
			assert.InEpsilon(t, g.Margin, *r.Margin, 0.03)
			assert.InEpsilon(t, g.Usable, r.UsableWatts[1], 0.03)
			if g.Hottest != nil {
				assert.InEpsilon(t, *g.Hottest, *r.Hottest.Load, 0.03)
			}
			for name, value := range g.Sizes {
				assert.InEpsilon(t, value, r.Sizes[name], 0.06, name)
			}
			again(t, in, r)
		})
	}
}

// stopped says that what draws most is stopped by the circuit: four fifths of its breaker.
func stopped(t *testing.T, in *feed.Question, a compare.Answer) {
	t.Helper()
	for _, r := range a.Routes {
		assert.False(t, r.Fits, r.Name)
	}
	assert.Less(t, 0.8*in.MainAmps, *named(t, a, "drive-single-phase").SupplyAmps.Load)
}

// again works one figure of a route out a second way.
func again(t *testing.T, in *feed.Question, r compare.Route) {
	t.Helper()
	p, s := in.Plate, in.Supply
	watts, share := p.Output.Value, in.Load.RunShare
	switch r.Name {
	case "run-capacitor", "start-run-capacitor":
		// The hottest winding from the network itself, the capacitor on either line.
		least := math.Inf(1)
		for _, pair := range []network.Pair{network.AC, network.BC} {
			c := network.Case{
				Supply: s,
				Motors: []network.Motor{
					{
						ID:            "m",
						Poles:         int(p.Poles.Value),
						RatedHertz:    p.Hertz.Value,
						Circuit:       in.Fit.Circuit,
						FrictionWatts: in.Fit.FrictionWatts,
						Load: &network.Load{
							Kind:  "power",
							Watts: share * watts,
						},
					},
				},
				Capacitors: []network.Capacitor{{ID: "c", Between: pair, Microfarad: r.Sizes["run_microfarad"]}},
			}
			rated := p.Amps.Value
			if p.Delta {
				c.Motors[0].Connection, rated = network.Delta, rated/math.Sqrt(3)
			}
			if pair == network.BC {
				c.Motors[0].Direction = "acb"
			}
			result, err := network.Solve(c)
			require.NoError(t, err)
			w := result.Motors[0].WindingAmps
			least = math.Min(least, 100*max(w[0], w[1], w[2])/rated)
		}
		assert.InEpsilon(t, least, *r.Hottest.Load, 1e-6)
	case "drive-single-phase", "drive-derated", "dc-bus":
		// Output amps from output, volts, power factor and efficiency.
		assert.InEpsilon(
			t,
			watts/(math.Sqrt(3)*p.Volts.Value*p.PowerFactor.Value*p.Efficiency.Value),
			r.Sizes["drive_output_amps"],
			0.08,
		)
		// Input amps lie between those of a power factor of 0.75 and of 0.4.
		dc := watts / p.Efficiency.Value / 0.96
		assert.Greater(t, r.Sizes["input_amps"], dc/s.Volts/0.75)
		assert.Less(t, r.Sizes["input_amps"], dc/s.Volts/0.4)
	case "rotary":
		// From the source: the shaft, the machine's losses, and the idler's.
		assert.Greater(t, *r.SupplyAmps.Load*s.Volts, share*watts+r.Sizes["idle_watts"]*0.7)
		assert.GreaterOrEqual(t, r.Sizes["idler_watts"], 0.98*watts)
	case "single-phase-motor":
		assert.InEpsilon(t, watts/(s.Volts*0.85*0.92*p.Efficiency.Value), r.Sizes["motor_amps"], 1e-9, "W/(V·pf·eff)")
	}
}
