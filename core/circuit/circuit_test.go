package circuit_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/circuit"
)

// whole is a circuit with something in every field.
func whole() circuit.Circuit {
	return circuit.Circuit{
		Format:  circuit.Format,
		Region:  circuit.US,
		Title:   "A pump",
		Volts:   240,
		Sources: []circuit.Source{{ID: "L1"}, {ID: "L2"}, {ID: "PE"}},
		Parts: []circuit.Part{
			{ID: "K1", Kind: circuit.Contactor, Name: "main", Amps: 25, Volts: 600, CoilVolts: 240, Function: "forward",
				Terminals: []string{"1", "2", "3", "4", "5", "6", "A1", "A2", "13", "14", "21", "22"}},
			{
				ID:        "S1",
				Kind:      circuit.PushButton,
				Function:  "stop",
				Stops:     []string{"M1"},
				Terminals: []string{"11", "12"},
			},
			{ID: "T1", Kind: circuit.Timer, Delay: "on", Seconds: 3, Terminals: []string{"A1", "A2", "15", "16", "18"}},
			{
				ID:           "K9",
				Kind:         circuit.PotentialRelay,
				PickUpVolts:  180,
				DropOutVolts: 90,
				Terminals:    []string{"1", "2", "5"},
			},
			{ID: "C1", Kind: circuit.Capacitor, Duty: "start", Microfarad: 200, Terminals: []string{"1", "2"}},
			{
				ID:        "M1",
				Kind:      circuit.Motor,
				Role:      circuit.Pony,
				WithIdler: true,
				Terminals: []string{"U", "V", "W", "PE"},
			},
			{ID: "T9", Kind: circuit.ControlTransformer, Secondary: 24, Terminals: []string{"H1", "H2", "X1", "X2"}},
			{ID: "A1", Kind: circuit.Drive, Terminals: []string{"L1", "U", "com", "di1"},
				Inputs: []circuit.Command{{Terminal: "di1", Does: "run"}}},
			{ID: "Q1", Kind: circuit.Breaker, Slash: true, Terminals: []string{"1", "2"}},
		},
		Wires: []circuit.Wire{
			{Number: "1", From: "L1", To: "K1:1", Class: circuit.Power, Size: "10 AWG", Colour: "black",
				Metre: 0.4},
		},
	}
}

// What is written is read again as it was, every field of it.
func TestACircuitComesBack(t *testing.T) {
	c := whole()
	text, err := json.Marshal(c)
	require.NoError(t, err)
	again, problems := circuit.Read(text)
	require.Empty(t, problems)
	assert.Equal(t, c, again)
	assert.True(t, again.Ends("K1:13"))
	assert.True(t, again.Ends("PE"))
	assert.False(t, again.Ends("K1:14x"))
	assert.False(t, again.Ends("N"))
}

// What is no circuit is told at its place.
func TestBadCircuits(t *testing.T) {
	for _, c := range []struct {
		spoil func(*circuit.Circuit)
		path  string
	}{
		{func(c *circuit.Circuit) { c.Format = "brackmoor.case/1" }, "$.format"},
		{func(c *circuit.Circuit) { c.Region = "fr" }, "$.region"},
		{func(c *circuit.Circuit) { c.Parts[0].Kind = "spring" }, "$.parts[0].kind"},
		{func(c *circuit.Circuit) { c.Parts[1].ID = "K1" }, "$.parts[1].id"},
		{func(c *circuit.Circuit) { c.Parts[0].Terminals[0] = "9" }, "$.parts[0].terminals[0]"},
		{func(c *circuit.Circuit) { c.Parts[0].Terminals[0] = "2" }, "$.parts[0].terminals[1]"},
		{func(c *circuit.Circuit) { c.Parts[1].Terminals[0] = "A1" }, "$.parts[1].terminals[0]"},
		{func(c *circuit.Circuit) { c.Parts[5].Terminals[0] = "X" }, "$.parts[5].terminals[0]"},
		{func(c *circuit.Circuit) { c.Parts[1].Stops = []string{"M7"} }, "$.parts[1].stops[0]"},
		{func(c *circuit.Circuit) { c.Wires = append(c.Wires, c.Wires[0]) }, "$.wires[1].number"},
		{func(c *circuit.Circuit) { c.Parts[2].Seconds = -1 }, "$.parts[2].seconds"},
		{func(c *circuit.Circuit) {
			for i := range 26 {
				c.Parts = append(c.Parts, circuit.Part{ID: fmt.Sprint("T", 20+i), Kind: circuit.ControlTransformer,
					Terminals: []string{"H1", "H2", "X1", "X2"}})
			}
		}, "$.parts"},
	} {
		own := whole()
		c.spoil(&own)
		text, err := json.Marshal(own)
		require.NoError(t, err)
		_, problems := circuit.Read(text)
		paths := []string{}
		for _, p := range problems {
			paths = append(paths, p.Path)
		}
		assert.Contains(t, paths, c.path, "%v", problems)
	}
	_, problems := circuit.Read([]byte("{"))
	assert.NotEmpty(t, problems)
}

// Contacts by the marks of EN 50005: 1-2 closed, 3-4 open, a timer's 5-6 closed and 5-8 open.
func TestContactsByTheirMarks(t *testing.T) {
	type pair struct {
		from, to              string
		closed, main, delayed bool
	}
	for _, c := range []struct {
		kind  circuit.Kind
		marks string
		want  []pair
	}{
		{circuit.Contactor, "1 2 3 4 A1 A2 13 14 31 32", []pair{
			{"1", "2", false, true, false}, {"3", "4", false, true, false}, {"13", "14", false, false, false},
			{"31", "32", true, false, false},
		}},
		{circuit.Timer, "15 16 18 21 22", []pair{
			{"15", "16", true, false, true}, {"15", "18", false, false, true}, {"21", "22", true, false, false},
		}},
		{circuit.Overload, "1 2 95 96 97 98", []pair{
			{"95", "96", true, false, false}, {"97", "98", false, false, false}, {"1", "2", false, true, false},
		}},
		{circuit.PotentialRelay, "1 2 5", []pair{{"1", "2", true, false, false}}},
		{circuit.Motor, "U V W PE", nil},
	} {
		var got []pair
		part := circuit.Part{Kind: c.kind, Terminals: strings.Fields(c.marks)}
		for _, x := range part.Contacts() {
			got = append(got, pair{x.From, x.To, x.Closed, x.Main, x.Delayed})
		}
		assert.Equal(t, c.want, got, "%s", c.kind)
	}
}
