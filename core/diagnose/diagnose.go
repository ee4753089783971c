// Package diagnose finds what is wrong with a machine from what is seen, heard and read: every cause that is known is
// done to the model of the machine and its circuit, winding by winding, what it would show is solved, and each is
// weighed by how well that agrees (Bayes' rule; Jaynes, Probability Theory, 4). The next look is the one that parts
// the causes best for its effort, dead before live (expected entropy).
package diagnose

import (
	"cmp"
	"fmt"
	"math"
	"runtime"
	"slices"
	"sync"

	"brackmoor/core/machine"
	"brackmoor/core/network"
	"brackmoor/core/rule"
)

// Case is a machine on its way as it is meant, and what is seen of it.
type Case struct {
	Supply network.Supply
	Motor  network.Motor // by its plate
	Watts  float64       // of the plate: output, line amps and speed
	Amps   float64
	RPM    float64
	// Breakaway is what its load takes to turn, as a share of rated torque.
	Breakaway float64
	// Run and Start are the capacitors on the motor in microfarads, on the pair On, ac or bc; with an idler AC and BC
	// are those of the converter, and there is none on the motor.
	Run, Start float64
	On         string
	Idler      *network.Motor
	AC, BC     float64

	Symptoms []string
	Readings []Reading
	Looked   []Looked
	// Before says that nobody knows whether it was read before it went wrong: it was sound then.
	Before bool
}

// Reading is what was read in a state: off, standing, idle or running; standing is switched on and not turning. Share
// is of plate output, nil where it is not known. Volts and ohms are by the pair, amps by the line.
type Reading struct {
	State   string
	Share   *float64
	Volts   map[string]float64
	Ohms    map[string]float64
	Machine map[string]float64
	Idler   map[string]float64
	Supply  *float64
}

// Looked is a look that was taken and what it found, of its own list.
type Looked struct {
	Look  string `json:"look"`
	Found string `json:"found" told:"figures"`
}

// Cause is one with its probability among all that are known.
type Cause struct {
	ID          string  `json:"cause"`
	Probability float64 `json:"probability"`
	Says        string  `json:"says" told:"figures"`
	Cure        string  `json:"cure" told:"figures"`
	// Fits and Against are what is said that it would show, and what is said that it would not.
	Fits    []string `json:"fits" nullable:"false" told:"figures"`
	Against []string `json:"against" nullable:"false" told:"figures"`
}

// Next is the look to take next, and the two causes that it parts best.
type Next struct {
	Look  string    `json:"look"`
	Live  bool      `json:"live"`
	Says  string    `json:"says" told:"figures"`
	Parts [2]string `json:"parts" nullable:"false"`
	Found []Found   `json:"found" nullable:"false"`
}

// Answer is the causes, the likeliest first, and the next look; nil where none would tell more.
type Answer struct {
	Causes []Cause `json:"causes" nullable:"false"`
	Next   *Next   `json:"next"`
}

// Of takes what a case needs of a machine as it was studied: its circuit, its plate, and what its load takes to turn.
func (c *Case) Of(m *machine.Machine) {
	c.Motor, c.Watts, c.Amps, c.RPM = m.NetworkMotor("machine"), m.Watts(), m.Plate.Amps.Value, m.RatedRPM()
	curve := m.LoadCurve(m.Share())
	c.Breakaway = max(curve.BreakawayNm/m.Fit.RatedNm, leastBreakaway)
}

// leastBreakaway is what any shaft takes to turn, as a share of rated torque.
const leastBreakaway = 0.05

// Check says which symptoms and looks are not known.
func (c *Case) Check() (problems rule.Problems) {
	for i, id := range c.Symptoms {
		if !slices.ContainsFunc(Symptoms, func(s Symptom) bool { return s.ID == id }) {
			problems.Say(fmt.Sprintf("symptoms[%d]", i), "there is no symptom %q", id)
		}
	}
	for i, l := range c.Looked {
		look := lookOf(l.Look)
		switch {
		case look == nil:
			problems.Say(fmt.Sprintf("looked[%d].look", i), "there is no look %q", l.Look)
		case !slices.ContainsFunc(look.Found, func(f Found) bool { return f.ID == l.Found }):
			problems.Say(fmt.Sprintf("looked[%d].found", i), "%s does not find %q", l.Look, l.Found)
		}
	}
	return problems
}

// Causes are those that are known, with their cures, before anything is seen.
func Causes() (list []Cause) {
	for _, c := range causes {
		list = append(list, Cause{ID: c.ID, Says: c.says, Cure: c.cure, Fits: []string{}, Against: []string{}})
	}
	return list
}

