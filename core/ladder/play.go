package ladder

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"brackmoor/core/circuit"
)

// Action is what is done to a circuit while it is played, so many milliseconds after its supply came on: a hand puts a
// part into a position, 0 for its rest; an overload trips, or is reset; the volts are lost, or come back.
type Action struct {
	At   int32  `json:"at_ms" minimum:"0" maximum:"3600000"`
	Do   string `json:"do" enum:"move,trip,reset,lose,back"`
	Part string `json:"part,omitempty" maxLength:"40"`
	To   uint8  `json:"to,omitempty" maximum:"9"`
}

// What can be done.
const (
	Move  = "move"
	Trip  = "trip"
	Reset = "reset"
	Lose  = "lose"
	Back  = "back"
)

// Hand is what a hand moves, or an overload, and where it stands. Positions are those beside its rest.
type Hand struct {
	Part      string       `json:"part"`
	Name      string       `json:"name"`
	Kind      circuit.Kind `json:"kind"`
	Momentary bool         `json:"momentary"` // it goes back by itself, when it is let go
	Positions int          `json:"positions"`
	At        int          `json:"at"`
	Says      string       `json:"says"` // what moving it next is called
}

// next is what moving a part next is called, from where it stands.
func next(p *circuit.Part, at int) string {
	name := strings.TrimSpace(p.ID + " " + p.Name)
	switch p.Kind {
	case circuit.Overload:
		return pick(at > 0, "Reset ", "Trip ") + name
	case circuit.EmergencyStop:
		return pick(at > 0, "Release ", "Strike ") + name
	case circuit.GuardSwitch:
		return pick(at > 0, "Shut ", "Open ") + name
	case circuit.Interlock:
		if p.Function == circuit.Starting {
			return pick(at > 0, "Switch off: ", "Switch in: ") + p.Name
		}
		return p.Name + pick(at > 0, " stops", " runs")
	case circuit.Selector:
		if at > 0 {
			return fmt.Sprintf("%s: %d", name, at)
		}
		return name + ": off"
	}
	return name
}

// Track is how something went over time: its levels, each from a moment on. A level is 0 at rest and 1 for what is in,
// pressed or turning; a motor that comes up goes from 0 to 1 on the way.
type Track struct {
	Part   string  `json:"part"`
	Name   string  `json:"name"`
	Ramps  bool    `json:"ramps"` // its levels are joined by slopes
	Levels []Level `json:"levels" nullable:"false"`
}

// Level is one of a track's.
type Level struct {
	At int32   `json:"at_ms"`
	Is float64 `json:"is"`
}

// MadeLeg is what a meter reads between a motor's made leg and the line that its capacitors do not hang on.
type MadeLeg struct {
	Part  string  `json:"part"`
	Name  string  `json:"name"`
	Volts float64 `json:"volts"`
}

// Said is what happened at a moment, in words.
type Said struct {
	At   int32  `json:"at_ms"`
	Says string `json:"says" told:"figures"`
}

// Played is a circuit after what was done to it: how it stands now, how it came to that, and what can be done next.
// Due is when something moves by itself next, nil for nothing.
type Played struct {
	Now    int32       `json:"now_ms"`
	Due    *int32      `json:"due_ms"`
	Supply bool        `json:"supply"`
	Hands  []Hand      `json:"hands" nullable:"false"`
	Tracks []Track     `json:"tracks" nullable:"false"`
	Log    []Said      `json:"log" nullable:"false"`
	Broken []Violation `json:"broken" nullable:"false"`
	// Made are the volts of made legs, as the model says: on its way up from those standing to those at which its start
	// part is to leave.
	Made []MadeLeg `json:"made" nullable:"false"`

	Closed, In, Live map[string]bool `json:"-"` // as a drawing wants them: contacts by either end, parts, terminals
}

// Fault is a single thing that can be broken, by its name and in words.
type Fault struct {
	Name string `json:"name"`
	Says string `json:"says" told:"figures"`
}

// Faults are those of a circuit.
func Faults(c *circuit.Circuit) (list []Fault) {
	for _, f := range faults(c) {
		p := plan{c: c}
		list = append(list, Fault{f.name(), p.words(f)})
	}
	return list
}

