package winding

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/rule"
)

func says(list []rule.Verdict) (ids []string) {
	for _, v := range list {
		ids = append(ids, v.Rule)
	}
	return ids
}

func name(lead int) string { return string(rune('A' + lead)) }

// A person with a meter, a battery and the file in hand gets to labels that are the
// motor's own, from any leads, asked one reading at a time.
func TestAskedReadingsEndInMarks(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := drawHidden(t)
		own := rapid.Float64Range(0, 0.3).Draw(t, "meter leads")
		celsius := rapid.Float64Range(5, 40).Draw(t, "celsius")
		r := Readings{Format: Format, LeadOhms: own, Celsius: &celsius}
		for lead := range h.place {
			r.Leads = append(r.Leads, name(lead))
		}
		a := Analyse(r)
		for ; a.Next != nil; a = Analyse(r) {
			assert.False(t, a.Connectable)
			p := pairOf(slices.Index(r.Leads, a.Next[0]), slices.Index(r.Leads, a.Next[1]))
			if ohms := h.read(p); math.IsInf(ohms, 1) {
				r.Readings = append(r.Readings, Reading{Between: *a.Next, Open: true})
			} else {
				ohms += own
				r.Readings = append(r.Readings, Reading{Between: *a.Next, Ohms: &ohms})
			}
		}
		require.Equal(t, h.t.kind, a.Winding)
		for ; a.NextPolarity != nil; a = Analyse(r) {
			assert.False(t, a.Connectable)
			assert.Contains(t, says(a.Verdicts), "leads.polarity-unknown")
			r.Polarity = append(r.Polarity, h.kick(r.Leads, a.NextPolarity))
		}
		for ; a.CheckPolarity != nil; a = Analyse(r) {
			k := h.kick(r.Leads, a.CheckPolarity)
			assert.Equal(t, a.CheckPolarity.Expect, k.Sign)
			r.Polarity = append(r.Polarity, k)
		}
		require.True(t, a.Connectable, "%v", a.Verdicts)
		l := make(labels, len(r.Leads))
		for i, lead := range r.Leads {
			l[i] = a.Labels[lead]
			assert.Equal(t, IEC(l[i]), a.Marks[lead])
		}
		assert.True(t, equivalent(h, l), "%v is %v", h.labels(), l)
		assert.InDelta(t, h.ohms*(235+20)/(235+celsius), a.WindingOhms.Wye, 0.05*h.ohms)
	})
}

func (h *hidden) kick(leads []string, q *Ask) Polarity {
	at := func(pair [2]string) [2]int { return [2]int{slices.Index(leads, pair[0]), slices.Index(leads, pair[1])} }
	sign := h.deflect(question{at(q.Driven), at(q.Sensed)})
	return Polarity{q.Driven, q.Sensed, map[Sign]string{1: "+", 0: "0", -1: "-"}[sign]}
}

// six is a six-lead motor as it comes, A–D, B–E and C–F its windings.
func six(edit func(*Readings)) Readings {
	r := Readings{Format: Format, Leads: []string{"A", "B", "C", "D", "E", "F"}}
	megohms := 200.0
	r.Readings = append(r.Readings, Reading{Between: [2]string{"A", Frame}, Megohms: &megohms, TestVolts: 500})
	for i, a := range r.Leads {
		for k, b := range r.Leads[i+1:] {
			one := Reading{Between: [2]string{a, b}, Open: true}
			if k == 2 {
				ohms := 2.0
				one = Reading{Between: [2]string{a, b}, Ohms: &ohms}
			}
			r.Readings = append(r.Readings, one)
		}
	}
	r.Polarity = []Polarity{
		{[2]string{"A", "D"}, [2]string{"B", "E"}, "-"},
		{[2]string{"A", "D"}, [2]string{"C", "F"}, "-"},
		{[2]string{"B", "E"}, [2]string{"C", "F"}, "-"},
	}
	if edit != nil {
		edit(&r)
	}
	return r
}

// set changes what was read between two leads.
func (r *Readings) set(a, b string, ohms float64) {
	for i, one := range r.Readings {
		if one.Between == [2]string{a, b} {
			r.Readings[i] = Reading{Between: one.Between, Ohms: &ohms}
		}
	}
}

