package inverter

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/drive"
	"brackmoor/core/load"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
)

// hobber is a 2 hp motor on 240 V 60 Hz.
func hobber(t *testing.T, kind drive.Kind) drive.Input {
	t.Helper()
	typed := plate.Typed{Output: "2 hp", Volts: "230/460", RPM: "1740", Hertz: "60", Amps: "6.2/3.1"}
	return driven(t, kind, typed, 240)
}

// driven is a motor on one phase of so many volts at its plate's hertz.
func driven(t *testing.T, kind drive.Kind, typed plate.Typed, volts float64) drive.Input {
	t.Helper()
	p, problems := plate.Read(typed)
	require.Empty(t, problems)
	hertz := p.Hertz
	filled, problems := plate.Fill(p, plate.Supply{Volts: volts, Hertz: hertz})
	require.Empty(t, problems)
	fit, err := motor.FitCircuit(filled.Target())
	require.NoError(t, err)
	return drive.Input{Kind: kind, Machine: machine.Machine{
		Plate: filled, Fit: fit, Load: load.Kinds[0], Known: load.Shaft{Kgm2: 0.02},
		Supply: network.Supply{Phases: 1, Volts: volts, Hertz: hertz, ResistanceOhm: 0.2, ReactanceOhm: 0.1},
	}}
}

// with puts settings into a drive by their names, as words or figures.
func with(t *testing.T, d *Drive, settings map[string]any) {
	t.Helper()
	for name, v := range settings {
		value := drive.Value{}
		switch v := v.(type) {
		case string:
			value.Word = v
		case float64:
			value.Number = v
		case int:
			value.Number = float64(v)
		}
		r := d.Profile().Register(name)
		require.NotNil(t, r, name)
		raw, err := r.Encode(value)
		require.NoError(t, err, name)
		require.NoError(t, d.set(r, raw), name)
	}
}

// meant is what the hobber is set to.
var meant = map[string]any{
	"base_hertz": 60, "maximum_hertz": 60, "motor_volts": 230, "motor_amps": 6.2, "overload_amps": 6.2,
	"motor_rpm": 1740, "boost_percent": 3, "acceleration_s": 2, "deceleration_s": 3, "stop_mode": "ramp",
	"carrier_khz": 4, "input_phase_loss": "off", "restart": "off",
}

// lit is a drive on two lines, its enable closed, its bus full.
func lit(t *testing.T, profile int, in drive.Input) *Drive {
	t.Helper()
	d := New(Of(in, drive.Profiles()[profile], nil))
	assert.Equal(t, "dark", d.Display().Mode)
	assert.NotEmpty(t, d.Press("run", 1), "a dark keypad does nothing")
	d.Wire(Inputs{Lines: 2, Enable: true})
	d.Advance(1)
	require.InEpsilon(t, 240*math.Sqrt2, d.front.Volts(), 0.03)
	return d
}

// A drive that is set by the plate runs its motor as a network at that frequency has it, idle and loaded, and takes
// from its bus what the motor takes.
func TestARunningDriveIsANetworkAtItsFrequency(t *testing.T) {
	in := hobber(t, drive.OnePhase)
	for _, share := range []float64{0, 0.8} {
		d := lit(t, 0, in)
		with(t, d, meant)
		require.Empty(t, d.Press("run", 1))
		require.Empty(t, d.Press("up", 600))
		d.Load(Braked(in, share))
		d.Advance(5)
		p := d.Picture()
		require.Equal(t, "running", p.State, p.Fault)
		assert.InDelta(t, 60, p.Hertz, 1e-9)
		m := d.c.Motor
		m.Load = Braked(in, share)
		want, err := network.Solve(network.Case{
			Supply: network.Supply{Phases: 3, Volts: d.Volts(), Hertz: 60}, Motors: []network.Motor{m},
		})
		require.NoError(t, err)
		assert.InEpsilon(t, want.Motors[0].RPM, p.RPM, 1e-3)
		assert.InEpsilon(t, want.Motors[0].LineAmps.A, p.Amps, 0.02)
		if share > 0 {
			assert.InEpsilon(t, want.Motors[0].InputWatts, d.shown.watts, 0.03)
			assert.Greater(t, p.InputAmps, 1.5*d.shown.watts/240, "pulses: a poor power factor")
			assert.InDelta(t, 230, p.Volts, 8)
		}
	}
}

