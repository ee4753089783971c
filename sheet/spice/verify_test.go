package spice_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/casefile"
	_ "brackmoor/core/feed/ways"
	"brackmoor/core/floor"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/shop"
	"brackmoor/sheet/spice"
)

const (
	motorText = `{"id": "m", "poles": 4, "rated_hertz": 60, %s "circuit": {"r1_ohm": 0.6, "x1_ohm": 1.2,
 "xm_ohm": 30, %s "cages": [{"r_ohm": 0.5, "x_ohm": 1.9}, {"r_ohm": 1.6, "x_ohm": 0.8}]}}`
	coreLoss  = `"rc_ohm": 400,`
	saturated = `"magnetising_curve": [{"airgap_volts": 120, "amps": 4.0}, {"airgap_volts": 132, "amps": 5.2}, ` +
		`{"airgap_volts": 144, "amps": 7.2}, {"airgap_volts": 156, "amps": 10.4}],
 "leakage_saturation": {"onset_amps": 15, "floor": 0.65},`
	house = `"supply": {"volts": 240, "hertz": 60, "resistance_ohm": 0.1, "reactance_ohm": 0.05}`
	run60 = `{"id": "run", "between": "ac", "microfarad": 60}`
	start = `{"id": "start", "between": "ac", "microfarad": 200}`
)

func steadyCase(supply, motor, rest string) string {
	return `{"format": "brackmoor.case/1", "analysis": "steady", ` + supply + `, "motors": [` + motor + `]` + rest + `}`
}

func waveCase(seconds float64, supply, motors, capacitors, events string) string {
	return fmt.Sprintf(
		`{"format": "brackmoor.case/1", "analysis": "waveform", "duration_s": %g, %s, "motors": [%s],
 "capacitors": [%s], "events": [%s]}`,
		seconds,
		supply,
		motors,
		capacitors,
		events,
	)
}

func bridgeCase(volts float64, phases int, topology, parts string, watts float64) string {
	return fmt.Sprintf(
		`{"format": "brackmoor.case/1", "analysis": "rectifier", "supply": {"volts": %g, "hertz": 60,
 "line_resistance_ohm": 0.05, "line_reactance_ohm": 0.02},
 "bridge": {"phases": %d, "topology": %q, %s}, "load_watts": %g}`,
		volts,
		phases,
		topology,
		parts,
		watts,
	)
}

// other is the motor under another name.
func other(id, with, circuit string) string {
	return strings.Replace(fmt.Sprintf(motorText, with, circuit), `"id": "m"`, fmt.Sprintf(`"id": %q`, id), 1)
}

