package floor

import (
	"fmt"
	"math"

	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/site"
)

// Picture is the shop in one state. Amps are rms, with the harmonics of drives added as if they
// were all alike, which is the most that they can be.
type Picture struct {
	Main       Meter            `json:"main"`
	Circuits   []CircuitState   `json:"circuits" nullable:"false"`
	Converters []ConverterState `json:"converters" nullable:"false"`
	Machines   []MachineState   `json:"machines" nullable:"false"`
	Loads      []LoadState      `json:"loads" nullable:"false"`
	Permitted  bool             `json:"permitted"`
	Broken     []Broken         `json:"broken" nullable:"false"`
}

// Meter is a current against what it may be at most, 0 where that is not known.
type Meter struct {
	Amps      float64 `json:"amps"`
	LimitAmps float64 `json:"limit_amps"`
	Volts     float64 `json:"volts"`
	Watts     float64 `json:"watts"`
	MoneyHour float64 `json:"money_an_hour"` // by the shop's tariff
}

func (m Meter) kVA() float64 { return m.Amps * m.Volts / 1000 }

// CircuitState is a circuit: amps at its near end, volts at its far end, of which DropPercent of
// the service's are lost until there.
type CircuitState struct {
	ID          string  `json:"id"`
	Name        string  `json:"name"`
	Amps        float64 `json:"amps"`
	LimitAmps   float64 `json:"limit_amps"`
	Volts       float64 `json:"volts"`
	DropPercent float64 `json:"drop_percent"`
	Working     string  `json:"working" told:"figures"`
}

// ConverterState is a converter; IdlerPercent is of its plate amps in the hottest winding.
type ConverterState struct {
	ID               string        `json:"id"`
	Name             string        `json:"name"`
	On               bool          `json:"on"`
	IdlerPercent     float64       `json:"idler_percent"`
	RPM              float64       `json:"rpm"`
	State            string        `json:"state"` // of its idler; empty while it is off
	Volts            network.Lines `json:"volts"`
	UnbalancePercent float64       `json:"unbalance_percent"`
	Watts            float64       `json:"watts"`
	Amps             float64       `json:"amps"`
	Bus              *BusState     `json:"bus"` // of a dc bus; nil for what has an idler
	Working          string        `json:"working" told:"figures"`
}

// MachineState is a machine; On says that its own switch is.
type MachineState struct {
	ID     string       `json:"id"`
	Name   string       `json:"name"`
	On     bool         `json:"on"`
	Motors []MotorState `json:"motors" nullable:"false"`
}

// MotorState is a motor; figures are zero for one that is off. HottestPercent is of its plate amps
// in its hottest winding, 0 where there is no such figure, as in a motor of one phase.
type MotorState struct {
	ID             string        `json:"id"`
	Name           string        `json:"name"`
	On             bool          `json:"on"`
	Live           bool          `json:"live"`  // current reaches it
	Known          bool          `json:"known"` // its plate is understood
	Apart          bool          `json:"apart"` // has a switch of its own
	State          string        `json:"state"` // running, crawling or stalled; empty where it is off
	LoadShare      float64       `json:"load_share"`
	Volts          network.Lines `json:"volts"`
	HottestPercent float64       `json:"hottest_winding_percent"`
	LinePercent    float64       `json:"line_percent"`       // of its plate amps, the highest of its lines
	Celsius        float64       `json:"settles_at_celsius"` // its hottest winding, after hours of this
	BearsCelsius   float64       `json:"bears_celsius"`
	RPM            float64       `json:"rpm"`
	Amps           float64       `json:"amps"`
	Working        string        `json:"working" told:"figures"`
}

// LoadState is a load that is no motor.
type LoadState struct {
	ID   string  `json:"id"`
	Name string  `json:"name"`
	On   bool    `json:"on"`
	Live bool    `json:"live"`
	Amps float64 `json:"amps"`
}

