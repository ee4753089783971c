package winding

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/quantity"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/docs/schema"
)

// Format is the name of the open format of lead readings.
const Format = "brackmoor.leads/1"

// Readings are what is known of a motor's leads. Ohms are as the meter shows them,
// the resistance LeadOhms of its own leads included; Celsius is the winding's
// temperature, 20 where it is nil.
type Readings struct {
	Format   string            `json:"format"`
	Leads    []string          `json:"leads"`
	Marks    map[string]string `json:"marks"`
	LeadOhms float64           `json:"lead_ohms"`
	Celsius  *float64          `json:"celsius"`
	Readings []Reading         `json:"readings"`
	Polarity []Polarity        `json:"polarity"`
}

// Reading is one thing a meter said between two leads, or a lead and the frame:
// ohms, open, or megohms at a test voltage.
type Reading struct {
	Between   [2]string `json:"between"`
	Ohms      *float64  `json:"ohms"`
	Open      bool      `json:"open"`
	Megohms   *float64  `json:"megohms"`
	TestVolts float64   `json:"test_volts"`
}

// Polarity is one kick: the sign of the first deflection at the first-named sensed
// lead when the first-named driven lead is made positive; "0" when it hardly moves.
type Polarity struct {
	Driven [2]string `json:"driven" nullable:"false"`
	Sensed [2]string `json:"sensed" nullable:"false"`
	Sign   string    `json:"sign"`
}

// Ask is a polarity reading to be taken.
type Ask struct {
	Driven [2]string `json:"driven" nullable:"false"`
	Sensed [2]string `json:"sensed" nullable:"false"`
	Expect string    `json:"expect,omitempty"` // where the answer is known and only to be confirmed
}

// Ohms are winding ohms at 20 °C: of one coil, or for three leads, which do not
// tell, one figure for each of wye and delta.
type Ohms struct {
	Coil, Wye, Delta float64
}

// MarshalJSON writes a number, or both figures.
func (o Ohms) MarshalJSON() ([]byte, error) {
	if o.Delta > 0 {
		return json.Marshal(map[string]float64{"wye": o.Wye, "delta": o.Delta})
	}
	return json.Marshal(o.Coil)
}

// Finding is what readings tell. Marks are those of IEC 60034-8, NEMAMarks the T
// numbers; both hold only what is certain.
type Finding struct {
	Groups         [][]string        `json:"groups"`
	Winding        Kind              `json:"winding"`
	Next           *[2]string        `json:"next"`
	NextPolarity   *Ask              `json:"next_polarity"`
	CheckPolarity  *Ask              `json:"check_polarity,omitempty"`
	WindingOhms    *Ohms             `json:"winding_ohms"`
	UnequalPercent *float64          `json:"unequal_percent"`
	Marks          map[string]string `json:"marks"`
	NEMAMarks      map[string]string `json:"nema_marks"`
	Connectable    bool              `json:"connectable"`
	Verdicts       []rule.Verdict    `json:"verdicts"`
}

var compiled = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Leads) })

// ReadFile understands a document of lead readings, or says everything that is
// wrong with it.
func ReadFile(text []byte) (Readings, rule.Problems) {
	var r Readings
	if problems := strict.Read(text, compiled(), &r); problems != nil {
		return Readings{}, problems
	}
	_, problems := r.sort()
	return r, problems
}

// Analysis is a finding with what stands behind it.
type Analysis struct {
	Finding
	Kind    Kind
	Labels  map[string]string // T number of every lead; empty until all are certain
	CoilOhm float64           // at 20 °C, 0 when not measured
	Asked   int               // readings between leads that were used
}