// While its bus fills through its resistor it does not start: it would starve, and trip.
func TestItWaitsForItsBus(t *testing.T) {
	d := New(Of(hobber(t, drive.OnePhase), drive.Profiles()[0], nil))
	d.Wire(Inputs{Lines: 2, Enable: true})
	for d.front.Volts() < awake+20 {
		d.Advance(Tick)
	}
	assert.Equal(t, "Its bus is still filling.", d.Press("run", 1))
	d.Advance(2)
	assert.Equal(t, drive.Stopped, d.State())
	assert.InDelta(t, 0, d.rpm, 1e-9, "nothing moves it")
	assert.Empty(t, d.Press("run", 1))
	d.Advance(1)
	assert.Equal(t, drive.Running, d.State())
}

// Every trip comes of what causes it, and not without it.
func TestTripsMeanSomething(t *testing.T) {
	for name, c := range map[string]struct {
		kind     drive.Kind
		settings map[string]any
		inertia  float64
		load     float64
		warm     float64 // of the motor's overload
		hot      float64 // of its heat sink
		seconds  float64
		then     func(d *Drive)
		after    float64
		trips    string
	}{
		"as it is meant": {seconds: 6},
		"ramped down too fast": {
			settings: map[string]any{"deceleration_s": 0.3}, inertia: 0.15, seconds: 8, then: stop, after: 2,
			trips: "overvoltage",
		},
		"ramped down in time": {
			settings: map[string]any{"deceleration_s": 30}, inertia: 0.15, seconds: 8, then: stop, after: 32,
		},
		"it coasts": {
			settings: map[string]any{"stop_mode": "coast", "deceleration_s": 0.3}, inertia: 0.15, seconds: 8,
			then: stop, after: 2,
		},
		"too much load": {
			load: 1.9, settings: map[string]any{"current_limit_percent": 200}, warm: 0.9, seconds: 40,
			trips: "overload",
		},
		"plate load": {load: 1, warm: 1, seconds: 40},
		"overload set by the drive": {
			load: 1.9, warm: 0.9, settings: map[string]any{"overload_amps": 14, "current_limit_percent": 200},
			seconds: 40,
		},
		"hot by its carrier": {
			load: 1.3, settings: map[string]any{"carrier_khz": 16}, hot: 83, seconds: 40, trips: "overheat",
		},
		"built for three lines, told so": {
			kind: drive.Three, load: 1, settings: map[string]any{"input_phase_loss": "on"}, seconds: 8,
			trips: "phase-lost",
		},
		"built for three lines, told not": {kind: drive.Three, load: 1, seconds: 8},
		"its line goes": {load: 1, seconds: 6, then: func(d *Drive) {
			in := d.Inputs()
			in.Lines = 0
			d.Wire(in)
		}, after: 0.15, trips: "undervoltage"},
		"insulation": {seconds: 6, then: func(d *Drive) {
			in := d.Inputs()
			in.EarthBad = true
			d.Wire(in)
		}, after: 0.1, trips: "earth"},
	} {
		t.Run(name, func(t *testing.T) {
			if c.kind == "" {
				c.kind = drive.OnePhase
			}
			in := hobber(t, c.kind)
			if c.inertia > 0 {
				in.Known.Kgm2 = c.inertia
			}
			d := lit(t, 0, in)
			with(t, d, meant)
			with(t, d, c.settings)
			d.heat, d.sink = c.warm, max(c.hot, roomCelsius)
			d.Press("run", 1)
			d.Press("up", 600)
			d.Advance(3)
			d.Load(Braked(in, c.load))
			d.Advance(c.seconds - 3)
			if c.then != nil {
				require.Empty(t, d.fault)
				c.then(d)
				d.Advance(c.after)
			}
			assert.Equal(t, c.trips, d.fault)
			if c.trips != "" {
				require.NotEmpty(t, d.Log)
				assert.Equal(t, c.trips, d.Log[0].Fault)
				assert.Equal(t, d.c.Profile.Panel.Shows[c.trips], d.Display().Text)
				assert.Equal(t, drive.Tripped, d.State())
				assert.NotNil(t, drive.FaultOf(c.trips))
			}
		})
	}
}

