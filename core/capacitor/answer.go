// Package capacitor sizes run and start capacitors for one three-phase motor
// on one phase: by every school of practice, and by the machine model, side by
// side.
package capacitor

import (
	"fmt"
	"math"
	"strings"

	"brackmoor/core/load"
	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/search"
	"brackmoor/core/shelf"
	"brackmoor/core/supply"
)

// Candidate is one run capacitance with what the model says of it. Usable is
// nil when no load keeps every winding within plate amps. StartShare is torque
// at standstill over rated torque, on this capacitor alone.
type Candidate struct {
	School School  `json:"school"`
	Idle   State   `json:"idle"`
	Load   State   `json:"load"`
	Full   State   `json:"full"`
	Usable *Range  `json:"usable"`
	Start  float64 `json:"start_share"`
}

// StartCandidate is one start capacitance beside the chosen run capacitor.
type StartCandidate struct {
	School         School  `json:"school"`
	TorqueShare    float64 `json:"torque_share"`    // of rated torque at standstill
	OverBreak      float64 `json:"over_breakaway"`  // times the load's breakaway torque
	Starts         bool    `json:"starts"`          // breaks the load away
	SupplyAmps     float64 `json:"supply_amps"`     // at standstill
	HottestPercent float64 `json:"hottest_percent"` // winding amps at standstill
}

// CurvePoint is a point of the torque curves, in percent of rated torque.
type CurvePoint struct {
	RPM   float64 `json:"rpm"`
	Run   float64 `json:"run"`
	Start float64 `json:"start"`
	Load  float64 `json:"load"`
}

// HeatPoint is the hottest winding at a load.
type HeatPoint struct {
	LoadShare float64  `json:"load_share"`
	Percent   *float64 `json:"percent"` // nil where the motor does not run
}

// Live is what follows the hand: everything that changes while a capacitor or
// the load is dragged.
type Live struct {
	RunMicrofarad   float64        `json:"run_microfarad"`
	StartMicrofarad float64        `json:"start_microfarad"`
	LoadShare       float64        `json:"load_share"`
	Hertz           float64        `json:"-"` // of the supply
	Idle            State          `json:"idle"`
	Load            State          `json:"load"`
	Full            State          `json:"full"`
	Standing        State          `json:"standing"`
	StandingShare   float64        `json:"standing_share"` // of rated torque, run and start capacitor in
	OverBreakaway   float64        `json:"over_breakaway"`
	Usable          *Range         `json:"usable"`
	ByFactor        *Range         `json:"usable_by_factor"` // by service factor
	CutOutRPM       float64        `json:"cut_out_rpm"`      // 0 without a start capacitor
	CutOutVolts     float64        `json:"cut_out_volts"`
	Curve           []CurvePoint   `json:"curve" nullable:"false"`
	Heat            []HeatPoint    `json:"heat" nullable:"false"`
	RunUp           RunUp          `json:"run_up"`
	Session         Heat           `json:"session"`
	Verdicts        []rule.Verdict `json:"verdicts" nullable:"false"`
}

// Answer is the whole of the Size step for capacitors.
type Answer struct {
	Live           Live              `json:"live"`
	ModelRun       float64           `json:"model_run_microfarad"`
	ModelStart     float64           `json:"model_start_microfarad"`
	ModelKept      bool              `json:"model_kept"` // windings within plate amps at idle
	RunParts       shelf.Combination `json:"run_parts"`
	StartParts     []StartPart       `json:"start_parts" nullable:"false"`
	RunVolts       Rating            `json:"run_volts"`
	StartVolts     Rating            `json:"start_volts"`
	RunBleeds      []Bleed           `json:"run_bleeds" nullable:"false"`
	StartBleeds    []Bleed           `json:"start_bleeds" nullable:"false"`
	Schools        []Candidate       `json:"schools" nullable:"false"`
	StartSchools   []StartCandidate  `json:"start_schools" nullable:"false"`
	OutputSchools  []Share           `json:"output_schools" nullable:"false"`
	UsableBare     *Range            `json:"usable_bare"` // without a run capacitor
	Short          *Short            `json:"two_thirds"`  // from cold
	Overload       Overload          `json:"overload"`
	Feed           Feed              `json:"feed"`
	Direction      Direction         `json:"direction"`
	RatedNm        float64           `json:"rated_nm"`
	FluxPercent    float64           `json:"flux_percent"`
	TorqueCaution  float64           `json:"torque_caution"` // factor to the class minimum
	SynchronousRPM float64           `json:"synchronous_rpm"`
	Workings       []rule.Working    `json:"workings" nullable:"false"`
	Most           float64           `json:"most_microfarad"`
	MostStart      float64           `json:"most_start_microfarad"`
}

