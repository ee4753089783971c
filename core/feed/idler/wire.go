package idler

import (
	"fmt"

	"brackmoor/core/capacitor"
	"brackmoor/core/circuit"
	"brackmoor/core/feed"
	"brackmoor/core/rotary"
)

// Seconds where nothing was computed, and shop practice: until a load is let on at least, and how long after the
// idler is up; of a pony motor, of a box; how much longer their timers wait; and between a pony motor and its idler's
// lines.
const (
	loadSeconds = 5
	loadAfter   = 2
	ponySeconds = 3
	boxSeconds  = 2.5
	longer      = 1.2
	gapSeconds  = 0.5
)

// up is in how many seconds the idler is, by a way of starting it, or else the usual ones; a converter's own stopwatch
// comes first.
func (r *rig) up(way string, usual float64) float64 {
	if r.q.Fed.UpSeconds > 0 {
		return r.q.Fed.UpSeconds
	}
	for _, s := range r.a.Starts {
		if s.Name == way && s.Seconds != nil {
			return *s.Seconds
		}
	}
	return usual
}

// by is the name of the start, among those of its answer, that a circuit is made for.
var by = map[string]string{circuit.ByPony: "pony", circuit.ByBox: "packaged"}

// Wire is its circuit: the idler with what starts it and its balance capacitors, and behind a three-pole
// panel the machine, whose contactor comes in only once a timer has let the idler come up, drops with it, and
// keeps the converter from starting while it is in.
func (w way) Wire(q *feed.Question, how circuit.Choices) circuit.Circuit {
	o := w.Outline(q)
	if o == nil {
		return circuit.Circuit{}
	}
	if how.Start == circuit.ByButton { // let go of too soon, the idler hums and the load comes on
		how.Start = circuit.ByTimer
	}
	d, breaker := feed.Draft(q, w, o, how)
	lines := d.Feed(breaker)
	coils := d.Coils(lines)
	r := rig{d: d, q: q, o: o, a: &watch(q).answer, lines: feed.Stepped(d, q, w, lines), coils: coils}
	r.converter()
	r.machine()
	r.control()
	return d.Done()
}

// rig is a converter's circuit while it is made: the ends of the idler's two lines and of its made leg.
type rig struct {
	d     *circuit.Draft
	q     *feed.Question
	o     *feed.Outline
	a     *rotary.Answer
	lines circuit.Lines
	coils circuit.Coils

	main, overload, idler string
	machineK, machineF    string // its contactor and overload
	motor                 string // of the machine
	made                  circuit.Lines
	leg                   string
}

// converter is the idler with its contactor, its balance capacitors and its overload, which stands in its own three
// leads, behind what goes on to the machines: it sees what the idler's windings carry and nothing else.
func (r *rig) converter() {
	d := r.d
	_, amps := way{}.Idler(r.q)
	r.main, r.overload = feed.TwoPole(d, "converter", r.lines, amps, r.coils.Volts, "43 44", "5 6")
	d.Part(r.main).Amps += r.q.Plate.Amps.Value // it carries what goes on to the machine too
	r.idler = d.Motor(circuit.Idler, "idler")
	way, usual := by[d.How.Start], boxSeconds
	if way == "" {
		way = "capacitors"
	}
	idler := d.Part(r.idler)
	idler.Watts = r.a.IdlerWatts
	if taken := onHand(r.q, r.a); taken != nil {
		idler.OnHand = []string{taken.ID}
	}
	idler.Seconds = r.up(way, usual)
	if way == "pony" {
		idler.Seconds = gapSeconds // it is at speed as its lines close
	}
	if v := r.a.Idler.Relay; v != nil {
		idler.MadeVolts = &circuit.MadeVolts{Standing: v.Standing, CutOut: v.CutOut, Running: r.a.States[0].Volts.BC}
	}
	feed.ToMotor(d, r.overload, r.idler)
	r.made, r.leg = circuit.Lines{A: r.overload + ":1", B: r.overload + ":3"}, r.overload+":5"
	r.bank(r.a.BalanceAC, r.a.Banks.AC, r.made.A)
	r.bank(r.a.BalanceBC, r.a.Banks.BC, r.made.B)
}

// bank is balance capacitors from an end to the made leg, where there are any.
func (r *rig) bank(microfarad float64, b capacitor.Bank, from string) {
	if microfarad > 0 {
		own, left := r.q.RunBank(microfarad, b)
		r.d.Bank(own, from, r.leg)
		r.q = left
	}
}

