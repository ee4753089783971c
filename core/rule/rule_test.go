package rule_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"brackmoor/core/rule"
)

// Every rule has an id of its own, a severity, a sentence and a source, and its
// limits carry their unit in their name.
func TestCatalogue(t *testing.T) {
	seen := map[string]bool{}
	id := regexp.MustCompile(`^[a-z]+(\.[a-z]+(-[a-z]+)*)+$`)
	unit := regexp.MustCompile(`(percent|watts|volts|seconds|product|usual|margin|factor|megohms|share)`)
	for _, r := range rule.Catalogue {
		assert.Regexp(t, id, r.ID)
		assert.False(t, seen[r.ID], r.ID)
		seen[r.ID] = true
		assert.Contains(t, []rule.Severity{rule.Stop, rule.Caution, rule.Note}, r.Severity, r.ID)
		assert.NotEmpty(t, r.Title, r.ID)
		assert.True(t, strings.HasSuffix(r.Why, "."), r.ID)
		assert.NotEmpty(t, r.Source, r.ID)
		for name := range r.Limits {
			assert.Regexp(t, unit, name, r.ID)
		}
	}
}

func TestSpeakCarriesNumbersAndLimits(t *testing.T) {
	v := rule.Speak("capacitor.hard-start", rule.Numbers{"margin": 1.1}, "Do this.", "It is %.1f.", 1.1)
	assert.Equal(t, "It is 1.1.", v.Says)
	assert.Equal(t, rule.Caution, v.Severity)
	assert.Equal(t, rule.Limit("capacitor.hard-start", "least_margin"), v.Numbers["limit_least_margin"])
	assert.Equal(t, 1.1, v.Numbers["margin"])
}

func TestSpeakDoesNotWriteIntoTheCatalogue(t *testing.T) {
	v := rule.Speak("capacitor.hard-start", nil, "", "x")
	v.Numbers["limit_least_margin"] = 99
	assert.NotEqual(t, 99.0, rule.Limit("capacitor.hard-start", "least_margin"))
}

func TestUnknownRulesAndLimitsPanic(t *testing.T) {
	assert.Panics(t, func() { rule.Get("no.such") })
	assert.Panics(t, func() { rule.Limit("capacitor.hard-start", "none") })
}

func TestWorstAndSorted(t *testing.T) {
	note, caution, stop := rule.Verdict{
		Severity: rule.Note,
	}, rule.Verdict{
		Severity: rule.Caution,
	}, rule.Verdict{
		Severity: rule.Stop,
	}
	list := []rule.Verdict{note, caution, stop, note}
	assert.Equal(t, rule.Stop, rule.Worst(list))
	assert.Equal(t, rule.Severity(""), rule.Worst(nil))
	assert.Equal(t, []rule.Verdict{stop, caution, note, note}, rule.Sorted(list))
	assert.Equal(t, note, list[0], "the list given stays as it was")
}

func TestRests(t *testing.T) {
	sure := rule.Working{Steps: []rule.Step{{Terms: []rule.Term{{Origin: rule.Stated}, {Origin: rule.Derived}}}}}
	assert.False(t, sure.Rests())
	sure.Steps = append(sure.Steps, rule.Step{Terms: []rule.Term{{Origin: rule.Assumed}}})
	assert.True(t, sure.Rests())
}

func TestTitlesInASentence(t *testing.T) {
	for title, want := range map[string]string{"Drive built for one phase": "drive built for one " +
		"phase", "DC bus with a reactor": "DC bus with a reactor", "A winding is hot": "a winding is hot", "": "",
		"X": "x"} {
		assert.Equal(t, want, rule.InSentence(title))
	}
}

// Every rule speaks in one place, and each place has some.
func TestPlaces(t *testing.T) {
	seen := map[string]int{}
	for _, p := range rule.Places() {
		assert.NotEmpty(t, p.Rules, p.Title)
		for _, id := range p.Rules {
			seen[id]++
		}
	}
	assert.Len(t, seen, len(rule.Catalogue))
	for id, times := range seen {
		assert.Equal(t, 1, times, id)
	}
}
