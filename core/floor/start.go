package floor

import (
	"math"
	"slices"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/rule"
	"brackmoor/core/site"
	"brackmoor/core/startup"
)

// Start is what comes of starting a machine, or a converter, with the others on. Lowest volts are
// those between any two of its lines after the first instant; peak amps those of its circuit.
// Seconds are nil for what does not come up.
type Start struct {
	ID          string             `json:"id"`
	Seconds     *float64           `json:"seconds"`
	LowestVolts float64            `json:"lowest_volts"`
	PeakAmps    float64            `json:"peak_amps"`
	IdlerHolds  bool               `json:"idler_holds"`
	By          string             `json:"by"` // how it was found, in a few words
	Points      []Instant          `json:"points" nullable:"false"`
	Permitted   bool               `json:"permitted"`
	Broken      []Broken           `json:"broken" nullable:"false"`
	judged      *judgement         // while it is under way
	ratio       float64            // of the volts on its lines over the supply's, 0 for 1
	timed       float64            // seconds by stopwatch, 0 for none
	beside      map[string]float64 // amps that circuits carry by what is not of the start's own lines
}

// Instant is a moment of a start: volts between the lines, the speed of the slowest that starts as a
// share of synchronous, and the supply's amps.
type Instant struct {
	Seconds float64       `json:"t_s"`
	Volts   network.Lines `json:"volts"`
	Speed   float64       `json:"speed"`
	Amps    float64       `json:"amps"`
}

// starter is a way whose motor starts with a capacitor that leaves.
type starter interface {
	StartsWith(q *feed.Question) (microfarad, outRPM float64)
}

// startPeak is how many times its rated amps a motor is taken to draw where the supply is looked
// at as it starts (shop practice).
const startPeak = 6

// Start starts a machine, a motor or a converter in a state, whatever is on of it being off
// before. The motors of a machine start together, which is the worst case, but for one that starts first,
// and those on other lines, which start after.
func (f *Floor) Start(s site.State, id string) (Start, error) {
	st := newStart(id)
	before := f.without(s, id)
	var err error
	if c := f.Shop.Site.Converter(id); c != nil {
		err = f.startConverter(&st, &before, c)
	} else {
		err = f.startMotors(&st, &before, &s, id)
	}
	st.finish()
	return st, err
}

func newStart(id string) Start {
	return Start{ID: id, IdlerHolds: true, Points: []Instant{}, judged: &judgement{}}
}

// finish sorts what a start breaks.
func (st *Start) finish() {
	st.Broken, st.Permitted = st.judged.sorted(), true
	for _, b := range st.Broken {
		st.Permitted = st.Permitted && b.Severity != rule.Stop
	}
}

// without is a state in which something is off.
func (f *Floor) without(s site.State, id string) site.State {
	off := map[string]bool{id: true}
	for _, m := range f.machines {
		for _, o := range m.motors {
			if m.id == id && !o.apart {
				off[o.ID] = true
			} else if o.ID == id && !o.apart && s.Has(m.id) { // the machine's other motors stay on
				off[m.id] = true
				for _, beside := range m.motors {
					if beside.ID != id && !beside.apart {
						s.On = append(slices.Clone(s.On), beside.ID)
					}
				}
			}
		}
	}
	s.On = slices.DeleteFunc(slices.Clone(s.On), func(id string) bool { return off[id] })
	return s
}

// starting are the motors that start by an id.
func (f *Floor) starting(id string) (list []*motor) {
	for i := range f.machines {
		for k := range f.machines[i].motors {
			if m := &f.machines[i].motors[k]; (m.machine == id && !m.apart || m.ID == id) && m.q != nil {
				list = append(list, m)
			}
		}
	}
	return list
}

func (f *Floor) startConverter(st *Start, before *site.State, c *site.Converter) error {
	if c.Kind == site.BusKind {
		return f.startBus(st, before, c)
	}
	return f.startIdler(st, before, c)
}

// startMotors starts what starts by an id, one stage after another.
func (f *Floor) startMotors(st *Start, before, s *site.State, id string) error {
	stages := f.stages(f.starting(id))
	if len(stages) == 0 {
		st.judged.say("floor.unread", id, 0, 0, "Open its plate and clear it up.",
			"Nothing that is known starts there.")
		return nil
	}
	now := *before
	for i, motors := range stages {
		stage := newStart(id)
		if err := f.startStage(&stage, &now, s, motors); err != nil {
			return err
		}
		if st.follows(&stage, i == 0); stage.Seconds == nil {
			break
		}
		now.On = slices.Clone(now.On)
		for _, m := range motors {
			now.On = append(now.On, m.ID)
		}
	}
	return nil
}