// cases are those that both work out.
var cases = []struct{ name, text string }{
	{
		"steady: two bare legs",
		steadyCase(
			house,
			fmt.Sprintf(
				motorText,
				`"load": {"kind": "torque", "newton_metre": 3, "at_rpm": 1750, "exponent": 1},`,
				coreLoss,
			),
			"",
		),
	},
	{
		"steady: run capacitor",
		steadyCase(
			house,
			fmt.Sprintf(motorText, `"load": {"kind": "power", "watts": 1100},`, coreLoss),
			`, "capacitors": [`+run60+`]`,
		),
	},
	{
		"steady: saturated",
		steadyCase(
			house,
			fmt.Sprintf(motorText, `"load": {"kind": "power", "watts": 300},`, saturated),
			`, "capacitors": [`+run60+`]`,
		),
	},
	{
		"steady: held at standstill",
		steadyCase(house, fmt.Sprintf(motorText, `"slip": 1,`, coreLoss), `, "capacitors": [`+run60+`, `+start+`]`),
	},
	{
		"steady: three lines",
		steadyCase(
			`"supply": {"phases": 3, "volts": 240, "hertz": 60}`,
			fmt.Sprintf(motorText, `"load": {"kind": "power", "watts": 1500},`, coreLoss),
			"",
		),
	},
	{
		"steady: wire, transformer, oven, drive",
		steadyCase(
			house,
			fmt.Sprintf(
				motorText,
				`"load": {"kind": "power", "watts": 900}, "behind": "t", "conductor": {"resistance_ohm": 0.4, `+
					`"reactance_ohm": 0.1},`,
				coreLoss,
			),
			`, "capacitors": [`+run60+`], "rectifiers": [{"id": "drive", "between": "bc", "watts": 300}], `+
				`"three_phase_loads": [{"id": "oven", "connection": "delta", "resistance_ohm": 90, "reactance_ohm": `+
				`9}, {"id": "lamp", "resistance_ohm": 150, "behind": "t"}],
 "transformers": [{"id": "t", "ratio": 1.1, "resistance_ohm": 0.3, "reactance_ohm": 0.4, "core_ohm": 900,
 "magnetising_ohm": 300}]`,
		),
	},
	{
		"steady: circuits, a sub-panel, a neighbour's heater",
		steadyCase(
			house,
			fmt.Sprintf(motorText, `"load": {"kind": "power", "watts": 700},`, saturated),
			`, "capacitors": [`+run60+`], "circuits": [
 {"id": "barn", "conductor": {"resistance_ohm": 0.2, "reactance_ohm": 0.05},
  "loads": [{"id": "heater", "between": "ab", "resistance_ohm": 12}]},
 {"id": "shop", "from": "barn", "conductor": {"resistance_ohm": 0.3}, "motors": [`+
				other("lathe", `"load": {"kind": "power", "watts": 1100},`, coreLoss)+`], "capacitors": [`+
				strings.Replace(run60, `"run"`, `"shop run"`, 1)+`],
  "rectifiers": [{"id": "drive", "between": "ab", "watts": 400}]},
 {"id": "kiln", "closed": false, "loads": [{"id": "element", "between": "ab", "resistance_ohm": 8}]}]`,
		),
	},
	{
		"steady: circuits, one behind a step-up and one with an idler",
		steadyCase(
			house,
			other("spare", `"slip": 0.02,`, coreLoss),
			`, "circuits": [
 {"id": "mill", "conductor": {"resistance_ohm": 0.25},
  "transformer": {"ratio": 1.2, "resistance_ohm": 0.2, "reactance_ohm": 0.3, "core_ohm": 700},
  "motors": [`+other("mill motor", `"load": {"kind": "power", "watts": 500},`, coreLoss)+`],
  "capacitors": [`+strings.Replace(run60, `"run"`, `"mill run"`, 1)+`]},
 {"id": "converter", "conductor": {"resistance_ohm": 0.15, "reactance_ohm": 0.05}, "motors": [`+
				other("idler", `"load": {"kind": "power", "watts": 300},`, saturated)+`, `+
				other("planer", `"load": {"kind": "power", "watts": 1300},`, saturated)+`],
  "capacitors": [`+strings.Replace(run60, `"run"`, `"balance"`, 1)+`]}]`,
		),
	},
	{
		"start at 50 Hz of a 60 Hz motor with much friction",
		waveCase(
			1.2,
			`"supply": {"volts": 200, "hertz": 50, "resistance_ohm": 0.1}`,
			fmt.Sprintf(motorText, `"inertia_kgm2": 0.01, "friction_watts": 400,`, coreLoss),
			run60+", "+start,
			"",
		),
	},
	{
		"start behind a step-up and a long wire",
		strings.Replace(waveCase(
			0.5,
			`"supply": {"volts": 120, "hertz": 60, "resistance_ohm": 0.02, "reactance_ohm": 0.01, "transformer": `+
				`{"ratio": 2, "resistance_ohm": 0.1, "reactance_ohm": 0.2, "core_ohm": 500}}`,
			fmt.Sprintf(
				motorText,
				`"inertia_kgm2": 0.02, "conductor": {"resistance_ohm": 0.3, "reactance_ohm": 0.1},`,
				coreLoss,
			),
			run60+", "+start,
			"",
		), `"events"`, `"three_phase_loads": [{"id": "oven", "resistance_ohm": 60, "reactance_ohm": 10}], "events"`, 1),
	},
	{
		"start on three lines",
		waveCase(
			0.5,
			`"supply": {"phases": 3, "volts": 240, "hertz": 60}`,
			fmt.Sprintf(motorText, `"inertia_kgm2": 0.03,`, coreLoss),
			"",
			"",
		),
	},
	{
		"start on capacitors",
		waveCase(0.5, house, fmt.Sprintf(motorText, `"inertia_kgm2": 0.02,`, coreLoss), run60+", "+start, ""),
	},
	{
		"start, iron saturating",
		waveCase(0.5, house, fmt.Sprintf(motorText, `"inertia_kgm2": 0.02,`, saturated), run60+", "+start, ""),
	},
	{
		"start capacitor out",
		waveCase(
			0.9,
			house,
			fmt.Sprintf(
				motorText,
				`"inertia_kgm2": 0.02, "friction_watts": 40, "load": {"kind": "torque", "newton_metre": 3, "at_rpm":`+
					` 1750, "exponent": 2},`,
				coreLoss,
			),
			run60+", "+start,
			`{"at_s": 0.5, "switch": "start", "to": "open"}`,
		),
	},
	{
		"second motor in",
		waveCase(
			0.6,
			house,
			fmt.Sprintf(
				motorText,
				`"inertia_kgm2": 0.05, "initial_rpm": 1790,`,
				coreLoss,
			)+", "+strings.Replace(
				fmt.Sprintf(motorText, `"inertia_kgm2": 0.01, "closed": false,`, coreLoss),
				`"m"`,
				`"n"`,
				1,
			),
			run60,
			`{"at_s": 0.25, "switch": "n", "to": "closed"}`,
		),
	},
	{
		"supply off",
		waveCase(
			0.5,
			house,
			fmt.Sprintf(motorText, `"inertia_kgm2": 0.05, "initial_rpm": 1795,`, coreLoss),
			run60,
			`{"at_s": 0.3, "switch": "supply", "to": "open"}`,
		),
	},
	{"bridge on one phase", bridgeCase(240, 1, "bridge", `"bus_microfarad": 1500`, 2000)},
	{
		"bridge on one phase, choke",
		bridgeCase(240, 1, "bridge", `"bus_microfarad": 1500, "dc_choke_mh": 5, "dc_choke_ohm": 0.1`, 2000),
	},
	{"bridge on three phases", bridgeCase(240, 3, "bridge", `"bus_microfarad": 1500, "line_reactor_ohm": 0.3`, 4000)},
	{"doubler", bridgeCase(120, 1, "doubler", `"bus_microfarad": 2000`, 1000)},
	{
		"bridge on one phase, cans with ohms",
		bridgeCase(240, 1, "bridge", `"bus_microfarad": 700, "bus_esr_ohm": 0.2`, 2000),
	},
	{"doubler, cans with ohms", bridgeCase(120, 1, "doubler", `"bus_microfarad": 2000, "bus_esr_ohm": 0.1`, 1000)},
}

