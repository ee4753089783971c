package casefile_test

import (
	"encoding/json"
	"maps"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/casefile"
	"brackmoor/docs/schema"
)

// example is the case of the format's own description.
const example = `{
  "format": "brackmoor.case/1", "analysis": "steady",
  "supply": {"phases": 1, "volts": 240, "hertz": 60, "resistance_ohm": 0.05, "reactance_ohm": 0.02},
  "motors": [
    {"id": "idler", "poles": 4, "rated_hertz": 60, "connection": "wye", "inertia_kgm2": 0.02,
     "circuit": {"r1_ohm": 0.39, "x1_ohm": 0.79, "xm_ohm": 19.7, "rc_ohm": 295,
        "cages": [{"r_ohm": 0.34, "x_ohm": 0.89}],
       "magnetising_curve": [{"airgap_volts": 130.02, "amps": 6.6}, {"airgap_volts": 145, "amps": 8.6}],
       "leakage_saturation": {"onset_amps": 20, "floor": 0.6}},
     "slip": 0.0006},
    {"id": "shaper", "poles": 4, "rated_hertz": 60, "connection": "delta", "direction": "abc", "friction_watts": 40,
     "circuit": {"r1_ohm": 0.59, "x1_ohm": 1.18, "xm_ohm": 29.5, "rc_ohm": null,
        "cages": [{"r_ohm": 0.52, "x_ohm": 1.33}]},
     "load": {"kind": "power", "watts": 1100}}
  ],
  "capacitors": [{"id": "run-ac", "between": "ac", "microfarad": 60, "esr_ohm": 0}, {"id": "run-bc", "between": "bc",
 "microfarad": 40, "esr_ohm": 0}],
  "loads": [{"id": "heater", "between": "ab", "resistance_ohm": 24, "reactance_ohm": 0}]
}`

func TestTheExample(t *testing.T) {
	d, problems := casefile.Read([]byte(example))
	require.Empty(t, problems)
	solved, err := casefile.Solve(d)
	require.NoError(t, err)
	r := solved.(casefile.Steady)
	assert.Equal(t, "brackmoor.result/1", r.Format)
	assert.Equal(t, "steady", r.Analysis)
	assert.InDelta(t, 1100, r.Motors[1].ShaftWatts, 1e-6)
	assert.InDelta(t, 0, r.PowerBalanceWatts, 1e-6*r.Supply.Watts)
	assert.InDelta(t, r.Volts.AB*r.Volts.AB/24, r.Loads[0].Watts, 1e-6)
	assert.InDelta(t, -r.Capacitors[0].Volts*r.Capacitors[0].Volts*2*math.Pi*60*60e-6, r.Capacitors[0].Vars, 1e-6)
	// The keys of the result are those of the format.
	text, err := json.Marshal(r)
	require.NoError(t, err)
	var keys map[string]json.RawMessage
	require.NoError(t, json.Unmarshal(text, &keys))
	for _, key := range []string{"format", "analysis", "volts", "degrees", "unbalance_percent",
		"negative_sequence_percent", "sequence", "supply", "motors", "capacitors", "loads", "power_balance_watts"} {
		assert.Contains(t, keys, key)
		delete(keys, key)
	}
	assert.Empty(t, keys)
	var motors []map[string]json.RawMessage
	require.NoError(
		t,
		json.Unmarshal(
			[]byte(text[strings.Index(string(text), `"motors":`)+9:strings.Index(string(text), `,"capacitors"`)]),
			&motors,
		),
	)
	for _, key := range []string{"id", "state", "slip", "rpm", "torque_nm", "shaft_watts", "input_watts",
		"power_factor", "line_amps", "winding_amps"} {
		assert.Contains(t, motors[0], key)
	}
	assert.Len(t, motors[0], 10)
}

