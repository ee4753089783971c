package tunefile_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/learn"
	"brackmoor/core/network"
	"brackmoor/core/tunefile"
)

const (
	idler = `{"plate": {"output_watts": 3728.5, "ratings": [{"volts": 230, "amps": 13.4, "hertz": 60, "rpm": 1750},
		{"volts": 460, "amps": 6.7, "hertz": 60, "rpm": 1750}]}, "connection_volts": 230}`
	lathe = `{"id": "lathe", "plate": {"output_watts": 2237.1,
		"ratings": [{"volts": 230, "amps": 9.0, "hertz": 60, "rpm": 1745}]}}`
	plain = `{"format": "brackmoor.tune/1",
		"supply": {"volts": 240, "hertz": 60, "resistance_ohm": 0.2, "reactance_ohm": 0.1},
		"idler": ` + idler + `, "machines": [` + lathe + `],
		"shelf": [{"microfarad": 20, "count": 6}, {"microfarad": 5, "count": 6}],
		"limits": {"unbalance_percent": 4},
		"matters": [{"on": []}, {"on": ["lathe"], "load_share": {"lathe": 0.6}}],
		"readings": []}`
)

// read is what a meter without a doubt reads of a file's own machines in a state, changed by somebody, as JSON.
func read(t *testing.T, c learn.Case, on string, share, ac, bc float64, change func(m *network.Motor)) map[string]any {
	t.Helper()
	n := network.Case{Supply: c.Supply, Motors: []network.Motor{c.Idler.Network}}
	n.Motors[0].Load = &network.Load{Kind: "power"}
	own := map[string]any{"on": []string{}, "ac_microfarad": ac, "bc_microfarad": bc}
	if on != "" {
		m := c.Machines[0].Network
		m.Load = &network.Load{Kind: "power", Watts: share * c.Machines[0].Watts}
		n.Motors = append(n.Motors, m)
		own["on"], own["load_share"] = []string{on}, map[string]float64{on: share}
	}
	if change != nil {
		change(&n.Motors[0])
	}
	n.Capacitors = []network.Capacitor{
		{ID: "x", Between: network.AC, Microfarad: ac}, {ID: "y", Between: network.BC, Microfarad: bc},
	}
	r, err := network.Solve(n)
	require.NoError(t, err)
	amps := map[string]any{"supply": r.Supply.Amps}
	for _, m := range r.Motors {
		amps[m.ID] = map[string]float64{"a": m.LineAmps.A, "b": m.LineAmps.B, "c": m.LineAmps.C}
	}
	own["volts"] = map[string]float64{"ab": r.Volts.AB, "bc": r.Volts.BC, "ca": r.Volts.CA}
	own["amps"] = amps
	return own
}

// solve answers a file with readings.
func solve(t *testing.T, text string, readings ...map[string]any) tunefile.Answer {
	t.Helper()
	list, err := json.Marshal(append([]map[string]any{}, readings...))
	require.NoError(t, err)
	f, c, problems := tunefile.Read([]byte(strings.Replace(text, `"readings": []`, `"readings": `+string(list), 1)))
	require.Empty(t, problems)
	return tunefile.Solve(f, c)
}

// rules are those that an answer speaks of.
func rules(a tunefile.Answer) (ids []string) {
	ids = []string{}
	for _, v := range a.Verdicts {
		ids = append(ids, v.Rule)
	}
	return ids
}