func TestWhatIsWrongIsSaid(t *testing.T) {
	frame := func(megohms, volts float64) func(*Readings) {
		return func(r *Readings) { r.Readings[0].Megohms, r.Readings[0].TestVolts = &megohms, volts }
	}
	for _, c := range []struct {
		name        string
		edit        func(*Readings)
		rules       []string
		connectable bool
	}{
		{"sound", nil, nil, true},
		{"shorted turns", func(r *Readings) { r.set("B", "E", 1.4) }, []string{"leads.far-unequal"}, false},
		{"a little unequal", func(r *Readings) { r.set("B", "E", 2.2) }, []string{"leads.unequal"}, true},
		{"grounded", func(r *Readings) {
			ohms := 3.0
			r.Readings[0] = Reading{Between: [2]string{Frame, "C"},
				Ohms: &ohms}
		}, []string{"leads.grounded", "leads.insulation-unproved"}, false},
		{"low insulation", frame(0.9, 500), []string{"leads.insulation-low"}, false},
		// 8 MΩ at 20 °C are 2 MΩ at 40 °C.
		{"weak when warm", frame(8, 500), []string{"leads.insulation-weak"}, true},
		{"a meter's own volts", frame(200, 9), []string{"leads.test-volts"}, true},
		{"nothing to frame", func(r *Readings) { r.Readings = r.Readings[1:] }, []string{"leads.insulation-unproved"},
			true},
		{"a link", func(r *Readings) { r.set("A", "B", 0) }, []string{"leads.link", "leads.readings-contradict"},
			false},
		{"kilohms", func(r *Readings) { r.set("A", "B", 40e3) }, []string{"leads.leakage"}, true},
		{"open", func(r *Readings) { r.Readings[3] = Reading{Between: [2]string{"A", "D"}, Open: true} },
			[]string{"leads.open-winding"}, false},
		{"no polarity", func(r *Readings) { r.Polarity = nil }, []string{"leads.polarity-unknown"}, false},
		{"bare polarity", func(r *Readings) { r.Polarity = r.Polarity[:2] }, []string{"leads.polarity-unconfirmed"},
			true},
		{"wrong polarity", func(r *Readings) { r.Polarity[2].Sign = "+" }, []string{"leads.polarity-contradicts"},
			false},
		{"polarity of one winding", func(r *Readings) { r.Polarity[2].Sensed = [2]string{"B", "E"} },
			[]string{"leads.polarity-pair", "leads.polarity-unconfirmed"}, true},
		{"marks alone", func(r *Readings) {
			r.Polarity = nil
			r.Marks = map[string]string{"A": "U1", "B": "V1", "C": "W1", "D": "U2", "E": "V2", "F": "W2"}
		}, []string{"leads.marks-trusted"}, true},
		{"marks of other ends", func(r *Readings) { r.Marks = map[string]string{"A": "T1", "B": "T5", "C": "T3"} },
			[]string{"leads.marks-contradict"}, false},
		{"old letters", func(r *Readings) { r.Marks = map[string]string{"A": "X", "D": "u", "C": "z"} }, nil, true},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := six(c.edit)
			_, problems := r.sort()
			require.Empty(t, problems)
			a := Analyse(r)
			assert.ElementsMatch(t, c.rules, says(a.Verdicts))
			assert.Equal(t, c.connectable, a.Connectable)
			for _, v := range a.Verdicts {
				assert.NotEmpty(t, v.Do, v.Rule)
			}
		})
	}
}

// Four leads are a star with its point brought out where three pairs read half the
// others; leads that no motor groups so have links left on.
func TestGroupsThatNoMotorHas(t *testing.T) {
	stop := func(r Readings) string {
		_, problems := r.sort()
		require.Empty(t, problems)
		for _, v := range Analyse(r).Verdicts {
			if v.Rule == "leads.no-star-point" || v.Rule == "leads.not-apart" {
				return v.Rule
			}
		}
		return ""
	}
	four := func(between float64) Readings {
		r := Readings{Format: Format, Leads: []string{"A", "B", "C", "N"}}
		for _, pair := range [][2]string{{"A", "B"}, {"A", "C"}, {"B", "C"}} {
			r.Readings = append(r.Readings, Reading{Between: pair, Ohms: new(between)})
		}
		for _, lead := range []string{"A", "B", "C"} {
			r.Readings = append(r.Readings, Reading{Between: [2]string{lead, "N"}, Ohms: new(2.0)})
		}
		return r
	}
	assert.Empty(t, stop(four(4)))
	assert.Equal(t, "leads.no-star-point", stop(four(2)))
	assert.Empty(t, stop(six(nil)))
	assert.Equal(t, "leads.not-apart", stop(six(func(r *Readings) {
		for _, pair := range [][2]string{{"A", "B"}, {"A", "E"}, {"D", "B"}, {"D", "E"}, {"B", "D"}} {
			r.set(pair[0], pair[1], 4)
		}
	})))
}