var measured = regexp.MustCompile(`(?m)^(\w+)\s*=\s*([-+0-9.eE]+)`)

// simulate runs a netlist through ngspice and returns what it measured.
func simulate(t testing.TB, netlist string) (map[string]float64, time.Duration) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "case.cir")
	require.NoError(t, os.WriteFile(file, []byte(netlist), 0o600))
	began := time.Now()
	out, err := exec.Command("ngspice", "-b", file).CombinedOutput()
	took := time.Since(began)
	require.NoError(t, err, string(out))
	values := map[string]float64{}
	for _, m := range measured.FindAllStringSubmatch(string(out), -1) {
		value, err := strconv.ParseFloat(m[2], 64)
		require.NoError(t, err)
		values[m[1]] = value
	}
	return values, took
}

// figure is one that both work out; Transient ones may differ by two percent.
type figure struct {
	name      string
	ours      float64
	theirs    float64
	scale     float64 // the largest of its kind
	transient bool
}

func (f figure) percent() float64 { return 100 * math.Abs(f.ours-f.theirs) / f.scale }

// figures pairs a result with what was measured.
func figures(result any, values map[string]float64) (list []figure) {
	add := func(name string, ours, theirs, scale float64, transient bool) {
		list = append(list, figure{name, ours, theirs, math.Abs(scale), transient})
	}
	fundamental := func(of string) float64 { return math.Hypot(values[of+"_sin"], values[of+"_cos"]) }
	volts := func(at string, l network.Lines) {
		most := max(l.AB, l.BC, l.CA)
		add("volts ab", l.AB, values[at+"volts_ab"], most, false)
		add("volts bc", l.BC, values[at+"volts_bc"], most, false)
		add("volts ca", l.CA, values[at+"volts_ca"], most, false)
	}
	turning := func(at string, m network.MotorResult, torque float64) {
		// Amps of line a as a space vector's part are its instantaneous ones.
		add("amps a", m.LineAmps.A, fundamental(at+"amps"), m.LineAmps.Max(), false)
		add("torque", m.TorqueNm, values[at+"torque"], torque, false)
	}
	most := func(motors []network.MotorResult) (torque float64) { // an idler's beside those that work
		for _, m := range motors {
			torque = max(torque, math.Abs(m.TorqueNm))
		}
		return torque
	}
	switch r := result.(type) {
	case casefile.Steady:
		volts("", r.Volts)
		for i, m := range r.Motors {
			turning(fmt.Sprintf("motor%d_", i), m, m.TorqueNm)
		}
	case casefile.Installed:
		if r.Sequence != "" {
			volts("xown_", r.Volts)
		}
		for i, c := range r.Circuits {
			at := fmt.Sprintf("xc%d_", i)
			if c.Sequence != "" {
				volts(at, c.Volts)
			}
			k := 0
			for _, m := range r.Motors {
				if m.Circuit == c.ID && c.Closed {
					turning(fmt.Sprintf("%smotor%d_", at, k), m, most(r.Motors))
					k++
				}
			}
		}
	case casefile.Stepped:
		volts("", r.VoltsRMS)
		for i, m := range r.Motors {
			at := fmt.Sprintf("motor%d_", i)
			add(
				"peak torque",
				m.PeakTorqueNm,
				max(math.Abs(values[at+"torque_max"]), math.Abs(values[at+"torque_min"])),
				m.PeakTorqueNm,
				true,
			)
			add(
				"peak amps a",
				m.PeakLineAmps.A,
				max(math.Abs(values[at+"amps_max"]), math.Abs(values[at+"amps_min"])),
				m.PeakLineAmps.A,
				true,
			)
			add("speed", m.FinalRPM*math.Pi/30, values[at+"omega"], 188.5, false)
		}
		for i, c := range r.Capacitors {
			at := fmt.Sprintf("capacitor%d_", i)
			add(
				"peak volts "+c.ID,
				c.PeakVolts,
				max(math.Abs(values[at+"max"]), math.Abs(values[at+"min"])),
				c.PeakVolts,
				true,
			)
		}
	case casefile.Rectified:
		add("bus", r.BusMeanVolts, values["bus_mean_volts"], r.BusMeanVolts, false)
		add("ripple", r.RipplePPVolts, values["ripple_pp_volts"], r.RipplePPVolts, false)
		add("input amps", r.InputRMSAmps, values["input_rms_amps"], r.InputRMSAmps, false)
		add("input peak", r.InputPeakAmps, values["input_peak_amps"], r.InputPeakAmps, true)
	}
	return list
}

