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
	"brackmoor/core/ladder"
	"brackmoor/core/rule"
)

// build reads a circuit from lines: a part is "ID kind terminals | key=value", a wire "from to", of
// control where it begins with a point, protective with an E.
func build(t testing.TB, region, parts, wires string) circuit.Circuit {
	t.Helper()
	c := circuit.Circuit{Format: circuit.Format, Region: region}
	for _, s := range map[string][]string{"us": {"L1", "L2", "PE"}, "uk": {"L", "N", "PE"}}[region] {
		c.Sources = append(c.Sources, circuit.Source{ID: s})
	}
	for line := range strings.Lines(parts) {
		own, options, _ := strings.Cut(strings.TrimSpace(line), "|")
		words := strings.Fields(own)
		if len(words) == 0 {
			continue
		}
		p := circuit.Part{ID: words[0], Kind: circuit.Kind(words[1]), Terminals: words[2:]}
		for _, option := range strings.Fields(options) {
			key, value, _ := strings.Cut(option, "=")
			number, _ := strconv.ParseFloat(value, 64)
			switch key {
			case "coil":
				p.CoilVolts = number
			case "amps":
				p.Amps = number
			case "seconds":
				p.Seconds = number
			case "function":
				p.Function = value
			case "stops":
				p.Stops = strings.Split(value, ",")
			case "role":
				p.Role = value
			case "duty":
				p.Duty = value
			case "secondary":
				p.Secondary = number
			case "slash":
				p.Slash = true
			case "input":
				terminal, does, _ := strings.Cut(value, ":")
				p.Inputs = append(p.Inputs, circuit.Command{Terminal: terminal, Does: does})
			default:
				require.Fail(t, "no option "+key)
			}
		}
		c.Parts = append(c.Parts, p)
	}
	for line := range strings.Lines(wires) {
		words := strings.Fields(line)
		if len(words) == 0 {
			continue
		}
		w := circuit.Wire{Number: fmt.Sprint(len(c.Wires) + 1), Class: circuit.Power, Size: "12 AWG"}
		switch words[0] {
		case ".":
			w.Class, w.Size, words = circuit.Control, "16 AWG", words[1:]
		case "E":
			w.Class, words = circuit.Protective, words[1:]
		}
		w.From, w.To = words[0], words[1]
		c.Wires = append(c.Wires, w)
	}
	return c
}

// A motor of one phase behind a contactor with stop and start.
const (
	plainParts = `
		QS isolator 1 2 3 4
		Q1 breaker 1 2 3 4
		K1 contactor 1 2 3 4 A1 A2 13 14 | coil=240
		F1 overload 1 2 3 4 95 96
		M1 single-phase-motor 1 2 PE | role=machine
		F8 fuse 1 2
		F9 fuse 1 2
		S0 emergency-stop 11 12
		S1 push-button 11 12 | function=stop
		S2 push-button 13 14 | function=start
		H1 lamp X1 X2 | coil=240
	`
	plainWires = `
		L1 QS:1
		L2 QS:3
		QS:2 Q1:1
		QS:4 Q1:3
		Q1:2 K1:1
		Q1:4 K1:3
		K1:2 F1:1
		K1:4 F1:3
		F1:2 M1:1
		F1:4 M1:2
		E PE M1:PE
		. Q1:2 F8:1
		. F8:2 S0:11
		. S0:12 S1:11
		. S1:12 S2:13
		. S2:14 K1:A1
		. S1:12 K1:13
		. K1:14 K1:A1
		. K1:A2 F1:95
		. F1:96 F9:2
		. F9:1 Q1:4
		. K1:A1 H1:X1
		. K1:A2 H1:X2
	`
)

