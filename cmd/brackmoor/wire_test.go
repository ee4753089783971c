package main

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lampCircuit is a lamp behind a breaker, an isolator and a fuse.
const lampCircuit = `{"format": "brackmoor.circuit/1", "region": "us", "sources": [{"id": "L1"}, {"id": "L2"}],
 "parts": [
  {"id": "QS", "kind": "isolator", "terminals": ["1", "2", "3", "4"]},
  {"id": "Q1", "kind": "breaker", "terminals": ["1", "2", "3", "4"]},
  {"id": "H1", "kind": "lamp", "coil_volts": 240, "terminals": ["X1", "X2"]}],
 "wires": [
  {"number": "1", "from": "L1", "to": "QS:1", "class": "power"},
  {"number": "2", "from": "L2", "to": "QS:3", "class": "power"},
  {"number": "3", "from": "QS:2", "to": "Q1:1", "class": "power"},
  {"number": "4", "from": "QS:4", "to": "Q1:3", "class": "power"},
  {"number": "5", "from": "Q1:2", "to": "H1:X1", "class": "control"},
  {"number": "6", "from": "Q1:4", "to": "H1:X2", "class": "control"}]}`

const tarn = "../../demo/tarn-hollow.json"

func TestWireChecksACircuit(t *testing.T) {
	type checked struct {
		Format     string
		States     int
		Whole      bool
		Violations []struct {
			Rule, Severity, Says string
			Parts, Trace         []string
			Fault                *string
		}
	}
	run := func(text string) (out checked) {
		got := brackmoor(text, "wire", "--check", "-")
		require.Zero(t, got.code, got.err)
		require.NoError(t, json.Unmarshal([]byte(got.out), &out))
		return out
	}
	good := run(lampCircuit)
	assert.Equal(t, "brackmoor.circuit-check/1", good.Format)
	assert.Empty(t, good.Violations)
	assert.True(t, good.Whole)
	assert.GreaterOrEqual(t, good.States, 2, "with volts and without")
	bad := run(strings.Replace(lampCircuit, `"to": "H1:X2"`, `"to": "H1:X9"`, 1))
	require.NotEmpty(t, bad.Violations)
	assert.Equal(t, "wire.dangling", bad.Violations[0].Rule)
	assert.Equal(t, "stop", bad.Violations[0].Severity)
	for _, args := range [][]string{
		{"wire"}, {"wire", "--check", "nowhere.json"}, {"wire", "--check", "a.json", "--shop", "b.json"},
		{"wire", "--shop", tarn, "--machine", "tarn-sharper"},
		{"wire", "--shop", tarn, "--machine", "tarn-shaper", "--way", "x"},
		{"wire", "--shop", tarn, "--machine", "tarn-shaper", "--motor", "x"},
		{"wire", "--shop", tarn, "--machine", "tarn-shaper", "--choice", "start=rope"},
		{"wire", "--shop", tarn, "--machine", "tarn-shaper", "--choice", "stations=9"},
	} {
		assert.Equal(t, 2, brackmoor("", args...).code, "%v", args)
	}
	refused := brackmoor(strings.Replace(lampCircuit, `"lamp"`, `"candle"`, 1), "wire", "--check", "-")
	assert.Equal(t, 2, refused.code)
	assert.Contains(t, refused.err, "parts[2].kind")
}

// What is made of a machine breaks no rule when it is read again, by the way taken and by another, and of a
// plate as of a shop.
func TestWireMakesACircuit(t *testing.T) {
	plate := brackmoor("3 HP 230/460 V 9.0/4.5 A 1745 RPM 60 HZ", "plate", "-")
	require.Zero(t, plate.code, plate.err)
	for _, c := range []struct {
		in   string
		args []string
		has  string
	}{
		{"", []string{"--shop", tarn, "--machine", "tarn-shaper", "--choice", "backup=yes", "--choice",
			"start=timer"}, `"role": "idler"`}, // it hangs on the converter
		{"", []string{"--shop", tarn, "--machine", "tarn-shaper", "--way", "start-run-capacitor",
			"--choice", "backup=yes", "--choice", "start=timer"}, `"duty": "start"`},
		{"", []string{"--shop", tarn, "--machine", "tarn-hobber", "--way", "rotary", "--choice", "start=box",
			"--choice", "control=24"}, `"secondary_volts": 24`},
		{"", []string{"--shop", tarn, "--machine", "tarn-borer", "--choice", "command=drum"}, `"does": "reverse"`},
		{plate.out, []string{"-", "--supply", "240/60", "--way", "drive-single-phase", "--choice", "safe=sto"},
			`"sto2"`},
	} {
		made := brackmoor(c.in, append([]string{"wire"}, c.args...)...)
		require.Zero(t, made.code, made.err)
		assert.Contains(t, made.out, c.has)
		checked := brackmoor(made.out, "wire", "--check", "-")
		require.Zero(t, checked.code, checked.err)
		assert.Contains(t, checked.out, `"violations": []`, "%v", c.args)
	}
}