// Rating is a voltage that a capacitor sees and the standard rating that
// covers it; Rated zero means that no standard part does. Twice is what the
// school of twice the supply would take.
type Rating struct {
	Sees   float64 `json:"sees"`
	Needed float64 `json:"needed"`
	Rated  float64 `json:"rated"`
	Twice  float64 `json:"twice"`
}

// Overload is the setting of the relay and where it must sit.
type Overload struct {
	Amps      float64 `json:"amps"`
	MostAmps  float64 `json:"most_amps"` // the code's ceiling on plate amps
	By        string  `json:"by"`        // that code
	Lines     string  `json:"lines"`
	SupplyAt  float64 `json:"supply_amps"` // what a relay in the supply lines would see at the same state
	Percent   float64 `json:"code_percent"`
	LimitedBy string  `json:"limited_by"`
}

// Feed is what the supply must carry.
type Feed struct {
	IdleAmps     float64 `json:"idle_amps"`
	LoadAmps     float64 `json:"load_amps"`
	FullAmps     float64 `json:"full_amps"`
	StartingAmps float64 `json:"starting_amps"`
}

// Direction is which supply line the capacitor hangs on for which sense.
type Direction struct {
	Line    string `json:"line"`    // "a" or "b", as connected now
	Sense   string `json:"sense"`   // of the motor's leads in order: "U→V→W" as the lines are joined
	Other   string `json:"other"`   // the line for the other sense
	Reverse string `json:"reverse"` // how to turn it round, in words
}

// Solve computes the whole answer.
func Solve(in Input) Answer {
	r := newRig(in)
	share := in.Share()
	a := Answer{Direction: r.orient()}
	target, kept := r.coolest(share)
	a.ModelKept = kept
	a.RunParts = realise(target, in.Supply.Hertz)
	a.ModelRun = a.RunParts.Sum
	run := a.ModelRun
	if in.RunMicrofarad != nil {
		run = *in.RunMicrofarad
		a.RunParts = realise(run, in.Supply.Hertz)
	}
	start, _ := r.starting(run)
	a.StartParts = realiseStart(start)
	a.ModelStart = lowSum(a.StartParts)
	if in.StartMicrofarad != nil {
		start = *in.StartMicrofarad
		a.StartParts = realiseStart(start)
	} else {
		start = a.ModelStart
	}
	r.with(&a, run, start, share)
	a.UsableBare, a.Short = r.usable(0), r.short(run, twoThirds)
	a.OutputSchools = outputSchools
	r.candidates(&a, target)
	a.Workings = r.workings(&a, target)
	return a
}

// Try computes what follows the hand, quickly: the answer for capacitors and a
// load that are all given, without the model's own choice, the schools and the
// workings, which are left empty.
func Try(in Input, run, start, share float64) Answer {
	r := newRig(in)
	a := Answer{Direction: r.orient(), RunParts: realise(run, in.Supply.Hertz), StartParts: realiseStart(start),
		Schools: []Candidate{}, StartSchools: []StartCandidate{}, OutputSchools: []Share{}, Workings: []rule.Working{}}
	r.with(&a, run, start, share)
	return a
}

// with fills in what hangs on the capacitors and the load alone.
func (r *rig) with(a *Answer, run, start, share float64) {
	in := r.in
	a.Live = r.live(run, start, share)
	a.RatedNm, a.FluxPercent, a.TorqueCaution = in.Fit.RatedNm, in.FluxPercent(), r.torqueFactor
	a.SynchronousRPM = r.synchrony
	a.Most, a.MostStart = math.Ceil(in.most()/10)*10, math.Ceil(4*in.most()/50)*50
	r.ratings(a)
	a.Overload = r.overload(&a.Live)
	a.Feed = Feed{a.Live.Idle.SupplyAmps, a.Live.Load.SupplyAmps, a.Live.Full.SupplyAmps, a.Live.Standing.SupplyAmps}
	a.Live.Verdicts = rule.Sorted(append(a.Live.Verdicts, a.voltVerdicts(in)...))
}

func lowSum(parts []StartPart) float64 {
	sum := 0.0
	for _, p := range parts {
		sum += p.Low
	}
	return sum
}

// sense is a sense of turning by the lines in their order.
func sense(lines ...string) string { return strings.Join(lines, " → ") }

