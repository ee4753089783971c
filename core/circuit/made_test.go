package circuit_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"brackmoor/core/circuit"
)

// groups are the ends of each net in order.
func groups(c *circuit.Circuit) (list []string) {
	for _, n := range c.Nets() {
		ends := slices.Clone(n.Ends)
		slices.Sort(ends)
		list = append(list, fmt.Sprint(ends))
	}
	slices.Sort(list)
	return list
}

// Whatever is wired in a bunch is wired from terminal to terminal: what is joined stays so, and no terminal has more
// than two wires of a class, but a bar.
func TestNoBunches(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		d := circuit.NewDraft(circuit.US, "any", 240, circuit.Choices{}, "10 AWG")
		var ends []string
		for range rapid.IntRange(2, 8).Draw(r, "parts") {
			id := d.Add("K", circuit.Part{Kind: circuit.Relay}, "13 14 A1 A2")
			ends = append(ends, id+":13", id+":14", id+":A1", id+":A2")
		}
		all := append(slices.Clone(ends), "L1", "L2", "PE")
		for range rapid.IntRange(1, 25).Draw(r, "wires") {
			from, to := rapid.SampledFrom(ends).Draw(r, "from"), rapid.SampledFrom(all).Draw(r, "to")
			if from != to {
				d.Wire(rapid.SampledFrom([]circuit.Class{circuit.Power, circuit.Control}).Draw(r, "class"), from, to)
			}
		}
		before := groups(&d.Circuit)
		made := d.Done()
		if after := groups(&made); !slices.Equal(before, after) {
			r.Fatalf("%v became %v", before, after)
		}
		count := map[string]int{}
		numbers := map[string]bool{}
		for _, w := range made.Wires {
			for _, end := range []string{w.From, w.To} {
				if slices.Contains([]string{w.From, w.To}, "L1") || slices.Contains([]string{w.From, w.To}, "L2") ||
					slices.Contains([]string{w.From, w.To}, "PE") {
					continue
				}
				if count[end+string(w.Class)]++; count[end+string(w.Class)] > 2 {
					r.Fatalf("more than two at %s", end)
				}
			}
			if numbers[w.Number] {
				r.Fatalf("%s twice", w.Number)
			}
			numbers[w.Number] = true
		}
	})
}

// A control transformer bears its coils held, and the largest pulling in for a moment; fuses follow.
func TestWhatFeedsTheCoils(t *testing.T) {
	for _, c := range []struct {
		name           string
		control        float64
		coils          int
		amps           float64
		va, behind, to float64 // of the transformer, its secondary's fuse, the fuses ahead
	}{
		// one of 9 VA held pulls in with 70: 70/1.5 is 47
		{"one coil at 24 V", 24, 1, 9, 50, 3, 1},
		// three held are 27, with one pulling in 88: 59
		{"three", 24, 3, 9, 63, 4, 1},
		// a large one, 18 held and 140
		{"a large one at 120 V", 120, 1, 50, 100, 2, 2},
		// two held are 18, with one pulling in 79: twice that at 240 V is 0.66 A
		{"none, straight from the lines", 0, 2, 9, 0, 0, 1},
	} {
		d := circuit.NewDraft(circuit.US, c.name, 240, circuit.Choices{Control: c.control}, "")
		coils := d.Coils(d.Lines())
		for range c.coils {
			k := d.Add("K", circuit.Part{Kind: circuit.Contactor, Amps: c.amps, CoilVolts: coils.Volts}, "1 2 A1 A2")
			d.Wire(circuit.Control, coils.Hot, k+":A1")
			d.Wire(circuit.Control, k+":A2", coils.Back)
		}
		made := d.Done()
		if c.va > 0 {
			assert.InDelta(t, c.va, made.Part("T1").VA, 0, c.name)
			assert.InDelta(t, c.behind, made.Part("F3").Amps, 0, c.name)
		}
		assert.InDelta(t, c.to, made.Part("F1").Amps, 0, c.name)
		assert.InDelta(t, c.to, made.Part("F2").Amps, 0, c.name)
	}
}

func TestCansInWords(t *testing.T) {
	p := circuit.Part{Cans: []string{"40 µF", "40 µF", "15 µF"}}
	assert.Equal(t, "2 × 40 µF, 15 µF", p.Made())
	assert.Empty(t, (&circuit.Part{}).Made())
}