// shops are whole shops as they were left, or with everything on, put together by the floor.
func shops(t *testing.T) (list []struct{ name, text string }) {
	t.Helper()
	for _, path := range []string{
		"../../demo/tarn-hollow.json", "../../demo/ferry-stairs.json", "../../core/floor/testdata/alder-loft.json",
		"../../core/floor/testdata/quoin-works.json", "../../core/floor/testdata/marram-shed.json",
		"../../core/floor/testdata/cold-harbour.json", "../../core/floor/testdata/sedge-garage.json",
	} {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		file, problems := shop.ReadFile(text)
		require.Empty(t, problems)
		sh := file.Shops[0]
		f, state := floor.Of(sh, motor.FitCircuit), sh.State
		n, err := f.Network(&state)
		require.NoError(t, err)
		turns := func(c network.Circuit) bool { return len(c.Motors) > 0 }
		if !slices.ContainsFunc(n.Circuits, turns) { // left with no motor on the lines
			state.On = sh.Site.IDs()
			for _, m := range sh.Machines {
				state.On = append(state.On, m.ID)
			}
			n, err = f.Network(&state)
		}
		require.NoError(t, err)
		text, err = json.Marshal(n)
		require.NoError(t, err)
		var document map[string]any
		require.NoError(t, json.Unmarshal(text, &document))
		document["format"], document["analysis"] = "brackmoor.case/1", "steady"
		text, err = json.Marshal(said(document))
		require.NoError(t, err)
		list = append(list, struct{ name, text string }{"shop: " + sh.Name, string(text)})
	}
	return list
}

