package diagnose

import "math"

// Symptom is something that is seen, heard or smelt, and may be said; When is when it is.
type Symptom struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	When  string `json:"when"`
	idler bool   // there is none without an idler
	shows func(p *picture) bool
}

// When something is seen.
const (
	atStart = "As it starts"
	atWork  = "As it runs"
	atRest  = "Switched off, or after"
)

// Symptoms are those that can be said; each is there in a picture or is not.
var Symptoms = []Symptom{
	{
		"nothing-happens",
		"Nothing happens, no sound",
		atStart,
		false,
		func(p *picture) bool { return p.start == silent },
	},
	{
		"hums-does-not-start",
		"Hums and does not start",
		atStart,
		false,
		func(p *picture) bool { return p.start == hums },
	},
	{"starts-backwards", "Starts the wrong way round", atStart, false, func(p *picture) bool {
		return p.start == backwards
	}},
	{"starts-slowly", "Starts slowly, or only with a push", atStart, false, func(p *picture) bool {
		torque := math.Abs(p.locked.machines[0].torque) / p.world.rated()
		return p.start == starts && torque < 2*(p.world.breakaway+p.world.drag)
	}},
	{"trips-at-start", "Trips its overload or breaker while it starts", atStart, false, func(p *picture) bool {
		return p.start == hums && p.drawn() > 2
	}},
	{"start-part-chatters", "The start box chatters: in, out, in", atStart, false, (*picture).chatters},
	{"contactor-chatters", "The contactor chatters or drops out", atStart, false, (*picture).contactorFalls},
	{"lights-dim", "Lights dim long", atStart, false, func(p *picture) bool { return p.drop > 0.06 }},
	{"idler-stands", "The idler does not turn", atStart, true, func(p *picture) bool { return p.world.standing }},
	{"idler-hums", "The idler hums and does not come up", atStart, true, func(p *picture) bool {
		return p.world.standing && !p.world.away
	}},
	{"labours", "Labours: slow and growling under load", atWork, false, func(p *picture) bool {
		return p.idle != nil && (p.loaded == nil || p.slip > 1.6*p.usual*max(p.world.share, 0.3))
	}},
	{"falls-out", "Stalls as soon as it cuts", atWork, false, func(p *picture) bool {
		return p.idle != nil && p.loaded == nil
	}},
	{"growls-idle", "Growls or shakes with nothing to do", atWork, false, func(p *picture) bool {
		return p.idle != nil && p.apart() > 0.6
	}},
	{"sways", "Its hum and amps swell and fade slowly under load", atWork, false, func(p *picture) bool {
		return p.world.broken && p.loaded != nil
	}},
	{"leg-low", "The made leg is low", atWork, false, func(p *picture) bool { return p.leg() < 0.93 && p.leg() > 0.6 }},
	{"leg-high", "The made leg is high", atWork, false, func(p *picture) bool { return p.legHigh() > 1.07 }},
	{"leg-dead", "The made leg is dead, or about half", atWork, false, func(p *picture) bool { return p.leg() <= 0.6 }},
	{"start-part-comes-back", "The start box comes back in", atWork, false, (*picture).comesBack},
	{"trips-after-a-while", "Trips after minutes or an hour", atWork, false, func(p *picture) bool {
		return p.lineAmps() > p.world.trips
	}},
	{"hot-frame", "Its frame is hot", atWork, false, func(p *picture) bool { return p.heat > 1.25 }},
	{"hot-winding", "Frame hardly warm, but a winding smells or is hot", atWork, false, func(p *picture) bool {
		return p.hottest > 1.2 && p.heat <= 1.25
	}},
	{"smells", "It smells of hot varnish", atWork, false, func(p *picture) bool { return p.hottest > 1.4 }},
	{"lug-hot", "A lug, a contact or a plug is hot or brown", atWork, false, func(p *picture) bool {
		return p.lugWatts() > 15
	}},
	{"earth-trips", "A residual-current device trips, or its frame tingles", atWork, false, func(p *picture) bool {
		return p.world.leaks && !p.world.dead
	}},
	{"fuse-first", "A fuse is gone: the first line's", atRest, false, func(p *picture) bool { return p.fuse(0) }},
	{"fuse-second", "A fuse is gone: the second line's", atRest, false, func(p *picture) bool { return p.fuse(1) }},
	{"fuse-made", "A fuse is gone: the made leg's", atRest, false, func(p *picture) bool { return p.fuse(2) }},
	{"does-not-stop", "It runs on, or hums, when switched off", atRest, false, func(p *picture) bool {
		return p.world.welded && !p.world.dead
	}},
	{"coasts-short", "Runs down at once when switched off", atRest, false, func(p *picture) bool {
		return p.world.drag > 0.1
	}},
	{"volts-unplugged", "Its plug or leads show volts, or bite, when unplugged", atRest, false, func(p *picture) bool {
		return p.world.bare || p.excites
	}},
}

