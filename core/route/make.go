package route

import (
	"fmt"
	"math"
	"sync"

	"brackmoor/core/capacitor"
	"brackmoor/core/drive"
	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
	"brackmoor/core/rotary"
	"brackmoor/core/rule"
	"brackmoor/core/supply"
)

func (in Input) watts() float64 { return in.Capacitor.Plate.Output.Value }

func (in Input) share() float64 { return in.Capacitor.Share() }

// ofLive makes a route of a motor on capacitors.
func (in Input) ofLive(name string, a *capacitor.Answer) Route {
	l := &a.Live
	r := Route{
		Name:      name,
		Title:     Titles[name],
		Starts:    l.OverBreakaway >= rule.Limit("capacitor.no-start", "least_margin") && l.RunUp.Seconds != nil,
		Margin:    &l.OverBreakaway,
		Seconds:   l.RunUp.Seconds,
		DutyWatts: l.Session.UsableWatts,
		Sizes:     map[string]float64{},
		Unsolved:  []string{},
		Verdicts:  l.Verdicts,
	}
	if u := l.Usable; u != nil {
		r.UsableWatts = &[2]float64{u.LowWatts, u.HighWatts}
	}
	for i, at := range []struct {
		state   capacitor.State
		hottest **float64
		amps    **float64
		apart   **float64
	}{{l.Idle, &r.Hottest.Idle, &r.SupplyAmps.Idle, &r.Unbalance.Idle}, {l.Load, &r.Hottest.Load, &r.SupplyAmps.Load,
		&r.Unbalance.Load}, {l.Full, &r.Hottest.Full, &r.SupplyAmps.Full, &r.Unbalance.Full}} {
		if at.state.Motor == network.Running {
			*at.hottest, *at.amps, *at.apart = &at.state.HottestPercent, &at.state.SupplyAmps,
				&at.state.UnbalancePercent
			r.volts[i] = at.state.Volts
		}
	}
	r.SupplyAmps.Starting = &l.Standing.SupplyAmps
	if l.Load.Motor == network.Running {
		r.lossWatts = new(l.Load.SupplyWatts - l.Load.ShaftWatts)
	}
	in.capacitorSizes(&r, a)
	return r
}

// put keeps a size that there is.
func (r *Route) put(name string, value float64) {
	if value > 0 {
		r.Sizes[name] = value
	}
}

func (in Input) capacitorSizes(r *Route, a *capacitor.Answer) {
	r.put("run_microfarad", a.Live.RunMicrofarad)
	r.put("start_microfarad", a.Live.StartMicrofarad)
	r.put("cut_out_rpm", a.Live.CutOutRPM)
	r.put("overload_amps", a.Overload.Amps)
	if a.Live.RunMicrofarad > 0 {
		r.put("run_capacitor_volts", a.RunVolts.Rated)
	}
	if a.Live.StartMicrofarad > 0 {
		r.put("start_capacitor_volts", a.StartVolts.Rated)
	}
}

// onCapacitors is the motor on a run capacitor alone, and on run and start capacitors.
func onCapacitors(in Input) []Route {
	whole := capacitor.Solve(Rigged(in.Capacitor, in.Way, StartRunCapacitor))
	both := in.ofLive(StartRunCapacitor, &whole)
	alone := capacitor.Try(Rigged(in.Capacitor, in.Way, RunCapacitor), whole.Live.RunMicrofarad, 0, in.share())
	one := in.ofLive(RunCapacitor, &alone)
	p := in.Prices
	one.Cost.Parts = p.RunPerMicrofarad * alone.Live.RunMicrofarad
	both.Cost.Parts = p.RunPerMicrofarad*whole.Live.RunMicrofarad + p.StartPerMicrofarad*whole.Live.StartMicrofarad +
		p.StartRelay
	for _, r := range []*Route{&one, &both} {
		r.Unsolved = append(r.Unsolved, "the legs are balanced at one load only", "each motor wants a bank of its own")
	}
	return []Route{one, both}
}