// Analyse works out what readings tell. It expects readings without problems.
func Analyse(r Readings) Analysis {
	s, _ := r.sort()
	celsius := float64(ReferenceCelsius)
	if r.Celsius != nil {
		celsius = *r.Celsius
	}
	f := find(len(r.Leads), s.meter)
	a := Analysis{Kind: f.kind, Asked: len(s.meter)}
	a.Winding, a.Marks, a.NEMAMarks, a.Groups = f.kind, map[string]string{}, map[string]string{}, [][]string{}
	for _, g := range f.groups {
		var names []string
		for _, lead := range g {
			names = append(names, r.Leads[lead])
		}
		a.Groups = append(a.Groups, names)
	}
	if f.next != nil {
		a.Next = &[2]string{r.Leads[f.next[0]], r.Leads[f.next[1]]}
	}
	v := &verdicts{leads: r.Leads}
	v.joined(&f, &s)
	settled := f.next == nil && f.kind != UnknownKind
	if o, ok := f.resistances(); ok && f.kind != UnknownKind {
		unit := AtCelsius(1, celsius, ReferenceCelsius)
		a.CoilOhm = o.coil * unit
		a.WindingOhms = &Ohms{Coil: a.CoilOhm, Wye: a.CoilOhm, Delta: o.delta * unit}
		a.UnequalPercent = &o.percent
		v.unequal(o)
	}
	for lead, mark := range s.marks {
		a.mark(r.Leads[lead], mark)
	}
	if settled && f.kind == ThreeLead {
		v.say(
			"leads.wye-or-delta",
			nil,
			"Other leads or a star point seen inside settle it; so may the plate.",
			"Both are given: %s ohm a winding if wye, %s if delta.",
			quantity.Figures(a.WindingOhms.Wye, 3),
			quantity.Figures(a.WindingOhms.Delta, 3),
		)
	}
	switch {
	case settled:
		a.polarity(r, &f, &s, v)
	case len(f.against) == 0:
		a.trust(r, &s, v)
	}
	v.list = append(v.list, judgeInsulation(s.insulation, celsius)...)
	a.Verdicts = rule.Sorted(v.list)
	a.Connectable = settled && len(a.Labels) > 0 && rule.Worst(a.Verdicts) != rule.Stop
	return a
}

func (a *Analysis) mark(lead, mark string) { a.NEMAMarks[lead], a.Marks[lead] = mark, IEC(mark) }

// polarity settles the marks of all leads, or asks for the next reading.
func (a *Analysis) polarity(r Readings, f *found, s *sorted, v *verdicts) {
	t := templates[f.kind]
	all := f.possible()
	kicks := slices.DeleteFunc(slices.Clone(s.kicks), func(k kick) bool {
		_, ok := t.expected(all[0], k.driven, k.sensed)
		if !ok {
			v.say(
				"leads.polarity-pair",
				nil,
				"Drive one winding and sense another.",
				"%s and %s are not two windings that stand apart.",
				r.Leads[k.driven[0]]+"–"+r.Leads[k.driven[1]],
				r.Leads[k.sensed[0]]+"–"+r.Leads[k.sensed[1]],
			)
		}
		return !ok
	})
	name := func(q *question, expect Sign) *Ask {
		if q == nil {
			return nil
		}
		ask := &Ask{
			Driven: [2]string{r.Leads[q.driven[0]], r.Leads[q.driven[1]]},
			Sensed: [2]string{r.Leads[q.sensed[0]], r.Leads[q.sensed[1]]},
		}
		if expect != 0 {
			ask.Expect = map[Sign]string{1: "+", -1: "-"}[expect]
		}
		return ask
	}
	needed := len(all) > 1
	fits := t.sift(all, kicks)
	if len(fits) == 0 {
		v.say(
			"leads.polarity-contradicts",
			rule.Numbers{"readings": float64(len(kicks))},
			"Take them again, one after the other; watch the first movement on closing, not the one on opening.",
			"No motor gives these %d deflections together: at least one was noted wrong.",
			len(kicks),
		)
		return
	}
	byMarks := f.fromMarks(s.marks, fits)
	switch {
	case byMarks != nil && len(fits) > 1:
		fits = []labels{byMarks}
		v.say("leads.marks-trusted", nil, "If anybody may have marked the leads anew, take the polarity readings too.",
			"Starts and finishes are taken from the marks, which agree with every reading.")
	case len(fits) > 1:
		a.NextPolarity = name(f.ask(fits), 0)
		v.say(
			"leads.polarity-unknown",
			rule.Numbers{"possibilities": float64(len(fits))},
			"Take the polarity readings: it is not to be joined before.",
			"The leads are grouped, but which ends are starts is not known: %d ways are left.",
			len(fits),
		)
		return
	case needed:
		if q := f.proof(all, kicks); q != nil {
			sign, _ := t.expected(fits[0], q.driven, q.sensed)
			a.CheckPolarity = name(q, sign)
			v.say(
				"leads.polarity-unconfirmed",
				nil,
				"Take one reading more; it must come out as said.",
				"One deflection noted wrong would not show: %s positive against %s must give %s on %s–%s.",
				a.CheckPolarity.Driven[0],
				a.CheckPolarity.Driven[1],
				a.CheckPolarity.Expect,
				a.CheckPolarity.Sensed[0],
				a.CheckPolarity.Sensed[1],
			)
		}
	}
	best, agreed := labels(nil), -1
	for _, l := range relabelled(f.kind, fits[0]) {
		count := 0
		for lead, mark := range s.marks {
			if l[lead] == mark {
				count++
			}
		}
		if count > agreed {
			best, agreed = l, count
		}
	}
	var wrong []string
	a.Labels = map[string]string{}
	for lead, mark := range best {
		if typed, marked := s.marks[lead]; marked && typed != mark {
			wrong = append(wrong, fmt.Sprintf("%s is marked %s but is %s", r.Leads[lead], typed, mark))
		}
		a.Labels[r.Leads[lead]] = mark
		a.mark(r.Leads[lead], mark)
	}
	if len(wrong) > 0 {
		v.say(
			"leads.marks-contradict",
			rule.Numbers{"leads": float64(len(wrong))},
			"Go by the readings, take them once more, and mark the leads anew.",
			"Marks and readings disagree: %s.",
			strings.Join(wrong, ", "),
		)
	}
}