// machine is the three-pole panel behind the converter, the machine's contactor and overload, and its motor.
func (r *rig) machine() {
	d := r.d
	own, volts := r.q.Plate.Amps.Value, r.q.Stepped().Supply.Volts
	breaker := r.q.Fed.OwnAmps
	if breaker == 0 { // by its table's amps, or by those of its wires
		if table, ok := r.q.Code().ThreePhaseTableAmps(r.q.Watts(), volts); ok {
			breaker, _ = r.q.Code().MostFor("", table)
		} else {
			breaker, _ = r.q.Code().Next(own)
		}
	}
	panel := d.Add("Q", circuit.Part{
		Kind: circuit.Breaker, Name: "panel behind the converter", Amps: breaker,
	}, "1 2 3 4 5 6")
	off := d.Add("Q", circuit.Part{Kind: circuit.Isolator, Name: "isolator of the machine"}, "1 2 3 4 5 6")
	amps := r.o.Value("overload_amps")
	class := []circuit.Class{circuit.Power, circuit.Power, circuit.Made}
	in, out := []string{":1", ":3", ":5"}, []string{":2", ":4", ":6"}
	for i, end := range []string{r.made.A, r.made.B, r.leg} {
		d.Wire(class[i], end, panel+in[i])
	}
	run, _ := r.q.Code().Over(0, r.q.Code().Spare()*own, volts, [2]float64{}, [2]float64{1, 1})
	before := d.Sized(run.Size) // behind the panel the machine's own
	r.machineK, r.machineF = feed.ThreePole(d, "machine", amps, r.coils.Volts, "21 22 "+d.Own(3))
	for i := range in {
		d.Wire(class[i], panel+out[i], off+in[i])
		d.Wire(class[i], off+out[i], r.machineK+in[i])
	}
	r.motor = d.Motor(circuit.Machine, r.q.Title)
	feed.ToMotor(d, r.machineF, r.motor)
	d.Sized(before)
}

// control starts and stops the converter and the machine.
func (r *rig) control() {
	d := r.d
	d.Wire(circuit.Control, r.coils.Hot, r.overload+":95")
	from := d.Stops(r.overload+":96", true)
	coil := r.main + ":A1"
	switch d.How.Start {
	case circuit.ByPony:
		r.byPony(from)
	case circuit.ByBox:
		d.Starts(from, r.mayStart(), "", false)
		r.hold(from)
		r.byBox(coil)
	default:
		start := r.q.StartBank(r.a.Idler.StartMicrofarad, r.a.Banks.Start)
		var pickUp *float64
		if r.a.Idler.Relay != nil {
			pickUp = r.a.Idler.Relay.PickUp
		}
		up := r.up("capacitors", boxSeconds)
		feed.Leaving(&start, &up, r.a.Idler.TimerSeconds, pickUp)
		if r.q.Fed.TimerSeconds > 0 {
			start.Seconds = r.q.Fed.TimerSeconds
		}
		help := ""
		help, from = d.StartCapacitor(start, r.idler, r.made.A, r.leg, from, r.coils)
		buttons := d.Starts(from, r.mayStart(), "", help != "" && d.How.Start == circuit.ByButton)
		r.hold(from)
		d.Leaves(start, help, coil, buttons, r.coils)
	}
	d.Wire(circuit.Control, r.main+":A2", r.coils.Back)
	d.Lamp(r.main, r.coils.Volts)
	r.load(coil)
}

// mayStart is the end before the contacts that keep the converter from starting with a machine on its lines: that of
// this one, and of all the others behind it.
func (r *rig) mayStart() string { return r.d.OthersOff(r.q.Fed.Others, r.machineK+":21") }

// hold keeps the converter's contactor in, and lets it start only with the machine's contactor out.
func (r *rig) hold(from string) {
	r.d.Wire(circuit.Control, r.machineK+":22", r.main+":A1")
	r.d.Wire(circuit.Control, from, r.main+":13")
	r.d.Wire(circuit.Control, r.main+":14", r.main+":A1")
}

// load lets the machine on once a timer has run out that the converter's contactor set going.
func (r *rig) load(coil string) {
	d := r.d
	t := d.Add("K", circuit.Part{
		Kind: circuit.Timer, Name: "load permitted", Delay: "on", CoilVolts: r.coils.Volts,
		Seconds: circuit.Settable(max(loadSeconds, d.Part(r.idler).Seconds+loadAfter)),
	}, "A1 A2 15 18")
	d.Wire(circuit.Control, coil, r.main+":43")
	d.Wire(circuit.Control, r.main+":44", t+":A1")
	d.Wire(circuit.Control, t+":A2", r.coils.Back)
	d.Wire(circuit.Control, t+":A1", t+":15")
	permit := t + ":18"
	if len(r.q.Fed.Others) > 0 { // from where the controls of the other machines are fed, too
		x := d.Add("X", circuit.Part{Kind: circuit.Strip, Name: "permit to the others"}, "1")
		d.Wire(circuit.Control, permit, x+":1")
		permit = x + ":1"
	}
	d.Wire(circuit.Control, permit, r.machineF+":95")
	from := d.Interlocks(circuit.Control, d.Stops(r.machineF+":96", false, r.motor), r.motor)
	d.Starts(from, r.machineK+":A1", r.machineK, false)
	d.Wire(circuit.Control, r.machineK+":A2", r.coils.Back)
	d.Lamp(r.machineK, r.coils.Volts)
	r.second()
}

