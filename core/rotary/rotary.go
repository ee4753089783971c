// Package rotary sizes a rotary converter for a machine: the idler, by the schools and by
// the model, how it is started, the capacitors that balance its made leg, the volts to
// expect in each state, and what it costs to leave it running.
package rotary

import (
	"fmt"
	"math"
	"math/cmplx"
	"sync"

	"brackmoor/core/capacitor"
	"brackmoor/core/machine"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
)

// Input is the machine that an idler is sized for. What somebody chose of it is nil where
// it is left to the model.
type Input struct {
	machine.Machine
	IdlerWatts  *float64
	BalanceAC   *float64 // microfarads
	BalanceBC   *float64
	SecondAC    *float64
	SecondBC    *float64
	Balance     string  // what the capacitors are for, of Balances; "" for the usual
	Tariff      float64 // money a kilowatt-hour
	HoursPerDay float64
}

// Ratings are the standard outputs of motors in watts that idlers are made of: NEMA's in
// horsepower on 60 Hz, IEC's in kilowatts on 50 Hz.
func Ratings(hertz float64) []float64 {
	if !quantity.SixtyHertz(hertz) {
		return []float64{550, 750, 1100, 1500, 2200, 3000, 4000, 5500, 7500, 11000, 15000, 18500, 22000}
	}
	horses := []float64{0.75, 1, 1.5, 2, 3, 5, 7.5, 10, 15, 20, 25, 30}
	watts := make([]float64, len(horses))
	for i, h := range horses {
		watts[i] = h * quantity.WattsPerHorsepower
	}
	return watts
}

// State is the machine and the idler in one state of work. Percents are of plate amps in
// the hottest winding.
type State struct {
	Title          string        `json:"title"`
	Volts          network.Lines `json:"volts"`
	Degrees        network.Lines `json:"degrees"`
	Unbalance      float64       `json:"unbalance_percent"`
	HottestPercent float64       `json:"hottest_percent"` // of the machine; 0 where it stands
	IdlerPercent   float64       `json:"idler_percent"`
	SupplyAmps     float64       `json:"supply_amps"`
	SupplyWatts    float64       `json:"supply_watts"`
	Runs           bool          `json:"runs"`
	IdlerRuns      bool          `json:"idler_runs"`
	MachineOver    bool          `json:"machine_over"` // past plate amps, rounding allowed for
	IdlerOver      bool          `json:"idler_over"`
	LineAmps       float64       `json:"line_amps"` // the machine's highest

	heating motor.Heating // of the machine
}

// School is a rule for the idler's size.
type School struct {
	Title string  `json:"title"`
	Watts float64 `json:"watts"` // the next standard rating
	Times float64 `json:"times"`
}

// Electronics is what a machine's electronics are fed from, and what they will see of the
// made leg: unbalance idle and loaded, and how deep it dips, for how long, while the
// machine starts.
type Electronics struct {
	Pair       string   `json:"pair"`
	Idle       float64  `json:"idle_unbalance_percent"`
	Load       float64  `json:"load_unbalance_percent"`
	Dip        float64  `json:"dip_percent"`
	DipSeconds *float64 `json:"dip_s"`
}

// Banks are the parts that balance and start the idler.
type Banks struct {
	AC       capacitor.Bank `json:"ac"`
	BC       capacitor.Bank `json:"bc"`
	SecondAC capacitor.Bank `json:"second_ac"`
	SecondBC capacitor.Bank `json:"second_bc"`
	Start    capacitor.Bank `json:"start"`
}

// Second is a bank that comes in with the load: its capacitors in microfarads, between which
// line amps of the machine its relay is to pick up, and what it does where it is left in with
// nothing cut: the made leg in percent of plate volts, the idler's hottest line of plate amps.
type Second struct {
	AC          float64 `json:"ac_microfarad"`
	BC          float64 `json:"bc_microfarad"`
	IdleAmps    float64 `json:"idle_amps"`
	LoadAmps    float64 `json:"load_amps"`
	LeftIn      float64 `json:"left_in_made_percent"`
	LeftInIdler float64 `json:"left_in_idler_percent"`
}