// Sayable are those of a case: what is said of an idler only where there is one.
func (c *Case) Sayable() (list []Symptom) {
	for _, s := range Symptoms {
		if !s.idler || c.Idler != nil {
			list = append(list, s)
		}
	}
	return list
}

// blows is from how many times of plate amps on a fuse goes where a machine hums and stands.
const blows = 4

// fuse says whether the fuse of a line is gone, 2 for the made leg's: the line is open, or it is the one that carries
// most of what a stalled machine draws.
func (p *picture) fuse(line int) bool {
	w := p.world
	if w.dead {
		return line == 0 && !w.second || line == 1 && w.second
	}
	if w.machine.open >= 0 {
		return line == w.machine.open
	}
	l := p.locked.machines[0].lines
	return p.start == hums && p.drawn() > blows && l[line] == highest(l)
}

// lugWatts is the heat of its worst joint as it runs, or hums.
func (p *picture) lugWatts() (watts float64) {
	s := p.steady()
	if s == nil {
		s = &p.locked
	}
	if len(s.machines) == 0 {
		return 0
	}
	for i, amps := range s.machines[0].lines {
		watts = max(watts, amps*amps*p.world.machine.lug[i])
	}
	return watts
}

// steady is the state that a machine runs in, loaded or else idle; nil for neither.
func (p *picture) steady() *state {
	if p.loaded != nil {
		return p.loaded
	}
	return p.idle
}

// leg is the lower of the made leg's volts over the supply's, running or else standing.
func (p *picture) leg() float64 {
	s := p.steady()
	if s == nil {
		s = &p.locked
	}
	return min(s.bc, s.ca) / p.world.volts
}

// legHigh is the higher of them with nothing to do.
func (p *picture) legHigh() float64 {
	if p.idle == nil {
		return 0
	}
	return max(p.idle.bc, p.idle.ca) / p.world.volts
}

// drawn is the highest line at standstill in times of plate.
func (p *picture) drawn() float64 { return highest(p.locked.machines[0].lines) / p.world.amps }

// lineAmps is the highest line running, in times of plate.
func (p *picture) lineAmps() float64 {
	s := p.steady()
	if s == nil {
		return 0
	}
	return highest(s.machines[0].lines) / p.world.amps
}

// apart is how far the line amps with nothing to do are from one another, over their mean.
func (p *picture) apart() float64 {
	l := p.idle.machines[0].lines
	mean := (l[0] + l[1] + l[2]) / 3
	return (highest(l) - min(l[0], l[1], l[2])) / max(mean, 1e-9)
}

func highest(l [3]float64) float64 { return max(l[0], l[1], l[2]) }

// teller is how somebody tells: how often what is there is said, and what is not there, by mistake.
type teller struct{ there, not float64 }

// tellers are one who goes through all that may be said, and one who says what is worst and nothing else: nobody asks
// them which they are.
var tellers = []teller{{0.65, 0.03}, {0.2, 0.01}}

// usually is how much seldomer something is said that a sound machine shows too: nobody complains of what was always
// so.
const usually = 0.3

// told is how likely it is that just these symptoms are said of a picture, where a sound machine's is so.
func told(said map[string]bool, p, sound *picture) (like float64) {
	each := make([]float64, len(tellers))
	for k := range each {
		each[k] = 1 / float64(len(tellers))
	}
	for i := range Symptoms {
		s := &Symptoms[i]
		there, usual := s.shows(p), s.shows(sound)
		for k, t := range tellers {
			often := t.not
			switch {
			case there && usual:
				often = usually * t.there
			case there:
				often = t.there
			}
			if !said[s.ID] {
				often = 1 - often
			}
			each[k] *= often
		}
	}
	for _, l := range each {
		like += l
	}
	return like
}