// second is the bank that comes in with the load: a switch beside the machine brings it in while the machine's
// contactor is.
func (r *rig) second() {
	s := r.a.Second
	if s == nil {
		return
	}
	d := r.d
	k := d.Add("K", circuit.Part{Kind: circuit.Contactor, Name: "second bank", CoilVolts: r.coils.Volts},
		"1 2 3 4 A1 A2")
	by := d.Add("S", circuit.Part{Kind: circuit.Selector, Name: "cutting"}, "13 14")
	d.Wire(circuit.Control, r.machineK+":A1", by+":13")
	d.Wire(circuit.Control, by+":14", k+":A1")
	d.Wire(circuit.Control, k+":A2", r.coils.Back)
	for i, b := range []struct {
		microfarad float64
		bank       capacitor.Bank
		from       string
	}{{s.AC, r.a.Banks.SecondAC, r.made.A}, {s.BC, r.a.Banks.SecondBC, r.made.B}} {
		d.Wire(circuit.Power, b.from, fmt.Sprintf("%s:%d", k, 2*i+1))
		r.bank(b.microfarad, b.bank, fmt.Sprintf("%s:%d", k, 2*i+2))
	}
}

// byPony brings the idler up by a pony motor, which a timer drops as the idler's lines close.
func (r *rig) byPony(from string) {
	d := r.d
	pony, f := feed.TwoPole(d, "pony motor", r.lines, 0, r.coils.Volts, "", "")
	m := d.Add("M", circuit.Part{Kind: circuit.SinglePhaseMotor, Role: circuit.Pony, Name: "pony motor",
		Seconds: r.up("pony", ponySeconds)}, "1 2 PE")
	d.Wire(circuit.Protective, "PE", m+":PE")
	d.Wire(circuit.Power, f+":2", m+":1")
	d.Wire(circuit.Power, f+":4", m+":2")
	hold := d.Add("K", circuit.Part{Kind: circuit.Relay, Name: "control relay", CoilVolts: r.coils.Volts},
		"A1 A2 13 14 23 24")
	t := d.Add("K", circuit.Part{
		Kind: circuit.Timer, Name: "run-up timer", Delay: "on",
		Seconds: circuit.Settable(longer * r.up("pony", ponySeconds)), CoilVolts: r.coils.Volts,
	}, "A1 A2 15 16 18")
	d.Wire(circuit.Control, from, f+":95")
	from = f + ":96"
	d.Starts(from, r.mayStart(), "", false)
	d.Wire(circuit.Control, r.machineK+":22", hold+":A1")
	d.Wire(circuit.Control, from, hold+":13")
	d.Wire(circuit.Control, hold+":14", hold+":A1")
	d.Wire(circuit.Control, hold+":A2", r.coils.Back)
	d.Wire(circuit.Control, hold+":A1", t+":A1")
	d.Wire(circuit.Control, t+":A2", r.coils.Back)
	d.Wire(circuit.Control, from, hold+":23")
	d.Wire(circuit.Control, hold+":24", t+":15")
	d.Wire(circuit.Control, t+":16", pony+":A1")
	d.Wire(circuit.Control, pony+":A2", r.coils.Back)
	if !d.How.Gap {
		d.Wire(circuit.Control, t+":18", r.main+":A1")
		return
	}
	gap := d.Add("K", circuit.Part{
		Kind: circuit.Timer, Name: "pony off first", Delay: "on", Seconds: gapSeconds, CoilVolts: r.coils.Volts,
	}, "A1 A2 15 18")
	d.Wire(circuit.Control, t+":18", gap+":A1")
	d.Wire(circuit.Control, gap+":A2", r.coils.Back)
	d.Wire(circuit.Control, gap+":A1", gap+":15")
	d.Wire(circuit.Control, gap+":18", r.main+":A1")
}

// byBox starts the idler by a packaged box behind a contactor that a timer opens, so that it does not come in
// again under load.
func (r *rig) byBox(coil string) {
	d := r.d
	k := d.Add(
		"K",
		circuit.Part{Kind: circuit.Contactor, Name: "start box", CoilVolts: r.coils.Volts},
		"1 2 3 4 5 6 A1 A2",
	)
	box := d.Add("B", circuit.Part{Kind: circuit.StartBox, Name: "start box"}, "1 2 3")
	for i, end := range []string{r.made.A, r.made.B, r.leg} {
		class := circuit.Power
		if i == 2 {
			class = circuit.Made
		}
		d.Wire(class, end, k+[]string{":1", ":3", ":5"}[i])
		d.Wire(class, k+[]string{":2", ":4", ":6"}[i], box+[]string{":1", ":2", ":3"}[i])
	}
	t := d.Add("K", circuit.Part{
		Kind: circuit.Timer, Name: "start box out", Delay: "on",
		Seconds: circuit.Settable(longer * d.Part(r.idler).Seconds), CoilVolts: r.coils.Volts,
	}, "A1 A2 15 16")
	d.Wire(circuit.Control, coil, t+":A1")
	d.Wire(circuit.Control, t+":A2", r.coils.Back)
	d.Wire(circuit.Control, coil, t+":15")
	d.Wire(circuit.Control, t+":16", k+":A1")
	d.Wire(circuit.Control, k+":A2", r.coils.Back)
}