// Answer is a rotary converter for the machine.
type Answer struct {
	IdlerWatts   float64  `json:"idler_watts"`
	ModelWatts   float64  `json:"model_watts"`   // the usual choice
	ModelReached bool     `json:"model_reached"` // a standard idler does
	ModelFull    bool     `json:"model_full"`    // and leaves the whole output
	Schools      []School `json:"schools" nullable:"false"`
	BalanceAC    float64  `json:"balance_ac_microfarad"`
	BalanceBC    float64  `json:"balance_bc_microfarad"`
	Second       *Second  `json:"second"`              // nil where one bank stands all the time
	TunedAC      float64  `json:"tuned_ac_microfarad"` // by the model over the states that matter
	TunedBC      float64  `json:"tuned_bc_microfarad"`
	ClosedAC     float64  `json:"closed_ac_microfarad"` // by the closed form, idler alone
	ClosedBC     float64  `json:"closed_bc_microfarad"`
	LoadShare    float64  `json:"load_share"`
	// idler alone, machine idle, at the load, at full output
	States       []State  `json:"states" nullable:"false"`
	Idler        Idler    `json:"idler"`
	StartMargin  float64  `json:"start_margin"` // torque over breakaway
	StartSeconds *float64 `json:"start_seconds"`
	StartLowest  float64  `json:"start_lowest_volts"` // of the made leg while the machine starts
	StartAmps    float64  `json:"starting_amps"`
	IdleWatts    float64  `json:"idle_watts"`
	IdlePerDay   float64  `json:"idle_cost_per_day"` // left on for the hours of a day
	// What is left of the machine's output, the idler within its plate amps, nil for none: no
	// winding past plate amps, none past them times the service factor, none too hot in the
	// machine's duty.
	UsableWatts  *float64             `json:"usable_watts"`
	FactorWatts  *float64             `json:"usable_by_factor_watts"`
	Duty         *machine.Usable      `json:"usable_for_duty"`
	Starts       []Start              `json:"starts" nullable:"false"`
	Accept       []rule.Judged        `json:"accept" nullable:"false"`
	StartsAnHour float64              `json:"starts_an_hour"` // of the idler, each from warm
	Electronics  Electronics          `json:"electronics"`
	Banks        Banks                `json:"banks"`
	Transformer  *machine.Transformer `json:"transformer"` // ahead of the converter, nil where the volts suit
	Verdicts     []rule.Verdict       `json:"verdicts" nullable:"false"`
}

// reference is the circuit of a usual idler at one volts and frequency, from which those
// of all sizes are scaled.
type reference struct {
	watts, amps, friction float64
	circuit               motor.Circuit
	poles                 int
}

var references sync.Map // of [2]float64 to reference

// referenceIdler fits a usual four-pole motor of middle size, its iron as motors are.
func referenceIdler(volts, hertz float64) (reference, error) {
	key := [2]float64{volts, hertz}
	if r, ok := references.Load(key); ok {
		return r.(reference), nil
	}
	const watts, poles = 3729.0, 4
	rpm := motor.SynchronousRPM(hertz, poles) * (1 - plate.UsualSlip(watts, hertz, poles))
	p := plate.Plate{OutputWatts: watts, Ratings: []plate.Rating{{Volts: volts}}, Hertz: hertz, RPM: math.Round(rpm)}
	filled, problems := plate.Fill(p, plate.Supply{Volts: volts, Hertz: hertz})
	if problems != nil {
		return reference{}, fmt.Errorf("a usual idler: %s", problems[0].Says)
	}
	fit, err := motor.FitCircuit(filled.Target())
	if err != nil {
		return reference{}, err
	}
	r := reference{watts, filled.Amps.Value, fit.FrictionWatts, fit.Circuit, poles}
	r.circuit.Curve = motor.TypicalCurve(r.circuit, volts)
	references.Store(key, r)
	return r, nil
}

// idler is a usual idler of an output: all of one circuit per unit.
func (r reference) idler(watts, hertz float64) network.Motor {
	size := watts / r.watts
	return network.Motor{
		ID:            idlerID,
		Poles:         r.poles,
		RatedHertz:    hertz,
		Circuit:       r.circuit.Sized(size),
		FrictionWatts: r.friction * size,
		InertiaKgm2:   idlerInertia * motor.RotorInertia(watts, r.poles),
	}
}

// IdlerMotor is a motor that idles, with its plate's amps.
type IdlerMotor struct {
	Motor network.Motor
	Amps  float64
	Watts float64
}

// UsualIdler is a usual idler of an output in watts, idling, by the name id.
func UsualIdler(id string, watts, volts, hertz float64) (IdlerMotor, error) {
	r, err := referenceIdler(volts, hertz)
	if err != nil {
		return IdlerMotor{}, err
	}
	m := r.idler(watts, hertz)
	m.ID, m.Load = id, &network.Load{Kind: "power"}
	return IdlerMotor{m, r.amps * watts / r.watts, watts}, nil
}

const (
	idlerID      = "idler"
	machineID    = "machine"
	idlerInertia = 1.3 // of its rotor alone: pulley and fan, shop practice
)

// rig is a machine on one idler.
type rig struct {
	in      Input
	idler   network.Motor
	watts   float64 // of the idler
	amps    float64 // plate amps of the idler
	machine network.Motor
	ac, bc  float64
	second  [2]float64 // what comes in with the load beside them
}