// Marks that are right in part decide which leg is which.
func TestLabelsFollowTheMarks(t *testing.T) {
	a := Analyse(six(func(r *Readings) { r.Marks = map[string]string{"B": "W2", "D": "V1"} }))
	require.True(t, a.Connectable)
	assert.Equal(t, map[string]string{"B": "T6", "E": "T3", "D": "T2", "A": "T5", "C": "T4", "F": "T1"}, a.Labels)
	assert.Equal(t, "U1", a.Marks["F"])
}

func TestTwoSetsOfThreeAreNotJoined(t *testing.T) {
	ohms := 2.0
	r := Readings{Format: Format, Leads: []string{"A", "B", "C", "D", "E", "F"}}
	for i, a := range r.Leads {
		for k, b := range r.Leads[i+1:] {
			if k%2 == 1 {
				r.Readings = append(r.Readings, Reading{Between: [2]string{a, b}, Ohms: &ohms})
			} else {
				r.Readings = append(r.Readings, Reading{Between: [2]string{a, b}, Open: true})
			}
		}
	}
	a := Analyse(r)
	assert.Equal(t, UnknownKind, a.Winding)
	assert.Contains(t, says(a.Verdicts), "leads.two-sets")
	assert.Nil(t, a.Next)
}

// Three leads give the same line resistance for a winding of r in wye and of 3r in
// delta.
func TestThreeLeadsGiveBoth(t *testing.T) {
	ohms := 2.0
	r := Readings{Format: Format, Leads: []string{"A", "B", "C"}}
	for _, p := range [][2]string{{"A", "B"}, {"A", "C"}, {"B", "C"}} {
		r.Readings = append(r.Readings, Reading{Between: p, Ohms: &ohms})
	}
	a := Analyse(r)
	text, err := json.Marshal(a.Finding)
	require.NoError(t, err)
	assert.Contains(t, string(text), `"winding_ohms":{"delta":3,"wye":1}`)
	assert.Contains(t, string(text), `"next":null,"next_polarity":null`)
	assert.True(t, a.Connectable)
	assert.InDelta(t, 2, 1/(1/a.WindingOhms.Delta+1/(2*a.WindingOhms.Delta)), 1e-12, "one branch beside the two others")
	assert.Contains(t, string(text), `"leads.wye-or-delta"`)
}

func TestReadFileRefuses(t *testing.T) {
	for text, problem := range map[string]string{
		`{"format":"brackmoor.leads/1","leads":["A","B","C","D",` +
			`"E"]}`: "$.leads: a motor has 3, 4, 6, 9 or 12 leads, not 5",
		`{"format":"brackmoor.leads/1","leads":["A","B",` +
			`"B"]}`: `$.leads[2]: "B" ` +
			`is taken`,
		`{"format":"brackmoor.leads/1","leads":["A","B",` +
			`"frame"]}`: `$.leads[2]: ` +
			`"frame" is taken`,
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"marks":{"A":` +
			`"Q7"}}`: `$.marks.A: "Q7" is no mark: T1 to ` +
			`T12, U1 to W6, or U V W X Y Z`,
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"marks":{"A":"T1","B":` +
			`"U1"}}`: `$.marks.B: U1 stands on lead A too`,
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"readings":[{"between":["A","D"],"open":` +
			`true}]}`: `$.readings[0].between: there is no lead "D"`,
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"readings":[{"between":["A","A"],"ohms":` +
			`1}]}`: "$.readings[0].between: a lead is not measured against itself",
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"readings":[{"between":["A",` +
			`"B"]}]}`: "$.readings[0]: needs one of ohms, open and megohms",
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"readings":[{"between":["A","B"],"ohms":1,"open":true,` +
			`"megohms":3}]}`: "$.readings[0]: needs one of ohms, open and megohms",
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"readings":[{"between":["A","B"],"ohms":1},{"between":` +
			`["B","A"],"open":true}]}`: "$.readings[1]: B and A are said to be open " +
			"in one reading and joined in the other ($.readings[0])",
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"polarity":[{"driven":["A","A"],"sensed":["B","C"],` +
			`"sign":"+"}]}`: "$.polarity[0]: a winding has two ends",
		`{"format":"brackmoor.leads/1","leads":["A","B","C"],"colour":` +
			`"red"}`: "$: has keys that are not known here: colour",
	} {
		_, problems := ReadFile([]byte(text))
		require.Len(t, problems, 1, text)
		assert.Equal(t, problem, problems[0].String())
	}
}