// stages are what starts at once: the motor of a machine that starts first before the others, those of one
// converter together, and others each by itself.
func (f *Floor) stages(motors []*motor) (list [][]*motor) {
	motors = slices.Clone(motors)
	first := func(m *motor) int {
		for _, of := range f.machines {
			if of.id == m.machine && of.first == m.ID {
				return 0
			}
		}
		return 1
	}
	slices.SortStableFunc(motors, func(a, b *motor) int { return first(a) - first(b) })
	for _, m := range motors {
		together := slices.IndexFunc(list, func(of []*motor) bool {
			return of[0].place.On == m.place.On && first(of[0]) == first(m) && f.Shop.Site.Converter(m.place.On) != nil
		})
		if together < 0 {
			list = append(list, []*motor{m})
		} else {
			list[together] = append(list[together], m)
		}
	}
	return list
}

// follows adds what comes of the next stage of a start.
func (st *Start) follows(next *Start, first bool) {
	st.judged.broken = append(st.judged.broken, next.judged.broken...)
	if first {
		judged := st.judged
		*st = *next
		st.judged = judged
		return
	}
	begins := *st.Seconds
	st.Points = slices.DeleteFunc(st.Points, func(p Instant) bool { return p.Seconds > begins })
	st.Seconds = nil
	if next.Seconds != nil {
		st.Seconds = new(begins + *next.Seconds)
	}
	st.LowestVolts, st.PeakAmps = min(st.LowestVolts, next.LowestVolts), max(st.PeakAmps, next.PeakAmps)
	st.IdlerHolds = st.IdlerHolds && next.IdlerHolds
	if next.By != st.By {
		st.By += ", then " + next.By
	}
	for _, p := range next.Points {
		p.Seconds += begins
		st.Points = append(st.Points, p)
	}
}

// startStage starts motors that start at once.
func (f *Floor) startStage(st *Start, before, s *site.State, motors []*motor) error {
	on := motors[0].place.On
	switch c := f.Shop.Site.Converter(on); {
	case f.dead(before, on, motors[0].place.Side) || c != nil && f.dead(before, c.On, c.Side):
		if c != nil {
			on = c.On
		}
		st.judged.thrown(before, st.ID, motors[0].name, f.Shop.Site.Circuit(on))
		return nil
	case c != nil && !f.turns(c, before):
		st.judged.say("floor.load-before-converter", st.ID, 0, 0, "Start the converter first.",
			"%s is off: %s has nothing to start on.", c.Name, motors[0].name)
		return nil
	case c != nil && c.Kind == site.BusKind:
		return f.startOnBus(st, before, c, motors)
	case c != nil:
		return f.startOn(st, before, s, c, motors)
	}
	return f.startAlone(st, before, s, motors[0])
}

// startOn starts motors on a converter that runs, with what runs on it already.
func (f *Floor) startOn(st *Start, before, s *site.State, c *site.Converter, motors []*motor) error {
	n, err := f.Network(before)
	if err != nil {
		return err
	}
	lines := n.Circuits[slices.IndexFunc(n.Circuits, func(n network.Circuit) bool { return n.ID == c.ID })]
	rest := f.without(*before, c.ID)
	probe := 0.0
	for _, m := range motors {
		probe += startPeak * m.q.Watts() / f.Shop.Supply.Volts
	}
	su, err := f.seen(&rest, c.On, probe, nil)
	if err != nil {
		return err
	}
	st.beside, st.ratio = su.beside, f.ratio(c)
	su.Transformer = lines.Transformer
	start := startup.Case{
		Supply: su.Supply, Loads: lines.Loads, ThreePhaseLoads: lines.ThreePhaseLoads, Rectifiers: lines.Rectifiers,
	}
	for _, p := range lines.Capacitors {
		start.Capacitors = append(start.Capacitors, startup.Capacitor{Capacitor: p})
	}
	var all network.Circuit
	for _, m := range motors {
		m.across(&all, m.share(s))
	}
	start.Transformers = append(slices.Clone(lines.Transformers), all.Transformers...)
	for _, own := range lines.Motors {
		start.Motors = append(start.Motors, f.running(own))
	}
	for i, m := range motors {
		curve, own := m.q.LoadCurve(m.share(s)), all.Motors[i]
		own.InertiaKgm2 = m.q.Shaft().Kgm2()
		start.Motors = append(start.Motors, startup.Motor{Motor: own, Shaft: &curve})
	}
	var coming []comer
	for _, m := range motors {
		coming = append(coming, comer{m.ID, m.name})
	}
	_, err = f.follow(st, start, c.On, len(lines.Motors), coming...)
	return err
}