// fromMarks are the labels of the one of the ways that fit which the marks single out, nil
// where they leave several or none: marks on every lead, or on enough of them, as on the ends
// that were found joined.
func (f *found) fromMarks(marks map[int]string, fits []labels) (only labels) {
	if len(marks) == 0 {
		return nil
	}
	for _, fit := range fits {
		for _, l := range relabelled(f.kind, fit) {
			if !agree(marks, l) {
				continue
			}
			if only != nil {
				return nil
			}
			only = l
			break
		}
	}
	return only
}

// agree says whether every lead that is marked has its mark in the labels.
func agree(marks map[int]string, l labels) bool {
	for lead, mark := range marks {
		if l[lead] != mark {
			return false
		}
	}
	return true
}

// byMarks is the kind that marks on every lead tell by themselves where no reading speaks
// against them. Where they leave two kinds, as nine leads do, next is a reading that tells.
func (s *sorted) byMarks(n int) (kind Kind, next *Pair) {
	if len(s.marks) != n {
		return UnknownKind, nil
	}
	at := map[string]int{}
	for lead, mark := range s.marks {
		at[mark] = lead
	}
	var kinds []Kind
	for _, kind := range []Kind{ThreeLead, StarOut, SixLead, NineWye, NineDelta, TwelveLead} {
		t, fits := templates[kind], true
		for _, mark := range t.marks {
			_, marked := at[mark]
			fits = fits && marked
		}
		for pair, ohms := range s.meter {
			_, _, joined := t.path(s.marks[pair[0]], s.marks[pair[1]])
			fits = fits && joined == !math.IsInf(ohms, 1)
		}
		if fits && len(t.marks) == n {
			kinds = append(kinds, kind)
		}
	}
	switch len(kinds) {
	case 0:
		return UnknownKind, nil
	case 1:
		return kinds[0], nil
	}
	for _, a := range templates[kinds[0]].marks {
		for _, b := range templates[kinds[0]].marks {
			_, _, one := templates[kinds[0]].path(a, b)
			_, _, other := templates[kinds[1]].path(a, b)
			if p := pairOf(at[a], at[b]); a != b && one != other && (next == nil || less(p, *next)) {
				next = &p
			}
		}
	}
	return UnknownKind, next
}

func less(p, q Pair) bool { return p[0] < q[0] || p[0] == q[0] && p[1] < q[1] }

// trust takes a motor's leads to be what their marks say, before readings have settled them.
func (a *Analysis) trust(r Readings, s *sorted, v *verdicts) {
	kind, tells := s.byMarks(len(r.Leads))
	if tells != nil {
		a.Next = &[2]string{r.Leads[tells[0]], r.Leads[tells[1]]}
	}
	if kind == UnknownKind {
		return
	}
	a.Kind, a.Winding, a.Labels, a.Groups = kind, kind, map[string]string{}, nil
	t, taken := templates[kind], map[int]bool{}
	for lead, mark := range s.marks {
		a.Labels[r.Leads[lead]] = mark
	}
	for lead := range r.Leads {
		if taken[lead] {
			continue
		}
		var group []string
		for other := range r.Leads {
			if _, _, joined := t.path(s.marks[lead], s.marks[other]); joined || lead == other {
				taken[other] = true
				group = append(group, r.Leads[other])
			}
		}
		a.Groups = append(a.Groups, group)
	}
	v.say("leads.marks-alone", nil, "Take the readings that are asked for before it is joined.",
		"The marks are a whole set, and nothing read speaks against them; no reading has proved them yet.")
}