// A rotary converter: its idler starts with a capacitor that a timer takes out; a machine comes on once
// it is up, and drops with it.
const (
	rotaryParts = `
		QS isolator 1 2 3 4
		Q1 breaker 1 2 3 4
		K1 contactor 1 2 3 4 A1 A2 13 14 43 44 | coil=240
		F1 overload 1 2 3 4 95 96
		M0 motor U V W PE | role=idler seconds=1.5
		C1 capacitor 1 2 | duty=start
		R1 bleed 1 2
		K2 contactor 1 2 A1 A2 | coil=240
		T1 timer A1 A2 15 16 | coil=240 seconds=2
		T2 timer A1 A2 15 18 | coil=240 seconds=4
		K3 contactor 1 2 3 4 5 6 A1 A2 13 14 21 22 | coil=240
		F2 overload 1 2 3 4 5 6 95 96
		M1 motor U V W PE | role=machine
		Q2 isolator 1 2 3 4 5 6
		F8 fuse 1 2
		F9 fuse 1 2
		S0 emergency-stop 11 12
		S1 push-button 11 12 | function=stop
		S2 push-button 13 14 | function=start
		S3 push-button 11 12 | function=stop stops=M1
		S4 push-button 13 14 | function=start
	`
	rotaryWires = `
		L1 QS:1
		L2 QS:3
		QS:2 Q1:1
		QS:4 Q1:3
		Q1:2 K1:1
		Q1:4 K1:3
		K1:2 F1:1
		K1:4 F1:3
		F1:2 M0:U
		F1:4 M0:V
		E PE M0:PE
		E PE M1:PE
		M0:U K2:1
		K2:2 C1:1
		C1:2 M0:W
		C1:1 R1:1
		C1:2 R1:2
		M0:U Q2:1
		M0:V Q2:3
		M0:W Q2:5
		Q2:2 K3:1
		Q2:4 K3:3
		Q2:6 K3:5
		K3:2 F2:1
		K3:4 F2:3
		K3:6 F2:5
		F2:2 M1:U
		F2:4 M1:V
		F2:6 M1:W
		. Q1:2 F8:1
		. F8:2 S0:11
		. S0:12 S1:11
		. S1:12 S2:13
		. S2:14 K3:21
		. K3:22 K1:A1
		. S1:12 K1:13
		. K1:14 K1:A1
		. K1:A2 F1:95
		. F1:96 F9:2
		. F9:1 Q1:4
		. K1:A1 T1:A1
		. T1:A2 K1:A2
		. K1:A1 T2:A1
		. T2:A2 K1:A2
		. K1:A1 T1:15
		. T1:16 K2:A1
		. K2:A2 K1:A2
		. K1:A1 K1:43
		. K1:44 T2:15
		. T2:18 S3:11
		. S3:12 S4:13
		. S4:14 K3:A1
		. S3:12 K3:13
		. K3:14 K3:A1
		. K3:A2 F2:95
		. F2:96 K1:A2
	`
)

// A rotary converter that a pony motor brings up: a timer drops the pony as the idler's lines close.
const (
	ponyParts = `
		QS isolator 1 2 3 4
		Q1 breaker 1 2 3 4
		K1 contactor 1 2 3 4 A1 A2 | coil=240
		F1 overload 1 2 3 4 95 96
		M0 motor U V W PE | role=idler seconds=2
		K4 contactor 1 2 3 4 A1 A2 | coil=240
		M4 single-phase-motor 1 2 PE | role=pony seconds=3
		K9 relay A1 A2 13 14 23 24 | coil=240
		T1 timer A1 A2 15 16 18 | coil=240 seconds=4
		S1 push-button 11 12 | function=stop
		S2 push-button 13 14 | function=start
	`
	ponyWires = `
		L1 QS:1
		L2 QS:3
		QS:2 Q1:1
		QS:4 Q1:3
		Q1:2 K1:1
		Q1:4 K1:3
		K1:2 F1:1
		K1:4 F1:3
		F1:2 M0:U
		F1:4 M0:V
		Q1:2 K4:1
		Q1:4 K4:3
		K4:2 M4:1
		K4:4 M4:2
		E PE M0:PE
		E PE M4:PE
		. Q1:2 S1:11
		. S1:12 S2:13
		. S2:14 K9:A1
		. S1:12 K9:13
		. K9:14 K9:A1
		. K9:A2 F1:95
		. F1:96 Q1:4
		. K9:A1 T1:A1
		. T1:A2 K9:A2
		. S1:12 K9:23
		. K9:24 T1:15
		. T1:16 K4:A1
		. K4:A2 K9:A2
		. T1:18 K1:A1
		. K1:A2 K9:A2
	`
)