func newRig(in Input, r reference, watts float64) *rig {
	in.Machine = in.Whole()
	if in.Balance == "" {
		in.Balance = ForSafety
	}
	m := in.NetworkMotor(machineID)
	m.InertiaKgm2 = in.Shaft().Kgm2()
	return &rig{
		in:      in,
		idler:   in.Learned.WithIdler(r.idler(watts, in.Supply.Hertz), watts),
		watts:   watts,
		amps:    r.amps * watts / r.watts,
		machine: m,
	}
}

// closed is the capacitors that balance the idler with the machine at a share of its
// output, or alone for a negative one, by the closed form, nothing negative: each motor's
// admittance is that on three balanced lines.
func (r *rig) closed(share float64) (ac, bc float64) {
	c := r.network(share)
	c.Supply = network.Supply{Phases: 3, Volts: r.in.Supply.Volts, Hertz: r.in.Supply.Hertz}
	c.Capacitors = nil
	result, err := network.Solve(c)
	if err != nil {
		return 0, 0
	}
	var y complex128
	for _, m := range result.Motors {
		y += cmplx.Rect(m.LineAmps.A/(r.in.Supply.Volts/math.Sqrt(3)), -math.Acos(math.Min(1, m.PowerFactor)))
	}
	ac, bc = network.BalancingMicrofarads(cmplx.Abs(y), -cmplx.Phase(y), r.in.Supply.Hertz)
	return math.Max(0, ac), math.Max(0, bc)
}

// network is the idler with the machine at a share of its output; a negative share is
// the idler alone.
func (r *rig) network(share float64) network.Case {
	i := r.idler
	i.Load = &network.Load{Kind: "power"}
	c := network.Case{Supply: r.in.Supply, Motors: []network.Motor{i}}
	if share >= 0 {
		m := r.machine
		m.Load = &network.Load{Kind: "power", Watts: share * r.in.Plate.Output.Value}
		c.Motors = append(c.Motors, m)
	}
	c.Capacitors = r.capacitors(share > 0)
	return c
}

// capacitors are those that are in, the second bank's where the machine is loaded.
func (r *rig) capacitors(loaded bool) (list []network.Capacitor) {
	ac, bc := r.ac, r.bc
	if loaded {
		ac, bc = ac+r.second[0], bc+r.second[1]
	}
	for _, p := range []network.Capacitor{{ID: "ac", Between: network.AC, Microfarad: ac}, {ID: "bc",
		Between: network.BC, Microfarad: bc}} {
		if p.Microfarad > 0 {
			list = append(list, p)
		}
	}
	return list
}

// at is a state of work.
func (r *rig) at(title string, share float64) State {
	s := State{Title: title}
	result, err := network.Solve(r.network(share))
	if err != nil {
		return s
	}
	s.Volts, s.Degrees, s.Unbalance = result.Volts, result.Degrees, result.UnbalancePercent
	s.SupplyAmps, s.SupplyWatts = r.in.Mains(result.Supply.Amps), r.in.MainsWatts(result.Supply.Watts)
	s.IdlerRuns, s.Runs = result.Motors[0].State == network.Running, true
	s.IdlerPercent = 100 * result.Motors[0].LineAmps.Max() / r.amps
	if share >= 0 {
		m := result.Motors[1]
		s.Runs, s.LineAmps = m.State == network.Running, m.LineAmps.Max()
		for _, amps := range m.WindingAmps {
			s.HottestPercent = math.Max(s.HottestPercent, 100*amps/r.in.WindingAmps())
		}
		s.heating = r.in.Heating(m.WindingAmps, m.InputWatts-m.ShaftWatts, s.Runs)
	}
	s.MachineOver, s.IdlerOver = s.HottestPercent > bearable, s.IdlerPercent > bearable
	return s
}

// standing is the machine's torque at standstill on the running idler, over what its
// load takes to break away.
func (r *rig) standing() (margin, supplyAmps float64) {
	c := r.network(-1)
	m := r.machine
	m.Slip = new(1.0)
	c.Motors = append(c.Motors, m)
	result, err := network.Solve(c)
	if err != nil || r.in.Load.BreakawayShare <= 0 {
		return 0, 0
	}
	asked := r.in.Load.BreakawayShare * r.in.Fit.RatedNm / r.in.TorqueFactor()
	return math.Abs(result.Motors[1].TorqueNm) / asked, r.in.Mains(result.Supply.Amps)
}

// start follows the machine's start on the running idler, for so long at most; 0 for as
// long as usual.
func (r *rig) start(most float64) (startup.Result, error) {
	i, m := startup.Motor{Motor: r.idler, Running: true}, startup.Motor{Motor: r.machine}
	curve := r.in.LoadCurve(r.in.Share())
	m.Shaft = &curve
	c := startup.Case{Supply: r.in.Supply, Motors: []startup.Motor{i, m}, MostSeconds: most}
	for _, p := range r.capacitors(false) {
		c.Capacitors = append(c.Capacitors, startup.Capacitor{Capacitor: p})
	}
	return startup.Run(c)
}