// change replaces a part of the example.
func change(t *testing.T, old, new string) []byte {
	t.Helper()
	require.Contains(t, example, old)
	return []byte(strings.Replace(example, old, new, 1))
}

func TestProblemsNameTheirPlace(t *testing.T) {
	for _, c := range []struct{ name, old, new, path, says string }{
		{"unknown key", `"hertz": 60, "resistance_ohm"`, `"hertz": 60, "colour": 1, "resistance_ohm"`, "$.supply",
			"colour"},
		{"missing key", `"volts": 240, `, ``, "$.supply", "volts"},
		{"wrong type", `"volts": 240`, `"volts": "240"`, "$.supply.volts", "number"},
		{"negative", `"resistance_ohm": 0.05`, `"resistance_ohm": -1`, "$.supply.resistance_ohm", "minimum"},
		{"phases", `"phases": 1`, `"phases": 2`, "$.supply.phases", "1, 3"},
		{"odd poles", `"poles": 4, "rated_hertz": 60, "connection": "wye"`,
			`"poles": 3, "rated_hertz": 60, "connection": "wye"`, "$.motors[0].poles", "multiple"},
		{"both slip and load", `"slip": 0.0006`, `"slip": 0.0006, "load": {"kind": "power", "watts": 1}`, "$.motors[0]",
			"either slip or load"},
		{"neither", `"slip": 0.0006`, `"friction_watts": 1`, "$.motors[0]", "either slip or load"},
		{"slip too large", `"slip": 0.0006`, `"slip": 2.1`, "$.motors[0].slip", "maximum"},
		{"duplicate id", `"id": "shaper"`, `"id": "idler"`, "$.motors[1].id", "taken by $.motors[0]"},
		{"id supply", `"id": "heater"`, `"id": "supply"`, "$.loads[0].id", "taken by $.supply"},
		{"curve off its line", `"amps": 6.6}`, `"amps": 7.6}`, "$.motors[0].circuit.magnetising_curve[0]",
			"must lie on xm_ohm"},
		{"curve falls", `{"airgap_volts": 145, "amps": 8.6}`, `{"airgap_volts": 145, "amps": 5.6}`,
			"$.motors[0].circuit.magnetising_curve[1]", "must rise"},
		{"no cage", `"cages": [{"r_ohm": 0.34, "x_ohm": 0.89}]`, `"cages": []`, "$.motors[0].circuit.cages", "min"},
		{"load without watts", `{"kind": "power", "watts": 1100}`, `{"kind": "power"}`, "$.motors[1].load", "watts"},
		{"torque load's exponent", `{"kind": "power", "watts": 1100}`,
			`{"kind": "torque", "newton_metre": 1, "at_rpm": 1745, "exponent": 3}`, "$.motors[1].load.exponent",
			"0, 1, 2"},
		{"pair", `"between": "ac"`, `"between": "ca"`, "$.capacitors[0].between", "'ab', 'ac', 'bc'"},
		{"short circuit", `"resistance_ohm": 24`, `"resistance_ohm": 0`, "$.loads[0]", "short circuit"},
		{"format", `brackmoor.case/1`, `brackmoor.case/2`, "$.format", "brackmoor.case/1"},
		{"analysis", `"steady"`, `"guess"`, "$.analysis", "steady"},
		{"a key twice", `"volts": 240`, `"volts": 240, "volts": 230`, "$.supply.volts", "stands twice"},
		{"behind nothing", `"slip": 0.0006`, `"slip": 0.0006, "behind": "t"`, "$.motors[0].behind",
			"names no transformer"},
		{"star of one phase", `"hertz": 60, "resistance_ohm"`, `"hertz": 60, "earthing": "star", "resistance_ohm"`,
			"$.supply.earthing", "no star point"},
		{"middle of three lines", `"phases": 1,`, `"phases": 3, "earthing": "mid",`, "$.supply.earthing", "no middle"},
		{"transformer on three lines", `"phases": 1,`, `"phases": 3, "transformer": {"ratio": 2},`,
			"$.supply.transformer", "one-phase"},
		{"half an iron", `"phases": 1,`, `"transformer": {"ratio": 2, "knee_percent": 120},`, "$.supply.transformer",
			"air_core_ohm"},
		{"shorted oven", `"loads": [`, `"three_phase_loads": [{"id": "o", "resistance_ohm": 0}], "loads": [`,
			"$.three_phase_loads[0]", "short circuit"},
		{"factors", `"loads": [`,
			`"rectifiers": [{"id": "o", "between": "ab", "watts": 1, "displacement_factor": 0.5, ` +
				`"true_power_factor": 0.6}], "loads": [`, "$.rectifiers[0].true_power_factor", "cannot be above"},
		{"not JSON", `"supply": {`, `"supply": [`, "$.supply", "not JSON"},
		{"huge number", `"volts": 240`, `"volts": 1e400`, "$", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, problems := casefile.Read(change(t, c.old, c.new))
			require.NotEmpty(t, problems)
			var lines []string
			found := false
			for _, p := range problems {
				lines = append(lines, p.String())
				found = found || strings.HasPrefix(p.Path, c.path) && strings.Contains(p.Says, c.says)
			}
			assert.True(t, found, "%q", lines)
		})
	}
}