// A drive with forward and reverse, an isolator behind it with its early break in the enable.
const (
	driveParts = `
		QS isolator 1 2 3 4
		Q1 breaker 1 2 3 4
		A1 drive L1 L2 U V W PE com di1 di2 enable | input=di1:forward input=di2:reverse
		Q2 isolator 1 2 3 4 5 6 13 14
		M1 motor U V W PE | role=machine
		S0 emergency-stop 11 12
		S5 selector 13 14 23 24
	`
	driveWires = `
		L1 QS:1
		L2 QS:3
		QS:2 Q1:1
		QS:4 Q1:3
		Q1:2 A1:L1
		Q1:4 A1:L2
		A1:U Q2:1
		A1:V Q2:3
		A1:W Q2:5
		Q2:2 M1:U
		Q2:4 M1:V
		Q2:6 M1:W
		E PE M1:PE
		E PE A1:PE
		. A1:com S0:11
		. S0:12 Q2:13
		. Q2:14 A1:enable
		. A1:com S5:13
		. S5:14 A1:di1
		. A1:com S5:23
		. S5:24 A1:di2
	`
)

// change is one thing made otherwise: a wire that is taken off or led elsewhere, or a line of parts.
type change struct{ from, to string }

func changed(t testing.TB, text string, changes ...change) string {
	for _, c := range changes {
		require.Contains(t, text, c.from)
		text = strings.Replace(text, c.from, c.to, 1)
	}
	return text
}

// rules are those that a circuit breaks, with nothing broken and with something.
func rules(check ladder.Check) (sound, broken []string) {
	for _, v := range check.Violations {
		if v.Fault == nil {
			sound = append(sound, v.Rule)
		} else {
			broken = append(broken, v.Rule)
		}
	}
	return sound, broken
}

// Good circuits break no rule, in any state and with any single fault that a rule guards against.
func TestGoodCircuits(t *testing.T) {
	for name, c := range map[string]circuit.Circuit{
		"plain":  build(t, "us", plainParts, plainWires),
		"rotary": build(t, "us", rotaryParts, rotaryWires),
		"drive":  build(t, "us", driveParts, driveWires),
		"pony":   build(t, "us", ponyParts, ponyWires),
	} {
		check := ladder.Search(&c)
		assert.True(t, check.Whole, name)
		assert.Greater(t, check.States, 20, name)
		for _, v := range check.Violations {
			if v.Rule == "wire.start-capacitor-stays" && v.Fault != nil {
				continue // nothing backs its contact up here
			}
			fault := ""
			if v.Fault != nil {
				fault = *v.Fault
			}
			assert.Fail(t, name, "%s: %s %v, %s", v.Rule, v.Says, v.Trace, fault)
		}
	}
}

