package ladder_test

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/ladder"
)

// mutant is a circuit with one thing done to it, and the rules of which one must find it; none for what is
// harmless.
type mutant struct {
	name  string
	c     circuit.Circuit
	rules []string
}

// copied is a circuit whose parts and wires are its own.
func copied(c *circuit.Circuit) circuit.Circuit {
	own := *c
	own.Parts, own.Wires = slices.Clone(c.Parts), slices.Clone(c.Wires)
	return own
}

// mutants are what somebody may get wrong in a circuit, systematically: each bridge, each missing part, each wrong
// coil, each wire at a wrong place of which it is known what comes of it.
func mutants(c *circuit.Circuit) (list []mutant) {
	add := func(name string, change func(*circuit.Circuit), rules ...string) {
		own := copied(c)
		change(&own)
		list = append(list, mutant{name, own, rules})
	}
	bridge := func(a, b string) func(*circuit.Circuit) {
		return func(c *circuit.Circuit) {
			c.Wires = append(c.Wires, circuit.Wire{Number: strconv.Itoa(9000 + len(c.Wires)), From: a, To: b,
				Class: circuit.Control})
		}
	}
	without := func(gone func(w *circuit.Wire) bool) func(*circuit.Circuit) {
		return func(c *circuit.Circuit) {
			c.Wires = slices.DeleteFunc(c.Wires, func(w circuit.Wire) bool { return gone(&w) })
		}
	}
	joined := func(end string) bool {
		return slices.ContainsFunc(c.Wires, func(w circuit.Wire) bool { return w.From == end || w.To == end })
	}
	for i := range c.Parts {
		p := &c.Parts[i]
		at := func(mark string) string { return p.ID + ":" + mark }
		both := func(a, b string) bool { return p.Has(a) && p.Has(b) && joined(at(a)) && joined(at(b)) }
		switch p.Kind {
		case circuit.PushButton:
			if p.Function == "stop" && both("11", "12") {
				add(p.ID+" bridged", bridge(at("11"), at("12")), "wire.stop-does-not-drop")
			}
			if p.Function == "start" && both("13", "14") {
				add(p.ID+" bridged", bridge(at("13"), at("14")), "wire.restarts", "wire.load-before-converter",
					"wire.load-left-in", "")
			}
		case circuit.EmergencyStop, circuit.GuardSwitch:
			if both("11", "12") && !both("21", "22") {
				add(p.ID+" bridged", bridge(at("11"), at("12")), "wire.stop-does-not-drop")
			}
		case circuit.Overload:
			if both("95", "96") {
				add(p.ID+" bridged", bridge(at("95"), at("96")), "wire.overload-does-not-drop", "")
			}
		case circuit.Isolator, circuit.Breaker:
			if p.Name == "isolator" || p.Name == "breaker" {
				rule := map[circuit.Kind]string{
					circuit.Isolator: "wire.no-isolator",
					circuit.Breaker:  "wire.no-protection",
				}
				add(p.ID+" left out", func(c *circuit.Circuit) {
					bridge(at("1"), at("2"))(c)
					bridge(at("3"), at("4"))(c)
				}, rule[p.Kind])
				if p.Kind == circuit.Breaker && p.Amps > 0 {
					add(p.ID+" of 150 A", func(c *circuit.Circuit) { c.Parts[i].Amps = 150 }, "wire.conductor")
				}
				add(p.ID+" shorted behind", bridge(at("2"), at("4")), "wire.short")
			}
			if strings.HasPrefix(p.Name, "panel") {
				add(p.ID+" rated 120/240 V", func(c *circuit.Circuit) { c.Parts[i].Slash = true }, "wire.slash")
			}
		case circuit.Bleed:
			add(p.ID+" missing", func(c *circuit.Circuit) {
				without(func(w *circuit.Wire) bool { return p.Owns(w.From) || p.Owns(w.To) })(c)
				c.Parts = slices.Delete(slices.Clone(c.Parts), i, i+1)
			}, "wire.no-bleed", "wire.dangling")
		case circuit.Motor, circuit.SinglePhaseMotor, circuit.Drive:
			if joined(at("PE")) {
				add(p.ID+" not bonded", without(func(w *circuit.Wire) bool {
					return w.From == at("PE") || w.To == at("PE")
				}), "wire.no-bond")
			}
			for _, line := range p.Lines() {
				if joined(at(line)) && p.Kind != circuit.Drive && joined(at("PE")) && p.Role != circuit.Machine {
					add(p.ID+" "+line+" to earth", bridge(at(line), "PE"), "wire.short")
					break
				}
			}
		case circuit.Contactor, circuit.Relay, circuit.Timer, circuit.Lamp:
			if p.CoilVolts > 0 {
				for _, volts := range []float64{12, 480} {
					if volts != p.CoilVolts {
						add(fmt.Sprintf("%s for %.0f V", p.ID, volts), func(c *circuit.Circuit) {
							c.Parts[i].CoilVolts = volts
						}, "wire.coil-volts", "wire.restarts")
					}
				}
			}
			add(p.ID+" larger, harmless", func(c *circuit.Circuit) { c.Parts[i].Amps += 20 })
		}
	}
	turned := slices.ContainsFunc(c.Parts, func(p circuit.Part) bool { return p.Kind == circuit.Drive && p.Has("L1") })
	for i, w := range c.Wires {
		if w.Class == circuit.Power && turned && !strings.Contains(w.From+w.To, "M1") { // a breaker alone protects it
			add("wire "+w.Number+" too thin", func(c *circuit.Circuit) {
				c.Wires[i].Size = map[string]string{circuit.US: "18 AWG", circuit.UK: "0.75 mm²"}[c.Region]
			}, "wire.conductor")
		}
		if i%9 == 0 {
			add("wire "+w.Number+" to nowhere", func(c *circuit.Circuit) { c.Wires[i].To = "K99:1" }, "wire.dangling")
		}
		if i%7 == 0 {
			add("wire "+w.Number+" turned round, harmless", func(c *circuit.Circuit) {
				c.Wires[i].From, c.Wires[i].To = c.Wires[i].To, c.Wires[i].From
			})
		}
	}
	return list
}