// name is that of a fault.
func (f fault) name() string { return fmt.Sprintf("%d-%d", f.kind, f.of) }

// player is a circuit while it is played.
type player struct {
	*plan
	s     *state
	now   int32
	out   Played
	found *found
	log   []string // words of the trace
}

// Play does things to a circuit one after the other, with something broken by its name or nothing, and lets time pass
// up to a moment. Actions are in the order of their times; one that cannot be done is an error.
func Play(c *circuit.Circuit, broken string, actions []Action, now int32) (Played, error) {
	f := fault{}
	if broken != "" {
		i := slices.IndexFunc(faults(c), func(f fault) bool { return f.name() == broken })
		if i < 0 {
			return Played{}, fmt.Errorf("nothing of the circuit breaks as %q", broken)
		}
		f = faults(c)[i]
	}
	p := newPlan(c, f, true)
	own := &player{plan: p, s: p.first(), found: &found{p: p, seen: map[string]bool{}}}
	own.out = Played{Hands: []Hand{}, Tracks: []Track{}, Log: []Said{}}
	own.tracks()
	x := own.rest("the supply comes on")
	for _, a := range actions {
		if a.At < own.now {
			return Played{}, fmt.Errorf("what is done at %d ms is told after %d ms", a.At, own.now)
		}
		own.until(a.At, x)
		e, err := p.event(a)
		if err != nil {
			return Played{}, err
		}
		var words []string
		own.s, words = p.happen(own.s, e)
		x = own.rest(words...)
	}
	x = own.until(max(now, own.now), x)
	own.finish(x)
	return own.out, nil
}

// event is an action by the places of things in the plan.
func (p *plan) event(a Action) (event, error) {
	part, known := p.index[a.Part]
	switch a.Do {
	case Lose:
		return event{kind: lose}, nil
	case Back:
		return event{kind: back}, nil
	case Trip, Reset:
		if known && p.c.Parts[part].Kind == circuit.Overload {
			return event{kind: map[string]kind{Trip: trip, Reset: reset}[a.Do], of: part}, nil
		}
		return event{}, fmt.Errorf("%q is no overload", a.Part)
	}
	i := slices.IndexFunc(p.hand, func(h hand) bool { return known && h.part == part })
	if i < 0 || int(a.To) > p.hand[i].positions {
		return event{}, fmt.Errorf("no hand moves %q to %d", a.Part, a.To)
	}
	return event{kind: move, of: i, to: a.To}, nil
}

// until lets time pass up to a moment, with all that it brings about on the way.
func (p *player) until(at int32, x *looked) *looked {
	for {
		ms, any := p.due(p.s)
		if !any || p.now+ms > at {
			break
		}
		p.now += ms
		p.s = p.s.clone()
		x = p.rest(p.pass(p.s)...)
	}
	for _, list := range [][]int32{p.s.left, p.s.rises} {
		for i, ms := range list {
			if ms >= 0 {
				list[i] = ms - (at - p.now)
			}
		}
	}
	p.now = at
	return x
}

// rest lets the circuit settle after something happened, holds it to the rules and notes how it stands.
func (p *player) rest(words ...string) *looked {
	p.tell(words)
	trace := func() []string { return slices.Clone(p.log) }
	x, moved, restless := p.settle(p.s, func(x *looked, _ []string) { p.passing(p.found, p.s, x, trace) })
	p.tell(moved)
	if restless {
		p.found.say("wire.chatters", nil, trace, "Its relays find no rest: each one’s move brings on the next.")
	}
	p.judge(p.found, p.s, x, trace)
	p.remember(p.s, x)
	p.note()
	return x
}

func (p *player) tell(words []string) {
	for _, w := range words {
		p.out.Log = append(p.out.Log, Said{p.now, w})
		p.log = append(p.log, w)
	}
}

// tracks begins those of a circuit: what hands move, then coils, motors and drives.
func (p *player) tracks() {
	add := func(part int, ramps bool) {
		own := &p.c.Parts[part]
		p.out.Tracks = append(p.out.Tracks, Track{Part: own.ID, Name: own.Name, Ramps: ramps, Levels: []Level{{}}})
	}
	for _, h := range p.hand {
		add(h.part, false)
	}
	for _, c := range p.coils {
		add(c.part, false)
	}
	for _, m := range p.motors {
		add(m.part, true)
	}
	for _, d := range p.drives {
		add(d.part, false)
	}
}