func TestProblemsAreAllNamed(t *testing.T) {
	text := strings.NewReplacer(`"volts": 240`, `"volts": -1`, `"microfarad": 60`, `"microfarad": -60`,
		`"id": "heater"`, `"id": ""`).
		Replace(example)
	_, problems := casefile.Read([]byte(text))
	assert.Len(t, problems, 3)
}

func TestNothingOnTheMadeLegIsRefused(t *testing.T) {
	_, problems := casefile.Read(
		[]byte(
			`{"format": "brackmoor.case/1", "analysis": "steady", "supply": {"volts": 240, "hertz": 60},
 "loads": [{"id": "x", "between": "ab", "resistance_ohm": 10}]}`,
		),
	)
	require.Len(t, problems, 1)
	assert.Contains(t, problems[0].Says, "made leg")
}

// Circuits may be without a made leg, but not without a source; what stands in one of them is
// named by its place there.
func TestCircuitsAreRead(t *testing.T) {
	const shop = `{"format": "brackmoor.case/1", "analysis": "steady", "supply": {"volts": 240, "hertz": 60},
 "circuits": [{"id": "barn", "conductor": {"resistance_ohm": 0.5}, "loads":
 [{"id": "heater", "between": "ab", "resistance_ohm": 11.5}]}, {"id": "bench", "from": "barn"}]}`
	d, problems := casefile.Read([]byte(shop))
	require.Empty(t, problems)
	solved, err := casefile.Solve(d)
	require.NoError(t, err)
	r := solved.(casefile.Installed)
	assert.InDelta(t, 230, r.Circuits[0].Volts.AB, 1e-9)
	assert.InDelta(t, 230, r.Circuits[1].Volts.AB, 1e-9, "nothing is drawn behind it")
	assert.Equal(t, "barn", r.Loads[0].Circuit)
	for change, want := range map[string][2]string{
		`"from": "barn"|"from": "attic"`:                     {"$.circuits[1].from", "names no circuit"},
		`"id": "bench"|"id": "heater"`:                       {"$.circuits[1].id", "taken by $.circuits[0].loads[0]"},
		`"resistance_ohm": 11.5|"resistance_ohm": 0`:         {"$.circuits[0].loads[0]", "short circuit"},
		`"hertz": 60|"hertz": 60, "phases": 3`:               {"$.circuits", "one-phase"},
		`"conductor": {|"transformer": {"ratio": 2}, "a": {`: {"$.circuits[0]", "not known here: a"},
		`"conductor": {|"transformer": {"ratio": 2}, "conductor": {`: {
			"$.circuits[1].from", "names no circuit",
		},
		`"hertz": 60|"hertz": 60, "transformer": {"ratio": 2}`: {"$.supply.transformer", "one of them"},
	} {
		from, to, _ := strings.Cut(change, "|")
		_, problems := casefile.Read([]byte(strings.Replace(shop, from, to, 1)))
		require.NotEmpty(t, problems, change)
		assert.Equal(t, want[0], problems[0].Path, change)
		assert.Contains(t, problems[0].Says, want[1], change)
	}
}