// Broken is a rule that a state breaks, where, by how much, and what to do.
type Broken struct {
	Rule     string        `json:"rule"`
	Severity rule.Severity `json:"severity"`
	Where    string        `json:"where"`
	Value    float64       `json:"value"`
	Limit    float64       `json:"limit"`
	Title    string        `json:"title"`
	Says     string        `json:"says" told:"figures"`
	Do       string        `json:"do" told:"figures"`
	Source   string        `json:"source"`
}

// Solve is the shop in a state.
func (f *Floor) Solve(s site.State) (Picture, error) {
	n, err := f.Network(&s)
	if err != nil {
		return Picture{}, err
	}
	result, err := network.SolveInstallation(n)
	if err != nil {
		return Picture{}, err
	}
	p := f.read(&s, &result)
	p.Broken = f.judge(&s, &p)
	p.Permitted = true
	for _, b := range p.Broken {
		p.Permitted = p.Permitted && b.Severity != rule.Stop
	}
	return p, nil
}

// found are the parts of a result by their names.
type found struct {
	circuits   map[string]*network.CircuitResult
	motors     map[string]*network.MotorResult
	loads      map[string]float64
	rectifiers map[string]*network.RectifierResult
}

func index(r *network.InstallationResult) found {
	x := found{
		map[string]*network.CircuitResult{}, map[string]*network.MotorResult{}, map[string]float64{},
		map[string]*network.RectifierResult{},
	}
	for i := range r.Circuits {
		x.circuits[r.Circuits[i].ID] = &r.Circuits[i]
	}
	for i := range r.Motors {
		x.motors[r.Motors[i].ID] = &r.Motors[i]
	}
	for i := range r.Rectifiers {
		x.rectifiers[r.Rectifiers[i].ID] = &r.Rectifiers[i]
		x.loads[r.Rectifiers[i].ID] = r.Rectifiers[i].Amps
	}
	for _, l := range r.Loads {
		x.loads[l.ID] = l.Amps
	}
	for _, l := range r.ThreePhaseLoads {
		x.loads[l.ID] = l.LineAmps.Max()
	}
	return x
}

// read puts a solved network under the shop's own names.
func (f *Floor) read(s *site.State, r *network.InstallationResult) Picture {
	x, lines := index(r), f.lineAmps(r)
	harmonics := f.harmonics(s, &x)
	rms := func(fundamental float64, at string) float64 { return math.Hypot(fundamental, harmonics[at]) }
	su := f.Shop.Supply
	p := Picture{
		Main:     Meter{Amps: rms(lines[""], ""), LimitAmps: su.MainAmps, Volts: r.Volts.AB, Watts: r.Supply.Watts},
		Circuits: []CircuitState{}, Converters: []ConverterState{}, Machines: []MachineState{}, Loads: []LoadState{},
	}
	if len(r.Circuits) == 0 {
		p.Main.Volts = su.Volts
	}
	p.Main.Watts += f.commonWatts(r)
	p.Main.MoneyHour = p.Main.Watts / 1000 * f.prices().Tariff
	for i := range f.Shop.Site.Circuits {
		c := &f.Shop.Site.Circuits[i]
		state := CircuitState{ID: c.ID, Name: c.Name, LimitAmps: f.limit(c)}
		if on := x.circuits[c.ID]; on != nil {
			state.Amps, state.Volts = rms(lines[c.ID], c.ID), on.Volts.AB
			state.DropPercent = 100 * (1 - on.Volts.AB/su.Volts)
			if f.onePole(c) {
				state.Volts *= f.Shop.Supply.LegShare()
			}
		}
		state.Working = f.wireWorking(c, &state)
		p.Circuits = append(p.Circuits, state)
	}
	for i := range f.Shop.Site.Converters {
		c := &f.Shop.Site.Converters[i]
		state := ConverterState{ID: c.ID, Name: c.Name, On: s.Has(c.ID)}
		own := f.idlers[c.ID]
		if on := x.circuits[c.ID]; on != nil && c.Kind == site.BusKind {
			state.Watts, state.Amps = on.Supply.Watts, rms(on.Supply.Amps, c.ID)
			state.Volts = network.Lines{AB: on.Volts.AB}
			f.busState(c, s, &state)
		} else if on != nil {
			idle := x.motors[own.Motor.ID]
			state.Volts, state.UnbalancePercent = on.Volts, on.UnbalancePercent
			state.Watts, state.Amps, state.RPM = on.Supply.Watts, rms(on.Supply.Amps, c.ID), idle.RPM
			state.State = idle.State
			state.IdlerPercent = 100 * hottest(idle) / own.winding
			state.Working = fmt.Sprintf(
				"hottest winding %.2f A over %.2f A, the amps of %s",
				hottest(idle),
				own.winding,
				own.by,
			)
		}
		p.Converters = append(p.Converters, state)
	}
	for i := range f.machines {
		m := &f.machines[i]
		state := MachineState{ID: m.id, Name: m.name, Motors: []MotorState{}}
		for k := range m.motors {
			one := f.motorState(&m.motors[k], s, &x)
			state.On = state.On || one.On && !one.Apart
			state.Motors = append(state.Motors, one)
		}
		p.Machines = append(p.Machines, state)
	}
	for i := range f.Shop.Site.Loads {
		l := &f.Shop.Site.Loads[i]
		amps, live := x.loads[l.ID]
		if line, _ := f.leg(l); line > 0 {
			amps *= 2
		}
		p.Loads = append(p.Loads, LoadState{ID: l.ID, Name: l.Name, On: s.Has(l.ID), Live: live, Amps: amps})
	}
	return p
}

