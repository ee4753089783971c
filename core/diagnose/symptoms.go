package diagnose

import "math"

// Symptom is something that is seen, heard or smelt, and may be said.
type Symptom struct {
	ID    string                `json:"id"`
	Title string                `json:"title"`
	shows func(p *picture) bool // whether a picture has it
}

// Symptoms are those that can be said; each is there in a picture or is not.
var Symptoms = []Symptom{
	{"nothing-happens", "Nothing happens, no sound", func(p *picture) bool { return p.start == silent }},
	{"hums-does-not-start", "Hums and does not start", func(p *picture) bool { return p.start == hums }},
	{"starts-backwards", "Starts the wrong way round", func(p *picture) bool { return p.start == backwards }},
	{"starts-slowly", "Starts slowly, or only with a push", func(p *picture) bool {
		torque := math.Abs(p.locked.machines[0].torque) / p.world.rated()
		return p.start == starts && torque < 2*(p.world.breakaway+p.world.drag)
	}},
	{"labours", "Labours: slow and growling under load", func(p *picture) bool {
		return p.idle != nil && (p.loaded == nil || p.slip > 1.6*p.usual*max(p.world.share, 0.3))
	}},
	{"falls-out", "Stalls as soon as it cuts", func(p *picture) bool { return p.idle != nil && p.loaded == nil }},
	{"leg-low", "The made leg is low", func(p *picture) bool { return p.leg() < 0.93 && p.leg() > 0.6 }},
	{"leg-high", "The made leg is high", func(p *picture) bool { return p.legHigh() > 1.07 }},
	{"leg-dead", "The made leg is dead, or about half", func(p *picture) bool { return p.leg() <= 0.6 }},
	{"trips-at-start", "Trips its overload or breaker while it starts", func(p *picture) bool {
		return p.start == hums && p.drawn() > 2
	}},
	{"trips-after-a-while", "Trips after minutes or an hour", func(p *picture) bool { return p.lineAmps() > 1.15 }},
	{"hot-frame", "Its frame is hot", func(p *picture) bool { return p.heat > 1.25 }},
	{"hot-winding", "Frame hardly warm, but a winding smells or is hot", func(p *picture) bool {
		return p.hottest > 1.2 && p.heat <= 1.25
	}},
	{"growls-idle", "Growls or shakes with nothing to do", func(p *picture) bool {
		return p.idle != nil && p.apart() > 0.6
	}},
	{"lights-dim", "Lights dim long when it starts", func(p *picture) bool { return p.drop > 0.06 }},
	{"smells", "It smells of hot varnish", func(p *picture) bool { return p.hottest > 1.4 }},
	{"fuse-gone", "A fuse is gone", func(p *picture) bool {
		return p.world.dead || p.start == hums && p.drawn() > 4 || p.world.machine.open == 0
	}},
	{"coasts-short", "Runs down at once when switched off", func(p *picture) bool { return p.world.drag > 0.1 }},
	{"idler-stands", "The idler does not turn", func(p *picture) bool { return p.world.standing }},
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

// How people tell: what is there is said as often, and what is not there seldom, by mistake.
const (
	saidIfThere = 0.65
	saidIfNot   = 0.03
)

// told is how likely it is that just these symptoms are said of a picture. One that is not said counts less against:
// nobody looks for everything.
func told(said map[string]bool, p *picture) float64 {
	like := 1.0
	for i := range Symptoms {
		s := &Symptoms[i]
		there := s.shows(p)
		switch {
		case said[s.ID] && there:
			like *= saidIfThere
		case said[s.ID]:
			like *= saidIfNot
		case there:
			like *= 1 - saidIfThere
		default:
			like *= 1 - saidIfNot
		}
	}
	return like
}