func TestDefaults(t *testing.T) {
	d, problems := casefile.Read(
		[]byte(`{"format": "brackmoor.case/1", "analysis": "steady", "supply": {"volts": 240, "hertz": 60},
		"motors": [{"id": "m", "poles": 4, "rated_hertz": 60, "circuit": {"r1_ohm": 0.6, "x1_ohm": 1.2, "xm_ohm": 30,
 "cages": [{"r_ohm": 0.5, "x_ohm": 1.3}]}, "slip": 0.03}]}`),
	)
	require.Empty(t, problems)
	solved, err := casefile.Solve(d)
	require.NoError(t, err)
	r := solved.(casefile.Steady)
	assert.InDelta(t, 240, r.Volts.AB, 1e-9, "a stiff source")
	assert.Equal(t, r.Motors[0].LineAmps.A, r.Motors[0].WindingAmps[0], "wye when nothing is said")
	text, err := json.Marshal(r)
	require.NoError(t, err)
	assert.Contains(t, string(text), `"capacitors":[]`)
}

const (
	waveformExample = `{"format": "brackmoor.case/1", "analysis": "waveform", "duration_s": 0.4, "sample_s": 0.01,
 "supply": {"volts": 240, "hertz": 60, "phase_degrees": 90},
 "motors": [{"id": "m", "poles": 4, "rated_hertz": 60, "inertia_kgm2": 0.02, "initial_rpm": 1700,
 "circuit": {"r1_ohm": 0.6, "x1_ohm": 1.2, "xm_ohm": 30, "rc_ohm": null, "cages": [{"r_ohm": 0.5, "x_ohm": 1.3}]}}],
 "capacitors": [{"id": "run", "between": "ac", "microfarad": 60}, {"id": "start", "between": "ac", "microfarad": 200,
 "closed": true}],
 "loads": [{"id": "lamp", "between": "ab", "resistance_ohm": 100, "closed": false}],
 "events": [{"at_s": 0.2, "switch": "start", "to": "open"}, {"at_s": 0.3, "switch": "lamp", "to": "closed"}]}`
	rectifierExample = `{"format": "brackmoor.case/1", "analysis": "rectifier", "supply": {"volts": 240, "hertz": 60,
 "line_resistance_ohm": 0.05, "line_reactance_ohm": 0.02},
 "bridge": {"phases": 1, "topology": "bridge", "bus_microfarad": 1500, "dc_choke_mh": 0, "dc_choke_ohm": 0,
 "line_reactor_ohm": 0}, "load_watts": 2000}`
	stopExample = `{"format": "brackmoor.case/1", "analysis": "stop", "stop": {"inertia_kgm2": 0.1, "rpm": 1750,
 "bus_microfarad": 1000, "bus_volts": 325, "trip_volts": 400,
 "loss_watts": 150, "stop_s": 3, "chopper_volts": 380}}`
)

// keys are those of a result document.
func keys(t *testing.T, text string) []string {
	t.Helper()
	d, problems := casefile.Read([]byte(text))
	require.Nil(t, problems)
	r, err := casefile.Solve(d)
	require.NoError(t, err)
	written, err := json.Marshal(r)
	require.NoError(t, err)
	var all map[string]json.RawMessage
	require.NoError(t, json.Unmarshal(written, &all))
	return slices.Collect(maps.Keys(all))
}

