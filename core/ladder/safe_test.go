package ladder_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/circuit"
	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/ladder"
)

// script plays moves one after the other, a second apart, and gives how the circuit stands after each.
func script(t *testing.T, c *circuit.Circuit, broken string, moves ...ladder.Action) (list []ladder.Played) {
	for i := range moves {
		moves[i].At, moves[i].Do = int32(1000*(i+1)), ladder.Move
		p, err := ladder.Play(c, broken, moves[:i+1], moves[i].At+500)
		require.NoError(t, err)
		list = append(list, p)
	}
	return list
}

// A safety relay brings a drive's channels in after its reset was pressed anew, drops them with the stop, and nothing
// runs by the reset alone; one whose reset is stuck never comes in.
func TestSafetyRelay(t *testing.T) {
	w, _ := feed.ByName("drive-single-phase")
	for _, safe := range []string{circuit.SafeTorqueOff, circuit.SafeContactor} {
		c := w.Wire(asked(t, circuit.US), circuit.Choices{Safe: safe, Relay: true})
		relay, reset := named(t, &c, circuit.SafetyRelay, "safety relay"), named(t, &c, circuit.PushButton, "reset")
		stop, start := named(t, &c, circuit.EmergencyStop, "emergency stop"), named(t, &c, circuit.PushButton, "start")
		move := func(part string, to uint8) ladder.Action { return ladder.Action{Part: part, To: to} }
		moves := []ladder.Action{
			move(start, 1), move(start, 0), // nothing before a reset
			move(reset, 1), move(reset, 0), move(start, 1), move(start, 0),
			move(stop, 1), move(stop, 0), move(reset, 1), move(reset, 0), move(start, 1),
		}
		relayIn := []bool{false, false, true, true, true, true, false, false, true, true, true}
		runs := []bool{false, false, false, false, true, true, false, false, false, false, true}
		for i, p := range script(t, &c, "", moves...) {
			assert.Equal(t, relayIn[i], p.In[relay], "%s: the relay after %d", safe, i)
			assert.Equal(t, runs[i], p.In["A1"], "%s: the drive after %d", safe, i)
			assert.Empty(t, p.Broken)
		}
		stuck := slices.IndexFunc(
			ladder.Faults(&c),
			func(f ladder.Fault) bool { return f.Says == reset+" stuck pressed" },
		)
		require.GreaterOrEqual(t, stuck, 0)
		for _, p := range script(t, &c, ladder.Faults(&c)[stuck].Name, moves...) {
			assert.False(t, p.In[relay], "%s: its reset is stuck", safe)
		}
	}
}

// Of two contactors before a drive one may weld: the other still takes its supply, and the relay is not reset again.
func TestTwoContactorsBehindASafetyRelay(t *testing.T) {
	w, _ := feed.ByName("drive-single-phase")
	c := w.Wire(asked(t, circuit.US), circuit.Choices{Safe: circuit.SafeContactor, Relay: true})
	relay, reset := named(t, &c, circuit.SafetyRelay, "safety relay"), named(t, &c, circuit.PushButton, "reset")
	for _, f := range ladder.Faults(&c) {
		if len(f.Says) < 9 || f.Says[2:] != " welded" {
			continue
		}
		p := script(t, &c, f.Name, ladder.Action{Part: reset, To: 1}, ladder.Action{Part: reset})[1]
		assert.False(t, p.In[relay] || p.Live["A1:L1"], "%s: no reset past a welded contactor", f.Says)
	}
}

// Machines are kept apart by contacts: one of a set of two may run beside this one, both may not; without its contact
// the rule says so.
func TestInterlocks(t *testing.T) {
	for _, way := range []string{"start-run-capacitor", "rotary", "drive-single-phase"} {
		w, _ := feed.ByName(way)
		c := w.Wire(asked(t, circuit.US), circuit.Choices{Backup: true, Apart: [][]string{{"Saw", "Planer"}}})
		require.NotEmpty(t, c.Parts, way)
		assert.Empty(t, ladder.Search(&c).Violations, way)
		saw, planer := named(t, &c, circuit.Interlock, "Saw"), named(t, &c, circuit.Interlock, "Planer")
		open := c
		open.Wires = slices.Clone(c.Wires)
		for i := range open.Wires { // around both: what they feed is fed from before them
			for _, end := range []*string{&open.Wires[i].From, &open.Wires[i].To} {
				if *end == saw+":22" || *end == planer+":22" {
					*end = saw + ":21"
				}
			}
		}
		found := ladder.Search(&open).Violations
		assert.True(t, slices.ContainsFunc(found, func(v ladder.Violation) bool {
			return v.Rule == "wire.interlock" && v.Fault == nil && len(v.Trace) >= 3
		}), "%s: %v", way, found)
		alone := w.Wire(asked(t, circuit.US), circuit.Choices{Apart: [][]string{{"Saw"}}})
		start := ""
		for _, p := range alone.Parts {
			if p.Function == "start" {
				start = p.ID // the last starts the machine
			}
		}
		own := map[string]string{"rotary": "K2"}[way]
		if own == "" {
			own = map[string]string{"start-run-capacitor": "K1", "drive-single-phase": "A1"}[way]
		}
		p := script(t, &alone, "", ladder.Action{Part: named(t, &alone, circuit.Interlock, "Saw"), To: 1},
			ladder.Action{Part: start, To: 1})[1]
		assert.False(t, p.In[own], way)
	}
}

// The other machines on a shop's converter keep it from starting while one of them is in; around their contact the rule
// says so.
func TestOtherMachinesOnAConverter(t *testing.T) {
	w, _ := feed.ByName("rotary")
	for _, start := range []string{circuit.ByTimer, circuit.ByRelay, circuit.ByPony, circuit.ByBox} {
		q := asked(t, circuit.US)
		q.Fed.Others = []string{"Lathe", "Mill"}
		c := w.Wire(q, circuit.Choices{Start: start, Backup: true})
		for _, v := range ladder.Search(&c).Violations {
			if v.Rule != "wire.start-capacitor-stays" {
				assert.Fail(t, start, "%s: %s %v", v.Rule, v.Says, v.Trace)
			}
		}
		others := named(t, &c, circuit.Interlock, "Lathe, Mill")
		c.Wires = append(c.Wires, circuit.Wire{
			Number: "900", From: others + ":21", To: others + ":22", Class: circuit.Control,
		})
		found := ladder.Search(&c).Violations
		assert.True(t, slices.ContainsFunc(found, func(v ladder.Violation) bool {
			return v.Rule == "wire.load-before-converter" && v.Fault == nil && v.Parts[0] == others
		}), "%s: %v", start, found)
	}
}

// A drive of a profile has its own marks on the circuit, and says of each bridge whether it stays.
func TestMarksAndLinksOfAProfile(t *testing.T) {
	q := asked(t, circuit.US)
	q.Profile = drive.Among(nil, "Marram 3 (made up)")
	w, _ := feed.ByName("drive-single-phase")
	do := func(how circuit.Choices) (list []string) {
		c := w.Wire(q, how)
		assert.Equal(t, "A1:28", c.Marked("A1:enable"))
		assert.Equal(t, "A1:T1", c.Marked("A1:U"))
		for _, l := range c.Part("A1").Links {
			list = append(list, l.Do)
		}
		return list
	}
	assert.Equal(t, []string{"remove", "leave", "leave"}, do(circuit.Choices{}))
	assert.Equal(t, []string{"remove", "remove", "remove"}, do(circuit.Choices{Safe: circuit.SafeTorqueOff}))
}
