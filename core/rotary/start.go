package rotary

import (
	"fmt"
	"math"

	"brackmoor/core/load"
	"brackmoor/core/motor"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/startup"
)

// Idler is the idler's start by capacitors of its own. Relay is what a potential relay
// between c and b sees, nil where it does not come up.
type Idler struct {
	StartMicrofarad float64  `json:"start_microfarad"`
	Seconds         *float64 `json:"seconds"` // nil: it does not come up
	CutOutRPM       float64  `json:"cut_out_rpm"`
	TimerSeconds    *float64 `json:"timer_seconds"`
	PeakSupplyAmps  float64  `json:"peak_supply_amps"`
	Relay           *Relay   `json:"relay"`
}

// Relay is the volts between b and c standing and at the speed at which the start
// capacitors are to leave; PickUp is nil where these are too near each other.
type Relay struct {
	Standing float64  `json:"standing_volts"`
	CutOut   float64  `json:"cut_out_volts"`
	PickUp   *float64 `json:"pick_up_volts"`
}

// Start is one way of bringing the idler up. Seconds is nil where it does not come up or
// no time can be told; Advised marks what is to be taken.
type Start struct {
	Name    string   `json:"name"`
	Title   string   `json:"title"`
	Seconds *float64 `json:"seconds"`
	Amps    float64  `json:"amps"`
	Advised bool     `json:"advised"`
	Says    string   `json:"says" told:"figures"`
}

// inTime is the time in seconds in which an idler is to come up.
const inTime = 3.0

// CapacitorStarts is how many starts an hour start capacitors bear: three seconds in
// three minutes (IEC 60252-2, usual duty of 1.7 percent).
const CapacitorStarts = 20.0

// BalanceSchool is what practitioners put on each made pair, in microfarads a horsepower
// of idler, from and to.
var BalanceSchool = [2]float64{12, 16}

// drag is the idler's own bearings and seals.
func (r *rig) drag() *load.Curve {
	return IdlerMotor{r.idler, r.amps, r.watts}.Drag(r.in.Supply.Hertz)
}

// Drag is what bearings, belt and fan of an idler take while it comes up.
func (m IdlerMotor) Drag(hertz float64) *load.Curve {
	return &load.Curve{
		NewtonMetre: 0.02 * m.Amps, AtRPM: motor.SynchronousRPM(hertz, m.Motor.Poles), BreakawayNm: 0.03 * m.Amps,
	}
}

func (r *rig) synchronous() float64 { return motor.SynchronousRPM(r.in.Supply.Hertz, r.idler.Poles) }

// startCase is the idler alone with its balance capacitors, from standstill.
func (r *rig) startCase() startup.Case {
	c := startup.Case{Supply: r.in.Supply, Motors: []startup.Motor{{Motor: r.idler, Shaft: r.drag()}}}
	for _, p := range r.capacitors(false) {
		c.Capacitors = append(c.Capacitors, startup.Capacitor{Capacitor: p})
	}
	return c
}

// byCapacitors starts the idler with a start capacitor from a to c.
func (r *rig) byCapacitors(microfarad float64) (out Idler, run startup.Result) {
	out = Idler{StartMicrofarad: microfarad, CutOutRPM: CutOutShare * r.synchronous()}
	c := r.startCase()
	c.Capacitors = append(
		c.Capacitors,
		startup.Capacitor{Capacitor: network.Capacitor{ID: "start", Between: network.AC, Microfarad: microfarad},
			Out: &startup.Out{By: startup.BySpeed, At: out.CutOutRPM}},
	)
	run, err := startup.Run(c)
	if err != nil {
		return out, startup.Result{}
	}
	out.Seconds, out.PeakSupplyAmps = run.Motors[0].TimeTo90, r.in.Mains(run.PeakSupplyAmps)
	if at := run.Capacitors[len(run.Capacitors)-1].OutSeconds; at != nil {
		out.TimerSeconds = new(1.3 * *at)
		relay := Relay{Standing: run.Points[0].Volts.BC}
		for _, p := range run.Points {
			if p.Seconds < *at {
				relay.CutOut = p.Volts.BC
			}
		}
		if relay.CutOut > rule.Limit("start.no-relay", "least_margin")*relay.Standing {
			relay.PickUp = &relay.CutOut
		}
		out.Relay = &relay
	}
	return out, run
}

// CutOutShare is the share of synchronous speed at which the start capacitors leave.
const CutOutShare = 0.78