// onStatic is a converter that starts on three legs and runs on two.
func onStatic(in Input) []Route {
	a := capacitor.Solve(Rigged(in.Capacitor, in.Way, Static))
	r := in.ofLive(Static, &a)
	r.Cost.Parts = in.Prices.StaticBox
	r.Unsolved = append(
		r.Unsolved,
		"it runs on two legs: much of its output is gone",
		"the third leg is left with what the motor makes of it",
		"starting again under load brings the start box back in",
	)
	if hard := NeverStatic(in.Capacitor.Load); hard != nil {
		r.Verdicts = rule.Sorted(append(r.Verdicts, *hard))
	}
	return []Route{r}
}

// NeverStatic is the stop of a load that must never hang on a static converter, nil for
// others.
func NeverStatic(kind load.Kind) *rule.Verdict {
	if kind.Name != "winch" && kind.Name != "compressor-loaded" {
		return nil
	}
	return new(
		rule.Speak(
			"route.static-hard-start",
			rule.Numbers{"breakaway_percent": 100 * kind.BreakawayShare},
			"An idler, or a drive.",
			"%s takes %.0f percent of rated torque to break away, over and over.",
			kind.Title,
			100*kind.BreakawayShare,
		),
	)
}

// onPhaseBox is a box of switched capacitors set for the load's full output.
func onPhaseBox(in Input) []Route {
	a := capacitor.Solve(Rigged(in.Capacitor, in.Way, PhaseBox))
	r := in.ofLive(PhaseBox, &a)
	r.Sizes["box_amps"] = in.Capacitor.Plate.Amps.Value
	r.Cost.Parts = in.Prices.PhaseBox
	r.Unsolved = append(
		r.Unsolved,
		"set for load it is far out of balance idle",
		"its rated range must hold the motor's plate amps",
	)
	return []Route{r}
}

// RotaryInput is the machine as an idler is sized for it, at a share of its output.
func RotaryInput(in Input, share float64) rotary.Input {
	in = in.filled()
	c := in.Capacitor
	shaft := capacitor.ShaftOf(c)
	return rotary.Input{
		Plate:       c.Plate,
		Fit:         c.Fit,
		Supply:      c.Supply,
		Load:        c.Load,
		LoadShare:   share,
		InertiaKgm2: shaft.RotorKgm2 + shaft.LoadKgm2,
		BreakawayFactor: 1 / capacitor.CautionOf(
			c,
		),
		IdlerWatts:  in.Way.IdlerWatts,
		BalanceAC:   in.Way.BalanceAC,
		BalanceBC:   in.Way.BalanceBC,
		Thermal:     c.Thermal,
		OnMinutes:   c.Duty.OnMinutes,
		OffMinutes:  c.Duty.OffMinutes,
		Tariff:      in.Prices.Tariff,
		HoursPerDay: in.Wishes.HoursPerDay,
	}
}

// onRotary is a rotary converter.
func onRotary(in Input) []Route {
	c := in.Capacitor
	a, err := rotary.Size(RotaryInput(in, in.share()))
	r := Route{
		Name:     Rotary,
		Title:    Titles[Rotary],
		Sizes:    map[string]float64{},
		Unsolved: []string{"it idles and hums while nothing is cut", "the made leg moves with load"},
		Verdicts: a.Verdicts,
	}
	if err != nil || len(a.States) < 4 {
		return nil
	}
	r.Starts, r.Margin, r.Seconds = a.StartMargin >= 1 && a.StartSeconds != nil &&
		a.ModelReached, &a.StartMargin, a.StartSeconds
	if a.UsableWatts != nil {
		r.UsableWatts = &[2]float64{0, *a.UsableWatts}
	}
	r.DutyWatts = a.DutyWatts
	for i, to := range []struct{ hottest, amps, apart **float64 }{{&r.Hottest.Idle, &r.SupplyAmps.Idle,
		&r.Unbalance.Idle}, {&r.Hottest.Load, &r.SupplyAmps.Load, &r.Unbalance.Load}, {&r.Hottest.Full,
		&r.SupplyAmps.Full, &r.Unbalance.Full}} {
		if s := a.States[i+1]; s.Runs {
			*to.hottest, *to.amps, *to.apart = &s.HottestPercent, &s.SupplyAmps, &s.Unbalance
			r.volts[i] = s.Volts
		}
	}
	r.SupplyAmps.Starting = &a.StartAmps
	r.lossWatts = new(a.States[2].SupplyWatts - in.share()*in.watts())
	r.Sizes["idler_watts"], r.Sizes["balance_ac_microfarad"], r.Sizes["balance_bc_microfarad"] = a.IdlerWatts,
		a.BalanceAC, a.BalanceBC
	r.Sizes["idler_start_microfarad"], r.Sizes["idle_watts"], r.Sizes["overload_amps"] = a.Idler.StartMicrofarad,
		a.IdleWatts, c.Plate.Amps.Value
	r.put("balance_capacitor_volts", math.Max(a.Banks.AC.Volts.Rated, a.Banks.BC.Volts.Rated))
	r.put("idler_start_capacitor_volts", a.Banks.Start.Volts.Rated)
	r.Cost.Parts = in.Prices.IdlerBase + in.Prices.IdlerPerKilowatt*a.IdlerWatts/1000 +
		in.Prices.RunPerMicrofarad*(a.BalanceAC+a.BalanceBC)
	return []Route{r}
}

