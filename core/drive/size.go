package drive

import (
	"fmt"
	"math"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rectifier"
	"brackmoor/core/rule"
)

// School is a rule of thumb for a three-phase drive on one phase.
type School struct {
	Title string  `json:"title"`
	Watts float64 `json:"watts"` // the standard rating it comes to
	Times float64 `json:"times"`
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
	Left          rectifier.SinglePhase `json:"left"`    // of a three-phase drive, by amps alone
	OnOne         *OnOne                `json:"on_one_phase"`
	Full          rectifier.Result      `json:"full"` // of the drive's front end, at full output
	Front         rectifier.Front       `json:"front"`
	OwnBus        bool                  `json:"own_bus"` // its capacitance was typed
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

// OnOne is what one phase leaves of the three-phase drive that is chosen, by each figure of
// its front end, without a reactor and with a usual one in its line.
type OnOne struct {
	Bare       rectifier.SinglePhase `json:"bare"`
	Reactor    rectifier.SinglePhase `json:"with_reactor"`
	MilliHenry float64               `json:"reactor_millihenry"` // in each line
	// CapacitorTimes are the amps of its capacitors at full output over those on three phases
	// at its rating, and LifeTimes how their life goes with that.
	CapacitorTimes float64 `json:"capacitor_times"`
	LifeTimes      float64 `json:"life_times"`
}

// asMade is what a standard drive may fall short of the amps that are asked of it by: the
// model's half is a little less than a half by the ohms of a feed that nobody knows to five
// percent.
const asMade = 0.95

// Size sizes a drive for the motor on one phase: one built for it, and a larger one
// built for three.
func Size(in Input) (Answer, error) {
	a := Answer{Schools: []School{}, Verdicts: []rule.Verdict{}, OutputAmps: in.Plate.Amps.Value, Kind: in.Kind}
	watts := in.Plate.Output.Value
	amps := in.Plate.Amps.Value
	a.OnePhaseWatts, a.Covered = in.Next(watts, amps)
	if in.Doubles() {
		return in.doubled(a)
	}
	var err error
	across := make(chan error, 1)
	go func() { across <- in.across(&a) }()
	a.Left, err = rectifier.DerateByAmps(in.three(a.OnePhaseWatts))
	if failed := <-across; err == nil {
		err = failed
	}
	if err != nil {
		return a, err
	}
	left := math.Max(a.Left.Share, 0.05)
	three, covered := in.Next(asMade*watts/left, asMade*amps/left)
	a.ThreeWatts = three
	if in.Kind != OnePhase && in.Kind != Bus {
		a.Covered = covered
	}
	for _, s := range []School{{Title: "√3 times", Times: math.Sqrt(3)}, {Title: "twice", Times: 2},
		{Title: "three times", Times: 3}} {
		s.Watts, _ = in.Next(s.Times*watts, s.Times*amps)
		a.Schools = append(a.Schools, s)
	}
	if in.Kind == Three {
		if a.OnOne, err = in.onOne(three); err != nil {
			return a, err
		}
		a.Left = a.OnOne.Bare // as the drive of that rating sees it
	}
	if in.Kind == "" { // for a comparison, which asks each way's own front end
		a.LoadShare = in.Share()
		in.judge(&a)
		return a, nil
	}
	return a, in.loaded(&a, true)
}

// three is the front end of a three-phase drive at its rating.
func (in Input) three(rating float64) rectifier.Case {
	in.Kind, in.Reactor = Three, NoReactor
	return in.on(in.Front(rating), in.input(rating))
}

// onOne looks at a three-phase drive of a rating on one phase by each of its figures.
func (in Input) onOne(rating float64) (*OnOne, error) {
	c := in.three(rating)
	bare, err := rectifier.Derate(c)
	if err != nil {
		return nil, err
	}
	c.Bridge.LineReactorOhm = in.reactorOhm(rating)
	with, err := rectifier.Derate(c)
	return &OnOne{
		Bare: bare, Reactor: with, MilliHenry: 1000 * c.Bridge.LineReactorOhm / (2 * math.Pi * in.Supply.Hertz),
	}, err
}

// coreRise is what the core of a usual can warms by in kelvin at its rated ripple amps (shop
// practice).
const coreRise = 10.0

// full fills in what the front end does at switch-on and at full output, and what that does to
// its cans.
func (in Input) full(a *Answer, front rectifier.Front) (err error) {
	a.Front, a.OwnBus = front, in.BusMicrofarad != nil &&
		math.Abs(*in.BusMicrofarad/Front(in.Kind, a.RatingWatts, in.most(), in.Supply.Hertz).BusMicrofarad-1) > 1e-9
	a.Precharge = rectifier.Precharge(in.on(front, 0), PrechargeOhm)
	a.Full, err = in.Takes(front, in.Plate.Output.Value)
	if rectifier.Unsteady(err) {
		err = nil // that is said, and the load it is looked at with may be less
	}
	if err != nil || a.OnOne == nil {
		return err
	}
	rated := a.OnOne.Bare.Three.CapacitorRMSAmps
	can, one := rectifier.Can{Hours: 1, Amps: rated, CoreRiseK: coreRise}, *a.OnOne
	one.CapacitorTimes, one.LifeTimes = a.Full.CapacitorRMSAmps/rated, can.Life(a.Full.CapacitorRMSAmps, 0)
	a.OnOne = &one
	return nil
}

// doubled sizes a drive that doubles the supply's volts.
func (in Input) doubled(a Answer) (Answer, error) {
	a.Doubler = true
	a.Left.Limits = []rectifier.Left{}
	if in.Plate.Output.Value > in.mostDoubled() {
		a.Covered = false
	}
	if err := in.across(&a); err != nil {
		return a, err
	}
	return a, in.loaded(&a, true)
}

// Try is an answer at another load: what follows the hand, its choke left as it is.
func Try(in Input, a Answer) (Answer, error) {
	a.Verdicts = []rule.Verdict{}
	return a, in.loaded(&a, false)
}

// mostDoubled is the output in watts up to which drives are made that double 100 to 130 V, or
// 200 to 240.
func (in Input) mostDoubled() float64 {
	if in.Supply.Volts < doublerVolts {
		return 1150
	}
	return 4000
}

// loaded fills in what a front end does at the load and at a stop; at first, also
// what does not go with the load.
func (in Input) loaded(a *Answer, first bool) (err error) {
	a.RatingWatts = a.OnePhaseWatts
	if !a.Doubler && in.Kind != OnePhase && in.Kind != Bus {
		a.RatingWatts = a.ThreeWatts
	}
	a.LoadShare = in.Share()
	a.LoadWatts = in.input(in.Share() * in.Plate.Output.Value)
	loaded := in.on(in.Front(a.RatingWatts), a.LoadWatts)
	loaded.Series = true
	if first && !a.Doubler {
		if a.Choke, err = in.choke(loaded, a.RatingWatts); err != nil {
			return err
		}
	}
	if in.Kind == Bus || in.Reactor == DCChoke {
		loaded.Bridge = a.Choke.front
	}
	if loaded.Bridge != a.Front {
		if err = in.full(a, loaded.Bridge); err != nil {
			return err
		}
	}
	if a.Load, err = rectifier.Solve(loaded); err != nil {
		return err
	}
	a.LoadVolts = math.Min(a.Load.BusMeanVolts/math.Sqrt2, in.most())
	a.LoadBaseHertz = in.shape(a.LoadVolts).BaseHertz()
	bus := math.Sqrt2 * in.most()
	drag := in.drag()
	cans := loaded.Bridge.BusMicrofarad
	if a.Doubler {
		cans /= 2 // its two in series
	}
	stop := Stop{
		InertiaKgm2:   in.Shaft().Kgm2(),
		RPM:           in.Plate.RPM.Value,
		BusMicrofarad: cans,
		BusVolts:      bus,
		TripVolts:     math.Max(TripVolts, tripOver*bus),
		LossWatts:     &drag,
	}
	a.ShortestStop = stop.Ramp().ShortestSeconds
	a.Brake = stop.resistor()
	in.judge(a)
	return nil
}

// dragShare is the share of a motor's losses without a load that a ramp down can count on all the way: they fall with
// speed and flux. Ramps stepped in time come to 0.81 of them with the lightest load and more with others.
const dragShare = 0.8

// drag is the watts that the motor itself takes out of a ramp down from plate speed: friction, iron, and the copper of
// its magnetising amps, at no more volts than the drive gives it there.
func (in Input) drag() float64 {
	volts := math.Min(in.Plate.Volts.Value, in.most())
	idle, err := network.Solve(network.Case{
		Supply: network.Supply{Phases: 3, Volts: volts, Hertz: in.Plate.Hertz.Value},
		Motors: []network.Motor{in.NetworkMotor("motor")},
	})
	if err != nil {
		return math.Max(in.Fit.FrictionWatts, 1)
	}
	return math.Max(dragShare*idle.Motors[0].InputWatts, 1)
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
		a.Verdicts = append(a.Verdicts, in.Rare(a.OnePhaseWatts)...)
	}
	a.Verdicts = append(a.Verdicts, Alternating(a.Load)...)
	if a.Full.BusMeanVolts == 0 && in.Kind != "" {
		a.Verdicts = append(a.Verdicts, Unsteady("At full output its front end finds no steady state."))
	}
	a.Verdicts = append(a.Verdicts, in.Dips(a.Full)...)
	a.Verdicts = append(a.Verdicts, Standing()...)
	if a.Doubler || in.Kind == OnePhase || in.Kind == Bus {
		return
	}
	say(
		"drive.left-on-one-phase",
		rule.Numbers{"share_percent": 100 * a.Left.Share},
		fmt.Sprintf("Take %s or more, or one built for one phase.", power(a.ThreeWatts)),
		"About half of a three-phase drive's amps is left on one phase, here %.0f percent by %s: twice the motor's.",
		100*a.Left.Share,
		a.Left.By,
	)
}