// startWays fills in the ways of starting the idler: the least capacitor of a row that
// brings it up in time, whose run is given, a packaged starter, a pony motor, and a rope.
func (r *rig) startWays(a *Answer) (run startup.Result) {
	for _, times := range []float64{1, 1.5, 2, 3, 4, 6, 8} {
		a.Idler, run = r.byCapacitors(math.Round(times * math.Max(r.ac, 20)))
		if a.Idler.Seconds != nil && *a.Idler.Seconds <= inTime {
			break
		}
	}
	a.StartsAnHour = r.startsAnHour(run, a.States[0])
	figure := quantity.Figures
	way := func(name, title string, seconds *float64, amps float64, format string, args ...any) {
		a.Starts = append(
			a.Starts,
			Start{Name: name, Title: title, Seconds: seconds, Amps: amps, Says: fmt.Sprintf(format, args...)},
		)
	}
	a.Starts = []Start{}
	lines := quantity.LinesAt(r.in.Supply.Hertz)
	taken := "a timer"
	if relay := a.Idler.Relay; relay != nil && relay.PickUp != nil {
		taken = fmt.Sprintf(
			"a potential relay from %s that picks up at %.0f V (%.0f V standing), or a timer",
			lines.To("b"),
			*relay.PickUp,
			relay.Standing,
		)
	}
	if a.Idler.TimerSeconds != nil {
		taken += fmt.Sprintf(" at %s s", figure(*a.Idler.TimerSeconds, 2))
	}
	way(
		"capacitors",
		"Start capacitors",
		a.Idler.Seconds,
		a.Idler.PeakSupplyAmps,
		"%s µF from %s, taken out by %s",
		figure(a.Idler.StartMicrofarad, 3),
		lines.To("a"),
		taken,
	)
	horse := a.IdlerWatts / quantity.WattsPerHorsepower
	packaged, _ := r.byCapacitors(math.Round(packagedPerHorse * horse))
	way(
		"packaged",
		"Packaged starter",
		packaged.Seconds,
		packaged.PeakSupplyAmps,
		"one rated for %s or more; with about %s µF in it, the school’s %.0f a horsepower",
		quantity.Power(a.IdlerWatts, r.in.Supply.Hertz),
		figure(packaged.StartMicrofarad, 3),
		packagedPerHorse,
	)
	// Balance capacitors may turn it by themselves: what must be reached is told for an
	// idler without them, which is how it stands when one has failed.
	bare := r.startCase()
	bare.Capacitors = nil
	pullIn := startup.PullIn(bare, 0, 1)
	r.pony(bare, way)
	if pullIn == nil {
		way("rope", "Rope or hand", nil, 0, "never: it pulls itself up from no speed")
	} else {
		way(
			"rope",
			"Rope or hand",
			nil,
			0,
			"never: without capacitors it must be spun past %s rpm, beside a live, turning shaft; and it follows the "+
				"way it was pulled",
			figure(*pullIn, 3),
		)
	}
	for i := range a.Starts {
		if s := &a.Starts[i]; s.Seconds != nil {
			s.Advised = true
			break
		}
	}
	return run
}

const (
	packagedPerHorse = 75.0 // µF, between the 50 and 100 of the schools
)

// ponies are the standard outputs in watts of small single-phase motors.
var ponies = []float64{120, 180, 250, 370, 550, 750, 1100, 1500, 2200}

// pony finds the smallest single-phase motor on a belt that brings the idler to where it
// pulls itself up, in time.
func (r *rig) pony(
	bare startup.Case,
	way func(name, title string, seconds *float64, amps float64, format string, args ...any),
) {
	const powerFactor, efficiency, ratio, slip = 0.72, 0.65, 1.0, 0.05
	for _, watts := range ponies {
		if watts < 0.04*r.watts {
			continue
		}
		c := bare
		c.Pony = &startup.Pony{
			Watts:          watts,
			RPM:            (1 - slip) * r.synchronous(),
			SynchronousRPM: r.synchronous(),
			BeltRatio:      ratio,
		}
		run, err := startup.Run(c)
		if err != nil || run.Pony.PullInRPM == nil || run.Pony.Seconds == nil || run.Pony.RPM < *run.Pony.PullInRPM ||
			*run.Pony.Seconds > rule.Limit("start.slow", "most_seconds") {
			continue
		}
		way(
			"pony",
			"Pony motor",
			run.Pony.Seconds,
			watts/(r.in.MainsVolts()*powerFactor*efficiency),
			"%s W single-phase on a 1:1 belt, guarded, brings it to %s rpm (%s rpm pulls in); connect by a timer at "+
				"%s s, and note the sense: it follows the pony",
			quantity.Figures(
				watts,
				3,
			),
			quantity.Figures(run.Pony.RPM, 3),
			quantity.Figures(*run.Pony.PullInRPM, 3),
			quantity.Figures(*run.Pony.TimerSeconds, 2),
		)
		return
	}
	way("pony", "Pony motor", nil, 0, "no small motor of a standard size brings it up")
}

// startsAnHour is how many starts an hour the idler bears beside idling.
func (r *rig) startsAnHour(run startup.Result, alone State) float64 {
	if len(run.Motors) == 0 || run.Motors[0].TimeTo90 == nil {
		return 0
	}
	watts := r.watts
	t := motor.ThermalOf(motor.Body{Watts: watts, AmbientC: 40, LostWatts: watts * (1/idlerEfficiency - 1)})
	var starts [3]float64
	for k, heat := range run.Motors[0].WindingAmps2Seconds {
		starts[k] = heat / (r.amps * r.amps)
	}
	share := alone.IdlerPercent / 100
	lost := watts * (1/idlerEfficiency - 1)
	idling := motor.Heating{
		Turning:  true,
		Windings: [3]float64{share * share, share * share, share * share},
		Losses:   alone.SupplyWatts / lost,
	}
	return t.StartsPerHour(idling, starts, run.Motors[0].CopperJoules, lost)
}

// idlerEfficiency is a usual idler's at full output, for its rated losses.
const idlerEfficiency = 0.85
