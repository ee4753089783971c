package ladder_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/ladder"
	"brackmoor/core/motor"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/core/study"
	"brackmoor/core/supply"
)

// asked is a machine on the supply of a region.
func asked(t testing.TB, region string) *feed.Question {
	su := supply.Supply{Kind: "split-phase", Volts: 240, Hertz: 60, MainAmps: 100, Class: "usual"}
	p := plate.Typed{Output: "2 hp", Volts: "230/460", Amps: "5.8/2.9", RPM: "1745", Hertz: "60"}
	if region == circuit.UK {
		su = supply.Supply{Kind: "line-neutral", Volts: 230, Hertz: 50, MainAmps: 63, Class: "usual"}
		p = plate.Typed{Output: "1.5 kW", Volts: "230/400", Amps: "5.9/3.4", RPM: "1420", Hertz: "50"}
	}
	m := shop.Motor{Plate: p, Driven: shop.Driven{Load: "spindle"}}
	st := study.Of(su, m, motor.FitCircuit)
	require.True(t, st.Reading.Sound, "%v", st.Reading.Problems)
	return st.Ask(shop.Shop{Supply: su}, shop.Machine{Motors: []shop.Motor{m}})
}

// Every way, in both regions, by every means of starting and stopping, has a circuit that breaks no rule:
// every terminal used or a spare, and every wire at a terminal.
func TestEveryWaysCircuit(t *testing.T) {
	made := 0
	for _, region := range []string{circuit.US, circuit.UK} {
		q := asked(t, region)
		for _, w := range feed.All() {
			for i, how := range choices(w) {
				if region == circuit.UK && i%3 != 0 {
					continue // what differs there is the neutral
				}
				c := w.Wire(q, how)
				if len(c.Parts) == 0 {
					continue
				}
				made++
				name := fmt.Sprintf("%s %s %+v", region, w.Info().Name, how)
				text, err := json.Marshal(c)
				require.NoError(t, err)
				again, problems := circuit.Read(text)
				require.Empty(t, problems, name)
				assert.Equal(t, c, again)
				used(t, name, &c)
				chosen(t, name, &c, how.Stop)
				for _, wire := range c.Wires {
					if wire.From == "N" || wire.From == "Q1:4" || wire.From == "Q2:4" {
						assert.Equal(
							t,
							region == circuit.UK,
							wire.Colour == "light blue",
							"%s: wire %s",
							name,
							wire.Number,
						)
					}
				}
				check := ladder.Search(&c)
				assert.True(t, check.Whole, "%s: %d states", name, check.States)
				for _, v := range check.Violations {
					unbacked := how.Start == circuit.ByRelay || how.Start == circuit.BySwitch || !how.Backup
					if unbacked && v.Rule == "wire.start-capacitor-stays" && v.Fault != nil {
						continue // nothing stands behind a contact that nobody wished a backup for, or a relay's own
					}
					fault := "nothing"
					if v.Fault != nil {
						fault = *v.Fault
					}
					assert.Fail(t, name, "%s: %s %v, broken: %s", v.Rule, v.Says, v.Trace, fault)
				}
			}
		}
	}
	assert.GreaterOrEqual(t, made, 60)
}

// choices are those that make a difference to a way.
func choices(w feed.Way) (list []circuit.Choices) {
	if w.Info().TurnsSpeed {
		for _, command := range []string{circuit.ThreeWire, circuit.TwoWire, circuit.Drum} {
			for _, safe := range []string{circuit.SafeEnable, circuit.SafeTorqueOff, circuit.SafeContactor} {
				for i, stop := range []string{circuit.StopEmergency, circuit.StopGuard, circuit.StopButton} {
					own := circuit.Choices{Command: command, Safe: safe, Stop: stop, Brake: i == 1,
						Between: i != 1, Relay: i != 1 || command == circuit.Drum, Lamp: i == 0,
						Speed: []string{circuit.ByPotentiometer, circuit.ByPresets, circuit.ByKeypad}[i]}
					if i == 1 {
						own.Apart = [][]string{{"Kiln"}}
					}
					list = append(list, own)
				}
			}
		}
		return list
	}
	starts := []string{circuit.ByTimer, circuit.ByRelay, circuit.BySwitch, circuit.ByButton}
	if w.Info().FeedsMore {
		starts = append(starts, circuit.ByPony, circuit.ByBox)
	}
	for _, start := range starts {
		for i, stop := range []string{circuit.StopEmergency, circuit.StopButton, circuit.StopGuard} {
			own := circuit.Choices{
				Start: start, Stop: stop, Backup: i != 1, Lamp: i == 0, Control: []float64{0, 24, 0}[i],
				Stations: []int{1, 1, 2}[i], Gap: i == 0,
			}
			if i == 1 {
				own.Apart = [][]string{{"Kiln"}, {"Saw", "Planer"}}
			}
			list = append(list, own)
		}
	}
	return list
}

// chosen asserts that an emergency stop or a guard stands in it where it was chosen, and that no terminal
// has wires of low volts and others.
func chosen(t *testing.T, name string, c *circuit.Circuit, stop string) {
	for kind, by := range map[circuit.Kind]string{
		circuit.EmergencyStop: circuit.StopEmergency, circuit.GuardSwitch: circuit.StopGuard,
	} {
		stands := slices.ContainsFunc(c.Parts, func(p circuit.Part) bool { return p.Kind == kind })
		assert.Equal(t, stop == by, stands, "%s: %s", name, kind)
	}
	low := map[string]bool{}
	for _, w := range c.Wires {
		for _, end := range []string{w.From, w.To} {
			is := w.Class == circuit.LowVoltage
			was, known := low[end]
			assert.False(t, known && was != is, "%s: wire %s at %s", name, w.Number, end)
			low[end] = is
		}
	}
}

// used asserts that every terminal that carries power or moves something is joined.
func used(t *testing.T, name string, c *circuit.Circuit) {
	joined := map[string]bool{}
	for _, w := range c.Wires {
		assert.True(t, c.Ends(w.From) && c.Ends(w.To), "%s: wire %s from %s to %s", name, w.Number, w.From, w.To)
		assert.NotEmpty(t, w.Colour, "%s: %s", name, w.Number)
		joined[w.From], joined[w.To] = true, true
	}
	spare := map[circuit.Kind]bool{circuit.EmergencyStop: true, circuit.GuardSwitch: true, circuit.Contactor: true,
		circuit.Relay: true}
	for _, p := range c.Parts {
		for _, terminal := range p.Terminals {
			if len(terminal) == 2 && terminal[0] >= '1' && terminal[0] <= '9' && spare[p.Kind] ||
				p.Kind == circuit.Drive && terminal == "di2" {
				continue // an auxiliary contact, or an input, that is a spare
			}
			assert.True(t, joined[p.ID+":"+terminal], "%s: nothing is at %s:%s", name, p.ID, terminal)
		}
	}
}