func stop(d *Drive) { d.Press("stop", 1) }

// A ramp as short as the sizing allows does not trip the bus, one of three fifths does: of small motors and larger, and
// of one that gets less than its plate's volts.
func TestTheShortestStopIsWhereItTrips(t *testing.T) {
	small := plate.Typed{Output: "0.37 kW", Volts: "230/400", RPM: "1380", Hertz: "50", Amps: "1.9/1.1"}
	large := plate.Typed{Output: "5.5 kW", Volts: "230/400", RPM: "1450", Hertz: "50", Amps: "19.2/11.1"}
	star := plate.Typed{Output: "1.5 kW", Volts: "400", RPM: "1420", Hertz: "50", Amps: "3.5"}
	for name, c := range map[string]struct {
		in             drive.Input
		lightest, most float64 // kgm2
	}{
		"2 hp":              {hobber(t, drive.OnePhase), 0.01, 0.12},
		"0.37 kW":           {driven(t, drive.OnePhase, small, 230), 0.004, 0.02},
		"5.5 kW":            {driven(t, drive.OnePhase, large, 230), 0.08, 0.3},
		"400 V star on 230": {driven(t, drive.Three, star, 230), 0.01, 0.06},
	} {
		in := c.in
		in.Known.Kgm2 = c.lightest + (c.most-c.lightest)*rand.Float64()
		a, err := drive.Size(in)
		require.NoError(t, err)
		require.NotNil(t, a.ShortestStop, name)
		trips := func(seconds float64) bool {
			d := New(Of(in, drive.Profiles()[0], nil))
			d.Wire(Inputs{Lines: 2, Enable: true})
			d.Advance(4)
			p := in.Plate
			base := math.Min(a.BaseHertz, p.Hertz.Value)
			with(t, d, meant)
			with(t, d, map[string]any{
				"base_hertz": base, "maximum_hertz": p.Hertz.Value, "motor_volts": p.Volts.Value * base / p.Hertz.Value,
				"motor_amps": p.Amps.Value, "overload_amps": p.Amps.Value, "motor_rpm": math.Round(p.RPM.Value),
				"deceleration_s": seconds, "acceleration_s": 12,
			})
			d.Press("run", 1)
			d.Press("up", 600)
			d.Advance(16)
			require.Equal(t, "running", d.State(), "%s: %s", name, d.fault)
			d.Press("stop", 1)
			d.Advance(seconds + 1)
			return d.fault == "overvoltage"
		}
		assert.True(t, trips(0.62**a.ShortestStop), "%s: %.2f s, %g kgm²", name, *a.ShortestStop, in.Known.Kgm2)
		assert.False(t, trips(1.02**a.ShortestStop), "%s: %.2f s, %g kgm²", name, *a.ShortestStop, in.Known.Kgm2)
	}
}