func TestWaveform(t *testing.T) {
	assert.ElementsMatch(
		t,
		[]string{"format", "analysis", "motors", "capacitors", "volts_rms", "series"},
		keys(t, waveformExample),
	)
	assert.NotContains(t, keys(t, strings.Replace(waveformExample, `, "sample_s": 0.01`, "", 1)), "series")
	d, problems := casefile.Read([]byte(waveformExample))
	require.Empty(t, problems)
	solved, err := casefile.Solve(d)
	require.NoError(t, err)
	r := solved.(casefile.Stepped)
	assert.Len(t, r.Series.Seconds, 41)
	text, err := json.Marshal(r.Motors[0])
	require.NoError(t, err)
	var motor map[string]any
	require.NoError(t, json.Unmarshal(text, &motor))
	assert.ElementsMatch(
		t,
		[]string{"id", "time_to_90_percent_s", "time_to_95_percent_s", "peak_torque_nm", "peak_line_amps", "final_rpm"},
		slices.Collect(maps.Keys(motor)),
	)
	text, err = json.Marshal(r.Capacitors[1])
	require.NoError(t, err)
	assert.Regexp(t, `^{"id":"start","peak_volts":[0-9.]+,"final_volts":-?[0-9.]+}$`, string(text))
	for _, c := range []struct{ old, new, path, says string }{
		{`"duration_s": 0.4`, `"duration_s": 0`, "$.duration_s", "must be above 0"},
		{`"inertia_kgm2": 0.02, `, ``, "$.motors[0]", "inertia_kgm2"},
		{`"initial_rpm": 1700`, `"slip": 0.1`, "$.motors[0]", "slip"},
		{`"switch": "start"`, `"switch": "nobody"`, "$.events[0].switch", "names no element"},
		{`"at_s": 0.2`, `"at_s": 7`, "$.events[0].at_s", "after duration_s"},
		{`"to": "open"`, `"to": "off"`, "$.events[0].to", "open"},
		{`"sample_s": 0.01`, `"sample_s": 1e-7`, "$.sample_s", "more than"},
		{`"id": "start"`, `"id": "run"`, "$.capacitors[1].id", "taken"},
		{`"id": "lamp"`, `"id": "supply"`, "$.loads[0].id", "taken"},
	} {
		require.Contains(t, waveformExample, c.old)
		_, problems := casefile.Read([]byte(strings.Replace(waveformExample, c.old, c.new, 1)))
		found := false
		for _, p := range problems {
			found = found || p.Path == c.path && strings.Contains(p.Says, c.says)
		}
		assert.True(t, found, "%s: %v", c.new, problems)
	}
}