// One thing changed breaks the rule that is meant, and its trace says how.
func TestMutationsAreCaught(t *testing.T) {
	plain, rotary, driven := [2]string{plainParts, plainWires}, [2]string{rotaryParts, rotaryWires},
		[2]string{driveParts, driveWires}
	for _, c := range []struct {
		rule  string
		of    [2]string
		parts []change
		wires []change
	}{
		{"wire.restarts", plain, nil, []change{{". S2:14 K1:A1", ". S1:12 K1:A1"}}},
		{"wire.stop-does-not-drop", plain, nil, []change{{". S1:12 K1:13", ". S0:12 K1:13"}}},
		{"wire.stop-does-not-drop", plain, nil, []change{{". F8:2 S0:11", ". F8:2 S0:12"}}},
		{"wire.overload-does-not-drop", plain, nil, []change{{". K1:A2 F1:95", ". K1:A2 F1:96"}}},
		{"wire.coil-volts", plain, []change{{"13 14 | coil=240", "13 14 | coil=120"}}, nil},
		{"wire.short", plain, nil, []change{{"F1:4 M1:2", "F1:4 M1:1"}}},
		{"wire.no-isolator", plain, nil, []change{{"L2 QS:3", "L2 QS:4"}}},
		{"wire.no-protection", plain, nil, []change{{"QS:4 Q1:3", "QS:4 Q1:4"}, {"QS:2 Q1:1", "QS:2 Q1:2"}}},
		{"wire.no-overload", plain, nil, []change{{"K1:2 F1:1", "K1:2 F1:2"}}},
		{"wire.no-bond", plain, nil, []change{{"E PE M1:PE", ""}}},
		{"wire.conductor", plain, []change{{"Q1 breaker 1 2 3 4", "Q1 breaker 1 2 3 4 | amps=40"}}, nil},
		{"wire.dangling", plain, nil, []change{{"F1:2 M1:1", "F1:2 M1:5"}}},
		{"wire.dangling", plain, []change{{"H1 lamp", "X1 strip 1 2\n H1 lamp"}}, []change{{"F1:2 M1:1", "F1:2 X1:1"}}},
		{"wire.chatters", plain, []change{{"A1 A2 13 14 | coil", "A1 A2 11 12 | coil"}},
			[]change{{". S1:12 K1:13", ". S1:12 K1:11"}, {". K1:14 K1:A1", ". K1:12 K1:A1"}}},
		{"wire.load-before-converter", rotary, nil, []change{{". K1:44 T2:15", ". K1:44 T2:18"}}},
		{"wire.load-left-in", rotary, nil, []change{{". K1:A1 K1:43", ". S1:12 T2:15"}, {". K1:44 T2:15", ""},
			{". T2:18 S3:11", ". S1:12 S3:11"}}},
		{"wire.start-capacitor-stays", rotary, nil, []change{{". T1:16 K2:A1", ". T1:15 K2:A1"}}},
		{"wire.idler-hums", rotary, []change{{"15 16 | coil=240 seconds=2", "15 16 | coil=240 seconds=1"}}, nil},
		{"wire.coil-on-made-leg", rotary, nil, []change{{". F2:96 K1:A2", ". F2:96 M0:W"}}},
		{"wire.no-bleed", rotary, nil, []change{{"C1:1 R1:1", "M0:U R1:1"}}},
		{"wire.slash", rotary, []change{{"Q2 isolator 1 2 3 4 5 6", "Q2 breaker 1 2 3 4 5 6 | slash=1"}}, nil},
		{"wire.start-box-returns", rotary, []change{{"C1 capacitor 1 2 | duty=start\n", "B1 start-box 1 2 3\n"},
			{"R1 bleed 1 2\n", "\n"}}, []change{{"M0:U K2:1", "M0:U B1:1"}, {"K2:2 C1:1", "M0:V B1:2"},
			{"C1:2 M0:W", "B1:3 M0:W"}, {"C1:1 R1:1", ""}, {"C1:2 R1:2", ""}}},
		{"wire.pony-with-idler", [2]string{ponyParts, ponyWires}, nil, []change{{". T1:16 K4:A1", ". K9:24 K4:A1"}}},
		{"wire.switched-behind-drive", driven, nil, []change{{". S0:12 Q2:13", ". S0:12 Q2:14"}}},
		{"wire.stop-does-not-drop", driven, nil, []change{{". A1:com S0:11", ". A1:com S0:12"}}},
		{"wire.no-bond", driven, nil, []change{{"E PE A1:PE", ""}}},
	} {
		own := build(t, "us", changed(t, c.of[0], c.parts...), changed(t, c.of[1], c.wires...))
		check := ladder.Search(&own)
		sound, _ := rules(check)
		if assert.Contains(t, sound, c.rule, "%v %v: %v", c.parts, c.wires, check.Violations) {
			i := slices.IndexFunc(
				check.Violations,
				func(v ladder.Violation) bool { return v.Rule == c.rule && v.Fault == nil },
			)
			v := check.Violations[i]
			assert.Equal(t, rule.Stop, v.Severity)
			assert.NotEmpty(t, v.Says)
		}
	}
}