// orient finds the line on which the capacitor turns the motor in the sense
// a→b→c, by the sign of its torque at standstill, and puts the bank on the
// line for the sense that is wanted.
func (r *rig) orient() Direction {
	probe := math.Max(r.in.most()/4, 1)
	forward, backward := network.AC, network.BC
	if r.held(probe, 1).TorqueNm < 0 {
		forward, backward = backward, forward
	}
	lines := r.lines()
	line := map[network.Pair]string{network.AC: lines.A, network.BC: lines.B}
	d := Direction{Line: line[forward], Other: line[backward], Sense: sense(lines.A, lines.B, lines.Made)}
	r.pair, r.sense = forward, 1
	if r.in.TowardsB {
		d.Line, d.Other, d.Sense = d.Other, d.Line, sense(lines.A, lines.Made, lines.B)
		r.pair, r.sense = backward, -1
	}
	d.Reverse = fmt.Sprintf(
		"Move the capacitor's lead from line %s to line %s. Exchanging the two supply lines changes nothing.",
		d.Line,
		d.Other,
	)
	return d
}

// heatPoints is how many loads the hottest winding is looked at between none and plate
// output.
const heatPoints = 20

// live computes what follows the hand.
func (r *rig) live(run, start, share float64) Live {
	l := Live{
		RunMicrofarad:   run,
		StartMicrofarad: start,
		LoadShare:       share,
		Hertz:           r.in.Supply.Hertz,
		Idle: r.at(
			run,
			0,
		),
		Load:     r.at(run, share),
		Full:     r.at(run, 1),
		Usable:   r.usable(run),
		ByFactor: r.byFactor(run),
	}
	l.StandingShare, l.Standing = r.standing(run + start)
	if r.in.Load.BreakawayShare > 0 {
		l.OverBreakaway = l.StandingShare / r.in.Load.BreakawayShare
	}
	l.Curve = r.curve(run, start, share)
	if start > 0 {
		l.CutOutRPM = r.cutOut(run, start)
		l.CutOutVolts = r.held(run+start, 1-l.CutOutRPM/r.synchrony).CapacitorVolts
	}
	for i := range heatPoints + 1 {
		at := float64(i) / heatPoints
		p := HeatPoint{LoadShare: at}
		if s := r.at(run, at); s.Motor == network.Running {
			hottest := s.HottestPercent
			p.Percent = &hottest
		}
		l.Heat = append(l.Heat, p)
	}
	l.RunUp = r.runUp(run, start, share, l.CutOutRPM)
	l.RunUp.StartsPerHour = r.startsPerHour(l.RunUp, l.Load)
	l.Session = r.heat(run, share, l.RunUp)
	l.Verdicts = rule.Sorted(r.verdicts(l))
	return l
}

// curve is torque over speed with the run capacitor, with the start capacitor
// as well, and of the load. The curves are the circuit's own, brought down at
// standstill's factor to the class minimum.
func (r *rig) curve(run, start, share float64) []CurvePoint {
	const points = 48
	rated := r.in.Fit.RatedNm
	ratedRPM := r.in.RatedRPM()
	curve := make([]CurvePoint, 0, points+1)
	for i := range points + 1 {
		// Closer together towards synchronous speed, where the curve is steep.
		x := float64(i) / points
		speed := 1 - math.Pow(1-x, 1.6)
		p := CurvePoint{RPM: speed * r.synchrony}
		p.Run = 100 * r.torqueFactor * r.held(run, 1-speed).TorqueNm / rated
		p.Start = p.Run
		if start > 0 {
			p.Start = 100 * r.torqueFactor * r.held(run+start, 1-speed).TorqueNm / rated
		}
		p.Load = 100 * r.in.Load.Torque(share, rated, p.RPM, ratedRPM) / rated
		curve = append(curve, p)
	}
	return curve
}

// cutOut is the speed at which the start capacitor should leave: where the
// torque with it falls to that without it, kept between 70 and 80 percent of
// synchronous speed unless the curves cross earlier.
func (r *rig) cutOut(run, start float64) float64 {
	more := func(speed float64) bool {
		return r.held(run+start, 1-speed).TorqueNm > r.held(run, 1-speed).TorqueNm
	}
	const low, high = 0.30, 0.80
	if more(high) {
		return high * r.synchrony
	}
	return search.Edge(low, high, 30, more) * r.synchrony
}