// What is read as the plates foretold it leaves everything as it is; what is not is told.
func TestSolve(t *testing.T) {
	_, c, problems := tunefile.Read([]byte(plain))
	require.Empty(t, problems)
	bare := solve(t, plain)
	assert.Equal(t, []string{"learn.unproved", "learn.unproved"}, rules(bare))
	require.NotNil(t, bare.Change, "without capacitors the legs are far apart")
	for _, p := range bare.Fitted {
		assert.InDelta(t, p.Prior, p.Value, 0, p.Name)
	}
	ac, bc := bare.After.AC, bare.After.BC
	as := []map[string]any{read(t, c, "", 0, ac, bc, nil), read(t, c, "lathe", 0.6, ac, bc, nil)}
	a := solve(t, plain, as...)
	assert.True(t, a.Good && a.Reaches)
	assert.Nil(t, a.Change)
	assert.Empty(t, rules(a))
	for i, e := range a.Expect {
		assert.InDelta(t, bare.Expect[i].Volts.BC, e.Volts.BC, 0.5)
		assert.Less(t, e.Low.BC, e.Volts.BC)
		assert.Less(t, e.High.BC-e.Low.BC, bare.Expect[i].High.BC-bare.Expect[i].Low.BC, "what was read is surer")
	}
	as[1]["amps"].(map[string]any)["supply"] = 10 * as[1]["amps"].(map[string]any)["supply"].(float64)
	a = solve(t, plain, as...)
	assert.Equal(t, []string{"learn.misread"}, rules(a))
	assert.Equal(t, learn.Misread{Reading: 1, Place: "amps.supply", Says: a.Misread[0].Says}, a.Misread[0])
	half := func(m *network.Motor) { // an idler that is joined otherwise, or another motor
		m.Circuit = m.Circuit.Sized(2)
	}
	a = solve(t, plain, read(t, c, "", 0, ac, bc, half), read(t, c, "lathe", 0.6, ac, bc, half),
		read(t, c, "lathe", 0.1, ac, bc, half))
	assert.Contains(t, rules(a), "learn.unlike-plate")
	few := read(t, c, "lathe", 0.6, ac, 0.5*bc, nil)
	few["bc_microfarad"] = bc // as it is printed on the cans
	a = solve(t, plain, few, read(t, c, "", 0, ac+20, 0.5*bc, nil))
	assert.NotContains(t, rules(a), "learn.can-weak", "half of the second is said to be in")
	also := read(t, c, "", 0, ac, 0.5*bc, nil)
	also["bc_microfarad"] = bc
	a = solve(t, plain, few, also)
	assert.Contains(t, rules(a), "learn.can-weak")
	strict := strings.Replace(plain, `"unbalance_percent": 4`, `"unbalance_percent": 0.01, "made_leg_volts": 240`, 1)
	a = solve(t, strict, read(t, c, "", 0, ac, bc, nil))
	assert.False(t, a.Good || a.Reaches)
	assert.Contains(t, rules(a), "learn.out-of-reach")
	assert.Contains(t, rules(a), "learn.unproved")
}

// Capacitors on one machine are tuned without an idler.
func TestMachineAlone(t *testing.T) {
	text := strings.Replace(plain, `"idler": `+idler+",", "", 1)
	text = strings.Replace(text, `{"on": []}, `, "", 1)
	a := solve(t, text)
	require.NotNil(t, a.Change)
	require.Len(t, a.Expect, 1)
	assert.Less(t, a.Expect[0].Unbalance, 15.0)
	for _, p := range a.Fitted {
		assert.NotEqual(t, "idler", p.Of)
	}
}

func TestWrongFiles(t *testing.T) {
	change := func(from, to string) string {
		require.Contains(t, plain, from)
		return strings.Replace(plain, from, to, 1)
	}
	one := func(reading string) string { return change(`"readings": []`, `"readings": [`+reading+`]`) }
	for _, c := range []struct{ text, path, says string }{
		{"{", "$", "JSON"},
		{change(`"brackmoor.tune/1"`, `"brackmoor.tune/2"`), "$.format", ""},
		{change(`"connection_volts": 230`, `"connection_volts": 400`), "$.idler.plate", "no rating for 400 V"},
		{change(`"amps": 9.0`, `"amps": 900`), "$.machines[0].plate", ""},
		{change(`"idler": `+idler+",", ""), "", ""},
		{change(`"machines": [`+lathe+`]`, `"machines": [`+lathe+", "+lathe+`]`), "$.machines[1].id", "twice"},
		{one(`{"on": ["mill"]}`), "$.readings[0].on[0]", `no machine "mill"`},
		{one(`{"on": [], "load_share": {"lathe": 1}}`), "$.readings[0].load_share.lathe", "not on"},
		{one(`{"on": [], "amps": {"lathe": {"a": 3}}}`), "$.readings[0].amps.lathe", "does not run"},
		{one(`{"on": [], "volts": {"ab": -3}}`), "$.readings[0].volts.ab", ""},
		{change(`"idler": `+idler+`, "machines": [`+lathe+`]`, `"machines": []`), "$.machines", "one machine"},
	} {
		_, _, problems := tunefile.Read([]byte(c.text))
		if c.path == "" {
			assert.Empty(t, problems, "a machine alone is one")
			continue
		}
		require.NotEmpty(t, problems, c.path)
		assert.True(t, strings.HasPrefix(problems[0].Path, c.path), "%v", problems)
		assert.Contains(t, fmt.Sprint(problems), c.says)
	}
}