// Every mark has a partner in the other standard, and old letters lead to one.
func TestMarksTranslateBothWays(t *testing.T) {
	for _, tm := range templates {
		for _, mark := range tm.marks {
			back, ok := Canonical(IEC(mark))
			assert.True(t, ok)
			assert.Equal(t, mark, back)
		}
	}
	for typed, mark := range map[string]string{"u1": "T1", "t-12": "T12", " W5 ": "T9", "X": "T4", "7": "T7",
		"V6": "T11", "mp": "T0"} {
		got, ok := Canonical(typed)
		assert.True(t, ok, typed)
		assert.Equal(t, mark, got)
	}
	_, ok := Canonical("T13")
	assert.False(t, ok)
}

// Joined so, every coil has the same volts, and those of one leg add up: worked out
// from the joints alone, by the potential of each joint.
func TestJointsJoinTheCoils(t *testing.T) {
	for kind, list := range connections {
		for _, c := range list {
			potential := map[string]complex128{}
			loose := map[string]int{}
			for i, j := range c.Joints {
				for _, mark := range j.Marks {
					if j.Line != "" {
						line := slices.Index(Lines[:], j.Line)
						potential[mark] = []complex128{1, turn2, turn}[line]
					} else {
						loose[mark] = i
					}
				}
			}
			// A loose joint is a star, at nothing, or lies half way along a leg.
			for _, coil := range templates[kind].coils {
				i, startLoose := loose[coil.start]
				k, finishLoose := loose[coil.finish]
				switch {
				case startLoose && len(c.Joints[i].Marks) == 2 || finishLoose && len(c.Joints[k].Marks) == 2:
					assert.Equal(t, 2, c.series, "%s %s", kind, c.Name)
				case coil.finish == inner || finishLoose:
					assert.False(t, c.Delta, "%s %s", kind, c.Name)
				default:
					volts := potential[coil.start] - potential[coil.finish]
					assert.InDelta(
						t,
						math.Sqrt(3),
						math.Hypot(real(volts), imag(volts)),
						1e-9,
						"%s %s %s",
						kind,
						c.Name,
						coil.start,
					)
					assert.True(t, c.Delta)
					// Coils of one leg stand in phase.
					angle := math.Atan2(imag(volts), real(volts)) * 180 / math.Pi
					assert.InDelta(
						t,
						math.Mod(30-120*float64(coil.leg)+540, 360)-180,
						angle,
						1e-6,
						"%s %s %s",
						kind,
						c.Name,
						coil.start,
					)
				}
			}
			seen := map[string]bool{}
			for _, j := range c.Joints {
				for _, mark := range j.Marks {
					assert.False(t, seen[mark])
					seen[mark] = true
				}
			}
			assert.Len(t, seen, len(templates[kind].marks), "%s %s", kind, c.Name)
		}
	}
}