// candidates fills the schools beside the model.
func (r *rig) candidates(a *Answer, target float64) {
	in := r.in
	share := in.Share()
	schools := in.runSchools()
	least := School{Name: "least", Title: "Least within plate amps", Source: "machine model"}
	if c, ok := r.least(share); ok {
		least.Microfarad, least.Applies = c, true
	} else {
		least.Why = "no value carries this load"
	}
	least.Working = rule.Working{
		Figure: "school.least",
		Title:  least.Title,
		Shown:  fmt.Sprintf("%.0f µF", least.Microfarad),
		Rules:  []string{},
		Steps: []rule.Step{
			{Formula: "the smallest C with the hottest winding ≤ 100 % of plate amps at the load", Terms: []rule.Term{
				{
					Name:   "load",
					Value:  share,
					Origin: rule.Assumed,
					Source: load.Source,
				},
			}, Result: least.Microfarad, Unit: "µF", Source: "machine model"},
		},
	}
	model := School{
		Name:       "model",
		Title:      "Model: coolest at your load",
		Microfarad: a.ModelRun,
		Applies:    true,
		Source:     "machine model",
		Working:    r.runWorking(a, target),
	}
	for _, s := range append(schools, least, model) {
		c := Candidate{School: s}
		if s.Microfarad > 0 || s.Name == "model" {
			c.Idle, c.Load, c.Full = r.at(s.Microfarad, 0), r.at(s.Microfarad, share), r.at(s.Microfarad, 1)
			c.Usable = r.usable(s.Microfarad)
			c.Start, _ = r.standing(s.Microfarad)
			c.School.Working.Steps = append(append([]rule.Step{}, s.Working.Steps...), r.candidateSteps(c)...)
		}
		a.Schools = append(a.Schools, c)
	}
	run := a.Live.RunMicrofarad
	title := "Model: least that starts it well"
	if torque, _ := r.standing(run + a.ModelStart); torque < startMargin*in.Load.BreakawayShare {
		title = "Model: most torque to be had"
	}
	chosen := School{Name: ModelStart, Title: title, Microfarad: a.ModelStart, Applies: true, Source: "machine model",
		Working: r.startWorking(a)}
	for _, s := range append(in.startSchools(run), chosen) {
		torque, state := r.standing(run + s.Microfarad)
		over := torque / in.Load.BreakawayShare
		a.StartSchools = append(
			a.StartSchools,
			StartCandidate{
				School:         s,
				TorqueShare:    torque,
				OverBreak:      over,
				Starts:         over >= rule.Limit("capacitor.no-start", "least_margin"),
				SupplyAmps:     state.SupplyAmps,
				HottestPercent: state.HottestPercent,
			},
		)
	}
}

// ratings fills voltage ratings and bleed resistors.
func (r *rig) ratings(a *Answer) {
	in, l := r.in, &a.Live
	run := runBank(
		a.RunParts.Parts,
		max(l.Idle.CapacitorVolts, l.Load.CapacitorVolts, l.Full.CapacitorVolts),
		in.Supply,
	)
	a.RunVolts, a.RunBleeds, a.StartBleeds = run.Volts, run.Bleeds, []Bleed{}
	if l.StartMicrofarad <= 0 {
		return
	}
	// A contact that opens late leaves the capacitor in nearly up to speed.
	late := r.held(l.RunMicrofarad+l.StartMicrofarad, 0.05).CapacitorVolts
	start := startBank(a.StartParts, max(l.Standing.CapacitorVolts, l.CutOutVolts, late), in.Supply)
	a.StartVolts, a.StartBleeds = start.Volts, start.Bleeds
}

// overload sets the relay in the motor's own leads: plate amps, or less where
// the hottest winding reaches plate amps before any line does.
func (r *rig) overload(l *Live) Overload {
	rated := r.in.Plate.Amps.Value
	o := Overload{
		Amps:      rated,
		Lines:     "all three motor leads U, V and W, between the capacitors and the motor",
		LimitedBy: "plate amps",
	}
	hertz := r.in.Supply.Hertz
	o.Percent, o.By = supply.CodeOf(hertz, r.in.Figures).Overload(r.in.Plate.ServiceFactor.Value)
	if !quantity.SixtyHertz(hertz) {
		o.By += "; a relay trips at 1.2 times its setting, IEC 60947-4-1"
	}
	o.MostAmps = rated * o.Percent / 100
	limit := l.Load
	if l.Usable != nil {
		limit = r.at(l.RunMicrofarad, l.Usable.HighWatts/r.in.Plate.Output.Value)
	}
	o.SupplyAt = limit.SupplyAmps
	if line := limit.LineAmps.Max(); l.Usable != nil && limit.HottestPercent > 99 && line < 0.995*rated {
		o.Amps, o.LimitedBy = line, "the line amps at which the hottest winding reaches plate amps"
	}
	return o
}