// Alternating says that the pulses of a front end alternate, where they do.
func Alternating(load rectifier.Result) []rule.Verdict {
	if !load.Alternates {
		return nil
	}
	return []rule.Verdict{rule.Speak("drive.pulses-alternate", rule.Numbers{"ripple_volts": load.RipplePPVolts},
		"Nothing, where the drive permits one phase; more ohms or less inductance in its feed end it.",
		"At its load the pulses of the two half cycles differ; their amps are taken over a whole cycle.")}
}

// Unsteady says that a front end finds no periodic state, where that is so.
func Unsteady(says string) rule.Verdict {
	return rule.Speak(
		"drive.no-steady-state",
		nil,
		"Measure the ohms of the feed; else a stronger feed, a drive with more bus capacitance, or an idler.",
		"%s",
		says,
	)
}

// Dips says that at full output the bus of a front end falls so far between two pulses that
// a low line trips the drive; nothing of one that was not solved.
func (in Input) Dips(full rectifier.Result) []rule.Verdict {
	limit := func(name string) float64 { return rule.Limit("drive.bus-ripple", name) }
	least := full.BusMeanVolts - full.RipplePPVolts/2
	percent := 100 * least / (math.Sqrt2 * in.most())
	if full.BusMeanVolts == 0 || percent*limit("low_line_percent")/100 >= limit("trip_percent") {
		return nil
	}
	return []rule.Verdict{rule.Speak("drive.bus-ripple",
		rule.Numbers{"least_volts": least, "least_percent": percent, "ripple_volts": full.RipplePPVolts},
		"A larger drive, or one with more capacitance on its bus by its maker's word.",
		"At full output its bus falls to %.0f V, %.0f percent of the line's peak, and lower yet on a low line.",
		least, percent)}
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

// Rare are the cautions of a drive of an output in watts for this machine that is built for one
// phase.
func (in Input) Rare(watts float64) []rule.Verdict {
	if in.Doubles() && in.Supply.Volts >= doublerVolts {
		return []rule.Verdict{rule.Speak("drive.one-phase-rare", rule.Numbers{"drive_watts": watts},
			"Look for one before the route is taken; else break the star point out, a transformer, or an idler.",
			"Drives that double %.0f V for a motor of %.0f are few.", in.Supply.Volts, in.Plate.Volts.Value)}
	}
	return BuiltForOne(watts)
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
