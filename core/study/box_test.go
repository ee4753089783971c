package study_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/route"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// A static converter's facts: output by the model beside the schools, at which speed its
// start comes in again, what never hangs on it; each state judged by what counts in it.
func TestBoxFactsAndAcceptance(t *testing.T) {
	m := shop.Motor{Plate: plate.Typed{Output: "1 hp", Volts: "230", RPM: "1725", Hertz: "60"}, Load: "saw"}
	for name, must := range map[string][]string{
		route.Static: {"schools: two thirds 67 %", "relay falls back", "winch", "live all the same",
			"yes, its start out"},
		route.PhaseBox: {"plate amps, as joined", "must not be left idling", "winch"},
	} {
		m.Way = route.Way{Route: name}
		st := study.Of(shopSupply, m, motor.FitCircuit).On()
		require.True(t, st.Reading.Sound)
		a := st.Size()
		text := ""
		for _, f := range st.BoxFacts(&a) {
			assert.NotEmpty(t, f.Value, f.Title)
			text += f.Title + " " + f.Value + " " + f.Says + "\n"
		}
		for _, part := range must {
			assert.Contains(t, text, part, name)
		}
		if name == route.Static {
			assert.Zero(t, a.Live.RunMicrofarad)
		}
		states := map[string]bool{}
		for _, j := range st.Accept(&a) {
			states[j.State] = true
			switch {
			case j.Rule == "":
				assert.False(t, j.Accepted)
			case j.Least:
				assert.Equal(t, j.Value >= j.Limit*0.995, j.Accepted)
			default:
				assert.Equal(t, j.Value <= j.Limit*1.005, j.Accepted)
			}
			if strings.HasPrefix(j.State, "half") && j.Figure == "hottest winding" {
				assert.InDelta(t, 100, j.Limit, 1e-9)
			}
		}
		for _, state := range []string{"standing", "idle", "half load", "full load"} {
			assert.True(t, states[state], "%s %s", name, state)
		}
	}
}

// The motors of a machine as drives see them: their plate amps as joined for the supply,
// nothing where the plate does not say.
func TestOthers(t *testing.T) {
	m := shop.Machine{
		Motors: []shop.Motor{
			{
				Name:  "Spindle",
				Plate: plate.Typed{Output: "3 hp", Volts: "230/460", Amps: "9.0/4.5", RPM: "1745", Hertz: "60"},
			},
			{Name: "Blank"},
		},
	}
	others := study.Others(m, shopSupply)
	require.Len(t, others, 2)
	assert.InDelta(t, 9, others[0].Amps, 1e-9)
	assert.Zero(t, others[1].Amps)
}

var shopSupply = supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "short"}