func TestWaysFromThePlate(t *testing.T) {
	for _, c := range []struct {
		kind   Kind
		inside string
		rated  []Rated
		want   string
	}{
		{SixLead, "", []Rated{{230, "delta"}, {400, "wye"}}, "wye 400 stated, delta 230 stated"},
		{SixLead, "", []Rated{{400, "delta"}}, "wye 693 derived, delta 400 stated"},
		{SixLead, "", []Rated{{400, "wye"}}, "wye 400 stated, delta 231 derived"},
		{SixLead, "", []Rated{{400, ""}}, "wye 400 assumed, delta 231 assumed"},
		{NineWye, "", []Rated{{230, "parallel"}, {460, "series"}}, "series 460 stated, parallel 230 stated"},
		{NineDelta, "", []Rated{{208, "parallel"}, {230, "parallel"}, {460, "series"}}, "series 460 stated, parallel " +
			"208 stated, parallel 230 stated"},
		{NineWye, "", []Rated{{460, ""}}, "series 460 assumed, parallel 230 assumed"},
		{TwelveLead, "", []Rated{{230, ""}, {460, ""}}, "series wye 460 assumed, series delta 266 assumed, parallel " +
			"wye 230 assumed, parallel delta 133 assumed"},
		{TwelveLead, "delta", []Rated{{230, ""}, {460, ""}}, "series wye 797 derived, series delta 460 stated, " +
			"parallel wye 398 derived, parallel delta 230 stated"},
		{TwelveLead, "", []Rated{{208, ""}, {230, ""}, {460, ""}}, "series wye 460 assumed, series delta 266 " +
			"assumed, parallel wye 208 assumed, parallel wye 230 assumed, parallel delta 133 assumed"},
		{StarOut, "", []Rated{{400, ""}}, "wye 400 stated, delta 231 derived after break out the star point"},
		{ThreeLead, "wye", []Rated{{400, ""}}, "wye 400 stated, delta 231 derived after break out the star point"},
		{ThreeLead, "delta", []Rated{{230, ""}}, "delta 230 stated"},
		// Two voltages of one winding: what lies inside is for one of them alone.
		{ThreeLead, "wye", []Rated{{230, "delta"}, {400, "wye"}},
			"delta 230 stated after break out the star point, wye 400 stated"},
		{StarOut, "", []Rated{{230, "delta"}, {400, "wye"}},
			"delta 230 stated after break out the star point, wye 400 stated"},
		{ThreeLead, "delta", []Rated{{400, "delta"}, {690, "wye"}},
			"delta 400 stated, wye 690 stated after open the delta inside"},
		{ThreeLead, "", []Rated{{230, ""}, {460, ""}}, "three leads 230 stated, three leads 460 stated"},
		{SixLead, "", []Rated{{230, ""}, {300, ""}}, ""},
	} {
		got := ""
		for _, w := range Ways(c.kind, c.inside, c.rated) {
			if got != "" {
				got += ", "
			}
			got += fmt.Sprintf("%s %.0f %s", w.Name, w.Volts, w.Origin)
			if w.Needs != "" {
				got += " after " + w.Needs
			}
		}
		assert.Equal(t, c.want, got, "%s %v", c.kind, c.rated)
	}
}

// Connected otherwise, the same coils have three and four times the ohms at the
// terminals.
func TestTerminalOhmsFollowTheConnection(t *testing.T) {
	ohm := map[string]float64{}
	for kind, list := range connections {
		for _, c := range list {
			ohm[string(kind)+" "+c.Name] = c.StatorOhm(1.2)
		}
	}
	assert.InDelta(t, 3, ohm["six-lead wye"]/ohm["six-lead delta"], 1e-12)
	assert.InDelta(t, 4, ohm["nine-lead wye series"]/ohm["nine-lead wye parallel"], 1e-12)
	assert.InDelta(t, 4, ohm["nine-lead delta series"]/ohm["nine-lead delta parallel"], 1e-12)
	assert.InDelta(t, 12, ohm["twelve-lead series wye"]/ohm["twelve-lead parallel delta"], 1e-12)
	assert.InDelta(t, 2.4, ohm["nine-lead wye series"], 1e-12)
	hot := Measured(connections[SixLead][1], 3, "B")
	assert.InDelta(t, 1*(235+95)/(235+20.0), hot, 1e-12)
}

func TestInsulationHalvesEveryTenKelvin(t *testing.T) {
	assert.InDelta(t, 50, At40(200, 20), 1e-9)
	assert.InDelta(t, 100, At40(100, 40), 1e-9)
}