// note adds to each track how it stands now.
func (p *player) note() {
	at := 0
	level := func(is float64) {
		t := &p.out.Tracks[at]
		at++
		last := &t.Levels[len(t.Levels)-1]
		if t.Ramps && p.now > last.At || is != last.Is {
			t.Levels = append(t.Levels, Level{p.now, is})
		}
	}
	for i := range p.hand {
		level(min(float64(p.s.hands[i]), 1))
	}
	for i := range p.coils {
		level(map[bool]float64{true: 1}[p.s.in[i]])
	}
	for i := range p.motors {
		level(p.speed(i))
	}
	for i := range p.drives {
		level(map[bool]float64{true: 1}[p.s.drives[i] != still])
	}
}

// speed is how far a motor has come up, from 0 to 1.
func (p *player) speed(i int) float64 {
	switch p.s.turns[i] {
	case upToSpeed:
		return 1
	case rising:
		if all := float64(p.ms[p.motors[i].part]); all > 0 && p.s.rises[i] >= 0 {
			return 1 - float64(p.s.rises[i])/all
		}
	}
	return 0
}

// madeVolts are those at a motor's made leg as it turns now.
func (p *player) madeVolts(i int, x *looked) float64 {
	v, m := p.c.Parts[p.motors[i].part].MadeVolts, &p.motors[i]
	switch starting := slices.ContainsFunc(p.caps, func(c cap) bool { return c.across(x, m.lines) }); {
	case !x.motors[i]:
		return 0
	case p.s.turns[i] == upToSpeed && !starting:
		return v.Running
	default:
		return v.Standing + (v.CutOut-v.Standing)*p.speed(i)
	}
}

// finish tells how the circuit stands, and what can be done.
func (p *player) finish(x *looked) {
	p.note()
	p.out.Now, p.out.Supply = p.now, p.s.supply
	if ms, any := p.due(p.s); any {
		p.out.Due = new(p.now + ms)
	}
	for i, h := range p.hand {
		own := &p.c.Parts[h.part]
		p.out.Hands = append(p.out.Hands, Hand{
			own.ID, own.Name, own.Kind, own.Kind == circuit.PushButton, h.positions, int(p.s.hands[i]),
			next(own, int(p.s.hands[i])),
		})
	}
	for i := range p.c.Parts {
		if own := &p.c.Parts[i]; own.Kind == circuit.Overload {
			at := 0
			if p.s.tripped[i] {
				at = 1
			}
			p.out.Hands = append(p.out.Hands, Hand{own.ID, own.Name, own.Kind, false, 1, at, next(own, at)})
		}
	}
	p.out.Made = []MadeLeg{}
	for i, m := range p.motors {
		if own := &p.c.Parts[m.part]; own.MadeVolts != nil {
			p.out.Made = append(p.out.Made, MadeLeg{own.ID, own.Name, math.Round(p.madeVolts(i, x))})
		}
	}
	p.out.Broken = append([]Violation{}, p.found.list...)
	p.out.Closed, p.out.In, p.out.Live = map[string]bool{}, map[string]bool{}, map[string]bool{}
	at := 0
	for i := range p.c.Parts {
		own := &p.c.Parts[i]
		for _, c := range own.Contacts() {
			if p.closed(&p.contacts[at], p.s) {
				p.out.Closed[own.ID+":"+c.From], p.out.Closed[own.ID+":"+c.To] = true, true
			}
			at++
		}
	}
	for end, node := range p.at {
		p.out.Live[end] = x.at(node)&x.live&^(1<<earth|1<<neutral) != 0
	}
	for i, c := range p.coils {
		p.out.In[p.c.Parts[c.part].ID] = p.in(p.s, i)
	}
	for i, m := range p.motors {
		p.out.In[p.c.Parts[m.part].ID] = p.s.turns[i] != standing
	}
	for i, d := range p.drives {
		p.out.In[p.c.Parts[d.part].ID] = p.s.drives[i] != still
	}
}