// shares are the loads that are thought of where nobody says what is done, as shares of plate output.
var shares = []float64{0.35, 0.8}

// world is a case with nothing wrong, at a load.
func (c *Case) world() *world {
	m := machineOf(&c.Motor)
	w := &world{
		rig: rig{
			volts: c.Supply.Volts, hertz: c.Supply.Hertz,
			ohms: complex(max(c.Supply.ResistanceOhm, 1e-3), c.Supply.ReactanceOhm), ac: c.AC, bc: c.BC,
			machines: []*turning{m},
		},
		machine: m, run: c.Run, start: c.Start, on: c.On, share: shares[0], breakaway: c.Breakaway, watts: c.Watts,
		amps: c.Amps, rpm: c.RPM, cooling: 1, trips: tripsAt,
	}
	if c.Idler != nil {
		w.idler = machineOf(c.Idler)
		w.machines = append(w.machines, w.idler)
		w.run, w.start = 0, 0
	}
	w.sound()
	return w
}

func machineOf(m *network.Motor) *turning {
	return &turning{
		circuit: m.Circuit, poles: m.Poles, hertz: m.RatedHertz, friction: m.FrictionWatts,
		delta: m.Connection == network.Delta, open: -1,
	}
}

// shown is a cause with what it shows at each load that is thought of.
type shown struct {
	*cause
	pictures []picture
	weight   []float64 // of each, by what is seen: its logarithm, and once all are weighed a share of the likeliest
	chance   float64
}

// Diagnose weighs the causes by what is seen, and names the next look.
func Diagnose(c *Case) Answer { return c.answer(c.shown()) }

// answer weighs causes whose pictures are solved.
func (c *Case) answer(list []shown) Answer {
	c.weigh(list)
	a := Answer{Causes: []Cause{}}
	for _, s := range list {
		fits, against := s.why(c.Symptoms)
		a.Causes = append(a.Causes, Cause{s.ID, s.chance, s.says, s.cure, fits, against})
	}
	slices.SortStableFunc(a.Causes, func(x, y Cause) int { return cmp.Compare(y.Probability, x.Probability) })
	a.Next = c.next(list)
	return a
}

// shown solves what every cause that this way can have shows, at each load that is thought of.
func (c *Case) shown() (list []shown) {
	base := c.world()
	for i := range causes {
		if w := base.copy(); causes[i].alter(w) {
			list = append(list, shown{cause: &causes[i]})
		}
	}
	loads := shares
	if at := c.known(); at != nil {
		loads = []float64{*at}
	}
	var all sync.WaitGroup
	turns := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i := range list {
		s := &list[i]
		all.Go(func() {
			turns <- struct{}{}
			defer func() { <-turns }()
			for _, share := range loads {
				w := base.copy()
				w.share = share
				s.alter(w)
				s.pictures = append(s.pictures, w.show())
			}
		})
	}
	all.Wait()
	return list
}

// weigh weighs causes by all that is seen.
func (c *Case) weigh(list []shown) {
	said := map[string]bool{}
	for _, id := range c.Symptoms {
		said[id] = true
	}
	most, sum := math.Inf(-1), 0.0
	for i := range list {
		list[i].likely(c, said, list[0].pictures) // the first of all causes is that nothing is wrong
		most = max(most, slices.Max(list[i].weight))
	}
	for i := range list {
		s := &list[i]
		s.chance = 0
		for k := range s.weight { // by the likeliest of all, so that none is too small to count
			s.weight[k] = math.Exp(s.weight[k] - most)
			s.chance += s.weight[k] / float64(len(s.weight))
		}
		sum += s.chance
	}
	for i := range list {
		list[i].chance /= sum
	}
}

// likely is how likely all that is seen is with a cause, at each of its loads; sound is what is seen with none.
func (s *shown) likely(c *Case, said map[string]bool, sound []picture) {
	s.weight = nil
	for k := range s.pictures {
		p := &s.pictures[k]
		like := math.Log(s.often)
		if len(said) > 0 {
			like += math.Log(told(said, p, &sound[k]))
		}
		like += math.Log(c.agrees(p, &sound[k]))
		for _, l := range c.Looked {
			if own := lookOf(l.Look); own != nil {
				finds, _ := own.finds(l.Found, p)
				like += math.Log(finds)
			}
		}
		s.weight = append(s.weight, like)
	}
}