// Nothing starts by itself: not when power comes back, not when its enable closes again, not after a reset, while its
// run contact stays closed; only where somebody set it to.
func TestNothingRestartsByItself(t *testing.T) {
	for name, c := range map[string]struct {
		settings map[string]any
		disturb  func(d *Drive)
		runs     bool
	}{
		"power comes back":         {disturb: power},
		"power comes back, set to": {map[string]any{"restart": "on"}, power, true},
		"enable opens and closes":  {disturb: enable},
		"a fault is reset":         {disturb: fault},
		"commands come from its terminals again": {
			disturb: func(d *Drive) {
				d.Press("stop", 1)
				d.Wire(Inputs{Lines: 2, Enable: true, Turned: 0.5})
				d.Advance(5)
				with(t, d, map[string]any{"run_source": "keypad"})
				d.Wire(Inputs{Lines: 2, Enable: true, Run: true, Turned: 0.5})
				d.Advance(1)
				with(t, d, map[string]any{"run_source": "terminals"})
			},
		},
		"a fault that resets by itself": {
			map[string]any{"fault_reset": "by itself"}, func(d *Drive) {
				d.trip("overcurrent")
				d.Advance(7)
			}, true,
		},
	} {
		t.Run(name, func(t *testing.T) {
			d := lit(t, 0, hobber(t, drive.OnePhase))
			with(t, d, meant)
			with(t, d, map[string]any{"run_source": "terminals", "speed_source": "potentiometer"})
			with(t, d, c.settings)
			d.Wire(Inputs{Lines: 2, Enable: true, Run: true, Turned: 0.5})
			d.Advance(3)
			require.Equal(t, "running", d.State())
			assert.InDelta(t, 30, d.hertz, 1e-9)
			c.disturb(d)
			d.Advance(3)
			assert.Equal(t, c.runs, d.State() == "running", d.State())
			if !c.runs {
				assert.InDelta(t, 0, d.amps, 1e-9)
				d.Wire(Inputs{Lines: 2, Enable: true, Turned: 0.5})
				d.Advance(0.1)
				d.Wire(Inputs{Lines: 2, Enable: true, Run: true, Turned: 0.5})
				d.Advance(1)
				assert.Equal(t, "running", d.State(), "opened and closed again it starts")
			}
		})
	}
}

func power(d *Drive) {
	in := d.Inputs()
	off := in
	off.Lines = 0
	d.Wire(off)
	d.Advance(15)
	d.Wire(in)
	d.Advance(1)
}

func enable(d *Drive) {
	in := d.Inputs()
	open := in
	open.Enable = false
	d.Wire(open)
	d.Advance(1)
	d.Wire(in)
}

func fault(d *Drive) {
	d.trip("overcurrent")
	d.Advance(1)
	d.Press("reset", 1)
}

// As it ships it is set for another country, and its first turns tell so.
func TestFactoryIsAnotherCountrys(t *testing.T) {
	in := hobber(t, drive.OnePhase)
	fell := lit(t, 0, in)
	fell.Press("run", 1)
	fell.Press("up", 600)
	fell.Advance(8)
	assert.InDelta(t, 50, fell.Picture().Hertz, 1e-9, "it goes no further")
	assert.Less(t, fell.Picture().RPM, 1505.0)
	marram := New(Of(in, drive.Profiles()[1], nil))
	assert.True(t, marram.enabled(), "its enable is bridged as it ships")
	assert.False(t, New(Of(in, drive.Profiles()[0], nil)).enabled(), "the other's is not")
}