// What is broken by a fault alone says which, is the lighter for it, and tells the way.
func TestFaultsAreTold(t *testing.T) {
	// Without the machine's own contact in the start line a welded one is on the lines as the idler starts.
	c := build(t, "us", rotaryParts, changed(t, rotaryWires, change{". S2:14 K3:21", ". S2:14 K1:A1"}))
	check := ladder.Search(&c)
	sound, _ := rules(check)
	assert.Empty(t, sound)
	i := slices.IndexFunc(
		check.Violations,
		func(v ladder.Violation) bool { return v.Rule == "wire.load-before-converter" },
	)
	require.GreaterOrEqual(t, i, 0, "%v", check.Violations)
	v := check.Violations[i]
	assert.Equal(t, "K3 welded", *v.Fault)
	assert.Equal(t, rule.Caution, v.Severity)
	assert.Contains(t, v.Trace, "press S2")
}

// A neutral is never fused, and a single-pole switch in it is found.
func TestNeutral(t *testing.T) {
	wires := strings.NewReplacer("L1 QS:1", "L QS:1", "L2 QS:3", "N QS:3").Replace(plainWires)
	parts := strings.ReplaceAll(plainParts, "coil=240", "coil=230")
	c := build(t, "uk", parts, changed(t, wires, change{". F1:96 F9:2", ". F1:96 Q1:4"}, change{". F9:1 Q1:4", ""}))
	check := ladder.Search(&c)
	assert.Empty(t, check.Violations)
	c = build(t, "uk", parts, wires)
	sound, _ := rules(ladder.Search(&c))
	assert.Contains(t, sound, "wire.neutral-fused")
}

// Reversing contactors without contacts that hold each other off meet in a short.
func TestDirections(t *testing.T) {
	parts := `
		QS isolator 1 2 3 4
		Q1 breaker 1 2 3 4
		K1 contactor 1 2 3 4 A1 A2 13 14 21 22 | coil=240 function=forward
		K2 contactor 1 2 3 4 A1 A2 13 14 21 22 | coil=240 function=reverse
		F1 overload 1 2 3 4 95 96
		M1 single-phase-motor 1 2 PE | role=machine
		S1 push-button 11 12 | function=stop
		S2 push-button 13 14 | function=start
		S3 push-button 13 14 | function=start
	`
	wires := `
		L1 QS:1
		L2 QS:3
		QS:2 Q1:1
		QS:4 Q1:3
		Q1:2 K1:1
		Q1:4 K1:3
		Q1:2 K2:3
		Q1:4 K2:1
		K1:2 F1:1
		K1:4 F1:3
		K2:2 F1:1
		K2:4 F1:3
		F1:2 M1:1
		F1:4 M1:2
		E PE M1:PE
		. Q1:2 S1:11
		. S1:12 S2:13
		. S2:14 K2:21
		. K2:22 K1:A1
		. S1:12 K1:13
		. K1:14 K2:21
		. S1:12 S3:13
		. S3:14 K1:21
		. K1:22 K2:A1
		. S1:12 K2:13
		. K2:14 K1:21
		. K1:A2 F1:95
		. K2:A2 F1:95
		. F1:96 Q1:4
	`
	c := build(t, "us", parts, wires)
	check := ladder.Search(&c)
	assert.Empty(t, check.Violations)
	bare := build(
		t,
		"us",
		parts,
		changed(t, wires, change{". S2:14 K2:21", ". S2:14 K1:A1"}, change{". K2:22 K1:A1", ""},
			change{". K1:14 K2:21", ". K1:14 K1:A1"}),
	)
	sound, _ := rules(ladder.Search(&bare))
	assert.Contains(t, sound, "wire.both-directions")
	assert.Contains(t, sound, "wire.short")
}