func TestRectifierAndStop(t *testing.T) {
	assert.ElementsMatch(
		t,
		[]string{
			"format",
			"analysis",
			"bus_mean_volts",
			"ripple_pp_volts",
			"ripple_rms_volts",
			"input_rms_amps",
			"input_peak_amps",
			"true_power_factor",
			"displacement_factor",
			"capacitor_rms_amps",
			"diode_average_amps",
			"diode_rms_amps",
			"input_harmonic_amps",
			"input_thd_percent",
		},
		keys(t, rectifierExample),
	)
	asked := keys(
		t,
		strings.Replace(
			rectifierExample,
			`"load_watts": 2000`,
			`"load_watts": 2000, "series": true, "precharge_ohm": 50, "derate": true, "drives": [{"id": "x", `+
				`"bus_microfarad": 500, "watts": 300}],
 "can": {"hours": 5000, "at_celsius": 85, "amps": 8, "core_rise_k": 8, "celsius": 45}`,
			1,
		),
	)
	for _, key := range []string{"series", "precharge", "single_phase", "drives", "life_hours"} {
		assert.Contains(t, asked, key)
	}
	assert.ElementsMatch(
		t,
		[]string{
			"format",
			"analysis",
			"shortest_stop_s",
			"bus_peak_volts",
			"resistor_peak_watts",
			"resistor_mean_watts",
			"resistor_max_ohm",
		},
		keys(t, stopExample),
	)
	assert.ElementsMatch(
		t,
		[]string{"format", "analysis", "shortest_stop_s"},
		keys(t, strings.Replace(stopExample, `, "stop_s": 3, "chopper_volts": 380`, "", 1)),
	)
	// A stop so slow that no resistor is needed still names all its figures.
	assert.Contains(t, keys(t, strings.Replace(stopExample, `"stop_s": 3`, `"stop_s": 300`, 1)), "resistor_max_ohm")
	refused(t, []refusal{
		{
			rectifierExample,
			`"load_watts": 2000`,
			`"load_watts": 2000, "drives": [{"id": "x", "bus_microfarad": 5, "watts": 1}, {"id": "x", ` +
				`"bus_microfarad": 5, "watts": 1}]`,
			"$.drives[1].id",
			"taken by $.drives[0]",
		},
		{rectifierExample, `"phases": 1`, `"phases": 2`, "$.bridge.phases", "1, 3"},
		{
			rectifierExample,
			`"phases": 1, "topology": "bridge"`,
			`"phases": 3, "topology": "doubler"`,
			"$.bridge.phases",
			"one phase",
		},
		{
			rectifierExample,
			`"topology": "bridge", "bus_microfarad": 1500, "dc_choke_mh": 0`,
			`"topology": "doubler", "bus_microfarad": 1500, "dc_choke_mh": 3`,
			"$.bridge",
			"no place for a dc choke",
		},
		{rectifierExample, `"load_watts": 2000`, `"load_watts": -1`, "$.load_watts", "minimum"},
		{rectifierExample, `"load_watts": 2000`, `"load_watts": 2000, "motors": []`, "$", "motors"},
		{rectifierExample, `"line_resistance_ohm"`, `"resistance_ohm"`, "$.supply", "resistance_ohm"},
		{
			stopExample,
			`"loss_watts": 150`,
			`"loss_watts": 150, "friction_nm": 1`,
			"$.stop",
			"either loss_watts or friction_nm",
		},
		{stopExample, `"stop_s": 3, `, ``, "$.stop", "stand together"},
		{stopExample, `"stop_s": 3`, `"stop_s": 0`, "$.stop.stop_s", "must be above 0"},
		{stopExample, `"trip_volts": 400`, `"trip_volts": 300`, "$.stop.trip_volts", "above bus_volts"},
		{stopExample, `"chopper_volts": 380`, `"chopper_volts": 420`, "$.stop.chopper_volts", "not above trip_volts"},
		{stopExample, `"inertia_kgm2": 0.1, `, ``, "$.stop", "inertia_kgm2"},
		{stopExample, `"stop", "stop"`, `"stop", "supply": {}, "stop"`, "$", "supply"},
		{stopExample, `"analysis": "stop"`, `"analysis": "guess"`, "$.analysis", "steady"},
	})
}

// refusal is a change to an example, and where and how it is refused.
type refusal struct{ text, old, new, path, says string }

func refused(t *testing.T, list []refusal) {
	t.Helper()
	for _, c := range list {
		require.Contains(t, c.text, c.old)
		_, problems := casefile.Read([]byte(strings.Replace(c.text, c.old, c.new, 1)))
		require.NotEmpty(t, problems, c.new)
		found := false
		for _, p := range problems {
			found = found || p.Path == c.path && strings.Contains(p.Says, c.says)
		}
		assert.True(t, found, "%s: %v", c.new, problems)
	}
}