// said is a document without what says nothing.
func said(value any) any {
	switch value := value.(type) {
	case map[string]any:
		for key, inner := range value {
			if inner == nil || inner == "" || inner == 0.0 && key != "watts" {
				delete(value, key)
			} else {
				value[key] = said(inner)
			}
		}
	case []any:
		for i := range value {
			value[i] = said(value[i])
		}
	}
	return value
}

// TestVerify runs every case in the core and, as it is written, in ngspice: steady
// figures must agree to 0.15 percent, transient peaks to two. Where a file is named
// for it the table is written there.
func TestVerify(t *testing.T) {
	if os.Getenv("BRACKMOOR_NGSPICE") != "required" {
		t.Skip("make verify runs this")
	}
	_, err := exec.LookPath("ngspice")
	require.NoError(t, err, "make verify installs ngspice")
	var table strings.Builder
	fmt.Fprintf(
		&table,
		"| case | worst figure | core | ngspice | apart, %% | core, ms | ngspice, ms |\n| --- | --- | ---: | ---: | "+
			"---: | ---: | ---: |\n",
	)
	for _, c := range append(cases, shops(t)...) {
		d, problems := casefile.Read([]byte(c.text))
		require.Empty(t, problems, c.name)
		began := time.Now()
		result, err := casefile.Solve(d)
		took := time.Since(began)
		require.NoError(t, err, c.name)
		netlist, err := spice.Netlist(d)
		require.NoError(t, err, c.name)
		values, theirs := simulate(t, netlist)
		worst := figure{scale: 1}
		for _, f := range figures(result, values) {
			limit := 0.15 // a field that saturates unevenly has harmonics, and with them a shade other flux
			if f.transient {
				limit = 2
			}
			assert.LessOrEqual(
				t,
				f.percent(),
				limit,
				"%s: %s is %.5g here and %.5g there",
				c.name,
				f.name,
				f.ours,
				f.theirs,
			)
			if f.percent() >= worst.percent() {
				worst = f
			}
		}
		fmt.Fprintf(
			&table,
			"| %s | %s | %.5g | %.5g | %.3f | %.2f | %.0f |\n",
			c.name,
			worst.name,
			worst.ours,
			worst.theirs,
			worst.percent(),
			took.Seconds()*1000,
			theirs.Seconds()*1000,
		)
	}
	t.Log("\n" + table.String())
	if file := os.Getenv("BRACKMOOR_VERIFY"); file != "" {
		text := "# The core against ngspice\n\n`make verify` works each of these cases out twice: in the core, " +
			"and by running the netlist that `brackmoor spice` writes of it\n" +
			"through ngspice. The figure that differs most is shown; steady ones may differ by 0.15 percent, " +
			"transient peaks by two.\n\n" + table.String()
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	}
}

// A name cannot break out of its comment, and what is no circuit is refused.
func TestNetlistsAreSafe(t *testing.T) {
	text := strings.Replace(cases[5].text, `"id": "m"`,
		`"id": "m\n.control\nshell echo\u2028.control\u2029.control"`, 1)
	d, problems := casefile.Read([]byte(text))
	require.Empty(t, problems)
	netlist, err := spice.Netlist(d)
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(netlist, "\n.control\n"))
	assert.NotContains(t, netlist, "\nshell")
	assert.Equal(t, -1, strings.IndexFunc(netlist, func(r rune) bool { return r != '\n' && !unicode.IsPrint(r) }))
	d, problems = casefile.Read(
		[]byte(
			`{"format": "brackmoor.case/1", "analysis": "stop", "stop": {"inertia_kgm2": 1, "rpm": 1000,
 "bus_microfarad": 100, "bus_volts": 300, "trip_volts": 400, "loss_watts": 1}}`,
		),
	)
	require.Empty(t, problems)
	_, err = spice.Netlist(d)
	assert.ErrorIs(t, err, spice.ErrNoCircuit)
}
