package drive

import (
	"fmt"
	"math"
	"slices"

	"brackmoor/core/machine"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
)

// Input is a machine that a drive is sized for, and of which kind.
type Input struct {
	machine.Machine
	Kind Kind
}

// Kind is the drive whose front end is looked at.
type Kind string

// The kinds of drive: built for one phase, a larger one built for three, and drives on a
// bus that a rectifier with a choke feeds. The zero Kind is one built for three, without
// its choke worked out.
const (
	OnePhase Kind = "one-phase"
	Three    Kind = "three-phase"
	Bus      Kind = "bus"
)

// Ratings are the standard outputs of small drives in watts (IEC 60072 preferred
// outputs).
var Ratings = []float64{370, 550, 750, 1100, 1500, 2200, 3000, 4000, 5500, 7500, 11000, 15000, 18500, 22000, 30000}

// ratedAmps are the output amps of standard drives for 200 to 240 V in the order of Ratings:
// those of a motor of that output on 200 V, which they are made for (NEC 430.250, 200 V, US,
// 2023; 3 kW lies between).
var ratedAmps = []float64{2.5, 3.7, 4.8, 6.9, 7.8, 11, 14.2, 17.5, 25.3, 32.2, 48.3, 62.1, 78.2, 92, 120}

// nearly is what a drive may fall short of a motor by: 3 hp is sold as 2.2 kW.
const nearly = 0.98

// RatedAmps are the output amps of a standard drive of a rating in watts on the volts that it
// gives its motor, 0 for a rating that is none.
func RatedAmps(rating, volts float64) float64 {
	at := slices.Index(Ratings, rating)
	if at < 0 {
		return 0
	}
	if volts > highVolts { // the same volt-amperes
		return ratedAmps[at] * tableVolts / volts
	}
	return ratedAmps[at]
}

// Volts of the table's motors, and above which drives are of another class.
const (
	tableVolts = 200.0
	highVolts  = 300.0
)

// next is the standard rating that covers watts, and amps at the motor; the largest where
// none does, with ok false.
func (in Input) next(watts, amps float64) (rating float64, ok bool) {
	for _, r := range Ratings {
		if r >= nearly*watts && RatedAmps(r, in.most()) >= nearly*amps {
			return r, true
		}
	}
	return Ratings[len(Ratings)-1], false
}

// What a usual small drive is made of, where its maker's figures are not known: shop
// practice, between published values of drives for 200 to 240 V.
const (
	busPerKilowatt = 330.0 // µF at usualBusVolts
	usualBusVolts  = 325.0
	doublerCans    = 4.0   // each of a doubler's cans over the bus of a bridge
	tripVolts      = 400.0 // of the bus, of drives for 200 to 240 V whatever their supply
	tripOver       = 1.1   // over the bus at least, on higher supplies
	prechargeOhm   = 47.0
)

// Losses is the share of what goes through a usual drive that it loses (shop practice).
const Losses = 0.04

// Front is the front end of a usual three-phase drive of a rating in watts, on volts and
// hertz, its bus of electrolytic cans.
func Front(rating, volts, hertz float64) rectifier.Front {
	scale := usualBusVolts / (math.Sqrt2 * volts)
	microfarad := busPerKilowatt * rating / 1000 * scale * scale
	return rectifier.Front{
		Phases:        3,
		Topology:      rectifier.Bridge,
		BusMicrofarad: microfarad,
		BusESROhm:     rectifier.ESR(rectifier.TanDeltaElectrolytic, microfarad, hertz),
	}
}

// School is a rule of thumb for a three-phase drive on one phase.
type School struct {
	Title string  `json:"title"`
	Watts float64 `json:"watts"` // the standard rating it comes to
	Times float64 `json:"times"`
}

// doublerVolts is the supply under which a drive doubles it: drives for 100 to 130 V.
const doublerVolts = 150.0

// Doubles says whether a drive on this supply is one that doubles its volts.
func (in Input) Doubles() bool { return in.Supply.Volts < doublerVolts }

// most are the volts, line to line, that a drive gives its motor on this supply.
func (in Input) most() float64 {
	if in.Doubles() {
		return 2 * in.Supply.Volts
	}
	return in.Supply.Volts
}

