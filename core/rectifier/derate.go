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

// SinglePhase is a three-phase front end fed from one phase.
type SinglePhase struct {
	Limits  []Left  `json:"limits" nullable:"false"`
	Share   float64 `json:"share"` // the least of all
	By      string  `json:"by"`
	Three   Result  `json:"three_phases"`
	Carried float64 `json:"carried_share"` // the largest share looked at that the bus carries
}

type figure struct {
	limit string
	of    func(Result) float64
}

var figures = []figure{
	{DiodeAmps, func(r Result) float64 { return r.DiodeRMSAmps }},
	{DiodeAverageAmps, func(r Result) float64 { return r.DiodeAverageAmps }},
	{CapacitorAmps, func(r Result) float64 { return r.CapacitorRMSAmps }},
	{RippleVolts, func(r Result) float64 { return r.RipplePPVolts }},
	{InputAmps, func(r Result) float64 { return r.InputRMSAmps }},
}

// BorneRipple is the ripple, peak to peak over the mean of the bus, that is borne.
var BorneRipple = rule.Limit("drive.left-on-one-phase", "borne_ripple_percent") / 100

// lookedAt are the shares of the rating that are solved on one phase; between them the
// figures run nearly straight.
var lookedAt = []float64{0.08, 0.16, 0.24, 0.34, 0.46, 0.6, 0.78, 1}

// Derate compares a front end built for three phases, loaded with its rating on them,
// with the same on one. The case's own phases do not count.
func Derate(c Case) (SinglePhase, error) {
	c.Bridge.Phases, c.Bridge.Topology, c.Series = 3, Bridge, false
	rating := c.LoadWatts
	three, err := Solve(c)
	if err != nil {
		return SinglePhase{}, err
	}
	c.Bridge.Phases = 1
	var shares []float64
	var one []Result
	for _, share := range lookedAt {
		c.LoadWatts = share * rating
		r, err := Solve(c)
		if err != nil {
			break // the bus does not carry it, nor more
		}
		shares, one = append(shares, share), append(one, r)
	}
	out := SinglePhase{Share: math.Inf(1), Three: three}
	if len(shares) > 0 {
		out.Carried = shares[len(shares)-1]
	}
	for _, f := range figures {
		l := Left{Limit: f.limit, Rated: f.of(three), Share: out.Carried}
		if f.limit == RippleVolts {
			l.Rated = math.Max(l.Rated, BorneRipple*three.BusMeanVolts)
		}
		for i, r := range one {
			now := f.of(r)
			if shares[i] == 1 {
				l.AtRating = &now
			}
			if now <= l.Rated {
				continue
			}
			l.Share = 0
			if i > 0 { // between the last that keeps it and the first that does not
				last := f.of(one[i-1])
				l.Share = shares[i-1] + (shares[i]-shares[i-1])*(l.Rated-last)/(now-last)
			}
			if n := len(one); shares[n-1] == 1 {
				l.AtRating = new(f.of(one[n-1]))
			}
			break
		}
		if l.Share < out.Share {
			out.Share, out.By = l.Share, l.Limit
		}
		out.Limits = append(out.Limits, l)
	}
	return out, nil
}
