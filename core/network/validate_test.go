package network_test

import (
	"encoding/json"
	"math"
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// spoil puts a drawn number in the place of one of a case's.
func spoil(t *rapid.T, c *network.Case) {
	var places []*float64
	var walk func(v reflect.Value)
	walk = func(v reflect.Value) {
		switch v.Kind() {
		case reflect.Float64:
			places = append(places, v.Addr().Interface().(*float64))
		case reflect.Struct:
			for i := range v.NumField() {
				walk(v.Field(i))
			}
		case reflect.Slice:
			for i := range v.Len() {
				walk(v.Index(i))
			}
		case reflect.Pointer:
			if !v.IsNil() {
				walk(v.Elem())
			}
		}
	}
	walk(reflect.ValueOf(c).Elem())
	*rapid.SampledFrom(places).Draw(t, "place") = rapid.SampledFrom([]float64{
		math.NaN(), math.Inf(1), math.Inf(-1), -1, 0, 1e-9, 0.5, 3, 1e9,
	}).Draw(t, "value")
}

// What Validate finds nothing wrong with has an answer of finite numbers, or an error.
func TestWhatIsValidIsSolved(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := cases(t, rapid.Bool().Draw(t, "loaded"), rapid.Bool().Draw(t, "saturating"))
		require.Empty(t, c.Validate())
		spoil(t, &c)
		if c.Validate() != nil {
			return
		}
		result, err := network.Solve(c)
		if err != nil {
			return
		}
		_, err = json.Marshal(result) // which refuses what is no number
		require.NoError(t, err)
	})
}

func TestValidateNamesThePlace(t *testing.T) {
	good := func() network.Case {
		return network.Case{
			Supply: network.Supply{Volts: 240, Hertz: 60},
			Motors: []network.Motor{{
				ID: "m", Poles: 4, RatedHertz: 60, Slip: slip(0.03),
				Circuit: motor.Circuit{R1Ohm: 1, X1Ohm: 1, XmOhm: 30, Cages: []motor.Cage{{ROhm: 1, XOhm: 1}}},
			}},
			Capacitors: []network.Capacitor{{ID: "c", Between: network.AC, Microfarad: 40}},
		}
	}
	require.Empty(t, good().Validate())
	for path, spoil := range map[string]func(*network.Case){
		"$.supply.volts":                     func(c *network.Case) { c.Supply.Volts = math.NaN() },
		"$.supply.hertz":                     func(c *network.Case) { c.Supply.Hertz = 0 },
		"$.supply.phases":                    func(c *network.Case) { c.Supply.Phases = 2 },
		"$.motors[0].poles":                  func(c *network.Case) { c.Motors[0].Poles = 3 },
		"$.motors[0]":                        func(c *network.Case) { c.Motors[0].Slip = nil },
		"$.motors[0].slip":                   func(c *network.Case) { c.Motors[0].Slip = slip(2.5) },
		"$.motors[0].behind":                 func(c *network.Case) { c.Motors[0].Behind = "t" },
		"$.motors[0].circuit.cages":          func(c *network.Case) { c.Motors[0].Circuit.Cages = nil },
		"$.motors[0].circuit.cages[0].r_ohm": func(c *network.Case) { c.Motors[0].Circuit.Cages[0].ROhm = 0 },
		"$.capacitors[0].between":            func(c *network.Case) { c.Capacitors[0].Between = "cc" },
		"$.capacitors[0].microfarad":         func(c *network.Case) { c.Capacitors[0].Microfarad = -40 },
		"$.capacitors[0].id":                 func(c *network.Case) { c.Capacitors[0].ID = "m" },
		"$":                                  func(c *network.Case) { c.Motors, c.Capacitors = nil, nil },
		"$.rectifiers[0].displacement_factor": func(c *network.Case) {
			c.Rectifiers = []network.Rectifier{{ID: "r", Between: network.AB, DisplacementFactor: 1.2}}
		},
		"$.loads[0]": func(c *network.Case) {
			c.Loads = []network.Impedance{{ID: "l", Between: network.BC}}
		},
		"$.transformers[0].ratio": func(c *network.Case) {
			c.Transformers = []network.Transformer{{ID: "t"}}
		},
	} {
		c := good()
		spoil(&c)
		problems := c.Validate()
		require.NotEmpty(t, problems, path)
		assert.Equal(t, path, problems[0].Path)
		assert.False(t, strings.Contains(problems[0].Says, "NaN"), path)
	}
}

// The same case gives the same bits, however often it is solved.
func TestSolvedTwiceIsSolvedAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := cases(t, true, true)
		amps := func() (bits []uint64) {
			s := network.New(c)
			require.NoError(t, s.Operate())
			r := s.Result(c)
			for _, v := range []float64{
				s.SupplyAmps(), r.Volts.CA, r.Supply.Watts, r.PowerBalanceWatts, r.Motors[0].Slip,
			} {
				bits = append(bits, math.Float64bits(v))
			}
			return bits
		}
		first := amps()
		for range 5 {
			require.Equal(t, first, amps())
		}
	})
}
