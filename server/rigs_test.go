package server_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/prove"
	"brackmoor/server"
)

// A rig is put up, done to, read, and taken down; what is read of it is not the machine's own.
func TestARigOnTheBench(t *testing.T) {
	s := open(t, nil)
	var r server.RigPicture
	rig := func(motor, plant string, seed int) answer {
		return s.ask(
			"POST",
			"/api/bench/rigs",
			fmt.Sprintf(`{"shop": "tarn-hollow", "motor": %q, "plant": %q, "seed": %d}`, motor, plant, seed),
		)
	}
	rig("tarn-hobber-m1", "gremlin", 1).problem(422)
	rig("tarn-borer-m1", "", 1).problem(409) // a drive's motor has no lines of its own
	rig("tarn-hobber-m1", "weak-can", 5).json(&r)
	at := "/api/bench/rigs/" + r.ID
	assert.Len(t, r.Motors, 2)
	assert.Len(t, r.Earths, 3)
	do := func(what, of, to string, by float64) {
		s.ask("POST", at+"/doings", fmt.Sprintf(`{"what": %q, "of": %q, "to": %q, "by": %v}`, what, of, to, by)).
			json(&r)
	}
	var before server.Proof
	s.ask("GET", "/api/motors/tarn-hobber-m1/prove", "").json(&before)
	do("spin", "idler", "", 1700)
	do("close", "supply", "", 0)
	do("close", "idler", "", 0)
	require.Eventually(t, func() bool {
		s.ask("GET", at+"?probes=volts:bc,ohms:idler&signals=volts.ab", "").json(&r)
		shown := r.Meters["volts:bc"]
		return shown.Value != nil && *shown.Value > 200
	}, 10*time.Second, 100*time.Millisecond)
	assert.NotContains(t, r.Meters, "ohms:idler", "what is not put on a live circuit is not read again and again")
	require.Len(t, r.Traces, 1)
	assert.Empty(t, r.Mistakes)
	s.ask("POST", at+"/readings", `{"state": "idle"}`).problem(422)
	var proof server.Proof
	s.ask("POST", at+"/readings", `{"state": "alone"}`).json(&proof)
	require.Len(t, proof.Readings, 1)
	assert.Equal(t, prove.Alone, proof.Readings[0].State)
	var after server.Proof
	s.ask("GET", "/api/motors/tarn-hobber-m1/prove", "").json(&after)
	assert.Equal(t, before, after, "nothing of it is the machine's")
	var shown struct{ Says string }
	s.ask("POST", at+"/probe", `{"meter": "ohms", "at": "idler"}`).json(&shown)
	assert.Contains(t, shown.Says, "nonsense")
	s.ask("POST", at+"/pace", `{"pace": 0}`).json(&r)
	stood := r.Seconds
	time.Sleep(200 * time.Millisecond)
	s.ask("GET", at, "").json(&r)
	assert.InDelta(t, stood, r.Seconds, 1e-9, "paused")
	require.Len(t, r.Mistakes, 1)
	assert.Empty(t, r.Hidden)
	assert.Zero(t, r.Motors[0].Winding)
	s.ask("GET", at+"?teacher=true", "").json(&r)
	assert.Contains(t, r.Hidden, "down to half")
	assert.Greater(t, r.Motors[0].Winding, 20.0)
	s.ask("DELETE", at, "")
	s.ask("GET", at, "").problem(404)
	// A machine that nobody has: the same for everybody with the seed.
	var one, two server.RigPicture
	rig("", "", 11).json(&one)
	rig("", "", 11).json(&two)
	assert.Equal(t, one.Title, two.Title)
	assert.Contains(t, one.Title, "Invented, ")
	assert.Equal(t, one.Cans, two.Cans)
	for _, id := range []string{one.ID, two.ID} {
		s.ask("DELETE", "/api/bench/rigs/"+id, "")
	}
}
