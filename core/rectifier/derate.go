package rectifier

import (
	"math"

	"brackmoor/core/rule"
)

// Limits of a front end on one phase, by what it sees on three at its rating.
const (
	DiodeAmps        = "diode rms amps"
	DiodeAverageAmps = "diode average amps"
	CapacitorAmps    = "capacitor ripple amps"
	RippleVolts      = "bus ripple volts"
	InputAmps        = "input amps"
)

// Left is how much of a three-phase front end's rating is left on one phase until one
// figure is what it is on three phases at the rating. Rated is that figure; of ripple,
// which heats nothing by itself, it is the share of the bus that is borne if that is more.
type Left struct {
	Limit string  `json:"limit"`
	Rated float64 `json:"rated"`
	Share float64 `json:"share"` // 0 to 1, 0 where the least looked at is too much already
	// AtRating is the figure on one phase at the full rating, nil where the bus collapses.
	AtRating *float64 `json:"at_rating"`
}

// SinglePhase is a three-phase front end fed from one phase. What its diodes and conductors
// bear is Share; they are the same whatever its bus. Ripple and the amps of its capacitors
// go with a capacitance that few makers print, and stand in Limits beside it.
type SinglePhase struct {
	Limits  []Left  `json:"limits" nullable:"false"`
	Share   float64 `json:"share"` // the least by amps of diodes and line
	By      string  `json:"by"`
	Three   Result  `json:"three_phases"`
	Carried float64 `json:"carried_share"` // the largest share looked at that the bus carries
}

type figure struct {
	limit string
	amps  bool // of diodes and line
	of    func(Result) float64
}

var figures = []figure{
	{DiodeAmps, true, func(r Result) float64 { return r.DiodeRMSAmps }},
	{DiodeAverageAmps, true, func(r Result) float64 { return r.DiodeAverageAmps }},
	{InputAmps, true, func(r Result) float64 { return r.InputRMSAmps }},
	{CapacitorAmps, false, func(r Result) float64 { return r.CapacitorRMSAmps }},
	{RippleVolts, false, func(r Result) float64 { return r.RipplePPVolts }},
}

// BorneRipple is the ripple, peak to peak over the mean of the bus, that is borne.
var BorneRipple = rule.Limit("drive.bus-ripple", "borne_ripple_percent") / 100

// lookedAt are the shares of the rating that are solved on one phase; between them the
// figures run nearly straight. By amps no front end has been seen to keep less than the
// share at ampsFrom: those below are looked at only where that one is too much already.
var lookedAt = []float64{0.08, 0.16, 0.24, 0.34, 0.46, 0.52, 0.6, 0.78, 1}

const ampsFrom = 3

// Derate compares a front end built for three phases, loaded with its rating on them as its
// maker sells it, without a line reactor, with the same on one phase behind its reactor. The
// case's own phases do not count.
func Derate(c Case) (SinglePhase, error) { return derate(c, false) }

// DerateByAmps is Derate by the amps of diodes and line alone, which takes a third of the
// time.
func DerateByAmps(c Case) (SinglePhase, error) { return derate(c, true) }

func derate(c Case, amps bool) (SinglePhase, error) {
	c.Bridge.Phases, c.Bridge.Topology, c.Series = 3, Bridge, false
	maker := c
	maker.Bridge.LineReactorOhm = 0
	three, err := Solve(maker)
	if err != nil {
		return SinglePhase{}, err
	}
	c.Bridge.Phases = 1
	at := remembered(c)
	out := SinglePhase{Share: math.Inf(1), Three: three}
	for _, f := range figures {
		if amps && !f.amps {
			continue
		}
		l := Left{Limit: f.limit, Rated: f.of(three)}
		if f.limit == RippleVolts {
			l.Rated = math.Max(l.Rated, BorneRipple*three.BusMeanVolts)
		}
		from := 0
		if f.amps {
			from = ampsFrom
		}
		l.Share = f.left(l.Rated, from, at)
		if f.amps && l.Share < out.Share {
			out.Share, out.By = l.Share, l.Limit
		}
		if !amps {
			if full := at(len(lookedAt) - 1); full != nil {
				l.AtRating = new(f.of(*full))
			}
		}
		out.Limits = append(out.Limits, l)
	}
	for i, share := range lookedAt {
		if !amps && at(i) != nil {
			out.Carried = share
		}
	}
	return out, c.Stop.Err()
}

// left is the share of the rating at which a figure is what it may be, looking upwards from
// one of those looked at, or from the first where that is past it already; the last that
// the bus carries where none is.
func (f figure) left(rated float64, from int, at func(int) *Result) float64 {
	for i := from; i < len(lookedAt); i++ {
		r := at(i)
		if r != nil && f.of(*r) <= rated {
			continue
		}
		if i == from && from > 0 {
			return f.left(rated, 0, at)
		}
		if r == nil || i == 0 {
			return before(i)
		}
		last, now := f.of(*at(i - 1)), f.of(*r)
		return lookedAt[i-1] + (lookedAt[i]-lookedAt[i-1])*(rated-last)/(now-last)
	}
	return 1
}

// before is the share looked at before one of them, 0 before the first.
func before(i int) float64 {
	if i == 0 {
		return 0
	}
	return lookedAt[i-1]
}

// remembered solves the shares of a case's load, each once, nil where its bus does not carry
// it.
func remembered(c Case) func(i int) *Result {
	rating, seen := c.LoadWatts, map[int]*Result{}
	return func(i int) *Result {
		if r, ok := seen[i]; ok {
			return r
		}
		c.LoadWatts = lookedAt[i] * rating
		seen[i] = nil
		if r, err := Solve(c); err == nil {
			seen[i] = &r
		}
		return seen[i]
	}
}