// The bus takes all of a write or nothing of it, and settings only while it stands.
func TestTheBusRefusesWhatItMust(t *testing.T) {
	d := lit(t, 0, hobber(t, drive.OnePhase))
	with(t, d, meant)
	address := func(setting string) uint16 { return d.Profile().Register(setting).Address }
	watts := address("motor_output")
	require.NoError(t, d.Write("", watts, []uint16{0, 1500}))
	for name, c := range map[string]struct {
		at     uint16
		values []uint16
		err    error
	}{
		"half a figure":          {watts, []uint16{0}, ErrValue},
		"its other half":         {watts + 1, []uint16{1}, ErrValue},
		"too high":               {watts, []uint16{1, 0}, ErrValue},
		"not there":              {0x0999, []uint16{1}, ErrAddress},
		"only read":              {address("bus_volts"), []uint16{1}, ErrAddress},
		"the second is too high": {address("maximum_hertz"), []uint16{5500, 65000}, ErrValue},
		"no word of this code":   {address("stop_mode"), []uint16{7}, ErrValue},
		"past the last address":  {65535, []uint16{1, 1}, ErrAddress},
		"run, from elsewhere":    {address("command"), []uint16{1}, ErrState},
	} {
		before := map[string]uint32{}
		for k, v := range d.raw {
			before[k] = v
		}
		require.ErrorIs(t, d.Write("", c.at, c.values), c.err, name)
		assert.Equal(t, before, d.raw, name)
	}
	d.Press("run", 1)
	d.Advance(0.5)
	require.ErrorIs(t, d.Write("", address("motor_amps"), []uint16{50}), ErrBusy)
	require.NoError(t, d.Write("", address("acceleration_s"), []uint16{80}), "this one may be changed under way")
	assert.False(t, d.Factory())
}

// A drive that runs by its bus stops when nobody speaks to it.
func TestALostLinkStopsIt(t *testing.T) {
	d := lit(t, 0, hobber(t, drive.OnePhase))
	with(t, d, meant)
	with(t, d, map[string]any{"run_source": "bus", "speed_source": "bus", "link_loss_s": 1, "reference_hertz": 30})
	require.NoError(t, d.Write("", d.Profile().Register("command").Address, []uint16{1}))
	for range 40 {
		d.Advance(0.1)
		_, err := d.Read("", d.Profile().Register("state").Address)
		require.NoError(t, err)
	}
	assert.Equal(t, "running", d.State())
	d.Advance(1.1)
	assert.Equal(t, "link-lost", d.fault)
}

// Whatever keys are pressed, settings stay what their registers may hold, the display shows something while there is
// a bus, and nothing turns that has not been told to.
func TestAnyKeysLeaveItWhole(t *testing.T) {
	in := hobber(t, drive.OnePhase)
	rapid.Check(t, func(rt *rapid.T) {
		d := New(Of(in, drive.Profiles()[rapid.IntRange(0, 1).Draw(rt, "profile")], func() float64 { return 0.3 }))
		d.Wire(Inputs{Lines: 2, Enable: true})
		d.Advance(0.4)
		run := false
		for range rapid.IntRange(1, 40).Draw(rt, "presses") {
			key := rapid.SampledFrom(drive.Keys).Draw(rt, "key")
			d.Press(key, rapid.IntRange(1, 300).Draw(rt, "times"))
			run = run || key == "run"
			d.Advance(0.02)
			assert.NotEmpty(rt, d.Display().Text)
			for _, r := range d.parameters() {
				back, err := r.Encode(r.Decode(d.raw[r.Setting]))
				require.NoError(rt, err, r.Setting)
				require.Equal(rt, d.raw[r.Setting], back)
			}
		}
		if !run {
			assert.Equal(rt, "stopped", d.State())
		}
	})
}

// The guided set-up goes through its list and keeps what is put into it.
func TestGuidedSetUp(t *testing.T) {
	for profile := range drive.Profiles() {
		d := lit(t, profile, hobber(t, drive.OnePhase))
		require.Empty(t, d.Press("guide", 1))
		for i, name := range d.Profile().Panel.Guide {
			shown := d.Display()
			require.Equal(t, "edit", shown.Mode)
			assert.Equal(t, drive.Title(name), shown.Title)
			if i == 0 {
				before := d.raw[name]
				d.Press("down", 3)
				require.Empty(t, d.Press("enter", 1))
				assert.Equal(t, before-3, d.raw[name])
				continue
			}
			require.Empty(t, d.Press("enter", 1))
		}
		assert.Equal(t, "monitor", d.Display().Mode)
	}
}