// most a drive gives of rated torque for a start, with its usual current limit.
const driveTorque = 1.5

// onDrives is a drive built for one phase, a larger one built for three, and a dc bus
// with a reactor that feeds drives.
func onDrives(in Input) []Route {
	c := in.Capacitor
	shaft := capacitor.ShaftOf(c)
	want := drive.Input{
		Plate:       c.Plate,
		Fit:         c.Fit,
		Supply:      c.Supply,
		LoadShare:   in.share(),
		InertiaKgm2: shaft.RotorKgm2 + shaft.LoadKgm2,
	}
	a, err := drive.Size(want)
	if err != nil {
		return in.unsettled(want, err)
	}
	p := in.Prices
	if a.Doubler {
		r := in.ofDrive(DriveSinglePhase, "Drive that doubles the volts", want, a.OnePhaseWatts, rectifier.Front{}, &a)
		r.Cost.Parts = (p.DriveBase + p.DrivePerKilowatt*a.OnePhaseWatts/1000) * p.OnePhaseFactor
		r.Starts, r.Verdicts = r.Starts && a.Covered, a.Verdicts
		return []Route{r}
	}
	var one, three, bus Route
	var wait sync.WaitGroup
	wait.Go(func() {
		one = in.ofDrive(DriveSinglePhase, Titles[DriveSinglePhase], want, a.OnePhaseWatts, rectifier.Front{}, &a)
	})
	wait.Go(func() {
		three = in.ofDrive(DriveDerated, Titles[DriveDerated], want, a.ThreeWatts, rectifier.Front{}, &a)
	})
	wait.Go(func() {
		front, err := want.Choked(a.OnePhaseWatts)
		bus = in.ofDrive(DCBus, Titles[DCBus], want, a.OnePhaseWatts, front, &a)
		bus.Sizes["choke_millihenry"] = front.DCChokeMH
		if err != nil || front.DCChokeMH == 0 {
			bus.Unsolved = append(bus.Unsolved, "its bus swings with any usual choke: it wants more capacitance")
		}
	})
	wait.Wait()
	one.Cost.Parts = (p.DriveBase + p.DrivePerKilowatt*a.OnePhaseWatts/1000) * p.OnePhaseFactor
	one.Verdicts = append(drive.BuiltForOne(a.OnePhaseWatts), one.Verdicts...)
	three.Cost.Parts = p.DriveBase + p.DrivePerKilowatt*a.ThreeWatts/1000
	three.Verdicts = a.Verdicts
	three.Starts = three.Starts && a.Covered
	three.Sizes["left_percent"] = 100 * a.Left.Share
	bus.Cost.Parts = p.DriveBase + p.DrivePerKilowatt*a.OnePhaseWatts/1000 + 2*p.Reactor
	bus.Unsolved = append(bus.Unsolved, "the drives must take direct current at their bus, by their maker's word")
	return []Route{one, three, bus}
}