// Answer is a drive sized for one phase. On a supply whose volts it doubles there is no
// three-phase drive to derate: ThreeWatts is 0 then.
type Answer struct {
	Doubler       bool                  `json:"doubler"`
	Kind          Kind                  `json:"kind"`
	RatingWatts   float64               `json:"rating_watts"` // of the kind that was asked for
	Choke         Choke                 `json:"choke"`
	OnePhaseWatts float64               `json:"one_phase_watts"` // rating of a drive built for one phase
	ThreeWatts    float64               `json:"three_phase_watts"`
	Covered       bool                  `json:"covered"` // a standard rating covers it
	Left          rectifier.SinglePhase `json:"left"`
	Schools       []School              `json:"schools" nullable:"false"`
	Load          rectifier.Result      `json:"load"`       // of the three-phase drive on one phase, at the load
	LoadWatts     float64               `json:"load_watts"` // into the front end
	LoadShare     float64               `json:"load_share"`
	OutputAmps    float64               `json:"output_amps"`
	Precharge     rectifier.Charging    `json:"precharge"`
	BaseHertz     float64               `json:"base_hertz"` // at the volts of the supply
	LoadVolts     float64               `json:"load_volts"` // line to line, that the bus leaves at the load
	LoadBaseHertz float64               `json:"load_base_hertz"`
	Speed         []SpeedPoint          `json:"speed" nullable:"false"`
	ShortestStop  *float64              `json:"shortest_stop_s"`
	Brake         *Brake                `json:"brake"`           // nil where no resistor is wanted
	PlateTorque   float64               `json:"plate_torque_nm"` // for good, at plate frequency
	PlateShare    float64               `json:"plate_torque_share"`
	Verdicts      []rule.Verdict        `json:"verdicts" nullable:"false"`
}

// input is the dc watts that shaft watts take.
func (in Input) input(shaft float64) float64 {
	return shaft / in.Plate.Efficiency.Value / (1 - Losses)
}

func (in Input) front(rating, watts float64) rectifier.Case {
	s := in.Supply
	// The loop's ohms are those of two conductors.
	bridge := Front(rating, s.Volts, s.Hertz)
	if in.Doubles() {
		// Each of its two cans is charged once a cycle only.
		bridge = Front(rating, in.most(), s.Hertz)
		bridge.Phases, bridge.Topology = 1, rectifier.Doubler
		bridge.BusMicrofarad, bridge.BusESROhm = doublerCans*bridge.BusMicrofarad, bridge.BusESROhm/doublerCans
	}
	return rectifier.Case{
		Supply: rectifier.Supply{
			Volts:             s.Volts,
			Hertz:             s.Hertz,
			LineResistanceOhm: s.ResistanceOhm / 2,
			LineReactanceOhm:  s.ReactanceOhm / 2,
		},
		Bridge:    bridge,
		LoadWatts: watts,
	}
}

// LineAmps is what a drive of a rating takes from the line at shaft watts; a front without
// a capacitor is the usual one.
func (in Input) LineAmps(rating float64, front rectifier.Front, shaft float64) (float64, error) {
	c := in.front(rating, in.input(shaft))
	if front.BusMicrofarad > 0 {
		c.Bridge = front
	}
	c.Bridge.Phases = 1
	r, err := rectifier.Solve(c)
	return r.InputRMSAmps, err
}

// Size sizes a drive for the motor on one phase: one built for it, and a larger one
// built for three.
func Size(in Input) (Answer, error) {
	a := Answer{Schools: []School{}, Verdicts: []rule.Verdict{}, OutputAmps: in.Plate.Amps.Value, Kind: in.Kind}
	watts := in.Plate.Output.Value
	amps := in.Plate.Amps.Value
	a.OnePhaseWatts, a.Covered = in.next(watts, amps)
	if in.Doubles() {
		return in.doubled(a)
	}
	own := a.OnePhaseWatts
	var err error
	across := make(chan error, 1)
	go func() { across <- in.across(&a) }()
	a.Left, err = rectifier.Derate(in.front(own, in.input(own)))
	if failed := <-across; err == nil {
		err = failed
	}
	if err != nil {
		return a, err
	}
	left := math.Max(a.Left.Share, 0.05)
	three, covered := in.next(watts/left, amps/left)
	a.ThreeWatts = three
	if in.Kind != OnePhase && in.Kind != Bus {
		a.Covered = covered
	}
	for _, s := range []School{{Title: "√3 times", Times: math.Sqrt(3)}, {Title: "twice", Times: 2},
		{Title: "three times", Times: 3}} {
		s.Watts, _ = in.next(s.Times*watts, s.Times*amps)
		a.Schools = append(a.Schools, s)
	}
	return a, in.loaded(&a, in.Kind != "")
}