const (
	machine = `{"id": "m", "poles": 4, "rated_hertz": 60, "inertia_kgm2": 0.05, "circuit": {"r1_ohm": 0.6,
 "x1_ohm": 1.2, "xm_ohm": 30, "cages": [{"r_ohm": 0.5, "x_ohm": 1.3}]}`
	startExample = `{"format": "brackmoor.case/1", "analysis": "start", "supply": {"volts": 240, "hertz": 60},
 "motors": [` + machine + `, "load": {"newton_metre": 3, "at_rpm": 1750, "exponent": 2, "breakaway_nm": 1}}],
 "capacitors": [{"id": "run", "between": "ac", "microfarad": 60}, {"id": "start", "between": "ac", "microfarad": 200,
 "out": {"by": "speed", "at": 1350, "motor": "m"}}], "most_s": 10}`
	ponyExample = `{"format": "brackmoor.case/1", "analysis": "start", "supply": {"volts": 240, "hertz": 60},
 "motors": [` + machine + `}], "pony": {"watts": 200, "rpm": 1725, "synchronous_rpm": 1800, "belt_ratio": 0.9}}`
	offExample = `{"format": "brackmoor.case/1", "analysis": "switch-off", "supply": {"volts": 240, "hertz": 60},
 "motors": [` + machine + `, "load": {"kind": "power", "watts": 0}}],
 "capacitors": [{"id": "run", "between": "ac", "microfarad": 60}], "seconds": 1}`
	heatExample = `{"format": "brackmoor.case/1", "analysis": "heat", "heat": {"output_watts": 2200,
 "insulation_class": "F", "ambient_celsius": 30, "session_minutes": 240,
 "duty": [{"minutes": 10, "winding_percent": [80, 125, 70], "loss_percent": 110}, {"minutes": 20}]}}`
	driveExample = `{"format": "brackmoor.case/1", "analysis": "drive", "motor": {"id": "m", "poles": 4,
 "rated_hertz": 50, "rated_amps": 8, "own_fan": true, "circuit": {"r1_ohm": 0.9, "x1_ohm": 1.6, "xm_ohm": 40,
 "cages": [{"r_ohm": 0.8, "x_ohm": 2}]}},
 "volts_per_hertz": {"motor_volts": 400, "motor_hertz": 50, "most_volts": 230}, "hertz": [10, 28.75, 50],
 "pulses": {"bus_volts": 325, "volts": 115, "hertz": 14, "carrier_hertz": 4000, "slip": 0.05}}`
)