// Some hundreds of mutations of the ways' circuits are caught by the rule meant, or are harmless and break none. Where
// "" stands among the rules, something else may hold the part of a circuit that was bridged: then it is harmless.
func TestEveryMutationIsCaught(t *testing.T) {
	caught, harmless := 0, 0
	rules := map[string]bool{}
	for _, region := range []string{circuit.US, circuit.UK} {
		for _, w := range feed.All() {
			how := circuit.Choices{Backup: true, Lamp: true, Control: map[string]float64{circuit.US: 24}[region]}
			c := w.Wire(asked(t, region), how)
			if len(c.Parts) == 0 {
				continue
			}
			require.Empty(t, severe(&c), w.Info().Name)
			for _, m := range mutants(&c) {
				found := severe(&m.c)
				switch {
				case len(m.rules) == 0:
					harmless++
					assert.Empty(t, found, "%s %s: %s", region, w.Info().Name, m.name)
				case slices.ContainsFunc(found, func(id string) bool { return slices.Contains(m.rules, id) }):
					caught++
					for _, id := range found {
						rules[id] = true
					}
				case slices.Contains(m.rules, "") && len(found) == 0:
					harmless++
				default:
					assert.Fail(t, "not caught", "%s %s: %s, found %v", region, w.Info().Name, m.name, found)
				}
			}
		}
	}
	t.Logf("%d caught by %d rules, %d harmless", caught, len(rules), harmless)
	assert.Greater(t, caught, 200)
	assert.Greater(t, len(rules), 8)
}

// severe are the rules that a circuit breaks with nothing broken.
func severe(c *circuit.Circuit) (ids []string) {
	for _, v := range ladder.Sound(c, false).Violations {
		if !slices.Contains(ids, v.Rule) {
			ids = append(ids, v.Rule)
		}
	}
	return ids
}