// agrees is how likely all that was read is of a picture, or, read before it went wrong, of a sound one.
func (c *Case) agrees(p, sound *picture) float64 {
	now, before := 1.0, 1.0
	for i := range c.Readings {
		now *= c.Readings[i].agrees(p)
		before *= c.Readings[i].agrees(sound)
	}
	if c.Before {
		return (now + before) / 2
	}
	return now
}

// why is what is said that a cause shows at its likeliest load, and what is said that it does not, by their titles.
func (s *shown) why(said []string) (fits, against []string) {
	fits, against = []string{}, []string{}
	best := 0
	for k := range s.weight {
		if s.weight[k] > s.weight[best] {
			best = k
		}
	}
	for i := range Symptoms {
		x := &Symptoms[i]
		switch {
		case !slices.Contains(said, x.ID):
		case x.shows(&s.pictures[best]):
			fits = append(fits, x.Title)
		default:
			against = append(against, x.Title)
		}
	}
	return fits, against
}

// known is the load that was said with a reading, nil for none.
func (c *Case) known() *float64 {
	for i := range c.Readings {
		if r := &c.Readings[i]; r.State == Running && r.Share != nil {
			return r.Share
		}
	}
	return nil
}

// lookOf finds a look, nil for none.
func lookOf(id string) *Look {
	for i := range Looks {
		if Looks[i].ID == id {
			return &Looks[i]
		}
	}
	return nil
}

// Enough is from which probability on nothing more is looked at.
const Enough = 0.95

// worth is the least that a look must tell, in bits.
const worth = 0.02

// next is the look that parts the causes best for its effort; a live one only where it tells twice as much as any
// that is dead.
func (c *Case) next(list []shown) *Next {
	for _, s := range list {
		if s.chance >= Enough {
			return nil
		}
	}
	var dead, live *Look
	var deadScore, liveScore, liveGain float64
	gains := map[string]float64{}
	for i := range Looks {
		l := &Looks[i]
		if slices.ContainsFunc(c.Looked, func(x Looked) bool { return x.Look == l.ID }) {
			continue
		}
		gain, ok := l.gain(list)
		if !ok || gain < worth {
			continue
		}
		gains[l.ID] = gain
		score := gain / (3 + l.cost)
		if l.Live && score > liveScore {
			live, liveScore, liveGain = l, score, gain
		}
	}
	const half = 0.5
	for i := range Looks {
		l := &Looks[i]
		gain, ok := gains[l.ID]
		if !ok || l.Live || gain < half*liveGain {
			continue
		}
		if score := gain / (3 + l.cost); score > deadScore {
			dead, deadScore = l, score
		}
	}
	best := dead
	if best == nil {
		best = live
	}
	if best == nil {
		return nil
	}
	return &Next{Look: best.ID, Live: best.Live, Says: best.Says, Parts: best.parts(list), Found: best.Found}
}

// outcomes are how likely each finding of a look is under each cause; ok is false where the look is not to be had.
func (l *Look) outcomes(list []shown) (like [][]float64, ok bool) {
	for i := range list {
		s := &list[i]
		row := make([]float64, len(l.Found))
		sum := 0.0
		for k := range s.pictures {
			sum += s.weight[k]
		}
		for k := range s.pictures {
			share := 1 / float64(len(s.pictures))
			if sum > 0 {
				share = s.weight[k] / sum
			}
			for f := range l.Found {
				finds, can := l.finds(l.Found[f].ID, &s.pictures[k])
				ok = ok || can
				row[f] += share * finds
			}
		}
		like = append(like, row)
	}
	return like, ok
}

// gain is how many bits a look is expected to tell.
func (l *Look) gain(list []shown) (bits float64, ok bool) {
	like, ok := l.outcomes(list)
	if !ok {
		return 0, false
	}
	for f := range l.Found {
		all := 0.0
		for i := range list {
			all += list[i].chance * like[i][f]
		}
		for i := range list {
			if p := list[i].chance * like[i][f]; p > 0 && all > 0 {
				bits += p * math.Log2(like[i][f]/all)
			}
		}
	}
	return bits, true
}

// parts are the two likely causes that a look tells apart best.
func (l *Look) parts(list []shown) (pair [2]string) {
	like, _ := l.outcomes(list)
	best := -1.0
	for i := range list {
		for k := i + 1; k < len(list); k++ {
			apart := 0.0
			for f := range l.Found {
				apart += math.Abs(like[i][f]-like[k][f]) / 2
			}
			if weight := apart * list[i].chance * list[k].chance; weight > best {
				best = weight
				pair = [2]string{list[i].ID, list[k].ID}
				if list[k].chance > list[i].chance {
					pair[0], pair[1] = pair[1], pair[0]
				}
			}
		}
	}
	return pair
}
