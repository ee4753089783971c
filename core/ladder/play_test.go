package ladder_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/ladder"
)

// named is the first part of a kind with a name.
func named(t *testing.T, c *circuit.Circuit, kind circuit.Kind, name string) string {
	i := slices.IndexFunc(c.Parts, func(p circuit.Part) bool { return p.Kind == kind && p.Name == name })
	require.GreaterOrEqual(t, i, 0, "%s %s", kind, name)
	return c.Parts[i].ID
}

// A converter is started, lets its load on once it is up, drops all of it with the volts, and stays off as they return.
func TestPlayAConverter(t *testing.T) {
	w, _ := feed.ByName("rotary")
	c := w.Wire(asked(t, circuit.US), circuit.Choices{})
	start, main := named(t, &c, circuit.PushButton, "start"), named(t, &c, circuit.Contactor, "converter")
	help, load := named(t, &c, circuit.Contactor, "start"), named(t, &c, circuit.Contactor, "machine")
	idler := named(t, &c, circuit.Motor, "idler")
	begins := ""
	for _, p := range c.Parts { // the start button of the machine is the last
		if p.Function == "start" {
			begins = p.ID
		}
	}
	done := []ladder.Action{}
	play := func(now int32) ladder.Played {
		p, err := ladder.Play(&c, "", done, now)
		require.NoError(t, err)
		assert.Empty(t, p.Broken)
		return p
	}
	press := func(at int32, part string) {
		done = append(done, ladder.Action{At: at, Do: ladder.Move, Part: part, To: 1},
			ladder.Action{At: at + 100, Do: ladder.Move, Part: part})
	}
	assert.Nil(t, play(1000).Due, "it rests")
	press(1000, start)
	made := func(at int32) float64 { return play(at).Made[0].Volts }
	leg := c.Part(idler).MadeVolts
	require.NotNil(t, leg)
	for _, on := range []float64{0.4, 0.7, 1} { // of its way up
		at := 1000 + int32(1000*on*c.Part(idler).Seconds)
		assert.InDelta(t, leg.Standing+on*(leg.CutOut-leg.Standing), made(at), 2)
	}
	p := play(1200)
	assert.True(t, p.In[main] && p.In[help] && p.In[idler])
	assert.True(t, p.Live[idler+":U"])
	assert.False(t, p.Live[idler+":W"], "the made leg comes with the idler")
	require.NotNil(t, p.Due)
	press(1500, begins)
	assert.False(t, play(1700).In[load], "not before the load is let on")
	ends := 1000 + int32(1000*c.Part(named(t, &c, circuit.Timer, "start timer")).Seconds)
	assert.Less(t, int32(1000*c.Part(idler).Seconds), ends-1000, "no sooner than it is up")
	p = play(max(ends-1, 1700))
	assert.Equal(t, ends > 1700, p.In[help])
	p = play(max(ends, 1700))
	assert.False(t, p.In[help], "by its timer")
	assert.True(t, p.Live[idler+":W"])
	assert.InDelta(t, leg.Running, p.Made[0].Volts, 1)
	press(7000, begins)
	p = play(7200)
	assert.True(t, p.In[load] && p.Closed[load+":1"] && p.Closed[load+":2"])
	done = append(done, ladder.Action{At: 8000, Do: ladder.Lose})
	p = play(8000)
	assert.Zero(t, p.Made[0].Volts)
	assert.False(t, p.Supply || p.In[main] || p.In[load] || p.Live["L1"])
	done = append(done, ladder.Action{At: 9000, Do: ladder.Back})
	p = play(20_000)
	assert.True(t, p.Supply && p.Live["L1"])
	assert.False(t, p.In[main] || p.In[load])
	assert.Nil(t, p.Due)
	for _, track := range p.Tracks {
		if track.Part == main {
			assert.Equal(t, []ladder.Level{{}, {At: 1000, Is: 1}, {At: 8000}}, track.Levels)
		}
		for i := 1; i < len(track.Levels); i++ {
			assert.GreaterOrEqual(t, track.Levels[i].At, track.Levels[i-1].At)
		}
	}
}