// doubled sizes a drive that doubles the supply's volts.
func (in Input) doubled(a Answer) (Answer, error) {
	a.Doubler = true
	a.Left.Limits = []rectifier.Left{}
	if in.Plate.Output.Value > mostDoubled {
		a.Covered = false
	}
	if err := in.across(&a); err != nil {
		return a, err
	}
	return a, in.loaded(&a, in.Kind != "")
}

// Try is an answer at another load: what follows the hand, its choke left as it is.
func Try(in Input, a Answer) (Answer, error) {
	a.Verdicts = []rule.Verdict{}
	return a, in.loaded(&a, false)
}

// mostDoubled is the output in watts up to which drives are made for 100 to 130 V.
const mostDoubled = 1150.0

// loaded fills in what a front end does at the load, at switch-on and at a stop.
func (in Input) loaded(a *Answer, choke bool) (err error) {
	a.RatingWatts = a.OnePhaseWatts
	if !a.Doubler && in.Kind != OnePhase && in.Kind != Bus {
		a.RatingWatts = a.ThreeWatts
	}
	loaded := in.front(a.RatingWatts, 0)
	loaded.Bridge.Phases = 1
	a.LoadShare = in.Share()
	a.LoadWatts = in.input(in.Share() * in.Plate.Output.Value)
	loaded.LoadWatts, loaded.Series = a.LoadWatts, true
	if choke && !a.Doubler {
		if a.Choke, err = in.choke(loaded, a.RatingWatts); err != nil {
			return err
		}
	}
	if in.Kind == Bus {
		loaded.Bridge.DCChokeMH, loaded.Bridge.DCChokeOhm = a.Choke.MilliHenry, a.Choke.Ohm
		loaded.Bridge.BusESROhm *= loaded.Bridge.BusMicrofarad / (loaded.Bridge.BusMicrofarad + a.Choke.Added)
		loaded.Bridge.BusMicrofarad += a.Choke.Added
	}
	if a.Load, err = rectifier.Solve(loaded); err != nil {
		return err
	}
	a.LoadVolts = math.Min(a.Load.BusMeanVolts/math.Sqrt2, in.most())
	a.LoadBaseHertz = in.shape(a.LoadVolts).BaseHertz()
	a.Precharge = rectifier.Precharge(loaded, prechargeOhm)
	bus := math.Sqrt2 * in.most()
	drag := math.Max(in.Fit.FrictionWatts, 1)
	cans := loaded.Bridge.BusMicrofarad
	if a.Doubler {
		cans /= 2 // its two in series
	}
	stop := Stop{
		InertiaKgm2:   in.Shaft().Kgm2(),
		RPM:           in.Plate.RPM.Value,
		BusMicrofarad: cans,
		BusVolts:      bus,
		TripVolts:     math.Max(tripVolts, tripOver*bus),
		LossWatts:     &drag,
	}
	a.ShortestStop = stop.Ramp().ShortestSeconds
	a.Brake = stop.resistor()
	in.judge(a)
	return nil
}

// across fills in what the motor can do over twice its frequency.
func (in Input) across(a *Answer) (err error) {
	m := Motor{Motor: in.NetworkMotor("motor"), RatedAmps: in.Plate.Amps.Value, OwnFan: true}
	v := in.shape(in.most())
	a.BaseHertz = v.BaseHertz()
	var hertz []float64
	const points = 24
	for i := range points {
		hertz = append(hertz, 2*in.Plate.Hertz.Value*float64(i+1)/points)
	}
	a.Speed, err = m.Across(v, hertz)
	for _, p := range a.Speed {
		if math.Abs(p.Hertz-in.Plate.Hertz.Value) < 1e-6 {
			a.PlateTorque, a.PlateShare = p.TorqueNm, p.TorqueNm/in.Fit.RatedNm
		}
	}
	return err
}

