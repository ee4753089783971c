package faultfile_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/faultfile"
)

const (
	motor = `{"output_watts": 1491.4, "ratings": [{"volts": 230, "amps": 6, "hertz": 60, "rpm": 1745},
		{"volts": 460, "amps": 3, "hertz": 60, "rpm": 1745}]}`
	plain = `{"format": "brackmoor.diagnose/1", "way": "start-run-capacitor",
		"supply": {"volts": 240, "hertz": 60, "resistance_ohm": 0.15, "reactance_ohm": 0.08},
		"plate": ` + motor + `, "connection_volts": 230,
		"capacitors": {"run_microfarad": 54, "start_microfarad": 190, "between": "ac"},
		"symptoms": SEEN, "readings": READ, "looked": LOOKED}`
	rotary = `{"format": "brackmoor.diagnose/1", "way": "rotary",
		"supply": {"volts": 240, "hertz": 60, "resistance_ohm": 0.15, "reactance_ohm": 0.08},
		"plate": ` + motor + `, "connection_volts": 230,
		"idler": {"plate": ` + motor + `, "connection_volts": 230, "ac_microfarad": 40, "bc_microfarad": 20},
		"symptoms": SEEN, "readings": READ, "looked": LOOKED}`
)

func fill(text, seen, read, looked string) []byte {
	return []byte(strings.NewReplacer("SEEN", seen, "READ", read, "LOOKED", looked).Replace(text))
}

// What every electrician would say of these comes first.
func TestPlainStories(t *testing.T) {
	for _, c := range []struct{ way, seen, read, looked, cause string }{
		{plain, `["nothing-happens", "fuse-first"]`, `[]`, `[]`, "line-open"},
		{plain, `["starts-backwards"]`, `[]`, `[{"look": "follow-leads", "found": "exchanged"}]`, "wrong-direction"},
		{plain, `["hums-does-not-start"]`, `[{"state": "off", "ohms": {"ab": 14.5, "bc": 14.4, "ca": 14.6}}]`,
			`[{"look": "look-at-links", "found": "high-volts"}]`, "joined-for-high-volts"},
		{plain, `["hums-does-not-start"]`, `[]`, `[{"look": "measure-start-capacitor", "found": "none"}]`,
			"start-capacitor-open"},
		{plain, `["coasts-short", "labours"]`, `[]`, `[{"look": "turn-by-hand", "found": "binds"}]`, "bearing-drag"},
		{rotary, `["hums-does-not-start", "idler-stands", "idler-hums"]`, `[]`, `[]`, "idler-not-up"},
		{rotary, `["idler-stands"]`, `[]`, `[{"look": "idler-switch", "found": "out"}]`, "idler-not-on"},
		{plain, `["start-part-chatters"]`, `[]`, `[]`, "relay-worn"},
		{plain, `["volts-unplugged"]`, `[]`, `[]`, "no-discharge-resistors"},
		{plain, `["contactor-chatters"]`, `[]`, `[{"look": "follow-coil", "found": "made"}]`, "coil-on-made-leg"},
		{plain, `["nothing-happens", "fuse-second"]`, `[]`, `[]`, "second-line-open"},
		{rotary, `["contactor-chatters"]`, `[]`, `[]`, "coil-on-made-leg"},
		{rotary, `["fuse-made"]`, `[]`, `[]`, "made-leg-open"},
		{rotary, `["leg-low"]`, `[]`, `[{"look": "measure-balance-capacitors", "found": "none"}]`,
			"balance-capacitor-open"},
	} {
		seen, problems := faultfile.Read(fill(c.way, c.seen, c.read, c.looked))
		require.Empty(t, problems)
		a := faultfile.Solve(&seen)
		assert.Equal(t, faultfile.Diagnosed, a.Format)
		assert.Equal(t, c.cause, a.Causes[0].ID, "%s %s", c.seen, c.looked)
		assert.NotEmpty(t, a.Causes[0].Cure)
	}
}

// What cannot be understood is said at its place.
func TestWhatIsWrongIsSaid(t *testing.T) {
	for _, c := range []struct{ text, path string }{
		{string(fill(plain, `["dances"]`, `[]`, `[]`)), "$.symptoms[0]"},
		{string(fill(plain, `[]`, `[]`, `[{"look": "peek", "found": "x"}]`)), "$.looked[0].look"},
		{string(fill(plain, `[]`, `[]`, `[{"look": "kick-test", "found": "x"}]`)), "$.looked[0].found"},
		{string(fill(plain, `[]`, `[{"state": "dancing"}]`, `[]`)), "$.readings[0].state"},
		{strings.Replace(string(fill(plain, `[]`, `[]`, `[]`)), "start-run-capacitor", "magic", 1), "$.way"},
		{strings.Replace(string(fill(plain, `[]`, `[]`, `[]`)), "start-run-capacitor", "rotary", 1), "$.idler"},
		{strings.Replace(string(fill(plain, `[]`, `[]`, `[]`)), `"connection_volts": 230`, `"connection_volts": 90`, 1),
			"$.plate"},
	} {
		_, problems := faultfile.Read([]byte(c.text))
		require.NotEmpty(t, problems, c.path)
		assert.Contains(t, problems[0].Path, c.path)
	}
	known := faultfile.List()
	assert.GreaterOrEqual(t, len(known.Causes), 30)
	assert.NotEmpty(t, known.Symptoms)
}

// Whatever is seen and looked at, the answer stands: chances that add to one, and a look that has not been taken.
func TestAnyStoryHasAnAnswer(t *testing.T) {
	known := faultfile.List()
	rapid.Check(t, func(rt *rapid.T) {
		text := rapid.SampledFrom([]string{plain, rotary}).Draw(rt, "way")
		c, problems := faultfile.Read(fill(text, `[]`, `[]`, `[]`))
		require.Empty(rt, problems)
		for _, s := range known.Symptoms {
			if rapid.IntRange(0, 5).Draw(rt, s.ID) == 0 {
				c.Symptoms = append(c.Symptoms, s.ID)
			}
		}
		a := faultfile.Solve(&c)
		sum := 0.0
		for _, x := range a.Causes {
			assert.GreaterOrEqual(rt, x.Probability, 0.0)
			sum += x.Probability
		}
		assert.InDelta(rt, 1, sum, 1e-9)
		if a.Next != nil {
			assert.NotEmpty(rt, a.Next.Found)
			assert.NotEqual(rt, a.Next.Parts[0], a.Next.Parts[1])
		}
	})
}