// hottest is the largest of a motor's winding amps.
func hottest(m *network.MotorResult) float64 {
	return max(m.WindingAmps[0], m.WindingAmps[1], m.WindingAmps[2])
}

func (f *Floor) motorState(m *motor, s *site.State, x *found) MotorState {
	state := MotorState{ID: m.ID, Name: m.Name, On: m.on(s), Known: m.q != nil, Apart: m.apart}
	if m.q == nil {
		return state
	}
	state.LoadShare = m.share(s)
	lines := m.place.On
	if f.Shop.Site.Converter(lines) == nil {
		lines = m.ID + "-lines"
	}
	if on := x.circuits[lines]; on != nil && state.On {
		state.Volts = on.Volts
		if t := on.SupplyTransformer; t != nil {
			state.Volts = t.SecondaryVolts
		}
	}
	if on := x.motors[m.ID]; on != nil {
		rated := m.q.WindingAmps()
		state.Live, state.State, state.RPM = true, on.State, math.Abs(on.RPM)
		state.Amps, state.HottestPercent = on.LineAmps.Max(), 100*hottest(on)/rated
		state.LinePercent = 100 * state.Amps / m.q.Plate.Amps.Value
		m.heated(&state, on)
		state.Working = fmt.Sprintf(
			"hottest winding %.2f A over %.2f A, rated by its plate; after hours of this %.0f °C, "+
				"of %.0f that %s bears",
			hottest(on),
			rated,
			state.Celsius,
			state.BearsCelsius,
			m.class(),
		)
		return state
	}
	if c := f.Shop.Site.Converter(m.place.On); c != nil && c.Kind == site.BusKind {
		if !state.On || !f.turns(c, s) {
			return state
		}
		p, _ := f.buses[c.ID]().at(f.busWatts(c.ID, s))
		state.Live, state.State, state.RPM = true, network.Running, m.q.RatedRPM()
		if p.volts > 0 {
			state.Amps = m.takes(state.LoadShare) / p.volts
		}
		m.behindDrive(&state)
		return state
	}
	amps, live := x.loads[m.ID]
	if !live {
		return state
	}
	state.Live, state.Amps, state.State = true, amps, network.Running
	state.RPM = m.q.RatedRPM()
	if x.rectifiers[m.ID] != nil {
		m.behindDrive(&state)
	} else {
		state.Working = fmt.Sprintf("%.2f A of one phase, by power factor and efficiency of a usual motor", amps)
	}
	return state
}

