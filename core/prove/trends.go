package prove

import (
	"fmt"
	"math"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// Trend is a figure of a machine over time, each as it was read with the doubt of its meter, and what has become of it.
type Trend struct {
	Title  string       `json:"title"`
	Unit   string       `json:"unit"`
	Points []TrendPoint `json:"points" nullable:"false"` // in their order, two at least
	Mark   string       `json:"mark" enum:"good,note,caution,stop"`
	Says   string       `json:"says" told:"figures"`
}

// TrendPoint is one of them: when, its value, and one standard deviation of the meter.
type TrendPoint struct {
	At    string  `json:"at"`
	Value float64 `json:"value"`
	Sigma float64 `json:"sigma"`
}

// watched are the figures that tell of wear: how one comes of a reading, the rule that speaks where it has changed, in
// percent of the first, up or down, and what that may mean.
var watched = []struct {
	title, unit string
	of          func(p *proof, r *Reading) (value, sigma float64, ok bool)
	rule        string
	down        bool
	do          string
}{
	{"%s, by its amps and volts", "µF", canOf("can-ac", "volts.ca"), "prove.can-loses", true,
		"Isolate, discharge, measure each can, and change what has lost a tenth."},
	{"%s, by its amps and volts", "µF", canOf("can-bc", "volts.bc"), "prove.can-loses", true,
		"Isolate, discharge, measure each can, and change what has lost a tenth."},
	{"Watts idle", "W", plainOf("watts", 0.02, 1), "prove.drag-grows", false,
		"Turn it by hand, dead: bearings, belt, grease; then its volts."},
	{"Runs down in", "s", plainOf("coast", 0, 0.5), "prove.runs-down-sooner", true,
		"Turn it by hand, dead: a bearing that binds, a belt too tight, a brake that drags."},
	{"Ohms of the supply, by its drop", "Ω", dropOf, "prove.drop-grows", false,
		"Isolate, prove dead, tighten and look at every lug from the panel to the machine; warm ones first."},
}

// plainOf is a figure as it is read running idle, its meter within a share and so much.
func plainOf(place string, share, least float64) func(*proof, *Reading) (float64, float64, bool) {
	return func(p *proof, r *Reading) (value, sigma float64, ok bool) {
		if r.State != p.idles() {
			return 0, 0, false
		}
		value, ok = r.figure(place)
		return value, math.Max(share*value, least), ok && value > 0
	}
}

// idles is the state in which drag shows: of the idler alone, or of the machine with nothing to cut.
func (p *proof) idles() string {
	if p.c.Idler != nil {
		return Alone
	}
	return Idle
}

// canOf is a bank's microfarads by the amps through it and the volts on it.
func canOf(amps, volts string) func(*proof, *Reading) (float64, float64, bool) {
	return func(p *proof, r *Reading) (value, sigma float64, ok bool) {
		i, have := r.figure(amps)
		v, on := r.figure(volts)
		hertz, read := r.figure("hertz")
		if !read {
			hertz = p.q.Supply.Hertz
		}
		if !have || !on || v <= 0 || i <= 0 || hertz <= 0 {
			return 0, 0, false
		}
		value = 1e6 * i / (2 * math.Pi * hertz * v)
		return value, math.Sqrt2 * r.share() * value, true
	}
}

// share is one standard deviation of a meter as a share of what it reads.
func (r *Reading) share() float64 {
	const usual = 0.01
	if r.Class == 0 {
		return usual
	}
	return r.Class / 100 / 2
}

// dropOf is the ohms of the supply by how far its volts fall from those that were read standing, the last before.
func dropOf(p *proof, r *Reading) (value, sigma float64, ok bool) {
	v, have := r.figure("volts.ab")
	amps, on := r.figure("amps.supply")
	if !have || !on || amps <= 0 || r.State != Part && r.State != Full {
		return 0, 0, false
	}
	standing := 0.0
	for i := range p.list {
		x := &p.list[i]
		if x.At > r.At {
			break
		}
		// The supply's own volts wander over a day: only those that were read with it count.
		if u, read := x.figure("volts.ab"); read && x.State == Standing && x.At[:10] == r.At[:10] {
			standing = u
		}
	}
	if standing <= v {
		return 0, 0, false
	}
	const digit = 0.1 // of the same meter twice in an hour: its last one
	return (standing - v) / amps, math.Hypot(math.Sqrt2*digit/amps, r.share()*(standing-v)/amps), true
}

// trends are the figures that were read twice at least, the last against the first, and what is said of those that have
// changed by more than the meter doubts and wear may.
func (p *proof) trends() (list []Trend, worn []rule.Verdict) {
	list = []Trend{}
	lines := p.q.Lines()
	for i, w := range watched {
		t := Trend{Title: w.title, Unit: w.unit, Points: []TrendPoint{}, Mark: "good"}
		if i < 2 {
			t.Title = fmt.Sprintf(w.title, []string{lines.To("a"), lines.To("b")}[i])
		}
		bank := -1.0
		for k := range p.list {
			r := &p.list[k]
			if r.Volts > 0 {
				continue
			}
			value, sigma, ok := w.of(p, r)
			if !ok {
				continue
			}
			if now := []float64{r.AC, r.BC, 0, 0, 0}[i]; now != bank { // other cans: it begins anew
				bank, t.Points = now, t.Points[:0]
			}
			t.Points = append(t.Points, TrendPoint{r.At, value, sigma})
		}
		if len(t.Points) < 2 {
			continue
		}
		first, last := t.Points[0], t.Points[len(t.Points)-1]
		percent := 100 * (last.Value/first.Value - 1)
		doubt := 200 * math.Hypot(last.Sigma/first.Value, last.Value*first.Sigma/(first.Value*first.Value))
		most := rule.Limit(w.rule, "most_percent")
		off := percent
		if w.down {
			off = -percent
		}
		t.Says = fmt.Sprintf("%+.0f %% since %.10s", percent, first.At)
		switch {
		case math.Abs(percent) <= doubt:
			t.Says += fmt.Sprintf(", which is within what the meter doubts (± %s %%)", quantity.Figures(doubt, 2))
		case off > most:
			t.Mark = string(rule.Get(w.rule).Severity)
			worn = append(worn, rule.Speak(w.rule, rule.Numbers{"percent": off}, w.do, "%s: %s, more than the meter "+
				"doubts.", t.Title, t.Says))
			t.Says += ", more than wear may"
		default:
			t.Says += ", more than the meter doubts, less than matters"
		}
		list = append(list, t)
	}
	return list, worn
}