// running is a motor that turns already, with the load that it has.
func (f *Floor) running(own network.Motor) startup.Motor {
	r := startup.Motor{Motor: own, Running: true}
	for i := range f.machines {
		for k := range f.machines[i].motors {
			if m := &f.machines[i].motors[k]; m.ID == own.ID {
				curve := m.q.Load.Curve(own.Load.Watts/m.q.Watts(), m.q.Fit.RatedNm, m.q.RatedRPM())
				r.Shaft, r.InertiaKgm2 = &curve, m.q.Shaft().Kgm2()
			}
		}
	}
	return r
}

// startAlone starts a motor on lines of its own, by its way.
func (f *Floor) startAlone(st *Start, before, s *site.State, m *motor) error {
	probe := startPeak * m.q.Watts() / f.Shop.Supply.Volts
	own, err := m.way.Hang(m.q, m.ID, m.share(s))
	if err != nil {
		return err
	}
	at := slices.IndexFunc(own.Motors, func(o network.Motor) bool { return o.ID == m.ID })
	if at < 0 {
		return f.startTaken(st, before, own, m)
	}
	su, err := f.seen(before, m.place.On, probe, nil)
	if err != nil {
		return err
	}
	st.beside = su.beside
	su.Transformer = own.Transformer
	start := startup.Case{Supply: su.Supply}
	for i, o := range own.Motors {
		if i != at {
			start.Motors = append(start.Motors, f.running(o))
		}
	}
	curve, o := m.q.LoadCurve(m.share(s)), own.Motors[at]
	o.InertiaKgm2 = m.q.Shaft().Kgm2()
	start.Motors = append(start.Motors, startup.Motor{Motor: o, Shaft: &curve})
	for _, p := range own.Capacitors {
		start.Capacitors = append(start.Capacitors, startup.Capacitor{Capacitor: p})
	}
	if w, ok := m.way.(starter); ok {
		if microfarad, out := w.StartsWith(m.q); microfarad > 0 {
			between := network.AC
			if o.Direction == "acb" {
				between = network.BC
			}
			start.Capacitors = append(start.Capacitors, startup.Capacitor{
				Capacitor: network.Capacitor{ID: m.ID + "-start", Between: between, Microfarad: microfarad},
				Out:       &startup.Out{By: startup.BySpeed, At: out, Motor: m.ID},
			})
		}
	}
	_, err = f.follow(st, start, m.place.On, len(start.Motors)-1, comer{m.ID, m.name})
	return err
}

// startTaken is the start of what is no three-phase motor on the lines: a drive that ramps up with
// the most that it gives, a motor of one phase with its starting amps.
func (f *Floor) startTaken(st *Start, before *site.State, own network.Circuit, m *motor) error {
	o := m.way.Outline(m.q)
	if o == nil || o.SupplyAmps.Starting == nil {
		st.judged.say("floor.unread", m.ID, 0, 0, "Look at its Size step.", "How %s starts is not known.", m.name)
		return nil
	}
	for i := range own.Rectifiers {
		own.Rectifiers[i].Watts = drive.StartTimes * m.q.Watts() / m.q.Plate.Efficiency.Value
	}
	for i := range own.Loads {
		l := &own.Loads[i]
		shrink := f.Shop.Supply.Volts / *o.SupplyAmps.Starting / math.Hypot(l.ResistanceOhm, l.ReactanceOhm)
		l.ResistanceOhm, l.ReactanceOhm = shrink*l.ResistanceOhm, shrink*l.ReactanceOhm
	}
	n, err := f.Network(before)
	if err != nil {
		return err
	}
	open, err := network.SolveInstallation(n)
	if err != nil {
		return err
	}
	st.beside = f.lineAmps(&open)
	own.From = m.place.On
	n.Circuits = append(n.Circuits, own)
	r, err := network.SolveInstallation(n)
	if err != nil {
		return err
	}
	end := r.Circuits[len(r.Circuits)-1]
	st.Seconds, st.By = o.Seconds, "its starting amps on the supply as it is"
	st.LowestVolts, st.PeakAmps = end.Volts.AB, max(*o.SupplyAmps.Starting, end.Supply.Amps)
	f.dips(st, network.Lines{AB: end.Volts.AB, BC: math.Inf(1), CA: math.Inf(1)})
	seconds := 0.0
	if o.Seconds != nil {
		seconds = *o.Seconds
	}
	f.trips(st, m.place.On, seconds)
	for _, on := range r.Motors {
		if name, known := f.nameOf(on.ID); known && on.State != network.Running {
			st.judged.say("floor.start-drops", on.ID, on.RPM, 0, "Start it first, before the others are loaded.",
				"%s falls out meanwhile.", name)
		}
	}
	return nil
}