func FuzzReadFile(f *testing.F) {
	text, err := json.Marshal(six(nil))
	if err != nil {
		f.Fatal(err)
	}
	f.Add(text)
	f.Add(
		[]byte(`{"format":"brackmoor.leads/1","leads":["A","B","C","D"],"readings":[{"between":["A","B"],"ohms":0}]}`),
	)
	f.Fuzz(func(t *testing.T, text []byte) {
		r, problems := ReadFile(text)
		if problems != nil {
			return
		}
		a := Analyse(r)
		if _, err := json.Marshal(a.Finding); err != nil {
			t.Fatal(err)
		}
		if a.Connectable && len(a.Labels) != len(r.Leads) {
			t.Fatal("connectable without marks")
		}
	})
}

// A whole set of marks gives the leads at once, with a caution until readings prove them: six,
// twelve and four by themselves, nine after the one reading that tells wye from delta. A reading
// that they do not allow ends that.
func TestPlainlyMarkedLeads(t *testing.T) {
	marked := func(n int, mark func(i int) string) Readings {
		r := Readings{Format: Format, Marks: map[string]string{}}
		for i := range n {
			name := string(rune('A' + i))
			r.Leads = append(r.Leads, name)
			r.Marks[name] = mark(i)
		}
		return r
	}
	tn := func(i int) string { return fmt.Sprintf("T%d", (i*5)%9+1) } // in some order
	six := marked(6, func(i int) string { return []string{"U1", "W2", "V1", "U2", "W1", "V2"}[i] })
	a := Analyse(six)
	assert.Equal(t, SixLead, a.Winding)
	assert.False(t, a.Connectable, "not before readings prove it")
	assert.Equal(t, "T6", a.Labels["B"])
	assert.Contains(t, says(a.Verdicts), "leads.marks-alone")
	assert.ElementsMatch(t, [][]string{{"A", "D"}, {"B", "E"}, {"C", "F"}}, a.Groups)
	require.NotNil(t, a.Next, "readings then prove it")
	six.Readings = []Reading{{Between: [2]string{"A", "D"}, Open: true}}
	assert.Equal(t, UnknownKind, Analyse(six).Winding, "the first winding is open")

	twelve := marked(12, func(i int) string { return fmt.Sprintf("T%d", i+1) })
	assert.Equal(t, TwelveLead, Analyse(twelve).Winding)
	delete(twelve.Marks, "L")
	assert.Equal(t, UnknownKind, Analyse(twelve).Winding, "one is missing")

	nine := marked(9, tn)
	a = Analyse(nine)
	assert.Equal(t, UnknownKind, a.Winding)
	require.NotNil(t, a.Next)
	pair := [2]string{nine.Marks[a.Next[0]], nine.Marks[a.Next[1]]}
	_, _, wye := templates[NineWye].path(pair[0], pair[1])
	_, _, delta := templates[NineDelta].path(pair[0], pair[1])
	assert.NotEqual(t, wye, delta, "it tells the two apart")
	two := 2.0
	for _, closed := range []bool{true, false} {
		nine.Readings = []Reading{{Between: *a.Next, Open: true}}
		if closed {
			nine.Readings = []Reading{{Between: *a.Next, Ohms: &two}}
		}
		b := Analyse(nine)
		assert.Equal(t, closed == wye, b.Winding == NineWye)
		assert.Equal(t, closed == delta, b.Winding == NineDelta)
		assert.Len(t, b.Labels, 9)
	}
}

// The three ends that were found joined in a star are known as such: with them marked no
// polarity is asked for; two of them leave it open.
func TestACommonEndNeedsNoPolarity(t *testing.T) {
	common := func(marks map[string]string) Analysis {
		return Analyse(six(func(r *Readings) { r.Polarity, r.Marks = nil, marks }))
	}
	a := common(map[string]string{"D": "T4", "E": "T5", "F": "T6"})
	assert.Nil(t, a.NextPolarity)
	assert.True(t, a.Connectable)
	assert.Equal(t, []string{"T1", "T2", "T3"}, []string{a.Labels["A"], a.Labels["B"], a.Labels["C"]})
	b := common(map[string]string{"D": "T4", "E": "T5"})
	assert.NotNil(t, b.NextPolarity)
	assert.False(t, b.Connectable)
}