// unsettled are the drives of a feed on which their bus finds no steady state, and why.
func (in Input) unsettled(want drive.Input, why error) (list []Route) {
	names := []string{DriveSinglePhase, DriveDerated, DCBus}
	if want.Doubles() {
		names = names[:1]
	}
	for _, name := range names {
		list = append(
			list,
			Route{Name: name, Title: Titles[name], Sizes: map[string]float64{}, Verdicts: append([]rule.Verdict{
				rule.Speak(
					"drive.no-steady-state",
					nil,
					"Measure the ohms of the feed; else a stronger feed, a drive with more bus capacitance, or an idler.",
					"On this feed no steady state of the front end is found: %s.", why,
				),
			}, drive.Standing()...)},
		)
	}
	return list
}

// ofDrive makes a route of a drive of a rating; a zero front is a usual one.
func (in Input) ofDrive(
	name, title string,
	want drive.Input,
	rating float64,
	front rectifier.Front,
	a *drive.Answer,
) Route {
	c := in.Capacitor
	r := Route{
		Name:     name,
		Title:    title,
		Sizes:    map[string]float64{},
		Verdicts: append(a.Weak(), drive.Standing()...),
		Unsolved: []string{
			"controls, coils and lamps of the machine want their own feed",
			"its switches must move to low-voltage inputs",
		},
	}
	margin := driveTorque / c.Load.BreakawayShare
	// Above its base point the volts stay behind, and torque falls with their square.
	if flux := a.BaseHertz / c.Plate.Hertz.Value; flux < 1 {
		r.Sizes["base_hertz"] = a.BaseHertz
	}
	r.Starts, r.Margin = margin >= 1, &margin
	r.Seconds = new(5.0) // its ramp
	usable := 0.0
	for _, s := range a.Speed {
		if math.Abs(s.Hertz-c.Plate.Hertz.Value) < 1e-6 {
			usable = math.Min(s.ShaftWatts, in.watts())
		}
	}
	if usable > 0 {
		r.UsableWatts = &[2]float64{0, usable}
	}
	on := func(share float64) (m network.MotorResult, ok bool) {
		one := network.Motor{
			ID:            "m",
			Poles:         int(c.Plate.Poles.Value),
			RatedHertz:    c.Plate.Hertz.Value,
			Circuit:       c.Fit.Circuit,
			FrictionWatts: c.Fit.FrictionWatts,
			Load:          &network.Load{Kind: "power", Watts: share * in.watts()},
		}
		result, err := network.Solve(
			network.Case{
				Supply: network.Supply{
					Phases: 3,
					Volts:  math.Min(c.Plate.Volts.Value, c.Plate.Volts.Value*a.BaseHertz/c.Plate.Hertz.Value),
					Hertz:  c.Plate.Hertz.Value,
				},
				Motors: []network.Motor{one},
			},
		)
		if err != nil || result.Motors[0].State != network.Running {
			return m, false
		}
		return result.Motors[0], true
	}
	hottest := func(share float64) *float64 {
		m, ok := on(share)
		if !ok {
			return nil
		}
		return new(100 * m.LineAmps.A / c.Plate.Amps.Value)
	}
	if most := c.Thermal.MostShare(func(share float64) []motor.Spell {
		m, ok := on(share)
		if !ok {
			return nil
		}
		heat := m.LineAmps.A / c.Plate.Amps.Value
		heat *= heat
		h := motor.Heating{
			Windings: [3]float64{heat, heat, heat},
			Losses:   (m.InputWatts - m.ShaftWatts) / (in.watts() * (1/c.Plate.Efficiency.Value - 1)),
			Turning:  true,
		}
		return h.Work(c.Duty.OnMinutes, c.Duty.OffMinutes)
	}); most != nil {
		r.DutyWatts = new(*most * in.watts())
	}
	r.Hottest = Three{hottest(0), hottest(in.share()), hottest(1)}
	r.Unbalance = Three{new(0.0), new(0.0), new(0.0)}
	line := func(watts float64) *float64 {
		amps, err := want.LineAmps(rating, front, watts)
		if err != nil {
			return nil
		}
		return &amps
	}
	idle := c.Fit.FrictionWatts + 0.03*in.watts()
	r.SupplyAmps = Amps{
		Three{line(idle), line(in.share() * in.watts()), line(in.watts())},
		line(driveTorque * in.watts()),
	}
	lost := in.share() * in.watts() * (1/c.Plate.Efficiency.Value/(1-drive.Losses) - 1)
	r.lossWatts = &lost
	r.Sizes["drive_watts"], r.Sizes["drive_output_amps"], r.Sizes["overload_amps"] = rating, c.Plate.Amps.Value,
		c.Plate.Amps.Value
	if r.SupplyAmps.Full != nil {
		r.Sizes["input_amps"] = *r.SupplyAmps.Full
	}
	return r
}