// heated is what the hottest winding comes to, working in the machine's duty.
func (m *motor) heated(state *MotorState, on *network.MotorResult) {
	h := m.q.Heating(on.WindingAmps, on.InputWatts-on.ShaftWatts, true)
	state.Celsius = m.q.Thermal.Hottest(h.Work(m.q.Duty.OnMinutes, m.q.Duty.OffMinutes))
	state.BearsCelsius = m.q.Thermal.LimitC
	if m.q.Plate.ServiceFactor.Value >= factored && m.q.Thermal.Class != "H" {
		state.BearsCelsius += factorK
	}
}

// A motor of such a service factor and class A, B or F may rise by so many kelvin more, loaded to it:
// NEMA MG 1, 12.43.
const (
	factored = 1.15
	factorK  = 10.0
)

// class is a motor's insulation in words.
func (m *motor) class() string {
	if m.q.Thermal.ClassAssumed {
		return "class " + m.q.Thermal.Class + " (assumed)"
	}
	return "class " + m.q.Thermal.Class
}

// burden is how much of what it bears a motor carries, in percent: of its rise, and of the amps
// that its overload is set to at most.
func (m *motor) burden(state *MotorState) float64 {
	if m.q == nil || state.BearsCelsius == 0 {
		return 0
	}
	air := m.q.Thermal.AmbientC
	most, _ := m.q.Code().OverloadTrips(m.q.Plate.ServiceFactor.Value)
	return max(100*(state.Celsius-air)/(state.BearsCelsius-air), 100*state.LinePercent/most)
}

// behindDrive is a motor as its drive feeds it: three even lines of its plate's volts.
func (m *motor) behindDrive(state *MotorState) {
	plate := m.q.Plate
	own := m.q.NetworkMotor(m.ID)
	own.Load = &network.Load{Kind: "power", Watts: state.LoadShare * m.q.Watts()}
	r, err := network.Solve(network.Case{
		Supply: network.Supply{Phases: 3, Volts: plate.Volts.Value, Hertz: plate.Hertz.Value},
		Motors: []network.Motor{own},
	})
	if err != nil {
		return
	}
	on := &r.Motors[0]
	state.State, state.RPM, state.HottestPercent = on.State, math.Abs(on.RPM), 100*hottest(on)/m.q.WindingAmps()
	state.LinePercent = 100 * on.LineAmps.Max() / plate.Amps.Value
	m.heated(state, on)
	state.Working = fmt.Sprintf("%.2f A into the drive; the motor's windings %.2f A of %.2f A, on even lines at its "+
		"plate's volts", state.Amps, hottest(on), m.q.WindingAmps())
}

// harmonics are the amps that rectifiers add beside the fundamental, by the circuit or converter
// that they pass; the main's go by "".
func (f *Floor) harmonics(s *site.State, x *found) map[string]float64 {
	sums := map[string]float64{}
	add := func(id, on string, times float64) {
		r := x.rectifiers[id]
		if r == nil {
			return
		}
		beside := times * math.Sqrt(math.Max(0, r.Amps*r.Amps-r.FundamentalAmps*r.FundamentalAmps))
		if c := f.Shop.Site.Converter(on); c != nil {
			sums[on] += beside
			on = c.On
		}
		for range len(f.Shop.Site.Circuits) + 1 {
			sums[on] += beside
			if on == "" {
				return
			}
			on = f.Shop.Site.Circuit(on).From
		}
	}
	for i := range f.machines {
		for k := range f.machines[i].motors {
			add(f.machines[i].motors[k].ID, f.machines[i].motors[k].place.On, 1)
		}
	}
	for _, c := range f.Shop.Site.Converters {
		add(c.ID+"-bridge", c.ID, 1)
	}
	for i := range f.Shop.Site.Loads {
		l, times := &f.Shop.Site.Loads[i], 1.0
		if line, _ := f.leg(l); line > 0 {
			times = 2 // all of it in one line
		}
		add(l.ID, l.On, times)
	}
	return sums
}

// limit is what a circuit bears: its breaker's amps, or its conductors' where they are less.
func (f *Floor) limit(c *site.Circuit) float64 {
	if carried, _ := f.wire(c); carried.Amps > 0 {
		return math.Min(carried.Amps, c.BreakerAmps)
	}
	return c.BreakerAmps
}