// shape is the motor's volts over frequency where a drive has so many volts.
func (in Input) shape(most float64) VHz {
	return VHz{MotorVolts: in.Plate.Volts.Value, MotorHertz: in.Plate.Hertz.Value, MostVolts: most}
}

func (in Input) judge(a *Answer) {
	say := func(id string, numbers rule.Numbers, do, format string, args ...any) {
		a.Verdicts = append(a.Verdicts, rule.Speak(id, numbers, do, format, args...))
	}
	power := func(watts float64) string { return quantity.Figures(watts/1000, 3) + " kW" }
	if !a.Covered {
		say(
			"drive.too-large",
			rule.Numbers{"share_percent": 100 * a.Left.Share},
			"A rotary converter, or a drive built for one phase.",
			"No standard drive has enough on this supply for %s.",
			in.Plate.Plate.Power(in.Plate.Output.Value, in.Supply.Hertz),
		)
	}
	a.Verdicts = append(a.Verdicts, a.Weak()...)
	_, weak := in.Start()
	a.Verdicts = append(a.Verdicts, weak...)
	if in.Kind == OnePhase {
		a.Verdicts = append(a.Verdicts, BuiltForOne(a.OnePhaseWatts)...)
	}
	if a.Load.Alternates {
		say(
			"drive.pulses-alternate",
			rule.Numbers{"ripple_volts": a.Load.RipplePPVolts},
			"Nothing, where the drive permits one phase; more ohms or less inductance in its feed end it.",
			"At its load the pulses of the two half cycles differ; their amps are taken over a whole cycle.",
		)
	}
	a.Verdicts = append(a.Verdicts, Standing()...)
	if a.Doubler || in.Kind == OnePhase || in.Kind == Bus {
		return
	}
	say(
		"drive.left-on-one-phase",
		rule.Numbers{"share_percent": 100 * a.Left.Share},
		fmt.Sprintf("Take %s or more, or one built for one phase.", power(a.ThreeWatts)),
		"Of a three-phase drive's rating %.0f percent is left on one phase, by %s.",
		100*a.Left.Share,
		a.Left.By,
	)
}

// Start is what a drive gives for a start over what the load takes to break away, and what is
// said where that is too little.
func (in Input) Start() (margin float64, weak []rule.Verdict) {
	margin = StartTimes / in.Load.BreakawayShare
	least := rule.Limit("drive.weak-start", "least_margin")
	if margin >= least {
		return margin, nil
	}
	return margin, []rule.Verdict{rule.Speak("drive.weak-start", rule.Numbers{"margin": margin},
		"A drive with a higher current limit by its maker's word, chosen one or two sizes larger.",
		"It gives %.2f times what the load takes to break away; %.1f is wanted.", margin, least)}
}

// Weak says that above the base point less torque is left than the load takes.
func (a *Answer) Weak() []rule.Verdict {
	if a.PlateShare >= a.LoadShare-rule.Limit("drive.weak-at-plate-hertz", "rounding_share") {
		return nil
	}
	return []rule.Verdict{
		rule.Speak(
			"drive.weak-at-plate-hertz",
			rule.Numbers{"left_percent": 100 * a.PlateShare, "load_percent": 100 * a.LoadShare},
			fmt.Sprintf(
				"Join it for the supply's volts, or keep it at %s Hz and under, where it has its torque.",
				quantity.Figures(a.BaseHertz, 2),
			),
			"At plate frequency %.0f percent of rated torque is left for good; the load takes %.0f.",
			100*a.PlateShare,
			100*a.LoadShare,
		),
	}
}

// BuiltForOne are the cautions of a drive of an output in watts that is built for one
// phase.
func BuiltForOne(watts float64) []rule.Verdict {
	if watts <= rule.Limit("drive.one-phase-rare", "most_watts") {
		return nil
	}
	return []rule.Verdict{
		rule.Speak(
			"drive.one-phase-rare",
			rule.Numbers{"drive_watts": watts},
			"Look for one before the route is taken; else an idler, or a larger three-phase drive.",
			"Drives of %s kW that are built for one phase are few.",
			quantity.Figures(watts/1000, 3),
		),
	}
}

// Standing are the cautions of every drive.
func Standing() []rule.Verdict {
	return []rule.Verdict{
		rule.Standing("drive.no-contactor"),
		rule.Standing("drive.bus-charged"),
		rule.Standing("drive.residual-current"),
	}
}