func bySinglePhase(in Input) []Route { return []Route{SinglePhase(in)} }

// SinglePhase is a single-phase motor in the machine's place.
func SinglePhase(in Input) Route {
	in = in.filled()
	c := in.Capacitor
	powerFactor, efficiency := 0.85, 0.92*c.Plate.Efficiency.Value // a capacitor-run motor, a little less efficient
	r := Route{
		Name:   SinglePhaseMotor,
		Title:  Titles[SinglePhaseMotor],
		Starts: true,
		Sizes:  map[string]float64{},
		Unsolved: []string{
			"flange, shaft and frame must fit",
			"reversing while it runs is not to be had from most",
		},
		Verdicts: []rule.Verdict{},
	}
	const startTorque = 2.0 // of rated, capacitor-start
	margin := startTorque / c.Load.BreakawayShare
	r.Margin, r.Starts = &margin, margin >= 1
	amps := func(share float64) *float64 {
		return new((share + 0.15*(1-share)) * in.watts() / (c.Supply.Volts * powerFactor * efficiency))
	}
	r.SupplyAmps = Amps{Three{amps(0), amps(in.share()), amps(1)}, new(5 * *amps(1))}
	r.UsableWatts, r.DutyWatts = &[2]float64{0, in.watts()}, new(in.watts())
	r.Sizes["motor_watts"], r.Sizes["motor_amps"] = in.watts(), *amps(1)
	if table, ok := supply.OnePhaseTableAmps(in.watts(), c.Supply.Volts, c.Supply.Hertz); ok {
		r.Sizes["table_amps"] = table
	}
	in.feed(&r)
	r.lossWatts = new(in.share() * in.watts() * (1/efficiency - 1))
	r.Cost.Parts = in.Prices.MotorBase + in.Prices.MotorPerKilowatt*in.watts()/1000
	if in.watts() > rule.Limit("route.single-phase-large", "most_watts") {
		r.Verdicts = append(
			r.Verdicts,
			rule.Speak(
				"route.single-phase-large",
				rule.Numbers{"output_watts": in.watts()},
				"An idler or a drive.",
				"Single-phase motors of %s are hardly made.",
				quantity.Power(in.watts(), c.Supply.Hertz),
			),
		)
	}
	return r
}

// circuitOf judges a route's amps by the circuit it is to be fed from.
func (in Input) circuitOf(r *Route) {
	if in.MainAmps <= 0 {
		return
	}
	amps := r.SupplyAmps.Load
	if in.Wishes.FullOutput || amps == nil {
		amps = r.SupplyAmps.Full
	}
	if amps == nil {
		return
	}
	if limit := rule.Limit("route.circuit", "most_percent") / 100 * in.MainAmps; *amps > limit {
		most := in.watts() * in.share() * limit / *amps
		r.Verdicts = rule.Sorted(
			append(r.Verdicts, rule.Speak(
				"route.circuit",
				rule.Numbers{"amps": *amps, "circuit_amps": in.MainAmps},
				fmt.Sprintf(
					"A larger circuit; on this one about %s at the spindle.",
					quantity.Power(most, in.Capacitor.Supply.Hertz),
				),
				"It draws %s A; a circuit of %.0f A carries %.0f for hours.",
				quantity.Figures(*amps, 3),
				in.MainAmps,
				limit,
			)),
		)
	}
}