func TestStartHeatAndDrive(t *testing.T) {
	assert.ElementsMatch(
		t,
		[]string{
			"format",
			"analysis",
			"seconds",
			"motors",
			"capacitors",
			"lowest_volts",
			"peak_supply_amps",
			"points",
			"verdicts",
		},
		keys(t, startExample),
	)
	assert.Contains(t, keys(t, ponyExample), "pony")
	assert.Contains(t, keys(t, ponyExample), "spin")
	assert.ElementsMatch(
		t,
		[]string{
			"format",
			"analysis",
			"live_s",
			"looked_s",
			"peak_volts",
			"after",
			"excites",
			"least_share",
			"verdicts",
		},
		keys(t, offExample),
	)
	assert.ElementsMatch(
		t,
		[]string{"format", "analysis", "thermal", "hottest_c", "highest_frame_c", "session", "verdicts"},
		keys(t, heatExample),
	)
	assert.ElementsMatch(t, []string{"format", "analysis", "base_hertz", "speed", "pulses"}, keys(t, driveExample))
	d, problems := casefile.Read([]byte(driveExample))
	require.Empty(t, problems)
	solved, err := casefile.Solve(d)
	require.NoError(t, err)
	assert.InDelta(t, 28.75, solved.(casefile.Driven).BaseHertz, 1e-9)
	refused(t, []refusal{
		{startExample, `"inertia_kgm2": 0.05, `, ``, "$.motors[0]", "inertia_kgm2"},
		{startExample, `"motor": "m"`, `"motor": "n"`, "$.capacitors[1].out.motor", "names no motor"},
		{startExample, `"motor": "m"`, `"back_at": 5`, "$.capacitors[1].out.back_at", "for volts"},
		{startExample, `"exponent": 2`, `"exponent": 5`, "$.motors[0].load.exponent", "0, 1, 2"},
		{
			startExample,
			`"inertia_kgm2": 0.05`,
			`"inertia_kgm2": 0.05, "running": true, "initial_rpm": 1`,
			"$.motors[0]",
			"not for the same motor",
		},
		{ponyExample, `"synchronous_rpm": 1800`, `"synchronous_rpm": 1700`, "$.pony.synchronous_rpm", "above rpm"},
		{
			ponyExample,
			`"inertia_kgm2": 0.05`,
			`"inertia_kgm2": 0.05, "running": true`,
			"$.motors[0]",
			"brought up by the pony",
		},
		{offExample, `"inertia_kgm2": 0.05, `, ``, "$.motors[0]", "inertia_kgm2"},
		{offExample, `"load": {"kind": "power", "watts": 0}`, `"slip": 0.1`, "$.motors[0]", "load"},
		{heatExample, `"minutes": 10`, `"minutes": 0`, "$.heat.duty[0].minutes", "above 0"},
		{driveExample, `"volts": 115`, `"volts": 300`, "$.pulses", "too few volts"},
		{driveExample, `"carrier_hertz": 4000`, `"carrier_hertz": 100`, "$.pulses", "carrier"},
	})
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(example))
	for _, text := range []string{startExample, ponyExample, offExample, heatExample, driveExample} {
		f.Add([]byte(text))
	}
	f.Add([]byte(waveformExample))
	f.Add([]byte(rectifierExample))
	f.Add([]byte(stopExample))
	f.Add([]byte(`{}`))
	f.Add([]byte(`[[[[`))
	f.Fuzz(func(t *testing.T, text []byte) {
		d, problems := casefile.Read(text)
		if problems != nil {
			return
		}
		r, err := casefile.Solve(d)
		if err != nil {
			return
		}
		if _, err := json.Marshal(r); err != nil {
			t.Fatalf("a result that cannot be written: %v", err)
		}
	})
}

// Every example of the schema is one that can be used: all of them in one case.
func TestExamplesOfTheSchema(t *testing.T) {
	var published struct {
		Defs map[string]struct{ Examples []json.RawMessage } `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(schema.Case, &published))
	first := func(name string) string {
		require.NotEmpty(t, published.Defs[name].Examples, name)
		return string(published.Defs[name].Examples[0])
	}
	text := strings.NewReplacer(
		`"hertz": 60, "resistance_ohm"`,
		`"hertz": 60, "earthing": "mid", "transformer": `+first("winding")+`, "resistance_ohm"`,
		`"slip": 0.0006`,
		`"slip": 0.0006, "behind": "step-up", "conductor": `+first("conductor"),
		`"loads": [`,
		`"three_phase_loads": [`+first(
			"threePhase",
		)+`], "rectifiers": [`+first(
			"rectifierLoad",
		)+`], "transformers": [`+first(
			"transformer",
		)+`], "loads": [`,
	).Replace(example)
	text = strings.Replace(text, `"volts": 240`, `"volts": 120`, 1)
	d, problems := casefile.Read([]byte(text))
	require.Empty(t, problems)
	solved, err := casefile.Solve(d)
	require.NoError(t, err)
	r := solved.(casefile.Steady)
	assert.InDelta(t, 0, r.PowerBalanceWatts, 1e-6*r.Supply.Watts)
	assert.Greater(t, *r.SupplyTransformer.InrushPeakAmps, r.Supply.Amps)
	assert.InDelta(t, 900, r.Rectifiers[0].Watts, 1e-5)
	assert.InDelta(t, r.Volts.AB/2, r.EarthVolts.A, 1e-9)
	assert.Len(t, r.Transformers, 1)
	assert.Len(t, r.ThreePhaseLoads, 1)
}