// With its start contact welded the start capacitor stays, and that is said where it comes about.
func TestPlayWithSomethingBroken(t *testing.T) {
	w, _ := feed.ByName("rotary")
	c := w.Wire(asked(t, circuit.US), circuit.Choices{})
	start := named(t, &c, circuit.PushButton, "start")
	weld := ""
	for _, f := range ladder.Faults(&c) {
		if f.Says == named(t, &c, circuit.Contactor, "start")+" welded" {
			weld = f.Name
		}
	}
	require.NotEmpty(t, weld)
	done := []ladder.Action{{At: 100, Do: ladder.Move, Part: start, To: 1}, {At: 200, Do: ladder.Move, Part: start}}
	soon, err := ladder.Play(&c, weld, done, 1000)
	require.NoError(t, err)
	assert.Empty(t, soon.Broken)
	late, err := ladder.Play(&c, weld, done, 20_000)
	require.NoError(t, err)
	require.NotEmpty(t, late.Broken)
	assert.Equal(t, "wire.start-capacitor-stays", late.Broken[0].Rule)

	for name, bad := range map[string][]ladder.Action{
		"no such part": {{Do: ladder.Move, Part: "Z9"}}, "no such position": {{Do: ladder.Move, Part: start, To: 2}},
		"no overload": {{Do: ladder.Trip, Part: start}},
		"backwards":   {{At: 50, Do: ladder.Lose}, {At: 20, Do: ladder.Back}},
	} {
		_, err := ladder.Play(&c, "", bad, 100)
		assert.Error(t, err, name)
	}
	_, err = ladder.Play(&c, "9-9", nil, 0)
	assert.Error(t, err)
}

// Whatever hands do to a circuit in whatever order, more of them at once than the search looks at too, it breaks no
// rule and passes no state where two potentials meet.
func TestPlayAnything(t *testing.T) {
	type case_ struct {
		name string
		c    circuit.Circuit
	}
	var all []case_
	for _, w := range feed.All() {
		for _, how := range choices(w)[:3] {
			if c := w.Wire(asked(t, circuit.UK), how); len(c.Parts) > 0 {
				all = append(all, case_{w.Info().Name, c})
			}
		}
	}
	rapid.Check(t, func(r *rapid.T) {
		of := rapid.SampledFrom(all).Draw(r, "circuit")
		var hands []string
		var overloads []string
		for _, p := range of.c.Parts {
			switch p.Kind {
			case circuit.PushButton, circuit.EmergencyStop, circuit.Selector, circuit.GuardSwitch:
				hands = append(hands, p.ID)
			case circuit.Overload:
				overloads = append(overloads, p.ID)
			}
		}
		var done []ladder.Action
		at := int32(0)
		for range rapid.IntRange(0, 12).Draw(r, "actions") {
			at += int32(rapid.SampledFrom([]int{0, 50, 700, 2600, 9000}).Draw(r, "pause"))
			a := ladder.Action{At: at, Do: rapid.SampledFrom([]string{
				ladder.Move, ladder.Move, ladder.Move, ladder.Trip, ladder.Reset, ladder.Lose, ladder.Back,
			}).Draw(r, "do")}
			switch a.Do {
			case ladder.Move:
				a.Part, a.To = rapid.SampledFrom(hands).Draw(r, "hand"), uint8(rapid.IntRange(0, 1).Draw(r, "to"))
			case ladder.Trip, ladder.Reset:
				if overloads == nil {
					continue
				}
				a.Part = rapid.SampledFrom(overloads).Draw(r, "overload")
			}
			done = append(done, a)
		}
		p, err := ladder.Play(&of.c, "", done, at+20_000)
		if err != nil || len(p.Broken) > 0 {
			r.Fatalf("%s: %v %v %v", of.name, err, p.Broken, done)
		}
	})
}
